using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class ReleaseFigureStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber site;

    public ReleaseFigureStoreTests() => site = desk.Outlets.Add(new OutletChange { Name = "site" }, Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    private Release Out(int daysAgo, string title = "The ford", string format = "essay", string address = "")
    {
        var piece = desk.Pieces.Start(new NewPiece(title, format, Topics: ["fords"]), Once.Unkeyed).Answer.Number;
        return desk
            .Releases.Record(piece, new NewRelease(site, desk.Today.AddDays(-daysAgo), address, Text: "It moved in winter."), Once.Unkeyed)
            .Answer;
    }

    private FiguresOf Type(Release release, string name, int? total, int daysAgo = 0) =>
        desk.ReleaseFigures.Type(release.Number, new(name, total, desk.Today.AddDays(-daysAgo)), Once.Unkeyed).Answer;

    [Fact]
    public void A_figure_is_typed_changed_taken_away_and_every_step_can_be_undone()
    {
        var release = Out(10);
        Type(release, "Views", 40, 9);
        var line = Type(release, "views", 100).Lines.ShouldHaveSingleItem();
        (line.Name, line.Latest).ShouldBe(("views", 100));
        line.Week!.Value.ShouldBe(40 + 60 * 6 / 9.0, 0.001);
        var changed = desk.ReleaseFigures.Type(release.Number, new("views", 120), Once.Unkeyed);
        changed.Answer.Lines[0].Told.Select(t => t.Total).ShouldBe([40, 120]);
        desk.History.Undo(changed.Command, Once.Unkeyed);
        desk.ReleaseFigures.Get(release.Number).Lines[0].Latest.ShouldBe(100);
        Type(release, "views", null).Lines[0].Told.ShouldHaveSingleItem().Total.ShouldBe(40);
        Should.Throw<NotThereException>(() => Type(release, "views", null));
    }

    [Fact]
    public void What_cannot_be_is_refused_with_its_field()
    {
        var release = Out(3);
        Should.Throw<BadInputException>(() => Type(release, "views", -1)).Field.ShouldBe("total");
        Should.Throw<BadInputException>(() => Type(release, " ", 1)).Field.ShouldBe("name");
        Should.Throw<BadInputException>(() => Type(release, "views", 1, daysAgo: 4)).Field.ShouldBe("day");
        Should.Throw<BadInputException>(() => Type(release, "views", 1, daysAgo: -1)).Field.ShouldBe("day");
        Should.Throw<NotThereException>(() => desk.ReleaseFigures.Get(ReleaseNumber.Of(99)));
    }

    [Fact]
    public void What_an_outlet_tells_is_no_step_and_what_is_typed_for_the_same_day_holds_before_it()
    {
        var release = Out(3, address: "https://tavle.example/ford");
        desk.ReleaseFigures.ToAsk([site]).ShouldHaveSingleItem().Address.ShouldBe("https://tavle.example/ford");
        var before = desk.History.Latest(1)[0].Command;
        desk.ReleaseFigures.Told(release.Number, new Dictionary<string, int> { ["views"] = 7, ["replies"] = 1 });
        desk.History.Latest(1)[0].Command.ShouldBe(before);
        desk.ReleaseFigures.Get(release.Number).Lines.Select(l => (l.Name, l.Latest)).ShouldBe([("views", 7), ("replies", 1)]);
        desk.ReleaseFigures.ToAsk([site]).ShouldBeEmpty("it was asked today");
        desk.Clock.Advance(TimeSpan.FromDays(1));
        desk.ReleaseFigures.ToAsk([site]).ShouldHaveSingleItem();
        desk.ReleaseFigures.ToAsk([]).ShouldBeEmpty();
        Type(release, "views", 9, daysAgo: 1).Lines[0].Told.ShouldHaveSingleItem().By.ShouldBe(ToldBy.Hand);
    }

    [Fact]
    public void Messages_that_answer_a_release_are_counted_as_replies_until_its_outlet_counts_them()
    {
        var release = Out(10);
        desk.Messages.BringIn(
            [
                new("Ruth", "What moved it?", desk.Papers.Time.GetUtcNow().AddDays(-8), About: $"R {release.Number}"),
                new("Tom", "I walked it.", desk.Papers.Time.GetUtcNow().AddDays(-2), About: $"R {release.Number}"),
            ],
            Once.Unkeyed
        );
        var line = desk.ReleaseFigures.Get(release.Number).Lines.ShouldHaveSingleItem();
        (line.Name, line.Latest, line.Told[0].By).ShouldBe(("replies", 2, ToldBy.Here));
        line.Week.ShouldNotBeNull();
        desk.ReleaseFigures.Told(release.Number, new Dictionary<string, int> { ["replies"] = 5 });
        desk.ReleaseFigures.Get(release.Number).Lines[0].Latest.ShouldBe(5);
    }

    [Fact]
    public void Groups_are_compared_at_one_age_and_who_is_too_young_or_unknown_is_counted()
    {
        for (var i = 0; i < 6; i++)
        {
            Type(Out(30, $"Why does ford {(char)('a' + i)} move?"), "views", 200 + i);
            Type(Out(30, $"Ford {(char)('a' + i)}"), "views", 100 + i);
        }
        Type(Out(2, "Too young"), "views", 50);
        Out(40, "Nobody knows");
        var shown = desk.ReleaseFigures.Compare(new("views", MeasuredAs.Middle, ComparedBy.Title, 7, null));
        (shown.Compared, shown.Young, shown.Untold).ShouldBe((12, 1, 1));
        shown
            .Groups.Select(g => (g.Name, g.Of, g.Verdict))
            .ShouldBe([("asks a question", 6, Verdict.More), ("four words at most", 6, Verdict.Less)]);
        shown.Names.ShouldBe([new FigureName("views", 13)]);
        foreach (var by in Enum.GetValues<ComparedBy>())
            desk.ReleaseFigures.Compare(new("views", MeasuredAs.Middle, by, 7, site)).Groups.Sum(g => g.Of).ShouldBe(12);
        desk.ReleaseFigures.Compare(new("views", MeasuredAs.Middle, ComparedBy.Format, 7, OutletNumber.Of(99))).Compared.ShouldBe(0);
        Should.Throw<BadInputException>(() => desk.ReleaseFigures.Compare(new("views", MeasuredAs.Any, ComparedBy.Format, 0, null)));
    }

    [Fact]
    public void What_was_tried_is_a_group_and_is_offered_again()
    {
        var release = Out(10);
        desk.Releases.Edit(release.Number, new ReleaseChange { Version = release.Version, Tried = "A question at the end" }, Once.Unkeyed);
        Type(release, "views", 10);
        desk.ReleaseFigures.Compare(new("views", MeasuredAs.Middle, ComparedBy.Tried, 7, null))
            .Groups.ShouldHaveSingleItem()
            .Name.ShouldBe("a question at the end");
        desk.ReleaseFigures.Get(Out(1).Number).Tried.ShouldBe(["A question at the end"]);
    }

    [Fact]
    public void Figures_of_a_release_that_is_taken_away_come_back_with_it()
    {
        var release = Out(10);
        desk.Releases.Record(release.Piece, new NewRelease(site, desk.Today, Text: "It moved."), Once.Unkeyed);
        Type(release, "views", 10);
        var gone = desk.Releases.Remove(release.Number, Once.Unkeyed);
        desk.ReleaseFigures.Compare(new("views", MeasuredAs.Middle, ComparedBy.Format, 1, null)).Names.ShouldBeEmpty();
        desk.History.Undo(gone.Command, Once.Unkeyed);
        desk.ReleaseFigures.Get(release.Number).Lines[0].Latest.ShouldBe(10);
    }
}
