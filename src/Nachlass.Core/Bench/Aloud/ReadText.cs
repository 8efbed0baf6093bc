using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Aloud;

/// <summary>A section as it is read aloud.</summary>
/// <param name="Title">Its heading; empty before the first.</param>
/// <param name="Paragraphs">Without marks.</param>
public sealed record ReadSection(string Title, int Depth, IReadOnlyList<string> Paragraphs, int Words);

/// <summary>Finished texts as they are read aloud.</summary>
public static class ReadText
{
    /// <summary>The sections in which there is something to read.</summary>
    /// <param name="finished">A finished text; its notes are not read.</param>
    public static IReadOnlyList<ReadSection> Of(string finished)
    {
        var text = finished;
        foreach (var note in Footnotes.In(finished).Reverse())
            text = text[..note.From] + text[note.To..];
        var (lead, parts) = DraftText.Split(text);
        return [.. parts.Select(p => Section(p.Title, p.Depth, p.Body)).Prepend(Section("", 1, lead)).Where(s => s.Paragraphs.Count > 0)];
    }

    private static ReadSection Section(string title, int depth, string body)
    {
        var paragraphs = Paragraphs.Of(body).ToList();
        return new ReadSection(title, depth, paragraphs, paragraphs.Sum(p => Counts.Of(p).Words));
    }
}

/// <summary>How fast somebody reads aloud, learned from how they did.</summary>
/// <param name="Words">Words a minute.</param>
/// <param name="Readings">How many readings it is learned from; 0 while it is the mean of all readers (Brysbaert 2019).</param>
public sealed record ReadPace(double Words, int Readings)
{
    public const int Slowest = 60,
        Fastest = 400;

    /// <summary>A reading that tells something is at least so long.</summary>
    public const int LeastSeconds = 20,
        LeastWords = 40;

    /// <summary>A new reading has so much weight against all before it, so that the pace follows its reader and not a slip of the
    /// tongue (exponential smoothing, Brown 1956).</summary>
    public const double Weight = 0.3;

    public static readonly ReadPace Mean = new(ReadingPace.Aloud, 0);

    /// <summary>The pace after another reading; the same when that was too short to tell, or no reading at all.</summary>
    public ReadPace After(int words, double seconds)
    {
        if (words < LeastWords || seconds < LeastSeconds)
            return this;
        var now = words / seconds * 60;
        if (now is < Slowest / 2.0 or > Fastest * 1.5)
            return this;
        var next = Readings == 0 ? now : Words + Weight * (now - Words);
        return new ReadPace(Math.Clamp(Math.Round(next, 1), Slowest, Fastest), Readings + 1);
    }
}

/// <summary>The number of a line of a shooting list.</summary>
public readonly record struct ShotNumber(int Value) : Papers.INumber<ShotNumber>
{
    public static ShotNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out ShotNumber number) => Papers.NumberText.TryParse(text, out number);

    public override string ToString() => Papers.NumberText.Format(Value);
}

/// <summary>A piece to be recorded on a day.</summary>
/// <param name="Points">What is said, in the writer's own words, a line a point; empty for the piece's outline.</param>
/// <param name="Needs">What is needed at the place.</param>
/// <param name="Aim">Seconds it may last; null when nothing is said.</param>
public sealed record Shot(
    ShotNumber Number,
    DateOnly Day,
    Papers.PieceNumber Piece,
    string Points,
    string Needs,
    int? Aim,
    DateTimeOffset? DoneAt,
    int Version
)
{
    public const int LongestPoints = 20_000,
        LongestNeeds = 2_000,
        MostAim = 86_400,
        MostOfADay = 50;
}
