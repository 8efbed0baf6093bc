namespace Nachlass.Core.Choosing;

/// <summary>What can speak for making something of an idea now.</summary>
public enum WorthTerm
{
    Pull,
    Effort,
    Material,
    Asks,
    Timeliness,
    Mix,
    Novelty,
    Ripeness,
    Waiting,
}

/// <summary>How each term of worth is computed: from 0, nothing speaks for it, to 1. The constants are ours; docs/choosing.md says what
/// they mean.</summary>
public static class WorthTerms
{
    /// <summary>All of them, in the order in which they are named.</summary>
    public static readonly IReadOnlyList<WorthTerm> All = Enum.GetValues<WorthTerm>();

    /// <summary>A reader's wish weighs half after so many days.</summary>
    public const int AskHalfLife = 180;

    /// <summary>What went out stands in the way half as much after so many days.</summary>
    public const int SaidHalfLife = 730;

    /// <summary>An idea that has waited so many days has gone half of the way that waiting can lift it.</summary>
    public const int WaitingHalf = 365;

    /// <summary>So many hours of work halve what lightness adds.</summary>
    public const double HoursHalf = 12;

    /// <param name="pull">How much it draws the writer, 1 to 5.</param>
    public static double Pull(int pull) => (pull - 1) / 4.0;

    /// <summary>The hours an idea would take: the usual ones of its format at effort 3, two fifths of them at 1, two and a half times as
    /// many at 5.</summary>
    /// <param name="usual">Usual hours of the format, all stages together.</param>
    /// <param name="effort">1 to 5; null counts as 3.</param>
    public static double Hours(double usual, int? effort) => usual * Math.Pow(2, ((effort ?? 3) - 3) / 1.5);

    /// <summary>Lightness: halved with each <see cref="HoursHalf"/> hours. Where the writer has said how many hours there are, the share of
    /// the work that they hold.</summary>
    /// <param name="hours">Hours it would take, above 0.</param>
    /// <param name="atHand">Hours the writer has now; null when that was not said.</param>
    public static double Effort(double hours, double? atHand = null) =>
        atHand is { } has ? Math.Min(1, has / hours) : Math.Pow(2, -hours / HoursHalf);

    /// <summary>Saturating: four things give two thirds, the tenth adds a fiftieth.</summary>
    /// <param name="things">Passages, takeaways, sources and evidence near it or tied to it.</param>
    public static double Material(int things) => 1 - Math.Exp(-things / 4.0);

    /// <summary>What one reader's wish weighs after some days: it halves every <see cref="AskHalfLife"/>.</summary>
    public static double AskWeight(int days) => Math.Pow(2, -Math.Max(0, days) / (double)AskHalfLife);

    /// <summary>Saturating: two fresh wishes give six tenths.</summary>
    /// <param name="weight">The weights of distinct readers, summed.</param>
    public static double Asks(double weight) => 1 - Math.Exp(-weight / 2);

    /// <summary>Highest on the last day on which one can begin and still be there for the occasion. It rises to that from three lead
    /// times before, and falls away after it as the time gets too short; nothing once it is past.</summary>
    /// <param name="daysUntil">Days until the occasion begins.</param>
    /// <param name="daysNeeded">Days such a piece takes, at least 1.</param>
    public static double Timeliness(int daysUntil, int daysNeeded)
    {
        if (daysUntil < 0)
            return 0;
        var need = Math.Max(1, daysNeeded);
        return daysUntil < need ? daysUntil / (double)need : Math.Max(0, 1 - (daysUntil - need) / (2.0 * need));
    }

    /// <summary>How far a core topic lies under its wished share: 1 when nothing of it went out or is in work, 0 at its share or
    /// over.</summary>
    /// <param name="share">Its share of what went out and is in work, 0 to 1.</param>
    /// <param name="wished">Its wished share, above 0 to 1.</param>
    public static double Mix(double share, double wished) => Math.Clamp((wished - share) / wished, 0, 1);

    /// <summary>How little of it what went out covers already, recovering with the years.</summary>
    /// <param name="covered">The share of it that stands in one passage, 0 to 1; see <see cref="Catalogue.Covering"/>.</param>
    /// <param name="days">Days since that went out.</param>
    public static double Novelty(double covered, int days) => 1 - covered * Math.Pow(2, -Math.Max(0, days) / (double)SaidHalfLife);

    /// <summary>A slow rise, so that nothing starves.</summary>
    /// <param name="days">Days since it was caught.</param>
    public static double Waiting(int days) => Math.Max(0, days) / (double)(Math.Max(0, days) + WaitingHalf);
}
