using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;

namespace Nachlass.Store.Plan;

/// <summary>All that is planned, worked back from its dates.</summary>
internal sealed class Planned
{
    private readonly DateOnly today;
    private readonly IReadOnlyList<PlannedPiece> pieces;
    private readonly Dictionary<int, PlannedPiece> byNumber;
    private readonly FormatSet formats;
    private readonly WorkCalendar calendar;
    private readonly ILookup<int, (string Stage, DateOnly Day)> stageDays;
    private readonly Worked worked;
    private readonly IReadOnlyDictionary<string, IReadOnlyList<StageLead>> takes;

    public Planned(SqliteConnection db, DateOnly today)
    {
        this.today = today;
        pieces = PlanRows.Pieces(db, DateOnly.MinValue);
        byNumber = pieces.ToDictionary(p => p.Number.Value);
        formats = FormatRows.All(db);
        calendar = HoursRows.Calendar(db);
        stageDays = PlanRows.StageDays(db);
        takes = StageRows.Leads(db, formats);
        worked = BackSchedule.Of(Works(pieces), calendar, today);
    }

    public IEnumerable<PlannedPiece> Undated => pieces.Where(p => p.OutOn is null && p.Due is null);

    public IEnumerable<PlannedPiece> Dated => pieces.Where(p => p.OutOn is null && p.Due is not null);

    public IEnumerable<PlannedPiece> Gone(DateOnly from) => pieces.Where(p => p.OutOn >= from);

    /// <summary>Hours that are free from today up to each of some days, and to every date after the first of them, what has a date
    /// being done first.</summary>
    public IReadOnlyList<(DateOnly Day, double Hours)> Free(IEnumerable<DateOnly> days)
    {
        var wanted = days.ToList();
        if (wanted.Count == 0)
            return [];
        var works = Works(pieces).ToDictionary(w => w, w => w.Stages.Sum(s => s.Hours));
        List<(DateOnly, double)> free = [];
        var (up, there) = (today, calendar.On(today));
        foreach (var day in wanted.Concat(works.Keys.Select(w => w.Due).Where(d => d >= wanted.Min())).Distinct().Order())
        {
            for (; up < day; up = up.AddDays(1))
                there += calendar.On(up.AddDays(1));
            free.Add((day, Math.Max(0, there - works.Where(w => w.Key.Due <= day).Sum(w => w.Value))));
        }
        return free;
    }

    private IEnumerable<DatedWork> Works(IEnumerable<PlannedPiece> those) =>
        those.Where(p => p.OutOn is null && p.Due is not null).Select(p => new DatedWork(p.Number.Value, p.Due!.Value, Left(p)));

    /// <summary>What is still to do on a piece: the stage it stands at and those after it, with the hours they usually take.</summary>
    private IReadOnlyList<StageWork> Left(PlannedPiece piece) =>
        [
            .. Left(piece.Format, piece.Stage)
                .Select(s => new StageWork(
                    s.Stage,
                    s.Hours,
                    stageDays[piece.Number.Value].Where(d => d.Stage == s.Stage).Select(d => (DateOnly?)d.Day).FirstOrDefault()
                )),
        ];

    private IEnumerable<StageLead> Left(string format, string stage)
    {
        var all = takes[formats.Named(format).Key];
        var at = Math.Max(0, all.TakeWhile(s => s.Stage != stage).Count() is var n && n < all.Count ? n : 0);
        return all.Skip(at).SkipLast(1);
    }

    public double HoursLeft(PlannedPiece piece) => HoursLeft(piece.Format, piece.Stage);

    /// <summary>Hours of work that a piece needs from a stage on.</summary>
    public double HoursLeft(string format, string stage) => Left(format, stage).Sum(s => s.Hours);

    /// <summary>What the stages of a format usually take.</summary>
    public IReadOnlyList<StageLead> Takes(string format) => takes[format];

    private LoadLine Line(LoadOf load) => new(PieceNumber.Of(load.Key), byNumber[load.Key].Title, load.Hours, load.Missing);

