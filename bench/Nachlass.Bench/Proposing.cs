using System.Diagnostics;
using System.Globalization;
using System.Text;
using Dapper;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Choosing;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Month;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Bench;

/// <summary>A hundred ideas from many slips: when the first is there, and when all are.</summary>
internal static class Proposing
{
    public const string Command = "proposing";
    private const int Rounds = 7,
        Count = 100,
        Topics = 50,
        Weeks = 12;

    /// <summary>The table, as Markdown.</summary>
    public static string Measure(int slips)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            var words = new Zipf(20_000, new Random(1));
            // Made words with what leads to a noun between them, so that there are terms to find.
            var texts = Enumerable
                .Range(0, slips)
                .Select(_ => string.Join(" of the ", words.Text().Split(' ').Chunk(2).Select(two => string.Join(' ', two))));
            Measuring.Fill(papers, [.. texts]);
            papers.Alone(db => db.Execute("UPDATE slip SET kind = 'question' WHERE number % 50 = 7"));
            using var nearby = new Nearby(papers);
            using var columns = new SlipColumns(papers);
            nearby.Fill();
            using var worth = new WorthStore(papers, columns, nearby);
            var history = new HistoryStore(papers);
            var topics = new TopicStore(papers, history, columns);
            var find = new FindStore(papers, nearby);
            using var learning = new TopicLearning(papers, nearby);
            var coverage = new CoverageStore(papers, topics, columns);
            var asks = new AskStore(papers, new AskShelf(papers), nearby, worth);
            var occasions = new OccasionStore(papers);
            var sparks = new SparkStore(
                papers,
                nearby,
                topics,
                coverage,
                new DigestStore(papers),
                new AdviceStore(papers, nearby, learning, find),
                asks,
                occasions,
                columns
            );
            var ideas = new IdeaStore(papers, sparks, find, nearby);
            var order = new TopicOrderStore(papers, topics, asks, occasions, coverage, columns);
            var month = new MonthStore(papers, order, sparks, occasions, nearby, columns);
            new OutletStore(papers).Add(new OutletChange { Name = "Low Water" }, Once.Unkeyed);
            var first = new List<double>();
            var all = new List<double>();
            var (made, joined, inAll) = (0, 0, 0);
            for (var seed = 0; seed <= Rounds; seed++)
            {
                var clock = Stopwatch.StartNew();
                var at = 0.0;
                made = 0;
                foreach (var _ in ideas.Make(new IdeasWanted(Count: Count, Seed: seed + 1), CancellationToken.None, () => joined++))
                    if (made++ == 0)
                        at = clock.Elapsed.TotalMilliseconds;
                inAll += made;
                if (seed == 0)
                    continue;
                first.Add(at);
                all.Add(clock.Elapsed.TotalMilliseconds);
            }
            var wanted = topics.List().Take(Topics).Select(t => t.Number).ToList();
            List<double> Timed(Action act) =>
                [
                    .. Enumerable
                        .Range(0, Rounds + 1)
                        .Select(_ =>
                        {
                            var clock = Stopwatch.StartNew();
                            act();
                            return clock.Elapsed.TotalMilliseconds;
                        })
                        .Skip(1),
                ];
            var ordered = Timed(() => order.Order(new TopicOrderAsked(wanted)));
            var dates = 0;
            var drawn = Timed(() => dates = month.Propose(new MonthAsked(wanted, Weeks: Weeks, PerWeek: 5, Spacing: 3)).Places.Count);
            var scan = Enumerable
                .Range(0, Rounds)
                .Select(_ =>
                {
                    var clock = Stopwatch.StartNew();
                    papers.Read(db => db.ExecuteScalar<int>("SELECT count(*) FROM slip WHERE instr(text, 'zzyzx') > 0"));
                    return clock.Elapsed.TotalMilliseconds;
                })
                .Order()
                .ElementAt(Rounds / 2);
            var table = new StringBuilder();
            table
                .AppendLine()
                .AppendLine(CultureInfo.InvariantCulture, $"## {made} ideas from {slips:N0} slips")
                .AppendLine()
                .AppendLine("Over all topics, warm; the reference looks for one word in all slips, in SQLite.")
                .AppendLine()
                .AppendLine("| what | median | longest of seven | reference | ratio |")
                .AppendLine("| --- | ---: | ---: | ---: | ---: |");
            foreach (
                var (what, times) in ((string, List<double>)[])
                    [
                        ("the first idea", first),
                        ("all of them", all),
                        ($"an order of {wanted.Count} topics", ordered),
                        ($"a proposal of {dates} dates from them, its order too", drawn),
                    ]
            )
            {
                var median = times.Order().ElementAt(Rounds / 2);
                table.AppendLine(
                    CultureInfo.InvariantCulture,
                    $"| {what} | {median:0} ms | {times.Max():0} ms | {scan:0} ms | ×{median / scan:0.0} |"
                );
            }
            table
                .AppendLine()
                .AppendLine(
                    CultureInfo.InvariantCulture,
                    $"Of {inAll + joined} that were made over {Rounds + 1} seeds, {100.0 * joined / (inAll + joined):0.0} % were joined to "
                        + $"one that says nearly the same."
                );
            return table.ToString();
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
