using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class AskStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private static readonly string[] Bread =
    [
        "What was a penny worth, in bread?",
        "How many loaves of bread would a penny have bought?",
        "I would love to know what a penny paid for in those days, in bread.",
    ];

    private Done<MessagesIn> In(params string[] texts) =>
        desk.Messages.BringIn(
            [.. texts.Select((t, i) => new NewMessage($"Reader {i + 1}", t, desk.Papers.Time.GetUtcNow().AddHours(-i)))],
            Once.Unkeyed
        );

    private AskShown Ask(string word) =>
        desk.Asks.List().Single(a => a.Wishes.Any(w => w.Text.Contains(word, StringComparison.OrdinalIgnoreCase)));

    [Fact]
    public void The_same_wish_of_three_readers_is_one_ask_that_opens_to_their_messages()
    {
        var came = In([.. Bread, "Thank you for the letters."]).Answer;
        (came.Messages, came.There, came.Wishes, came.Asks).ShouldBe((4, 0, 3, 1));
        var ask = desk.Asks.List().ShouldHaveSingleItem();
        (ask.People, ask.Messages.Count, ask.ToAnswer).ShouldBe((3, 3, 3));
        ask.Weight.ShouldBe(3, 0.01);
        desk.Messages.List(new MessagesAsked(Ask: ask.Number)).Messages.Count.ShouldBe(3);
    }

    [Fact]
    public void What_comes_in_twice_is_kept_once_and_undo_takes_all_of_it_back()
    {
        var done = In(Bread);
        In(Bread).Answer.Messages.ShouldBe(0);
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Messages.List(new MessagesAsked()).All.ShouldBe(0);
        desk.Asks.List().ShouldBeEmpty();
        In(Bread).Answer.Asks.ShouldBe(1);
    }

    [Fact]
    public void One_person_counts_once_by_address_or_by_name()
    {
        desk.Messages.BringIn(
            [
                new("Ada", Bread[0], Address: "ada@readers.example"),
                new("A. Ferrand", Bread[1], Address: "ADA@readers.example"),
                new("Tom", Bread[2]),
            ],
            Once.Unkeyed
        );
        desk.Asks.List().ShouldHaveSingleItem().People.ShouldBe(2);
        desk.Messages.List(new MessagesAsked(Person: "@ada@readers.example")).Total.ShouldBe(2);
    }

    [Fact]
    public void What_was_parted_and_joined_by_hand_stays_and_draws_what_comes_after()
    {
        In([.. Bread, "How do the eels get past the weir?"]);
        var ask = Ask("penny worth");
        var parted = ask.Wishes.Single(w => w.Text.Contains("loaves", StringComparison.Ordinal));
        var command = desk.Asks.Place(parted.Number, new WishPlace(), Once.Unkeyed).Command;
        Ask("loaves").Number.ShouldNotBe(ask.Number);
        desk.History.Undo(command, Once.Unkeyed);
        Ask("loaves").Number.ShouldBe(ask.Number);

        // Of the eels its writer says that nothing is asked there; the next like it is not asked either.
        desk.Asks.Place(Ask("eels").Wishes[0].Number, new WishPlace(Nothing: true), Once.Unkeyed);
        desk.Messages.BringIn([new("Nils", "How on earth do eels get past that weir?")], Once.Unkeyed).Answer.Asks.ShouldBe(0);
        desk.Asks.List().ShouldHaveSingleItem();
    }

    /// <summary>Three wishes of two readers each in words that differ, the moon's, the city's and the binoculars'.</summary>
    private static readonly string[] Sky =
    [
        "Why does the moon look so big when it stands near the horizon?",
        "I live under street lamps. What is left of the sky for those of us in town?",
        "Last night it was enormous as it rose. I have never understood why it looks larger down there.",
        "Can one see anything at all from the middle of a city?",
        "Which binoculars would you give to a beginner?",
        "Please recommend a pair of field glasses for somebody who is just starting to look up.",
    ];

    private static readonly string[] Subjects =
    [
        "eels weirs",
        "bread pennies",
        "ropes knots",
        "ferries winters",
        "letters stamps",
        "bells funerals",
        "potatoes cellars",
        "choirs nerves",
        "maps borders",
        "goats cheese",
    ];

    /// <summary>Wishes on all kinds of things, each of another.</summary>
    private static string Another(int i) =>
        (i / Subjects.Length % 4) switch
        {
            0 => "What have {0} to do with {1}?",
            1 => "I would love to read about {1} without {0}.",
            2 => "Who first thought of {0}, and what of {1}?",
            _ => "Could you tell us what {1} cost before there were {0}?",
        }
            is var form
            ? string.Format(null, form, [.. Subjects[i % Subjects.Length].Split(' ')])
            : "";

    private bool AreOne(string one, string other) => Ask(one).Number == Ask(other).Number;

    private bool IsSkySorted() =>
        AreOne("look so big", "larger down") && AreOne("left of the sky", "middle of a city") && AreOne("binoculars", "field glasses");

    [Fact]
    public void It_makes_no_difference_whether_wishes_come_at_once_or_one_by_one_and_undo_takes_the_last_back()
    {
        In([.. Enumerable.Range(0, Subjects.Length).Select(Another)]);
        foreach (var text in Sky[..^1])
            In(text);
        var before = desk.Asks.List().Select(a => (a.Number, a.Messages.Count)).ToList();
        var done = In(Sky[^1]);
        IsSkySorted().ShouldBeTrue();
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Asks.List().Select(a => (a.Number, a.Messages.Count)).ShouldBe(before, ignoreOrder: true);
        In(Sky[^1]);
        IsSkySorted().ShouldBeTrue();
        desk.Papers.Check();
    }

    [Fact]
    public void What_was_parted_by_hand_does_not_come_together_again_with_what_comes_after()
    {
        In([.. Enumerable.Range(0, Subjects.Length).Select(Another), .. Sky]);
        var (moon, down) = (Ask("look so big").Number, Ask("larger down").Wishes.Single(w => w.Text.Contains("larger down")));
        desk.Asks.Place(down.Number, new WishPlace(), Once.Unkeyed);
        In("What sort of binoculars should I buy for forty pounds?");
        Ask("look so big").Number.ShouldBe(moon);
        AreOne("look so big", "larger down").ShouldBeFalse();
        AreOne("binoculars should I buy", "field glasses").ShouldBeTrue();
    }

    [Fact]
    public async Task Thousands_are_asks_by_their_words_at_once_and_by_what_they_mean_when_they_were_read_closely()
    {
        string[] texts = [.. Enumerable.Range(0, AskShelf.MostClosely).Select(Another), .. Sky];
        In(texts).Answer.Wishes.ShouldBe(texts.Length);
        var byWords = desk.Asks.List().Select(a => (a.Number, a.Messages.Count)).ToList();
        IsSkySorted().ShouldBeFalse();
        await desk.AskShelf.ReadClosely();
        desk.AskShelf.Left.ShouldBe(0);
        IsSkySorted().ShouldBeTrue();
        desk.Asks.List().Sum(a => a.Messages.Count).ShouldBe(texts.Length);

        // It is a step like any other, and one that was taken back is not done again.
        var last = desk.History.Latest().First(s => s.What.StartsWith("read ", StringComparison.Ordinal));
        desk.History.Undo(last.Command, Once.Unkeyed);
        desk.Asks.List().Select(a => (a.Number, a.Messages.Count)).ShouldBe(byWords, ignoreOrder: true);
        await desk.AskShelf.ReadClosely();
        IsSkySorted().ShouldBeFalse();
    }

    [Fact]
    public void Joined_asks_are_one_with_the_words_its_writer_gave()
    {
        In([.. Bread, "How do the eels get past the weir?"]);
        var (bread, eels) = (Ask("penny"), Ask("eels"));
        desk.Asks.Edit(eels.Number, new AskChange(eels.Version, "Prices and eels"), Once.Unkeyed);
        var done = desk.Asks.Join(eels.Number, new AskJoined(bread.Number), Once.Unkeyed);
        var joined = desk.Asks.List().ShouldHaveSingleItem();
        (joined.Number, joined.Ask, joined.People).ShouldBe((bread.Number, "Prices and eels", 4));
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Asks.List().Count.ShouldBe(2);
        Should.Throw<BadInputException>(() => desk.Asks.Join(bread.Number, new AskJoined(bread.Number), Once.Unkeyed));
    }

    [Fact]
    public void An_idea_and_a_piece_are_made_once_with_the_evidence_and_when_it_is_out_the_ask_leads_to_it()
    {
        In(Bread);
        var ask = desk.Asks.List()[0];
        var idea = desk.Asks.MakeIdea(ask.Number, Once.Unkeyed).Answer;
        idea.Kind.ShouldBe(SlipKind.Idea);
        foreach (var i in Enumerable.Range(1, 3))
            idea.Text.ShouldContain($"Reader {i}");
        Should.Throw<ClashException>(() => desk.Asks.MakeIdea(ask.Number, Once.Unkeyed));

        var piece = desk.Asks.MakePiece(ask.Number, new AskPieceAsked(), Once.Unkeyed).Answer;
        desk.Pieces.Material(piece.Number).Items.ShouldContain(m => m.Slip != null && m.Slip.Number == idea.Number);
        desk.Asks.Get(ask.Number).Piece!.Out.ShouldBeNull();

        desk.Drafts.Save(piece.Number, "A penny bought a loaf.", desk.Drafts.Get(piece.Number).Version, Once.Unkeyed);
        desk.Releases.Record(piece.Number, new NewRelease(Address: "https://tavle.example/penny"), Once.Unkeyed);
        var answered = desk.Asks.Get(ask.Number);
        answered.Piece!.Out!.Address.ShouldBe("https://tavle.example/penny");
        answered.Wishes.Select(w => w.Person).Order().ShouldBe(["Reader 1", "Reader 2", "Reader 3"]);
    }

    [Fact]
    public void What_was_said_already_answers_with_its_sentence()
    {
        var piece = desk.Pieces.Start(new NewPiece("The third bell"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(
            piece,
            "Two strokes of the bell called the boat. Three meant that somebody had changed their mind.",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        var release = desk.Releases.Record(piece, new NewRelease(), Once.Unkeyed).Answer;
        In("What do three strokes of the bell mean?");
        var answer = desk.Asks.List()[0].AnsweredBy.ShouldHaveSingleItem();
        answer.Release.ShouldBe(release.Number);
        answer.Sentence.ShouldContain("changed their mind");
    }

    [Fact]
    public void Messages_with_a_hidden_word_are_kept_not_shown_and_count_in_no_ask()
    {
        In([.. Bread, "What was a penny worth, in bread?\n\nAnd buy my raffle tickets."]);
        desk.Asks.List()[0].People.ShouldBe(4);
        var done = desk.Messages.Hide(new HiddenWord("Raffle"), Once.Unkeyed);
        desk.Asks.List()[0].People.ShouldBe(3);
        var shown = desk.Messages.List(new MessagesAsked());
        (shown.Total, shown.Hidden, shown.All).ShouldBe((3, 1, 4));
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Asks.List()[0].People.ShouldBe(4);
    }

    [Fact]
    public void A_message_finds_the_release_it_answers_by_number_address_or_title()
    {
        var piece = desk.Pieces.Start(new NewPiece("Letter 24: The third bell"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, "Three.", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var release = desk.Releases.Record(piece, new NewRelease(Address: "https://low-water.example/24"), Once.Unkeyed).Answer.Number;
        desk.Messages.BringIn(
            [
                new("a", "One.", About: $"R {release}"),
                new("b", "Two.", About: "https://low-water.example/24"),
                new("c", "Three.", About: "Re: Letter 24: The third bell"),
                new("d", "Four.", About: "your website"),
            ],
            Once.Unkeyed
        );
        desk.Messages.List(new MessagesAsked(Release: release)).Total.ShouldBe(3);
        // Taken away, the release leaves its messages.
        desk.Releases.Record(piece, new NewRelease(OutOn: desk.Today.AddDays(-1)), Once.Unkeyed);
        desk.Releases.Remove(release, Once.Unkeyed);
        desk.Messages.List(new MessagesAsked()).Total.ShouldBe(4);
    }

    [Theory]
    [InlineData("", "Hello", 1, "text")]
    [InlineData("x", "", 1, "text")]
    [InlineData("x", "Hello", 0, "reach")]
    public void A_message_that_cannot_be_taken_names_the_field_and_nothing_comes_in(string person, string text, int reach, string field)
    {
        if (person.Length == 0)
            text = "";
        Should
            .Throw<BadInputException>(() =>
                desk.Messages.BringIn([new("fine", "What of it?"), new(person, text, Reach: reach)], Once.Unkeyed)
            )
            .Field.ShouldBe(field);
        desk.Messages.List(new MessagesAsked()).All.ShouldBe(0);
    }

    [Fact]
    public void An_answer_is_kept_and_a_second_tab_does_not_write_over_it()
    {
        In(Bread);
        var message = desk.Messages.List(new MessagesAsked(Open: true)).Messages[0].Message;
        desk.Messages.Edit(message.Number, new MessageChange(message.Version, true, "A loaf."), Once.Unkeyed);
        Should.Throw<StaleException>(() =>
            desk.Messages.Edit(message.Number, new MessageChange(message.Version, Answer: "Two."), Once.Unkeyed)
        );
        desk.Messages.List(new MessagesAsked(Open: true)).Total.ShouldBe(2);
        desk.Asks.List()[0].ToAnswer.ShouldBe(2);
    }
}
