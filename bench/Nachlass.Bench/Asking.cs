using System.Diagnostics;
using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;

namespace Nachlass.Bench;

/// <summary>How well wishes are found in readers' messages and joined into asks, on labelled messages: of sets on which the constants were
/// chosen, and of some that were written before and looked at after.</summary>
internal static class Asking
{
    public const string Command = "asks";

    private sealed record Labelled(string Ask, string Text);

    private static readonly (string Name, string Why)[] Sets =
    [
        ("rivers", "chosen on"),
        ("bread", "chosen on"),
        ("sky", "chosen on"),
        ("plot", "chosen on"),
        ("ink", "chosen on"),
        ("rails", "chosen on"),
        ("clay", "held out"),
        ("choir", "held out"),
        (Together, "all as one"),
    ];

    /// <summary>All sets as the messages of one writer who writes on all of it.</summary>
    private const string Together = "all";

    public static string Measure(bool isTold)
    {
        var report = new StringBuilder();
        report.AppendLine(
            "| messages | | wishes found: precision | recall | joined: precision | recall | by nearness of words: precision | recall "
                + "| by shared words alone: precision | recall |"
        );
        report.AppendLine("| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var (name, why) in Sets)
        {
            var messages = Read(name);
            var (found, joined) = Joined(messages, By.Meaning, isTold);
            var (_, near) = Joined(messages, By.NearWords, false);
            var (_, words) = Joined(messages, By.SharedWords, false);
            report.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {name}, {messages.Count} | {why} | {found.Precision:0.00} | {found.Recall:0.00} | {joined.Precision:0.00} "
                    + $"| {joined.Recall:0.00} | {near.Precision:0.00} | {near.Recall:0.00} "
                    + $"| {words.Precision:0.00} | {words.Recall:0.00} |"
            );
        }
        Times(report);
        return report.ToString();
    }

    private const int Many = 10_000;

    /// <summary>Ten thousand messages at first and one more, into papers on disk. They are the labelled ones in random order with a word
    /// of each left out and a sentence of another put behind it.</summary>
    private static void Times(StringBuilder report)
    {
        var random = new Random(7);
        var texts = Read(Together).Select(m => m.Text).ToList();
        var messages = Enumerable
            .Range(0, Many)
            .Select(i => new NewMessage($"Reader {i % 4_000}", Varied(), DateTimeOffset.UnixEpoch.AddDays(20_000 + i / 20.0)))
            .ToList();
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            using var papers = PapersFile.Open(folder, TimeProvider.System);
            var shelf = new AskShelf(papers);
            var store = new MessageStore(papers, shelf);
            var read = Stopwatch.StartNew();
            var wishes = messages.Sum(m => Wishes.In(m.Text!).Count);
            read.Stop();
            var all = Stopwatch.StartNew();
            var came = store.BringIn(messages, Once.Unkeyed).Answer;
            all.Stop();
            var closely = Stopwatch.StartNew();
            shelf.ReadClosely().GetAwaiter().GetResult();
            closely.Stop();
            var asks = papers.Read(db => Dapper.SqlMapper.ExecuteScalar<int>(db, "SELECT count(*) FROM ask"));
            var ones = Enumerable
                .Range(0, 21)
                .Select(i =>
                {
                    var one = Stopwatch.StartNew();
                    store.BringIn([new NewMessage("Someone", $"{Varied()} {i}")], Once.Unkeyed);
                    return one.Elapsed.TotalMilliseconds;
                })
                .Order()
                .ToList();
            report.AppendLine();
            report.AppendLine(
                CultureInfo.InvariantCulture,
                $"{Many:N0} messages with {wishes:N0} wishes came in in {all.Elapsed.TotalSeconds:0.0} s "
                    + $"({all.Elapsed / read.Elapsed:0.0} times as long as only finding the wishes in them took) and were {came.Asks:N0} "
                    + $"asks; read closely behind, in {closely.Elapsed.TotalSeconds:0} s, they became {asks:N0}. One more took "
                    + $"{ones[ones.Count / 2]:0} ms at the median, {ones[^2]:0} ms at p95."
            );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }

