using System.IO.Compression;
using System.Text;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using UglyToad.PdfPig.Fonts.Standard14Fonts;
using UglyToad.PdfPig.Writer;

namespace Nachlass.Store.Tests.Formats;

/// <summary>Each format with a good file, a partly broken one and a hostile one.</summary>
public sealed class FormatsInTests : IDisposable
{
    private readonly Incoming incoming = new();

    public void Dispose() => incoming.Dispose();

    [Fact]
    public void A_list_has_headings_tags_moves_links_and_further_lines()
    {
        var found = incoming.Read(
            "notes.txt",
            "bells:\n- The fog bell\n  was rung by anyone\n- Who heard it? #voices\n- [ ] ask Pell on 2026-12-01\n\n# tolls\n1. "
                + "“Bishops, nothing.”\nhttps://tavle.example/board the board"
        );
        Incoming
            .Slips(found)
            .Select(s => (s.Text, s.Kind, string.Join(',', s.Topics)))
            .ShouldBe([
                ("The fog bell\nwas rung by anyone", SlipKind.Idea, "bells"),
                ("Who heard it?", SlipKind.Question, "bells,voices"),
                ("“Bishops, nothing.”", SlipKind.Quote, "tolls"),
                ("https://tavle.example/board the board", SlipKind.Note, "tolls"),
            ]);
        found.OfType<Found.OfMove>().ShouldHaveSingleItem().Due.ShouldBe(new DateOnly(2026, 12, 1));
        Incoming.Slips(found).Last().Source!.Title.ShouldBe("the board");
        Incoming.Unread(incoming.Read("notes.txt", "good\nbad \u0007 bell")).ShouldHaveSingleItem().Line.ShouldBe(2);
    }

    [Fact]
    public void Markdown_keeps_links_and_takes_the_files_beside_it()
    {
        var png = (byte[])[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3, 4];
        var parcel = incoming.Parcel(
            (
                "notes/bread.md",
                Encoding.UTF8.GetBytes(
                    "---\ntitle: Bread for pence\ntags: [tolls, bread]\ndate: 2026-03-04\n---\n\nFour loaves, see [[Crossing Dues]] "
                        + "![the column](../pictures/column.png)"
                )
            ),
            ("notes/plain.md", "# The board\n\nEleven ways #tolls"u8.ToArray()),
            ("pictures/column.png", png),
            ("pictures/loose.png", png),
            ("notes/bad.md", "---\ntitle: [\n---\nx"u8.ToArray()),
            ("what.xyz", [1, 0, 2])
        );
        var found = parcel.Read(new ReadAs(Incoming.Today)).Select(f => f.Found).ToList();
        var slips = Incoming.Slips(found).ToList();
        slips[0]
            .ShouldSatisfyAllConditions(
                s => s.Text.ShouldStartWith("**Bread for pence**\n\nFour loaves, see [[Crossing Dues]]"),
                s => s.Topics.ShouldBe(["tolls", "bread"]),
                s => s.CaughtAt!.Value.Date.ShouldBe(new DateTime(2026, 3, 4)),
                s => s.Files.ShouldHaveSingleItem().Why.ShouldBe("the column")
            );
        slips[1].ShouldSatisfyAllConditions(s => s.Text.ShouldBe("# The board\n\nEleven ways #tolls"), s => s.Topics.ShouldBe(["tolls"]));
        slips[2].ShouldSatisfyAllConditions(s => s.Text.ShouldBe("loose"), s => s.Files.Count.ShouldBe(1));
        slips.Count.ShouldBe(3);
        Incoming
            .Unread(found)
            .Select(u => u.Reason)
            .ShouldBe([Incoming.Unread(found).First().Reason, "nothing here reads a file of this kind."]);
        incoming
            .Read("essay.md", "# The far bank\n\nIt began.", DocumentsAs.Piece)
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfPiece>()
            .ShouldSatisfyAllConditions(p => p.Title.ShouldBe("The far bank"), p => p.Draft.ShouldBe("It began."));
    }

