using System.Diagnostics;
using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Choosing;

/// <summary>Which ideas are asked for.</summary>
/// <param name="Most">How many at most.</param>
/// <param name="Skip">How many of the first are left out.</param>
/// <param name="Topic">Only those on a topic or one under it.</param>
/// <param name="Hours">The hours the writer has now; what fits into them counts as light.</param>
public sealed record WorthAsked(int Most = 50, int Skip = 0, TopicNumber? Topic = null, double? Hours = null)
{
    public const int MostAtOnce = 200;
    public const double MostHours = 1_000;

    internal WorthAsked Checked() =>
        Most is < 1 or > MostAtOnce ? throw new BadInputException("most", $"From 1 to {MostAtOnce} ideas are shown at once.")
        : Skip is < 0 or > 10_000_000 ? throw new BadInputException("skip", "What is left out is counted from 0.")
        : Hours is not (null or > 0 and <= MostHours)
            ? throw new BadInputException("hours", $"Hours are more than 0 and at most {MostHours:0}.")
        : this;
}

/// <summary>A thing that is evidence of a term.</summary>
public sealed record WorthThing(Reference Thing, string Title);

/// <summary>A term of an idea's worth.</summary>
/// <param name="Value">0 to 1.</param>
/// <param name="Weight">How much it counts, 0 to 5.</param>
/// <param name="Points">What it adds to the score; the points of all terms are the score.</param>
/// <param name="Evidence">What it is made of, in words.</param>
/// <param name="Things">What that can be followed to.</param>
public sealed record WorthTermShown(
    WorthTerm Term,
    double Value,
    double Weight,
    double Points,
    string Evidence,
    IReadOnlyList<WorthThing> Things
);

/// <summary>An idea with how much now speaks for it.</summary>
/// <param name="Slip">The slip; null for a marked paragraph.</param>
/// <param name="Usable">The marked paragraph; null for a slip.</param>
/// <param name="Score">0 to 100.</param>
/// <param name="Reason">Why, the weightiest first: phrases of one sentence.</param>
/// <param name="Terms">Those that are known, in one fixed order.</param>
/// <param name="Hours">What it would take; null when neither its effort nor its format was said.</param>
/// <param name="Formats">What it could become.</param>
public sealed record WorthLine(
    SlipNumber? Slip,
    UsableNumber? Usable,
    string Title,
    SlipKind Kind,
    bool IsClaim,
    SlipState State,
    IReadOnlyList<TopicMark> Topics,
    double Score,
    IReadOnlyList<string> Reason,
    IReadOnlyList<WorthTermShown> Terms,
    int? Effort,
    double? Hours,
    IReadOnlyList<string> Formats
);

/// <summary>What is ranked, and by what.</summary>
/// <param name="Ideas">How many ideas could become a piece.</param>
/// <param name="Unseen">How many of them have not been compared with the other texts yet.</param>
public sealed record WorthAbout(int Ideas, int Unseen, Weighing Weighing, int Version, IReadOnlyList<Weighing> Ready);

/// <summary>Why one idea stands above another, with what they are called.</summary>
public sealed record LaidBeside(WorthLine This, WorthLine Other, Beside Beside);

/// <summary>What stood there when a piece was begun.</summary>
internal sealed record Stood(int Key, double Rank, double PullRank, int Among, string Terms);

/// <summary>
/// Which idea to develop next. All ideas are ranked at once from columns in memory; what is asked of the texts is remembered
/// (<see cref="Surroundings"/>). A ranking holds until anything is written.
/// </summary>
public sealed class WorthStore : IDisposable
{
    /// <summary>How many of the first are remembered with a choice.</summary>
    private const int Remembered = 30;

    /// <summary>So long a reader waits for ideas to be looked at; the rest is looked at beside.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(40),
        PatienceForFew = TimeSpan.FromSeconds(2);

    /// <summary>Up to so many slips, all ideas are looked at before anything is shown.</summary>
    private const int Few = 5_000;

    private const int Batch = 25;

    private readonly PapersFile papers;
    private readonly SlipColumns columns;
    private readonly Nearby nearby;
    private readonly Surroundings around;
    private readonly ReaderWishes wished;
    private readonly Lock gate = new();
    private long written;
    private Ranking? now;

    public WorthStore(PapersFile papers, SlipColumns columns, Nearby nearby)
    {
        (this.papers, this.columns, this.nearby) = (papers, columns, nearby);
        around = new Surroundings(papers, nearby);
        wished = new ReaderWishes(papers);
        papers.Written += Count;
        papers.Functions.Add(db => db.CreateFunction("worth", (long slip) => WorthOf((int)slip)));
    }

