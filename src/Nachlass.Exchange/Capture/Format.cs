using Nachlass.Core.Capture;

namespace Nachlass.Exchange.Capture;

/// <summary>A file that comes in.</summary>
/// <param name="Name">Its name with the folders it came in, with forward slashes.</param>
/// <param name="Path">Where it lies now.</param>
public sealed record InFile(string Name, string Path)
{
    public string Extension => System.IO.Path.GetExtension(Name).ToLowerInvariant();

    /// <summary>Its name without folders and ending.</summary>
    public string Title => System.IO.Path.GetFileNameWithoutExtension(Name).Replace('_', ' ').Trim();
}

/// <summary>What a text that could be several things becomes.</summary>
public enum DocumentsAs
{
    Slip,
    Source,
    Piece,
}

/// <summary>How files are read.</summary>
/// <param name="Today">The writer's day, for dates such as "Friday".</param>
/// <param name="Tables">What the columns of tables mean, by <see cref="ColumnMapping.ShapeOf"/>; else it is guessed from their
/// names.</param>
/// <param name="Documents">What a whole document or outline becomes; null for what its format usually is.</param>
/// <param name="Beside">Finds a file of the same parcel by its name; null when there is none.</param>
public sealed record ReadAs(
    DateOnly Today,
    IReadOnlyDictionary<string, ColumnMapping>? Tables = null,
    DocumentsAs? Documents = null,
    Func<string, InFile?>? Beside = null
);

/// <summary>A format that comes in.</summary>
public interface IFormat
{
    /// <summary>As it is named in requests: <c>csv</c>.</summary>
    string Key { get; }

    /// <summary>As the writer knows it.</summary>
    string Name { get; }

    /// <summary>What whole documents of it can become, the usual first; empty where there is no choice.</summary>
    IReadOnlyList<DocumentsAs> Choices => [];

    /// <summary>Whether this is such a file.</summary>
    /// <param name="file">The file.</param>
    /// <param name="start">The beginning of its text; empty when it is no text.</param>
    bool Recognises(InFile file, string start);

    /// <summary>Reads the file piece by piece.</summary>
    /// <exception cref="Papers.UnreadableFileException">The file as a whole can't be read.</exception>
    IEnumerable<Found> Read(InFile file, ReadAs how);
}
