using System.Text.RegularExpressions;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue;

/// <summary>What was learned from a piece that went out.</summary>
public sealed record Closing
{
    public const int LongestLine = 1_000;

    public required PieceNumber Piece { get; init; }

    /// <summary>What is known now that was not known before; it becomes a claim on the piece's topics.</summary>
    public string Learned { get; init; } = "";

    /// <summary>What would be done otherwise next time; it is shown when the next piece of this format is started.</summary>
    public string Otherwise { get; init; } = "";

    /// <summary>When the piece was closed; null while it is open.</summary>
    public DateTimeOffset? ClosedAt { get; init; }

    /// <summary>The slip that holds what was learned.</summary>
    public SlipNumber? Slip { get; init; }

    public int Version { get; init; }

    /// <summary>A piece is asked about while it is fresh: for so many days after it went out; ours. Later it can still be closed.</summary>
    public const int Fresh = 60;

    /// <summary>Whether a piece that is not closed should be.</summary>
    /// <param name="outOn">When it went out.</param>
    public static bool IsDue(DateOnly outOn, DateOnly today) => outOn.AddDays(Fresh) >= today;
}

/// <summary>Why a passage is worth keeping.</summary>
public enum KeepWhy
{
    /// <summary>Nothing in the notes reads like it: the piece is the only place where it stands.</summary>
    New,

    /// <summary>It was taken out of the piece before it went out.</summary>
    LeftOut,

    /// <summary>It was marked as usable by itself and has not been used.</summary>
    Marked,
}

/// <summary>A passage that is offered for keeping.</summary>
/// <param name="Text">Without marks.</param>
/// <param name="Section">The heading it stands under; empty above the first.</param>
/// <param name="Carries">How near it is to the middle of what the piece says, 0 to 1.</param>
/// <param name="Nearest">The slip or source that reads most like it; null where none does.</param>
/// <param name="Likeness">How much it does, 0 to 1.</param>
public sealed record PassageOffered(string Text, string Section, KeepWhy Why, double Carries, Reference? Nearest, double Likeness);

/// <summary>Finds what would end in the archive only.</summary>
public static partial class WorthKeeping
{
    public const int Most = 8;

    /// <summary>A passage that reads as much like a note as this is in the notes already; ours.</summary>
    public const double InNotes = 0.3;

    /// <summary>Two passages as near as this say the same; <see cref="Topics.Digest.SameSaying"/>.</summary>
    private const double Same = Topics.Digest.SameSaying;

    private const int FewestWords = 8,
        MostWords = 60,
        MostOfOneSection = 2,
        MostLeftOut = 3,
        MostCompared = 120,
        Fewest = 2,
        WordsEach = 60;

    /// <summary>What speaks to its readers is a gesture of the piece, and what names someone or counts something is told from memory
    /// worst; both ours.</summary>
    private const double SpeaksToReaders = 0.5,
        NamesOrCounts = 1.3;

