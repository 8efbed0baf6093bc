using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Figures;

/// <summary>Who said a figure.</summary>
public enum ToldBy
{
    /// <summary>The writer typed it.</summary>
    Hand,

    /// <summary>The outlet told it when it was asked.</summary>
    Outlet,

    /// <summary>It was counted here: on a page of one's own, among the letters sent, or among readers' messages.</summary>
    Here,
}

/// <summary>What an outlet tells of a release: how often something had happened up to the end of a day.</summary>
/// <param name="Name">What is counted, such as <c>views</c>.</param>
/// <param name="Day">The writer's calendar day.</param>
/// <param name="Total">All of it since the release went out, 0 or more.</param>
public sealed record ReleaseFigure(string Name, DateOnly Day, int Total, ToldBy By);

/// <summary>Names and sums of figures.</summary>
public static partial class ReleaseFigures
{
    public const string Views = "views",
        Reads = "reads",
        Replies = "replies",
        Readers = "readers",
        Sent = "sent";

    public const int LongestName = 40,
        Most = 2_000_000_000;

    /// <summary>Whether some words can be the name of a figure.</summary>
    public static bool IsName(string name) =>
        name.Trim().Length is > 0 and <= LongestName && Word().IsMatch(name.Trim().ToLowerInvariant());

    /// <summary>A name as it is kept: small letters, words with one space between them.</summary>
    /// <exception cref="BadInputException">It has none, or is too long.</exception>
    public static string CheckedName(string? name)
    {
        var said = Check.Text("name", name, LongestName).ToLowerInvariant();
        return Word().IsMatch(said)
            ? Space().Replace(said, " ")
            : throw new BadInputException("name", $"“{said}” is no name of a figure; one is of letters and spaces, such as views.");
    }

    /// <summary>
    /// How much there was so many days after a release went out: read off the line through what was told, which begins with nothing on the
    /// day it went out.
    /// </summary>
    /// <param name="told">Of one name, in any order.</param>
    /// <param name="after">Days, 1 or more.</param>
    /// <returns>Null where nothing was told at that age or later, so that nobody knows.</returns>
    public static double? After(IEnumerable<ReleaseFigure> told, DateOnly outOn, int after)
    {
        var (age, total) = (0, 0.0);
        foreach (var one in told.Where(t => t.Day >= outOn).OrderBy(t => t.Day).ThenBy(t => t.Total))
        {
            var then = one.Day.DayNumber - outOn.DayNumber;
            if (then >= after)
                return then == age ? one.Total : total + (one.Total - total) * (after - age) / (then - age);
            (age, total) = (then, one.Total);
        }
        return null;
    }

    [GeneratedRegex(@"^[\p{L}\p{M}][\p{L}\p{M}\p{N} ’'-]*$")]
    private static partial Regex Word();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Space();
}
