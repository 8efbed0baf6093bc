using System.Text.Json;
using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

/// <summary>What is on a day, for the month strip.</summary>
/// <param name="Wrote">Whether anything was written on its sheet.</param>
/// <param name="Ideas">Slips caught by hand on it.</param>
/// <param name="Out">Pieces that went out on it.</param>
/// <param name="Due">Pieces that are to go out on it.</param>
/// <param name="Occasions">What is on it, by name.</param>
public sealed record DayMarks(DateOnly Day, bool Wrote, int Ideas, int Out, IReadOnlyList<PieceDue> Due, IReadOnlyList<string> Occasions);

/// <summary>A piece that is to go out on a day.</summary>
public sealed record PieceDue(PieceNumber Number, string Title);

/// <summary>A month on the desk, with how regularly the writer writes now.</summary>
public sealed record MonthOnDesk(DateOnly First, IReadOnlyList<DayMarks> Days, Rhythm Rhythm, IReadOnlyList<DayOfWeek> DaysOff);

/// <summary>The plan of the day sheets, and what the days hold.</summary>
public sealed class DayPlanStore(PapersFile papers)
{
    /// <summary>What a person catches, as against what a feed or a file brings.</summary>
    private const string ByHand = "origin IN ('strip', 'sheet', 'phone', 'program', 'paste')";

    public DayPlan Plan() => papers.Read(SheetRows.Plan);

    /// <summary>What the texts of the plan can fill in, with what each gives now.</summary>
    public IReadOnlyList<FillInOffer> FillIns() =>
        papers.Read(db => SheetRows.Facts(db, papers.Today, papers.Time.GetLocalNow().DateTime).Offers());

    /// <summary>Changes the plan; sheets that were begun stay as they are.</summary>
    /// <exception cref="StaleException">It was changed elsewhere.</exception>
    public Done<DayPlan> Write(DayPlan plan, int? version, Once once)
    {
        var next = plan.Checked();
        var based = Check.Version(version);
        return papers.Run(
            "changed the plan of the day sheets",
            once,
            change =>
            {
                var current = SheetRows.Plan(change.Db);
                if (current.Version != based)
                    throw new StaleException("The plan of the day sheets", current);
                change.Db.Execute(
                    """
                    INSERT INTO day_plan (id, blocks, days_off) VALUES (1, @blocks, @daysOff)
                    ON CONFLICT (id) DO UPDATE SET blocks = excluded.blocks, days_off = excluded.days_off, version = version + 1
                    """,
                    new
                    {
                        blocks = JsonSerializer.Serialize(next.Blocks, Answers.Json),
                        daysOff = JsonSerializer.Serialize(next.DaysOff, Answers.Json),
                    }
                );
                return SheetRows.Plan(change.Db);
            }
        );
    }

    /// <summary>The sheet a plan would make of a day, without keeping either.</summary>
    public IReadOnlyList<SheetBlock> Preview(DayPlan plan, DateOnly day)
    {
        var next = plan.Checked();
        return papers.Read(db => SheetRows.Blocks(db, day, papers.Time.GetLocalNow().DateTime, next));
    }

    /// <summary>A month, and the days in a row up to today.</summary>
    public MonthOnDesk Month(DateOnly month) =>
        papers.Read(db =>
        {
            var (first, today) = (new DateOnly(month.Year, month.Month, 1), papers.Today);
            var next = first.AddMonths(1);
            // Two spans in one: the month shown, and as far back as a row of days is likely to go.
            var since = first < today.AddYears(-2) ? first : today.AddYears(-2);
            var written = db.Query<DateOnly>(
                    """
                    SELECT day FROM day_sheet s WHERE day >= @since AND (text <> '' OR EXISTS (SELECT 1 FROM day_block b
                        WHERE b.day_number = s.day_number AND b.version > 0 AND b.text <> ''))
                    """,
                    new { since }
                )
                .ToHashSet();
            var ideas = db.Query<(DateOnly Day, int Count)>(
                    $"SELECT day, count(*) FROM slip WHERE day >= @since AND {ByHand} GROUP BY day",
                    new { since }
                )
                .ToDictionary(r => r.Day, r => r.Count);
            var released = db.Query<(DateOnly Day, int Count)>(
                    "SELECT out_on, count(*) FROM piece WHERE out_on >= @first AND out_on < @next AND trashed_at IS NULL GROUP BY out_on",
                    new { first, next }
                )
                .ToDictionary(r => r.Day, r => r.Count);
            var due = db.Query<(DateOnly Day, int Number, string Title)>(
                    "SELECT due, number, title FROM piece WHERE due >= @first AND due < @next AND out_on IS NULL AND trashed_at IS NULL",
                    new { first, next }
                )
                .ToLookup(p => p.Day, p => new PieceDue(PieceNumber.Of(p.Number), p.Title));
            var occasions = OccasionStore.All(db);
            var plan = SheetRows.Plan(db);
            var days = Enumerable
                .Range(0, next.DayNumber - first.DayNumber)
                .Select(first.AddDays)
                .Select(day => new DayMarks(
                    day,
                    written.Contains(day),
                    ideas.GetValueOrDefault(day),
                    released.GetValueOrDefault(day),
                    [.. due[day]],
                    [.. occasions.Where(o => o.Next(day) is { } at && at.From <= day).Select(o => o.Name)]
                ));
            return new MonthOnDesk(
                first,
                [.. days],
                Rhythm.Of(written.Union(ideas.Keys).ToHashSet(), ideas, today, plan.DaysOff),
                plan.DaysOff
            );
        });
}
