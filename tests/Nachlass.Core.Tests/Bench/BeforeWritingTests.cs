using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Bench;

public sealed class BeforeWritingTests
{
    private static readonly EarlierTitle Bread = new(PieceNumber.Of(1), "The price of bread on the far bank");
    private static readonly EarlierTitle Bells = new(PieceNumber.Of(2), "A bell for the fog");

    [Fact]
    public void A_title_is_cut_where_each_place_cuts_it_by_what_one_sees_as_a_character()
    {
        var look = TitleLook.Of("The ferry 👩‍🌾 that took bread", [new TitlePlace("a slip", 11), new TitlePlace("a wall", 90)], []);
        look.Length.ShouldBe(27);
        look.Places.ShouldBe([
            new TitleShown("a slip", 11, "The ferry 👩‍🌾", " that took bread"),
            new TitleShown("a wall", 90, "The ferry 👩‍🌾 that took bread", ""),
        ]);
        TitleLook.Of("x", [], []).Places.Count.ShouldBe(TitlePlace.Usual.Count);
    }

    [Fact]
    public void What_is_shown_and_what_is_cut_are_the_title_together() =>
        Gen.String.Sample(title => TitleLook.Of(title, TitlePlace.Usual, []).Places.ShouldAllBe(p => p.Shown + p.Cut == title));

    [Fact]
    public void Words_that_earlier_titles_had_are_named_with_them_and_titles_too_like_are_said()
    {
        var look = TitleLook.Of("Prices of bread, by the bank", [], [Bread, Bells]);
        look.Shared.Select(s => s.Word).ShouldBe(["Prices", "bread", "bank"]);
        look.Shared.ShouldAllBe(s => s.Titles.Single() == Bread);
        look.Alike.ShouldBe([Bread]);
        TitleLook.Of("Who crossed free", [], [Bread, Bells]).Shared.ShouldBeEmpty();
        TitleLook.Of("A loaf for the fog", [], [Bread, Bells]).Alike.ShouldBe([]);
    }

    [Theory]
    [InlineData("Look up what your own river cost.", "Rivers are long.\n\nSo look up what yours cost: the river has a price.", true)]
    [InlineData("Write to me at https://weir.example/ask", "## End\n\nWords. [Ask](https://weir.example/ask) me.", true)]
    [InlineData("Look up what your own river cost.", "The river was free.", false)]
    [InlineData("", "Anything.", false)]
    [InlineData("and so on", "and so on", false)]
    public void A_text_holds_its_call_in_one_sentence_or_by_its_address(string call, string draft, bool holds) =>
        (CallToAction.In(call, draft) is not null).ShouldBe(holds);

    [Theory]
    [InlineData("one\ntwo\nthree\n", 5, 5, "two", "one\nthree\n")]
    [InlineData("one\ntwo\nthree\n", 0, 4, "one", "two\nthree\n")]
    [InlineData("one\ntwo\nthree", 5, 9, "two\nthree", "one\n")]
    [InlineData("one\n\ntwo\n\nthree", 5, 8, "two", "one\n\nthree")]
    [InlineData("one", -5, 99, "one", "")]
    [InlineData("", 0, 0, "", "")]
    public void Whole_lines_go_from_the_heap(string heap, int start, int end, string lines, string left) =>
        HeapLines.Take(heap, start, end).ShouldBe((lines, left));

    [Fact]
    public void No_word_of_a_heap_is_lost_or_doubled() =>
        (from heap in Gen.String[Gen.Char["ab \n"], 0, 40] from a in Gen.Int[0, 40] from b in Gen.Int[0, 40] select (heap, a, b)).Sample(
            s =>
            {
                var (lines, left) = HeapLines.Take(s.heap, s.a, s.b);
                string Letters(string text) => string.Concat(text.Where(char.IsLetter).Order());
                Letters(lines + left).ShouldBe(Letters(s.heap));
                s.heap.ShouldContain(lines);
            }
        );
}
