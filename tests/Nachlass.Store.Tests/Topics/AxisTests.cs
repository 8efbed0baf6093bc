using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Topics;

/// <summary>An axis of the writer's own, against which topics are held.</summary>
public sealed class AxisTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private static AxisColumn[] Named(params string[] names) => [.. names.Select(n => new AxisColumn(null, n))];

    private string Columns(TopicNumber axis) => string.Join(", ", desk.Coverage.Map(axis).Columns.Select(c => c.Name));

    [Fact]
    public void Its_names_and_order_are_set_as_one_step_and_stand_so_in_the_matrix()
    {
        var made = desk.Topics.AddAxis(new AxisChange("intents", Named("to tell", "to argue", "to ask")), Once.Unkeyed);
        var axis = made.Answer.Number;
        Columns(axis).ShouldBe("to tell, to argue, to ask");
        var (tell, argue, ask) = (made.Answer.Columns[0], made.Answer.Columns[1], made.Answer.Columns[2]);
        var edited = desk.Topics.EditAxis(
            axis,
            new AxisChange(
                null,
                [
                    new AxisColumn(ask.Number, "to wonder", ask.Version),
                    new AxisColumn(tell.Number, tell.Name, tell.Version),
                    new AxisColumn(null, "to explain"),
                ]
            ),
            Once.Unkeyed
        );
        Columns(axis).ShouldBe("to wonder, to tell, to explain");
        // What is left out is a topic still, and under it no more.
        desk.Topics.List().Single(t => t.Number == argue.Number).Wider.ShouldBeNull();
        desk.Undo(edited.Command);
        Columns(axis).ShouldBe("to tell, to argue, to ask");
        desk.Undo(made.Command);
        desk.Topics.List().ShouldBeEmpty();
    }

    [Fact]
    public void A_cell_counts_what_is_on_both_topics()
    {
        var axis = desk.Topics.AddAxis(new AxisChange("intents", Named("to tell", "to ask")), Once.Unkeyed).Answer;
        desk.Decisions.Decide(desk.Catch("Who paid? #ferries #to-ask").Number, new Core.Sift.Decision.Keep(), Once.Unkeyed);
        var cell = desk.Coverage.Map(axis.Number).Cells.ShouldHaveSingleItem();
        (cell.Column, cell.InHand).ShouldBe((axis.Columns[1].Number.ToString(), 1));
    }

    [Fact]
    public void What_can_not_be_an_axis_is_named_and_what_was_changed_elsewhere_is_not_overwritten()
    {
        var made = desk.Topics.AddAxis(new AxisChange("intents", Named("to tell")), Once.Unkeyed).Answer;
        string Refused(Action act) => Should.Throw<BadInputException>(act).Field!;
        Refused(() => desk.Topics.AddAxis(new AxisChange("intents", Named("x")), Once.Unkeyed)).ShouldBe("name");
        Refused(() => desk.Topics.AddAxis(new AxisChange(" ", Named("x")), Once.Unkeyed)).ShouldBe("name");
        Refused(() => desk.Topics.AddAxis(new AxisChange("moods", []), Once.Unkeyed)).ShouldBe("columns");
        Refused(() => desk.Topics.AddAxis(new AxisChange("moods", Named("glad", "Glad")), Once.Unkeyed)).ShouldBe("columns");
        Refused(() => desk.Topics.AddAxis(new AxisChange("moods", Named("moods")), Once.Unkeyed)).ShouldBe("wider");
        Refused(() => desk.Topics.AddAxis(new AxisChange("moods", Named("a, b")), Once.Unkeyed)).ShouldBe("columns");
        desk.Topics.List().ShouldNotContain(t => t.Name == "moods");
        var tell = made.Columns[0];
        desk.Topics.Edit(tell.Number, new TopicChange { Name = "to recount", Version = tell.Version }, Once.Unkeyed);
        Should.Throw<StaleException>(() =>
            desk.Topics.EditAxis(made.Number, new AxisChange(null, [new AxisColumn(tell.Number, "to say", tell.Version)]), Once.Unkeyed)
        );
        Columns(made.Number).ShouldBe("to recount");
    }
}
