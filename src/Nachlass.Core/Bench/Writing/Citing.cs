using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Writing;

/// <summary>How a finished text says where it has something from.</summary>
public enum Citing
{
    /// <summary>Not at all: references fall away or are titles.</summary>
    None,

    /// <summary>Author and year in the text, and the works at the end (ISO 690:2021, name and date).</summary>
    AuthorYear,

    /// <summary>Numbered notes, and the works at the end (ISO 690:2021, running notes).</summary>
    Notes,
}

/// <summary>A work that a text draws on.</summary>
/// <param name="Locator">The place in it: <c>p. 12</c>; empty for the whole.</param>
public sealed record CitedWork(Source Source, string Locator);

/// <summary>Turns references to sources, and to slips that come out of sources, into citations.</summary>
public static partial class Citations
{
    /// <summary>A draft whose references to works are citations, with the works that are really cited listed at its end.</summary>
    /// <param name="markdown">A draft, its slips written out.</param>
    /// <param name="citing">How.</param>
    /// <param name="language">Its language, for the heading of the list.</param>
    /// <param name="work">The work a reference is to; null for any other reference.</param>
    /// <returns>The text as it was when nothing is cited.</returns>
    public static string Written(string markdown, Citing citing, Language language, Func<TextReference, CitedWork?> work)
    {
        if (citing == Citing.None)
            return markdown;
        var cited = new Dictionary<SourceNumber, Source>();
        var letters = Letters(markdown, work);
        var notes = new StringBuilder();
        var count = 0;
        var text = References.Spoken(
            markdown,
            (reference, before) =>
            {
                if (work(reference) is not { } found)
                    return Kept(reference);
                var source = found.Source;
                var isAgain = !cited.TryAdd(source.Number, source);
                // Where the reference does the work of a word, the title stands there and is cited.
                var title = Finished.IsWord(before) ? $"*{source.Title}* " : "";
                if (citing == Citing.AuthorYear)
                    return $"{title}({AuthorYear(source, letters)}{(found.Locator.Length > 0 ? $", {found.Locator}" : "")})";
                var key = $"cited-{++count}";
                var line = isAgain ? $"{Author(source)}, *{Short(source.Title)}*" : Citation.Of(source).TrimEnd('.');
                notes.Append(
                    CultureInfo.InvariantCulture,
                    $"[^{key}]: {line}{(found.Locator.Length > 0 ? $", {found.Locator}" : "")}.\n\n"
                );
                return $"{title.TrimEnd()}[^{key}]";
            }
        );
        if (cited.Count == 0)
            return markdown;
        if (citing == Citing.Notes)
            text = BeforeNote().Replace(text, "$1");
        var list = string.Join("\n", Bibliography.Of(cited.Values).Select(work => $"- {Dated(work.Line, work.Source, citing, letters)}"));
        return $"{text.TrimEnd()}\n\n## {language.Works}\n\n{list}\n\n{notes}";
    }

    /// <summary>As it was written; the finishing says what becomes of it.</summary>
    private static string Kept(TextReference reference) => $"[[{reference.Name}]]";

    /// <summary>Two works of one author and year are told apart by a letter behind the year (ISO 690).</summary>
    private static Dictionary<SourceNumber, string> Letters(string markdown, Func<TextReference, CitedWork?> work) =>
        References
            .In(markdown)
            .Select(work)
            .OfType<CitedWork>()
            .Select(w => w.Source)
            .DistinctBy(s => s.Number)
            .GroupBy(s => $"{Author(s)} {Year(s)}", StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1)
            .SelectMany(g => Bibliography.Of(g).Select((w, at) => (w.Source.Number, Letter: ((char)('a' + at % 26)).ToString())))
            .ToDictionary(w => w.Number, w => w.Letter);

    private static string AuthorYear(Source source, Dictionary<SourceNumber, string> letters)
    {
        var year = Year(source);
        return $"{Author(source)}{(year.Length > 0 ? " " + year : "")}{letters.GetValueOrDefault(source.Number, "")}";
    }

    /// <summary>In a list that is cited by author and year, the letter stands behind the year there too.</summary>
    private static string Dated(string line, Source source, Citing citing, Dictionary<SourceNumber, string> letters)
    {
        var year = Year(source);
        return citing == Citing.AuthorYear && letters.TryGetValue(source.Number, out var letter) && year.Length > 0
            ? ReplaceLast(line, year, year + letter)
            : line;
    }

    private static string ReplaceLast(string text, string what, string with) =>
        text.LastIndexOf(what, StringComparison.Ordinal) is var at and >= 0 ? text[..at] + with + text[(at + what.Length)..] : text;

    /// <summary>The family names of those who made it: two are joined, more are shortened; a short title where there is nobody.</summary>
    public static string Author(Source source) =>
        PersonName.ReadAll(source.Creators).Select(n => n.Family).ToList() switch
        {
            [] => $"*{Short(source.Title)}*",
            [var one] => one,
            [var one, var other] => $"{one} and {other}",
            [var first, ..] => $"{first} et al.",
        };

    /// <summary>The year it is dated to; empty when it is undated.</summary>
    public static string Year(Source source) => FourDigits().Match(source.Date).Value;

    private static string Short(string title)
    {
        var words = title.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words.Length <= 5 ? title : string.Join(' ', words[..5]).TrimEnd(',', '.', ':', ';') + "…";
    }

    [GeneratedRegex(@"\b\d{4}\b")]
    private static partial Regex FourDigits();

    /// <summary>A number stands at its word or sign, without a space.</summary>
    [GeneratedRegex(@"[ \t]+(\[\^cited-\d+\])")]
    private static partial Regex BeforeNote();
}
