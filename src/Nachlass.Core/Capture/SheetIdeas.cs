using System.Text.RegularExpressions;

namespace Nachlass.Core.Capture;

/// <summary>Ideas written in the middle of a text: a paragraph with a <c>#topic</c> in it is one.</summary>
public static partial class SheetIdeas
{
    /// <summary>The paragraphs of a text that are marked as ideas, in order.</summary>
    public static IReadOnlyList<string> In(string text) =>
        [
            .. Break()
                .Split(text)
                .Select(p => p.Trim())
                .Where(p =>
                    p.Length > 0
                    && MovesInText.In(p).Count == 0
                    && CaptureLine.Read(p, default, new Overruling(Move: false)).Topics.Count > 0
                ),
        ];

    /// <summary>
    /// Which of the marked paragraphs are new, and which are an earlier one reworded: the same paragraph has no more work to do,
    /// one that begins alike (by half of the shorter one's letters) is the same idea in other words.
    /// </summary>
    /// <param name="marked">The paragraphs now.</param>
    /// <param name="lifted">The paragraphs that became slips before.</param>
    /// <returns>Each paragraph that has to do with a slip, and the earlier wording it takes the place of; null for a new idea.</returns>
    public static IReadOnlyList<(string Paragraph, string? Earlier)> Changed(IReadOnlyList<string> marked, IReadOnlyList<string> lifted)
    {
        var left = lifted.Except(marked).ToList();
        var changed = new List<(string, string?)>();
        foreach (var paragraph in marked.Except(lifted))
        {
            var earlier = left.FirstOrDefault(old => BeginAlike(old, paragraph));
            if (earlier is not null)
                left.Remove(earlier);
            changed.Add((paragraph, earlier));
        }
        return changed;
    }

    private static bool BeginAlike(string a, string b)
    {
        var same = 0;
        var shorter = Math.Min(a.Length, b.Length);
        while (same < shorter && a[same] == b[same])
            same++;
        return same * 2 >= shorter;
    }

    [GeneratedRegex(@"\n[ \t]*\n")]
    private static partial Regex Break();
}