    private void Count(Committed done) => Interlocked.Increment(ref written);

    /// <summary>All ideas at one moment.</summary>
    /// <param name="Ideas">Every slip in sight and every marked paragraph.</param>
    /// <param name="Order">Places in <paramref name="Ideas"/> of those that could become a piece, the worthiest first.</param>
    private sealed record Ranking(
        long Written,
        int Surroundings,
        DateOnly Day,
        Weights Weights,
        Idea[] Ideas,
        TermValues[] Values,
        double[] Scores,
        int[] Order,
        int[] PlaceOf,
        Dictionary<int, int> PlaceOfUsable,
        Ground Ground
    );

    /// <summary>Reads ahead, and looks at every idea that was not looked at, the worthiest first, until all are.</summary>
    public void Fill(CancellationToken stop = default)
    {
        while (!stop.IsCancellationRequested && Look(Now(), int.MaxValue, TimeSpan.FromSeconds(1), stop))
        {
            // Others have the processor in between.
            stop.WaitHandle.WaitOne(5);
        }
    }

    /// <summary>Keeps looking until it is told to stop; after much came in at once there is much to look at again.</summary>
    public void KeepFilled(CancellationToken stop)
    {
        do Fill(stop);
        while (!stop.WaitHandle.WaitOne(TimeSpan.FromSeconds(10)));
    }

    /// <summary>The ranking with all that was written by now, whatever has been looked at.</summary>
    private Ranking Now()
    {
        lock (gate)
        {
            around.Follow();
            var (stamp, seen) = (Interlocked.Read(ref written), around.Version);
            if (now is { } held && held.Written == stamp && held.Surroundings == seen && held.Day == papers.Today)
                return held;
            return now = papers.Read(db => Ranked(db, stamp, seen));
        }
    }

    private Ranking Ranked(SqliteConnection db, long stamp, int seen)
    {
        var slips = columns.Now();
        var today = papers.Today;
        var weights = WeighingStore.Of(db).Weights;
        var topics = Topics(slips);
        var ideas = new List<Idea>(slips.Slips.Length);
        var placeOf = new int[slips.Slips.Length];
        for (var slip = 1; slip < slips.Slips.Length; slip++)
        {
            placeOf[slip] = -1;
            if (!slips.Slips[slip].Exists || slips.StateOf(slip, today) is not (SlipState.Waiting or SlipState.Kept))
                continue;
            placeOf[slip] = ideas.Count;
            var column = slips.Slips[slip];
            ideas.Add(
                new Idea(
                    slip,
                    column.Pull == 0 ? null : column.Pull,
                    column.Effort == 0 ? null : column.Effort,
                    column.Format == 0 ? null : First(slips.Formats[column.Format]),
                    column.Day,
                    topics(slip),
                    column.Source
                )
            );
        }
        var placeOfUsable = new Dictionary<int, int>();
        foreach (var usable in Usables(db))
        {
            placeOfUsable[-usable.Key] = ideas.Count;
            ideas.Add(usable);
        }
        var array = ideas.ToArray();
        var values = new TermValues[array.Length];
        var scores = new double[array.Length];
        var order = new List<int>();
        var ground = around.While(surroundings =>
        {
            var ground = new Ground(db, slips, topics, today, surroundings, wished.Now(db));
            for (var place = 0; place < array.Length; place++)
            {
                values[place] = ground.Known(array[place]).Values();
                scores[place] = Worth.Of(values[place], weights);
                if (CouldBecome(array[place], slips, ground))
                    order.Add(place);
            }
            return ground;
        });
        // Of two that are worth as much, the one that draws more, then the newer.
        order.Sort(
            (a, b) =>
                scores[b].CompareTo(scores[a]) is var byScore and not 0 ? byScore
                : (array[b].Pull ?? 0).CompareTo(array[a].Pull ?? 0) is var byPull and not 0 ? byPull
                : array[b].Key.CompareTo(array[a].Key)
        );
        return new Ranking(stamp, seen, today, weights, array, values, scores, [.. order], placeOf, placeOfUsable, ground);
    }

