using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class SeriesTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string title, SeriesNumber? series = null) =>
        desk.Pieces.Start(new NewPiece(title, Series: series), Once.Unkeyed).Answer.Number;

    [Fact]
    public void The_next_piece_has_the_next_number_and_the_pattern_of_its_series()
    {
        var (one, two) = (Piece("The bell"), Piece("The rope"));
        var made = desk
            .Series.Add(
                new SeriesChange
                {
                    Name = "Crossings",
                    TitlePattern = "{{ series }} {{ number }}: {{ title }}",
                    Format = "letter",
                    Pieces = [two, one],
                },
                Once.Unkeyed
            )
            .Answer;
        made.ShouldSatisfyAllConditions(
            s => s.Pieces.Select(p => p.Piece.Number).ShouldBe([two, one]),
            s => s.NextNumber.ShouldBe(3),
            s => s.NextTitle.ShouldBe("Crossings 3: …")
        );
        var before = desk.Everything();
        var next = desk.Pieces.Start(new NewPiece("The oar", Series: made.Series.Number), Once.Unkeyed);
        next.Answer.ShouldSatisfyAllConditions(p => p.Title.ShouldBe("Crossings 3: The oar"), p => p.Format.ShouldBe("letter"));
        desk.Series.Of(next.Answer.Number).ShouldBe(new InSeries(made.Series.Number, "Crossings", 3, 3));
        desk.Undo(next.Command);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void Pieces_change_places_leave_and_stay_whole_when_the_series_is_taken_apart()
    {
        var (one, two) = (Piece("The bell"), Piece("The rope"));
        var made = desk.Series.Add(new SeriesChange { Name = "Crossings", Pieces = [one, two] }, Once.Unkeyed).Answer.Series;
        var turned = desk.Series.Edit(made.Number, new SeriesChange { Version = made.Version, Pieces = [two, one] }, Once.Unkeyed).Answer;
        turned.Pieces.Select(p => p.Piece.Number).ShouldBe([two, one]);
        desk.Series.Edit(made.Number, new SeriesChange { Version = turned.Series.Version, Pieces = [two] }, Once.Unkeyed);
        desk.Series.Of(one).ShouldBeNull();
        Should
            .Throw<BadInputException>(() => desk.Series.Add(new SeriesChange { Name = "Other", Pieces = [two] }, Once.Unkeyed))
            .Message.ShouldContain("Crossings");
        desk.Series.Remove(made.Number, Once.Unkeyed);
        desk.Series.List().ShouldBeEmpty();
        desk.Pieces.Get(two).Title.ShouldBe("The rope");
    }

    [Fact]
    public void What_the_last_ones_said_is_their_first_and_last_sentence()
    {
        var piece = Piece("The bell");
        desk.Drafts.Save(
            piece,
            "## One\n\nA bell hangs there. It is cracked.\n\n## End\n\nNobody rings. Go and ring it.",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        var series = desk.Series.Add(new SeriesChange { Name = "Crossings", Pieces = [piece] }, Once.Unkeyed).Answer;
        series.Pieces.Single().Said.ShouldBe(new SaidInShort("A bell hangs there.", "Go and ring it."));
        Should
            .Throw<BadInputException>(() =>
                desk.Series.Edit(
                    series.Series.Number,
                    new SeriesChange { Version = series.Series.Version, TitlePattern = "{{ number" },
                    Once.Unkeyed
                )
            )
            .Field.ShouldBe("titlePattern");
    }
}
