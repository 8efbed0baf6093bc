using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas;

/// <summary>Proposed ideas as rows.</summary>
internal static class OfferedIdeaRows
{
    private const string Columns =
        "SELECT number, round, at, seed, text, shape, kind, topic, origins, because, said_in, near, state, slip, version FROM offered_idea";

    public static IReadOnlyList<OfferedIdea> All(SqliteConnection db, string where = "true") =>
        [.. db.Query<Row>($"{Columns} WHERE {where} ORDER BY number").Select(r => r.Whole)];

    /// <summary>Those with these numbers, in the order they were made.</summary>
    /// <exception cref="NotThereException">One is not there.</exception>
    public static IReadOnlyList<OfferedIdea> Get(SqliteConnection db, IReadOnlyCollection<OfferNumber> numbers)
    {
        var found = db.Query<Row>(
                $"{Columns} WHERE number IN (SELECT value FROM json_each(@numbers)) ORDER BY number",
                new { numbers = Mapping.List(numbers.Select(n => n.Value)) }
            )
            .Select(r => r.Whole)
            .ToList();
        return numbers.FirstOrDefault(n => found.TrueForAll(f => f.Number != n)) is { Value: > 0 } gone
            ? throw new NotThereException($"proposed idea {gone}")
            : found;
    }

    /// <summary>Puts one in; with its number where it has one.</summary>
    public static OfferNumber Put(SqliteConnection db, OfferedIdea idea) =>
        OfferNumber.Of(
            db.ExecuteScalar<int>(
                """
                INSERT INTO offered_idea (number, round, at, seed, text, shape, kind, topic, origins, because, said_in, near, state, slip)
                VALUES (nullif(@number, 0), @Round, @At, @Seed, @Text, @Shape, @kind, (SELECT number FROM topic WHERE number = @Topic),
                    @origins, @Because, @said, @near, @state, (SELECT number FROM slip WHERE number = @Slip))
                RETURNING number
                """,
                new
                {
                    number = idea.Number.Value,
                    idea.Round,
                    idea.At,
                    idea.Seed,
                    idea.Idea.Text,
                    idea.Idea.Shape,
                    kind = idea.Idea.Kind.Kept(),
                    idea.Idea.Topic,
                    origins = JsonSerializer.Serialize(idea.Idea.From, Answers.Json),
                    idea.Idea.Because,
                    said = idea.SaidIn is null ? null : JsonSerializer.Serialize(idea.SaidIn, Answers.Json),
                    near = idea.Near is null ? null : JsonSerializer.Serialize(idea.Near, Answers.Json),
                    state = idea.State.Kept(),
                    idea.Slip,
                }
            )
        );

    private sealed record Row
    {
        public OfferNumber Number { get; init; }
        public int Round { get; init; }
        public DateTimeOffset At { get; init; }
        public int Seed { get; init; }
        public string Text { get; init; } = "";
        public string Shape { get; init; } = "";
        public SparkKind Kind { get; init; }
        public TopicNumber? Topic { get; init; }
        public string Origins { get; init; } = "[]";
        public string Because { get; init; } = "";
        public string? SaidIn { get; init; }
        public string? Near { get; init; }
        public OfferState State { get; init; }
        public SlipNumber? Slip { get; init; }
        public int Version { get; init; }

        public OfferedIdea Whole =>
            new(
                Number,
                Round,
                At,
                Seed,
                new MadeIdea(Text, Shape, Kind, Topic, JsonSerializer.Deserialize<List<IdeaOrigin>>(Origins, Answers.Json)!, Because),
                SaidIn is null ? null : JsonSerializer.Deserialize<SaidBefore>(SaidIn, Answers.Json),
                Near is null ? null : JsonSerializer.Deserialize<IdeaOrigin>(Near, Answers.Json),
                State,
                Slip,
                Version
            );
    }
}
