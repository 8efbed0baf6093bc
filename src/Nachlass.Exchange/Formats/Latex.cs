using System.Text;
using System.Text.RegularExpressions;

namespace Nachlass.Exchange.Formats;

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

    /// <summary>Signs that stand aside until all else is read, since they mean something to LaTeX.</summary>
    private const char Backslash = '\uE000';
    private const char Tilde = '\uE001';
    private const char Brace = '\uE003';
    private const char EndBrace = '\uE004';

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
        ["i"] = "ı",
        ["j"] = "ȷ",
        ["th"] = "þ",
        ["TH"] = "Þ",
        ["dh"] = "ð",
        ["DH"] = "Ð",
        ["dj"] = "đ",
        ["DJ"] = "Đ",
        ["ng"] = "ŋ",
        ["NG"] = "Ŋ",
        ["S"] = "§",
        ["P"] = "¶",
        ["dag"] = "†",
        ["ddag"] = "‡",
        ["copyright"] = "©",
        ["textcopyright"] = "©",
        ["textregistered"] = "®",
        ["texttrademark"] = "™",
        ["pounds"] = "£",
        ["textsterling"] = "£",
        ["euro"] = "€",
        ["texteuro"] = "€",
        ["textdegree"] = "°",
        ["degree"] = "°",
        ["dots"] = "…",
        ["ldots"] = "…",
        ["textellipsis"] = "…",
        ["textendash"] = "–",
        ["textemdash"] = "—",
        ["textquoteleft"] = "‘",
        ["textquoteright"] = "’",
        ["textquotedblleft"] = "“",
        ["textquotedblright"] = "”",
        ["quotedblbase"] = "„",
        ["glqq"] = "„",
        ["grqq"] = "“",
        ["guillemotleft"] = "«",
        ["guillemotright"] = "»",
        ["textquotesingle"] = "'",
        ["textquotedbl"] = "\"",
        ["textunderscore"] = "_",
        ["textdollar"] = "$",
        ["textbar"] = "|",
        ["textless"] = "<",
        ["textgreater"] = ">",
        ["textbullet"] = "•",
        ["textperiodcentered"] = "·",
        ["slash"] = "/",
        ["TeX"] = "TeX",
        ["LaTeX"] = "LaTeX",
        ["textbackslash"] = "\uE000",
        ["textasciitilde"] = "\uE001",
        ["textasciicircum"] = "^",
        ["textbraceleft"] = "\uE003",
        ["textbraceright"] = "\uE004",
        ["times"] = "×",
        ["alpha"] = "α",
        ["beta"] = "β",
        ["gamma"] = "γ",
        ["delta"] = "δ",
        ["epsilon"] = "ε",
        ["kappa"] = "κ",
        ["lambda"] = "λ",
        ["mu"] = "μ",
        ["pi"] = "π",
        ["sigma"] = "σ",
        ["tau"] = "τ",
        ["phi"] = "φ",
        ["chi"] = "χ",
        ["omega"] = "ω",
        ["Delta"] = "Δ",
        ["Omega"] = "Ω",
    };

    /// <summary>Commands that only say how words look; the words stay.</summary>
    private static readonly HashSet<string> Looks =
    [
        "emph",
        "textit",
        "textbf",
        "textsc",
        "textsl",
        "texttt",
        "textsf",
        "textrm",
        "textup",
        "textmd",
        "textnormal",
        "textsuperscript",
        "textsubscript",
        "mkbibemph",
        "mkbibbold",
        "mkbibitalic",
        "uppercase",
        "lowercase",
        "MakeUppercase",
        "MakeLowercase",
        "underline",
        "mbox",
        "hbox",
        "ensuremath",
        "mathrm",
        "mathit",
        "mathbf",
        "url",
        "path",
        "relax",
        "protect",
        "noopsort",
        "em",
        "it",
        "bf",
        "sc",
        "tt",
        "rm",
        "sl",
    ];

    /// <summary>A value as it is spoken: accents as letters, quotation marks and dashes, no braces.</summary>
    public static string Read(string value)
    {
        var text = Accented().Replace(value, m => Compose(m.Groups["letter"].Value, Accents[m.Groups["accent"].Value[0]]));
        text = Quoted().Replace(text, "“$1”");
        text = Command()
            .Replace(
                text,
                m =>
                    Letters.TryGetValue(m.Groups[1].Value, out var letter) ? letter
                    : Looks.Contains(m.Groups[1].Value) ? ""
                    : m.Value
            );
        var read = new StringBuilder();
        for (var i = 0; i < text.Length; i++)
        {
            var next = i + 1 < text.Length ? text[i + 1] : '\0';
            switch (text[i])
            {
                case '\\' when next is '-' or '/' or ',':
                    // Where a word may be parted, and spaces too small to be any.
                    i++;
                    break;
                case '\\' when next == '\\':
                    read.Append(' ');
                    i++;
                    break;
                case '\\' when next != '\0':
                    read.Append(
                        next == '{' ? Brace
                        : next == '}' ? EndBrace
                        : next
                    );
                    i++;
                    break;
                case '{' or '}':
                case '$' when Math().IsMatch(text, i):
                    break;
                case '~':
                    read.Append(' ');
                    break;
                case '-' when next == '-':
                    var em = i + 2 < text.Length && text[i + 2] == '-';
                    read.Append(em ? '—' : '–');
                    i += em ? 2 : 1;
                    break;
                case '`' when next == '`':
                    read.Append('“');
                    i++;
                    break;
                case '\'' when next == '\'':
                    read.Append('”');
                    i++;
                    break;
                case var sign:
                    read.Append(sign);
                    break;
            }
        }
        read.Replace(Backslash, '\\').Replace(Tilde, '~').Replace(Brace, '{').Replace(EndBrace, '}');
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
        return text.Replace("--", "-{}-")
            .Replace("--", "-{}-")
            .Replace("``", "`{}`")
            .Replace("``", "`{}`")
            .Replace("''", "'{}'")
            .Replace("''", "'{}'")
            .ToString();
    }

    [GeneratedRegex(
        """
            \\(?<accent>["'`^~=.])\s*(?:\{(?<letter>\\?[a-zA-Z])\}|(?<letter>\\?[a-zA-Z]))
            |\\(?<accent>[cvuHkr])(?:\{(?<letter>\\?[a-zA-Z])\}|\s+(?<letter>[a-zA-Z]))
            """,
        RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Accented();

    [GeneratedRegex(@"\\([a-zA-Z]+)(?:[ \t]+|(?=[^a-zA-Z])|$)")]
    private static partial Regex Command();

    [GeneratedRegex(@"\\(?:enquote|mkbibquote|textquote)\*?\{([^{}]*)\}")]
    private static partial Regex Quoted();

    /// <summary>A dollar that begins or ends a little mathematics; the price of something is none.</summary>
    [GeneratedRegex(@"\G\$(?=[^$\n]{0,40}\$)|(?<=\$[^$\n]{1,40})\G\$")]
    private static partial Regex Math();

    [GeneratedRegex(@"[ \t]*\n[ \t\n]*|[ \t]{2,}")]
    private static partial Regex Breaks();
}
