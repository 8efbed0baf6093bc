using System.IO.Compression;
using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>All papers as one zip, and back.</summary>
public static class PapersZip
{
    /// <summary>No zip with more files is read.</summary>
    public const int MostFiles = 500_000;

    /// <summary>No zip that would unpack to more bytes is read: 1 GiB.</summary>
    public const long MostBytes = 1L << 30;

    /// <summary>No file in it may be larger: 16 MiB, above the longest draft.</summary>
    public const long MostBytesOfFile = 16L << 20;

    private const string FilesFolder = "files/";

    private static readonly DateTimeOffset Still = new(2000, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>Writes the zip. The same papers give the same bytes.</summary>
    /// <param name="open">Gives the content of an attached file by its hash.</param>
    public static void Write(PapersImage papers, Stream into, Func<string, Stream> open)
    {
        using var zip = new ZipArchive(into, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8);
        foreach (var (name, content) in PapersFiles.Write(papers))
        {
            var entry = zip.CreateEntry(name, CompressionLevel.Fastest);
            entry.LastWriteTime = Still;
            using var stream = entry.Open();
            stream.Write(Encoding.UTF8.GetBytes(content));
        }
        foreach (var hash in papers.FileHashes)
        {
            var entry = zip.CreateEntry(FilesFolder + hash, CompressionLevel.NoCompression);
            entry.LastWriteTime = Still;
            using var stream = entry.Open();
            using var content = open(hash);
            content.CopyTo(stream);
        }
    }

    /// <summary>Reads the zip. Nothing is unpacked to disk, so no entry can leave its folder; names that try are refused all the
    /// same.</summary>
    /// <param name="keep">Takes in the content of an attached file and says its hash; called before the papers are read.</param>
    /// <exception cref="UnreadableFileException">It is no zip, too large, holds a name that climbs, or a file that can't be
    /// read.</exception>
    public static PapersImage Read(Stream from, Func<Stream, string> keep)
    {
        try
        {
            using var zip = new ZipArchive(from, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > MostFiles)
                throw new UnreadableFileException("the zip", $"it holds more than {MostFiles:N0} files.");
            var files = new List<(string, string)>();
            var total = 0L;
            foreach (var entry in zip.Entries)
            {
                if (entry.FullName.EndsWith('/'))
                    continue;
                if (
                    entry.FullName.Contains('\\')
                    || entry.FullName.StartsWith('/')
                    || entry.FullName.Contains(':')
                    || entry.FullName.Split('/').Contains("..")
                )
                    throw new UnreadableFileException(entry.FullName, "its name leads out of the papers.");
                if (entry.FullName.StartsWith(FilesFolder, StringComparison.Ordinal))
                {
                    using var content = entry.Open();
                    if (keep(content) != entry.Name)
                        throw new UnreadableFileException(
                            entry.FullName,
                            "its content is not what its name says; it was changed or damaged."
                        );
                    continue;
                }
                if (
                    !entry.FullName.EndsWith(".md", StringComparison.OrdinalIgnoreCase)
                    && !entry.FullName.EndsWith(".vtt", StringComparison.OrdinalIgnoreCase)
                    && entry.FullName != "views.json"
                    && !(
                        entry.FullName.StartsWith(FormatFile.Folder, StringComparison.Ordinal)
                        && entry.FullName.EndsWith(".json", StringComparison.OrdinalIgnoreCase)
                    )
                )
                    continue;
                var text = Content(entry);
                total += text.Length;
                if (total > MostBytes)
                    throw new UnreadableFileException("the zip", "it unpacks to more than 1 GiB.");
                files.Add((entry.FullName, text));
            }
            return PapersFiles.Read(files).Checked();
        }
        catch (InvalidDataException error)
        {
            throw new UnreadableFileException("the zip", $"it can't be read ({error.Message}).");
        }
    }

    /// <summary>The sizes a zip states may be lies, so the bytes are counted as they come.</summary>
    private static string Content(ZipArchiveEntry entry)
    {
        using var stream = entry.Open();
        using var memory = new MemoryStream();
        var buffer = new byte[81_920];
        for (int read; (read = stream.Read(buffer)) > 0; )
        {
            memory.Write(buffer, 0, read);
            if (memory.Length > MostBytesOfFile)
                throw new UnreadableFileException(entry.FullName, "it is larger than 16 MiB.");
        }
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true)
                .GetString(memory.GetBuffer(), 0, (int)memory.Length)
                .TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            throw new UnreadableFileException(entry.FullName, "it is not UTF-8 text.");
        }
    }
}
