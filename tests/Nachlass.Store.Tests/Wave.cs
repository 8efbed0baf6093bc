using System.Text;

namespace Nachlass.Store.Tests;

/// <summary>Sounds for tests.</summary>
internal static class Wave
{
    /// <summary>Silence as a WAV file: 8,000 samples of one byte a second.</summary>
    public static byte[] Silence(int seconds)
    {
        var length = 8_000 * seconds;
        using var made = new MemoryStream();
        using var writer = new BinaryWriter(made);
        writer.Write(Encoding.ASCII.GetBytes("RIFF"));
        writer.Write(36 + length);
        writer.Write(Encoding.ASCII.GetBytes("WAVEfmt "));
        writer.Write(16);
        writer.Write((short)1);
        writer.Write((short)1);
        writer.Write(8_000);
        writer.Write(8_000);
        writer.Write((short)1);
        writer.Write((short)8);
        writer.Write(Encoding.ASCII.GetBytes("data"));
        writer.Write(length);
        writer.Write(Enumerable.Repeat((byte)128, length).ToArray());
        return made.ToArray();
    }
}
