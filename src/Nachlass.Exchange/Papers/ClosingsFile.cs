using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Papers;

/// <summary>What was learned from pieces: <c>learned.md</c>.</summary>
internal static class ClosingsFile
{
    public const string Name = "learned.md";

    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers)
    {
        if (papers.Closings.Count + papers.KeptOfThem.Count == 0)
            yield break;
        yield return (
            Name,
            new FrontMatterWriter()
                .Add(
                    "learned",
                    papers.Closings.Select(c =>
                        new FrontMatterWriter()
                            .Add("piece", c.Piece.Value)
                            .Add("learned", c.Learned)
                            .Add("slip", c.Slip?.Value)
                            .Add("otherwise", c.Otherwise)
                            .Add("closed", c.ClosedAt)
                    )
                )
                .Add(
                    "kept",
                    papers.KeptOfThem.Select(k =>
                        new FrontMatterWriter().Add("piece", k.Piece.Value).Add("slip", k.Slip.Value).Add("passage", k.Passage)
                    )
                )
                .Write("What was learned from pieces that went out, and which of their passages were kept as slips.")
        );
    }

    /// <param name="instant">An instant of a file, moved along.</param>
    public static IReadOnlyList<Closing> Closings(FrontMatter? f, Func<FrontMatter, string, DateTimeOffset?> instant) =>
        f is null
            ? []
            :
            [
                .. f.Records("learned")
                    .Select(c => new Closing
                    {
                        Piece = PieceNumber.Of(Must(c, "piece")),
                        Learned = Check.Length("learned", c.Word("learned"), Closing.LongestLine),
                        Slip = c.Number("slip") is { } slip ? SlipNumber.Of(slip) : null,
                        Otherwise = Check.Length("otherwise", c.Word("otherwise"), Closing.LongestLine),
                        ClosedAt = instant(c, "closed"),
                        Version = 1,
                    }),
            ];

    public static IReadOnlyList<KeptImage> Kept(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("kept")
                    .Select(k => new KeptImage(
                        PieceNumber.Of(Must(k, "piece")),
                        SlipNumber.Of(Must(k, "slip")),
                        Check.Length("passage", k.Word("passage"), DraftText.Longest)
                    )),
            ];

    private static int Must(FrontMatter f, string field) =>
        f.Number(field) ?? throw new UnreadableFileException(Name, $"the field “{field}” is missing.");
}
