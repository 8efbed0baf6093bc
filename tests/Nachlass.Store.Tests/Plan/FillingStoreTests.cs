using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Plan;

public sealed class FillingStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber letters;

    public FillingStoreTests()
    {
        letters = desk.Outlets.Add(new() { Name = "Low Water", Formats = ["letter"] }, Once.Unkeyed).Answer.Number;
        desk.Cadences.Set(letters, "letter", new("every second Thursday", new(2026, 12, 3)), Once.Unkeyed);
        desk.Hours.Set([4, 4, 4, 4, 4, 0, 0], Once.Unkeyed);
    }

    public void Dispose() => desk.Dispose();

    private SlipNumber Idea(string text, int pull)
    {
        var slip = desk.Catch(text).Number;
        desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed);
        desk.Slips.Edit(slip, new SlipChange { Version = desk.Slips.Get(slip).Version, Pull = pull }, Once.Unkeyed);
        return slip;
    }

    [Fact]
    public void Open_dates_are_filled_by_what_is_in_work_and_what_is_worth_most_each_with_why()
    {
        var piece = desk.Pieces.Start(new NewPiece("Letter 40", "letter"), Once.Unkeyed).Answer.Number;
        var best = Idea("The far bank is always dearer #tolls", 5);
        Idea("A bell nobody rings #bells", 1);
        Idea("Ice has no owner #ice", 3);
        var film = desk.Pieces.Start(new NewPiece("A film", "film"), Once.Unkeyed).Answer.Number;
        var proposal = desk.Filling.Propose(new FillingAsked());
        proposal.Places.Select(p => p.Date).ShouldBe([new(2026, 12, 3), new(2026, 12, 17), new(2026, 12, 31)]);
        proposal.Places.ShouldContain(p => p.Piece == piece);
        proposal.Places.ShouldContain(p => p.Slip == best);
        proposal.Places.ShouldAllBe(p => p.Because.Count > 0 && p.Hours > 0);
        proposal.LeftOut.Single(l => l.Piece == film).Why.ShouldBe("no open date takes what it would become");
        proposal.Value.ShouldBeLessThanOrEqualTo(proposal.Bound);
        // Nothing was changed by asking.
        desk.Pieces.Get(piece).Due.ShouldBeNull();
    }

    [Fact]
    public void A_part_is_taken_as_one_step_and_taken_back_as_one()
    {
        var piece = desk.Pieces.Start(new NewPiece("Letter 40", "letter"), Once.Unkeyed).Answer.Number;
        var idea = Idea("The far bank is always dearer #tolls", 5);
        var before = desk.Everything();
        var proposal = desk.Filling.Propose(new FillingAsked());
        var taken = desk.Filling.Take(
            [.. proposal.Places.Take(2).Select(p => new FillingTaken(p.Date, p.Outlet, p.Format, p.Slip, p.Piece))],
            Once.Unkeyed
        );
        taken.Answer.Count.ShouldBe(2);
        var begun = desk.Pieces.Get(taken.Answer.Single(n => n != piece));
        (begun.Format, begun.Outlet, begun.Topics.Single().Name).ShouldBe(("letter", letters, "tolls"));
        begun.Due.ShouldNotBeNull();
        desk.Steps.Of(begun.Number).Steps.ShouldNotBeEmpty();
        desk.Slips.Get(idea).State.ShouldBe(SlipState.Kept);
        desk.Filling.Propose(new FillingAsked()).Places.ShouldNotContain(p => p.Piece == piece || p.Slip == idea);
        desk.Undo(taken.Command);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void What_has_a_date_stays_on_it_and_its_hours_are_not_given_twice()
    {
        var fixedOn = desk.Pieces.Start(new NewPiece("Letter 40", "letter", Due: new(2026, 12, 3)), Once.Unkeyed).Answer.Number;
        // Forty hours up to 7 December; an essay of 16, a letter of 8 and a talk of 24 leave none before the tenth.
        desk.Pieces.Start(new NewPiece("A talk", "talk", Due: new(2026, 12, 9)), Once.Unkeyed);
        desk.Pieces.Start(new NewPiece("An essay", "essay", Due: new(2026, 12, 8)), Once.Unkeyed);
        Idea("The far bank is always dearer #tolls", 5);
        var proposal = desk.Filling.Propose(new FillingAsked(To: new(2026, 12, 20)));
        proposal.Places.ShouldAllBe(p => p.Date != new DateOnly(2026, 12, 3));
        desk.Pieces.Get(fixedOn).Due.ShouldBe(new DateOnly(2026, 12, 3));
        Should.Throw<BadInputException>(() => desk.Filling.Propose(new FillingAsked(Spacing: -1))).Field.ShouldBe("spacing");
        Should.Throw<BadInputException>(() => desk.Filling.Take([], Once.Unkeyed)).Field.ShouldBe("places");
        Should
            .Throw<BadInputException>(() => desk.Filling.Take([new(desk.Today, letters, "letter")], Once.Unkeyed))
            .Field.ShouldBe("places");
    }

    [Fact]
    public void The_mix_of_what_is_planned_stands_against_the_wish()
    {
        desk.Catch("#tolls and #bells");
        foreach (var topic in desk.Topics.List())
            desk.Topics.Edit(topic.Number, new TopicChange { Version = topic.Version, Wish = 50 }, Once.Unkeyed);
        var tolls = desk
            .Pieces.Start(new NewPiece("Letter 40", "letter", Due: new(2026, 12, 3), Topics: ["tolls"]), Once.Unkeyed)
            .Answer.Number;
        desk.Pieces.Start(new NewPiece("Letter 41", "letter", Due: new(2026, 12, 17), Topics: ["tolls"]), Once.Unkeyed);
        var bells = desk.Pieces.Start(new NewPiece("Letter 42", "letter", Topics: ["bells"]), Once.Unkeyed).Answer.Number;
        var mix = desk.Mix.Get(null, null, MixBy.Topic, MixIn.Pieces, null);
        mix.Dates.ShouldBe(3);
        var line = mix.Lines.Single(l => l.Name == "tolls");
        (line.Wished, line.Planned, line.WishedDates + mix.Lines.Single(l => l.Name == "bells").WishedDates).ShouldBe((0.5, 1, 3));
        mix.Swap.ShouldNotBeNull().ShouldBe(new MixSwap(tolls, "Letter 40", bells, null, "Letter 42", 0.5, 0));
        desk.Mix.Get(null, null, MixBy.Outlet, MixIn.Hours, null).Lines.ShouldHaveSingleItem().Wished.ShouldBeNull();
        desk.Mix.Get(null, null, MixBy.Format, MixIn.Words, null).Lines.ShouldContain(l => l.Key == "letter");
        Should.Throw<BadInputException>(() => desk.Mix.Get(null, null, MixBy.Axis, MixIn.Pieces, null)).Field.ShouldBe("axis");
    }
}
