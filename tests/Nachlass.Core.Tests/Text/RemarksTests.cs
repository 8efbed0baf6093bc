using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public sealed class RemarksTests
{
    [Theory]
    [InlineData("Bread <!-- ask Pell -->was paid.", "Breadwas paid.")]
    [InlineData("Bread <!-- ask Pell --> was paid.", "Bread was paid.")]
    [InlineData("One.\n\n<!-- two\n\nlines -->\n\nTwo.", "One.\n\nTwo.")]
    [InlineData("<!-- first -->\nOne.", "One.")]
    [InlineData("Never <!-- closed.", "Never <!-- closed.")]
    [InlineData("As \\<!-- words -->.", "As \\<!-- words -->.")]
    [InlineData("One.\n<!-- last -->", "One.\n")]
    public void A_text_without_its_remarks(string text, string without) => Remarks.Without(text).ShouldBe(without);

    [Fact]
    public void They_are_read_with_their_places_and_counted_nowhere()
    {
        const string text = "Bread. <!-- ask Pell --> More. <!---->";
        var remarks = Remarks.In(text);
        remarks.Select(r => r.Text).ShouldBe(["ask Pell", ""]);
        text[remarks[0].From..remarks[0].To].ShouldBe("<!-- ask Pell -->");
        Counts.Of(text).Words.ShouldBe(2);
        // On the desk nothing that was written is hidden.
        Reading.Html(text).ShouldContain("Pell");
        Reading.HtmlForOutside(text).ShouldNotContain("Pell");
    }

    [Fact]
    public void Whatever_is_written_none_is_left_and_nothing_else_goes() =>
        Gen.String[Gen.Char["ab \n<!->"], 0, 60]
            .Sample(text =>
            {
                var rest = Remarks.Without(text);
                var words = text;
                foreach (var remark in Remarks.In(text).Reverse())
                    words = words[..remark.From] + words[remark.To..];
                string Letters(string of) => string.Concat(of.Where(c => !char.IsWhiteSpace(c)));
                Letters(rest).ShouldBe(Letters(words));
            });
}

public sealed class FootnotesTests
{
    private const string Text =
        "Bread.[^1] Coin.[^b]\n\n[^b]: Not *really*.\n[^1]: Account book,\nf. 31.\n\n## Next\n\nMore.\n\n[^9]: Of nothing.\n";

    [Fact]
    public void Notes_are_read_and_stand_at_the_end_in_the_order_of_the_text()
    {
        Footnotes
            .In("[^b]: Not *really*.\n\n[^1]: Account book,\nf. 31.")
            .Select(n => n.Text)
            .ShouldBe(["Not *really*.", "Account book,\nf. 31."]);
        Footnotes
            .AtEnd("Bread.[^1] Coin.[^b]\n\n[^b]: Not *really*.\n\n[^1]: Account book,\nf. 31.\n\n## Next\n\nMore.\n\n[^9]: Of nothing.\n")
            .ShouldBe("Bread.[^1] Coin.[^b]\n\n## Next\n\nMore.\n\n[^1]: Account book,\nf. 31.\n\n[^b]: Not *really*.\n");
        Footnotes.References(Text).Select(r => r.Key).ShouldBe(["1", "b"]);
        Footnotes.NextKey(Text).ShouldBe("10");
        Footnotes.NextKey("").ShouldBe("1");
    }

    [Fact]
    public void Outside_they_are_notes_with_ways_there_and_back()
    {
        var html = Reading.HtmlForOutside("Bread.[^1]\n\n[^1]: Account book.");
        html.ShouldContain("class=\"footnote-ref\"");
        html.ShouldContain("id=\"fn:1\"");
        Reading.HtmlForOutside("<b id=\"toc\">x</b>").ShouldNotContain("id=");
        Counts.Of("Bread.[^1]\n\n[^1]: Account book.").Words.ShouldBe(3);
    }
}
