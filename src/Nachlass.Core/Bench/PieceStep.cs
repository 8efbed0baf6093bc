using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>The number of a line of a piece's checklist.</summary>
public readonly record struct StepNumber(int Value) : INumber<StepNumber>
{
    public static StepNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out StepNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A line of a piece's checklist. It is the piece's own: what the format becomes later doesn't touch it.</summary>
public sealed record PieceStep
{
    public StepNumber Number { get; init; }

    /// <summary>The stage at which it is done.</summary>
    public string Stage { get; init; } = "";

    public string Text { get; init; } = "";

    /// <summary>How, in Markdown.</summary>
    public string Instructions { get; init; } = "";

    /// <summary>The same as HTML, safe to show.</summary>
    public string Html => Instructions.Length == 0 ? "" : Reading.Html(Instructions);

    /// <summary>A page to open for it.</summary>
    public string Address { get; init; } = "";

    /// <summary>Who does it; empty for the writer.</summary>
    public string Who { get; init; } = "";

    public DateTimeOffset? DoneAt { get; init; }

    /// <summary>The dated move it became.</summary>
    public MoveNumber? Move { get; init; }

    /// <summary>When that is due.</summary>
    public DateOnly? Due { get; init; }
}
