using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Topics;

/// <summary>A line of a digest as it goes out.</summary>
/// <param name="Against">Passages that speak against it.</param>
public sealed record DigestFileLine(
    SlipNumber Slip,
    string Words,
    string Creators,
    string Date,
    string SourceTitle,
    string Locator,
    IReadOnlyList<SlipNumber> Against
);

/// <summary>A digest as a Markdown text: a heading for each theme, a line for each passage with its source and place in brackets.</summary>
public static class DigestFile
{
    public static string Write(string topic, string intro, IEnumerable<(string Name, IEnumerable<DigestFileLine> Lines)> themes)
    {
        var text = new StringBuilder($"# {topic}\n");
        if (intro.Length > 0)
            text.Append('\n').Append(intro).Append('\n');
        foreach (var (name, lines) in themes)
        {
            text.Append($"\n## {name}\n\n");
            foreach (var line in lines)
            {
                var by = line.Creators.Split(';')[0].Split(',')[0].Trim();
                string[] cited =
                [
                    .. new[]
                    {
                        by,
                        line.Date.Length >= 4 ? line.Date[..4] : "",
                        by.Length == 0 ? line.SourceTitle : "",
                        line.Locator,
                    }.Where(part => part.Length > 0),
                ];
                text.Append($"- {line.Words.ReplaceLineEndings(" ").Trim()} ({string.Join(", ", cited)}) [[slip {line.Slip}]]");
                if (line.Against.Count > 0)
                    text.Append($" — against {string.Join(", ", line.Against.Select(a => $"[[slip {a}]]"))}");
                text.Append('\n');
            }
        }
        return text.ToString();
    }
}