        string Varied()
        {
            var words = texts[random.Next(texts.Count)].Split(' ').ToList();
            if (words.Count > 6)
                words.RemoveAt(random.Next(words.Count));
            return string.Join(' ', words) + " " + texts[random.Next(texts.Count)].Split(". ")[0] + ".";
        }
    }

    private enum By
    {
        Meaning,
        NearWords,
        SharedWords,
    }

    private static ((double Precision, double Recall) Found, (double Precision, double Recall) Joined) Joined(
        IReadOnlyList<Labelled> messages,
        By by,
        bool isTold
    )
    {
        var (asks, kept) = (0, new List<(int Message, int Ask, Wish Wish)>());
        var wishes = messages.SelectMany((m, i) => Wishes.In(m.Text).Select(w => (Message: i, Wish: w))).ToList();
        if (by == By.SharedWords)
            foreach (var (message, wish) in wishes)
                kept.Add((message, ByWords(kept, wish.Words) ?? ++asks, wish));
        else
        {
            if (by == By.Meaning)
                wishes =
                [
                    .. wishes.Zip(
                        SentenceMeaning.Of([.. wishes.Select(w => w.Wish.Said)]),
                        (w, meaning) => (w.Message, w.Wish with { Meaning = meaning })
                    ),
                ];
            var placed = new AskPlaces().Place([.. wishes.Select(w => w.Wish)], () => ++asks);
            kept.AddRange(placed.Zip(wishes, (ask, w) => (w.Message, ask, w.Wish)));
        }
        var has = kept.Select(k => k.Message).ToHashSet();
        var (wished, right) = (messages.Count(m => m.Ask != "-"), has.Count(m => messages[m].Ask != "-"));
        var of = kept.ToLookup(k => k.Message, k => k.Ask);
        var (both, together, same) = (0, 0, 0);
        for (var i = 0; i < messages.Count; i++)
        for (var j = 0; j < i; j++)
        {
            var isJoined = of[i].Intersect(of[j]).Any();
            var isSame = messages[i].Ask != "-" && messages[i].Ask == messages[j].Ask;
            both += isJoined && isSame ? 1 : 0;
            together += isJoined ? 1 : 0;
            same += isSame ? 1 : 0;
        }
        if (isTold)
        {
            foreach (var m in Enumerable.Range(0, messages.Count).Where(m => messages[m].Ask == "-" && has.Contains(m)))
                Console.WriteLine($"NOT A WISH  {messages[m].Text}");
            foreach (var m in Enumerable.Range(0, messages.Count).Where(m => messages[m].Ask != "-" && !has.Contains(m)))
                Console.WriteLine($"MISSED      {messages[m].Text}");
            foreach (var group in kept.GroupBy(k => k.Ask))
                Console.WriteLine("  " + string.Join(" / ", group.Select(k => messages[k.Message].Ask + ": " + k.Wish.Said)));
        }
        return (
            (has.Count == 0 ? 1 : (double)right / has.Count, (double)right / wished),
            (together == 0 ? 1 : (double)both / together, (double)both / same)
        );
    }

    /// <summary>The reference: the ask with which a wish shares two fifths of its words.</summary>
    private static int? ByWords(List<(int Message, int Ask, Wish Wish)> kept, IReadOnlyList<WishWord> words)
    {
        var own = words.Where(w => w.Share == 1).Select(w => w.Root).ToHashSet();
        return kept.Select(k => (k.Ask, Likeness: Shared(k.Wish.Words.Where(w => w.Share == 1).Select(w => w.Root).ToHashSet())))
            .Where(k => k.Likeness >= 0.4)
            .OrderByDescending(k => k.Likeness)
            .Select(k => (int?)k.Ask)
            .FirstOrDefault();
        double Shared(HashSet<string> other) => own.Count(other.Contains) / (double)Math.Max(1, Math.Min(own.Count, other.Count));
    }

    /// <summary>The labels of the demo's messages stand by themselves, in the order of its table.</summary>
    private static List<Labelled> Read(string name)
    {
        if (name == Together)
            return
            [
                .. Sets.Where(s => s.Name != Together)
                    .SelectMany(s => Read(s.Name).Select(m => m with { Ask = m.Ask == "-" ? m.Ask : $"{s.Name} {m.Ask}" })),
            ];
        if (name != "rivers")
            return Labels(name);
        var table = new InFile("readers.csv", Path.Combine(Path.GetDirectoryName(Here())!, "..", "..", "demo", "messages", "readers.csv"));
        var texts = new CsvTable().Read(table, new ReadAs(default)).OfType<Found.OfSlip>().Select(f => f.Slip.Text);
        return [.. Labels(name).Zip(texts, (label, text) => label with { Text = text })];
    }

    private static List<Labelled> Labels(string name) =>
        [
            .. File.ReadAllLines(Path.Combine(Path.GetDirectoryName(Here())!, "asks", name + ".txt"))
                .Select(line => line.Split('|'))
                .Select(p => new Labelled(p[0], p[^1])),
        ];

    private static string Here([CallerFilePath] string path = "") => path;
}
