using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>BibTeX, with the entry types and fields of its successor biblatex.</summary>
public sealed partial class BibTex : IFormat
{
    private static readonly (string Entry, SourceType Type)[] Types =
    [
        ("book", SourceType.Book),
        ("article", SourceType.Article),
        ("online", SourceType.Page),
        ("video", SourceType.Video),
        ("audio", SourceType.Podcast),
        ("unpublished", SourceType.Archive),
        ("letter", SourceType.Message),
        ("incollection", SourceType.Book),
        ("inbook", SourceType.Book),
        ("phdthesis", SourceType.Book),
        ("mastersthesis", SourceType.Book),
        ("thesis", SourceType.Book),
        ("techreport", SourceType.Book),
        ("report", SourceType.Book),
        ("inproceedings", SourceType.Article),
        ("electronic", SourceType.Page),
        ("www", SourceType.Page),
        ("movie", SourceType.Video),
        ("misc", SourceType.Observation),
    ];

    private static readonly (string Field, string Key)[] Fields =
    [
        ("publisher", "publisher"),
        ("location", "publisher-place"),
        ("address", "publisher-place"),
        ("edition", "edition"),
        ("volume", "volume"),
        ("pages", "page"),
        ("doi", "DOI"),
        ("isbn", "ISBN"),
        ("issn", "ISSN"),
        ("urldate", "accessed"),
        ("library", "archive"),
        ("editor", "editor"),
        ("translator", "translator"),
        ("origdate", "original-date"),
    ];

    /// <summary>Fields that have a place of their own, or say nothing a writer would miss.</summary>
    private static readonly HashSet<string> Placed = new(StringComparer.OrdinalIgnoreCase)
    {
        "title",
        "subtitle",
        "author",
        "journaltitle",
        "journal",
        "booktitle",
        "maintitle",
        "date",
        "year",
        "month",
        "url",
        "langid",
        "language",
        "note",
        "annotation",
        "annote",
        "abstract",
        "keywords",
        "number",
        "issue",
        "entrysubtype",
        "crossref",
        "xdata",
    };

    /// <summary>Fields that say what an entry is itself, and are not handed on to those that refer to it (biblatex, appendix B).</summary>
    private static readonly HashSet<string> NotHandedOn = new(StringComparer.OrdinalIgnoreCase)
    {
        "ids",
        "crossref",
        "xdata",
        "xref",
        "entryset",
        "entrysubtype",
        "label",
        "options",
        "presort",
        "related",
        "sortkey",
        "keywords",
        "note",
        "annotation",
        "annote",
        "abstract",
        "shorttitle",
    };

