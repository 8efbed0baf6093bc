using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>What belongs to writing and to no piece alone, as the file <c>writing.md</c>: own words, sittings, shooting lists.</summary>
internal static class WritingFile
{
    public const string Name = "writing.md";

    /// <summary>The file's content; null when there is nothing.</summary>
    public static string? Write(PapersImage papers) =>
        papers.OwnWords.Count + papers.Sittings.Count + papers.Shots.Count == 0 && papers.SittingAim is null
            ? null
            : new FrontMatterWriter()
                .Add("own-words", papers.OwnWords)
                .Add("sitting-aim", papers.SittingAim)
                .Add(
                    "sittings",
                    papers.Sittings.Select(s =>
                        new FrontMatterWriter()
                            .Add("piece", s.Piece.Value)
                            .Add("from", s.StartedAt)
                            .Add("to", s.LastAt)
                            .Add("written", s.Written)
                            .Add("taken", s.Taken)
                            .Add("pasted", s.Pasted)
                            .Add("ended", s.IsEnded ? "yes" : "")
                    )
                )
                .Add(
                    "shots",
                    papers.Shots.Select(s =>
                        new FrontMatterWriter()
                            .Add("number", s.Number.Value)
                            .Add("day", s.Day)
                            .Add("piece", s.Piece.Value)
                            .Add("points", s.Points)
                            .Add("needs", s.Needs)
                            .Add("aim", s.Aim)
                            .Add("done", s.DoneAt)
                    )
                )
                .Write("What was written when, and what is recorded when.");

    public static IReadOnlyList<string> OwnWords(FrontMatter? f) => f?.Words("own-words") ?? [];

    /// <param name="shift">Days by which their dates are moved.</param>
    public static IReadOnlyList<DraftSitting> Sittings(FrontMatter? f, int shift) =>
        f is null
            ? []
            :
            [
                .. f.Records("sittings")
                    .Select(
                        (s, at) =>
                            new DraftSitting(
                                SittingNumber.Of(at + 1),
                                PieceNumber.Of(Must("piece", s.Number("piece"))),
                                Must("from", s.Instant("from")).AddDays(shift),
                                Must("to", s.Instant("to")).AddDays(shift),
                                s.Number("written") ?? 0,
                                s.Number("taken") ?? 0,
                                s.Number("pasted") ?? 0,
                                s.Word("ended") == "yes"
                            )
                    ),
            ];

    /// <inheritdoc cref="Sittings"/>
    public static IReadOnlyList<Shot> Shots(FrontMatter? f, int shift) =>
        f is null
            ? []
            :
            [
                .. f.Records("shots")
                    .Select(s => new Shot(
                        ShotNumber.Of(Must("number", s.Number("number"))),
                        Must("day", s.Day("day")).AddDays(shift),
                        PieceNumber.Of(Must("piece", s.Number("piece"))),
                        Check.Length("points", s.Word("points"), Shot.LongestPoints),
                        Check.Length("needs", s.Word("needs"), Shot.LongestNeeds),
                        s.Number("aim"),
                        s.Instant("done")?.AddDays(shift),
                        1
                    )),
            ];

    private static T Must<T>(string field, T? value)
        where T : struct => value ?? throw new UnreadableFileException(Name, $"{field} is missing.");
}
