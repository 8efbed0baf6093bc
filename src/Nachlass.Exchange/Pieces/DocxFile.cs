using AngleSharp.Dom;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using A = DocumentFormat.OpenXml.Drawing;
using Dw = DocumentFormat.OpenXml.Drawing.Wordprocessing;
using Pic = DocumentFormat.OpenXml.Drawing.Pictures;

namespace Nachlass.Exchange.Pieces;

/// <summary>A finished piece as an Office Open XML document (ECMA-376): title, headings, quotations, lists, tables as styles.</summary>
public sealed class DocxFile
{
    private const string Title = "Title",
        Heading = "Heading",
        Quote = "Quote",
        Item = "ListParagraph",
        Caption = "Caption",
        Link = "Hyperlink",
        NoteText = "FootnoteText",
        NoteMark = "FootnoteReference";

    /// <summary>English metric units in a pixel of 96 to the inch, and across the text.</summary>
    private const long Pixel = 9_525,
        Across = 5_400_000;

    /// <summary>Twentieths of a point across a table.</summary>
    private const int TableWidth = 8_500;

    private readonly MainDocumentPart main;
    private readonly Func<string, Picture?> picture;
    private uint pictures;
    private int lists = 1;

    /// <summary>Notes by their names in the tree.</summary>
    private readonly Dictionary<string, int> notes = [];

    private DocxFile(MainDocumentPart main, Func<string, Picture?> picture) => (this.main, this.picture) = (main, picture);

    /// <param name="title">The piece's title, for the document's properties.</param>
    /// <param name="markdown">The finished text.</param>
    /// <param name="language">Of the text, as a BCP 47 tag.</param>
    /// <param name="picture">Finds a picture by the address it has in the text.</param>
    public static byte[] Write(string title, string markdown, string language, Func<string, Picture?> picture)
    {
        using var file = new MemoryStream();
        using (var document = WordprocessingDocument.Create(file, WordprocessingDocumentType.Document))
        {
            document.PackageProperties.Title = title;
            document.PackageProperties.Language = language;
            var main = document.AddMainDocumentPart();
            main.AddNewPart<StyleDefinitionsPart>().Styles = Styles(language);
            main.AddNewPart<NumberingDefinitionsPart>().Numbering = new Numbering(
                Levels(0, NumberFormatValues.Bullet),
                Levels(1, NumberFormatValues.Decimal),
                new NumberingInstance(new AbstractNumId { Val = 0 }) { NumberID = 1 }
            );
            var writer = new DocxFile(main, picture);
            var body = new Body();
            var page = FinishedPage.Of(markdown, picture);
            writer.AddNotes(page);
            foreach (var block in page.Children)
                body.Append(writer.Blocks(block, null, 0));
            body.Append(
                new SectionProperties(
                    new PageMargin
                    {
                        Top = 1440,
                        Right = 1440,
                        Bottom = 1440,
                        Left = 1440,
                    }
                )
            );
            main.Document = new DocumentFormat.OpenXml.Wordprocessing.Document(body);
        }
        return file.ToArray();
    }

    /// <summary>The notes at the end of the tree are notes of the document, at the foot of their pages. Numbers 0 and 1 are the
    /// separators, which the format wants.</summary>
    private void AddNotes(IElement page)
    {
        var items = page.QuerySelectorAll("div.footnotes > ol > li").ToList();
        if (items.Count == 0)
            return;
        foreach (var item in items)
            notes[item.Id ?? ""] = notes.Count + 2;
        var part = main.AddNewPart<FootnotesPart>();
        part.Footnotes = new Footnotes(
            new Footnote(new Paragraph(new Run(new SeparatorMark()))) { Type = FootnoteEndnoteValues.Separator, Id = 0 },
            new Footnote(new Paragraph(new Run(new ContinuationSeparatorMark())))
            {
                Type = FootnoteEndnoteValues.ContinuationSeparator,
                Id = 1,
            }
        );
        foreach (var item in items)
        {
            var blocks =
                item.Children.Length > 0 ? item.Children.SelectMany(c => Blocks(c, NoteText, 0)).ToList() : [Paragraph(item, NoteText)];
            if (blocks.OfType<Paragraph>().FirstOrDefault() is { } first)
                first.InsertAfter(
                    new Run(new RunProperties(new RunStyle { Val = NoteMark }), new FootnoteReferenceMark(), Text(" ")),
                    first.ParagraphProperties
                );
            part.Footnotes.Append(new Footnote(blocks) { Id = notes[item.Id ?? ""] });
        }
    }

