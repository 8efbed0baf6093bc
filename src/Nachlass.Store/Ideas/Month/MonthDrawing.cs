using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Ideas.Month;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Ideas.Month;

/// <summary>A date with the topic that is put on it.</summary>
/// <param name="Topic">Its place in the order.</param>
internal sealed record DateDrawn(Place Place, int Topic, double Hours);

/// <summary>Topics on dates, before there are ideas for them.</summary>
internal sealed record MonthDrawn(
    IReadOnlyList<DateDrawn> Dates,
    IReadOnlyList<StaysOpen> Open,
    IReadOnlyDictionary<OutletNumber, HourChosen> Hours,
    IReadOnlyList<FormShare> Forms,
    double HoursFree
);

/// <summary>One month being drawn up.</summary>
internal sealed class MonthDrawing
{
    private readonly SqliteConnection db;
    private readonly MonthAsked asked;
    private readonly IReadOnlyList<Outlet> outlets;
    private readonly IReadOnlyList<Format> formats;
    private readonly Planned planned;
    private readonly (string Name, IReadOnlyList<(Core.Catalogue.ReleaseNumber Release, int? Outlet, double Value)> Releases)? reached;
    private readonly IReadOnlyList<TopicForDates> topics;
    private readonly IReadOnlyDictionary<int, IReadOnlyList<DateOnly>> taken;
    private readonly DateOnly today,
        first,
        last;
    private readonly int spacing;
    private readonly TimeZoneInfo zone;

