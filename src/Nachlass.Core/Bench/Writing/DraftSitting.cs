using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Writing;

/// <summary>The number of a sitting.</summary>
public readonly record struct SittingNumber(int Value) : INumber<SittingNumber>
{
    public static SittingNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SittingNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>What was written in one go.</summary>
/// <param name="Written">Words by which the draft grew under the hand.</param>
/// <param name="Taken">Words by which it became shorter.</param>
/// <param name="Pasted">Words that came by pasting or dropping, which nobody wrote there and then.</param>
/// <param name="IsEnded">Whether its writer ended it; else it ends with half an hour in which nothing is written.</param>
public sealed record DraftSitting(
    SittingNumber Number,
    PieceNumber Piece,
    DateTimeOffset StartedAt,
    DateTimeOffset LastAt,
    int Written,
    int Taken,
    int Pasted,
    bool IsEnded
)
{
    /// <summary>Words that an aim may be.</summary>
    public const int MostAim = 1_000_000;

    /// <summary>Whether what is written now still belongs to it.</summary>
    public bool GoesOn(DateTimeOffset now) => !IsEnded && !VersionRules.IsNewSitting(LastAt, now);

    /// <summary>The sitting with another save in it.</summary>
    /// <param name="before">Words before it.</param>
    /// <param name="after">Words after it.</param>
    /// <param name="pasted">Words of it that came by pasting.</param>
    public DraftSitting With(int before, int after, int pasted, DateTimeOffset now)
    {
        var (written, taken, came) = Told(before, after, pasted);
        return this with { LastAt = now, Written = Written + written, Taken = Taken + taken, Pasted = Pasted + came };
    }

    /// <summary>Tells words that were written from words that came and words that went. Pasted words count as pasted as far as the draft
    /// grew or something was taken out for them.</summary>
    public static (int Written, int Taken, int Pasted) Told(int before, int after, int pasted)
    {
        var came = Math.Clamp(pasted, 0, after);
        var grown = after - before - came;
        return (Math.Max(0, grown), Math.Max(0, -grown), came);
    }

    /// <summary>Words of pasted texts.</summary>
    public static int WordsOf(string pasted) => Counts.Of(pasted).Words;
}