    [Fact]
    public void A_table_is_read_by_its_columns_and_its_bad_rows_are_named()
    {
        var found = incoming.Read(
            "highlights.csv",
            "Highlight,Note,Page,Book Title,Author,Tags,Added,Pull\n\"No toll, after dark\",Why?,p. 31,The Hours,\"Lunt, H.\",law; "
                + "night,2026-03-04,4\n,,,,,,,\ntoo,few\nSecond,,,,,,someday,\nThird,,,,,,,9\n"
        );
        Incoming
            .Slips(found)
            .First()
            .ShouldSatisfyAllConditions(
                s => s.Text.ShouldBe("No toll, after dark\n\nWhy?"),
                s => s.Kind.ShouldBe(SlipKind.Quote),
                s => s.Locator.ShouldBe("p. 31"),
                s => s.Source!.Creators.ShouldBe("Lunt, H."),
                s => s.Topics.ShouldBe(["law", "night"]),
                s => s.Pull.ShouldBe(4)
            );
        found.OfType<Found.OfSlip>().Last().Doubt!.ShouldContain("“someday”");
        Incoming
            .Unread(found)
            .Select(u => (u.Line, u.Reason))
            .ShouldBe([(4, "it has 2 fields where the first row has 8."), (6, "its pull is “9”; it goes from 1 to 5.")]);
        var mapping = new ColumnMapping(new Dictionary<string, ColumnRole> { ["Author"] = ColumnRole.Text });
        new CsvTable()
            .Read(
                incoming.File("x.csv", "Highlight;Author\na;b\n"),
                new ReadAs(
                    Incoming.Today,
                    new Dictionary<string, ColumnMapping> { [ColumnMapping.ShapeOf(["Highlight", "Author"])] = mapping }
                )
            )
            .Cast<Found.OfSlip>()
            .ShouldHaveSingleItem()
            .Slip.Text.ShouldBe("b");
        ColumnMapping.ShapeOf(["B", " a"]).ShouldBe(ColumnMapping.ShapeOf(["A", "b "]));
    }

    [Fact]
    public void Two_tables_each_have_their_own_columns_and_messages_keep_sender_channel_and_day()
    {
        var said = new Dictionary<string, ColumnMapping>
        {
            [ColumnMapping.ShapeOf(["a", "b"])] = new(
                new Dictionary<string, ColumnRole> { ["a"] = ColumnRole.Text, ["b"] = ColumnRole.Topics }
            ),
            [ColumnMapping.ShapeOf(["a", "c"])] = new(
                new Dictionary<string, ColumnRole> { ["a"] = ColumnRole.Topics, ["c"] = ColumnRole.Text }
            ),
        };
        FoundSlip One(string content) =>
            new CsvTable().Read(incoming.File("x.csv", content), new ReadAs(Incoming.Today, said)).Cast<Found.OfSlip>().Single().Slip;
        One("a,b\nwords,fog\n").ShouldSatisfyAllConditions(s => s.Text.ShouldBe("words"), s => s.Topics.ShouldBe(["fog"]));
        One("c,a\nwords,fog\n").ShouldSatisfyAllConditions(s => s.Text.ShouldBe("words"), s => s.Topics.ShouldBe(["fog"]));
        var message = One("Sender,Channel,Date,Message\nMarta Brenn,postcard,2026-11-03,How do you date a chart?\n");
        message.Kind.ShouldBe(SlipKind.Question);
        message.Source!.ShouldSatisfyAllConditions(
            s => s.Type.ShouldBe(SourceType.Message),
            s => s.Title.ShouldBe("Message from Marta Brenn"),
            s => s.Creators.ShouldBe("Marta Brenn"),
            s => s.Container.ShouldBe("postcard"),
            s => s.Date.ShouldBe("2026-11-03")
        );
    }

    [Fact]
    public void A_table_with_a_quotation_mark_left_open_is_refused()
    {
        var rows = "text,kind\n\"never closed," + string.Concat(Enumerable.Repeat("row,row\n", 50));
        Should.Throw<UnreadableFileException>(() => incoming.Read("bad.csv", rows)).Message.ShouldContain("never closed");
        Should.Throw<UnreadableFileException>(() => incoming.Read("empty.csv", "")).Message.ShouldContain("empty");
        Should
            .Throw<UnreadableFileException>(() => incoming.Read("wide.csv", string.Join(',', Enumerable.Range(0, 300))))
            .Message.ShouldContain("200 columns");
    }

    [Fact]
    public void Json_is_read_as_a_list_as_lines_or_from_inside()
    {
        Incoming
            .Slips(incoming.Read("a.json", """[{"text":"one","tags":["a","b"]},"two #c",3,{"title":"","text":""}]"""))
            .Select(s => (s.Text, string.Join(',', s.Topics)))
            .ShouldBe([("one", "a,b"), ("two", "c")]);
        Incoming.Unread(incoming.Read("a.json", """[{"text":"one"},3,{"other":""}]""")).Select(u => u.Line).ShouldBe([2, 3]);
        var lines = incoming.Read("a.jsonl", "{\"text\":\"one\"}\n{broken\n{\"text\":\"three\"}\n");
        Incoming.Slips(lines).Select(s => s.Text).ShouldBe(["one", "three"]);
        Incoming.Unread(lines).ShouldHaveSingleItem().Line.ShouldBe(2);
        Incoming
            .Slips(incoming.Read("a.json", """{"about":1,"highlights":[{"highlight":"one"}]}"""))
            .ShouldHaveSingleItem()
            .Text.ShouldBe("one");
        Should
            .Throw<UnreadableFileException>(() => incoming.Read("a.json", """[{"text":"one"},{"text":"""))
            .Message.ShouldContain("item 2");
        Should.Throw<UnreadableFileException>(() =>
            incoming.Read("deep.json", "{\"a\":" + new string('[', 60) + new string(']', 60) + "}")
        );
    }

