using PublicHoliday;

namespace Nachlass.Core.Plan;

/// <summary>A country whose public holidays are known.</summary>
/// <param name="Code">ISO 3166-1 alpha-2; <c>UN</c> for international days.</param>
public sealed record HolidayCountry(string Code, string Name);

/// <summary>A public holiday or observance.</summary>
public sealed record Holiday(DateOnly On, string Name, string Country);

/// <summary>
/// Public holidays of countries, as the package PublicHoliday computes them, and international days as the United Nations list them
/// (https://www.un.org/en/observances/list-days-weeks).
/// </summary>
public static class Holidays
{
    /// <summary>The code under which international days are chosen.</summary>
    public const string International = "UN";

    private static readonly (string Code, string Name, PublicHolidayBase Holidays)[] Known =
    [
        ("AU", "Australia", new AustraliaPublicHoliday()),
        ("AT", "Austria", new AustriaPublicHoliday()),
        ("BE", "Belgium", new BelgiumPublicHoliday()),
        ("BR", "Brazil", new BrazilPublicHoliday()),
        ("CA", "Canada", new CanadaPublicHoliday()),
        ("CZ", "Czech Republic", new CzechRepublicPublicHoliday()),
        ("DK", "Denmark", new DenmarkPublicHoliday()),
        ("FI", "Finland", new FinlandPublicHoliday()),
        ("FR", "France", new FrancePublicHoliday()),
        ("DE", "Germany", new GermanPublicHoliday()),
        ("GR", "Greece", new GreecePublicHoliday()),
        ("HU", "Hungary", new HungaryPublicHoliday()),
        ("IE", "Ireland", new IrelandPublicHoliday()),
        ("IT", "Italy", new ItalyPublicHoliday()),
        ("NL", "Netherlands", new DutchPublicHoliday()),
        ("NZ", "New Zealand", new NewZealandPublicHoliday()),
        ("NO", "Norway", new NorwayPublicHoliday()),
        ("PL", "Poland", new PolandPublicHoliday()),
        ("PT", "Portugal", new PortugalPublicHoliday()),
        ("ES", "Spain", new SpainPublicHoliday()),
        ("SE", "Sweden", new SwedenPublicHoliday()),
        ("CH", "Switzerland", new SwitzerlandPublicHoliday()),
        ("GB", "United Kingdom", new UKBankHoliday()),
        ("US", "United States", new USAPublicHoliday()),
    ];

    private static readonly (int Month, int Day, string Name)[] Observed =
    [
        (2, 21, "International Mother Language Day"),
        (3, 8, "International Women’s Day"),
        (3, 20, "International Day of Happiness"),
        (3, 21, "World Poetry Day"),
        (3, 22, "World Water Day"),
        (4, 22, "International Mother Earth Day"),
        (4, 23, "World Book and Copyright Day"),
        (5, 3, "World Press Freedom Day"),
        (6, 5, "World Environment Day"),
        (6, 20, "World Refugee Day"),
        (9, 8, "International Literacy Day"),
        (9, 21, "International Day of Peace"),
        (10, 5, "World Teachers’ Day"),
        (10, 27, "World Day for Audiovisual Heritage"),
        (12, 10, "Human Rights Day"),
        (12, 11, "International Mountain Day"),
    ];

    /// <summary>The countries there are, by name; international days last.</summary>
    public static IReadOnlyList<HolidayCountry> Countries { get; } =
    [.. Known.Select(k => new HolidayCountry(k.Code, k.Name)), new HolidayCountry(International, "International days")];

    /// <summary>The holidays of some countries between two days, by date; both days count. What several have is there for each.</summary>
    public static IReadOnlyList<Holiday> Between(IReadOnlyList<string> countries, DateOnly from, DateOnly to) =>
        [
            .. Enumerable
                .Range(from.Year, Math.Max(0, to.Year - from.Year + 1))
                .SelectMany(year => countries.SelectMany(country => In(country, year)))
                .Where(h => h.On >= from && h.On <= to)
                .OrderBy(h => h.On)
                .ThenBy(h => h.Country, StringComparer.Ordinal)
                .ThenBy(h => h.Name, StringComparer.Ordinal),
        ];

    private static IEnumerable<Holiday> In(string country, int year)
    {
        if (country == International)
            return Observed.Select(o => new Holiday(new DateOnly(year, o.Month, o.Day), o.Name, country));
        var known = Known.FirstOrDefault(k => k.Code == country).Holidays;
        return known is null
            ? []
            : known.PublicHolidaysInformation(year).Select(h => new Holiday(DateOnly.FromDateTime(h.HolidayDate), h.EnglishName, country));
    }
}