    private static Run Referring(int note) => new(new RunProperties(new RunStyle { Val = NoteMark }), new FootnoteReference { Id = note });

    /// <summary>The paragraphs and tables of a block.</summary>
    /// <param name="style">Of the paragraphs in it; null for plain ones.</param>
    /// <param name="depth">How many lists it stands in.</param>
    private IEnumerable<OpenXmlElement> Blocks(IElement block, string? style, int depth)
    {
        switch (block.LocalName)
        {
            case "h1":
                return [Paragraph(block, Title)];
            case "h2" or "h3" or "h4" or "h5" or "h6":
                return [Paragraph(block, Heading + (block.LocalName[1] - '1'))];
            case "blockquote":
                return Inside(block, Quote, depth);
            case "ul":
                return Items(block, 1, depth);
            case "ol":
                return Items(block, NewList(), depth);
            case "table":
                return [Table(block)];
            case "hr":
                return [Ruled()];
            case "figure":
                return
                [
                    Paragraph(block.QuerySelector("img")!, null, alone: true),
                    .. block.QuerySelectorAll("figcaption").Select(c => Paragraph(c, Caption)),
                ];
            case "div" when block.ClassList.Contains("footnotes"):
                return [];
            case "pre":
                return block.TextContent.TrimEnd('\n').Split('\n').Select(line => new Paragraph(Properties(style), new Run(Text(line))));
            default:
                return block.Children.Any(c => c.LocalName is "p" or "ul" or "ol" or "blockquote" or "table")
                    ? Inside(block, style, depth)
                    : [Paragraph(block, style)];
        }
    }

    private IEnumerable<OpenXmlElement> Inside(IElement block, string? style, int depth) =>
        block.Children.SelectMany(child => Blocks(child, style, depth));

    /// <summary>Each item is a paragraph with its sign; what else stands in it follows without one.</summary>
    private List<OpenXmlElement> Items(IElement list, int number, int depth)
    {
        var paragraphs = new List<OpenXmlElement>();
        foreach (var item in list.Children)
        {
            var properties = new NumberingProperties(
                new NumberingLevelReference { Val = Math.Min(depth, 8) },
                new NumberingId { Val = number }
            );
            var words = item.ChildNodes.TakeWhile(n => n is not IElement { LocalName: "ul" or "ol" or "blockquote" or "table" }).ToList();
            var first = new Paragraph(new ParagraphProperties(new ParagraphStyleId { Val = Item }, properties));
            first.Append(words.SelectMany(w => Runs(w, new RunProperties())));
            paragraphs.Add(first);
            paragraphs.AddRange(item.Children.Where(c => !words.Contains(c)).SelectMany(c => Blocks(c, Item, depth + 1)));
        }
        return paragraphs;
    }

    private int NewList()
    {
        var number = ++lists;
        // Each list of numbers begins with one.
        main.NumberingDefinitionsPart!.Numbering!.Append(
            new NumberingInstance(
                new AbstractNumId { Val = 1 },
                new LevelOverride(new StartOverrideNumberingValue { Val = 1 }) { LevelIndex = 0 }
            )
            {
                NumberID = number,
            }
        );
        return number;
    }

    /// <param name="alone">Whether the block itself is the only thing in the paragraph.</param>
    private Paragraph Paragraph(IElement block, string? style, bool alone = false)
    {
        var paragraph = new Paragraph(Properties(style));
        paragraph.Append((alone ? [block] : block.ChildNodes.AsEnumerable()).SelectMany(n => Runs(n, new RunProperties())));
        return paragraph;
    }

    private static ParagraphProperties Properties(string? style) =>
        style is null ? new ParagraphProperties() : new ParagraphProperties(new ParagraphStyleId { Val = style });

    private static Paragraph Ruled() =>
        new(
            new ParagraphProperties(
                new ParagraphBorders(
                    new BottomBorder
                    {
                        Val = BorderValues.Single,
                        Size = 4,
                        Space = 1,
                    }
                )
            )
        );

