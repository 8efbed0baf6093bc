using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Bench;

public sealed class WritingStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string draft, string title = "The far bank")
    {
        var piece = desk.Pieces.Start(new NewPiece(title, "essay"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, draft, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        return piece;
    }

    private Draft Change(PieceNumber piece, string insert, int pasted = 0)
    {
        var draft = desk.Drafts.Get(piece);
        return desk
            .Drafts.Change(
                piece,
                new DraftChange(draft.Version, [new TextChange(draft.Text.Length, draft.Text.Length, insert)], Pasted: pasted),
                Once.Unkeyed
            )
            .Answer;
    }

    [Fact]
    public void A_name_is_replaced_in_all_pieces_of_a_series_as_one_step()
    {
        var (one, two, other) = (Piece("Pell rowed. Pell slept."), Piece("Old Pell."), Piece("Pell of no series."));
        desk.Series.Add(new SeriesChange { Name = "Ferrymen", Pieces = [one, two] }, Once.Unkeyed);
        var asked = new ReplaceAsked(one, "Pell", "Brandt", SoughtAs.Words, Series: true);
        var shown = desk.Replacing.Preview(asked);
        shown.Select(p => (p.Piece, p.Places.Count)).ShouldBe([(one, 2), (two, 1)]);
        shown[0].Places[1].Before.ShouldEndWith("rowed. ");
        shown[0].Places[1].Becomes.ShouldBe("Brandt");

        // One place is left as it is.
        var done = desk.Replacing.Replace(
            new Replacement(asked, [new(one, shown[0].Version, [1]), new(two, shown[1].Version, [0])]),
            Once.Unkeyed
        );
        done.Answer.Places.ShouldBe(2);
        desk.Drafts.Get(one).Text.ShouldBe("Pell rowed. Brandt slept.");
        desk.Drafts.Get(two).Text.ShouldBe("Old Brandt.");
        desk.Drafts.Get(other).Text.ShouldBe("Pell of no series.");
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Drafts.Get(one).Text.ShouldBe("Pell rowed. Pell slept.");
        desk.Drafts.Get(two).Text.ShouldBe("Old Pell.");
    }

    [Fact]
    public void Nothing_is_replaced_that_was_not_shown()
    {
        var piece = Piece("## One\n\nPell.\n\n## Two\n\nPell.\n");
        var sections = desk.Drafts.Get(piece).Sections;
        var asked = new ReplaceAsked(piece, "Pell", "Brandt", Section: sections[1].Number);
        var shown = desk.Replacing.Preview(asked).ShouldHaveSingleItem();
        Change(piece, "More.");
        Should.Throw<StaleException>(() => desk.Replacing.Replace(new Replacement(asked, [new(piece, shown.Version, [0])]), Once.Unkeyed));
        shown = desk.Replacing.Preview(asked).ShouldHaveSingleItem();
        desk.Replacing.Replace(new Replacement(asked, [new(piece, shown.Version, [0])]), Once.Unkeyed);
        desk.Drafts.Get(piece).Text.ShouldBe("## One\n\nPell.\n\n## Two\n\nBrandt.\nMore.");
        desk.Drafts.Get(piece).Sections.Select(s => s.Number).ShouldBe(sections.Select(s => s.Number));
        Should.Throw<BadInputException>(() => desk.Replacing.Preview(new ReplaceAsked(piece, ""))).Field.ShouldBe("find");
    }

    [Fact]
    public void A_sitting_counts_what_was_written_and_ends()
    {
        var piece = Piece("");
        Change(piece, "four loaves and no ");
        Change(piece, "coin at the stage ", pasted: 4);
        Change(piece, "today ");
        var now = desk.Sittings.Of(piece).Now!;
        (now.Written, now.Pasted, now.Taken).ShouldBe((5, 4, 0));
        desk.Sittings.Of(piece).Today.ShouldBe(5);

        desk.Sittings.Aim(piece, new AimsChange { Sitting = 300, Piece = 1_200 }, Once.Unkeyed).Answer.SittingAim.ShouldBe(300);
        desk.Pieces.Get(piece).Aim.ShouldBe(1_200);
        Should
            .Throw<BadInputException>(() => desk.Sittings.Aim(piece, new AimsChange { Sitting = 0 }, Once.Unkeyed))
            .Field.ShouldBe("sitting");

        var ended = desk.Sittings.End(piece, Once.Unkeyed).Answer;
        ended.Now.ShouldBeNull();
        ended.Last!.Written.ShouldBe(5);
        Change(piece, "again ");
        desk.Sittings.Of(piece).Now!.Written.ShouldBe(1);
        desk.Sittings.Of(piece).Today.ShouldBe(6);
    }

    [Fact]
    public void Own_words_and_names_of_the_papers_are_known()
    {
        desk.Catch("The bell at Ostrey.");
        desk.Catch("From Ostrey came bread.");
        desk.Sources.Add(new SourceChange { Title = "High water at Quillan", Creators = "Brandt, Helene" }, Once.Unkeyed);
        var known = desk.Spelling.Add(new OwnWord("ferrygate"), Once.Unkeyed).Answer;
        known.Own.ShouldBe(["ferrygate"]);
        known.Names.ShouldContain("Ostrey");
        known.Names.ShouldContain("Brandt");
        known.Names.ShouldContain("Quillan");
        Should.Throw<BadInputException>(() => desk.Spelling.Add(new OwnWord("two words"), Once.Unkeyed)).Field.ShouldBe("word");
        desk.Spelling.Remove(new OwnWord("ferrygate"), Once.Unkeyed).Answer.Own.ShouldBeEmpty();
    }

    [Fact]
    public void A_shooting_list_keeps_order_points_and_ticks()
    {
        var (one, two) = (Piece("## Bell\n\nIt rings.\n", "One"), Piece("## Rope\n\nIt holds.\n", "Two"));
        desk.Aloud.Add(new ShotChange { Piece = one, Needs = "the bell" }, Once.Unkeyed);
        var list = desk.Aloud.Add(new ShotChange { Piece = two, Aim = 60 }, Once.Unkeyed).Answer;
        list.Select(s => s.Title).ShouldBe(["One", "Two"]);
        list[0].Said.ShouldBe(["Bell"]);
        Should.Throw<ClashException>(() => desk.Aloud.Add(new ShotChange { Piece = one }, Once.Unkeyed));
        list = desk
            .Aloud.Edit(
                list[1].Number,
                new ShotChange
                {
                    Place = 0,
                    Points = "why rope\nwhy hemp",
                    Version = list[1].Version,
                },
                Once.Unkeyed
            )
            .Answer;
        list.Select(s => s.Title).ShouldBe(["Two", "One"]);
        list[0].Said.ShouldBe(["why rope", "why hemp"]);
        list = desk.Aloud.Edit(list[0].Number, new ShotChange { Done = true, Version = list[0].Version }, Once.Unkeyed).Answer;
        list[0].DoneAt.ShouldNotBeNull();
        list[0].Seconds.ShouldBe(1);
        desk.Aloud.Learn(new ReadingDone(300, 120));
        desk.Aloud.Read(one).Pace.Words.ShouldBe(150);
        desk.Aloud.Remove(list[1].Number, Once.Unkeyed).Answer.Count.ShouldBe(1);
    }

    [Fact]
    public void A_finished_text_cites_what_it_refers_to_and_side_texts_go_with_it()
    {
        var source = desk
            .Sources.Add(new SourceChange { Title = "High water and small coin", Creators = "Brandt, H." }, Once.Unkeyed)
            .Answer.Number;
        var passage = desk.Sources.AddPassage(source, new NewPassage("Four loaves.", "p. 12"), Once.Unkeyed).Answer.Number;
        var piece = Piece($"They paid in bread. [[slip {passage}]]\n");
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Citing = Citing.AuthorYear }, Once.Unkeyed);
        desk.Outs.Finished(piece).ShouldContain("They paid in bread. (Brandt, p. 12)\n\n## Works cited");
        desk.Outs.Credits(piece).Works.ShouldHaveSingleItem().Source.ShouldBe(source);
        desk.Outs.Finished(piece, new OutAsked(WithTitle: false, Citing: Citing.None)).ShouldBe("They paid in bread.\n");
        Should.Throw<NotThereException>(() => desk.Outs.Finished(piece, new OutAsked(Side: "none")));
    }
}
