using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>The series of a set of papers, as the file <c>series.md</c>.</summary>
internal static class SeriesFile
{
    public const string Name = "series.md";

    /// <summary>The file's content; null when there are none.</summary>
    public static string? Write(IReadOnlyList<SeriesImage> all) =>
        all.Count == 0
            ? null
            : new FrontMatterWriter()
                .Add(
                    "series",
                    all.Select(s =>
                        new FrontMatterWriter()
                            .Add("number", s.Series.Number.Value)
                            .Add("name", s.Series.Name)
                            .Add("about", s.Series.About)
                            .Add("title-pattern", s.Series.TitlePattern)
                            .Add("format", s.Series.Format)
                            .Add("pieces", s.Pieces.Select(p => p.ToString()))
                    )
                )
                .Write("Pieces in an order.");

    public static IReadOnlyList<SeriesImage> Read(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("series")
                    .Select(s => new SeriesImage(
                        new Series(
                            SeriesNumber.Of(s.Number("number") ?? throw new UnreadableFileException(Name, "a series has no number.")),
                            Check.Text("name", s.Word("name"), Series.LongestName),
                            Check.Length("about", s.Word("about"), Brief.LongestField),
                            Check.Length("title-pattern", s.Word("title-pattern"), 300),
                            s.Word("format"),
                            1
                        ),
                        [.. s.Numbers("pieces").Select(PieceNumber.Of)]
                    )),
            ];
}
