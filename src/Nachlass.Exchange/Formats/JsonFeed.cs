using System.Globalization;
using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>JSON Feed 1.0 and 1.1 (jsonfeed.org): each item a slip that points to its page, with the page's text as far as the feed gives
/// it.</summary>
public sealed class JsonFeed : IFormat
{
    private const string Sign = "jsonfeed.org/version/1";

    private static readonly JsonDocumentOptions Options = new() { MaxDepth = 32, AllowTrailingCommas = true };

    public string Key => "jsonfeed";
    public string Name => "Feed (JSON Feed)";

    public bool Recognises(InFile file, string start) =>
        start.TrimStart().StartsWith('{') && start.Contains(Sign, StringComparison.Ordinal);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        using var document = Parsed(file);
        var root = document.RootElement;
        if (
            root.ValueKind != JsonValueKind.Object
            || !Word(root, "version").Contains(Sign, StringComparison.Ordinal)
            || !root.TryGetProperty("items", out var items)
            || items.ValueKind != JsonValueKind.Array
        )
            throw new UnreadableFileException(file.Name, "it is no JSON Feed: it has no version and list of items.");
        var whole = new Feed.Whole(Word(root, "title"), Authors(root), Word(root, "language"));
        var number = 0;
        foreach (var item in items.EnumerateArray())
            yield return item.ValueKind == JsonValueKind.Object
                ? Of(item, ++number, whole)
                : new Found.Unread(++number, "it is no object with fields.", "");
    }

    private static JsonDocument Parsed(InFile file)
    {
        try
        {
            using var reader = TextIn.Open(file);
            return JsonDocument.Parse(reader.ReadToEnd(), Options);
        }
        catch (JsonException error)
        {
            throw new UnreadableFileException(file.Name, $"it is no JSON ({error.Message})");
        }
    }

    private static Found Of(JsonElement item, int number, Feed.Whole whole)
    {
        var html = Word(item, "content_html");
        var text = html.Length > 0 ? HtmlText.Markdown(html) : WordsAsMarkdown.Of(Word(item, "content_text"));
        var about = WordsAsMarkdown.Of(Word(item, "summary"));
        var left = new LeftOut();
        foreach (var file in Each(item, "attachments"))
            left.Add("the file", Word(file, "url"));
        var address = Word(item, "url") is { Length: > 0 } url ? url : Word(item, "external_url");
        if (address.Length == 0 && Word(item, "id") is var id && id.StartsWith("http", StringComparison.OrdinalIgnoreCase))
            address = id;
        return Feed.One(
            number,
            whole,
            new Feed.Entry(
                Word(item, "title"),
                about.Length > 0 ? about : text,
                text.Length > 0 ? text : about,
                Uri.TryCreate(address, UriKind.Absolute, out var web) && web.Scheme is "http" or "https" ? address : ""
            )
            {
                Authors = Authors(item),
                Date = Date(Word(item, "date_published")) ?? Date(Word(item, "date_modified")),
                Topics =
                    item.TryGetProperty("tags", out var tags) && tags.ValueKind == JsonValueKind.Array
                        ? [.. tags.EnumerateArray().Where(t => t.ValueKind == JsonValueKind.String).Select(t => t.GetString()!.Trim())]
                        : [],
            },
            Word(item, "id"),
            left
        );
    }

    /// <summary>Version 1.1 has a list of authors, 1.0 had one.</summary>
    private static string Authors(JsonElement of)
    {
        var authors = Each(of, "authors").ToList();
        if (authors.Count == 0 && of.TryGetProperty("author", out var only) && only.ValueKind == JsonValueKind.Object)
            authors.Add(only);
        return string.Join("; ", authors.Select(a => Word(a, "name")).Where(name => name.Length > 0));
    }

    private static IEnumerable<JsonElement> Each(JsonElement of, string name) =>
        of.TryGetProperty(name, out var list) && list.ValueKind == JsonValueKind.Array
            ? list.EnumerateArray().Where(one => one.ValueKind == JsonValueKind.Object)
            : [];

    /// <summary>RFC 3339.</summary>
    private static DateTimeOffset? Date(string written) =>
        DateTimeOffset.TryParse(written, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var read) && read.Year > 1900
            ? read
            : null;

    /// <summary>An id may be a number in feeds of the wild.</summary>
    private static string Word(JsonElement of, string name) =>
        !of.TryGetProperty(name, out var value) ? ""
        : value.ValueKind == JsonValueKind.String ? value.GetString()!.Trim()
        : value.ValueKind == JsonValueKind.Number ? value.GetRawText()
        : "";
}
