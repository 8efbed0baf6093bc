using CsCheck;
using Nachlass.Core.Text.Queries;

namespace Nachlass.Core.Tests.Text;

public class QueryTests
{
    private static readonly DateOnly Today = new(2026, 11, 24);

    private static Query Read(string typed) => QueryReader.Read(typed).Query.ShouldNotBeNull(QueryReader.Read(typed).Problem?.Message);

    private static QueryProblem Problem(string typed) => QueryReader.Read(typed).Problem.ShouldNotBeNull(typed);

    [Theory]
    [InlineData("night bell", "night bell")]
    [InlineData("“night bell”", "\"night bell\"")]
    [InlineData("bell or glove ferry", "bell or glove ferry")]
    [InlineData("(bell or glove) ferry", "(bell or glove) ferry")]
    [InlineData("bell AND not (glove OR tow)", "bell not (glove or tow)")]
    [InlineData("((bell))", "bell")]
    [InlineData("#flood-marks pull >= 4", "topic:\"flood marks\" pull>=4")]
    [InlineData("#flood-marks pull>=4 effort=2", "topic:\"flood marks\" pull>=4 effort:2")]
    [InlineData("KIND:Question since:7D", "kind:question since:7d")]
    [InlineData("topic:\"women of the river\" used:no", "topic:\"women of the river\" used:no")]
    [InlineData("Note: the bell", "Note: the bell")]
    [InlineData("https://tavle.example/a?b=1 12:40", "https://tavle.example/a?b=1 12:40")]
    [InlineData("\"or\" \"and\"", "\"or\" \"and\"")]
    [InlineData("   ", "")]
    public void What_is_typed_is_read_and_printed_in_one_way(string typed, string printed) => Read(typed).ToString().ShouldBe(printed);

    [Fact]
    public void Or_binds_weaker_than_and_and_not_strongest()
    {
        var query = Read("a b or not c d").ShouldBeOfType<Query.Or>();
        query.Parts[0].ShouldBe(Query.All(new Query.Words("a"), new Query.Words("b")));
        query.Parts[1].ShouldBe(Query.All(new Query.Not(new Query.Words("c")), new Query.Words("d")));
        Read("a and b or c").ShouldBe(Read("(a b) or c"));
        Read("not (a b)").ShouldNotBe(Read("not a b"));
    }

    [Theory]
    [InlineData("tpoic:bells", 0, 5, "is “topic” meant?")]
    [InlineData("bells colour:red", 6, 6, "There is no field “colour”")]
    [InlineData("pull:9", 5, 1, "it can be 1, 2, 3, 4, 5 or none")]
    [InlineData("pull>", 0, 5, "needs a value")]
    [InlineData("pull>none", 5, 4, "from 1 to 5")]
    [InlineData("kind>idea", 5, 4, "only effort, pull, worth and due")]
    [InlineData("state:gone", 6, 4, "waiting, kept, held, dropped or any")]
    [InlineData("since:someday", 6, 7, "A day is written")]
    [InlineData("used:maybe", 5, 5, "it can be yes or no")]
    [InlineData("(bell or glove", 0, 1, "not closed")]
    [InlineData("bell)", 4, 1, "closes nothing")]
    [InlineData("()", 1, 1, "something is missing")]
    [InlineData("bell or", 7, 0, "After “or” something is missing")]
    [InlineData("or bell", 0, 2, "Before “or”")]
    [InlineData("not", 3, 0, "After “not”")]
    [InlineData("\"night bell", 0, 11, "not closed")]
    public void A_mistake_is_named_at_its_place(string typed, int at, int length, string message)
    {
        var problem = Problem(typed);
        problem.Message.ShouldContain(message);
        (problem.At, problem.Length).ShouldBe((at, length));
    }

    [Fact]
    public void What_is_too_long_or_too_deep_is_refused()
    {
        Problem(new string('a', QueryReader.Longest + 1)).Message.ShouldContain("2,000");
        Problem(new string('(', 200) + "a" + new string(')', 200)).Message.ShouldContain("too deep");
        Problem(string.Concat(Enumerable.Repeat("not ", 200)) + "a").Message.ShouldContain("too deep");
    }

    [Fact]
    public void While_typing_the_last_word_is_unfinished_and_a_quotation_may_be_open()
    {
        QueryReader.Read("night be", isTyping: true).Query!.Leaves().OfType<Query.Words>().Last().IsUnfinished.ShouldBeTrue();
        QueryReader.Read("night be ", isTyping: true).Query!.Leaves().OfType<Query.Words>().Last().IsUnfinished.ShouldBeFalse();
        foreach (var begun in (string[])["kind:", "kind:que", "pull>", "since:2026-1", "bell used:n"])
            QueryReader.Read(begun, isTyping: true).Problem.ShouldBeNull(begun);
        QueryReader.Read("kind:que", isTyping: true).Query.ShouldBe(new Query.Everything());
        QueryReader.Read("kind:que bell", isTyping: true).Problem.ShouldNotBeNull();
        QueryReader.Read("kind:x", isTyping: true).Problem.ShouldNotBeNull();
        QueryReader.Read("\"night be", isTyping: true).Query.ShouldBe(new Query.Words("night be", IsExact: true));
    }

