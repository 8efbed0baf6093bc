using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Month;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Ideas.Month;

/// <summary>For what a month is proposed.</summary>
/// <param name="Topics">Numbers of topics; with no words either, all that have material.</param>
/// <param name="Words">Topics as they are typed.</param>
/// <param name="From">The first day; today when it is left out.</param>
/// <param name="Weeks">How many weeks, 1 to 26; four when it is left out.</param>
/// <param name="Spacing">Days between two dates on one topic, at least; ten when it is left out.</param>
/// <param name="PerWeek">Dates a week, 1 to 5; as the cadences have them when it is left out.</param>
/// <param name="WithinHours">Whether a date stays open where the hours before it are given to others.</param>
/// <param name="Seed">The same seed gives the same ideas.</param>
/// <param name="Promoting">Keys of formats that promote their writer.</param>
/// <param name="PromoteMore">Whether those may have more than the smallest share.</param>
public sealed record MonthAsked(
    IReadOnlyList<TopicNumber>? Topics = null,
    IReadOnlyList<string>? Words = null,
    DateOnly? From = null,
    int? Weeks = null,
    int? Spacing = null,
    int? PerWeek = null,
    bool WithinHours = false,
    int? Seed = null,
    IReadOnlyList<string>? Promoting = null,
    bool PromoteMore = false
);

/// <summary>What could stand on a date.</summary>
/// <param name="Shape">The angle; <c>your own slip</c> where it is one.</param>
/// <param name="Kind">What it was made from; says nothing of a slip.</param>
/// <param name="Slip">The slip it is already; null for one that is made.</param>
public sealed record MonthIdea(string Text, string Shape, SparkKind Kind, IReadOnlyList<IdeaOrigin> From, string Because, SlipNumber? Slip);

/// <summary>A date with what is proposed for it.</summary>
/// <param name="Topic">Null where it is only words.</param>
/// <param name="Because">Why this topic stands there, the weightiest first.</param>
/// <param name="Ideas">The first is proposed; the others can take its place.</param>
public sealed record MonthPlace(
    DateOnly Date,
    int Hour,
    string HourBecause,
    OutletNumber Outlet,
    string Format,
    TopicMark? Topic,
    string Name,
    double Hours,
    IReadOnlyList<string> Because,
    IReadOnlyList<MonthIdea> Ideas
);

/// <summary>A month that is proposed.</summary>
/// <param name="Order">The topics as they were ordered.</param>
/// <param name="Without">Topics that came to no date.</param>
/// <param name="Forms">The mix of forms that is recommended, shared out over the dates.</param>
/// <param name="HoursFree">Hours until the last day that nothing with a date needs.</param>
public sealed record MonthProposed(
    DateOnly From,
    DateOnly To,
    int Seed,
    IReadOnlyList<MonthPlace> Places,
    IReadOnlyList<StaysOpen> Open,
    IReadOnlyList<TopicOrdered> Order,
    IReadOnlyList<string> Without,
    IReadOnlyList<FormShare> Forms,
    double HoursFree
);

/// <summary>A date that is taken into the plan, as it was changed.</summary>
/// <param name="Text">The idea; where it is a slip, what the piece is called.</param>
/// <param name="Topic">Number of its topic; null with a name for one that is only words.</param>
/// <param name="Slip">The slip it is; null for one that is to be made.</param>
public sealed record MonthTaken(
    DateOnly Date,
    OutletNumber Outlet,
    string? Format,
    string? Text,
    int? Hour = null,
    TopicNumber? Topic = null,
    string? Name = null,
    string? Shape = null,
    SparkKind Kind = SparkKind.Term,
    string? Because = null,
    IReadOnlyList<IdeaOrigin>? From = null,
    SlipNumber? Slip = null
);

/// <summary>A topic that is put on a date instead of another.</summary>
/// <param name="Name">Words that are no topic.</param>
public sealed record MonthIdeasAsked(TopicNumber? Topic = null, string? Name = null, int? Seed = null);

