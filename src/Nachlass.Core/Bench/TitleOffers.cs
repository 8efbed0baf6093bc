using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A title that a text offers for itself.</summary>
/// <param name="Shape">Where in the text it comes from, in a few words.</param>
public sealed record TitleOffer(string Title, string Shape);

/// <summary>Titles made of a text's own words: nothing is put in that the writer has not written.</summary>
public static partial class TitleOffers
{
    public const int Most = 5,
        Longest = 90;

    private const int Shortest = 4;

    /// <summary>The titles a text offers, the likeliest first, each once.</summary>
    /// <param name="text">The idea, as Markdown.</param>
    /// <param name="claim">The title of the claim it is; null when it is none.</param>
    /// <param name="topics">Names of its topics.</param>
    public static IReadOnlyList<TitleOffer> Of(string text, string? claim, IReadOnlyList<string> topics)
    {
        var plain = string.Join(' ', PlainText.Of(Tag().Replace(text, "")).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        var sentences = Paragraphs.Sentences(plain);
        var found = new List<TitleOffer>();
        Offer(claim, "as its claim says");
        if (sentences.Count > 0)
        {
            var first = sentences[0];
            var colon = first.IndexOf(": ", StringComparison.Ordinal);
            if (colon > 0)
            {
                // One word before a colon says what the note is about, seldom what the piece says.
                if (first[..colon].Contains(' '))
                    Offer(first[..colon], "before the colon");
                Offer(first[(colon + 2)..], "behind the colon");
            }
            Offer(first, "its first sentence");
            var dash = Dash().Match(first);
            if (dash.Success)
                Offer(first[..dash.Index], "up to the dash");
            if (first.IndexOf(", ", StringComparison.Ordinal) is > 8 and var comma)
                Offer(first[..comma], "up to the comma");
        }
        foreach (var question in sentences.Where(s => s.EndsWith('?')))
            Offer(question, "its question");
        foreach (Match quoted in Quoted().Matches(plain))
            Offer(quoted.Groups[1].Value, "in quotation marks");
        foreach (var sentence in sentences.Skip(1).OrderBy(s => s.Length).Take(2))
            Offer(sentence, "its shortest sentence");
        if (topics.Count > 1)
            Offer($"{Capital(topics[0])} and {topics[1]}", "its topics");
        return [.. found.Take(Most)];

        void Offer(string? words, string shape)
        {
            if (words is null)
                return;
            var title = Capital(words.Trim().TrimEnd('.', ',', ';', ':', '…').Trim('“', '”', '"', '„', ' '));
            if (title.Length is < Shortest or > Longest || title.Count(char.IsLetter) < Shortest)
                return;
            if (found.All(other => !other.Title.Equals(title, StringComparison.OrdinalIgnoreCase)))
                found.Add(new TitleOffer(title, shape));
        }
    }

    private static string Capital(string words) => words.Length == 0 ? words : char.ToUpperInvariant(words[0]) + words[1..];

    [GeneratedRegex(@"(?<=^|\s)#[\p{L}\p{N}][\p{L}\p{N}_-]*")]
    private static partial Regex Tag();

    [GeneratedRegex(@"\s[–—]\s")]
    private static partial Regex Dash();

    [GeneratedRegex("[“\"„]([^”\"“]{4,80})[”\"“]")]
    private static partial Regex Quoted();
}