    private Table Table(IElement table)
    {
        var rows = table.QuerySelectorAll("tr").ToList();
        var columns = Math.Max(1, rows.Max(row => row.Children.Length));
        var width = $"{TableWidth / columns}";
        var written = new Table(
            new TableProperties(
                new TableWidth { Width = $"{TableWidth}", Type = TableWidthUnitValues.Dxa },
                new TableBorders(
                    new BottomBorder { Val = BorderValues.Single, Size = 4 },
                    new InsideHorizontalBorder { Val = BorderValues.Single, Size = 2 }
                ),
                new TableLook { Val = "0020" }
            ),
            new TableGrid(Enumerable.Range(0, columns).Select(_ => new GridColumn { Width = width }))
        );
        foreach (var row in rows)
        {
            var isHead = row.Children.Any(c => c.LocalName == "th");
            var set = isHead ? new RunProperties(new Bold()) : new RunProperties();
            var cells = row.Children.Select(cell => new TableCell(
                new TableCellProperties(new TableCellWidth { Width = width, Type = TableWidthUnitValues.Dxa }),
                new Paragraph(cell.ChildNodes.SelectMany(n => Runs(n, set)))
            ));
            written.Append(isHead ? new TableRow([new TableRowProperties(new TableHeader()), .. cells]) : new TableRow(cells));
        }
        return written;
    }

    /// <summary>The words of a node, set as what they stand in says.</summary>
    private IEnumerable<OpenXmlElement> Runs(INode node, RunProperties set)
    {
        if (node is IText words)
            return [new Run((RunProperties)set.CloneNode(true), Text(words.Data.Replace('\n', ' ')))];
        if (node is not IElement element)
            return [];
        switch (element.LocalName)
        {
            case "br":
                return [new Run(new Break())];
            case "img":
                return Drawing(element);
            case "a" when element.ClassList.Contains("footnote-ref"):
                return notes.TryGetValue(element.GetAttribute("href")!.TrimStart('#'), out var number) ? [Referring(number)] : [];
            case "a" when element.ClassList.Contains("footnote-back-ref"):
                return [];
            case "a" when Uri.TryCreate(element.GetAttribute("href"), UriKind.Absolute, out var address):
                var to = main.AddHyperlinkRelationship(address, true).Id;
                var link = new Hyperlink { Id = to };
                link.Append(Within(element, With(set, new RunStyle { Val = Link })));
                return [link];
            case "strong" or "b":
                return Within(element, With(set, new Bold()));
            case "em" or "i":
                return Within(element, With(set, new Italic()));
            case "del" or "s":
                return Within(element, With(set, new Strike()));
            case "code":
                return Within(element, With(set, new RunFonts { Ascii = "Courier New", HighAnsi = "Courier New" }));
            default:
                return Within(element, set);
        }
    }

    private IEnumerable<OpenXmlElement> Within(IElement element, RunProperties set) => element.ChildNodes.SelectMany(n => Runs(n, set));

    /// <summary>The schema wants what a run is set as in its own order.</summary>
    private static RunProperties With(RunProperties set, OpenXmlElement one)
    {
        var all = set.ChildElements.Select(e => e.CloneNode(true)).Where(e => e.GetType() != one.GetType()).Append(one);
        Type[] order = [typeof(RunStyle), typeof(RunFonts), typeof(Bold), typeof(Italic), typeof(Strike)];
        return new RunProperties(all.OrderBy(e => Array.IndexOf(order, e.GetType())));
    }

    private static Text Text(string words) => new(words) { Space = SpaceProcessingModeValues.Preserve };

    private IEnumerable<OpenXmlElement> Drawing(IElement image)
    {
        var found = picture(image.GetAttribute("src")!)!;
        var said = image.GetAttribute("alt") ?? "";
        PartTypeInfo? type = found.Type switch
        {
            "image/png" => ImagePartType.Png,
            "image/jpeg" => ImagePartType.Jpeg,
            "image/gif" => ImagePartType.Gif,
            _ => null,
        };
        if (type is not { } known)
            return said.Length == 0 ? [] : [new Run(Text($"[{said}]"))];
        var part = main.AddImagePart(known);
        part.FeedData(new MemoryStream(found.Content));
        var (width, height) = PictureSize.Of(found.Content) ?? (600, 400);
        var (x, y) = (Math.Max(1, width) * Pixel, Math.Max(1, height) * Pixel);
        if (x > Across)
            (x, y) = (Across, Math.Max(Pixel, y * Across / x));
        var number = ++pictures;
        var name = $"Picture {number}";
        return
        [
            new Run(
                new Drawing(
                    new Dw.Inline(
                        new Dw.Extent { Cx = x, Cy = y },
                        new Dw.DocProperties
                        {
                            Id = number,
                            Name = name,
                            Description = said,
                        },
                        new A.Graphic(
                            new A.GraphicData(
                                new Pic.Picture(
                                    new Pic.NonVisualPictureProperties(
                                        new Pic.NonVisualDrawingProperties
                                        {
                                            Id = number,
                                            Name = name,
                                            Description = said,
                                        },
                                        new Pic.NonVisualPictureDrawingProperties()
                                    ),
                                    new Pic.BlipFill(new A.Blip { Embed = main.GetIdOfPart(part) }, new A.Stretch(new A.FillRectangle())),
                                    new Pic.ShapeProperties(
                                        new A.Transform2D(new A.Offset { X = 0, Y = 0 }, new A.Extents { Cx = x, Cy = y }),
                                        new A.PresetGeometry(new A.AdjustValueList()) { Preset = A.ShapeTypeValues.Rectangle }
                                    )
                                )
                            )
                            {
                                Uri = "http://schemas.openxmlformats.org/drawingml/2006/picture",
                            }
                        )
                    )
                )
            ),
        ];
    }

