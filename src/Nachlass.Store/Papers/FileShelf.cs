using System.Security.Cryptography;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>The attached files of papers: a folder in which each content lies once, under its SHA-256. Nothing is deleted from it, so that
/// undo finds what it needs.</summary>
public sealed class FileShelf(PapersFile papers)
{
    private readonly string folder = System.IO.Path.Combine(papers.Folder, "files");

    /// <summary>Keeps a content; a second time it is only recognised.</summary>
    /// <returns>Its hash and length.</returns>
    /// <exception cref="BadInputException">It is empty or larger than <see cref="Attachment.MostBytes"/>.</exception>
    public (string Hash, long Bytes) Keep(Stream content)
    {
        Directory.CreateDirectory(folder);
        var arriving = System.IO.Path.Combine(folder, $"arriving-{Guid.NewGuid():N}");
        try
        {
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            long bytes = 0;
            using (var file = new FileStream(arriving, FileMode.CreateNew))
            {
                var buffer = new byte[81_920];
                for (int read; (read = content.Read(buffer)) > 0; )
                {
                    bytes += read;
                    if (bytes > Attachment.MostBytes)
                        throw new BadInputException("file", $"A file can have at most {Attachment.MostBytes >> 20} MiB.");
                    hash.AppendData(buffer, 0, read);
                    file.Write(buffer, 0, read);
                }
                if (bytes == 0)
                    throw new BadInputException("file", "The file is empty.");
                file.Flush(flushToDisk: true);
            }
            var name = Convert.ToHexStringLower(hash.GetHashAndReset());
            var place = Path(name);
            Directory.CreateDirectory(System.IO.Path.GetDirectoryName(place)!);
            if (!File.Exists(place))
                File.Move(arriving, place);
            return (name, bytes);
        }
        finally
        {
            File.Delete(arriving);
        }
    }

    /// <summary>Where a content lies.</summary>
    /// <exception cref="NotThereException">It is no hash.</exception>
    public string Path(string hash) =>
        hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower)
            ? System.IO.Path.Combine(folder, hash[..2], hash)
            : throw new NotThereException("file of this name");

    /// <exception cref="NotThereException">There is no such content.</exception>
    public Stream Open(string hash)
    {
        var place = Path(hash);
        return File.Exists(place) ? File.OpenRead(place) : throw new NotThereException("such file among the papers");
    }
}
