using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A draft as it goes out: without our references, without sections nobody has written, and without headings where
/// the format's sections are separate posts.</summary>
public static partial class Finished
{
    /// <summary>The piece as Markdown, its title first.</summary>
    public static string Markdown(string title, string format, string draft)
    {
        var (lead, parts) = DraftText.Split(draft);
        var headings = ReadyFormats.Find(format)?.Limit is null;
        var kept = new List<string> { $"# {title}", lead.Trim() };
        for (var i = 0; i < parts.Count; i++)
        {
            var body = parts[i].Body.Trim();
            if (body.Length == 0 && !HasWrittenChild(parts, i))
                continue;
            if (headings)
                kept.Add(DraftText.Heading(parts[i].Title, parts[i].Depth));
            kept.Add(body);
        }
        var text = string.Join("\n\n", kept.Where(t => t.Length > 0));
        // A quotation whose credit was only a reference leaves an empty quotation line behind.
        return EmptyQuotationEnd().Replace(Reading.MarkdownForOutside(text), "") + "\n";
    }

    private static bool HasWrittenChild(IReadOnlyList<DraftPart> parts, int at)
    {
        for (var i = at + 1; i < parts.Count && parts[i].Depth > parts[at].Depth; i++)
            if (parts[i].Body.Trim().Length > 0)
                return true;
        return false;
    }

    [GeneratedRegex(@"(?:\n>[ \t]*)+(?=\n(?!>)|$)")]
    private static partial Regex EmptyQuotationEnd();
}
