using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

/// <summary>Texts that are made to break their readers, or happen to.</summary>
public partial class NastyTextTests
{
    public static TheoryData<string, int> Nasty =>
        new()
        {
            { "[[", 64 },
            { "[[", 20_000 },
            { ">", 128 },
            { "> ", 5_000 },
            { "*a_ ", 10_000 },
            { "![a](", 8_000 },
            { "[", 20_000 },
            { "](", 20_000 },
            { "`a ``b ", 8_000 },
            { "<div>", 20_000 },
            { "<b>", 20_000 },
            { "</div>", 20_000 },
            { "<a ", 30_000 },
            { "<!--", 20_000 },
            { "|", 40_000 },
            { "- ", 5_000 },
            { "1. ", 5_000 },
            { "&#x", 20_000 },
            { "~~a ", 10_000 },
            { "{{", 20_000 },
            { "\\", 20_000 },
            { "- a\n", 30_000 },
            { "> a\n\n", 20_000 },
            { "# a\n", 30_000 },
            { "<b>a</b>\n\n", 10_000 },
            { "https://a.example ", 6_000 },
            { "[[P 3]] ", 30_000 },
        };

    [Theory]
    [MemberData(nameof(Nasty))]
    public void Whatever_is_written_can_be_read_as_the_words_it_is(string mark, int times)
    {
        var text = string.Concat(Enumerable.Repeat(mark, times)) + " four loaves";
        Reading.Html(text).ShouldContain("four loaves");
        Reading.HtmlForOutside(text).ShouldContain("four loaves");
        PlainText.Of(text).ShouldContain("four loaves");
        PlainText.Headline(text).Length.ShouldBeLessThanOrEqualTo(121);
        References.In(text);
        Counts.Of(text).Words.ShouldBeGreaterThan(0);
        FillIn.Fill(text, new DayFacts(new DateTime(2026, 11, 24, 8, 0, 0)).ByName()).Text.ShouldContain("four loaves");
        CaptureLine.Read(text, new DateOnly(2026, 11, 24));
    }

    [Theory]
    [InlineData("<Pell> he said.", "<Pell> he said.")]
    [InlineData("The <title> element.", "The <title> element.")]
    [InlineData("<title>\nA line, and *more*.\n\nThe rest.", "<title> A line, and more. The rest.")]
    [InlineData("a < b and <http-equiv=x> c", "a < b and <http-equiv=x> c")]
    [InlineData("<div>kept <title> and</div> on", "kept <title> and on")]
    [InlineData("<textarea> eats", "<textarea> eats")]
    [InlineData("<!-- not yet", "<!-- not yet")]
    public void What_only_looks_like_a_tag_is_words(string markdown, string words)
    {
        foreach (var html in (string[])[Reading.Html(markdown), Reading.HtmlForOutside(markdown)])
            Spaces().Replace(System.Net.WebUtility.HtmlDecode(Tags().Replace(html, "")), " ").Trim().ShouldBe(words);
    }

    [Fact]
    public void Allowed_tags_stay_tags()
    {
        Reading.Html("H<sub>2</sub>O and <kbd>Ctrl</kbd>").ShouldContain("H<sub>2</sub>O and <kbd>Ctrl</kbd>");
        Reading.Html("- [x] done\n- [ ] open").ShouldContain("checked");
    }

    [Theory]
    [InlineData("{{ 1 | divided_by: 0 }}")]
    [InlineData("{% if (((((((((((((((((((((((((((((1)))))))))))))))))))))))))))) %}x{% endif %}")]
    [InlineData("{{ a[a[a[a[a[a[a[a[a[a[a[a[a[a[a[1]]]]]]]]]]]]]]] }}")]
    [InlineData("{{ 99999999999999999999999999999999999999999999999 | times: 99999999999999999999999999999999 }}")]
    public void A_fill_in_that_can_not_be_filled_is_its_own_text_and_a_reason(string text)
    {
        var filled = FillIn.Fill("before " + text, new DayFacts(new DateTime(2026, 11, 24, 8, 0, 0)).ByName());
        filled.Text.ShouldBe("before " + text);
        filled.Fault!.Reason.ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData(5_000)]
    [InlineData(200)]
    public void Deep_conditions_and_brackets_are_refused(int depth)
    {
        foreach (
            var text in (string[])
                [
                    string.Concat(Enumerable.Repeat("{% if true %}", depth)) + string.Concat(Enumerable.Repeat("{% endif %}", depth)),
                    "{{ " + new string('(', depth) + "1" + new string(')', depth) + " }}",
                    "{{ a" + new string('[', depth) + " }}",
                ]
        )
            FillIn.Fill(text, new DayFacts(new DateTime(2026, 11, 24, 8, 0, 0)).ByName()).Fault.ShouldNotBeNull();
    }

    [Fact]
    public void A_line_kept_of_a_link_does_not_grow_with_its_sentence()
    {
        var text = "It was " + string.Concat(Enumerable.Range(1, 3_000).Select(i => $"as [[slip {i}]] has it and ")) + "so.";
        foreach (var reference in References.In(text))
        {
            var line = References.LineAround(text, reference.Start, reference.Length);
            line.Length.ShouldBeLessThan(540);
            line.ShouldContain($"[[{reference.Name}]]");
        }
        References.LineAround("One. Two [[slip 3]] words. Three.", 9, 10).ShouldBe("Two [[slip 3]] words.");
    }

    [Fact]
    public void Texts_that_show_each_other_many_times_do_not_unfold_without_end()
    {
        var text = string.Join("\n\n", Enumerable.Repeat("[[slip 1]]", 200));
        Inclusions
            .Expanded(text, slip => string.Join("\n\n", Enumerable.Repeat($"[[slip {slip.Value + 1}]]", 200)))
            .Length.ShouldBeLessThan(10_000_000);
        Inclusions
            .Circle(SlipNumber.Of(1), "[[slip 2]]", slip => slip.Value < 50_000 ? $"[[slip {slip.Value + 1}]]" : "[[slip 1]]")!
            .Count.ShouldBe(50_001);
    }

    [Theory]
    [InlineData("a\0b\u0007c\td\r\ne", "abc\td\r\ne")]
    [InlineData("whole 👩‍🌾", "whole 👩‍🌾")]
    [InlineData("\ufffe\uffff\u007fx", "x")]
    public void What_comes_in_is_text(string text, string clean) => PlainText.Cleaned(text).ShouldBe(clean);

    [Fact]
    public void Half_of_a_character_is_none() => PlainText.Cleaned("half \ud83d of \udc69 it").ShouldBe("half  of  it");

    [GeneratedRegex("<[^>]*>")]
    private static partial Regex Tags();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