    public PlanShown Shown(SqliteConnection db, DateOnly first, DateOnly last)
    {
        var works = worked.Works.ToDictionary(w => w.Key);
        var entries = new List<PlanEntry>();
        foreach (var piece in pieces)
        {
            if (piece.OutOn is { } outOn)
                entries.Add(Of(piece, PlanKind.Out, outOn));
            else if (piece.Due is { } due)
            {
                var work = works[piece.Number.Value];
                entries.Add(
                    Of(piece, PlanKind.Due, due) with
                    {
                        Hours = HoursLeft(piece),
                        Missing = work.Missing > 0 ? work.Missing : null,
                        ReadyOn = work.ReadyOn,
                        Begins = work.Stages.Select(s => (DateOnly?)s.From).FirstOrDefault(),
                    }
                );
                entries.AddRange(
                    work.Stages.Select(s =>
                        Of(piece, PlanKind.Stage, s.By) with
                        {
                            Stage = s.Stage,
                            Hours = s.Hours,
                            Begins = s.From,
                            IsSet = stageDays[piece.Number.Value].Any(d => d.Stage == s.Stage),
                        }
                    )
                );
            }
        }
        var filled = CadenceRows.Filled(db);
        var outlets = OutletRows.All(db).ToDictionary(o => o.Number);
        foreach (var cadence in CadenceRows.All(db).Where(c => !outlets[c.Outlet].IsPutAway))
            entries.AddRange(
                CadenceRows
                    .Dates(cadence, filled, first, last, today)
                    .Where(d => d.Piece is null)
                    .Select(d =>
                        At(d.IsMissed ? PlanKind.Missed : PlanKind.Open, d.Date, formats.Named(cadence.Format).Name) with
                        {
                            Outlet = cadence.Outlet,
                            Format = cadence.Format,
                            InsteadOf = d.InsteadOf,
                        }
                    )
            );
        foreach (var occasion in OccasionStore.All(db))
            for (var day = first; day <= last && occasion.Next(day) is { } next && next.From <= last; day = next.To.AddDays(1))
                entries.Add(
                    At(PlanKind.Occasion, next.From, occasion.Name) with
                    {
                        Last = next.To,
                        Occasion = occasion.Number,
                        Topics = occasion.Topics,
                    }
                );
        entries.AddRange(
            Holidays
                .Between(HolidayStore.Chosen(db), first, last)
                .Select(h => At(PlanKind.Occasion, h.On, h.Name) with { Country = h.Country })
        );
        entries.AddRange(
            db.Query<Move>(
                    $"SELECT {MoveRows.Columns} WHERE v.done_at IS NULL AND v.due BETWEEN @first AND @last ORDER BY {MoveRows.Order}",
                    new { first, last }
                )
                .Select(m =>
                    At(PlanKind.Move, m.Due!.Value, m.Text) with
                    {
                        Move = m.Number,
                        Piece = m.Piece,
                        RemindAt = m.RemindAt,
                        Version = m.Version,
                    }
                )
        );
        entries.AddRange(HoursRows.Away(db).Select(a => At(PlanKind.Away, a.From, a.Name) with { Last = a.To, Away = a.Number }));
        return new PlanShown(
            first,
            last,
            today,
            HoursRows.Said(db) is not null,
            [
                .. WeekLoad
                    .Of(worked, calendar, today, first, last)
                    .Select(w => new PlanWeek(
                        w.Monday,
                        w.Week,
                        w.Hours,
                        w.Load,
                        w.Over,
                        w.Monday.AddDays(6) < today,
                        [.. w.By.Select(Line)]
                    )),
            ],
            [
                .. entries
                    .Where(e => e.Last >= first && e.Day <= last)
                    .OrderBy(e => e.Day)
                    .ThenBy(e => Order(e.Kind))
                    .ThenBy(e => e.Piece?.Value ?? e.Move?.Value ?? e.Outlet?.Value ?? 0),
            ],
            [
                .. pieces
                    .Where(p => p.OutOn is null && p.Due is null)
                    .OrderByDescending(p => formats.Named(p.Format).Stages.ToList().IndexOf(p.Stage))
                    .ThenBy(p => p.Number.Value)
                    .Select(p => new UndatedPiece(p.Number, p.Title, p.Format, p.Stage, p.Outlet, p.Series, HoursLeft(p), p.Topics)),
            ]
        );
    }

