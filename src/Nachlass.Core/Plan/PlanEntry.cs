using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Plan;

/// <summary>What stands on a day of the plan.</summary>
public enum PlanKind
{
    /// <summary>A piece that is to go out.</summary>
    Due,

    /// <summary>A piece that went out.</summary>
    Out,

    /// <summary>A day by which a stage of a piece is done.</summary>
    Stage,

    /// <summary>A date of a cadence that no piece fills.</summary>
    Open,

    /// <summary>A date of a cadence that went by unfilled.</summary>
    Missed,
    Occasion,
    Move,
    Away,
}

/// <summary>One thing on the plan.</summary>
public sealed record PlanEntry
{
    public required PlanKind Kind { get; init; }

    /// <summary>Its day; of several days the first.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>Of several days the last; else the same.</summary>
    public required DateOnly Last { get; init; }

    /// <summary>What it is called: of a stage, its piece's title; of an open date, its format's name.</summary>
    public required string Title { get; init; }

    public PieceNumber? Piece { get; init; }
    public MoveNumber? Move { get; init; }
    public AwayNumber? Away { get; init; }
    public OccasionNumber? Occasion { get; init; }
    public OutletNumber? Outlet { get; init; }
    public SeriesNumber? Series { get; init; }

    /// <summary>Key of a format.</summary>
    public string? Format { get; init; }

    /// <summary>Of a piece where it stands; of a stage date the stage.</summary>
    public string? Stage { get; init; }

    public IReadOnlyList<TopicMark> Topics { get; init; } = [];

    /// <summary>Who has to do with it: what its fields for persons say.</summary>
    public IReadOnlyList<string> People { get; init; } = [];

    /// <summary>The country of a public holiday.</summary>
    public string? Country { get; init; }

    /// <summary>When it is reminded of.</summary>
    public DateTimeOffset? RemindAt { get; init; }

    /// <summary>Hours of work it still needs.</summary>
    public double? Hours { get; init; }

    /// <summary>Hours of it that fit nowhere before its date; null when it fits.</summary>
    public double? Missing { get; init; }

    /// <summary>Where hours are missing: the first day it could be ready; null when there is none within a year.</summary>
    public DateOnly? ReadyOn { get; init; }

    /// <summary>The first day of work on it.</summary>
    public DateOnly? Begins { get; init; }

    /// <summary>The missed date that an open one stands in for.</summary>
    public DateOnly? InsteadOf { get; init; }

    /// <summary>Whether the writer set the day of a stage.</summary>
    public bool IsSet { get; init; }

    /// <summary>Version of the move, to change it.</summary>
    public int? Version { get; init; }
}
