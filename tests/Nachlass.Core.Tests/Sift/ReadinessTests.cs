using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class ReadinessTests
{
    private static Evidence Of(int slip, Side side, string note = "", int? source = null) =>
        new(Reference.To(SlipNumber.Of(slip)), $"slip {slip}", side, note, source is { } number ? SourceNumber.Of(number) : null, default);

    private static readonly Gen<Evidence> AnyEvidence = Gen.Select(Gen.Int[1, 40], Gen.Bool, Gen.Bool, Gen.Int[0, 4])
        .Select(
            (slip, isFor, isAnswered, source) =>
                Of(slip, isFor ? Side.For : Side.Against, isAnswered ? "because" : "", source == 0 ? null : source)
        );

    [Fact]
    public void Its_terms_add_up_to_the_figure() =>
        Gen.Select(Gen.Bool, Gen.Int[0, 200], AnyEvidence.List[0, 8])
            .Sample(
                (hasTitle, words, evidence) =>
                {
                    var ready = Readiness.Of(hasTitle ? "A title" : "", words, evidence);
                    return Math.Abs(ready.Terms.Sum(t => t.Figure) - ready.Figure) < 1e-9 && ready.Figure is >= 0 and <= 1 + 1e-9;
                }
            );

    [Fact]
    public void What_speaks_for_it_never_makes_it_less_ready() =>
        Gen.Select(Gen.Int[0, 100], AnyEvidence.List[0, 6], AnyEvidence)
            .Sample(
                (words, evidence, more) =>
                    Readiness.Of("A title", words, [.. evidence, more with { Side = Side.For }]).Figure
                    >= Readiness.Of("A title", words, evidence).Figure - 1e-9
            );

    [Fact]
    public void Two_passages_of_one_source_are_one_voice()
    {
        var once = Readiness.Of("", 0, [Of(1, Side.For, source: 7)]);
        Readiness.Of("", 0, [Of(1, Side.For, source: 7), Of(2, Side.For, source: 7)]).Figure.ShouldBe(once.Figure);
        Readiness.Of("", 0, [Of(1, Side.For, source: 7), Of(2, Side.For, source: 8)]).Figure.ShouldBeGreaterThan(once.Figure);
    }

    [Fact]
    public void It_says_what_is_missing_and_nothing_once_nothing_is()
    {
        Readiness
            .Of("", 10, [])
            .Missing.ShouldBe([
                "Say it in one line, as a title.",
                "Nothing speaks for it yet.",
                "Look for what speaks against it.",
                "Say more of it in your own words.",
            ]);
        Readiness
            .Of("Bread was money", 80, [Of(1, Side.For, source: 1), Of(2, Side.For, source: 2), Of(3, Side.For), Of(4, Side.Against)])
            .Missing.ShouldBe(["Answer what speaks against it, in a note."]);
        var whole = Readiness.Of(
            "Bread was money",
            80,
            [Of(1, Side.For, source: 1), Of(2, Side.For, source: 2), Of(3, Side.For), Of(4, Side.Against, "Only in floods.")]
        );
        whole.ShouldSatisfyAllConditions(r => r.Missing.ShouldBeEmpty(), r => r.Figure.ShouldBe(1, 1e-9));
    }
}
