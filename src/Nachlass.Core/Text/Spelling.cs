namespace Nachlass.Core.Text;

/// <summary>How far apart two spellings are.</summary>
public static class Spelling
{
    /// <summary>
    /// The fewest single letters to put in, leave out, change, or swap with a neighbour, to make one word the other; each place is
    /// changed once at most (optimal string alignment, after Damerau, <i>Communications of the ACM</i> 7 (1964), 171–176).
    /// </summary>
    public static int Distance(string a, string b)
    {
        var before = new int[b.Length + 1];
        var last = new int[b.Length + 1];
        var row = new int[b.Length + 1];
        for (var j = 0; j <= b.Length; j++)
            last[j] = j;
        for (var i = 1; i <= a.Length; i++)
        {
            row[0] = i;
            for (var j = 1; j <= b.Length; j++)
            {
                row[j] = Math.Min(Math.Min(row[j - 1], last[j]) + 1, last[j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1));
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                    row[j] = Math.Min(row[j], before[j - 2] + 1);
            }
            (before, last, row) = (last, row, before);
        }
        return last[b.Length];
    }
}
