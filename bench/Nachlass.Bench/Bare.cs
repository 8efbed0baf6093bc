using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Store.Papers;

namespace Nachlass.Bench;

/// <summary>The references: SQLite through ADO with nothing around it, and the texts as files.</summary>
internal sealed class Bare : IDisposable
{
    private readonly SqliteConnection db;
    private readonly string files;

    public Bare(string folder, PapersFile papers, List<string> texts)
    {
        db = new SqliteConnection($"Data Source={Path.Combine(folder, "bare.db")};Pooling=False");
        db.Open();
        db.Execute(
            "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA cache_size = -65536; PRAGMA temp_store = MEMORY; PRAGMA "
                + "foreign_keys = OFF"
        );
        // The table, its indexes and the triggers that feed the full-text index, as they stand in the papers.
        foreach (
            var sql in papers.Read(p =>
                p.Query<string>(
                        """
                        SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND (name = 'finding' OR (tbl_name = 'slip'
                            AND name NOT LIKE 'undo%'))
                        ORDER BY type = 'trigger', type = 'index'
                        """
                    )
                    .ToList()
            )
        )
            db.Execute(sql);
        using (var filling = db.BeginTransaction())
        {
            for (var i = 0; i < texts.Count; i++)
                db.Execute(
                    "INSERT INTO slip (text, kind, state, caught_at, day) VALUES (@text, 'idea', @state, @at, '2026-11-24')",
                    new
                    {
                        text = texts[i],
                        state = i % 50 == 0 ? "waiting" : "kept",
                        at = i.ToString("d9", System.Globalization.CultureInfo.InvariantCulture),
                    },
                    filling
                );
            filling.Commit();
        }
        files = Directory.CreateDirectory(Path.Combine(folder, "files")).FullName;
        for (var i = 0; i < texts.Count; i += 100)
            File.WriteAllText(Path.Combine(files, $"{i}.txt"), string.Join('\n', texts.Skip(i).Take(100)));
    }

    public void Store(string text)
    {
        using var transaction = db.BeginTransaction();
        using var command = new SqliteCommand(
            "INSERT INTO slip (text, kind, state, caught_at, day) "
                + "VALUES (@text, 'idea', 'waiting', '2026-11-24T08:00:00.000Z', '2026-11-24')",
            db,
            transaction
        );
        command.Parameters.AddWithValue("@text", text);
        command.ExecuteNonQuery();
        transaction.Commit();
    }

    public int Search(string word)
    {
        using var command = new SqliteCommand(
            """
            SELECT f.number, f.excerpt, s.text, s.kind, s.state FROM
                (SELECT rowid / 8 AS number, snippet(finding, -1, char(2), char(3), '…', 28) AS excerpt FROM finding
                 WHERE finding MATCH @match AND rank MATCH 'bm25(3.0, 1.0)' ORDER BY rank LIMIT 50) f
            JOIN slip s ON s.number = f.number
            """,
            db
        );
        command.Parameters.AddWithValue("@match", $"\"{word}\"*");
        return Read(command) + Count("SELECT count(*) FROM finding WHERE finding MATCH @match", $"\"{word}\"*");
    }

    private int Count(string sql, string match)
    {
        using var command = new SqliteCommand(sql, db);
        command.Parameters.AddWithValue("@match", match);
        return Convert.ToInt32(command.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
    }

    public int Waiting()
    {
        using var command = new SqliteCommand(
            "SELECT number, substr(text, 1, 200) FROM slip WHERE state = 'waiting' ORDER BY caught_at DESC LIMIT 500",
            db
        );
        return Read(command);
    }

    private static int Read(SqliteCommand command)
    {
        var letters = 0;
        using var reader = command.ExecuteReader();
        while (reader.Read())
            for (var i = 1; i < reader.FieldCount; i++)
                letters += reader.GetString(i).Length;
        return letters;
    }

    /// <summary>Reads every text and looks for one word.</summary>
    public int Scan(string word) =>
        Directory.EnumerateFiles(files).Count(file => File.ReadAllText(file).Contains(word, StringComparison.OrdinalIgnoreCase));

    /// <summary>Reads every text and counts for each how many of the words it shares.</summary>
    public int ScanForAll(string text)
    {
        var words = text.Split(' ').ToHashSet(StringComparer.OrdinalIgnoreCase);
        var most = 0;
        foreach (var file in Directory.EnumerateFiles(files))
        foreach (var line in File.ReadLines(file))
            most = Math.Max(most, line.Split(' ').Count(words.Contains));
        return most;
    }

    public void Dispose() => db.Dispose();
}
