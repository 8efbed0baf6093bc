namespace Nachlass.Core.Sources;

/// <summary>A name, in the parts by which it is sorted and cited.</summary>
/// <param name="Family">The family name with its particles, or all of it for a body such as a parish.</param>
/// <param name="Given">The given names; empty for a body, or someone with one name.</param>
public readonly record struct PersonName(string Family, string Given)
{
    private static readonly HashSet<string> Particles = new(StringComparer.OrdinalIgnoreCase)
    {
        "van",
        "von",
        "de",
        "der",
        "den",
        "del",
        "della",
        "di",
        "da",
        "du",
        "la",
        "le",
        "ten",
        "ter",
        "zu",
        "af",
    };

    private static readonly HashSet<string> OfBodies = new(StringComparer.OrdinalIgnoreCase)
    {
        "of",
        "the",
        "and",
        "&",
        "for",
        "society",
        "council",
        "museum",
        "company",
        "trust",
        "office",
        "board",
        "committee",
    };

    /// <summary>Reads one name: <c>Brandt, H.</c> or <c>Odile Marchetti</c>; a name of a body stays whole, and any name does that ends in
    /// a comma: <c>Wayfarers Union,</c></summary>
    public static PersonName Read(string name)
    {
        var clean = string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        if (clean.EndsWith(','))
            return new(clean.TrimEnd(',', ' '), "");
        var comma = clean.IndexOf(',', StringComparison.Ordinal);
        if (comma > 0)
            return new(clean[..comma].Trim(), clean[(comma + 1)..].Trim());
        var words = clean.Split(' ');
        if (words.Length == 1 || words.Any(OfBodies.Contains) || clean.Any(char.IsDigit))
            return new(clean, "");
        var from = words.Length - 1;
        while (from > 1 && Particles.Contains(words[from - 1]))
            from--;
        return new(string.Join(' ', words[from..]), string.Join(' ', words[..from]));
    }

    /// <summary>Reads names with semicolons between them.</summary>
    public static IReadOnlyList<PersonName> ReadAll(string names) =>
        [.. names.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Select(Read)];

    /// <summary>Names as they stand in a field of a source: family first, so that they read back the same.</summary>
    public static string Write(IEnumerable<PersonName> names) => string.Join("; ", names.Select(name => name.Written));

    /// <summary>As it stands in a field of a source, from which <see cref="Read"/> makes the same again.</summary>
    public string Written =>
        new PersonName(Family.Replace(';', ','), Given.Replace(';', ',')) is var name && Read(name.Sorted) == name ? name.Sorted
        : Given.Length == 0 ? name.Family + ","
        : name.Sorted;

    /// <summary>Family name first: <c>Brandt, H.</c></summary>
    public string Sorted => Given.Length == 0 ? Family : $"{Family}, {Given}";

    /// <summary>As it is spoken: <c>H. Brandt</c>.</summary>
    public string Spoken => Given.Length == 0 ? Family : $"{Given} {Family}";
}
