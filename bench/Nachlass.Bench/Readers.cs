using System.Diagnostics;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Fonts.Standard14Fonts;
using UglyToad.PdfPig.Writer;

namespace Nachlass.Bench;

/// <summary>What one reading of a file took.</summary>
/// <param name="Bytes">The size of the file.</param>
/// <param name="Seconds">Seconds to read it.</param>
/// <param name="Plain">Seconds to read the same file as lines of text and count its words.</param>
/// <param name="Things">Things found in it.</param>
/// <param name="Megabytes">The most memory the process held, less what it held before it began.</param>
internal sealed record ReadOnce(long Bytes, double Seconds, double Plain, int Things, long Megabytes);

/// <summary>How fast each reader reads, what memory it takes, and how both grow with the file. Each file is read in a process of its own,
/// as the program does it.</summary>
internal static class Readers
{
    public const string Command = "readers";

    private const int Small = 1 << 20;
    private const int Times = 4;

    /// <summary>The table for docs/performance.md.</summary>
    public static string Measure()
    {
        var table = new StringBuilder();
        table
            .AppendLine()
            .AppendLine("## Readers")
            .AppendLine()
            .AppendLine(
                "Files of 4 MiB made of many small things (a picture and a document of one large one), each read in a process of its own; "
                    + "beside it the same file read as lines"
            )
            .AppendLine("whose words are counted. Memory is what reading added at most. Growth is from 1 MiB to 4.")
            .AppendLine()
            .AppendLine("| format | things | time | as plain lines | ratio | memory | growth of time |")
            .AppendLine("| --- | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var format in FormatsIn.All)
        {
            var (small, large) = (Child(format.Key, Small), Child(format.Key, Small * Times));
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {format.Name} | {large.Things:N0} | {large.Seconds * 1_000:0} ms | {large.Plain * 1_000:0} ms | "
                    + $"×{large.Seconds / large.Plain:0.0} | {large.Megabytes} MB | ×{large.Seconds / small.Seconds:0.0} |"
            );
        }
        table
            .AppendLine()
            .AppendLine("## What is read of a text")
            .AppendLine()
            .AppendLine(
                "A text of 250 kB and one four times as long; the worst is the same made of what is hardest to read, such as brackets that "
                    + "are never closed. The reference counts the words between spaces."
            )
            .AppendLine()
            .AppendLine("| what | time | reference | ratio | growth | the worst | its growth |")
            .AppendLine("| --- | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var (what, read) in OfText)
        {
            var (plain, small, large) = (
                Median(LongText, Words),
                Median(LongText[..(LongText.Length / Times)], read),
                Median(LongText, read)
            );
            var worst = Hard.Select(half => (Small: Median(half(1), read), Large: Median(half(Times), read))).MaxBy(t => t.Large);
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {what} | {large:0.0} ms | {plain:0.0} ms | ×{large / plain:0.0} | ×{large / small:0.0} | {worst.Large:0.0} ms | "
                    + $"×{worst.Large / Math.Max(0.05, worst.Small):0.0} |"
            );
        }
        return table.ToString();
    }