    /// <param name="unknown">What a topic counts of which nothing is known.</param>
    public MonthDrawing(
        SqliteConnection db,
        DateOnly today,
        TimeZoneInfo zone,
        DateOnly first,
        DateOnly last,
        int spacing,
        MonthAsked asked,
        IReadOnlyList<TopicOrdered> ordered,
        IReadOnlyList<ComingOccasion> coming,
        double unknown
    )
    {
        (this.db, this.asked, this.spacing, this.zone) = (db, asked, spacing, zone);
        (this.today, this.first, this.last) = (today, first, last);
        outlets = [.. OutletRows.All(db).Where(o => !o.IsPutAway)];
        formats = [.. FormatRows.All(db).Offered];
        planned = new Planned(db, today);
        reached = ReleaseFigureStore.Usual(db, today);
        topics =
        [
            .. ordered.Select(
                (t, at) =>
                    new TopicForDates(
                        at,
                        Math.Max(MonthStore.Least, t.Score ?? unknown),
                        [
                            .. coming
                                .Where(o => t.Topic is { } mark && o.Occasion.Topics.Any(on => on.Number == mark.Number))
                                .Select(o => o.From),
                        ]
                    )
            ),
        ];
        var under = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Under, u => u.Topic);
        var places = ordered
            .Select((t, at) => (t.Topic?.Number.Value, at))
            .Where(t => t.Value is not null)
            .ToDictionary(t => t.Value!.Value, t => t.at);
        taken = planned
            .Dated.Concat(planned.Gone(first.AddDays(-spacing)))
            .SelectMany(p =>
                p.Topics.SelectMany(t => under[t.Number.Value].Append(t.Number.Value))
                    .Distinct()
                    .Where(places.ContainsKey)
                    .Select(t => (At: places[t], Day: p.OutOn ?? p.Due!.Value))
            )
            .GroupBy(p => p.At)
            .ToDictionary(g => g.Key, g => (IReadOnlyList<DateOnly>)[.. g.Select(p => p.Day)]);
    }

    public MonthDrawn Drawn()
    {
        var open = OpenDates.Of(db, outlets, first, last, today);
        var forms = Forms();
        var hoursFree = planned.Free([last]).Select(f => f.Hours).FirstOrDefault();
        IReadOnlyList<FormShare> Mix(int dates) => FormMix.Of(forms, dates, asked.WithinHours ? hoursFree : null, asked.PromoteMore);
        if (asked.PerWeek is { } perWeek)
        {
            using var next = Added(Mix(perWeek * 4)).GetEnumerator();
            open = HowOften.Of(open, perWeek, first, last, next);
        }
        var hours = formats.ToDictionary(f => f.Key, f => Math.Max(0.25, f.UsualHours));
        var rules = new FillingRules(
            TopicsOnDates.Case(topics, open, hours, asked.WithinHours ? planned.Free(open.Select(p => p.Date)) : [], taken, spacing)
        );
        var filled = Filler.Fill(rules.Case).Filled;
        var on = filled.Select(f => f.Place).ToHashSet();
        return new MonthDrawn(
            [
                .. filled.Select(f => new DateDrawn(
                    open[f.Place],
                    rules.Case.Candidates[f.Candidate].Topic!.Value,
                    rules.Hours(f.Place, f.Candidate)
                )),
            ],
            [
                .. Enumerable
                    .Range(0, open.Count)
                    .Where(p => !on.Contains(p))
                    .Select(p => new StaysOpen(open[p].Date, open[p].Outlet, open[p].Format, WhyOpen(rules, p))),
            ],
            outlets.ToDictionary(o => o.Number, Hour),
            Mix(open.Count),
            hoursFree
        );
    }

    private string WhyOpen(FillingRules rules, int place)
    {
        if (topics.Count == 0)
            return "there is no topic to put there";
        if (Enumerable.Range(0, rules.Candidates).Any(c => rules.MayStand(place, c)))
            return "every topic that could stand there is too near, or its hours are given to other dates";
        return rules.Case.Free.Skip(rules.CheckedFrom(place)).Any(f => f.Hours < rules.Hours(place, 0))
            ? "the hours before it are all given to what has a date"
            : $"every topic has something within {spacing} days";
    }

    /// <summary>What a date that is added is for: outlets in turn, each with the form of those it takes that lacks most.</summary>
    private IEnumerable<(OutletNumber, DayOfWeek?, string)> Added(IReadOnlyList<FormShare> mix)
    {
        var left = mix.ToDictionary(m => m.Format, m => (double)m.Percent);
        for (var turn = 0; outlets.Count > 0 && turn < 10_000; turn++)
        {
            var outlet = outlets[turn % outlets.Count];
            if (left.Keys.Where(outlet.Takes).OrderByDescending(f => left[f]).FirstOrDefault() is not { } format)
                continue;
            left[format] -= 100.0 / MonthStore.MostPerWeek / 4;
            yield return (outlet.Number, outlet.BestDay, format);
        }
    }

    /// <summary>Forms that some outlet takes, with what is known of each.</summary>
    private List<FormFacts> Forms()
    {
        var inUse = formats.Where(f => outlets.Any(o => o.Formats.Contains(f.Key))).ToList();
        if (inUse.Count == 0)
            inUse = [.. formats];
        var of = db.Query<(int Release, string Format)>("SELECT r.number, p.format FROM release r JOIN piece p ON p.number = r.piece")
            .ToDictionary(r => r.Release, r => r.Format);
        var keys = inUse.Select((f, at) => (f.Key, at)).ToDictionary(f => f.Key, f => f.at);
        var effects = Effect.Of([
            .. (reached?.Releases ?? []).Select(r => new Reached(
                r.Outlet,
                of.TryGetValue(r.Release.Value, out var format) && keys.TryGetValue(format, out var at) ? [at] : [],
                r.Value
            )),
        ]);
        return
        [
            .. inUse.Select(
                (f, at) =>
                    new FormFacts(
                        f.Key,
                        f.Name,
                        Math.Max(0.25, f.UsualHours),
                        effects.GetValueOrDefault(at),
                        asked.Promoting?.Contains(f.Key) == true
                    )
            ),
        ];
    }

    private HourChosen Hour(Outlet outlet)
    {
        var values = (reached?.Releases ?? []).ToDictionary(r => r.Release.Value, r => r.Value);
        var sent = db.Query<(int Release, DateTimeOffset At)>(
                "SELECT release, at FROM sending WHERE outlet = @Number AND release IS NOT NULL",
                new { outlet.Number }
            )
            .Where(s => values.ContainsKey(s.Release))
            .Select(s => (TimeZoneInfo.ConvertTime(s.At, zone).Hour, values[s.Release]))
            .ToList();
        return BestHour.Of(sent, outlet.BestHour);
    }
}
