using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas;

/// <summary>What kind of thing an idea was made from.</summary>
public enum OriginKind
{
    Slip,
    Source,
    Piece,
    Release,
    Ask,
    Occasion,
    Topic,
}

/// <summary>A thing an idea was made from.</summary>
/// <param name="Number">Its number among its like.</param>
/// <param name="Title">What it was called then.</param>
public sealed record IdeaOrigin(OriginKind Kind, int Number, string Title);

/// <summary>Something in the papers that an idea can be made from.</summary>
/// <param name="Topic">The topic it belongs to; null when it is on none.</param>
/// <param name="Words">What an angle may fill in, by place.</param>
/// <param name="Because">What speaks for it, as a sentence with its figures.</param>
public sealed record Spark(
    SparkKind Kind,
    TopicNumber? Topic,
    IReadOnlyDictionary<string, object> Words,
    IReadOnlyList<IdeaOrigin> From,
    string Because
);
