using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Reuse;

/// <summary>The number of a cut.</summary>
public readonly record struct CutNumber(int Value) : INumber<CutNumber>
{
    public static CutNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out CutNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A stretch of a recording that is used by itself.</summary>
/// <param name="FromMs">Where it begins, in milliseconds from the recording's beginning.</param>
/// <param name="ToMs">Where it ends.</param>
/// <param name="Passage">What is said in it; empty where nobody said so.</param>
public sealed record Cut(CutNumber Number, PieceNumber Piece, string Title, int FromMs, int ToMs, string Passage, int Version = 1)
{
    public const int LongestTitle = 200,
        LongestPassage = 20_000,
        LastMs = 24 * 3_600_000;

    public string From => CutTimes.Said(FromMs);
    public string To => CutTimes.Said(ToMs);
}

/// <summary>Times inside a recording.</summary>
public static partial class CutTimes
{
    /// <summary>A time as it is read: <c>0:01:02.5</c>, hours first where there are some.</summary>
    public static string Said(int milliseconds)
    {
        var at = TimeSpan.FromMilliseconds(milliseconds);
        var whole =
            at.TotalHours >= 1
                ? string.Create(CultureInfo.InvariantCulture, $"{(int)at.TotalHours}:{at.Minutes:00}:{at.Seconds:00}")
                : string.Create(CultureInfo.InvariantCulture, $"{at.Minutes}:{at.Seconds:00}");
        return at.Milliseconds == 0 ? whole : $"{whole}.{at.Milliseconds:000}".TrimEnd('0');
    }

    /// <summary>A time as it is typed: <c>62</c>, <c>1:02</c>, <c>0:01:02.5</c> or <c>1:02,5</c>.</summary>
    /// <param name="field">For messages.</param>
    /// <returns>Milliseconds.</returns>
    /// <exception cref="BadInputException">It is none, or beyond a day.</exception>
    public static int Read(string field, string? typed)
    {
        var said = (typed ?? "").Trim();
        if (Time().Match(said) is not { Success: true } time)
            throw new BadInputException(field, $"“{said}” is no time; one looks like 1:02 or 0:01:02.5.");
        var parts = new[] { "h", "m", "s" }
            .Select(p => time.Groups[p] is { Success: true } g ? int.Parse(g.Value, Invariant) : 0)
            .ToArray();
        if (time.Groups["m"].Success && parts[2] > 59 || time.Groups["h"].Success && parts[1] > 59)
            throw new BadInputException(field, $"“{said}” is no time; a minute has sixty seconds.");
        var fraction = time.Groups["f"] is { Success: true } f ? int.Parse(f.Value.PadRight(3, '0'), Invariant) : 0;
        var all = ((parts[0] * 60L + parts[1]) * 60 + parts[2]) * 1_000 + fraction;
        return all <= Cut.LastMs ? (int)all : throw new BadInputException(field, "A recording lasts a day at most.");
    }

    private static readonly CultureInfo Invariant = CultureInfo.InvariantCulture;

    /// <summary>
    /// Where a passage lies when its text is spoken from the beginning: as long as the words before it take, and as long as its own.
    /// </summary>
    /// <param name="text">The whole text, as Markdown.</param>
    /// <param name="passage">A paragraph of it, without marks.</param>
    /// <param name="pace">Words a minute; <see cref="ReadingPace.Aloud"/> unless better is known.</param>
    /// <returns>Milliseconds; null where the text has no such paragraph.</returns>
    public static (int FromMs, int ToMs)? Of(string text, string passage, int pace)
    {
        var before = 0;
        foreach (var paragraph in Paragraphs.Of(text))
        {
            var words = Counts.Of(paragraph).Words;
            if (paragraph == passage)
                return (Milliseconds(before), Milliseconds(before + words));
            before += words;
        }
        return null;

        int Milliseconds(int words) => Math.Min(Cut.LastMs, ReadingPace.Seconds(words, pace) * 1_000);
    }

    [GeneratedRegex(@"^(?:(?:(?<h>\d{1,2}):)?(?<m>\d{1,3}):)?(?<s>\d{1,5})(?:[.,](?<f>\d{1,3}))?$")]
    private static partial Regex Time();
}

/// <summary>How a piece came of another.</summary>
public enum CameHow
{
    /// <summary>It was begun from the whole of it: a sequel, or the same in another form.</summary>
    Piece,

    /// <summary>It is a passage of it that stands by itself.</summary>
    Passage,

    /// <summary>It is a clip or cut of its recording.</summary>
    Cut,
}

/// <summary>That a piece came of another.</summary>
public sealed record CameOf(PieceNumber Piece, PieceNumber Of, CameHow How);

/// <summary>A piece in the family of another.</summary>
/// <param name="Depth">Steps from the piece it all began with.</param>
/// <param name="How">How it came of the one above it; null for the first.</param>
public sealed record Relative(PieceNumber Piece, int Depth, CameHow? How);

/// <summary>What came of what.</summary>
public static class Family
{
    /// <summary>The family of a piece: from the one it all began with, each followed by those that came of it, in the order of their
    /// numbers.</summary>
    /// <param name="came">A piece came of one other at most.</param>
    public static IReadOnlyList<Relative> Of(PieceNumber piece, IReadOnlyCollection<CameOf> came)
    {
        var above = came.ToDictionary(c => c.Piece);
        var below = came.ToLookup(c => c.Of);
        var seen = new HashSet<PieceNumber> { piece };
        var first = piece;
        // A ring can't be made here; papers from elsewhere could hold one.
        while (above.TryGetValue(first, out var link) && seen.Add(link.Of))
            first = link.Of;
        var family = new List<Relative>();
        seen.Clear();
        Add(first, 0, null);
        return family;

        void Add(PieceNumber one, int depth, CameHow? how)
        {
            if (!seen.Add(one))
                return;
            family.Add(new Relative(one, depth, how));
            foreach (var link in below[one].OrderBy(c => c.Piece.Value))
                Add(link.Piece, depth + 1, link.How);
        }
    }
}
