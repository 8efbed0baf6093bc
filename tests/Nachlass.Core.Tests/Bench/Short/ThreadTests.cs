using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench.Short;

public sealed class ThreadTests
{
    private static readonly FormatLimits Limits = new(new Limit(60), LinkLength: 23);

    private static readonly string[] Bits =
    [
        "Bread.",
        "Four loaves, no coin!",
        "\n\n---\n\n",
        "https://tavle.example/a/very/long/way/to/the/weir",
        " ",
        "👩‍🌾",
        "loaves",
        "\n\n",
        "\n\n## One\n\n",
    ];

    private static readonly Gen<string> Threads = Gen.Int[0, Bits.Length - 1]
        .Array[0, 30]
        .Select(all => string.Concat(all.Select(i => Bits[i])));

    [Fact]
    public void Parts_are_divided_by_rules_and_headings()
    {
        const string draft = "One.\n\n---\n\nTwo,\nstill two.\n\n## Three\n\nThree.\n* * *\n---\n\n";
        var parts = ThreadParts.In(draft);
        parts.Select(p => p.Text).ShouldBe(["One.", "Two,\nstill two.", "Three."]);
        parts.ShouldAllBe(p => draft.Substring(p.From, p.To - p.From) == p.Text);
        ThreadParts.In("").ShouldBeEmpty();
        ThreadParts.IsDivider("--").ShouldBeFalse();
        ThreadParts.IsDivider("--a").ShouldBeFalse();
        ThreadParts.IsDivider("#tolls").ShouldBeFalse();
    }

    [Fact]
    public void It_is_over_from_the_very_character_on()
    {
        var text = new string('x', 59) + "👩‍🌾yz";
        ThreadCut.OverFrom(text, "", new Limit(60), Limits).ShouldBe(text.Length - 2);
        ThreadCut.OverFrom(new string('x', 60), "", new Limit(60), Limits).ShouldBeNull();
        ThreadCut.OverFrom(new string('x', 60), " 1/7", new Limit(60), Limits).ShouldBe(56);
        // An address counts 23 wherever it ends, and is over as a whole.
        var link = new string('x', 40) + " https://tavle.example/a/very/long/way";
        ThreadCut.OverFrom(link, "", new Limit(60), Limits).ShouldBe(41);
        ThreadCut.OverFrom(link, "", new Limit(64), Limits).ShouldBeNull();
    }

    [Fact]
    public void What_is_over_is_cut_at_the_ends_of_sentences()
    {
        const string draft = "Bread was paid at the stage on flood days. Nobody asked why. Then the bridge came and the bread stayed home.";
        var cut = ThreadCut.Fitted(draft, false, Limits.Part!, Limits);
        ThreadParts
            .In(cut)
            .Select(p => p.Text)
            .ShouldBe(["Bread was paid at the stage on flood days. Nobody asked why.", "Then the bridge came and the bread stayed home."]);
        ThreadCut.Fitted("Short.", true, Limits.Part!, Limits).ShouldBe("Short.");
    }

    [Fact]
    public void Whatever_is_cut_fits_and_keeps_its_words() =>
        Threads
            .Select(Gen.Bool)
            .Sample(
                (draft, numbered) =>
                {
                    var cut = ThreadCut.Fitted(draft, numbered, Limits.Part!, Limits);
                    Words(cut).ShouldBe(Words(draft));
                    var parts = ThreadParts.In(cut);
                    for (var i = 0; i < parts.Count; i++)
                    {
                        var behind = ThreadCut.Numbering(numbered, i + 1, parts.Count);
                        (ThreadCut.OverFrom(parts[i].Text, behind, Limits.Part!, Limits) is null).ShouldBeTrue(parts[i].Text);
                    }
                    ThreadCut.Fitted(cut, numbered, Limits.Part!, Limits).ShouldBe(cut);
                }
            );

    [Fact]
    public void A_whole_book_in_one_part_is_cut_without_being_read_over_and_over()
    {
        var book = string.Concat(Enumerable.Range(1, 20_000).Select(i => $"Loaf {i} went over the water. "));
        var parts = ThreadParts.In(ThreadCut.Fitted(book, false, Limits.Part!, Limits));
        parts.Count.ShouldBeInRange(10_000, 20_000);
        parts.ShouldAllBe(p => p.Text.Length <= 60);
    }

    [Fact]
    public void Joined_and_moved_parts_keep_every_word() =>
        Gen.Select(Threads, Gen.Int[0, 5], Gen.Int[0, 5])
            .Sample(
                (draft, nth, to) =>
                {
                    var parts = ThreadParts.In(draft);
                    if (ThreadCut.Joined(draft, nth) is { } joined)
                    {
                        Words(joined).ShouldBe(Words(draft));
                        ThreadParts.In(joined).Count.ShouldBe(parts.Count - 1);
                    }
                    if (ThreadCut.Moved(draft, nth, to) is not { } moved)
                        return;
                    var after = ThreadParts.In(moved);
                    after.Count.ShouldBe(parts.Count);
                    after[to].Text.ShouldBe(parts[nth].Text);
                    ThreadCut.Moved(moved, to, nth).ShouldBe(draft);
                }
            );

    private static string Words(string text) => string.Concat(text.Where(c => !char.IsWhiteSpace(c) && c != '-'));
}

public sealed class PatternTests
{
    private static readonly Dictionary<string, object> Facts = new() { ["title"] = "The far bank", ["number"] = 4 };

    [Fact]
    public void What_is_known_is_filled_in_and_the_rest_are_places()
    {
        var (laid, fault) = Patterns.Lay("{{ title }} cost {{ what_it_cost }} at {{place}}{% if number > 3 %}, again{% endif %}.", Facts);
        fault.ShouldBeNull();
        laid!.Text.ShouldBe("The far bank cost what it cost at place, again.");
        laid.Places.Select(p => laid.Text[p.From..p.To]).ShouldBe(["what it cost", "place"]);
        laid.Places.Select(p => p.Name).ShouldBe(["what_it_cost", "place"]);
    }

    [Fact]
    public void What_cannot_be_filled_in_says_why()
    {
        Patterns.Lay("{{ title | no_such }}", Facts).Fault.ShouldNotBeNull();
        Patterns.Lay("{% if title %}", Facts).Fault.ShouldNotBeNull();
        Patterns.Lay("No places.", Facts).Laid!.Places.ShouldBeEmpty();
    }

    [Fact]
    public void Standing_texts_stand_where_they_are_named()
    {
        StandingTexts
            .In("a [[standing text 3]] b [[Standing text 3]] [[slip 3]] [[standing text 12]]")
            .Select(n => n.Value)
            .ShouldBe([3, 12]);
        StandingTexts
            .Filled("a [[standing text 3]] b [[standing text 4]]", n => n.Value == 3 ? "Yours.\n" : null)
            .ShouldBe("a Yours. b [[standing text 4]]");
        StandingTexts.Written(StandingTextNumber.Of(3)).ShouldBe("[[standing text 3]]");
    }
}