/// <summary>Proposes a month from an order of topics, and takes it into the plan.</summary>
public sealed class MonthStore(
    PapersFile papers,
    TopicOrderStore order,
    SparkStore sparks,
    OccasionStore occasions,
    Nearby nearby,
    SlipColumns columns
)
{
    public const int UsualSpacing = 10,
        MostSpacing = 60,
        MostPerWeek = 5,
        MostTaken = 150;

    /// <summary>How many ideas a date has to choose from.</summary>
    private const int Choices = 4;

    /// <summary>What the pull of a slip counts of which it was not said.</summary>
    private const int UsualPull = 3;

    /// <summary>What a topic of which nothing is known counts.</summary>
    private const double Unknown = 30;

    /// <summary>What a topic counts for which nothing speaks: it was asked for.</summary>
    internal const double Least = 10;

    /// <exception cref="BadInputException">What is asked makes no sense.</exception>
    public MonthProposed Propose(MonthAsked asked)
    {
        if (asked.Spacing is < 0 or > MostSpacing)
            throw new BadInputException("spacing", $"The spacing is from 0 to {MostSpacing} days.");
        if (asked.PerWeek is < 1 or > MostPerWeek)
            throw new BadInputException("perWeek", $"There are 1 to {MostPerWeek} dates a week.");
        if (asked.Seed <= 0)
            throw new BadInputException("seed", "The seed is a number from 1 to 2147483647.");
        var first = asked.From is { } from && from > papers.Today ? from : papers.Today;
        var ordered = order.Order(new TopicOrderAsked(asked.Topics, asked.Words, first, asked.Weeks));
        var last = first.AddDays(7 * (asked.Weeks ?? TopicOrderStore.UsualWeeks) - 1);
        var coming = occasions.Coming(first, last.DayNumber - first.DayNumber + FillingRules.BeforeOccasion);
        var spacing = asked.Spacing ?? UsualSpacing;
        var seed = asked.Seed ?? 1;
        var drawn = papers.Read(db =>
            new MonthDrawing(db, papers.Today, papers.Time.LocalTimeZone, first, last, spacing, asked, ordered, coming, Unknown).Drawn()
        );
        var ideas = Ideas(
            [
                .. drawn
                    .Dates.GroupBy(d => d.Topic)
                    .OrderBy(g => g.Key)
                    .Select(g => new Wanted(g.Key, ordered[g.Key].Topic, ordered[g.Key].Name, g.Count())),
            ],
            seed
        );
        return new MonthProposed(
            first,
            last,
            seed,
            [.. drawn.Dates.Select(date => Said(date, ordered[date.Topic], coming, drawn, ideas))],
            drawn.Open,
            ordered,
            [.. ordered.Where((_, at) => drawn.Dates.All(d => d.Topic != at)).Select(t => t.Name)],
            drawn.Forms,
            drawn.HoursFree
        );
    }

    private static MonthPlace Said(
        DateDrawn date,
        TopicOrdered topic,
        IReadOnlyList<ComingOccasion> coming,
        MonthDrawn drawn,
        Dictionary<int, Queue<MonthIdea>> ideas
    )
    {
        List<string> because = [];
        foreach (
            var occasion in coming.Where(o =>
                topic.Topic is { } mark
                && o.Occasion.Topics.Any(t => t.Number == mark.Number)
                && FillingRules.OnTime(date.Place.Date, o.From) > 0
            )
        )
            because.Add(
                date.Place.Date == occasion.From ? $"{occasion.Occasion.Name} is on that day."
                : date.Place.Date < occasion.From
                    ? $"{occasion.From.DayNumber - date.Place.Date.DayNumber} days before {occasion.Occasion.Name}."
                : $"Just after {occasion.Occasion.Name}."
            );
        because.Add(topic.Because);
        var choices = new List<MonthIdea>();
        while (choices.Count < Choices && ideas[date.Topic].TryDequeue(out var idea))
            choices.Add(idea);
        var hour = drawn.Hours[date.Place.Outlet];
        return new MonthPlace(
            date.Place.Date,
            hour.Hour,
            hour.Because,
            date.Place.Outlet,
            date.Place.Format,
            topic.Topic,
            topic.Name,
            date.Hours,
            because,
            choices
        );
    }

    /// <summary>Other ideas for a date, when its topic is changed.</summary>
    /// <exception cref="BadInputException">There is no such topic, or nothing was said.</exception>
    public IReadOnlyList<MonthIdea> Others(MonthIdeasAsked asked)
    {
        if (asked.Seed <= 0)
            throw new BadInputException("seed", "The seed is a number from 1 to 2147483647.");
        var mark = asked.Topic is { } topic
            ? papers.Read(db =>
                db.QuerySingleOrDefault<TopicMark?>(
                    "SELECT number, name, colour FROM topic WHERE number = @topic AND merged_into IS NULL",
                    new { topic }
                )
            ) ?? throw new BadInputException("topic", $"There is no topic {topic}.")
            : null;
        var name = mark?.Name ?? Check.Text("name", asked.Name, TopicOrderStore.LongestWords);
        return [.. Ideas([new Wanted(0, mark, name, 1)], asked.Seed ?? 1)[0]];
    }

    /// <param name="At">By which its ideas are found.</param>
    /// <param name="Times">How many dates it has.</param>
    private sealed record Wanted(int At, TopicMark? Mark, string Name, int Times);

    /// <summary>For each topic that has dates, ideas for all of them: the writer's own slips among those that are made.</summary>
    private Dictionary<int, Queue<MonthIdea>> Ideas(IReadOnlyList<Wanted> wanted, int seed)
    {
        var now = columns.Now();
        var (known, angles, own) = papers.Read(db =>
            (
                db.Query<string>("SELECT text FROM offered_idea").AsList(),
                AngleRows.Own(db) ?? Angles.Ready,
                Own(db, now, [.. wanted.Where(w => w.Mark is not null)])
            )
        );
        var numbers = wanted.Select(w => w.Mark?.Number).OfType<TopicNumber>().ToList();
        var found = (numbers.Count == 0 ? [] : sparks.ByTopic(numbers, null, atAGlance: true).SelectMany(s => s)).ToLookup(s => s.Topic);
        var used = new HashSet<int>();
        var said = new SaidIdeas(known, nearby.Rarity);
        var all = new Dictionary<int, Queue<MonthIdea>>();
        foreach (var (at, mark, name, times) in wanted)
        {
            IReadOnlyList<Spark> its = mark is null ? [] : [.. found[mark.Number]];
            // Of a topic with nothing to go on, its own name is all there is.
            if (its.Count < times)
                its = [.. its, Bare(mark, name)];
            var made = IdeaMaker
                .Make([its], angles, new IdeaWish(Math.Min(IdeaWish.Most, times * Choices), "", seed), said)
                .Select(i => new MonthIdea(i.Text, i.Shape, i.Kind, i.From, i.Because, null))
                .ToList();
            var slips = own[at]
                .Where(s => used.Add(s.Number))
                .Select(s => new MonthIdea(
                    PlainText.Headline(s.Text),
                    "your own slip",
                    SparkKind.Dropped,
                    [new IdeaOrigin(OriginKind.Slip, s.Number, PlainText.Headline(s.Text))],
                    s.Pull is { } pull ? $"You kept it, with a pull of {pull}." : "You kept it, and it stands in no piece yet.",
                    SlipNumber.Of(s.Number)
                ))
                .ToList();
            all[at] = Dealt(slips, made, times);
        }
        return all;
    }

    /// <summary>Kept ideas on each topic that stand in no piece, those with the most pull first, as many as it has dates.</summary>
    private static ILookup<int, (int Number, string Text, int? Pull)> Own(
        SqliteConnection db,
        Columns columns,
        IReadOnlyList<Wanted> wanted
    )
    {
        var below = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Topic, u => u.Under);
        var chosen = wanted
            .SelectMany(w =>
                columns
                    .Under(below[w.Mark!.Number.Value])
                    .Where(s => columns.Slips[s] is { Kind: SlipKind.Idea, State: SlipState.Kept } && !columns.IsUsed(s))
                    .OrderByDescending(s => columns.Slips[s].Pull is > 0 and var pull ? pull : UsualPull)
                    .ThenByDescending(s => s)
                    .Take(w.Times)
                    .Select(slip => (w.At, slip))
            )
            .ToList();
        var texts = SlipRows.All(db, [.. chosen.Select(c => c.slip).Distinct()]);
        return chosen.Where(c => texts.ContainsKey(c.slip)).ToLookup(c => c.At, c => (c.slip, texts[c.slip].Text, texts[c.slip].Pull));
    }

    /// <summary>For each date one of the writer's own first, as long as there are any, then those that were made.</summary>
    private static Queue<MonthIdea> Dealt(List<MonthIdea> own, List<MonthIdea> made, int times)
    {
        var (slips, ideas, dealt) = (new Queue<MonthIdea>(own), new Queue<MonthIdea>(made), new Queue<MonthIdea>());
        for (var date = 0; date < times; date++)
        {
            var left = Choices;
            if (slips.TryDequeue(out var slip))
            {
                dealt.Enqueue(slip);
                left--;
            }
            // Fewer than there is room for are shared out evenly.
            var share = Math.Min(left, (ideas.Count + times - date - 1) / (times - date));
            for (var i = 0; i < share; i++)
                dealt.Enqueue(ideas.Dequeue());
        }
        return dealt;
    }

    private static Spark Bare(TopicMark? mark, string name) =>
        new(
            SparkKind.Term,
            mark?.Number,
            new Dictionary<string, object>
            {
                ["term"] = name,
                ["any"] = name,
                ["word"] = name,
                ["topic"] = name,
            },
            mark is null ? [] : [new IdeaOrigin(OriginKind.Topic, mark.Number.Value, mark.Name)],
            "There is nothing else on it in the papers yet."
        );

    /// <summary>Takes dates into the plan, as one step: each becomes a piece with its day and outlet, begun from its slip.</summary>
    /// <exception cref="BadInputException">One can't be.</exception>
    public Done<IReadOnlyList<PieceNumber>> Take(IReadOnlyList<MonthTaken> places, Once once)
    {
        if (places.Count is 0 or > MostTaken)
            throw new BadInputException("places", $"From 1 to {MostTaken} dates are taken at once.");
        foreach (var place in places)
        {
            Check.Text("text", place.Text, OfferedIdea.LongestText);
            Check.Length("name", place.Name ?? "", TopicOrderStore.LongestWords);
            Check.Length("shape", place.Shape ?? "", Angle.LongestShape);
            if (!Check.IsDay(place.Date))
                throw new BadInputException("date", "The day is in the years 1000 to 8999.");
            if (place.Hour is < 0 or > 23)
                throw new BadInputException("hour", "The hour is from 0 to 23.");
            if (place.From?.Any(f => f.Number <= 0) == true)
                throw new BadInputException("from", "What an idea was made from has a number above 0.");
        }
        if (places.Where(p => p.Slip is not null).GroupBy(p => p.Slip).Any(g => g.Count() > 1))
            throw new BadInputException("places", "A slip goes onto one date.");
        return papers.Run(
            "took a month into the plan",
            once,
            change =>
            {
                var round = change.Db.ExecuteScalar<int>("SELECT coalesce(max(round), 0) + 1 FROM offered_idea");
                var pieces = places.Select(place => Begin(change, place, round)).ToList();
                change.What =
                    pieces.Count == 1 ? $"took 1 date into the plan as P {pieces[0]}" : $"took {pieces.Count} dates into the plan";
                return (IReadOnlyList<PieceNumber>)pieces;
            }
        );
    }

    private static PieceNumber Begin(Change change, MonthTaken place, int round)
    {
        var text = place.Text!.Trim();
        var named = place.Topic is { } topic
            ? change.Db.QuerySingleOrDefault<string?>("SELECT name FROM topic WHERE number = @topic AND merged_into IS NULL", new { topic })
                ?? throw new NotThereException($"topic {topic}")
            : place.Name?.Trim();
        List<string> topics = named is { Length: > 0 } ? [named] : [];
        var slip = place.Slip is { } own ? SlipRows.Get(change.Db, own) : Caught(change, place, text, topics, round);
        var hour = place.Hour is { } at ? string.Create(CultureInfo.InvariantCulture, $"To go out at {at}:00. ") : "";
        var brief = (hour + place.Because).Trim();
        return PieceStore
            .Begin(
                change,
                new NewPiece(
                    text.Length > Piece.LongestTitle ? text[..Piece.LongestTitle] : text,
                    place.Format,
                    brief,
                    slip.Number,
                    [.. slip.Topics.Select(t => t.Name).Union(topics, StringComparer.OrdinalIgnoreCase)],
                    Due: place.Date,
                    Outlet: place.Outlet
                ),
                null
            )
            .Number;
    }

    /// <summary>An idea that was made becomes a slip, and is remembered so that it is not proposed again.</summary>
    private static Slip Caught(Change change, MonthTaken place, string text, List<string> topics, int round)
    {
        var idea = new MadeIdea(
            text,
            (place.Shape ?? "").Trim(),
            place.Kind,
            place.Topic,
            [.. (place.From ?? []).Select(origin => origin with { Title = origin.Title.Trim() })],
            (place.Because ?? "").Trim()
        );
        var slip = TakenIdeas.Slip(change, idea, TopicRows.NumbersFor(change.Db, topics));
        OfferedIdeaRows.Put(change.Db, new OfferedIdea(default, round, change.Now, 1, idea, null, null, OfferState.Taken, slip.Number, 1));
        return slip;
    }
}
