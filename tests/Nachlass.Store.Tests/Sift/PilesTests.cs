using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Tests.Sift;

public sealed class PilesTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private SlipNumber Catch(string text) => desk.Catch(text).Number;

    private CommandNumber Decide(SlipNumber slip, Decision decision, Reference? again = null) =>
        desk.Decisions.Decide(slip, decision, Once.Unkeyed, again).Command;

    private int[] Order(Pile pile) => [.. desk.Sift.Sitting(pile).Groups.SelectMany(g => g.Slips).Select(s => s.Number.Value)];

    private TopicNumber Topic(string name) => desk.Topics.List().Single(t => t.Name == name).Number;

    [Fact]
    public void The_pile_comes_in_the_order_asked_for()
    {
        Catch("one #tolls");
        desk.Clock.Advance(TimeSpan.FromDays(1));
        Catch("two #bells");
        desk.Clock.Advance(TimeSpan.FromDays(1));
        Catch("three");
        desk.Slips.Edit(
            SlipNumber.Of(2),
            new SlipChange
            {
                Version = 1,
                Pull = 5,
                Effort = 1,
            },
            Once.Unkeyed
        );
        Order(new(PileOrder.Oldest)).ShouldBe([1, 2, 3]);
        Order(new(PileOrder.Newest)).ShouldBe([3, 2, 1]);
        Order(new(PileOrder.Topic)).ShouldBe([2, 1, 3]);
        desk.Sift.Sitting(new(PileOrder.Topic)).Groups.Select(g => g.Topic?.Name).ShouldBe(["bells", "tolls", null]);
        Order(new(PileOrder.Worth)).First().ShouldBe(2);
        desk.Sift.Sitting(new(PileOrder.Worth))
            .Groups[0]
            .Slips[0]
            .Worth.ShouldNotBeNull()
            .ShouldBe(desk.Worth.Of(SlipNumber.Of(2))!.Score, 1e-9);
    }

    [Fact]
    public void A_view_narrows_what_waits()
    {
        Catch("one #tolls");
        Catch("is it two?");
        Decide(Catch("three #tolls"), new Decision.Keep());
        var view = desk.Views.Add(new ViewChange { Name = "Tolls", Query = "topic:tolls" }, Once.Unkeyed).Answer;
        desk.Sift.Sitting(new(View: view.Number)).ShouldSatisfyAllConditions(s => s.Name.ShouldBe("Tolls"), s => s.Waiting.ShouldBe(1));
        Order(new(View: view.Number)).ShouldBe([1]);
    }

    [Fact]
    public void A_topic_is_gone_through_again_and_later_only_the_new_remains()
    {
        var (first, second) = (Catch("first #tolls"), Catch("second #tolls"));
        Decide(first, new Decision.Keep());
        Decide(second, new Decision.Keep());
        Catch("waits #tolls");
        var tolls = Reference.To(Topic("tolls"));
        var pile = new Pile(Topic: Topic("tolls"));
        Order(pile).ShouldBe([1, 2]);
        desk.Decisions.PassOver(first, tolls, Once.Unkeyed);
        var dropped = Decide(second, new Decision.Drop(), tolls);
        desk.Sift.Sitting(pile)
            .ShouldSatisfyAllConditions(
                s => s.Waiting.ShouldBe(0),
                s => s.Settled.ShouldBe(2),
                s => s.Name.ShouldBe("tolls"),
                s => s.Before.ShouldBeNull()
            );
        desk.Undo(dropped);
        Order(pile).ShouldBe([2]);
        desk.Decisions.PassOver(second, tolls, Once.Unkeyed);
        desk.Clock.Advance(TimeSpan.FromDays(30));
        var late = Catch("third, in the winter #tolls");
        Decide(late, new Decision.Keep());
        Order(pile).ShouldBe([late.Value]);
        desk.Sift.Sitting(pile).Before.ShouldNotBeNull();
    }

    [Fact]
    public void A_piece_has_a_pile_of_what_could_belong_to_it()
    {
        var piece = desk.Pieces.Start(new NewPiece("Paid in bread on flood days") { Topics = ["tolls"] }, Once.Unkeyed).Answer.Number;
        Decide(Catch("A toll board with nine prices #tolls"), new Decision.Keep());
        Catch("Ferrymen were paid in bread on flood days, says the account book");
        Catch("Eels climb at night");
        Order(new(Piece: piece)).ShouldBe([1, 2], ignoreOrder: true);
        Decide(SlipNumber.Of(2), new Decision.PutIntoPiece(piece), Reference.To(piece));
        desk.Decisions.PassOver(SlipNumber.Of(1), Reference.To(piece), Once.Unkeyed);
        Order(new(Piece: piece)).ShouldBeEmpty();
        Should.Throw<NotThereException>(() => desk.Sift.Sitting(new(Piece: PieceNumber.Of(99))));
    }

    [Fact]
    public void Several_are_changed_and_decided_about_as_one_step()
    {
        var all = Enumerable.Range(1, 6).Select(n => Catch($"slip {n} #old")).ToList();
        var before = desk.Everything();
        var changed = desk.Decisions.Several(
            new SeveralChange
            {
                Slips = all,
                Topics = ["bells"],
                WithoutTopics = ["old"],
                Kind = SlipKind.Note,
                Pull = 4,
                Decision = new Decision.Keep(),
            },
            Once.Unkeyed
        );
        changed.Answer.ShouldAllBe(s =>
            s.State == SlipState.Kept && s.Kind == SlipKind.Note && s.Pull == 4 && s.Topics.Single().Name == "bells"
        );
        var started = desk.Decisions.Several(
            new SeveralChange { Slips = [.. all.Take(3)], Decision = new Decision.StartPiece(Title: "From three") },
            Once.Unkeyed
        );
        desk.Pieces.List().ShouldHaveSingleItem().Title.ShouldBe("From three");
        desk.Papers.Read(db => Dapper.SqlMapper.ExecuteScalar<int>(db, "SELECT count(*) FROM material")).ShouldBe(3);
        var merged = desk.Decisions.Several(new SeveralChange { Slips = all, Decision = new Decision.MergeInto(all[0]) }, Once.Unkeyed);
        desk.Slips.Get(all[0]).Text.ShouldContain("slip 6");
        desk.Undo(merged.Command);
        desk.Undo(started.Command);
        desk.Undo(changed.Command);
        desk.Everything().ShouldBe(before);
        Should.Throw<BadInputException>(() => desk.Decisions.Several(new SeveralChange(), Once.Unkeyed)).Field.ShouldBe("slips");
        Should
            .Throw<BadInputException>(() => desk.Decisions.Several(new SeveralChange { Slips = all, Pull = 9 }, Once.Unkeyed))
            .Field.ShouldBe("pull");
        Should.Throw<NotThereException>(() =>
            desk.Decisions.Several(new SeveralChange { Slips = [all[0], SlipNumber.Of(99)], Pull = 2 }, Once.Unkeyed)
        );
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void A_slip_is_split_and_its_parts_keep_what_it_had()
    {
        desk.Sources.Add(new SourceChange { Title = "The toll board" }, Once.Unkeyed);
        var slip = desk
            .Sources.AddPassage(SourceNumber.Of(1), new NewPassage("Nine prices. One crossed out.", "p. 3"), Once.Unkeyed)
            .Answer;
        var piece = desk.Pieces.Start(new NewPiece("Tolls"), Once.Unkeyed).Answer.Number;
        Decide(slip.Number, new Decision.PutIntoPiece(piece));
        var before = desk.Everything();
        var split = desk.Decisions.Split(
            slip.Number,
            desk.Slips.Get(slip.Number).Version,
            ["Nine prices.", "One crossed out.", "Whose hand?"],
            Once.Unkeyed
        );
        split.Answer.Select(s => s.Text).ShouldBe(["Nine prices.", "One crossed out.", "Whose hand?"]);
        split.Answer.ShouldAllBe(s => s.Locator == "p. 3" && s.Source == SourceNumber.Of(1) && s.State == SlipState.Kept);
        desk.Papers.Read(db => Dapper.SqlMapper.ExecuteScalar<int>(db, "SELECT count(*) FROM material")).ShouldBe(3);
        desk.Undo(split.Command);
        desk.Everything().ShouldBe(before);
        Should.Throw<BadInputException>(() => desk.Decisions.Split(slip.Number, 1, ["one"], Once.Unkeyed)).Field.ShouldBe("parts");
        Should.Throw<BadInputException>(() => desk.Decisions.Split(slip.Number, 1, ["one", " "], Once.Unkeyed)).Field.ShouldBe("parts");
        Should.Throw<StaleException>(() => desk.Decisions.Split(slip.Number, 1, ["one", "two"], Once.Unkeyed));
    }

    [Fact]
    public void Slips_are_joined_into_the_first_and_apart_again_by_undo()
    {
        var (a, b, c) = (Catch("alpha #one"), Catch("beta #two"), Catch("gamma"));
        var before = desk.Everything();
        var joined = desk.Decisions.Join([b, a, c], Once.Unkeyed);
        joined.Answer.ShouldSatisfyAllConditions(
            s => s.Number.ShouldBe(b),
            s => s.Text.ShouldBe("beta\n\nalpha\n\ngamma"),
            s => s.Topics.Select(t => t.Name).ShouldBe(["two", "one"])
        );
        desk.Slips.Get(a).MergedInto.ShouldBe(b);
        desk.Undo(joined.Command);
        desk.Everything().ShouldBe(before);
        Should.Throw<BadInputException>(() => desk.Decisions.Join([a, a], Once.Unkeyed)).Field.ShouldBe("slips");
    }

    [Fact]
    public void A_slip_held_until_there_are_sources_comes_back_when_they_speak_to_it()
    {
        using var watch = new EnoughWatch(desk.Papers, desk.Nearby);
        var slip = Catch("Ferrymen were paid in bread on flood days");
        Decide(slip, new Decision.Hold(Sources: 2));
        desk.Sources.Add(
            new SourceChange { Title = "Account book", Summary = "In flood weeks the ferrymen are paid in bread." },
            Once.Unkeyed
        );
        watch.Settle();
        watch.Speaking(slip).ShouldBe([SourceNumber.Of(1)]);
        desk.Slips.Get(slip).HeldUntil.ShouldBeNull();
        desk.Sources.Add(new SourceChange { Title = "Eels" }, Once.Unkeyed);
        desk.Sources.AddPassage(SourceNumber.Of(2), new NewPassage("Compare [[slip 1]].", "p. 4"), Once.Unkeyed);
        watch.Settle();
        Order(new()).ShouldContain(slip.Value);
        desk.Sift.Sitting().Groups.ShouldContain(g => g.BackFromHold);
        desk.Days.Day(desk.Today).BackFromHold.ShouldHaveSingleItem().HeldSources.ShouldBe(2);
        desk.History.Latest().ShouldContain(h => h.What.StartsWith("slip 1 came back: 2 sources speak to it"));
    }

    [Fact]
    public void What_is_held_to_be_looked_up_has_its_own_view_and_its_own_pile()
    {
        var (sought, dated, asked) = (Catch("When did the weir break?"), Catch("later"), Catch("how many boats"));
        Decide(sought, new Decision.Hold(LookUp: " the parish accounts of 1911 "));
        Decide(dated, new Decision.Hold(desk.Today.AddDays(4)));
        Decide(asked, new Decision.Hold(LookUp: ""));
        desk.Slips.Get(sought).HeldLookUp.ShouldBe("the parish accounts of 1911");
        desk.Library.List(new LibraryQuery("held:look-up")).Items.Select(e => e.Slip!.Number).ShouldBe([asked, sought]);
        desk.Library.List(new LibraryQuery("held:date")).Items.ShouldHaveSingleItem().Slip!.Number.ShouldBe(dated);
        desk.Views.List().ShouldContain(v => v.Name == "To look up" && v.Query == "held:look-up");
        desk.Sift.Sitting().Waiting.ShouldBe(0);
        var hour = desk.Sift.Sitting(new Pile(LookUp: true));
        hour.Waiting.ShouldBe(2);
        hour.Groups.SelectMany(g => g.Slips).Select(s => s.Number).ShouldBe([sought, asked], ignoreOrder: true);
        hour.Groups.ShouldAllBe(g => !g.BackFromHold);
        Decide(sought, new Decision.Keep());
        desk.Slips.Get(sought).HeldLookUp.ShouldBeNull();
        desk.Sift.Sitting(new Pile(LookUp: true)).Waiting.ShouldBe(1);
        Should.Throw<BadInputException>(() => Decide(asked, new Decision.Hold(LookUp: "x", Sources: 2))).Field.ShouldBe("until");
        Should.Throw<BadInputException>(() => Decide(asked, new Decision.Hold(LookUp: new string('x', 501)))).Field.ShouldBe("lookUp");
    }

    [Fact]
    public void The_pile_of_one_file_holds_what_waits_from_it()
    {
        Catch("by hand");
        desk.Capture.Catch([new("by post") { Origin = Origin.Import, OriginNote = "readers.csv" }], Once.Unkeyed);
        var pile = desk.Sift.Sitting(new Pile(From: "readers.csv"));
        pile.Name.ShouldBe("readers.csv");
        pile.Groups.ShouldHaveSingleItem().Slips.ShouldHaveSingleItem().Title.ShouldBe("by post");
        desk.Sift.Sitting(new Pile(From: "nothing of this name")).Waiting.ShouldBe(0);
    }

    [Fact]
    public void A_slip_is_held_for_an_occasion_or_until_there_are_sources()
    {
        desk.Papers.Run(
            "test",
            Once.Unkeyed,
            change =>
                Dapper.SqlMapper.Execute(
                    change.Db,
                    "INSERT INTO occasion (name, from_day, to_day, every_year) VALUES ('Ferry Lights', '2025-12-06', '2025-12-08', 1)"
                )
        );
        var (season, enough) = (Catch("lights"), Catch("sources"));
        Decide(season, new Decision.Hold(Occasion: OccasionNumber.Of(1)));
        desk.Slips.Get(season)
            .ShouldSatisfyAllConditions(s => s.HeldUntil.ShouldBe(new DateOnly(2026, 12, 6)), s => s.HeldOccasion!.Value.Value.ShouldBe(1));
        Decide(enough, new Decision.Hold(Sources: 3));
        desk.Sift.Sitting().Waiting.ShouldBe(0);
        desk.Library.List(new LibraryQuery("state:held")).Total.ShouldBe(2);
        desk.Clock.Advance(TimeSpan.FromDays(12));
        Order(new()).ShouldBe([season.Value]);
        Decide(enough, new Decision.Keep());
        desk.Slips.Get(enough).HeldSources.ShouldBeNull();
        Should.Throw<BadInputException>(() => Decide(enough, new Decision.Hold())).Field.ShouldBe("until");
        Should.Throw<BadInputException>(() => Decide(enough, new Decision.Hold(desk.Today.AddDays(3), Sources: 2))).Field.ShouldBe("until");
        Should.Throw<BadInputException>(() => Decide(enough, new Decision.Hold(Sources: 99))).Field.ShouldBe("sources");
        Should.Throw<BadInputException>(() => Decide(enough, new Decision.Hold(Occasion: OccasionNumber.Of(7)))).Field.ShouldBe("occasion");
    }
}
