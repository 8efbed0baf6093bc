using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Text;

/// <summary>A place where a text names something without linking to it.</summary>
/// <param name="Start">Where it starts.</param>
/// <param name="Length">How long it is.</param>
/// <param name="Words">As it stands there.</param>
public sealed record Mention(int Start, int Length, string Words);

/// <summary>Names in texts: found, linked and followed when they change.</summary>
public static partial class Mentions
{
    /// <summary>The places where a text names something outside of links, tags, code and addresses; endings may differ in a one-word name's
    /// plural.</summary>
    /// <param name="text">A Markdown text.</param>
    /// <param name="names">The names of the thing, the longer ones found first.</param>
    public static IReadOnlyList<Mention> In(string text, IEnumerable<string> names)
    {
        var taken = Closed().Matches(text).Select(m => (m.Index, End: m.Index + m.Length)).ToList();
        var found = new List<Mention>();
        foreach (var name in names.Where(n => n.Trim().Length > 2).OrderByDescending(n => n.Length))
        foreach (
            Match match in Regex.Matches(
                text,
                @"(?<![\w#])" + Regex.Escape(name.Trim()) + @"(?!\w)",
                RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
            )
        )
        {
            if (taken.Any(t => match.Index < t.End && match.Index + match.Length > t.Index))
                continue;
            taken.Add((match.Index, match.Index + match.Length));
            found.Add(new Mention(match.Index, match.Length, match.Value));
        }
        return [.. found.OrderBy(m => m.Start)];
    }

    /// <summary>The text with the first unlinked mention made a link; null when there is none.</summary>
    /// <param name="text">A Markdown text.</param>
    /// <param name="names">The names of the thing.</param>
    /// <param name="behind">What the link says where the words themselves don't lead there, such as a number; it is put in brackets behind
    /// them.</param>
    public static string? Link(string text, IEnumerable<string> names, string? behind = null)
    {
        if (In(text, names) is not [var first, ..])
            return null;
        var (before, after) = (text[..first.Start], text[(first.Start + first.Length)..]);
        return behind is null || first.Words.Equals(behind, StringComparison.OrdinalIgnoreCase)
            ? $"{before}[[{first.Words}]]{after}"
            : $"{before}{first.Words} [[{behind}]]{after}";
    }

    /// <summary>The text with a thing's old name replaced wherever a link or a tag gives it; all else stays to the letter.</summary>
    /// <param name="text">A Markdown text.</param>
    /// <param name="old">The names that are given up.</param>
    /// <param name="name">The name that stands for them.</param>
    /// <param name="tags">Whether <c>#tags</c> are names of it too.</param>
    /// <param name="isOther">Whether a name with a comma is the whole name of something else, not this thing's with a section behind
    /// it.</param>
    public static string Renamed(string text, IReadOnlyCollection<string> old, string name, bool tags, Func<string, bool>? isOther = null)
    {
        var gone = new HashSet<string>(old, StringComparer.OrdinalIgnoreCase);
        var renamed = References.Renamed(
            text,
            inside =>
                gone.Contains(inside) ? name
                : References.WithPart(inside).FirstOrDefault(w => gone.Contains(w.Name)) is { Name: not null } with
                && isOther?.Invoke(inside) != true
                    ? $"{name}, {with.Part}"
                : inside
        );
        return tags
            ? Tag().Replace(renamed, m => gone.Contains(TopicName.FromTag(m.Groups[1].Value)) ? "#" + name.Replace(' ', '-') : m.Value)
            : renamed;
    }

    /// <summary>The text with a section's new heading wherever a link leads to that section.</summary>
    /// <param name="text">A Markdown text.</param>
    /// <param name="thing">The piece or source the section is in.</param>
    /// <param name="names">Its titles.</param>
    /// <param name="old">The heading that is given up.</param>
    /// <param name="heading">The heading that stands for it.</param>
    public static string PartRenamed(string text, Reference thing, IReadOnlyCollection<string> names, string old, string heading) =>
        References.Renamed(
            text,
            inside =>
            {
                if (References.Read(inside) is { Part.Length: > 0 } numbered)
                    return numbered.Thing == thing && IsOld(numbered.Part) ? inside[..^numbered.Part.Length] + heading : inside;
                return
                    References
                        .WithPart(inside)
                        .FirstOrDefault(w => IsOld(w.Part) && names.Contains(w.Name, StringComparer.OrdinalIgnoreCase))
                        is { Name: not null } with
                    ? $"{with.Name}, {heading}"
                    : inside;

                bool IsOld(string part) => part.Equals(old, StringComparison.OrdinalIgnoreCase);
            }
        );

    [GeneratedRegex(
        @"(?<!\\)\[\[[^\[\]\r\n]*\]\]|```[\s\S]*?(?:```|$)|`[^`\n]*`|\]\([^)\s]*\)|\bhttps?://\S+|(?<![\w#&/\\])#\p{L}[\p{L}\p{N}_-]*",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Closed();

    [GeneratedRegex(@"(?<![\w#&/\\])#(\p{L}[\p{L}\p{N}_-]*)")]
    private static partial Regex Tag();
}
