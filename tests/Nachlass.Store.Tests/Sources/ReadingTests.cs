using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Sources;

public sealed class ReadingTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly SourceNumber source;

    public ReadingTests() =>
        source = desk
            .Sources.Add(
                new SourceChange
                {
                    Title = "Second sitting",
                    Type = SourceType.Interview,
                    Creators = "Pell, Jonas",
                    Topics = ["voices"],
                },
                Once.Unkeyed
            )
            .Answer.Number;

    public void Dispose() => desk.Dispose();

    private static readonly TranscriptLine[] Said =
    [
        new(758_000, 760_000, "You said the bell was wrong.", "Ines"),
        new(760_000, 764_000, "It hung on the far bank.", "Jonas Pell"),
        new(764_000, 785_500, "I slept on the near one.", "Jonas Pell"),
    ];

    [Fact]
    public void Lines_of_a_transcript_become_a_passage_with_its_time_range()
    {
        desk.Transcripts.Write(source, Said, Once.Unkeyed).Answer.ShouldBe(3);
        var slip = desk.Transcripts.KeepPassage(source, 2, 3, Once.Unkeyed).Answer;
        (slip.Text, slip.Locator, slip.Source, slip.Topics.ShouldHaveSingleItem().Name).ShouldBe(
            ("“It hung on the far bank. I slept on the near one.”", "12:40–13:06", source, "voices")
        );
        desk.Transcripts.Lines(source)
            .Select(l => (l.Clock, l.Passage))
            .ShouldBe([("12:38", null), ("12:40", slip.Number), ("12:44", slip.Number)]);
        Should.Throw<BadInputException>(() => desk.Transcripts.KeepPassage(source, 3, 2, Once.Unkeyed));
        Should.Throw<BadInputException>(() => desk.Transcripts.KeepPassage(source, 1, 4, Once.Unkeyed)).Message.ShouldContain("1 to 3");
    }

    [Fact]
    public void The_search_finds_the_moment()
    {
        desk.Transcripts.Write(source, Said, Once.Unkeyed);
        desk.Find.Find("slept near")
            .Hits.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                h => h.Address.ShouldBe($"/library/source/{source}?at=764"),
                h => h.Note.ShouldBe("at 12:44"),
                h => h.Title.ShouldBe("Second sitting")
            );
        var gone = desk.Transcripts.Write(source, [], Once.Unkeyed);
        desk.Find.Find("slept near").Hits.ShouldBeEmpty();
        desk.Undo(gone.Command);
        desk.Find.Find("slept near").Hits.ShouldHaveSingleItem();
    }

    [Fact]
    public void Fields_of_the_type_are_kept_checked_and_cited()
    {
        var book = desk
            .Sources.Add(
                new SourceChange
                {
                    Title = "Bells",
                    Type = SourceType.Book,
                    Creators = "Osei, Martin",
                    Date = "2015",
                    Details = new Dictionary<string, string> { ["publisher"] = "Trust", ["ISBN"] = "0-306-40615-2" },
                },
                Once.Unkeyed
            )
            .Answer;
        desk.Sources.Open(book.Number).Citation.ShouldBe("Osei, Martin. *Bells*. Trust, 2015. ISBN 0306406152.");
        Should
            .Throw<BadInputException>(() =>
                desk.Sources.Edit(
                    book.Number,
                    new SourceChange
                    {
                        Version = 1,
                        Details = new Dictionary<string, string> { ["ISBN"] = "0-306-40615-3" },
                    },
                    Once.Unkeyed
                )
            )
            .Field.ShouldBe("ISBN");
        desk.Sources.Edit(
                book.Number,
                new SourceChange
                {
                    Version = 1,
                    Details = new Dictionary<string, string> { ["publisher"] = "" },
                },
                Once.Unkeyed
            )
            .Answer.Details.Keys.ShouldBe(["ISBN"]);
        desk.Find.Find("0306406152").Hits.ShouldHaveSingleItem();
    }

    [Fact]
    public void Questions_prompt_until_they_are_answered()
    {
        desk.Sources.Open(source).Asked.ShouldBe(ReadingQuestions.Ready);
        desk.Sources.Answer(source, "What does it change?", "The bell, see [[slip 1]].", Once.Unkeyed)
            .Answer.Comments.ShouldBe("**What does it change?**\nThe bell, see [[slip 1]].");
        desk.Sources.Open(source).ShouldSatisfyAllConditions(o => o.Asked.Count.ShouldBe(3), o => o.LinksOut.ShouldHaveSingleItem());
        desk.Sources.SetQuestions(["Who pays?"], Once.Unkeyed).Answer.ShouldBe(["Who pays?"]);
        desk.Sources.Open(source).Asked.ShouldBe(["Who pays?"]);
        desk.Sources.SetQuestions([" "], Once.Unkeyed).Answer.ShouldBe(ReadingQuestions.Ready);
        Should.Throw<BadInputException>(() => desk.Sources.Answer(source, "Who pays?", " ", Once.Unkeyed)).Field.ShouldBe("answer");
    }

    [Fact]
    public void A_bibliography_gathers_what_a_topic_or_piece_draws_on()
    {
        var other = desk.Sources.Add(new SourceChange { Title = "Another", Creators = "Brandt, H." }, Once.Unkeyed).Answer.Number;
        var slip = desk.Sources.AddPassage(other, new NewPassage("It doubled", "p. 3"), Once.Unkeyed).Answer;
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("The price"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(
            piece,
            $"As he says [[slip {slip.Number}]], and [[source {source}]].",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        desk.Sources.Bibliography(null, piece).Select(l => l.Text).ShouldBe(["Brandt, H. *Another*.", "Pell, Jonas. *Second sitting*."]);
        desk.Sources.Bibliography(desk.Topics.List().Single(t => t.Name == "voices").Number, null)
            .ShouldHaveSingleItem()
            .Html.ShouldContain("<em>Second sitting</em>");
        Should.Throw<BadInputException>(() => desk.Sources.Bibliography(null, null));
    }
}
