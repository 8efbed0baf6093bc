using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Bench;

public sealed class PieceStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private Piece Start(string title, string? format = null) => desk.Pieces.Start(new NewPiece(title, format), Once.Unkeyed).Answer;

    private Piece Edit(Piece piece, PieceChange change) =>
        desk.Pieces.Edit(piece.Number, change with { Version = desk.Pieces.Get(piece.Number).Version }, Once.Unkeyed).Answer;

    [Fact]
    public void A_piece_begins_with_the_sections_of_its_format_and_what_they_aim_at()
    {
        var piece = desk
            .Pieces.Start(new NewPiece("The far bank", "essay", "for people who think crossings are free", Topics: ["tolls"]), Once.Unkeyed)
            .Answer;
        piece.ShouldSatisfyAllConditions(
            p => p.Stage.ShouldBe(ReadyFormats.Essay.Stages[0]),
            p => p.Topics.ShouldHaveSingleItem().Name.ShouldBe("tolls"),
            p => p.Brief.ShouldNotBeEmpty()
        );
        desk.Drafts.Get(piece.Number).Sections.Sum(s => s.Aim ?? 0).ShouldBe(piece.Aim);
        piece.Aim.ShouldBeGreaterThan(0);
    }

    [Fact]
    public void Pieces_in_hand_stand_by_due_date_before_those_that_went_out()
    {
        var (late, soon, undated, gone) = (Start("late"), Start("soon"), Start("undated"), Start("gone"));
        Edit(late, new PieceChange { Due = desk.Today.AddDays(9) });
        Edit(soon, new PieceChange { Due = desk.Today.AddDays(2) });
        Edit(gone, new PieceChange { Stage = "Out" }).OutOn.ShouldBe(desk.Today);
        desk.Pieces.List().Select(p => p.Title).ShouldBe(["soon", "late", "undated", "gone"]);
        undated.Due.ShouldBeNull();
    }

    [Fact]
    public void The_day_it_went_out_stays_until_it_is_taken_back()
    {
        var piece = Start("out");
        Edit(piece, new PieceChange { Stage = "Out" });
        desk.Clock.Advance(TimeSpan.FromDays(3));
        Edit(piece, new PieceChange { Title = "out, with a better title" }).OutOn.ShouldBe(desk.Today.AddDays(-3));
        Edit(piece, new PieceChange { Stage = ReadyFormats.Essay.Stages[0] }).OutOn.ShouldBeNull();
    }

    [Fact]
    public void Another_format_keeps_the_stage_where_it_has_it()
    {
        var piece = Start("one thing", "essay");
        Edit(piece, new PieceChange { Stage = "Draft" });
        var other = ReadyFormats.All.First(f => f.Key != "essay" && !f.Stages.Contains("Draft"));
        Edit(piece, new PieceChange { Format = other.Key }).Stage.ShouldBe(other.Stages[0]);
        Should.Throw<BadInputException>(() => Edit(piece, new PieceChange { Format = "novel" })).Field.ShouldBe("format");
        Should.Throw<BadInputException>(() => Start("x", "novel")).Field.ShouldBe("format");
    }

    [Fact]
    public void What_is_in_the_trash_is_out_of_the_list_and_its_links_say_so()
    {
        var piece = Start("The far bank");
        var slip = desk.Catch("See [[The far bank]].").Number;
        Edit(piece, new PieceChange { Trashed = true });
        desk.Pieces.List().ShouldBeEmpty();
        desk.Pieces.List(trashed: true).ShouldHaveSingleItem();
        desk.Slips.Open(slip).LinksOut.ShouldHaveSingleItem().Gone.ShouldNotBeNull();
        Edit(piece, new PieceChange { Trashed = false });
        desk.Slips.Open(slip).LinksOut.ShouldHaveSingleItem().Gone.ShouldBeNull();
    }

    [Fact]
    public void Material_says_where_it_stands_and_what_reads_like_the_piece_is_offered()
    {
        var piece = Start("Paid in bread on flood days");
        var used = desk.Catch("The ferrymen were paid in bread on flood days.").Number;
        var near = desk.Catch("Bread paid the ferrymen when the river flooded.").Number;
        desk.Catch("Eels climb at night.");
        var source = desk.Sources.Add(new SourceChange { Title = "Accounts" }, Once.Unkeyed).Answer.Number;
        var sections = desk.Drafts.Get(piece.Number).Sections;
        desk.Pieces.Place(piece.Number, Reference.To(used), sections[0].Number, Once.Unkeyed);
        desk.Pieces.Place(piece.Number, Reference.To(source), null, Once.Unkeyed);
        var hand = desk.Pieces.Material(piece.Number);
        hand.Items.Select(m => (m.Slip?.Number, m.Source?.Number, m.Section))
            .ShouldBe([(used, null, sections[0].Number), (null, source, (SectionNumber?)null)]);
        hand.WouldFit.ShouldHaveSingleItem().Thing.ShouldBe(Reference.To(near));
        hand.Items[0].Referred.ShouldBeFalse();
        var draft = desk.Drafts.Get(piece.Number);
        desk.Drafts.Save(piece.Number, draft.Text + $"\nSee [[slip {used}]].\n", draft.Version, Once.Unkeyed);
        desk.Pieces.Material(piece.Number).Items[0].Referred.ShouldBeTrue();
    }

    [Fact]
    public void What_is_not_beside_it_can_not_be_taken_away()
    {
        var piece = Start("x");
        var slip = desk.Catch("y").Number;
        Should.Throw<NotThereException>(() => desk.Pieces.Untie(piece.Number, Reference.To(slip), Once.Unkeyed));
        Should.Throw<NotThereException>(() => desk.Pieces.Get(PieceNumber.Of(9)));
        Should.Throw<BadInputException>(() => Start(" ")).Field.ShouldBe("title");
        Should
            .Throw<StaleException>(() =>
                desk.Pieces.Edit(piece.Number, new PieceChange { Version = piece.Version + 7, Title = "z" }, Once.Unkeyed)
            )
            .Current.ShouldBeOfType<Piece>()
            .Title.ShouldBe("x");
    }
}