    private static Gen<T> One<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static readonly Gen<Query> Leaf = Gen.OneOf<Query>(
        One("bell", "Ferry", "don't", "1784", "or", "Not", "Note:", "a/b", "—")
            .Select(w => (Query)new Query.Words(w, IsExact: w is "or" or "Not")),
        One("night bell", "or", "bell").Select(w => (Query)new Query.Words(w, IsExact: true)),
        One<(QueryField, Comparison, string)>(
                (QueryField.Pull, Comparison.AtLeast, "4"),
                (QueryField.Effort, Comparison.Below, "3"),
                (QueryField.Pull, Comparison.Is, "none"),
                (QueryField.Topic, Comparison.Is, "women of the river"),
                (QueryField.Topic, Comparison.Is, "bells"),
                (QueryField.Since, Comparison.Is, "7d"),
                (QueryField.Link, Comparison.Is, "slip 214"),
                (QueryField.In, Comparison.Is, "P 12"),
                (QueryField.Kind, Comparison.Is, "ask")
            )
            .Select(f => (Query)new Query.Field(f.Item1, f.Item2, f.Item3))
    );

    private static readonly Gen<Query> Any = Gen.Recursive<Query>(
        (depth, deeper) =>
            depth > 4
                ? Leaf
                : Gen.OneOf(
                    Leaf,
                    deeper.Select(q => (Query)new Query.Not(q)),
                    deeper.Array[2, 3].Select(parts => Query.All(parts)),
                    deeper.Array[2, 3].Select(parts => Query.Any(parts))
                )
    );

    [Fact]
    public void Printing_and_reading_gives_the_same_query() => Any.Sample(query => Read(query.ToString()).Equals(query), iter: 3_000);

    [Fact]
    public void Whatever_is_typed_gives_a_query_or_a_place_inside_the_text() =>
        Gen.OneOf(
                Gen.String,
                One("(", ")", "\"", "or", "and", "not", "pull>", "topic:", "bell", " ", ":", "#", "<=").Array[0, 12].Select(string.Concat)
            )
            .Sample(
                typed =>
                {
                    foreach (var isTyping in new[] { true, false })
                    {
                        var reading = QueryReader.Read(typed, isTyping);
                        if (reading.Problem is { } problem)
                            (problem.At >= 0 && problem.At + problem.Length <= typed.Length && problem.Message.Length > 0).ShouldBeTrue();
                        else
                            reading.Query.ShouldNotBeNull();
                    }
                },
                iter: 5_000
            );

    [Theory]
    [InlineData("", "everything in sight")]
    [InlineData("topic:ferries pull>=4 used:no", "on ferries, pull 4 or more, not used yet")]
    [InlineData("kind:question (flood or \"night bell\")", "a question, either with “flood” or with “night bell” as it stands")]
    [InlineData("not (state:kept bell) since:7d", "not (kept, with “bell”), caught since 17 November 2026")]
    [InlineData("until:2026-02", "caught until 28 February 2026")]
    public void A_query_is_said_in_plain_words(string typed, string said) => QueryWords.Of(Read(typed), Today).ShouldBe(said);

    [Theory]
    [InlineData("ki", "kind:")]
    [InlineData("bell kind:q", "kind:quote", "kind:question")]
    [InlineData("(topic:fe", "topic:ferries")]
    [InlineData("#women", "topic:\"women of the river\"")]
    [InlineData("topic:\"women of", "topic:\"women of the river\"")]
    [InlineData("since:", "since:today", "since:yesterday", "since:7d", "since:2w", "since:3m", "since:1y")]
    [InlineData("bell ")]
    [InlineData("\"night be")]
    public void Fields_and_values_are_completed(string typed, params string[] offered)
    {
        string[] topics = ["ferries", "women of the river"];
        QueryCompletion
            .At(
                typed,
                typed.Length,
                (field, begun) =>
                    field == QueryField.Topic ? topics.Where(t => t.StartsWith(begun, StringComparison.OrdinalIgnoreCase)) : []
            )
            .Select(c => c.Text)
            .ShouldBe(offered);
    }

    [Fact]
    public void A_completion_replaces_what_was_begun_and_can_be_read()
    {
        foreach (var typed in (string[])["topic:\"women of", "(bell or ki", "#wom", "pull>"])
        foreach (
            var offered in QueryCompletion.At(typed, typed.Length, (field, _) => field == QueryField.Topic ? ["women of the river"] : [])
        )
        {
            var completed = typed[..offered.At] + offered.Text + typed[(offered.At + offered.Length)..];
            completed.ShouldStartWith(typed[..offered.At]);
            if (!offered.Text.EndsWith(':'))
                (QueryReader.Read(completed).Problem?.Message ?? "not closed").ShouldContain("not closed");
        }
    }
}
