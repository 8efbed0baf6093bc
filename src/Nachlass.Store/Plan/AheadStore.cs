using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Plan;

/// <summary>Something in the papers that would fit an occasion.</summary>
/// <param name="Piece">A piece in hand; null for a slip.</param>
/// <param name="Slip">An idea; null for a piece.</param>
/// <param name="Due">The day the piece is due; null for none.</param>
/// <param name="Why">What speaks for it.</param>
public sealed record FitsOccasion(PieceNumber? Piece, SlipNumber? Slip, string Title, DateOnly? Due, string Why);

/// <summary>An occasion ahead.</summary>
/// <param name="Occasion">The writer's own; null for a public holiday.</param>
/// <param name="Country">The country of a public holiday; null for an occasion of the writer's own.</param>
/// <param name="RecursSaid">How it comes again, in words; empty for once.</param>
/// <param name="Topics">Those it is on: set by hand, or named in its name.</param>
/// <param name="ByName">Whether the topics are only named in its name.</param>
/// <param name="Likely">For an occasion of the writer's own that is on no topic: those its name reads like, the likeliest first.</param>
/// <param name="Days">Days until it begins; 0 while it is on.</param>
/// <param name="HoursFree">Hours of the writer's that no dated piece needs up to the day before it.</param>
/// <param name="Fits">What in the papers would fit it, the worthiest first.</param>
public sealed record OccasionAhead(
    OccasionNumber? Occasion,
    string? Country,
    string Name,
    DateOnly From,
    DateOnly To,
    string RecursSaid,
    IReadOnlyList<TopicMark> Topics,
    bool ByName,
    IReadOnlyList<LikelyTopic> Likely,
    int Days,
    double HoursFree,
    IReadOnlyList<FitsOccasion> Fits
);

/// <summary>What lies ahead: occasions of the writer's own and public holidays, with what in the papers would fit them.</summary>
public sealed class AheadStore(PapersFile papers, WorthStore worth, AdviceStore advice)
{
    public const int UsualDays = 91,
        MostDays = 800;

    /// <summary>How many things are offered for each.</summary>
    public const int MostFits = 4;

    /// <summary>How many topics its name may read like.</summary>
    public const int MostLikely = 3;

    /// <summary>So sure a guess is at least that it is offered, and that what is on the topic would fit: a name is few words.</summary>
    public const double LeastLikely = 0.3,
        LikelyEnough = 0.5;

    /// <param name="from">The first day; today when null.</param>
    /// <param name="to">The last; a quarter after the first when null.</param>
    /// <exception cref="BadInputException">They end before they begin, or are too many.</exception>
    public IReadOnlyList<OccasionAhead> Between(DateOnly? from, DateOnly? to)
    {
        var (first, last) = Days(from, to);
        var ideas = worth.Best(new WorthAsked(WorthAsked.MostAtOnce));
        return [.. papers.Read(db => Bare(db, first, last, Likely())).Select(b => b.Ahead with { Fits = Fits(b, ideas) })];
    }

    /// <summary>The same without what would fit them.</summary>
    /// <exception cref="BadInputException">They end before they begin, or are too many.</exception>
    internal IReadOnlyList<OccasionAhead> Bare(DateOnly? from, DateOnly? to)
    {
        var (first, last) = Days(from, to);
        return [.. papers.Read(db => Bare(db, first, last, Likely())).Select(b => b.Ahead)];
    }

    private (DateOnly First, DateOnly Last) Days(DateOnly? from, DateOnly? to)
    {
        var first = from ?? papers.Today;
        if (!Check.IsDay(first) || to is { } until && !Check.IsDay(until))
            throw new BadInputException("from", "The days are in the years 1000 to 8999.");
        var last = to ?? first.AddDays(UsualDays);
        if (last < first)
            throw new BadInputException("to", "It ends on the day it begins or later.");
        if (last.DayNumber - first.DayNumber > MostDays)
            throw new BadInputException("to", $"At most {MostDays} days are looked over at once.");
        return (first, last);
    }

    private sealed record Unfitted(OccasionAhead Ahead, IReadOnlySet<int> On, IReadOnlyList<PlannedPiece> Pieces);

    /// <summary>For each of the writer's own occasions on no topic those its name reads like.</summary>
    private Dictionary<OccasionNumber, IReadOnlyList<LikelyTopic>> Likely()
    {
        var bare = papers.Read(db =>
        {
            var names = TopicNames.Of(db);
            return OccasionStore.All(db).Where(o => o.Topics.Count == 0 && names.NamedIn(o.Name).Count == 0).ToList();
        });
        return bare.ToDictionary(
            o => o.Number,
            o => (IReadOnlyList<LikelyTopic>)[.. advice.Likely(o.Name).Where(l => l.Figure >= LeastLikely).Take(MostLikely)]
        );
    }

