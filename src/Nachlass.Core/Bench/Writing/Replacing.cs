using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench.Writing;

/// <summary>How words are looked for.</summary>
public enum SoughtAs
{
    /// <summary>As they stand.</summary>
    Plain,

    /// <summary>As they stand, and only as whole words.</summary>
    Words,

    /// <summary>As a regular expression, whose groups can be put in with <c>$1</c>.</summary>
    Pattern,
}

/// <summary>What is looked for in a draft, and what is put in its place.</summary>
/// <param name="Find">What is looked for.</param>
/// <param name="With">What goes in its place.</param>
/// <param name="MatchCase">Whether capitals matter.</param>
public sealed record Sought(string Find, string With = "", SoughtAs As = SoughtAs.Plain, bool MatchCase = false);

/// <summary>A place that was found.</summary>
/// <param name="From">Where it begins, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
/// <param name="Becomes">What would stand there.</param>
public sealed record FoundPlace(int From, int To, string Becomes);

/// <summary>Finds and replaces in drafts.</summary>
public static class Replacing
{
    public const int LongestSought = 1_000,
        LongestWith = 10_000,
        MostPlaces = 5_000;

    /// <summary>All places in order, none over another, <see cref="MostPlaces"/> at most.</summary>
    /// <exception cref="BadInputException">The pattern is none; says what is wrong with it.</exception>
    public static IReadOnlyList<FoundPlace> In(string text, Sought sought)
    {
        if (sought.Find.Length == 0)
            return [];
        // Without going back no pattern can hold up the program, whatever the text.
        var options = RegexOptions.NonBacktracking | RegexOptions.CultureInvariant | RegexOptions.Multiline;
        if (!sought.MatchCase)
            options |= RegexOptions.IgnoreCase;
        var pattern = sought.As switch
        {
            SoughtAs.Pattern => sought.Find,
            _ => Regex.Escape(sought.Find),
        };
        Regex regex;
        try
        {
            regex = new Regex(pattern, options);
        }
        catch (Exception wrong) when (wrong is ArgumentException or NotSupportedException)
        {
            throw new BadInputException(
                "find",
                wrong is NotSupportedException
                    ? "Patterns here look neither ahead nor back at what they found; say it without (?=…), (?<=…) and \\1."
                    : $"That pattern can't be read: {wrong.Message.Split(" - ")[^1].TrimEnd('.')}."
            );
        }
        var places = new List<FoundPlace>();
        foreach (Match match in regex.Matches(text))
        {
            if (match.Length == 0 || sought.As == SoughtAs.Words && !IsWhole(text, match))
                continue;
            places.Add(
                new FoundPlace(
                    match.Index,
                    match.Index + match.Length,
                    sought.As == SoughtAs.Pattern ? match.Result(sought.With) : sought.With
                )
            );
            if (places.Count == MostPlaces)
                break;
        }
        return places;
    }

    private static bool IsWhole(string text, Match match) =>
        !(match.Index > 0 && IsLetter(text[match.Index - 1]) && IsLetter(text[match.Index]))
        && !(
            match.Index + match.Length < text.Length
            && IsLetter(text[match.Index + match.Length])
            && IsLetter(text[match.Index + match.Length - 1])
        );

    private static bool IsLetter(char c) => char.IsLetterOrDigit(c) || c == '_';

    /// <summary>The text with places replaced.</summary>
    /// <param name="places">In order, none over another.</param>
    public static string Made(string text, IEnumerable<FoundPlace> places)
    {
        var made = new StringBuilder();
        var at = 0;
        foreach (var place in places)
        {
            made.Append(text, at, place.From - at).Append(place.Becomes);
            at = place.To;
        }
        return made.Append(text, at, text.Length - at).ToString();
    }
}
