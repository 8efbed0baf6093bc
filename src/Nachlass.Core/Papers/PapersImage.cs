using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Choosing;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Plan;
using Nachlass.Core.Sources;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Papers;

/// <summary>A whole set of papers in memory, as it goes out and comes in. History is not part of it.</summary>
public sealed record PapersImage
{
    public string Purpose { get; init; } = "";
    public IReadOnlyList<Topic> Topics { get; init; } = [];
    public IReadOnlyList<Source> Sources { get; init; } = [];
    public IReadOnlyList<(SourceNumber Source, IReadOnlyList<TranscriptLine> Lines)> Transcripts { get; init; } = [];

    /// <summary>The writer's questions to what is read; null when they are the ready ones.</summary>
    public IReadOnlyList<string>? Questions { get; init; }

    public IReadOnlyList<Slip> Slips { get; init; } = [];
    public IReadOnlyList<PieceImage> Pieces { get; init; } = [];
    public IReadOnlyList<Move> Moves { get; init; } = [];
    public IReadOnlyList<DaySheet> Days { get; init; } = [];

    public IReadOnlyList<Attachment> Attachments { get; init; } = [];

    /// <summary>The files that belong to these papers, by their hash: what is attached, and what went out with a text.</summary>
    public IEnumerable<string> FileHashes =>
        Attachments
            .Select(a => a.Hash)
            .Concat((Releases ?? []).SelectMany(r => new[] { r.Recording?.Hash, r.Picture?.Hash }).OfType<string>())
            .Distinct()
            .Order(StringComparer.Ordinal);
    public IReadOnlyList<Occasion> Occasions { get; init; } = [];

    /// <summary>Outlets, cadences and hours.</summary>
    public PlanningImage Planning { get; init; } = PlanningImage.Nothing;

    /// <summary>Keys of the writer's own.</summary>
    public IReadOnlyList<OwnKey> Keys { get; init; } = [];

    /// <summary>The formats; null when they are the ready ones.</summary>
    public IReadOnlyList<Format>? Formats { get; init; }

    /// <summary>How ideas are weighed, and what was chosen.</summary>
    public ChoosingImage Choosing { get; init; } = ChoosingImage.First;
    public IReadOnlyList<SeriesImage> Series { get; init; } = [];

    public IReadOnlyList<StandingText> StandingTexts { get; init; } = [];

    /// <summary>The writer's own angles; null while the ready ones hold.</summary>
    public IReadOnlyList<Angle>? Angles { get; init; }

    /// <summary>The writer's own decks; null while the ready ones hold.</summary>
    public IReadOnlyList<Deck>? Decks { get; init; }

    /// <summary>How much each term counts in the order of topics; null while it is as papers begin with.</summary>
    public OrderWeights? OrderWeights { get; init; }

    /// <summary>Ideas that were proposed, and what was decided about them.</summary>
    public IReadOnlyList<OfferedIdea> OfferedIdeas { get; init; } = [];

    /// <summary>The patterns; null when they are the ones papers begin with.</summary>
    public IReadOnlyList<Pattern>? Patterns { get; init; }

    /// <summary>Words that are spelt right because their writer says so.</summary>
    public IReadOnlyList<string> OwnWords { get; init; } = [];

    /// <summary>Words a sitting should have.</summary>
    public int? SittingAim { get; init; }
    public IReadOnlyList<DraftSitting> Sittings { get; init; } = [];

    /// <summary>What is recorded on days, in order.</summary>
    public IReadOnlyList<Shot> Shots { get; init; } = [];

    /// <summary>Short posts, in the order they were begun.</summary>
    public IReadOnlyList<Post> Posts { get; init; } = [];

    /// <summary>The plan of the day sheets; null when it is the one papers begin with.</summary>
    public DayPlan? Plan { get; init; }

    /// <summary>What was decided about slips and topics besides.</summary>
    public SiftingImage Sifting { get; init; } = new();

    /// <summary>What went out, in the order of numbers; null for papers from before releases were kept, whose pieces say it.</summary>
    public IReadOnlyList<Release>? Releases { get; init; }

    /// <summary>Outlets that pieces are never to go to.</summary>
    public IReadOnlyList<(PieceNumber Piece, OutletNumber Outlet)> NeverThere { get; init; } = [];

    /// <summary>Kept ways of looking at the catalogue.</summary>
    public IReadOnlyList<CatalogueView> CatalogueViews { get; init; } = [];

    /// <summary>What readers wrote, in the order of numbers.</summary>
    public IReadOnlyList<Message> Messages { get; init; } = [];

    /// <summary>What they ask, in the order of numbers.</summary>
    public IReadOnlyList<AskKept> Asks { get; init; } = [];

    /// <summary>Their wishes, in the order of numbers.</summary>
    public IReadOnlyList<WishKept> Wishes { get; init; } = [];

    /// <summary>Words whose messages are not shown.</summary>
    public IReadOnlyList<string> HiddenWords { get; init; } = [];

    /// <summary>Pages of one's own, in the order of numbers, without their passphrases.</summary>
    public IReadOnlyList<PageImage> Pages { get; init; } = [];

    /// <summary>What came of what, what is cut of it, and what was used again.</summary>
    public ReuseImage Reuse { get; init; } = new([], [], []);

