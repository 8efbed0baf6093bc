using CsCheck;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Ideas;

/// <summary>Terms, angles, and ideas laid of them.</summary>
public sealed class IdeaMakerTests
{
    private static Reference Slip(int number) => new(ThingKind.Slip, number);

    private static IReadOnlyList<CharacteristicTerm> Terms(params string[] texts) =>
        CharacteristicTerms.Of([.. texts.Select((text, i) => (Slip(i + 1), text))], _ => 0, 400, new TermWords());

    [Fact]
    public void A_term_is_a_noun_that_is_said_more_here_with_the_texts_it_stands_in()
    {
        var terms = Terms(
            "They pulled the ferry over by hand.",
            "A ferry never waits for the bread.",
            "The old ferry was tarred again.",
            "Ropes were kept in the shed. The ropes rotted.",
            "He paid in ropes, not in coin."
        );
        var ferry = terms.Single(t => t.Words == "ferry");
        (ferry.Form, ferry.Spoken, ferry.Any, ferry.Texts).ShouldBe((TermForm.Countable, "the ferry", "a ferry", 3));
        ferry.Things.ShouldBe([Slip(1), Slip(2), Slip(3)]);
        var ropes = terms.Single(t => t.Words == "ropes");
        (ropes.Form, ropes.Spoken, ropes.Any).ShouldBe((TermForm.Plural, "ropes", "ropes"));
        terms.ShouldNotContain(t => t.Words == "pulled" || t.Words == "old" || t.Words == "tarred");
    }

    [Fact]
    public void A_name_keeps_its_capital_and_a_pair_stands_for_its_halves()
    {
        var terms = Terms(
            "The fair at Low Ostrey had toll money for everyone.",
            "Nobody at Low Ostrey counted the toll money.",
            "From Low Ostrey they carried the toll money down.",
            "Behind Low Ostrey the toll money was hidden."
        );
        terms.Select(t => t.Words).ShouldBe(["Low Ostrey", "toll money"], ignoreOrder: true);
        terms.Single(t => t.Words == "Low Ostrey").Spoken.ShouldBe("Low Ostrey");
    }

    [Fact]
    public void What_stands_everywhere_is_characteristic_of_nothing()
    {
        string[] texts = ["The water rose.", "The water fell.", "By the water.", "In the water."];
        CharacteristicTerms.Of([.. texts.Select((t, i) => (Slip(i + 1), t))], _ => 400, 404, new TermWords()).ShouldBeEmpty();
        CharacteristicTerms.Of([.. texts.Select((t, i) => (Slip(i + 1), t))], _ => 4, 404, new TermWords()).ShouldNotBeEmpty();
    }

    /// <summary>Against the formula as it stands in the paper, over the four cells of the table.</summary>
    [Fact]
    public void Strength_is_the_log_likelihood_ratio() =>
        Gen.Select(Gen.Int[1, 50], Gen.Int[0, 50], Gen.Int[0, 300], Gen.Int[1, 300])
            .Sample(
                (with, without, withElsewhere, withoutElsewhere) =>
                {
                    double[,] seen =
                    {
                        { with, without },
                        { withElsewhere, withoutElsewhere },
                    };
                    double all = with + without + withElsewhere + withoutElsewhere,
                        g = 0;
                    for (var i = 0; i < 2; i++)
                    for (var j = 0; j < 2; j++)
                        if (seen[i, j] > 0)
                            g += 2 * seen[i, j] * Math.Log(seen[i, j] * all / ((seen[i, 0] + seen[i, 1]) * (seen[0, j] + seen[1, j])));
                    Math.Abs(LogLikelihood.Ratio(with, with + without, withElsewhere, withElsewhere + withoutElsewhere)).ShouldBe(g, 1e-6);
                }
            );

    [Fact]
    public void Every_ready_angle_can_be_laid_and_says_what_it_is_for()
    {
        Angles.Ready.Where(a => Angles.Fault(a) is not null).ShouldBeEmpty();
        Angles.Ready.Select(a => a.Shape).ShouldBeUnique();
        Angles.Ready.Select(a => a.For).Distinct().Order().ShouldBe(Enum.GetValues<SparkKind>().Where(k => k != SparkKind.Service));
        Angles.Fault(new Angle("over a service", SparkKind.Service, "{{ term }}")).ShouldNotBeNull();
        Angles.Fault(new Angle("broken", SparkKind.Term, "How {{ term began")).ShouldNotBeNull();
        Angles.Fault(new Angle("empty", SparkKind.Term, "How {{ weather }} began"))!.ShouldContain("term, any, word, topic");
    }

    private static readonly string[] Nouns =
    [
        "ferry",
        "rope",
        "bridge",
        "toll",
        "ford",
        "oar",
        "bell",
        "stage",
        "tar",
        "flood",
        "meadow",
        "lantern",
        "cattle",
        "deed",
        "winter",
        "wire",
    ];

