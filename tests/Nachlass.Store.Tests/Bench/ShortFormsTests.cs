using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class ShortFormsTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Piece(string draft, string format = "thread")
    {
        var piece = desk.Pieces.Start(new NewPiece("The far bank", format), Once.Unkeyed).Answer.Number;
        Write(piece, draft);
        return piece;
    }

    private void Write(PieceNumber piece, string draft) => desk.Drafts.Save(piece, draft, desk.Drafts.Get(piece).Version, Once.Unkeyed);

    private void Stage(PieceNumber piece, string stage) =>
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Stage = stage }, Once.Unkeyed);

    [Fact]
    public void A_standing_text_changed_once_is_changed_everywhere_until_a_piece_goes_out()
    {
        var text = desk.StandingTexts.Add(new StandingTextChange("Sign-off", "Yours, by the water."), Once.Unkeyed).Answer;
        var named = StandingTexts.Written(text.Number);
        var (one, two) = (Piece($"One. {named}", "letter"), Piece($"Two.\n\n{named}", "letter"));
        desk.Outs.Finished(one).ShouldEndWith("One. Yours, by the water.\n");
        desk.StandingTexts.Get(text.Number).Pieces.ShouldBe([one, two]);

        Stage(one, "Out");
        desk.StandingTexts.Edit(text.Number, new StandingTextChange(Text: "Yours, on the far bank.", Version: text.Version), Once.Unkeyed);
        desk.Outs.Finished(one).ShouldEndWith("Yours, by the water.\n");
        desk.Outs.Finished(two).ShouldEndWith("Yours, on the far bank.\n");
        var shown = desk.StandingTexts.Get(text.Number);
        shown.Frozen.ShouldBe([one]);
        shown.Pieces.ShouldBe([two]);

        Stage(one, "Ready");
        desk.Outs.Finished(one).ShouldEndWith("Yours, on the far bank.\n");
    }

    [Fact]
    public void A_standing_text_that_stands_somewhere_stays_and_none_holds_another()
    {
        var text = desk.StandingTexts.Add(new StandingTextChange("Sign-off", "Yours."), Once.Unkeyed).Answer;
        var piece = Piece(StandingTexts.Written(text.Number), "letter");
        Should.Throw<ClashException>(() => desk.StandingTexts.Remove(text.Number, Once.Unkeyed)).Message.ShouldContain($"P {piece}");
        Write(piece, "Without.");
        desk.StandingTexts.Remove(text.Number, Once.Unkeyed);
        Should
            .Throw<BadInputException>(() => desk.StandingTexts.Add(new StandingTextChange("Two", "[[standing text 1]]"), Once.Unkeyed))
            .Field.ShouldBe("text");
        Should.Throw<BadInputException>(() => desk.StandingTexts.Add(new StandingTextChange(" "), Once.Unkeyed)).Field.ShouldBe("name");
    }

    [Fact]
    public void A_thread_is_cut_joined_and_moved_as_one_step_each()
    {
        var over = string.Join(' ', Enumerable.Repeat("Four loaves, no coin at all.", 20));
        var piece = Piece($"First.\n\n---\n\n{over}");
        var before = desk.Threads.Get(piece);
        before.Parts.Count.ShouldBe(2);
        before.Parts[1].OverFrom.ShouldBe(before.Parts[1].Measured!.Most);

        desk.Threads.Edit(piece, new ThreadChange(before.Version, ThreadAct.Fit), Once.Unkeyed);
        var fitted = desk.Threads.Get(piece);
        fitted.Parts.ShouldAllBe(p => p.OverFrom == null);
        desk.Threads.Edit(piece, new ThreadChange(fitted.Version, ThreadAct.Move, 0, 1), Once.Unkeyed);
        desk.Threads.Get(piece).Parts[1].Text.ShouldBe("First.");
        desk.Drafts.Back(piece, Once.Unkeyed);
        desk.Drafts.Back(piece, Once.Unkeyed);
        desk.Threads.Get(piece).Parts.Select(p => p.Text).ShouldBe(before.Parts.Select(p => p.Text));
        Should.Throw<StaleException>(() => desk.Threads.Edit(piece, new ThreadChange(1, ThreadAct.Join, 0), Once.Unkeyed));
    }

    [Fact]
    public void A_copied_part_is_ticked_by_its_words_wherever_it_goes()
    {
        var piece = Piece("One.[[slip 4]]\n\n---\n\n*Two.* <!-- mine -->\n\n---\n\nThree.");
        var thread = desk.Threads.Tick(piece, new ThreadTick(1, true), Once.Unkeyed).Answer;
        thread.Parts.Select(p => p.Goes).ShouldBe(["One.", "Two.", "Three."]);
        thread.Parts.Select(p => p.Copied).ShouldBe([Copied.No, Copied.Yes, Copied.No]);
        desk.Threads.Edit(piece, new ThreadChange(thread.Version, ThreadAct.Move, 1, 2), Once.Unkeyed);
        desk.Threads.Get(piece).Parts.Select(p => p.Copied).ShouldBe([Copied.No, Copied.No, Copied.Yes]);
        Write(piece, "One.\n\n---\n\nOther.\n\n---\n\nThree.");
        desk.Threads.Get(piece).Parts[1].Copied.ShouldBe(Copied.Changed);
        var numbered = desk.Threads.Tick(piece, new ThreadTick(Numbered: true), Once.Unkeyed).Answer;
        numbered.Parts[2].Goes.ShouldBe("Three. 3/3");
        Should.Throw<BadInputException>(() => desk.Threads.Tick(piece, new ThreadTick(9, true), Once.Unkeyed)).Field.ShouldBe("nth");
    }

    [Fact]
    public void Posts_wait_in_a_list_from_ready_to_sent()
    {
        var post = desk.Posts.Add(new PostChange(Text: ""), Once.Unkeyed).Answer;
        Should
            .Throw<BadInputException>(() => desk.Posts.Edit(post.Number, new PostChange(Ready: true, Version: post.Version), Once.Unkeyed))
            .Field.ShouldBe("text");
        post = desk.Posts.Edit(post.Number, new PostChange(Text: new string('x', 301), Version: post.Version), Once.Unkeyed).Answer;
        post.OverFrom.ShouldBe(post.Measured!.Most);
        post = desk.Posts.Edit(post.Number, new PostChange(Ready: true, Version: post.Version), Once.Unkeyed).Answer;
        desk.Posts.Ready().ShouldHaveSingleItem().Number.ShouldBe(post.Number);
        desk.Posts.Of(desk.Today).ShouldHaveSingleItem();
        post = desk.Posts.Edit(post.Number, new PostChange(Sent: true, Version: post.Version), Once.Unkeyed).Answer;
        desk.Posts.Ready().ShouldBeEmpty();
        post.SentAt.ShouldNotBeNull();
    }

    [Fact]
    public void Patterns_are_laid_into_a_piece_and_bits_are_ticked()
    {
        var piece = Piece("", "letter");
        var made = desk.Patterns.Add(new PatternChange(PatternKind.Opening, Text: "{{ title }}: {{ place }}"), Once.Unkeyed).Answer;
        made.Name.ShouldNotBeEmpty();
        desk.Patterns.Lay(made.Number, piece).Places.ShouldHaveSingleItem().Name.ShouldBe("place");
        desk.Patterns.Lay(made.Number, piece).Text.ShouldContain(desk.Pieces.Get(piece).Title);
        Should
            .Throw<BadInputException>(() => desk.Patterns.Add(new PatternChange(PatternKind.Post, "x", "{% if"), Once.Unkeyed))
            .Field.ShouldBe("text");
        var bit = desk.Patterns.Add(new PatternChange(PatternKind.Bit, "Loaf", "a loaf’s worth"), Once.Unkeyed).Answer;
        var used = desk.Patterns.Edit(bit.Number, new PatternChange(Used: true, Version: bit.Version), Once.Unkeyed).Answer;
        used.UsedAt.ShouldNotBeNull();
        desk.Patterns.Edit(bit.Number, new PatternChange(Used: false, Version: used.Version), Once.Unkeyed).Answer.UsedAt.ShouldBeNull();
        desk.Patterns.List().Count(p => p.Kind == PatternKind.Title).ShouldBeGreaterThan(0);
    }
}
