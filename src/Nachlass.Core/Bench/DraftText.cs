using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A heading in a draft and what stands under it up to the next heading.</summary>
/// <param name="Title">The heading's words.</param>
/// <param name="Depth">1 for <c>#</c> and <c>##</c>, 2 for <c>###</c> …, 5 at most.</param>
/// <param name="Raw">Heading line and body exactly as they stand in the draft.</param>
/// <param name="BodyStart">Where in <paramref name="Raw"/> the body begins.</param>
public sealed record DraftPart(string Title, int Depth, string Raw, int BodyStart)
{
    public string Body => Raw[BodyStart..];

    /// <summary>A heading line with an empty line after it.</summary>
    public static DraftPart Empty(string title, int depth)
    {
        var heading = DraftText.Heading(title, depth) + "\n\n";
        return new DraftPart(title, depth, heading, heading.Length);
    }

    /// <summary>The same heading over another text.</summary>
    public DraftPart With(string body)
    {
        var heading = DraftText.Heading(Title, Depth) + "\n";
        return new DraftPart(Title, Depth, heading + body, heading.Length);
    }

    /// <summary>The same text under another heading; the body stays to the letter.</summary>
    public DraftPart WithHeading(string title, int depth)
    {
        var end = Raw.IndexOf('\n', StringComparison.Ordinal);
        var heading = DraftText.Heading(title, depth) + (end < 0 ? "" : "\n");
        var body = end < 0 ? "" : Raw[(end + 1)..];
        return new DraftPart(title, depth, heading + body, heading.Length);
    }
}

/// <summary>Takes a draft apart at its headings and puts it together again, losing nothing:
/// <c>Compose(Split(text)) == text</c> for every text.</summary>
public static class DraftText
{
    public const int Longest = 5_000_000;
    public const int Deepest = 5;

    /// <summary>The text before the first heading, and the parts.</summary>
    public static (string Lead, IReadOnlyList<DraftPart> Parts) Split(string text)
    {
        var parts = new List<DraftPart>();
        var lead = text.Length;
        string? fence = null;
        (int Start, int BodyStart, string Title, int Depth)? open = null;
        for (var at = 0; at < text.Length; )
        {
            var end = text.IndexOf('\n', at);
            var next = end < 0 ? text.Length : end + 1;
            var line = text.AsSpan(at, next - at).TrimEnd();
            if (FenceOf(line) is { } mark)
                fence =
                    fence is null ? mark
                    : line.StartsWith(fence) ? null
                    : fence;
            else if (fence is null && HeadingOf(line) is { } heading)
            {
                Close(at);
                if (open is null)
                    lead = at;
                open = (at, next, heading.Title, heading.Depth);
            }
            at = next;
        }
        Close(text.Length);
        return (text[..lead], parts);

        void Close(int end)
        {
            if (open is { } o)
                parts.Add(new DraftPart(o.Title, o.Depth, text[o.Start..end], o.BodyStart - o.Start));
        }
    }

    /// <summary>What is counted of a draft, or of a stretch of one: the text, without its headings.</summary>
    public static Counts Counted(string text)
    {
        var (lead, parts) = Split(text);
        return parts.Select(p => Counts.Of(p.Body)).Aggregate(Counts.Of(lead), (a, b) => a + b);
    }

    /// <summary>The draft again. Between two parts there is always an empty line.</summary>
    public static string Compose(string lead, IEnumerable<DraftPart> parts) => string.Concat(parts.Select(p => p.Raw).Prepend(lead));

    /// <summary>The numbers of sections by their depth: 1, 2, 2.1 …</summary>
    public static IReadOnlyList<string> Numbers(IReadOnlyList<DraftPart> parts)
    {
        var counts = new int[Deepest + 1];
        var numbers = new List<string>(parts.Count);
        foreach (var part in parts)
        {
            counts[part.Depth]++;
            Array.Clear(counts, part.Depth + 1, Deepest - part.Depth);
            numbers.Add(string.Join('.', counts[1..(part.Depth + 1)].Select(c => Math.Max(1, c))));
        }
        return numbers;
    }

    /// <summary>A heading line without its line end.</summary>
    public static string Heading(string title, int depth) => new string('#', Math.Clamp(depth, 1, Deepest) + 1) + " " + title;

    private static (string Title, int Depth)? HeadingOf(ReadOnlySpan<char> line)
    {
        var level = 0;
        while (level < line.Length && line[level] == '#')
            level++;
        if (level is 0 or > 6 || level == line.Length || !char.IsWhiteSpace(line[level]))
            return null;
        var title = line[level..].Trim().TrimEnd('#').Trim().ToString();
        return title.Length == 0 ? null : (title, Math.Max(1, level - 1));
    }

    private static string? FenceOf(ReadOnlySpan<char> line)
    {
        var start = line.TrimStart();
        return line.Length - start.Length > 3 ? null
            : start.StartsWith("```") ? "```"
            : start.StartsWith("~~~") ? "~~~"
            : null;
    }
}
