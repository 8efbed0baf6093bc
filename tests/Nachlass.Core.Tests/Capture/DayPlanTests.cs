using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Capture;

public class DayPlanTests
{
    private static readonly DateOnly Tuesday = new(2026, 11, 24);
    private static readonly DayFacts Facts = new(
        new DateTime(2026, 11, 24, 7, 40, 0),
        new DateOnly(2026, 9, 4),
        Waiting: 14,
        Piece: "The far bank"
    );

    private static IReadOnlyList<SheetBlock> Sheet(DateOnly day, params PlanBlock[] blocks) =>
        new DayPlan(blocks, []).SheetFor(day, Facts, _ => null);

    [Fact]
    public void A_block_stands_on_the_days_it_is_for()
    {
        var friday = new PlanBlock(1, BlockKind.Question, "Fridays", new([DayOfWeek.Friday], [], []), "An opening line for the letter?");
        var first = new PlanBlock(2, BlockKind.Question, "First of the month", new([], [1], []), "What to stop doing?");
        var last = new PlanBlock(3, BlockKind.Text, "Month's end", new([], [31], []));
        var once = new PlanBlock(4, BlockKind.Text, "The talk", new([], [], [new(2026, 12, 9)]));
        Sheet(Tuesday, friday, first, last, once).ShouldBeEmpty();
        Sheet(new(2026, 11, 27), friday, first, last, once).Select(b => b.Block).ShouldBe([1]);
        Sheet(new(2026, 12, 1), friday, first, last, once).Select(b => b.Block).ShouldBe([2]);
        Sheet(new(2026, 11, 30), friday, first, last, once).Select(b => b.Block).ShouldBe([3]);
        Sheet(new(2027, 2, 28), friday, first, last, once).Select(b => b.Block).ShouldBe([3]);
        Sheet(new(2026, 12, 9), friday, first, last, once).Select(b => b.Block).ShouldBe([4]);
    }

    [Fact]
    public void Blocks_come_in_the_order_of_the_plan_with_what_they_begin_with()
    {
        var plan = new DayPlan(
            [
                new(3, BlockKind.Lines, "First thoughts", BlockDays.Every, Size: 4),
                new(1, BlockKind.Again, "Standing list", BlockDays.Every, "begin here"),
                new(2, BlockKind.Text, "Today", BlockDays.Every, "{{ weekday }}, {{ days_since_release }} days since the last one"),
            ],
            []
        );
        var sheet = plan.SheetFor(Tuesday, Facts, number => number == 1 ? "as it was yesterday" : null);
        sheet.Select(b => b.Kind).ShouldBe([BlockKind.Lines, BlockKind.Again, BlockKind.Text]);
        sheet[0].Size.ShouldBe(4);
        sheet[1].Text.ShouldBe("as it was yesterday");
        sheet[2].Text.ShouldBe("Tuesday, 81 days since the last one");
        plan.SheetFor(Tuesday, Facts, _ => null)[1].Text.ShouldBe("begin here");
    }

    [Theory]
    [InlineData("plain text", "plain text")]
    [InlineData("{{ date }}, week {{ week }}, {{ time }}", "24 November 2026, week 48, 07:40")]
    [InlineData("{% if waiting > 9 %}Sift first: {{ waiting }}.{% else %}Write.{% endif %}", "Sift first: 14.")]
    [InlineData("On: {{ piece | upcase }}", "On: THE FAR BANK")]
    [InlineData("due {{ next_due | default: 'never' }}", "due never")]
    public void Texts_are_filled_in(string text, string filled) => FillIn.Fill(text, Facts.ByName()).ShouldBe(new FilledIn(filled, null));

    [Theory]
    [InlineData("one\ntwo {{ date", 2, "expected")]
    [InlineData("{{ dat }}", 1, "There is no fill-in “dat”")]
    [InlineData("a\nb\n  {{ weekdy }}", 3, "There is no fill-in “weekdy”")]
    [InlineData("{{ date | nofilter }}", 0, "nofilter")]
    [InlineData("{% for i in (1..1000000000) %}x{% endfor %}", 1, "for")]
    [InlineData("{% if date %}never closed", 1, "endif")]
    public void A_wrong_fill_in_says_where_and_why_and_breaks_nothing(string text, int line, string says)
    {
        var filled = FillIn.Fill(text, Facts.ByName());
        filled.Text.ShouldBe(text);
        filled.Fault.ShouldNotBeNull().ShouldSatisfyAllConditions(f => f.Line.ShouldBe(line), f => f.Reason.ShouldContain(says));
    }

