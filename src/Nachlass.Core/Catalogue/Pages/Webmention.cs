using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Pages;

/// <summary>Mentions of a page elsewhere, as they are told by Webmention (W3C Recommendation, 12 January 2017).</summary>
public static class Webmention
{
    public const int LongestAddress = 2_000;

    /// <summary>A mention that can be held.</summary>
    /// <param name="source">The page that mentions.</param>
    /// <param name="target">The page that is mentioned.</param>
    /// <param name="site">Where the writer's own site begins.</param>
    /// <returns>The source, and the address of the page within the site.</returns>
    /// <exception cref="BadInputException">One of them is no web address, they are the same, or the target is none of the
    /// site.</exception>
    public static (string Source, string Slug) Checked(string? source, string? target, Uri site)
    {
        var from = Address("source", source);
        var to = Address("target", target);
        if (from == to)
            throw new BadInputException("source", "A page does not mention itself.");
        var rest = site.MakeRelativeUri(to);
        var slug = rest.IsAbsoluteUri ? "" : rest.OriginalString.Split('#', '?')[0].Trim('/');
        return slug.Length > 0 && !slug.Contains('/', StringComparison.Ordinal) && slug != ".."
            ? (from.AbsoluteUri, slug)
            : throw new BadInputException("target", "There is no such page here.");
    }

    private static Uri Address(string field, string? said) =>
        said is { Length: > 0 and <= LongestAddress }
        && Uri.TryCreate(said, UriKind.Absolute, out var address)
        && address.Scheme is "http" or "https"
        && address.UserInfo.Length == 0
            ? address
            : throw new BadInputException(field, $"“{(said is { Length: > 80 } ? said[..80] + "…" : said)}” is no web address.");

    /// <summary>What a held mention says before anybody looked: nothing is known of it but where it is.</summary>
    public static (string Person, string Text) Unseen(string source) => (new Uri(source).Host, "Says that it mentions this page.");

    /// <summary>What a page says of the one it mentions: the paragraphs that link to it.</summary>
    /// <param name="author">Who wrote it, as the page says; may be empty.</param>
    /// <param name="text">The page as Markdown.</param>
    /// <returns>Null where it does not link there.</returns>
    public static (string Person, string Text)? Said(string source, string author, string text, Uri target)
    {
        var whole = target.AbsoluteUri.TrimEnd('/');
        var linking = Paragraphs
            .Raw(text)
            .Where(p => Links(p, whole))
            .Select(p => PlainText.Of(p).Trim())
            .Where(p => p.Length > 0)
            .ToList();
        if (linking.Count == 0)
            return null;
        var person = string.Join(' ', author.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        if (person.Length == 0)
            person = new Uri(source).Host;
        return (Cut(person, CommentRules.LongestPerson), Cut(string.Join("\n\n", linking), CommentRules.LongestText));
    }

    /// <summary>Whether a paragraph has the address, and not one that only begins like it.</summary>
    private static bool Links(string paragraph, string address)
    {
        for (var at = paragraph.IndexOf(address, StringComparison.OrdinalIgnoreCase); at >= 0; )
        {
            var end = at + address.Length;
            if (end < paragraph.Length && paragraph[end] == '/')
                end++;
            if (end == paragraph.Length || ")>#?\"'.,; \n".Contains(paragraph[end], StringComparison.Ordinal))
                return true;
            at = paragraph.IndexOf(address, end, StringComparison.OrdinalIgnoreCase);
        }
        return false;
    }

    private static string Cut(string words, int most) => words.Length <= most ? words : words[..(most - 1)] + "…";
}
