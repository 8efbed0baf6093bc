using Nachlass.Core.Papers;

namespace Nachlass.Core.Sources;

/// <summary>The fields of a source that its type needs.</summary>
public static class SourceDetails
{
    /// <summary>The fields with some of them changed: numbers with a check digit are checked, an empty field falls away.</summary>
    /// <exception cref="BadInputException">A field is unknown or too long, or an ISBN, ISSN or DOI is mistyped.</exception>
    public static IReadOnlyDictionary<string, string> Merge(
        IReadOnlyDictionary<string, string> present,
        IReadOnlyDictionary<string, string> changed
    )
    {
        var merged = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var (key, value) in present)
            merged[key] = value;
        foreach (var (key, typed) in changed)
        {
            if (!SourceForms.Has(key))
                throw new BadInputException(key, $"No source has a field “{key}”.");
            var value = Checked(key, Check.Length(key, typed, Source.LongestField).Trim());
            if (value.Length > 0)
                merged[key] = value;
            else
                merged.Remove(key);
        }
        return merged;
    }

    /// <summary>A value as it is kept.</summary>
    public static string Checked(string key, string value) =>
        value.Length == 0
            ? ""
            : key switch
            {
                "ISBN" => Identifiers.Isbn(value),
                "ISSN" => Identifiers.Issn(value),
                "DOI" => Identifiers.Doi(value),
                _ => value,
            };
}