    [Fact]
    public void An_outline_gives_slips_under_its_branches()
    {
        var found = incoming.Read(
            "o.opml",
            """
            <opml version="2.0"><head><title>Walk</title></head><body>
            <outline text="fords"><outline text="Heard before seen" category="/sound"/><outline text=""/></outline>
            <outline text="Loose?"/></body></opml>
            """
        );
        Incoming
            .Slips(found)
            .Select(s => (s.Text, s.Kind, string.Join(',', s.Topics)))
            .ShouldBe([("Heard before seen", SlipKind.Idea, "fords,sound"), ("Loose?", SlipKind.Question, "")]);
        Incoming.Unread(found).ShouldHaveSingleItem().Reason.ShouldContain("no text");
        Should
            .Throw<UnreadableFileException>(() => incoming.Read("bad.opml", "<opml><body><outline></opml>"))
            .Message.ShouldContain("well-formed");
    }

    [Theory]
    [InlineData(
        "bomb.opml",
        "<!DOCTYPE opml [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;\">]><opml><body><outline text=\"&b;\"/></body></opml>"
    )]
    [InlineData(
        "fetch.opml",
        "<!DOCTYPE opml [<!ENTITY x SYSTEM \"file:///etc/hostname\">]><opml><body><outline text=\"&x;\"/></body></opml>"
    )]
    [InlineData(
        "feed.rss",
        "<!DOCTYPE rss [<!ENTITY x SYSTEM \"file:///etc/hostname\">]><rss version=\"2.0\"><channel><title>&x;</title></channel></rss>"
    )]
    public void Entities_of_xml_are_refused(string name, string content) =>
        Should.Throw<UnreadableFileException>(() => incoming.Read(name, content)).Message.ShouldContain("document type");

