using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using PublicHoliday;

namespace Nachlass.Core.Plan;

/// <summary>
/// Occasions whose date moves from year to year: kept as a recurrence rule (RFC 5545, 3.3.10), or as <c>EASTER+39</c> for days after
/// Easter Sunday (Gregorian). Said and read in words: “the second Sunday of May”, “Good Friday”, “39 days after Easter”.
/// </summary>
public static partial class OccasionDates
{
    private const string FromEaster = "EASTER";

    /// <summary>More days from Easter than any feast is.</summary>
    private const int FarthestFromEaster = 200;

    private static readonly (string Name, int Days)[] Feasts =
    [
        ("Easter", 0),
        ("Ash Wednesday", -46),
        ("Palm Sunday", -7),
        ("Good Friday", -2),
        ("Easter Monday", 1),
        ("Ascension", 39),
        ("Pentecost", 49),
        ("Whit Monday", 50),
        ("Corpus Christi", 60),
    ];

    /// <summary>Reads when it comes again.</summary>
    /// <returns>As it is kept.</returns>
    /// <exception cref="BadInputException">It can't be read.</exception>
    public static string Read(string said)
    {
        var text = Check.Text("recurs", said, CadenceWords.Longest);
        if (FeastOf(text) is { } days)
            return Kept(days);
        // “The second Sunday of May” is said of each year; as a recurrence it is that of each month, only in May.
        var yearly = InMonth().Replace(text, "${days} of the month, only in ${month}");
        try
        {
            var rule = new Cadence("", CadenceWords.Read(yearly), new(2000, 1, 1)).Checked().Rule;
            // A weekday of a month each year is that of each month, only in that one: one of two ways to write the same.
            if (
                rule.StartsWith("FREQ=YEARLY;", StringComparison.Ordinal)
                && rule.Contains("BYMONTH=", StringComparison.Ordinal)
                && rule.Contains("BYDAY=", StringComparison.Ordinal)
                && !rule.Contains("INTERVAL=", StringComparison.Ordinal)
            )
                rule = "FREQ=MONTHLY" + rule["FREQ=YEARLY".Length..];
            return Recurring.Of(rule)?.Rule ?? rule;
        }
        catch (BadInputException)
        {
            throw new BadInputException(
                "recurs",
                $"“{text}” can't be read. Say “every year on 24 December”, “the second Sunday of May”, “Good Friday” "
                    + "or “39 days after Easter”."
            );
        }
    }

    private static int? FeastOf(string text)
    {
        foreach (var (name, days) in Feasts)
            if (name.Equals(text, StringComparison.OrdinalIgnoreCase))
                return days;
        if (Away().Match(text) is { Success: true } away)
            return Signed(away.Groups["days"].Value, away.Groups["side"].Value.StartsWith('b') ? -1 : 1);
        if (KeptForm().Match(text) is { Success: true } kept)
            return Signed(kept.Groups["days"].Value, kept.Groups["sign"].Value == "-" ? -1 : 1);
        return null;
    }

    private static int? Signed(string days, int sign) =>
        days.Equals("a", StringComparison.OrdinalIgnoreCase) ? sign
        : int.TryParse(days, NumberStyles.None, CultureInfo.InvariantCulture, out var count) && count <= FarthestFromEaster ? sign * count
        : throw new BadInputException("recurs", $"It is at most {FarthestFromEaster} days from Easter.");

    private static string Kept(int days) => string.Create(CultureInfo.InvariantCulture, $"{FromEaster}{days:+0;-0;+0}");

    /// <summary>What is said of it.</summary>
    public static string Say(string kept)
    {
        if (Days(kept) is not { } days)
            return CadenceWords.Say(kept) is { } words ? OfMonth().Replace(words, "${days} of ${month}") : kept;
        foreach (var (name, feast) in Feasts)
            if (feast == days)
                return name;
        var many = Math.Abs(days) == 1 ? "a day" : $"{Math.Abs(days)} days";
        return days < 0 ? $"{many} before Easter" : $"{many} after Easter";
    }

    /// <summary>Days on which it begins, from a day on, in order; never before its first.</summary>
    /// <param name="first">The day it first was.</param>
    public static IEnumerable<DateOnly> From(string kept, DateOnly first, DateOnly day)
    {
        var from = first > day ? first : day;
        if (Days(kept) is not { } days)
            return new Cadence("", kept, first).Dates(from, from.AddDays(3 * 366));
        return Enumerable.Range(from.Year - 1, 5).Select(year => Easter(year).AddDays(days)).Where(on => on >= from);
    }

    /// <summary>Easter Sunday of a year, as the package PublicHoliday has it: the day before the Monday.</summary>
    private static DateOnly Easter(int year) => DateOnly.FromDateTime(GermanPublicHoliday.EasterMonday(year)).AddDays(-1);

    private static int? Days(string kept) =>
        kept.StartsWith(FromEaster, StringComparison.Ordinal)
            ? int.Parse(kept.AsSpan(FromEaster.Length), NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture)
            : null;

    [GeneratedRegex(@"^(?<days>\d{1,4}|a) days? (?<side>before|after) Easter$", RegexOptions.IgnoreCase)]
    private static partial Regex Away();

    [GeneratedRegex(@"^EASTER(?<sign>[+-])(?<days>\d{1,4})$")]
    private static partial Regex KeptForm();

    [GeneratedRegex(
        @"(?<days>.+) of (?<month>January|February|March|April|May|June|July|August|September|October|November|December)$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex InMonth();

    [GeneratedRegex(@"^(?<days>.+) of the month, only in (?<month>\w+)$")]
    private static partial Regex OfMonth();
}
