using System.Diagnostics;
using System.Globalization;
using System.Text;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>How long it takes to walk the route of a long draft, to lay out much material, and to change a format of many pieces.</summary>
internal static class Outlining
{
    public const string Command = "outlining";

    private const int Words = 50_000,
        Material = 200,
        Pieces = 1_000;

    /// <summary>The table, as Markdown.</summary>
    public static string Measure()
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            return In(folder);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static string In(string folder)
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        var words = new Zipf(20_000, new Random(1));
        using var nearby = new Nearby(papers);
        using var columns = new SlipColumns(papers);
        using var worth = new WorthStore(papers, columns, nearby);
        using var learning = new TopicLearning(papers, nearby);
        var history = new HistoryStore(papers);
        var advice = new AdviceStore(papers, nearby, learning, new FindStore(papers, nearby));
        var pieces = new PieceStore(papers, history, advice, worth);
        var drafts = new DraftStore(papers, history);
        var routes = new RouteStore(papers, advice);
        var formats = new FormatStore(papers);
        var capture = new CaptureStore(papers);

        var longOne = pieces.Start(new NewPiece("A long one"), Once.Unkeyed).Answer.Number;
        var text = new StringBuilder();
        for (var (section, count) = (0, 0); count < Words; section++)
        {
            text.Append(CultureInfo.InvariantCulture, $"## Section {section} {words.Word()}\n\n");
            for (var paragraph = 0; paragraph < 60; paragraph++)
            {
                var sentence = words.Text();
                count += sentence.Split(' ').Length;
                text.Append(char.ToUpperInvariant(sentence[0])).Append(sentence.AsSpan(1)).Append(".\n\n");
            }
        }
        drafts.Save(longOne, text.ToString(), drafts.Get(longOne).Version, Once.Unkeyed);
        var much = pieces.Start(new NewPiece("Much of it"), Once.Unkeyed).Answer.Number;
        foreach (var chunk in Enumerable.Range(0, Material).Select(_ => new ToCatch("“" + words.Text() + "”")).Chunk(50))
        foreach (var caught in capture.Catch(chunk, Once.Unkeyed).Answer)
            pieces.Place(much, Reference.To(caught.Slip!.Number), null, Once.Unkeyed);
        for (var i = 0; i < Pieces; i++)
            pieces.Start(new NewPiece($"Letter {i}", "letter"), Once.Unkeyed);

        var table = new StringBuilder()
            .AppendLine()
            .AppendLine("## Routes, proposals and formats")
            .AppendLine()
            .AppendLine("| what | median | p95 | reference | its median | ratio |")
            .AppendLine("| --- | ---: | ---: | --- | ---: | ---: |");
        var readLong = Timed(9, () => drafts.Get(longOne));
        Line($"the route of a draft of {Words:N0} words", Timed(9, () => routes.Of(longOne)), "the same draft, read and counted", readLong);
        var readMuch = Timed(9, () => pieces.Material(much));
        Line($"a proposal for {Material} pieces of material", Timed(9, () => routes.Proposal(much)), "the same material, listed", readMuch);
        var listed = Timed(5, () => pieces.List());
        var turn = 0;
        Line(
            $"a stage renamed in a format with {Pieces:N0} pieces at it",
            Timed(
                5,
                () =>
                {
                    var now = formats.Get("letter");
                    var (from, to) = (now.Stages[0], $"Gather {++turn}");
                    formats.Edit(
                        "letter",
                        new FormatEdit(now)
                        {
                            Stages = [to, .. now.Stages.Skip(1)],
                            Steps = [.. now.Steps.Select(s => s.Stage == from ? s with { Stage = to } : s)],
                            Moved = new Dictionary<string, string> { [from] = to },
                        },
                        Once.Unkeyed
                    );
                }
            ),
            "the same pieces, listed",
            listed
        );
        return table.ToString();

        void Line(string what, (double Median, double P95) time, string reference, (double Median, double P95) its) =>
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {what} | {time.Median:0.0} ms | {time.P95:0.0} ms | {reference} | {its.Median:0.0} ms | "
                    + $"×{time.Median / its.Median:0.0} |"
            );
    }

    /// <summary>How long something takes, in milliseconds, done once before.</summary>
    public static (double Median, double P95) Timed(int times, Action act)
    {
        act();
        var took = new List<double>();
        for (var i = 0; i < times; i++)
        {
            var clock = Stopwatch.StartNew();
            act();
            took.Add(clock.Elapsed.TotalMilliseconds);
        }
        took.Sort();
        return (took[took.Count / 2], took[(int)(took.Count * 0.95)]);
    }
}
