using System.Text;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Nachlass.Store.Papers;

/// <summary>
/// The triggers that write down the inverse of every row change under the running command
/// (SQLite's documented technique, sqlite.org/undoredo.html).
/// </summary>
internal static class UndoLog
{
    /// <summary>Tables whose changes can be taken back.</summary>
    private static readonly string[] Tables =
    [
        "papers",
        "slip",
        "source",
        "topic",
        "topic_alias",
        "slip_topic",
        "source_topic",
        "piece_topic",
        "piece",
        "draft",
        "section",
        "material",
        "move",
        "day_sheet",
        "link",
        "day_plan",
        "day_block",
        "lifted",
        "transcript_line",
        "attachment",
        "brought",
        "feed",
        "occasion",
        "outlet",
        "outlet_cadence",
        "away",
        "stage_day",
        "stage_entry",
        "piece_state",
        "stage_rule",
        "stage_rule_ran",
        "guide_line",
        "goal",
        "never_for_dates",
        "saved_view",
        "gone_through",
        "topic_refusal",
        "topic_apart",
        "digest",
        "digest_line",
        "digest_theme",
        "rule",
        "claim",
        "evidence",
        "usable",
        "own_key",
        "occasion_topic",
        "weighing",
        "choice",
        "format",
        "piece_step",
        "piece_field",
        "side_text",
        "piece_brief",
        "other_title",
        "to_find",
        "piece_reference",
        "set_aside",
        "piece_mark",
        "series",
        "series_piece",
        "version_unit",
        "piece_version",
        "standing_text",
        "standing_frozen",
        "pattern",
        "offered_idea",
        "angle",
        "topic_weighing",
        "deck_card",
        "post",
        "thread_copied",
        "sitting",
        "own_word",
        "shot",
        "release",
        "release_topic",
        "release_recording",
        "release_picture",
        "correction",
        "never_there",
        "sending",
        "sending_part",
        "sending_picture",
        "message",
        "ask",
        "wish",
        "hidden_word",
        "page",
        "page_part",
        "page_earlier",
        "page_comment",
        "closing",
        "figure_typed",
        "catalogue_view",
        "came_of",
        "cut",
        "reused",
        "closing_kept",
    ];

    private static readonly TimeSpan KeptFor = TimeSpan.FromDays(400);

    /// <summary>Takes the triggers away, so that a migration is not logged; they are written anew when the papers are opened.</summary>
    public static void Remove(string connection)
    {
        using var db = new SqliteConnection(connection);
        db.Open();
        foreach (
            var name in db.Query<string>("SELECT name FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'undo\\_%' ESCAPE '\\'")
                .ToList()
        )
            db.Execute($"DROP TRIGGER {name}");
    }

    /// <summary>Writes the triggers for the tables' present columns.</summary>
    public static void Install(SqliteConnection db)
    {
        var sql = new StringBuilder("BEGIN;");
        foreach (var table in Tables)
        {
            var types = db.Query<(string Name, string Type)>("SELECT name, type FROM pragma_table_info(@table) ORDER BY cid", new { table })
                .ToList();
            var columns = types.Select(c => c.Name).ToList();
            var log = $"INSERT INTO undo_log (command, tbl, row, inverse) SELECT command, '{table}',";
            var during = "FROM undo_now WHERE command IS NOT NULL; END;";
            // A row that comes back must not come back under a version some tab has already seen with other content.
            var changes = string.Join(
                " || ",
                types
                    .Skip(1)
                    .Select(c =>
                        c.Name == "version"
                            ? "',version=version+1'"
                            : $"CASE WHEN old.{c.Name} IS NOT new.{c.Name} THEN ',' || {Turned(c.Name, c.Type)} ELSE '' END"
                    )
            );
            var values = string.Join(" || ',' || ", columns.Select(c => c == "version" ? "quote(old.version + 1)" : $"quote(old.{c})"));
            var any = string.Join(" OR ", columns.Skip(1).Select(c => $"old.{c} IS NOT new.{c}"));
            sql.Append(
                $"""
                DROP TRIGGER IF EXISTS undo_{table}_insert;
                CREATE TRIGGER undo_{table}_insert AFTER INSERT ON {table} BEGIN
                  {log} new.rowid, 'DELETE FROM {table} WHERE rowid=' || new.rowid {during}
                DROP TRIGGER IF EXISTS undo_{table}_update;
                CREATE TRIGGER undo_{table}_update AFTER UPDATE ON {table} WHEN {any} BEGIN
                  {log} old.rowid, 'UPDATE {table} SET {columns[0]}={columns[0]}' || {changes} || ' WHERE rowid=' || old.rowid {during}
                DROP TRIGGER IF EXISTS undo_{table}_delete;
                CREATE TRIGGER undo_{table}_delete BEFORE DELETE ON {table} BEGIN
                  {log} old.rowid, 'INSERT INTO {table}({string.Join(',', columns)}) VALUES(' || {values} || ')' {during}

                """
            );
        }
        db.Execute(sql.Append("COMMIT;").ToString());
    }

    private static string Turned(string column, string type) =>
        type == "TEXT" ? $"{TextTurnedBack.Name}('{column}', old.{column}, new.{column})" : $"'{column}=' || quote(old.{column})";

    /// <summary>Forgets how to take back what was done more than thirteen months before the latest command; the commands themselves stay
    /// as the work log. The computer's clock has no say: one that goes wrong for a day would make all forgotten.</summary>
    public static void Trim(SqliteConnection db)
    {
        // The last but one by its own clock, since the last may have been written while that was wrong.
        var days = db.Query<DateTimeOffset>("SELECT at FROM command ORDER BY number DESC LIMIT 50").Order().ToList();
        if (days.Count > 0)
            db.Execute(
                "DELETE FROM undo_log WHERE command <= (SELECT max(number) FROM command WHERE at < @before)",
                new { before = days[days.Count / 2] - KeptFor }
            );
    }
}
