using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class CatalogueViewStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void A_view_is_kept_changed_taken_away_and_comes_back()
    {
        var view = desk.CatalogueViews.Add(new(" On bread ", "bread", CatalogueBy.Topic), Once.Unkeyed).Answer;
        (view.Name, view.With, view.By).ShouldBe(("On bread", "bread", CatalogueBy.Topic));
        desk.CatalogueViews.Edit(view.Number, new(Name: "Bread", Version: 1), Once.Unkeyed).Answer.With.ShouldBe("bread");
        var gone = desk.CatalogueViews.Remove(view.Number, Once.Unkeyed);
        desk.CatalogueViews.List().ShouldBeEmpty();
        desk.History.Undo(gone.Command, Once.Unkeyed);
        desk.CatalogueViews.List().ShouldHaveSingleItem().Name.ShouldBe("Bread");
    }

    [Fact]
    public void Names_are_taken_once_and_two_tabs_are_told()
    {
        desk.CatalogueViews.Add(new("Bread"), Once.Unkeyed);
        Should.Throw<BadInputException>(() => desk.CatalogueViews.Add(new("BREAD"), Once.Unkeyed)).Field.ShouldBe("name");
        Should.Throw<BadInputException>(() => desk.CatalogueViews.Add(new(" "), Once.Unkeyed)).Field.ShouldBe("name");
        var other = desk.CatalogueViews.Add(new("Tolls"), Once.Unkeyed).Answer;
        Should.Throw<BadInputException>(() => desk.CatalogueViews.Edit(other.Number, new(Name: "bread", Version: 1), Once.Unkeyed));
        desk.CatalogueViews.Edit(other.Number, new(With: "penny", Version: 1), Once.Unkeyed);
        Should.Throw<StaleException>(() => desk.CatalogueViews.Edit(other.Number, new(With: "pence", Version: 1), Once.Unkeyed));
        Should.Throw<NotThereException>(() => desk.CatalogueViews.Remove(CatalogueViewNumber.Of(99), Once.Unkeyed));
    }

    [Fact]
    public void A_release_is_a_special_event_or_a_spoken_version_and_the_catalogue_knows_its_views()
    {
        var piece = desk.Pieces.Start(new NewPiece("Said at the bridge", "talk"), Once.Unkeyed).Answer.Number;
        var release = desk.Releases.Record(piece, new NewRelease(Text: "Bread."), Once.Unkeyed).Answer;
        release.Kind.ShouldBe(ReleaseKind.Usual);
        desk.Releases.Edit(release.Number, new ReleaseChange { Version = release.Version, Kind = ReleaseKind.Event }, Once.Unkeyed)
            .Answer.Kind.ShouldBe(ReleaseKind.Event);
        desk.Catalogue.Get().Rows.ShouldHaveSingleItem().Views.ShouldBeNull();
        desk.ReleaseFigures.Type(release.Number, new("views", 41), Once.Unkeyed);
        var row = desk.Catalogue.Get().Rows[0];
        (row.Views, row.Releases[0].Kind).ShouldBe((41, ReleaseKind.Event));
        desk.ReleaseFigures.Latest()[release.Number].ShouldBe([("views", 41)]);
    }
}
