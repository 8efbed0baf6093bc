using System.IO.Compression;
using Nachlass.Core.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Capture;

/// <summary>A file with what it was recognised as; <paramref name="Format"/> is null when nothing here reads it.</summary>
public sealed record Recognised(InFile File, IFormat? Format);

/// <summary>Files that come in together, in a folder of their own. Their names are only names: on disk they go by number.</summary>
public sealed class Parcel(string folder)
{
    /// <summary>Bytes at most in all: 1 GiB.</summary>
    public const long MostBytes = 1L << 30;

    public const int MostFiles = 50_000;

    /// <summary>Things at most that one import makes.</summary>
    public const int MostThings = 500_000;

    private readonly List<InFile> files = [];
    private long bytes;

    public IReadOnlyList<InFile> Files => files;

    public string Folder { get; } = Directory.CreateDirectory(folder).FullName;

    /// <summary>Takes in a file; a zip is unpacked, its files come in by themselves.</summary>
    /// <param name="name">Its name, with folders when it came from one.</param>
    /// <exception cref="UnreadableFileException">It is too large, one of too many, or its name leads out of its folder.</exception>
    public void Add(string name, Stream content)
    {
        var file = Keep(name, content);
        if (!IsZip(file))
            return;
        files.Remove(file);
        Unpack(file);
        File.Delete(file.Path);
    }

    private InFile Keep(string name, Stream content)
    {
        name = name.Replace('\\', '/').TrimStart('/');
        if (name.Split('/').Contains("..") || name.Contains(':', StringComparison.Ordinal) || name.Any(char.IsControl))
            throw new UnreadableFileException(name, "its name leads out of its folder.");
        if (files.Count >= MostFiles)
            throw new UnreadableFileException(name, $"there are more than {MostFiles:N0} files.");
        var file = new InFile(name, Path.Combine(Folder, $"{files.Count:00000}-{Guid.NewGuid():N}"));
        using (var kept = File.Create(file.Path))
        {
            var buffer = new byte[81_920];
            for (int read; (read = content.Read(buffer)) > 0; )
            {
                bytes += read;
                if (bytes > MostBytes)
                    throw new UnreadableFileException(name, "all together is more than 1 GiB.");
                kept.Write(buffer, 0, read);
            }
        }
        files.Add(file);
        return file;
    }

    private static bool IsZip(InFile file)
    {
        if (file.Extension is ".docx")
            return false;
        using var stream = File.OpenRead(file.Path);
        Span<byte> head = stackalloc byte[4];
        return stream.ReadAtLeast(head, 4, throwOnEndOfStream: false) == 4 && head.SequenceEqual("PK\x03\x04"u8);
    }

    private void Unpack(InFile packed)
    {
        try
        {
            using var zip = ZipFile.OpenRead(packed.Path);
            if (zip.Entries.Count > MostFiles)
                throw new UnreadableFileException(packed.Name, $"it holds more than {MostFiles:N0} files.");
            if (zip.GetEntry(PapersFiles.About) is not null)
                throw new UnreadableFileException(
                    packed.Name,
                    "these are whole papers. They come in through “Take out or bring in papers”, into papers that are still empty."
                );
            foreach (var entry in zip.Entries)
            {
                if (
                    entry.FullName.EndsWith('/')
                    || entry.FullName.StartsWith("__MACOSX/", StringComparison.Ordinal)
                    || entry.Name.StartsWith('.')
                )
                    continue;
                using var stream = entry.Open();
                // The sizes a zip states may be lies; what is counted is what comes out.
                var file = Keep(entry.FullName, new Inflating(entry, stream));
                if (IsZip(file))
                    throw new UnreadableFileException(entry.FullName, "it is a zip inside a zip. Unpack it first.");
            }
        }
        catch (InvalidDataException error)
        {
            throw new UnreadableFileException(packed.Name, $"it can't be unpacked ({error.Message}).");
        }
    }

    /// <summary>What each file is. Files that another one links to are part of that one and not listed.</summary>
    public IReadOnlyList<Recognised> Recognise() => [.. files.Select(file => new Recognised(file, FormatsIn.Recognise(file)))];

    /// <summary>Everything in the files, one thing at a time; what can't be read as a whole is one unread place.</summary>
    public IEnumerable<(InFile File, IFormat? Format, Found Found)> Read(ReadAs how)
    {
        var byName = files
            .GroupBy(f => f.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);
        var linked = new HashSet<InFile>();
        how = how with
        {
            Beside = name =>
            {
                if (byName.GetValueOrDefault(name) is not { } beside)
                    return null;
                linked.Add(beside);
                return beside;
            },
        };
        var things = 0;
        // Texts first, since what they link to is theirs and no slip of its own.
        foreach (var (file, format) in Recognise().OrderBy(r => r.Format is Pictures or Pdf or null))
        {
            if (linked.Contains(file))
                continue;
            if (format is null)
            {
                yield return (file, null, new Found.Unread(0, "nothing here reads a file of this kind.", file.Name));
                continue;
            }
            foreach (var found in format.Read(file, how))
            {
                if (found is not Found.Unread && ++things > MostThings)
                    throw new UnreadableFileException(file.Name, $"it would make more than {MostThings:N0} things at once. Split it.");
                yield return (file, format, found);
            }
        }
    }

    /// <summary>A zip's entry as it unpacks; far more than a text ever shrinks to is a bomb.</summary>
    private sealed class Inflating(ZipArchiveEntry entry, Stream inner) : Stream
    {
        private const int MostRatio = 200;
        private const long Free = 8 << 20;
        private long given;

        public override int Read(byte[] buffer, int offset, int count)
        {
            var read = inner.Read(buffer, offset, count);
            given += read;
            if (given > Free && given > entry.CompressedLength * MostRatio)
                throw new UnreadableFileException(
                    entry.FullName,
                    $"it unpacks to more than {MostRatio} times its size, as only a zip bomb does."
                );
            return read;
        }

        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => given;
            set => throw new NotSupportedException();
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