    private List<Unfitted> Bare(
        SqliteConnection db,
        DateOnly first,
        DateOnly last,
        Dictionary<OccasionNumber, IReadOnlyList<LikelyTopic>> likely
    )
    {
        var today = papers.Today;
        var planned = new Planned(db, today);
        var names = TopicNames.Of(db);
        var marks = db.Query<(int Number, string Name, TopicColour Colour)>("SELECT number, name, colour FROM topic")
            .ToDictionary(t => t.Number, t => new TopicMark(TopicNumber.Of(t.Number), t.Name, t.Colour));
        var below = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Topic, u => u.Under);
        var found =
            new List<(
                OccasionNumber? Number,
                string? Country,
                string Name,
                DateOnly From,
                DateOnly To,
                string Said,
                IReadOnlyList<TopicMark> Topics
            )>();
        foreach (var occasion in OccasionStore.All(db))
            for (var day = first; occasion.Next(day) is { } next && next.From <= last; day = next.To.AddDays(1))
                found.Add(
                    (
                        occasion.Number,
                        null,
                        occasion.Name,
                        next.From,
                        next.To,
                        occasion.RecursSaid ?? (occasion.EveryYear ? $"every year on {occasion.From:d MMMM}" : ""),
                        occasion.Topics
                    )
                );
        foreach (var holiday in Holidays.Between(HolidayStore.Chosen(db), first, last))
            found.Add((null, holiday.Country, holiday.Name, holiday.On, holiday.On, "", []));
        var free = planned.Free(found.Select(f => f.From.AddDays(-1)).Where(d => d >= today)).ToLookup(f => f.Day, f => f.Hours);
        return
        [
            .. found
                .OrderBy(f => f.From)
                .ThenBy(f => f.Country is not null)
                .ThenBy(f => f.Name, StringComparer.Ordinal)
                .Select(f =>
                {
                    var topics = f.Topics.Count > 0 ? f.Topics : [.. names.NamedIn(f.Name).Where(marks.ContainsKey).Select(t => marks[t])];
                    IReadOnlyList<LikelyTopic> alike = topics.Count == 0 && f.Number is { } own ? likely.GetValueOrDefault(own, []) : [];
                    var on = topics
                        .Concat(alike.Where(l => l.Figure >= LikelyEnough).Select(l => l.Topic))
                        .SelectMany(t => below[t.Number.Value].Append(t.Number.Value))
                        .ToHashSet();
                    return new Unfitted(
                        new OccasionAhead(
                            f.Number,
                            f.Country,
                            f.Name,
                            f.From,
                            f.To,
                            f.Said,
                            topics,
                            f.Topics.Count == 0,
                            alike,
                            Math.Max(0, f.From.DayNumber - today.DayNumber),
                            free[f.From.AddDays(-1)].FirstOrDefault(),
                            []
                        ),
                        on,
                        on.Count == 0
                            ? []
                            : [.. planned.Undated.Concat(planned.Dated).Where(p => p.Topics.Any(t => on.Contains(t.Number.Value)))]
                    );
                }),
        ];
    }

    private List<FitsOccasion> Fits(Unfitted at, IReadOnlyList<WorthLine> ideas)
    {
        var fits = at
            .Pieces.OrderBy(p => p.Due is null ? 0 : Math.Abs(p.Due.Value.DayNumber - at.Ahead.From.DayNumber))
            .Select(p => new FitsOccasion(
                p.Number,
                null,
                p.Title,
                p.Due,
                p.Due is { } due ? $"in work at {p.Stage}, due {due:d MMMM}" : $"in work at {p.Stage}, without a day"
            ))
            .Take(MostFits / 2)
            .ToList();
        fits.AddRange(
            ideas
                .Where(i => i.Slip is not null && i.Topics.Any(t => at.On.Contains(t.Number.Value)))
                .Take(MostFits - fits.Count)
                .Select(i => new FitsOccasion(null, i.Slip, i.Title, null, $"worth {i.Score:0}"))
        );
        // Where an occasion of the writer’s own is on no topic there is still what reads like its name.
        if (fits.Count == 0 && at.Ahead.Occasion is not null)
            fits.AddRange(
                advice
                    .Like(at.Ahead.Name, MostFits, thing => thing.Kind == ThingKind.Slip)
                    .Where(a => a.Note is not ("dropped" or "trashed"))
                    .Select(a => new FitsOccasion(
                        null,
                        SlipNumber.Of(a.Thing.Number),
                        a.Title,
                        null,
                        a.Words.Count > 0 ? $"reads like it: {string.Join(", ", a.Words.Take(3))}" : "reads like it"
                    ))
            );
        return fits;
    }
}