    /// <summary>Whether it could become a piece: ideas, questions and notes, claims, and whatever the writer has given a format; passages
    /// and asks are what pieces are made of. What stands in a piece already has found its place.</summary>
    private static bool CouldBecome(in Idea idea, Columns slips, Ground ground) =>
        idea.Key < 0
        || (
            !slips.IsUsed(idea.Key)
            && (
                slips.Slips[idea.Key].Kind is SlipKind.Idea or SlipKind.Question or SlipKind.Note
                || idea.Format is not null
                || ground.IsClaim(idea.Key)
            )
        );

    private static string First(string formats) => formats.Split(' ', 2)[0];

    /// <summary>The topics of every slip, without an allocation for each.</summary>
    private static Func<int, ReadOnlyMemory<int>> Topics(Columns slips)
    {
        var starts = new int[slips.Slips.Length + 1];
        foreach (var (slip, _) in slips.Tags)
            if (slip > 0 && slip < slips.Slips.Length)
                starts[slip + 1]++;
        for (var i = 1; i < starts.Length; i++)
            starts[i] += starts[i - 1];
        var topics = new int[starts[^1]];
        var next = starts[..^1];
        foreach (var (slip, topic) in slips.Tags)
            if (slip > 0 && slip < slips.Slips.Length)
                topics[next[slip]++] = topic;
        return slip => topics.AsMemory(starts[slip], starts[slip + 1] - starts[slip]);
    }

    private static IEnumerable<Idea> Usables(SqliteConnection db)
    {
        var rows = db.Query<(int Number, string Kind, int In, string Format, string MarkedAt)>(
                "SELECT number, in_kind, in_number, as_format, marked_at FROM usable WHERE used_at IS NULL ORDER BY number"
            )
            .AsList();
        var topics = TopicRows.Of(db, [.. rows.Select(r => Thing(r.Kind, r.In)).Distinct()]);
        return rows.Select(row => new Idea(
            -row.Number,
            null,
            null,
            row.Format,
            Mapping.Day(row.MarkedAt[..10])!.Value.DayNumber,
            topics[Thing(row.Kind, row.In)].Select(t => t.Value).ToArray(),
            row.Kind == "source" ? row.In : 0
        ));

        static Reference Thing(string kind, int number) => new(Enum.Parse<ThingKind>(kind, true), number);
    }

    /// <summary>Looks at ideas that were not looked at, the worthiest first, for so long.</summary>
    /// <returns>Whether any were left.</returns>
    private bool Look(Ranking ranking, int most, TimeSpan patience, CancellationToken stop = default)
    {
        var clock = Stopwatch.StartNew();
        var missing = Missing(ranking).Take(most);
        foreach (var batch in missing.Chunk(Batch))
        {
            if (stop.IsCancellationRequested || clock.Elapsed > patience)
                return true;
            papers.Read(db =>
            {
                around.Look(db, TextsOf(db, batch));
                return 0;
            });
        }
        return false;
    }

    private List<int> Missing(Ranking ranking)
    {
        return around.While(surroundings =>
        {
            var isIdea = new bool[ranking.Ideas.Length];
            var found = new List<int>();
            foreach (var place in ranking.Order)
            {
                isIdea[place] = true;
                if (surroundings(ranking.Ideas[place].Key) is null)
                    found.Add(ranking.Ideas[place].Key);
            }
            // What could not become a piece has a worth as well, where a list is ordered by it.
            for (var place = 0; place < isIdea.Length; place++)
                if (!isIdea[place] && surroundings(ranking.Ideas[place].Key) is null)
                    found.Add(ranking.Ideas[place].Key);
            return found;
        });
    }

    private static List<(int, string)> TextsOf(SqliteConnection db, IReadOnlyCollection<int> keys) =>
        [
            .. db.Query<(int, string)>(
                """
                SELECT number, text FROM slip WHERE number IN (SELECT value FROM json_each(@slips))
                UNION ALL SELECT -number, paragraph FROM usable WHERE number IN (SELECT value FROM json_each(@usable))
                """,
                new { slips = Mapping.List(keys.Where(k => k > 0)), usable = Mapping.List(keys.Where(k => k < 0).Select(k => -k)) }
            ),
        ];

    /// <summary>The ranking with the ideas looked at that it depends on, as far as that can be waited for.</summary>
    /// <param name="first">How many of the worthiest are asked for; of many only these are waited for, the rest comes behind.</param>
    private Ranking Seen(int first = int.MaxValue)
    {
        var ranking = Now();
        var isFew = ranking.Ideas.Length <= Few;
        var unseen = Unseen(ranking, isFew ? int.MaxValue : first);
        if (unseen == 0)
            return ranking;
        Look(ranking, unseen, isFew ? PatienceForFew : Patience);
        return Now();
    }

