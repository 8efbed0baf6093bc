using Nachlass.Core.Bench;

namespace Nachlass.Core.Papers;

/// <summary>What stands beside a piece from before it was written, as it goes out with its papers.</summary>
public sealed record BeforeImage(
    Brief Brief,
    IReadOnlyList<(string Text, string Note)> Titles,
    IReadOnlyList<ToFindImage> ToFind,
    IReadOnlyList<ReferenceImage> References
)
{
    public static readonly BeforeImage Nothing = new(new Brief(), [], [], []);
}

/// <summary>Something to find out: a question's slip or a move, and the passage that answers it.</summary>
public sealed record ToFindImage(int? Slip, int? Move, int? Answer);

/// <summary>Something referred to.</summary>
/// <param name="Section">Which of the piece's sections it is for, counted from 1.</param>
public sealed record ReferenceImage(string Address, int? Picture, int? Slip, string Why, int? Section);