    private static AbstractNum Levels(int number, NumberFormatValues format) =>
        new(
            Enumerable
                .Range(0, 9)
                .Select(level => new Level(
                    new StartNumberingValue { Val = 1 },
                    new NumberingFormat { Val = format },
                    new LevelText { Val = format == NumberFormatValues.Bullet ? "•" : $"%{level + 1}." },
                    new LevelJustification { Val = LevelJustificationValues.Left },
                    new PreviousParagraphProperties(new Indentation { Left = $"{(level + 1) * 425}", Hanging = "425" })
                )
                {
                    LevelIndex = level,
                })
        )
        {
            AbstractNumberId = number,
        };

    private static Styles Styles(string language)
    {
        var styles = new Styles(
            new DocDefaults(
                new RunPropertiesDefault(
                    new RunPropertiesBaseStyle(
                        new RunFonts { Ascii = "Georgia", HighAnsi = "Georgia" },
                        new FontSize { Val = "23" },
                        new Languages { Val = language }
                    )
                ),
                new ParagraphPropertiesDefault(
                    new ParagraphPropertiesBaseStyle(
                        new WidowControl(),
                        new SpacingBetweenLines
                        {
                            After = "160",
                            Line = "320",
                            LineRule = LineSpacingRuleValues.Auto,
                        }
                    )
                )
            )
        );
        styles.Append(Style("Normal", "Normal", null, null, null, isDefault: true));
        styles.Append(Style(Title, "Title", "40", new Bold(), null));
        for (var depth = 1; depth <= 5; depth++)
            styles.Append(
                Style(
                    Heading + depth,
                    $"heading {depth}",
                    $"{34 - 3 * depth}",
                    new Bold(),
                    [new KeepNext(), new SpacingBetweenLines { Before = "320", After = "120" }, new OutlineLevel { Val = depth - 1 }]
                )
            );
        styles.Append(Style(Quote, "Quote", null, new Italic(), [new Indentation { Left = "567", Right = "567" }]));
        styles.Append(Style(Item, "List Paragraph", null, null, null));
        styles.Append(Style(Caption, "caption", "18", null, null));
        styles.Append(Style(NoteText, "footnote text", "18", null, null));
        styles.Append(
            new Style(
                new StyleName { Val = "footnote reference" },
                new StyleRunProperties(new VerticalTextAlignment { Val = VerticalPositionValues.Superscript })
            )
            {
                Type = StyleValues.Character,
                StyleId = NoteMark,
            }
        );
        styles.Append(
            new Style(
                new StyleName { Val = "Hyperlink" },
                new StyleRunProperties(new Color { Val = "2450B8" }, new Underline { Val = UnderlineValues.Single })
            )
            {
                Type = StyleValues.Character,
                StyleId = Link,
            }
        );
        return styles;
    }

    private static Style Style(
        string id,
        string name,
        string? size,
        OpenXmlElement? look,
        IEnumerable<OpenXmlElement>? paragraph,
        bool isDefault = false
    )
    {
        var style = new Style(new StyleName { Val = name })
        {
            Type = StyleValues.Paragraph,
            StyleId = id,
            Default = isDefault,
        };
        if (!isDefault)
            style.Append(new BasedOn { Val = "Normal" });
        style.Append(new PrimaryStyle());
        if (paragraph is not null)
            style.Append(new StyleParagraphProperties(paragraph));
        var run = new StyleRunProperties();
        if (look is not null)
            run.Append(look);
        if (size is not null)
            run.Append(new FontSize { Val = size });
        if (run.HasChildren)
            style.Append(run);
        return style;
    }
}
