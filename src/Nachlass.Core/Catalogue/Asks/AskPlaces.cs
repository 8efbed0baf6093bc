namespace Nachlass.Core.Catalogue.Asks;

/// <summary>
/// Finds for wishes the asks they belong to. What has an ask keeps it, so that a new message moves none of the others and what was joined
/// or parted by hand stays; it draws to it what comes after.
/// </summary>
/// <remarks>
/// Group-average agglomerative clustering (Manning, Raghavan and Schütze, <i>Introduction to Information Retrieval</i> (2008), section
/// 17.3) of the new wishes, in which each ask that is there already is one group from the start and no two of them are joined. Only
/// wishes that share a word or come near in one are held against each other. The constants are set on labelled messages; see the bench.
/// </remarks>
public sealed class AskPlaces
{
    /// <summary>From this likeness on two groups of wishes are one ask.</summary>
    public const double Floor = 0.23;

    private const double LeastLikeness = 0.05;

    private readonly List<(IReadOnlyList<WishWord> Words, int Ask)> wishes = [];
    private readonly Dictionary<string, List<int>> holders = [];
    private readonly Dictionary<string, List<string>> neighbours = [];
    private readonly WishLikeness likeness;

    public AskPlaces() =>
        likeness = new WishLikeness(root => holders.TryGetValue(root, out var has) ? has.Count / (wishes.Count + Unheard) : 0);

    /// <summary>As many wishes are counted as if they had been there and had none of these words, so that in the first few no word
    /// counts as common.</summary>
    private const double Unheard = 20;

    /// <summary>How alike two wishes are, 0 to 1.</summary>
    public double Likeness(IReadOnlyList<WishWord> a, IReadOnlyList<WishWord> b) => likeness.Of(a, b);

    /// <summary>Takes in a wish that has its ask.</summary>
    /// <param name="ask">Its ask; 0 for those that ask nothing, which draw others like any ask.</param>
    public void Add(IReadOnlyList<WishWord> words, int ask)
    {
        foreach (var word in words)
        {
            Meet(word.Root);
            holders[word.Root].Add(wishes.Count);
        }
        wishes.Add((words, ask));
    }

    /// <summary>Places new wishes and takes them in.</summary>
    /// <param name="added">Their words.</param>
    /// <param name="next">Gives the number of a new ask.</param>
    /// <returns>The ask of each, in their order.</returns>
    public IReadOnlyList<int> Place(IReadOnlyList<IReadOnlyList<WishWord>> added, Func<int> next)
    {
        var first = wishes.Count;
        foreach (var words in added)
            Add(words, Unplaced);
        var groups = new Groups();
        for (var i = first; i < wishes.Count; i++)
            groups.Add(i, 1, null);
        var known = new Dictionary<int, int>();
        for (var i = first; i < wishes.Count; i++)
            foreach (var j in Near(wishes[i].Words).Where(j => j < i))
            {
                var ask = wishes[j].Ask;
                if (ask == Unplaced)
                    groups.Draw(i, j, likeness.Of(wishes[i].Words, wishes[j].Words), 1);
                else
                {
                    // All that is in an ask is one group, by the number of one of its wishes.
                    if (!known.TryGetValue(ask, out var group))
                        groups.Add(known[ask] = group = j, Size(ask), ask);
                    groups.Draw(i, group, likeness.Of(wishes[i].Words, wishes[j].Words), Size(ask));
                }
            }
        var placed = new int[added.Count];
        foreach (var (members, ask) in groups.Join(Floor).OrderBy(g => g.Members.Min()))
        {
            var news = members.Where(m => m >= first).ToList();
            if (news.Count == 0)
                continue;
            var at = ask ?? next();
            foreach (var wish in news)
            {
                placed[wish - first] = at;
                wishes[wish] = (wishes[wish].Words, at);
                sizes[at] = Size(at) + 1;
            }
        }
        return placed;
    }

    private const int Unplaced = -1;
    private readonly Dictionary<int, int> sizes = [];

    private int Size(int ask)
    {
        if (!sizes.TryGetValue(ask, out var size))
            sizes[ask] = size = wishes.Count(w => w.Ask == ask);
        return size;
    }

    /// <summary>The wishes that share a word with these or have one that comes near.</summary>
    private HashSet<int> Near(IReadOnlyList<WishWord> words)
    {
        var near = new HashSet<int>();
        foreach (var word in words)
        foreach (var root in neighbours[word.Root])
            near.UnionWith(holders[root]);
        return near;
    }

    /// <summary>Holds a stem that is new here against all others, once.</summary>
    private void Meet(string root)
    {
        if (holders.ContainsKey(root))
            return;
        var its = new List<string> { root };
        foreach (var other in holders.Keys)
            if (likeness.Near(root, other) > 0)
            {
                its.Add(other);
                neighbours[other].Add(root);
            }
        holders[root] = [];
        neighbours[root] = its;
    }

    /// <summary>Groups that are joined two by two, the nearest first.</summary>
    private sealed class Groups
    {
        private readonly Dictionary<int, Group> all = [];
        private readonly PriorityQueue<(int A, int B, double Mean), double> nearest = new();

        private sealed class Group(int size, int? ask)
        {
            public int Size { get; set; } = size;
            public int? Ask { get; set; } = ask;
            public List<int> Members { get; } = [];

            /// <summary>The sum of likenesses to the wishes of other groups.</summary>
            public Dictionary<int, double> To { get; } = [];
        }

        public void Add(int number, int size, int? ask) => (all[number] = new Group(size, ask)).Members.Add(number);

        public void Draw(int a, int b, double likeness, int size)
        {
            if (likeness < LeastLikeness)
                return;
            all[a].To[b] = all[b].To[a] = all[a].To.GetValueOrDefault(b) + likeness;
        }

        private double Mean(Group a, int b) => a.To[b] / ((double)a.Size * all[b].Size);

        public IEnumerable<(List<int> Members, int? Ask)> Join(double floor)
        {
            foreach (var (number, group) in all)
            foreach (var other in group.To.Keys.Where(o => o < number))
                Offer(number, other, floor);
            while (nearest.TryDequeue(out var pair, out _))
            {
                // What was joined meanwhile, or has another mean by now, has been offered anew.
                if (
                    !all.TryGetValue(pair.A, out var a)
                    || !all.TryGetValue(pair.B, out var b)
                    || !a.To.ContainsKey(pair.B)
                    || Mean(a, pair.B) != pair.Mean
                )
                    continue;
                all.Remove(pair.B);
                a.To.Remove(pair.B);
                a.Members.AddRange(b.Members);
                a.Size += b.Size;
                a.Ask ??= b.Ask;
                foreach (var (other, sum) in b.To.Where(t => t.Key != pair.A))
                {
                    all[other].To.Remove(pair.B);
                    a.To[other] = all[other].To[pair.A] = a.To.GetValueOrDefault(other) + sum;
                }
                foreach (var other in a.To.Keys)
                    Offer(pair.A, other, floor);
            }
            return all.Values.Select(g => (g.Members, g.Ask));
        }

        private void Offer(int a, int b, double floor)
        {
            // Two asks that are there stay two.
            if ((all[a].Ask is null || all[b].Ask is null) && Mean(all[a], b) is var mean && mean >= floor)
                nearest.Enqueue((a, b, mean), -mean);
        }
    }
}
