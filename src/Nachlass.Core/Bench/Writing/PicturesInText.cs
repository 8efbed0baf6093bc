using System.Text.RegularExpressions;

namespace Nachlass.Core.Bench.Writing;

/// <summary>A picture that stands in a text: <c>![what it shows](address "its caption")</c>.</summary>
/// <param name="Address">Where it lies.</param>
/// <param name="Shows">What it shows, for those who cannot see it.</param>
/// <param name="Caption">What stands under it.</param>
/// <param name="From">Where it begins in the text, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
public sealed record PictureInText(string Address, string Shows, string Caption, int From, int To);

/// <summary>Reads the pictures of a text.</summary>
public static partial class PicturesInText
{
    public static IReadOnlyList<PictureInText> In(string text) =>
        text.Contains("![", StringComparison.Ordinal)
            ?
            [
                .. Picture()
                    .Matches(text)
                    .Select(m => new PictureInText(
                        m.Groups["address"].Value,
                        m.Groups["shows"].Value.Trim(),
                        m.Groups["caption"].Value.Replace("\\\"", "\"", StringComparison.Ordinal).Trim(),
                        m.Index,
                        m.Index + m.Length
                    )),
            ]
            : [];

    [GeneratedRegex(
        @"!\[(?<shows>[^\[\]]{0,2000})\]\((?<address>[^()\s]{1,2000})(?:[ \t]+""(?<caption>(?:[^""\\\n]|\\.){0,2000})"")?[ \t]*\)"
    )]
    private static partial Regex Picture();
}
