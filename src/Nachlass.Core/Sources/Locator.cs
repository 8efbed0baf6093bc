using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Sources;

/// <summary>What a locator counts.</summary>
public enum LocatorKind
{
    Page,
    Folio,
    Chapter,
    Section,
    Paragraph,
    Line,
    Time,
    Other,
}

/// <summary>Where in a source a passage stands.</summary>
/// <param name="Kind">What is counted.</param>
/// <param name="Text">As it is cited: <c>p. 31</c>, <c>ff. 31r–32v</c>, <c>12:40–13:05</c>; as typed when it was not understood.</param>
/// <param name="From">For a time, its start in seconds; for a page, its number.</param>
/// <param name="To">For a time range, its end in seconds.</param>
public sealed partial record Locator(LocatorKind Kind, string Text, int? From = null, int? To = null)
{
    /// <summary>Reads a locator as a person types it; what is not understood is kept as it is.</summary>
    /// <exception cref="BadInputException">A time range ends before it begins.</exception>
    public static Locator Read(string typed)
    {
        var text = string.Join(' ', typed.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        if (Times().Match(text) is { Success: true } time)
            return ReadTime(time);
        if (Counted().Match(text) is not { Success: true } counted)
            return new(LocatorKind.Other, text);
        var (from, to) = (Leaf(counted.Groups["from"].Value), Leaf(counted.Groups["to"].Value));
        var kind = KindOf(counted.Groups["unit"].Value.TrimEnd('.').ToLowerInvariant(), from);
        var (one, many) = kind switch
        {
            LocatorKind.Page => ("p.", "pp."),
            LocatorKind.Folio => ("f.", "ff."),
            LocatorKind.Chapter => ("ch.", "ch."),
            LocatorKind.Section => ("§", "§§"),
            LocatorKind.Paragraph => ("¶", "¶¶"),
            _ => ("l.", "ll."),
        };
        return new(
            kind,
            to.Length > 0 ? $"{many} {from}–{to}" : $"{one} {from}",
            int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null
        );
    }

    private static Locator ReadTime(Match time)
    {
        var (from, to) = (Seconds(time, "from"), time.Groups["to"].Success ? Seconds(time, "to") : (int?)null);
        if (to < from)
            throw new BadInputException("locator", $"The time range ends at {Clock(to.Value)}, before it begins at {Clock(from)}.");
        return new(LocatorKind.Time, to is { } end ? $"{Clock(from)}–{Clock(end)}" : Clock(from), from, to);
    }

    private static int Seconds(Match time, string group) =>
        time.Groups[group].Value.Split(':').Aggregate(0, (sum, part) => sum * 60 + int.Parse(part, CultureInfo.InvariantCulture));

    private static string Clock(int seconds) =>
        seconds >= 3600
            ? string.Create(CultureInfo.InvariantCulture, $"{seconds / 3600}:{seconds / 60 % 60:00}:{seconds % 60:00}")
            : string.Create(CultureInfo.InvariantCulture, $"{seconds / 60}:{seconds % 60:00}");

    /// <summary>A number with its side, if it has one: <c>31 recto</c> is <c>31r</c>.</summary>
    private static string Leaf(string typed) =>
        typed
            .Replace(" ", "", StringComparison.Ordinal)
            .Replace("recto", "r", StringComparison.OrdinalIgnoreCase)
            .Replace("verso", "v", StringComparison.OrdinalIgnoreCase)
            .ToLowerInvariant();

    private static LocatorKind KindOf(string unit, string from) =>
        unit switch
        {
            "f" or "ff" or "fol" or "fols" or "folio" or "folios" => LocatorKind.Folio,
            "ch" or "chap" or "chapter" or "chapters" => LocatorKind.Chapter,
            "§" or "§§" or "sec" or "section" or "sections" => LocatorKind.Section,
            "¶" or "¶¶" or "par" or "para" or "paragraph" or "paragraphs" => LocatorKind.Paragraph,
            "l" or "ll" or "line" or "lines" => LocatorKind.Line,
            // Only leaves have sides.
            _ => char.IsLetter(from[^1]) ? LocatorKind.Folio : LocatorKind.Page,
        };

    /// <summary>
    /// The address of the very place, where the source's address can say it: a time as a media fragment (W3C, Media Fragments
    /// URI 1.0, section 4.2.1), a page of a PDF file as <c>page=</c> (RFC 8118).
    /// </summary>
    /// <returns>Null when the address can't say it, or is none of the web.</returns>
    public string? In(string address)
    {
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            return null;
        var bare = uri.GetComponents(UriComponents.AbsoluteUri & ~UriComponents.Fragment, UriFormat.UriEscaped);
        return Kind switch
        {
            LocatorKind.Time => To is { } to ? $"{bare}#t={From},{to}" : $"{bare}#t={From}",
            LocatorKind.Page when From is { } page && uri.AbsolutePath.EndsWith(".pdf", StringComparison.OrdinalIgnoreCase) =>
                $"{bare}#page={page}",
            _ => null,
        };
    }

    [GeneratedRegex(
        @"^(?:at\s+|t\s*=?\s*)?(?<from>(?:\d{1,2}:)?\d{1,3}:[0-5]\d)(?:\s*(?:-|–|—|to)\s*(?<to>(?:\d{1,2}:)?\d{1,3}:[0-5]\d))?$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Times();

    [GeneratedRegex(
        """
            ^(?<unit>pp?\.?|pages?|ff?\.?|fols?\.?|folios?|ch(?:ap)?\.?|chapters?|§§?|sec\.?|sections?
            |¶¶?|par(?:a)?\.?|paragraphs?|ll?\.?|lines?)?
            \s*(?<from>\d{1,6}\s?(?:r|v|recto|verso)?)(?:\s*(?:-|–|—|to)\s*(?<to>\d{1,6}\s?(?:r|v|recto|verso)?))?$
            """,
        RegexOptions.IgnoreCase | RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Counted();
}

/// <summary>A passage as it is written down in one line: its locator before or behind it.</summary>
public static partial class PassageLine
{
    /// <summary>Takes a line apart. A locator that was not understood is no locator and stays in the text; nor is a bare number, which may
    /// be a year.</summary>
    /// <returns>The text, and the locator or an empty one.</returns>
    public static (string Text, string Locator) Read(string line)
    {
        foreach (var pattern in (Regex[])[Before(), Behind()])
            if (
                pattern.Match(line.Trim()) is { Success: true } found
                && !BareNumber().IsMatch(found.Groups["where"].Value)
                && Locator.Read(found.Groups["where"].Value) is { Kind: not LocatorKind.Other } locator
            )
                return (found.Groups["text"].Value.Trim(), locator.Text);
        return (line.Trim(), "");
    }

    [GeneratedRegex(@"^[\d\s–—-]+$")]
    private static partial Regex BareNumber();

    // "p. 31: what it says", "12:40–13:05 “You never asked who it was.”": a colon or a quotation mark ends the locator.
    [GeneratedRegex(@"^(?<where>[^“""„«\n]{1,40}?)(?::\s+|\s+(?=[“""„«]))(?<text>.+)$", RegexOptions.Singleline)]
    private static partial Regex Before();

    [GeneratedRegex(
        @"^(?<text>.+?)\s*(?:\((?<where>[^()\n]{1,40})\)|,\s+(?<where>(?:pp?|ff?)\.\s*\d[^,\n]{0,20}))$",
        RegexOptions.Singleline
    )]
    private static partial Regex Behind();
}

/// <summary>Links to the words themselves in a web page.</summary>
public static class TextFragment
{
    private const int Whole = 8;
    private const int Ends = 4;

    /// <summary>
    /// The address that leads a browser to a quotation (WICG, URL Fragment Text Directives): the whole of a short one, the first
    /// and last words of a longer one.
    /// </summary>
    /// <returns>Null when the address is none of the web or nothing is quoted.</returns>
    public static string? Of(string quotation, string address)
    {
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            return null;
        // What the writer put around the words, and behind them, is not in the page; nor are the marks of Markdown.
        quotation = PlainText.Of(quotation);
        var close = quotation.IndexOfAny(['”', '»', '"'], Math.Min(1, quotation.Length));
        var inside = (close > 0 ? quotation[..close] : quotation).Trim(' ', '“', '”', '"', '„', '«', '»', '>', '\n');
        var words = inside.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0)
            return null;
        var bare = uri.GetComponents(UriComponents.AbsoluteUri & ~UriComponents.Fragment, UriFormat.UriEscaped);
        return words.Length <= Whole
            ? $"{bare}#:~:text={Escape(words)}"
            : $"{bare}#:~:text={Escape(words[..Ends])},{Escape(words[^Ends..])}";
    }

    // A hyphen would be read as part of the directive.
    private static string Escape(string[] words) =>
        Uri.EscapeDataString(string.Join(' ', words)).Replace("-", "%2D", StringComparison.Ordinal);
}
