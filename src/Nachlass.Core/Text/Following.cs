namespace Nachlass.Core.Text;

/// <summary>Finds a paragraph again after its text was rewritten.</summary>
public static class Following
{
    /// <summary>Below this share of common words it is another paragraph.</summary>
    public const double Floor = 0.4;

    /// <summary>
    /// The paragraph that a remembered one has become: the same if it still stands there, else the one that shares most of its words
    /// (Dice's coefficient of the stems, 1945), from <see cref="Floor"/> on; null when it is gone.
    /// </summary>
    /// <param name="remembered">The paragraph as it was.</param>
    /// <param name="paragraphs">The paragraphs as they are.</param>
    public static string? Of(string remembered, IReadOnlyList<string> paragraphs)
    {
        if (paragraphs.Contains(remembered))
            return remembered;
        var was = Roots(remembered);
        return paragraphs
            .Select(p => (p, Share: Dice(was, Roots(p))))
            .Where(p => p.Share >= Floor)
            .OrderByDescending(p => p.Share)
            .Select(p => p.p)
            .FirstOrDefault();
    }

    private static HashSet<string> Roots(string text) => [.. Stems.Of(text).Select(s => s.Root)];

    private static double Dice(HashSet<string> a, HashSet<string> b) =>
        a.Count + b.Count == 0 ? 0 : 2.0 * a.Count(b.Contains) / (a.Count + b.Count);
}
