namespace Nachlass.Core.Sift;

/// <summary>The order in which a pile is gone through.</summary>
public enum PileOrder
{
    Origin,
    Newest,
    Oldest,
    Topic,
    Promising,
}

/// <summary>What is known of a slip before it is decided about.</summary>
/// <param name="Pull">1 to 5; null when it was not said.</param>
/// <param name="Effort">1 to 5; null when it was not said.</param>
/// <param name="Asks">How many readers' asks stand on its topics.</param>
/// <param name="Sources">How many sources stand on its topics.</param>
/// <param name="QuietDays">Days since a piece on one of its topics went out; null when none ever did, or it has no topic.</param>
public sealed record Prospect(int? Pull, int? Effort, int Asks, int Sources, int? QuietDays, bool HasTopic);

/// <summary>One part of a figure.</summary>
/// <param name="Name">What it is, in a few words.</param>
/// <param name="Figure">What it adds.</param>
public sealed record Term(string Name, double Figure);

/// <summary>How promising a waiting slip looks, for the order of the pile; the writer still decides.</summary>
/// <param name="Figure">0 to 1.</param>
/// <param name="Terms">What it is made of; they add up to the figure.</param>
public sealed record Promise(double Figure, IReadOnlyList<Term> Terms)
{
    private const double PullShare = 0.45,
        EffortShare = 0.15,
        AskShare = 0.15,
        SourceShare = 0.1,
        QuietShare = 0.15;

    /// <summary>From this many on, more asks or sources add nothing.</summary>
    public const int Enough = 4;

    /// <summary>After this many days without a release a topic counts as wholly quiet.</summary>
    public const int WhollyQuiet = 180;

    /// <summary>A weighted sum. What was not said counts as the middle, 3.</summary>
    public static Promise Of(Prospect prospect)
    {
        Term[] terms =
        [
            new(prospect.Pull is { } pull ? $"pull {pull}" : "pull not set", PullShare * ((prospect.Pull ?? 3) - 1) / 4),
            new(prospect.Effort is { } effort ? $"effort {effort}" : "effort not set", EffortShare * (5 - (prospect.Effort ?? 3)) / 4),
            new(
                prospect.Asks == 1 ? "1 ask on its topics" : $"{prospect.Asks} asks on its topics",
                AskShare * Math.Min(prospect.Asks, Enough) / Enough
            ),
            new(
                prospect.Sources == 1 ? "1 source on its topics" : $"{prospect.Sources} sources on its topics",
                SourceShare * Math.Min(prospect.Sources, Enough) / Enough
            ),
            !prospect.HasTopic
                ? new("no topic yet", 0)
                : new(
                    prospect.QuietDays is { } days ? $"{days} days since its topics went out" : "nothing on its topics has gone out",
                    QuietShare * Math.Min(prospect.QuietDays ?? WhollyQuiet, WhollyQuiet) / WhollyQuiet
                ),
        ];
        return new Promise(terms.Sum(t => t.Figure), terms);
    }
}
