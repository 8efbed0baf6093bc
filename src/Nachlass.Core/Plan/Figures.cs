namespace Nachlass.Core.Plan;

/// <summary>A piece that went out, with how it was made.</summary>
/// <param name="Format">Key of its format.</param>
/// <param name="Outlet">Number of its outlet; null where none was said.</param>
/// <param name="Due">The day it was to go out; null where none was said.</param>
/// <param name="Entries">The stages it came to, in order.</param>
public sealed record WentOut(
    string Format,
    int? Outlet,
    DateOnly Started,
    DateOnly? Due,
    DateOnly Out,
    IReadOnlyList<StageEntry> Entries,
    int Words
);

/// <summary>What happened in a week or a month.</summary>
/// <param name="From">Its first day.</param>
/// <param name="Released">Pieces that went out.</param>
/// <param name="Begun">Pieces that were begun.</param>
/// <param name="Words">Words that were written.</param>
/// <param name="Caught">Slips that came in.</param>
public sealed record PacePoint(DateOnly From, int Released, int Begun, int Words, int Caught);

/// <summary>A middle value with how many it is the middle of.</summary>
/// <param name="Median">Null where there is nothing.</param>
public sealed record Middle(double? Median, int Of)
{
    /// <summary>Fewer than these say little, and it is said so.</summary>
    public const int Few = 5;

    public bool IsSmall => Of < Few;

    public static Middle From(IReadOnlyCollection<double> values) => new(values.Count == 0 ? null : LeadTimes.Median(values), values.Count);
}

/// <summary>How long pieces stood at a stage.</summary>
public sealed record StageTook(string Stage, Middle Days);

/// <summary>Whether pieces went out on their day.</summary>
/// <param name="OnTime">On the day they were due, or before.</param>
/// <param name="Late">After it.</param>
/// <param name="LateBy">Days by which those were late.</param>
/// <param name="Undated">Those that had no day.</param>
public sealed record Punctuality(int OnTime, int Late, Middle LateBy, int Undated);

/// <summary>How it goes with pieces of one kind.</summary>
/// <param name="Name">Of the format or outlet.</param>
/// <param name="Lead">Days from its beginning to its going out.</param>
/// <param name="Stages">In the order of the format; empty for an outlet.</param>
public sealed record KindFigures(
    string Key,
    string Name,
    int Released,
    Middle Lead,
    Punctuality Punctuality,
    IReadOnlyList<StageTook> Stages
);

/// <summary>How the work goes, over some days.</summary>
/// <param name="Weeks">By week, those without anything too.</param>
/// <param name="Months">By month.</param>
/// <param name="WordsADay">Words written on a day on which any were.</param>
/// <param name="DaysWritten">Days on which any were.</param>
/// <param name="Caught">Slips that came in.</param>
/// <param name="GotOut">Those of them that stand in a piece that went out.</param>
/// <param name="All">Of everything that went out.</param>
public sealed record FiguresShown(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<PacePoint> Weeks,
    IReadOnlyList<PacePoint> Months,
    Middle WordsADay,
    int DaysWritten,
    int Caught,
    int GotOut,
    KindFigures All,
    IReadOnlyList<KindFigures> Formats,
    IReadOnlyList<KindFigures> Outlets
);

/// <summary>Figures of how the work goes, from what went out.</summary>
public static class Figures
{
    /// <summary>Figures of some pieces of one kind.</summary>
    /// <param name="stages">Its stages in order, without the last; empty where pieces of several formats are looked at.</param>
    public static KindFigures Of(string key, string name, IReadOnlyList<WentOut> pieces, IReadOnlyList<string> stages)
    {
        var days = pieces.Select(p => LeadTimes.DaysIn(p.Entries)).ToList();
        return new KindFigures(
            key,
            name,
            pieces.Count,
            Middle.From([.. pieces.Select(p => (double)Math.Max(0, p.Out.DayNumber - p.Started.DayNumber))]),
            PunctualityOf(pieces),
            [.. stages.Select(s => new StageTook(s, Middle.From([.. days.Where(d => d.ContainsKey(s)).Select(d => d[s])])))]
        );
    }

    public static Punctuality PunctualityOf(IReadOnlyList<WentOut> pieces)
    {
        var late = pieces
            .Where(p => p.Due is { } due && p.Out > due)
            .Select(p => (double)(p.Out.DayNumber - p.Due!.Value.DayNumber))
            .ToList();
        var dated = pieces.Count(p => p.Due is not null);
        return new Punctuality(dated - late.Count, late.Count, Middle.From(late), pieces.Count - dated);
    }

    /// <summary>Counts by week (from Monday) or by month, each of them between two days there, those without anything too.</summary>
    /// <param name="byMonth">By month; else by week.</param>
    public static IReadOnlyList<PacePoint> Pace(
        DateOnly from,
        DateOnly to,
        bool byMonth,
        IReadOnlyCollection<DateOnly> released,
        IReadOnlyCollection<DateOnly> begun,
        IReadOnlyCollection<(DateOnly Day, int Count)> words,
        IReadOnlyCollection<(DateOnly Day, int Count)> caught
    )
    {
        DateOnly Start(DateOnly day) => byMonth ? new DateOnly(day.Year, day.Month, 1) : WeekLoad.MondayOf(day);
        Dictionary<DateOnly, int> By(IEnumerable<(DateOnly Day, int Count)> counted) =>
            counted.Where(c => c.Day >= from && c.Day <= to).GroupBy(c => Start(c.Day)).ToDictionary(g => g.Key, g => g.Sum(c => c.Count));
        var (outBy, begunBy) = (By(released.Select(d => (d, 1))), By(begun.Select(d => (d, 1))));
        var (wordsBy, caughtBy) = (By(words), By(caught));
        var points = new List<PacePoint>();
        for (var at = Start(from); at <= to; at = byMonth ? at.AddMonths(1) : at.AddDays(7))
            points.Add(
                new PacePoint(
                    at,
                    outBy.GetValueOrDefault(at),
                    begunBy.GetValueOrDefault(at),
                    wordsBy.GetValueOrDefault(at),
                    caughtBy.GetValueOrDefault(at)
                )
            );
        return points;
    }
}
