using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Bench;

/// <summary>How well topics are guessed and near-duplicates found, on made papers whose topics and copies are known.</summary>
/// <param name="First">Share of slips whose first guess is one of its topics.</param>
/// <param name="FirstThree">Share of slips with one of its topics among the first three guesses.</param>
/// <param name="Baseline">The same for always guessing the most frequent topic.</param>
/// <param name="BaselineThree">The same for always guessing the three most frequent.</param>
/// <param name="CalibrationError">Mean distance between a figure shown and how often it was right.</param>
/// <param name="Precision">Share of the slips marked as nearly the same that are copies.</param>
/// <param name="Recall">Share of the copies that are marked.</param>
internal sealed record Quality(
    int Slips,
    double First,
    double FirstThree,
    double Baseline,
    double BaselineThree,
    double CalibrationError,
    double Precision,
    double Recall
);

/// <summary>
/// Makes labelled papers: each of 60 topics has 120 words of its own besides the common ones; a slip has one or two topics, most of its
/// words
/// are common and three in ten come from its topics. Some topics are ten times as frequent as others, as in real papers. One slip in
/// twenty is a copy of another: between one word in twenty and two in five changed, left out or put in, or its halves swapped besides; one
/// in
/// twenty takes over a third of another and is none.
/// </summary>
internal static class Labelled
{
    private const int Topics = 60,
        OwnWords = 120,
        Asked = 1_000;

