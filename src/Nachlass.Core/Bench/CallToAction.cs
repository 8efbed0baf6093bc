using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>Where a text asks its reader for what it is meant to ask for.</summary>
/// <param name="Sentence">The sentence that does.</param>
/// <param name="Share">How much of the call's words stand in it, 0 to 1.</param>
public sealed record CallHeld(string Sentence, double Share);

/// <summary>Whether a draft holds its call to action.</summary>
public static partial class CallToAction
{
    /// <summary>So much of the call's words, as stems, have to stand in one sentence.</summary>
    public const double Enough = 0.6;

    /// <summary>The sentence of a draft that comes nearest to a call, if it comes near enough: one with the call's own web address, or
    /// with three in five of its words.</summary>
    /// <returns>Null when no sentence does, or the call says nothing.</returns>
    public static CallHeld? In(string call, string draft)
    {
        var asked = Stems.Of(PlainText.Of(call)).Select(s => s.Root).ToHashSet();
        var addresses = Address().Matches(call).Select(m => m.Value.TrimEnd('.', ',')).ToList();
        if (asked.Count == 0)
            return null;
        CallHeld? best = null;
        foreach (var paragraph in Paragraphs.Raw(draft))
        {
            if (addresses.Find(a => paragraph.Contains(a, StringComparison.OrdinalIgnoreCase)) is not null)
                return new CallHeld(PlainText.Headline(paragraph, 200), 1);
            foreach (var sentence in Paragraphs.Sentences(PlainText.Of(paragraph)))
            {
                var share = Stems.Of(sentence).Select(s => s.Root).Distinct().Count(asked.Contains) / (double)asked.Count;
                if (share >= Enough && share > (best?.Share ?? 0))
                    best = new CallHeld(sentence.Trim(), share);
            }
        }
        return best;
    }

    [GeneratedRegex(@"https?://[^\s<>()\[\]]+")]
    private static partial Regex Address();
}
