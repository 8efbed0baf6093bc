namespace Nachlass.Core.Ideas.Order;

/// <summary>What the months say of a topic.</summary>
/// <param name="Seen">Texts on it in these months.</param>
/// <param name="Usual">How many there would be if it came up in them as in all others.</param>
/// <param name="Ratio">The one by the other, held back where there are few.</param>
public sealed record SeasonRead(int Seen, double Usual, double Ratio);

/// <summary>Whether a topic comes up in some months of the year more than in others.</summary>
public static class Season
{
    /// <summary>Fewer texts, over a shorter time, say nothing of the year. Ours.</summary>
    public const int FewestTexts = 12,
        FewestDays = 330;

    /// <param name="own">Texts on the topic by calendar month, January first, all years together.</param>
    /// <param name="all">All texts likewise: a month in which much is read makes no season.</param>
    /// <param name="days">Days from the first text of all to the last.</param>
    /// <param name="months">The months asked about, 1 to 12, each once.</param>
    /// <returns>Null where there is too little to say.</returns>
    public static SeasonRead? Of(IReadOnlyList<int> own, IReadOnlyList<int> all, int days, IReadOnlyCollection<int> months)
    {
        var texts = own.Sum();
        if (texts < FewestTexts || days < FewestDays)
            return null;
        var seen = months.Sum(m => own[m - 1]);
        var usual = texts * (double)months.Sum(m => all[m - 1]) / all.Sum();
        return new SeasonRead(seen, usual, Ratios.HeldBack(seen, usual));
    }
}
