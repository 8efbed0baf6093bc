using System.IO.Hashing;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Capture;

/// <summary>
/// By what a thing that comes in is known again: the same words from the same source are the same slip, the same DOI, ISBN,
/// address or name is the same source. Keys are 128 bits of XXH3, so that among a billion things two never meet by chance.
/// </summary>
public static partial class Identity
{
    /// <summary>The key of a slip: its words, whatever the white space between them, and its source and place.</summary>
    public static UInt128 OfSlip(string text, UInt128? source = null, string locator = "") =>
        Key("slip", Spaces().Replace(text.Trim(), " "), source?.ToString() ?? "", locator);

    /// <summary>The keys of a source; two that share one are the same. The first is that of its name, by which its slips know it.</summary>
    public static IReadOnlyList<UInt128> OfSource(
        SourceType type,
        string title,
        string creators,
        string container,
        string date,
        string address,
        IReadOnlyDictionary<string, string> details
    )
    {
        var first = PersonName.ReadAll(creators) is [var name, ..] ? name.Family : "";
        // Volumes and editions of a work share its title, and so do the messages of one exchange and the regular parts of a journal.
        var when = type is SourceType.Message or SourceType.Interview or SourceType.Observation || container.Length > 0 ? date : "";
        var keys = new List<UInt128>
        {
            Key(
                "source",
                Letters(title),
                Letters(first),
                Letters(container),
                when,
                details.GetValueOrDefault("volume", ""),
                details.GetValueOrDefault("edition", ""),
                // Short entries of one title stand on other pages; pages of one title at other addresses.
                details.GetValueOrDefault("page", ""),
                type is SourceType.Page ? address.TrimEnd('/') : ""
            ),
        };
        foreach (var identifier in (string[])["DOI", "ISBN"])
            if (details.TryGetValue(identifier, out var value))
                keys.Add(Key(identifier, value.ToLowerInvariant()));
        if (address.Length > 0)
            keys.Add(Key("address", address.TrimEnd('/')));
        return keys;
    }

    /// <summary>The key of a source that is here by its bare name: a list of highlights names title and author only, and means the
    /// article whose journal is known here.</summary>
    public static UInt128 OfBareSource(string title, string creators) =>
        OfSource(SourceType.Book, title, creators, "", "", "", new Dictionary<string, string>())[0];

    public static UInt128 OfMove(string text, DateOnly? due) =>
        Key("move", text.Trim(), due?.DayNumber.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "");

    public static UInt128 OfPiece(string title, string draft) => Key("piece", title.Trim(), draft.Trim());

    public static UInt128 OfOccasion(string name, DateOnly from) =>
        Key("occasion", Letters(name), from.DayNumber.ToString(System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>The keys of a source as it was found.</summary>
    public static IReadOnlyList<UInt128> Of(FoundSource source) =>
        OfSource(source.Type, source.Title, source.Creators, source.Container, source.Date, source.Address, source.Details);

    /// <summary>The key of a slip as it was found.</summary>
    /// <param name="of">The source it is a passage of, when the slip does not name it itself.</param>
    public static UInt128 Of(FoundSlip slip, FoundSource? of = null) =>
        OfSlip(
            // Two notes with the same words and other pictures are two.
            slip.Files.Count == 0
                ? slip.Text
                : $"{slip.Text}\0{string.Join('\0', slip.Files.Select(f => f.Name))}",
            (slip.Source ?? of) is { } source ? Of(source)[0] : null,
            slip.Locator
        );

    private static UInt128 Key(params ReadOnlySpan<string> parts)
    {
        var hash = new XxHash128();
        foreach (var part in parts)
        {
            hash.Append(Encoding.UTF8.GetBytes(part));
            hash.Append("\0"u8);
        }
        return hash.GetCurrentHashAsUInt128();
    }

    private static string Letters(string text) => NoLetters().Replace(text.ToLowerInvariant(), " ").Trim();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    [GeneratedRegex(@"[^\p{L}\p{N}]+")]
    private static partial Regex NoLetters();
}
