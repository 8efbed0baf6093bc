using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Sources;

public class TranscriptTests
{
    [Fact]
    public void Lines_stand_in_order_and_last_until_the_next() =>
        Transcript
            .InOrder([new(9_000, 0, "third"), new(4_000, 6_000, "second"), new(0, 0, "first"), new(5_000, 0, "")])
            .ShouldBe([new(0, 4_000, "first"), new(4_000, 6_000, "second"), new(9_000, 9_000, "third")]);

    [Fact]
    public void A_passage_has_the_words_and_a_range_that_covers_them()
    {
        Transcript
            .Passage([new(760_400, 763_000, "The bell was"), new(763_000, 785_001, "on the wrong bank.")])
            .ShouldBe(("The bell was on the wrong bank.", "12:40–13:06"));
        Transcript.Passage([new(3_600_000, 3_600_000, "Over.")]).Locator.ShouldBe("1:00:00");
        Transcript
            .Passage([new(0, 1, "Who was it?", "Ines"), new(1, 2_000, "Nobody.", "Pell")])
            .Text.ShouldBe("Ines: Who was it?\nPell: Nobody.");
        Should.Throw<BadInputException>(() => Transcript.Passage([]));
    }

    [Fact]
    public void Too_much_is_refused() =>
        Should
            .Throw<BadInputException>(() =>
                Transcript.InOrder(Enumerable.Range(0, Transcript.MostLines + 1).Select(i => new TranscriptLine(i, i, "x")))
            )
            .Message.ShouldContain("50,000");

    [Fact]
    public void Comments_answer_questions_and_leave_the_open_ones()
    {
        IReadOnlyList<string> questions = ["What does it change?", "What should be checked?"];
        var comments = ReadingQuestions.Answer("An aside.", questions[0], " The price. ");
        comments.ShouldBe("An aside.\n\n**What does it change?**\nThe price.");
        ReadingQuestions.Open(questions, comments).ShouldBe(["What should be checked?"]);
        ReadingQuestions.Open(questions, "").ShouldBe(questions);
        ReadingQuestions.Clean([" One? ", "", "one?", "Two?"]).ShouldBe(["One?", "Two?"]);
        Should.Throw<BadInputException>(() => ReadingQuestions.Clean(Enumerable.Range(0, 21).Select(i => $"{i}?")));
    }
}
