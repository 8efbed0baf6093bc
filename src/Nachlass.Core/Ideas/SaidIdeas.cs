namespace Nachlass.Core.Ideas;

/// <summary>What has been said, so that nothing is proposed twice in other words.</summary>
public sealed class SaidIdeas
{
    private readonly Func<string, double> rarity;
    private readonly List<double> weights = [];
    private readonly int before;
    private readonly Dictionary<string, List<int>> holding = [];

    /// <param name="known">What was said before.</param>
    /// <param name="rarity">What a root weighs, 1 or more, the rarer the more.</param>
    public SaidIdeas(IEnumerable<string> known, Func<string, double> rarity)
    {
        this.rarity = rarity;
        foreach (var text in known)
            Put(IdeaMaker.Roots(text));
        before = weights.Count;
    }

    /// <summary>Takes it in unless it, or what is nearly the same, is there already.</summary>
    /// <param name="isOfThese">Whether that was taken in here, and was not known before.</param>
    public bool Add(string text, out bool isOfThese)
    {
        isOfThese = false;
        var roots = IdeaMaker.Roots(text);
        var weight = roots.Sum(rarity);
        var shared = new Dictionary<int, double>();
        foreach (var root in roots)
        foreach (var at in holding.GetValueOrDefault(root) ?? [])
            shared[at] = shared.GetValueOrDefault(at) + rarity(root);
        foreach (var (at, both) in shared)
            if (both / (weight + weights[at] - both) >= IdeaMaker.NearSame)
            {
                isOfThese = at >= before;
                return false;
            }
        Put(roots);
        return true;
    }

    private void Put(HashSet<string> roots)
    {
        foreach (var root in roots)
            if (holding.TryGetValue(root, out var at))
                at.Add(weights.Count);
            else
                holding[root] = [weights.Count];
        weights.Add(roots.Sum(rarity));
    }
}
