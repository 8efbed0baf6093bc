using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Capture;

/// <summary>One concrete next action.</summary>
public sealed record Move
{
    public const int LongestText = 2_000,
        LongestNote = 20_000;

    public required MoveNumber Number { get; init; }
    public required string Text { get; init; }
    public DateOnly? Due { get; init; }
    public DateTimeOffset? DoneAt { get; init; }
    public PieceNumber? Piece { get; init; }

    /// <summary>Title of the piece, for lists.</summary>
    public string? PieceTitle { get; init; }

    /// <summary>The day from which it is to be seen; null for at once.</summary>
    public DateOnly? Start { get; init; }

    /// <summary>When it is reminded of; null for never, and once it was seen.</summary>
    public DateTimeOffset? RemindAt { get; init; }

    /// <summary>How often it comes again, as a recurrence rule (RFC 5545); null for once. The next appears when this one is done.</summary>
    public string? Repeats { get; init; }

    /// <summary>The same in words; the rule itself where no sentence says it.</summary>
    public string? RepeatsSaid => Repeats is null ? null : CadenceWords.Say(Repeats) ?? Repeats;

    /// <summary>The move it came after, being its repeat.</summary>
    public MoveNumber? Follows { get; init; }

    /// <summary>What the writer noted to it; Markdown.</summary>
    public string Note { get; init; } = "";

    /// <summary>Where the writer has put it among the others, as if it were its number; null where it stands by that.</summary>
    public int? Place { get; init; }

    public DateTimeOffset CaughtAt { get; init; }

    /// <summary>The day sheet it was written on.</summary>
    public DateOnly Day { get; init; }

    public int Version { get; init; }
}
