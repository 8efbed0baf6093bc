using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A folder of a piece on the disk.</summary>
/// <param name="Files">How many files lie in it.</param>
public sealed record PieceFolder(string Name, string Path, int Files);

/// <summary>The folders of a piece on the disk.</summary>
/// <param name="Path">The piece's own; null where its format has no folders.</param>
public sealed record PieceFoldersShown(string? Path, IReadOnlyList<PieceFolder> Folders);

/// <summary>
/// Makes the folders that a format names, under a folder of the piece's own beside the papers: <c>pieces/P12/raw</c>. What lies in them is
/// the writer's; nothing is ever deleted there, nor a folder that the format names no more.
/// </summary>
public sealed class PieceFolders(PapersFile papers)
{
    public const string Folder = "pieces";

    /// <summary>Makes folders for a piece, under its own.</summary>
    /// <exception cref="BadInputException">They can't be made on this disk.</exception>
    internal static void Make(PapersFile papers, PieceNumber number, IReadOnlyList<string> names)
    {
        try
        {
            foreach (var name in names)
                Directory.CreateDirectory(Path.Combine(papers.Folder, Folder, $"P{number.Value}", name));
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            throw new BadInputException("folder", $"The folders of P {number} can't be made: {error.Message}");
        }
    }

    /// <exception cref="BadInputException">They can't be made on this disk.</exception>
    public PieceFoldersShown Of(PieceNumber number)
    {
        var format = papers.Read(db => FormatRows.Named(db, PieceRows.Get(db, number).Format));
        var own = Path.Combine(papers.Folder, Folder, $"P{number.Value}");
        if (format.Folders.Count == 0 && !Directory.Exists(own))
            return new PieceFoldersShown(null, []);
        Make(papers, number, format.Folders);
        try
        {
            return new PieceFoldersShown(
                own,
                [
                    .. format
                        .Folders.Concat(
                            Directory.EnumerateDirectories(own).Select(path => Path.GetFileName(path)!).Order(StringComparer.Ordinal)
                        )
                        .Distinct()
                        .Select(name => new PieceFolder(
                            name,
                            Path.Combine(own, name),
                            Directory.EnumerateFiles(Path.Combine(own, name)).Take(10_000).Count()
                        )),
                ]
            );
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            throw new BadInputException("folder", $"The folders of P {number} can't be made: {error.Message}");
        }
    }
}
