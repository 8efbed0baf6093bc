namespace Nachlass.Core.Text;

/// <summary>Something a writer says to themselves in the draft.</summary>
/// <param name="Text">What it says.</param>
/// <param name="From">Where it begins in the draft, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
public sealed record Remark(string Text, int From, int To);

/// <summary>
/// Remarks to oneself are HTML comments (CommonMark 6.6), which no reader of Markdown shows: <c>&lt;!-- ask Pell --&gt;</c>. They are never
/// counted and never go out.
/// </summary>
public static class Remarks
{
    private const string Opening = "<!--",
        Closing = "-->";

    /// <summary>The remarks of a text in order. One that is never closed is none, nor one behind a backslash.</summary>
    public static IReadOnlyList<Remark> In(string text)
    {
        var remarks = new List<Remark>();
        for (var at = 0; (at = text.IndexOf(Opening, at, StringComparison.Ordinal)) >= 0; )
        {
            if (at > 0 && text[at - 1] == '\\')
            {
                at += Opening.Length;
                continue;
            }
            var end = text.IndexOf(Closing, at + Opening.Length, StringComparison.Ordinal);
            if (end < 0)
                break;
            remarks.Add(new Remark(text[(at + Opening.Length)..end].Trim(), at, end + Closing.Length));
            at = end + Closing.Length;
        }
        return remarks;
    }

    /// <summary>The text without them. A paragraph that is nothing but a remark goes with its line; inside a line the space before it
    /// goes along.</summary>
    public static string Without(string text)
    {
        var remarks = In(text);
        if (remarks.Count == 0)
            return text;
        var rest = new System.Text.StringBuilder(text.Length);
        var at = 0;
        foreach (var remark in remarks)
        {
            var (from, to) = Around(text, remark);
            if (from > at)
                rest.Append(text, at, from - at);
            at = Math.Max(at, to);
        }
        return rest.Append(text, at, text.Length - at).ToString();
    }

    /// <summary>The stretch that goes with a remark.</summary>
    /// <returns>Both ends, in UTF-16 units.</returns>
    public static (int From, int To) Around(string text, Remark remark)
    {
        var (from, to) = (remark.From, remark.To);
        while (from > 0 && text[from - 1] is ' ' or '\t')
            from--;
        var isAlone = from == 0 || text[from - 1] == '\n';
        if (!isAlone)
            return (from, to);
        while (to < text.Length && text[to] is ' ' or '\t')
            to++;
        if (to < text.Length && text[to] != '\n')
            return (from, to);
        // With its line's end, and with one of the empty lines around it.
        for (var lines = 0; lines < 2 && to < text.Length && text[to] == '\n'; lines++)
            to++;
        return (from, to);
    }
}
