using System.Globalization;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Ideas.Month;

/// <summary>What is known of a form.</summary>
/// <param name="Format">Its key.</param>
/// <param name="Hours">Hours a piece of it takes, above 0.</param>
/// <param name="Effect">What went out in it; null where no figure is known.</param>
/// <param name="Promotes">Whether it promotes its writer.</param>
public sealed record FormFacts(string Format, string Name, double Hours, EffectRead? Effect, bool Promotes = false);

/// <summary>A form with its share.</summary>
/// <param name="Percent">Of all dates; all of them together are 100.</param>
/// <param name="Count">Whole numbers of dates.</param>
/// <param name="Because">Why, as a sentence made from the figures.</param>
public sealed record FormShare(string Format, string Name, int Percent, int Count, double Hours, string Because);

/// <summary>Which share of dates each form should have.</summary>
public static class FormMix
{
    /// <summary>A form counts by what it reaches over its hours to this power: between not minding them and minding nothing else. It grows
    /// by <see cref="Step"/> until the hours hold all, up to <see cref="Steepest"/>. Ours.</summary>
    private const double Usual = 0.5,
        Step = 0.25,
        Steepest = 4;

    /// <param name="dates">How many dates are shared out, 0 or more.</param>
    /// <param name="atHand">Hours there are for them; null where they don't count.</param>
    /// <param name="promoteMore">Whether what promotes its writer may have more than the smallest share.</param>
    public static IReadOnlyList<FormShare> Of(IReadOnlyList<FormFacts> forms, int dates, double? atHand, bool promoteMore = false)
    {
        if (forms.Count == 0)
            return [];
        var power = Usual;
        var counts = Counts(power);
        while (atHand is { } has && Needed(counts) > has && power < Steepest)
            counts = Counts(power += Step);
        var percent = LargestRemainder.Of(Shares(power), 100);
        return
        [
            .. forms
                .Select((form, at) => new FormShare(form.Format, form.Name, percent[at], counts[at], form.Hours, Because(form)))
                .OrderByDescending(share => share.Percent)
                .ThenBy(share => share.Name, StringComparer.Ordinal),
        ];

        double Needed(IReadOnlyList<int> of) => forms.Select((form, at) => form.Hours * of[at]).Sum();

        IReadOnlyList<int> Counts(double at) => LargestRemainder.Of(Shares(at), dates);

        List<double> Shares(double at)
        {
            var shares = forms.Select(f => (f.Effect?.Ratio ?? 1) / Math.Pow(Math.Max(0.25, f.Hours), at)).ToList();
            var others = shares.Where((_, i) => !forms[i].Promotes).ToList();
            if (!promoteMore && others.Count > 0)
            {
                var promoting = forms.Count(f => f.Promotes);
                // All that promotes together stays under the smallest of the others.
                for (var i = 0; i < shares.Count; i++)
                    if (forms[i].Promotes)
                        shares[i] = Math.Min(shares[i], others.Min() / promoting);
            }
            return shares;
        }
    }

    private static string Because(FormFacts form)
    {
        var reached = form.Effect is { } effect
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"{effect.Releases} {(effect.Releases == 1 ? "release" : "releases")} in it reached {effect.Raw:0.0#} times the usual "
                    + $"of their outlets, which counts as {effect.Ratio:0.0#}; "
            )
            : "No release in it has figures, so that it counts as usual; ";
        return string.Create(CultureInfo.InvariantCulture, $"{reached}a piece takes {form.Hours:0.#} h.")
            + (form.Promotes ? " It promotes you." : "");
    }
}
