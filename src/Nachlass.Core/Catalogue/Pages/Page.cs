using System.Security.Cryptography;
using System.Text;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Pages;

/// <summary>The number of a page of one's own.</summary>
public readonly record struct PageNumber(int Value) : INumber<PageNumber>
{
    public static PageNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out PageNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A piece on a page, as it was put up.</summary>
/// <param name="Text">As Markdown, without its title.</param>
public sealed record PagePart(PieceNumber Piece, string Title, string Text);

/// <summary>A piece or a series that can be read at an address of one's own.</summary>
public sealed record Page
{
    public const int LongestTitle = 300,
        LongestSummary = 400,
        ShortestPassphrase = 4,
        LongestPassphrase = 200;

    public required PageNumber Number { get; init; }

    /// <summary>The piece it shows; null for a series.</summary>
    public PieceNumber? Piece { get; init; }

    /// <summary>The series whose pieces it shows; null for a piece.</summary>
    public SeriesNumber? Series { get; init; }

    /// <summary>Its place on the site, as in <c>the-last-ferry</c>.</summary>
    public required string Slug { get; init; }

    public required string Title { get; init; }

    /// <summary>One line that announces it in the feed, the list of pages and where others link to it.</summary>
    public string Summary { get; init; } = "";

    /// <summary>Whether it shows its text as it stands now; else as it was put up.</summary>
    public bool Follows { get; init; }

    /// <summary>Whether only those read it who know its passphrase.</summary>
    public bool AsksPassphrase { get; init; }

    public bool TakesComments { get; init; }

    /// <summary>Whether it stands in the list of pages, in the feed and in the sitemap. One with a passphrase never does.</summary>
    public bool IsListed { get; init; } = true;

    /// <summary>When it was put up first.</summary>
    public required DateTimeOffset PutUpAt { get; init; }

    /// <summary>When its text was put up as it stands.</summary>
    public required DateTimeOffset RenewedAt { get; init; }

    /// <summary>When it was taken down; null while it is up.</summary>
    public DateTimeOffset? DownAt { get; init; }

    public int Version { get; init; }

    /// <summary>Whether everybody may come upon it.</summary>
    public bool IsOpenlyListed => DownAt is null && IsListed && !AsksPassphrase;
}

/// <summary>A page with all that is kept of it.</summary>
/// <param name="Earlier">Addresses it had before; they lead to it.</param>
public sealed record PageImage(
    Page Page,
    IReadOnlyList<PagePart> Parts,
    IReadOnlyList<string> Earlier,
    IReadOnlyList<PageComment> Comments,
    IReadOnlyList<PageDay> Days
);

/// <summary>How often a page was read on a day.</summary>
/// <param name="Day">The writer's calendar day.</param>
/// <param name="Views">How often it was fetched by what does not say that it is a machine.</param>
/// <param name="Readers">How many different readers did; see <see cref="ReadersOfDay"/>.</param>
public sealed record PageDay(DateOnly Day, int Views, int Readers);

/// <summary>The place of a page on the site.</summary>
public static class PageAddress
{
    public const int Longest = 80;

    /// <summary>A part of an address as typed: small letters, digits and hyphens.</summary>
    /// <exception cref="BadInputException">It can't be one.</exception>
    public static string Checked(string? typed)
    {
        var slug = Check.Text("slug", typed?.Trim().Trim('/'), Longest).ToLowerInvariant();
        if (slug.Any(c => !char.IsAsciiLetterLower(c) && !char.IsAsciiDigit(c) && c != '-') || slug[0] == '-' || slug[^1] == '-')
            throw new BadInputException("slug", $"An address is made of small letters, digits and hyphens, not “{slug}”.");
        return Reserved.Contains(slug) ? throw new BadInputException("slug", $"“{slug}” is a place of the site itself.") : slug;
    }

    /// <summary>What the site itself has at its first level.</summary>
    private static readonly string[] Reserved = ["fonts", "leave", "join", "letters", "mentions", "audio"];

    /// <summary>An address that nothing has yet: the one wished for, or that with the first number behind it that makes it new.</summary>
    public static string Free(string wished, Func<string, bool> isTaken)
    {
        if (!isTaken(wished) && !Reserved.Contains(wished))
            return wished;
        for (var n = 2; ; n++)
        {
            var ending = $"-{n}";
            var slug = wished[..Math.Min(wished.Length, Longest - ending.Length)].TrimEnd('-') + ending;
            if (!isTaken(slug))
                return slug;
        }
    }
}

/// <summary>
/// Counts different readers of a page on a day, without a cookie and without keeping who they are: what is remembered of one is a keyed
/// hash (HMAC-SHA-256, RFC 2104) of address, browser and page, with a key that is made for the day and thrown away after it, all in memory
/// alone. Who reads two pages can't be told from two who read one each.
/// </summary>
/// <param name="newKey">Makes 32 random bytes.</param>
public sealed class ReadersOfDay(Func<byte[]> newKey)
{
    /// <summary>Of one page, so that nobody fills the memory; beyond that all count as one.</summary>
    private const int Most = 200_000;

    private readonly Lock gate = new();
    private readonly Dictionary<PageNumber, HashSet<UInt128>> seen = [];
    private DateOnly day;
    private byte[] key = [];

    /// <summary>Whether it is the first time on this day that this reader reads this page.</summary>
    public bool IsNew(PageNumber page, DateOnly today, string address, string browser)
    {
        lock (gate)
        {
            if (today != day || key.Length == 0)
            {
                CryptographicOperations.ZeroMemory(key);
                (day, key) = (today, newKey());
                seen.Clear();
            }
            var hash = HMACSHA256.HashData(key, Encoding.UTF8.GetBytes($"{page}\n{address}\n{browser}"));
            if (!seen.TryGetValue(page, out var readers))
                seen[page] = readers = [];
            return readers.Count < Most && readers.Add(BitConverter.ToUInt128(hash));
        }
    }
}