    [Fact]
    public void Bookmarks_are_sources_and_their_folders_topics()
    {
        var found = incoming.Read(
            "b.html",
            "<!DOCTYPE NETSCAPE-Bookmark-file-1><DL><p><DT><H3>floods</H3><DL><p><DT><A HREF=\"https://g.example/1\" "
                + "ADD_DATE=\"1748073600\" TAGS=\"gauges\">Gauge &amp; mark</A><DD>Honest.<DT><A "
                + "HREF=\"javascript:alert(1)\">No</A></DL><p></DL>"
        );
        Incoming
            .Sources(found)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                s => s.Title.ShouldBe("Gauge & mark"),
                s => s.Topics.ShouldBe(["floods", "gauges"]),
                s => s.Comments.ShouldBe("Honest."),
                s => s.Details["accessed"].ShouldBe("2025-05-24")
            );
        Incoming.Unread(found).ShouldHaveSingleItem().Reason.ShouldContain("none of the web");
    }

    [Theory]
    [InlineData(
        "n.rss",
        """
            <rss version="2.0"><channel><title>Notices</title>
            <item><title>Steps closed?</title><link>https://n.example/1</link>
            <description>&lt;p&gt;Until &lt;b&gt;March&lt;/b&gt;.&lt;/p&gt;&lt;script&gt;x()&lt;/script&gt;</description>
            <category>ferries</category><pubDate>Sat, 21 Nov 2026 08:00:00 GMT</pubDate></item>
            <item></item></channel></rss>
            """
    )]
    [InlineData(
        "n.atom",
        """
            <feed xmlns="http://www.w3.org/2005/Atom"><title>Notices</title>
            <entry><id>1</id><title>Steps closed?</title><link href="https://n.example/1"/>
            <summary type="html">&lt;p&gt;Until &lt;b&gt;March&lt;/b&gt;.&lt;/p&gt;&lt;script&gt;x()&lt;/script&gt;</summary>
            <category term="ferries"/><published>2026-11-21T08:00:00Z</published><updated>2026-11-21T08:00:00Z</updated></entry>
            <entry><id>2</id></entry></feed>
            """
    )]
    [InlineData(
        "n.json",
        """
            {"version": "https://jsonfeed.org/version/1.1", "title": "Notices", "items": [
            {"id": "1", "url": "https://n.example/1", "title": "Steps closed?",
            "content_html": "<p>Until <b>March</b>.</p><script>x()</script>", "tags": ["ferries"],
            "date_published": "2026-11-21T08:00:00Z"}, {"id": "2"}]}
            """
    )]
    public void Feeds_are_slips_that_point_to_their_page(string name, string content)
    {
        var found = incoming.Read(name, content);
        Incoming
            .Slips(found)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                s => s.Text.ShouldBe("Steps closed?\n\nUntil **March**."),
                s => s.Topics.ShouldBe(["ferries"]),
                s => s.Source!.Container.ShouldBe("Notices"),
                s => s.Source!.Address.ShouldBe("https://n.example/1"),
                s => s.Source!.Text.ShouldBe("Until **March**."),
                s => s.CaughtAt.ShouldBe(new DateTimeOffset(2026, 11, 21, 8, 0, 0, TimeSpan.Zero))
            );
        Incoming.Unread(found).ShouldHaveSingleItem();
        Should.Throw<UnreadableFileException>(() => incoming.Read(name, content[..200]));
    }

    [Fact]
    public void BibTeX_is_read_with_its_macros_accents_and_mistakes()
    {
        var found = incoming.Read(
            "r.bib",
            "% c\n@string{p = \"Valley \"}\n@book{a, title={The {T}olls}, author={K{\\\"u}hn, Th{\\'e}r{\\`e}se and {Parish of "
                + "Ostrey} and Odile Marchetti}, publisher = p # {Press}, year=1998, month=mar, pages={12--14}, isbn={0306406152}, "
                + "keywords={a; b}}\n@article{open, title={Never closed\n\n@book{b, title={Second}, isbn={0306406153}}\n@misc{c, "
                + "author={Nobody}}\n"
        );
        var first = Incoming.Sources(found).First();
        first.ShouldSatisfyAllConditions(
            s => s.Title.ShouldBe("The Tolls"),
            s => s.Creators.ShouldBe("Kühn, Thérèse; Parish of Ostrey; Marchetti, Odile"),
            s => s.Date.ShouldBe("1998-03"),
            s => s.Topics.ShouldBe(["a", "b"]),
            s =>
                s.Details.ShouldBe(
                    new Dictionary<string, string>
                    {
                        ["publisher"] = "Valley Press",
                        ["page"] = "12–14",
                        ["ISBN"] = "0306406152",
                    },
                    ignoreOrder: true
                )
        );
        found
            .OfType<Found.OfSource>()
            .Last()
            .ShouldSatisfyAllConditions(
                s => s.Doubt!.ShouldContain("check digit would be 2"),
                s => s.Source.Comments.ShouldContain("0306406153")
            );
        Incoming.Unread(found).Select(u => (u.Line, u.Reason)).ShouldBe([(4, "a brace is not closed."), (7, "the entry c has no title.")]);
        Should.Throw<UnreadableFileException>(() => incoming.Read("r.bib", "nothing here"));
        Incoming
            .Unread(incoming.Read("deep.bib", "@book{a, title=" + new string('{', 5_000)))
            .ShouldHaveSingleItem()
            .Reason.ShouldContain("too deeply");
    }

    [Fact]
    public void Ris_and_csl_name_their_bad_records()
    {
        var ris = incoming.Read(
            "r.ris",
            "TY  - JOUR\nAU  - Brandt, H.\nTI  - What the board says\nSP  - 40\nEP  - 48\nER  - \nTY  - BOOK\nTY  - BOOK\nTI  - No "
                + "end\nloose line\n"
        );
        Incoming
            .Sources(ris)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(s => s.Type.ShouldBe(SourceType.Article), s => s.Details["page"].ShouldBe("40–48"));
        Incoming
            .Unread(ris)
            .Select(u => (u.Line, u.Reason))
            .ShouldBe([(7, "this record does not end before the next begins."), (8, "this record has no end (ER).")]);
        var csl = incoming.Read(
            "r.csl.json",
            """
            [{"type":"book","title":"A",
            "author":[{"family":"Velde","given":"A","non-dropping-particle":"van der"},{"literal":"Parish"}],
            "issued":{"date-parts":[[1998,5]]},"URL":"ftp://x"},{"type":"book"},7]
            """
        );
        csl.OfType<Found.OfSource>()
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                f => f.Source.Creators.ShouldBe("van der Velde, A; Parish"),
                f => f.Source.Date.ShouldBe("1998-05"),
                f => f.Doubt!.ShouldContain("none of the web")
            );
        Incoming.Unread(csl).Count().ShouldBe(2);
        Should.Throw<UnreadableFileException>(() => incoming.Read("x.csljson", "{\"a\":1}"));
    }

    [Theory]
    [InlineData(
        "t.vtt",
        "WEBVTT\n\nNOTE x\n\nintro\n00:01.000 --> 00:04.500 align:left\n<v Jonas Pell>You <i>heard</i> the bell.\n\n00:09.000 --> "
            + "00:05.000\nbackwards\n\nno times\n"
    )]
    [InlineData(
        "t.srt",
        "1\n00:00:01,000 --> 00:00:04,500\nJonas Pell: You <i>heard</i>\nthe bell.\n\n2\n00:00:09,000 --> "
            + "00:00:05,000\nbackwards\n\nno times\n"
    )]
    public void Transcripts_are_sources_that_were_heard(string name, string content)
    {
        var found = incoming.Read(name, content);
        Incoming
            .Sources(found)
            .ShouldHaveSingleItem()
            .Transcript.ShouldBe([new TranscriptLine(1_000, 4_500, "You heard the bell.", "Jonas Pell")]);
        Incoming.Unread(found).Select(u => u.Reason).ShouldBe(["it ends before it begins.", "this block has no times."]);
    }

    [Fact]
    public void Plain_text_with_times_is_a_transcript() =>
        Incoming
            .Sources(incoming.Read("talk.txt", "[0:03] You heard it.\n12:40 – Pell: Over.\nAnd back.\n1:02:03 Home.\n"))
            .ShouldHaveSingleItem()
            .Transcript.ShouldBe([
                new(3_000, 760_000, "You heard it."),
                new(760_000, 3_723_000, "Over. And back.", "Pell"),
                new(3_723_000, 3_723_000, "Home."),
            ]);

    private const string Letter =
        "From: Tom Ashby <tom@readers.example>\nTo: Ines <i@x.example>\nDate: Mon, 16 Nov 2026 09:12:00 +0000\nSubject: "
        + "=?utf-8?q?The_b=C3=A8ll?=\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=x\n\n--x\nContent-Type: text/plain; "
        + "charset=iso-8859-1\nContent-Transfer-Encoding: quoted-printable\n\nCould you caf=E9?\n\nOn Sunday Ines wrote:\n> "
        + "old\n--x\nContent-Type: text/csv; name=\"../../evil.csv\"\nContent-Disposition: attachment; "
        + "filename=\"../../evil.csv\"\n\na,b\n--x--\n";

    [Fact]
    public void A_mail_is_a_message_with_its_words_and_attachments()
    {
        var slip = Incoming.Slips(incoming.Read("m.eml", Letter)).ShouldHaveSingleItem();
        slip.ShouldSatisfyAllConditions(
            s => s.Text.ShouldBe("Could you café?"),
            s => s.Kind.ShouldBe(SlipKind.Question),
            s => s.Source!.Title.ShouldBe("The bèll"),
            s => s.Source!.Creators.ShouldBe("Tom Ashby"),
            s => s.Source!.Files.ShouldHaveSingleItem().Name.ShouldBe("evil.csv")
        );
        File.ReadAllText(slip.Source!.Files[0].Path).ShouldContain("a,b");
    }

    [Fact]
    public void A_mailbox_holds_many_and_names_the_empty_ones()
    {
        var found = incoming.Read(
            "all.mbox",
            $"From a Mon Nov 16 09:12:00 2026\n{Letter}\nFrom b Mon Nov 16 09:13:00 2026\nFrom: X <x@y.example>\nSubject: "
                + "\n\n\nFrom c Mon Nov 16 09:14:00 2026\nFrom: Y <y@y.example>\nSubject: No date\n\nHello\n"
        );
        Incoming.Slips(found).Select(s => s.Text).ShouldBe(["Could you café?", "Hello"]);
        Incoming.Unread(found).ShouldHaveSingleItem().Line.ShouldBe(2);
        found.OfType<Found.OfSlip>().Last().Doubt!.ShouldContain("no readable date");
    }

    [Fact]
    public void A_calendar_gives_occasions_and_moves_and_a_broken_entry_only_itself()
    {
        var found = incoming.Read(
            "c.ics",
            "BEGIN:VCALENDAR\nVERSION:2.0\nBEGIN:VEVENT\nSUMMARY:Ferry "
                + "Lights\nDTSTART;VALUE=DATE:20261206\nDTEND;VALUE=DATE:20261208\nRRULE:FREQ=YEARLY\nEND:VEVENT\n"
                + "BEGIN:VEVENT\nSUMMARY:No date\nEND:VEVENT\n"
                + "BEGIN:VEVENT\nSUMMARY:Choir\nDTSTART:20261201T190000\nRRULE:FREQ=WEEKLY\nEND:VEVENT\n"
                + "BEGIN:VTODO\nSUMMARY:Ask Pell\nDUE;VALUE=DATE:20261210\nEND:VTODO\nBEGIN:VEVENT\nSUMMARY:Unclosed\n"
        );
        found
            .OfType<Found.OfOccasion>()
            .Select(o => (o.Name, o.From, o.To, o.EveryYear, o.Doubt is null))
            .ShouldBe([
                ("Ferry Lights", new DateOnly(2026, 12, 6), new DateOnly(2026, 12, 7), true, true),
                ("Choir", new DateOnly(2026, 12, 1), new DateOnly(2026, 12, 1), false, false),
            ]);
        found.OfType<Found.OfMove>().ShouldHaveSingleItem().Due.ShouldBe(new DateOnly(2026, 12, 10));
        Incoming.Unread(found).Select(u => u.Line).ShouldBe([9, 21]);
        Should.Throw<UnreadableFileException>(() => incoming.Read("c.ics", "hello"));
    }

    [Fact]
    public void A_page_is_its_words_without_its_scripts()
    {
        var found = incoming.Read(
            "p.html",
            "<!doctype html><html lang=en><head><title>T</title><meta name=author content=\"H. "
                + "Brandt\"><script>x()</script></head><body><nav>menu</nav><h1>The <em>toll</em></h1><p>One <b>two </b>three<br>four <a "
                + "href=\"https://x.example/a b\">link</a> <a "
                + "href=\"javascript:x\">no</a></p><ul><li>a<ul><li>b</li></ul></li></ul><blockquote><p>said</p></blockquote>"
                + "<table><tr><th>k</th><th>v</th></tr><tr><td>1</td><td>a|b</td></tr></table></body></html>"
        );
        Incoming
            .Sources(found)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                s => s.Title.ShouldBe("The toll"),
                s => s.Creators.ShouldBe("H. Brandt"),
                s =>
                    s.Text.ShouldBe(
                        "# The *toll*\n\nOne **two** three\nfour [link](https://x.example/a%20b) no\n\n- a\n  - b\n\n> said\n\n| k "
                            + "| v |\n| --- | --- |\n| 1 | a\\|b |"
                    )
            );
        incoming
            .Read("p.html", "<p>It began.</p>", DocumentsAs.Piece)
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfPiece>()
            .Draft.ShouldBe("It began.");
        Incoming.Unread(incoming.Read("e.html", "<script>only</script>")).ShouldHaveSingleItem();
        Incoming.Sources(incoming.Read("deep.html", string.Concat(Enumerable.Repeat("<div>", 20_000)) + "x")).Count().ShouldBeLessThan(2);
    }

    [Fact]
    public void A_text_document_becomes_a_piece()
    {
        using var memory = new MemoryStream();
        using (var document = WordprocessingDocument.Create(memory, WordprocessingDocumentType.Document))
        {
            var part = document.AddMainDocumentPart();
            static Paragraph Said(string style, params OpenXmlElement[] runs) =>
                new([.. new OpenXmlElement[] { new ParagraphProperties(new ParagraphStyleId { Val = style }) }, .. runs]);
            static Run Words(string text, params OpenXmlElement[] look) =>
                new([
                    new RunProperties(look),
                    new DocumentFormat.OpenXml.Wordprocessing.Text(text) { Space = SpaceProcessingModeValues.Preserve },
                ]);
            part.Document = new Document(
                new Body(
                    Said("Heading1", Words("The far bank")),
                    Said("Normal", Words("It "), Words("began ", new Bold()), Words("here.", new Italic())),
                    Said("Heading2", Words("Bread")),
                    Said("Quote", Words("Four loaves"))
                )
            );
        }
        var piece = Incoming.Read(incoming.File("d.docx", memory.ToArray())).ShouldHaveSingleItem().ShouldBeOfType<Found.OfPiece>();
        (piece.Title, piece.Draft).ShouldBe(("The far bank", "It **began** *here.*\n\n## Bread\n\n> Four loaves"));
        Should.Throw<UnreadableFileException>(() => incoming.Read("bad.docx", "not a zip")).Message.ShouldContain("text document");
        Should
            .Throw<UnreadableFileException>(() => Incoming.Read(incoming.File("cut.docx", memory.ToArray()[..^200])))
            .Message.ShouldContain("text document");
    }

    [Fact]
    public void A_pdf_is_a_source_whose_words_can_be_found()
    {
        var builder = new PdfDocumentBuilder();
        builder.DocumentInformation.Title = "Survey of the passes";
        builder
            .AddPage(UglyToad.PdfPig.Content.PageSize.A5)
            .AddText("Elvers at midnight", 12, new(40, 300), builder.AddStandard14Font(Standard14Font.Helvetica));
        var file = incoming.File("survey.pdf", builder.Build());
        Incoming.Sources(Incoming.Read(file)).ShouldHaveSingleItem().Title.ShouldBe("Survey of the passes");
        FileKinds.WordsOf("survey.pdf", file.Path).ShouldContain("Elvers at midnight");
        FileKinds.TypeOf("picture.png", file.Path).ShouldBe("application/pdf");
        Should.Throw<UnreadableFileException>(() => incoming.Read("bad.pdf", "%PDF-1.4 rubbish")).Message.ShouldContain("no readable PDF");
        FileKinds.WordsOf("bad.pdf", incoming.File("bad.pdf", "%PDF-1.4 rubbish").Path).ShouldBe("");
    }

    [Fact]
    public void A_picture_that_is_none_is_not_believed() =>
        Incoming.Unread(incoming.Read("x.png", "<svg onload=x()>")).ShouldHaveSingleItem().Reason.ShouldContain("does not hold one");

    public static TheoryData<string, byte[]> Encoded =>
        new()
        {
            { "UTF-8 with a mark", [.. Encoding.UTF8.Preamble, .. "naïve “bell”"u8] },
            { "UTF-16 little", [.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes("naïve “bell”")] },
            { "UTF-16 big", [.. Encoding.BigEndianUnicode.Preamble, .. Encoding.BigEndianUnicode.GetBytes("naïve “bell”")] },
            { "UTF-16 without a mark", Encoding.Unicode.GetBytes("naïve “bell”") },
            { "Windows-1252", [.. "na"u8, 0xEF, .. "ve "u8, 0x93, .. "bell"u8, 0x94] },
        };

    [Theory]
    [MemberData(nameof(Encoded))]
    public void Encodings_are_recognised(string name, byte[] content) =>
        Incoming.Slips(Incoming.Read(incoming.File("a.txt", content))).ShouldHaveSingleItem(name).Text.ShouldBe("naïve “bell”");

    [Fact]
    public void Line_ends_of_all_kinds_count_alike() =>
        TextIn
            .Lines(incoming.File("a.txt", "one\r\ntwo\rthree\n\nfive"))
            .Select(l => (l.Number, l.Text))
            .ShouldBe([(1, "one"), (2, "two"), (3, "three"), (4, ""), (5, "five")]);

    [Fact]
    public void Broken_or_no_text_is_refused_with_its_place()
    {
        Should
            .Throw<UnreadableFileException>(() => TextIn.Whole(incoming.File("a.csv", [.. "é ok "u8, 0xC3, 0x28])))
            .Message.ShouldContain("broken at byte 6");
        Should
            .Throw<UnreadableFileException>(() =>
                TextIn.Whole(incoming.File("a.csv", [.. Encoding.UTF8.GetBytes(new string('é', 700_000)), 0xC3, 0x28]))
            )
            .Message.ShouldContain("encoding breaks");
        Should
            .Throw<UnreadableFileException>(() => TextIn.Whole(incoming.File("a.txt", [1, 2, 0, 3, 4, 5, 6, 7])))
            .Message.ShouldContain("NUL");
    }

    [Fact]
    public void Ten_million_lines_and_endless_ones_are_refused()
    {
        Should
            .Throw<UnreadableFileException>(() => TextIn.Lines(incoming.File("a.txt", new string('\n', TextIn.MostLines + 10))).Count())
            .Message.ShouldContain("2,000,000 lines");
        Should
            .Throw<UnreadableFileException>(() => TextIn.Lines(incoming.File("a.txt", new string('a', TextIn.LongestLine + 10))).Count())
            .Message.ShouldContain("4,000,000 characters");
        Should
            .Throw<UnreadableFileException>(() =>
                incoming
                    .Parcel(
                        ("a.txt", Encoding.ASCII.GetBytes(string.Concat(Enumerable.Range(0, Parcel.MostThings + 5).Select(i => i + "\n"))))
                    )
                    .Read(new ReadAs(Incoming.Today))
                    .Count()
            )
            .Message.ShouldContain("500,000 things");
    }

    private static byte[] Zip(params (string Name, byte[] Content)[] files)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, true))
            foreach (var (name, content) in files)
                using (var stream = zip.CreateEntry(name).Open())
                    stream.Write(content);
        return memory.ToArray();
    }

    [Fact]
    public void A_sentence_that_begins_with_From_ends_no_mail_and_a_broken_mail_ends_no_mailbox()
    {
        const string head = "From reader Mon Nov 16 09:12:00 2026\nFrom: A <a@b.example>\nDate: Mon, 16 Nov 2026 09:12:00 +0000\n";
        var found = incoming.Read(
            "m.mbox",
            head
                + "Subject: one\n\nWhere from?\nFrom the far bank.\n\nFrom there on it is known.\n>From the sign.\n\n"
                + "From b Tue Nov 17 09:12:00 2026\nno head at all\n\n"
                + head
                + "Subject: two\n\nThe last.\n"
        );
        Incoming
            .Slips(found)
            .Select(s => s.Text)
            .First()
            .ShouldStartWith("Where from?\nFrom the far bank.\n\nFrom there on it is known.\nFrom the sign.");
        Incoming.Slips(found).Last().Text.ShouldBe("The last.");
    }

    [Fact]
    public void A_file_is_read_in_the_encoding_it_says_it_has()
    {
        static byte[] In(int page, string text) => CodePagesEncodingProvider.Instance.GetEncoding(page)!.GetBytes(text);
        Incoming
            .Sources(
                Incoming.Read(
                    incoming.File(
                        "p.html",
                        In(28592, "<html><head><meta charset=iso-8859-2><title>Č</title></head><body><p>Žluťoučký kůň</p>")
                    )
                )
            )
            .ShouldHaveSingleItem()
            .Text.ShouldContain("Žluťoučký kůň");
        Incoming
            .Slips(
                Incoming.Read(
                    incoming.File(
                        "o.opml",
                        In(
                            28597,
                            "<?xml version='1.0' encoding='ISO-8859-7'?><opml version='2.0'><head/>"
                                + "<body><outline text='γέφυρα'/></body></opml>"
                        )
                    )
                )
            )
            .ShouldHaveSingleItem()
            .Text.ShouldBe("γέφυρα");
    }

    [Theory]
    [InlineData("=1+2")]
    [InlineData("- a list")]
    [InlineData("@name")]
    [InlineData("'=quoted")]
    [InlineData("''+twice")]
    [InlineData("it's plain")]
    [InlineData("'tis")]
    public void No_cell_that_goes_out_begins_a_formula_and_it_comes_in_as_it_was(string text)
    {
        var table = CsvTable.Write(
            ["text", "kind"],
            [
                [text, "note"],
            ]
        );
        table.Split('\n')[1].ShouldNotMatch("^\"?[=+@-]");
        Incoming.Slips(incoming.Read("t.csv", table)).ShouldHaveSingleItem().Text.ShouldBe(text);
    }

    [Fact]
    public void A_zip_is_the_files_in_it_and_a_hostile_one_is_refused()
    {
        var found = incoming
            .Parcel(("notes.zip", Zip(("a/one.txt", "one"u8.ToArray()), ("two.md", "two"u8.ToArray()))))
            .Read(new ReadAs(Incoming.Today))
            .ToList();
        found.Select(f => f.File.Name).ShouldBe(["a/one.txt", "two.md"], ignoreOrder: true);
        // A bad file does not keep the good ones out.
        foreach (
            var (name, content, reason) in ((string, byte[], string)[])
                [
                    ("../../out.txt", "x"u8.ToArray(), "leads out"),
                    ("bomb.txt", new byte[64 << 20], "zip bomb"),
                    ("inner.zip", Zip(("a.txt", "x"u8.ToArray())), "inside a zip"),
                ]
        )
        {
            var parcel = incoming.Parcel(("x.zip", Zip(("good.txt", "one"u8.ToArray()), (name, content))));
            parcel.Files.Select(f => f.Name).ShouldBe(["good.txt"]);
            parcel.Refused.ShouldHaveSingleItem().Reason.ShouldContain(reason);
            Directory.EnumerateFiles(parcel.Folder).Count().ShouldBe(1);
        }
        Should
            .Throw<UnreadableFileException>(() => incoming.Parcel(("x.zip", Zip(("papers.md", "---\nnachlass: 1\n---\n"u8.ToArray())))))
            .Message.ShouldContain("whole papers");
        Should
            .Throw<UnreadableFileException>(() => incoming.Parcel(("x.zip", [.. "PK\u0003\u0004"u8, 1, 2, 3])))
            .Message.ShouldContain("can't be unpacked");
        incoming.Parcel(("..\\..\\x.txt", "x"u8.ToArray())).Refused.ShouldHaveSingleItem().Reason.ShouldContain("leads out");
    }

    [Fact]
    public void A_clipped_page_is_what_is_to_be_read_on_it()
    {
        var paragraphs = string.Concat(
            Enumerable
                .Range(1, 12)
                .Select(i =>
                    $"<p>Paragraph {i}: the ferry was the only public building that moved, and the bell on the far bank woke the "
                    + "near one, whatever the hour and whoever had thought better of it.</p>"
                )
        );
        var found = Clip.Read(
            new ClippedPage(
                "https://walkers.example/bells#part",
                "Bells — Walkers",
                "the bell on the far bank",
                "<html lang=en><head><title>Bells — Walkers</title></head><body><nav><a "
                    + $"href=/>Home</a></nav><article><h1>Bells</h1>{paragraphs}<script>steal()</script></article>"
                    + "<footer>Cookies</footer></body></html>"
            ),
            Incoming.Today
        );
        found.ShouldSatisfyAllConditions(
            f => f.Address.ShouldBe("https://walkers.example/bells"),
            f => f.Text.ShouldContain("Paragraph 12"),
            f => f.Text.ShouldNotContain("Cookies"),
            f => f.Text.ShouldNotContain("steal"),
            f => f.Passages.ShouldHaveSingleItem().Text.ShouldBe("“the bell on the far bank”"),
            f => f.Details["accessed"].ShouldBe("2026-11-24")
        );
        Clip.Read(new ClippedPage("https://walkers.example/x"), Incoming.Today).Title.ShouldBe("walkers.example/x");
        Should
            .Throw<Core.Papers.BadInputException>(() => Clip.Read(new ClippedPage("file:///etc/passwd"), Incoming.Today))
            .Field.ShouldBe("address");
    }
}
