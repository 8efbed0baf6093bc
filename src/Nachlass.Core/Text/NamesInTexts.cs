using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>Names that stand in texts: words with a capital inside a sentence.</summary>
public static partial class NamesInTexts
{
    /// <summary>A word is a name when it stands so in so many texts; one capital may be a slip.</summary>
    public const int LeastTexts = 2;

    /// <summary>The names of these texts, each once.</summary>
    public static IReadOnlyList<string> Of(IEnumerable<string> texts) =>
        [
            .. texts
                .SelectMany(text => Inside().Matches(text).Select(m => m.Groups[1].Value).Distinct())
                .GroupBy(word => word, StringComparer.Ordinal)
                .Where(g => g.Count() >= LeastTexts)
                .Select(g => g.Key)
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>The words of a name or title that begin with a capital.</summary>
    public static IEnumerable<string> InTitle(string title) => Capital().Matches(title).Select(m => m.Value);

    /// <summary>Behind a small letter or a comma and a space, so that no sentence begins there.</summary>
    [GeneratedRegex(@"(?<=[\p{Ll},;] )(\p{Lu}[\p{L}’'-]*\p{L})")]
    private static partial Regex Inside();

    [GeneratedRegex(@"\p{Lu}[\p{L}’'-]*\p{L}")]
    private static partial Regex Capital();
}
