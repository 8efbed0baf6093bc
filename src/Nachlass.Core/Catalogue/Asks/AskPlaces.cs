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
    public const double Floor = 0.27;

    private const double LeastLikeness = 0.05;

    /// <summary>So many are placed together; those after them find the asks of those before.</summary>
    private const int Together = 400;

    private readonly List<(IReadOnlyList<(int Root, double Share)> Words, int Ask)> wishes = [];
    private readonly Dictionary<int, int> sizes = [];

    // By the numbers of stems: their names, what holds them, and what comes near, the nearest first.
    private readonly Dictionary<string, int> roots = [];
    private readonly List<string> names = [];
    private readonly List<List<(int Wish, double Share)>> holders = [];
    private readonly List<List<(int Root, double Near)>> neighbours = [];
    private readonly Dictionary<int, double> weights = [];
    private readonly WishLikeness likeness;

    public AskPlaces() =>
        likeness = new WishLikeness(root => roots.TryGetValue(root, out var number) ? holders[number].Count / (wishes.Count + Unheard) : 0);

    /// <summary>As many wishes are counted as if they had been there and had none of these words, so that in the first few no word
    /// counts as common.</summary>
    private const double Unheard = 20;

    /// <summary>How alike two wishes are, 0 to 1.</summary>
    public double Likeness(IReadOnlyList<WishWord> a, IReadOnlyList<WishWord> b) => likeness.Of(a, b);

    /// <summary>Takes in a wish that has its ask.</summary>
    /// <param name="ask">Its ask; 0 for those that ask nothing, which draw others like any ask.</param>
    public void Add(IReadOnlyList<WishWord> words, int ask)
    {
        var numbered = words.Select(w => (Root: Meet(w.Root), w.Share)).ToList();
        foreach (var (root, share) in numbered)
            holders[root].Add((wishes.Count, share));
        wishes.Add((numbered, ask));
        if (ask != Unplaced)
            sizes[ask] = sizes.GetValueOrDefault(ask) + 1;
    }

    /// <summary>Places new wishes and takes them in.</summary>
    /// <param name="added">Their words.</param>
    /// <param name="next">Gives the number of a new ask.</param>
    /// <returns>The ask of each, in their order.</returns>
    public IReadOnlyList<int> Place(IReadOnlyList<IReadOnlyList<WishWord>> added, Func<int> next) =>
        [.. added.Chunk(Together).SelectMany(some => PlaceSome(some, next))];

    private int[] PlaceSome(IReadOnlyList<WishWord>[] added, Func<int> next)
    {
        var first = wishes.Count;
        foreach (var words in added)
            Add(words, Unplaced);
        weights.Clear();
        var groups = new Groups();
        for (var i = first; i < wishes.Count; i++)
            groups.Add(i, 1, null);
        var known = new Dictionary<int, int>();
        for (var i = first; i < wishes.Count; i++)
            foreach (var (j, alike) in AlikeBefore(i))
            {
                var ask = wishes[j].Ask;
                var group = j;
                // All that is in an ask is one group, by the number of one of its wishes.
                if (ask != Unplaced && !known.TryGetValue(ask, out group))
                    groups.Add(known[ask] = group = j, sizes[ask], ask);
                groups.Draw(i, group, alike);
            }
        var placed = new int[added.Length];
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
            }
            sizes[at] = sizes.GetValueOrDefault(at) + news.Count;
        }
        return placed;
    }

    private const int Unplaced = -1;

    /// <summary>The wishes before one that are like it, as <see cref="WishLikeness"/> has it, found through the words they hold: most
    /// pairs share none.</summary>
    private IEnumerable<(int Wish, double Likeness)> AlikeBefore(int one)
    {
        var (own, its) = (new Dictionary<int, double>(), new Dictionary<int, double>());
        var nearest = new Dictionary<int, double>();
        var all = 0.0;
        foreach (var (word, share) in wishes[one].Words)
        {
            var weight = Weight(word) * share;
            all += weight;
            var met = new HashSet<int>();
            foreach (var (root, near) in neighbours[word])
            {
                if (near > nearest.GetValueOrDefault(root))
                    nearest[root] = near;
                foreach (var (wish, _) in holders[root])
                {
                    if (wish >= one)
                        break;
                    // The neighbours stand with the nearest first, so that a wish is met by its nearest word.
                    if (met.Add(wish))
                        own[wish] = own.GetValueOrDefault(wish) + weight * near;
                }
            }
        }
        foreach (var (root, near) in nearest)
        foreach (var (wish, share) in holders[root])
        {
            if (wish >= one)
                break;
            its[wish] = its.GetValueOrDefault(wish) + Weight(root) * share * near;
        }
        foreach (var (wish, sum) in own)
        {
            var whole = wishes[wish].Words.Sum(w => Weight(w.Root) * w.Share);
            yield return (wish, (all == 0 || whole == 0 ? 0 : sum / all + its[wish] / whole) / 2);
        }
    }

    private double Weight(int root)
    {
        if (!weights.TryGetValue(root, out var weight))
            weights[root] = weight = likeness.Weight(names[root]);
        return weight;
    }

    /// <summary>The number of a stem; one that is new here is held against all others, once.</summary>
    private int Meet(string root)
    {
        if (roots.TryGetValue(root, out var known))
            return known;
        var number = names.Count;
        var its = new List<(int Root, double Near)> { (number, 1) };
        for (var other = 0; other < number; other++)
            if (likeness.Near(root, names[other]) is var near and > 0)
            {
                its.Add((other, near));
                var theirs = neighbours[other];
                var place = theirs.FindIndex(n => n.Near < near);
                theirs.Insert(place < 0 ? theirs.Count : place, (number, near));
            }
        roots[root] = number;
        names.Add(root);
        holders.Add([]);
        neighbours.Add([.. its.OrderByDescending(n => n.Near)]);
        return number;
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

        public void Draw(int a, int b, double likeness)
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