    /// <summary>Figures of releases that were typed or told, in order.</summary>
    public IReadOnlyList<FigureImage> Figures { get; init; } = [];

    /// <summary>What was learned from pieces, in the order of their numbers.</summary>
    public IReadOnlyList<Closing> Closings { get; init; } = [];

    /// <summary>Passages of them that were kept as slips, in the order they were.</summary>
    public IReadOnlyList<KeptImage> KeptOfThem { get; init; } = [];

    public bool IsEmpty => Purpose.Length == 0 && Topics.Count + Sources.Count + Slips.Count + Pieces.Count + Moves.Count + Days.Count == 0;
}

/// <summary>What came of what, in order.</summary>
/// <param name="Done">Pieces that were used again, and when that was done.</param>
public sealed record ReuseImage(
    IReadOnlyList<CameOf> Came,
    IReadOnlyList<Cut> Cuts,
    IReadOnlyList<(PieceNumber Piece, DateTimeOffset At)> Done
);

/// <summary>A figure of a release.</summary>
public sealed record FigureImage(ReleaseNumber Release, ReleaseFigure Figure);

/// <summary>A passage of a piece that was kept as a slip when the piece was closed.</summary>
public sealed record KeptImage(PieceNumber Piece, SlipNumber Slip, string Passage);

/// <summary>A series with its pieces, in order.</summary>
public sealed record SeriesImage(Series Series, IReadOnlyList<PieceNumber> Pieces);

/// <summary>A piece with its draft, its sections in the order of the draft's headings, and its material.</summary>
public sealed record PieceImage(Piece Piece, string Draft, IReadOnlyList<SectionImage> Sections, IReadOnlyList<MaterialImage> Material)
{
    /// <summary>Its checklist, in order.</summary>
    public IReadOnlyList<StepImage> Steps { get; init; } = [];

    /// <summary>Sections and steps of its format that it has had or was not to have; null where that was never said.</summary>
    public IReadOnlyList<string>? Laid { get; init; }

    /// <summary>Days by which the writer wants its stages done.</summary>
    public IReadOnlyList<(string Stage, DateOnly Day)> StageDays { get; init; } = [];

    /// <summary>The stages it came to, in order.</summary>
    public IReadOnlyList<StageEntry> Stages { get; init; } = [];

    /// <summary>Texts beside the draft, by their keys.</summary>
    public IReadOnlyList<(string Key, string Text)> SideTexts { get; init; } = [];

    /// <summary>What stands beside it from before it was written.</summary>
    public BeforeImage Before { get; init; } = BeforeImage.Nothing;

    /// <summary>What its route finds and the writer means so, and the places to come back to.</summary>
    public IReadOnlyList<SetAsideImage> SetAside { get; init; } = [];
    public IReadOnlyList<MarkImage> Marks { get; init; } = [];

    /// <summary>Its draft as it stood before, the oldest first.</summary>
    public IReadOnlyList<VersionImage> Versions { get; init; } = [];

    /// <summary>What is kept of its parts; null for a piece that never went out in any.</summary>
    public ThreadImage? Thread { get; init; }

    /// <summary>Standing texts as they stood when it went out.</summary>
    public IReadOnlyList<(StandingTextNumber Number, string Text)> Frozen { get; init; } = [];

    /// <summary>The sections kept beside it, the latest first.</summary>
    public IReadOnlyList<GoneImage> Gone { get; init; } = [];
}

/// <summary>Whether the parts of a draft are numbered, and which were copied out, from 0, in which words.</summary>
public sealed record ThreadImage(bool IsNumbered, IReadOnlyList<(int Nth, string Text)> Copied);

/// <summary>A draft as it stood once.</summary>
public sealed record VersionImage(DateTimeOffset At, VersionWhy Why, string Name, string Text);

/// <summary>What a section has besides its heading and text.</summary>
public sealed record SectionImage(int? Aim, string Beat, string Note = "", bool IsSettled = false);

/// <summary>Something a route finds that is meant so.</summary>
/// <param name="Key">Its key, with the places of sections, counted from 1, for their numbers.</param>
public sealed record SetAsideImage(string Key, string Reason);

/// <summary>A place to come back to.</summary>
/// <param name="Section">Which section it is in, counted from 1; null before the first.</param>
/// <param name="Place">Where in the section with its heading, in UTF-16 units.</param>
public sealed record MarkImage(int? Section, int Place);

/// <summary>A line of a piece's checklist.</summary>
/// <param name="Move">The dated move it became.</param>
public sealed record StepImage(
    string Stage,
    string Text,
    string Instructions,
    string Address,
    string Who,
    DateTimeOffset? DoneAt,
    MoveNumber? Move
);

/// <summary>A section whose heading is gone from the draft, as it last stood, and when it went.</summary>
public sealed record GoneImage(
    string Title,
    int Depth,
    string Body,
    int? Aim,
    string Beat,
    DateTimeOffset At,
    string Note = "",
    bool IsSettled = false
);

/// <summary>A slip or source beside a piece.</summary>
/// <param name="Section">Which of its sections it is placed in, counted from 1; null while loose.</param>
/// <param name="WasIn">Which of the gone sections it lay in, counted from 1.</param>
public sealed record MaterialImage(Reference Thing, int? Section, int? WasIn = null);
