using System.Text.RegularExpressions;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>What becomes of headings.</summary>
public enum HeadingsAs
{
    /// <summary>As they stand; none where the format's sections are separate posts.</summary>
    Kept,
    Numbered,
    Left,
}

/// <summary>How a draft goes out.</summary>
public sealed record FinishedAs
{
    public static readonly FinishedAs Usual = new();

    public bool WithTitle { get; init; } = true;
    public HeadingsAs Headings { get; init; }

    /// <summary>Sections that go out, counted from 0, with those inside them; null for all.</summary>
    public IReadOnlySet<int>? Sections { get; init; }

    public Citing Citing { get; init; }
    public Language Language { get; init; } = Languages.All[0];

    /// <summary>The work that a reference is to.</summary>
    public Func<TextReference, CitedWork?> Work { get; init; } = _ => null;

    /// <summary>Where a thing can be read; null where nobody can. A reference to it goes out as a link.</summary>
    public Func<Reference, string?> AddressOf { get; init; } = _ => null;
}

/// <summary>A draft as it goes out: without our references, without remarks to oneself, without sections nobody has written, without
/// moves that stand in it, and
/// without headings where the format's sections are separate posts.</summary>
public static partial class Finished
{
    /// <summary>The piece as Markdown, its title first.</summary>
    /// <param name="title">The piece's title.</param>
    /// <param name="format">Its format.</param>
    /// <param name="draft">Its draft.</param>
    /// <param name="named">What a numbered thing is called; null when there is none.</param>
    /// <param name="how">How it goes out; whole and as it stands when null.</param>
    public static string Markdown(string title, Format format, string draft, Func<Reference, string?> named, FinishedAs? how = null)
    {
        how ??= FinishedAs.Usual;
        var notes = Footnotes.In(draft);
        var (lead, parts) = DraftText.Split(OpenMove().Replace(Remarks.Without(draft), ""));
        var numbers = DraftText.Numbers(parts);
        var chosen = Chosen(parts, how.Sections);
        var kept = new List<string> { how.WithTitle ? $"# {title}" : "", how.Sections is null ? lead.Trim() : "" };
        for (var i = 0; i < parts.Count; i++)
        {
            var body = parts[i].Body.Trim();
            if (!chosen(i) || (body.Length == 0 && !HasWrittenChild(parts, i)))
                continue;
            if (how.Headings != HeadingsAs.Left && !format.IsInParts)
                kept.Add(
                    DraftText.Heading(
                        how.Headings == HeadingsAs.Numbered ? $"{numbers[i]} {parts[i].Title}" : parts[i].Title,
                        parts[i].Depth
                    )
                );
            kept.Add(body);
        }
        var text = Footnotes.AtEnd(string.Join("\n\n", kept.Where(t => t.Length > 0)), notes).TrimEnd();
        text = Citations.Written(text, how.Citing, how.Language, how.Work);
        if (how.Citing != Citing.None)
            text = Footnotes.AtEnd(text).TrimEnd();
        // A quotation whose credit was only a reference leaves an empty quotation line behind.
        return EmptyQuotationEnd().Replace(Outward(text, named, how.AddressOf), "") + "\n";
    }

    /// <summary>
    /// The text as readers get it. A number of ours behind a sentence is a trace and falls away; where it does the work of a word (“see
    /// [[P 3]]”) the title stands in its place, so that no hole is left.
    /// </summary>
    private static string Outward(string text, Func<Reference, string?> named, Func<Reference, string?> addressOf) =>
        References.Spoken(
            text,
            (reference, before) =>
                Said(reference, before, named) is { Length: > 0 } said && reference.Thing is { } thing && addressOf(thing) is { } address
                    ? $"[{LinkMarks().Replace(said, @"\$0")}](<{address}>)"
                    : Said(reference, before, named)
        );

    /// <summary>What would end the words of a link.</summary>
    [GeneratedRegex(@"[\[\]\\]")]
    private static partial Regex LinkMarks();

    /// <summary>What stands in place of a reference; empty for a trace.</summary>
    internal static string Said(TextReference reference, string before, Func<Reference, string?> named) =>
        reference.Thing is not { } thing ? reference.Name
        : thing.Kind != ThingKind.Slip || IsWord(before)
            ? reference.Part.Length > 0 ? reference.Part
                : named(thing) ?? ""
        : "";

    /// <summary>Whether what follows this stretch of a sentence has to be a word of it.</summary>
    internal static bool IsWord(string before) => JoiningWord().IsMatch(before);

    /// <summary>Whether a section goes out: it or one around it is chosen.</summary>
    private static Func<int, bool> Chosen(IReadOnlyList<DraftPart> parts, IReadOnlySet<int>? sections)
    {
        if (sections is null)
            return _ => true;
        var within = new HashSet<int>();
        int? depth = null;
        for (var i = 0; i < parts.Count; i++)
        {
            if (depth is { } d && parts[i].Depth <= d)
                depth = null;
            if (sections.Contains(i))
                depth ??= parts[i].Depth;
            if (depth is not null)
                within.Add(i);
        }
        return within.Contains;
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
