using System.Globalization;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>Values of own fields, kept as text: numbers with a point, days as 2026-03-14, a tick as yes.</summary>
public static class FieldValue
{
    public const string Ticked = "yes";
    public const int Longest = 10_000;

    /// <summary>A value as it is kept; empty for none.</summary>
    /// <exception cref="BadInputException">It is none that the field can hold; the field is named.</exception>
    public static string Checked(OwnField field, string? value)
    {
        var text = Check.Length($"fields.{field.Key}", value, Longest).Trim();
        if (text.Length == 0)
            return "";
        return field.Kind switch
        {
            FieldKind.Number => double.TryParse(
                text.Replace(',', '.'),
                NumberStyles.Float & ~NumberStyles.AllowExponent,
                CultureInfo.InvariantCulture,
                out var number
            )
                ? number.ToString("0.##########", CultureInfo.InvariantCulture)
                : throw Wrong("is a number"),
            FieldKind.Date => DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
                ? text
                : throw Wrong("is a day, written 2026-03-14"),
            FieldKind.Choice => field.Choices?.FirstOrDefault(c => c.Equals(text, StringComparison.OrdinalIgnoreCase))
                ?? throw Wrong($"is one of {string.Join(", ", field.Choices ?? [])}"),
            FieldKind.Link => Uri.TryCreate(text, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https"
                ? text
                : throw Wrong("is a web address that begins with https://"),
            FieldKind.Tick => text is Ticked or "true" ? Ticked
            : text is "no" or "false" ? ""
            : throw Wrong("is ticked, yes, or not"),
            FieldKind.LongText => text,
            _ => text.ReplaceLineEndings(" "),
        };

        BadInputException Wrong(string what) => new($"fields.{field.Key}", $"{field.Name} {what}; “{text}” is not.");
    }
}
