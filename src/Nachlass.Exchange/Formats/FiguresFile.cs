using System.Globalization;
using Nachlass.Core.Plan;

namespace Nachlass.Exchange.Formats;

/// <summary>Figures as a table: one row a figure, so that any program can pick out those it wants.</summary>
public static class FiguresFile
{
    private static readonly string[] Columns = ["figure", "of", "from", "value", "count"];

    public static string Write(FiguresShown figures) => CsvTable.Write(Columns, Rows(figures));

    private static IEnumerable<IReadOnlyList<string>> Rows(FiguresShown figures)
    {
        foreach (var (unit, points) in new[] { ("week", figures.Weeks), ("month", figures.Months) })
        foreach (var point in points)
        {
            yield return [$"released by {unit}", "", Day(point.From), Number(point.Released), ""];
            yield return [$"begun by {unit}", "", Day(point.From), Number(point.Begun), ""];
            yield return [$"words by {unit}", "", Day(point.From), Number(point.Words), ""];
            yield return [$"caught by {unit}", "", Day(point.From), Number(point.Caught), ""];
        }
        yield return ["words on a day of writing (median)", "", "", Number(figures.WordsADay.Median), Number(figures.WordsADay.Of)];
        yield return ["caught", "", "", Number(figures.Caught), ""];
        yield return ["caught and out", "", "", Number(figures.GotOut), ""];
        foreach (var kind in figures.Formats.Concat(figures.Outlets).Prepend(figures.All))
        {
            yield return ["released", kind.Name, "", Number(kind.Released), ""];
            yield return ["days from beginning to out (median)", kind.Name, "", Number(kind.Lead.Median), Number(kind.Lead.Of)];
            yield return ["on time", kind.Name, "", Number(kind.Punctuality.OnTime), ""];
            yield return ["late", kind.Name, "", Number(kind.Punctuality.Late), ""];
            yield return ["days late (median)", kind.Name, "", Number(kind.Punctuality.LateBy.Median), Number(kind.Punctuality.LateBy.Of)];
            foreach (var stage in kind.Stages)
                yield return [$"days at {stage.Stage} (median)", kind.Name, "", Number(stage.Days.Median), Number(stage.Days.Of)];
        }
    }

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static string Number(double? value) => value?.ToString("0.##", CultureInfo.InvariantCulture) ?? "";
}
