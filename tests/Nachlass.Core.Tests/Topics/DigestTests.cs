using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Topics;

public class DigestTests
{
    private static DigestPassage Passage(int slip, int source, string text) => new(SlipNumber.Of(slip), SourceNumber.Of(source), text);

    private static readonly DigestPassage[] Quarrel =
    [
        Passage(1, 1, "The toll doubled when the river flooded above the stage, as the board at Quillan allows."),
        Passage(2, 2, "The toll was not doubled when the river flooded: above the mark the ferry was closed."),
        Passage(3, 3, "Toll and flood: the account book of the stage has no double toll in any flood."),
        Passage(4, 2, "The night bell was cast by the Harnsby foundry to be heard over water."),
        Passage(5, 3, "The night bell of the foundry at Harnsby could be heard for two miles over water."),
        Passage(6, 1, "Eels climb a wet brush."),
    ];

    [Fact]
    public void Passages_about_the_same_stand_in_one_theme_named_by_their_words()
    {
        var themes = Digest.Of(Quarrel);
        themes[0].Lines.Select(l => l.Slip.Value).ShouldBe([1, 2, 3], ignoreOrder: true);
        themes[0].Sources.ShouldBe(3);
        themes[0].Name.ToLowerInvariant().ShouldContain("toll");
        themes[1].Lines.Select(l => l.Slip.Value).ShouldBe([4, 5], ignoreOrder: true);
        themes[^1].Lines.ShouldHaveSingleItem().Slip.Value.ShouldBe(6);
        themes[0].Lines.Select(l => l.Carries).ShouldBe(themes[0].Lines.Select(l => l.Carries).OrderDescending());
    }

    [Fact]
    public void What_speaks_against_stands_beside_with_its_reason()
    {
        var lines = Digest.Of(Quarrel)[0].Lines.ToDictionary(l => l.Slip.Value);
        lines[1].Against.ShouldContain(a => a.Slip == SlipNumber.Of(2) && a.Because.Contains("not"));
        lines[2].Against.ShouldContain(a => a.Slip == SlipNumber.Of(1));
        Digest.Of(Quarrel)[1].Lines[0].Against.ShouldBeEmpty();
    }

    private static readonly Gen<DigestPassage[]> Any = Gen.Select(Gen.Int[1, 5], Gen.Int[0, 9].Array[0, 12])
        .Array[0, 14]
        .Select(all =>
            all.Select(
                    (p, i) =>
                        Passage(
                            i + 1,
                            p.Item1,
                            string.Join(' ', p.Item2.Select(w => "toll flood bell rope ice weir eel ford bread stage".Split(' ')[w]))
                        )
                )
                .ToArray()
        );

    [Fact]
    public void Every_passage_stands_in_it_once_whatever_their_order() =>
        Any.Sample(
            passages =>
            {
                var themes = Digest.Of(passages);
                themes.SelectMany(t => t.Lines).Select(l => l.Slip.Value).Order().ShouldBe(passages.Select(p => p.Slip.Value).Order());
                var again = Digest.Of([.. passages.Reverse()]);
                string Shape(IReadOnlyList<DigestTheme> d) =>
                    string.Join('|', d.Select(t => t.Name + ":" + string.Join(',', t.Lines.Select(l => l.Slip))));
                Shape(again).ShouldBe(Shape(themes));
                foreach (var line in themes.SelectMany(t => t.Lines))
                foreach (var other in line.Against)
                    passages.Single(p => p.Slip == other.Slip).Source.ShouldNotBe(passages.Single(p => p.Slip == line.Slip).Source);
            },
            iter: 300
        );
}
