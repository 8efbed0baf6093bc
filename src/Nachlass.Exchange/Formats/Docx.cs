using DocumentFormat.OpenXml.Packaging;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>A text document (Office Open XML, ECMA-376): headings, paragraphs, lists, emphasis, links, tables and footnotes as
/// Markdown.</summary>
public sealed class Docx : IFormat
{
    private const long MostCharacters = 50_000_000;

    public string Key => "docx";
    public string Name => "Text document (DOCX)";
    public IReadOnlyList<DocumentsAs> Choices => [DocumentsAs.Piece, DocumentsAs.Source, DocumentsAs.Slip];

    public bool Recognises(InFile file, string start) => file.Extension is ".docx";

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        TextIn.NotLarge(file);
        try
        {
            NotABomb(file);
            using var document = WordprocessingDocument.Open(
                file.Path,
                isEditable: false,
                new OpenSettings { MaxCharactersInPart = MostCharacters, AutoSave = false }
            );
            var body = document.MainDocumentPart?.Document?.Body ?? throw new UnreadableFileException(file.Name, "there is no text in it.");
            var reading = new DocxText(document.MainDocumentPart);
            var markdown = reading.Write(body);
            var title =
                document.PackageProperties.Title is { Length: > 0 } named ? named
                : markdown.StartsWith("# ", StringComparison.Ordinal) ? Core.Text.PlainText.Of(markdown[2..].Split('\n')[0]).Trim()
                : file.Title;
            return Documents.As(
                how.Documents ?? DocumentsAs.Piece,
                title,
                markdown,
                new FoundSource(title)
                {
                    Type = SourceType.Observation,
                    Creators = document.PackageProperties.Creator ?? "",
                    Date =
                        document.PackageProperties.Created?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) ?? "",
                },
                reading.LeftOut
            );
        }
        catch (Exception error)
            when (error
                    is OpenXmlPackageException
                        or InvalidDataException
                        or System.Xml.XmlException
                        or FileFormatException
                        or FormatException
                        or ArgumentException
            )
        {
            throw new UnreadableFileException(file.Name, $"it is no readable text document ({error.Message.Split('\n')[0]})");
        }
    }

    private static void NotABomb(InFile file)
    {
        try
        {
            using var zip = System.IO.Compression.ZipFile.OpenRead(file.Path);
            if (zip.Entries.Sum(e => e.Length) > TextIn.MostBytesAtOnce * 4L)
                throw new UnreadableFileException(file.Name, "it unpacks to more than 256 MiB.");
            foreach (var part in zip.Entries.Where(e => e.Name.EndsWith(".xml", StringComparison.OrdinalIgnoreCase)))
            {
                using var stream = part.Open();
                XmlIn.NotDeep(file.Name, stream);
            }
        }
        catch (InvalidDataException)
        {
            throw new UnreadableFileException(file.Name, "it is no text document: it can't be unpacked.");
        }
    }
}
