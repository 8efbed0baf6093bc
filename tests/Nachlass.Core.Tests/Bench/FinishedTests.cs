using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Bench;

public class FinishedTests
{
    [Fact]
    public void A_finished_text_has_its_title_and_only_what_was_written()
    {
        var text = Finished.Markdown(
            "The price",
            "essay",
            "## One\n\nPaid in bread. [[slip 3]]\n\n## Nothing yet\n\n## Parent\n\n### Child\n\ntext\n"
        );
        text.ShouldBe("# The price\n\n## One\n\nPaid in bread.\n\n## Parent\n\n### Child\n\ntext\n");
    }

    [Fact]
    public void The_posts_of_a_thread_go_out_without_headings() =>
        Finished
            .Markdown("Fords", "thread", "## First post\n\nFive fords.\n\n## Last post\n\nFive saints.\n")
            .ShouldBe("# Fords\n\nFive fords.\n\nFive saints.\n");

    [Fact]
    public void A_quotation_whose_credit_was_only_a_number_leaves_no_empty_line()
    {
        var text = Finished.Markdown("T", "essay", "## A\n\n> “Four loaves.”\n>\n> [[slip 29]]\n\nOn flood days\n");
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

    [Fact]
    public void Every_ready_format_is_whole()
    {
        foreach (var format in ReadyFormats.All)
        {
            format.Stages.Count.ShouldBeGreaterThan(3);
            format.Stages.ShouldBeUnique();
            format.Skeleton.ShouldAllBe(s => format.Beats.Contains(s.Beat) && s.Aim > 0 && s.Title.Length > 0);
            format.IsOut(format.Stages[^1]).ShouldBeTrue();
        }
        Should.Throw<BadInputException>(() => ReadyFormats.Named("sonnet")).Field.ShouldBe("format");
    }
}
