using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>JSON: a list of objects, or an object that holds one; also one object a line. The fields are its columns.</summary>
public sealed class JsonTable : IFormat, ITable
{
    private static readonly JsonSerializerOptions Options = new() { MaxDepth = 32, AllowTrailingCommas = true };

    public string Key => "json";
    public string Name => "JSON";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".json" or ".jsonl" or ".ndjson" || (file.Extension is "" && start.StartsWith("[{", StringComparison.Ordinal));

    public IReadOnlyList<string> Columns(InFile file)
    {
        var columns = new List<string>();
        foreach (var (_, item) in Items(file).Take(200))
            if (item is { ValueKind: JsonValueKind.Object } fields)
                foreach (var field in fields.EnumerateObject())
                    if (!columns.Contains(field.Name) && columns.Count < 200)
                        columns.Add(field.Name);
        return columns;
    }

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var mapping = ColumnMapping.For(Columns(file), how.Tables);
        foreach (var (number, item) in Items(file))
        {
            if (item is not { } value)
                yield return new Found.Unread(number, "this line is no JSON.", "");
            else if (value.ValueKind == JsonValueKind.String)
                yield return PlainList.Reading(number, value.GetString()!, [], how.Today);
            else if (value.ValueKind != JsonValueKind.Object)
                yield return new Found.Unread(number, "it is no object with fields.", Short(value.GetRawText()));
            else
                yield return mapping.Row(number, Short(value.GetRawText()), column => Word(value, column));
        }
    }

    private static string Word(JsonElement item, string column) =>
        !item.TryGetProperty(column, out var value)
            ? ""
            : value.ValueKind switch
            {
                JsonValueKind.String => value.GetString()!,
                JsonValueKind.Array => string.Join(
                    "; ",
                    value.EnumerateArray().Select(v => v.ValueKind == JsonValueKind.String ? v.GetString() : v.GetRawText())
                ),
                JsonValueKind.Null or JsonValueKind.Undefined or JsonValueKind.Object => "",
                _ => value.GetRawText(),
            };

    private static string Short(string raw) => raw.Length > 4_000 ? raw[..4_000] : raw;

    /// <summary>The items with their place: the line in a file of one object a line, else counted from 1. A list is read as it streams
    /// by.</summary>
    private static IEnumerable<(int Number, JsonElement? Item)> Items(InFile file)
    {
        var start = TextIn.Start(file);
        if (file.Extension is ".jsonl" or ".ndjson")
        {
            foreach (var (number, line) in TextIn.Lines(file))
                if (line.Trim().Length > 0)
                    yield return (number, Parse(line));
            yield break;
        }
        if (start.StartsWith('['))
        {
            using var reader = TextIn.Open(file);
            reader.Peek();
            var encoding = reader.CurrentEncoding;
            reader.BaseStream.Position =
                encoding.GetPreamble() is { Length: > 0 } mark && StartsWith(reader.BaseStream, mark) ? mark.Length : 0;
            using var utf8 = Encoding.CreateTranscodingStream(reader.BaseStream, encoding, Encoding.UTF8, leaveOpen: true);
            using var items = JsonSerializer.DeserializeAsyncEnumerable<JsonElement>(utf8, Options).ToBlockingEnumerable().GetEnumerator();
            for (var number = 1; Next(file, items, number); number++)
                yield return (number, items.Current);
            yield break;
        }
        var root = Parse(TextIn.Whole(file)) ?? throw new UnreadableFileException(file.Name, "it is no JSON.");
        var list =
            root.ValueKind != JsonValueKind.Object
                ? default
                : root.EnumerateObject()
                    .Where(f => f.Value.ValueKind == JsonValueKind.Array)
                    .OrderByDescending(f => f.Value.GetArrayLength())
                    .FirstOrDefault()
                    .Value;
        if (list.ValueKind != JsonValueKind.Array)
            throw new UnreadableFileException(file.Name, "there is no list in it.");
        var place = 0;
        foreach (var item in list.EnumerateArray())
            yield return (++place, item);
    }

    private static bool StartsWith(Stream stream, byte[] mark)
    {
        stream.Position = 0;
        var head = new byte[mark.Length];
        return stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) == head.Length && head.AsSpan().SequenceEqual(mark);
    }

    private static bool Next(InFile file, IEnumerator<JsonElement> items, int number)
    {
        try
        {
            return TextIn.Guarded(file.Name, items.MoveNext);
        }
        catch (JsonException error)
        {
            throw new UnreadableFileException(file.Name, $"it is no JSON from item {number} on (line {error.LineNumber + 1}).");
        }
    }

    private static JsonElement? Parse(string text)
    {
        try
        {
            return JsonSerializer.Deserialize<JsonElement>(text, Options);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>Writes slips as a list of objects that <see cref="Read"/> gives back.</summary>
    public static void Write(Stream into, IEnumerable<(Slip Slip, Core.Sources.Source? Source)> slips)
    {
        using var json = new Utf8JsonWriter(
            into,
            new JsonWriterOptions
            {
                Indented = true,
                NewLine = "\n",
                Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            }
        );
        json.WriteStartArray();
        foreach (var (slip, source) in slips)
        {
            json.WriteStartObject();
            foreach (var (column, value) in SlipTable.Row(slip, source))
            {
                if (value.Length == 0)
                    continue;
                json.WriteString(column, value);
            }
            json.WriteEndObject();
        }
        json.WriteEndArray();
    }
}