    /// <summary>What is away and what occurs first, then what goes out, then what is to be done for it.</summary>
    private static int Order(PlanKind kind) =>
        kind switch
        {
            PlanKind.Away => 0,
            PlanKind.Occasion => 1,
            PlanKind.Out => 2,
            PlanKind.Due => 3,
            PlanKind.Missed => 4,
            PlanKind.Open => 5,
            PlanKind.Stage => 6,
            _ => 7,
        };

    private static PlanEntry At(PlanKind kind, DateOnly day, string title) =>
        new()
        {
            Kind = kind,
            Day = day,
            Last = day,
            Title = title,
        };

    private PlanEntry Of(PlannedPiece piece, PlanKind kind, DateOnly day) =>
        At(kind, day, piece.Title) with
        {
            Piece = piece.Number,
            Outlet = piece.Outlet,
            Series = piece.Series,
            Format = piece.Format,
            Stage = piece.Stage,
            Topics = piece.Topics,
            People =
            [
                .. formats
                    .Named(piece.Format)
                    .Fields.Where(f => f.Kind == FieldKind.Person && piece.Fields.ContainsKey(f.Key))
                    .Select(f => piece.Fields[f.Key]),
            ],
        };

    /// <summary>Core topics with more or fewer pieces in the six weeks from this one on, when a piece is put on a day.</summary>
    private List<MixChange> Mix(SqliteConnection db, PieceNumber number, DateOnly on)
    {
        var first = WeekLoad.MondayOf(today);
        var last = first.AddDays(7 * PlanStore.UsualWeeks - 1);
        bool Within(DateOnly? day) => day >= first && day <= last;
        var (before, after) = (
            Dated.Where(p => Within(p.Due)).ToList(),
            pieces.Where(p => p.OutOn is null && Within(p.Number == number ? on : p.Due)).ToList()
        );
        var core = db.Query<(int Number, string Name, int Wish)>(
            "SELECT number, name, wish FROM topic WHERE wish IS NOT NULL AND merged_into IS NULL ORDER BY number"
        );
        var below = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Topic, u => u.Under);
        List<MixChange> changed = [];
        foreach (var topic in core)
        {
            var under = below[topic.Number].Append(topic.Number).ToHashSet();
            int On(List<PlannedPiece> those) => those.Count(p => p.Topics.Any(t => under.Contains(t.Number.Value)));
            if (On(before) != On(after))
                changed.Add(new MixChange(topic.Name, On(before), On(after), after.Count, topic.Wish));
        }
        return changed;
    }

    /// <summary>The same with one piece on another day.</summary>
    public PlanTried Tried(SqliteConnection db, PieceNumber number, DateOnly on)
    {
        var after = BackSchedule.Of(Works(pieces.Select(p => p.Number == number ? p with { Due = on } : p)), calendar, today);
        var dates = worked.Works.Concat(after.Works).Select(w => w.Due).Append(on).ToList();
        var (first, last) = (WeekLoad.MondayOf(today), dates.Max());
        var before = WeekLoad.Of(worked, calendar, today, first, last);
        var changed = WeekLoad.Of(after, calendar, today, first, last);
        var had = worked.Works.ToDictionary(w => w.Key, w => w.Missing);
        var work = after.Works.FirstOrDefault(w => w.Key == number.Value);
        return new PlanTried(
            on,
            [
                .. before
                    .Zip(changed)
                    .Where(w => Math.Abs(w.First.Load - w.Second.Load) > 0.01)
                    .Select(w => new WeekChange(w.First.Monday, w.First.Week, w.First.Hours, w.First.Load, w.Second.Load)),
            ],
            work?.Stages.Select(s => (DateOnly?)s.From).FirstOrDefault(),
            work?.Missing ?? 0,
            work?.ReadyOn,
            [
                .. after
                    .Works.Where(w => w.Key != number.Value && Math.Abs(w.Missing - had.GetValueOrDefault(w.Key)) > 0.01)
                    .Select(w => new LoadLine(
                        PieceNumber.Of(w.Key),
                        byNumber[w.Key].Title,
                        w.Missing - had.GetValueOrDefault(w.Key),
                        w.Missing
                    )),
            ],
            Mix(db, number, on)
        );
    }
}
