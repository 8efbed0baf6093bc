namespace Nachlass.Core.Papers;

/// <summary>The number of an attached file.</summary>
public readonly record struct AttachmentNumber(int Value) : INumber<AttachmentNumber>
{
    public static AttachmentNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out AttachmentNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A file or picture tied to a slip, a source or a piece.</summary>
public sealed record Attachment
{
    public const int LongestName = 255;
    public const int LongestWhy = 500,
        LongestCredit = 300;

    /// <summary>Bytes at most: 256 MiB.</summary>
    public const long MostBytes = 256L << 20;

    public required AttachmentNumber Number { get; init; }

    /// <summary>What it is tied to.</summary>
    public required Reference To { get; init; }

    public required string Name { get; init; }

    /// <summary>SHA-256 of its content in lower-case hexadecimal; files with the same content are kept once.</summary>
    public required string Hash { get; init; }

    /// <summary>Its media type, told from its first bytes.</summary>
    public required string Type { get; init; }

    public long Bytes { get; init; }

    /// <summary>Why it matters, in a line.</summary>
    public string Why { get; init; } = "";

    /// <summary>Whose it is, or who made it, as it is to be said.</summary>
    public string Credit { get; init; } = "";

    public DateTimeOffset CaughtAt { get; init; }
    public int Version { get; init; }

    /// <summary>Whether it is a picture that can be shown.</summary>
    public bool IsPicture => Type.StartsWith("image/", StringComparison.Ordinal);
}

/// <summary>What a file turned out to hold.</summary>
/// <param name="Type">Its media type.</param>
/// <param name="Words">The words in it, for the search; empty when there are none.</param>
/// <param name="Ms">How long a sound is, in milliseconds; 0 for anything else, or where that can't be told.</param>
public sealed record FileReading(string Type, string Words, int Ms = 0);

/// <summary>Looks into a file.</summary>
public delegate FileReading ReadFile(string name, string path);
