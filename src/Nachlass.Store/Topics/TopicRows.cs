using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Topics;

internal static class TopicRows
{
    /// <summary>The topic with this name or alias; made when there is none.</summary>
    public static TopicNumber NumberFor(SqliteConnection db, string name)
    {
        var clean = TopicName.Clean(name, "topic");
        return Find(db, clean) ?? Add(db, clean);
    }

    public static TopicNumber? Find(SqliteConnection db, string name)
    {
        var number = db.QueryFirstOrDefault<int?>(
            """
            SELECT number FROM topic WHERE lower(name) = lower(@name) AND merged_into IS NULL
            UNION ALL SELECT topic FROM topic_alias WHERE lower(name) = lower(@name) LIMIT 1
            """,
            new { name }
        );
        return number is { } found ? TopicNumber.Of(found) : null;
    }

    public static TopicNumber Add(SqliteConnection db, string name)
    {
        var colour = TopicName.ColourFor(db.ExecuteScalar<int>("SELECT coalesce(max(number), 0) FROM topic"));
        return TopicNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO topic (name, colour) VALUES (@name, @colour) RETURNING number",
                new { name, colour = colour.Kept() }
            )
        );
    }

    /// <summary>The topics with these names, made when there is none; a name may come twice.</summary>
    public static List<TopicNumber> NumbersFor(SqliteConnection db, IEnumerable<string> names) =>
        [.. names.Select(name => NumberFor(db, name)).Distinct()];

    /// <summary>Topics as they are shown on a thing, in the order given.</summary>
    public static IReadOnlyList<TopicMark> Marks(SqliteConnection db, IReadOnlyList<TopicNumber> topics)
    {
        if (topics.Count == 0)
            return [];
        var marks = db.Query<TopicMark>(
                "SELECT number, name, colour FROM topic WHERE number IN (SELECT value FROM json_each(@numbers))",
                new { numbers = Mapping.List(topics.Select(t => t.Value)) }
            )
            .ToDictionary(t => t.Number);
        return [.. topics.Distinct().Select(t => marks[t])];
    }

    /// <summary>Topics of things, for guessing from how earlier ones were sorted.</summary>
    public static ILookup<Reference, TopicNumber> Of(SqliteConnection db, IReadOnlyList<Reference> things)
    {
        return Rows(ThingKind.Slip, "slip_topic")
            .Concat(Rows(ThingKind.Source, "source_topic"))
            .Concat(Rows(ThingKind.Piece, "piece_topic"))
            .ToLookup(r => r.Thing, r => r.Topic);

        IEnumerable<(Reference Thing, TopicNumber Topic)> Rows(ThingKind kind, string table)
        {
            var numbers = things.Where(t => t.Kind == kind).Select(t => t.Number).ToList();
            if (numbers.Count == 0)
                return [];
            return db.Query<(int Number, int Topic)>(
                    $"SELECT {kind.Kept()}, topic FROM {table} WHERE {kind.Kept()} IN (SELECT value FROM json_each(@numbers))",
                    new { numbers = Mapping.List(numbers) }
                )
                .Select(r => (new Reference(kind, r.Number), TopicNumber.Of(r.Topic)));
        }
    }
}
