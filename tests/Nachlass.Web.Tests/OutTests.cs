using System.Diagnostics;
using System.IO.Compression;
using System.Text;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Validation;
using Nachlass.Core.Capture;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Web.Tests;

/// <summary>Finished texts as files: each is read back by an independent program where one is installed, and by our own readers.</summary>
public sealed class OutTests
{
    private const string Text = """
        # The far bank

        Some *slanted*, **heavy** and ~~struck~~ words with [a page](https://example.org/page) and “quotes” & <signs>.

        ## The toll

        > No man will pay to come home.

        - a rope
          - a rope’s end
        - an oar

        1. first
        2. second

        | shot | one sees |
        | ---- | -------- |
        | 1    | the bell |

        ![The stage](stage.png)

        ### Who paid

        Pell: I never knew a man argue with that.

        """;

    private static readonly Picture Stage = new(
        "image/png",
        Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==")
    );

    private static Picture? Find(string address) => address == "stage.png" ? Stage : null;

    private static readonly byte[] Docx = DocxFile.Write("The far bank", Text, "en", Find);

    private static readonly byte[] Epub = EpubFile.Write(
        new Book(
            "Two crossings",
            "en",
            new DateTimeOffset(2026, 11, 24, 8, 0, 0, TimeSpan.Zero),
            [new BookPart("The far bank", Text, Find), new BookPart("A & B", "# A & B\n\nWithout sections.\n", Find)]
        )
        {
            Cover = Stage,
        }
    );

