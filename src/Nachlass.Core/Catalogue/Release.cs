using System.Security.Cryptography;
using System.Text;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Catalogue;

/// <summary>The number of a release, written <c>R 12</c>.</summary>
public readonly record struct ReleaseNumber(int Value) : INumber<ReleaseNumber>
{
    public static ReleaseNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out ReleaseNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>How a release came to be.</summary>
public enum ReleaseWay
{
    /// <summary>The piece came to its last stage; it goes again when the piece is taken back from there.</summary>
    Stage,

    /// <summary>Its writer sent it by hand and said so.</summary>
    Hand,

    /// <summary>The queue sent it.</summary>
    Sent,

    /// <summary>It came in from elsewhere.</summary>
    BroughtIn,
}

/// <summary>What a release is.</summary>
public enum ReleaseKind
{
    Usual,

    /// <summary>Something that does not come in the usual run: a reading, an evening, an extra number.</summary>
    Event,

    /// <summary>What was written, spoken.</summary>
    Spoken,
}

/// <summary>Something a release speaks of.</summary>
/// <param name="Topic">The topic; null where it is on none.</param>
/// <param name="Words">What it says of it, in a few words; empty where the topic says it all.</param>
public sealed record SpokenOf(TopicMark? Topic, string Words);

/// <summary>What was put right after a release went out.</summary>
/// <param name="Note">What was wrong, as readers are told.</param>
/// <param name="Text">The text put right, as Markdown.</param>
/// <param name="ThereAt">When it was put in at the outlet; null while it is only noted here.</param>
public sealed record Correction(DateTimeOffset At, string Note, string Text, DateTimeOffset? ThereAt = null);

/// <summary>A piece that went out on an outlet.</summary>
public sealed record Release
{
    public const int LongestSummary = 400,
        LongestWords = 200,
        LongestNote = 1_000,
        LongestTried = 120,
        MostSpokenOf = 40;

    public required ReleaseNumber Number { get; init; }
    public required PieceNumber Piece { get; init; }

    /// <summary>Where it went out; null where that was never said.</summary>
    public OutletNumber? Outlet { get; init; }

    /// <summary>The writer's calendar day on which it went out.</summary>
    public required DateOnly OutOn { get; init; }

    public ReleaseWay Way { get; init; }

    public ReleaseKind Kind { get; init; }

    /// <summary>Its title as sent.</summary>
    public required string Title { get; init; }

    /// <summary>The text as sent, as Markdown without its title. Nothing changes it.</summary>
    public required string Text { get; init; }

    /// <summary>The text as it reads; empty where the text does not come along.</summary>
    public string Html => Text.Length == 0 ? "" : Reading.Html(Text);

    /// <summary>Words of the text.</summary>
    public int Words { get; init; }

    /// <summary>SHA-256 of title and text, in hexadecimal, by which it can be shown what was sent.</summary>
    public required string Hash { get; init; }

    /// <summary>Where it can be read; empty where that is not said.</summary>
    public string Address { get; init; } = "";

    /// <summary>One line that says what it is; as the writer has it, else made of what it speaks of.</summary>
    public string Summary { get; init; } = "";

    /// <summary>What was tried with it, in a few words, so that it can be held against others.</summary>
    public string Tried { get; init; } = "";

    /// <summary>What it speaks of, in its order.</summary>
    public IReadOnlyList<SpokenOf> SpeaksOf { get; init; } = [];

    public IReadOnlyList<Correction> Corrections { get; init; } = [];

    /// <summary>The picture of its own that went out with it; null for none.</summary>
    public SentPicture? Picture { get; init; }

    /// <summary>The sound that went out with it; null for none.</summary>
    public Audio.Recording? Recording { get; init; }

    public int Version { get; init; }

    /// <summary>The fingerprint of a text as sent: SHA-256 (FIPS 180-4) of title, line feed and text in UTF-8.</summary>
    public static string HashOf(string title, string text) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{title}\n{text}")));
}

/// <summary>Offers what a release speaks of, so that it need not be typed.</summary>
public static class SpokenOffers
{
    private const int Most = 12;

    /// <summary>Its headings, each on the topic it names, then the topics of its piece that no heading names; without what is said of it
    /// already.</summary>
    /// <param name="text">The text as sent.</param>
    /// <param name="topics">Topics of its piece.</param>
    /// <param name="said">What it is said to speak of.</param>
    /// <param name="usual">Headings that every piece of its format has, which say nothing of this one.</param>
    public static IReadOnlyList<SpokenOf> Of(
        string text,
        IReadOnlyList<TopicMark> topics,
        IReadOnlyList<SpokenOf> said,
        IReadOnlySet<string> usual
    )
    {
        var words = said.Select(s => s.Words).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var there = said.Select(s => s.Topic?.Number).ToHashSet();
        var headings = DraftText
            .Split(text)
            .Parts.Select(p => PlainText.Of(p.Title).Trim())
            .Where(title => title.Length is > 0 and <= Release.LongestWords && !words.Contains(title) && !usual.Contains(title))
            .Distinct()
            .Select(title => new SpokenOf(topics.FirstOrDefault(t => Names(title, t)), title))
            .ToList();
        var named = headings.Select(h => h.Topic?.Number).ToHashSet();
        return
        [
            .. headings
                .Concat(topics.Where(t => !named.Contains(t.Number) && !there.Contains(t.Number)).Select(t => new SpokenOf(t, "")))
                .Take(Most),
        ];
    }

    private static bool Names(string title, TopicMark topic)
    {
        var roots = Stems.Of(title).Select(s => s.Root).ToHashSet();
        var wanted = Stems.Of(topic.Name).Select(s => s.Root).ToList();
        return wanted.Count > 0 && wanted.TrueForAll(roots.Contains);
    }
}

/// <summary>The line that announces a release.</summary>
public static class SummaryLine
{
    private const int Longest = 160;

    /// <summary>What it speaks of as one line: the words where there are some, else the topic, each once, as many as there is room
    /// for.</summary>
    /// <returns>Empty when it speaks of nothing.</returns>
    public static string Of(IEnumerable<SpokenOf> speaksOf)
    {
        var line = new StringBuilder();
        var said = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var words in speaksOf.Select(s => s.Words.Length > 0 ? s.Words.TrimEnd('.', ' ') : s.Topic?.Name ?? ""))
        {
            if (words.Length == 0 || !said.Add(words))
                continue;
            if (line.Length + words.Length + 2 > Longest)
                break;
            line.Append(line.Length == 0 ? char.ToUpperInvariant(words[0]) + words[1..] : $"; {words}");
        }
        return line.Length == 0 ? "" : line.Append('.').ToString();
    }
}
