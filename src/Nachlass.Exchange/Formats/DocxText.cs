using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>The text of a document as Markdown. What stands in content controls, fields, text boxes and cells is text like any other; what
/// was struck out or moved away is not there; what has no place is told.</summary>
internal sealed partial class DocxText(MainDocumentPart part)
{
    private readonly StringBuilder text = new();
    private readonly LeftOut left = new();

    /// <summary>Counters of the lists, by their number and level.</summary>
    private readonly Dictionary<(int List, int Level), int> counted = [];

    /// <summary>Where the words of the last item on each level begin, in spaces from the margin.</summary>
    private readonly List<int> margins = [];

    private bool endsInItem;

    /// <summary>Whether a title stands above its headings, which are one deeper then.</summary>
    private bool isTitled;

    /// <summary>What has no place, as a doubt.</summary>
    public string? LeftOut => left.Said;

    public string Write(Body body)
    {
        isTitled = body.Descendants<ParagraphStyleId>().Any(s => IsTitle(s.Val?.Value));
        Blocks(body);
        Tell<Drawing>("picture", body);
        Tell<CommentReference>("comment", body);
        Tell<DeletedRun>("deletion that was not yet accepted, which counts as made", body);
        Tell<AltChunk>("part of another document", body);
        var heads = part
            .HeaderParts.Select(h => (OpenXmlElement?)h.Header)
            .Concat(part.FooterParts.Select(f => f.Footer))
            .OfType<OpenXmlElement>();
        left.Add("what stands at the head and foot of its pages", string.Join(' ', heads.Select(h => h.InnerText)));
        return text.ToString().Trim();
    }

    private void Tell<T>(string what, OpenXmlElement body)
        where T : OpenXmlElement
    {
        // A text box is drawn too, and its words are here.
        var count = body.Descendants<T>().Count(e => e is not Drawing || !e.Descendants<TextBoxContent>().Any());
        if (count > 0)
            left.Add(count == 1 ? $"a {what}" : $"{count} times a {what}");
    }

    private void Blocks(OpenXmlElement within)
    {
        foreach (var block in within.ChildElements)
            switch (block)
            {
                case Paragraph paragraph:
                    Write(paragraph);
                    break;
                case Table table:
                    Write(table);
                    break;
                case AlternateContent either:
                    Blocks(Chosen(either));
                    break;
                case SdtProperties or SdtEndCharProperties or SectionProperties:
                    break;
                default:
                    Blocks(block);
                    break;
            }
    }

    /// <summary>One of the forms of the same (ECMA-376, part 3, 7.4).</summary>
    private static OpenXmlElement Chosen(AlternateContent either) =>
        either.GetFirstChild<AlternateContentChoice>() ?? (OpenXmlElement?)either.GetFirstChild<AlternateContentFallback>() ?? either;

    private void Write(Paragraph paragraph)
    {
        var boxes = new List<TextBoxContent>();
        var words = Words(paragraph, boxes);
        if (words.Length > 0)
            Write(paragraph.ParagraphProperties, words);
        foreach (var box in boxes)
            Blocks(box);
    }

    private void Write(ParagraphProperties? properties, string words)
    {
        var style = properties?.ParagraphStyleId?.Val?.Value ?? "";
        if (Level(style) is { } level)
            Put(new string('#', level) + " " + words.Replace("**", "", StringComparison.Ordinal).Replace('\n', ' '));
        else if (Numbering(properties, style) is { } numbering)
            Item(numbering.List, numbering.Level, WordsAsMarkdown.LineStarts(words));
        else if (style.Contains("Quote", StringComparison.OrdinalIgnoreCase))
            Put("> " + WordsAsMarkdown.LineStarts(words).Replace("\n", "\n> ", StringComparison.Ordinal));
        else
            Put(WordsAsMarkdown.LineStarts(words));
    }

