using System.IO.Hashing;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Capture;

/// <summary>
/// By what a thing that comes in is known again: the same words from the same source are the same slip, the same DOI, ISBN or
/// address is the same source. Keys are 128 bits of XXH3, so that among a billion things two never meet by chance.
/// </summary>
public static partial class Identity
{
    /// <summary>The key of a slip: its words, whatever the white space between them, and its source and place.</summary>
    public static UInt128 OfSlip(string text, UInt128? source = null, string locator = "") => Key("slip", Spaces().Replace(text.Trim(), " "), source?.ToString() ?? "", locator);

    /// <summary>The key of a source: its DOI, ISBN or address if it has one, else its title, first creator and date.</summary>
    public static UInt128 OfSource(string title, string creators, string date, string address, IReadOnlyDictionary<string, string> details)
    {
        foreach (var identifier in (string[])["DOI", "ISBN"])
            if (details.TryGetValue(identifier, out var value)) return Key(identifier, value.ToLowerInvariant());
        if (address.Length > 0) return Key("address", address.Split('#')[0].TrimEnd('/'));
        var first = PersonName.ReadAll(creators) is [var name, ..] ? name.Family : "";
        return Key("source", Letters(title), Letters(first), Digits().Match(date).Value);
    }

    public static UInt128 OfMove(string text, DateOnly? due) => Key("move", text.Trim(), due?.DayNumber.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "");

    public static UInt128 OfPiece(string title, string draft) => Key("piece", title.Trim(), draft.Trim());

    public static UInt128 OfOccasion(string name, DateOnly from) => Key("occasion", Letters(name), from.DayNumber.ToString(System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>The key of a source as it was found.</summary>
    public static UInt128 Of(FoundSource source) => OfSource(source.Title, source.Creators, source.Date, source.Address, source.Details);

    /// <summary>The key of a slip as it was found.</summary>
    /// <param name="of">The source it is a passage of, when the slip does not name it itself.</param>
    public static UInt128 Of(FoundSlip slip, FoundSource? of = null) =>
        OfSlip(slip.Text, (slip.Source ?? of) is { } source ? Of(source) : null, slip.Locator);

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

    [GeneratedRegex(@"\d{4}")]
    private static partial Regex Digits();
}
