using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Bench;

/// <summary>One thing done again and again on full papers.</summary>
internal sealed record LoadedLine(string What, double Median, double P95);

/// <summary>Full papers: how they answer.</summary>
/// <param name="Words">Words in all texts.</param>
/// <param name="Rebuild">Seconds to fill the index of near texts from the database.</param>
/// <param name="Megabytes">What the process holds once it is filled and has been used.</param>
internal sealed record LoadedPapers(int Slips, int Sources, long Words, double Rebuild, long Megabytes, IReadOnlyList<LoadedLine> Lines);

/// <summary>Many slips, sources with whole texts, and 20 million words, in a process of its own.</summary>
internal static class Loaded
{
    public const string Command = "loaded";
    private const int Topics = 60;

    public static LoadedPapers Measure(int slips)
    {
        using var process = Process.Start(new ProcessStartInfo(Environment.ProcessPath!, [Command, slips.ToString(CultureInfo.InvariantCulture)]) { RedirectStandardOutput = true })!;
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return JsonSerializer.Deserialize<LoadedPapers>(said.Trim().Split('\n')[^1])!;
    }

    public static void Run(int slips)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            long words;
            // Made in papers that are closed again, so that what making takes is not counted.
            using (var making = PapersFile.Open(folder, TimeProvider.System)) words = Make(making, slips, slips / 20);
            SqliteConnection.ClearAllPools();
            GC.Collect();
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            using var nearby = new Nearby(papers);
            var rebuild = Stopwatch.StartNew();
            nearby.Fill();
            rebuild.Stop();
            Console.Error.WriteLine($"  full papers: near texts in {rebuild.Elapsed.TotalSeconds:0.0} s");
            var history = new HistoryStore(papers);
            using var learning = new TopicLearning(papers, nearby);
            var find = new FindStore(papers, nearby);
            var advice = new AdviceStore(papers, nearby, learning, find);
            var library = new LibraryStore(papers);
            var topics = new TopicStore(papers, history);
            var coverage = new CoverageStore(papers, topics);
            var digests = new DigestStore(papers);
            var decisions = new DecisionStore(papers);
            var sift = new SiftStore(papers, nearby);
            var zipf = new Zipf(20_000, new Random(7));
            SlipNumber Any(int i) => SlipNumber.Of((int)((long)i * 7_919 % slips) + 1);
            List<LoadedLine> lines =
            [
                Line("find: two words", 100, _ => find.Find($"{zipf.Rare()} {zipf.Rare()} ")),
                Line("find: one word", 100, _ => find.Find(zipf.Rare() + " ")),
                Line("find: fields and words", 60, i => find.Find($"topic:\"topic {i % Topics + 1}\" pull>=4 {zipf.Rare()}")),
                Line("find: fields alone", 40, i => find.Find($"pull>=4 kind:question topic:\"topic {i % Topics + 1}\"")),
                Line("library: a page by a query", 60, i => library.List(new LibraryQuery($"pull>=4 used:no topic:\"topic {i % Topics + 1}\" "))),
                Line("library: a page sorted by pull", 20, _ => library.List(new LibraryQuery("in:slips effort<=2 ", Sort: ListSort.Pull))),
                Line("library: the filters with counts", 20, _ => library.Facets(new LibraryQuery())),
                Line("all topics with their figures", 10, _ => topics.List()),
                Line("a topic's page", 20, i => topics.Open(TopicNumber.Of(i % Topics + 1))),
                Line("a digest", 10, i => digests.Get(TopicNumber.Of(i % Topics + 1))),
                Line("the map of coverage", 10, _ => coverage.Map(null)),
                Line("the pile", 20, _ => sift.Sitting()),
                Line("the pile, most promising first", 10, _ => sift.Sitting(new Pile(PileOrder.Promising))),
                Line("advice for one slip", 60, i => advice.For(Any(i))),
                Line("a decision, to the next slip with its advice", 60, i => { decisions.Decide(Any(i), new Decision.Keep(), Once.Unkeyed); advice.For(Any(i + 1)); }),
            ];
            GC.Collect();
            Process.GetCurrentProcess().Refresh();
            Console.WriteLine();
            Console.WriteLine(JsonSerializer.Serialize(new LoadedPapers(slips, slips / 20, words, rebuild.Elapsed.TotalSeconds, Process.GetCurrentProcess().WorkingSet64 >> 20, lines)));
        }
        finally { Directory.Delete(folder, recursive: true); }
    }

    private static long Make(PapersFile papers, int slips, int sources)
    {
        var random = new Random(11);
        var zipf = new Zipf(20_000, random);
        long words = 0;
        papers.Run("made papers", Once.Unkeyed, change =>
        {
            change.IsAsItWas = true;
            for (var i = 1; i <= Topics; i++) change.Db.Execute("INSERT INTO topic (name, colour) VALUES (@name, 'teal')", new { name = $"topic {i}" });
            for (var i = 0; i < sources; i++)
            {
                var text = string.Join("\n\n", Enumerable.Range(0, 90).Select(_ => zipf.Text()));
                words += 90 * 36;
                SourceRows.Add(change, new Core.Sources.Source { Number = default, Title = $"Source {i} {zipf.Rare()}", Summary = zipf.Text(), Text = text, Type = Core.Sources.SourceType.Book }, [TopicNumber.Of(i % Topics + 1)]);
            }
            for (var i = 0; i < slips; i++)
            {
                var text = zipf.Text();
                words += 36;
                SlipRows.Insert(change, new NewSlip(text)
                {
                    State = i % 50 == 0 ? SlipState.Waiting : i % 9 == 0 ? SlipState.Dropped : SlipState.Kept, Kind = (SlipKind)(i % 6), Pull = i % 7 == 0 ? null : i % 5 + 1, Effort = i % 11 == 0 ? null : i % 4 + 1,
                    Source = i % 10 == 0 ? SourceNumber.Of(i / 20 % sources + 1) : null, CaughtAt = change.Now.AddMinutes(-10L * (slips - i)),
                    Topics = i % 3 == 0 ? [TopicNumber.Of(i % Topics + 1), TopicNumber.Of(i / 7 % Topics + 1)] : [TopicNumber.Of(i % Topics + 1)],
                });
            }
            return 0;
        });
        return words;
    }

    private static LoadedLine Line(string what, int times, Action<int> act)
    {
        for (var i = 0; i < 3; i++) act(i);
        var took = Enumerable.Range(3, times).Select(i =>
        {
            var start = Stopwatch.GetTimestamp();
            act(i);
            return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        }).Order().ToList();
        Console.Error.WriteLine($"  {what}: {took[took.Count / 2]:0.0} ms, p95 {took[(int)(took.Count * 0.95)]:0.0} ms");
        return new LoadedLine(what, took[took.Count / 2], took[(int)(took.Count * 0.95)]);
    }
}
