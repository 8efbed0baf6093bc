using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue;

/// <summary>A sentence in which something was mentioned.</summary>
/// <param name="Text">The sentence, without marks.</param>
/// <param name="Share">How much of what was asked stands in it, 0 to 1, the rare words counting most.</param>
public sealed record MentioningSentence(string Text, double Share);

/// <summary>Answers “did I mention …?” with the very sentences.</summary>
public static class Mentioned
{
    /// <summary>From this share on a sentence mentions it. Lower than for a passage would let a single common word of three pass; the
    /// constant is ours.</summary>
    public const double Floor = 0.6;

    /// <summary>From this share on a sentence is near, where none mentions it.</summary>
    public const double NearFloor = 0.35;

    public const int MostSentences = 3;

    /// <summary>The roots of what is asked with what each weighs, of words that say something; all of its words where none does.</summary>
    public static IReadOnlyDictionary<string, double> Wanted(string asked, Func<string, double> weight)
    {
        var wanted = new Dictionary<string, double>();
        foreach (var stem in Stems.Of(asked))
            wanted.TryAdd(stem.Root, weight(stem.Root));
        return wanted;
    }

    /// <summary>The sentences of a text that mention it: those in which the most of it stands first, then in the order of the
    /// text.</summary>
    /// <param name="wanted">As <see cref="Wanted"/> gives it.</param>
    /// <param name="text">A Markdown text.</param>
    /// <param name="floor">The least share, 0 to 1.</param>
    public static IReadOnlyList<MentioningSentence> In(IReadOnlyDictionary<string, double> wanted, string text, double floor = Floor)
    {
        var whole = wanted.Values.Sum();
        if (whole <= 0)
            return [];
        return
        [
            .. Paragraphs
                .Of(text)
                .SelectMany(Paragraphs.Sentences)
                .Select(sentence => new MentioningSentence(
                    sentence,
                    Stems.Of(sentence).Select(s => s.Root).Distinct().Sum(root => wanted.GetValueOrDefault(root)) / whole
                ))
                .Where(s => s.Share >= floor)
                .OrderByDescending(s => s.Share)
                .Take(MostSentences),
        ];
    }
}
