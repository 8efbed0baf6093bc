using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

/// <summary>A piece goes out on an outlet with a picture of its own.</summary>
public sealed class OwnPictureTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber outlet;
    private readonly PieceNumber piece;

    public OwnPictureTests()
    {
        outlet = desk.Outlets.Add(new OutletChange { Name = "The pages" }, Once.Unkeyed).Answer.Number;
        desk.Connections.Set(outlet, ConnectionKind.Folder, "/tmp/never-written", null);
        piece = desk.Pieces.Start(new NewPiece("The bank"), Once.Unkeyed).Answer.Number;
        Write("Words.\n\n![The bank at dusk](bank.png)\n");
    }

    public void Dispose() => desk.Dispose();

    private void Write(string text) => desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);

    private AttachmentNumber Attach(string name, PieceNumber? to = null) =>
        desk
            .Attachments.Add(
                new Reference(ThingKind.Piece, (to ?? piece).Value),
                name,
                new MemoryStream(Convert.FromBase64String(EveryCommand.OnePixel)),
                "",
                Once.Unkeyed
            )
            .Answer.Number;

    private Sending Put(AttachmentNumber? picture, string? shows) =>
        desk.Queue.Queue(piece, new NewSending(outlet, Picture: picture, Shows: shows), Once.Unkeyed).Answer;

    [Fact]
    public void Its_cover_is_offered_first_and_what_the_draft_says_a_picture_shows_is_said()
    {
        var bank = Attach("bank.png");
        var cover = Attach("cover.png");
        desk.Briefs.Edit(piece, new BriefChange { Cover = new Maybe<AttachmentNumber?>(true, cover) }, Once.Unkeyed);
        desk.Queue.Preview(piece, new NewSending(outlet))
            .Pictures.ShouldBe([new(cover, "cover.png", ""), new(bank, "bank.png", "The bank at dusk")]);
    }

    [Fact]
    public void It_is_one_of_the_piece_and_says_what_it_shows()
    {
        var other = desk.Pieces.Start(new NewPiece("Another"), Once.Unkeyed).Answer.Number;
        var strange = Attach("strange.png", other);
        Should.Throw<BadInputException>(() => Put(strange, "The moon")).Field.ShouldBe("picture");
        var bank = Attach("bank.png");
        Should.Throw<BadInputException>(() => Put(bank, "  ")).Field.ShouldBe("shows");
        Should.Throw<BadInputException>(() => Put(bank, new string('x', SentPicture.LongestShows + 1))).Field.ShouldBe("shows");
        desk.Queue.List().ShouldBeEmpty();
        Put(null, "nothing").Picture.ShouldBeNull();
    }

    [Fact]
    public void It_stays_the_one_that_was_chosen_whatever_becomes_of_the_file_beside_its_piece()
    {
        var bank = Attach("bank.png");
        var sending = Put(bank, "The bank");
        desk.Attachments.Remove(bank, Once.Unkeyed);
        var kept = desk.Queue.Get(sending.Number);
        kept.Picture.ShouldBe(sending.Picture);
        kept.Picture!.Shows.ShouldBe("The bank");
        File.Exists(desk.Shelf.Path(kept.Picture.Hash)).ShouldBeTrue();
        desk.Queue.Finish(desk.Queue.End(desk.Queue.Begin(kept, 1), 1, new Outcome.Taken("")));
        var release = desk.Releases.List().ShouldHaveSingleItem();
        release.Picture.ShouldBe(sending.Picture);
        Should.Throw<ClashException>(() => desk.Releases.Remove(release.Number, Once.Unkeyed)).Message.ShouldContain("was sent from here");
    }

    [Fact]
    public void Taken_out_of_the_queue_or_back_nothing_of_it_is_left()
    {
        var bank = Attach("bank.png");
        desk.Queue.Act(Put(bank, "The bank").Number, QueueAct.TakeOut);
        desk.Queue.List().ShouldBeEmpty();
        var done = desk.Queue.Queue(piece, new NewSending(outlet, Picture: bank, Shows: "The bank"), Once.Unkeyed);
        var undone = desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Queue.List().ShouldBeEmpty();
        desk.History.Undo(undone.Command, Once.Unkeyed);
        desk.Queue.List().ShouldHaveSingleItem().Picture!.Name.ShouldBe("bank.png");
    }
}
