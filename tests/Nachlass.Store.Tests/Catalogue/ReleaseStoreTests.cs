using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class ReleaseStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber letter,
        site;

    public ReleaseStoreTests()
    {
        letter = desk.Outlets.Add(new OutletChange { Name = "Low Water", Formats = ["essay"] }, Once.Unkeyed).Answer.Number;
        site = desk.Outlets.Add(new OutletChange { Name = "site" }, Once.Unkeyed).Answer.Number;
    }

    private PieceNumber Written(string title, string text, string format = "essay")
    {
        var piece = desk.Pieces.Start(new NewPiece(title, format, Topics: ["bells"], Outlet: letter), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        return piece;
    }

    private Done<Piece> To(PieceNumber piece, string stage) =>
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Stage = stage }, Once.Unkeyed);

    [Fact]
    public void Coming_to_its_last_stage_a_piece_is_kept_as_it_was_sent()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank. <!-- check the year -->");
        To(piece, "Out");

        var release = desk.Releases.Get(desk.Releases.Of(piece).ShouldHaveSingleItem().Number);
        (release.Outlet, release.OutOn, release.Title, release.Way).ShouldBe((letter, desk.Today, "The third bell", ReleaseWay.Stage));
        release.Text.ShouldBe("The bell hung on the wrong bank.");
        release.Hash.ShouldBe(Release.HashOf(release.Title, release.Text));

        desk.Drafts.Save(piece, "Quite other words.", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Title = "Renamed" }, Once.Unkeyed);
        desk.Releases.Get(release.Number).Text.ShouldBe(release.Text);
        desk.Releases.Get(release.Number).Title.ShouldBe("The third bell");
    }

    [Fact]
    public void Taken_back_from_its_last_stage_it_has_not_gone_out_and_undo_brings_the_very_release_back()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");
        var release = desk.Releases.Of(piece)[0];
        var back = To(piece, "Edit");
        desk.Releases.List().ShouldBeEmpty();
        desk.History.Undo(back.Command, Once.Unkeyed);
        desk.Releases.Of(piece)[0].ShouldBeEquivalentTo(release with { Version = desk.Releases.Of(piece)[0].Version });
    }

    [Fact]
    public void Noting_a_release_takes_a_piece_in_hand_to_its_last_stage_on_that_day()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        var noted = desk.Releases.Record(
            piece,
            new NewRelease(site, desk.Today.AddDays(-4), "https://ostrey.example/bell", "A bell", "As it went out."),
            Once.Unkeyed
        );

        (noted.Answer.Title, noted.Answer.Text, noted.Answer.Words).ShouldBe(("A bell", "As it went out.", 4));
        var now = desk.Pieces.Get(piece);
        (now.Stage, now.OutOn, now.Outlet, now.OutAddress).ShouldBe(("Out", desk.Today.AddDays(-4), site, "https://ostrey.example/bell"));
        desk.Releases.Of(piece).Count.ShouldBe(1);

        desk.History.Undo(noted.Command, Once.Unkeyed);
        desk.Pieces.Get(piece).OutOn.ShouldBeNull();
        desk.Releases.Of(piece).ShouldBeEmpty();
    }

    [Fact]
    public void One_piece_goes_out_on_several_outlets_and_its_first_release_says_when_it_went_out()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");
        desk.Clock.Advance(TimeSpan.FromDays(3));
        desk.Releases.Record(piece, new NewRelease(site), Once.Unkeyed);

        desk.Releases.Of(piece).Select(r => r.Outlet).ShouldBe([site, letter]);
        (desk.Pieces.Get(piece).OutOn, desk.Pieces.Get(piece).Outlet).ShouldBe((desk.Today.AddDays(-3), letter));
        Should.Throw<ClashException>(() => desk.Releases.Record(piece, new NewRelease(site), Once.Unkeyed));
    }

    [Fact]
    public void What_cannot_be_is_refused_with_its_field()
    {
        var empty = desk.Pieces.Start(new NewPiece("Empty", "essay"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(empty, "", desk.Drafts.Get(empty).Version, Once.Unkeyed);
        Refused(empty, new NewRelease(site)).ShouldBe("text");
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        Refused(piece, new NewRelease(site, desk.Today.AddDays(1))).ShouldBe("outOn");
        Refused(piece, new NewRelease(site, Address: "javascript:alert(1)")).ShouldBe("address");
        Refused(piece, new NewRelease(site, Title: " ")).ShouldBe("title");
        desk.Pieces.Get(piece).OutOn.ShouldBeNull();

        string Refused(PieceNumber number, NewRelease made) =>
            Should.Throw<BadInputException>(() => desk.Releases.Record(number, made, Once.Unkeyed)).Field;
    }

    [Fact]
    public void An_error_is_put_right_beside_what_was_sent()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank in 1784.");
        To(piece, "Out");
        var release = desk.Releases.Of(piece)[0];
        Should.Throw<ClashException>(() => desk.Releases.Correct(release.Number, new CorrectionNote("The year"), Once.Unkeyed));
        desk.Drafts.Save(piece, "The bell hung on the wrong bank in 1787.", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var corrected = desk.Releases.Correct(release.Number, new CorrectionNote("The year was 1787."), Once.Unkeyed).Answer;
        corrected.Text.ShouldBe("The bell hung on the wrong bank in 1784.");
        corrected.Corrections.ShouldHaveSingleItem().Text.ShouldBe("The bell hung on the wrong bank in 1787.");
    }

    [Fact]
    public void The_only_release_of_a_piece_goes_by_taking_the_piece_back_another_by_itself()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");
        var first = desk.Releases.Of(piece)[0].Number;
        Should.Throw<ClashException>(() => desk.Releases.Remove(first, Once.Unkeyed));
        desk.Releases.Record(piece, new NewRelease(site), Once.Unkeyed);
        desk.Releases.Remove(first, Once.Unkeyed);
        desk.Pieces.Get(piece).Outlet.ShouldBe(site);
        Should.Throw<ClashException>(() => desk.Outlets.Remove(site, Once.Unkeyed)).Message.ShouldContain("Put it away");
    }

    [Fact]
    public void The_line_that_announces_it_is_made_of_what_it_speaks_of_until_its_writer_says_another()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");
        var release = desk.Releases.Of(piece)[0];
        release = desk
            .Releases.Edit(
                release.Number,
                new ReleaseChange
                {
                    Version = release.Version,
                    SpeaksOf = [new("bells", "who rang at night"), new("", "the price of sleep")],
                },
                Once.Unkeyed
            )
            .Answer;
        release.SpeaksOf[0].Topic!.Name.ShouldBe("bells");
        desk.Catalogue.Get().Rows[0].Summary.ShouldBe("Who rang at night; the price of sleep.");
        desk.Releases.Edit(release.Number, new ReleaseChange { Version = release.Version, Summary = "A bell." }, Once.Unkeyed);
        desk.Catalogue.Get().Rows[0].Summary.ShouldBe("A bell.");
    }

    [Fact]
    public void What_is_not_there_yet_is_listed_for_each_outlet_until_it_is_or_is_never_to_be()
    {
        var posts = desk.Outlets.Add(new OutletChange { Name = "posts", Formats = ["thread"] }, Once.Unkeyed).Answer.Number;
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");

        desk.Catalogue.Get().Rows[0].There.Select(t => t.State).ShouldBe([ThereState.Out, ThereState.Could, ThereState.InAnotherForm]);
        desk.Catalogue.Missing(letter).ShouldBeEmpty();
        desk.Catalogue.Missing(site).ShouldHaveSingleItem().Piece.ShouldBe(piece);
        desk.Releases.SetNever(piece, posts, true, Once.Unkeyed);
        desk.Catalogue.Missing(posts).ShouldBeEmpty();
        desk.Releases.SetNever(piece, posts, false, Once.Unkeyed);
        desk.Catalogue.Missing(posts).Count.ShouldBe(1);
    }

    [Fact]
    public void Mentions_are_found_in_what_was_sent_and_not_in_what_the_draft_became()
    {
        var piece = Written("The third bell", "Nobody minded.\n\nThe night bell hung on the wrong bank.");
        To(piece, "Out");
        var again = Written("Bells again", "As said: The night bell hung on the wrong bank. And more.");
        desk.Drafts.Save(piece, "Nothing of that any more.", desk.Drafts.Get(piece).Version, Once.Unkeyed);

        var found = desk.Catalogue.Mentions("the night bells?");
        found.Times.ShouldBe(1);
        found.Releases[0].Sentences[0].Text.ShouldBe("The night bell hung on the wrong bank.");
        found.Releases[0].Again.ShouldBe([again]);
        desk.Catalogue.Mentions("the night ferry of nowhere").Times.ShouldBe(0);
        desk.Catalogue.Mentions("\"bell\" *:(").Times.ShouldBe(1);
        Should.Throw<BadInputException>(() => desk.Catalogue.Mentions(" ")).Field.ShouldBe("query");
        // What was said before is found by what was sent too.
        desk.Find.Find("night bell wrong bank").Covered.ShouldContain(s => s.Piece == piece);
    }

    [Fact]
    public void An_earlier_release_is_called_back_and_goes_out_as_a_link_to_where_it_can_be_read()
    {
        var piece = Written("The third bell", "The night bell hung on the wrong bank.");
        To(piece, "Out");
        var release = desk.Releases.Of(piece)[0].Number;
        var next = Written("Bells again", "It rings still.");
        var called = desk.Releases.CallBack(release, new CallBackRequest(next, "The night bell hung on the wrong bank."), Once.Unkeyed);
        desk.Outs.Finished(next).ShouldEndWith("> The night bell hung on the wrong bank.\n>\n> — The third bell\n");

        desk.Releases.Record(piece, new NewRelease(site, Address: "https://ostrey.example/bell"), Once.Unkeyed);
        desk.Outs.Finished(next).ShouldEndWith("> — [The third bell](<https://ostrey.example/bell>)\n");
        var there = desk.Releases.Get(release);
        desk.Releases.Edit(release, new ReleaseChange { Version = there.Version, Address = "https://low.example/3" }, Once.Unkeyed);
        // Its own outlet's address before all others.
        desk.Outs.Finished(next).ShouldEndWith("(<https://low.example/3>)\n");

        desk.History.Undo(called.Command, Once.Unkeyed);
        desk.Drafts.Get(next).Text.Trim().ShouldBe("It rings still.");
        Should
            .Throw<BadInputException>(() => desk.Releases.CallBack(release, new CallBackRequest(piece), Once.Unkeyed))
            .Field.ShouldBe("into");
    }

    [Fact]
    public void A_piece_in_the_trash_stands_in_no_catalogue()
    {
        var piece = Written("The third bell", "The bell hung on the wrong bank.");
        To(piece, "Out");
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Trashed = true }, Once.Unkeyed);
        desk.Catalogue.Get().Rows.ShouldBeEmpty();
        desk.Releases.List().ShouldBeEmpty();
        desk.Catalogue.Mentions("bell").Times.ShouldBe(0);
    }

    public void Dispose() => desk.Dispose();
}