    private int Unseen(Ranking ranking, int first) =>
        around.While(surroundings =>
        {
            var unseen = 0;
            foreach (var place in ranking.Order.Take(first))
                if (surroundings(ranking.Ideas[place].Key) is null)
                    unseen++;
            return unseen;
        });

    /// <summary>How much speaks for a slip now; null when it is out of sight or not there.</summary>
    internal double? WorthOf(int slip)
    {
        var ranking = Now();
        return slip > 0 && slip < ranking.PlaceOf.Length && ranking.PlaceOf[slip] is >= 0 and var place ? ranking.Scores[place] : null;
    }

    /// <summary>How much speaks for slips now, those in sight only.</summary>
    internal Func<int, double?> Worths()
    {
        var ranking = Seen();
        return slip =>
            slip > 0 && slip < ranking.PlaceOf.Length && ranking.PlaceOf[slip] is >= 0 and var place ? ranking.Scores[place] : null;
    }

    /// <summary>The ideas that could become a piece, the worthiest first.</summary>
    /// <exception cref="BadInputException">Too many are asked for, or none.</exception>
    public IReadOnlyList<WorthLine> Best(WorthAsked? of = null)
    {
        var asked = (of ?? new WorthAsked()).Checked();
        var ranking = Seen(asked.Topic is null && asked.Hours is null ? asked.Skip + asked.Most : int.MaxValue);
        return papers.Read(db =>
            around.While(_ =>
            {
                var ground = ranking.Ground.With(asked.Hours);
                // Who says how long there is wants something that fits.
                var weights = asked.Hours is null ? ranking.Weights : ranking.Weights with { Effort = Weights.Most };
                IEnumerable<int> order = ranking.Order;
                if (asked.Topic is { } topic)
                {
                    var on = db.Query<int>("SELECT under FROM topic_under WHERE topic = @topic", new { topic }).ToHashSet();
                    order = order.Where(place => HasTopic(ranking.Ideas[place], on));
                }
                if (asked.Hours is not null)
                    order = order.OrderByDescending(place => Worth.Of(ground.Known(ranking.Ideas[place]), weights)).ToList();
                return Lines(db, ranking, ground, [.. order.Skip(asked.Skip).Take(asked.Most)], weights);
            })
        );
    }

    private static bool HasTopic(in Idea idea, HashSet<int> topics)
    {
        foreach (var topic in idea.Topics.Span)
            if (topics.Contains(topic))
                return true;
        return false;
    }

    /// <summary>One slip with its terms, also where it could not become a piece; null when it is out of sight.</summary>
    public WorthLine? Of(SlipNumber slip) => One(slip.Value);

    private WorthLine? One(int key)
    {
        var ranking = Seen();
        if (Place(ranking, key) is not { } place)
            return null;
        if (around.While(surroundings => surroundings(key)) is null)
        {
            papers.Read(db =>
            {
                around.Look(db, TextsOf(db, [key]));
                return 0;
            });
            ranking = Now();
        }
        return papers.Read(db => around.While(_ => Lines(db, ranking, ranking.Ground, [place], ranking.Weights)[0]));
    }

    private static int? Place(Ranking ranking, int key) =>
        key < 0
            ? ranking.PlaceOfUsable.TryGetValue(-key, out var usable)
                ? usable
                : null
            : key > 0 && key < ranking.PlaceOf.Length && ranking.PlaceOf[key] >= 0
                ? ranking.PlaceOf[key]
                : null;

    /// <summary>Lays one idea beside another.</summary>
    /// <exception cref="NotThereException">One of them is not in sight.</exception>
    public LaidBeside Beside(SlipNumber slip, SlipNumber other) => Beside(slip.Value, other.Value);

    /// <inheritdoc cref="Beside(SlipNumber, SlipNumber)"/>
    /// <param name="idea">Number of a slip, or of a marked paragraph below nothing.</param>
    /// <param name="other">The same.</param>
    public LaidBeside Beside(int idea, int other)
    {
        var ranking = Seen();
        var (a, b) = (Must(idea), Must(other));
        return papers.Read(db =>
            around.While(_ =>
            {
                var ground = ranking.Ground;
                var lines = Lines(db, ranking, ground, [a, b], ranking.Weights);
                return new LaidBeside(
                    lines[0],
                    lines[1],
                    Core.Choosing.Beside.Of(
                        ground.Prospect(ranking.Ideas[a]).Prospect,
                        ground.Prospect(ranking.Ideas[b]).Prospect,
                        ranking.Weights
                    )
                );
            })
        );

        int Must(int key) =>
            Place(ranking, key) ?? throw new NotThereException(key < 0 ? $"marked paragraph {-key}" : $"slip {key} among the ideas");
    }

