using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>What is settled about a piece before it is written, and the heap of raw words beside it. What is not settled is
/// empty.</summary>
public sealed record Brief
{
    public const int LongestField = 5_000,
        LongestHeap = 500_000;

    public string ForWhom { get; init; } = "";

    /// <summary>What they should know after it.</summary>
    public string Know { get; init; } = "";

    /// <summary>What they should feel.</summary>
    public string Feel { get; init; } = "";

    /// <summary>What they should do.</summary>
    public string Do { get; init; } = "";

    public string Angle { get; init; } = "";

    /// <summary>What the text asks its reader for, as a sentence that will stand in it or nearly so.</summary>
    public string CallToAction { get; init; } = "";

    /// <summary>Whether the writer says that it serves the purpose of these papers.</summary>
    public bool Serves { get; init; }

    /// <summary>In what way, in the writer's words.</summary>
    public string ServesWhy { get; init; } = "";

    /// <summary>The line of the cover idea.</summary>
    public string CoverLine { get; init; } = "";

    /// <summary>The picture of the cover idea, one of the piece's own.</summary>
    public AttachmentNumber? Cover { get; init; }

    /// <summary>Raw words and phrases, which are no draft and never counted as one.</summary>
    public string Heap { get; init; } = "";

    /// <summary>0 while nothing is settled.</summary>
    public int Version { get; init; }
}

/// <summary>The number of a title that was considered.</summary>
public readonly record struct TitleNumber(int Value) : INumber<TitleNumber>
{
    public static TitleNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out TitleNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of something to find out.</summary>
public readonly record struct ToFindNumber(int Value) : INumber<ToFindNumber>
{
    public static ToFindNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out ToFindNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a reference of a piece.</summary>
public readonly record struct PieceReferenceNumber(int Value) : INumber<PieceReferenceNumber>
{
    public static PieceReferenceNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out PieceReferenceNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}
