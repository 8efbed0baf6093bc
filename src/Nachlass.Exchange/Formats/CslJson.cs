using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>CSL-JSON, the input data of the Citation Style Language 1.0.2.</summary>
public sealed partial class CslJson : IFormat
{
    private static readonly HashSet<string> Names = ["editor", "translator", "interviewer", "recipient"];
    private static readonly HashSet<string> Dates = ["accessed", "original-date"];

    /// <summary>Variables that have a place beside the fields of the forms, or say nothing a writer would miss.</summary>
    private static readonly HashSet<string> Placed =
    [
        "id",
        "citation-key",
        "type",
        "title",
        "author",
        "container-title",
        "issued",
        "URL",
        "language",
        "note",
        "annote",
        "abstract",
        "keyword",
    ];

    public string Key => "csljson";
    public string Name => "References (CSL-JSON)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".csljson"
        || (
            file.Extension is ".json" or ""
            && start.StartsWith('[')
            && start.Contains("\"type\"", StringComparison.Ordinal)
            && start.Contains("\"title\"", StringComparison.Ordinal)
            && (
                start.Contains("\"issued\"", StringComparison.Ordinal)
                || start.Contains("\"container-title\"", StringComparison.Ordinal)
                || start.Contains("\"family\"", StringComparison.Ordinal)
                || start.Contains("\"literal\"", StringComparison.Ordinal)
            )
        );

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        JsonNode? root;
        try
        {
            root = JsonNode.Parse(TextIn.Whole(file), null, new JsonDocumentOptions { MaxDepth = 32 });
        }
        catch (JsonException error)
        {
            throw new UnreadableFileException(file.Name, $"it is no JSON (line {error.LineNumber + 1}).");
        }
        if (root is not JsonArray items)
            throw new UnreadableFileException(file.Name, "it is no list of references.");
        var number = 0;
        foreach (var item in items)
        {
            number++;
            yield return item is JsonObject fields
                ? One(number, fields)
                : new Found.Unread(number, "this is no reference.", item?.ToJsonString() ?? "null");
        }
    }

    private static Found One(int number, JsonObject item)
    {
        var title = Word(item, "title");
        if (title.Length == 0)
            return new Found.Unread(number, "this reference has no title.", item.ToJsonString());
        var details = new Dictionary<string, string>();
        var left = new LeftOut();
        foreach (var (key, value) in item)
            if (SourceForms.Has(key))
                details[key] =
                    Dates.Contains(key) ? Date(value)
                    : Names.Contains(key) ? Creators(value)
                    : Word(item, key);
            else if (!Placed.Contains(key))
                left.Add(
                    key,
                    value is JsonArray { Count: > 0 } list && list[0] is JsonObject ? Creators(value)
                        : value is JsonObject ? Date(value)
                        : Word(item, key)
                );
        if (item["issued"] is JsonObject { } issued)
            foreach (var part in (string[])["season", "circa"])
                left.Add(part, Word(issued, part) is "true" or "1" && part == "circa" ? "about" : Word(issued, part));
        var said = Word(item, "genre") is "thread" ? "post" : Word(item, "type");
        return References.Source(
            number,
            new FoundSource(Words(title))
            {
                Type = SourceForms.TypeOf(said),
                Creators = Creators(item["author"]),
                Container = Words(Word(item, "container-title")),
                Date = Date(item["issued"]),
                Address = Word(item, "URL"),
                Language = Word(item, "language"),
                Comments = Word(item, "note"),
                Summary = Word(item, "annote"),
                Text = Word(item, "abstract"),
                Topics = ColumnMapping.Topics(Word(item, "keyword")),
            },
            details,
            left
        );
    }

    private static string Word(JsonObject item, string key) =>
        item[key] switch
        {
            JsonValue value when value.TryGetValue<string>(out var text) => text.Trim(),
            JsonValue value => value.ToJsonString(),
            JsonArray list => string.Join("; ", list.Select(v => v?.ToString())),
            _ => "",
        };

    private static string Creators(JsonNode? names)
    {
        if (names is not JsonArray list)
            return "";
        return string.Join("; ", list.OfType<JsonObject>().Select(name => Person(name).Written).Where(n => n.Length > 0));
    }

    /// <summary>A name in its parts (CSL 1.0.2, Names): a dropping particle goes with the given names, the other with the family.</summary>
    private static PersonName Person(JsonObject name)
    {
        string Part(params string[] keys) => string.Join(' ', keys.Select(key => Word(name, key)).Where(part => part.Length > 0));
        if (Word(name, "literal") is { Length: > 0 } literal)
            return new PersonName(literal, "");
        var (family, given) = (Part("non-dropping-particle", "family"), Part("given", "dropping-particle"));
        if (Word(name, "suffix") is { Length: > 0 } suffix)
            given = given.Length > 0 ? $"{given}, {suffix}" : suffix;
        return family.Length > 0 ? new PersonName(family, given) : new PersonName(given, "");
    }

    /// <summary>A title without the few tags that the input data of CSL may hold (citeproc: rich text within fields).</summary>
    private static string Words(string title) => Tags().Replace(title, "");

    /// <summary>A title whose words only look like such tags, so that they stay words.</summary>
    private static string AsWords(string title) => Tags().Replace(title, tag => $"<span class=\"nocase\"><</span>{tag.Value[1..]}");

    [GeneratedRegex("""</?(?:i|b|sc|sup|sub)>|<span\s[^<>]*>|</span>""")]
    private static partial Regex Tags();

    private static string Date(JsonNode? date)
    {
        if (date is not JsonObject fields)
            return date is JsonValue value ? value.ToString() : "";
        if (fields["date-parts"] is JsonArray { Count: > 0 } ranges)
            return string.Join(
                '/',
                ranges
                    .OfType<JsonArray>()
                    .Select(parts =>
                        string.Join(
                            '-',
                            parts.Select(
                                (p, i) =>
                                    int.TryParse(p?.ToString(), NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var n)
                                        ? n.ToString(i == 0 ? "0000" : "00", CultureInfo.InvariantCulture)
                                        : ""
                            )
                        )
                    )
            );
        return Word(fields, "raw") is { Length: > 0 } raw ? raw : Word(fields, "literal");
    }

    /// <summary>Writes sources as a list that <see cref="Read"/> gives back.</summary>
    public static string Write(IEnumerable<Source> sources)
    {
        var items = new JsonArray();
        foreach (var source in sources)
        {
            var item = new JsonObject
            {
                ["id"] = $"source-{source.Number}",
                ["type"] = source.Type == SourceType.Book && source.Container.Length > 0 ? "chapter" : SourceForms.Of(source.Type).Csl,
                ["title"] = AsWords(source.Title),
            };
            Put("author", source.Creators.Length == 0 ? null : NamesOf(source.Creators));
            Put("container-title", Text(AsWords(source.Container)));
            Put("issued", DateOf(source.Date));
            Put("URL", Text(source.Address));
            Put("language", Text(source.Language));
            foreach (var (key, value) in source.Details)
                Put(
                    key,
                    Dates.Contains(key) ? DateOf(value)
                        : Names.Contains(key) ? NamesOf(value)
                        : Text(value)
                );
            Put("keyword", Text(string.Join("; ", source.Topics.Select(t => t.Name))));
            Put("note", Text(source.Comments));
            Put("annote", Text(source.Summary));
            items.Add((JsonNode)item);

            void Put(string key, JsonNode? value)
            {
                if (value is not null)
                    item[key] = value;
            }
        }
        return items.ToJsonString(
                new JsonSerializerOptions
                {
                    WriteIndented = true,
                    NewLine = "\n",
                    Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                }
            ) + "\n";
    }

    private static JsonValue? Text(string value) => value.Length == 0 ? null : JsonValue.Create(value);

    private static JsonArray NamesOf(string names) =>
        [
            .. PersonName
                .ReadAll(names)
                .Select(name =>
                {
                    if (name.Given.Length == 0)
                        return (JsonNode)new JsonObject { ["literal"] = name.Family };
                    var written = new JsonObject { ["family"] = name.Family, ["given"] = name.Given };
                    if (name.Given.LastIndexOf(", ", StringComparison.Ordinal) is var at and > 0)
                        (written["given"], written["suffix"]) = (name.Given[..at], name.Given[(at + 2)..]);
                    return written;
                }),
        ];

    private static JsonObject? DateOf(string date)
    {
        if (date.Length == 0)
            return null;
        var parts = date.Split('-');
        return
            parts.Length <= 3 && parts[0].Length == 4 && parts.Skip(1).All(p => p.Length == 2) && parts.All(p => p.All(char.IsAsciiDigit))
            ? new JsonObject
            {
                ["date-parts"] = new JsonArray(new JsonArray([.. parts.Select(p => (JsonNode)int.Parse(p, CultureInfo.InvariantCulture))])),
            }
            : new JsonObject { ["literal"] = date };
    }
}

/// <summary>What the formats for references have in common.</summary>
internal static class References
{
    /// <summary>A source with its fields, as far as they can be taken: a mistyped number with a check digit is doubtful and kept as a
    /// comment.</summary>
    public static Found Source(int line, FoundSource source, IReadOnlyDictionary<string, string> details, LeftOut left)
    {
        var kept = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var (key, value) in details)
        {
            if (value.Trim().Length == 0)
                continue;
            try
            {
                kept[key] = SourceDetails.Checked(key, value.Trim());
            }
            catch (BadInputException error)
            {
                left.Doubt(error.Message.TrimEnd('.'));
                source = source with { Comments = (source.Comments + $"\n\n{key} as it came: {value.Trim()}").Trim() };
            }
        }
        if (source.Address.Length > 0 && !(Uri.TryCreate(source.Address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https"))
        {
            left.Doubt($"its address, “{source.Address}”, is none of the web and was left out");
            source = source with { Address = "" };
        }
        return new Found.OfSource(line, source with { Details = kept }) { Doubt = left.Said };
    }
}
