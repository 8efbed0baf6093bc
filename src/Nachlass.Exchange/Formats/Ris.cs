using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>RIS: a line for each field, a record from TY to ER.</summary>
public sealed partial class Ris : IFormat
{
    private static readonly (string Tag, SourceType Type)[] Types =
    [
        ("BOOK", SourceType.Book),
        ("JOUR", SourceType.Article),
        ("ELEC", SourceType.Page),
        ("VIDEO", SourceType.Video),
        ("SOUND", SourceType.Podcast),
        ("BLOG", SourceType.Thread),
        ("HEAR", SourceType.Interview),
        ("MANSCPT", SourceType.Archive),
        ("PCOMM", SourceType.Message),
        ("GEN", SourceType.Observation),
        ("CHAP", SourceType.Book),
        ("EBOOK", SourceType.Book),
        ("EDBOOK", SourceType.Book),
        ("MGZN", SourceType.Article),
        ("NEWS", SourceType.Article),
        ("EJOUR", SourceType.Article),
        ("CONF", SourceType.Article),
        ("MPCT", SourceType.Video),
        ("MAP", SourceType.Archive),
        ("UNPB", SourceType.Archive),
        ("WEB", SourceType.Page),
        ("THES", SourceType.Book),
        ("RPRT", SourceType.Book),
    ];

    /// <summary>Fields that both sides have under one name.</summary>
    private static readonly (string Tag, string Key)[] Fields =
    [
        ("VL", "volume"),
        ("IS", "issue"),
        ("PB", "publisher"),
        ("CY", "publisher-place"),
        ("ET", "edition"),
        ("DO", "DOI"),
        ("AN", "archive_location"),
        ("DB", "archive"),
        ("M3", "medium"),
        ("Y2", "accessed"),
    ];

    public string Key => "ris";
    public string Name => "References (RIS)";

