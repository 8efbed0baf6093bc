using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Short;

/// <summary>A part of a thread.</summary>
/// <param name="Text">Its text, without the line that divides it from the next and without a heading.</param>
/// <param name="From">Where its text begins in the draft, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
public sealed record ThreadPart(string Text, int From, int To);

/// <summary>A draft whose parts go out one after the other. They are divided by a rule (<c>---</c>, CommonMark 4.1) or a heading.</summary>
public static class ThreadParts
{
    public const string Divider = "---";

    /// <summary>The parts in which there is a word, in order.</summary>
    public static IReadOnlyList<ThreadPart> In(string draft)
    {
        var parts = new List<ThreadPart>();
        var (start, at) = (0, 0);
        while (at < draft.Length)
        {
            var end = draft.IndexOf('\n', at);
            var next = end < 0 ? draft.Length : end + 1;
            if (IsDivider(draft.AsSpan(at, next - at)))
            {
                Add(start, at);
                start = next;
            }
            at = next;
        }
        Add(start, draft.Length);
        return parts;

        void Add(int from, int to)
        {
            while (from < to && char.IsWhiteSpace(draft[from]))
                from++;
            while (to > from && char.IsWhiteSpace(draft[to - 1]))
                to--;
            if (to > from)
                parts.Add(new ThreadPart(draft[from..to], from, to));
        }
    }

    /// <summary>A line of three or more hyphens, stars or underscores, or a heading.</summary>
    public static bool IsDivider(ReadOnlySpan<char> line)
    {
        var sign = line.Trim();
        if (sign.Length > 1 && sign[0] == '#' && sign.TrimStart('#') is { Length: > 0 } title && char.IsWhiteSpace(title[0]))
            return sign.Length - title.Length <= 6;
        if (sign.Length < 3 || sign[0] is not ('-' or '*' or '_'))
            return false;
        foreach (var c in sign)
            if (c != sign[0] && c is not (' ' or '\t'))
                return false;
        return true;
    }
}
