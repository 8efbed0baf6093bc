using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

/// <summary>Titles and openings that a piece offers of its own words.</summary>
public sealed class VariantStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void They_come_from_the_draft_and_from_slips_beside_it_and_those_kept_already_are_left_out()
    {
        desk.Pieces.Start(new NewPiece("What a crossing cost"), Once.Unkeyed);
        var slip = desk.Catch("Who paid when the ferryman could not swim?").Number;
        var piece = desk.Pieces.Start(new NewPiece("Tolls", Slip: slip, Titles: ["Paid in bread", "Tolls"]), Once.Unkeyed).Answer.Number;
        desk.Titles.Of(piece).Others.Select(t => t.Text).ShouldBe(["Paid in bread"], "its own title is not beside itself");
        desk.Drafts.Save(
            piece,
            "# The toll\n\nIn spring the toll doubled. What did a crossing cost?\n\n# Bread\n\nFour loaves bought the far bank.",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        var made = desk.Variants.Of(piece);
        var asks = made.Titles.First(t => t.Text == "What did a crossing cost?");
        asks.Where.ShouldBe("The toll");
        asks.Look.Alike.ShouldHaveSingleItem().Title.ShouldBe("What a crossing cost");
        made.Titles.Select(t => t.Text).ShouldContain("Who paid when the ferryman could not swim?");
        made.Openings.ShouldContain(o => o.Where == $"slip {slip}");
        made.Openings.ShouldContain(o => o.Text == "Four loaves bought the far bank.");
        desk.Titles.Add(piece, new TitleChange("What did a crossing cost?"), Once.Unkeyed);
        desk.Variants.Of(piece).Titles.ShouldNotContain(t => t.Text == "What did a crossing cost?");
        desk.Drafts.Get(piece).Text.ShouldStartWith("# The toll");
        Should.Throw<NotThereException>(() => desk.Variants.Of(PieceNumber.Of(99)));
    }
}
