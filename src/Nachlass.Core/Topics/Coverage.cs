using Nachlass.Core.Papers;

namespace Nachlass.Core.Topics;

/// <summary>What there is on a topic in one column of the map.</summary>
/// <param name="Topic">The row.</param>
/// <param name="Column">Key of a format, or number of a topic of the writer's own second axis.</param>
/// <param name="InHand">Kept slips that stand in no piece yet.</param>
/// <param name="InWork">Pieces on the bench.</param>
/// <param name="Out">Pieces that went out.</param>
/// <param name="LastOut">When the last of them did.</param>
public sealed record CoverageCell(TopicNumber Topic, string Column, int InHand, int InWork, int Out, DateOnly? LastOut)
{
    /// <summary>Nothing at all: an invitation.</summary>
    public bool IsEmpty => InHand + InWork + Out == 0;
}

/// <summary>A column of the map.</summary>
public sealed record CoverageColumn(string Key, string Name);

/// <summary>Topics against formats, or against a second axis of the writer's own: what is in hand, in work and out.</summary>
/// <param name="Axis">The wider topic whose narrower ones are the columns; null when the columns are formats.</param>
/// <param name="Cells">Every cell that is not empty.</param>
public sealed record CoverageMap(
    TopicNumber? Axis,
    IReadOnlyList<CoverageColumn> Columns,
    IReadOnlyList<Topic> Rows,
    IReadOnlyList<CoverageCell> Cells
);
