using System.Diagnostics;
using System.Globalization;
using System.Text;
using Dapper;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>Which idea to develop next: how long that takes among many, and how well choices teach it.</summary>
internal static class Choosing
{
    public const string Command = "choosing";

    /// <summary>The tables, as Markdown.</summary>
    /// <param name="isOnlyTimes">Whether what choices teach is left out, and looking around is ended after a minute: the worthiest
    /// are looked at first, so that the first fifty are as they will be.</param>
    public static string Measure(int slips, bool isOnlyTimes = false)
    {
        var table = new StringBuilder();
        Times(table, slips, isOnlyTimes ? TimeSpan.FromMinutes(1) : Timeout.InfiniteTimeSpan);
        if (!isOnlyTimes)
            Choosers(table);
        return table.ToString();
    }

    private static void Times(StringBuilder table, int slips, TimeSpan most)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            var words = new Zipf(20_000, new Random(1));
            Measuring.Fill(papers, [.. Enumerable.Range(0, slips).Select(_ => words.Text())]);
            papers.Alone(db =>
                db.Execute(
                    """
                    UPDATE slip SET pull = 1 + number % 5, effort = 1 + number % 4 WHERE number % 3 = 0;
                    UPDATE slip SET format = 'essay' WHERE number % 5 = 0;
                    UPDATE slip SET kind = 'quote' WHERE number % 4 = 1;
                    UPDATE slip SET kind = 'ask' WHERE number % 200 = 7;
                    UPDATE topic SET wish = 1;
                    """
                )
            );
            using var nearby = new Nearby(papers);
            using var columns = new SlipColumns(papers);
            nearby.Fill();
            using var worth = new WorthStore(papers, columns, nearby);
            var decisions = new DecisionStore(papers, worth);
            var looking = Stopwatch.StartNew();
            using (var enough = new CancellationTokenSource(most))
                worth.Fill(enough.Token);
            looking.Stop();
            SlipNumber Any(int i) => SlipNumber.Of((int)((long)i * 7_919 % slips) + 1);
            var plain = Median(
                40,
                _ =>
                    papers.Read(db =>
                        db.Query("SELECT * FROM slip WHERE state IN ('waiting', 'kept') ORDER BY pull DESC, caught_at DESC LIMIT 50")
                            .AsList()
                    )
            );
            table
                .AppendLine()
                .AppendLine(CultureInfo.InvariantCulture, $"## Which idea next, among {slips:N0} slips")
                .AppendLine()
                .AppendLine("| what | median | p95 | reference | its median | ratio |")
                .AppendLine("| --- | ---: | ---: | --- | ---: | ---: |");
            Line("the first fifty, with terms and reasons", Median(40, _ => worth.Best()));
            Line(
                "the same, just after a decision",
                Median(
                    20,
                    i => decisions.Decide(Any(i), i % 2 == 0 ? new Decision.Keep() : new Decision.Drop(), Once.Unkeyed),
                    _ => worth.Best()
                )
            );
            Line("the same, for someone with two hours", Median(20, _ => worth.Best(new WorthAsked(Hours: 2))));
            table
                .AppendLine()
                .AppendLine(
                    CultureInfo.InvariantCulture,
                    $"Comparing every idea with all other texts, in the background after a start, took "
                        + $"{looking.Elapsed.TotalSeconds:0} s, the worthiest first; {GC.GetTotalMemory(true) >> 20} MB are held in all."
                );

            void Line(string what, (double Median, double P95) took) =>
                table.AppendLine(
                    CultureInfo.InvariantCulture,
                    $"| {what} | {took.Median:0.0} ms | {took.P95:0.0} ms | the fifty slips of most pull, bare SQLite | "
                        + $"{plain.Median:0.0} ms | "
                        + $"×{took.Median / plain.Median:0.0} |"
                );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <param name="before">What is done before each time, and not timed.</param>
    private static (double Median, double P95) Median(int times, Action<int>? before, Action<int> act)
    {
        var took = new List<double>();
        for (var i = -2; i < times; i++)
        {
            before?.Invoke(i + 2);
            var clock = Stopwatch.StartNew();
            act(i + 2);
            if (i >= 0)
                took.Add(clock.Elapsed.TotalMilliseconds);
        }
        took.Sort();
        return (took[took.Count / 2], took[(int)(took.Count * 0.95)]);
    }

    private static (double Median, double P95) Median(int times, Action<int> act) => Median(times, null, act);

    /// <summary>Choosers with weights of their own, who take what is worth most to them, more or less.</summary>
    private static void Choosers(StringBuilder table)
    {
        table
            .AppendLine()
            .AppendLine("## What choices teach")
            .AppendLine()
            .AppendLine(
                "40 made choosers, each with weights of their own, each time before twenty ideas, of whose terms one in five is not known. "
                    + "Kendall’s τ between the order learnt and their own, over 60 new ideas; by pull alone; and how often the first three "
                    + "held what they took next, out of 100."
            )
            .AppendLine()
            .AppendLine("| choices | their whim, in points | τ learnt | τ by pull | held, learnt | held, evenly weighed | held, by pull |")
            .AppendLine("| ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var whim in (double[])[0, 4, 10])
        foreach (var count in (int[])[12, 30, 100])
        {
            var sums = new double[5];
            for (var seed = 0; seed < 40; seed++)
            {
                var random = new Random(seed);
                var own = Weights.Of([.. Enumerable.Range(0, 9).Select(_ => Math.Round(5 * random.NextDouble(), 1))]);
                var pull = Weights.Of([5, 0, 0, 0, 0, 0, 0, 0, 0]);
                var learnt = Learning.Weights(Choices(random, own, count, whim), Weighing.Evenly.Weights);
                var ideas = Enumerable.Range(0, 60).Select(_ => Idea(random)).ToList();
                var next = Choices(random, own, 100, whim);
                sums[0] += Tau(ideas, learnt, own);
                sums[1] += Tau(ideas, pull, own);
                sums[2] += next.Count(choice => Learning.IsHeld(choice, learnt));
                sums[3] += next.Count(choice => Learning.IsHeld(choice, Weighing.Evenly.Weights));
                sums[4] += next.Count(choice => Learning.IsHeld(choice, pull));
            }
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {count} | {whim} | {sums[0] / 40:0.00} | {sums[1] / 40:0.00} | {sums[2] / 40:0} | {sums[3] / 40:0} | {sums[4] / 40:0} |"
            );
        }
    }

    private static TermValues Idea(Random random) =>
        TermValues.Of([.. Enumerable.Range(0, 9).Select(k => random.Next(5) == 0 && k < 8 ? (double?)null : random.NextDouble())]);

    private static List<Chosen> Choices(Random random, Weights own, int count, double whim) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(_ =>
                {
                    var stood = Enumerable.Range(0, 20).Select(_ => Idea(random)).ToList();
                    return new Chosen(
                        stood,
                        Enumerable.Range(0, 20).MaxBy(j => Worth.Of(stood[j], own) + whim * (random.NextDouble() + random.NextDouble() - 1))
                    );
                }),
        ];

    /// <summary>Kendall's τ-a: pairs in the same order less pairs in the other, of all pairs.</summary>
    private static double Tau(List<TermValues> ideas, Weights one, Weights other)
    {
        var (sum, pairs) = (0, 0);
        for (var i = 0; i < ideas.Count; i++)
        for (var j = 0; j < i; j++)
        {
            pairs++;
            sum += Math.Sign((Worth.Of(ideas[i], one) - Worth.Of(ideas[j], one)) * (Worth.Of(ideas[i], other) - Worth.Of(ideas[j], other)));
        }
        return sum / (double)pairs;
    }
}
