using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Plan;

public sealed class StageStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string title, string format = "essay", params string[] topics) =>
        desk.Pieces.Start(new NewPiece(title, format, Topics: topics), Once.Unkeyed).Answer.Number;

    private Done<Core.Bench.Piece> Change(PieceNumber piece, PieceChange change) =>
        desk.Pieces.Edit(piece, change with { Version = desk.Pieces.Get(piece).Version }, Once.Unkeyed);

    private Done<Core.Bench.Piece> To(PieceNumber piece, string stage) => Change(piece, new PieceChange { Stage = stage });

    private StandingPiece Standing(PieceNumber piece) => desk.Stages.Get().Pieces.Single(p => p.Number == piece);

    [Fact]
    public void How_long_a_piece_has_stood_counts_from_when_it_came_there()
    {
        var piece = Piece("The far bank");
        desk.Clock.Advance(TimeSpan.FromDays(12));
        Standing(piece).Days.ShouldBe(12);
        // Other changes do not count as coming there.
        Change(piece, new PieceChange { Title = "The farther bank" });
        Standing(piece).Days.ShouldBe(12);
        var moved = To(piece, "Draft");
        Standing(piece).Days.ShouldBe(0);
        desk.History.Undo(moved.Command, Once.Unkeyed);
        (Standing(piece).Stage, Standing(piece).Days).ShouldBe(("Gather", 12));
    }

    [Fact]
    public void What_stages_really_took_corrects_what_is_planned()
    {
        for (var i = 0; i < 3; i++)
        {
            var piece = Piece("Letter " + i, "letter");
            To(piece, "Draft");
            desk.Drafts.Save(piece, "one", desk.Drafts.Get(piece).Version, Once.Unkeyed);
            for (var minutes = 0; minutes < 120; minutes += 20)
            {
                desk.Clock.Advance(TimeSpan.FromMinutes(20));
                desk.Drafts.Save(piece, "one " + minutes, desk.Drafts.Get(piece).Version, Once.Unkeyed);
            }
            desk.Clock.Advance(TimeSpan.FromDays(3));
            To(piece, "Out");
        }
        var takes = desk.Stages.Get().Formats.Single(f => f.Key == "letter").Takes;
        var draft = takes.Single(s => s.Stage == "Draft");
        draft.Usual.ShouldNotBe(2);
        draft.Took!.Value.ShouldBe(2, 0.01);
        draft.Days!.Value.ShouldBe(3.08, 0.01);
        var next = Piece("Letter 4", "letter");
        Standing(next).Hours.ShouldBe(takes.SkipLast(1).Sum(s => s.Hours), 0.001);
    }

    [Fact]
    public void Words_of_the_writers_own_stand_across_stages()
    {
        var piece = Piece("The far bank");
        Change(piece, new PieceChange { States = ["sponsored", " waits for Pell ", "Sponsored"] });
        desk.Pieces.Get(piece).States.ShouldBe(["sponsored", "waits for Pell"]);
        To(piece, "Draft");
        desk.Pieces.Get(piece).States.ShouldBe(["sponsored", "waits for Pell"]);
        desk.Stages.Get().Words.ShouldBe(["sponsored", "waits for Pell"]);
        Should.Throw<BadInputException>(() => Change(piece, new PieceChange { States = [""] })).Field.ShouldBe("states");
    }

    [Fact]
    public void A_piece_goes_out_with_its_date_and_address_and_leaves_the_stages()
    {
        var piece = Piece("The far bank");
        Should.Throw<BadInputException>(() => Change(piece, new PieceChange { OutOn = desk.Today })).Field.ShouldBe("outOn");
        Change(
            piece,
            new PieceChange
            {
                Stage = "Out",
                OutOn = desk.Today.AddDays(-1),
                OutAddress = "https://ostrey.example/far-bank",
            }
        );
        var shown = desk.Stages.Get();
        shown.Pieces.ShouldBeEmpty();
        shown.JustOut.ShouldHaveSingleItem().Number.ShouldBe(piece);
        var got = desk.Pieces.Get(piece);
        (got.OutOn, got.OutAddress).ShouldBe((desk.Today.AddDays(-1), "https://ostrey.example/far-bank"));
        Should.Throw<BadInputException>(() => Change(piece, new PieceChange { OutAddress = "nowhere" })).Field.ShouldBe("outAddress");
    }

    [Fact]
    public void So_many_are_wished_at_a_stage_and_it_follows_a_stage_that_is_renamed()
    {
        desk.Formats.SetMost("essay", "Draft", 2, Once.Unkeyed);
        desk.Stages.Get().Formats.Single(f => f.Key == "essay").Most.ShouldBe(new Dictionary<string, int> { ["Draft"] = 2 });
        var essay = desk.Formats.Get("essay");
        desk.Formats.Edit(
            "essay",
            new FormatEdit(essay) with
            {
                Stages = [.. essay.Stages.Select(s => s == "Draft" ? "Write" : s)],
                Steps = [],
                Moved = new Dictionary<string, string> { ["Draft"] = "Write" },
            },
            Once.Unkeyed
        );
        desk.Stages.Get().Formats.Single(f => f.Key == "essay").Most.ShouldBe(new Dictionary<string, int> { ["Write"] = 2 });
        Should.Throw<BadInputException>(() => desk.Formats.SetMost("essay", "Write", 0, Once.Unkeyed)).Field.ShouldBe("most");
    }

    private static readonly StageRuleChange Proofs = new()
    {
        Name = "Proofs go to Pell",
        Stage = "Edit",
        Query = "topic:tolls",
        Acts =
        [
            new StageAct.LaySteps(["Read “{{ title }}” aloud"]),
            new StageAct.MakeMove("Send “{{ title }}” to Pell", 3),
            new StageAct.MakeFolders(["proofs"]),
            new StageAct.StartAnother("thread"),
        ],
        IsOn = true,
    };

    [Fact]
    public void A_rule_is_tried_on_the_past_and_follows_once_for_what_meets_it()
    {
        var past = Piece("A penny a pig", "essay", "tolls");
        To(past, "Edit");
        var tried = desk.StageRules.Try(Proofs);
        tried.Looked.ShouldBe(1);
        tried
            .Met.ShouldHaveSingleItem()
            .Would.ShouldBe([
                "lay in the step “Read “{{ title }}” aloud”",
                "make the move “Send “{{ title }}” to Pell”, due 3 days after",
                "make the folders proofs",
                "start a piece that follows it: thread",
            ]);
        desk.Days.OpenMoves().ShouldBeEmpty();

        desk.StageRules.Add(Proofs, Once.Unkeyed);
        desk.Days.OpenMoves().ShouldBeEmpty();
        var other = Piece("On ropes", "essay", "ropes");
        To(other, "Edit").Followed.ShouldBe("");
        var piece = Piece("The far bank", "essay", "tolls");
        To(piece, "Edit").Followed.ShouldBe($"the rule “Proofs go to Pell” followed for P {piece}");
        var move = desk.Days.OpenMoves().ShouldHaveSingleItem();
        (move.Text, move.Piece, move.Due).ShouldBe(("Send “The far bank” to Pell", piece, desk.Today.AddDays(3)));
        desk.Steps.Of(piece).Steps.Count(s => s.Text == "Read “The far bank” aloud" && s.Stage == "Edit").ShouldBe(1);
        Directory.Exists(Path.Combine(desk.Papers.Folder, "pieces", $"P{piece}", "proofs")).ShouldBeTrue();
        desk.Pieces.List().Count(p => p.Format == "thread").ShouldBe(1);

        // Back and there again: it has followed already.
        To(piece, "Draft");
        To(piece, "Edit").Followed.ShouldBe("");
        desk.Days.OpenMoves().Count.ShouldBe(1);
        desk.StageRules.List().Single().Ran.ShouldBe([piece]);
    }

    [Fact]
    public void Taking_the_step_back_takes_back_what_followed_and_it_may_follow_again()
    {
        desk.StageRules.Add(Proofs, Once.Unkeyed);
        var piece = Piece("The far bank", "essay", "tolls");
        desk.History.Undo(To(piece, "Edit").Command, Once.Unkeyed);
        desk.Days.OpenMoves().ShouldBeEmpty();
        desk.Pieces.List().ShouldHaveSingleItem().Stage.ShouldBe("Gather");
        desk.StageRules.List().Single().Ran.ShouldBeEmpty();
        To(piece, "Edit");
        desk.Days.OpenMoves().Count.ShouldBe(1);
    }

    [Fact]
    public void A_rule_for_a_format_that_is_gone_stays_goes_out_and_comes_in()
    {
        var own = desk.Formats.Add(new Core.Bench.Format(desk.Formats.Get("essay")) with { Name = "Almanac" }, Once.Unkeyed).Answer.Key;
        desk.StageRules.Add(Proofs with { Format = new(true, own), Acts = [new StageAct.StartAnother(own)] }, Once.Unkeyed);
        desk.Formats.Remove(own, Once.Unkeyed);
        var kept = Exchange.Papers.PapersFiles.Read(Exchange.Papers.PapersFiles.Write(desk.Images.Take()));
        kept.Planning.StageRules.ShouldHaveSingleItem().Rule.Format.ShouldBe(own);
        To(Piece("The far bank", "essay", "tolls"), "Edit").Followed.ShouldBe("");
    }

    [Theory]
    [InlineData("stage", "Nowhere", "", "move")]
    [InlineData("query", "Edit", "topic:", "move")]
    [InlineData("move", "Edit", "", "{{ nothing }}")]
    [InlineData("move", "Edit", "", "")]
    public void A_rule_that_makes_no_sense_says_what_and_where(string field, string stage, string query, string move) =>
        Should
            .Throw<BadInputException>(() =>
                desk.StageRules.Add(
                    new StageRuleChange
                    {
                        Name = "x",
                        Stage = stage,
                        Query = query,
                        Acts = [new StageAct.MakeMove(move)],
                    },
                    Once.Unkeyed
                )
            )
            .Field.ShouldBe(field);
}
