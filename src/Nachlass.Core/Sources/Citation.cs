using System.Text;
using Nachlass.Core.Text;

namespace Nachlass.Core.Sources;

/// <summary>
/// A source as it is cited, in Markdown. Elements and their order follow ISO 690:2021 for bibliographic references (creators,
/// title, container, edition, place and publisher, date, numeration, identifiers, location).
/// </summary>
public static class Citation
{
    /// <summary>One line that names the source; elements it does not have are left out.</summary>
    public static string Of(Source source)
    {
        var isPart =
            source.Container.Length > 0
            && source.Type is SourceType.Book or SourceType.Article or SourceType.Page or SourceType.Podcast or SourceType.Thread;
        var parts = new List<string>
        {
            Names(source.Creators),
            isPart ? $"“{source.Title.TrimEnd('.')}”" : $"*{source.Title.TrimEnd('.')}*" + Sort(source),
        };
        if (source.Container.Length > 0)
            parts.Add(isPart ? $"In: *{source.Container}*" : source.Container);
        if (Field("interviewer") is { Length: > 0 } asked)
            parts.Add("Asked by " + Spoken(asked));
        if (Field("recipient") is { Length: > 0 } to)
            parts.Add("To " + Spoken(to));
        if (Field("editor") is { Length: > 0 } editor)
            parts.Add("Ed. " + Spoken(editor));
        if (Field("translator") is { Length: > 0 } translator)
            parts.Add("Transl. " + Spoken(translator));
        if (Field("edition") is { Length: > 0 } edition)
            parts.Add(edition.EndsWith("ed.", StringComparison.Ordinal) ? edition : edition + " ed.");
        parts.Add(Join(", ", Join(": ", Field("publisher-place"), Field("publisher")), Field("event-place"), source.Date));
        parts.Add(
            Join(
                ", ",
                Join(
                    "",
                    Field("volume") is { Length: > 0 } volume ? "vol. " + volume : "",
                    Field("issue") is { Length: > 0 } issue ? $"({issue})" : ""
                ),
                Field("number") is { Length: > 0 } number ? "episode " + number : "",
                Field("page") is { Length: > 0 } page ? (page.All(char.IsAsciiDigit) ? "p. " : "pp. ") + page : "",
                Field("dimensions")
            )
        );
        parts.Add(Join(", ", Field("archive"), Field("archive-place"), Field("archive_location")));
        foreach (var key in (string[])["ISBN", "ISSN", "DOI"])
            if (Field(key) is { Length: > 0 } identifier)
                parts.Add($"{key} {identifier}");
        if (source.Address.Length > 0)
            parts.Add($"Available from: <{source.Address}>" + (Field("accessed") is { Length: > 0 } seen ? $" [seen {seen}]" : ""));
        return string.Join(
            ' ',
            parts.Where(part => part.Length > 0).Select(part => part.TrimEnd('*', '”')[^1] is '.' or '?' or '!' ? part : part + ".")
        );

        string Field(string key) => source.Details.GetValueOrDefault(key, "");
    }

    private static string Sort(Source source) =>
        source.Details.GetValueOrDefault("medium", source.Details.GetValueOrDefault("genre", "")) is { Length: > 0 } sort
            ? $" [{sort}]"
            : "";

    /// <summary>The first name is turned, so that a list is sorted by what stands first; the others are as spoken.</summary>
    private static string Names(string creators)
    {
        var names = PersonName.ReadAll(creators).Select((name, i) => i == 0 ? name.Sorted : name.Spoken).ToList();
        return names.Count < 2 ? Join("", [.. names]) : string.Join(", ", names[..^1]) + " and " + names[^1];
    }

    private static string Spoken(string names) => string.Join(", ", PersonName.ReadAll(names).Select(name => name.Spoken));

    private static string Join(string between, params ReadOnlySpan<string> parts)
    {
        var text = new StringBuilder();
        foreach (var part in parts)
            if (part.Length > 0)
                text.Append(text.Length > 0 ? between : "").Append(part);
        return text.ToString();
    }
}

/// <summary>Sources as a list at the end of a text.</summary>
public static class Bibliography
{
    /// <summary>The citation lines, sorted by the first creator, or the title where there is none, then by date.</summary>
    public static IReadOnlyList<(Source Source, string Line)> Of(IEnumerable<Source> sources)
    {
        return
        [
            .. sources
                .OrderBy(First, StringComparer.Ordinal)
                .ThenBy(s => s.Date, StringComparer.Ordinal)
                .ThenBy(s => Sorted(s.Title), StringComparer.Ordinal)
                .Select(s => (s, Citation.Of(s))),
        ];
    }

    /// <summary>By its letters only, whatever their case and accents.</summary>
    private static string Sorted(string text) => new([.. Stems.Fold(text).Where(c => char.IsLetterOrDigit(c) || c == ' ')]);

    private static readonly string[] Articles = ["the ", "a ", "an "];

    private static string First(Source source)
    {
        if (PersonName.ReadAll(source.Creators) is [var name, ..])
            return Sorted(name.Sorted);
        var article = Array.Find(Articles, a => source.Title.StartsWith(a, StringComparison.OrdinalIgnoreCase));
        return Sorted(source.Title[(article?.Length ?? 0)..]);
    }
}
