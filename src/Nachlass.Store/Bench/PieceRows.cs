using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

internal static class PieceRows
{
    private const string Columns = """
        p.number, p.title, p.format, p.brief, p.stage, p.due, p.out_on, p.started_at, p.trashed_at, p.version, d.words,
        max(p.changed_at, d.changed_at) AS changed_at,
        (SELECT coalesce(sum(aim), 0) FROM section WHERE piece = p.number AND gone_at IS NULL) AS aim,
        (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY pt.id)
            FROM piece_topic pt JOIN topic t ON t.number = pt.topic WHERE pt.piece = p.number) AS topics
        FROM piece p JOIN draft d ON d.piece = p.number
        """;

    /// <exception cref="NotThereException">There is no such piece.</exception>
    public static Piece Get(SqliteConnection db, PieceNumber number) => Find(db, number) ?? throw new NotThereException($"P {number}");

    public static Piece? Find(SqliteConnection db, PieceNumber number) => List(db, "p.number = @number", new { number }).SingleOrDefault();

    /// <summary>Pieces that meet a condition: overdue and due first, then by last change.</summary>
    public static IReadOnlyList<Piece> List(SqliteConnection db, string where, object? arguments)
    {
        var pieces = db.Query<Piece>(
                $"SELECT {Columns} WHERE {where} ORDER BY p.out_on IS NOT NULL, p.due IS NULL, p.due, p.out_on DESC, changed_at DESC",
                arguments
            )
            .ToList();
        var moves = db.Query<Move>(
                $"SELECT {MoveRows.Columns} WHERE v.done_at IS NULL AND v.piece IN @numbers "
                    + $"ORDER BY v.due IS NULL, v.due, {MoveRows.Order}",
                new { numbers = pieces.Select(p => p.Number.Value) }
            )
            .ToLookup(m => m.Piece);
        return [.. pieces.Select(p => p with { NextMove = moves[p.Number].FirstOrDefault() })];
    }

    /// <summary>Begins a piece: the format's skeleton is its outline and its draft.</summary>
    public static PieceNumber Start(Change change, string title, Format format, string brief, IReadOnlyList<TopicNumber> topics)
    {
        var number = PieceNumber.Of(
            change.Db.ExecuteScalar<int>(
                "INSERT INTO piece (title, format, brief, stage, started_at, changed_at) "
                    + "VALUES (@title, @Key, @brief, @stage, @Now, @Now) RETURNING number",
                new
                {
                    title,
                    format.Key,
                    brief,
                    stage = format.Stages[0],
                    change.Now,
                }
            )
        );
        change.Db.Execute("INSERT INTO draft (piece, changed_at) VALUES (@number, @Now)", new { number, change.Now });
        DraftRows.Write(change, number, Outline.From(format));
        SetTopics(change.Db, number, topics);
        return number;
    }

    public static void SetTopics(SqliteConnection db, PieceNumber piece, IReadOnlyList<TopicNumber> topics)
    {
        db.Execute(
            "DELETE FROM piece_topic WHERE piece = @piece AND topic NOT IN @topics",
            new { piece, topics = topics.Select(t => t.Value) }
        );
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO piece_topic (piece, topic) VALUES (@piece, @topic)", new { piece, topic });
    }
}
