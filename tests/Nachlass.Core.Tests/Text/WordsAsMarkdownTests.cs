using System.Text;
using AngleSharp.Html.Parser;
using CsCheck;
using Nachlass.Core.Capture;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

/// <summary>Words of others are words, whatever signs they have.</summary>
public sealed class WordsAsMarkdownTests
{
    private static readonly string[] Bits =
    [
        "word",
        "*",
        "**",
        "_",
        "__",
        "a_b",
        "`",
        "``",
        "[",
        "]",
        "[[",
        "]]",
        "(",
        ")",
        "](",
        "[x]",
        "[ ]",
        ":",
        "<",
        ">",
        "<Pell>",
        "</b>",
        "<!--",
        "&",
        "&amp;",
        "&#35;",
        "#",
        "##",
        "#topic",
        "C#",
        "1.",
        "12)",
        "-",
        "+",
        "---",
        "===",
        "***",
        "|",
        "|---|",
        "a | b",
        "~~",
        "~~~",
        "\\",
        "\\*",
        "!",
        "![",
        "\n",
        "\n",
        " ",
        " ",
        "\t",
        "     ",
        ".",
        "é",
        "👩‍🌾",
        "[[slip 2]]",
        "- [ ] do",
        "> said",
        "$x$",
    ];

    private static readonly Gen<string> Words = Gen.Int[0, Bits.Length - 1]
        .List[1, 9]
        .Select(list => string.Concat(list.Select(i => Bits[i])))
        // An empty line divides paragraphs, which is no mark.
        .Select(text => System.Text.RegularExpressions.Regex.Replace(text, @"\n\s*\n", "\n").Trim());

    private static string Spaced(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    private static string Shown(string markdown)
    {
        var body = new HtmlParser().ParseDocument(Reading.Html(markdown)).Body!;
        body.QuerySelectorAll("*").Select(e => e.LocalName).ShouldAllBe(name => name == "p" || name == "br", markdown);
        return Spaced(body.TextContent);
    }

    [Fact]
    public void A_line_of_dashes_and_bars_under_another_makes_no_table() =>
        Shown(WordsAsMarkdown.Of("a | b\n-|---|")).ShouldBe("a | b -|---|");

    [Fact]
    public void Every_word_is_shown_as_it_is_and_none_is_a_mark() =>
        Words.Sample(
            words =>
            {
                var markdown = WordsAsMarkdown.Of(words);
                Shown(markdown).ShouldBe(Spaced(words), markdown);
                Spaced(PlainText.Of(markdown)).ShouldBe(Spaced(words), markdown);
                References.In(markdown).ShouldBeEmpty(markdown);
                var read = CaptureLine.Read(markdown, new DateOnly(2026, 11, 24));
                (read.Becomes, read.Topics.Count).ShouldBe((Becomes.Slip, 0), markdown);
            },
            iter: 3_000,
            threads: 1
        );

    [Fact]
    public void Words_put_together_bit_by_bit_make_no_mark_either() =>
        Words
            .List[1, 4]
            .Sample(
                bits =>
                {
                    var text = new StringBuilder();
                    foreach (var bit in bits)
                        WordsAsMarkdown.Append(text, bit.Replace('\n', ' '));
                    Shown(WordsAsMarkdown.LineStarts(text.ToString()))
                        .ShouldBe(Spaced(string.Concat(bits).Replace('\n', ' ')), text.ToString());
                },
                iter: 1_000,
                threads: 1
            );

    [Theory]
    [InlineData("It cost 3 * 4 pence, or some_thing [sic], at https://a.example/x_y_(z).")]
    [InlineData("Bread & cheese - “four loaves”, no. 1 of 1784. And C# too.")]
    public void Plain_sentences_stay_as_they_are(string words) => WordsAsMarkdown.Of(words).ShouldBe(words);
}
