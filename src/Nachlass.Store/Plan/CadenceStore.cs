using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A cadence with the dates it gives next.</summary>
/// <param name="Words">What it says; null for a rule that no sentence says.</param>
public sealed record CadenceAhead(Cadence Cadence, string? Words, IReadOnlyList<PlannedDate> Dates);

/// <summary>What a cadence would be, while it is written.</summary>
/// <param name="Rule">As a recurrence rule (RFC 5545).</param>
/// <param name="Words">What it says; null for a rule that no sentence says.</param>
/// <param name="Dates">The next dozen dates it gives.</param>
public sealed record CadencePreview(string Rule, string? Words, IReadOnlyList<DateOnly> Dates);

/// <summary>When pieces of each format go out, and which of those dates no piece fills yet.</summary>
public sealed class CadenceStore(PapersFile papers)
{
    /// <summary>How many dates are looked ahead.</summary>
    public const int Ahead = 6;

    /// <summary>How many dates are shown of one that is being written.</summary>
    public const int Previewed = 12;

    public IReadOnlyList<CadenceAhead> List() =>
        papers.Read<IReadOnlyList<CadenceAhead>>(db =>
            [
                .. All(db)
                    .Select(cadence => new CadenceAhead(
                        cadence,
                        CadenceWords.Say(cadence.Rule),
                        [.. cadence.Dates(papers.Today).Take(Ahead).Select(date => Filled(db, cadence.Format, date))]
                    )),
            ]
        );

    /// <summary>What a cadence would be, and its next dates.</summary>
    /// <param name="words">In words, or as a rule.</param>
    /// <exception cref="BadInputException">It can't be read, or never comes.</exception>
    public CadencePreview Preview(string? words, DateOnly? from)
    {
        var cadence = new Cadence("", CadenceWords.Read(words ?? ""), from ?? papers.Today).Checked();
        return new CadencePreview(cadence.Rule, CadenceWords.Say(cadence.Rule), [.. cadence.Dates(papers.Today).Take(Previewed)]);
    }

    /// <summary>Sets the cadence of a format; nothing takes it away.</summary>
    /// <param name="said">In words, or as a rule.</param>
    /// <exception cref="BadInputException">There is no such format, or the cadence can't be read.</exception>
    public Done<IReadOnlyList<Cadence>> Set(string format, string? said, DateOnly? from, Once once)
    {
        var named = papers.Read(db => FormatRows.Named(db, format));
        var cadence = string.IsNullOrWhiteSpace(said)
            ? null
            : new Cadence(named.Key, CadenceWords.Read(said.Trim()), from ?? papers.Today).Checked();
        return papers.Run(
            cadence is null ? $"took the cadence of {named.Name} away" : $"set the cadence of {named.Name}",
            once,
            change =>
            {
                if (cadence is null)
                    change.Db.Execute("DELETE FROM cadence WHERE format = @Key", new { named.Key });
                else
                    Put(change.Db, cadence);
                return All(change.Db);
            }
        );
    }

    internal static void Put(SqliteConnection db, Cadence cadence) =>
        db.Execute(
            "INSERT INTO cadence (format, rule, from_day) "
                + "VALUES (@Format, @Rule, @From) ON CONFLICT (format) DO UPDATE SET rule = @Rule, from_day = @From, version = version + "
                + "1",
            cadence
        );

    internal static IReadOnlyList<Cadence> All(SqliteConnection db) =>
        [
            .. db.Query<(string Format, string Rule, DateOnly From)>("SELECT format, rule, from_day FROM cadence ORDER BY format")
                .Select(c => new Cadence(c.Format, c.Rule, c.From)),
        ];

    /// <summary>The next date of any cadence that no piece fills; null when there is none.</summary>
    internal static DateOnly? NextOpen(SqliteConnection db, DateOnly day) =>
        All(db)
            .Select(cadence =>
                cadence.NextOpen(
                    day,
                    db.Query<DateOnly>(
                            "SELECT coalesce(due, out_on) FROM piece WHERE format = @Format AND trashed_at IS NULL "
                                + "AND coalesce(due, out_on) IS NOT NULL UNION SELECT out_on FROM piece "
                                + "WHERE format = @Format AND trashed_at IS NULL AND out_on IS NOT NULL",
                            new { cadence.Format }
                        )
                        .ToHashSet()
                )
            )
            .Min();

    private static PlannedDate Filled(SqliteConnection db, string format, DateOnly date)
    {
        var piece = db.QueryFirstOrDefault<(int Number, string Title)?>(
            "SELECT number, title FROM piece WHERE format = @format AND trashed_at IS NULL "
                + "AND (due = @date OR out_on = @date) ORDER BY out_on IS NULL, number LIMIT 1",
            new { format, date }
        );
        return new PlannedDate(date, piece is { } by ? PieceNumber.Of(by.Number) : null, piece?.Title);
    }
}
