using System.Collections.Concurrent;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>The formats of these papers as rows.</summary>
internal static class FormatRows
{
    /// <summary>Definitions that were read once; the same words are the same format.</summary>
    private static readonly ConcurrentDictionary<string, Format> Seen = new();

    private const int MostSeen = 500;

    public static FormatSet All(SqliteConnection db) =>
        new([
            .. db.Query<(string Definition, bool PutAway, int Version)>(
                    "SELECT definition, put_away, version FROM format ORDER BY position, id"
                )
                .Select(row => Read(row.Definition) with { IsPutAway = row.PutAway, Version = row.Version }),
        ]);

    /// <summary>All of them; null when they are the ready ones, just as they come.</summary>
    public static IReadOnlyList<Format>? AllUnlessReady(SqliteConnection db)
    {
        var all = All(db).All;
        return all.Select(Written).SequenceEqual(ReadyFormats.All.Select(Written)) && all.All(f => !f.IsPutAway) ? null : all;
    }

    /// <exception cref="Core.Papers.BadInputException">There is none of that key.</exception>
    public static Format Named(SqliteConnection db, string key) => All(db).Named(key);

    private static Format Read(string definition)
    {
        if (Seen.Count > MostSeen)
            Seen.Clear();
        return Seen.GetOrAdd(definition, text => JsonSerializer.Deserialize<Format>(text, Answers.Json)!);
    }

    private static string Written(Format format) => JsonSerializer.Serialize(format with { IsPutAway = false, Version = 0 }, Answers.Json);

    public static void Put(SqliteConnection db, Format format, int? position = null) =>
        db.Execute(
            """
            INSERT INTO format (key, definition, position, put_away)
                VALUES (@Key, @definition, coalesce(@position, (SELECT coalesce(max(position), 0) + 1 FROM format)), @IsPutAway)
            ON CONFLICT (key) DO UPDATE SET definition = @definition, put_away = @IsPutAway, position = coalesce(@position, position),
                version = version + 1
            """,
            new
            {
                format.Key,
                definition = Written(format),
                position,
                format.IsPutAway,
            }
        );

    /// <summary>Puts the ready formats into papers that have none, outside of undo: papers are never without.</summary>
    public static void Seed(SqliteConnection db)
    {
        if (db.ExecuteScalar<int>("SELECT count(*) FROM format") > 0)
            return;
        db.Execute("BEGIN TRANSACTION");
        foreach (var format in ReadyFormats.All)
            Put(db, format);
        // What was begun before had its sections laid in; its format's steps are new to it and offered.
        foreach (var format in ReadyFormats.All)
            db.Execute(
                "UPDATE piece SET laid = @laid WHERE laid IS NULL AND format = @Key",
                new { format.Key, laid = PieceRows.LaidWritten(format.Skeleton.Select(s => PieceRows.LaidName(format, s.Number))) }
            );
        db.Execute("COMMIT TRANSACTION");
    }
}
