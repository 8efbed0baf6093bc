using Nachlass.Core.Papers;

namespace Nachlass.Core.Topics;

/// <summary>The muted colours a topic can have. They underline a word or edge a card, never fill anything.</summary>
public enum TopicColour
{
    Teal,
    Violet,
    Brick,
    Ochre,
    Moss,
    Slate,
    Plum,
    Umber,
}

/// <summary>A topic as it stands on a slip, source or piece.</summary>
public sealed record TopicMark(TopicNumber Number, string Name, TopicColour Colour);

/// <summary>A subject.</summary>
public sealed record Topic
{
    public required TopicNumber Number { get; init; }
    public required string Name { get; init; }
    public TopicColour Colour { get; init; }
    public IReadOnlyList<string> Aliases { get; init; } = [];
    public TopicNumber? Wider { get; init; }
    public string? WiderName { get; init; }

    /// <summary>The topic it was merged into; then it only answers for its old number.</summary>
    public TopicNumber? MergedInto { get; init; }

    public int Version { get; init; }

    public int Waiting { get; init; }
    public int Kept { get; init; }
    public int Held { get; init; }

    /// <summary>Kept slips that stand in a piece.</summary>
    public int Used { get; init; }

    public int Sources { get; init; }
    public int Pieces { get; init; }

    /// <summary>The last day a piece on it went out.</summary>
    public DateOnly? LastOut { get; init; }
}

/// <summary>Names of topics.</summary>
public static class TopicName
{
    public const int Longest = 80;

    /// <summary>The name behind a tag: hyphens and underscores stand for spaces.</summary>
    public static string FromTag(string tag) => tag.Replace('_', ' ').Replace('-', ' ').Trim();

    /// <summary>A name as kept: trimmed, single spaces, without a leading <c>#</c>.</summary>
    /// <exception cref="BadInputException">Nothing is left, it is too long, or it holds brackets, which links need.</exception>
    public static string Clean(string? name, string field = "name")
    {
        var clean = string.Join(' ', (name ?? "").TrimStart('#', ' ').Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        Check.Text(field, clean, Longest);
        if (clean.AsSpan().ContainsAny("[]#,"))
            throw new BadInputException(field, "A topic's name can't hold [ ] # or a comma.");
        return clean;
    }

    /// <summary>The colour a new topic gets, so that neighbours in the order of making differ.</summary>
    public static TopicColour ColourFor(int topicsBefore) => (TopicColour)(topicsBefore % Enum.GetValues<TopicColour>().Length);
}
