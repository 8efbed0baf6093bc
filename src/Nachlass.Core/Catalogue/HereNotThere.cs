using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue;

/// <summary>How a piece stands to an outlet.</summary>
public enum ThereState
{
    /// <summary>It went out there.</summary>
    Out,

    /// <summary>The outlet takes its format; it could go there as it is.</summary>
    Could,

    /// <summary>The outlet takes other formats; a piece made from it could go there.</summary>
    InAnotherForm,

    /// <summary>Its writer said that it is never to go there.</summary>
    Never,
}

/// <summary>A piece against an outlet.</summary>
/// <param name="Release">The latest release there; null where it has not gone out there.</param>
/// <param name="Over">Characters or words by which it is over the outlet's limit as it was sent elsewhere; 0 where it is not.</param>
public sealed record There(OutletNumber Outlet, ThereState State, ReleaseNumber? Release, int Over);

/// <summary>Here but not yet there: how pieces stand to outlets.</summary>
public static class HereNotThere
{
    /// <summary>How a piece stands to each outlet.</summary>
    /// <param name="format">Key of its format.</param>
    /// <param name="text">What would be sent, as Markdown.</param>
    /// <param name="outlets">Outlets in the order in which they are answered.</param>
    /// <param name="releases">Its releases, the latest first.</param>
    /// <param name="never">Outlets it is never to go to.</param>
    public static IReadOnlyList<There> Of(
        string format,
        string text,
        IReadOnlyList<Outlet> outlets,
        IReadOnlyList<Release> releases,
        IReadOnlySet<OutletNumber> never
    ) =>
        [
            .. outlets.Select(outlet =>
                releases.FirstOrDefault(r => r.Outlet == outlet.Number) is { } there
                    ? new There(outlet.Number, ThereState.Out, there.Number, 0)
                : never.Contains(outlet.Number) ? new There(outlet.Number, ThereState.Never, null, 0)
                : outlet.Takes(format) ? new There(outlet.Number, ThereState.Could, null, Over(text, outlet.Limit))
                : new There(outlet.Number, ThereState.InAnotherForm, null, 0)
            ),
        ];

    private static int Over(string text, Limit? limit) =>
        limit is null ? 0 : Math.Max(0, Measure.Of(text, limit, FormatLimits.None).Has - limit.Most);
}
