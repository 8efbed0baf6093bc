using System.Net.Mail;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue.Letters;

/// <summary>The number of a reader of letters.</summary>
public readonly record struct ReaderNumber(int Value) : INumber<ReaderNumber>
{
    public static ReaderNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out ReaderNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>Where a reader stands.</summary>
public enum ReaderState
{
    /// <summary>Asked for the letters, and has not yet said so from their own mailbox.</summary>
    Asked,

    /// <summary>Gets the letters.</summary>
    Agreed,

    /// <summary>Does not get them any more, by their own will or the writer's.</summary>
    Left,
}

/// <summary>Somebody who gets the letters of an outlet.</summary>
/// <param name="Token">What stands in the links of their letters, by which they leave.</param>
/// <param name="AskedAt">When they came onto the list.</param>
/// <param name="AgreedAt">When they agreed; null while they have not.</param>
/// <param name="How">How they agreed: on the page, or as the writer says.</param>
/// <param name="Trouble">What their mailbox said against the last letter; empty for nothing.</param>
public sealed record Reader(
    ReaderNumber Number,
    OutletNumber Outlet,
    string Address,
    string Name,
    string Token,
    ReaderState State,
    DateTimeOffset AskedAt,
    DateTimeOffset? AgreedAt,
    string How,
    DateTimeOffset? LeftAt,
    string Trouble
)
{
    public const int LongestName = 100,
        LongestHow = 200,
        LongestAddress = 254;

    /// <summary>A mail address as typed, without a name (RFC 5321, 4.1.2; its length 4.5.3.1.3).</summary>
    /// <exception cref="BadInputException">It is none.</exception>
    public static string CheckedAddress(string field, string? typed)
    {
        var address = Check.Text(field, typed?.Trim(), LongestAddress);
        return
            MailAddress.TryCreate(address, out var read)
            && read.Address == address
            && !address.Any(c => char.IsControl(c) || char.IsWhiteSpace(c) || c is '<' or '>' or ',' or ';' or '"')
            ? address
            : throw new BadInputException(field, $"“{address}” is no mail address; one looks like ada@reader.example.");
    }

    /// <summary>A name as it may stand before an address: one line.</summary>
    public static string CheckedName(string field, string? typed) =>
        Check.Length(field, string.Join(' ', (typed ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)), LongestName);

    /// <summary>Readers as they stand in a list, one a line: an address, or a name and an address, in whichever of the usual ways
    /// (RFC 5322, 3.4), or with a comma, semicolon or tab between them.</summary>
    /// <returns>Those that can be read, and the lines that can't.</returns>
    public static (IReadOnlyList<(string Address, string Name)> Read, IReadOnlyList<string> Unread) InList(string? list)
    {
        var read = new List<(string, string)>();
        var unread = new List<string>();
        foreach (var line in (list ?? "").Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0))
            try
            {
                read.Add(OfLine(line));
            }
            catch (BadInputException)
            {
                unread.Add(line.Length > LongestAddress ? line[..LongestAddress] + "…" : line);
            }
        return (read, unread);
    }

    private static (string Address, string Name) OfLine(string line)
    {
        if (line.EndsWith('>') && line.LastIndexOf('<') is >= 0 and var at)
            return (CheckedAddress("readers", line[(at + 1)..^1]), CheckedName("readers", line[..at].Trim().Trim('"')));
        var parts = line.Split(['\t', ',', ';']).Select(p => p.Trim().Trim('"')).Where(p => p.Length > 0).ToList();
        // Two addresses are two readers, and which of them is meant nobody can tell.
        var address = parts.Where(p => p.Contains('@', StringComparison.Ordinal)).ToList() is [var only] ? only : line;
        return (CheckedAddress("readers", address), CheckedName("readers", string.Join(' ', parts.Where(p => p != address))));
    }
}

/// <summary>Where the letter to a reader stands.</summary>
public enum CopyState
{
    Waits,

    /// <summary>Its last byte may have left, and no answer was heard. It is not sent again on a guess.</summary>
    Tries,
    Sent,

    /// <summary>The reader's mailbox does not take it, or the writer stopped it.</summary>
    Refused,
}

/// <summary>The letter to a reader.</summary>
/// <param name="Note">What was said against it.</param>
public sealed record LetterCopy(ReaderNumber Reader, CopyState State, string Note);

/// <summary>How a letter to many stands.</summary>
public sealed record LetterCount(int All, int Sent, int Waits, int Refused, int Unknown);
