using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;

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
    ];

    public string Key => "bibtex";
    public string Name => "References (BibTeX)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".bib" or ".bibtex" || (file.Extension is "" or ".txt" && Begin().IsMatch(start));

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var text = TextIn.Whole(file);
        var macros = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        var (at, line, counted) = (0, 1, 0);
        while (text.IndexOf('@', at) is var begin && begin >= 0)
        {
            line += text.AsSpan(counted, begin - counted).Count('\n');
            counted = begin;
            var reader = new Reader(text, begin + 1, macros);
            var found = reader.Entry() is { } entry
                ? entry.Kind is "comment" or "preamble" or "string"
                    ? null
                    : One(line, entry)
                : new Found.Unread(line, reader.Problem, text[begin..Math.Min(reader.At, begin + 2_000)].Trim());
            if (found is not null)
                yield return found;
            at = Math.Max(reader.At, begin + 1);
        }
        if (counted == 0 && at == 0)
            throw new Papers.UnreadableFileException(file.Name, "there is no entry in it.");
    }

    private sealed record Entry(string Kind, string Key, IReadOnlyDictionary<string, string> Fields);

    private static Found One(int line, Entry entry)
    {
        string Field(params string[] names) =>
            names.Select(n => entry.Fields.GetValueOrDefault(n)).FirstOrDefault(v => v is { Length: > 0 }) is { } value
                ? Latex.Read(value)
                : "";
        var title = Field("title");
        if (title.Length == 0)
            return new Found.Unread(line, $"the entry {entry.Key} has no title.", $"@{entry.Kind}{{{entry.Key}, …}}");
        var type = Types.FirstOrDefault(t => t.Entry == entry.Kind, Types[0]).Type;
        if (Enum.TryParse<SourceType>(Field("entrysubtype"), true, out var own) && Enum.IsDefined(own))
            type = own;
        var details = new Dictionary<string, string>();
        foreach (var (field, key) in Fields)
            if (Field(field) is { Length: > 0 } value)
                details[key] =
                    key is "editor" or "translator" ? Names(entry.Fields[field])
                    : key == "page" ? value.Replace("--", "–", StringComparison.Ordinal)
                    : value;
        if (Field("number", "issue") is { Length: > 0 } number)
            details[type == SourceType.Podcast ? "number" : "issue"] = number;
        foreach (var (field, value) in entry.Fields)
            if (field.StartsWith("csl-", StringComparison.Ordinal) && SourceForms.Has(CslKey(field)))
                details[CslKey(field)] = Latex.Read(value);
        return References.Source(
            line,
            new FoundSource(title)
            {
                Type = type,
                Creators = entry.Fields.TryGetValue("author", out var authors) ? Names(authors) : "",
                Container = Field("journaltitle", "journal", "booktitle", "maintitle"),
                Date = Field("date") is { Length: > 0 } date ? date : Date(Field("year"), Field("month")),
                Address = Field("url"),
                Language = Field("langid", "language"),
                Comments = Field("note"),
                Summary = Field("annotation", "annote"),
                Text = Field("abstract"),
                Topics = ColumnMapping.Topics(Field("keywords")),
            },
            details
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

    private static string Names(string field) =>
        string.Join(
            "; ",
            And()
                .Split(field)
                .Select(name => name.Trim())
                .Where(n => n.Length > 0)
                // A name in braces is one of a body and is not to be taken apart.
                .Select(name => name.StartsWith('{') && name.EndsWith('}') ? Latex.Read(name) : PersonName.Read(Latex.Read(name)).Sorted)
        );

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

        void PutNames(string field, string names) =>
            Put(
                field,
                string.Join(
                    " and ",
                    PersonName.ReadAll(names).Select(n => n.Given.Length == 0 ? "{" + Latex.Write(n.Family) + "}" : Latex.Write(n.Sorted))
                )
            );
    }

    [GeneratedRegex(@"\A(?:\s*%.*\n)*\s*@[a-zA-Z]+\s*[{(]")]
    private static partial Regex Begin();

    [GeneratedRegex(@"(?<=\n)[ \t]*@[a-zA-Z]+\s*[{(]")]
    private static partial Regex NextEntry();

    [GeneratedRegex(@"\s+and\s+", RegexOptions.IgnoreCase)]
    private static partial Regex And();
}

