using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class PageStoreTests : IDisposable
{
    private readonly Desk desk = new();

    private PieceNumber Written(string title, string text)
    {
        var piece = desk.Pieces.Start(new NewPiece(title, "essay"), Once.Unkeyed).Answer.Number;
        Write(piece, text);
        return piece;
    }

    private void Write(PieceNumber piece, string text) => desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);

    private Page PutUp(NewPage made) => desk.Pages.PutUp(made, Once.Unkeyed).Answer.Page;

    private string TextAt(string slug) => desk.Pages.At(slug).ShouldBeOfType<AtAddress.Up>().Parts[0].Text;

    [Fact]
    public void A_page_stays_as_it_was_put_up_until_it_is_renewed_unless_it_goes_along()
    {
        var piece = Written("The third bell", "It hung on the wrong bank. <!-- check -->");
        var page = PutUp(new NewPage(piece));
        page.Slug.ShouldBe("the-third-bell");
        TextAt("the-third-bell").ShouldBe("It hung on the wrong bank.");

        Write(piece, "It hung on no bank.");
        TextAt("the-third-bell").ShouldBe("It hung on the wrong bank.");
        desk.Pages.Get(page.Number).IsBehind.ShouldBeTrue();
        desk.Pages.Renew(page.Number, Once.Unkeyed);
        TextAt("the-third-bell").ShouldBe("It hung on no bank.");

        desk.Pages.Edit(page.Number, new PageChange(desk.Pages.Get(page.Number).Page.Version, Follows: true), Once.Unkeyed);
        Write(piece, "It hung in the air.");
        TextAt("the-third-bell").ShouldBe("It hung in the air.");
        // What no longer goes along stays as it is at that moment.
        desk.Pages.Edit(page.Number, new PageChange(desk.Pages.Get(page.Number).Page.Version, Follows: false), Once.Unkeyed);
        Write(piece, "It fell.");
        TextAt("the-third-bell").ShouldBe("It hung in the air.");
    }

    [Fact]
    public void What_is_taken_down_or_in_the_trash_is_gone_and_comes_back()
    {
        var piece = Written("The third bell", "Words.");
        var page = PutUp(new NewPage(piece));
        var down = desk.Pages.SetDown(page.Number, true, Once.Unkeyed);
        desk.Pages.At("the-third-bell").ShouldBeOfType<AtAddress.Gone>();
        desk.History.Undo(down.Command, Once.Unkeyed);
        desk.Pages.At("the-third-bell").ShouldBeOfType<AtAddress.Up>();
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Trashed = true }, Once.Unkeyed);
        desk.Pages.At("the-third-bell").ShouldBeOfType<AtAddress.Gone>();
        desk.Pages.Open().ShouldBeEmpty();
    }

    [Fact]
    public void An_address_that_was_given_leads_on_and_nothing_else_gets_it()
    {
        var page = PutUp(new NewPage(Written("The third bell", "Words.")));
        desk.Pages.Edit(page.Number, new PageChange(page.Version, Slug: "bell"), Once.Unkeyed);
        desk.Pages.At("the-third-bell").ShouldBe(new AtAddress.Moved("bell"));
        var other = Written("Another", "Other words.");
        Should.Throw<BadInputException>(() => PutUp(new NewPage(other, Slug: "the-third-bell"))).Field.ShouldBe("slug");
        PutUp(new NewPage(other, Title: "The third bell")).Slug.ShouldBe("the-third-bell-2");
        Should.Throw<ClashException>(() => PutUp(new NewPage(other)));
        // It may take its own back.
        desk.Pages.Edit(page.Number, new PageChange(desk.Pages.Get(page.Number).Page.Version, Slug: "the-third-bell"), Once.Unkeyed);
        desk.Pages.At("bell").ShouldBe(new AtAddress.Moved("the-third-bell"));
    }

    [Theory]
    [InlineData("Über uns")]
    [InlineData("a/b")]
    [InlineData("..")]
    [InlineData("-a")]
    [InlineData("feed.atom")]
    public void An_address_is_made_of_plain_letters(string slug) =>
        Should.Throw<BadInputException>(() => PutUp(new NewPage(Written("x", "Words."), Slug: slug))).Field.ShouldBe("slug");

    [Fact]
    public void A_page_without_a_word_is_refused() =>
        Should.Throw<BadInputException>(() => PutUp(new NewPage(Written("Empty", "<!-- nothing -->")))).Field.ShouldBe("piece");

    [Fact]
    public void A_series_shows_what_is_out_of_it_and_references_jump_or_lead_to_pages()
    {
        var first = Written("First", "One.");
        var second = Written("Second", $"As in [[P {first}]]. See [[P {Written("Elsewhere", "Three.")}]].");
        var series = desk.Series.Add(new SeriesChange { Name = "Bells", Pieces = [first, second] }, Once.Unkeyed).Answer.Series.Number;
        Should.Throw<BadInputException>(() => PutUp(new NewPage(Series: series))).Field.ShouldBe("series");
        var outlet = desk.Outlets.Add(new OutletChange { Name = "Low Water" }, Once.Unkeyed).Answer.Number;
        foreach (var piece in (PieceNumber[])[first, second])
            desk.Releases.Record(piece, new Store.Catalogue.NewRelease(outlet), Once.Unkeyed);
        PutUp(new NewPage(desk.Pieces.List().Single(p => p.Title == "Elsewhere").Number));

        PutUp(new NewPage(Series: series));
        var up = desk.Pages.At("bells").ShouldBeOfType<AtAddress.Up>();
        up.Parts.Select(p => p.Title).ShouldBe(["First", "Second"]);
        up.Parts[1].Text.ShouldContain("(<#piece-1>)");
        up.Parts[1].Text.ShouldContain("(</elsewhere/>)");

        // What goes into the trash goes from the page, and the page with the last of it.
        foreach (var (piece, left) in ((PieceNumber, int)[])[(first, 1), (second, 0)])
        {
            desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Trashed = true }, Once.Unkeyed);
            (desk.Pages.At("bells") is AtAddress.Up shown ? shown.Parts.Count : 0).ShouldBe(left);
        }
    }

    [Fact]
    public void A_page_with_a_passphrase_is_found_nowhere_and_its_hash_goes_out_with_no_copy()
    {
        var page = PutUp(new NewPage(Written("Early", "Words."), Passphrase: "low water"));
        page.AsksPassphrase.ShouldBeTrue();
        desk.Pages.Open().ShouldBeEmpty();
        desk.Pages.Secret(page.Number).ShouldBe("hash of low water");
        Exchange.Papers.PapersFiles.Write(desk.Images.Take()).ShouldNotContain(f => f.Content.Contains("hash of"));

        using var other = new Desk();
        other.Images.Put(desk.Images.Take(), Once.Unkeyed);
        // There it asks, and nobody knows the answer until its writer says another.
        other.Pages.Get(page.Number).Page.AsksPassphrase.ShouldBeTrue();
        other.Pages.Secret(page.Number).ShouldBeNull();
    }

    [Fact]
    public void A_comment_is_held_outside_of_the_writers_undo_and_is_a_message_once_it_is_shown()
    {
        var page = PutUp(new NewPage(Written("The third bell", "Words."), TakesComments: true));
        var before = desk.History.Latest()[0];
        desk.Pages.Hold(page.Number, "Ottilie", "Could you write about the fourth bell?").ShouldBeTrue();
        desk.History.Latest()[0].ShouldBe(before);
        desk.Pages.At(page.Slug).ShouldBeOfType<AtAddress.Up>().Comments.ShouldBeEmpty();
        var comment = desk.Pages.Get(page.Number).Comments.ShouldHaveSingleItem();

        var shown = desk.Pages.Decide(comment.Number, new CommentWord(CommentState.Shown), Once.Unkeyed);
        desk.Pages.At(page.Slug).ShouldBeOfType<AtAddress.Up>().Comments.ShouldHaveSingleItem().Person.ShouldBe("Ottilie");
        var message = desk.Messages.List(new MessagesAsked()).Messages.ShouldHaveSingleItem();
        (message.Message.Person, message.Message.Way).ShouldBe(("Ottilie", "the page “The third bell”"));
        message.Wishes.ShouldHaveSingleItem();

        // Taken off the page it stays a message, and is none twice.
        var kept = desk.Pages.Decide(comment.Number, new CommentWord(CommentState.Kept), Once.Unkeyed);
        desk.Pages.At(page.Slug).ShouldBeOfType<AtAddress.Up>().Comments.ShouldBeEmpty();
        desk.Messages.List(new MessagesAsked()).Messages.ShouldHaveSingleItem();
        desk.History.Undo(kept.Command, Once.Unkeyed);
        desk.History.Undo(shown.Command, Once.Unkeyed);
        desk.Pages.Get(page.Number).Held.ShouldBe(1);
        desk.Messages.List(new MessagesAsked()).Messages.ShouldBeEmpty();
    }

    [Fact]
    public void A_page_noted_on_an_outlet_is_a_release_with_its_address()
    {
        var piece = Written("The third bell", "Words.");
        var outlet = desk.Outlets.Add(new OutletChange { Name = "My pages" }, Once.Unkeyed).Answer.Number;
        PutUp(new NewPage(piece, Outlet: outlet, Address: "https://pages.example/"));
        desk.Releases.Of(piece).ShouldHaveSingleItem().Address.ShouldBe("https://pages.example/the-third-bell/");
    }

    [Theory]
    [InlineData("# no heading\n- no list\n1. none either\n> nor this")]
    [InlineData("<b>x</b> &lt; *a* _b_ [c](d) [[slip 2]] `e` ~~f~~ \\ ^g^ | h")]
    public void A_comment_among_the_messages_reads_as_it_was_written(string text) =>
        new AngleSharp.Html.Parser.HtmlParser()
            .ParseDocument(Core.Text.Reading.Html(CommentRules.AsMarkdown(text)))
            .Body!.TextContent.Trim()
            .ShouldBe(text);

    [Fact]
    public void Readers_of_a_day_are_told_apart_and_forgotten_with_it()
    {
        var keys = 0;
        var readers = new ReadersOfDay(() => [.. Enumerable.Repeat((byte)++keys, 32)]);
        var (page, day) = (PageNumber.Of(1), new DateOnly(2026, 11, 28));
        readers.IsNew(page, day, "192.0.2.1", "a").ShouldBeTrue();
        readers.IsNew(page, day, "192.0.2.1", "a").ShouldBeFalse();
        readers.IsNew(page, day, "192.0.2.1", "b").ShouldBeTrue();
        readers.IsNew(PageNumber.Of(2), day, "192.0.2.1", "a").ShouldBeTrue();
        readers.IsNew(page, day.AddDays(1), "192.0.2.1", "a").ShouldBeTrue();
        keys.ShouldBe(2);
    }

    [Fact]
    public void What_is_counted_adds_up()
    {
        var page = PutUp(new NewPage(Written("The third bell", "Words.")));
        desk.Pages.Count([(page.Number, new PageDay(desk.Today.AddDays(-9), 4, 3)), (page.Number, new PageDay(desk.Today, 2, 1))]);
        desk.Pages.Count([(page.Number, new PageDay(desk.Today, 1, 1))]);
        var shown = desk.Pages.Get(page.Number);
        (shown.Today, shown.Week, shown.All).ShouldBe((new PageCount(3, 2), new PageCount(3, 2), new PageCount(7, 5)));
    }

    public void Dispose() => desk.Dispose();
}
