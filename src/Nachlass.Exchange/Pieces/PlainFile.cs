using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Pieces;

/// <summary>A finished piece as what is read without any marks: plain text, a script, or subtitles.</summary>
public static partial class PlainFile
{
    /// <summary>Plain text: headings and paragraphs between empty lines, items behind a dash or their number, cells behind a bar.</summary>
    public static string Text(string markdown)
    {
        var text = new StringBuilder();
        foreach (var line in Lines(FinishedPage.Of(markdown, _ => null), ""))
            text.Append(line).Append('\n');
        return text.ToString().TrimEnd('\n') + "\n";
    }

    private static IEnumerable<string> Lines(IElement block, string indent)
    {
        var nth = 0;
        foreach (var child in block.Children)
            switch (child.LocalName)
            {
                case "ul" or "ol":
                    foreach (var item in child.Children)
                    {
                        var sign = child.LocalName == "ul" ? "– " : $"{++nth}. ";
                        var words = item.ChildNodes.TakeWhile(n => n is not IElement { LocalName: "ul" or "ol" });
                        yield return indent + sign + Flat(string.Concat(words.Select(w => w.TextContent)));
                        foreach (var under in item.Children.Where(c => c.LocalName is "ul" or "ol"))
                        foreach (var line in Lines(Alone(under), indent + "  ").Where(l => l.Length > 0))
                            yield return line;
                    }
                    nth = 0;
                    yield return "";
                    break;
                case "blockquote":
                    foreach (var line in Lines(child, indent + "    "))
                        yield return line;
                    break;
                case "table":
                    foreach (var row in child.QuerySelectorAll("tr"))
                        yield return indent + string.Join(" | ", row.Children.Select(c => Flat(c.TextContent)));
                    yield return "";
                    break;
                case "pre":
                    foreach (var line in child.TextContent.TrimEnd('\n').Split('\n'))
                        yield return indent + line;
                    yield return "";
                    break;
                case "hr":
                    yield return indent + "* * *";
                    yield return "";
                    break;
                default:
                    yield return indent + Flat(child.TextContent);
                    yield return "";
                    break;
            }
    }

    /// <summary>A list by itself, to be walked like a text.</summary>
    private static IElement Alone(IElement list)
    {
        var box = list.Owner!.CreateElement("div");
        box.AppendChild(list.Clone());
        return box;
    }

    private static string Flat(string words) => string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>A script in Fountain (fountain.io/syntax): headings are its sections, what somebody says stands under their name in
    /// capitals (“<c>Pell: I never knew a man argue with that.</c>”), all else is action, rows of a table too.</summary>
    /// <param name="title">The piece's title.</param>
    /// <param name="markdown">The finished text.</param>
    public static string Fountain(string title, string markdown)
    {
        var script = new StringBuilder($"Title: {Flat(title)}\n\n");
        foreach (var block in FinishedPage.Of(markdown, _ => null).Children.Where(b => b.LocalName != "h1"))
            if (block.LocalName is ['h', >= '2' and <= '6'])
                script.Append('#', block.LocalName[1] - '1').Append(' ').Append(Flat(block.TextContent)).Append("\n\n");
            else if (block.LocalName == "hr")
                script.Append("===\n\n");
            else
                foreach (var line in Lines(AroundOf(block), "").Where(l => l.Trim().Length > 0))
                    script.Append(
                        Said().Match(line) is { Success: true } said
                            ? $"@{said.Groups["who"].Value.Trim().ToUpperInvariant()}\n{said.Groups["words"].Value.Trim()}\n\n"
                            // By the mark it is action whatever its letters look like.
                            : $"!{line.Trim()}\n\n"
                    );
        return script.ToString().TrimEnd('\n') + "\n";
    }

    private static IElement AroundOf(IElement block)
    {
        var box = block.Owner!.CreateElement("div");
        box.AppendChild(block.Clone());
        return box;
    }

    /// <summary>Letters on a line of a subtitle, and lines at once, as broadcasters advise.</summary>
    private const int Letters = 84;

    /// <summary>A pause between paragraphs, in milliseconds.</summary>
    private const int Pause = 600;

    /// <summary>What is said when the text is read aloud: a line for each sentence, or part of one that is too long to be shown at
    /// once.</summary>
    /// <param name="markdown">The finished text; its title and headings are not read.</param>
    /// <param name="pace">Words a minute, at least 60.</param>
    public static IReadOnlyList<TranscriptLine> Spoken(string markdown, int pace)
    {
        var lines = new List<TranscriptLine>();
        var at = 0;
        foreach (var paragraph in Paragraphs.Of(markdown))
        {
            foreach (var part in Paragraphs.Sentences(paragraph).SelectMany(Shown))
            {
                var end = at + Math.Max(700, Counts.Of(part).Words * 60_000 / pace);
                lines.Add(new TranscriptLine(at, end, part));
                at = end;
            }
            at += Pause;
        }
        return lines;
    }

    /// <summary>A sentence in parts that can be shown, as even as they come.</summary>
    private static IEnumerable<string> Shown(string sentence)
    {
        var words = sentence.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        var parts = (sentence.Length + Letters - 1) / Letters;
        var most = Math.Min(Letters, sentence.Length / Math.Max(1, parts) + 12);
        var line = "";
        foreach (var word in words)
        {
            if (line.Length > 0 && line.Length + 1 + word.Length > most)
            {
                yield return line;
                line = "";
            }
            line = line.Length == 0 ? word : line + " " + word;
        }
        if (line.Length > 0)
            yield return line;
    }

    [GeneratedRegex(@"^(?<who>\p{Lu}[\p{L}\p{M}'’. -]{0,30}):\s+(?<words>\S.*)$")]
    private static partial Regex Said();
}
