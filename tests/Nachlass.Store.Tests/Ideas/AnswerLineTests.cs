using System.Globalization;
using System.Text;
using System.Text.Json;
using CsCheck;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Ideas;

namespace Nachlass.Store.Tests.Ideas;

/// <summary>What a service says is read as words, whatever it is.</summary>
public sealed class AnswerLineTests
{
    private static readonly IdeaQuestion Asked = new(
        5,
        1,
        "",
        "",
        "",
        null,
        "en",
        [
            new QuestionTopic(
                TopicNumber.Of(1),
                "ferries",
                [],
                [new QuestionNote(new IdeaOrigin(OriginKind.Slip, 12, "By hand"), "By hand")]
            ),
            new QuestionTopic(TopicNumber.Of(2), "tolls", [], []),
        ],
        []
    );

    [Fact]
    public void An_idea_has_its_topic_and_the_notes_it_is_made_from_and_none_it_was_not_told_of()
    {
        var idea = AnswerLine
            .Read("""{"text":" Who pulled ","shape":"who","topic":2,"from":["Slip 12","slip 99","piece 1"]}""", Asked)
            .Idea!;
        idea.ShouldSatisfyAllConditions(
            i => i.Text.ShouldBe("Who pulled"),
            i => i.Topic.ShouldBe(TopicNumber.Of(2)),
            i => i.From.ShouldHaveSingleItem().Title.ShouldBe("By hand")
        );
        AnswerLine.Read("""{"text":"x","topic":7}""", Asked).Idea!.Topic.ShouldBeNull();
        AnswerLine.Read("""{"tokens":812}""", Asked).ShouldSatisfyAllConditions(a => a.Idea.ShouldBeNull(), a => a.Tokens.ShouldBe(812));
        var one = Asked with { Topics = [Asked.Topics[0]] };
        AnswerLine.Read("""{"text":"x"}""", one).Idea!.Topic.ShouldBe(TopicNumber.Of(1), "there is only one it can be on");
    }

    [Theory]
    [InlineData("1. Who pulled the ferry", "Who pulled the ferry")]
    [InlineData("- “Who pulled the ferry”", "Who pulled the ferry")]
    [InlineData("""{"text":"Who pulled the ferry"},""", "Who pulled the ferry")]
    [InlineData("Here are five ideas:", null)]
    [InlineData("```json", null)]
    [InlineData("[", null)]
    [InlineData("{\"text\":\"\\ud800\"}", null)]
    [InlineData("{\"text\":12}", null)]
    [InlineData("{\"text\":", null)]
    public void A_list_in_plain_words_is_read_and_what_leads_in_or_is_broken_is_passed_over(string line, string? text) =>
        (AnswerLine.ReadLoosely(line, Asked).Idea?.Text).ShouldBe(text);

    [Fact]
    public void Whatever_comes_nothing_breaks_and_what_is_kept_is_words_that_are_seen() =>
        Gen.Select(Gen.String, Gen.String[0, 1_200], Gen.Int, Gen.Bool)
            .Sample(
                (raw, text, topic, isJson) =>
                {
                    var line = isJson
                        ? JsonSerializer.Serialize(
                            new
                            {
                                text,
                                topic,
                                from = new[] { raw },
                            }
                        )
                        : raw;
                    foreach (var said in (AnswerLine[])[AnswerLine.Read(line, Asked), AnswerLine.ReadLoosely(line, Asked)])
                        if (said.Idea is { } idea)
                        {
                            idea.Text.Length.ShouldBeInRange(1, OfferedIdea.LongestText);
                            idea.Text.ShouldBe(idea.Text.Trim());
                            idea.Text.EnumerateRunes()
                                .ShouldAllBe(r => !Rune.IsControl(r) && Rune.GetUnicodeCategory(r) != UnicodeCategory.Format);
                            idea.From.ShouldAllBe(f => f.Number == 12);
                        }
                },
                iter: 2_000
            );

    [Theory]
    [InlineData("""{"choices":[{"delta":{"content":"a"}}]}""", "a", null, null)]
    [InlineData("""{"choices":[{"message":{"content":"whole"}}],"usage":{"total_tokens":9}}""", "whole", 9, null)]
    [InlineData("""{"choices":[],"usage":{"total_tokens":-1}}""", null, null, null)]
    [InlineData("""{"error":{"message":"too much"}}""", null, null, "too much")]
    [InlineData("""{"error":"no"}""", null, null, "no")]
    public void Chat_completions_are_read_in_parts_and_as_a_whole(string data, string? words, int? tokens, string? problem) =>
        ChatForm.Read(data).ShouldBe((words, tokens, problem));

    [Theory]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("<html>")]
    [InlineData("""{"choices":[],"choices":[]}""")]
    public void What_is_no_completion_is_said_to_be_none(string data) => Should.Throw<JsonException>(() => ChatForm.Read(data));
}