    [Fact]
    public void A_plan_that_makes_no_sense_is_refused_with_the_field()
    {
        string Field(params PlanBlock[] blocks) => Should.Throw<BadInputException>(() => new DayPlan(blocks, []).Checked()).Field;
        Field(new(1, BlockKind.Lines, "", BlockDays.Every, Size: 21), new(2, BlockKind.Moves, "", BlockDays.Every)).ShouldBe("size");
        Field(new PlanBlock(1, BlockKind.Writing, "", BlockDays.Every)).ShouldBe("size");
        Field(new(1, BlockKind.Moves, "", BlockDays.Every), new(2, BlockKind.Moves, "", BlockDays.Every)).ShouldBe("kind");
        Field(new(1, BlockKind.Text, "", BlockDays.Every), new(1, BlockKind.Text, "", BlockDays.Every)).ShouldBe("number");
        Field(new PlanBlock(1, BlockKind.Question, "", BlockDays.Every, " ")).ShouldBe("text");
        Field(new PlanBlock(1, BlockKind.Text, "", new([], [32], []))).ShouldBe("daysOfMonth");
        Should.Throw<BadInputException>(() => new DayPlan([], Enum.GetValues<DayOfWeek>()).Checked()).Field.ShouldBe("daysOff");
        DayPlan.First.Checked().Blocks.ShouldBe(DayPlan.First.Blocks);
    }
}

public class RhythmTests
{
    private static readonly DateOnly Tuesday = new(2026, 11, 24);
    private static readonly Dictionary<DateOnly, int> None = [];

    private static HashSet<DateOnly> DaysBack(params int[] back) => [.. back.Select(b => Tuesday.AddDays(-b))];

    [Fact]
    public void Days_in_a_row_go_back_to_the_first_empty_one()
    {
        Rhythm.Of(DaysBack(0, 1, 2, 4), None, Tuesday, []).DaysInARow.ShouldBe(3);
        Rhythm.Of(DaysBack(), None, Tuesday, []).DaysInARow.ShouldBe(0);
    }

    [Fact]
    public void Today_may_still_be_empty() => Rhythm.Of(DaysBack(1, 2), None, Tuesday, []).DaysInARow.ShouldBe(2);

    [Fact]
    public void Days_off_are_neither_counted_nor_missed()
    {
        DayOfWeek[] weekend = [DayOfWeek.Saturday, DayOfWeek.Sunday];
        // Tuesday, Monday, Friday before; nothing on the weekend between.
        Rhythm.Of(DaysBack(0, 1, 4), None, Tuesday, weekend).DaysInARow.ShouldBe(3);
        Rhythm.Of(DaysBack(0, 1, 4), None, Tuesday, []).DaysInARow.ShouldBe(2);
        Rhythm.Of(DaysBack(0, 1, 2, 4), None, Tuesday, weekend).DaysInARow.ShouldBe(4);
    }

    [Fact]
    public void Ideas_a_day_are_the_mean_of_thirty_days_without_empty_days_off()
    {
        var ideas = new Dictionary<DateOnly, int>
        {
            [Tuesday] = 20,
            [Tuesday.AddDays(-29)] = 10,
            [Tuesday.AddDays(-30)] = 99,
        };
        Rhythm.Of(DaysBack(), ideas, Tuesday, []).IdeasADay.ShouldBe(1.0);
        // Thirty days back from a Tuesday hold four Saturdays and four Sundays.
        Rhythm.Of(DaysBack(), ideas, Tuesday, [DayOfWeek.Saturday, DayOfWeek.Sunday]).IdeasADay.ShouldBe(1.4);
    }
}

public class SheetIdeasTests
{
    [Fact]
    public void A_paragraph_with_a_topic_is_an_idea() =>
        SheetIdeas
            .In("The rain stopped.\n\nThe bell woke the wrong bank #voices\nand the dog.\n\n\nNumber #1 of 3")
            .ShouldBe(["The bell woke the wrong bank #voices\nand the dog."]);

    [Fact]
    public void What_was_lifted_before_is_not_lifted_again()
    {
        SheetIdeas.Changed(["a thought #x"], ["a thought #x"]).ShouldBeEmpty();
        SheetIdeas
            .Changed(["a thought, longer now #x", "another #y"], ["a thought #x"])
            .ShouldBe([("a thought, longer now #x", "a thought #x"), ("another #y", null)]);
        SheetIdeas.Changed(["something else #x"], ["a thought #x"]).ShouldBe([("something else #x", (string?)null)]);
    }
}
