using Nachlass.Core.Capture;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Sift;

/// <summary>How near something must be before it is worth a line of the writer's attention.</summary>
public static class ReadsLike
{
    /// <summary>The least likeness shown, 0 to 1: below it two texts share a word or two by chance.</summary>
    public const double Floor = 0.09;

    public const int Most = 5;

    /// <summary>The least likeness at which a piece is offered. A draft is long, so its cosine with a slip is small even where they
    /// meet.</summary>
    public const double PieceFloor = 0.07;

    /// <summary>The least likeness at which something dropped is worth another look.</summary>
    public const double AgainFloor = 0.16;

    /// <summary>How much of a slip has to stand in one passage of a release for it to have been said already.</summary>
    public const double SaidFloor = 0.5;
}

/// <summary>A kind that a slip seems to be, when that is another than it has.</summary>
/// <param name="Figure">The share of the near slips' votes, 0 to 1; 1 when the text itself says so.</param>
/// <param name="Because">The near slips of that kind; none when the text itself says so.</param>
public sealed record LikelyKind(SlipKind Kind, double Figure, IReadOnlyList<Reference> Because)
{
    private const double Floor = 0.66;
    private const int FewestVotes = 3;

    /// <summary>The likely kind; null when it is the one it has or nothing speaks clearly.</summary>
    public static LikelyKind? Of(string text, SlipKind has, IReadOnlyList<(Reference Slip, SlipKind Kind, double Likeness)> near)
    {
        // A text in quotation marks or with a question mark at its end says itself what it is.
        var read = CaptureLine.Read(text, new DateOnly(2000, 1, 1)).Kind;
        if (read is SlipKind.Quote or SlipKind.Question)
            return read == has || has == SlipKind.Ask ? null : new LikelyKind(read, 1, []);
        var whole = near.Sum(n => n.Likeness);
        var best = near.GroupBy(n => n.Kind)
            .Select(g => (g.Key, Share: g.Sum(n => n.Likeness) / whole, All: g.ToList()))
            .OrderByDescending(g => g.Share)
            .FirstOrDefault();
        return
            best.All is null
            || best.All.Count < FewestVotes
            || best.Share < Floor
            || best.Key == has
            || best.Key is SlipKind.Quote or SlipKind.Question
            ? null
            : new LikelyKind(best.Key, best.Share, [.. best.All.OrderByDescending(n => n.Likeness).Select(n => n.Slip)]);
    }
}

/// <summary>A piece that went out, as far as its effort goes.</summary>
/// <param name="Days">From its start to the day it went out.</param>
public sealed record FinishedPiece(PieceNumber Piece, string Title, int Words, int Days, double Likeness);

/// <summary>How much work a slip would be, from finished pieces that read like it.</summary>
/// <param name="Effort">1 to 5.</param>
/// <param name="Because">The pieces, the nearest first.</param>
public sealed record LikelyEffort(int Effort, IReadOnlyList<FinishedPiece> Because)
{
    // Bands of words and days, each from small to large; the effort is the higher of the two that a piece falls into.
    private static readonly int[] WordBands = [150, 400, 900, 1_800],
        DayBands = [1, 4, 12, 30];

    /// <summary>The mean effort of the pieces, weighed by likeness; null when there are none.</summary>
    public static LikelyEffort? Of(IReadOnlyList<FinishedPiece> pieces)
    {
        if (pieces.Count == 0)
            return null;
        var mean = pieces.Sum(p => EffortOf(p) * p.Likeness) / pieces.Sum(p => p.Likeness);
        return new LikelyEffort((int)Math.Round(mean, MidpointRounding.AwayFromZero), [.. pieces.OrderByDescending(p => p.Likeness)]);
    }

    /// <summary>1 for up to 150 words within a day, 5 for more than 1,800 words or a month.</summary>
    public static int EffortOf(FinishedPiece piece) =>
        Math.Max(1 + WordBands.Count(band => piece.Words > band), 1 + DayBands.Count(band => piece.Days > band));
}
