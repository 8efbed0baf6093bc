using System.Text;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;

namespace Nachlass.Store.Tests.Formats;

/// <summary>Cases made from the standards of the formats, one by one.</summary>
public sealed class StandardsTests : IDisposable
{
    private readonly Incoming incoming = new();

    public void Dispose() => incoming.Dispose();

    private FoundSlip Slip(string name, string content) => Incoming.Slips(incoming.Read(name, content)).ShouldHaveSingleItem();

    private FoundSource Source(string name, string content) => Incoming.Sources(incoming.Read(name, content)).ShouldHaveSingleItem();

    private string Page(string body) => Source("p.html", $"<html><head><title>T</title></head><body>{body}</body></html>").Text;

    // Feeds

    [Fact]
    public void RSS_1_with_its_modules_is_read_under_any_prefix_and_behind_blanks()
    {
        var slip = Slip(
            "f.rss",
            """


            <?xml version="1.0"?>
            <r:RDF xmlns:r="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns="http://purl.org/rss/1.0/"
              xmlns:meta="http://purl.org/dc/elements/1.1/" xmlns:whole="http://purl.org/rss/1.0/modules/content/">
            <channel r:about="https://n.example/"><title>Notices &amp; more</title><link>https://n.example/</link></channel>
            <item r:about="https://n.example/1"><title>The 5 * 4 <![CDATA[<b>rule</b>]]></title><link>https://n.example/1</link>
            <description>Short.</description><whole:encoded><![CDATA[<p>Long <em>text</em>.</p>]]></whole:encoded>
            <meta:creator>Ruth Adeyemi</meta:creator><meta:date>2026-11-21T08:00:00+01:00</meta:date><meta:subject>ferries</meta:subject>
            </item></r:RDF>
            """
        );
        slip.ShouldSatisfyAllConditions(
            s => s.Text.ShouldBe("The 5 * 4 rule\n\nShort."),
            s => s.Topics.ShouldBe(["ferries"]),
            s => s.CaughtAt.ShouldBe(new DateTimeOffset(2026, 11, 21, 7, 0, 0, TimeSpan.Zero)),
            s => s.Source!.Container.ShouldBe("Notices & more"),
            s => s.Source!.Creators.ShouldBe("Ruth Adeyemi"),
            s => s.Source!.Text.ShouldBe("Long *text*.")
        );
    }

    [Theory]
    [InlineData("text", "A &lt;b&gt; &amp;amp; *c*", "A \\<b> \\&amp; \\*c\\*")]
    [InlineData("html", "&lt;p&gt;A &amp;amp; &lt;b&gt;b&lt;/b&gt;&lt;/p&gt;", "A & **b**")]
    [InlineData("xhtml", "<x:div xmlns:x='http://www.w3.org/1999/xhtml'>A <x:b>b</x:b></x:div>", "A **b**")]
    public void The_text_kinds_of_Atom_are_words_html_or_elements(string type, string content, string expected) =>
        Slip(
            "f.atom",
            $"<a:feed xmlns:a='http://www.w3.org/2005/Atom' xml:base='https://n.example/dir/'><a:title>N</a:title>"
                + "<a:author><a:name>Inherited, I.</a:name></a:author><a:entry><a:id>1</a:id><a:title>T</a:title>"
                + $"<a:link href='page'/><a:content type='{type}'>{content}</a:content></a:entry></a:feed>"
        )
            .Source!.ShouldSatisfyAllConditions(
                s => s.Text.ShouldBe(expected),
                s => s.Creators.ShouldBe("Inherited, I."),
                s => s.Address.ShouldBe("https://n.example/dir/page")
            );

