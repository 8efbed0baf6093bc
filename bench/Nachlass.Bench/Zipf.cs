namespace Nachlass.Bench;

/// <summary>Words whose frequency falls with their rank (Zipf 1949), as in any real text.</summary>
internal sealed class Zipf
{
    private readonly Random random;
    private readonly string[] words;
    private readonly double[] upTo;

    public Zipf(int count, Random random)
    {
        this.random = random;
        string[] syllables = ["ba", "ro", "ti", "len", "sa", "mur", "ke", "dol", "vi", "nas", "to", "fer", "gu", "lim", "pa", "rek"];
        words = [.. Enumerable.Range(0, count).Select(i => string.Concat(Digits(i + 16).Select(d => syllables[d])))];
        upTo = new double[count];
        var sum = 0.0;
        for (var i = 0; i < count; i++)
            upTo[i] = sum += 1.0 / (i + 1);
    }

    private static IEnumerable<int> Digits(int number)
    {
        for (; number > 0; number /= 16)
            yield return number % 16;
    }

    public string Word()
    {
        var at = Array.BinarySearch(upTo, random.NextDouble() * upTo[^1]);
        return words[Math.Min(words.Length - 1, at < 0 ? ~at : at)];
    }

    public string Text() => string.Join(' ', Enumerable.Range(0, random.Next(12, 60)).Select(_ => Word()));

    /// <summary>The word of a rank.</summary>
    public string At(int rank) => words[rank];

    /// <summary>A word of the middle ranks, as people search for.</summary>
    public string Rare() => words[random.Next(200, 4_000)];
}
