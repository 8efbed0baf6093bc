using System.Text.Json.Serialization;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Capture;

/// <summary>What a slip holds.</summary>
public enum SlipKind
{
    Idea,
    Quote,
    Question,
    Takeaway,
    Note,
    Ask,
}

/// <summary>Where a slip stands: not decided, kept, put off to a date, or out of sight.</summary>
public enum SlipState
{
    Waiting,
    Kept,
    Held,
    Dropped,
}

/// <summary>By which door a thing came in.</summary>
public enum Origin
{
    Strip,
    Paste,
    Sheet,
    Phone,
    Program,
    Feed,
    Reading,
    Import,
    Clip,
    Folder,
}

/// <summary>The smallest thing kept: a few lines of Markdown with what was decided about them.</summary>
public record Slip
{
    /// <summary>The most a slip's text may hold: 1 MiB of UTF-16 halves is refused at the door, this is what fits well under it.</summary>
    public const int LongestText = 500_000;

    public required SlipNumber Number { get; init; }
    public required string Text { get; init; }

    /// <summary>The first line or sentence, without marks, for lists.</summary>
    public string Title => Core.Text.PlainText.Headline(Text);

    public SlipKind Kind { get; init; }
    public SlipState State { get; init; }
    public Origin Origin { get; init; }

    /// <summary>What the door was, where that says more: the feed's or file's name.</summary>
    public string OriginNote { get; init; } = "";

    public DateTimeOffset CaughtAt { get; init; }

    /// <summary>The writer's own calendar day of catching.</summary>
    public DateOnly Day { get; init; }

    public DateOnly? HeldUntil { get; init; }

    /// <summary>The occasion it is held for.</summary>
    public OccasionNumber? HeldOccasion { get; init; }

    /// <summary>How many sources it waits for, or waited for when it has come back.</summary>
    public int? HeldSources { get; init; }

    /// <summary>The name of that occasion.</summary>
    public string? HeldOccasionName { get; init; }

    /// <summary>What has to be looked up for it first; empty where that was not said, null when it is held for something else.</summary>
    public string? HeldLookUp { get; init; }

    /// <summary>How much it draws the writer, 1 to 5.</summary>
    public int? Pull { get; init; }

    /// <summary>How much work it would be, 1 to 5.</summary>
    public int? Effort { get; init; }

    /// <summary>Keys of the formats it would make, in the order of the ready ones; none while the writer has not said.</summary>
    public IReadOnlyList<string> Formats { get; init; } = [];

    /// <summary>The first of them.</summary>
    [JsonIgnore]
    public string? FirstFormat => Formats.Count > 0 ? Formats[0] : null;

    /// <summary>The source it is a passage of.</summary>
    public SourceNumber? Source { get; init; }

    /// <summary>Where in the source: page, time range, anchor.</summary>
    public string Locator { get; init; } = "";

    /// <summary>The block of its day's sheet on whose line it was written.</summary>
    public int? Block { get; init; }

    /// <summary>The slip it was merged into; then it is dropped.</summary>
    public SlipNumber? MergedInto { get; init; }

    public DateTimeOffset? SettledAt { get; init; }
    public int Version { get; init; }

    /// <summary>Whether it stands in a piece that is not in the trash: one was started from it, it is material of one, loose or placed,
    /// or one's draft refers to it.</summary>
    public bool Used { get; init; }

    public IReadOnlyList<TopicMark> Topics { get; init; } = [];

    /// <summary>Whether it waits for a decision on this day: undecided, or held until then.</summary>
    public static bool Waits(SlipState state, DateOnly? heldUntil, DateOnly today) =>
        state == SlipState.Waiting || (state == SlipState.Held && heldUntil <= today);
}
