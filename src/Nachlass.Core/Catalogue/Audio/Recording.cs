namespace Nachlass.Core.Catalogue.Audio;

/// <summary>The sound that went out with a release.</summary>
/// <param name="Name">Of its file.</param>
/// <param name="Hash">SHA-256 of its content in lower-case hexadecimal, under which it lies among the files.</param>
/// <param name="Type">Its media type.</param>
/// <param name="Ms">How long it is, in milliseconds; 0 where that can't be told.</param>
/// <param name="Key">What it is called in the feed for ever, so that no listener gets it twice (RSS 2.0, <c>guid</c>).</param>
/// <param name="At">When it stood in the feed first.</param>
public sealed record Recording(string Name, string Hash, string Type, long Bytes, int Ms, string Key, DateTimeOffset At)
{
    public const int LongestKey = 64;

    /// <summary>Its length as it is read; empty where nobody knows it.</summary>
    public string Length => Ms == 0 ? "" : Reuse.CutTimes.Said(Ms / 1_000 * 1_000);

    /// <summary>The last part of its address: its key, and an ending by which players know what it is.</summary>
    public string File => Key + SoundTypes.EndingOf(Type);
}

/// <summary>A release as listeners get it.</summary>
/// <param name="Text">What is said beside it, as Markdown.</param>
/// <param name="Picture">Its own; null for none.</param>
public sealed record Episode(string Title, string Text, Recording Recording, SentPicture? Picture = null)
{
    /// <summary>The last part of the address of its picture; empty where it has none.</summary>
    public string PictureFile => Picture is null ? "" : $"{Recording.Key}-picture{SentPicture.EndingOf(Picture.Type)}";
}

/// <summary>Kinds of sound that players of feeds know.</summary>
public static class SoundTypes
{
    private static readonly (string Type, string Ending)[] Known =
    [
        ("audio/mpeg", ".mp3"),
        ("audio/mp4", ".m4a"),
        ("audio/ogg", ".ogg"),
        ("audio/flac", ".flac"),
        ("audio/wav", ".wav"),
    ];

    /// <summary>How a writer is told of them.</summary>
    public const string Said = "MP3, M4A, Ogg, FLAC or WAV";

    public static bool Has(string type) => Known.Any(k => k.Type == type);

    public static string EndingOf(string type) => Known.FirstOrDefault(k => k.Type == type).Ending ?? "";

    /// <summary>The kind of sound a file is by its first bytes; null for anything else.</summary>
    /// <param name="head">Its first twelve bytes, or all of a shorter file.</param>
    /// <remarks>Signatures after ISO/IEC 14496-12 (ftyp), RFC 3533 (Ogg), RFC 9639 (FLAC), the ID3v2 informal standard, and the frame
    /// header of ISO/IEC 11172-3, 2.4.1.3 (layer III).</remarks>
    public static string? Of(ReadOnlySpan<byte> head)
    {
        if (head.StartsWith("ID3"u8))
            return "audio/mpeg";
        if (head.Length >= 3 && head[0] == 0xFF && (head[1] & 0xE6) == 0xE2 && (head[2] & 0xF0) != 0xF0)
            return "audio/mpeg";
        if (head.StartsWith("OggS"u8))
            return "audio/ogg";
        if (head.StartsWith("fLaC"u8))
            return "audio/flac";
        if (head.Length >= 12 && head.StartsWith("RIFF"u8) && head[8..12].SequenceEqual("WAVE"u8))
            return "audio/wav";
        return
            head.Length >= 12
            && head[4..8].SequenceEqual("ftyp"u8)
            && (head[8..12].SequenceEqual("M4A "u8) || head[8..12].SequenceEqual("M4B "u8))
            ? "audio/mp4"
            : null;
    }
}
