using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Exchange.Papers;
using UtfUnknown;

namespace Nachlass.Exchange.Capture;

/// <summary>Opens text files of any usual encoding as lines, with bounds, so that no file can fill the memory.</summary>
public static partial class TextIn
{
    /// <summary>Lines at most in one file.</summary>
    public const int MostLines = 2_000_000;

    /// <summary>Characters at most in one line.</summary>
    public const int LongestLine = 4_000_000;

    /// <summary>Bytes at most of a file that has to be read whole: a document, an outline, a page.</summary>
    public const int MostBytesAtOnce = 64 << 20;

    private const int Looked = 1 << 20;

    static TextIn() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>A file's text, as a reader.</summary>
    /// <exception cref="UnreadableFileException">It is no text, or its encoding breaks somewhere.</exception>
    public static StreamReader Open(InFile file)
    {
        var stream = File.OpenRead(file.Path);
        try
        {
            return Reader(file.Name, stream);
        }
        catch
        {
            stream.Dispose();
            throw;
        }
    }

    private static StreamReader Reader(string name, Stream stream)
    {
        var head = new byte[Math.Min(Looked, stream.Length)];
        stream.ReadExactly(head);
        stream.Position = 0;
        return new StreamReader(
            stream,
            Strict(EncodingOf(name, head, stream.Length > head.Length)),
            detectEncodingFromByteOrderMarks: true,
            65_536
        );
    }

    /// <summary>The whole text of a file that is not large.</summary>
    /// <exception cref="UnreadableFileException">It is larger than <see cref="MostBytesAtOnce"/>, or no text.</exception>
    public static string Whole(InFile file)
    {
        NotLarge(file);
        using var reader = Open(file);
        return Guarded(file.Name, reader.ReadToEnd).ReplaceLineEndings("\n");
    }

    /// <summary>The whole text of a file whose long lines are folded at bytes (RFC 5545, 3.1): a letter that was folded in its middle is
    /// one again. Lines that were folded between letters stay so.</summary>
    /// <inheritdoc cref="Whole" path="/exception"/>
    public static string Unfolded(InFile file)
    {
        NotLarge(file);
        var bytes = File.ReadAllBytes(file.Path);
        var kept = 0;
        for (var at = 0; at < bytes.Length; at++)
        {
            var fold =
                bytes[at] == '\n' ? 1
                : bytes.AsSpan(at).StartsWith("\r\n"u8) ? 2
                : 0;
            // Only the rest of a letter begins with these bits (RFC 3629, 3).
            if (fold > 0 && at + fold + 1 < bytes.Length && bytes[at + fold] is 0x20 or 0x09 && (bytes[at + fold + 1] & 0xC0) == 0x80)
                at += fold;
            else
                bytes[kept++] = bytes[at];
        }
        using var stream = new MemoryStream(bytes, 0, kept);
        using var reader = Reader(file.Name, stream);
        return Guarded(file.Name, reader.ReadToEnd).ReplaceLineEndings("\n");
    }

    /// <exception cref="UnreadableFileException">It is larger than <see cref="MostBytesAtOnce"/>.</exception>
    public static void NotLarge(InFile file)
    {
        if (new FileInfo(file.Path).Length > MostBytesAtOnce)
            throw new UnreadableFileException(file.Name, "it is larger than 64 MiB, which is too much for a file of this kind.");
    }

    /// <summary>The lines of a file with their numbers, from 1.</summary>
    /// <exception cref="UnreadableFileException">It has too many lines, or one that is too long.</exception>
    public static IEnumerable<(int Number, string Text)> Lines(InFile file)
    {
        using var reader = Open(file);
        var buffer = new char[16_384];
        var line = new StringBuilder();
        var (number, afterReturn) = (0, false);
        while (true)
        {
            var read = Guarded(file.Name, () => reader.Read(buffer, 0, buffer.Length));
            if (read == 0)
                break;
            for (var i = 0; i < read; i++)
            {
                var c = buffer[i];
                if (afterReturn && c == '\n')
                {
                    afterReturn = false;
                    continue;
                }
                afterReturn = c == '\r';
                if (c is '\n' or '\r')
                {
                    if (++number > MostLines)
                        throw new UnreadableFileException(file.Name, $"it has more than {MostLines:N0} lines.");
                    yield return (number, line.ToString());
                    line.Clear();
                }
                else if (line.Append(c).Length > LongestLine)
                    throw new UnreadableFileException(file.Name, $"line {number + 1} is longer than {LongestLine:N0} characters.");
            }
        }
        if (line.Length > 0)
            yield return (number + 1, line.ToString());
    }

