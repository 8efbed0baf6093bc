using System.Runtime.InteropServices;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>
/// Finds for wishes the asks they belong to. What has an ask keeps it, so that what was joined or parted by hand stays, and draws to it
/// what comes after; but for those that are to be placed again with the new ones.
/// </summary>
/// <remarks>
/// Group-average agglomerative clustering (Manning, Raghavan and Schütze, <i>Introduction to Information Retrieval</i> (2008), section
/// 17.3) of the new wishes, in which each ask that is there already is one group from the start and no two of them are joined. Wishes
/// whose meaning was read are held against each other by that (<see cref="WishMeanings"/>); else by their words
/// (<see cref="WishLikeness"/>), and then only those that share one or come near in one. The constants are set on labelled messages; see
/// the bench.
/// </remarks>
public sealed class AskPlaces
{
    /// <summary>From this likeness of words on two groups of wishes are one ask.</summary>
    public const double Floor = 0.27;

    /// <summary>From this likeness of meanings on two groups of wishes are one ask.</summary>
    public const double MeaningFloor = 2.2;

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
    private readonly WishLikeness likeness;
    private readonly WishMeanings meanings = new();

    // While some are placed, what each stem weighs and all words of each wish: both are asked for millions of times.
    private double[] weights = [],
        wholes = [];

    public AskPlaces() =>
        likeness = new WishLikeness(root => roots.TryGetValue(root, out var number) ? holders[number].Count / (wishes.Count + Unheard) : 0);

    /// <summary>As many wishes are counted as if they had been there and had none of these words, so that in the first few no word
    /// counts as common.</summary>
    private const double Unheard = 20;

    /// <summary>How alike two wishes are, 0 to 1.</summary>
    public double Likeness(IReadOnlyList<WishWord> a, IReadOnlyList<WishWord> b) => likeness.Of(a, b);

    /// <summary>Takes in a wish that has its ask.</summary>
    /// <param name="ask">Its ask; 0 for those that ask nothing, which draw others like any ask.</param>
    public void Add(Wish wish, int ask)
    {
        meanings.Add(wish.Meaning);
        var numbered = wish.Words.Select(w => (Root: Meet(w.Root), w.Share)).ToList();
        foreach (var (root, share) in numbered)
            holders[root].Add((wishes.Count, share));
        wishes.Add((numbered, ask));
        if (ask != Unplaced)
            sizes[ask] = sizes.GetValueOrDefault(ask) + 1;
    }

    /// <summary>Takes in what a wish means that was taken in without.</summary>
    /// <param name="at">The how manieth it was.</param>
    public void Know(int at, float[] meaning) => meanings.Know(at, meaning);

    /// <summary>Takes new wishes in and places them: by what they mean when that was read of all of them.</summary>
    /// <param name="next">Gives the number of a new ask.</param>
    /// <param name="again">Those that were taken in before and are to be placed again with them, by the how manieth they were; all of
    /// them and of the new ones have to be read. An ask of theirs keeps its number where the first of its wishes goes.</param>
    /// <returns>The ask of each, those that are placed again before the new ones.</returns>
    public IReadOnlyList<int> Place(IReadOnlyList<Wish> added, Func<int> next, params IReadOnlyList<int> again)
    {
        var areRead = added.All(w => w.Meaning is not null);
        var news = again.Select(wish => (Wish: wish, Was: TakeOut(wish))).ToList();
        foreach (var wish in added)
        {
            news.Add((wishes.Count, Unplaced));
            Add(wish, Unplaced);
        }
        foreach (var some in news.Chunk(Together))
            PlaceSome(some.ToDictionary(n => n.Wish, n => n.Was), areRead, next);
        return [.. news.Select(n => wishes[n.Wish].Ask)];
    }

    /// <returns>The ask it was in.</returns>
    private int TakeOut(int wish)
    {
        var (words, ask) = wishes[wish];
        wishes[wish] = (words, Unplaced);
        if (--sizes[ask] == 0)
            sizes.Remove(ask);
        return ask;
    }

    /// <param name="news">Wishes with the asks they were in.</param>
    private void PlaceSome(Dictionary<int, int> news, bool areRead, Func<int> next)
    {
        var groups = new Groups();
        foreach (var wish in news.Keys)
            groups.Add(wish, 1, null);
        if (areRead)
            DrawByMeaning(groups, [.. news.Keys]);
        else
            DrawByWords(groups, news.Keys.Min());
        foreach (var (members, ask) in groups.Join(areRead ? MeaningFloor : Floor).OrderBy(g => g.Members.Min()))
        {
            var own = members.Where(news.ContainsKey).Order().ToList();
            if (own.Count == 0)
                continue;
            var at = ask ?? own.Select(m => news[m]).FirstOrDefault(was => was > 0 && !sizes.ContainsKey(was));
            if (ask is null && at == 0)
                at = next();
            foreach (var wish in own)
                wishes[wish] = (wishes[wish].Words, at);
            sizes[at] = sizes.GetValueOrDefault(at) + own.Count;
        }
    }

