using System.Text.Json.Serialization;
using Nachlass.Core.Capture;
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
    /// <param name="Piece">The piece.</param>
    /// <param name="Section">The section of it in which it is placed; loose when null.</param>
    public sealed record PutIntoPiece(PieceNumber Piece, SectionNumber? Section = null) : Decision;

    /// <summary>Out of sight until a date, until an occasion begins, or until there is enough, and then it waits again; or until the
    /// writer has looked something up.</summary>
    /// <param name="Until">The date.</param>
    /// <param name="Occasion">The occasion on whose first day it comes back.</param>
    /// <param name="Sources">How many sources have to speak to it, 1 to 20.</param>
    /// <param name="LookUp">What is to be looked up first; may be empty.</param>
    public sealed record Hold(DateOnly? Until = null, OccasionNumber? Occasion = null, int? Sources = null, string? LookUp = null)
        : Decision
    {
        public const int MostSources = 20,
            LongestLookUp = 500;

        /// <exception cref="BadInputException">It says nothing or more than one thing to wait for, or the date is not after
        /// today.</exception>
        public void CheckAfter(DateOnly today)
        {
            if (new object?[] { Until, Occasion, Sources, LookUp }.Count(said => said is not null) != 1)
                throw new BadInputException(
                    "until",
                    "A slip is held until a date, until an occasion, until there are enough sources, or to look something up: one of them."
                );
            Check.Length("lookUp", LookUp, LongestLookUp);
            if (Until <= today)
                throw new BadInputException("until", "A slip is held until a day after today.");
            if (Sources is < 1 or > MostSources)
                throw new BadInputException("sources", $"A slip waits for 1 to {MostSources} sources.");
        }
    }

    /// <summary>Out of sight; it stays findable and can be brought back.</summary>
    public sealed record Drop : Decision;

    /// <summary>Its text and topics go to the end of another slip; it is dropped.</summary>
    public sealed record MergeInto(SlipNumber Slip) : Decision;

    /// <summary>Bring a kept, held or dropped slip back to the pile.</summary>
    public sealed record PutBack : Decision;
}
