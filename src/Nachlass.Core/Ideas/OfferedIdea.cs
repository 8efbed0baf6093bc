using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas;

/// <summary>The number of an idea that was proposed.</summary>
public readonly record struct OfferNumber(int Value) : INumber<OfferNumber>
{
    public static OfferNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out OfferNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>Where a proposed idea stands.</summary>
public enum OfferState
{
    /// <summary>Not looked at yet.</summary>
    Waiting,

    /// <summary>Put off: it comes behind those that wait.</summary>
    Later,

    /// <summary>Made a slip.</summary>
    Taken,

    /// <summary>Not wanted: neither it nor what is nearly the same is proposed again.</summary>
    Refused,
}

/// <summary>What went out and says an idea already.</summary>
/// <param name="Share">How much of the idea stands in the passage, 0 to 1, the rare words counting most.</param>
public sealed record SaidBefore(PieceNumber Piece, string Title, string Passage, double Share);

/// <summary>An idea that was proposed, and what was decided about it.</summary>
/// <param name="Round">Ideas that were asked for at once have the same.</param>
/// <param name="SaidIn">What went out and says it already; null for nothing.</param>
/// <param name="Near">A slip that says nearly the same; null for none.</param>
/// <param name="Slip">The slip it was made; null while it is none.</param>
public sealed record OfferedIdea(
    OfferNumber Number,
    int Round,
    DateTimeOffset At,
    int Seed,
    MadeIdea Idea,
    SaidBefore? SaidIn,
    IdeaOrigin? Near,
    OfferState State,
    SlipNumber? Slip,
    int Version
)
{
    public const int LongestText = 1_000;
}
