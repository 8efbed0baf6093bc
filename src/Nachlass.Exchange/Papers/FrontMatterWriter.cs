using System.Globalization;
using System.Text;
using YamlDotNet.Serialization;

namespace Nachlass.Exchange.Papers;

/// <summary>Writes a Markdown file with YAML front matter; fields without a value are left out.</summary>
public sealed class FrontMatterWriter
{
    private static readonly ISerializer Yaml = new SerializerBuilder().WithNewLine("\n").WithQuotingNecessaryStrings().Build();
    private readonly Dictionary<string, object> fields = [];

    public FrontMatterWriter Add(string field, string? value)
    {
        if (!string.IsNullOrEmpty(value))
            fields[field] = value;
        return this;
    }

    public FrontMatterWriter Add(string field, int? value)
    {
        if (value is { } number)
            fields[field] = number;
        return this;
    }

    public FrontMatterWriter Add(string field, DateOnly? value) => Add(field, value?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));

    public FrontMatterWriter Add(string field, DateTimeOffset? value) =>
        Add(field, value?.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture));

    public FrontMatterWriter Add<T>(string field, T value)
        where T : struct, Enum => Add(field, value.ToString().ToLowerInvariant());

    public FrontMatterWriter Add(string field, IEnumerable<string> values)
    {
        var list = values.ToList();
        if (list.Count > 0)
            fields[field] = list;
        return this;
    }

    /// <summary>A list of small records.</summary>
    public FrontMatterWriter Add(string field, IEnumerable<FrontMatterWriter> records)
    {
        var list = records.Select(record => record.fields).ToList();
        if (list.Count > 0)
            fields[field] = list;
        return this;
    }

    /// <summary>The file's content.</summary>
    public string Write(string text) =>
        new StringBuilder("---\n")
            .Append(fields.Count == 0 ? "" : Yaml.Serialize(fields))
            .Append("---\n\n")
            .Append(text)
            .Append('\n')
            .ToString();
}
