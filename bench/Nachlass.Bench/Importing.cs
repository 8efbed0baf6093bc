using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>What bringing in a large table takes.</summary>
/// <param name="Rows">Rows of the table.</param>
/// <param name="Preview">Seconds until one sees what would come in.</param>
/// <param name="Import">Seconds to bring it in, on disk and found by the search.</param>
/// <param name="Bare">Seconds for the same rows through bare SQLite: one transaction, one prepared statement, the same indexes and full
/// text.</param>
/// <param name="Undo">Seconds to take it back.</param>
/// <param name="ImportingMegabytes">The most memory the process held until it was brought in.</param>
/// <param name="PeakMegabytes">The most it held until all of it was in the index of near texts too.</param>
internal sealed record Imported(
    int Rows,
    double Preview,
    double Import,
    double Bare,
    double Undo,
    long ImportingMegabytes,
    long PeakMegabytes
);

/// <summary>Brings in a table in a process of its own, so that the memory it takes is that of the import alone.</summary>
internal static class Importing
{
    public const string Command = "import";

    public static Imported Measure(int rows)
    {
        using var process = Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, [Command, rows.ToString(CultureInfo.InvariantCulture)])
            {
                RedirectStandardOutput = true,
            }
        )!;
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return JsonSerializer.Deserialize<Imported>(said.Trim().Split('\n')[^1])!;
    }

    /// <summary>Runs in the child.</summary>
    public static void Run(int rows)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            var table = Path.Combine(folder, "table.csv");
            WriteTable(table, rows);
            using var papers = PapersFile.Open(Path.Combine(folder, "papers"), TimeProvider.System);
            using var nearby = new Nearby(papers);
            nearby.Fill();
            var shelf = new FileShelf(papers);
            static FileReading Look(string name, string path) => new("text/plain", "");
            var imports = new ImportStore(papers, shelf, Look);
            var parcel = new Parcel(Path.Combine(folder, "parcel"));
            using (var content = File.OpenRead(table))
                parcel.Add("table.csv", content);
            IEnumerable<(string, Found)> Finding() => parcel.Read(new ReadAs(papers.Today)).Select(f => (f.File.Name, f.Found));
            var preview = Seconds(() => imports.Preview(Finding, (_, _, _) => { }, default));
            Done<ImportCounts>? done = null;
            var import = Seconds(() => done = imports.Run("brought in a table", Origin.Import, null, Finding, Once.Unkeyed));
            Process.GetCurrentProcess().Refresh();
            var importing = Process.GetCurrentProcess().PeakWorkingSet64 >> 20;
            nearby.Settle();
            Process.GetCurrentProcess().Refresh();
            var peak = Process.GetCurrentProcess().PeakWorkingSet64 >> 20;
            if (done!.Answer.Slips != rows)
                throw new InvalidOperationException($"{done.Answer.Slips} slips came of {rows} rows.");
            var bare = Seconds(() => Bare(folder, papers, table));
            var undo = Seconds(() => new HistoryStore(papers).Undo(done.Command, Once.Unkeyed));
            Console.WriteLine(JsonSerializer.Serialize(new Imported(rows, preview, import, bare, undo, importing, peak)));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static void WriteTable(string path, int rows)
    {
        var words = new Zipf(20_000, new Random(2));
        using var file = new StreamWriter(path);
        file.WriteLine("text,kind,topics,pull,caught");
        for (var i = 0; i < rows; i++)
            file.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"\"{words.Text()} {i}\",idea,topic {i % 60},{i % 5 + 1},{new DateOnly(2024, 1, 1).AddDays(i % 700):yyyy-MM-dd}"
                )
            );
    }

    private static void Bare(string folder, PapersFile papers, string table)
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(folder, "bare.db")};Pooling=False");
        db.Open();
        db.Execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA cache_size = -65536; PRAGMA temp_store = MEMORY");
        foreach (
            var sql in papers.Read(p =>
                p.Query<string>(
                        "SELECT sql FROM sqlite_master WHERE sql IS NOT NULL "
                            + "AND (name = 'finding' OR (tbl_name IN ('slip', 'slip_topic') AND name NOT LIKE 'undo%')) "
                            + "ORDER BY type = 'trigger', type = 'index'"
                    )
                    .ToList()
            )
        )
            db.Execute(sql);
        db.Execute("PRAGMA foreign_keys = OFF");
        using var filling = db.BeginTransaction();
        using var slip = new SqliteCommand(
            "INSERT INTO slip (text, kind, state, pull, caught_at, day) VALUES (@text, @kind, 'waiting', @pull, @caught, @caught)",
            db,
            filling
        );
        using var topic = new SqliteCommand("INSERT INTO slip_topic (slip, topic) VALUES (last_insert_rowid(), @topic)", db, filling);
        foreach (var name in (string[])["@text", "@kind", "@pull", "@caught"])
            slip.Parameters.Add(name, SqliteType.Text);
        topic.Parameters.Add("@topic", SqliteType.Integer);
        foreach (var row in new CsvTable().Read(new InFile("table.csv", table), new ReadAs(papers.Today)).Cast<Found.OfSlip>())
        {
            slip.Parameters["@text"].Value = row.Slip.Text;
            slip.Parameters["@kind"].Value = "idea";
            slip.Parameters["@pull"].Value = row.Slip.Pull;
            slip.Parameters["@caught"].Value = row.Slip.CaughtAt!.Value.ToString("O", CultureInfo.InvariantCulture);
            slip.ExecuteNonQuery();
            topic.Parameters["@topic"].Value = row.Slip.Topics[0].Length;
            topic.ExecuteNonQuery();
        }
        filling.Commit();
    }

    private static double Seconds(Action act)
    {
        var start = Stopwatch.GetTimestamp();
        act();
        return Stopwatch.GetElapsedTime(start).TotalSeconds;
    }
}
