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
    public static readonly PlanningImage Nothing = new([], [], null, []);
}
