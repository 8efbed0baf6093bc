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
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Bench;

/// <summary>One thing done again and again on full papers.</summary>
/// <param name="Bare">Median of the least SQL that answers the same, without anything around it; null where no query of SQLite's
/// could.</param>
internal sealed record LoadedLine(string What, double Median, double P95, double? Bare);

/// <summary>Full papers: how they answer.</summary>
/// <param name="Words">Words in all texts.</param>
/// <param name="Rebuild">Seconds to fill the index of near texts from the database.</param>
/// <param name="During">Milliseconds a find takes meanwhile, at the 95th percentile.</param>
/// <param name="Scan">Milliseconds to look for one word in a plain file of all texts.</param>
/// <param name="Own">Megabytes of memory that are the process's own once it has been used.</param>
/// <param name="Mapped">Megabytes of the papers' file that the system has mapped in beside that; it takes them back when it needs
/// them.</param>
internal sealed record LoadedPapers(
    int Slips,
    int Sources,
    long Words,
    double Rebuild,
    double During,
    double Scan,
    long Own,
    long Mapped,
    IReadOnlyList<LoadedLine> Lines
);

/// <summary>Many slips, sources with whole texts, and 20 million words: made in one process and used in another, as papers are.</summary>
internal static class Loaded
{
    public const string Command = "loaded",
        Making = "make-loaded";
    private const int Topics = 60;

    /// <summary>Holds all texts, one a line.</summary>
    private const string PlainFile = "plain.txt";

