using System.Text;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
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
            var markdown = new Writing(document.MainDocumentPart).Write(body);
            var title =
                document.PackageProperties.Title is { Length: > 0 } named ? named
                : markdown.StartsWith("# ", StringComparison.Ordinal) ? markdown[2..].Split('\n')[0].Trim()
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
                }
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

    private sealed class Writing(MainDocumentPart part)
    {
        private readonly StringBuilder text = new();
        private readonly List<string> notes = [];

        public string Write(Body body)
        {
            foreach (var block in body.ChildElements)
            {
                if (block is Paragraph paragraph)
                    Write(paragraph);
                else if (block is Table table)
                    Write(table);
            }
            foreach (var note in notes)
                text.Append(note).Append("\n\n");
            return text.ToString().Trim();
        }

        private void Write(Paragraph paragraph)
        {
            var words = Words(paragraph).Trim();
            if (words.Length == 0)
                return;
            var properties = paragraph.ParagraphProperties;
            var style = properties?.ParagraphStyleId?.Val?.Value ?? "";
            if (Level(style) is { } level)
                text.Append('#', level)
                    .Append(' ')
                    .Append(words.Replace("**", "", StringComparison.Ordinal).Replace('\n', ' '))
                    .Append("\n\n");
            else if (properties?.NumberingProperties is { } numbering)
            {
                var depth = numbering.NumberingLevelReference?.Val?.Value ?? 0;
                if (text.Length > 1 && !text.ToString(text.Length - 2, 2).EndsWith("\n\n", StringComparison.Ordinal))
                    text.Append('\n');
                // Items of one list stand together.
                if (EndsInItem)
                    text.Length--;
                text.Append(' ', depth * 2).Append("- ").Append(words).Append("\n\n");
                EndsInItem = true;
                return;
            }
            else if (style.Contains("Quote", StringComparison.OrdinalIgnoreCase))
                text.Append("> ").Append(words.Replace("\n", "\n> ", StringComparison.Ordinal)).Append("\n\n");
            else
                text.Append(words).Append("\n\n");
            EndsInItem = false;
        }

        private bool EndsInItem { get; set; }

        private int? Level(string style)
        {
            if (style.Equals("Title", StringComparison.OrdinalIgnoreCase))
                return 1;
            // The id of a style is free; its name says what it is in every language version.
            var name =
                part.StyleDefinitionsPart?.Styles?.Elements<Style>().FirstOrDefault(s => s.StyleId?.Value == style)?.StyleName?.Val?.Value
                ?? style;
            return
                name.Replace(" ", "", StringComparison.Ordinal).ToLowerInvariant()
                    is ['h', 'e', 'a', 'd', 'i', 'n', 'g', >= '1' and <= '6'] heading
                ? heading[^1] - '0'
                : null;
        }

        private string Words(DocumentFormat.OpenXml.OpenXmlElement inside)
        {
            var words = new StringBuilder();
            foreach (var child in inside.ChildElements)
            {
                switch (child)
                {
                    case Run run:
                        Write(run, words);
                        break;
                    case Hyperlink link:
                        var said = Words(link);
                        var address = link.Id?.Value is { } id
                            ? part.HyperlinkRelationships.FirstOrDefault(r => r.Id == id)?.Uri.ToString()
                            : null;
                        words.Append(
                            address is not null && address.StartsWith("http", StringComparison.OrdinalIgnoreCase) && said.Length > 0
                                ? $"[{said}]({address})"
                                : said
                        );
                        break;
                    case InsertedRun or SdtRun or SdtContentRun:
                        words.Append(Words(child));
                        break;
                }
            }
            return words.ToString().Replace("****", "", StringComparison.Ordinal);
        }

        private void Write(Run run, StringBuilder words)
        {
            var said = new StringBuilder();
            foreach (var child in run.ChildElements)
            {
                if (child is Text t)
                    said.Append(t.Text);
                else if (child is TabChar)
                    said.Append(' ');
                else if (child is Break or CarriageReturn)
                    said.Append('\n');
                else if (child is NoBreakHyphen)
                    said.Append('-');
                else if (child is FootnoteReference { Id.Value: var number })
                    said.Append(Note(number));
            }
            var text = said.ToString();
            if (text.Trim().Length == 0)
            {
                words.Append(text);
                return;
            }
            var mark = (On(run.RunProperties?.Bold) ? "**" : "") + (On(run.RunProperties?.Italic) ? "*" : "");
            var (before, after) = (text[..(text.Length - text.TrimStart().Length)], text[text.TrimEnd().Length..]);
            words.Append(before).Append(mark).Append(text.Trim()).Append(new string([.. mark.Reverse()])).Append(after);
        }

        private static bool On(OnOffType? setting) => setting is not null && (setting.Val is null || setting.Val.Value);

        /// <summary>A footnote stays a note: in brackets with its words, where Markdown has no place for it.</summary>
        private string Note(long number)
        {
            var note = part.FootnotesPart?.Footnotes?.Elements<Footnote>().FirstOrDefault(f => f.Id?.Value == number);
            var words = note is null ? "" : string.Join(' ', note.Elements<Paragraph>().Select(Words)).Trim();
            return words.Length == 0 ? "" : $" ({words})";
        }

        private void Write(Table table)
        {
            var rows = table
                .Elements<TableRow>()
                .Select(row =>
                    row.Elements<TableCell>()
                        .Select(cell =>
                            string.Join(' ', cell.Elements<Paragraph>().Select(Words))
                                .Replace("|", "\\|", StringComparison.Ordinal)
                                .Replace('\n', ' ')
                                .Trim()
                        )
                        .ToList()
                )
                .Where(r => r.Count > 0)
                .ToList();
            if (rows.Count == 0)
                return;
            var width = rows.Max(r => r.Count);
            for (var i = 0; i < rows.Count; i++)
            {
                text.Append("| ").Append(string.Join(" | ", rows[i].Concat(Enumerable.Repeat("", width - rows[i].Count)))).Append(" |\n");
                if (i == 0)
                    text.Append('|').Append(string.Concat(Enumerable.Repeat(" --- |", width))).Append('\n');
            }
            text.Append('\n');
            EndsInItem = false;
        }
    }
}