    public bool Recognises(InFile file, string start) => file.Extension is ".ris" || Begin().IsMatch(start);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var record = new List<(string Tag, string Value)>();
        var begun = 0;
        foreach (var (number, line) in TextIn.Lines(file))
        {
            if (Field().Match(line) is { Success: true } field)
            {
                var (tag, value) = (field.Groups[1].Value, field.Groups[2].Value.Trim());
                if (tag == "TY")
                {
                    if (record.Count > 0)
                        yield return new Found.Unread(begun, "this record does not end before the next begins.", Raw(record));
                    record = [];
                    begun = number;
                }
                if (tag == "ER")
                {
                    if (record.Count > 0)
                        yield return One(begun, record);
                    record = [];
                }
                else if (begun > 0)
                    record.Add((tag, value));
            }
            // A long value goes on in the next line.
            else if (record.Count > 0 && line.Trim().Length > 0)
                record[^1] = (record[^1].Tag, record[^1].Value + "\n" + line.Trim());
            else if (line.Trim().Length > 0)
                yield return new Found.Unread(number, "this line stands in no record.", line);
        }
        if (record.Count > 0)
            yield return new Found.Unread(begun, "this record has no end (ER).", Raw(record));
    }

    private static string Raw(List<(string Tag, string Value)> record) => string.Join('\n', record.Select(f => $"{f.Tag}  - {f.Value}"));

    private static Found One(int line, List<(string Tag, string Value)> record)
    {
        string First(params string[] tags) =>
            tags.Select(tag => record.FirstOrDefault(f => f.Tag == tag).Value).FirstOrDefault(v => v is { Length: > 0 }) ?? "";
        string All(string between, params string[] tags) =>
            string.Join(between, record.Where(f => tags.Contains(f.Tag)).Select(f => f.Value));
        var title = First("TI", "T1");
        if (title.Length == 0)
            return new Found.Unread(line, "this record has no title.", Raw(record));
        var type = Types.FirstOrDefault(t => t.Tag == First("TY"), Types[0]).Type;
        var details = new Dictionary<string, string>();
        foreach (var (tag, key) in Fields)
            if (First(tag) is { Length: > 0 } value)
                details[type == SourceType.Podcast && key == "issue" ? "number" : key] = value;
        if (First("SP") is { Length: > 0 } page)
            details["page"] = First("EP") is { Length: > 0 } end ? $"{page}–{end}" : page;
        if (All("; ", "A2", "ED") is { Length: > 0 } editors)
            details["editor"] = editors;
        if (All("; ", "A4") is { Length: > 0 } translators)
            details["translator"] = translators;
        if (First("SN") is { Length: > 0 } number)
            details[type == SourceType.Article ? "ISSN" : "ISBN"] = number;
        foreach (var own in record.Where(f => f.Tag == "U1"))
            if (own.Value.Split('=', 2) is [var key, var value] && SourceForms.Has(key))
                details[key] = value;
        return References.Source(
            line,
            new FoundSource(title)
            {
                Type = type,
                Creators = All("; ", "AU", "A1"),
                Container = First("T2", "JO", "JF", "BT"),
                Date = First("DA", "PY", "Y1").Trim('/').Replace('/', '-'),
                Address = First("UR", "L2"),
                Language = First("LA"),
                Comments = All("\n\n", "N1"),
                Summary = All("\n\n", "RN"),
                Text = All("\n\n", "AB", "N2"),
                Topics =
                [
                    .. record.Where(f => f.Tag == "KW").SelectMany(f => f.Value.Split('\n')).Select(t => t.Trim()).Where(t => t.Length > 0),
                ],
            },
            details
        );
    }

    /// <summary>Writes sources as records that <see cref="Read"/> gives back. What RIS has no tag for goes under U1, which is free for
    /// users.</summary>
    public static string Write(IEnumerable<Source> sources)
    {
        var text = new StringBuilder();
        foreach (var source in sources)
        {
            Put("TY", source.Type == SourceType.Book && source.Container.Length > 0 ? "CHAP" : Types.First(t => t.Type == source.Type).Tag);
            foreach (var name in PersonName.ReadAll(source.Creators))
                Put("AU", name.Sorted);
            Put("TI", source.Title);
            Put("T2", source.Container);
            Put("DA", source.Date);
            Put("UR", source.Address);
            Put("LA", source.Language);
            foreach (var (key, value) in source.Details)
            {
                if (key == "editor")
                    foreach (var name in PersonName.ReadAll(value))
                        Put("A2", name.Sorted);
                else if (key == "translator")
                    foreach (var name in PersonName.ReadAll(value))
                        Put("A4", name.Sorted);
                else if (key == (source.Type == SourceType.Article ? "ISSN" : "ISBN"))
                    Put("SN", value);
                else if (key == "number" && source.Type == SourceType.Podcast)
                    Put("IS", value);
                else if (key != "issue" && key != "DOI" && Fields.FirstOrDefault(f => f.Key == key).Tag is { } tag)
                    Put(tag, value);
                else if (key is "issue" && source.Type != SourceType.Podcast)
                    Put("IS", value);
                else if (key is "DOI")
                    Put("DO", value);
                else
                    Put("U1", $"{key}={value}");
            }
            foreach (var topic in source.Topics)
                Put("KW", topic.Name);
            Put("N1", source.Comments);
            Put("RN", source.Summary);
            text.Append("ER  - \n\n");
        }
        return text.ToString();

        void Put(string tag, string value)
        {
            // A line that looked like a field of its own would end the value, so the lines after the first are indented.
            if (value.Length > 0)
                text.Append($"{tag}  - {value.ReplaceLineEndings("\n").Replace("\n", "\n   ", StringComparison.Ordinal)}\n");
        }
    }

    [GeneratedRegex(@"^([A-Z][A-Z0-9])  ?- ?(.*)$")]
    private static partial Regex Field();

    [GeneratedRegex(@"\ATY  ?- ")]
    private static partial Regex Begin();
}
