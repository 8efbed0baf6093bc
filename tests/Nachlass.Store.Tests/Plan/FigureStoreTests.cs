using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Plan;

/// <summary>The desk's day is Tuesday, 24 November 2026.</summary>
public sealed class FigureStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string title, DateOnly? due = null) =>
        desk.Pieces.Start(new NewPiece(title, "letter", Due: due), Once.Unkeyed).Answer.Number;

    private void Change(PieceNumber piece, PieceChange change) =>
        desk.Pieces.Edit(piece, change with { Version = desk.Pieces.Get(piece).Version }, Once.Unkeyed);

    [Fact]
    public void Figures_are_made_of_what_really_happened()
    {
        var kept = desk.Catch("What the ferryman read").Number;
        desk.Catch("Never used");
        var piece = Piece("Letter 1", desk.Today.AddDays(6));
        desk.Pieces.Place(piece, Reference.To(kept), null, Once.Unkeyed);
        desk.Drafts.Save(piece, "one two three four", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Clock.Advance(TimeSpan.FromDays(4));
        Change(piece, new PieceChange { Stage = "Draft" });
        desk.Clock.Advance(TimeSpan.FromDays(5));
        Change(piece, new PieceChange { Stage = "Out" });
        var figures = desk.Figures.Get(null, null);
        figures.All.Released.ShouldBe(1);
        figures.All.Lead.ShouldBe(new Middle(9, 1));
        figures.All.Punctuality.ShouldBe(new Punctuality(0, 1, new Middle(3, 1), 0));
        (figures.Caught, figures.GotOut).ShouldBe((2, 1));
        (figures.WordsADay, figures.DaysWritten).ShouldBe((new Middle(4, 1), 1));
        figures.Months[^1].Released.ShouldBe(1);
        figures.Weeks.Sum(w => w.Caught).ShouldBe(2);
        figures.Formats.Single().Stages.Take(3).Select(s => s.Days.Median).ShouldBe([4, null, 5]);
        figures.Outlets.ShouldBeEmpty();
        // Before it there was nothing.
        desk.Figures.Get(new(2026, 1, 1), new(2026, 11, 1)).All.Released.ShouldBe(0);
        Should.Throw<BadInputException>(() => desk.Figures.Get(new(2026, 2, 1), new(2026, 1, 1))).Field.ShouldBe("to");
    }

    [Fact]
    public void A_goal_counts_from_its_day()
    {
        var goals = desk.Goals.Add(
            new GoalChange
            {
                Of = GoalOf.Released,
                Target = 2,
                By = desk.Today.AddDays(30),
                Format = "letter",
            },
            Once.Unkeyed
        );
        goals.Answer.Single().Progress.Reached.ShouldBe(0);
        Change(Piece("Letter 1"), new PieceChange { Stage = "Out" });
        desk.Goals.List().Single().Progress.Reached.ShouldBe(1);
        var number = goals.Answer.Single().Goal.Number;
        desk.Goals.Edit(number, new GoalChange { Format = "essay" }, Once.Unkeyed).Answer.Single().Progress.Reached.ShouldBe(0);
        Should
            .Throw<BadInputException>(() => desk.Goals.Edit(number, new GoalChange { Target = -1 }, Once.Unkeyed))
            .Field.ShouldBe("target");
        desk.Goals.Remove(number, Once.Unkeyed).Answer.ShouldBeEmpty();
    }

    [Fact]
    public void A_few_pieces_are_pinned_in_the_writers_order()
    {
        var pieces = Enumerable.Range(1, 5).Select(i => Piece("Letter " + i)).ToList();
        desk.Pinned.Set([pieces[2], pieces[0]], Once.Unkeyed);
        desk.Pinned.List().Select(p => p.Number).ShouldBe([pieces[2], pieces[0]]);
        Should.Throw<BadInputException>(() => desk.Pinned.Set(pieces, Once.Unkeyed)).Message.ShouldContain("At most 4");
        desk.Pinned.Set([pieces[1]], Once.Unkeyed);
        desk.Pinned.List().Select(p => p.Number).ShouldBe([pieces[1]]);
    }

    [Fact]
    public void A_sitting_offers_what_could_fill_the_dates_of_a_period_and_says_what_is_too_near()
    {
        var outlet = desk.Outlets.Add(new OutletChange { Name = "Low Water", Formats = ["letter"] }, Once.Unkeyed).Answer.Number;
        desk.Cadences.Set(outlet, "letter", new("every Thursday", new(2026, 11, 26)), Once.Unkeyed);
        var idea = desk.Catch("The ferrymen of Ostrey were paid in loaves of bread on flood days #bread").Number;
        var ask = desk.Catch("Could you write about the loaves the ferrymen were paid in?").Number;
        desk.Slips.Edit(
            ask,
            new Store.Capture.SlipChange { Version = desk.Slips.Get(ask).Version, Kind = Core.Capture.SlipKind.Ask },
            Once.Unkeyed
        );
        desk.Decisions.Decide(idea, new Core.Sift.Decision.Keep(), Once.Unkeyed);
        var undated = Piece("Bells");
        var near = Piece("Loaves", new(2026, 12, 3));
        desk.Drafts.Save(
            near,
            "Nothing here.\n\nThe ferrymen of Ostrey were paid in loaves of bread.\n",
            desk.Drafts.Get(near).Version,
            Once.Unkeyed
        );
        var sitting = desk.Choosing.Get(null, new(2026, 12, 20));
        sitting.Open.Select(o => o.Date).ShouldBe([new DateOnly(2026, 11, 26), new(2026, 12, 10), new(2026, 12, 17)]);
        sitting.Candidates.Select(c => (c.Kind, c.Number)).ShouldContain((CandidateKind.Piece, undated.Value));
        sitting.Candidates.Select(c => (c.Kind, c.Number)).ShouldContain((CandidateKind.Ask, ask.Value));
        sitting.Candidates.Select(c => (c.Kind, c.Number)).ShouldContain((CandidateKind.Idea, idea.Value));
        var found = desk.Choosing.Near(CandidateKind.Idea, idea.Value).ShouldHaveSingleItem();
        (found.Piece, found.On, found.IsOut).ShouldBe((near, new DateOnly(2026, 12, 3), false));
        found.Passage.ShouldBe("The ferrymen of Ostrey were paid in loaves of bread.");

        desk.Choosing.Never(Reference.To(idea), true, Once.Unkeyed);
        desk.Choosing.Get(null, new(2026, 12, 20)).Candidates.ShouldNotContain(c => c.Kind == CandidateKind.Idea && c.Number == idea.Value);
        desk.Filling.Propose(new FillingAsked(null, new DateOnly(2026, 12, 20))).Places.ShouldNotContain(p => p.Slip == idea);
        desk.Choosing.Never(Reference.To(idea), false, Once.Unkeyed);
        desk.Choosing.Get(null, new(2026, 12, 20)).Candidates.ShouldContain(c => c.Kind == CandidateKind.Idea && c.Number == idea.Value);
    }
}
