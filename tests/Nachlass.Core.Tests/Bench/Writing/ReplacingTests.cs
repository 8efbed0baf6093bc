using CsCheck;
using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench.Writing;

public sealed class ReplacingTests
{
    private static string Made(string text, Sought sought) => Replacing.Made(text, Replacing.In(text, sought));

    [Theory]
    [InlineData("Ferry, ferries, ferry.", "ferry", "boat", SoughtAs.Plain, false, "boat, ferries, boat.")]
    [InlineData("Ferry, ferry.", "ferry", "boat", SoughtAs.Plain, true, "Ferry, boat.")]
    [InlineData("rope ropes grope rope’s", "rope", "line", SoughtAs.Words, false, "line ropes grope line’s")]
    [InlineData("1784 and 1790", @"(\d\d)(\d\d)", "$2$1", SoughtAs.Pattern, false, "8417 and 9017")]
    [InlineData("a $1 b", "$1", "$2", SoughtAs.Plain, false, "a $2 b")]
    [InlineData("one\ntwo", "^two$", "three", SoughtAs.Pattern, false, "one\nthree")]
    public void Places_are_found_and_made(string text, string find, string with, SoughtAs how, bool matchCase, string made) =>
        Made(text, new Sought(find, with, how, matchCase)).ShouldBe(made);

    [Theory]
    [InlineData("(")]
    [InlineData("(?=x)")]
    [InlineData(@"(a)\1")]
    public void A_pattern_that_is_none_says_so(string find) =>
        Should.Throw<BadInputException>(() => Replacing.In("text", new Sought(find, As: SoughtAs.Pattern))).Field.ShouldBe("find");

    [Fact]
    public void No_pattern_holds_up_the_program() =>
        Replacing.In(new string('a', 50_000), new Sought("(a+)+$b", As: SoughtAs.Pattern)).ShouldBeEmpty();

    [Fact]
    public void Nothing_but_the_places_changes() =>
        Gen.Select(Gen.String[Gen.Char["ab \n"], 0, 60], Gen.String[Gen.Char["ab "], 1, 3], Gen.Enum<SoughtAs>())
            .Sample(
                (text, find, how) =>
                {
                    var places = Replacing.In(text, new Sought(find, "X", how));
                    Replacing.Made(text, places.Select(p => p with { Becomes = text[p.From..p.To] })).ShouldBe(text);
                    if (how == SoughtAs.Plain && places.Count > 0)
                        Replacing.Made(text, places).ShouldBe(text.Replace(find, "X", StringComparison.OrdinalIgnoreCase));
                }
            );

    [Theory]
    [InlineData(100, 112, 0, 12, 0, 0)]
    [InlineData(100, 90, 0, 0, 10, 0)]
    [InlineData(100, 150, 50, 0, 0, 50)]
    [InlineData(100, 153, 50, 3, 0, 50)]
    [InlineData(100, 130, 50, 0, 20, 50)]
    public void Words_that_were_written_are_told_from_those_that_came(
        int before,
        int after,
        int pasted,
        int written,
        int taken,
        int came
    ) => DraftSitting.Told(before, after, pasted).ShouldBe((written, taken, came));

    [Fact]
    public void A_pace_is_learned_from_readings_that_tell_something()
    {
        var pace = ReadPace.Mean.After(300, 120);
        pace.ShouldBe(new ReadPace(150, 1));
        pace.After(200, 60).Words.ShouldBe(165);
        pace.After(10, 60).ShouldBe(pace);
        pace.After(300, 2).ShouldBe(pace);
        pace.After(40_000, 60).ShouldBe(pace);
    }

    [Fact]
    public void What_is_read_aloud_has_no_marks_and_no_notes()
    {
        var read = ReadText.Of("# T\n\n*One*.[^1]\n\n## Two\n\n> Said.\n\n## Empty\n\n[^1]: Not read.\n");
        read.Select(s => (s.Title, string.Join('|', s.Paragraphs), s.Words)).ShouldBe([("T", "One.", 1), ("Two", "Said.", 1)]);
    }

    [Fact]
    public void Names_are_words_with_a_capital_inside_sentences_of_several_texts() =>
        NamesInTexts
            .Of(["The bell at Ostrey. Bread was money.", "From Ostrey to Quillan, Pell rowed.", "He met Pell. Bread again."])
            .ShouldBe(["Ostrey", "Pell"]);
}
