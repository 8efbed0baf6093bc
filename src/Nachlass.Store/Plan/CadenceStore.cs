using System.Text.Json;
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
/// <param name="Fallback">When a missed date comes once more, in words; empty for never.</param>
/// <param name="Dates">The next ones, and what was missed and comes once more.</param>
public sealed record CadenceAhead(Cadence Cadence, string? Words, string Fallback, IReadOnlyList<PlannedDate> Dates);

/// <summary>A cadence as it is written.</summary>
/// <param name="Said">In words (“every second Thursday”), or as a recurrence rule (RFC 5545); nothing takes it away.</param>
/// <param name="From">The day it counts from; today when it is left out.</param>
/// <param name="Until">The last day that may be a date.</param>
/// <param name="Fallback">When a missed date comes once more: “a week later”; nothing for never.</param>
/// <param name="Pauses">Times without dates; what is left out stays.</param>
/// <param name="Others">Dates that are different; what is left out stays.</param>
public sealed record CadenceWritten(
    string? Said,
    DateOnly? From = null,
    DateOnly? Until = null,
    string? Fallback = null,
    IReadOnlyList<Days>? Pauses = null,
    IReadOnlyList<OtherDate>? Others = null
);

/// <summary>What a cadence would be, while it is written.</summary>
/// <param name="Rule">As a recurrence rule (RFC 5545).</param>
/// <param name="Words">What it says; null for a rule that no sentence says.</param>
/// <param name="Dates">The next dozen dates it gives.</param>
public sealed record CadencePreview(string Rule, string? Words, IReadOnlyList<DateOnly> Dates);

/// <summary>When pieces of each format go out on an outlet, and which of those dates no piece fills yet.</summary>
public sealed class CadenceStore(PapersFile papers)
{
    /// <summary>How many dates are looked ahead.</summary>
    public const int Ahead = 6;

    /// <summary>How many dates are shown of one that is being written.</summary>
    public const int Previewed = 12;

    public IReadOnlyList<CadenceAhead> List() =>
        papers.Read<IReadOnlyList<CadenceAhead>>(db =>
        {
            var filled = CadenceRows.Filled(db);
            return
            [
                .. CadenceRows
                    .All(db)
                    .Select(cadence => new CadenceAhead(
                        cadence,
                        CadenceWords.Say(cadence.Rule),
                        FallbackWords.Say(cadence.Fallback),
                        [
                            .. CadenceRows
                                .Dates(cadence, filled, papers.Today, papers.Today.AddDays(Cadence.Horizon), papers.Today)
                                .Take(Ahead),
                        ]
                    )),
            ];
        });

    /// <summary>What a cadence would be, and its next dates.</summary>
    /// <exception cref="BadInputException">It can't be read, or never comes.</exception>
    public CadencePreview Preview(CadenceWritten written)
    {
        var cadence = Made(written, "", default, null);
        return new CadencePreview(cadence.Rule, CadenceWords.Say(cadence.Rule), [.. cadence.Dates(papers.Today).Take(Previewed)]);
    }

    /// <summary>Sets the cadence of a format on an outlet; nothing said takes it away.</summary>
    /// <exception cref="BadInputException">There is no such format, the outlet does not take it, or the cadence can't be read.</exception>
    public Done<IReadOnlyList<Cadence>> Set(OutletNumber outlet, string format, CadenceWritten written, Once once) =>
        papers.Run(
            "set a cadence",
            once,
            change =>
            {
                var at = OutletRows.Get(change.Db, outlet);
                var named = FormatRows.Named(change.Db, format);
                var of = $"{named.Name} on {at.Name}";
                if (string.IsNullOrWhiteSpace(written.Said))
                {
                    change.Db.Execute("DELETE FROM outlet_cadence WHERE outlet = @outlet AND format = @Key", new { outlet, named.Key });
                    change.What = $"took the cadence of {of} away";
                }
                else
                {
                    if (!at.Takes(named.Key))
                        throw new BadInputException("format", $"{at.Name} does not take {named.Name}.");
                    var before = CadenceRows.All(change.Db).FirstOrDefault(c => c.Outlet == outlet && c.Format == named.Key);
                    CadenceRows.Put(change.Db, Made(written, named.Key, outlet, before));
                    change.What = $"set the cadence of {of}";
                }
                return CadenceRows.All(change.Db);
            }
        );

    /// <summary>Lets one date of a cadence fall out, or be on another day.</summary>
    /// <param name="to">The day it is instead; null to let it fall out.</param>
    public Done<IReadOnlyList<Cadence>> Except(OutletNumber outlet, string format, DateOnly date, DateOnly? to, Once once) =>
        papers.Run(
            to is null ? "let a date fall out" : "put a date on another day",
            once,
            change =>
            {
                var cadence =
                    CadenceRows.All(change.Db).FirstOrDefault(c => c.Outlet == outlet && c.Format == format)
                    ?? throw new NotThereException($"cadence of “{format}” on outlet {outlet}");
                // A date that was moved before is moved again, not its new day.
                var moved = cadence.Others.FirstOrDefault(o => o.To == date);
                var given = moved?.Date ?? date;
                if (moved is null && !cadence.Dates(date, date).Any())
                    throw new BadInputException("date", $"{date:d MMMM yyyy} is no date of it.");
                List<OtherDate> others = [.. cadence.Others.Where(o => o.Date != given)];
                if (to != given)
                    others.Add(new OtherDate(given, to));
                CadenceRows.Put(change.Db, (cadence with { Others = [.. others.OrderBy(o => o.Date)] }).Checked());
                return CadenceRows.All(change.Db);
            }
        );

