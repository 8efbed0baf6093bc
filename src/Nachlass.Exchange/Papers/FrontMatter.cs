using System.Globalization;
using Nachlass.Core.Text;
using YamlDotNet.Core;
using YamlDotNet.RepresentationModel;

namespace Nachlass.Exchange.Papers;

/// <summary>A file of the papers can't be read.</summary>
/// <param name="file">Its name in the zip or folder.</param>
/// <param name="reason">Why, in a sentence.</param>
public sealed class UnreadableFileException(string file, string reason) : Core.Papers.RefusedException($"{file}: {reason}")
{
    public string File { get; } = file;

    /// <summary>What is wrong with it, without its name.</summary>
    public string Reason { get; } = reason;
}

/// <summary>A Markdown file with YAML front matter: fields between two lines of three hyphens, then the text.</summary>
public sealed class FrontMatter
{
    private readonly string file;
    private readonly Dictionary<string, YamlNode> fields = [];

    private FrontMatter(string file, string text)
    {
        this.file = file;
        Text = text;
    }

    /// <summary>What stands under the fields, without the final line end.</summary>
    public string Text { get; }

    /// <exception cref="UnreadableFileException">The front matter is missing or not YAML.</exception>
    public static FrontMatter Read(string file, string content)
    {
        content = PlainText.Cleaned(content).Replace("\r\n", "\n", StringComparison.Ordinal);
        var end = content.StartsWith("---\n", StringComparison.Ordinal) ? content.IndexOf("\n---\n", 3, StringComparison.Ordinal) : -1;
        if (end < 0)
            throw new UnreadableFileException(file, "it does not begin with front matter between two lines of ---.");
        var text = content[(end + 5)..];
        // The writer puts one empty line after the fields and one line end after the text.
        if (text.StartsWith('\n'))
            text = text[1..];
        if (text.EndsWith('\n'))
            text = text[..^1];
        var read = new FrontMatter(file, text);
        try
        {
            var fields = end < 4 ? "" : content[4..(end + 1)];
            NotDeep(file, fields);
            var yaml = new YamlStream();
            yaml.Load(new StringReader(fields));
            if (yaml.Documents.Count == 0)
                return read;
            if (yaml.Documents[0].RootNode is not YamlMappingNode map)
                throw new UnreadableFileException(file, "the front matter is not a list of fields.");
            foreach (var (key, value) in map.Children)
                read.fields[((YamlScalarNode)key).Value ?? ""] = value;
            return read;
        }
        catch (Exception error) when (error is YamlException or InvalidCastException)
        {
            throw new UnreadableFileException(file, $"the front matter can't be read ({error.Message.Split('\n')[0]}).");
        }
    }

    /// <summary>How deep lists and records may stand one inside the other; ours stand three deep.</summary>
    private const int Deepest = 10;

    /// <summary>Looks through the marks before a tree is made of them.</summary>
    private static void NotDeep(string file, string yaml)
    {
        var parser = new Parser(new StringReader(yaml));
        var depth = 0;
        while (parser.MoveNext())
        {
            depth += parser.Current?.NestingIncrease ?? 0;
            if (depth > Deepest + 2)
                throw new UnreadableFileException(file, $"the front matter is nested deeper than {Deepest}.");
        }
    }

    public string Word(string field) => fields.TryGetValue(field, out var node) && node is YamlScalarNode { Value: { } value } ? value : "";

    public string? WordOrNull(string field) => Word(field) is { Length: > 0 } word ? word : null;

    public int? Number(string field) => WordOrNull(field) is { } word ? Number(field, word) : null;

    public IReadOnlyList<int> Numbers(string field) => [.. Words(field).Select(word => Number(field, word))];

    private int Number(string field, string word) =>
        int.TryParse(word, NumberStyles.Integer, CultureInfo.InvariantCulture, out var number)
            ? number
            : throw Wrong(field, word, "a whole number");

    public DateOnly? Day(string field) => WordOrNull(field) is { } word ? Day(field, word) : null;

    public IReadOnlyList<DateOnly> Days(string field) => [.. Words(field).Select(word => Day(field, word))];

    private DateOnly Day(string field, string word) =>
        DateOnly.TryParseExact(word, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw Wrong(field, word, "a date such as 2026-11-24");

    public DateTimeOffset? Instant(string field) =>
        WordOrNull(field) is not { } word ? null
        : DateTimeOffset.TryParse(word, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var instant) ? instant
        : throw Wrong(field, word, "a time such as 2026-11-24T07:41:00Z");

    public T Enum<T>(string field, T otherwise)
        where T : struct, Enum => WordOrNull(field) is { } word ? Enum<T>(field, word) : otherwise;

    public IReadOnlyList<T> Each<T>(string field)
        where T : struct, Enum => [.. Words(field).Select(word => Enum<T>(field, word))];

    private T Enum<T>(string field, string word)
        where T : struct, Enum =>
        System.Enum.TryParse<T>(word, ignoreCase: true, out var value) && System.Enum.IsDefined(value)
            ? value
            : throw Wrong(field, word, string.Join(", ", System.Enum.GetNames<T>()).ToLowerInvariant());

    public IReadOnlyList<string> Words(string field) =>
        fields.TryGetValue(field, out var node)
            ? node is YamlSequenceNode list
                ? [.. list.Children.OfType<YamlScalarNode>().Select(n => n.Value ?? "")]
                : node is YamlScalarNode { Value: { Length: > 0 } one }
                    ? [one]
                    : []
            : [];

    /// <summary>A list of small records: each a set of fields, read like a file's.</summary>
    public IReadOnlyList<FrontMatter> Records(string field)
    {
        if (!fields.TryGetValue(field, out var node) || node is not YamlSequenceNode list)
            return [];
        return
        [
            .. list
                .Children.OfType<YamlMappingNode>()
                .Select(map =>
                {
                    var record = new FrontMatter($"{file}, {field}", "");
                    foreach (var (key, value) in map.Children)
                        record.fields[((YamlScalarNode)key).Value ?? ""] = value;
                    return record;
                }),
        ];
    }

    private UnreadableFileException Wrong(string field, string word, string wanted) =>
        new(file, $"{field} is “{word}”; it should be {wanted}.");
}
