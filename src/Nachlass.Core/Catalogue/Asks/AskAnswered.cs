using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>Whether something that went out answers a wish.</summary>
public static class AskAnswered
{
    private const int Sentences = 2;

    /// <summary>The passage in which the most of a wish stands: two sentences that follow each other, read together with the head of the
    /// text. What only the head has names the subject and answers nothing, so that half of it has to stand in the passage itself.</summary>
    /// <param name="wanted">The stems of the wish with what each weighs.</param>
    /// <param name="head">Its title and what it is said to speak of.</param>
    /// <param name="text">A Markdown text.</param>
    /// <returns>The share of the wish, 0 to 1, and the sentences; null when none of it stands there.</returns>
    public static (double Share, string Sentence)? Passage(IReadOnlyDictionary<string, double> wanted, string head, string text)
    {
        var whole = wanted.Values.Sum();
        if (whole <= 0)
            return null;
        var ahead = Stems.Of(head).Select(s => s.Root).ToHashSet();
        (double Share, string Sentence)? best = null;
        foreach (var paragraph in Paragraphs.Of(text))
        {
            var sentences = Paragraphs.Sentences(paragraph);
            for (var i = 0; i < sentences.Count; i++)
            {
                var passage = string.Join(' ', sentences.Skip(i).Take(Sentences));
                var own = Stems.Of(passage).Select(s => s.Root).ToHashSet();
                var said = wanted.Where(w => own.Contains(w.Key)).Sum(w => w.Value) / whole;
                var share = wanted.Where(w => own.Contains(w.Key) || ahead.Contains(w.Key)).Sum(w => w.Value) / whole;
                if (said >= share / 2 && (best is null || share > best.Value.Share))
                    best = (share, passage);
            }
        }
        return best;
    }
}