    public static Quality Measure(int size)
    {
        var random = new Random(20_261);
        var common = new Zipf(8_000, random);
        var words = new Zipf(8_000 + Topics * OwnWords, random);
        var weights = Enumerable.Range(1, Topics).Select(i => 1.0 / (1 + i / 6)).ToArray();
        var slips = new List<(string Text, int[] Topics, int? CopyOf)>(size);
        for (var i = 0; i < size; i++)
        {
            if (i > 100 && random.Next(20) == 0)
            {
                var of = random.Next(slips.Count);
                if (slips[of].CopyOf is null)
                {
                    slips.Add((Reworded(slips[of].Text, random, common), slips[of].Topics, of));
                    continue;
                }
            }
            if (i > 100 && random.Next(20) == 0)
            {
                // Takes a phrase over and says something else: alike, and no copy.
                var of = slips[random.Next(slips.Count)];
                var taken = of.Text.Split(' ');
                slips.Add(
                    (
                        string.Join(' ', taken.Take(taken.Length / 3))
                            + " "
                            + string.Join(' ', Enumerable.Range(0, taken.Length * 2 / 3).Select(_ => common.Word())),
                        of.Topics,
                        null
                    )
                );
                continue;
            }
            int[] own = random.Next(3) == 0 ? [Draw(), Draw()] : [Draw()];
            var text = string.Join(
                ' ',
                Enumerable
                    .Range(0, random.Next(14, 50))
                    .Select(_ => random.Next(10) < 3 ? words.At(8_000 + own[random.Next(own.Length)] * OwnWords + Skewed()) : common.Word())
            );
            slips.Add((text, own, null));
        }
        var topics = Enumerable.Range(0, Topics).Select(t => new Topic { Number = TopicNumber.Of(t + 1), Name = $"topic{t}" }).ToList();
        using var index = new NearIndex();
        for (var i = 0; i < size; i++)
            index.Put(Slip(i), slips[i].Text);

        var step = Math.Max(1, size / (Asked * 2));
        var learnt = TopicWeights.Learn(
            slips
                .Select((s, i) => (s, i))
                .Where(x => !IsAsked(x.i))
                .Select(x => new Decided(x.i, x.s.Text, [.. x.s.Topics.Select(t => TopicNumber.Of(t + 1))], []))
        );

        // How sure a guess is, is learnt from one part of the slips and measured on another.
        var guesses = new List<(double, bool)>();
        for (var i = step / 2; i < size; i += step * 2)
            guesses.AddRange(Scores(i).Take(LikelyTopics.First).Select(s => (s.Score, slips[i].Topics.Contains(s.Topic.Number.Value - 1))));
        var calibration = Calibration.From(guesses);
        var frequent = slips.SelectMany(s => s.Topics).CountBy(t => t).OrderByDescending(c => c.Value).Select(c => c.Key).ToList();
        var (asked, first, three, baseline, baselineThree) = (0, 0, 0, 0, 0);
        var figures = new List<(double Figure, bool Right)>();
        for (var i = step; i < size; i += step * 2)
        {
            var right = slips[i].Topics;
            var guessed = Scores(i).Take(3).ToList();
            asked++;
            if (guessed.Count > 0 && right.Contains(guessed[0].Topic.Number.Value - 1))
                first++;
            if (guessed.Any(g => right.Contains(g.Topic.Number.Value - 1)))
                three++;
            if (right.Contains(frequent[0]))
                baseline++;
            if (right.Any(frequent.Take(3).Contains))
                baselineThree++;
            figures.AddRange(guessed.Select(g => (calibration.Of(g.Score), right.Contains(g.Topic.Number.Value - 1))));
        }
        // Expected calibration error over ten bins: Naeini, Cooper and Hauskrecht (AAAI 2015).
        var error =
            figures
                .GroupBy(f => (int)(f.Figure * 10))
                .Sum(bin => Math.Abs(bin.Average(f => f.Figure) - bin.Count(f => f.Right) / (double)bin.Count()) * bin.Count())
            / figures.Count;

        var (marked, rightly, copies, found) = (0, 0, 0, 0);
        foreach (var i in Enumerable.Range(0, size).Where(i => slips[i].CopyOf is not null).Take(Asked))
        {
            copies++;
            var near = index
                .Nearest(slips[i].Text, 5, ReadsLike.Floor, thing => thing != Slip(i))
                .Where(n => n.Likeness > 0.3 && Sameness.IsNearlySame(slips[i].Text, slips[n.Thing.Number - 1].Text))
                .ToList();
            marked += near.Count;
            rightly += near.Count(n => Same(n.Thing.Number - 1, i));
            if (near.Any(n => n.Thing.Number - 1 == slips[i].CopyOf))
                found++;
        }
        return new Quality(
            size,
            Share(first),
            Share(three),
            Share(baseline),
            Share(baselineThree),
            error,
            marked == 0 ? 1 : (double)rightly / marked,
            (double)found / copies
        );

        double Share(int count) => (double)count / asked;
        Reference Slip(int i) => new(ThingKind.Slip, i + 1);
        bool Same(int a, int b) => (slips[a].CopyOf ?? a) == (slips[b].CopyOf ?? b);
        IEnumerable<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> Scores(int i) =>
            LikelyTopics.Scores(
                slips[i].Text,
                [
                    .. index
                        .Nearest(slips[i].Text, LikelyTopics.Neighbours, LikelyTopics.Chance, thing => thing != Slip(i))
                        .Select(n => new SortedNear(n, [.. slips[n.Thing.Number - 1].Topics.Select(t => TopicNumber.Of(t + 1))], [])),
                ],
                topics,
                learnt
            );
        // What is guessed was not learnt from.
        bool IsAsked(int i) => i % (step * 2) == step / 2 || i % (step * 2) == step % (step * 2);
        int Draw()
        {
            var at = random.NextDouble() * weights.Sum();
            for (var t = 0; ; t++)
                if ((at -= weights[t]) <= 0 || t == Topics - 1)
                    return t;
        }
        int Skewed() => (int)(OwnWords * Math.Pow(random.NextDouble(), 2));
    }

    private static string Reworded(string text, Random random, Zipf words)
    {
        var all = text.Split(' ').ToList();
        if (random.Next(4) == 0)
            all = [.. all.Skip(all.Count / 2), .. all.Take(all.Count / 2)];
        for (var times = (int)(all.Count * (0.05 + random.NextDouble() * 0.35)) + 1; times > 0; times--)
        {
            var at = random.Next(all.Count);
            switch (random.Next(3))
            {
                case 0:
                    all[at] = words.Word();
                    break;
                case 1:
                    all.Insert(at, words.Word());
                    break;
                default:
                    if (all.Count > 6)
                        all.RemoveAt(at);
                    break;
            }
        }
        return string.Join(' ', all);
    }
}
