namespace Nachlass.Core.Text;

/// <summary>
/// The terms of an index and the texts that hold each. Made for papers of a hundred thousand texts, most of whose terms (pairs
/// of neighbouring words) stand in one text only: such a term takes twenty bytes, and an array comes with the second text.
/// </summary>
internal sealed class Postings
{
    private const int Empty = -1;

    /// <summary>How full the table of terms may be before it grows, and by how much.</summary>
    private const double Load = 0.75,
        Growth = 1.4;

    // Open addressing with linear probing (Knuth, The Art of Computer Programming 3, 6.4): the keys are hashes already.
    private ulong[] keys = new ulong[64];
    private int[] ids = Filled(64);
    private Head[] heads = new Head[64];
    private readonly Dictionary<int, int[]> more = [];

    /// <summary>How many terms there are.</summary>
    public int Count { get; private set; }

    /// <summary>One term: the only text that holds it, or the first it had; how many hold it; whether it is a pair of words.</summary>
    private struct Head
    {
        public int First;
        public int CountAndPair;
    }

    /// <summary>The term with this key; negative when there is none.</summary>
    public int Find(ulong key)
    {
        for (var at = Place(key, keys.Length); ; at = at + 1 == keys.Length ? 0 : at + 1)
            if (ids[at] == Empty || keys[at] == key)
                return ids[at];
    }

    /// <summary>The term with this key, made when there is none.</summary>
    public int FindOrAdd(ulong key, bool isPair)
    {
        var id = Find(key);
        if (id >= 0)
            return id;
        if (Count >= keys.Length * Load)
            Grow();
        Put(key, Count);
        if (Count == heads.Length)
            Array.Resize(ref heads, (int)(heads.Length * Growth));
        heads[Count].CountAndPair = isPair ? 1 : 0;
        return Count++;
    }

    /// <summary>How many texts hold a term.</summary>
    public int Holders(int id) => heads[id].CountAndPair >> 1;

    public bool IsPair(int id) => (heads[id].CountAndPair & 1) == 1;

    /// <summary>The texts that hold a term, packed.</summary>
    public ReadOnlySpan<int> Of(int id)
    {
        var count = Holders(id);
        if (more.TryGetValue(id, out var all))
            return all.AsSpan(0, count);
        return count == 0 ? [] : new ReadOnlySpan<int>(in heads[id].First);
    }

    public void Add(int id, int posting)
    {
        var count = Holders(id);
        if (more.TryGetValue(id, out var all))
        {
            if (count == all.Length)
                more[id] = Resized(all, count + Math.Max(2, count / 2));
            more[id][count] = posting;
        }
        else if (count == 0)
            heads[id].First = posting;
        else
            more[id] = [heads[id].First, posting];
        heads[id].CountAndPair += 2;
    }

    public void Remove(int id, int posting)
    {
        var count = Holders(id);
        if (more.TryGetValue(id, out var all))
        {
            var at = Array.IndexOf(all, posting, 0, count);
            if (at < 0)
                return;
            all[at] = all[count - 1];
        }
        heads[id].CountAndPair -= 2;
    }

    private static int Place(ulong key, int length) => (int)Math.BigMul(key, (ulong)length, out _);

    private void Put(ulong key, int id)
    {
        var at = Place(key, keys.Length);
        while (ids[at] != Empty)
            at = at + 1 == keys.Length ? 0 : at + 1;
        (keys[at], ids[at]) = (key, id);
    }

    private void Grow()
    {
        var (oldKeys, oldIds) = (keys, ids);
        var length = (int)(oldKeys.Length * Growth) + 16;
        (keys, ids) = (new ulong[length], Filled(length));
        for (var i = 0; i < oldIds.Length; i++)
            if (oldIds[i] != Empty)
                Put(oldKeys[i], oldIds[i]);
    }

    private static int[] Resized(int[] array, int length)
    {
        Array.Resize(ref array, length);
        return array;
    }

    private static int[] Filled(int length)
    {
        var filled = new int[length];
        Array.Fill(filled, Empty);
        return filled;
    }
}
