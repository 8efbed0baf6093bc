using System.IO.Compression;

namespace Nachlass.Browser.Tests;

/// <summary>Bringing in what exists: every format good, partly broken and hostile.</summary>
public sealed class BringInTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-files-").FullName;

    public BringInTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    private static string Example(string name) => Path.Combine(App.Root, "docs", "examples", name);

    private string Written(string name, string content)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, content);
        return path;
    }

    private void Take(params string[] files)
    {
        writer.Open("/bring-in");
        writer.Choose("Files to bring in", files);
    }

    /// <summary>The examples of docs/formats.md, with how many things each brings.</summary>
    private static readonly (string File, string Format, int Makes)[] Good =
    [
        ("list.txt", "List, one slip a line", 6),
        ("highlights.csv", "Table (CSV)", 4),
        ("notes.json", "JSON", 2),
        ("note.md", "Markdown", 1),
        ("outline.opml", "Outline (OPML)", 9),
        ("bookmarks.html", "Browser bookmarks", 6),
        ("notices.rss", "Feed", 2),
        ("notices.atom", "Feed", 2),
        ("notices.feed.json", "Feed (JSON Feed)", 4),
        ("references.bib", "References (BibTeX)", 8),
        ("references.ris", "References (RIS)", 6),
        ("references.csl.json", "References (CSL-JSON)", 4),
        ("second sitting.vtt", "Transcript (WebVTT)", 1),
        ("talk.srt", "Transcript (SubRip)", 1),
        ("talk with times.txt", "Transcript, plain text", 1),
        ("letters.mbox", "Mailbox", 8),
        ("letter.eml", "Mail", 2),
        ("calendar.ics", "Calendar (iCalendar)", 4),
        ("essay.docx", "Text document (DOCX)", 1),
        ("page.html", "Page (HTML)", 1),
        ("survey.pdf", "PDF", 1),
        ("tariff.png", "Picture", 1),
    ];

    [Fact]
    public void Each_format_is_seen_first_comes_in_goes_back_and_comes_in_again()
    {
        foreach (var (file, format, makes) in Good)
        {
            // Coming in, going back and coming in again is one mechanism for all formats; a slip, a source and a piece stand for it.
            var rounds = file is "list.txt" or "references.bib" or "essay.docx" ? 2 : 1;
            for (var round = 0; round < rounds; round++)
            {
                Take(Example(file));
                writer.Sees("Would come in");
                writer.Part("Import of").Text.ShouldContain(format);
                writer.Part("The first of each");
                writer.Press($"Bring in {makes}");
                writer.Sees("Brought in");
                writer.Press("Take it all back");
                writer.Sees("Took back: brought in");
                writer.Field("Or paste a text");
            }
            writer.Server("/api/commands").Split("\"undone\":true").Length.ShouldBeGreaterThan(rounds);
        }
        writer.Server("/api/tally").ShouldContain("\"library\":0");
    }

    [Fact]
    public void What_is_partly_broken_comes_in_and_its_bad_places_can_be_saved_to_mend()
    {
        foreach (
            var (name, content, reason) in ((string, string, string)[])
                [
                    ("list.txt", "good\nbad \u0007 bell", "signs that are no text"),
                    ("t.csv", "text,topics\ngood,a\ntoo,many,fields", "It has 3 fields where the first row has 2"),
                    ("t.json", "[{\"text\":\"good\"},7]", "no object with fields"),
                    ("o.opml", "<opml><body><outline text=\"good\"/><outline/></body></opml>", "no text"),
                    (
                        "b.html",
                        "<!DOCTYPE NETSCAPE-Bookmark-file-1><DL><DT><A HREF=\"https://a.example/\">good</A><DT><A "
                            + "HREF=\"about:x\">bad</A></DL>",
                        "none of the web"
                    ),
                    (
                        "f.rss",
                        "<rss version=\"2.0\"><channel><title>N</title><item><title>good</title></item><item/></channel></rss>",
                        "neither a title nor a text"
                    ),
                    ("r.bib", "@book{a, title={good}}\n@book{b, title={open\n", "not closed"),
                    ("r.ris", "TY  - BOOK\nTI  - good\nER  - \nTY  - BOOK\nTI  - bad\n", "no end"),
                    ("r.csl.json", "[{\"type\":\"book\",\"title\":\"good\",\"issued\":{}},{\"type\":\"book\"}]", "no title"),
                    ("t.vtt", "WEBVTT\n\n00:01.000 --> 00:02.000\ngood\n\nbad", "no times"),
                    ("t.srt", "1\n00:00:01,000 --> 00:00:02,000\ngood\n\nbad", "no times"),
                    (
                        "m.mbox",
                        "From a Mon Nov 16 09:12:00 2026\nFrom: A <a@b.example>\nSubject: good\nDate: Mon, 16 Nov 2026 09:12:00 "
                            + "+0000\n\ngood\n\nFrom b Mon Nov 16 09:12:00 2026\nFrom: B <b@b.example>\n\n\n",
                        "neither subject nor text"
                    ),
                    (
                        "c.ics",
                        "BEGIN:VCALENDAR\nBEGIN:VEVENT\nSUMMARY:good\nDTSTART;VALUE=DATE:20261206\nEND:VEVENT\n"
                            + "BEGIN:VEVENT\nSUMMARY:bad\nEND:VEVENT\nEND:VCALENDAR",
                        "no readable date"
                    ),
                ]
        )
        {
            Take(Written(name, content));
            writer.Part("Could not be read").Text.ShouldContain(reason, Case.Insensitive, name);
            writer.Part("First").Text.ShouldContain(name is "t.vtt" or "t.srt" ? "1 line of transcript" : "good", Case.Insensitive, name);
        }
        Take(Written("table.csv", "text,topics\ngood,a\ntoo,many,fields"));
        writer.Press("save them to mend");
        writer.Downloaded("to mend*.csv").ShouldBe("text,topics\ntoo,many,fields\n");
    }

    [Fact]
    public void What_is_hostile_is_refused_with_its_reason_and_nothing_comes_in()
    {
        var bomb = Path.Combine(folder, "bomb.zip");
        using (var zip = ZipFile.Open(bomb, ZipArchiveMode.Create))
        using (var stream = zip.CreateEntry("bomb.txt").Open())
            stream.Write(new byte[64 << 20]);
        var climbing = Path.Combine(folder, "climbing.zip");
        using (var zip = ZipFile.Open(climbing, ZipArchiveMode.Create))
        using (var stream = zip.CreateEntry("../../climb.txt").Open())
            stream.Write("x"u8);
        var broken = Path.Combine(folder, "broken.csv");
        File.WriteAllBytes(broken, [.. "text\né"u8, 0xC3, 0x28]);
        var entities = "<!DOCTYPE x [<!ENTITY a \"b\">]><opml><body><outline text=\"&a;\"/></body></opml>";
        foreach (
            var (file, reason) in ((string, string)[])
                [
                    (bomb, "only a zip bomb does"),
                    (climbing, "leads out of its folder"),
                    (broken, "broken at byte"),
                    (Written("e.opml", entities), "declares a document type"),
                    (Written("e.rss", entities), "declares a document type"),
                    (Written("open.csv", "text\n\"never closed" + new string('\n', 50)), "never closed"),
                    (Written("deep.json", "{\"a\":" + new string('[', 90)), "no JSON"),
                    (Written("lines.txt", new string('\n', 2_000_100)), "2,000,000 lines"),
                    (Written("no.docx", "no zip"), "no text document"),
                    (Written("no.pdf", "%PDF-no"), "no readable PDF"),
                    (Written("no.ics", "no calendar"), "no calendar"),
                    (Written("no.bib", "no entry"), "no entry"),
                ]
        )
        {
            Take(file);
            writer.Sees(reason);
            writer.Sees("Nothing was brought in");
        }
        Take(Written("svg.png", "<svg onload=\"x()\"/>"));
        writer.Part("Could not be read").Text.ShouldContain("does not hold one");
        writer.Server("/api/tally").ShouldContain("\"library\":0");
        writer.Server("/api/commands").ShouldBe("[]");
    }

    [Fact]
    public void A_pasted_list_a_mapping_and_a_second_time()
    {
        writer.Open("/library");
        writer.Press("Add");
        writer.Press("Bring in files");
        writer.IsAt("/bring-in");
        writer.Paste(writer.Field("Or paste a text"), "bells:\n- The fog bell\n- Who heard it?");
        writer.Press("Look through it");
        writer.Press("Bring in 2");
        writer.Press("Sift what came in");
        writer.Sees("The fog bell");
        Take(Written("again.txt", "The fog bell\nA new one"));
        writer.Sees("1 here already, skipped");
        writer.Press("Bring in 1");
        writer.Sees("Brought in");

        Take(Written("mine.csv", "was,wer\nThe bell rang,Pell\n"));
        writer.Field("Column wer is").SendKeys("text");
        writer.Until(() => writer.Part("First slip").Text.Contains("Pell", StringComparison.Ordinal), "the preview by the new mapping");
        writer.Press("Bring in 1");
        writer.Sees("Take it all back");
        Take(Written("mine2.csv", "was,wer\nThe bell fell,Hester\n"));
        writer.Part("First slip").Text.ShouldContain("Hester");
        // The page of an import can be come back to.
        writer.Driver.Navigate().Refresh();
        writer.Part("First slip").Text.ShouldContain("Hester");
        writer.Press("Put it away");
        writer.IsAt("/bring-in");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void The_doors_show_what_they_do()
    {
        writer.Open("/bring-in");
        writer.Fill(writer.Field("Folder that is watched"), "/no/such/folder");
        writer.Keys(OpenQA.Selenium.Keys.Enter);
        writer.Sees("There is no folder /no/such/folder.");
        writer.Value("Folder that is watched").ShouldBe("/no/such/folder");
        var drop = Directory.CreateDirectory(Path.Combine(folder, "drop")).FullName;
        writer.Fill(writer.Field("Folder that is watched"), drop);
        writer.Keys(OpenQA.Selenium.Keys.Enter);
        writer.Sees("The folder is watched.");
        File.WriteAllText(Path.Combine(drop, "train.txt"), "Caught on the train\n");
        File.WriteAllText(Path.Combine(drop, "odd.xyz"), "x");
        writer.Sees("nothing here reads a file of this kind");
        writer.Open("/sift").Sees("Caught on the train");
        writer.Open("/bring-in");
        writer.Field("Address of a feed").SendKeys("https://news.example/feed");
        writer.Press("Watch");
        writer.Sees("calls no other machine");
        writer.Value("Address of a feed").ShouldBe("https://news.example/feed");
    }
}
