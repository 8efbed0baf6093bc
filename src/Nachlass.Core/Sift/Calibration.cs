namespace Nachlass.Core.Sift;

/// <summary>
/// Turns a score into how often such a score was right: the share of earlier guesses with that score that the writer agreed
/// with, made to rise with the score by pooling neighbours that fall (isotonic regression by pool adjacent violators: Ayer et al.,
/// <i>Annals of Mathematical Statistics</i> 26 (1955); for classifiers: Zadrozny and Elkan, KDD 2002).
/// </summary>
public sealed class Calibration
{
    /// <summary>With fewer guesses to learn from, a score stands for itself.</summary>
    public const int Fewest = 60;

    /// <summary>Nothing learnt yet.</summary>
    public static readonly Calibration None = new([]);

    private readonly (double Score, double Share)[] steps;

    private Calibration((double, double)[] steps) => this.steps = steps;

    /// <summary>How many guesses a calibration learns at least from.</summary>
    public bool IsLearnt => steps.Length > 0;

    /// <summary>Learns from guesses whose answer is known.</summary>
    /// <param name="guesses">The score each had, and whether it was right.</param>
    public static Calibration From(IEnumerable<(double Score, bool IsRight)> guesses)
    {
        var inOrder = guesses.OrderBy(g => g.Score).ToList();
        if (inOrder.Count < Fewest)
            return None;
        var blocks = new List<(double From, double To, double Right, int Count)>();
        // Tens of neighbours to begin with, so that no single guess makes a share of 0 or 1.
        foreach (var chunk in inOrder.Chunk(Math.Max(10, inOrder.Count / 60)))
        {
            blocks.Add((chunk[0].Score, chunk[^1].Score, chunk.Count(g => g.IsRight), chunk.Length));
            while (blocks.Count > 1 && Share(blocks[^2]) >= Share(blocks[^1]))
            {
                var (last, before) = (blocks[^1], blocks[^2]);
                blocks.RemoveRange(blocks.Count - 2, 2);
                blocks.Add((before.From, last.To, before.Right + last.Right, before.Count + last.Count));
            }
        }
        // A block holds from its first score to its last; only between two of them it goes straight.
        return new Calibration([.. blocks.SelectMany(b => new[] { (b.From, Share(b)), (b.To, Share(b)) })]);

        // Laplace's rule of succession: one right and one wrong more than were seen.
        static double Share((double From, double To, double Right, int Count) block) => (block.Right + 1) / (block.Count + 2);
    }

    /// <summary>How often such a score was right, 0 to 1; between the scores it learnt from it goes straight.</summary>
    public double Of(double score)
    {
        if (steps.Length == 0)
            return score;
        var at = Array.FindIndex(steps, step => step.Score >= score);
        if (at < 0)
            return steps[^1].Share;
        if (at == 0)
            return steps[0].Score <= 0 ? steps[0].Share : steps[0].Share * Math.Max(0, score) / steps[0].Score;
        var (low, high) = (steps[at - 1], steps[at]);
        return high.Score - low.Score < 1e-12
            ? high.Share
            : low.Share + (high.Share - low.Share) * (score - low.Score) / (high.Score - low.Score);
    }
}
