using System.Text.RegularExpressions;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue.Figures;

/// <summary>What of a figure is compared.</summary>
public enum MeasuredAs
{
    /// <summary>Its middle release.</summary>
    Middle,

    /// <summary>How many come on a hundred views.</summary>
    OfViews,

    /// <summary>The share of releases that have any.</summary>
    Any,
}

/// <summary>A release that is compared.</summary>
/// <param name="Value">Its figure.</param>
/// <param name="Views">Its views; null where they are not known.</param>
/// <param name="Groups">The groups it is in.</param>
public sealed record ReleaseMeasured(ReleaseNumber Release, double Value, double? Views, IReadOnlyList<string> Groups);

/// <summary>How a group stands to all others.</summary>
public enum Verdict
{
    /// <summary>There are too few to tell.</summary>
    TooFew,

    /// <summary>They differ no more than chance would have it.</summary>
    Same,
    More,
    Less,
}

/// <summary>One of the groups that are compared.</summary>
/// <param name="Of">Releases in it.</param>
/// <param name="Value">Its measure; null where there is none.</param>
/// <param name="Likely">Where that lies with 95 in 100; null where there are too few.</param>
/// <param name="Verdict">Against all others together.</param>
public sealed record GroupCompared(
    string Name,
    int Of,
    double? Value,
    Interval? Likely,
    Verdict Verdict,
    IReadOnlyList<ReleaseNumber> Releases
);

/// <summary>Compares groups of releases, and says so where there are too few.</summary>
/// <remarks>
/// A release is one case, whatever it was seen: views of one release are not independent of each other, so shares of them are drawn by
/// release. Where several groups are each held against the others, each has to be that much surer (Bonferroni), so that one in twenty
/// comparisons, and not one in twenty groups, is wrong.
/// </remarks>
public static class Comparison
{
    /// <summary>Fewer than these tell nothing; <see cref="Middle.Few"/>.</summary>
    public const int Few = Middle.Few;

    /// <summary>The groups, those with the most in front of those with fewer.</summary>
    public static IReadOnlyList<GroupCompared> Of(IReadOnlyList<ReleaseMeasured> releases, MeasuredAs measure)
    {
        var usable = measure == MeasuredAs.OfViews ? [.. releases.Where(r => r.Views > 0)] : releases;
        var names = usable.SelectMany(r => r.Groups).Distinct().ToList();
        // Of two groups, one against the other is all there is.
        var compared = Math.Max(1, names.Count > 2 ? names.Count : 1);
        var sure = 1 - 0.05 / compared;
        return
        [
            .. names
                .Select(name =>
                {
                    var own = usable.Where(r => r.Groups.Contains(name)).ToArray();
                    var others = usable.Where(r => !r.Groups.Contains(name)).ToArray();
                    return new GroupCompared(
                        name,
                        own.Length,
                        Finite(Value(own, measure)),
                        own.Length < Few ? null : Likely(own, measure),
                        own.Length < Few || others.Length < Few ? Verdict.TooFew : Against(own, others, measure, sure),
                        [.. own.Select(r => r.Release)]
                    );
                })
                .OrderBy(g => g.Of < Few)
                .ThenByDescending(g => g.Value)
                .ThenBy(g => g.Name, StringComparer.Ordinal),
        ];
    }

    private static double? Finite(double value) => double.IsFinite(value) ? value : null;

    private static double Value(ReleaseMeasured[] releases, MeasuredAs measure) =>
        releases.Length == 0
            ? double.NaN
            : measure switch
            {
                MeasuredAs.Middle => LeadTimes.Median([.. releases.Select(r => r.Value)]),
                MeasuredAs.OfViews => 100 * releases.Sum(r => r.Value) / releases.Sum(r => r.Views ?? 0),
                _ => 100.0 * releases.Count(r => r.Value > 0) / releases.Length,
            };

    private static Interval? Likely(ReleaseMeasured[] own, MeasuredAs measure)
    {
        var likely =
            measure == MeasuredAs.Any
                ? Hundredfold(Intervals.Wilson(own.Count(r => r.Value > 0), own.Length))
                : Intervals.Bootstrap(own.Length, Drawn(own, measure));
        return double.IsFinite(likely.Low) && double.IsFinite(likely.High) ? likely : null;
    }

    private static Verdict Against(ReleaseMeasured[] own, ReleaseMeasured[] others, MeasuredAs measure, double sure)
    {
        var difference =
            measure == MeasuredAs.Any
                ? Intervals.Difference(
                    (own.Count(r => r.Value > 0), own.Length),
                    (others.Count(r => r.Value > 0), others.Length),
                    Quantile(sure)
                )
                : Intervals.Difference(own.Length, Drawn(own, measure), others.Length, Drawn(others, measure), sure);
        return difference.Low > 0 ? Verdict.More
            : difference.High < 0 ? Verdict.Less
            : Verdict.Same;
    }

    private static Func<int[], double> Drawn(ReleaseMeasured[] releases, MeasuredAs measure) =>
        places => Value([.. places.Select(p => releases[p])], measure);

    private static Interval Hundredfold(Interval share) => new(100 * share.Low, 100 * share.High);

    /// <summary>The normal quantile for a two-sided interval that is so sure (Abramowitz and Stegun, 26.2.23; right to 0.0005).</summary>
    private static double Quantile(double sure)
    {
        var t = Math.Sqrt(-2 * Math.Log((1 - sure) / 2));
        return t - (2.515517 + t * (0.802853 + t * 0.010328)) / (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)));
    }
}

/// <summary>By what releases are told apart.</summary>
public enum ComparedBy
{
    Outlet,
    Format,
    Topic,
    Weekday,
    Title,
    Length,
    Tried,
}

/// <summary>Puts releases into groups.</summary>
public static partial class ReleaseGroups
{
    /// <summary>What the title is: a question, with a number in it, of four words at most, or longer; without what a series numbers it by,
    /// as in <c>Letter 39: Nineteen or eighteen</c>.</summary>
    public static string OfTitle(string title) => KindOf(Running().Replace(title, ""));

    [GeneratedRegex(@"^\p{L}+\.? \d+[:.,] ")]
    private static partial Regex Running();

    private static string KindOf(string title) =>
        title.TrimEnd('”', '"', '’', ')', ' ').EndsWith('?') ? "asks a question"
        : title.Any(char.IsDigit) ? "has a number"
        : title.Split(' ', StringSplitOptions.RemoveEmptyEntries).Length <= 4 ? "four words at most"
        : "five words and more";

    /// <summary>A third of the releases each, by their words.</summary>
    /// <param name="words">The words of all that are compared.</param>
    public static string OfLength(int words, IReadOnlyCollection<int> all)
    {
        var sorted = all.Order().ToList();
        if (sorted.Count < 3)
            return "any length";
        var (low, high) = (sorted[(sorted.Count - 1) / 3], sorted[2 * (sorted.Count - 1) / 3]);
        return words <= low ? $"up to {low} words"
            : words <= high ? $"{low + 1} to {high} words"
            : $"more than {high} words";
    }
}
