using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Bench;

/// <summary>How well topics are guessed on real texts, from a file of JSON lines with <c>text</c> and <c>topic</c>, by cross-validation: a
/// fifth is held back, five times.</summary>
internal static class RealText
{
    public const string Command = "texts";

    internal static List<(string Text, int Topic)> Read(string path, out List<string> names)
    {
        var lines = File.ReadLines(path)
            .Where(line => line.Length > 0)
            .Select(line => JsonDocument.Parse(line).RootElement)
            .Select(e => (Text: e.GetProperty("text").GetString()!, Topic: e.GetProperty("topic").GetString()!))
            .ToList();
        var topics = names = [.. lines.Select(l => l.Topic).Distinct().Order(StringComparer.Ordinal)];
        return [.. lines.Select(l => (l.Text, topics.IndexOf(l.Topic)))];
    }

    private sealed record Guessed(IReadOnlyList<(int Topic, double Figure)> Ranked, int Right);

    /// <summary>The table for docs/performance.md.</summary>
    public static string Measure(string path)
    {
        var texts = Read(path, out var names);
        var fold = Enumerable.Range(0, texts.Count).Select(i => i % 5).ToArray();
        new Random(5).Shuffle(fold);
        var (ours, votes, peer) = (new List<Guessed>(), new List<Guessed>(), new List<Guessed>());
        var (learning, asking) = (TimeSpan.Zero, new List<double>());
        for (var held = 0; held < 5; held++)
        {
            var known = Enumerable.Range(0, texts.Count).Where(i => fold[i] != held).ToList();
            var asked = Enumerable.Range(0, texts.Count).Where(i => fold[i] == held).ToList();
            var clock = Stopwatch.StartNew();
            var weights = TopicWeights.Learn(known.Select(Decided));
            learning += clock.Elapsed;
            using var index = new NearIndex();
            foreach (var i in known)
                index.Put(Slip(i), texts[i].Text);
            // How sure a guess is, is learnt as the program learns it: from a fifth of what is known, held back.
            var rest = TopicWeights.Learn(known.Where(i => i % 5 != 0).Select(Decided));
            Calibration Learnt(TopicWeights? by) =>
                Calibration.From(
                    known
                        .Where(i => i % 5 == 0)
                        .Take(400)
                        .SelectMany(i =>
                            Scores(index, i, by).Take(LikelyTopics.First).Select(s => (s.Score, s.Topic.Number.Value - 1 == texts[i].Topic))
                        )
                );
            var (withWeights, withVotes) = (Learnt(rest), Learnt(null));
            var counting = new Counting(known.Select(i => texts[i]), names.Count);
            foreach (var i in asked)
            {
                clock.Restart();
                ours.Add(Guess(Scores(index, i, weights), withWeights, i));
                asking.Add(clock.Elapsed.TotalMilliseconds);
                votes.Add(Guess(Scores(index, i, null), withVotes, i));
                peer.Add(new Guessed(counting.Ranked(texts[i].Text), texts[i].Topic));
            }
        }
        asking.Sort();
        return string.Create(
                CultureInfo.InvariantCulture,
                $"""

            ## Topics of real texts

            {texts.Count:N0} short texts that people wrote, under {names.Count} topics, each under one; a fifth held back, five times.
            *Silent* is where no topic was sure enough to be offered; the last column is how far the figure shown is
            from how often it was right (expected calibration error, over the first three).

            | | first right | among the first three | silent | figure off by |
            | --- | ---: | ---: | ---: | ---: |
            {Row("weights of words and near things (likely topics)", ours, true)}
            {Row("near things alone, as before", votes, true)}
            {Row("a peer: multinomial naive Bayes over the words", peer, false)}

            Learning from {texts.Count * 4 / 5:N0} texts takes {learning.TotalSeconds / 5:0.0} s; a guess with its reasons {asking[
                asking.Count / 2
            ]:0.0} ms,
            {asking[asking.Count * 95 / 100]:0.0} ms at the 95th percentile.
            """
            ) + Near(texts);

        Decided Decided(int i) => new(i + 1, texts[i].Text, [TopicNumber.Of(texts[i].Topic + 1)], []);
        Reference Slip(int i) => new(ThingKind.Slip, i + 1);
        IEnumerable<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> Scores(NearIndex index, int i, TopicWeights? by) =>
            LikelyTopics.Scores(
                texts[i].Text,
                [
                    .. index
                        .Nearest(texts[i].Text, LikelyTopics.Neighbours, LikelyTopics.Chance, thing => thing != Slip(i))
                        .Select(n => new SortedNear(n, [TopicNumber.Of(texts[n.Thing.Number - 1].Topic + 1)], [])),
                ],
                // Without names, so that no topic is guessed because a text says what it is called.
                [.. names.Select((_, t) => new Topic { Number = TopicNumber.Of(t + 1), Name = $"topic{t}" })],
                by
            );
        Guessed Guess(IEnumerable<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> scores, Calibration calibration, int i) =>
            new(
                [
                    .. scores
                        .Select(s => (s.Topic.Number.Value - 1, calibration.Of(s.Score)))
                        .Where((s, place) => s.Item2 >= LikelyTopics.FloorAt(place, calibration))
                        .Take(3),
                ],
                texts[i].Topic
            );
    }

    private const int Copied = 1_000;

