using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Catalogue;

/// <summary>What a year is reviewed by: a release with what is known of its piece.</summary>
/// <param name="Format">Name of the piece's format.</param>
/// <param name="Outlet">Name of the outlet; empty where none was said.</param>
/// <param name="Topics">The topics of the piece.</param>
/// <param name="BuiltOnBy">Later pieces whose drafts refer to it.</param>
public sealed record YearEntry(
    Release Release,
    string Format,
    string Outlet,
    IReadOnlyList<TopicMark> Topics,
    IReadOnlyList<PieceNumber> BuiltOnBy
);

/// <summary>How often something went out in a year, and in the year before.</summary>
public sealed record YearCount(string Name, int Releases, int Before);

/// <summary>A release that a year is remembered by, and why.</summary>
/// <param name="Why">What it is, in a few words: the longest, built on most.</param>
/// <param name="Figure">The figure that makes it that, in words.</param>
public sealed record YearMark(string Why, string Figure, ReleaseNumber Release, PieceNumber Piece, string Title, DateOnly OutOn);

/// <summary>Days in a row on which nothing went out, from the release before them.</summary>
public sealed record YearQuiet(DateOnly From, int Days);

/// <summary>A year of releases.</summary>
/// <param name="Months">Releases by month, twelve of them.</param>
/// <param name="Quiet">The longest time without a release, of two weeks or more; null for none.</param>
public sealed record YearReviewed(
    int Year,
    int Releases,
    int Pieces,
    int Words,
    int ReleasesBefore,
    int WordsBefore,
    IReadOnlyList<int> Months,
    IReadOnlyList<YearCount> Outlets,
    IReadOnlyList<YearCount> Formats,
    IReadOnlyList<YearCount> Topics,
    IReadOnlyList<string> NewTopics,
    YearQuiet? Quiet,
    IReadOnlyList<YearMark> Marks
);

/// <summary>Reviews a year from what went out in it.</summary>
public static class YearInReview
{
    private const int MostTopics = 12,
        FewestForQuiet = 14;

    /// <param name="entries">All releases there are, of any year.</param>
    /// <param name="year">The year, by the writer's calendar.</param>
    public static YearReviewed Of(IReadOnlyList<YearEntry> entries, int year)
    {
        var now = entries
            .Where(e => e.Release.OutOn.Year == year)
            .OrderBy(e => e.Release.OutOn)
            .ThenBy(e => e.Release.Number.Value)
            .ToList();
        var before = entries.Where(e => e.Release.OutOn.Year == year - 1).ToList();
        var earlier = entries.Where(e => e.Release.OutOn.Year < year).SelectMany(e => e.Topics).Select(t => t.Number).ToHashSet();
        var days = now.Select(e => e.Release.OutOn).Distinct().ToList();
        var quiet = days.Zip(days.Skip(1), (a, b) => new YearQuiet(a, b.DayNumber - a.DayNumber))
            .Where(q => q.Days >= FewestForQuiet)
            .OrderByDescending(q => q.Days)
            .ThenBy(q => q.From)
            .FirstOrDefault();
        return new YearReviewed(
            year,
            now.Count,
            now.Select(e => e.Release.Piece).Distinct().Count(),
            Words(now),
            before.Count,
            Words(before),
            [.. Enumerable.Range(1, 12).Select(month => now.Count(e => e.Release.OutOn.Month == month))],
            Counted(e => [e.Outlet]),
            Counted(e => [e.Format]),
            [.. Counted(e => e.Topics.Select(t => t.Name)).Take(MostTopics)],
            [.. now.SelectMany(e => e.Topics).Where(t => !earlier.Contains(t.Number)).Select(t => t.Name).Distinct()],
            quiet,
            Marks(now)
        );

        IReadOnlyList<YearCount> Counted(Func<YearEntry, IEnumerable<string>> by)
        {
            var then = before.SelectMany(by).Where(n => n.Length > 0).CountBy(n => n).ToDictionary();
            return
            [
                .. now.SelectMany(by)
                    .Where(n => n.Length > 0)
                    .CountBy(n => n)
                    .Select(c => new YearCount(c.Key, c.Value, then.GetValueOrDefault(c.Key)))
                    .OrderByDescending(c => c.Releases)
                    .ThenBy(c => c.Name, StringComparer.Ordinal),
            ];
        }
    }

    /// <summary>Words of what was written: a piece that went out in several places counts once.</summary>
    private static int Words(IEnumerable<YearEntry> entries) => entries.GroupBy(e => e.Release.Piece).Sum(g => g.Max(e => e.Release.Words));

    private static List<YearMark> Marks(List<YearEntry> now)
    {
        if (now.Count == 0)
            return [];
        var marks = new List<YearMark> { Mark("the first", "", now[0]) };
        if (now.Count > 1)
            marks.Add(Mark("the latest", "", now[^1]));
        if (now.Count > 2)
        {
            var longest = now.MaxBy(e => e.Release.Words)!;
            marks.Add(Mark("the longest", $"{longest.Release.Words:N0} words", longest));
            var shortest = now.MinBy(e => e.Release.Words)!;
            marks.Add(Mark("the shortest", $"{shortest.Release.Words:N0} words", shortest));
        }
        if (now.MaxBy(e => e.BuiltOnBy.Count) is { BuiltOnBy.Count: > 0 } most)
            marks.Add(
                Mark("built on most", most.BuiltOnBy.Count == 1 ? "by one later piece" : $"by {most.BuiltOnBy.Count} later pieces", most)
            );
        return marks;
    }

    private static YearMark Mark(string why, string figure, YearEntry e) =>
        new(why, figure, e.Release.Number, e.Release.Piece, e.Release.Title, e.Release.OutOn);
}