    private static ReadOnce Child(string key, int bytes)
    {
        using var process = Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, [Command, key, bytes.ToString(CultureInfo.InvariantCulture)])
            {
                RedirectStandardOutput = true,
            }
        )!;
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return JsonSerializer.Deserialize<ReadOnce>(said.Trim().Split('\n')[^1])
            ?? throw new InvalidOperationException($"{key} was not read.");
    }

    /// <summary>Runs in the child.</summary>
    public static void Run(string key, int bytes)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            var format = FormatsIn.Find(key)!;
            var (tiny, file) = (Put(folder, key, 2_000), Put(folder, key, bytes));
            // The first reading compiles what the next one runs.
            for (var i = 0; i < 3; i++)
                _ = format.Read(tiny, new ReadAs(new DateOnly(2026, 11, 24))).Count();
            GC.Collect();
            Process.GetCurrentProcess().Refresh();
            var before = Process.GetCurrentProcess().WorkingSet64;
            var start = Stopwatch.GetTimestamp();
            var things = format.Read(file, new ReadAs(new DateOnly(2026, 11, 24))).Count();
            var seconds = Stopwatch.GetElapsedTime(start).TotalSeconds;
            Process.GetCurrentProcess().Refresh();
            var most = Process.GetCurrentProcess().PeakWorkingSet64;
            start = Stopwatch.GetTimestamp();
            _ = File.ReadLines(file.Path, Encoding.Latin1).Sum(Words);
            var plain = Stopwatch.GetElapsedTime(start).TotalSeconds;
            Console.WriteLine(
                JsonSerializer.Serialize(
                    new ReadOnce(new FileInfo(file.Path).Length, seconds, plain, things, Math.Max(0, most - before) >> 20)
                )
            );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static InFile Put(string folder, string key, int bytes)
    {
        var (name, head, one, foot) = Made(key);
        var path = Path.Combine(folder, $"{bytes}-{name}");
        using (var file = File.Create(path))
        {
            if (key == "docx")
                Document(file, bytes, one);
            else if (key == "pdf")
                Pages(file, bytes, one);
            else
            {
                file.Write(Encoding.UTF8.GetBytes(head));
                for (var i = 1; file.Position < bytes; i++)
                    file.Write(Encoding.UTF8.GetBytes(one(i)));
                file.Write(Encoding.UTF8.GetBytes(foot));
            }
        }
        return new InFile(name, path);
    }

    private static readonly Zipf Vocabulary = new(20_000, new Random(4));
    private static readonly string[] Texts = [.. Enumerable.Range(0, 500).Select(_ => Vocabulary.Text())];

    private static string Text(int i) => Texts[i % Texts.Length] + " " + i;

    /// <summary>A file of each format: its name, how it begins, the thing it is made of many times, and how it ends.</summary>
    private static (string Name, string Head, Func<int, string> One, string Foot) Made(string key) =>
        key switch
        {
            "list" => ("a.txt", "", i => $"- {Text(i)} #topic-{i % 40}\n", ""),
            "markdown" => ("a.md", "---\ntitle: A\ntags: [b]\n---\n\n", i => $"{Text(i)} [[P {i % 9}]]\n\n", ""),
            "csv" => ("a.csv", "text,topics,source\n", i => $"\"{Text(i)}\",\"a; b{i % 40}\",S{i % 99}\n", ""),
            "json" => ("a.json", "[{}", i => $",{{\"text\":\"{Text(i)}\",\"tags\":[\"a\",\"b\"]}}\n", "]"),
            "opml" => (
                "a.opml",
                "<opml version='2.0'><body>",
                i => $"<outline text='b{i}'><outline text='{Text(i)}'/></outline>",
                "</body></opml>"
            ),
            "bookmarks" => (
                "a.html",
                "<!DOCTYPE NETSCAPE-Bookmark-file-1><DL><p>",
                i => $"<DT><A HREF=\"https://x.example/{i}\" ADD_DATE=\"1748073600\">{Text(i)}</A>\n",
                "</DL>"
            ),
            "feed" => (
                "a.rss",
                "<rss version='2.0'><channel><title>N</title>",
                i =>
                    $"<item><title>{i}</title><link>https://x.example/{i}</link>"
                    + $"<description>&lt;p&gt;{Text(i)}&lt;/p&gt;</description></item>",
                "</channel></rss>"
            ),
            "bibtex" => (
                "a.bib",
                "",
                i => $"@book{{k{i}, title = {{{Text(i)}}}, author = {{Brandt, H. and Lunt, K.}}, year = 1998}}\n",
                ""
            ),
            "ris" => ("a.ris", "", i => $"TY  - BOOK\nTI  - {Text(i)}\nAU  - Brandt, H.\nPY  - 1998\nER  - \n\n", ""),
            "csljson" => (
                "a.csl.json",
                "[{\"type\":\"book\",\"title\":\"A\"}",
                i => $",{{\"type\":\"book\",\"title\":\"{Text(i)}\"}}\n",
                "]"
            ),
            "vtt" => ("a.vtt", "WEBVTT\n", i => $"\n{Clock(i, '.')} --> {Clock(i + 1, '.')}\n<v Pell>{Text(i)}\n", ""),
            "srt" => ("a.srt", "", i => $"{i}\n{Clock(i, ',')} --> {Clock(i + 1, ',')}\n{Text(i)}\n\n", ""),
            "timed" => ("a.txt", "", i => $"[{i / 60}:{i % 60:00}] {Text(i)}\n", ""),
            "eml" => ("a.eml", "From: A <a@b.example>\nSubject: x\nDate: Mon, 16 Nov 2026 09:12:00 +0000\n\n", i => Text(i) + "\n", ""),
            "mbox" => (
                "a.mbox",
                "",
                i =>
                    "From a Mon Nov 16 09:12:00 2026\nFrom: A <a@b.example>\nSubject: "
                    + $"{i}\nDate: Mon, 16 Nov 2026 09:12:00 +0000\n\n{Text(i)}\n\n",
                ""
            ),
            "ics" => (
                "a.ics",
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n",
                i => $"BEGIN:VTODO\r\nSUMMARY:{Text(i)}\r\nDUE;VALUE=DATE:20261206\r\nEND:VTODO\r\n",
                "END:VCALENDAR\r\n"
            ),
            "docx" => ("a.docx", "", i => $"<w:p><w:r><w:t>{Text(i)}</w:t></w:r></w:p>", ""),
            "html" => (
                "a.html",
                "<!doctype html><html><body>",
                i => $"<p>{Text(i)} <b>so</b> <a href='https://x.example/{i}'>it</a></p>",
                "</body></html>"
            ),
            "pdf" => ("a.pdf", "", Text, ""),
            "picture" => ("a.png", "\u0089PNG\r\n\u001a\n", i => Text(i), ""),
            _ => throw new InvalidOperationException($"The bench has no file of the format {key}."),
        };

    private static string Clock(int seconds, char point) =>
        string.Create(CultureInfo.InvariantCulture, $"{seconds / 3600:00}:{seconds / 60 % 60:00}:{seconds % 60:00}{point}000");

    private static void Pages(Stream into, int bytes, Func<int, string> line)
    {
        var pdf = new PdfDocumentBuilder();
        var font = pdf.AddStandard14Font(Standard14Font.Helvetica);
        var written = 0;
        for (var i = 1; written < bytes / 2; )
        {
            var page = pdf.AddPage(PageSize.A4);
            for (var y = 800; y > 40; y -= 14, i++, written += 120)
                page.AddText(line(i)[..Math.Min(90, line(i).Length)], 9, new(30, y), font);
        }
        into.Write(pdf.Build());
    }

    private static void Document(Stream into, int bytes, Func<int, string> paragraph)
    {
        const string package = "http://schemas.openxmlformats.org/package/2006/";
        const string office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument";
        const string main = "application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml";
        using var zip = new ZipArchive(into, ZipArchiveMode.Create, true);
        Entry(
            "[Content_Types].xml",
            $"<Types xmlns='{package}content-types'><Default Extension='rels' ContentType='application/vnd.openxmlformats-package."
                + $"relationships+xml'/><Override PartName='/d.xml' ContentType='{main}'/></Types>"
        );
        Entry(
            "_rels/.rels",
            $"<Relationships xmlns='{package}relationships'><Relationship Id='r' Type='{office}' Target='d.xml'/></Relationships>"
        );
        var body = new StringBuilder("<w:document xmlns:w='http://schemas.openxmlformats.org/wordprocessingml/2006/main'><w:body>");
        for (var i = 1; body.Length < bytes; i++)
            body.Append(paragraph(i));
        Entry("d.xml", body.Append("</w:body></w:document>").ToString());

        void Entry(string name, string content)
        {
            using var stream = zip.CreateEntry(name, CompressionLevel.NoCompression).Open();
            stream.Write(Encoding.UTF8.GetBytes(content));
        }
    }

    // Of a text

    private static readonly string LongText = string.Concat(
        Enumerable
            .Range(1, 100_000)
            .Select(i => (i % 25 == 0 ? $"## Section {i}\n\n" : "") + Text(i) + (i % 7 == 0 ? " [[P 3]]" : "") + ".\n\n")
    )[..1_000_000];

    /// <summary>Texts that are hard to read, in one and in more times their length.</summary>
    private static readonly Func<int, string>[] Hard =
    [
        n => Repeated("[[", n),
        n => Repeated("[[P 3]] ", n),
        n => Repeated("“", n),
        n => Repeated("# a\n", n),
        n => Repeated("a ", n),
        n => Repeated("#a", n),
        n => Repeated(" \n", n),
        n => Repeated("p. 1, ", n),
        n => Repeated("1:02 ", n),
        n => Repeated("*_`", n),
        n => Repeated("- [ ] ", n),
        n => Repeated("<a ", n),
        n => Repeated("(", n),
        n => Repeated("\\", n),
    ];

    private static string Repeated(string what, int times) => string.Concat(Enumerable.Repeat(what, 60_000 * times / what.Length));

    private static readonly (string What, Func<string, int> Read)[] OfText =
    [
        ("sections of a draft", text => DraftText.Split(text).Parts.Count),
        ("words of a draft, section by section", text => DraftText.Counted(text).Words),
        (
            "links by name or number, each with its sentence",
            text => References.In(text).Sum(r => References.LineAround(text, r.Start, r.Length).Length)
        ),
        ("plain words", text => PlainText.Of(text).Length),
        ("what a text is called", text => PlainText.Headline(text).Length),
        ("paragraphs", text => Paragraphs.Of(text).Count()),
        ("sentences", text => Paragraphs.Raw(text).Sum(p => Paragraphs.Sentences(p).Count)),
        ("names that are mentioned", text => Mentions.In(text, ["ferry", "low water"]).Count),
        ("moves", text => MovesInText.In(text).Count),
        ("ideas of a sheet", text => SheetIdeas.In(text).Count),
        ("a caught line", text => CaptureLine.Read(text, new DateOnly(2026, 11, 24)).Text.Length),
        ("pasted lines", text => CaptureLine.Lines(text).Count),
        ("a passage with its place", text => PassageLine.Read(text).Text.Length),
        ("a place in a source", text => Locator.Read(text).Text.Length),
        ("words as Markdown", text => WordsAsMarkdown.Of(text).Length),
        ("HTML to be shown", text => Reading.Html(text).Length),
        ("slips that stand in it", text => Inclusions.In(text).Count),
    ];

    private static int Words(string text)
    {
        var count = 0;
        for (var i = 1; i < text.Length; i++)
            if (char.IsWhiteSpace(text[i - 1]) && !char.IsWhiteSpace(text[i]))
                count++;
        return count;
    }

    private static double Median(string text, Func<string, int> read)
    {
        var times = new List<double>();
        for (var i = 0; i < 5 && times.Sum() < 8_000; i++)
        {
            var start = Stopwatch.GetTimestamp();
            _ = read(text);
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
        times.Sort();
        return times[times.Count / 2];
    }
}