    private static List<Spark> Sparks(int count, int topics) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => new Spark(
                    SparkKind.Term,
                    TopicNumber.Of(1 + i % topics),
                    new Dictionary<string, object>
                    {
                        ["term"] = $"the {Nouns[i % Nouns.Length]}",
                        ["any"] = $"a {Nouns[i % Nouns.Length]}",
                        ["word"] = Nouns[i % Nouns.Length],
                        ["topic"] = $"topic {1 + i % topics}",
                    },
                    [new IdeaOrigin(OriginKind.Slip, i + 1, Nouns[i % Nouns.Length])],
                    "It stands there."
                )),
        ];

    private static IEnumerable<IReadOnlyList<Spark>> ByTopic(IEnumerable<Spark> sparks) =>
        sparks.GroupBy(s => s.Topic).Select(g => g.ToList());

    private static List<MadeIdea> Make(List<Spark> sparks, IdeaWish wish, params string[] known) =>
        [.. IdeaMaker.Make(ByTopic(sparks), Angles.Ready, wish, new SaidIdeas(known, _ => 1))];

    [Fact]
    public void The_same_seed_gives_the_same_ideas_and_another_gives_others() =>
        Gen.Int[1, 1_000_000]
            .Sample(
                seed =>
                {
                    var sparks = Sparks(12, 3);
                    var first = Make(sparks, new IdeaWish(30, Seed: seed)).Select(i => i.Text).ToList();
                    Make(sparks, new IdeaWish(30, Seed: seed)).Select(i => i.Text).ShouldBe(first);
                    Make(sparks, new IdeaWish(30, Seed: seed + 1)).Select(i => i.Text).ShouldNotBe(first);
                },
                iter: 50
            );

    [Fact]
    public void Topics_come_in_turn_angles_are_spread_and_each_idea_says_what_it_was_made_from()
    {
        var made = Make(Sparks(16, 4), new IdeaWish(32));
        made.Count.ShouldBe(32);
        made.Take(4).Select(i => i.Topic!.Value.Value).ShouldBe([1, 2, 3, 4]);
        made.GroupBy(i => i.Topic).Select(g => g.Count()).ShouldAllBe(n => n >= 7 && n <= 9);
        made.GroupBy(i => i.Shape).Max(g => g.Count()).ShouldBeLessThanOrEqualTo(3);
        made.Select(i => i.Text).ShouldBeUnique();
        made.ShouldAllBe(i => i.From.Count == 1 && !i.Text.Contains("{{", StringComparison.Ordinal));
        made.ShouldAllBe(i => i.Text.Contains(i.From[0].Title, StringComparison.OrdinalIgnoreCase));
    }

    [Fact]
    public void What_is_its_own_is_neither_of_its_angle_nor_of_its_audience()
    {
        var made = Make(Sparks(16, 4), new IdeaWish(32, "children on the bank"));
        made.ShouldAllBe(i => i.Text.EndsWith("(for children on the bank)", StringComparison.Ordinal));
        made.ShouldAllBe(i => i.Own!.Count > 0);
        made.ShouldAllBe(i => i.Own!.All(root => Stems.Of($"{i.From[0].Title} topic").Any(s => s.Root == root)));
    }

    [Fact]
    public void What_is_known_or_nearly_the_same_is_not_proposed_again()
    {
        var sparks = Sparks(8, 2);
        var first = Make(sparks, new IdeaWish(20)).Select(i => i.Text).ToArray();
        Make(sparks, new IdeaWish(20), first).Select(i => i.Text).ShouldNotContain(text => first.Contains(text));
        var all = Make(sparks, new IdeaWish(100), []);
        all.Count.ShouldBe(100);
        // A refused one in slightly other words counts as the same.
        Make(sparks, new IdeaWish(100), "Who lost, by the ferry?").ShouldNotContain(i => i.Text == "Who lost by the ferry");
        all.ShouldContain(i => i.Text == "Who lost by the ferry");
    }

    [Fact]
    public void What_says_nearly_the_same_as_one_of_them_is_joined_and_counted()
    {
        Angle[] alike =
        [
            new("who lost", SparkKind.Term, "Who lost by {{ term }}"),
            new("who lost then", SparkKind.Term, "Who lost by {{ term }}?"),
        ];
        int Joined(params string[] known)
        {
            var joined = 0;
            _ = IdeaMaker.Make(ByTopic(Sparks(3, 1)), alike, new IdeaWish(20), new SaidIdeas(known, _ => 1), () => joined++).Count();
            return joined;
        }
        Joined().ShouldBe(3);
        Joined("Who lost by the ferry").ShouldBe(2, "what was known before is not joined to anything");
    }

    [Fact]
    public void Wishes_are_kept_to_and_a_wording_that_can_not_be_laid_is_left_out()
    {
        var sparks = Sparks(4, 1);
        Make(sparks, new IdeaWish(3, "beginners")).ShouldAllBe(i => i.Text.EndsWith("(for beginners)", StringComparison.Ordinal));
        Make(sparks, new IdeaWish(5, Kinds: [SparkKind.Ask])).ShouldBeEmpty();
        IdeaMaker
            .Make(ByTopic(sparks), [new Angle("broken", SparkKind.Term, "{{ term")], new IdeaWish(5), new SaidIdeas([], _ => 1))
            .ShouldBeEmpty();
        Make([], new IdeaWish(5)).ShouldBeEmpty();
    }

    [Fact]
    public void What_is_filled_in_is_not_read_as_a_pattern()
    {
        var spark = new Spark(
            SparkKind.Ask,
            null,
            new Dictionary<string, object> { ["ask"] = "What is {{ term }} and {% if x %}?", ["topic"] = "t" },
            [],
            ""
        );
        Make([spark], new IdeaWish(1)).ShouldHaveSingleItem().Text.ShouldContain("{{ term }} and {% if x %}?");
    }
}
