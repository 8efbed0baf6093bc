using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class NearIndexTests
{
    private static Reference Slip(int number) => new(ThingKind.Slip, number);

    private static NearIndex With(params string[] texts)
    {
        var index = new NearIndex();
        for (var i = 0; i < texts.Length; i++)
            index.Put(Slip(i + 1), texts[i]);
        return index;
    }

    private static readonly string[] Valley =
    [
        "Ferrymen at Ostrey were paid in bread on flood days",
        "The ledger's bread column: wages in kind, counted in loaves",
        "Why do fords keep the names of saints?",
        "A rope walk of three hundred yards makes a rope of two hundred",
        "The jury blamed the rope and never called the rope maker",
        "Eel passes are bridges built for someone who pays nothing",
    ];

    [Fact]
    public void The_same_text_is_wholly_alike()
    {
        using var index = With(Valley);
        var nearest = index.Nearest(Valley[0], 3, 0.05);
        nearest[0].Thing.ShouldBe(Slip(1));
        nearest[0].Likeness.ShouldBe(1, 1e-6);
    }

    [Fact]
    public void Word_endings_and_accents_make_no_difference()
    {
        using var index = With(Valley);
        var nearest = index.Nearest("A ferryman paid in bréad while the river floods", 3, 0.05);
        nearest[0].Thing.ShouldBe(Slip(1));
        nearest[0].Words.ShouldContain(w => w.Contains("ferryman"));
    }

    [Fact]
    public void What_carries_it_is_given_in_the_words_of_the_asked_text()
    {
        using var index = With(Valley);
        index.Nearest("the rope maker at Harnsby", 1, 0.05)[0].Words.ShouldContain("rope maker");
    }

    [Fact]
    public void Nothing_is_given_when_nothing_is_near()
    {
        using var index = With(Valley);
        index.Nearest("An entirely unrelated recipe for soup", 5, 0.05).ShouldBeEmpty();
        index.Nearest("and of the to in", 5, 0).ShouldBeEmpty();
        index.Nearest("", 5, 0).ShouldBeEmpty();
        new NearIndex().Nearest("anything", 5, 0).ShouldBeEmpty();
    }

    [Fact]
    public void A_rare_word_weighs_more_than_a_common_one()
    {
        using var index = With("river bell", "river stage", "river toll", "river eel", "river rope", "bell tower", "river stone");
        var nearest = index.Nearest("river tower", 7, 0);
        nearest[0].Thing.ShouldBe(Slip(6));
    }

    [Fact]
    public void A_new_wording_takes_the_place_of_the_old()
    {
        using var index = With(Valley);
        index.Put(Slip(1), "nothing about that any more");
        index.Nearest("ferrymen paid in bread", 5, 0.05).ShouldNotContain(n => n.Thing == Slip(1));
        index.Remove(Slip(2));
        index.Nearest("bread column", 5, 0.01).ShouldNotContain(n => n.Thing == Slip(2));
        index.Count.ShouldBe(5);
    }

    [Fact]
    public void Only_what_is_asked_among_is_given()
    {
        using var index = With(Valley);
        index.Nearest("rope", 5, 0, thing => thing.Number == 5).Select(n => n.Thing.Number).ShouldBe([5]);
    }

    [Fact]
    public void A_few_things_can_be_measured_by_themselves()
    {
        using var index = With(Valley);
        var asked = "the rope and who made it";
        var all = index.Nearest(asked, 10, 0);
        var few = index.NearestOf(asked, [Slip(4), Slip(5), Slip(99)], 10, 0);
        few.Select(n => n.Thing).ShouldBe(all.Select(n => n.Thing).Where(t => t.Number is 4 or 5));
        foreach (var near in few)
            near.Likeness.ShouldBe(all.Single(n => n.Thing == near.Thing).Likeness, 1e-9);
    }

    /// <summary>Words that stand nearly everywhere are left out of the search for candidates, and still count in their likeness.</summary>
    [Fact]
    public void Common_words_do_not_hide_the_nearest_among_many()
    {
        using var index = new NearIndex();
        for (var i = 1; i <= 30_000; i++)
            index.Put(Slip(i), $"the river and the bank and stone {i % 500} boat {i % 7}");
        index.Put(Slip(40_000), "river bank stone boat lantern");
        var nearest = index.Nearest("lantern on the river bank", 3, 0.05);
        nearest[0].Thing.ShouldBe(Slip(40_000));
        nearest[0].Words.ShouldContain("lantern");
        nearest[0].Likeness.ShouldBe(index.NearestOf("lantern on the river bank", [Slip(40_000)], 1, 0)[0].Likeness, 1e-9);
    }

    /// <summary>However it came about, an index answers like one made from the same texts at once.</summary>
    [Fact]
    public void The_way_to_an_index_does_not_matter()
    {
        var word = Some.Of("river", "rope", "bell", "bread", "toll", "eel", "stone", "saint", "boat", "flood");
        var text = word.List[1, 8].Select(words => string.Join(' ', words));
        var step = Gen.Select(Gen.Int[1, 12], Gen.Bool, text);
        Gen.Select(step.List[1, 60], text)
            .Sample(
                (steps, asked) =>
                {
                    using var changed = new NearIndex();
                    var now = new Dictionary<int, string>();
                    foreach (var (number, put, wording) in steps)
                    {
                        if (put)
                        {
                            changed.Put(Slip(number), wording);
                            now[number] = wording;
                        }
                        else
                        {
                            changed.Remove(Slip(number));
                            now.Remove(number);
                        }
                    }
                    using var fresh = new NearIndex();
                    foreach (var (number, wording) in now)
                        fresh.Put(Slip(number), wording);
                    var a = changed.Nearest(asked, 20, 0).OrderBy(n => n.Thing.Number).ToList();
                    var b = fresh.Nearest(asked, 20, 0).OrderBy(n => n.Thing.Number).ToList();
                    a.Select(n => n.Thing).ShouldBe(b.Select(n => n.Thing));
                    foreach (var (left, right) in a.Zip(b))
                        left.Likeness.ShouldBe(right.Likeness, 1e-5);
                },
                iter: 300
            );
    }

    [Fact]
    public void Likeness_lies_between_nothing_and_all()
    {
        var text = Some.Of("river", "rope", "bell", "bread", "toll").List[0, 30].Select(words => string.Join(' ', words));
        Gen.Select(text.List[1, 20], text)
            .Sample(
                (texts, asked) =>
                {
                    using var index = With([.. texts]);
                    index.Nearest(asked, 50, 0).ShouldAllBe(n => n.Likeness >= 0 && n.Likeness <= 1);
                },
                iter: 200
            );
    }
}