    /// <summary>
    /// The passages of a text worth keeping, in its order: those marked first of all, then by how much they carry of what it says times how
    /// far they are from every note, more where they name or count something and less where they speak to the readers; no two that say the
    /// same, at most two of one section, one for each sixty words and eight at most; then what was left out of it, three at most.
    /// </summary>
    /// <remarks>A passage is a paragraph, or as many of its sentences as have sixty words. How much one carries is the cosine of its TF-IDF
    /// vector to the centroid of all (Radev, Jing, Styś and Tam, <i>Information Processing and Management</i> 40 (2004)).</remarks>
    /// <param name="text">The text as sent, as Markdown.</param>
    /// <param name="leftOut">What was taken out of it before, with its heading.</param>
    /// <param name="marked">Paragraphs that were marked as usable by themselves, without marks.</param>
    /// <param name="kept">What of it is kept already, without marks; nothing comes after in its place.</param>
    /// <param name="nearest">The note that reads most like some words.</param>
    public static IReadOnlyList<PassageOffered> Of(
        string text,
        IReadOnlyList<(string Title, string Text)> leftOut,
        IReadOnlySet<string> marked,
        IReadOnlyCollection<string> kept,
        Func<string, Nearness?> nearest
    )
    {
        var split = DraftText.Split(text);
        var passages = Passages("", split.Lead)
            .Concat(split.Parts.SelectMany(p => Passages(PlainText.Of(p.Title).Trim(), p.Body)))
            .ToList();
        var there = passages.Select(p => p.Text).ToHashSet();
        var gone = leftOut
            .SelectMany(l => Passages(PlainText.Of(l.Title).Trim(), l.Text))
            // What was moved elsewhere in it is not left out.
            .Where(g => !there.Contains(g.Text))
            .ToList();
        if (passages.Count + gone.Count == 0)
            return [];
        var all = passages.Concat(gone).ToList();
        var vectors = Clusters.Weighed([.. all.Select(p => Stems.Of(p.Text))]);
        var middle = Middle(vectors.Take(Math.Max(1, passages.Count)).ToList());
        var offers = all.Select(
                (p, i) => (Passage: p, At: i, Why: WhyOf(p.Text, i), Carries: Math.Min(1, Clusters.Product(vectors[i], middle)))
            )
            .Where(o => !kept.Any(k => k.Contains(o.Passage.Text, StringComparison.Ordinal)))
            // Those that carry little are not looked up among the notes, of which there may be very many.
            .OrderByDescending(o => o.Why == KeepWhy.Marked)
            .ThenByDescending(o => o.Carries)
            .Take(MostCompared)
            .Select(o => (Offer: Compared(o.Passage, o.Why, o.Carries), o.At))
            .Where(o => o.Offer.Why == KeepWhy.Marked || o.Offer.Likeness < InNotes)
            .ToList();
        var most = Math.Clamp(passages.Sum(p => Counts.Of(p.Text).Words) / WordsEach, Fewest, Most);
        var taken = new List<(PassageOffered Offer, int At)>();
        foreach (
            var one in offers.OrderByDescending(o => o.Offer.Why == KeepWhy.Marked).ThenByDescending(o => Worth(o.Offer)).ThenBy(o => o.At)
        )
            if (HasRoom(one.Offer) && !taken.Exists(t => Clusters.Product(vectors[t.At], vectors[one.At]) >= Same))
                taken.Add(one);
        return [.. taken.OrderBy(t => t.At).Select(t => t.Offer)];

        KeepWhy WhyOf(string passage, int at) =>
            at >= passages.Count ? KeepWhy.LeftOut
            : marked.Any(m => m.Contains(passage, StringComparison.Ordinal)) ? KeepWhy.Marked
            : KeepWhy.New;

        PassageOffered Compared((string Section, string Text) passage, KeepWhy why, double carries)
        {
            var note = nearest(passage.Text);
            return new PassageOffered(passage.Text, passage.Section, why, carries, note?.Thing, note?.Likeness ?? 0);
        }

        bool HasRoom(PassageOffered offer) =>
            offer.Why switch
            {
                KeepWhy.LeftOut => taken.Count(t => t.Offer.Why == KeepWhy.LeftOut) < MostLeftOut,
                _ when taken.Count(t => t.Offer.Why != KeepWhy.LeftOut) + kept.Count >= most => false,
                KeepWhy.Marked => true,
                _ => taken.Count(t => t.Offer.Why == KeepWhy.New && t.Offer.Section == offer.Section) < MostOfOneSection,
            };
    }

    private static double Worth(PassageOffered offer) =>
        offer.Carries
        * (1 - offer.Likeness)
        * (ToReaders().IsMatch(offer.Text) ? SpeaksToReaders : 1)
        * (Particular().IsMatch(offer.Text) ? NamesOrCounts : 1);

    [GeneratedRegex(@"\b(you|your|yours|yourself|tell me|write to me)\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex ToReaders();

    /// <summary>A figure, or a name inside a sentence.</summary>
    [GeneratedRegex(@"\d|(?<=[\p{Ll},;] )\p{Lu}\p{Ll}{2,}", RegexOptions.CultureInvariant)]
    private static partial Regex Particular();

    private static IEnumerable<(string Section, string Text)> Passages(string section, string text)
    {
        foreach (var paragraph in Paragraphs.Of(text))
        {
            var (passage, words) = ("", 0);
            foreach (var sentence in Paragraphs.Sentences(paragraph))
            {
                var more = Counts.Of(sentence).Words;
                if (words > 0 && words + more > MostWords)
                {
                    if (words >= FewestWords)
                        yield return (section, passage);
                    (passage, words) = ("", 0);
                }
                passage = passage.Length == 0 ? sentence : $"{passage} {sentence}";
                words += more;
            }
            if (words >= FewestWords)
                yield return (section, passage);
        }
    }

    private static Dictionary<string, double> Middle(List<Dictionary<string, double>> vectors)
    {
        var middle = new Dictionary<string, double>();
        foreach (var vector in vectors)
        foreach (var (root, weight) in vector)
            middle[root] = middle.GetValueOrDefault(root) + weight;
        var length = Clusters.Length(middle);
        return length == 0 ? middle : middle.ToDictionary(m => m.Key, m => m.Value / length);
    }
}
