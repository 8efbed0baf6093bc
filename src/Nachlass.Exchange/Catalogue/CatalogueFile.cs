using System.Globalization;
using System.Text;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Catalogue;

/// <summary>A release with what is known of its piece, as a row of a table.</summary>
/// <param name="Topics">Names of topics.</param>
/// <param name="Figures">Its latest figures.</param>
public sealed record CatalogueLine(
    Release Release,
    string Outlet,
    string Format,
    string Series,
    string Summary,
    int Files,
    IReadOnlyList<string> Topics,
    IReadOnlyList<(string Name, int Total)> Figures
);

/// <summary>The catalogue as a table, one row a release, and a year as a text.</summary>
public static class CatalogueFile
{
    private static readonly string[] Columns =
    [
        "release",
        "piece",
        "date",
        "outlet",
        "title",
        "format",
        "topics",
        "series",
        "summary",
        "kind",
        "words",
        "figures",
        "files",
        "address",
        "sha-256",
    ];

    public static string Csv(IEnumerable<CatalogueLine> lines) =>
        CsvTable.Write(
            Columns,
            lines.Select(l =>
                (IReadOnlyList<string>)
                    [
                        l.Release.Number.ToString(),
                        l.Release.Piece.ToString(),
                        l.Release.OutOn.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        l.Outlet,
                        l.Release.Title,
                        l.Format,
                        string.Join("; ", l.Topics),
                        l.Series,
                        l.Summary,
                        l.Release.Kind.ToString().ToLowerInvariant(),
                        l.Release.Words.ToString(CultureInfo.InvariantCulture),
                        string.Join("; ", l.Figures.Select(f => string.Create(CultureInfo.InvariantCulture, $"{f.Name} {f.Total}"))),
                        l.Files.ToString(CultureInfo.InvariantCulture),
                        l.Release.Address,
                        l.Release.Hash,
                    ]
            )
        );

    /// <summary>A year in review as Markdown.</summary>
    public static string Year(YearReviewed year)
    {
        var text = new StringBuilder()
            .Append(Invariant, $"# {year.Year} in review\n\n")
            .Append(
                Invariant,
                $"{Several(year.Releases, "release")} of {Several(year.Pieces, "piece")}, {year.Words:N0} words"
                    + $" ({year.Year - 1}: {Several(year.ReleasesBefore, "release")}, {year.WordsBefore:N0} words).\n"
            );
        if (year.Quiet is { } quiet)
            text.Append(Invariant, $"The longest quiet: {quiet.Days} days from {Day(quiet.From)}.\n");
        text.Append("\n## By month\n\n| month | releases |\n| --- | ---: |\n");
        for (var month = 0; month < 12; month++)
            text.Append(Invariant, $"| {Invariant.DateTimeFormat.GetMonthName(month + 1)} | {year.Months[month]} |\n");
        Counts("By outlet", year.Outlets);
        Counts("By format", year.Formats);
        Counts("By topic", year.Topics);
        if (year.NewTopics.Count > 0)
            text.Append(Invariant, $"\nFirst written about this year: {string.Join(", ", year.NewTopics)}.\n");
        text.Append("\n## To remember it by\n\n");
        foreach (var mark in year.Marks)
            text.Append(
                Invariant,
                $"- {mark.Why}: {Escaped(mark.Title)}, {Day(mark.OutOn)}{(mark.Figure.Length > 0 ? $" ({mark.Figure})" : "")}\n"
            );
        return text.ToString();

        void Counts(string heading, IReadOnlyList<YearCount> counts)
        {
            if (counts.Count == 0)
                return;
            text.Append(Invariant, $"\n## {heading}\n\n| | {year.Year} | {year.Year - 1} |\n| --- | ---: | ---: |\n");
            foreach (var count in counts)
                text.Append(Invariant, $"| {Escaped(count.Name)} | {count.Releases} | {count.Before} |\n");
        }
    }

    private static readonly CultureInfo Invariant = CultureInfo.InvariantCulture;

    private static string Several(int count, string what) => count == 1 ? $"1 {what}" : $"{count} {what}s";

    private static string Day(DateOnly day) => day.ToString("d MMMM", Invariant);

    private static string Escaped(string words) => words.Replace("|", "\\|", StringComparison.Ordinal);
}