    /// <summary>Runs a read and says in our words what a strict decoder found.</summary>
    internal static T Guarded<T>(string name, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (DecoderFallbackException error)
        {
            throw new UnreadableFileException(
                name,
                $"its encoding breaks at byte {error.Index:N0}, so that some letters would be lost. Save it as UTF-8 and try again."
            );
        }
    }

    /// <summary>The first part of a text, for recognising what it is.</summary>
    internal static string Start(InFile file, int most = 8_192)
    {
        using var reader = Open(file);
        var buffer = new char[most];
        var read = Guarded(file.Name, () => reader.ReadBlock(buffer, 0, most));
        return new string(buffer, 0, read).TrimStart();
    }

    private static Encoding Strict(Encoding encoding) =>
        Encoding.GetEncoding(encoding.CodePage, EncoderFallback.ReplacementFallback, DecoderFallback.ExceptionFallback);

    private static Encoding EncodingOf(string name, byte[] head, bool isCut)
    {
        if (head is [0xEF, 0xBB, 0xBF, ..])
            return Encoding.UTF8;
        if (head is [0xFF, 0xFE, ..])
            return Encoding.Unicode;
        if (head is [0xFE, 0xFF, ..])
            return Encoding.BigEndianUnicode;
        if (Utf16(head) is { } wide)
            return wide;
        if (Array.IndexOf(head, (byte)0) >= 0)
            throw new UnreadableFileException(name, "it is no text: it holds NUL bytes.");
        var (valid, broken) = Utf8(head, isCut);
        if (broken < 0)
            return Encoding.UTF8;
        if (Declared(head) is { } declared)
            return declared;
        if (valid > 0)
            throw new UnreadableFileException(
                name,
                $"its UTF-8 is broken at byte {broken:N0}, so that some letters would be lost. Save it as UTF-8 and try again."
            );
        var found = CharsetDetector.DetectFromBytes(head).Detected;
        // Plain western letters are too few to be sure of in a short text; Windows-1252 is by far the most likely then.
        return found is { Encoding: { } encoding, Confidence: > 0.8f } ? encoding : Encoding.GetEncoding(1252);
    }

    /// <summary>The encoding a page or an XML file says it has (XML 1.0, 4.3.3; HTML, 4.2.5.4); null when it says none that is known.
    /// Latin-1 is read as Windows-1252, as the Encoding standard has it.</summary>
    private static Encoding? Declared(byte[] head)
    {
        var start = Encoding.Latin1.GetString(head, 0, Math.Min(head.Length, 2_048));
        if (!start.TrimStart().StartsWith('<') || Charset().Match(start) is not { Success: true } said)
            return null;
        var name = said.Groups[1].Value.ToLowerInvariant();
        try
        {
            return name is "iso-8859-1" or "latin1" or "us-ascii" ? Encoding.GetEncoding(1252)
                : name.StartsWith("utf", StringComparison.Ordinal) ? null
                : Encoding.GetEncoding(name);
        }
        catch (ArgumentException)
        {
            return null;
        }
    }

    [GeneratedRegex("""(?:<\?xml[^>]*\sencoding|<meta[^>]*\bcharset)\s*=\s*["']?([A-Za-z0-9_:.-]{2,40})""", RegexOptions.IgnoreCase)]
    private static partial Regex Charset();

    /// <summary>UTF-16 without a mark: every other byte of western text is zero.</summary>
    private static Encoding? Utf16(byte[] head)
    {
        var pairs = Math.Min(head.Length / 2, 1_000);
        if (pairs < 4)
            return null;
        var (even, odd) = (0, 0);
        for (var i = 0; i < pairs; i++)
        {
            if (head[2 * i] == 0)
                even++;
            if (head[2 * i + 1] == 0)
                odd++;
        }
        if (odd > pairs * 0.7 && even < pairs * 0.1)
            return Encoding.Unicode;
        return even > pairs * 0.7 && odd < pairs * 0.1 ? Encoding.BigEndianUnicode : null;
    }

    /// <summary>How many letters beyond ASCII are whole, and where the first broken one stands; -1 for none.</summary>
    private static (int Valid, int Broken) Utf8(byte[] bytes, bool isCut)
    {
        var (valid, at) = (0, 0);
        while (at < bytes.Length)
        {
            if (bytes[at] < 0x80)
            {
                at++;
                continue;
            }
            var status = Rune.DecodeFromUtf8(bytes.AsSpan(at), out _, out var consumed);
            if (status == System.Buffers.OperationStatus.NeedMoreData && isCut)
                break;
            if (status != System.Buffers.OperationStatus.Done)
                return (valid, at);
            valid++;
            at += consumed;
        }
        return (valid, -1);
    }
}
