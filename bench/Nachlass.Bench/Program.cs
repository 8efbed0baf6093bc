using System.Diagnostics;
using System.Globalization;
using System.Text;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
int[] sizes = args.Length > 0 ? [.. args.Select(int.Parse)] : [1_000, 10_000, 100_000];
var table = new StringBuilder();
Dictionary<string, double>? smaller = null;
var sizeBefore = 0;
foreach (var size in sizes)
{
    var measured = Nachlass.Bench.Measuring.Papers(size);
    table.AppendLine().AppendLine(CultureInfo.InvariantCulture, $"### {size:N0} slips").AppendLine()
        .AppendLine("| what | median | p95 | against the reference | growth |").AppendLine("| --- | ---: | ---: | --- | --- |");
    foreach (var m in measured)
    {
        var growth = smaller is not null && smaller.TryGetValue(m.What, out var before) ? $"×{m.Median / before:0.0} for ×{size / sizeBefore} slips" : "";
        table.AppendLine($"| {m.What} | {m.Median:0.000} ms | {m.P95:0.000} ms | {(m.Reference is { } r ? $"×{m.Median / r.Median:0.00} of {r.What} ({r.Median:0.000} ms)" : "")} | {growth} |");
    }
    (smaller, sizeBefore) = (measured.ToDictionary(m => m.What, m => m.Median), size);
}
Console.WriteLine(table);
var machine = $"{Environment.ProcessorCount} cores, {GC.GetGCMemoryInfo().TotalAvailableMemoryBytes >> 30} GiB of memory";
var file = Path.Combine(Environment.CurrentDirectory, "docs", "performance.md");
if (File.Exists(Path.Combine(Environment.CurrentDirectory, "Nachlass.slnx")))
    File.WriteAllText(file, $"# Performance\n\nMeasured by `make bench` on {DateTime.Now:yyyy-MM-dd}, on {machine}. Made papers: slips of 12 to 60 words from a Zipf vocabulary\nof 20,000 words, each under one to two of 60 topics. Times are server side, without HTTP; each reference runs in the same process,\non the same disk, over the same texts.\n{table}");

namespace Nachlass.Bench
{
    internal sealed record Measured(string What, double Median, double P95, Measured? Reference = null);

    internal static class Measuring
    {
        public static List<Measured> Papers(int size)
        {
            var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
            try { return In(folder, size); }
            finally { Directory.Delete(folder, recursive: true); }
        }

