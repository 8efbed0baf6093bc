using Nachlass.Core.Papers;

namespace Nachlass.Core.Capture;

/// <summary>The number of a watched feed.</summary>
public readonly record struct FeedNumber(int Value) : INumber<FeedNumber>
{
    public static FeedNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out FeedNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A feed that is asked again and again for what is new.</summary>
public sealed record WatchedFeed
{
    /// <summary>Minutes between two askings, at least and at most.</summary>
    public const int LeastMinutes = 1,
        MostMinutes = 10_080;

    public required FeedNumber Number { get; init; }
    public required string Address { get; init; }
    public required string Title { get; init; }

    /// <summary>Minutes between two askings.</summary>
    public int Minutes { get; init; }

    /// <summary>When it was asked last.</summary>
    public DateTimeOffset? AskedAt { get; init; }

    /// <summary>When it last had something new.</summary>
    public DateTimeOffset? CameAt { get; init; }

    /// <summary>What went wrong when it was asked last; empty when nothing did.</summary>
    public string Problem { get; init; } = "";

    /// <summary>What the feed's server said of the version we have, to ask only for a newer one (RFC 9110, 8.8).</summary>
    public string Etag { get; init; } = "";

    public string Modified { get; init; } = "";
    public int Version { get; init; }

    /// <summary>Whether it is time to ask again.</summary>
    public bool IsDue(DateTimeOffset now) => AskedAt is null || now - AskedAt >= TimeSpan.FromMinutes(Minutes);
}
