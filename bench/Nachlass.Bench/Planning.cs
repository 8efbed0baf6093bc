using System.Diagnostics;
using System.Globalization;
using System.Text;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>How long it takes to work back from the dates of a full quarter and to fill open dates, and how near to the
/// best that is.</summary>
internal static class Planning
{
    public const string Command = "planning";

    private const int Pieces = 300,
        Cases = 12;

    private static readonly DateOnly Today = new(2026, 11, 24);

    /// <summary>The tables, as Markdown.</summary>
    public static string Measure()
    {
        var text = new StringBuilder().AppendLine().AppendLine("## Planning").AppendLine();
        Quarter(text);
        text.AppendLine()
            .AppendLine(
                CultureInfo.InvariantCulture,
                $"Filling open dates, {Cases} made cases of each size: topics, formats, occasions, hours that do not"
            )
            .AppendLine(
                "suffice for all, ten days between two things on a topic. The reference takes the worthiest that may stand, date by date."
            )
            .AppendLine()
            .AppendLine("| dates | candidates | median | longest | from the bound, mean | farthest | the reference from the bound |")
            .AppendLine("| ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var (places, candidates) in ((int, int)[])[(8, 12), (25, 80), (60, 200)])
            Filling(text, places, candidates);
        return text.ToString();
    }

    private static void Quarter(StringBuilder text)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            using var nearby = new Nearby(papers);
            using var columns = new SlipColumns(papers);
            using var worth = new WorthStore(papers, columns, nearby);
            using var learning = new TopicLearning(papers, nearby);
            var advice = new AdviceStore(papers, nearby, learning, new FindStore(papers, nearby));
            var pieces = new PieceStore(papers, new HistoryStore(papers), advice, worth);
            var outlets = new OutletStore(papers);
            var outlet = outlets.Add(new OutletChange { Name = "A letter" }, Once.Unkeyed).Answer.Number;
            new CadenceStore(papers).Set(outlet, "letter", new CadenceWritten("every Thursday"), Once.Unkeyed);
            new HoursStore(papers).Set([8, 8, 8, 8, 8, 4, 0], Once.Unkeyed);
            var today = papers.Today;
            string[] formats = ["essay", "letter", "thread", "talk", "audio"];
            for (var i = 0; i < Pieces; i++)
                pieces.Start(
                    new NewPiece($"Piece {i}", formats[i % formats.Length], Due: today.AddDays(3 + i * 88 / Pieces), Outlet: outlet),
                    Once.Unkeyed
                );
            var plan = new PlanStore(papers);
            var listed = Outlining.Timed(9, () => pieces.List());
            text.AppendLine("| what | median | p95 | reference | its median | ratio |")
                .AppendLine("| --- | ---: | ---: | --- | ---: | ---: |");
            Line(
                $"a quarter with {Pieces} pieces and all stage dates worked back",
                Outlining.Timed(9, () => plan.Get(today, today.AddDays(90)))
            );
            Line(
                "two years of the plan as a calendar feed",
                Outlining.Timed(
                    9,
                    () =>
                        CalendarFeed.Write(
                            plan.Get(today.AddDays(-60), today.AddDays(700)).Entries,
                            outlets.List().ToDictionary(o => o.Number, o => o.Name),
                            "http://127.0.0.1",
                            DateTimeOffset.UtcNow
                        )
                )
            );
            Line("what moving one of them would do", Outlining.Timed(9, () => plan.Try(PieceNumber.Of(150), today.AddDays(10))));

            void Line(string what, (double Median, double P95) time) =>
                text.AppendLine(
                    CultureInfo.InvariantCulture,
                    $"| {what} | {time.Median:0.0} ms | {time.P95:0.0} ms | the same pieces, listed | {listed.Median:0.0} ms | "
                        + $"×{time.Median / listed.Median:0.00} |"
                );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static void Filling(StringBuilder text, int places, int candidates)
    {
        var random = new Random(places);
        var (times, gaps, plain) = (new List<double>(), new List<double>(), new List<double>());
        for (var i = 0; i < Cases; i++)
        {
            var made = Made(random, places, candidates);
            var clock = Stopwatch.StartNew();
            var proposal = Filler.Fill(made);
            times.Add(clock.Elapsed.TotalMilliseconds);
            gaps.Add(1 - proposal.Value / proposal.Bound);
            plain.Add(1 - Greedy(made) / proposal.Bound);
        }
        times.Sort();
        text.AppendLine(
            CultureInfo.InvariantCulture,
            $"| {places} | {candidates} | {times[times.Count / 2]:0} ms | {times[^1]:0} ms | {gaps.Average():0.0 %} | "
                + $"{gaps.Max():0.0 %} | {plain.Average():0.0 %} |"
        );
    }

    private static double Greedy(FillingCase made)
    {
        var rules = new FillingRules(made);
        var on = new int[rules.Places];
        Array.Fill(on, -1);
        for (var p = 0; p < on.Length; p++)
            on[p] = Enumerable
                .Range(0, rules.Candidates)
                .Where(c => rules.MayPut(on, p, c))
                .OrderByDescending(c => rules.Value(p, c))
                .FirstOrDefault(-1);
        return rules.Worth(on);
    }

    private static FillingCase Made(Random random, int places, int candidates)
    {
        string[] formats = ["letter", "essay", "thread"];
        double[] usual = [8, 16, 2];
        var dates = Enumerable.Range(0, places).Select(_ => random.Next(places * 3)).Order().ToList();
        var free = 0.0;
        return new FillingCase
        {
            Places =
            [
                .. dates.Select(day =>
                {
                    var kind = random.Next(3);
                    return new Place(Today.AddDays(day + 7), OutletNumber.Of(kind + 1), formats[kind]);
                }),
            ],
            Candidates =
            [
                .. Enumerable
                    .Range(0, candidates)
                    .Select(i => new Candidate
                    {
                        Key = i,
                        Worth = Math.Round(30 + 40 * random.NextDouble() + 30 * random.NextDouble(), 1),
                        Hours = Enumerable
                            .Range(0, 3)
                            .Where(f => random.Next(2) == 0 || f == i % 3)
                            .ToDictionary(f => formats[f], f => Math.Round(usual[f] * (0.4 + 1.6 * random.NextDouble()), 1)),
                        Topic = random.Next(10),
                        Occasions = random.Next(6) == 0 ? [Today.AddDays(random.Next(places * 3))] : [],
                    }),
            ],
            Wished = Enumerable.Range(0, 6).ToDictionary(t => t, t => Math.Max(1, places * (6 - t) / 30)),
            Free = [.. dates.Distinct().Select(day => (Today.AddDays(day + 7), free += 6 * random.NextDouble() + 4))],
            Spacing = 10,
        };
    }
}
