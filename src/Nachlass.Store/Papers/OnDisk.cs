using System.Buffers.Binary;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>The papers can't be written any more: their file was taken away, replaced or garbled while they were open.</summary>
public sealed class PapersGoneException(string message) : RefusedException(message);

/// <summary>Watches whether the file that is written is still the papers, so that nothing is written into the void.</summary>
internal sealed class OnDisk : IDisposable
{
    private readonly string path;
    private readonly FileStream file;
    private readonly string here;
    private readonly byte[] head = new byte[100];
    private readonly int application;

    public OnDisk(string path)
    {
        this.path = path;
        // Held open until SQLite has closed it, since closing it before would drop SQLite's locks.
        file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, 0);
        here = Where();
        application = Application() ?? 0;
    }

    /// <summary>Why nothing can be written; null while all is well.</summary>
    public string? Trouble { get; private set; }

    /// <exception cref="PapersGoneException">The papers are not there any more.</exception>
    public void Check()
    {
        Trouble ??=
            Where() != here ? $"The file {path} was removed or replaced while Nachlass was running."
            : Application() != application ? $"The file {path} was written over while Nachlass was running."
            : null;
        if (Trouble is not null)
            throw new PapersGoneException(
                Trouble
                    + " Nothing more is written. Stop Nachlass, put the papers back from a copy, and start it again; what you typed "
                    + "is kept in this browser."
            );
    }

    /// <summary>Takes note of what SQLite found wrong with the file.</summary>
    public void Heard(Exception error)
    {
        if (error is SqliteException { SqliteErrorCode: 11 or 26 })
            Trouble ??= $"The file {path} is damaged ({error.Message}).";
    }

    /// <summary>Where the system says the open file lies now; of one that is gone it says so.</summary>
    private string Where() => File.ResolveLinkTarget($"/proc/self/fd/{file.SafeFileHandle.DangerousGetHandle()}", false)?.FullName ?? "";

    /// <summary>The mark of the program in the file's head (SQLite file format, 1.3); null when the head is none of SQLite's.</summary>
    private int? Application() =>
        RandomAccess.Read(file.SafeFileHandle, head, 0) == head.Length && head.AsSpan().StartsWith("SQLite format 3\0"u8)
            ? BinaryPrimitives.ReadInt32BigEndian(head.AsSpan(68))
            : null;

    public void Dispose() => file.Dispose();
}
