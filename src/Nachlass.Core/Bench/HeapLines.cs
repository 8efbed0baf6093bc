namespace Nachlass.Core.Bench;

/// <summary>Takes lines out of a heap of raw words.</summary>
public static class HeapLines
{
    /// <summary>The lines that a choice touches, and the heap without them. Nothing else of the heap changes, but an empty line that would
    /// stand doubled closes up.</summary>
    /// <param name="heap">The heap.</param>
    /// <param name="start">Where the choice begins, in UTF-16 units.</param>
    /// <param name="end">Where it ends.</param>
    public static (string Lines, string Left) Take(string heap, int start, int end)
    {
        var from = Math.Clamp(Math.Min(start, end), 0, heap.Length);
        var to = Math.Clamp(Math.Max(start, end), from, heap.Length);
        // A choice that ends at the beginning of a line does not touch that line.
        if (to > from && heap[to - 1] == '\n')
            to--;
        from = from == 0 ? 0 : heap.LastIndexOf('\n', from - 1) + 1;
        var stop = heap.IndexOf('\n', to);
        var after = stop < 0 ? heap.Length : stop + 1;
        var (before, behind) = (heap[..from], heap[after..]);
        var isDoubled = (before.Length == 0 || before.EndsWith("\n\n", StringComparison.Ordinal)) && behind.StartsWith('\n');
        return (heap[from..(stop < 0 ? heap.Length : stop)].Trim(), before + (isDoubled ? behind[1..] : behind));
    }
}
