using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Capture;

public sealed class DaySheetTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private void Plan(params PlanBlock[] blocks) => desk.Plans.Write(new DayPlan(blocks, []), desk.Plans.Plan().Version, Once.Unkeyed);

    private IReadOnlyList<SheetBlock> Blocks(DateOnly day) => desk.Days.Day(day).Blocks;

    [Fact]
    public void A_sheet_follows_the_plan_until_it_is_begun_and_then_keeps_what_it_has()
    {
        Plan(
            new(1, BlockKind.Question, "Best", BlockDays.Every, "What was best?"),
            new(2, BlockKind.Writing, "Loose", BlockDays.Every, Size: 5)
        );
        desk.Days.WriteBlock(desk.Today, 1, "The bread column.", 0, Once.Unkeyed);
        Plan(new PlanBlock(3, BlockKind.Question, "Worst", BlockDays.Every, "What was worst?"));
        Blocks(desk.Today).Select(b => (b.Heading, b.Text)).ShouldBe([("Best", "The bread column."), ("Loose", "")]);
        Blocks(desk.Today.AddDays(1)).Select(b => b.Prompt).ShouldBe(["What was worst?"]);
    }

    [Fact]
    public void Looking_at_a_day_changes_nothing()
    {
        var before = desk.Everything();
        desk.Days.Day(desk.Today.AddDays(-40));
        desk.Plans.Preview(DayPlan.First, desk.Today);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void A_block_that_goes_on_begins_as_it_was_left_the_last_time()
    {
        Plan(
            new(1, BlockKind.Again, "Standing list", BlockDays.Every, "first"),
            new(2, BlockKind.Aims, "Aims", BlockDays.Every, "A book in March")
        );
        Blocks(desk.Today)[0].Text.ShouldBe("first");
        desk.Days.WriteBlock(desk.Today.AddDays(-4), 1, "as it was left", 0, Once.Unkeyed);
        Blocks(desk.Today)[0].Text.ShouldBe("as it was left");
        // Aims are one text on all sheets, the begun ones too.
        Plan(
            new(1, BlockKind.Again, "Standing list", BlockDays.Every, "first"),
            new(2, BlockKind.Aims, "Aims", BlockDays.Every, "A book in May")
        );
        Blocks(desk.Today.AddDays(-4))[1].Prompt.ShouldBe("A book in May");
    }

    [Fact]
    public void Fill_ins_know_the_papers()
    {
        desk.Catch("one");
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer;
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = 1, Stage = "Out" }, Once.Unkeyed);
        desk.Pieces.Start(new NewPiece("Five fords"), Once.Unkeyed);
        desk.Clock.Advance(TimeSpan.FromDays(3));
        Plan(
            new PlanBlock(
                1,
                BlockKind.Text,
                "",
                BlockDays.Every,
                "{{ weekday }} {{ time }}, {{ days_since_release }} days, {{ waiting }} waiting, on {{ piece }}"
            )
        );
        Blocks(desk.Today)[0].Text.ShouldBe("Friday 08:00, 3 days, 1 waiting, on Five fords");
        Plan(new PlanBlock(1, BlockKind.Text, "", BlockDays.Every, "{{ weekdy }}"));
        Blocks(desk.Today)[0].ShouldSatisfyAllConditions(b => b.Text.ShouldBe("{{ weekdy }}"), b => b.Fault!.Line.ShouldBe(1));
    }

    [Fact]
    public void A_ruled_line_becomes_a_slip_of_that_day()
    {
        var yesterday = desk.Today.AddDays(-1);
        var slip = desk
            .Days.CatchLine(
                yesterday,
                1,
                new SheetLine("Why do fords keep saints’ names? #fords", "Saints", "Ask at Harnsby.", 4, 2),
                Once.Unkeyed
            )
            .Answer;
        slip.ShouldSatisfyAllConditions(
            s => s.Text.ShouldBe("Saints\n\nWhy do fords keep saints’ names?\n\nAsk at Harnsby."),
            s => s.Kind.ShouldBe(SlipKind.Question),
            s => s.Day.ShouldBe(yesterday),
            s => s.Pull.ShouldBe(4),
            s => s.Effort.ShouldBe(2),
            s => s.Origin.ShouldBe(Origin.Sheet),
            s => s.OriginNote.ShouldBe("First thoughts"),
            s => s.Block.ShouldBe(1),
            s => s.Topics[0].Name.ShouldBe("fords")
        );
        desk.Days.Day(yesterday).Slips.ShouldHaveSingleItem();
        desk.Sift.Sitting().Waiting.ShouldBe(1);
        Should.Throw<NotThereException>(() => desk.Days.CatchLine(yesterday, 2, new SheetLine("no lines there"), Once.Unkeyed));
        Should
            .Throw<BadInputException>(() => desk.Days.CatchLine(yesterday, 1, new SheetLine("x", Pull: 6), Once.Unkeyed))
            .Field.ShouldBe("pull");
    }

    [Fact]
    public void A_paragraph_with_a_topic_becomes_one_slip_when_the_text_is_left()
    {
        var sheet = desk.Days.Write(desk.Today, "Rain.\n\nThe bell woke the wrong ba #voi", 0, Once.Unkeyed).Answer;
        desk.Sift.Sitting().Waiting.ShouldBe(0);
        sheet = desk
            .Days.Write(desk.Today, "Rain.\n\nThe bell woke the wrong bank #voices", sheet.Version, Once.Unkeyed, left: true)
            .Answer;
        sheet = desk
            .Days.Write(desk.Today, "Rain still.\n\nThe bell woke the wrong bank #voices", sheet.Version, Once.Unkeyed, left: true)
            .Answer;
        var slip = desk.Days.Day(desk.Today).Slips.ShouldHaveSingleItem();
        slip.ShouldSatisfyAllConditions(
            s => s.Text.ShouldBe("The bell woke the wrong bank"),
            s => s.Topics[0].Name.ShouldBe("voices"),
            s => s.Origin.ShouldBe(Origin.Sheet)
        );

        // Reworded, it is the same idea while nothing was decided; afterwards the slip is left alone and a new one is made.
        sheet = desk.Days.Write(desk.Today, "The bell woke the wrong bank, twice #voices", sheet.Version, Once.Unkeyed, left: true).Answer;
        desk.Days.Day(desk.Today).Slips.ShouldHaveSingleItem().Text.ShouldBe("The bell woke the wrong bank, twice");
        desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);
        desk.Days.Write(desk.Today, "The bell woke the wrong bank, three times #voices", sheet.Version, Once.Unkeyed, left: true);
        desk.Days.Day(desk.Today)
            .Slips.Select(s => s.Text)
            .ShouldBe(["The bell woke the wrong bank, twice", "The bell woke the wrong bank, three times"]);
    }

    [Fact]
    public void A_sentence_is_lifted_out_once()
    {
        const string text = "The rain stopped. Whoever names the far bank lives on the near one. Tea.";
        var sheet = desk.Days.Write(desk.Today, text, 0, Once.Unkeyed, idea: "Whoever names the far bank lives on the near one.").Answer;
        sheet = desk
            .Days.Write(desk.Today, text, sheet.Version, Once.Unkeyed, idea: "Whoever names the far bank lives on the near one.")
            .Answer;
        desk.Days.Day(desk.Today).Slips.ShouldHaveSingleItem().Text.ShouldBe("Whoever names the far bank lives on the near one.");
        Should
            .Throw<BadInputException>(() => desk.Days.Write(desk.Today, text, sheet.Version, Once.Unkeyed, idea: "never written"))
            .Field.ShouldBe("idea");
    }

    [Fact]
    public void Two_tabs_can_write_into_different_blocks_but_not_over_each_other()
    {
        Plan(new(1, BlockKind.Question, "Best", BlockDays.Every, "?"), new(2, BlockKind.Question, "Worst", BlockDays.Every, "?"));
        desk.Days.WriteBlock(desk.Today, 1, "mine", 0, Once.Unkeyed);
        desk.Days.WriteBlock(desk.Today, 2, "also mine", 0, Once.Unkeyed);
        desk.Days.Write(desk.Today, "loose", 0, Once.Unkeyed);
        Should
            .Throw<StaleException>(() => desk.Days.WriteBlock(desk.Today, 1, "theirs", 0, Once.Unkeyed))
            .Current.ShouldBeOfType<SheetBlock>()
            .Text.ShouldBe("mine");
        Should.Throw<NotThereException>(() => desk.Days.WriteBlock(desk.Today, 3, "x", 0, Once.Unkeyed));
        desk.Find.Find("mine").Hits.ShouldHaveSingleItem().Thing.ShouldBe(Reference.To(desk.Today));
    }

    [Fact]
    public void The_month_says_which_days_have_writing_ideas_and_releases()
    {
        desk.Days.Write(desk.Today.AddDays(-1), "words", 0, Once.Unkeyed);
        desk.Catch("one");
        desk.Capture.Catch([new ToCatch("from the feed", Origin: Origin.Feed)], Once.Unkeyed);
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer;
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = 1, Stage = "Out" }, Once.Unkeyed);
        var month = desk.Plans.Month(desk.Today);
        month.Days.Count.ShouldBe(30);
        month
            .Days.Skip(22)
            .Take(2)
            .Select(d => (d.Day, d.Wrote, d.Ideas, d.Out))
            .ShouldBe([(desk.Today.AddDays(-1), true, 0, 0), (desk.Today, false, 1, 1)]);
        month.Rhythm.DaysInARow.ShouldBe(2);
        desk.Plans.Write(DayPlan.First with { DaysOff = [DayOfWeek.Sunday] }, 0, Once.Unkeyed);
        desk.Days.Write(desk.Today.AddDays(-3), "Saturday", 0, Once.Unkeyed);
        desk.Plans.Month(desk.Today).Rhythm.DaysInARow.ShouldBe(3);
    }

    [Fact]
    public void A_day_that_is_typed_is_found_also_when_nothing_stands_on_it()
    {
        var hit = desk.Find.Find("3 March 2024").Hits[0];
        (hit.Thing, hit.Title, hit.Address).ShouldBe((Reference.To(new DateOnly(2024, 3, 3)), "Sunday 3 March 2024", "/desk/2024-03-03"));
    }

    [Fact]
    public void A_due_piece_and_an_occasion_stand_on_their_days_in_the_month()
    {
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer;
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = 1, Due = desk.Today }, Once.Unkeyed);
        var lights = new Found.OfOccasion(0, "Ferry Lights", desk.Today.AddYears(-2), desk.Today.AddYears(-2).AddDays(1), EveryYear: true);
        desk.Imports.Run("in", Origin.Import, null, () => [("", lights)], Once.Unkeyed, stop: TestContext.Current.CancellationToken);
        var days = desk.Plans.Month(desk.Today).Days;
        days.Where(d => d.Due.Count > 0)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(d => d.Day.ShouldBe(desk.Today), d => d.Due[0].Title.ShouldBe("The far bank"));
        days.Where(d => d.Occasions.Contains("Ferry Lights")).Select(d => d.Day).ShouldBe([desk.Today, desk.Today.AddDays(1)]);
    }
}