    private void Put(string block)
    {
        text.Append(block).Append("\n\n");
        endsInItem = false;
        margins.Clear();
    }

    private void Item(int list, int level, string words)
    {
        // Items of one list stand together.
        if (endsInItem)
            text.Length--;
        // Below is only what stands below something.
        level = Math.Min(level, margins.Count);
        var margin = level == 0 ? 0 : margins[level - 1];
        var mark = Mark(list, level);
        text.Append(' ', margin)
            .Append(mark)
            .Append(words.Replace("\n", "\n" + new string(' ', margin + mark.Length), StringComparison.Ordinal))
            .Append("\n\n");
        margins.RemoveRange(level, margins.Count - level);
        margins.Add(margin + mark.Length);
        endsInItem = true;
    }

    private string Mark(int list, int level)
    {
        var (format, start) = Form(list, level);
        if (format == NumberFormatValues.Bullet || format == NumberFormatValues.None)
            return "- ";
        foreach (var deeper in counted.Keys.Where(k => k.List == list && k.Level > level).ToList())
            counted.Remove(deeper);
        var number = counted[(list, level)] = counted.TryGetValue((list, level), out var last) ? last + 1 : start;
        return string.Create(CultureInfo.InvariantCulture, $"{number}. ");
    }

    /// <summary>How the items of a list are numbered on a level, and from where on (ECMA-376, part 1, 17.9).</summary>
    private (NumberFormatValues Format, int Start) Form(int list, int level)
    {
        var numbering = part.NumberingDefinitionsPart?.Numbering;
        var instance = numbering?.Elements<NumberingInstance>().FirstOrDefault(n => n.NumberID?.Value == list);
        var over = instance?.Elements<LevelOverride>().FirstOrDefault(o => o.LevelIndex?.Value == level);
        var form =
            over?.Level
            ?? numbering
                ?.Elements<AbstractNum>()
                .FirstOrDefault(a => a.AbstractNumberId?.Value == instance?.AbstractNumId?.Val?.Value)
                ?.Elements<Level>()
                .FirstOrDefault(l => l.LevelIndex?.Value == level);
        var start = over?.StartOverrideNumberingValue?.Val?.Value ?? form?.StartNumberingValue?.Val?.Value ?? 1;
        return (form?.NumberingFormat?.Val?.Value ?? NumberFormatValues.Bullet, Math.Clamp(start, 0, 999_999));
    }

    /// <summary>The list a paragraph is an item of, by itself or by its style; null for none.</summary>
    private (int List, int Level)? Numbering(ParagraphProperties? properties, string style)
    {
        var said = properties?.NumberingProperties;
        for (var steps = 0; said is null && style.Length > 0 && steps < 10; steps++)
        {
            var one = Styled(style);
            said = one?.StyleParagraphProperties?.NumberingProperties;
            style = one?.BasedOn?.Val?.Value ?? "";
        }
        // The number 0 takes a paragraph out of the list of its style.
        return said is null || said.NumberingId?.Val?.Value is 0
            ? null
            : (said.NumberingId?.Val?.Value ?? 0, Math.Clamp(said.NumberingLevelReference?.Val?.Value ?? 0, 0, 8));
    }

    private Style? Styled(string id) => part.StyleDefinitionsPart?.Styles?.Elements<Style>().FirstOrDefault(s => s.StyleId?.Value == id);

    private int? Level(string style)
    {
        if (IsTitle(style))
            return 1;
        // The id of a style is free; its name says what it is in every language version.
        var name = Styled(style)?.StyleName?.Val?.Value ?? style;
        return
            name.Replace(" ", "", StringComparison.Ordinal).ToLowerInvariant()
                is ['h', 'e', 'a', 'd', 'i', 'n', 'g', >= '1' and <= '6'] heading
            ? Math.Min(6, heading[^1] - '0' + (isTitled ? 1 : 0))
            : null;
    }

