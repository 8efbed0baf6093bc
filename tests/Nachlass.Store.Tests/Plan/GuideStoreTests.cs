using Nachlass.Core.Plan;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Plan;

public sealed class GuideStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void A_guide_renews_itself_by_day_week_and_month()
    {
        foreach (var every in Enum.GetValues<GuideEvery>())
            desk.Guide.Add(new GuideChange { Every = every, Text = $"of the {every}" }, Once.Unkeyed);
        foreach (var line in desk.Guide.List())
            desk.Guide.Edit(line.Number, new GuideChange { Version = line.Version, Done = true }, Once.Unkeyed);
        desk.Guide.List().ShouldAllBe(line => line.IsDone);
        // Tuesday, 24 November; the next day, the next Monday, the next month.
        desk.Clock.Advance(TimeSpan.FromDays(1));
        desk.Guide.List().Select(l => l.IsDone).ShouldBe([false, true, true]);
        desk.Clock.Advance(TimeSpan.FromDays(5));
        desk.Guide.List().Select(l => l.IsDone).ShouldBe([false, false, true]);
        desk.Clock.Advance(TimeSpan.FromDays(1));
        desk.Guide.List().Select(l => l.IsDone).ShouldBe([false, false, false]);
    }

    [Fact]
    public void Lines_stand_in_the_writers_order()
    {
        foreach (var text in (string[])["one", "two", "three"])
            desk.Guide.Add(new GuideChange { Every = GuideEvery.Day, Text = text }, Once.Unkeyed);
        var lines = desk.Guide.List();
        desk.Guide.Place(lines[2].Number, lines[0].Number, Once.Unkeyed);
        desk.Guide.List().Select(l => l.Text).ShouldBe(["three", "one", "two"]);
        desk.Guide.Place(lines[2].Number, null, Once.Unkeyed);
        desk.Guide.List().Select(l => l.Text).ShouldBe(["one", "two", "three"]);
        desk.Guide.Remove(lines[1].Number, Once.Unkeyed).Answer.Select(l => l.Text).ShouldBe(["one", "three"]);
    }
}
