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

    /// <summary>Its place among those under the same wider one, from 1; null for by name.</summary>
    public int? Place { get; init; }

    /// <summary>The share of what goes out that it should have, 1 to 100 per cent; null when it is no core topic.</summary>
    public int? Wish { get; init; }

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

/// <summary>The shares of what goes out that core topics should have.</summary>
public static class WishedShares
{
    public const int Most = 100;

    /// <summary>Checks that shares can all be met. A topic under another is part of it, so it may have no more than that, and counts beside
    /// its like.</summary>
    /// <param name="topics">All topics, with the wished share of the one that was changed as it would be.</param>
    /// <param name="changed">The one that was changed.</param>
    /// <exception cref="BadInputException">It is not from 1 to 100, or the shares of topics side by side are more than what holds
    /// them.</exception>
    public static void Check(IReadOnlyList<Topic> topics, TopicNumber changed)
    {
        var own = topics.First(t => t.Number == changed);
        if (own.Wish is < 1 or > Most)
            throw new BadInputException("wish", $"A wished share is from 1 to {Most} per cent.");
        var byNumber = topics.ToDictionary(t => t.Number);
        // What holds a core topic is the nearest core topic above it, else everything.
        foreach (var group in topics.Where(t => t.Wish is not null).GroupBy(t => Holder(t)?.Number))
        {
            var (sum, most) = (group.Sum(t => t.Wish!.Value), group.Key is { } holder ? byNumber[holder].Wish!.Value : Most);
            if (sum > most && (group.Any(t => t.Number == changed) || group.Key == changed))
                throw new BadInputException(
                    "wish",
                    group.Key is { } of
                        ? $"Under {byNumber[of].Name}, which is to have {most} %, the wished shares would be {sum} % together."
                        : $"The wished shares would be {sum} % together, and there are only {Most}."
                );
        }

        Topic? Holder(Topic topic)
        {
            for (var up = topic.Wider; up is { } at && byNumber.TryGetValue(at, out var wider); up = wider.Wider)
                if (wider.Wish is not null)
                    return wider;
            return null;
        }
    }
}
