using System.Globalization;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>Figures of releases: <c>figures.md</c>, for each release and name the days and the totals up to them.</summary>
internal static class ReleaseFiguresFile
{
    public const string Name = "figures.md";

    public static string? Write(PapersImage papers) =>
        papers.Figures.Count == 0
            ? null
            : new FrontMatterWriter()
                .Add(
                    "figures",
                    papers
                        .Figures.GroupBy(f => (f.Release, f.Figure.Name, f.Figure.By))
                        .Select(g =>
                            new FrontMatterWriter()
                                .Add("release", g.Key.Release.Value)
                                .Add("name", g.Key.Name)
                                .Add("by", g.Key.By)
                                .Add("days", g.Select(f => f.Figure.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)))
                                .Add("totals", g.Select(f => f.Figure.Total.ToString(CultureInfo.InvariantCulture)))
                        )
                )
                .Write("What was told and noted of releases: totals up to the end of each day.");

    /// <param name="shift">Days by which all dates are moved.</param>
    public static IReadOnlyList<FigureImage> Read(FrontMatter? f, int shift) =>
        f is null
            ? []
            :
            [
                .. f.Records("figures")
                    .SelectMany(g =>
                    {
                        var release = ReleaseNumber.Of(g.Number("release") ?? throw Missing("release"));
                        var name = ReleaseFigures.CheckedName(g.Word("name"));
                        var by = g.Enum("by", ToldBy.Hand);
                        var (days, totals) = (g.Days("days"), g.Numbers("totals"));
                        if (days.Count != totals.Count)
                            throw new UnreadableFileException(Name, $"“{name}” of release {release} has not as many totals as days.");
                        return days.Zip(
                            totals,
                            (day, total) => new FigureImage(release, new ReleaseFigure(name, day.AddDays(shift), total, by))
                        );
                    }),
            ];

    private static UnreadableFileException Missing(string field) => new(Name, $"the field “{field}” is missing.");
}
