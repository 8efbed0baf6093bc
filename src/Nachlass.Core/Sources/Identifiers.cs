using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Sources;

/// <summary>Numbers by which publications are known, and the checks built into them.</summary>
public static partial class Identifiers
{
    /// <summary>
    /// An ISBN without its hyphens. Its last sign checks the others: ISO 2108, modulo 11 with the weights 10 to 1 for ten
    /// digits (X is ten), modulo 10 with the weights 1 and 3 in turn for thirteen.
    /// </summary>
    /// <exception cref="BadInputException">It has another length, or the check digit is another; the message says which it would
    /// be.</exception>
    public static string Isbn(string typed)
    {
        var digits = Bare(typed, "ISBN");
        if (digits.Length is not (10 or 13))
            throw new BadInputException("ISBN", $"An ISBN has 10 or 13 digits; “{typed.Trim()}” has {digits.Length}.");
        if (digits[..^1].Any(c => !char.IsAsciiDigit(c)) || (digits.Length == 13 && digits[^1] == 'X'))
            throw new BadInputException("ISBN", $"“{typed.Trim()}” is no ISBN: it holds something else than digits.");
        var check =
            digits.Length == 10
                ? Sign((11 - digits[..9].Select((c, i) => (10 - i) * (c - '0')).Sum() % 11) % 11)
                : Sign((10 - digits[..12].Select((c, i) => (i % 2 == 0 ? 1 : 3) * (c - '0')).Sum() % 10) % 10);
        return digits[^1] == check ? digits : throw Mistyped("ISBN", typed, digits[^1], check);
    }

    /// <summary>An ISSN as it is written, with its hyphen. The last sign checks the others: ISO 3297, modulo 11 with the weights 8 to
    /// 2.</summary>
    /// <exception cref="BadInputException">It has another length, or the check digit is another.</exception>
    public static string Issn(string typed)
    {
        var digits = Bare(typed, "ISSN");
        if (digits.Length != 8 || digits[..7].Any(c => !char.IsAsciiDigit(c)))
            throw new BadInputException("ISSN", $"An ISSN has 8 digits, such as 0317-8471; “{typed.Trim()}” is none.");
        var check = Sign((11 - digits[..7].Select((c, i) => (8 - i) * (c - '0')).Sum() % 11) % 11);
        return digits[^1] == check ? $"{digits[..4]}-{digits[4..]}" : throw Mistyped("ISSN", typed, digits[^1], check);
    }

    /// <summary>A DOI without its resolver. ISO 26324 gives it a prefix 10.n and no check digit, so only the form is checked.</summary>
    /// <exception cref="BadInputException">It does not have the form.</exception>
    public static string Doi(string typed)
    {
        var bare = Resolver().Replace(typed.Trim(), "");
        return DoiForm().IsMatch(bare)
            ? bare
            : throw new BadInputException("DOI", $"A DOI looks like 10.1234/abc; “{typed.Trim()}” does not.");
    }

    private static string Bare(string typed, string name) =>
        Separators().Replace(typed.Trim().ToUpperInvariant().Replace(name, "", StringComparison.Ordinal), "");

    private static char Sign(int value) => value == 10 ? 'X' : (char)('0' + value);

    private static BadInputException Mistyped(string name, string typed, char found, char check) =>
        new(name, $"“{typed.Trim()}” is mistyped: by its other digits its check digit would be {check}, not {found}.");

    [GeneratedRegex(@"[\s\-–:]")]
    private static partial Regex Separators();

    [GeneratedRegex(@"^(?:https?://(?:dx\.)?doi\.org/|doi:\s*)", RegexOptions.IgnoreCase)]
    private static partial Regex Resolver();

    [GeneratedRegex(@"^10\.\d{4,9}(?:\.\d+)*/\S+$")]
    private static partial Regex DoiForm();
}
