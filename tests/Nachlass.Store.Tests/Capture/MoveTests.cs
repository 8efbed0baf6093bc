using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Capture;

public sealed class MoveTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private Core.Capture.Move Add(string text) => desk.Days.AddMove(text, null, null, null, Once.Unkeyed).Answer;

    [Fact]
    public void A_date_in_its_words_is_its_due_date_unless_one_is_given()
    {
        Add("call the archive on 3 December").Due.ShouldBe(new DateOnly(2026, 12, 3));
        desk.Days.AddMove("call tomorrow", new DateOnly(2026, 12, 9), null, null, Once.Unkeyed)
            .Answer.Due.ShouldBe(new DateOnly(2026, 12, 9));
        Add("some day").Due.ShouldBeNull();
    }

    [Fact]
    public void Open_moves_come_by_due_date_and_the_undated_last()
    {
        Add("undated");
        Add("later on 9 December");
        Add("soon tomorrow");
        desk.Days.OpenMoves().Select(m => m.Text).ShouldBe(["soon tomorrow", "later on 9 December", "undated"]);
    }

    [Fact]
    public void What_was_done_is_off_the_list_and_can_be_taken_up_again()
    {
        var move = Add("walk the fords");
        var ticked = desk.Days.EditMove(move.Number, move.Version, null, default, default, true, Once.Unkeyed).Answer;
        ticked.DoneAt.ShouldBe(desk.Clock.GetUtcNow());
        desk.Days.OpenMoves().ShouldBeEmpty();
        desk.Days.EditMove(move.Number, ticked.Version, "walk all fords", new DateOnly(2026, 12, 1), default, false, Once.Unkeyed);
        desk.Days.OpenMoves()
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                m => m.Text.ShouldBe("walk all fords"),
                m => m.Due.ShouldBe(new DateOnly(2026, 12, 1)),
                m => m.DoneAt.ShouldBeNull()
            );
    }

    [Fact]
    public void It_belongs_to_a_piece_whose_next_move_it_is()
    {
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;
        desk.Days.AddMove("find the loaf price", null, piece, null, Once.Unkeyed);
        desk.Days.AddMove("ask Pell tomorrow", null, piece, null, Once.Unkeyed);
        desk.Pieces.Get(piece).NextMove!.Text.ShouldBe("ask Pell tomorrow");
    }

    [Fact]
    public void One_changed_elsewhere_is_not_overwritten_and_one_taken_away_comes_back()
    {
        var move = Add("one");
        desk.Days.EditMove(move.Number, move.Version, "two", default, default, null, Once.Unkeyed);
        Should
            .Throw<StaleException>(() => desk.Days.EditMove(move.Number, move.Version, "three", default, default, null, Once.Unkeyed))
            .Current.ShouldBeOfType<Core.Capture.Move>()
            .Text.ShouldBe("two");
        var removed = desk.Days.RemoveMove(move.Number, Once.Unkeyed);
        desk.Days.OpenMoves().ShouldBeEmpty();
        desk.Undo(removed.Command);
        desk.Days.OpenMoves().ShouldHaveSingleItem().Text.ShouldBe("two");
        Should.Throw<NotThereException>(() => desk.Days.RemoveMove(MoveNumber.Of(99), Once.Unkeyed));
        Should.Throw<BadInputException>(() => Add(" ")).Field.ShouldBe("text");
    }
}