/// <summary>The marks of LaTeX that stand in references.</summary>
internal static partial class Latex
{
    /// <summary>Each accent with the letters it makes: the plain one, then the accented. Unicode normalisation can't be asked, since the
    /// program runs under the invariant culture.</summary>
    private static readonly Dictionary<char, string> Accents = new()
    {
        ['"'] = "aäeëiïoöuüyÿAÄEËIÏOÖUÜYŸ",
        ['\''] = "aáeéiíoóuúyýcćlĺnńrŕsśzźAÁEÉIÍOÓUÚYÝCĆLĹNŃRŔSŚZŹ",
        ['`'] = "aàeèiìoòuùAÀEÈIÌOÒUÙ",
        ['^'] = "aâeêiîoôuûcĉgĝhĥjĵsŝwŵyŷAÂEÊIÎOÔUÛCĈGĜHĤJĴSŜWŴYŶ",
        ['~'] = "aãnñoõiĩuũAÃNÑOÕIĨUŨ",
        ['='] = "aāeēiīoōuūAĀEĒIĪOŌUŪ",
        ['.'] = "cċeėgġzżIİCĊEĖGĠZŻ",
        ['c'] = "cçsştţgģkķlļnņrŗCÇSŞTŢGĢKĶLĻNŅRŖ",
        ['v'] = "cčdďeěnňrřsštťzžCČDĎEĚNŇRŘSŠTŤZŽ",
        ['u'] = "aăgğuŭeĕiĭoŏAĂGĞUŬEĔIĬOŎ",
        ['H'] = "oőuűOŐUŰ",
        ['k'] = "aąeęiįuųAĄEĘIĮUŲ",
        ['r'] = "aåuůAÅUŮ",
    };

    private static readonly Dictionary<string, string> Letters = new()
    {
        ["ss"] = "ß",
        ["o"] = "ø",
        ["O"] = "Ø",
        ["ae"] = "æ",
        ["AE"] = "Æ",
        ["oe"] = "œ",
        ["OE"] = "Œ",
        ["aa"] = "å",
        ["AA"] = "Å",
        ["l"] = "ł",
        ["L"] = "Ł",
        ["i"] = "i",
        ["j"] = "j",
        ["textbackslash"] = "\uE000",
        ["textasciitilde"] = "\uE001",
        ["textasciicircum"] = "^",
        ["emph"] = "",
        ["textit"] = "",
        ["textbf"] = "",
        ["url"] = "",
    };

    /// <summary>A value as it is spoken: accents as letters, dashes, no braces.</summary>
    public static string Read(string value)
    {
        var text = Accented().Replace(value, m => Compose(m.Groups["letter"].Value, Accents[m.Groups["accent"].Value[0]]));
        text = Command().Replace(text, m => Letters.TryGetValue(m.Groups[1].Value, out var letter) ? letter : m.Value);
        var read = new StringBuilder();
        for (var i = 0; i < text.Length; i++)
        {
            if (text[i] == '\\' && i + 1 < text.Length)
                read.Append(text[++i]);
            else if (text[i] is '{' or '}')
                continue;
            else if (text[i] == '~')
                read.Append(' ');
            else if (text[i] == '-' && i + 1 < text.Length && text[i + 1] == '-')
            {
                var em = i + 2 < text.Length && text[i + 2] == '-';
                read.Append(em ? '—' : '–');
                i += em ? 2 : 1;
            }
            else
                read.Append(text[i]);
        }
        // Signs that mean something to LaTeX stand aside until all else is read.
        read.Replace('\uE000', '\\').Replace('\uE001', '~');
        return Breaks()
            .Replace(
                read.ToString().Trim(),
                m =>
                    m.Value.Count(c => c == '\n') > 1 ? "\n\n"
                    : m.Value.Contains('\n', StringComparison.Ordinal) ? "\n"
                    : " "
            );
    }

    private static string Compose(string letter, string made)
    {
        var plain = letter[^1];
        for (var i = 0; i < made.Length; i += 2)
            if (made[i] == plain)
                return made[i + 1].ToString();
        return plain.ToString();
    }

    /// <summary>A value as BibTeX reads it back.</summary>
    public static string Write(string value)
    {
        var text = new StringBuilder();
        foreach (var c in value)
            text.Append(
                c switch
                {
                    '\\' => "{\\textbackslash}",
                    '~' => "{\\textasciitilde}",
                    '^' => "{\\textasciicircum}",
                    '{' or '}' or '%' or '&' or '#' or '_' or '$' => "\\" + c,
                    '"' => "{\"}",
                    _ => c.ToString(),
                }
            );
        return text.ToString().Replace("--", "-{}-", StringComparison.Ordinal);
    }

    [GeneratedRegex(
        """
            \\(?<accent>["'`^~=.])\s*(?:\{(?<letter>\\?[a-zA-Z])\}|(?<letter>\\?[a-zA-Z]))
            |\\(?<accent>[cvuHkr])(?:\{(?<letter>\\?[a-zA-Z])\}|\s+(?<letter>[a-zA-Z]))
            """,
        RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Accented();

    [GeneratedRegex(@"\\([a-zA-Z]+)(?:\s+|(?=[^a-zA-Z])|$)")]
    private static partial Regex Command();

    [GeneratedRegex(@"[ \t]*\n[ \t\n]*|[ \t]{2,}")]
    private static partial Regex Breaks();
}