    private Cadence Made(CadenceWritten written, string format, OutletNumber outlet, Cadence? before) =>
        new Cadence(format, CadenceWords.Read((written.Said ?? "").Trim()), written.From ?? before?.From ?? papers.Today)
        {
            Outlet = outlet,
            Until = written.Until,
            Fallback = FallbackWords.Read(written.Fallback),
            Pauses = written.Pauses ?? before?.Pauses ?? [],
            Others = written.Others ?? before?.Others ?? [],
        }.Checked();
}

internal static class CadenceRows
{
    private sealed record Row
    {
        public OutletNumber Outlet { get; init; }
        public string Format { get; init; } = "";
        public string Rule { get; init; } = "";
        public DateOnly FromDay { get; init; }
        public DateOnly? Until { get; init; }
        public int? Fallback { get; init; }
        public string Pauses { get; init; } = "[]";
        public string Others { get; init; } = "[]";
    }

    public static IReadOnlyList<Cadence> All(SqliteConnection db) =>
        [
            .. db.Query<Row>(
                    "SELECT outlet, format, rule, from_day, until, fallback, pauses, others FROM outlet_cadence ORDER BY outlet, format"
                )
                .Select(c => new Cadence(c.Format, c.Rule, c.FromDay)
                {
                    Outlet = c.Outlet,
                    Until = c.Until,
                    Fallback = c.Fallback,
                    Pauses = JsonSerializer.Deserialize<List<Days>>(c.Pauses, Answers.Json)!,
                    Others = JsonSerializer.Deserialize<List<OtherDate>>(c.Others, Answers.Json)!,
                }),
        ];

    public static void Put(SqliteConnection db, Cadence cadence) =>
        db.Execute(
            """
            INSERT INTO outlet_cadence (outlet, format, rule, from_day, until, fallback, pauses, others)
                VALUES (@Outlet, @Format, @Rule, @From, @Until, @Fallback, @pauses, @others)
            ON CONFLICT (outlet, format) DO UPDATE SET rule = @Rule, from_day = @From, until = @Until, fallback = @Fallback,
                pauses = @pauses, others = @others, version = version + 1
            """,
            new
            {
                cadence.Outlet,
                cadence.Format,
                cadence.Rule,
                cadence.From,
                cadence.Until,
                cadence.Fallback,
                pauses = JsonSerializer.Serialize(cadence.Pauses, Answers.Json),
                others = JsonSerializer.Serialize(cadence.Others, Answers.Json),
            }
        );

    /// <summary>The days that pieces fill, by format: the day a piece went out, else the one it is due.</summary>
    public static ILookup<string, Filling> Filled(SqliteConnection db) =>
        db.Query<(string Format, OutletNumber? Outlet, DateOnly Day, PieceNumber Number, string Title)>(
                "SELECT format, outlet, coalesce(out_on, due), number, title FROM piece "
                    + "WHERE trashed_at IS NULL AND coalesce(out_on, due) IS NOT NULL ORDER BY number"
            )
            .ToLookup(p => p.Format, p => new Filling(p.Outlet, p.Day, p.Number, p.Title));

    /// <summary>The dates of a cadence with what fills them.</summary>
    public static IReadOnlyList<PlannedDate> Dates(
        Cadence cadence,
        ILookup<string, Filling> filled,
        DateOnly from,
        DateOnly to,
        DateOnly today
    )
    {
        var by = new Dictionary<DateOnly, (PieceNumber, string)>();
        foreach (var piece in filled[cadence.Format])
            if (piece.Outlet is null || piece.Outlet == cadence.Outlet)
                by.TryAdd(piece.Day, (piece.Number, piece.Title));
        return CadenceDates.Between(cadence, by, from, to, today);
    }

    /// <summary>The next date of any cadence that no piece fills; null when there is none.</summary>
    public static DateOnly? NextOpen(SqliteConnection db, DateOnly day)
    {
        var filled = Filled(db);
        return All(db)
            .Select(cadence =>
                Dates(cadence, filled, day, day.AddDays(Cadence.Horizon), day)
                    .Where(date => date.Piece is null && date.Date >= day)
                    .Select(date => (DateOnly?)date.Date)
                    .FirstOrDefault()
            )
            .Min();
    }
}

/// <summary>A piece on the day it fills.</summary>
/// <param name="Outlet">Where it is to go out; null while that is not said, and it fills the date of any.</param>
internal sealed record Filling(OutletNumber? Outlet, DateOnly Day, PieceNumber Number, string Title);
