using System.Text;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Exceptions;

namespace Nachlass.Exchange.Formats;

/// <summary>A PDF: a source with the file attached; its words are found by the search.</summary>
public sealed class Pdf : IFormat
{
    public string Key => "pdf";
    public string Name => "PDF";

    public bool Recognises(InFile file, string start) => file.Extension is ".pdf";

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var (title, creator) = PdfText.About(file.Name, file.Path);
        yield return new Found.OfSource(
            0,
            new FoundSource(title.Length > 0 ? title : file.Title)
            {
                Type = SourceType.Article,
                Creators = creator,
                Files = [new FoundFile(Path.GetFileName(file.Name), file.Path)],
            }
        );
    }
}

/// <summary>The words of a PDF.</summary>
public static class PdfText
{
    /// <summary>Pages that are read; the rest of a longer file is kept but not searched.</summary>
    public const int MostPages = 2_000;

    /// <summary>Characters that are kept for the search.</summary>
    public const int MostCharacters = 4_000_000;

    /// <summary>The text, page by page; empty for a file of pictures only, or one that can't be read.</summary>
    public static string Of(string path)
    {
        try
        {
            using var pdf = PdfDocument.Open(path);
            var text = new StringBuilder();
            foreach (var page in pdf.GetPages().Take(MostPages))
            {
                text.AppendJoin(' ', page.GetWords().Select(word => word.Text)).Append('\n');
                if (text.Length > MostCharacters)
                    break;
            }
            return text.ToString(0, Math.Min(text.Length, MostCharacters)).Replace("\0", "", StringComparison.Ordinal).Trim();
        }
        catch (Exception error) when (IsBroken(error))
        {
            return "";
        }
    }

    /// <summary>Title and author as the file states them.</summary>
    /// <exception cref="UnreadableFileException">It is no PDF.</exception>
    public static (string Title, string Creator) About(string name, string path)
    {
        try
        {
            using var pdf = PdfDocument.Open(path);
            return (pdf.Information.Title?.Trim() ?? "", pdf.Information.Author?.Trim() ?? "");
        }
        catch (PdfDocumentEncryptedException)
        {
            return ("", "");
        }
        catch (Exception error) when (IsBroken(error))
        {
            throw new UnreadableFileException(name, "it is no readable PDF.");
        }
    }

    /// <summary>The reader meets broken files with exceptions of every kind.</summary>
    private static bool IsBroken(Exception error) =>
        error
            is PdfDocumentFormatException
                or PdfDocumentEncryptedException
                or InvalidOperationException
                or ArgumentException
                or FormatException
                or IOException
                or IndexOutOfRangeException
                or KeyNotFoundException
                or NullReferenceException
                or InvalidCastException
                or NotSupportedException
                or OverflowException
                or ArithmeticException;
}

/// <summary>Pictures: each a slip with the picture attached.</summary>
public sealed class Pictures : IFormat
{
    public string Key => "picture";
    public string Name => "Picture";

    public bool Recognises(InFile file, string start) => file.Extension is ".jpg" or ".jpeg" or ".png" or ".gif" or ".webp" or ".avif";

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        if (FileKinds.PictureType(file.Path) is null)
        {
            yield return new Found.Unread(0, "it is called a picture but does not hold one.", file.Name);
            yield break;
        }
        yield return new Found.OfSlip(
            0,
            new FoundSlip(file.Title) { Kind = SlipKind.Note, Files = [new FoundFile(Path.GetFileName(file.Name), file.Path)] }
        );
    }
}

/// <summary>What a file is by its first bytes, whatever it is called.</summary>
public static class FileKinds
{
    public const string Pdf = "application/pdf";

    /// <summary>The media type of a picture that browsers show; null for anything else. Drawings (SVG) are not among them, since they can
    /// hold scripts.</summary>
    public static string? PictureType(string path)
    {
        Span<byte> head = stackalloc byte[16];
        using var stream = File.OpenRead(path);
        head = head[..stream.ReadAtLeast(head, 16, throwOnEndOfStream: false)];
        if (head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]))
            return "image/jpeg";
        if (head.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]))
            return "image/png";
        if (head.StartsWith("GIF8"u8))
            return "image/gif";
        if (head.Length >= 12 && head.StartsWith("RIFF"u8) && head[8..12].SequenceEqual("WEBP"u8))
            return "image/webp";
        if (head.Length >= 12 && head[4..8].SequenceEqual("ftyp"u8) && head[8..12].SequenceEqual("avif"u8))
            return "image/avif";
        return null;
    }

    /// <summary>The media type a file is kept under.</summary>
    public static string TypeOf(string name, string path) =>
        PictureType(path)
        ?? SoundType(path)
        ?? (
            IsPdf(path)
                ? "application/pdf"
                : Path.GetExtension(name).ToLowerInvariant() switch
                {
                    ".txt" or ".md" or ".csv" => "text/plain",
                    _ => "application/octet-stream",
                }
        );

    /// <summary>The kind of sound it is; null for anything else.</summary>
    private static string? SoundType(string path)
    {
        Span<byte> head = stackalloc byte[12];
        using var stream = File.OpenRead(path);
        return SoundTypes.Of(head[..stream.ReadAtLeast(head, 12, throwOnEndOfStream: false)]);
    }

    /// <summary>What a file holds.</summary>
    public static FileReading Read(string name, string path)
    {
        var type = TypeOf(name, path);
        return new FileReading(type, WordsOf(name, path), SoundTypes.Has(type) ? SoundLength.Ms(path, type) : 0);
    }

    /// <summary>The words in a file that the search can know.</summary>
    public static string WordsOf(string name, string path) =>
        TypeOf(name, path) switch
        {
            Pdf => PdfText.Of(path),
            "text/plain" => Plain(name, path),
            _ => "",
        };

    private static string Plain(string name, string path)
    {
        try
        {
            return TextIn.Whole(new InFile(name, path)) is { Length: > PdfText.MostCharacters } text
                ? text[..PdfText.MostCharacters]
                : TextIn.Whole(new InFile(name, path));
        }
        catch (UnreadableFileException)
        {
            return "";
        }
    }

    private static bool IsPdf(string path)
    {
        Span<byte> head = stackalloc byte[5];
        using var stream = File.OpenRead(path);
        return stream.ReadAtLeast(head, 5, throwOnEndOfStream: false) == 5 && head.SequenceEqual("%PDF-"u8);
    }
}
