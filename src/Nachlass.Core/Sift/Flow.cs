namespace Nachlass.Core.Sift;

/// <summary>What was decided in a month, and how far what was kept has come since.</summary>
/// <param name="Month">The first day of the month in which it was decided.</param>
/// <param name="Used">Kept ones that stand in a piece.</param>
/// <param name="Out">Kept ones that stand in one that went out.</param>
public sealed record FlowMonth(DateOnly Month, int Kept, int Held, int Dropped, int Used, int Out)
{
    public int Decided => Kept + Held + Dropped;
}

/// <summary>How the sifting goes over time.</summary>
/// <param name="ShareDropped">Of all that was decided, 0 to 1; null when nothing was.</param>
/// <param name="ShareUsed">Of all that was kept, 0 to 1; null when nothing was.</param>
/// <param name="Says">What the figures say, in a sentence or two.</param>
public sealed record Flow(
    IReadOnlyList<FlowMonth> Months,
    double? ShareKept,
    double? ShareHeld,
    double? ShareDropped,
    double? ShareUsed,
    string Says
)
{
    /// <summary>With fewer decisions the shares say nothing.</summary>
    public const int Fewest = 20;

    /// <summary>The figures with their reading: dropping many is a sign that ideas flow; keeping nearly all and using few is what piles are
    /// made of.</summary>
    public static Flow Of(IReadOnlyList<FlowMonth> months)
    {
        var (kept, held, dropped, used) = (
            months.Sum(m => m.Kept),
            months.Sum(m => m.Held),
            months.Sum(m => m.Dropped),
            months.Sum(m => m.Used)
        );
        var decided = kept + held + dropped;
        double? Share(int part, int whole) => whole == 0 ? null : (double)part / whole;
        var says =
            decided < Fewest ? $"{decided} decided so far. From {Fewest} on, the shares say something."
            : dropped >= 0.3 * decided
                ? "You drop a good part of what you catch. That is a healthy flow: catching is cheap, and what stays is worth its place."
            : dropped < 0.1 * decided && used < 0.2 * kept
                ? "You keep nearly everything and use little of it. Dropping is no loss here: what is dropped stays findable, and "
                    + "comes up again when something new speaks to it."
            : used >= 0.4 * kept ? "Much of what you keep ends up in pieces."
            : "Some is dropped, some is kept, and part of what is kept is used: nothing to mend.";
        return new Flow(months, Share(kept, decided), Share(held, decided), Share(dropped, decided), Share(used, kept), says);
    }
}
