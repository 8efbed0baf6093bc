using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Store.Plan;

/// <summary>Where pieces stood since when, and the words that hold whatever their stage.</summary>
internal static class StageRows
{
    private const int MostStates = 20,
        LongestState = 60;

    /// <summary>Notes down that a piece came to a stage, unless it stands there already.</summary>
    public static void Enter(SqliteConnection db, PieceNumber piece, string stage, DateTimeOffset at) =>
        db.Execute(
            "INSERT INTO stage_entry (piece, stage, at) SELECT @piece, @stage, @at WHERE @stage IS NOT "
                + "(SELECT stage FROM stage_entry WHERE piece = @piece ORDER BY id DESC LIMIT 1)",
            new
            {
                piece,
                stage,
                at,
            }
        );

    public static IReadOnlyList<StageEntry> Of(SqliteConnection db, PieceNumber piece) =>
        [
            .. db.Query<(string Stage, DateTimeOffset At)>(
                    "SELECT stage, at FROM stage_entry WHERE piece = @piece ORDER BY id",
                    new { piece }
                )
                .Select(e => new StageEntry(e.Stage, e.At)),
        ];

    /// <summary>Words as they are kept: trimmed, each once.</summary>
    /// <exception cref="BadInputException">There are too many, or one is too long.</exception>
    public static IReadOnlyList<string> Checked(IReadOnlyList<string> words)
    {
        var kept = words
            .Select(w => Check.Text("states", w, LongestState).ReplaceLineEndings(" "))
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .ToList();
        return kept.Count <= MostStates ? kept : throw new BadInputException("states", $"At most {MostStates} words hold of one piece.");
    }

    public static void SetStates(SqliteConnection db, PieceNumber piece, IReadOnlyList<string> words)
    {
        db.Execute("DELETE FROM piece_state WHERE piece = @piece AND word NOT IN @words", new { piece, words = words.ToList() });
        foreach (var word in words)
            db.Execute("INSERT OR IGNORE INTO piece_state (piece, word) VALUES (@piece, @word)", new { piece, word });
    }

    /// <summary>What stages of each format usually take, by the last pieces of it that went out.</summary>
    public static IReadOnlyDictionary<string, IReadOnlyList<StageLead>> Leads(SqliteConnection db, FormatSet formats)
    {
        var last = db.Query<(string Format, int Piece)>(
                """
                SELECT format, number FROM (
                    SELECT format, number, row_number() OVER (PARTITION BY format ORDER BY out_on DESC, number DESC) AS nth
                    FROM piece WHERE out_on IS NOT NULL AND trashed_at IS NULL) WHERE nth <= @Last ORDER BY nth
                """,
                new { LeadTimes.Last }
            )
            .ToList();
        var among = last.Select(p => p.Piece).ToList();
        var entries = db.Query<(int Piece, string Stage, DateTimeOffset At)>(
                "SELECT piece, stage, at FROM stage_entry WHERE piece IN (SELECT value FROM json_each(@among)) ORDER BY id",
                new { among = Papers.Mapping.List(among) }
            )
            .ToLookup(e => e.Piece, e => new StageEntry(e.Stage, e.At));
        var sittings = db.Query<(int Piece, DateTimeOffset From, DateTimeOffset To)>(
                "SELECT piece, started_at, last_at FROM sitting WHERE piece IN (SELECT value FROM json_each(@among)) ORDER BY number",
                new { among = Papers.Mapping.List(among) }
            )
            .ToLookup(s => s.Piece, s => (s.From, s.To));
        var finished = last.ToLookup(p => p.Format, p => new FinishedWork([.. entries[p.Piece]], [.. sittings[p.Piece]]));
        return formats.All.ToDictionary(f => f.Key, f => LeadTimes.Of(f, [.. finished[f.Key]]));
    }
}