    private void DrawByMeaning(Groups groups, int[] news)
    {
        var seen = meanings.See();
        var there = Enumerable
            .Range(0, wishes.Count)
            .Where(j => wishes[j].Ask != Unplaced && seen.Knows(j))
            .GroupBy(j => wishes[j].Ask)
            .ToList();
        foreach (var ask in there)
            groups.Meet(ask.First(), ask.Count(), ask.Key);
        var sums = there.Select(ask => (Group: ask.First(), Sum: seen.Sum(ask))).ToList();
        foreach (var (at, wish) in news.Index())
        {
            foreach (var (group, sum) in sums)
                groups.Draw(wish, group, seen.Likeness(wish, sum));
            foreach (var other in news.Take(at))
                groups.Draw(wish, other, seen.Likeness(wish, other));
        }
    }

    private void DrawByWords(Groups groups, int first)
    {
        weights = [.. names.Select(likeness.Weight)];
        wholes = [.. wishes.Select(w => w.Words.Sum(word => weights[word.Root] * word.Share))];
        // All that is in an ask is one group, by the number of its first wish.
        var groupOf = Enumerable.Range(0, wishes.Count).ToArray();
        var firstOf = new Dictionary<int, int>();
        for (var j = 0; j < first; j++)
            if (!firstOf.TryAdd(wishes[j].Ask, j))
                groupOf[j] = firstOf[wishes[j].Ask];
        var (drawn, to) = (new double[wishes.Count], new List<int>());
        for (var i = first; i < wishes.Count && i < first + Together; i++)
        {
            // Added up for each group first: a wish may be like thousands that are in a few asks.
            foreach (var (j, alike) in AlikeBefore(i))
            {
                if (alike < LeastLikeness)
                    continue;
                var group = groupOf[j];
                if (drawn[group] == 0)
                    to.Add(group);
                drawn[group] += alike;
            }
            foreach (var group in to)
            {
                if (group < first)
                    groups.Meet(group, sizes[wishes[group].Ask], wishes[group].Ask);
                groups.Draw(i, group, drawn[group]);
                drawn[group] = 0;
            }
            to.Clear();
        }
    }

    private const int Unplaced = -1;

    /// <summary>The wishes before one that are like it, as <see cref="WishLikeness"/> has it, found through the words they hold: most
    /// pairs share none.</summary>
    private List<(int Wish, double Likeness)> AlikeBefore(int one)
    {
        sums.Begin(wishes.Count, names.Count);
        var all = wholes[one];
        foreach (var (word, share) in wishes[one].Words)
        {
            var weight = weights[word] * share;
            sums.BeginWord();
            foreach (var (root, near) in CollectionsMarshal.AsSpan(neighbours[word]))
            {
                sums.Nearest(root, near);
                foreach (var (wish, _) in CollectionsMarshal.AsSpan(holders[root]))
                {
                    if (wish >= one)
                        break;
                    // The neighbours stand with the nearest first, so that a wish is met by its nearest word.
                    if (sums.Meets(wish))
                        sums.Own[wish] += weight * near;
                }
            }
        }
        foreach (var root in sums.Roots)
        {
            var weight = weights[root] * sums.Near[root];
            foreach (var (wish, share) in CollectionsMarshal.AsSpan(holders[root]))
            {
                if (wish >= one)
                    break;
                sums.Its[wish] += weight * share;
            }
        }
        var alike = new List<(int, double)>(sums.Met.Count);
        foreach (var wish in sums.Met)
        {
            var whole = wholes[wish];
            alike.Add((wish, (all == 0 || whole == 0 ? 0 : sums.Own[wish] / all + sums.Its[wish] / whole) / 2));
        }
        return alike;
    }

    private readonly Sums sums = new();

    /// <summary>Room for adding up what one wish has in common with each before it, used again for the next: by numbers of wishes and
    /// stems, since thousands of both are met of each wish.</summary>
    private sealed class Sums
    {
        private int[] metAt = [],
            wordAt = [],
            rootAt = [];
        private int turn,
            word;

        public double[] Own { get; private set; } = [];
        public double[] Its { get; private set; } = [];
        public double[] Near { get; private set; } = [];

        /// <summary>Wishes that were met.</summary>
        public List<int> Met { get; } = [];

        /// <summary>Stems that were met.</summary>
        public List<int> Roots { get; } = [];

        public void Begin(int wishes, int stems)
        {
            if (Own.Length < wishes)
                (Own, Its, metAt, wordAt) = (new double[wishes * 2], new double[wishes * 2], new int[wishes * 2], new int[wishes * 2]);
            if (Near.Length < stems)
                (Near, rootAt) = (new double[stems * 2], new int[stems * 2]);
            turn++;
            Met.Clear();
            Roots.Clear();
        }

        public void BeginWord() => word++;

        public void Nearest(int root, double near)
        {
            if (rootAt[root] != turn)
            {
                (rootAt[root], Near[root]) = (turn, near);
                Roots.Add(root);
            }
            else if (near > Near[root])
                Near[root] = near;
        }

        /// <returns>Whether this word had not met the wish before.</returns>
        public bool Meets(int wish)
        {
            if (wordAt[wish] == word)
                return false;
            wordAt[wish] = word;
            if (metAt[wish] != turn)
            {
                (metAt[wish], Own[wish], Its[wish]) = (turn, 0, 0);
                Met.Add(wish);
            }
            return true;
        }
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

        /// <summary>Adds a group that may be there.</summary>
        public void Meet(int number, int size, int? ask)
        {
            if (!all.ContainsKey(number))
                Add(number, size, ask);
        }

        public void Draw(int a, int b, double likeness) => all[a].To[b] = all[b].To[a] = all[a].To.GetValueOrDefault(b) + likeness;

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
