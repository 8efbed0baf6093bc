using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Plan;

public sealed class CadenceStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void Dates_are_filled_by_the_pieces_due_on_them_and_the_sheet_names_the_next_open_one()
    {
        desk.Cadences.Set("letter", "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", new(2026, 11, 13), Once.Unkeyed);
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
        desk.Cadences.Set("letter", "", null, Once.Unkeyed).Answer.ShouldBeEmpty();
        Should.Throw<BadInputException>(() => desk.Cadences.Set("sonnet", "FREQ=DAILY", null, Once.Unkeyed));
    }
}
