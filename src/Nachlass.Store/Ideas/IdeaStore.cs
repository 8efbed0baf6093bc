using System.Runtime.CompilerServices;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Ideas;

/// <summary>What ideas are asked for.</summary>
/// <param name="Topics">Numbers of topics; none for all that have material.</param>
/// <param name="Count">10 when it is not said.</param>
/// <param name="Format">Key of the format they are wanted for; null for any.</param>
/// <param name="Audience">For whom, in a few words.</param>
/// <param name="Seed">The same seed gives the same ideas; the next one when it is not said.</param>
/// <param name="Like">A proposed idea that they are to be like; its topic is theirs.</param>
/// <param name="As">In what; <see cref="IdeaManner.More"/> when it is not said.</param>
/// <param name="From">The first of the days for which they are wanted, with <paramref name="To"/>; any days when it is not said.</param>
/// <param name="Outlet">Where they are to go out. A service is told.</param>
/// <param name="Notes">Whether a service is told of slips, sources and what exists; it is, unless it is said otherwise.</param>
/// <param name="By">Who makes them; <see cref="IdeaGiver.Papers"/> when it is not said.</param>
/// <param name="Shown">The mark of what is sent to a service, as the look at it beforehand gave it.</param>
public sealed record IdeasWanted(
    IReadOnlyList<TopicNumber>? Topics = null,
    int? Count = null,
    string? Format = null,
    string? Audience = null,
    int? Seed = null,
    OfferNumber? Like = null,
    IdeaManner? As = null,
    DateOnly? From = null,
    DateOnly? To = null,
    OutletNumber? Outlet = null,
    bool? Notes = null,
    IdeaGiver? By = null,
    string? Shown = null
);

/// <summary>Who makes ideas.</summary>
public enum IdeaGiver
{
    /// <summary>They are made here, of what is in the papers.</summary>
    Papers,

    /// <summary>The service that the writer has set.</summary>
    Service,
}

/// <summary>How ideas are to be like another.</summary>
public enum IdeaManner
{
    /// <summary>From the same things, or of the same kind on its topic.</summary>
    More,

    /// <summary>The same, in fewer words than it has.</summary>
    Shorter,

    /// <summary>The same, for those who know nothing of it yet.</summary>
    Beginners,
}

/// <summary>An idea as it comes, before it is kept among those to be sorted.</summary>
/// <param name="From">What it was made from.</param>
/// <param name="SaidIn">What went out and says it already.</param>
public sealed record IdeaComing(
    string Text,
    string Shape,
    TopicMark? Topic,
    IReadOnlyList<IdeaOrigin> From,
    SaidBefore? SaidIn,
    IdeaOrigin? Near,
    SparkKind Kind,
    string Because
);

/// <summary>A proposed idea with its topic.</summary>
public sealed record IdeaShown(OfferNumber Number, OfferState State, SlipNumber? Slip, int Version, int Seed, IdeaComing Idea);

/// <summary>What is decided about proposed ideas.</summary>
public enum IdeaAct
{
    /// <summary>Make it a slip.</summary>
    Take,

    /// <summary>Make it a slip and begin a piece from it.</summary>
    Start,

    /// <summary>Put it off, behind those that wait.</summary>
    Later,

    /// <summary>Don't propose it, or anything nearly the same, again.</summary>
    Refuse,

    /// <summary>Put it back among those that wait.</summary>
    Wait,
}

/// <summary>A decision about one or several.</summary>
/// <param name="Format">Key of the format of the piece that is begun; the first when null.</param>
/// <param name="Idea">One that was shown elsewhere and waits nowhere, instead of <paramref name="Ideas"/>: it is noted with what is
/// decided.</param>
public sealed record IdeasDecided(IReadOnlyList<OfferNumber>? Ideas, IdeaAct? Act, string? Format = null, IdeaComing? Idea = null);

