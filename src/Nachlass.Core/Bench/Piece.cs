using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Bench;

/// <summary>Something being made.</summary>
public sealed record Piece
{
    public const int LongestTitle = 500;

    public required PieceNumber Number { get; init; }
    public required string Title { get; init; }

    /// <summary>Key of its format.</summary>
    public required string Format { get; init; }

    /// <summary>What it is to do and for whom, in a sentence or two.</summary>
    public string Brief { get; init; } = "";

    /// <summary>Where it stands; one of its format's stages.</summary>
    public required string Stage { get; init; }

    public DateOnly? Due { get; init; }

    /// <summary>Where it is to go out, or went out; null while that is not said.</summary>
    public OutletNumber? Outlet { get; init; }

    /// <summary>The day it went out; null while it is in hand.</summary>
    public DateOnly? OutOn { get; init; }

    /// <summary>Where it can be read, once it is out; empty while that is not said.</summary>
    public string OutAddress { get; init; } = "";

    /// <summary>Its place among those that are pinned, from 1; null for one that is not.</summary>
    public int? Pinned { get; init; }

    /// <summary>When it came to its stage.</summary>
    public DateTimeOffset? StageSince { get; init; }

    /// <summary>Words of the writer's own that hold whatever its stage: sponsored, waits for somebody.</summary>
    public IReadOnlyList<string> States { get; init; } = [];

    public DateTimeOffset StartedAt { get; init; }
    public DateTimeOffset ChangedAt { get; init; }
    public DateTimeOffset? TrashedAt { get; init; }
    public int Version { get; init; }

    /// <summary>Words written, without headings.</summary>
    public int Words { get; init; }

    /// <summary>Words it should have: as its writer says, else the sum over its sections.</summary>
    public int Aim { get; init; }

    /// <summary>Words it should have as its writer says; null when nothing is said.</summary>
    public int? WordAim { get; init; }

    public IReadOnlyList<TopicMark> Topics { get; init; } = [];

    /// <summary>The language it is written in, as a BCP 47 tag; one of <see cref="Languages"/>.</summary>
    public string Language { get; init; } = Languages.Usual;

    /// <summary>How its finished text says where it has things from.</summary>
    public Citing Citing { get; init; }

    /// <summary>Its running number among its like; null when its format numbers nothing.</summary>
    public int? Running { get; init; }

    /// <summary>Values of its format's own fields, by their keys; what is empty is left out.</summary>
    public IReadOnlyDictionary<string, string> Fields { get; init; } = new Dictionary<string, string>();

    /// <summary>Steps of the stage it stands at that are not done.</summary>
    public int OpenSteps { get; init; }

    /// <summary>The next open move on it, the earliest due first.</summary>
    public Move? NextMove { get; init; }
}

/// <summary>A section as shown in the outline.</summary>
/// <param name="Material">How many slips and sources are placed in it.</param>
/// <param name="Start">Where its heading begins in the draft, in UTF-16 units.</param>
/// <param name="Measured">Against the limit its format has for a part; null where it has none.</param>
public sealed record SectionFigures(
    SectionNumber Number,
    string Title,
    int Depth,
    int? Aim,
    string Beat,
    Counts Counts,
    int Material,
    int Start,
    string Note = "",
    bool IsSettled = false,
    Measured? Measured = null
);

/// <summary>A section whose heading is gone from the draft, kept beside the piece.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Title">The heading it had.</param>
/// <param name="Words">Words it had.</param>
/// <param name="Begins">How its text begins.</param>
public sealed record GoneSection(SectionNumber Number, string Title, int Words, string Begins);

/// <summary>A piece's draft with what is counted of it.</summary>
public sealed record Draft(
    PieceNumber Piece,
    int Version,
    string Text,
    Counts Counts,
    IReadOnlyList<SectionFigures> Sections,
    DateTimeOffset ChangedAt
)
{
    /// <summary>Sections that are gone, the latest first; they come back with their heading, or when they are brought back.</summary>
    public IReadOnlyList<GoneSection> Gone { get; init; } = [];

    /// <summary>All of it against the limit its format has for the whole; null where it has none.</summary>
    public Measured? Measured { get; init; }
}
