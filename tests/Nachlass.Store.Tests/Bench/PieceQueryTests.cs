using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Bench;

public sealed class PieceQueryTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Start(string title, string format, DateOnly? due = null, params (string Key, string Value)[] fields)
    {
        var piece = desk.Pieces.Start(new NewPiece(title, format), Once.Unkeyed).Answer;
        if (due is not null)
            desk.Pieces.Edit(
                piece.Number,
                new PieceChange { Version = piece.Version, Due = new Maybe<DateOnly?>(true, due) },
                Once.Unkeyed
            );
        if (fields.Length > 0)
            desk.Beside.SetFields(piece.Number, new FieldsChange(fields.ToDictionary(f => f.Key, f => f.Value)), Once.Unkeyed);
        return piece.Number;
    }

    private IReadOnlyList<int> Found(string query, ListSort? sort = null) =>
        [.. desk.Library.List(new LibraryQuery(query, Sort: sort, Upward: sort is not null)).Items.Select(e => e.Piece!.Number.Value)];

    [Fact]
    public void Pieces_are_asked_for_by_stage_format_date_and_their_own_fields()
    {
        desk.Catch("A slip that is no piece");
        Start("One", "talk", desk.Today.AddDays(3), ("venue", "Harnsby hall"), ("held_on", "2026-12-10"));
        Start("Two", "talk", desk.Today.AddDays(30));
        Start("Three", "audio", null, ("minutes", "12"), ("place", "Quillan"));
        Start("Four", "audio", desk.Today, ("minutes", "7"));
        desk.Pieces.Edit(
            PieceNumber.Of(2),
            new PieceChange { Version = desk.Pieces.Get(PieceNumber.Of(2)).Version, Stage = "Draft" },
            Once.Unkeyed
        );
        Found("in:pieces").Count.ShouldBe(4);
        Found("stage:gather").ShouldBe([1, 3, 4], ignoreOrder: true);
        Found("stage:Draft").ShouldBe([2]);
        Found("in:pieces format:talk").ShouldBe([1, 2], ignoreOrder: true);
        Found("in:pieces format:\"Audio script\"").ShouldBe([3, 4], ignoreOrder: true);
        Found("due<7d").ShouldBe([1, 4], ignoreOrder: true);
        Found("due:today").ShouldBe([4]);
        Found("due:none").ShouldBe([3]);
        Found("due:any format:talk").ShouldBe([1, 2], ignoreOrder: true);
        Found("due>2w").ShouldBe([2]);
        Found("due>=2026-11-24 due<=2026-11").ShouldBe([1, 4], ignoreOrder: true);
        Found("field:venue").ShouldBe([1]);
        Found("field:\"venue=harnsby\"").ShouldBe([1]);
        Found("field:minutes<10").ShouldBe([4]);
        // Seven is less than twelve, as a number; and pieces without the field come last.
        Found("field:minutes", ListSort.Field).ShouldBe([4, 3]);
        Found("in:pieces", ListSort.Field)[^1].ShouldBe(2);
        Found("field:minutes>=12").ShouldBe([3]);
        // What only looks like a number is a word, and never an expression.
        foreach (var no in (string[])["NaN", "Infinity", "1e999", "-Infinity", "1;DROP", "'"])
            Found($"field:\"minutes={no}\"").ShouldBeEmpty();
        Found("field:held_on>2026-12-01").ShouldBe([1]);
        Found("field:\"Held on\"").ShouldBe([1]);
        Found("in:pieces format:talk field:held_on=none").ShouldBe([2]);
        Found("stage:gather not field:minutes", ListSort.Due).ShouldBe([1]);
        Found("in:pieces", ListSort.Due).ShouldBe([4, 1, 2, 3]);
    }

    [Fact]
    public void What_can_not_be_asked_is_said_at_its_place()
    {
        string Fault(string query) => Should.Throw<BadInputException>(() => Found(query + " x")).Message;
        Fault("due<soon").ShouldContain("A day is written");
        Fault("stage<2").ShouldContain("with a colon");
        Fault("field:=x").ShouldContain("field:venue=Harnsby");
    }

    [Fact]
    public void Such_a_question_is_a_view()
    {
        Start("Two", "talk");
        var view = desk
            .Views.Add(
                new Store.Text.ViewChange
                {
                    Name = "Talks not yet held",
                    Query = "format:talk field:held_on=none",
                    OnDesk = true,
                },
                Once.Unkeyed
            )
            .Answer;
        view.Query.ShouldBe("format:talk field:\"held_on=none\"");
        desk.Views.OnDesk().Single(v => v.View.Number == view.Number).Total.ShouldBe(1);
        QueryWords.Of(QueryReader.Read(view.Query).Query!, desk.Today).ShouldContain("held_on = none");
    }
}