    /// <summary>What a program prints about a file; null where it is not installed.</summary>
    private static string? Read(byte[] file, string ending, string program, params string[] arguments)
    {
        var path = Path.Combine(Path.GetTempPath(), Guid.NewGuid() + ending);
        File.WriteAllBytes(path, file);
        try
        {
            var start = new ProcessStartInfo(program, [.. arguments, path]) { RedirectStandardOutput = true, RedirectStandardError = true };
            using var run = Process.Start(start)!;
            var said = run.StandardOutput.ReadToEndAsync();
            var complained = run.StandardError.ReadToEnd();
            run.WaitForExit();
            run.ExitCode.ShouldBe(0, said.Result + complained);
            return said.Result + complained;
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return null;
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void A_Word_file_is_sound_has_real_styles_and_comes_in_again()
    {
        using var stream = new MemoryStream(Docx);
        using (var document = WordprocessingDocument.Open(stream, false))
            new OpenXmlValidator()
                .Validate(document, TestContext.Current.CancellationToken)
                .Select(e => $"{e.Path?.XPath}: {e.Description}")
                .ShouldBeEmpty();
        var path = Path.GetTempFileName();
        File.WriteAllBytes(path, Docx);
        var again = new Docx()
            .Read(new InFile("far.docx", path), new ReadAs(new DateOnly(2026, 11, 24), Documents: DocumentsAs.Piece))
            .OfType<Found.OfPiece>()
            .Single();
        File.Delete(path);
        again.Title.ShouldBe("The far bank");
        foreach (
            var part in (string[])
                ["*slanted*", "**heavy**", "[a page](https://example.org/page)", "## The toll", "### Who paid", "- an oar"]
        )
            again.Draft.ShouldContain(part);
        again.Draft.ShouldContain("> No man will pay to come home.");
        if (Read(Docx, ".docx", "pandoc", "-f", "docx", "-t", "markdown", "--wrap=none") is not { } read)
            return;
        foreach (var part in (string[])["# The toll", "## Who paid", "> No man will pay", "a rope", "2.", "the bell", "![", "~~struck~~"])
            read.ShouldContain(part);
        if (Read(Docx, ".docx", "soffice", "--headless", "--cat") is { } office)
            office.ShouldContain("No man will pay to come home.");
    }

    [Fact]
    public void A_book_is_sound_holds_what_it_needs_and_says_what_is_in_it()
    {
        using var zip = new ZipArchive(new MemoryStream(Epub));
        zip.Entries[0].FullName.ShouldBe("mimetype");
        zip.Entries[0].CompressedLength.ShouldBe(zip.Entries[0].Length);
        zip.Entries.Select(e => e.FullName).ShouldContain("book/cover.png");
        using var nav = new StreamReader(zip.GetEntry("book/nav.xhtml")!.Open());
        var contents = nav.ReadToEnd();
        contents.ShouldContain("<a href=\"part-1.xhtml#s1\">The toll</a>");
        contents.ShouldContain("A &amp; B");
        using var part = new StreamReader(zip.GetEntry("book/part-1.xhtml")!.Open());
        System
            .Xml.Linq.XDocument.Parse(part.ReadToEnd().Replace("<!DOCTYPE html>", "", StringComparison.Ordinal))
            .ToString()
            .ShouldContain("The stage");
        EpubFile.Write(new Book("x", "en", default, [])).Length.ShouldBeGreaterThan(0);
        if (Read(Epub, ".epub", "pandoc", "-f", "epub", "-t", "plain") is { } read)
            read.ShouldContain("No man will pay to come home.");
        const string checker = "/usr/share/java/epubcheck.jar";
        if (File.Exists(checker) && Read(Epub, ".epub", "java", "-jar", checker) is { } check)
            check.ShouldContain("0 errors");
    }

    [Fact]
    public void Notes_captions_and_credits_go_into_every_file()
    {
        const string text =
            "# T\n\nBread.[^1] Coin.[^b]\n\n![A landing stage](stage.png \"The stage\")\n\n"
            + "[^1]: Account *book*, f. 31.\n\n[^b]: High water.\n";
        static Picture? Credited(string address) => address == "stage.png" ? Stage with { Credit = "Photo: I. Varga" } : null;

        var docx = DocxFile.Write("T", text, "en-GB", Credited);
        using (var document = WordprocessingDocument.Open(new MemoryStream(docx), false))
        {
            new OpenXmlValidator()
                .Validate(document, TestContext.Current.CancellationToken)
                .Select(e => $"{e.Path?.XPath}: {e.Description}")
                .ShouldBeEmpty();
            document.MainDocumentPart!.FootnotesPart!.Footnotes!.InnerText.ShouldContain("Account book, f. 31.");
            document.MainDocumentPart.Document!.Body!.InnerText.ShouldContain("The stage. Photo: I. Varga.");
            document
                .MainDocumentPart.Document.Descendants<DocumentFormat.OpenXml.Drawing.Wordprocessing.DocProperties>()
                .Single()
                .Description!.Value.ShouldBe("A landing stage");
        }
        if (Read(docx, ".docx", "pandoc", "-f", "docx", "-t", "markdown", "--wrap=none") is { } word)
        {
            word.ShouldContain("Bread.[^1] Coin.[^2]");
            word.ShouldContain("[^1]: Account *book*, f. 31.");
        }

        var epub = EpubFile.Write(new Book("T", "en-GB", default, [new BookPart("T", text, Credited)]));
        if (Read(epub, ".epub", "pandoc", "-f", "epub", "-t", "plain", "--wrap=none") is { } book)
        {
            book.ShouldContain("Account book, f. 31.");
            book.ShouldContain("The stage. Photo: I. Varga.");
        }
        const string checker = "/usr/share/java/epubcheck.jar";
        if (File.Exists(checker) && Read(epub, ".epub", "java", "-jar", checker) is { } check)
            check.ShouldContain("0 errors");

        var html = PieceFile.Html("T", text, "de", Credited);
        html.ShouldContain("<html lang=\"de\">");
        html.ShouldContain("<figcaption>The stage. Photo: I. Varga.</figcaption>");
        html.ShouldContain("alt=\"A landing stage\"");
        PlainFile.Text(text).ShouldContain("Account book, f. 31.");
        PlainFile.Text("# T\n\nBread. <!-- mine -->\n").ShouldBe("T\n\nBread.\n");
    }

    [Fact]
    public void Plain_text_has_no_marks_and_a_script_says_who_speaks()
    {
        PlainFile
            .Text(Text)
            .ShouldBe(
                """
                The far bank

                Some slanted, heavy and struck words with a page and “quotes” & <signs>.

                The toll

                    No man will pay to come home.

                – a rope
                  – a rope’s end
                – an oar

                1. first
                2. second

                shot | one sees
                1 | the bell

                [The stage]

                Who paid

                Pell: I never knew a man argue with that.

                """
            );
        var script = PlainFile.Fountain("The far bank", Text);
        script.ShouldStartWith("Title: The far bank\n\n!Some slanted");
        script.ShouldContain("# The toll\n\n");
        script.ShouldContain("## Who paid\n\n@PELL\nI never knew a man argue with that.\n");
    }

    [Fact]
    public void Subtitles_follow_each_other_at_the_pace_and_hold_every_word()
    {
        var words = string.Join(' ', Enumerable.Range(0, 200).Select(i => "word" + i));
        var lines = PlainFile.Spoken($"# Title\n\n## Heading\n\nA short one. {words}.\n\nAnd the end.\n", 150);
        string.Join(' ', lines.Select(l => l.Text)).ShouldBe($"A short one. {words}. And the end.");
        lines.ShouldAllBe(l => l.Text.Length <= 84 && l.To > l.From);
        lines.Zip(lines.Skip(1)).ShouldAllBe(pair => pair.Second.From >= pair.First.To);
        lines[^1].To.ShouldBeInRange(205 * 60_000 / 150, 230 * 60_000 / 150);
        var read = Transcripts.Read(Transcripts.SubRip(lines));
        read.Lines.Select(l => l.Text).ShouldBe(lines.Select(l => l.Text));
        PlainFile.Spoken("", 150).ShouldBeEmpty();
    }

    [Fact]
    public void Paper_has_numbered_pages_under_the_title_and_asks_nothing_of_anybody()
    {
        var page = PieceFile.ForPaper("A “bank” } & more", Text, "en", Find);
        page.ShouldContain("counter(page)");
        page.ShouldContain("widows: 2");
        page.ShouldContain("content: \"A \\201c bank\\201d  \\7d  \\26  more\"");
        page.ShouldContain("data:image/png;base64,");
    }

    [Theory]
    [InlineData("markdown", "text/markdown", ".md")]
    [InlineData("text", "text/plain", ".txt")]
    [InlineData("html", "text/html", ".html")]
    [InlineData("docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", ".docx")]
    [InlineData("epub", "application/epub+zip", ".epub")]
    [InlineData("fountain", "text/plain", ".fountain")]
    [InlineData("srt", "application/x-subrip", ".srt")]
    [InlineData("vtt", "text/vtt", ".vtt")]
    [InlineData("opml", "text/x-opml", ".opml")]
    public async Task Each_format_comes_as_a_file_of_its_kind(string format, string type, string ending)
    {
        using var server = new Server();
        await server.Post("/api/pieces", new { title = "The far bank", format = "essay" });
        var version = (await server.Get("/api/pieces/1/draft")).Body!["version"]!.GetValue<int>();
        var text = Text[Text.IndexOf("## ", StringComparison.Ordinal)..];
        (await server.Send(HttpMethod.Put, "/api/pieces/1/draft", new { text, version })).Status.ShouldBe(200);
        using var answer = await server.Client.GetAsync(
            new Uri($"/api/pieces/1/export?as={format}", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        answer.EnsureSuccessStatusCode();
        answer.Content.Headers.ContentType!.MediaType.ShouldBe(type);
        answer.Content.Headers.ContentDisposition!.FileName!.ShouldContain("the-far-bank" + ending);
        (await answer.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).Length.ShouldBeGreaterThan(80);
    }

    [Fact]
    public async Task A_series_is_one_book_and_a_pace_nobody_reads_at_is_refused()
    {
        using var server = new Server();
        await server.Post("/api/pieces", new { title = "The far bank", format = "essay" });
        await server.Post("/api/series", new { name = "Crossings" });
        (await server.Get("/api/series/1/export")).Status.ShouldBe(409);
        var version = (await server.Get("/api/series/1")).Body!["series"]!["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Patch, "/api/series/1", new { version, pieces = new[] { 1 } })).Status.ShouldBe(200);
        var book = await server.Client.GetByteArrayAsync(
            new Uri("/api/series/1/export", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        using var zip = new ZipArchive(new MemoryStream(book));
        zip.Entries.Select(e => e.FullName).ShouldContain("book/part-1.xhtml");
        var (status, body, _) = await server.Get("/api/pieces/1/export?as=srt&pace=5");
        status.ShouldBe(400);
        body!.ToJsonString().ShouldContain("between 60 and 400");
        var page = (await server.Get("/api/pieces/1/export?as=pdf-html")).Response;
        page.Content.Headers.ContentDisposition.ShouldBeNull();
        page.Headers.GetValues("Content-Security-Policy").Single().ShouldStartWith("default-src 'none'; style-src 'unsafe-inline';");
    }
}