    private static bool IsTitle(string? style) => "Title".Equals(style, StringComparison.OrdinalIgnoreCase);

    private string Words(OpenXmlElement inside, List<TextBoxContent> boxes)
    {
        var words = new StringBuilder();
        var fields = new Fields();
        Runs(inside, words, boxes, fields);
        // Words that stand in several runs are marked once.
        return words.ToString().Replace("****", "", StringComparison.Ordinal).Trim();
    }

    /// <summary>Where in the fields a run stands: between its beginning and its separator a field says what is to be put there, and that
    /// is no text (ECMA-376, part 1, 17.16.18).</summary>
    private sealed class Fields
    {
        /// <summary>The fields that are open, and whether each is still at what is to be put.</summary>
        private readonly Stack<bool> open = new();

        public bool IsText => !open.Contains(true);

        public void Meet(FieldChar sign)
        {
            if (sign.FieldCharType?.Value is not { } type)
                return;
            if (type == FieldCharValues.Begin)
                open.Push(true);
            else if (open.TryPop(out _) && type == FieldCharValues.Separate)
                open.Push(false);
        }
    }

    private void Runs(OpenXmlElement inside, StringBuilder words, List<TextBoxContent> boxes, Fields fields)
    {
        foreach (var child in inside.ChildElements)
            switch (child)
            {
                case Run run:
                    Write(run, words, boxes, fields);
                    break;
                case Hyperlink link:
                    var said = new StringBuilder();
                    Runs(link, said, boxes, fields);
                    Link(link, said.ToString(), words);
                    break;
                case DeletedRun or MoveFromRun or ParagraphProperties or SdtProperties:
                    break;
                case AlternateContent either:
                    Runs(Chosen(either), words, boxes, fields);
                    break;
                case DocumentFormat.OpenXml.Math.Text formula:
                    WordsAsMarkdown.Append(words, formula.Text);
                    break;
                default:
                    Runs(child, words, boxes, fields);
                    break;
            }
    }

    private void Link(Hyperlink link, string said, StringBuilder words)
    {
        var address = link.Id?.Value is { } id ? part.HyperlinkRelationships.FirstOrDefault(r => r.Id == id)?.Uri.ToString() : null;
        if (address is null || !address.StartsWith("http", StringComparison.OrdinalIgnoreCase) || said.Trim().Length == 0)
            words.Append(said);
        else if (said == address)
            words.Append(address);
        else
            words
                .Append('[')
                .Append(Bracket().Replace(said, "\\$0"))
                .Append("](")
                .Append(address.Replace("(", "%28", StringComparison.Ordinal).Replace(")", "%29", StringComparison.Ordinal))
                .Append(')');
    }

    private void Write(Run run, StringBuilder words, List<TextBoxContent> boxes, Fields fields)
    {
        var said = new StringBuilder();
        Said(run, said, boxes, fields);
        var all = said.ToString();
        var bare = all.Trim();
        if (bare.Length == 0)
            words.Append(all);
        else
        {
            var mark = (On(run.RunProperties?.Bold) ? "**" : "") + (On(run.RunProperties?.Italic) ? "*" : "");
            var start = all.IndexOf(bare, StringComparison.Ordinal);
            words.Append(all[..start]).Append(mark);
            WordsAsMarkdown.Append(words, bare);
            words.Append(new string([.. mark.Reverse()])).Append(all[(start + bare.Length)..]);
        }
        foreach (var child in run.ChildElements)
            if (child is FootnoteReference { Id.Value: var foot })
                words.Append(Note(part.FootnotesPart?.Footnotes, foot));
            else if (child is EndnoteReference { Id.Value: var end })
                words.Append(Note(part.EndnotesPart?.Endnotes, end));
    }

    private bool isInNote;

