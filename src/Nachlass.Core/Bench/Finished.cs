using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A draft as it goes out: without our references, without sections nobody has written, without moves that stand in it, and
/// without headings where the format's sections are separate posts.</summary>
public static partial class Finished
{
    /// <summary>The piece as Markdown, its title first.</summary>
    /// <param name="title">The piece's title.</param>
    /// <param name="format">Its format.</param>
    /// <param name="draft">Its draft.</param>
    /// <param name="named">What a numbered thing is called; null when there is none.</param>
    public static string Markdown(string title, Format format, string draft, Func<Reference, string?> named)
    {
        var (lead, parts) = DraftText.Split(OpenMove().Replace(draft, ""));
        var headings = !format.IsInParts;
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
        return EmptyQuotationEnd().Replace(Outward(text, named), "") + "\n";
    }

    /// <summary>
    /// The text as readers get it. A number of ours behind a sentence is a trace and falls away; where it does the work of a word (“see
    /// [[P 3]]”) the title stands in its place, so that no hole is left.
    /// </summary>
    private static string Outward(string text, Func<Reference, string?> named) =>
        References.Spoken(text, (reference, before) => Said(reference, before, named));

    /// <summary>What stands in place of a reference; empty for a trace.</summary>
    internal static string Said(TextReference reference, string before, Func<Reference, string?> named) =>
        reference.Thing is not { } thing ? reference.Name
        : thing.Kind != ThingKind.Slip || IsWord(before)
            ? reference.Part.Length > 0 ? reference.Part
                : named(thing) ?? ""
        : "";

    /// <summary>Whether what follows this stretch of a sentence has to be a word of it.</summary>
    internal static bool IsWord(string before) => JoiningWord().IsMatch(before);

    private static bool HasWrittenChild(IReadOnlyList<DraftPart> parts, int at)
    {
        for (var i = at + 1; i < parts.Count && parts[i].Depth > parts[at].Depth; i++)
            if (parts[i].Body.Trim().Length > 0)
                return true;
        return false;
    }

    [GeneratedRegex(@"(?:\n>[ \t]*)+(?=\n(?!>)|$)")]
    private static partial Regex EmptyQuotationEnd();

    /// <summary>A line that is a move still to be done.</summary>
    [GeneratedRegex(@"^[ \t]*[-*+] \[ \] .*(?:\n|$)", RegexOptions.Multiline)]
    internal static partial Regex OpenMove();

    [GeneratedRegex(
        @"(?:^|[\s(“""‘])
        (?:see|and|or|of|in|with|from|by|to|as|like|on|at|than|the|a|an|that|cf\.?|compare|about
        |between|under|into|for|is|was|but|not|both|after|before)\s*$",
        RegexOptions.IgnoreCase | RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex JoiningWord();
}
