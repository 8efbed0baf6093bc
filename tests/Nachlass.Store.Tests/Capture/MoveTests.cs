using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
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
        var ticked = desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Done = true }, Once.Unkeyed).Answer;
        ticked.DoneAt.ShouldBe(desk.Clock.GetUtcNow());
        desk.Days.OpenMoves().ShouldBeEmpty();
        desk.Days.EditMove(
            move.Number,
            new MoveChange
            {
                Version = ticked.Version,
                Text = "walk all fords",
                Due = new(true, new DateOnly(2026, 12, 1)),
                Done = false,
            },
            Once.Unkeyed
        );
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
        desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Text = "two" }, Once.Unkeyed);
        Should
            .Throw<StaleException>(() =>
                desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Text = "three" }, Once.Unkeyed)
            )
            .Current.ShouldBeOfType<Core.Capture.Move>()
            .Text.ShouldBe("two");
        var removed = desk.Days.RemoveMove(move.Number, Once.Unkeyed);
        desk.Days.OpenMoves().ShouldBeEmpty();
        desk.Undo(removed.Command);
        desk.Days.OpenMoves().ShouldHaveSingleItem().Text.ShouldBe("two");
        Should.Throw<NotThereException>(() => desk.Days.RemoveMove(MoveNumber.Of(99), Once.Unkeyed));
        Should.Throw<BadInputException>(() => Add(" ")).Field.ShouldBe("text");
    }

    private Move Change(Move move, MoveChange change) =>
        desk.Days.EditMove(move.Number, change with { Version = move.Version }, Once.Unkeyed).Answer;

    [Fact]
    public void A_move_that_comes_again_is_followed_by_the_next_when_it_is_done()
    {
        var move = desk.Days.AddMove("read the gauge", new(2026, 11, 20), null, null, Once.Unkeyed).Answer;
        move = Change(move, new MoveChange { Repeats = new(true, "every Friday"), Note = "at the stage" });
        (move.Repeats, move.RepeatsSaid).ShouldBe(("FREQ=WEEKLY;BYDAY=FR", "every Friday"));
        // Four days late, on a Tuesday: the next is this Friday.
        var done = desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Done = true }, Once.Unkeyed);
        var next = desk.Days.OpenMoves().ShouldHaveSingleItem();
        (next.Text, next.Due, next.Note, next.Follows, next.RepeatsSaid).ShouldBe(
            ("read the gauge", new DateOnly(2026, 11, 27), "at the stage", move.Number, "every Friday")
        );
        // One step back takes both back.
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Days.OpenMoves().ShouldHaveSingleItem().Number.ShouldBe(move.Number);
    }

    [Fact]
    public void Taken_up_again_it_has_no_next_unless_something_was_done_to_that()
    {
        var move = desk.Days.AddMove("read the gauge", new(2026, 11, 24), null, null, Once.Unkeyed).Answer;
        move = Change(move, new MoveChange { Repeats = new(true, "every day") });
        move = Change(move, new MoveChange { Done = true });
        move = Change(move, new MoveChange { Done = false });
        desk.Days.OpenMoves().ShouldHaveSingleItem().Number.ShouldBe(move.Number);
        move = Change(move, new MoveChange { Done = true });
        var next = Change(desk.Days.OpenMoves().Single(), new MoveChange { Note = "bring the book" });
        move = Change(move, new MoveChange { Done = false });
        desk.Days.OpenMoves().Select(m => m.Number).ShouldBe([move.Number, next.Number], ignoreOrder: true);
        // Done once more, it does not come a second time.
        Change(move, new MoveChange { Done = true });
        desk.Days.OpenMoves().ShouldHaveSingleItem().Number.ShouldBe(next.Number);
    }

    [Fact]
    public void It_begins_before_it_is_due_and_how_often_has_to_be_readable()
    {
        var move = desk.Days.AddMove("read the gauge", new(2026, 11, 24), null, null, Once.Unkeyed).Answer;
        Should
            .Throw<BadInputException>(() => Change(move, new MoveChange { Start = new(true, new DateOnly(2026, 11, 25)) }))
            .Field.ShouldBe("start");
        Should.Throw<BadInputException>(() => Change(move, new MoveChange { Repeats = new(true, "whenever") })).Field.ShouldBe("repeats");
        desk.Days.OpenMoves().Single().ShouldBe(move);
    }
}
