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
    private readonly List<(string Name, string Reason)> refused = [];
    private long bytes;

    public IReadOnlyList<InFile> Files => files;

    /// <summary>Files that were not taken in, and why; the others come in without them.</summary>
    public IReadOnlyList<(string Name, string Reason)> Refused => refused;

    public string Folder { get; } = Directory.CreateDirectory(folder).FullName;

    /// <summary>Takes in a file; a zip is unpacked, its files come in by themselves.</summary>
    /// <param name="name">Its name, with folders when it came from one.</param>
    /// <exception cref="UnreadableFileException">All together is too large or too many, or it is no parcel at all.</exception>
    public void Add(string name, Stream content)
    {
        if (Keep(name, content) is not { } file || !IsZip(file))
            return;
        files.Remove(file);
        Unpack(file);
        File.Delete(file.Path);
    }

    /// <summary>Puts a file down; null when its name is none that a file can have.</summary>
    private InFile? Keep(string name, Stream content)
    {
        name = name.Replace('\\', '/').TrimStart('/');
        if (name.Split('/').Contains("..") || name.Contains(':', StringComparison.Ordinal) || name.Any(char.IsControl))
        {
            refused.Add((PlainTextName(name), "its name leads out of its folder."));
            return null;
        }
        if (files.Count >= MostFiles)
            throw new UnreadableFileException(name, $"there are more than {MostFiles:N0} files.");
        var file = new InFile(name, Path.Combine(Folder, $"{files.Count:00000}-{Guid.NewGuid():N}"));
        // Listed before it is whole, so that what breaks off in its middle is known and taken away.
        files.Add(file);
        using var kept = File.Create(file.Path);
        var buffer = new byte[81_920];
        for (int read; (read = content.Read(buffer)) > 0; )
        {
            bytes += read;
            if (bytes > MostBytes)
                throw new UnreadableFileException(name, "all together is more than 1 GiB.");
            kept.Write(buffer, 0, read);
        }
        return file;
    }

    private static string PlainTextName(string name) => new([.. name.Where(c => !char.IsControl(c))]);

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
                Take(entry);
            }
        }
        catch (InvalidDataException error)
        {
            throw new UnreadableFileException(packed.Name, $"it can't be unpacked ({error.Message}).");
        }
    }

    private void Take(ZipArchiveEntry entry)
    {
        var before = files.Count;
        try
        {
            using var stream = entry.Open();
            // The sizes a zip states may be lies; what is counted is what comes out.
            if (Keep(entry.FullName, new Inflating(entry, stream)) is { } file && IsZip(file))
                throw new BadEntryException("it is a zip inside a zip. Unpack it first.");
        }
        catch (Exception bad) when (bad is BadEntryException or InvalidDataException)
        {
            refused.Add((entry.FullName, bad is BadEntryException ? bad.Message : $"it can't be unpacked ({bad.Message})."));
            foreach (var half in files.Skip(before))
                File.Delete(half.Path);
            files.RemoveRange(before, files.Count - before);
        }
    }

    /// <summary>One file of a zip can't be taken.</summary>
    private sealed class BadEntryException(string reason) : Exception(reason);

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
                throw new BadEntryException($"it unpacks to more than {MostRatio} times its size, as only a zip bomb does.");
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
