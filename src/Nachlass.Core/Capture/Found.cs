using System.Text.Json.Serialization;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Capture;

/// <summary>A thing that a reader found in a file, or a place in it that it could not read.</summary>
/// <param name="Line">The line of the file it begins on, from 1; 0 where a file has none.</param>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "found")]
[JsonDerivedType(typeof(OfSlip), "slip")]
[JsonDerivedType(typeof(OfSource), "source")]
[JsonDerivedType(typeof(OfMove), "move")]
[JsonDerivedType(typeof(OfPiece), "piece")]
[JsonDerivedType(typeof(OfOccasion), "occasion")]
[JsonDerivedType(typeof(Unread), "unread")]
public abstract record Found(int Line)
{
    /// <summary>Why it should be looked at before it is believed; null when it was plain.</summary>
    public string? Doubt { get; init; }

    /// <summary>A slip, with the source it points into.</summary>
    public sealed record OfSlip(int Line, FoundSlip Slip) : Found(Line);

    /// <summary>A source, with its passages.</summary>
    public sealed record OfSource(int Line, FoundSource Source) : Found(Line);

    /// <summary>A next action.</summary>
    public sealed record OfMove(int Line, string Text, DateOnly? Due = null, bool IsDone = false) : Found(Line)
    {
        /// <summary>When it was done, where the file says.</summary>
        public DateTimeOffset? DoneAt { get; init; }
    }

    /// <summary>A piece: a text to go on writing, or an outline.</summary>
    public sealed record OfPiece(int Line, string Title, string Draft, string Format = "essay") : Found(Line);

    /// <summary>A dated event or season.</summary>
    /// <param name="Recurs">How it comes again where its date moves, as a recurrence rule (RFC 5545); null where it does not.</param>
    public sealed record OfOccasion(int Line, string Name, DateOnly From, DateOnly To, bool EveryYear = false, string? Recurs = null)
        : Found(Line);

    /// <summary>A place that could not be read.</summary>
    /// <param name="Reason">Why, in a sentence.</param>
    /// <param name="Raw">What stands there, to be mended.</param>
    public sealed record Unread(int Line, string Reason, string Raw) : Found(Line);
}

/// <summary>A slip as it was found.</summary>
public sealed record FoundSlip(string Text)
{
    /// <summary>Its kind, where the file says; else it is read from the text.</summary>
    public SlipKind? Kind { get; init; }

    public int? Pull { get; init; }
    public int? Effort { get; init; }
    public string Locator { get; init; } = "";
    public DateTimeOffset? CaughtAt { get; init; }
    public IReadOnlyList<string> Topics { get; init; } = [];
    public IReadOnlyList<FoundFile> Files { get; init; } = [];

    /// <summary>Of a message: what it answers, where the file says.</summary>
    public string? About { get; init; }

    /// <summary>Of a message: how many stand behind it, where the file says.</summary>
    public int? Reach { get; init; }

    /// <summary>The source it points into.</summary>
    public FoundSource? Source { get; init; }
}

/// <summary>A source as it was found.</summary>
public sealed record FoundSource(string Title)
{
    public SourceType Type { get; init; } = SourceType.Book;
    public string Creators { get; init; } = "";
    public string Container { get; init; } = "";
    public string Date { get; init; } = "";
    public string Address { get; init; } = "";
    public string Language { get; init; } = "";

    /// <summary>Of a message: the sender's address, and its Message-ID (RFC 5322).</summary>
    public string? SenderAddress { get; init; }
    public string? MessageId { get; init; }
    public IReadOnlyDictionary<string, string> Details { get; init; } = new Dictionary<string, string>();
    public string Summary { get; init; } = "";
    public string Comments { get; init; } = "";
    public string Text { get; init; } = "";
    public IReadOnlyList<string> Topics { get; init; } = [];
    public IReadOnlyList<FoundSlip> Passages { get; init; } = [];
    public IReadOnlyList<TranscriptLine> Transcript { get; init; } = [];
    public IReadOnlyList<FoundFile> Files { get; init; } = [];
}

/// <summary>A file that belongs to what was found.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Path">Where its content can be read while the import runs.</param>
public sealed record FoundFile(string Name, string Path, string Why = "");
