using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>A stretch of a text that gives way to another.</summary>
/// <param name="From">Where it begins, in UTF-16 units of the text before all changes.</param>
/// <param name="To">Where it ends.</param>
/// <param name="Insert">What stands there then.</param>
public sealed record TextChange(int From, int To, string? Insert);

/// <summary>A text as changes to the one before it, so that a pause in writing sends what was written and not the whole.</summary>
public static class TextChanges
{
    /// <summary>The text after some changes, which are in order and do not overlap.</summary>
    /// <exception cref="BadInputException">They reach beyond the text, or over each other.</exception>
    public static string Apply(string text, IReadOnlyList<TextChange> changes)
    {
        var next = new StringBuilder(text.Length);
        var at = 0;
        foreach (var change in changes)
        {
            if (change.From < at || change.To < change.From || change.To > text.Length)
                throw new BadInputException("changes", "The changes do not fit the text they are made to; send it whole.");
            next.Append(text, at, change.From - at).Append(change.Insert);
            at = change.To;
        }
        return next.Append(text, at, text.Length - at).ToString();
    }

    /// <summary>By which both sides know that they have the same text: FNV-1a over its UTF-16 units (Fowler, Noll and Vo 1991).</summary>
    public static int Hash(string text)
    {
        var hash = 2166136261u;
        foreach (var unit in text)
            hash = unchecked((hash ^ unit) * 16777619u);
        return unchecked((int)hash);
    }
}
