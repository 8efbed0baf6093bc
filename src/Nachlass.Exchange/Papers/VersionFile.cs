using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>Versions of a draft, each as a file: <c>versions/0004/0001.md</c> is the oldest of P 4.</summary>
internal static class VersionFile
{
    public const string Folder = "versions";

    public static IEnumerable<(string Name, string Content)> Write(PieceImage piece) =>
        piece.Versions.Select(
            (version, at) =>
                (
                    $"{Folder}/{piece.Piece.Number.Value:0000}/{at + 1:0000}.md",
                    new FrontMatterWriter()
                        .Add("piece", piece.Piece.Number.Value)
                        .Add("at", version.At)
                        .Add("why", version.Why)
                        .Add("name", version.Name)
                        .Write(version.Text)
                )
        );

    /// <summary>The versions of a piece.</summary>
    /// <param name="files">All files of versions, in the order of their names.</param>
    /// <param name="shift">Days by which their dates are moved.</param>
    public static IReadOnlyList<VersionImage> Read(IEnumerable<(string Name, FrontMatter Fields)> files, PieceNumber piece, int shift) =>
        [
            .. files
                .Where(f => f.Fields.Number("piece") == piece.Value)
                .Select(f => new VersionImage(
                    f.Fields.Instant("at")?.AddDays(shift)
                        ?? throw new UnreadableFileException(f.Name, "it does not say when it stood so."),
                    f.Fields.Enum("why", VersionWhy.Named),
                    Check.Length("name", f.Fields.Word("name"), DraftVersion.LongestName),
                    Check.Length("text", f.Fields.Text, DraftText.Longest)
                )),
        ];
}
