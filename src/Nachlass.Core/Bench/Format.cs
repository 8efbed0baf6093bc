using System.Text.Json.Serialization;

namespace Nachlass.Core.Bench;

/// <summary>A section as a format lays it down.</summary>
/// <param name="Title">What it is called until the writer says otherwise.</param>
/// <param name="Beat">The job it does in the route.</param>
/// <param name="Aim">Words it should have; null when it has no measure.</param>
/// <param name="Depth">1 for a section, 2 for one inside it.</param>
/// <param name="Number">Its number in the format, by which a piece knows whether it has had it.</param>
public sealed record SkeletonSection(string Title, string Beat = "", int? Aim = null, int Depth = 1, int Number = 0);

/// <summary>One line of a checklist.</summary>
/// <param name="Stage">The stage at which it is done.</param>
/// <param name="Text">What is to be done.</param>
/// <param name="Instructions">How, in Markdown; empty when the line says it.</param>
/// <param name="Address">A page to open for it; empty for none.</param>
/// <param name="Who">Who does it; empty for the writer.</param>
/// <param name="Number">Its number in the format, by which a piece knows whether it has had it.</param>
public sealed record FormatStep(string Stage, string Text, string Instructions = "", string Address = "", string Who = "", int Number = 0);

/// <summary>What a limit is counted in.</summary>
public enum MeasuredIn
{
    Characters,
    Words,
}

/// <summary>How an outlet counts characters.</summary>
public enum CharactersAs
{
    /// <summary>As a reader sees them: grapheme clusters (Unicode UAX #29).</summary>
    Graphemes,

    /// <summary>As most programs hold them: UTF-16 code units.</summary>
    CodeUnits,
}

/// <summary>How much a text may have.</summary>
public sealed record Limit(int Most, MeasuredIn In = MeasuredIn.Characters);

/// <summary>The limits of a format.</summary>
/// <param name="Part">Of one section; null for none.</param>
/// <param name="Whole">Of the whole text; null for none.</param>
/// <param name="LinkLength">So many characters count for a web address, however long it is; null to count it as it stands.</param>
/// <param name="CountAs">How characters are counted.</param>
public sealed record FormatLimits(
    Limit? Part = null,
    Limit? Whole = null,
    int? LinkLength = null,
    CharactersAs CountAs = CharactersAs.Graphemes
)
{
    public static readonly FormatLimits None = new();
}

/// <summary>What an own field holds.</summary>
public enum FieldKind
{
    Text,
    LongText,
    Number,
    Date,
    Choice,
    Person,
    Link,
    Tick,
}

/// <summary>A field that pieces of a format have.</summary>
/// <param name="Key">By which a value is kept; it stays when the name changes.</param>
/// <param name="Name">As it is shown.</param>
/// <param name="Choices">What can be chosen, for a choice.</param>
/// <param name="OnRow">Whether it stands on a row of the Bench.</param>
public sealed record OwnField(
    string Key,
    string Name,
    FieldKind Kind = FieldKind.Text,
    IReadOnlyList<string>? Choices = null,
    bool OnRow = false
);

/// <summary>A text beside the draft: a description, captions, show notes.</summary>
/// <param name="Key">By which it is kept; it stays when the name changes.</param>
/// <param name="Limit">How much it may have; null for no limit.</param>
public sealed record SideText(string Key, string Name, Limit? Limit = null);

/// <summary>A kind of piece.</summary>
public record Format
{
    public Format() { }

    /// <summary>The same format, without what a heir adds to it.</summary>
    public Format(Format other)
    {
        (Key, Name, Stages, Hours, Skeleton, Later) = (other.Key, other.Name, other.Stages, other.Hours, other.Skeleton, other.Later);
        (Beats, Limits, Fields, Steps, SideTexts) = (other.Beats, other.Limits, other.Fields, other.Steps, other.SideTexts);
        (TitlePattern, Template, Folders, TitlePlaces) = (other.TitlePattern, other.Template, other.Folders, other.TitlePlaces);
        (Most, IsReused, IsPutAway, Version) = (other.Most, other.IsReused, other.IsPutAway, other.Version);
    }

    /// <summary>Its name in files and addresses; it stays when the name changes.</summary>
    public string Key { get; init; } = "";

    /// <summary>Its name for people.</summary>
    public string Name { get; init; } = "";

    /// <summary>Where such a piece can stand, in order; the last one is out.</summary>
    public IReadOnlyList<string> Stages { get; init; } = [];

    /// <summary>Usual hours at each stage, in the order of the stages.</summary>
    public IReadOnlyList<double> Hours { get; init; } = [];

    /// <summary>How many of its pieces are to stand at a stage at once, for the stages where that is said.</summary>
    public IReadOnlyDictionary<string, int> Most { get; init; } = new Dictionary<string, int>();

    /// <summary>The sections a new one starts with.</summary>
    public IReadOnlyList<SkeletonSection> Skeleton { get; init; } = [];

    /// <summary>Sections that can be laid in later.</summary>
    public IReadOnlyList<SkeletonSection> Later { get; init; } = [];

    /// <summary>The jobs its sections can do, in the order of the route.</summary>
    public IReadOnlyList<string> Beats { get; init; } = [];

    public FormatLimits Limits { get; init; } = FormatLimits.None;

    public IReadOnlyList<OwnField> Fields { get; init; } = [];

    /// <summary>What is to be done at each stage.</summary>
    public IReadOnlyList<FormatStep> Steps { get; init; } = [];

    public IReadOnlyList<SideText> SideTexts { get; init; } = [];

    /// <summary>What a new one is called, with fill-ins: <c>Letter {{ number }}: {{ title }}</c>. Empty to leave its title as it
    /// is.</summary>
    public string TitlePattern { get; init; } = "";

    /// <summary>The text a new one begins with, before its first section, with fill-ins.</summary>
    public string Template { get; init; } = "";

    /// <summary>Folders for its files, under the piece's own.</summary>
    public IReadOnlyList<string> Folders { get; init; } = [];

    /// <summary>Where titles are shown, with how many characters; the usual places when there are none.</summary>
    public IReadOnlyList<TitlePlace> TitlePlaces { get; init; } = [];

    /// <summary>Whether what goes out of it is used again in other forms: it enters that flow by itself.</summary>
    public bool IsReused { get; init; }

    /// <summary>Whether it is put away: no new piece is offered it.</summary>
    public bool IsPutAway { get; init; }

    public int Version { get; init; }

    /// <summary>Most characters in one section; null where there is no such limit.</summary>
    public int? Limit => Limits.Part is { In: MeasuredIn.Characters } part ? part.Most : null;

    /// <summary>Words of the whole: the sum over the skeleton.</summary>
    public int Aim => Skeleton.Sum(s => s.Aim ?? 0);

    /// <summary>Usual hours from the first stage to the last.</summary>
    public double UsualHours => Hours.Sum();

    /// <summary>Whether its sections are posts of their own, so that headings don't go out.</summary>
    [JsonIgnore]
    public bool IsInParts => Limits.Part is not null;

    /// <summary>The stage of a text that only has to go out.</summary>
    [JsonIgnore]
    public string ReadyStage => Stages.Contains("Ready") ? "Ready" : Stages[Math.Max(0, Stages.Count - 2)];

    /// <summary>Whether a piece at this stage has gone out.</summary>
    public bool IsOut(string stage) => stage == Stages[^1];
}
