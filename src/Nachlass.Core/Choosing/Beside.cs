namespace Nachlass.Core.Choosing;

/// <summary>One term of two ideas.</summary>
/// <param name="Share">By how many points of worth the other is ahead in it; below 0 when it is behind.</param>
public sealed record TermBeside(WorthTerm Term, double? This, double? Other, double Share);

/// <summary>Why one idea stands above another.</summary>
/// <param name="Better">What speaks more for the other, each as a phrase.</param>
/// <param name="Worse">What speaks less for it.</param>
/// <param name="Tip">What would put the lower one above; null when nothing simple would.</param>
public sealed record Beside(IReadOnlyList<TermBeside> Terms, IReadOnlyList<string> Better, IReadOnlyList<string> Worse, string? Tip)
{
    /// <summary>A difference below this says nothing, in points of worth.</summary>
    private const double Least = 0.8;

    private const int MostSaid = 3;

    /// <summary>Lays another idea beside one.</summary>
    public static Beside Of(Prospect idea, Prospect other, Weights weights)
    {
        var (mine, its) = (idea.Known.Values(), other.Known.Values());
        var (myWorth, itsWorth) = (Worth.Of(mine, weights), Worth.Of(its, weights));
        var terms = WorthTerms
            .All.Where(term => mine[term] is not null || its[term] is not null)
            .Select(term => new TermBeside(term, mine[term], its[term], Share(term)))
            .OrderByDescending(term => Math.Abs(term.Share))
            .ToList();
        return new Beside(
            terms,
            [.. terms.Where(t => t.Share >= Least && (t.Other ?? -1) > (t.This ?? -1)).Select(t => Said(t.Term)).Take(MostSaid)],
            [.. terms.Where(t => t.Share <= -Least && (t.Other ?? -1) < (t.This ?? -1)).Select(t => Said(t.Term)).Take(MostSaid)],
            myWorth == itsWorth ? null
                : myWorth > itsWorth ? TipOf(other, weights, myWorth, "it")
                : TipOf(idea, weights, itsWorth, "this one")
        );

        // The points that each term adds to a worth; they sum to it, so the differences sum to how far the two are apart.
        double Share(WorthTerm term) => Points(its, term) - Points(mine, term);

        double Points(in TermValues values, WorthTerm term) =>
            values[term] is { } value ? weights[term] * value * Worth.Most / Whole(values) : 0;

        double Whole(in TermValues values)
        {
            var whole = 0.0;
            foreach (var term in WorthTerms.All)
                if (values[term] is not null)
                    whole += weights[term];
            return whole == 0 ? 1 : whole;
        }

        string Said(WorthTerm term)
        {
            var (a, b) = (mine[term] ?? -1, its[term] ?? -1);
            var more = b > a;
            return term switch
            {
                WorthTerm.Pull => other.Known.Pull is not { } pull ? "you have not said how much it draws you"
                : idea.Known.Pull is not { } own ? $"it draws you ({pull} of 5)"
                : $"it draws you {(more ? "more" : "less")} ({pull} against {own})",
                WorthTerm.Effort => other.Known.Hours is null ? "nobody knows how long it would take"
                : idea.Known.Hours is null ? $"it would take {other.Hours()}"
                : $"it is {(more ? "lighter" : "heavier")} ({other.Hours()} against {idea.Hours()})",
                WorthTerm.Material => other.Known.Things is null or 0 ? "nothing lies ready for it"
                : more ? $"more lies ready for it ({other.Known.Things} against {idea.Known.Things ?? 0})"
                : $"{In.Some(other.Known.Things.Value, "thing")} {(other.Known.Things == 1 ? "is" : "are")} all there is",
                WorthTerm.Asks => other.Readers == 0
                    ? "nobody has asked"
                    : $"{(more ? "more" : "fewer")} readers ask ({other.Readers} against {idea.Readers})",
                WorthTerm.Timeliness => other.Known.DaysUntil is null
                    ? "no occasion calls for it"
                    : $"{other.Occasion} calls {(more ? "more" : "less")} for it",
                WorthTerm.Mix => other.Known.Share is null
                    ? "it is on no core topic"
                    : $"{other.Topic} {(more ? "lies further under its share" : "has had more of its share")}",
                WorthTerm.Novelty => more ? "less of it has gone out" : "more of it has gone out",
                WorthTerm.Ripeness => other.Known.Ripe is null ? "it has not been weighed"
                : more ? "it is riper"
                : "it is less ripe",
                _ => more ? "it has waited longer" : "it has not waited as long",
            };
        }
    }

    /// <summary>The smallest single change that puts an idea above a worth.</summary>
    private static string? TipOf(Prospect idea, Weights weights, double above, string it)
    {
        var known = idea.Known;
        var tips = new List<(double Step, string Said)>();
        for (var more = 1; more <= 6; more++)
            if (known.Wishes is { } wishes && Worth.Of(known with { Wishes = wishes + more }, weights) > above)
            {
                tips.Add((more / 3.0, $"Asked by {In.Some(more, idea.Readers == 0 ? "reader" : "more reader")} {it} would stand above."));
                break;
            }
        for (var more = 1; more <= 12; more++)
            if (known.Things is { } things && Worth.Of(known with { Things = things + more }, weights) > above)
            {
                tips.Add((more / 4.0, $"With {In.Some(more, "more thing")} to draw on {it} would stand above."));
                break;
            }
        for (var pull = (known.Pull ?? 2) + 1; pull <= 5; pull++)
            if (Worth.Of(known with { Pull = pull }, weights) > above)
            {
                tips.Add((pull - (known.Pull ?? 2), $"With a pull of {pull} {it} would stand above."));
                break;
            }
        return tips.Count == 0 ? null : tips.MinBy(tip => tip.Step).Said;
    }
}
