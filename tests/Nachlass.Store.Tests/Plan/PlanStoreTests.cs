using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Plan;

/// <summary>The desk's day is Tuesday, 24 November 2026; two hours are usual on each working day.</summary>
public sealed class PlanStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber letters;

    public PlanStoreTests()
    {
        letters = desk.Outlets.Add(new() { Name = "Low Water", Formats = ["letter"] }, Once.Unkeyed).Answer.Number;
        desk.Cadences.Set(letters, "letter", new("every Thursday", new(2026, 11, 5), Fallback: "two days later"), Once.Unkeyed);
    }

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string title, string format, DateOnly? due = null, params string[] topics) =>
        desk.Pieces.Start(new NewPiece(title, format, Due: due, Topics: topics), Once.Unkeyed).Answer.Number;

    private IEnumerable<PlanEntry> Entries(PlanKind kind) => desk.Plan.Get(null, null).Entries.Where(e => e.Kind == kind);

    [Fact]
    public void A_week_shows_what_goes_out_what_is_to_be_done_by_when_and_what_is_open()
    {
        var letter = Piece("Letter 40", "letter", new(2026, 12, 3));
        desk.Days.AddMove("ask Pell", new(2026, 12, 1), null, null, Once.Unkeyed);
        desk.Hours.AddAway(new(2026, 12, 1), null, "Harnsby fair", Once.Unkeyed);
        var plan = desk.Plan.Get(null, null);
        (plan.From, plan.To, plan.Weeks.Count).ShouldBe((new DateOnly(2026, 11, 23), new DateOnly(2027, 1, 3), 6));
        // Eight hours of a letter, worked back through two a day: none on the day away.
        Entries(PlanKind.Stage)
            .Select(e => (e.Stage, e.Day))
            .ShouldBe([
                ("Gather", new DateOnly(2026, 11, 27)),
                ("Outline", new(2026, 11, 27)),
                ("Draft", new(2026, 12, 2)),
                ("Edit", new(2026, 12, 3)),
                ("Ready", new(2026, 12, 3)),
            ]);
        var due = Entries(PlanKind.Due).ShouldHaveSingleItem();
        (due.Piece, due.Missing, due.Hours, due.Begins).ShouldBe((letter, null, 8, new DateOnly(2026, 11, 27)));
        Entries(PlanKind.Open)
            .Select(e => e.Day)
            .ShouldBe([new DateOnly(2026, 11, 26), new(2026, 12, 10), new(2026, 12, 17), new(2026, 12, 24), new(2026, 12, 31)]);
        Entries(PlanKind.Move).ShouldHaveSingleItem().Title.ShouldBe("ask Pell");
        Entries(PlanKind.Away).ShouldHaveSingleItem().Title.ShouldBe("Harnsby fair");
        plan.Weeks.Select(w => (w.Week, w.Hours, w.Load)).Take(3).ShouldBe([(48, 8.0, 2.0), (49, 8, 6), (50, 10, 0)]);
    }

    [Fact]
    public void A_missed_date_is_shown_and_comes_once_more()
    {
        // The 19th went by; two days later was the 21st, which went by too: so it is for a longer fallback.
        desk.Cadences.Set(letters, "letter", new("every Thursday", new(2026, 11, 19), Fallback: "9 days later"), Once.Unkeyed);
        var plan = desk.Plan.Get(new(2026, 11, 16), new(2026, 11, 29));
        plan.Entries.Single(e => e.Kind == PlanKind.Missed).Day.ShouldBe(new DateOnly(2026, 11, 19));
        plan.Entries.Where(e => e.Kind == PlanKind.Open)
            .Select(e => (e.Day, e.InsteadOf))
            .ShouldBe([(new DateOnly(2026, 11, 26), null), (new(2026, 11, 28), new DateOnly(2026, 11, 19))]);
        Piece("Letter 39", "letter", new(2026, 11, 28));
        desk.Plan.Get(new(2026, 11, 16), new(2026, 11, 29)).Entries.ShouldNotContain(e => e.InsteadOf != null);
    }

    [Fact]
    public void A_move_is_tried_before_it_is_made_and_undone_as_one()
    {
        var essay = Piece("An essay", "essay", new(2026, 12, 18));
        var before = desk.Plan.Get(null, null);
        var tried = desk.Plan.Try(essay, new(2026, 11, 27));
        // Sixteen hours against eight up to Friday.
        (tried.Missing, tried.ReadyOn).ShouldBe((8, new DateOnly(2026, 12, 3)));
        tried.Weeks.Single(w => w.Week == 48).After.ShouldBe(16);
        Same(desk.Plan.Get(null, null), before);

        var moved = desk.Plan.Place(essay, new(2026, 11, 27), null, Once.Unkeyed);
        moved.Answer.Weeks[0].Over.ShouldBe(8);
        moved.Answer.Weeks[0].By.ShouldBe([new LoadLine(essay, "An essay", 16, 8)]);
        desk.Undo(moved.Command);
        Same(desk.Plan.Get(null, null), before);

        desk.Plan.Place(essay, null, null, Once.Unkeyed).Answer.Undated.ShouldHaveSingleItem().Number.ShouldBe(essay);
    }

    private static void Same(PlanShown one, PlanShown other)
    {
        one.Entries.Select(e => e with { Topics = [], People = [], Version = null })
            .ShouldBe(other.Entries.Select(e => e with { Topics = [], People = [], Version = null }));
        one.Weeks.Select(w => w with { By = [] }).ShouldBe(other.Weeks.Select(w => w with { By = [] }));
    }

    [Fact]
    public void A_stage_stays_on_the_day_the_writer_set_until_it_is_left_to_its_date_again()
    {
        var essay = Piece("An essay", "essay", new(2026, 12, 18));
        var stage = desk.Plan.PlaceStage(essay, "Draft", new(2026, 12, 9), Once.Unkeyed).Answer.Entries.Single(e => e.Stage == "Draft");
        (stage.Day, stage.IsSet).ShouldBe((new DateOnly(2026, 12, 9), true));
        desk.Plan.PlaceStage(essay, "Draft", null, Once.Unkeyed).Answer.Entries.Single(e => e.Stage == "Draft").IsSet.ShouldBeFalse();
        Should.Throw<BadInputException>(() => desk.Plan.PlaceStage(essay, "Out", desk.Today, Once.Unkeyed)).Field.ShouldBe("stage");
    }

    [Fact]
    public void A_piece_fills_a_date_of_its_own_outlet_only_and_an_outlet_takes_its_formats()
    {
        var other = desk.Outlets.Add(new() { Name = "Another letter", Formats = ["letter"] }, Once.Unkeyed).Answer.Number;
        var letter = Piece("Letter 40", "letter");
        desk.Plan.Place(letter, new(2026, 12, 10), other, Once.Unkeyed);
        Entries(PlanKind.Open).Select(e => e.Day).ShouldContain(new DateOnly(2026, 12, 10));
        desk.Plan.Place(letter, new(2026, 12, 10), letters, Once.Unkeyed);
        Entries(PlanKind.Open).Select(e => e.Day).ShouldNotContain(new DateOnly(2026, 12, 10));
        var essay = Piece("An essay", "essay");
        Should.Throw<BadInputException>(() => desk.Plan.Place(essay, desk.Today, letters, Once.Unkeyed)).Field.ShouldBe("outlet");
        // An outlet that is taken out leaves its pieces where they are, and comes back with them.
        var gone = desk.Outlets.Remove(letters, Once.Unkeyed);
        desk.Pieces.Get(letter).Outlet.ShouldBeNull();
        desk.Cadences.List().ShouldBeEmpty();
        desk.Undo(gone.Command);
        desk.Pieces.Get(letter).Outlet.ShouldBe(letters);
        desk.Cadences.List().ShouldHaveSingleItem();
    }

    [Fact]
    public void One_date_falls_out_or_is_on_another_day_and_a_moved_one_is_moved_again()
    {
        desk.Cadences.Except(letters, "letter", new(2026, 12, 3), null, Once.Unkeyed);
        desk.Cadences.Except(letters, "letter", new(2026, 12, 10), new(2026, 12, 11), Once.Unkeyed);
        desk.Cadences.Except(letters, "letter", new(2026, 12, 11), new(2026, 12, 12), Once.Unkeyed);
        Entries(PlanKind.Open).Take(3).Select(e => e.Day).ShouldBe([new DateOnly(2026, 11, 26), new(2026, 12, 12), new(2026, 12, 17)]);
        desk.Cadences.Except(letters, "letter", new(2026, 12, 12), new(2026, 12, 10), Once.Unkeyed).Answer[0].Others.Count.ShouldBe(1);
        Should
            .Throw<BadInputException>(() => desk.Cadences.Except(letters, "letter", new(2026, 12, 4), null, Once.Unkeyed))
            .Field.ShouldBe("date");
    }

    [Fact]
    public void What_can_not_be_asked_is_refused()
    {
        Should.Throw<BadInputException>(() => desk.Plan.Get(new(2026, 12, 1), new(2026, 11, 1))).Field.ShouldBe("to");
        Should.Throw<BadInputException>(() => desk.Plan.Get(new(2026, 12, 1), new(2036, 11, 1))).Field.ShouldBe("to");
        Should.Throw<BadInputException>(() => desk.Plan.Get(new(1, 1, 1), null)).Field.ShouldBe("from");
        var edit = new OutletChange { Name = "low water" };
        Should.Throw<BadInputException>(() => desk.Outlets.Add(edit, Once.Unkeyed)).Field.ShouldBe("name");
        Should
            .Throw<BadInputException>(() => desk.Outlets.Add(edit with { Name = "X", Formats = ["sonnet"] }, Once.Unkeyed))
            .Field.ShouldBe("formats");
        Should.Throw<StaleException>(() => desk.Outlets.Edit(letters, edit with { Version = 7 }, Once.Unkeyed));
    }

    [Fact]
    public void Cadences_of_papers_from_before_there_were_outlets_get_an_outlet_of_their_format()
    {
        const string about = """
            ---
            nachlass: 1
            cadences:
            - format: letter
              rule: FREQ=WEEKLY;BYDAY=TH
              from: 2026-11-12
            - format: essay
              rule: FREQ=DAILY;INTERVAL=28
              from: 2026-11-12
            ---

            Papers.
            """;
        using var other = new Desk();
        other.Images.Put(Exchange.Papers.PapersFiles.Read([("papers.md", about)]), Once.Unkeyed);
        var outlets = other.Outlets.List();
        outlets.Select(o => (o.Name, string.Concat(o.Formats))).ShouldBe([("letter", "letter"), ("essay", "essay")]);
        other
            .Cadences.List()
            .Select(c => (c.Cadence.Outlet, c.Cadence.Format))
            .ShouldBe([(outlets[0].Number, "letter"), (outlets[1].Number, "essay")]);
    }
}
