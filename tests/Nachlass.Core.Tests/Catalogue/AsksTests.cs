using System.Numerics.Tensors;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Catalogue;

public class AsksTests
{
    private static IReadOnlyList<string> In(string text) => [.. Wishes.In(text).Select(w => w.Text)];

    [Theory]
    [InlineData("What was a penny worth, in bread?")]
    [InlineData("I wonder how much bread a family could have had for a penny.")]
    [InlineData("More on the songs of the rope walk, please!")]
    [InlineData("I never understood what was done with the keeper.")]
    [InlineData("A request: draw us the crossings on a map.")]
    [InlineData("A calendar of meteor showers would be so helpful.")]
    [InlineData("Please make us a map!")]
    public void What_wishes_or_asks_something_is_a_wish(string text) => In(text).ShouldBe([text]);

    [Theory]
    [InlineData("Who would not want to live on the far bank?")]
    [InlineData("It isn’t dearer in the long run, is it?")]
    [InlineData("Did you get my last letter?")]
    [InlineData("Would you be willing to speak at our reading in March?")]
    [InlineData("May I quote two sentences of this in our parish magazine?")]
    [InlineData("I wish you a good year, with low water in it.")]
    [InlineData("I hope you are well and that the roof holds.")]
    [InlineData("My grandmother used to ask: who wants over at this hour?")]
    [InlineData("“What was a penny worth?”")]
    [InlineData("> What was a penny worth in bread?")]
    [InlineData("Please change my address.")]
    [InlineData("The toll on shadows! I laughed in the tram.")]
    [InlineData("")]
    [InlineData("????")]
    [InlineData("Why?")]
    public void Good_manners_arrangements_and_questions_that_want_no_answer_are_none(string text) => In(text).ShouldBeEmpty();

    [Fact]
    public void The_sentence_before_names_what_a_wish_only_points_to_and_counts_less()
    {
        var wish = Wishes.In("My crust goes soft within the hour. Is there a trick to keep it crackling?").ShouldHaveSingleItem();
        wish.Words.ShouldContain(w => w.Root == "crust" && w.Share == Wish.OfContext);
        wish.Words.ShouldContain(w => w.Root == "trick" && w.Share == 1);
    }

    [Fact]
    public void A_wish_is_found_again_by_its_sentence_with_the_same_words()
    {
        const string text =
            "I rang three times.\n\nTwo strokes I follow. But why three strokes on that bell? Please tell us more about bells.";
        foreach (var wish in Wishes.In(text))
            Wishes.Named(text, wish.Text).Words.ShouldBe(wish.Words);
        // Also one that the rules do not find, and even one that stands there no more.
        Wishes.Named(text, "I rang three times.").Words.ShouldNotBeEmpty();
        Wishes.Named(text, "?!").Words.ShouldNotBeEmpty();
    }

    private static IReadOnlyList<int> Placed(AskPlaces places, params string[] texts)
    {
        var next = 0;
        return places.Place([.. texts.Select(t => Wishes.In(t).ShouldHaveSingleItem(t))], () => ++next);
    }

    [Fact]
    public void The_same_wish_in_other_words_is_one_ask_and_another_on_the_same_subject_is_not()
    {
        var asks = Placed(
            new AskPlaces(),
            "What was a penny worth, in bread?",
            "How many loaves would that penny have bought?",
            "How do the eels get past the weir?",
            "If eels do not use bridges, how do they climb a weir?",
            "How is the apprentice’s knot tied?"
        );
        asks[1].ShouldBe(asks[0]);
        asks[3].ShouldBe(asks[2]);
        new[] { asks[0], asks[2], asks[4] }.Distinct().Count().ShouldBe(3);
    }

    [Fact]
    public void What_has_an_ask_keeps_it_and_draws_what_comes_after()
    {
        var places = new AskPlaces();
        static Wish Of(string text) => Wishes.In(text)[0];
        // By hand: rope and songs are one ask, and a sentence about geese asks nothing.
        places.Add(Of("How long was the rope walk?"), 7);
        places.Add(Of("Did they sing songs there?"), 7);
        places.Add(Of("What did geese pay at the toll?"), 0);
        var placed = places.Place([Of("Which songs did they sing?"), Of("How much did the geese pay, by the way?")], () => 99);
        placed.ShouldBe([7, 0]);
    }

    private static Wish[] Read(params string[] texts)
    {
        var wishes = texts.Select(t => Wishes.In(t).ShouldHaveSingleItem(t)).ToList();
        return [.. wishes.Zip(SentenceMeaning.Of([.. wishes.Select(w => w.Said)]), (w, meaning) => w with { Meaning = meaning })];
    }

