using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>What came of what, what was cut, and what is done: <c>again.md</c>.</summary>
internal static class ReuseFile
{
    public const string Name = "again.md";

    public static string? Write(ReuseImage reuse) =>
        reuse.Came.Count + reuse.Cuts.Count + reuse.Done.Count == 0
            ? null
            : new FrontMatterWriter()
                .Add(
                    "came-of",
                    reuse.Came.Select(c => new FrontMatterWriter().Add("piece", c.Piece.Value).Add("of", c.Of.Value).Add("how", c.How))
                )
                .Add(
                    "cuts",
                    reuse.Cuts.Select(c =>
                        new FrontMatterWriter()
                            .Add("cut", c.Number.Value)
                            .Add("piece", c.Piece.Value)
                            .Add("title", c.Title)
                            .Add("from", c.From)
                            .Add("to", c.To)
                            .Add("passage", c.Passage)
                    )
                )
                .Add("done", reuse.Done.Select(d => new FrontMatterWriter().Add("piece", d.Piece.Value).Add("at", d.At)))
                .Write("What came of pieces that went out.");

    /// <param name="instant">An instant of a file, moved along.</param>
    public static ReuseImage Read(FrontMatter? f, Func<FrontMatter, string, DateTimeOffset?> instant) =>
        f is null
            ? new ReuseImage([], [], [])
            : new ReuseImage(
                [
                    .. f.Records("came-of")
                        .Select(c => new CameOf(
                            PieceNumber.Of(Must("piece", c.Number("piece"))),
                            PieceNumber.Of(Must("of", c.Number("of"))),
                            c.Enum("how", CameHow.Piece)
                        )),
                ],
                [
                    .. f.Records("cuts")
                        .Select(c => new Cut(
                            CutNumber.Of(Must("cut", c.Number("cut"))),
                            PieceNumber.Of(Must("piece", c.Number("piece"))),
                            Check.Text("title", c.Word("title"), Cut.LongestTitle),
                            CutTimes.Read("from", c.Word("from")),
                            CutTimes.Read("to", c.Word("to")),
                            Check.Length("passage", c.Word("passage"), Cut.LongestPassage)
                        )),
                ],
                [.. f.Records("done").Select(d => (PieceNumber.Of(Must("piece", d.Number("piece"))), Must("at", instant(d, "at"))))]
            );

    private static T Must<T>(string field, T? value)
        where T : struct => value ?? throw new UnreadableFileException(Name, $"the field “{field}” is missing.");
}
