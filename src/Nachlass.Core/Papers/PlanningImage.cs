using Nachlass.Core.Plan;

namespace Nachlass.Core.Papers;

/// <summary>What is planned by, as it goes out and comes in.</summary>
/// <param name="Hours">Hours of the week; null where the writer has said none.</param>
public sealed record PlanningImage(
    IReadOnlyList<Outlet> Outlets,
    IReadOnlyList<Cadence> Cadences,
    WorkingHours? Hours,
    IReadOnlyList<Away> Away
)
{
    /// <summary>What follows when a piece comes to a stage.</summary>
    public IReadOnlyList<StageRuleImage> StageRules { get; init; } = [];

    /// <summary>Figures to be reached by a day.</summary>
    public IReadOnlyList<Goal> Goals { get; init; } = [];

    /// <summary>What is never to be offered for open dates.</summary>
    public IReadOnlyList<Reference> NeverForDates { get; init; } = [];

    /// <summary>Countries whose public holidays are seen.</summary>
    public IReadOnlyList<string> Countries { get; init; } = [];

    /// <summary>What is gone through every day, week and month, in order.</summary>
    public IReadOnlyList<GuideLine> Guide { get; init; } = [];

    public static readonly PlanningImage Nothing = new([], [], null, []);
}

/// <summary>A rule of a stage.</summary>
/// <param name="Ran">The pieces for which it has followed already.</param>
public sealed record StageRuleImage(StageRule Rule, IReadOnlyList<int> Ran);
