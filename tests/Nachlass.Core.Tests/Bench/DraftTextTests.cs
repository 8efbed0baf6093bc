using CsCheck;
using Nachlass.Core.Bench;

namespace Nachlass.Core.Tests.Bench;

public class DraftTextTests
{
    [Fact]
    public void Headings_make_the_parts()
    {
        var (lead, parts) = DraftText.Split("before\n\n## One\n\ntext\n### Inside ##\nmore\n# Top\n");
        lead.ShouldBe("before\n\n");
        parts.Select(p => (p.Title, p.Depth)).ShouldBe([("One", 1), ("Inside", 2), ("Top", 1)]);
        parts[0].Body.ShouldBe("\ntext\n");
        parts[2].Body.ShouldBe("");
    }

    [Theory]
    [InlineData("```\n## not one\n```\n")]
    [InlineData("~~~\n# not one\n")]
    [InlineData("#hash is no heading\n")]
    [InlineData("##\n")]
    [InlineData("####### seven\n")]
    public void Other_lines_are_no_headings(string text) => DraftText.Split(text).Parts.ShouldBeEmpty();

    [Fact]
    public void Nothing_is_lost_in_taking_apart_and_putting_together()
    {
        var piece = Some.Of(
            "## A\n",
            "### B\n",
            "text\n",
            "\n",
            "```\n",
            "## C",
            " ## D\n",
            "#\n",
            "x",
            "\r\n",
            "~~~\n",
            "###### deep ##\n"
        );
        piece
            .List[0, 40]
            .Select(string.Concat)
            .Sample(
                text =>
                {
                    var (lead, parts) = DraftText.Split(text);
                    return DraftText.Compose(lead, parts) == text;
                },
                iter: 3_000
            );
    }
}
