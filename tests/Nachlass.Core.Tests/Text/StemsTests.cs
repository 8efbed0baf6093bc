using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class StemsTests
{
    private static string[] Roots(string text) => [.. Stems.Of(text).Select(s => s.Root)];

    [Theory]
    [InlineData("ferries", "ferry")]
    [InlineData("flooding", "floods")]
    [InlineData("ferrymen", "ferryman")]
    [InlineData("the bell’s", "bells")]
    [InlineData("Café", "cafes")]
    public void Forms_of_a_word_have_one_stem(string one, string other) => Roots(one).ShouldBe(Roots(other));

    [Theory]
    [InlineData("of the and with")]
    [InlineData("a b c – … !")]
    [InlineData("they’re won't")]
    public void Joining_words_and_single_letters_say_nothing(string text) => Roots(text).ShouldBeEmpty();

    [Fact]
    public void Each_stem_knows_its_word_as_it_stood() =>
        Stems.Of("Ferrymen paid, twice: FLOODS").Select(s => s.Word).ShouldBe(["Ferrymen", "paid", "twice", "FLOODS"]);

    [Fact]
    public void Case_and_what_stands_between_make_no_difference() =>
        Gen.OneOf(Gen.Const("ferry"), Gen.Const("bell"), Gen.Const("toll"), Gen.Const("of"), Gen.Const("über"))
            .Array[0, 12]
            .Sample(words => Roots(string.Join(", ", words)).SequenceEqual(Roots(string.Join(" — ", words).ToUpperInvariant())));

    [Fact]
    public void No_text_breaks_it() => Gen.String.Sample(text => Stems.Of(text).ForEach(s => s.Root.ShouldNotBeNullOrEmpty()));
}