    public static LoadedPapers Measure(int slips)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            Told(Making, folder, slips);
            return JsonSerializer.Deserialize<LoadedPapers>(Told(Command, folder, slips))!;
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>The last line that this program says when it is started for a part of its work.</summary>
    private static string Told(string command, string folder, int slips)
    {
        using var process = Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, [command, folder, slips.ToString(CultureInfo.InvariantCulture)])
            {
                RedirectStandardOutput = true,
            }
        )!;
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return said.Trim().Split('\n')[^1];
    }

    public static void Make(string folder, int slips)
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        using var plain = new StreamWriter(Path.Combine(folder, PlainFile));
        Console.WriteLine(Make(papers, plain, slips, slips / 20));
    }

    public static void Run(string folder, int slips)
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        using var nearby = new Nearby(papers);
        using var columns = new SlipColumns(papers);
        var find = new FindStore(papers, nearby);
        var zipf = new Zipf(20_000, new Random(7));
        columns.Fill();
        var rebuild = Stopwatch.StartNew();
        var filling = Task.Run(() =>
        {
            nearby.Fill();
            rebuild.Stop();
        });
        var meanwhile = new List<double>();
        while (!filling.IsCompleted)
            meanwhile.Add(Took(() => find.Find(zipf.Rare() + " ")));
        meanwhile.Sort();
        Console.Error.WriteLine($"  full papers: near texts in {rebuild.Elapsed.TotalSeconds:0.0} s");
        using var worth = new WorthStore(papers, columns, nearby);
        var history = new HistoryStore(papers);
        using var learning = new TopicLearning(papers, nearby);
        var advice = new AdviceStore(papers, nearby, learning, find);
        var library = new LibraryStore(papers, columns, worth);
        var topics = new TopicStore(papers, history, columns);
        var coverage = new CoverageStore(papers, topics, columns);
        var digests = new DigestStore(papers);
        var decisions = new DecisionStore(papers, worth);
        var sift = new SiftStore(papers, nearby, worth);
        SlipNumber Any(int i) => SlipNumber.Of((int)((long)i * 7_919 % slips) + 1);
        const string byTopic = "SELECT s.* FROM slip s JOIN slip_topic t ON t.slip = s.number WHERE t.topic = @topic";
        List<LoadedLine> lines =
        [
            Line("find: two words", 100, _ => find.Find($"{zipf.Rare()} {zipf.Rare()} "), _ => Match($"{zipf.Rare()} {zipf.Rare()}")),
            Line("find: one word", 100, _ => find.Find(zipf.Rare() + " "), _ => Match(zipf.Rare())),
            Line("find: a word begun, two letters of it", 100, _ => find.Find(zipf.Rare()[..2]), _ => Match(zipf.Rare()[..2] + "*")),
            Line(
                "find: a word begun, all but its last letter",
                100,
                _ => find.Find(zipf.Rare()[..^1]),
                _ => Match(zipf.Rare()[..^1] + "*")
            ),
            Line(
                "find: fields and words",
                100,
                i => find.Find($"topic:\"topic {i % Topics + 1}\" pull>=4 {zipf.Rare()}"),
                i =>
                    Sql(
                        $"{byTopic} AND s.pull >= 4 AND s.number IN (SELECT rowid / 8 FROM finding "
                            + "WHERE finding MATCH @word AND rowid % 8 = 0) LIMIT 50",
                        i
                    )
            ),
            Line(
                "find: fields alone",
                40,
                i => find.Find($"pull>=4 kind:question topic:\"topic {i % Topics + 1}\""),
                i => Sql($"{byTopic} AND s.pull >= 4 AND s.kind = 'question' ORDER BY s.caught_at DESC LIMIT 50", i)
            ),
            Line(
                "library: words begun, two letters of them",
                40,
                _ => library.List(new LibraryQuery(zipf.Rare()[..2])),
                _ => Match(zipf.Rare()[..2] + "*")
            ),
            Line(
                "library: a page by a query",
                60,
                i => library.List(new LibraryQuery($"pull>=4 used:no topic:\"topic {i % Topics + 1}\" ")),
                i => Sql($"{byTopic} AND s.pull >= 4 ORDER BY s.caught_at DESC LIMIT 50", i)
            ),
            Line(
                "library: a page sorted by pull",
                20,
                _ => library.List(new LibraryQuery("in:slips effort<=2 ", Sort: ListSort.Pull)),
                i => Sql("SELECT * FROM slip WHERE effort <= 2 AND state <> 'dropped' ORDER BY pull DESC, caught_at DESC LIMIT 50", i)
            ),
            Line(
                "library: the filters with counts",
                20,
                _ => library.Facets(new LibraryQuery()),
                i =>
                    Sql("SELECT state, kind, count(*) FROM slip GROUP BY state, kind", i)
                    + Sql("SELECT topic, count(*) FROM slip_topic GROUP BY topic", i)
            ),
            Line(
                "all topics with their figures",
                10,
                _ => topics.List(),
                i =>
                    Sql("SELECT t.topic, s.state, count(*) FROM slip_topic t JOIN slip s ON s.number = t.slip GROUP BY t.topic, s.state", i)
            ),
            Line(
                "a topic's page",
                20,
                i => topics.Open(TopicNumber.Of(i % Topics + 1)),
                i => Sql($"{byTopic} ORDER BY s.pull DESC, s.caught_at DESC LIMIT 200", i)
            ),
            Line(
                "a digest",
                10,
                i => digests.Get(TopicNumber.Of(i % Topics + 1)),
                i => Sql("SELECT p.* FROM slip p JOIN source_topic t ON t.source = p.source WHERE t.topic = @topic", i)
            ),
            Line(
                "the map of coverage",
                10,
                _ => coverage.Map(null),
                i =>
                    Sql(
                        "SELECT t.topic, s.format, count(*) FROM slip s JOIN slip_topic t ON t.slip = s.number "
                            + "WHERE s.state = 'kept' GROUP BY t.topic, s.format",
                        i
                    )
            ),
            Line(
                "the pile",
                20,
                _ => sift.Sitting(),
                i => Sql("SELECT * FROM slip WHERE state = 'waiting' ORDER BY caught_at DESC LIMIT 500", i)
            ),
            Line(
                "the pile, worthiest first",
                10,
                _ => sift.Sitting(new Pile(PileOrder.Worth)),
                i => Sql("SELECT * FROM slip WHERE state = 'waiting' ORDER BY pull DESC LIMIT 500", i)
            ),
            Line(
                "worth: the first fifty",
                40,
                _ => worth.Best(),
                i => Sql("SELECT * FROM slip WHERE state IN ('waiting', 'kept') ORDER BY pull DESC, caught_at DESC LIMIT 50", i)
            ),
            Line(
                "worth: the first fifty, just after a decision",
                20,
                i =>
                {
                    decisions.Decide(Any(i), new Decision.Keep(), Once.Unkeyed);
                    worth.Best();
                }
            ),
            Line("advice for one slip", 60, i => advice.For(Any(i))),
            Line(
                "a decision, to the next slip with its advice",
                60,
                i =>
                {
                    decisions.Decide(Any(i), new Decision.Keep(), Once.Unkeyed);
                    advice.For(Any(i + 1));
                }
            ),
            Line(
                "all topics, just after a decision",
                20,
                i =>
                {
                    decisions.Decide(Any(i), new Decision.Drop(), Once.Unkeyed);
                    topics.List();
                }
            ),
        ];
        var plain = Path.Combine(folder, PlainFile);
        var found = 0;
        var scans = Enumerable
            .Range(0, 9)
            .Select(_ => zipf.Rare())
            .Select(word =>
                Took(() => found += File.ReadLines(plain).Count(line => line.Contains(word, StringComparison.OrdinalIgnoreCase)))
            )
            .Order()
            .ToList();
        GC.Collect();
        GC.WaitForPendingFinalizers();
        GC.Collect();
        Console.WriteLine();
        Console.WriteLine(
            JsonSerializer.Serialize(
                new LoadedPapers(
                    slips,
                    slips / 20,
                    papers.Read(db =>
                        db.ExecuteScalar<long>(
                            "SELECT (SELECT sum(length(text) - length(replace(text, ' ', '')) + 1) "
                                + "FROM slip) + (SELECT sum(length(text) - length(replace(text, ' ', '')) + 1) FROM source)"
                        )
                    ),
                    rebuild.Elapsed.TotalSeconds,
                    meanwhile[(int)(meanwhile.Count * 0.95)],
                    scans[4],
                    Held("RssAnon"),
                    Held("RssFile"),
                    lines
                )
            )
        );

        int Sql(string sql, int i) => papers.Read(db => db.Query(sql, new { topic = i % Topics + 1, word = zipf.Rare() }).Count());
        int Match(string words) =>
            papers.Read(db =>
                db.Query(
                        "SELECT rowid, snippet(finding, -1, '', '', '…', 28) FROM finding "
                            + "WHERE finding MATCH @words ORDER BY rank LIMIT 50",
                        new { words }
                    )
                    .Count()
            );
    }

    /// <summary>Megabytes of one kind of memory, as Linux tells in proc(5).</summary>
    private static long Held(string kind) =>
        long.Parse(
            File.ReadLines("/proc/self/status")
                .First(line => line.StartsWith(kind, StringComparison.Ordinal))
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)[1],
            CultureInfo.InvariantCulture
        ) >> 10;

    private static long Make(PapersFile papers, StreamWriter plain, int slips, int sources)
    {
        var random = new Random(11);
        var zipf = new Zipf(20_000, random);
        long words = 0;
        papers.Run(
            "made papers",
            Once.Unkeyed,
            change =>
            {
                change.IsAsItWas = true;
                for (var i = 1; i <= Topics; i++)
                    change.Db.Execute("INSERT INTO topic (name, colour) VALUES (@name, 'teal')", new { name = $"topic {i}" });
                for (var i = 0; i < sources; i++)
                {
                    var text = string.Join("\n\n", Enumerable.Range(0, 95).Select(_ => zipf.Text()));
                    plain.WriteLine(text.ReplaceLineEndings(" "));
                    words += 95 * 36;
                    SourceRows.Add(
                        change,
                        new Core.Sources.Source
                        {
                            Number = default,
                            Title = $"Source {i} {zipf.Rare()}",
                            Summary = zipf.Text(),
                            Text = text,
                            Type = Core.Sources.SourceType.Book,
                        },
                        [TopicNumber.Of(i % Topics + 1)]
                    );
                }
                for (var i = 0; i < slips; i++)
                {
                    var text = zipf.Text();
                    plain.WriteLine(text);
                    words += 36;
                    SlipRows.Insert(
                        change,
                        new NewSlip(text)
                        {
                            State =
                                i % 50 == 0 ? SlipState.Waiting
                                : i % 9 == 0 ? SlipState.Dropped
                                : SlipState.Kept,
                            Kind = (SlipKind)(i % 6),
                            Pull = i % 7 == 0 ? null : i % 5 + 1,
                            Effort = i % 11 == 0 ? null : i % 4 + 1,
                            Source = i % 10 == 0 ? SourceNumber.Of(i / 20 % sources + 1) : null,
                            CaughtAt = change.Now.AddMinutes(-10L * (slips - i)),
                            Topics =
                                i % 3 == 0
                                    ? [TopicNumber.Of(i % Topics + 1), TopicNumber.Of(i / 7 % Topics + 1)]
                                    : [TopicNumber.Of(i % Topics + 1)],
                        }
                    );
                }
                return 0;
            }
        );
        return words;
    }

    private static LoadedLine Line(string what, int times, Action<int> act, Func<int, int>? bare = null)
    {
        var (own, plain) = (new List<double>(), new List<double>());
        // In turn, so that both meet the same machine.
        for (var i = 0; i < times + 3; i++)
        {
            own.Add(Took(() => act(i)));
            if (bare is not null)
                plain.Add(Took(() => bare(i)));
        }
        var took = own.Skip(3).Order().ToList();
        double? median = bare is null ? null : plain.Skip(3).Order().ElementAt(times / 2);
        Console.Error.WriteLine($"  {what}: {took[times / 2]:0.0} ms, p95 {took[(int)(times * 0.95)]:0.0} ms, bare {median:0.0} ms");
        return new LoadedLine(what, took[times / 2], took[(int)(times * 0.95)], median);
    }

    private static double Took(Action act)
    {
        var start = Stopwatch.GetTimestamp();
        act();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
