using Nachlass.Core.Text;

namespace Nachlass.Core.Capture;

/// <summary>The journal page of one day.</summary>
public sealed record DaySheet
{
    public const int LongestText = 1_000_000;

    public required DateOnly Day { get; init; }

    /// <summary>The free writing.</summary>
    public string Text { get; init; } = "";

    /// <summary>0 for a day on which nothing has been written yet.</summary>
    public int Version { get; init; }

    /// <summary>What stands on it besides the free writing, once it was begun; until then it follows the plan.</summary>
    public IReadOnlyList<SheetBlock> Blocks { get; init; } = [];
}

/// <summary>A block as it stands on one day's sheet. It keeps what it was when the sheet was begun, whatever becomes of the plan.</summary>
/// <param name="Block">The number the plan knows it by.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Heading">What stands above it.</param>
/// <param name="Prompt">The question, or the aims.</param>
/// <param name="Text">What is written in it.</param>
/// <param name="Size">Ruled lines, or minutes of free writing.</param>
/// <param name="Version">0 while nothing of the sheet has been written.</param>
/// <param name="Fault">Why its text could not be filled in; null when it could.</param>
public sealed record SheetBlock(
    int Block,
    BlockKind Kind,
    string Heading,
    string Prompt,
    string Text,
    int? Size,
    int Version = 0,
    FillInFault? Fault = null
)
{
    /// <summary>Whether the writer writes into it on the sheet itself.</summary>
    public bool IsWritten => Kind is BlockKind.Question or BlockKind.Text or BlockKind.Again;
}
