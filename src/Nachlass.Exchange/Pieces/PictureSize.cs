using System.Buffers.Binary;

namespace Nachlass.Exchange.Pieces;

/// <summary>How large a picture is, as its first bytes say.</summary>
internal static class PictureSize
{
    /// <summary>Width and height in pixels of a PNG, GIF or JPEG; null when it can't be told.</summary>
    public static (int Width, int Height)? Of(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > 24 && bytes[1..4].SequenceEqual("PNG"u8))
            return (BinaryPrimitives.ReadInt32BigEndian(bytes[16..]), BinaryPrimitives.ReadInt32BigEndian(bytes[20..]));
        if (bytes.Length > 10 && bytes[..3].SequenceEqual("GIF"u8))
            return (BinaryPrimitives.ReadUInt16LittleEndian(bytes[6..]), BinaryPrimitives.ReadUInt16LittleEndian(bytes[8..]));
        if (bytes.Length < 4 || bytes[0] != 0xFF || bytes[1] != 0xD8)
            return null;
        for (var at = 2; at + 9 < bytes.Length && bytes[at] == 0xFF; )
        {
            // Start of frame, of whichever coding; what is between are tables.
            if (bytes[at + 1] is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC))
                return (BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 7)..]), BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 5)..]));
            at += 2 + BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 2)..]);
        }
        return null;
    }
}