    /// <summary>A note stays a note: in brackets with its words, where Markdown has no place for it. One within a note, which could be
    /// itself, is left out.</summary>
    private string Note(OpenXmlElement? notes, long number)
    {
        if (isInNote || notes?.Elements<FootnoteEndnoteType>().FirstOrDefault(n => n.Id?.Value == number) is not { } note)
            return "";
        isInNote = true;
        var words = string.Join(' ', note.Descendants<Paragraph>().Select(p => Words(p, []))).Replace('\n', ' ').Trim();
        isInNote = false;
        return words.Length == 0 ? "" : $" ({words})";
    }

    private static void Said(OpenXmlElement run, StringBuilder said, List<TextBoxContent> boxes, Fields fields)
    {
        foreach (var child in run.ChildElements)
            switch (child)
            {
                case FieldChar sign:
                    fields.Meet(sign);
                    break;
                case Text words when fields.IsText:
                    said.Append(words.Text);
                    break;
                case TabChar or PositionalTab:
                    said.Append(' ');
                    break;
                case Break or CarriageReturn:
                    said.Append('\n');
                    break;
                case NoBreakHyphen:
                    said.Append('-');
                    break;
                case AlternateContent either:
                    Said(Chosen(either), said, boxes, fields);
                    break;
                case Ruby ruby:
                    said.Append(ruby.GetFirstChild<RubyBase>()?.InnerText);
                    break;
                case Drawing or Picture or EmbeddedObject:
                    boxes.AddRange(Own<TextBoxContent>(child));
                    break;
            }
    }

    private void Write(Table table)
    {
        var rows = Own<TableRow>(table).Select(row => Own<TableCell>(row).ToList()).Where(row => row.Count > 0).ToList();
        if (rows.Count == 0)
            return;
        // Cells that hold more than words are what stands in them, one after the other.
        if (rows.Max(row => row.Count) == 1 || rows.Any(row => row.Any(HasBlocks)))
        {
            foreach (var cell in rows.SelectMany(row => row))
                Blocks(cell);
            return;
        }
        var boxes = new List<TextBoxContent>();
        var lines = rows.Select(row => row.SelectMany(cell => Cells(cell, boxes)).ToList()).ToList();
        var width = lines.Max(row => row.Count);
        var shown = lines.Select(row => $"| {string.Join(" | ", row.Concat(Enumerable.Repeat("", width - row.Count)))} |").ToList();
        shown.Insert(1, "|" + string.Concat(Enumerable.Repeat(" --- |", width)));
        Put(string.Join('\n', shown));
        foreach (var box in boxes)
            Blocks(box);
    }

    private IEnumerable<string> Cells(TableCell cell, List<TextBoxContent> boxes)
    {
        yield return string.Join(' ', Own<Paragraph>(cell).Select(p => Words(p, boxes)))
            .Replace("|", "\\|", StringComparison.Ordinal)
            .Replace('\n', ' ')
            .Trim();
        for (var more = Math.Min(cell.TableCellProperties?.GridSpan?.Val?.Value ?? 1, WidestCell); more > 1; more--)
            yield return "";
    }

    private const int WidestCell = 100;

    private bool HasBlocks(TableCell cell) =>
        cell.Descendants<Table>().Any()
        || cell.Descendants<Paragraph>()
            .Any(p =>
                Numbering(p.ParagraphProperties, p.ParagraphProperties?.ParagraphStyleId?.Val?.Value ?? "") is not null
                || Level(p.ParagraphProperties?.ParagraphStyleId?.Val?.Value ?? "") is not null
            );

    /// <summary>Elements of a kind, through the controls and marks that may stand around them.</summary>
    private static IEnumerable<T> Own<T>(OpenXmlElement within)
        where T : OpenXmlElement => within.ChildElements.SelectMany(child => child is T one ? [one] : Own<T>(child));

    private static bool On(OnOffType? setting) => setting is not null && (setting.Val is null || setting.Val.Value);

    [GeneratedRegex(@"(?<!\\)[\[\]]")]
    private static partial Regex Bracket();
}