    public WorthAbout About()
    {
        var ranking = Seen();
        return papers.Read(db => new WorthAbout(
            ranking.Order.Length,
            Unseen(ranking, int.MaxValue),
            WeighingStore.Of(db),
            WeighingStore.VersionOf(db),
            Weighing.Ready
        ));
    }

    private static List<WorthLine> Lines(SqliteConnection db, Ranking ranking, Ground ground, IReadOnlyList<int> places, Weights weights)
    {
        var slips = SlipRows.All(db, [.. places.Select(p => ranking.Ideas[p].Key).Where(k => k > 0)]);
        var usable = db.Query<(int Number, string Paragraph)>(
                "SELECT number, paragraph FROM usable WHERE number IN (SELECT value FROM json_each(@numbers))",
                new { numbers = Mapping.List(places.Select(p => -ranking.Ideas[p].Key).Where(k => k > 0)) }
            )
            .ToDictionary(u => u.Number, u => u.Paragraph);
        var marks = new Lazy<Dictionary<int, TopicMark>>(() =>
            db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number.Value)
        );
        var titles = db.Query<(int Slip, string Title)>(
                "SELECT slip, title FROM claim WHERE title <> '' AND slip IN (SELECT value FROM json_each(@slips))",
                new { slips = Mapping.List(slips.Keys) }
            )
            .ToDictionary(c => c.Slip, c => c.Title);
        return [.. places.Select(Line)];

        WorthLine Line(int place)
        {
            var idea = ranking.Ideas[place];
            var (prospect, things) = ground.Prospect(idea);
            var values = prospect.Known.Values();
            var score = Worth.Of(values, weights);
            var whole = WorthTerms.All.Where(t => values[t] is not null).Sum(t => weights[t]);
            var terms = WorthTerms
                .All.Where(term => values[term] is not null)
                .Select(term => new WorthTermShown(
                    term,
                    values[term]!.Value,
                    weights[term],
                    whole == 0 ? 0 : Worth.Most * weights[term] * values[term]!.Value / whole,
                    prospect.Evident(term) ?? "",
                    Named(things.GetValueOrDefault(term) ?? [])
                ))
                .ToList();
            var slip = idea.Key > 0 ? slips[idea.Key] : null;
            return new WorthLine(
                slip?.Number,
                slip is null ? UsableNumber.Of(-idea.Key) : null,
                slip is null ? PlainText.Headline(usable[-idea.Key])
                    : titles.TryGetValue(idea.Key, out var title) ? title
                    : slip.Title,
                slip?.Kind ?? SlipKind.Note,
                ground.IsClaim(idea.Key),
                slip?.State ?? SlipState.Kept,
                slip?.Topics ?? [.. idea.Topics.ToArray().Select(t => marks.Value[t])],
                score,
                prospect.Reasons(weights),
                terms,
                idea.Effort,
                prospect.Known.Hours,
                slip?.Formats ?? (idea.Format is { } format ? [format] : [])
            );
        }

        IReadOnlyList<WorthThing> Named(List<Reference> things) =>
            [.. things.Distinct().Select(thing => new WorthThing(thing, Links.TitleOf(db, thing) ?? "")).Where(t => t.Title.Length > 0)];
    }

    /// <summary>What stands there before a piece is begun from an idea; null when the idea is in no ranking.</summary>
    internal Stood? Standing(int key)
    {
        var ranking = Seen();
        if (Place(ranking, key) is not { } place)
            return null;
        var (score, pull) = (ranking.Scores[place], ranking.Ideas[place].Pull ?? 0);
        var others = ranking.Order.Where(p => p != place).ToList();
        var shown = others.Take(Remembered).Prepend(place);
        return new Stood(
            key,
            Rank(others, p => ranking.Scores[p], score),
            Rank(others, p => ranking.Ideas[p].Pull ?? 0, pull),
            others.Count + 1,
            ChoiceRows.Written(shown.Select(p => ranking.Values[p]))
        );

        // Equals stand half before it.
        static double Rank(List<int> others, Func<int, double> of, double own) =>
            1 + others.Count(p => of(p) > own) + 0.5 * others.Count(p => of(p) == own);
    }

    public void Dispose()
    {
        papers.Written -= Count;
        around.Dispose();
    }
}
