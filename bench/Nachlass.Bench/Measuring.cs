using System.Diagnostics;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>How long something took, in milliseconds.</summary>
internal sealed record Time(string What, double Median, double P95);

/// <summary>How long something took, and its reference.</summary>
internal sealed record Measured(string What, double Median, double P95, Time Reference);

/// <summary>Measures what a writer waits for, on made papers of one size.</summary>
internal static class Measuring
{
    private const int Topics = 60;

    public static List<Measured> Papers(int size)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            return In(folder, size);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static List<Measured> In(string folder, int size)
    {
        // A fixed seed: the same papers in every run.
        var words = new Zipf(20_000, new Random(1));
        var texts = Enumerable.Range(0, size).Select(_ => words.Text()).ToList();
        Console.Error.WriteLine($"{size:N0} slips");
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        Fill(papers, texts);
        using var nearby = new Nearby(papers);
        using var columns = new SlipColumns(papers);
        var filling = Stopwatch.StartNew();
        nearby.Fill();
        Console.Error.WriteLine(
            $"  index of near texts filled in {filling.Elapsed.TotalSeconds:0.0} s, {GC.GetTotalMemory(true) >> 20} MB held"
        );
        using var worth = new WorthStore(papers, columns, nearby);
        var history = new HistoryStore(papers);
        using var learning = new TopicLearning(papers, nearby);
        var advice = new AdviceStore(papers, nearby, learning, new FindStore(papers, nearby));
        var pieces = new PieceStore(papers, history, advice, worth);
        var drafts = new DraftStore(papers, history);
        var capture = new CaptureStore(papers);
        var library = new LibraryStore(papers, columns, worth);
        var sift = new SiftStore(papers, nearby, worth);
        var decisions = new DecisionStore(papers, worth);
        var piece = pieces.Start(new NewPiece("A piece of ordinary length"), Once.Unkeyed).Answer.Number;
        var draft = drafts.Get(piece);
        var written = draft.Text + string.Join("\n\n", Enumerable.Range(0, 40).Select(_ => words.Text()));
        drafts.Save(piece, written, draft.Version, Once.Unkeyed);

        using var bare = new Bare(folder, papers, texts);
        var asked = Enumerable.Range(0, 200).Select(_ => words.Rare()).ToList();
        SlipNumber Any(int i) => SlipNumber.Of(i * (size / 100) % size + 1);
        return
        [
            Compare(
                "storing a slip",
                200,
                _ => capture.CatchSlip(words.Text(), null, Once.Unkeyed),
                "the same row and full-text entry, bare SQLite",
                _ => bare.Store(words.Text())
            ),
            Compare(
                "full-text search, first page of 50",
                200,
                i => library.List(new LibraryQuery(asked[i], InState.All)),
                "the same FTS query, bare SQLite",
                i => bare.Search(asked[i])
            ),
            Compare(
                "the library's filters with counts",
                20,
                _ => library.Facets(new LibraryQuery()),
                "a plain scan for one word",
                i => bare.Scan(asked[i])
            ),
            Compare(
                "advice for one slip",
                100,
                i => advice.For(Any(i)),
                "a plain scan for its words",
                i => bare.ScanForAll(texts[Any(i).Value - 1])
            ),
            Compare("the sift queue", 50, _ => sift.Sitting(), "the same rows, bare SQLite", _ => bare.Waiting()),
            Compare(
                "a decision in sift, to the next slip",
                100,
                i =>
                {
                    decisions.Decide(Any(i), new Decision.Keep(), Once.Unkeyed);
                    advice.For(Any(i + 1));
                },
                "a plain scan for its words",
                i => bare.ScanForAll(texts[Any(i).Value - 1])
            ),
            Compare(
                "opening a piece",
                50,
                _ =>
                {
                    pieces.Get(piece);
                    drafts.Get(piece);
                    pieces.Material(piece);
                },
                "a plain scan for its words",
                _ => bare.ScanForAll(written)
            ),
        ];
    }

    internal static void Fill(PapersFile papers, List<string> texts)
    {
        Add(papers, texts);
        // Caught and settled over two years, as real papers are, and not all this minute.
        papers.Alone(db =>
            db.Execute(
                """
                UPDATE slip SET caught_at = strftime('%Y-%m-%dT%H:%M:%S.000Z', 'now',
                    '-' || (730.0 * (1 - number * 1.0 / @count)) || ' days'),
                    settled_at = CASE WHEN state = 'waiting' THEN NULL ELSE strftime('%Y-%m-%dT%H:%M:%S.000Z', 'now',
                        '-' || (1 + 730.0 * (1 - number * 1.0 / @count)) || ' days') END;
                UPDATE slip SET day = substr(caught_at, 1, 10);
                """,
                new { count = texts.Count }
            )
        );
    }

    private static void Add(PapersFile papers, List<string> texts) =>
        papers.Run(
            "made papers",
            Once.Unkeyed,
            change =>
            {
                for (var i = 1; i <= Topics; i++)
                    change.Db.Execute("INSERT INTO topic (name, colour) VALUES (@name, 'teal')", new { name = $"topic {i}" });
                for (var i = 0; i < texts.Count; i++)
                    SlipRows.Add(
                        change,
                        new NewSlip(texts[i])
                        {
                            State = i % 50 == 0 ? SlipState.Waiting : SlipState.Kept,
                            Topics = [TopicNumber.Of(i % Topics + 1)],
                        }
                    );
                return 0;
            }
        );

    /// <summary>Both in turn, so that what else the machine does falls on both.</summary>
    private static Measured Compare(string what, int times, Action<int> act, string reference, Action<int> plain)
    {
        // What runs for the first time is compiled first; nobody waits for that twice.
        for (var (i, warming) = (0, Stopwatch.StartNew()); warming.Elapsed < TimeSpan.FromSeconds(1); i++)
        {
            act(i % times);
            plain(i % times);
        }
        // A reference that takes long needs fewer runs to be known.
        var longest = Stopwatch.StartNew();
        var (ours, theirs) = (new List<double>(times), new List<double>(times));
        for (var i = 0; i < times; i++)
        {
            ours.Add(Took(act, i));
            if (longest.Elapsed < TimeSpan.FromSeconds(20) || theirs.Count < 5)
                theirs.Add(Took(plain, i));
        }
        var (o, t) = (Summed(what, ours), Summed(reference, theirs));
        Console.Error.WriteLine($"  {what}: {o.Median:0.00} ms, {t.What}: {t.Median:0.00} ms");
        return new Measured(what, o.Median, o.P95, t);
    }

    private static double Took(Action<int> act, int i)
    {
        var start = Stopwatch.GetTimestamp();
        act(i);
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }

    private static Time Summed(string what, List<double> took)
    {
        took.Sort();
        return new Time(what, took[took.Count / 2], took[(int)(took.Count * 0.95)]);
    }
}
