namespace Nachlass.Core.Text;

/// <summary>How a language sets what is typed on a keyboard, and what is at hand for it.</summary>
/// <param name="Tag">BCP 47.</param>
/// <param name="Name">For people.</param>
/// <param name="Quotes">Opening and closing quotation mark, then those inside them: four strings.</param>
/// <param name="Dash">What two hyphens become.</param>
/// <param name="Works">What a list of works cited is headed.</param>
/// <param name="Speller">Folder of its word list for spelling; empty when there is none.</param>
/// <param name="HasSynonyms">Whether there are synonyms and meanings.</param>
public sealed record Language(
    string Tag,
    string Name,
    IReadOnlyList<string> Quotes,
    string Dash,
    string Works,
    string Speller = "",
    bool HasSynonyms = false
)
{
    /// <summary>The language without its country: <c>en</c>.</summary>
    public string Primary => Tag.Split('-')[0];
}

/// <summary>The languages that texts may be written in.</summary>
public static class Languages
{
    /// <summary>Of a text whose writer has said nothing.</summary>
    public const string Usual = "en-GB";

    /// <summary>Quotation marks and dashes as Unicode CLDR gives them as delimiters, and as the languages' own style guides set a dash:
    /// unspaced or spaced is the writer's.</summary>
    public static readonly IReadOnlyList<Language> All =
    [
        new("en-GB", "English (Britain)", ["“", "”", "‘", "’"], "–", "Works cited", "en-GB", true),
        new("en-US", "English (America)", ["“", "”", "‘", "’"], "—", "Works cited", "en-US", true),
        new("de", "Deutsch", ["„", "“", "‚", "‘"], "–", "Literatur"),
        new("de-CH", "Deutsch (Schweiz)", ["«", "»", "‹", "›"], "–", "Literatur"),
        new("fr", "Français", ["«\u202f", "\u202f»", "“", "”"], "–", "Ouvrages cités"),
        new("es", "Español", ["«", "»", "“", "”"], "—", "Obras citadas", "es"),
        new("it", "Italiano", ["«", "»", "“", "”"], "–", "Opere citate"),
        new("nl", "Nederlands", ["‘", "’", "“", "”"], "–", "Geraadpleegde werken", "nl"),
        new("pt", "Português", ["“", "”", "‘", "’"], "—", "Obras citadas"),
        new("sv", "Svenska", ["”", "”", "’", "’"], "–", "Källor"),
        new("da", "Dansk", ["“", "”", "‘", "’"], "–", "Kilder"),
        new("pl", "Polski", ["„", "”", "«", "»"], "–", "Cytowane prace"),
    ];

    /// <summary>A language by its tag; null when it is none of these.</summary>
    public static Language? Find(string tag) => All.FirstOrDefault(l => l.Tag.Equals(tag, StringComparison.OrdinalIgnoreCase));

    /// <summary>A language by its tag, or the usual one.</summary>
    public static Language Named(string tag) => Find(tag) ?? All[0];
}