    private static readonly string[] Moon =
    [
        "Why does the moon look so big when it stands near the horizon?",
        "I live under street lamps. What is left of the sky for those of us in town?",
        "Last night it was enormous as it rose. I have never understood why it looks larger down there.",
        "Can one see anything at all from the middle of a city?",
        "Which binoculars would you give to a beginner?",
        "Please recommend a pair of field glasses for somebody who is just starting to look up.",
    ];

    [Fact]
    public void Wishes_that_share_hardly_a_word_are_one_ask_by_what_they_mean()
    {
        var next = 0;
        var asks = new AskPlaces().Place(Read(Moon), () => ++next);
        asks.ShouldBe([1, 2, 1, 2, 3, 3]);
        // By their words they are not.
        Placed(new AskPlaces(), Moon).Distinct().Count().ShouldBeGreaterThan(3);
    }

    [Fact]
    public void What_is_placed_again_with_what_came_later_is_placed_as_if_all_had_come_at_once()
    {
        var (places, next, read) = (new AskPlaces(), 10, Read(Moon));
        IReadOnlyList<int> asks = [];
        for (var i = 0; i < read.Length; i++)
            asks = places.Place([read[i]], () => ++next, [.. Enumerable.Range(0, i)]);
        asks.Select(a => asks.ToList().IndexOf(a)).ShouldBe([0, 1, 0, 1, 4, 4]);
        // An ask keeps its number: the first wish was one by itself before.
        asks[0].ShouldBe(11);
    }

    [Fact]
    public void An_ask_that_is_not_placed_again_stays_and_draws_those_that_are()
    {
        var (places, read) = (new AskPlaces(), Read(Moon));
        // By hand: each of these two is an ask of its own, the moon's with a number of its writer's.
        places.Add(read[0], 7);
        places.Add(read[1], 8);
        places.Add(read[4], 9);
        var asks = places.Place([read[2], read[5]], () => 99, 1);
        asks.ShouldBe([8, 7, 9]);
        places.Place([read[3]], () => 99).ShouldBe([8]);
    }

    [Fact]
    public void What_texts_mean_is_the_same_alone_and_among_others_and_has_length_one()
    {
        var all = SentenceMeaning.Of([.. Moon, "", "?", new string('x', 5_000)]);
        all.Length.ShouldBe(Moon.Length + 3);
        foreach (var meaning in all)
        {
            meaning.Length.ShouldBe(SentenceMeaning.Numbers);
            TensorPrimitives.Norm<float>(meaning).ShouldBe(1, 0.001);
        }
        TensorPrimitives.Dot<float>(all[2], SentenceMeaning.Of([Moon[2]])[0]).ShouldBe(1, 0.001);
        SentenceMeaning.Of([]).ShouldBeEmpty();
    }

    [Fact]
    public void Each_person_counts_once_half_after_180_days_and_reach_counts_by_tenfolds()
    {
        AskWeight.Of([("a", 0, 1), ("a", 0, 1), ("b", 180, 1)]).ShouldBe(1.5, 0.001);
        AskWeight.Of([("a", 0, 10)]).ShouldBe(2, 0.001);
        AskWeight.Of([("a", 0, 1), ("a", 360, 100)]).ShouldBe(1, 0.001);
    }

    [Fact]
    public void The_title_says_what_is_asked_by_itself()
    {
        var wishes = Wishes
            .In("How do the eels get past the weir?")
            .Concat(Wishes.In("The weir at Low Ostrey is two metres high, and eels are short. How do they come over it?"))
            .ToList();
        AskWeight.Title(wishes, (_, _) => 1).ShouldBe("How do the eels get past the weir?");
    }

    [Fact]
    public void An_answer_stands_in_a_passage_and_not_in_the_title_alone()
    {
        var wanted = new Dictionary<string, double>
        {
            ["three"] = 1,
            ["stroke"] = 1,
            ["bell"] = 1,
        };
        AskAnswered
            .Passage(wanted, "The third bell", "Two strokes called the boat. Three meant that somebody had changed their mind.")!
            .Value.Share.ShouldBe(1, 0.001);
        AskAnswered.Passage(wanted, "Three strokes of the bell", "Nobody was there, and the boat lay where it was.").ShouldBeNull();
    }

    [Fact]
    public void A_message_has_one_fingerprint_and_a_person_one_key_whatever_the_spelling()
    {
        var at = new DateTimeOffset(2026, 9, 1, 8, 0, 0, TimeSpan.Zero);
        Message.Fingerprint("Ada", "", at, "Hello ").ShouldBe(Message.Fingerprint("Ada", "", at, "Hello"));
        Message
            .KeyOf("Ada", "ADA@readers.example", MessageNumber.Of(1))
            .ShouldBe(Message.KeyOf("A. Ferrand", "ada@readers.example", MessageNumber.Of(2)));
        Message.KeyOf("", "", MessageNumber.Of(1)).ShouldNotBe(Message.KeyOf("", "", MessageNumber.Of(2)));
    }
}
