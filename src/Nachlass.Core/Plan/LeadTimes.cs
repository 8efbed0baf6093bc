using Nachlass.Core.Bench;

namespace Nachlass.Core.Plan;

/// <summary>When a piece came to a stage.</summary>
public sealed record StageEntry(string Stage, DateTimeOffset At);

/// <summary>What is known of how a piece that went out was made.</summary>
/// <param name="Entries">The stages it came to, in order.</param>
/// <param name="Sittings">When it was written on, each from its first to its last change.</param>
public sealed record FinishedWork(IReadOnlyList<StageEntry> Entries, IReadOnlyList<(DateTimeOffset From, DateTimeOffset To)> Sittings);

/// <summary>What a stage usually takes.</summary>
/// <param name="Usual">Hours as its format says.</param>
/// <param name="Took">Hours it really took, as the median; null while too few pieces say so.</param>
/// <param name="Of">How many pieces <paramref name="Took"/> is the median of.</param>
/// <param name="Days">Days a piece stood there, as the median; null while too few pieces say so.</param>
/// <param name="DaysOf">How many pieces <paramref name="Days"/> is the median of.</param>
public sealed record StageLead(string Stage, double Usual, double? Took, int Of, double? Days, int DaysOf)
{
    /// <summary>Hours to plan with.</summary>
    public double Hours => Took ?? Usual;
}

/// <summary>
/// What stages usually take: as the format says, corrected by what the last finished pieces really took. The median, since one piece that
/// lay for a year says nothing about the next.
/// </summary>
public static class LeadTimes
{
    /// <summary>So many of the last finished pieces are looked at.</summary>
    public const int Last = 10;

    /// <summary>Fewer than these say nothing.</summary>
    public const int Fewest = 3;

    /// <summary>A sitting that shows as one change took this long at least.</summary>
    public static readonly TimeSpan ShortestSitting = TimeSpan.FromMinutes(10);

    /// <param name="finished">Pieces of the format, the last finished first.</param>
    public static IReadOnlyList<StageLead> Of(Format format, IReadOnlyList<FinishedWork> finished)
    {
        var last = finished.Take(Last).ToList();
        var hours = last.Select(HoursIn).ToList();
        var days = last.Select(w => DaysIn(w.Entries)).ToList();
        return
        [
            .. format.Stages.Select(
                (stage, i) =>
                {
                    var took = Those(hours, stage);
                    var stood = Those(days, stage);
                    return new StageLead(
                        stage,
                        i < format.Hours.Count ? format.Hours[i] : 0,
                        took.Count >= Fewest ? Median(took) : null,
                        took.Count,
                        stood.Count >= Fewest ? Median(stood) : null,
                        stood.Count
                    );
                }
            ),
        ];
    }

    /// <summary>Days at each stage that was left again; one that was come to twice counts both times.</summary>
    public static IReadOnlyDictionary<string, double> DaysIn(IReadOnlyList<StageEntry> entries) =>
        entries
            .Zip(entries.Skip(1))
            .GroupBy(e => e.First.Stage)
            .ToDictionary(g => g.Key, g => g.Sum(e => Math.Max(0, (e.Second.At - e.First.At).TotalDays)));

    /// <summary>Hours written at each stage: a sitting belongs to the stage at which it began.</summary>
    public static IReadOnlyDictionary<string, double> HoursIn(FinishedWork work) =>
        work
            .Sittings.Select(s =>
                (
                    Stage: work.Entries.TakeWhile((e, i) => i == 0 || e.At <= s.From).LastOrDefault()?.Stage,
                    Took: s.To - s.From is var took && took > ShortestSitting ? took : ShortestSitting
                )
            )
            .Where(s => s.Stage is not null)
            .GroupBy(s => s.Stage!)
            .ToDictionary(g => g.Key, g => g.Sum(s => s.Took.TotalHours));

    private static List<double> Those(List<IReadOnlyDictionary<string, double>> all, string stage) =>
        [.. all.Where(w => w.ContainsKey(stage)).Select(w => w[stage])];

    /// <summary>The middle of some values; the mean of the two middle ones where there is an even number. At least one value.</summary>
    public static double Median(IReadOnlyCollection<double> values)
    {
        var sorted = values.Order().ToList();
        return (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2;
    }
}
