using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A country, and whether its public holidays are seen.</summary>
public sealed record CountryChosen(string Code, string Name, bool IsChosen);

/// <summary>Whose public holidays are seen.</summary>
public sealed class HolidayStore(PapersFile papers)
{
    public IReadOnlyList<CountryChosen> Countries() => papers.Read(Shown);

    public Done<IReadOnlyList<CountryChosen>> Choose(IReadOnlyList<string> countries, Once once)
    {
        foreach (var code in countries)
            if (Holidays.Countries.All(c => c.Code != code))
                throw new BadInputException("countries", $"The holidays of “{code}” are not known.");
        return papers.Run(
            "chose whose holidays are seen",
            once,
            change =>
            {
                Put(change.Db, countries);
                return Shown(change.Db);
            }
        );
    }

    private static IReadOnlyList<CountryChosen> Shown(SqliteConnection db)
    {
        var chosen = Chosen(db);
        return [.. Holidays.Countries.Select(c => new CountryChosen(c.Code, c.Name, chosen.Contains(c.Code)))];
    }

    internal static IReadOnlyList<string> Chosen(SqliteConnection db) =>
        db.ExecuteScalar<string?>("SELECT countries FROM papers") is { } kept ? JsonSerializer.Deserialize<List<string>>(kept)! : [];

    internal static void Put(SqliteConnection db, IReadOnlyList<string> countries) =>
        db.Execute(
            "UPDATE papers SET countries = @kept",
            new { kept = countries.Count == 0 ? null : JsonSerializer.Serialize(countries.Distinct().Order(StringComparer.Ordinal)) }
        );
}
