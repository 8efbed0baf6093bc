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
        ("OP", "original-date"),
    ];

    /// <summary>Fields whose lines are lines; any other that goes on in the next line is one.</summary>
    private static readonly HashSet<string> OfLines = ["N1", "N2", "AB", "RN", "KW", "U1"];

    /// <summary>Fields that have a place, or say nothing a writer would miss.</summary>
    private static readonly HashSet<string> Placed =
    [
        "TY",
        "ID",
        "TI",
        "T1",
        "AU",
        "A1",
        "A2",
        "ED",
        "A4",
        "T2",
        "JO",
        "JF",
        "BT",
        "DA",
        "PY",
        "Y1",
        "UR",
        "LA",
        "KW",
        "N1",
        "RN",
        "AB",
        "N2",
        "SP",
        "EP",
        "SN",
        .. Fields.Select(field => field.Tag),
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
                record[^1] = (record[^1].Tag, record[^1].Value + (OfLines.Contains(record[^1].Tag) ? "\n" : " ") + line.Trim());
            // An empty line within a text divides its paragraphs.
            else if (record.Count > 0 && OfLines.Contains(record[^1].Tag))
                record[^1] = (record[^1].Tag, record[^1].Value + "\n");
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
        string Names(params string[] tags) =>
            string.Join("; ", record.Where(f => tags.Contains(f.Tag) && f.Value.Length > 0).Select(f => Person(f.Value).Written));
        var details = new Dictionary<string, string>();
        var left = new LeftOut();
        foreach (var (tag, value) in record)
            if (!Placed.Contains(tag) && !(tag == "U1" && value.Split('=', 2) is [var own, _] && SourceForms.Has(own)))
                left.Add(tag, value);
        // What is told twice, the later times.
        foreach (
            var group in record.Where(f => f.Value.Length > 0).GroupBy(f => f.Tag).Where(g => g.Count() > 1 && !MayRepeat.Contains(g.Key))
        )
            left.Add(group.Key, string.Join("; ", group.Skip(1).Select(f => f.Value)));
        var container = First("T2", "JO", "JF", "BT");
        left.Add(
            "a second container",
            string.Join("; ", record.Where(f => f.Tag is "T2" or "JO" or "JF" or "BT" && f.Value != container).Select(f => f.Value))
        );
        foreach (var (tag, key) in Fields)
            if (First(tag) is { Length: > 0 } value)
                details[type == SourceType.Podcast && key == "issue" ? "number" : key] = value;
        if (First("SP") is { Length: > 0 } page)
            details["page"] = First("EP") is { Length: > 0 } end ? $"{page}–{end}" : page;
        if (Names("A2", "ED") is { Length: > 0 } editors)
            details["editor"] = editors;
        if (Names("A4") is { Length: > 0 } translators)
            details["translator"] = translators;
        if (First("SN") is { Length: > 0 } number)
            details[type == SourceType.Article ? "ISSN" : "ISBN"] = number;
        foreach (var one in record.Where(f => f.Tag == "U1"))
            if (one.Value.Split('=', 2) is [var key, var value] && SourceForms.Has(key))
                details[key] = value;
        return References.Source(
            line,
            new FoundSource(title)
            {
                Type = type,
                Creators = Names("AU", "A1"),
                Container = container,
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
            details,
            left
        );
    }

    private static readonly HashSet<string> MayRepeat =
    [
        "AU",
        "A1",
        "A2",
        "ED",
        "A4",
        "KW",
        "N1",
        "RN",
        "AB",
        "N2",
        "U1",
        "T2",
        "JO",
        "JF",
        "BT",
    ];

    /// <summary>A name is written family first, with a comma; one without is whole.</summary>
    private static PersonName Person(string written) =>
        written.Contains(',', StringComparison.Ordinal) ? PersonName.Read(written) : new PersonName(written, "");

    private static string Written(PersonName name) => name is { Given: "" } && name.Family.Contains(',') ? name.Family + "," : name.Sorted;

    /// <summary>Writes sources as records that <see cref="Read"/> gives back. What RIS has no tag for goes under U1, which is free for
    /// users.</summary>
    public static string Write(IEnumerable<Source> sources)
    {
        var text = new StringBuilder();
        foreach (var source in sources)
        {
            Put("TY", source.Type == SourceType.Book && source.Container.Length > 0 ? "CHAP" : Types.First(t => t.Type == source.Type).Tag);
            foreach (var name in PersonName.ReadAll(source.Creators))
                Put("AU", Written(name));
            Put("TI", source.Title);
            Put("T2", source.Container);
            Put("DA", source.Date);
            Put("UR", source.Address);
            Put("LA", source.Language);
            foreach (var (key, value) in source.Details)
            {
                if (key == "editor")
                    foreach (var name in PersonName.ReadAll(value))
                        Put("A2", Written(name));
                else if (key == "translator")
                    foreach (var name in PersonName.ReadAll(value))
                        Put("A4", Written(name));
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
