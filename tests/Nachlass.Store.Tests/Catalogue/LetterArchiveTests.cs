using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

/// <summary>Letters that went out can be read by everybody where their writer says so, and nowhere else.</summary>
public sealed class LetterArchiveTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber outlet;

    public LetterArchiveTests() => outlet = Outlet("Low Water", ConnectionKind.Mail);

    public void Dispose() => desk.Dispose();

    private LetterArchive Archive => new(desk.Papers);

    private OutletNumber Outlet(string name, ConnectionKind kind)
    {
        var made = desk.Outlets.Add(new OutletChange { Name = name }, Once.Unkeyed).Answer.Number;
        desk.Connections.Set(made, kind, "smtp://127.0.0.1:1", null);
        return made;
    }

    private PieceNumber Out(string title, string text, int daysAgo = 0, OutletNumber? on = null)
    {
        var piece = desk.Pieces.Start(new NewPiece(title), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Releases.Record(piece, new NewRelease(on ?? outlet, desk.Today.AddDays(-daysAgo)), Once.Unkeyed);
        return piece;
    }

    [Fact]
    public void Nothing_of_an_outlet_is_to_be_read_until_its_writer_says_so()
    {
        var piece = Out("The bell", "It rings.");
        Archive.List(outlet).ShouldBeNull();
        Archive.Find(outlet, piece).ShouldBeNull();
        Archive.Open().ShouldBeEmpty();

        desk.Connections.Archive(outlet, isArchived: true).IsArchived.ShouldBeTrue();
        Archive.Open().ShouldBe([(outlet, "Low Water")]);
        Archive.Find(outlet, piece)!.Text.ShouldBe("It rings.");

        desk.Connections.Archive(outlet, isArchived: false);
        Archive.Find(outlet, piece).ShouldBeNull();
        var folder = Outlet("A folder", ConnectionKind.Folder);
        Should.Throw<NotThereException>(() => desk.Connections.Archive(folder, isArchived: true));
    }

    [Fact]
    public void It_has_what_went_out_there_and_nothing_else()
    {
        desk.Connections.Archive(outlet, isArchived: true);
        var old = Out("The bell", "It rings.", daysAgo: 9);
        var late = Out("The rope", "It holds.");
        var trashed = Out("The mistake", "Forget it.");
        desk.Pieces.Edit(trashed, new PieceChange { Version = desk.Pieces.Get(trashed).Version, Trashed = true }, Once.Unkeyed);
        var elsewhere = Out("The walk", "Not by mail.", on: Outlet("Walks", ConnectionKind.Folder));
        desk.Pieces.Start(new NewPiece("In hand"), Once.Unkeyed);
        Archive.List(outlet)!.Select(l => l.Piece).ShouldBe([late, old]);
        Archive.Find(outlet, elsewhere).ShouldBeNull();
        Archive.Find(outlet, trashed).ShouldBeNull();
    }

    [Fact]
    public void It_stands_as_it_was_put_right_and_a_draft_that_goes_on_changes_nothing()
    {
        desk.Connections.Archive(outlet, isArchived: true);
        var piece = Out("The steps", "There are eighteen.");
        desk.Drafts.Save(piece, "There are nineteen.", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        Archive.Find(outlet, piece)!.Text.ShouldBe("There are eighteen.");
        desk.Releases.Correct(desk.Releases.List()[0].Number, new CorrectionNote("There is one more step."), Once.Unkeyed);
        var letter = Archive.Find(outlet, piece)!;
        letter.Text.ShouldBe("There are nineteen.");
        letter.Corrections.ShouldHaveSingleItem().Note.ShouldBe("There is one more step.");
    }
}
