using System.Text.Json.Serialization;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Sift;

/// <summary>What the writer decides about a slip. Each takes it off the pile.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "decision")]
[JsonDerivedType(typeof(Keep), "keep")]
[JsonDerivedType(typeof(StartPiece), "start")]
[JsonDerivedType(typeof(PutIntoPiece), "put")]
[JsonDerivedType(typeof(Hold), "hold")]
[JsonDerivedType(typeof(Drop), "drop")]
[JsonDerivedType(typeof(MergeInto), "merge")]
[JsonDerivedType(typeof(PutBack), "wait")]
public abstract record Decision
{
    private protected Decision() { }

    /// <summary>Into the topic drawers.</summary>
    public sealed record Keep : Decision;

    /// <summary>Keep it and begin a piece with it as the first material.</summary>
    /// <param name="Format">Key of the format; the slip's own when null, and an essay when it has none.</param>
    /// <param name="Title">Title of the piece; taken from the slip when null.</param>
    public sealed record StartPiece(string? Format = null, string? Title = null) : Decision;

    /// <summary>Keep it as loose material of a piece that is in hand.</summary>
    public sealed record PutIntoPiece(PieceNumber Piece) : Decision;

    /// <summary>Out of sight until a date, on which it waits again.</summary>
    public sealed record Hold(DateOnly Until) : Decision
    {
        /// <exception cref="BadInputException">The date is not after today.</exception>
        public void CheckAfter(DateOnly today)
        {
            if (Until <= today) throw new BadInputException("until", "A slip is held until a day after today.");
        }
    }

    /// <summary>Out of sight; it stays findable and can be brought back.</summary>
    public sealed record Drop : Decision;

    /// <summary>Its text and topics go to the end of another slip; it is dropped.</summary>
    public sealed record MergeInto(SlipNumber Slip) : Decision;

    /// <summary>Bring a kept, held or dropped slip back to the pile.</summary>
    public sealed record PutBack : Decision;
}