    [Fact]
    public void What_a_feed_attaches_has_no_place_and_is_told() =>
        incoming
            .Read(
                "f.rss",
                "<rss version='2.0'><channel><title>N</title><item><title>The &lt;title&gt; element</title>"
                    + "<author>r@n.example (Ruth Adeyemi)</author><guid isPermaLink='true'>https://n.example/7</guid>"
                    + "<enclosure url='https://n.example/a.mp3' type='audio/mpeg' length='1'/></item></channel></rss>"
            )
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfSlip>()
            .ShouldSatisfyAllConditions(
                f => f.Doubt!.ShouldContain("a.mp3"),
                f => f.Slip.Text.ShouldBe("The \\<title> element"),
                f => f.Slip.Source!.Title.ShouldBe("The <title> element"),
                f => f.Slip.Source!.Creators.ShouldBe("Ruth Adeyemi"),
                f => f.Slip.Source!.Address.ShouldBe("https://n.example/7")
            );

    // References

    [Fact]
    public void Lines_of_RIS_go_on_and_bodies_stay_whole()
    {
        var found = incoming.Read(
            "r.ris",
            "TY  - BOOK\nAU  - Wayfarers Union of the\n      Lower River\nAU  - Lunt, H.\nTI  - The price of\n  the far bank\nOP  - 1851\n"
                + "T3  - River papers\nN1  - One.\n   Two.\nER  - \n"
        );
        found
            .OfType<Found.OfSource>()
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                f => f.Source.Title.ShouldBe("The price of the far bank"),
                f => f.Source.Creators.ShouldBe("Wayfarers Union of the Lower River; Lunt, H."),
                f => f.Source.Details["original-date"].ShouldBe("1851"),
                f => f.Source.Comments.ShouldBe("One.\nTwo."),
                f => f.Doubt!.ShouldContain("T3 “River papers”")
            );
        PersonName.ReadAll("Wayfarers Union,; Lunt, H.").ShouldBe([new("Wayfarers Union", ""), new("Lunt", "H.")]);
    }

    [Fact]
    public void BibTeX_entries_take_what_they_lack_from_the_one_they_refer_to()
    {
        var found = incoming.Read(
            "r.bib",
            "@incollection{c, crossref={b}, title={The bell}, author={de la "
                + "Cruz, Jr, Ana and {Barnes and Noble} and others}, pages={3--9}}\n"
                + "@book{b, title={Sounds}, subtitle={of the river}, editor={Brandt, H.}, publisher={Harnsby}, year={1998}, series={X}}\n"
        );
        var first = found.OfType<Found.OfSource>().First();
        first.ShouldSatisfyAllConditions(
            f => f.Source.Container.ShouldBe("Sounds"),
            f => f.Source.Creators.ShouldBe("de la Cruz, Ana, Jr; Barnes and Noble"),
            f => f.Source.Date.ShouldBe("1998"),
            f => f.Source.Details["publisher"].ShouldBe("Harnsby"),
            f => f.Source.Details["editor"].ShouldBe("Brandt, H."),
            f => f.Doubt!.ShouldContain("others"),
            f => f.Doubt!.ShouldContain("series “X”")
        );
        Incoming.Sources(found).Last().Title.ShouldBe("Sounds: of the river");
        Incoming
            .Sources(incoming.Read("l.bib", "@book{a, crossref={b}, title={A}}\n@book{b, crossref={a}, title={B}}\n"))
            .Count()
            .ShouldBe(2);
    }

    [Theory]
    [InlineData("{\\'E}tude {\\\"u}ber \\O{}rsted \\& S{\\o}n", "Étude über Ørsted & Søn")]
    [InlineData("``The bell'' --- 3\\,\\% of $x$, \\LaTeX\\ and {\\th}orn", "“The bell” — 3% of x, LaTeX and þorn")]
    [InlineData("\\emph{On} \\textquoteleft it\\textquoteright{} \\enquote{so} 5\\,\\textdegree", "On ‘it’ “so” 5°")]
    [InlineData("{\\v{S}}koda, \\c{c}a, \\k{a}, \\H{o}, na{\\\"\\i}ve, \\pounds 5, \\ldots", "Škoda, ça, ą, ő, naïve, £5, …")]
    public void Letters_of_LaTeX_are_letters(string written, string expected) =>
        Source("r.bib", "@misc{a, title = {" + written + "}}").Title.ShouldBe(expected);

    [Fact]
    public void A_string_that_doubles_itself_is_bounded()
    {
        var doubling =
            "@string{a0 = {xxxxxxxxxx}}\n" + string.Concat(Enumerable.Range(1, 60).Select(i => $"@string{{a{i} = a{i - 1} # a{i - 1}}}\n"));
        Incoming
            .Unread(incoming.Read("d.bib", doubling + "@book{b, title = {T}}\n"))
            .ShouldContain(u => u.Reason.Contains("longer than", StringComparison.Ordinal));
    }

    [Fact]
    public void Names_dates_and_titles_of_CSL_are_read_in_their_parts()
    {
        var found = incoming
            .Read(
                "r.csl.json",
                """
                [{"type":"book","title":"The <i>price</i> of <span class=\"nocase\">bread</span> <5>",
                "author":[{"family":"Velde","given":"A.","non-dropping-particle":"van der"},
                {"family":"Humboldt","given":"A.","dropping-particle":"von","suffix":"Jr."},{"literal":"Harbour Trust, Ltd."}],
                "translator":[{"family":"Marchetti","given":"O."}],"original-date":{"date-parts":[[1851,3]]},
                "issued":{"date-parts":[[1998]],"circa":true},"number-of-pages":"312"}]
                """
            )
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfSource>();
        found.ShouldSatisfyAllConditions(
            f => f.Source.Title.ShouldBe("The price of bread <5>"),
            f => f.Source.Creators.ShouldBe("van der Velde, A.; Humboldt, A. von, Jr.; Harbour Trust, Ltd.,"),
            f => f.Source.Details["translator"].ShouldBe("Marchetti, O."),
            f => f.Source.Details["original-date"].ShouldBe("1851-03"),
            f => f.Doubt!.ShouldContain("circa"),
            f => f.Doubt!.ShouldContain("number-of-pages “312”")
        );
    }

    // Pages

    [Fact]
    public void The_words_of_a_page_are_no_marks()
    {
        var text = Page("<p>1. The *star* and &lt;Pell&gt; said [[so]] #here &amp;amp; more</p><p># none</p><p>&gt; none</p><p>- none</p>");
        text.ShouldBe("1\\. The \\*star\\* and \\<Pell> said \\[[so]] \\#here \\&amp; more\n\n\\# none\n\n\\> none\n\n\\- none");
        PlainText.Of(text).ShouldBe("1. The *star* and <Pell> said [[so]] #here &amp; more\n\n# none\n\n> none\n\n- none");
    }

    [Theory]
    [InlineData("<ol start=4><li>a<li value=9>b<li>c</ol>", "4. a\n9. b\n10. c")]
    [InlineData("<ul><li><p>a</p><p>b</p><ul><li>c</ul></ul>", "- a\n\n  b\n  - c")]
    [InlineData("<ol><li>a<ol start=3><li>b</ol></ol>", "1. a\n\n   3. b")]
    [InlineData("<pre>a\n```\n\nb</pre>", "````\na\n```\n\nb\n````")]
    [InlineData("<p>so <code>a`b</code> and <code>`</code>", "so ``a`b`` and `` ` ``")]
    [InlineData("<div hidden>no</div><p>yes<span style='display: none'>no</span></p><dialog>no</dialog>", "yes")]
    [InlineData("<form><p>An old page <input value=no> <b>whole</b></p></form>", "An old page **whole**")]
    [InlineData("<table><tr><td><table><tr><td>a<td>b</table><td>c</table>", "| a | b |\n| --- | --- |\n\nc")]
    [InlineData("<table><caption>Dues</caption><tr><th colspan=2>k<tr><td>1<td>2</table>", "Dues\n\n| k |  |\n| --- | --- |\n| 1 | 2 |")]
    [InlineData("<p>a<br><br>b", "a\n\nb")]
    [InlineData("<ul><li><div>a</div><div>b</div></ul>", "- a\n\n  b")]
    [InlineData("<p>wor<b>d</b>s <b>“so”</b>said <i><i>x</i></i> <q>y</q>", "wor**d**s “so”said *x* “y”")]
    [InlineData("<p><a href='https://x.example/a(b)'>see [1]</a>", "[see \\[1\\]](https://x.example/a%28b%29)")]
    public void Pages_keep_their_lists_code_tables_and_nothing_unseen(string html, string expected)
    {
        var text = Page(html);
        text.ShouldBe(expected);
        // What it says is what a reader of it sees.
        Reading.Html(text).ShouldNotContain("no<");
    }

    // Mail

    private const string Head =
        "From: Tom Ashby <tom@readers.example>\nTo: Ines <i@x.example>, Ruth <r@x.example>\nCc: Pell <p@x.example>\n"
        + "Date: Mon, 16 Nov 2026 09:12:00 +0000\nSubject: The bell\nMIME-Version: 1.0\n";

    [Fact]
    public void Every_text_of_a_mail_comes_in_and_what_has_no_place_is_told()
    {
        var found = incoming
            .Read(
                "m.eml",
                Head
                    + "Content-Type: multipart/mixed; boundary=x\n\n--x\nContent-Type: text/plain\n\nFirst * part.\n--x\n"
                    + "Content-Type: multipart/alternative; boundary=y\n\n--y\nContent-Type: text/plain\n\nSecond, plain.\n--y\n"
                    + "Content-Type: text/html\n\n<p>Second, styled.</p>\n--y--\n--x\nContent-Type: image/png; name=bell.png\n"
                    + "Content-Disposition: inline\nContent-Transfer-Encoding: base64\n\niVBORw0KGgo=\n--x\n"
                    + "Content-Type: message/rfc822\n\nFrom: Jonas Pell <j@x.example>\nSubject: Forwarded\n"
                    + "Date: Sun, 15 Nov 2026 09:00:00 +0000\n\nThe third "
                    + "text.\n--x\nContent-Type: application/pgp-signature\n\nxx\n--x--\n"
            )
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfSlip>();
        found.ShouldSatisfyAllConditions(
            f => f.Slip.Text.ShouldBe("First * part.\n\nSecond, plain.\n\nForwarded, Jonas Pell, 2026-11-15\n\nThe third text."),
            f => f.Slip.Source!.Files.ShouldHaveSingleItem().Name.ShouldBe("bell.png"),
            f => f.Slip.Source!.Details["recipient"].ShouldBe("Ines; Ruth"),
            f => f.Doubt!.ShouldContain("copies to “Pell”"),
            f => f.Doubt!.ShouldContain("its signature")
        );
    }

    [Fact]
    public void The_letter_may_be_the_second_part_and_what_an_answer_repeats_stays_with_the_message() =>
        Slip(
                "m.eml",
                Head
                    + "Content-Type: multipart/mixed; boundary=x\n\n--x\nContent-Type: text/plain\n\n\n--x\nContent-Type: text/html\n\n"
                    + "<p>The <b>letter</b>.</p>\n--x\nContent-Type: text/plain\n\nYes.\n\nOn Sunday Ines wrote:\n> old\n--x--\n"
            )
            .ShouldSatisfyAllConditions(
                s => s.Text.ShouldBe("The **letter**.\n\nYes."),
                s => s.Source!.Text.ShouldBe("The **letter**.\n\nYes.\n\nOn Sunday Ines wrote:\n\\> old")
            );

    [Fact]
    public void A_told_length_holds_a_mail_together_and_a_wrong_one_does_not()
    {
        const string body = "First.\n\nFrom x Mon Nov 16 09:12:00 2026\nSubject: still the first\n\n>From here.\n";
        string Mail(int length, string subject) =>
            $"From a Mon Nov 16 09:12:00 2026\nFrom: A <a@b.example>\nSubject: {subject}\nContent-Length: {length}\n\n";
        string Letters(int length) => Mail(length, "one") + body + "\n" + Mail(7, "two") + "Second.\n";
        Incoming.Slips(incoming.Read("m.mbox", Letters(body.Length))).Select(s => s.Source!.Title).ShouldBe(["one", "two"]);
        Incoming.Slips(incoming.Read("m.mbox", Letters(3))).Select(s => s.Source!.Title).ShouldBe(["one", "still the first", "two"]);
    }

    // Calendars

    [Fact]
    public void Events_last_as_long_as_they_say_and_what_has_no_place_is_told()
    {
        var found = incoming.Read(
            "c.ics",
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Three days\r\nDTSTART;VALUE=DATE:20261206\r\nDURATION:P3D\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Until "
                + "midnight\r\nDTSTART:20261206T200000\r\nDTEND:20261207T000000\r\nLOCATION:Hall\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Every second\r\nDTSTART;VALUE=DATE:20261206\r\nRRULE:FREQ=YEARLY;INTERVAL=2\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Fourth "
                + "Thursday\r\nDTSTART;VALUE=DATE:20261126\r\nRRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Ended\r\nDTSTART;VALUE=DATE:20201206\r\nRRULE:FREQ=YEARLY;UNTIL=20231206\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Called off\r\nDTSTART;VALUE=DATE:20261206\r\nSTATUS:CANCELLED\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nSUMMARY:Plain\r\nDTSTART;VALUE=DATE:20261206\r\n"
                + "RRULE:FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=6\r\nEND:VEVENT\r\n"
                + "BEGIN:VTODO\r\nSUMMARY:Done\r\nSTATUS:COMPLETED\r\nCOMPLETED:20261101T101500Z\r\n"
                + "DESCRIPTION:How\r\nEND:VTODO\r\nEND:VCALENDAR\r\n"
        );
        found
            .OfType<Found.OfOccasion>()
            .Select(o => (o.Name, o.From.Day, o.To.Day, o.EveryYear || o.Recurs is not null))
            .ShouldBe([
                ("Three days", 6, 8, false),
                ("Until midnight", 6, 6, false),
                ("Every second", 6, 6, false),
                ("Fourth Thursday", 26, 26, true),
                ("Ended", 6, 6, false),
                ("Called off", 6, 6, false),
                ("Plain", 6, 6, true),
            ]);
        found
            .OfType<Found.OfOccasion>()
            .Select(o => o.Doubt)
            .ShouldBe([
                null,
                "there is no place here for its time “20:00–00:00”, its place “Hall”.",
                "it comes only every 2 years; only its first date comes in.",
                null,
                "its rule ends some day; only its first date comes in.",
                "it was cancelled.",
                null,
            ]);
        found.OfType<Found.OfOccasion>().Single(o => o.Name == "Fourth Thursday").Recurs.ShouldBe("FREQ=MONTHLY;BYDAY=4TH;BYMONTH=11");
        found
            .OfType<Found.OfMove>()
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                m => m.DoneAt.ShouldBe(new DateTimeOffset(2026, 11, 1, 10, 15, 0, TimeSpan.Zero)),
                m => m.Doubt!.ShouldContain("its text “How”")
            );
    }

    [Fact]
    public void A_letter_folded_in_its_middle_is_one()
    {
        var line = Encoding.UTF8.GetBytes("SUMMARY:Fähre");
        var cut = Array.IndexOf(line, (byte)0xC3) + 1;
        byte[] folded =
        [
            .. "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n"u8,
            .. line[..cut],
            .. "\r\n "u8,
            .. line[cut..],
            .. "\r\nDTSTART;VALUE=DATE:20261206\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"u8,
        ];
        Incoming.Read(incoming.File("c.ics", folded)).ShouldHaveSingleItem().ShouldBeOfType<Found.OfOccasion>().Name.ShouldBe("Fähre");
    }

    // Transcripts

    [Theory]
    [InlineData(
        "t.vtt",
        "WEBVTT - talk\nKind: captions\n\nNOTE\nnothing\n\nSTYLE\n::cue {}\n\nNOTE this id\n00:01.000 --> 00:02.000\nNOTE that.\n\n"
            + "00:03.000 --> 00:04.000\n<v Jonas Pell><Ostrey> &amp; back\n00:05.000 --> 00:06.000\nLast",
        "NOTE that.|Jonas Pell: <Ostrey> & back|Last"
    )]
    [InlineData(
        "t.srt",
        "1\n00:00:01,000 --> 00:00:02,000\nNOTE that.\n2\n00:00:03,000 --> 00:00:04,000\n<i>In</i>\n1984\n\n3\n"
            + "00:00:05,000 --> 00:00:06,000\n<Pell> &amp; so",
        "NOTE that.|In 1984|<Pell> &amp; so"
    )]
    public void Cues_begin_at_their_times_and_keep_their_words(string name, string content, string expected)
    {
        var found = incoming.Read(name, content);
        Incoming.Unread(found).ShouldBeEmpty();
        string.Join('|', Incoming.Sources(found).Single().Transcript.Select(l => (l.Speaker.Length > 0 ? l.Speaker + ": " : "") + l.Text))
            .ShouldBe(expected);
    }

    [Fact]
    public void A_long_cue_is_cut_between_words_and_none_of_them_is_lost()
    {
        var words = string.Join(' ', Enumerable.Range(0, 4_000));
        var lines = Source("t.vtt", $"WEBVTT\n\n00:00.000 --> 01:00.000\n{words}\n").Transcript;
        lines.Count.ShouldBe(4);
        string.Join(' ', lines.Select(l => l.Text)).ShouldBe(words);
        lines.ShouldAllBe(l => l.Text.Length <= Transcript.LongestLine && l.To > l.From && l.To <= 60_000);
    }

    // Documents

    /// <summary>A document of these blocks of WordprocessingML, with two lists, a note at the foot and one at the end.</summary>
    private InFile Document(string body)
    {
        const string w = "xmlns:w='http://schemas.openxmlformats.org/wordprocessingml/2006/main'";
        using var memory = new MemoryStream();
        using (var document = WordprocessingDocument.Create(memory, WordprocessingDocumentType.Document))
        {
            var part = document.AddMainDocumentPart();
            Put(
                part,
                $"<w:document {w} xmlns:mc='http://schemas.openxmlformats.org/markup-compatibility/2006' "
                    + "xmlns:v='urn:schemas-microsoft-com:vml'"
                    + " xmlns:wps='http://schemas.microsoft.com/office/word/2010/wordprocessingShape' "
                    + "xmlns:a='http://schemas.openxmlformats.org/drawingml/2006/main'"
                    + " xmlns:wp='http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing'>"
                    + $"<w:body>{body}</w:body></w:document>"
            );
            Put(
                part.AddNewPart<NumberingDefinitionsPart>(),
                $"<w:numbering {w}><w:abstractNum w:abstractNumId='0'><w:lvl "
                    + "w:ilvl='0'><w:start w:val='3'/><w:numFmt w:val='decimal'/></w:lvl>"
                    + "<w:lvl w:ilvl='1'><w:start w:val='1'/><w:numFmt w:val='lowerLetter'/></w:lvl></w:abstractNum>"
                    + "<w:abstractNum w:abstractNumId='1'><w:lvl w:ilvl='0'><w:numFmt w:val='bullet'/></w:lvl></w:abstractNum>"
                    + "<w:num w:numId='1'><w:abstractNumId w:val='0'/></w:num><w:num "
                    + "w:numId='2'><w:abstractNumId w:val='1'/></w:num></w:numbering>"
            );
            Put(
                part.AddNewPart<FootnotesPart>(),
                $"<w:footnotes {w}><w:footnote w:id='1'><w:p><w:r><w:t>at the "
                    + "foot</w:t></w:r><w:r><w:footnoteReference w:id='1'/></w:r></w:p>"
                    + "</w:footnote></w:footnotes>"
            );
            Put(
                part.AddNewPart<EndnotesPart>(),
                $"<w:endnotes {w}><w:endnote w:id='1'><w:p><w:r><w:t>at the end</w:t></w:r></w:p></w:endnote></w:endnotes>"
            );
            Put(
                part.AddNewPart<StyleDefinitionsPart>(),
                $"<w:styles {w}><w:style w:type='paragraph' w:styleId='L'><w:pPr>"
                    + "<w:numPr><w:numId w:val='2'/></w:numPr></w:pPr></w:style></w:styles>"
            );
        }
        return incoming.File("d.docx", memory.ToArray());

        static void Put(OpenXmlPart part, string xml)
        {
            using var stream = new MemoryStream(Encoding.UTF8.GetBytes(xml));
            part.FeedData(stream);
        }
    }

    private static string P(string text, string properties = "") =>
        $"<w:p><w:pPr>{properties}</w:pPr><w:r><w:t xml:space='preserve'>{text}</w:t></w:r></w:p>";

    private static string N(string text, int list, int level = 0) =>
        P(text, $"<w:numPr><w:ilvl w:val='{level}'/><w:numId w:val='{list}'/></w:numPr>");

    public static TheoryData<string, string> Documents =>
        new()
        {
            {
                N("a", 1)
                    + N("x", 1, 1)
                    + N("y", 1, 1)
                    + N("b", 1)
                    + P("between")
                    + N("c", 1)
                    + N("d", 2)
                    + P("styled", "<w:pStyle w:val='L'/>"),
                "3. a\n   1. x\n   2. y\n4. b\n\nbetween\n\n5. c\n- d\n- styled"
            },
            {
                "<w:p><w:r><w:t>One</w:t></w:r><w:r><w:footnoteReference w:id='1'/></w:r><w:r><w:t xml:space='preserve'> two</w:t></w:r>"
                    + "<w:r><w:endnoteReference w:id='1'/></w:r></w:p>",
                "One (at the foot) two (at the end)"
            },
            {
                "<w:p><w:r><mc:AlternateContent><mc:Choice Requires='wps'><w:drawing><wp:inline><a:graphic><a:graphicData "
                    + "uri='http://schemas.microsoft.com/office/word/2010/wordprocessingShape'><wps:wsp><wps:txbx><w:txbxContent>"
                    + P("in the box")
                    + "</w:txbxContent></wps:txbx></wps:wsp></a:graphicData></a:graphic></wp:inline>"
                    + "</w:drawing></mc:Choice><mc:Fallback><w:pict><v:textbox><w:txbxContent>"
                    + P("in the box")
                    + "</w:txbxContent></v:textbox></w:pict></mc:Fallback>"
                    + "</mc:AlternateContent></w:r><w:r><w:t>beside it</w:t></w:r></w:p>",
                "beside it\n\nin the box"
            },
            {
                "<w:sdt><w:sdtPr/>"
                    + $"<w:sdtContent>{P("controlled")}<w:sdt><w:sdtContent>{P("twice")}</w:sdtContent></w:sdt></w:sdtContent></w:sdt>"
                    + "<w:p><w:sdt><w:sdtContent><w:r><w:t>in line</w:t></w:r></w:sdtContent></w:sdt></w:p>",
                "controlled\n\ntwice\n\nin line"
            },
            {
                "<w:p><w:r><w:fldChar w:fldCharType='begin'/></w:r><w:r><w:instrText> "
                    + "REF a </w:instrText></w:r><w:r><w:t>not this</w:t></w:r>"
                    + "<w:r><w:fldChar w:fldCharType='separate'/></w:r><w:r><w:t>chapter "
                    + "3</w:t></w:r><w:r><w:fldChar w:fldCharType='end'/></w:r>"
                    + "<w:fldSimple w:instr=' PAGE '><w:r><w:t xml:space='preserve'>, page 7</w:t></w:r></w:fldSimple></w:p>",
                "chapter 3, page 7"
            },
            {
                "<w:p><w:moveFrom w:id='1'><w:r><w:t>was here</w:t></w:r></w:moveFrom>"
                    + "<w:del w:id='2'><w:r><w:delText>gone</w:delText></w:r></w:del>"
                    + "<w:moveTo w:id='3'><w:r><w:t>is here</w:t></w:r></w:moveTo><w:ins "
                    + "w:id='4'><w:r><w:t xml:space='preserve'> now</w:t></w:r></w:ins></w:p>",
                "is here now"
            },
            {
                "<w:tbl><w:tr><w:tc>"
                    + P("a")
                    + "</w:tc><w:sdt><w:sdtContent><w:tc>"
                    + P("b|c")
                    + "</w:tc></w:sdtContent></w:sdt></w:tr>"
                    + "<w:tr><w:tc><w:tcPr><w:gridSpan w:val='2'/></w:tcPr>"
                    + P("wide")
                    + "</w:tc></w:tr></w:tbl>",
                "| a | b\\|c |\n| --- | --- |\n| wide |  |"
            },
            {
                "<w:tbl><w:tr><w:tc><w:tbl><w:tr><w:tc>"
                    + P("in")
                    + "</w:tc><w:tc>"
                    + P("side")
                    + "</w:tc></w:tr></w:tbl>"
                    + P("")
                    + "</w:tc><w:tc>"
                    + P("out")
                    + "</w:tc></w:tr></w:tbl>",
                "| in | side |\n| --- | --- |\n\nout"
            },
            { P("1. no list, *no* mark, [[no]] link") + P("# none"), "1\\. no list, \\*no\\* mark, \\[[no]] link\n\n\\# none" },
        };

    [Theory]
    [MemberData(nameof(Documents))]
    public void A_document_is_all_that_is_to_be_read_in_it(string body, string expected) =>
        Incoming.Read(Document(body)).ShouldHaveSingleItem().ShouldBeOfType<Found.OfPiece>().Draft.ShouldBe(expected);

    [Fact]
    public void What_a_document_has_beside_its_text_is_told() =>
        Incoming
            .Read(Document(P("words") + "<w:p><w:r><w:drawing/></w:r><w:r><w:commentReference w:id='1'/></w:r></w:p>"))
            .ShouldHaveSingleItem()
            .Doubt.ShouldBe("there is no place here for a picture, a comment.");

    // Outlines and tables

    [Fact]
    public void Branches_with_notes_addresses_and_long_texts_of_an_outline_are_slips_too()
    {
        var branch = new string('x', 61);
        var found = incoming.Read(
            "o.opml",
            "<opml version='2.0'><body><outline text='river'><outline text='fords' _note='Heard.'><outline text='north'>"
                + "<outline text='Leaf' type='link' url='https://x.example/1' created='Mon, 16 Nov 2026 09:12:00 GMT' _state='done'/>"
                + $"</outline></outline></outline><outline text='{branch}'><outline text='Under'/></outline></body></opml>"
        );
        found.OfType<Found.OfSlip>().Select(f => f.Slip.Text).ShouldBe(["fords\n\nHeard.", "Leaf", branch, "Under"]);
        var leaf = found.OfType<Found.OfSlip>().ElementAt(1);
        leaf.ShouldSatisfyAllConditions(
            f => f.Slip.Topics.ShouldBe(["fords", "north"]),
            f => f.Slip.Source!.Address.ShouldBe("https://x.example/1"),
            f => f.Slip.CaughtAt!.Value.Hour.ShouldBe(9),
            f => f.Doubt!.ShouldContain("the branches “river”"),
            f => f.Doubt!.ShouldContain("_state “done”")
        );
    }

    [Fact]
    public void Every_line_end_within_a_cell_is_a_line_end() =>
        Incoming
            .Slips(incoming.Read("t.csv", "text,topics\r\n\"one\r\ntwo\rthree\nfour\",\"law; night\"\r\n"))
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(s => s.Text.ShouldBe("one\ntwo\nthree\nfour"), s => s.Topics.ShouldBe(["law", "night"]));
}
