using CsCheck;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench.Writing;

public sealed class DraftCheckTests
{
    private static readonly Language English = Languages.Named("en-GB");

    private static IReadOnlyList<CheckNote> Notes(string draft, CheckKind kind) =>
        [.. DraftCheck.Of(draft, English, new HashSet<CheckKind>()).Notes.Where(n => n.Kind == kind)];

    [Theory]
    [InlineData("The bell was rung by the widow.", "was rung")]
    [InlineData("The loaves were *not always* counted.", "were *not always* counted")]
    [InlineData("It has been said before.", "been said")]
    public void A_passive_is_told_with_its_place(string draft, string stands)
    {
        var note = Notes(draft, CheckKind.Passive).ShouldHaveSingleItem();
        draft[note.From..note.To].ShouldBe(stands);
    }

    [Theory]
    [InlineData("He was a tired man.")]
    [InlineData("The river was red.")]
    [InlineData("She was there, and asked for bread.")]
    [InlineData("They rang the bell.")]
    public void What_is_none_is_not_told(string draft) => Notes(draft, CheckKind.Passive).ShouldBeEmpty();

    [Fact]
    public void Fillers_are_told_the_longest_first_and_not_in_what_is_no_text()
    {
        const string draft =
            "He paid due to the fact that it was very cold.\n\n```\nvery\n```\n\n<!-- very "
            + "-->\n\n[very](https://very.example/very) [[very]]";
        Notes(draft, CheckKind.Filler).Select(n => draft[n.From..n.To]).ShouldBe(["due to the fact that", "very", "very"]);
    }

    [Fact]
    public void Long_sentences_and_openings_are_told()
    {
        var breath = string.Join(' ', Enumerable.Repeat("water", DraftCheck.LongSentence + 1)) + ".";
        Notes(breath + " Short.", CheckKind.Lengthy).ShouldHaveSingleItem().Said.ShouldContain("36 words");
        var same = Notes("She rowed. She slept.\n\nShe woke. He did not.", CheckKind.Openings).ShouldHaveSingleItem();
        same.Said.ShouldContain("3 sentences");
        Notes("She rowed. He slept. She woke.", CheckKind.Openings).ShouldBeEmpty();
    }

    [Fact]
    public void A_word_that_comes_again_and_again_is_told_once_with_all_its_forms()
    {
        var far = string.Join(' ', Enumerable.Range(0, 200).Select(i => $"x{i}y"));
        var note = Notes("A ferry. Two ferries. The ferry went, a ferry came.", CheckKind.Often).ShouldHaveSingleItem();
        note.Text.ShouldBe("ferry, ferries");
        note.Said.ShouldContain("4 times");
        Notes($"A ferry. {far} Two ferries. {far} The ferry. {far} A ferry.", CheckKind.Often).ShouldBeEmpty();
        Notes("The Pell. Old Pell, young Pell and no Pell.", CheckKind.Often).ShouldBeEmpty();
    }

    [Fact]
    public void Kinds_can_be_off_and_other_languages_say_what_is_not_looked_for()
    {
        DraftCheck.Of("It was very cold.", English, new HashSet<CheckKind> { CheckKind.Filler }).Notes.ShouldBeEmpty();
        var german = DraftCheck.Of("Die Glocke wurde geläutet.", Languages.Named("de"), new HashSet<CheckKind>());
        german.NotLookedFor.ShouldBe([CheckKind.Passive, CheckKind.Filler]);
        german.Ease.Flesch.ShouldNotBeNull();
        DraftCheck.Of("Le bac est parti.", Languages.Named("fr"), new HashSet<CheckKind>()).Ease.Flesch.ShouldBeNull();
    }

    [Fact]
    public void Ease_is_what_the_formulas_say()
    {
        // 13 words, 2 sentences, 1 word of more than six letters, 15 syllables.
        var ease = DraftCheck
            .Of("The ferryman took the bread. No man will pay to come home again.", English, new HashSet<CheckKind>())
            .Ease;
        ease.Words.ShouldBe(13);
        ease.Sentences.ShouldBe(2);
        ease.Lix.ShouldBe(Math.Round(6.5 + 100.0 / 13, 1));
        ease.Flesch.ShouldBe(Math.Round(206.835 - 1.015 * 6.5 - 84.6 * 16 / 13, 1));
        DraftCheck.Of("", English, new HashSet<CheckKind>()).Ease.Words.ShouldBe(0);
    }

    [Theory]
    [InlineData("bread", 1)]
    [InlineData("river", 2)]
    [InlineData("table", 2)]
    [InlineData("paid", 1)]
    [InlineData("rowed", 1)]
    [InlineData("counted", 2)]
    [InlineData("ferries", 2)]
    [InlineData("toll", 1)]
    public void Syllables_are_counted(string word, int count) => EnglishWords.Syllables(word, "en").ShouldBe(count);

    [Fact]
    public void Whatever_is_written_every_place_lies_in_the_draft_and_holds_its_words() =>
        Gen.OneOf(Gen.String[Gen.Char["ab .!?\n#*[]()<>-`|\"’”very "], 0, 200], Gen.String[0, 80])
            .Sample(draft =>
            {
                WordsInPlace.Of(draft).Length.ShouldBe(draft.Length);
                foreach (var note in DraftCheck.Of(draft, English, new HashSet<CheckKind>()).Notes)
                    (0 <= note.From && note.From < note.To && note.To <= draft.Length).ShouldBeTrue();
            });
}