    /// <summary>How well copies of real texts are found among the others, and whether what reads like a text is about the same.</summary>
    private static string Near(List<(string Text, int Topic)> texts)
    {
        var random = new Random(7);
        using var index = new NearIndex();
        for (var i = 0; i < texts.Count; i++)
            index.Put(new(ThingKind.Slip, i + 1), texts[i].Text);
        var vocabulary = texts.SelectMany(t => t.Text.Split(' ')).Where(w => w.Length > 3).Take(50_000).ToArray();
        // A text of a few words has nothing to be changed.
        var originals = Enumerable.Range(0, texts.Count).Where(i => texts[i].Text.Split(' ').Length >= 8).ToArray();
        random.Shuffle(originals);
        originals = originals[..Math.Min(Copied, originals.Length)];
        var rows = new System.Text.StringBuilder();
        foreach (
            var (what, change) in (IEnumerable<(string, Func<string[], (string Text, int Also)>)>)
                [
                    ("one word in ten replaced", words => (string.Join(' ', words.Select(w => random.Next(10) == 0 ? Some() : w)), -1)),
                    ("cut to its first two thirds", words => (string.Join(' ', words.Take(words.Length * 2 / 3 + 1)), -1)),
                    ("joined with another", words => Joined(words, random.Next(texts.Count))),
                    (
                        "its parts in another order",
                        words => (string.Join(' ', [.. words[(words.Length / 2)..], .. words[..(words.Length / 2)]]), -1)
                    ),
                    ("nothing changed", words => (string.Join(' ', words), -1)),
                ]
        )
        {
            var (marked, rightly, found) = (0, 0, 0);
            foreach (var i in originals)
            {
                var (copy, also) = change(texts[i].Text.Split(' '));
                var near = index
                    .Nearest(copy, 5, ReadsLike.Floor)
                    .Where(n => n.Likeness > 0.3 && Sameness.IsNearlySame(copy, texts[n.Thing.Number - 1].Text))
                    .ToList();
                marked += near.Count;
                // The file holds texts twice; who finds one has found the other. A text that was joined to it stands in it too.
                rightly += near.Count(n => IsOf(i, n.Thing.Number - 1) || also >= 0 && IsOf(also, n.Thing.Number - 1));
                found += near.Any(n => n.Thing.Number - 1 == i) ? 1 : 0;
            }
            rows.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {what} | {(double)found / originals.Length:P1} | {(marked == 0 ? 1 : (double)rightly / marked):P1} |"
            );
        }
        var (like, same) = (0, 0);
        foreach (var i in originals)
        foreach (var near in index.Nearest(texts[i].Text, 3, ReadsLike.Floor, thing => thing.Number != i + 1))
        {
            like++;
            same += texts[near.Thing.Number - 1].Topic == texts[i].Topic ? 1 : 0;
        }
        var share = texts.CountBy(t => t.Topic).Sum(c => Math.Pow((double)c.Value / texts.Count, 2));
        return string.Create(
            CultureInfo.InvariantCulture,
            $"""


            ## Copies among real texts

            {originals.Length:N0} of the same texts, changed, and looked for among all {texts.Count:N0}.

            | changed | found | of those marked as nearly the same, rightly |
            | --- | ---: | ---: |
            {rows.ToString().TrimEnd()}

            Of what *reads like* such a text (the first three), {(double)same
                / Math.Max(1, like):P0} is under the same topic; by chance it would
            be {share:P0}.
            """
        );

        string Some() => vocabulary[random.Next(vocabulary.Length)];
        (string, int) Joined(string[] words, int with) => (string.Join(' ', [.. words, .. texts[with].Text.Split(' ')]), with);
        bool IsOf(int i, int found) => found == i || Sameness.IsNearlySame(texts[i].Text, texts[found].Text);
    }

    private static string Row(string what, List<Guessed> guessed, bool isFigured)
    {
        double Share(Func<Guessed, bool> holds) => (double)guessed.Count(holds) / guessed.Count;
        var figures = guessed.SelectMany(g => g.Ranked.Select(r => (r.Figure, Right: r.Topic == g.Right))).ToList();
        // Ten bins: Naeini, Cooper and Hauskrecht (AAAI 2015).
        var off =
            figures
                .GroupBy(f => (int)(f.Figure * 10))
                .Sum(bin => Math.Abs(bin.Average(f => f.Figure) - bin.Count(f => f.Right) / (double)bin.Count()) * bin.Count())
            / figures.Count;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"| {what} | {Share(g => g.Ranked is [var one, ..] && one.Topic == g.Right):P1} | "
                + $"{Share(g => g.Ranked.Any(r => r.Topic == g.Right)):P1} | {Share(g => g.Ranked.Count == 0):P1} | "
                + $"{(isFigured ? $"{off:0.000}" : "")} |"
        );
    }

    /// <summary>The simplest classifier that counts: multinomial naive Bayes over stems, with one more than was seen.</summary>
    private sealed class Counting
    {
        private readonly Dictionary<string, int[]> words = [];
        private readonly int[] texts,
            all;

        public Counting(IEnumerable<(string Text, int Topic)> known, int topics)
        {
            (texts, all) = (new int[topics], new int[topics]);
            foreach (var (text, topic) in known)
            {
                texts[topic]++;
                foreach (var stem in Stems.Of(text))
                {
                    if (!words.TryGetValue(stem.Root, out var counts))
                        words[stem.Root] = counts = new int[topics];
                    counts[topic]++;
                    all[topic]++;
                }
            }
        }

        public IReadOnlyList<(int Topic, double Figure)> Ranked(string text)
        {
            var known = Stems.Of(text).Where(s => words.ContainsKey(s.Root)).Select(s => words[s.Root]).ToList();
            return
            [
                .. texts
                    .Select(
                        (count, topic) =>
                            (
                                topic,
                                Math.Log((double)count / texts.Sum())
                                    + known.Sum(w => Math.Log((w[topic] + 1.0) / (all[topic] + words.Count)))
                            )
                    )
                    .OrderByDescending(t => t.Item2)
                    .Take(3),
            ];
        }
    }
}
