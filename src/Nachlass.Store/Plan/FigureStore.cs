using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Plan;

/// <summary>Figures of how it goes.</summary>
public sealed class FigureStore(PapersFile papers)
{
    public const int UsualDays = 365,
        MostDays = 3_660;

    /// <param name="from">The first day; a year before the last when null.</param>
    /// <param name="to">The last day; today when null.</param>
    /// <exception cref="BadInputException">They end before they begin, or are more than ten years.</exception>
    public FiguresShown Get(DateOnly? from, DateOnly? to)
    {
        var last = to ?? papers.Today;
        var first = from ?? last.AddDays(-UsualDays);
        if (!Check.IsDay(first) || !Check.IsDay(last))
            throw new BadInputException("from", "The days are in the years 1000 to 8999.");
        if (last < first)
            throw new BadInputException("to", "It ends on the day it begins or later.");
        if (last.DayNumber - first.DayNumber > MostDays)
            throw new BadInputException("to", "At most ten years are looked over at once.");
        return papers.Read(db => Shown(db, first, last));
    }

    private FiguresShown Shown(SqliteConnection db, DateOnly first, DateOnly last)
    {
        DateOnly Here(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, papers.Time.LocalTimeZone).DateTime);
        var formats = FormatRows.All(db);
        var entries = db.Query<(int Piece, string Stage, DateTimeOffset At)>("SELECT piece, stage, at FROM stage_entry ORDER BY id")
            .ToLookup(e => e.Piece, e => new StageEntry(e.Stage, e.At));
        var pieces = db.Query<(int Number, string Format, int? Outlet, DateTimeOffset Started, DateOnly? Due, DateOnly? Out, int Words)>(
                "SELECT p.number, p.format, p.outlet, p.started_at, p.due, p.out_on, d.words FROM piece p "
                    + "JOIN draft d ON d.piece = p.number "
                    + "WHERE p.trashed_at IS NULL ORDER BY p.number"
            )
            .ToList();
        var went = pieces
            .Where(p => p.Out >= first && p.Out <= last)
            .Select(p => new WentOut(p.Format, p.Outlet, Here(p.Started), p.Due, p.Out!.Value, [.. entries[p.Number]], p.Words))
            .ToList();
        var words = db.Query<(DateTimeOffset At, int Written)>("SELECT started_at, written FROM sitting WHERE written > 0")
            .Select(s => (Day: Here(s.At), Count: s.Written))
            .ToList();
        var caught = db.Query<(DateTimeOffset At, int Number)>("SELECT caught_at, number FROM slip")
            .Select(s => (Day: Here(s.At), s.Number))
            .Where(s => s.Day >= first && s.Day <= last)
            .ToList();
        var out_ = db.Query<int>(
                """
                SELECT DISTINCT m.slip FROM material m JOIN piece p ON p.number = m.piece
                WHERE m.slip IS NOT NULL AND p.out_on IS NOT NULL AND p.trashed_at IS NULL
                """
            )
            .ToHashSet();
        var written = words
            .Where(w => w.Day >= first && w.Day <= last)
            .GroupBy(w => w.Day)
            .Select(g => (double)g.Sum(w => w.Count))
            .ToList();
        IReadOnlyList<PacePoint> Pace(bool byMonth) =>
            Figures.Pace(
                first,
                last,
                byMonth,
                [.. went.Select(w => w.Out)],
                [.. pieces.Select(p => Here(p.Started))],
                words,
                [.. caught.Select(c => (c.Day, 1))]
            );
        return new FiguresShown(
            first,
            last,
            Pace(false),
            Pace(true),
            Middle.From(written),
            written.Count,
            caught.Count,
            caught.Count(c => out_.Contains(c.Number)),
            Figures.Of("", "Everything", went, []),
            [
                .. formats
                    .All.Select(f => Figures.Of(f.Key, f.Name, [.. went.Where(w => w.Format == f.Key)], [.. f.Stages.SkipLast(1)]))
                    .Where(f => f.Released > 0),
            ],
            [
                .. OutletRows
                    .All(db)
                    .Select(o =>
                        Figures.Of(
                            o.Number.Value.ToString(System.Globalization.CultureInfo.InvariantCulture),
                            o.Name,
                            [.. went.Where(w => w.Outlet == o.Number.Value)],
                            []
                        )
                    )
                    .Where(o => o.Released > 0),
            ]
        );
    }
}