/// <summary>What came of it.</summary>
public sealed record IdeasSorted(IReadOnlyList<IdeaShown> Ideas, PieceNumber? Piece);

/// <summary>Other words for an idea.</summary>
public sealed record IdeaReworded(string? Text, int? Version);

/// <summary>Proposes ideas and keeps what was decided about them.</summary>
public sealed class IdeaStore(PapersFile papers, SparkStore sparks, FindStore find, Nearby nearby)
{
    public const int MostAtOnce = 100;

    private const int Usual = 10;

    private const string ForBeginners = "those who know nothing of it yet";

    private const string SeedSpan = "The seed is a number from 1 to 2147483647.";

    /// <summary>How much of an idea has to stand in one passage for it to be said already, and from which likeness a slip says nearly the
    /// same. An angle's own words make both weaker than for what a writer wrote.</summary>
    internal const double SaidShare = 0.65,
        NearSame = 0.55;

    /// <summary>Makes ideas, one by one as they come. Nothing is kept by that.</summary>
    /// <exception cref="BadInputException">What is asked makes no sense.</exception>
    /// <param name="joined">Told each time one is joined to another that says nearly the same.</param>
    public IEnumerable<IdeaComing> Make(IdeasWanted asked, CancellationToken stop, Action? joined = null)
    {
        var like = asked.Like is { } number ? papers.Read(db => OfferedIdeaRows.Get(db, [number]))[0].Idea : null;
        if (like is not null)
            asked = asked with { Topics = like.Topic is { } its ? [its] : [] };
        var manner = asked.As ?? IdeaManner.More;
        var wish = Wish(asked);
        if (like is not null && manner == IdeaManner.Beginners && wish.Audience.Length == 0)
            wish = wish with { Audience = ForBeginners };
        var (known, marks, angles) = papers.Read(db =>
            (
                db.Query<string>("SELECT text FROM offered_idea").AsList(),
                db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number),
                AngleRows.Own(db) ?? Angles.Ready
            )
        );
        if (asked.Format is { } key && papers.Read(db => FormatRows.All(db).Find(key)) is null)
            throw new BadInputException("format", $"There is no format “{key}”.");
        var found = sparks.ByTopic(asked.Topics ?? [], asked.Format, period: Period(asked));
        if (like is not null)
        {
            var from = like.From.Select(f => (f.Kind, f.Number)).ToHashSet();
            found = found.Select(some =>
                (IReadOnlyList<Spark>)[.. some.Where(s => s.Kind == like.Kind || s.From.Any(f => from.Contains((f.Kind, f.Number))))]
            );
            if (manner == IdeaManner.Shorter)
                angles = [.. angles.OrderBy(a => a.Wording.Length)];
        }
        var made = IdeaMaker.Make(found, angles, wish with { Count = IdeaWish.Most }, new SaidIdeas(known, nearby.Rarity), joined);
        if (like is not null && manner == IdeaManner.Shorter)
            made = made.Where(idea => idea.Text.Length < like.Text.Length);
        made = made.Take(wish.Count);
        foreach (var few in InFews(made))
        {
            stop.ThrowIfCancellationRequested();
            // Holding them against all that is there takes the most time, and none waits for another.
            foreach (var idea in few.AsParallel().AsOrdered().Select(one => papers.Read(db => Coming(db, one, marks))))
            {
                stop.ThrowIfCancellationRequested();
                yield return idea;
            }
        }
    }

    /// <summary>The first by itself, so that it is there at once, then a few at a time.</summary>
    private static IEnumerable<IReadOnlyList<MadeIdea>> InFews(IEnumerable<MadeIdea> made)
    {
        var few = new List<MadeIdea>();
        var most = 1;
        foreach (var idea in made)
        {
            few.Add(idea);
            if (few.Count < most)
                continue;
            yield return few;
            (few, most) = ([], 8);
        }
        if (few.Count > 0)
            yield return few;
    }

    /// <summary>An idea held against what is there.</summary>
    internal IdeaComing Coming(SqliteConnection db, MadeIdea made, Dictionary<TopicNumber, TopicMark> marks) =>
        new(
            made.Text,
            made.Shape,
            made.Topic is { } topic ? marks.GetValueOrDefault(topic) : null,
            made.From,
            Said(db, made),
            Near(db, made),
            made.Kind,
            made.Because
        );

    /// <summary>Ideas as a service gives them, without those that were proposed before.</summary>
    /// <param name="coming">As they come. What went wrong there comes through.</param>
    /// <param name="because">Whence, as a sentence.</param>
    public async IAsyncEnumerable<IdeaComing> Served(
        IAsyncEnumerable<ServedIdea> coming,
        string because,
        Action joined,
        [EnumeratorCancellation] CancellationToken stop
    )
    {
        var (known, marks) = papers.Read(db =>
            (
                db.Query<string>("SELECT text FROM offered_idea").AsList(),
                db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number)
            )
        );
        var said = new SaidIdeas(known, nearby.Rarity);
        await foreach (var idea in coming.WithCancellation(stop))
            if (said.Add(idea.Text, out _))
            {
                var made = new MadeIdea(idea.Text, idea.Shape, SparkKind.Service, idea.Topic, idea.From, because);
                yield return papers.Read(db => Coming(db, made, marks));
            }
            else
                joined();
    }

    /// <summary>The days they are wanted for; null for any.</summary>
    /// <exception cref="BadInputException">Only one of them is said, or they make no sense.</exception>
    internal static IdeaPeriod? Period(IdeasWanted asked) =>
        (asked.From, asked.To) switch
        {
            (null, null) => null,
            ({ } from, { } to) => new IdeaPeriod(from, to).Checked(),
            _ => throw new BadInputException("period", "Say the first and the last day of the period."),
        };

    /// <exception cref="BadInputException">Something in it makes no sense.</exception>
    public IdeaWish Wish(IdeasWanted asked)
    {
        var count = asked.Count ?? Usual;
        if (count is < 1 or > IdeaWish.Most)
            throw new BadInputException("count", $"Ask for 1 to {IdeaWish.Most} ideas.");
        if (asked.Seed <= 0)
            throw new BadInputException("seed", SeedSpan);
        Period(asked);
        return new IdeaWish(
            count,
            Check.Length("audience", (asked.Audience ?? "").Trim(), IdeaWish.LongestAudience),
            asked.Seed ?? papers.Read(db => db.ExecuteScalar<int>("SELECT coalesce(max(seed), 0) % 2147483647 + 1 FROM offered_idea"))
        );
    }

    private SaidBefore? Said(SqliteConnection db, MadeIdea made) =>
        !made.From.Any(f => f.Kind == OriginKind.Release)
        && find.Said(db, made.Text, onlyOut: true, SaidShare).Find(s => IsOn(s.Saying.Passage, made.Own)) is { } said
            ? new SaidBefore(said.Piece, said.Title, said.Saying.Passage, said.Saying.Share)
            : null;

    /// <summary>Whether a passage holds what an idea is about. An angle's words alone can fill the share: any passage in which somebody
    /// only thinks and says would have said who has the say over anything.</summary>
    private bool IsOn(string passage, IReadOnlySet<string>? own)
    {
        if (own is not { Count: > 0 })
            return true;
        var there = Stems.Of(passage).Select(s => s.Root).ToHashSet();
        return own.Where(there.Contains).Sum(nearby.Rarity) >= SaidShare * own.Sum(nearby.Rarity);
    }

    private IdeaOrigin? Near(SqliteConnection db, MadeIdea made)
    {
        var own = made.From.Where(f => f.Kind == OriginKind.Slip).Select(f => f.Number).ToHashSet();
        return
            nearby.Nearest(made.Text, 1, NearSame, thing => thing.Kind == ThingKind.Slip && !own.Contains(thing.Number)) is [var near, ..]
            && SlipRows.Find(db, SlipNumber.Of(near.Thing.Number)) is { } slip
            ? new IdeaOrigin(OriginKind.Slip, near.Thing.Number, slip.Title)
            : null;
    }

    /// <summary>Keeps ideas that were made, to be sorted.</summary>
    /// <param name="seed">The seed they were made with.</param>
    /// <exception cref="BadInputException">One is not as an idea is: the papers could not be read again with it.</exception>
    public Done<IReadOnlyList<IdeaShown>> Keep(IReadOnlyList<IdeaComing> made, int seed, Once once)
    {
        if (seed <= 0)
            throw new BadInputException("seed", SeedSpan);
        made = [.. made.Select(Checked)];
        return papers.Run<IReadOnlyList<IdeaShown>>(
            $"asked for {Counted(made.Count)}",
            once,
            change =>
            {
                return Shown(change.Db, OfferedIdeaRows.Get(change.Db, Put(change, made, seed)));
            }
        );
    }

    private static List<OfferNumber> Put(Change change, IReadOnlyList<IdeaComing> made, int seed)
    {
        var round = change.Db.ExecuteScalar<int>("SELECT coalesce(max(round), 0) + 1 FROM offered_idea");
        return
        [
            .. made.Select(one =>
                OfferedIdeaRows.Put(
                    change.Db,
                    new OfferedIdea(
                        default,
                        round,
                        change.Now,
                        seed,
                        new MadeIdea(one.Text, one.Shape, one.Kind, one.Topic?.Number, one.From, one.Because),
                        one.SaidIn,
                        one.Near,
                        OfferState.Waiting,
                        null,
                        1
                    )
                )
            ),
        ];
    }

    private static IdeaComing Checked(IdeaComing one)
    {
        if (one.From.Any(f => f.Number <= 0) || one.Near is { Number: <= 0 } || one.SaidIn is { Piece.Value: <= 0 })
            throw new BadInputException("from", $"“{one.Text}” was made from something without a number.");
        return one with
        {
            Text = Check.Text("text", one.Text, OfferedIdea.LongestText),
            Shape = Check.Length("shape", one.Shape.Trim(), Angle.LongestShape),
            Because = one.Because.Trim(),
            From = [.. one.From.Select(Trimmed)],
            Near = one.Near is { } near ? Trimmed(near) : null,
            SaidIn = one.SaidIn is { } said ? said with { Title = said.Title.Trim(), Passage = said.Passage.Trim() } : null,
        };
    }

    private static IdeaOrigin Trimmed(IdeaOrigin origin) => origin with { Title = origin.Title.Trim() };

    /// <summary>Ideas that are to be sorted: those that wait in the order they were made, then those put off.</summary>
    public IReadOnlyList<IdeaShown> ToSort() =>
        papers.Read<IReadOnlyList<IdeaShown>>(db =>
            [.. Shown(db, OfferedIdeaRows.All(db, "state IN ('waiting', 'later')")).OrderBy(i => i.State).ThenBy(i => i.Number.Value)]
        );

    /// <summary>Decides about ideas.</summary>
    /// <exception cref="ClashException">One is a slip already.</exception>
    public Done<IdeasSorted> Decide(IdeasDecided decided, Once once)
    {
        var act = decided.Act ?? throw new BadInputException("act", "Say take, start, later, refuse or wait.");
        var shown = decided.Idea is null ? null : Checked(decided.Idea);
        var numbers = decided.Ideas ?? [];
        if (shown is null ? numbers.Count is 0 or > MostAtOnce : numbers.Count > 0)
            throw new BadInputException("ideas", $"Name 1 to {MostAtOnce} ideas.");
        if (act == IdeaAct.Start && numbers.Count > 1)
            throw new BadInputException("ideas", "A piece is begun from one idea.");
        return papers.Run(
            $"sorted {Counted(Math.Max(1, numbers.Count))}",
            once,
            change =>
            {
                if (shown is not null)
                    numbers = [.. Put(change, [shown], 1)];
                var ideas = OfferedIdeaRows.Get(change.Db, [.. numbers.Distinct()]);
                PieceNumber? piece = null;
                foreach (var idea in ideas)
                {
                    if (idea.Slip is { } there)
                        throw new ClashException($"It is slip {there} already.", thing: Reference.To(there));
                    var slip = act is IdeaAct.Take or IdeaAct.Start
                        ? TakenIdeas.Slip(change, idea.Idea, idea.Idea.Topic is { } topic && TopicIsThere(change.Db, topic) ? [topic] : [])
                        : null;
                    if (act == IdeaAct.Start)
                        piece = DecisionStore.Decide(change, slip!, new Decision.StartPiece(decided.Format)).Piece;
                    var state = act switch
                    {
                        IdeaAct.Later => OfferState.Later,
                        IdeaAct.Refuse => OfferState.Refused,
                        IdeaAct.Wait => OfferState.Waiting,
                        _ => OfferState.Taken,
                    };
                    change.Db.Execute(
                        "UPDATE offered_idea SET state = @state, slip = @slip, version = version + 1 WHERE number = @Number",
                        new
                        {
                            idea.Number,
                            state = state.Kept(),
                            slip = slip?.Number,
                        }
                    );
                }
                change.What = act switch
                {
                    IdeaAct.Take => $"took {Counted(ideas.Count)}",
                    IdeaAct.Start => $"started P {piece} from a proposed idea",
                    IdeaAct.Later => $"put {Counted(ideas.Count)} off",
                    IdeaAct.Refuse => $"refused {Counted(ideas.Count)}",
                    _ => $"put {Counted(ideas.Count)} back",
                };
                return new IdeasSorted(Shown(change.Db, OfferedIdeaRows.Get(change.Db, numbers)), piece);
            }
        );
    }

    private static bool TopicIsThere(SqliteConnection db, TopicNumber topic) =>
        db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM topic WHERE number = @topic AND merged_into IS NULL)", new { topic });

    /// <summary>Changes the words of an idea that is not taken yet.</summary>
    public Done<IdeaShown> Reword(OfferNumber number, IdeaReworded reworded, Once once)
    {
        var based = Check.Version(reworded.Version);
        var text = Check.Text("text", reworded.Text, OfferedIdea.LongestText);
        return papers.Run(
            "changed the words of a proposed idea",
            once,
            change =>
            {
                var before = OfferedIdeaRows.Get(change.Db, [number])[0];
                if (before.Slip is { } there)
                    throw new ClashException($"It is slip {there} already.", thing: Reference.To(there));
                if (before.Version != based)
                    throw new StaleException("The idea", Shown(change.Db, [before])[0]);
                change.Db.Execute(
                    "UPDATE offered_idea SET text = @text, version = version + 1 WHERE number = @number",
                    new { number, text }
                );
                return Shown(change.Db, OfferedIdeaRows.Get(change.Db, [number]))[0];
            }
        );
    }

    private static List<IdeaShown> Shown(SqliteConnection db, IReadOnlyList<OfferedIdea> ideas)
    {
        var marks = TopicRows.Marks(db, [.. ideas.Select(i => i.Idea.Topic).OfType<TopicNumber>().Distinct()]).ToDictionary(t => t.Number);
        return
        [
            .. ideas.Select(i => new IdeaShown(
                i.Number,
                i.State,
                i.Slip,
                i.Version,
                i.Seed,
                new IdeaComing(
                    i.Idea.Text,
                    i.Idea.Shape,
                    i.Idea.Topic is { } topic ? marks.GetValueOrDefault(topic) : null,
                    i.Idea.From,
                    i.SaidIn,
                    i.Near,
                    i.Idea.Kind,
                    i.Idea.Because
                )
            )),
        ];
    }

    private static string Counted(int count) => count == 1 ? "1 idea" : $"{count} ideas";
}
