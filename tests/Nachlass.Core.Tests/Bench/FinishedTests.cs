using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Bench;

public class FinishedTests
{
    private static string? Named(Reference thing) => thing.Number == 99 ? null : $"the {thing}";

    [Theory]
    [InlineData(
        "Paid in bread.[[slip 171]] Four loaves [[slip 30]], as in [[The bread column]].",
        "Paid in bread. Four loaves, as in The bread column."
    )]
    [InlineData("See [[topic 3]] and [[slip 4]] and [[P 2]].", "See the topic 3 and the slip 4 and the P 2.")]
    [InlineData("As [[P 2, The rope breaks]] says.", "As The rope breaks says.")]
    [InlineData("Four loaves [[slip 4]]. Then [[slip 5]] nothing.", "Four loaves. Then nothing.")]
    public void A_reference_that_does_the_work_of_a_word_goes_out_by_its_title(string draft, string outside) =>
        Finished.Markdown("T", FormatSet.Ready.Named("essay"), draft, Named).ShouldBe($"# T\n\n{outside}\n");

    [Fact]
    public void A_move_that_stands_in_the_draft_stays_at_home() =>
        Finished
            .Markdown("T", FormatSet.Ready.Named("essay"), "One.\n\n- [ ] ask Pell\n- [x] asked\n\nTwo.", Named)
            .ShouldBe("# T\n\nOne.\n\n- [x] asked\n\nTwo.\n");

    [Fact]
    public void Before_it_goes_out_a_writer_hears_what_would_go_missing()
    {
        BeforeOut.Of("\n## One\n\n", new BeforeOutFacts { Named = Named }).ShouldHaveSingleItem().Kind.ShouldBe(BeforeOutKind.Nothing);
        BeforeOut
            .Of("see [[P 99]] and [[topic 2]].[[slip 3]]\n\n- [ ] ask Pell\n\n## Empty\n", new BeforeOutFacts { Named = Named })
            .Select(n => n.Kind)
            .ShouldBe([BeforeOutKind.Hole, BeforeOutKind.Titled, BeforeOutKind.Move, BeforeOutKind.Unwritten]);
        BeforeOut.Of("All is said.[[slip 3]]", new BeforeOutFacts { Named = Named }).ShouldBeEmpty();
    }

    [Fact]
    public void A_finished_text_has_its_title_and_only_what_was_written()
    {
        var text = Finished.Markdown(
            "The price",
            FormatSet.Ready.Named("essay"),
            "## One\n\nPaid in bread. [[slip 3]]\n\n## Nothing yet\n\n## Parent\n\n### Child\n\ntext\n",
            Named
        );
        text.ShouldBe("# The price\n\n## One\n\nPaid in bread.\n\n## Parent\n\n### Child\n\ntext\n");
    }

    [Fact]
    public void The_posts_of_a_thread_go_out_without_headings() =>
        Finished
            .Markdown("Fords", FormatSet.Ready.Named("thread"), "## First post\n\nFive fords.\n\n## Last post\n\nFive saints.\n", Named)
            .ShouldBe("# Fords\n\nFive fords.\n\nFive saints.\n");

    [Fact]
    public void A_quotation_whose_credit_was_only_a_number_leaves_no_empty_line()
    {
        var text = Finished.Markdown(
            "T",
            FormatSet.Ready.Named("essay"),
            "## A\n\n> “Four loaves.”\n>\n> [[slip 29]]\n\nOn flood days\n",
            Named
        );
        text.ShouldContain("> “Four loaves.”\n\nOn flood days");
    }

    private static readonly Slip Quote = new()
    {
        Number = SlipNumber.Of(29),
        Text = "“Four loaves,\nno coin.”",
        Locator = "f. 31r",
    };
    private static readonly Source Book = new()
    {
        Number = SourceNumber.Of(1),
        Title = "Account book",
        Creators = "Wardens",
    };

    [Fact]
    public void A_slip_goes_in_as_a_quotation_with_its_source() =>
        Insertion
            .Of(Quote, Book, InsertAs.Quotation)
            .ShouldBe("> “Four loaves,\n> no coin.”\n>\n> — Wardens, *Account book*, f. 31r [[slip 29]]");

    [Fact]
    public void A_slip_goes_in_as_text_with_a_reference_back()
    {
        Insertion.Of(Quote, null, InsertAs.Text).ShouldBe("“Four loaves,\nno coin.” [[slip 29]]");
        Insertion.Of(Quote, null, InsertAs.Quotation).ShouldBe("> “Four loaves,\n> no coin.” [[slip 29]]");
    }
}