    public string Key => "bibtex";
    public string Name => "References (BibTeX)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".bib" or ".bibtex" || (file.Extension is "" or ".txt" && Begin().IsMatch(start));

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var text = TextIn.Whole(file);
        var macros = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        var (at, line, counted) = (0, 1, 0);
        var entries = new List<(int Line, Entry Entry)>();
        while (text.IndexOf('@', at) is var begin && begin >= 0)
        {
            line += text.AsSpan(counted, begin - counted).Count('\n');
            counted = begin;
            var reader = new Reader(text, begin + 1, macros);
            if (reader.Entry() is not { } entry)
                yield return new Found.Unread(line, reader.Problem, text[begin..Math.Min(reader.At, begin + 2_000)].Trim());
            else if (entry.Kind is not ("comment" or "preamble" or "string"))
                entries.Add((line, entry));
            at = Math.Max(reader.At, begin + 1);
        }
        if (counted == 0 && at == 0)
            throw new UnreadableFileException(file.Name, "there is no entry in it.");
        // An entry may refer to one that stands behind it, so nothing is made before all is read.
        var byKey = new Dictionary<string, Entry>(StringComparer.OrdinalIgnoreCase);
        foreach (var (_, entry) in entries)
            byKey.TryAdd(entry.Key, entry);
        foreach (var (begins, entry) in entries.Where(e => e.Entry.Kind != "xdata"))
            yield return One(begins, Whole(entry, byKey));
    }

    /// <summary>Entries that an entry may take fields from one after the other.</summary>
    private const int LongestChain = 8;

    /// <summary>An entry with the fields it takes from the one it refers to, where it has none itself: the title of a book is the book
    /// title of its chapter (biblatex, 2.4.1 and appendix B).</summary>
    private static Entry Whole(Entry entry, Dictionary<string, Entry> byKey)
    {
        if (!entry.Fields.ContainsKey("crossref") && !entry.Fields.ContainsKey("xdata"))
            return entry;
        var fields = new Dictionary<string, string>(entry.Fields, StringComparer.OrdinalIgnoreCase);
        var (from, seen) = (entry, new HashSet<string>(StringComparer.OrdinalIgnoreCase) { entry.Key });
        for (var i = 0; i < LongestChain; i++)
        {
            var key = (from.Fields.GetValueOrDefault("crossref") ?? from.Fields.GetValueOrDefault("xdata") ?? "").Split(',')[0].Trim();
            if (key.Length == 0 || !seen.Add(key) || !byKey.TryGetValue(key, out var parent))
                break;
            var isPart = entry.Kind is "inbook" or "incollection" or "inproceedings" or "conference" or "article";
            foreach (var (field, value) in parent.Fields.Where(f => !NotHandedOn.Contains(f.Key)))
            {
                var own =
                    parent.Kind == "xdata" || !isPart ? field
                    : field is "title" ? "booktitle"
                    : field is "subtitle" ? "booksubtitle"
                    : field is "author" ? "bookauthor"
                    : field;
                fields.TryAdd(own, value);
            }
            from = parent;
        }
        return entry with { Fields = fields };
    }

    private sealed record Entry(string Kind, string Key, Dictionary<string, string> Fields);

    private static Found One(int line, Entry entry)
    {
        string Field(params string[] names) =>
            names.Select(n => entry.Fields.GetValueOrDefault(n)).FirstOrDefault(v => v is { Length: > 0 }) is { } value
                ? Latex.Read(value)
                : "";
        var title = Field("title");
        if (title.Length > 0 && Field("subtitle") is { Length: > 0 } subtitle)
            title += title[^1] is '?' or '!' or ':' ? " " + subtitle : ": " + subtitle;
        if (title.Length == 0)
            return new Found.Unread(line, $"the entry {entry.Key} has no title.", $"@{entry.Kind}{{{entry.Key}, …}}");
        var type = Types.FirstOrDefault(t => t.Entry == entry.Kind, Types[0]).Type;
        if (Enum.TryParse<SourceType>(Field("entrysubtype"), true, out var own) && Enum.IsDefined(own))
            type = own;
        var details = new Dictionary<string, string>();
        var left = new LeftOut();
        foreach (var (field, key) in Fields)
            if (Field(field) is { Length: > 0 } value)
                details[key] =
                    key is "editor" or "translator" ? Names(entry.Fields[field], left)
                    : key == "page" ? value.Replace("--", "–", StringComparison.Ordinal)
                    : value;
        if (Field("number", "issue") is { Length: > 0 } number)
            details[type == SourceType.Podcast ? "number" : "issue"] = number;
        foreach (var (field, value) in entry.Fields)
            if (field.StartsWith("csl-", StringComparison.Ordinal) && SourceForms.Has(CslKey(field)))
                details[CslKey(field)] = Latex.Read(value);
            else if (!Placed.Contains(field) && !Fields.Any(f => f.Field == field))
                left.Add(field, Latex.Read(value));
        return References.Source(
            line,
            new FoundSource(title)
            {
                Type = type,
                Creators = entry.Fields.TryGetValue("author", out var authors) ? Names(authors, left) : "",
                Container = Field("journaltitle", "journal", "booktitle", "maintitle"),
                Date = Field("date") is { Length: > 0 } date ? date : Date(Field("year"), Field("month")),
                Address = Field("url"),
                Language = Field("langid", "language"),
                Comments = Field("note"),
                Summary = Field("annotation", "annote"),
                Text = Field("abstract"),
                Topics = ColumnMapping.Topics(Field("keywords")),
            },
            details,
            left
        );
    }

    // Names of fields are read without regard to case, so the few capitals of CSL are restored.
    private static string CslKey(string field) =>
        field[4..] switch
        {
            "doi" => "DOI",
            "isbn" => "ISBN",
            "issn" => "ISSN",
            var key => key.Replace("archive-location", "archive_location", StringComparison.Ordinal),
        };

    /// <summary>Names as a source holds them.</summary>
    private static string Names(string field, LeftOut left)
    {
        var names = Apart(field).Select(name => name.Trim()).Where(name => name.Length > 0).ToList();
        if (names.Count > 1 && names[^1].Equals("others", StringComparison.OrdinalIgnoreCase))
        {
            names.RemoveAt(names.Count - 1);
            left.Doubt("there are others beside those it names");
        }
        return string.Join("; ", names.Select(name => Person(name).Written));
    }

    /// <summary>One name, in one of the three forms of BibTeX: <c>First von Last</c>, <c>von Last, First</c>, <c>von Last, Jr, First</c>.
    /// A name in braces is one of a body and is not to be taken apart.</summary>
    private static PersonName Person(string name)
    {
        if (name.StartsWith('{') && name.EndsWith('}') && Closes(name) == name.Length - 1)
            return new PersonName(Latex.Read(name), "");
        if (name.Split(',') is [var last, var junior, var first])
            return new PersonName(Latex.Read(last), $"{Latex.Read(first)}, {Latex.Read(junior)}");
        return PersonName.Read(Latex.Read(name));
    }

    /// <summary>Where the first brace is closed.</summary>
    private static int Closes(string name)
    {
        var depth = 0;
        for (var at = 0; at < name.Length; at++)
            if (name[at] == '\\')
                at++;
            else if (name[at] == '{')
                depth++;
            else if (name[at] == '}' && --depth == 0)
                return at;
        return -1;
    }

    /// <summary>Names with "and" between them; one within braces belongs to a name.</summary>
    private static IEnumerable<string> Apart(string field)
    {
        var (from, depth) = (0, 0);
        for (var at = 0; at < field.Length; at++)
        {
            if (field[at] == '\\')
                at++;
            else if (field[at] == '{')
                depth++;
            else if (field[at] == '}')
                depth--;
            else if (depth == 0 && char.IsWhiteSpace(field[at]) && And().Match(field, at) is { Success: true } and)
            {
                yield return field[from..at];
                from = at + and.Length;
                at = from - 1;
            }
        }
        yield return field[from..];
    }

    private static readonly string[] Months = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

    private static string Date(string year, string month)
    {
        var at =
            month.Length >= 3 ? Array.IndexOf(Months, month[..3].ToLowerInvariant())
            : int.TryParse(month, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number - 1
            : -1;
        return at is >= 0 and < 12 && year.Length > 0 ? $"{year}-{at + 1:00}" : year;
    }

    /// <summary>Reads one entry; what goes wrong is said in <see cref="Problem"/>.</summary>
    private sealed class Reader(string text, int begin, Dictionary<string, string> macros)
    {
        private const int Deepest = 100;
        private const int LongestValue = 4_000_000;

        private readonly int start = begin;

        public int At { get; private set; } = begin;
        public string Problem { get; private set; } = "";

        public Entry? Entry()
        {
            var kind = Word().ToLowerInvariant();
            Space();
            if (kind.Length == 0 || At >= text.Length || text[At] is not ('{' or '('))
                return Wrong("an @ begins no entry here.");
            var close = text[At] == '{' ? '}' : ')';
            At++;
            if (kind is "comment" or "preamble")
            {
                At--;
                return Value() is null ? null : new Entry(kind, "", new Dictionary<string, string>());
            }
            Space();
            var key = "";
            if (kind != "string")
            {
                var from = At;
                while (At < text.Length && text[At] is not (',' or '}' or ')' or '\n'))
                    At++;
                key = text[from..At].Trim();
                if (At >= text.Length || text[At] is '\n')
                    return Wrong("the entry's key is not followed by a comma.");
                if (text[At] == ',')
                    At++;
            }
            var fields = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
            while (true)
            {
                Space();
                if (At >= text.Length)
                    return Wrong($"the entry {key} is not closed.");
                if (text[At] == close)
                {
                    At++;
                    if (kind == "string")
                        foreach (var (name, said) in fields)
                            macros[name] = said;
                    return new Entry(kind, key, fields);
                }
                if (text[At] == ',')
                {
                    At++;
                    continue;
                }
                var field = Word().ToLowerInvariant();
                Space();
                if (field.Length == 0 || At >= text.Length || text[At] != '=')
                    return Wrong(
                        field.Length == 0
                            ? $"the entry {key} holds a sign that no field begins with."
                            : $"the field {field} of {key} has no value."
                    );
                At++;
                if (Value() is not { } value)
                    return null;
                fields[field] = value;
            }
        }

        private string? Value()
        {
            var value = new StringBuilder();
            while (true)
            {
                Space();
                if (At >= text.Length)
                    return Fail("a value is not closed.");
                if (text[At] == '{' || text[At] == '(')
                {
                    if (Braced() is not { } braced)
                        return null;
                    value.Append(braced);
                }
                else if (text[At] == '"')
                {
                    if (Quoted() is not { } quoted)
                        return null;
                    value.Append(quoted);
                }
                else
                {
                    var word = Word();
                    if (word.Length == 0)
                        return Fail("a value is missing.");
                    value.Append(macros.GetValueOrDefault(word, word));
                }
                // Macros of macros double, and forty lines would fill any memory.
                if (value.Length > LongestValue)
                    return Fail($"a value is longer than {LongestValue:N0} characters.");
                Space();
                if (At >= text.Length || text[At] != '#')
                    return value.ToString();
                At++;
            }
        }

        private string? Braced()
        {
            var (open, close) = text[At] == '{' ? ('{', '}') : ('(', ')');
            var (from, depth) = (At + 1, 0);
            for (; At < text.Length; At++)
            {
                if (text[At] == '\\')
                    At++;
                else if (text[At] == open && ++depth > Deepest)
                    return Fail("its braces are nested too deeply.");
                else if (text[At] == close && --depth == 0)
                    return text[from..At++];
            }
            return Fail("a brace is not closed.");
        }

        private string? Quoted()
        {
            var (from, depth) = (++At, 0);
            for (; At < text.Length; At++)
            {
                if (text[At] == '\\')
                    At++;
                else if (text[At] == '{')
                    depth++;
                else if (text[At] == '}')
                    depth--;
                else if (text[At] == '"' && depth == 0)
                    return text[from..At++];
            }
            return Fail("a quotation mark is not closed.");
        }

        private string Word()
        {
            var from = At;
            while (At < text.Length && (char.IsLetterOrDigit(text[At]) || text[At] is '-' or '_' or ':' or '.' or '+' or '/'))
                At++;
            return text[from..At];
        }

        private void Space()
        {
            while (At < text.Length && char.IsWhiteSpace(text[At]))
                At++;
        }

        /// <summary>After a mistake the reading goes on at the next entry that begins a line.</summary>
        private Entry? Wrong(string reason)
        {
            Fail(reason);
            return null;
        }

        private string? Fail(string reason)
        {
            Problem = reason;
            var reached = Math.Min(At, text.Length);
            // A brace left open swallows the rest, so the next entry is looked for from where this one began.
            var next = NextEntry().Match(text, Math.Min(start, text.Length));
            At = next.Success ? next.Index : Math.Max(reached, text.Length);
            return null;
        }
    }

    /// <summary>Writes sources as entries that <see cref="Read"/> gives back.</summary>
    public static string Write(IEnumerable<Source> sources)
    {
        var text = new StringBuilder();
        foreach (var source in sources)
        {
            var entry =
                source.Type == SourceType.Book && source.Container.Length > 0
                    ? "incollection"
                    : Types.FirstOrDefault(t => t.Type == source.Type, Types[^1]).Entry;
            text.Append($"@{entry}{{source{source.Number}");
            Put("title", "{" + Latex.Write(source.Title) + "}");
            PutNames("author", source.Creators);
            Put(source.Type == SourceType.Article ? "journaltitle" : "booktitle", Latex.Write(source.Container));
            Put("date", Latex.Write(source.Date));
            Put("url", Latex.Write(source.Address));
            Put("langid", Latex.Write(source.Language));
            if (entry == "misc")
                Put("entrysubtype", source.Type.ToString().ToLowerInvariant());
            foreach (var (key, value) in source.Details)
            {
                if (key is "editor" or "translator")
                    PutNames(key, value);
                else if (key == (source.Type == SourceType.Podcast ? "number" : "issue"))
                    Put("number", Latex.Write(value));
                else if (Fields.FirstOrDefault(f => f.Key == key).Field is { } field)
                    Put(field, Latex.Write(value));
                else
                    Put("csl-" + key.Replace('_', '-'), Latex.Write(value));
            }
            Put("keywords", Latex.Write(string.Join("; ", source.Topics.Select(t => t.Name))));
            Put("note", Latex.Write(source.Comments));
            Put("annotation", Latex.Write(source.Summary));
            text.Append("\n}\n\n");
        }
        return text.ToString();

        void Put(string field, string value)
        {
            if (value.Length > 0)
                text.Append($",\n  {field} = {{{value}}}");
        }

        void PutNames(string field, string names) => Put(field, string.Join(" and ", PersonName.ReadAll(names).Select(Written)));
    }

    private static string Written(PersonName name)
    {
        if (name.Given.Length == 0)
            return "{" + Latex.Write(name.Family) + "}";
        var suffix = name.Given.LastIndexOf(", ", StringComparison.Ordinal);
        return Latex.Write(suffix < 0 ? name.Sorted : $"{name.Family}, {name.Given[(suffix + 2)..]}, {name.Given[..suffix]}");
    }

    [GeneratedRegex(@"\A(?:\s*%.*\n)*\s*@[a-zA-Z]+\s*[{(]")]
    private static partial Regex Begin();

    [GeneratedRegex(@"(?<=\n)[ \t]*@[a-zA-Z]+\s*[{(]")]
    private static partial Regex NextEntry();

    [GeneratedRegex(@"\G\s+and(?=\s)", RegexOptions.IgnoreCase)]
    private static partial Regex And();
}