        private static List<Measured> In(string folder, int size)
        {
            // A fixed seed: the same papers in every run.
            var words = new Zipf(20_000, new Random(1));
            var texts = Enumerable.Range(0, size).Select(_ => words.Text()).ToList();
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            papers.Run("made papers", Once.Unkeyed, change =>
            {
                foreach (var i in Enumerable.Range(1, 60)) change.Db.Execute("INSERT INTO topic (name, colour) VALUES (@name, 'teal')", new { name = $"topic {i}" });
                for (var i = 0; i < size; i++)
                    SlipRows.Add(change, new NewSlip(texts[i]) { State = i % 50 == 0 ? SlipState.Waiting : SlipState.Kept, Topics = [TopicNumber.Of(i % 60 + 1)] });
                return 0;
            });
            using var nearby = new Nearby(papers);
            var fill = Stopwatch.StartNew();
            nearby.Fill();
            Console.Error.WriteLine($"{size:N0} slips: index of near texts filled in {fill.Elapsed.TotalSeconds:0.0} s, {GC.GetTotalMemory(true) >> 20} MB held");
            var history = new HistoryStore(papers);
            var advice = new AdviceStore(papers, nearby);
            var pieces = new PieceStore(papers, history, advice);
            var drafts = new DraftStore(papers);
            var piece = pieces.Start(new NewPiece("A piece of ordinary length"), Once.Unkeyed).Answer.Number;
            var draft = drafts.Get(piece);
            drafts.Save(piece, draft.Text + string.Join("\n\n", Enumerable.Range(0, 40).Select(_ => words.Text())), draft.Version, Once.Unkeyed);

            using var bare = new SqliteConnection($"Data Source={Path.Combine(folder, "bare.db")};Pooling=False");
            bare.Open();
            bare.Execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; CREATE TABLE slip (number INTEGER PRIMARY KEY, text TEXT); CREATE VIRTUAL TABLE finding USING fts5 (body, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3')");
            using (var fillBare = bare.BeginTransaction())
            {
                using var insert = new SqliteCommand("INSERT INTO slip (text) VALUES (@text); INSERT INTO finding (rowid, body) VALUES (last_insert_rowid(), @text)", bare, fillBare);
                var parameter = insert.Parameters.Add("@text", SqliteType.Text);
                foreach (var text in texts) { parameter.Value = text; insert.ExecuteNonQuery(); }
                fillBare.Commit();
            }
            var files = Directory.CreateDirectory(Path.Combine(folder, "files")).FullName;
            for (var i = 0; i < size; i += 100) File.WriteAllText(Path.Combine(files, $"{i}.txt"), string.Join('\n', texts.Skip(i).Take(100)));

            var capture = new CaptureStore(papers);
            var library = new LibraryStore(papers);
            var sift = new SiftStore(papers);
            var at = 0;
            var asked = Enumerable.Range(0, 200).Select(_ => words.Rare()).ToList();
            var search = Measure("the same FTS query in bare SQLite", 200, i =>
            {
                using var command = new SqliteCommand("SELECT rowid, snippet(finding, -1, char(2), char(3), '…', 28) FROM finding WHERE finding MATCH @match ORDER BY bm25(finding) LIMIT 50", bare);
                command.Parameters.AddWithValue("@match", $"\"{asked[i]}\"*");
                using var reader = command.ExecuteReader();
                while (reader.Read()) at += reader.GetInt32(0) & 1;
            });
            var scan = Measure("reading the texts as files and scanning them", 5, i =>
            {
                foreach (var file in Directory.EnumerateFiles(files)) if (File.ReadAllText(file).Contains(asked[i], StringComparison.OrdinalIgnoreCase)) at++;
            });
            return
            [
                Measure("storing a slip", 100, i => capture.CatchSlip(words.Text(), null, Once.Unkeyed), Measure("the same text and FTS row written with bare SQLite", 100, i =>
                {
                    using var command = new SqliteCommand("BEGIN; INSERT INTO slip (text) VALUES (@text); INSERT INTO finding (rowid, body) VALUES (last_insert_rowid(), @text); COMMIT", bare);
                    command.Parameters.AddWithValue("@text", words.Text());
                    command.ExecuteNonQuery();
                })),
                Measure("full-text search, a page of 50", 200, i => library.List(new LibraryQuery(asked[i], InState.All)), search),
                Measure("full-text search against a plain scan", 50, i => library.List(new LibraryQuery(asked[i], InState.All)), scan),
                Measure("advice for one slip", 100, i => advice.For(SlipNumber.Of(i * (size / 100) + 1)), scan),
                Measure("the sift queue", 50, i => sift.Sitting()),
                Measure("opening a piece", 50, i => { drafts.Get(piece); pieces.Get(piece); pieces.Material(piece); }),
            ];
        }

        private static Measured Measure(string what, int times, Action<int> act, Measured? reference = null)
        {
            act(0);
            var took = new double[times];
            for (var i = 0; i < times; i++)
            {
                var start = Stopwatch.GetTimestamp();
                act(i);
                took[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
            }
            Array.Sort(took);
            Console.Error.WriteLine($"  {what}: {took[times / 2]:0.000} ms");
            return new Measured(what, took[times / 2], took[(int)(times * 0.95)], reference);
        }
    }

    /// <summary>Words whose frequency falls with their rank (Zipf 1949), as in any real text.</summary>
    internal sealed class Zipf
    {
        private readonly Random random;
        private readonly string[] words;
        private readonly double[] upTo;

        public Zipf(int count, Random random)
        {
            this.random = random;
            string[] syllables = ["ba", "ro", "ti", "len", "sa", "mur", "ke", "dol", "vi", "nas", "to", "fer", "gu", "lim", "pa", "rek"];
            words = [.. Enumerable.Range(0, count).Select(i => string.Concat(Digits(i + 16).Select(d => syllables[d])))];
            upTo = new double[count];
            var sum = 0.0;
            for (var i = 0; i < count; i++) upTo[i] = sum += 1.0 / (i + 1);
        }

        private static IEnumerable<int> Digits(int number)
        {
            for (; number > 0; number /= 16) yield return number % 16;
        }

        private string Word()
        {
            var at = Array.BinarySearch(upTo, random.NextDouble() * upTo[^1]);
            return words[Math.Min(words.Length - 1, at < 0 ? ~at : at)];
        }

        public string Text() => string.Join(' ', Enumerable.Range(0, random.Next(12, 60)).Select(_ => Word()));

        /// <summary>A word of the middle ranks, as people search for.</summary>
        public string Rare() => words[random.Next(200, 4_000)];
    }
}
