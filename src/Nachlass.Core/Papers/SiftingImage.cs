using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;

namespace Nachlass.Core.Papers;

/// <summary>A slip that was gone through again for a topic, a piece, or something new.</summary>
public sealed record GoneThrough(Reference For, SlipNumber Slip, DateTimeOffset At);

/// <summary>What the writer changed in the digest of a topic.</summary>
public sealed record DigestImage(
    TopicNumber Topic,
    string Intro,
    IReadOnlyList<DigestLineImage> Lines,
    IReadOnlyList<(SlipNumber Slip, string Name)> Themes
);

/// <summary>A line of a digest in the writer's words, left out, or put beside another.</summary>
public sealed record DigestLineImage(SlipNumber Slip, string? Words, string BasedOn, bool Hidden, SlipNumber? Beside);

/// <summary>A slip that became a claim.</summary>
public sealed record ClaimImage(
    SlipNumber Slip,
    string Title,
    IReadOnlyList<(Reference Thing, Side Side, string Note, DateTimeOffset At)> Evidence
);

/// <summary>A paragraph marked as usable by itself.</summary>
public sealed record UsableImage(
    Reference In,
    string Paragraph,
    string Format,
    DateTimeOffset MarkedAt,
    DateTimeOffset? UsedAt,
    PieceNumber? Piece
);

/// <summary>A paragraph or line of a sheet or draft that became a slip or a move, as it was worded then.</summary>
public sealed record LiftedImage(Reference In, string Paragraph, SlipNumber? Slip, MoveNumber? Move);

/// <summary>What was decided about slips and topics besides what stands on them.</summary>
public sealed record SiftingImage
{
    /// <summary>The views; null when they are not part of the papers, which then keep the ready ones.</summary>
    public IReadOnlyList<SavedView>? Views { get; init; }

    public IReadOnlyList<GoneThrough> GoneThrough { get; init; } = [];
    public IReadOnlyList<(SlipNumber Slip, TopicNumber Topic)> Refusals { get; init; } = [];
    public IReadOnlyList<(TopicNumber First, TopicNumber Second)> Apart { get; init; } = [];
    public IReadOnlyList<ClaimImage> Claims { get; init; } = [];
    public IReadOnlyList<UsableImage> Usable { get; init; } = [];
    public IReadOnlyList<LiftedImage> Lifted { get; init; } = [];
    public IReadOnlyList<Rule> Rules { get; init; } = [];
    public IReadOnlyList<DigestImage> Digests { get; init; } = [];
}
