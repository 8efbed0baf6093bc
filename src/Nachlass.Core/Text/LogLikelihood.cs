namespace Nachlass.Core.Text;

/// <summary>How much more often something is here than elsewhere than chance would give.</summary>
public static class LogLikelihood
{
    /// <summary>Below this it may well be there by chance (χ² with one degree of freedom, p = 0.001).</summary>
    public const double Floor = 10.83;

    /// <summary>
    /// Dunning's log-likelihood ratio G², <i>Computational Linguistics</i> 19 (1993), over the four cells of a table; below nothing
    /// where it is rarer here than by chance. Unlike a mere count or a mere ratio it puts neither what is frequent nor what is rare
    /// before the rest.
    /// </summary>
    /// <param name="with">Texts here that have it, 0 to <paramref name="here"/>.</param>
    /// <param name="here">Texts here.</param>
    /// <param name="withElsewhere">Texts elsewhere that have it, 0 to <paramref name="elsewhere"/>.</param>
    /// <param name="elsewhere">Texts elsewhere.</param>
    /// <returns>0 where there is nothing here or nothing elsewhere to hold it against.</returns>
    public static double Ratio(int with, int here, int withElsewhere, int elsewhere)
    {
        if (here <= 0 || elsewhere <= 0)
            return 0;
        double all = here + elsewhere,
            has = with + withElsewhere;
        var g =
            2
            * (
                Cell(with, has * here / all)
                + Cell(withElsewhere, has * elsewhere / all)
                + Cell(here - with, (all - has) * here / all)
                + Cell(elsewhere - withElsewhere, (all - has) * elsewhere / all)
            );
        return with > has * here / all ? g : -g;
    }

    private static double Cell(double seen, double expected) => seen <= 0 || expected <= 0 ? 0 : seen * Math.Log(seen / expected);
}
