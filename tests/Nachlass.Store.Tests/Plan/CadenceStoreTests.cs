using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Plan;

public sealed class CadenceStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber letters;

    public CadenceStoreTests() =>
        letters = desk.Outlets.Add(new() { Name = "Low Water", Formats = ["letter"] }, Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    [Fact]
    public void Dates_are_filled_by_the_pieces_due_on_them_and_the_sheet_names_the_next_open_one()
    {
        desk.Cadences.Set(letters, "letter", new("FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", new(2026, 11, 13)), Once.Unkeyed);
        var letter = desk.Pieces.Start(new NewPiece("Letter 40", "letter"), Once.Unkeyed).Answer;
        desk.Pieces.Edit(letter.Number, new PieceChange { Version = 1, Due = new DateOnly(2026, 11, 27) }, Once.Unkeyed);
        var essay = desk.Pieces.Start(new NewPiece("An essay", "essay"), Once.Unkeyed).Answer;
        desk.Pieces.Edit(essay.Number, new PieceChange { Version = 1, Due = new DateOnly(2026, 12, 11) }, Once.Unkeyed);
        var ahead = desk.Cadences.List().ShouldHaveSingleItem().Dates;
        (ahead[0].Title, ahead[1].Piece, ahead[1].Date).ShouldBe(("Letter 40", null, new DateOnly(2026, 12, 11)));

        desk.Plans.Write(
            DayPlan.First with
            {
                Blocks = [new PlanBlock(9, BlockKind.Text, "", BlockDays.Every, "Open: {{ next_open_date }}")],
            },
            0,
            Once.Unkeyed
        );
        desk.Days.Day(desk.Today).Blocks.Single(b => b.Block == 9).Text.ShouldBe("Open: Friday 11 December");
        desk.Cadences.Set(letters, "letter", new(""), Once.Unkeyed).Answer.ShouldBeEmpty();
        Should.Throw<BadInputException>(() => desk.Cadences.Set(letters, "sonnet", new("FREQ=DAILY"), Once.Unkeyed));
    }

    [Fact]
    public void It_is_set_in_words_and_said_in_words_and_its_next_dozen_dates_are_seen_before()
    {
        var preview = desk.Cadences.Preview(new("weekdays except in December", new(2026, 11, 13)));
        preview.Words.ShouldBe("weekdays, except in December");
        preview.Dates.Count.ShouldBe(12);
        preview.Dates.ShouldAllBe(d => d.Month != 12 && d.DayOfWeek != DayOfWeek.Saturday && d.DayOfWeek != DayOfWeek.Sunday);
        desk.Cadences.List().ShouldBeEmpty();
        desk.Cadences.Set(letters, "letter", new("the second to last monday of the month", new(2026, 11, 1)), Once.Unkeyed);
        var set = desk.Cadences.List().ShouldHaveSingleItem();
        (set.Cadence.Rule, set.Words).ShouldBe(("FREQ=MONTHLY;BYDAY=-2MO", "the second to last Monday of the month"));
        Should
            .Throw<BadInputException>(() => desk.Cadences.Set(letters, "letter", new("now and then"), Once.Unkeyed))
            .Field.ShouldBe("words");
        desk.Cadences.List().ShouldHaveSingleItem().Words.ShouldBe(set.Words);
    }
}
