using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class ReadingTests
{
    [Theory]
    [InlineData("<script>alert(1)</script>hello", "<script")]
    [InlineData("<div><script>alert(1)</script></div>", "<script")]
    [InlineData("<img src=x onerror=alert(1)>", "onerror")]
    [InlineData("[click](javascript:alert(1))", "javascript")]
    [InlineData("<a href=\"data:text/html,x\">x</a>", "data:")]
    [InlineData("<p style=\"position:fixed\">x</p>", "style")]
    [InlineData("<iframe src=//evil.example></iframe>", "<iframe")]
    [InlineData("<form action=//evil.example><input name=q><button>go</button></form>", "<form")]
    [InlineData("[[\"><script>alert(1)</script>]]", "<script")]
    public void Nothing_dangerous_is_shown(string markdown, string gone)
    {
        Reading.Html(markdown).ShouldNotContain(gone, Case.Insensitive);
        Reading.HtmlForOutside(markdown).ShouldNotContain(gone, Case.Insensitive);
    }

    [Fact]
    public void Markdown_reads_as_it_should()
    {
        var html = Reading.Html("# Title\n\nSome *words*.\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n- [x] done\n");
        html.ShouldContain("<h1");
        html.ShouldContain("<em>words</em>");
        html.ShouldContain("<td>1</td>");
        html.ShouldContain("type=\"checkbox\"");
        html.ShouldContain("disabled");
    }

    [Fact]
    public void References_lead_to_their_things_inside()
    {
        var html = Reading.Html("see [[slip 214]], [[P 12]] and [[flood marks]]");
        html.ShouldContain("href=\"/library/slip/214\"");
        html.ShouldContain("href=\"/bench/12\"");
        html.ShouldContain("href=\"/go/flood%20marks\"");
    }

    [Fact]
    public void Outside_there_are_no_brackets_and_no_numbers_of_ours()
    {
        const string text = "Paid in bread.[[slip 171]] Four loaves [[slip 30]], as in [[The bread column]].";
        Reading.HtmlForOutside(text).ShouldNotContain("[[");
        Reading.HtmlForOutside(text).ShouldNotContain("171");
    }

    [Theory]
    [InlineData("One. Two [[slip 3]] words. Three.", "Two [[slip 3]] words.")]
    [InlineData("Four loaves. [[slip 3]] Coin was no use.", "Four loaves.")]
    [InlineData("only [[slip 3]]", "only [[slip 3]]")]
    [InlineData("a line\nsee [[slip 3]] here\nand on", "see [[slip 3]] here")]
    [InlineData("Dr. no? Yes! See [[slip 3]]!", "See [[slip 3]]!")]
    [InlineData(
        "The book has it at f. 31r [[slip 3]] and twice on p. 40. Not later.",
        "The book has it at f. 31r [[slip 3]] and twice on p. 40."
    )]
    [InlineData("So says J. Pell in [[slip 3]]. He would.", "So says J. Pell in [[slip 3]].")]
    public void The_sentence_around_a_reference_is_found(string text, string sentence)
    {
        var reference = References.In(text).ShouldHaveSingleItem();
        References.SentenceAround(text, reference.Start, reference.Length).ShouldBe(sentence);
    }

    [Theory]
    [InlineData("slip 214", ThingKind.Slip, 214)]
    [InlineData("Source 9", ThingKind.Source, 9)]
    [InlineData("P 12", ThingKind.Piece, 12)]
    [InlineData("p12", ThingKind.Piece, 12)]
    public void Numbers_are_read_with_their_kind(string inside, ThingKind kind, int number) =>
        References.Read(inside).Thing.ShouldBe(new Reference(kind, number));

    [Theory]
    [InlineData("slip zero")]
    [InlineData("slip 0")]
    [InlineData("flood marks")]
    public void Anything_else_is_a_name(string inside) => References.Read(inside).Thing.ShouldBeNull();

    [Theory]
    [InlineData("# A title\n\nand text", "A title")]
    [InlineData("\n\n> “Four loaves” [[slip 3]]", "“Four loaves” slip 3")]
    [InlineData("", "")]
    public void A_text_is_called_by_its_first_line(string text, string headline) => PlainText.Headline(text).ShouldBe(headline);

    [Fact]
    public void A_long_headline_is_cut_at_a_word()
    {
        var headline = PlainText.Headline(string.Join(' ', Enumerable.Repeat("ferryman", 50)), 60);
        headline.Length.ShouldBeLessThanOrEqualTo(60);
        headline.ShouldEndWith("ferryman…");
    }
}
