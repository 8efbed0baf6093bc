using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>All formats that come in, the surest to recognise first.</summary>
public static class FormatsIn
{
    public static readonly IReadOnlyList<IFormat> All =
    [
        new Pdf(),
        new Pictures(),
        new Docx(),
        new Mbox(),
        new Mail(),
        new Calendar(),
        new WebVtt(),
        new SubRip(),
        new Bookmarks(),
        new Opml(),
        new Feed(),
        new JsonFeed(),
        new BibTex(),
        new Ris(),
        new CslJson(),
        new JsonTable(),
        new HtmlDocument(),
        new CsvTable(),
        new TimedText(),
        new MarkdownFile(),
        new PlainList(),
    ];

    /// <summary>The format with this key.</summary>
    public static IFormat? Find(string key) => All.FirstOrDefault(format => format.Key == key);

    /// <summary>What a file is; null when nothing reads it.</summary>
    public static IFormat? Recognise(InFile file)
    {
        string start;
        try
        {
            start = TextIn.Start(file);
        }
        catch (UnreadableFileException)
        {
            // What looks like no text, or like a broken one, is for the formats that go by the name; they will say what is wrong.
            start = "";
        }
        return All.FirstOrDefault(format => format.Recognises(file, start));
    }
}
