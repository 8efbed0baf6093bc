using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Papers;

public sealed class WorkLogTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly WorkLogStore log;

    public WorkLogTests() => log = new WorkLogStore(desk.Papers);

    public void Dispose() => desk.Dispose();

    private WorkDay Today => log.Between().Days[0];

    [Fact]
    public void A_day_tells_what_was_caught_decided_written_moved_and_sent()
    {
        var slip = desk.Catch("Ferrymen paid in bread").Number;
        desk.Clock.Advance(TimeSpan.FromMinutes(2));
        desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed);
        var move = desk.Days.AddMove("ask Pell", null, null, null, Once.Unkeyed).Answer;
        desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Done = true }, Once.Unkeyed);
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer;
        var draft = desk.Drafts.Get(piece.Number);
        desk.Drafts.Save(piece.Number, draft.Text + "\nfive words more stand here", draft.Version, Once.Unkeyed);
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = desk.Pieces.Get(piece.Number).Version, Stage = "Out" }, Once.Unkeyed);
        Today.ShouldSatisfyAllConditions(
            d => d.Caught.ShouldHaveSingleItem().Title.ShouldBe("Ferrymen paid in bread"),
            d => d.Decided.Select(l => l.What).ShouldBe(["kept", "started"], ignoreOrder: true),
            d => d.Written.ShouldHaveSingleItem().Words.ShouldBe(5),
            d => d.Moved.Select(l => l.What).ShouldContain("did"),
            d => d.Sent.ShouldHaveSingleItem().Title.ShouldBe("The far bank")
        );
        var text = log.Between().Text;
        text.ShouldContain("caught: 1\n    Ferrymen paid in bread");
        text.ShouldContain("written: +5 words");
        desk.Clock.Advance(TimeSpan.FromDays(1));
        Today.IsEmpty.ShouldBeTrue();
        log.Between(desk.Today.AddDays(-1), desk.Today.AddDays(-1)).Days.ShouldHaveSingleItem().Sent.Count.ShouldBe(1);
    }

    [Fact]
    public void Words_that_are_taken_back_are_written_no_more()
    {
        var piece = desk.Pieces.Start(new NewPiece("P"), Once.Unkeyed).Answer.Number;
        var draft = desk.Drafts.Get(piece);
        var saved = desk.Drafts.Save(piece, draft.Text + "\nthree more words", draft.Version, Once.Unkeyed);
        Today.Words.ShouldBe(3);
        desk.Undo(saved.Command);
        Today.Written.ShouldBeEmpty();
        Today.Words.ShouldBe(0);
    }

    [Fact]
    public void Days_that_make_no_sense_are_refused()
    {
        Should.Throw<BadInputException>(() => log.Between(desk.Today, desk.Today.AddDays(-1))).Field.ShouldBe("from");
        Should.Throw<BadInputException>(() => log.Between(desk.Today.AddDays(-400))).Field.ShouldBe("from");
        log.Between(desk.Today.AddDays(-3)).Text.ShouldContain("Nothing was written down");
    }
}
