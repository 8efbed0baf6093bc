using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Choosing;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas.Order;

/// <summary>Reads what the papers say of topics, all of them held against the same texts.</summary>
internal sealed class TopicReader
{
    /// <summary>Months that are shown.</summary>
    private const int MonthsShown = 24;

    private enum From
    {
        Slips,
        Sources,
        Messages,
        Releases,
    }

    private readonly record struct Seen(DateOnly Day, From From, int Count);

    private readonly SqliteConnection db;
    private readonly DateOnly today,
        first,
        last;
    private readonly int asked;
    private readonly IReadOnlyList<AskShown> wishes;
    private readonly IReadOnlyList<ComingOccasion> coming;
    private readonly List<Seen> all;
    private readonly ILookup<int, Seen> onTopic;
    private readonly string? figure;
    private readonly int measured;
    private readonly IReadOnlyDictionary<int, EffectRead> effects;

    /// <param name="asked">How many topics are read.</param>
    public TopicReader(
        SqliteConnection db,
        Columns slips,
        DateOnly today,
        DateOnly first,
        DateOnly last,
        int asked,
        IReadOnlyList<AskShown> wishes,
        IReadOnlyList<ComingOccasion> coming
    )
    {
        (this.db, this.today, this.first, this.last, this.asked) = (db, today, first, last, asked);
        (this.wishes, this.coming) = (wishes, coming);
        all =
        [
            .. SlipDays(slips, Enumerable.Range(0, slips.Slips.Length)),
            .. Days("SELECT substr(caught_at, 1, 10), count(*) FROM source WHERE trashed_at IS NULL GROUP BY 1", From.Sources),
            .. Days("SELECT substr(at, 1, 10), count(*) FROM message GROUP BY 1", From.Messages),
            .. Days("SELECT out_on, count(*) FROM release GROUP BY 1", From.Releases),
        ];
        var below = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Topic, u => u.Under);
        onTopic = OnTopics()
            .Concat(below.SelectMany(topic => SlipDays(slips, slips.Under(topic)).Select(seen => (Topic: topic.Key, Seen: seen))))
            .ToLookup(t => t.Topic, t => t.Seen);
        var reached = ReleaseFigureStore.Usual(db, today);
        var under = db.Query<(int Release, int Topic)>(
                "SELECT DISTINCT r.number, u.topic FROM release r JOIN piece_topic x ON x.piece = r.piece "
                    + "JOIN topic_under u ON u.under = x.topic"
            )
            .ToLookup(r => r.Release, r => r.Topic);
        (figure, measured) = (reached?.Name, reached?.Releases.Count ?? 0);
        effects = Effect.Of([.. (reached?.Releases ?? []).Select(r => new Reached(r.Outlet, [.. under[r.Release.Value]], r.Value))]);
    }

    private IEnumerable<Seen> Days(string sql, From from, object? arguments = null) =>
        db.Query<(string Day, int Count)>(sql, arguments)
            .Select(d => (Day: Mapping.Day(d.Day), d.Count))
            .Where(d => d.Day is not null)
            .Select(d => new Seen(d.Day!.Value, from, d.Count));

    private static IEnumerable<Seen> SlipDays(Columns columns, IEnumerable<int> slips) =>
        slips
            .Where(slip => columns.Slips[slip] is { Exists: true, State: not SlipState.Dropped })
            .CountBy(slip => columns.Slips[slip].Day)
            .Select(day => new Seen(DateOnly.FromDayNumber(day.Key), From.Slips, day.Value));

    /// <summary>What stands on topics besides slips, by day. A thing on two topics under one counts once for it.</summary>
    private IEnumerable<(int Topic, Seen Seen)> OnTopics()
    {
        (string Sql, From From)[] reads =
        [
            (
                """
                SELECT x.topic, substr(s.caught_at, 1, 10), count(*) FROM (SELECT DISTINCT u.topic, x.source FROM source_topic x
                    JOIN topic_under u ON u.under = x.topic) x
                JOIN source s ON s.number = x.source WHERE s.trashed_at IS NULL GROUP BY 1, 2
                """,
                From.Sources
            ),
            (
                """
                SELECT x.topic, r.out_on, count(*) FROM (SELECT DISTINCT u.topic, x.piece FROM piece_topic x
                    JOIN topic_under u ON u.under = x.topic) x
                JOIN release r ON r.piece = x.piece GROUP BY 1, 2
                """,
                From.Releases
            ),
        ];
        return reads.SelectMany(read =>
            db.Query<(int Topic, string Day, int Count)>(read.Sql)
                .Select(r => (r.Topic, Day: Mapping.Day(r.Day), r.Count))
                .Where(r => r.Day is not null)
                .Select(r => (r.Topic, new Seen(r.Day!.Value, read.From, r.Count)))
        );
    }

    /// <summary>Texts that have words, as they stand next to each other, in any of their forms.</summary>
    private IEnumerable<Seen> Saying(IEnumerable<string> names, bool onlyMessages)
    {
        var match = string.Join(" OR ", names.Select(Phrase).Where(p => p.Length > 2).Distinct());
        if (match.Length == 0)
            return [];
        var of = new { match };
        var messages = Days(
            "SELECT substr(at, 1, 10), count(*) FROM message WHERE number IN "
                + "(SELECT rowid FROM message_words WHERE message_words MATCH @match) GROUP BY 1",
            From.Messages,
            of
        );
        return onlyMessages
            ? messages
            :
            [
                .. messages,
                .. Days(
                    "SELECT day, count(*) FROM slip WHERE state <> 'dropped' AND number IN "
                        + "(SELECT rowid / 8 FROM finding WHERE finding MATCH @match AND rowid % 8 = 0) GROUP BY 1",
                    From.Slips,
                    of
                ),
                .. Days(
                    "SELECT substr(caught_at, 1, 10), count(*) FROM source WHERE trashed_at IS NULL AND number IN "
                        + "(SELECT rowid / 8 FROM finding WHERE finding MATCH @match AND rowid % 8 = 1) GROUP BY 1",
                    From.Sources,
                    of
                ),
                .. Days(
                    "SELECT out_on, count(*) FROM release WHERE number IN "
                        + "(SELECT rowid FROM sent_words WHERE sent_words MATCH @match) GROUP BY 1",
                    From.Releases,
                    of
                ),
            ];
    }

    private static string Phrase(string words) => $"\"{string.Join(' ', Stems.Of(words).Select(s => s.Word))}\"";

    public TopicOrdered Read(TopicRow row, OrderWeights weights, IReadOnlyList<CoverageCell> cells)
    {
        List<Seen> seen = row.Topic is { } topic
            ? [.. onTopic[topic.Number.Value], .. Saying(topic.Aliases.Prepend(topic.Name), onlyMessages: true)]
            : [.. Saying([row.Name], onlyMessages: false)];
        IReadOnlyList<TermRead> terms = [SeasonOf(row, seen), RisingOf(seen), EffectOf(row), AsksOf(row), CoverageOf(row, cells, seen)];
        return new TopicOrdered(
            row.Topic is { } on ? new TopicMark(on.Number, on.Name, on.Colour) : null,
            row.Name,
            TopicOrder.Score(terms, weights),
            terms,
            TopicOrder.Because(terms, weights),
            Months(seen)
        );
    }

    private TermRead SeasonOf(TopicRow row, List<Seen> seen)
    {
        var months = Enumerable.Range(0, last.DayNumber - first.DayNumber + 1).Select(d => first.AddDays(d).Month).Distinct().ToList();
        var days = all.Count == 0 ? 0 : all.Max(s => s.Day).DayNumber - all.Min(s => s.Day).DayNumber;
        var read = Season.Of(ByMonth(seen), ByMonth(all), days, months);
        var occasion = coming
            .Where(o => row.Topic is { } topic && o.Occasion.Topics.Any(t => t.Number == topic.Number) && o.From >= first)
            .Select(o => (o.Occasion.Name, o.From, Value: Timely(o.From)))
            .OrderByDescending(o => o.Value)
            .FirstOrDefault();
        List<TermFigure> figures = [];
        List<string> because = [];
        if (occasion.Name is not null && occasion.Value > 0)
        {
            because.Add($"{occasion.Name} is on {Day(occasion.From)}, in {Counted(occasion.From.DayNumber - today.DayNumber, "day")}.");
            figures.Add(new TermFigure("days to the occasion", occasion.From.DayNumber - today.DayNumber));
        }
        if (read is not null)
        {
            var names = string.Join(" and ", months.Select(CultureInfo.InvariantCulture.DateTimeFormat.GetMonthName));
            because.Add($"In {names} it came up {Times(read.Seen)} where {Number(read.Usual)} would be usual.");
            figures.Add(new TermFigure("texts in these months", read.Seen));
            figures.Add(new TermFigure("usual", Math.Round(read.Usual, 1)));
            figures.Add(new TermFigure("ratio, held back", Math.Round(read.Ratio, 2)));
        }
        if (because.Count > 0)
        {
            var value = Math.Max(occasion.Name is null ? 0 : occasion.Value, read is null ? 0 : Ratios.AsValue(read.Ratio));
            return new TermRead(OrderTerm.Season, value, string.Join(' ', because), figures);
        }
        var texts = seen.Sum(s => s.Count);
        return new TermRead(
            OrderTerm.Season,
            null,
            $"No occasion is near, and {Counted(texts, "text")} over {Counted(days, "day")} say too little of the year: "
                + $"it takes {Season.FewestTexts} over {Season.FewestDays}.",
            [new TermFigure("texts", texts)]
        );
    }

    /// <summary>Full on the days that are asked about, less the further behind them it is.</summary>
    private double Timely(DateOnly from) =>
        from <= last ? 1 : Math.Max(0, 1 - (from.DayNumber - last.DayNumber) / (double)TopicOrderStore.Timely);

    private TermRead RisingOf(List<Seen> seen)
    {
        var since = today.AddDays(-Rising.Lately);
        var before = since.AddDays(-Rising.Before);
        int Lately(List<Seen> of) => of.Where(s => s.Day > since && s.Day <= today).Sum(s => s.Count);
        int Before(List<Seen> of) => of.Where(s => s.Day > before && s.Day <= since).Sum(s => s.Count);
        var read = Rising.Of(Lately(seen), Lately(all), Before(seen), Before(all), asked);
        var came = $"It came up {Times(read.Lately)} in {Rising.Lately} days where {Number(read.Usual)} would be usual";
        var chance = Math.Round(1 / Math.Max(read.Chance, 1e-6));
        return new TermRead(
            OrderTerm.Rising,
            read.Trend switch
            {
                Trend.TooLittle => null,
                Trend.Same => 0.5,
                _ => Ratios.AsValue(read.Ratio),
            },
            read.Trend switch
            {
                Trend.TooLittle => $"{came}: too little to say.",
                Trend.Same => $"{came}: no more than chance would have it.",
                Trend.Rises => string.Create(CultureInfo.InvariantCulture, $"{came}; by chance so many come once in {chance:N0}."),
                _ => string.Create(CultureInfo.InvariantCulture, $"{came}; by chance so few come once in {chance:N0}."),
            },
            [
                new TermFigure($"texts in {Rising.Lately} days", read.Lately),
                new TermFigure($"texts in the {Rising.Before} days before", Before(seen)),
                new TermFigure("usual", Math.Round(read.Usual, 1)),
                new TermFigure("chance", Math.Round(read.Chance, 4)),
                new TermFigure("ratio, held back", Math.Round(read.Ratio, 2)),
            ]
        );
    }

    private TermRead EffectOf(TopicRow row)
    {
        if (row.Topic is not { } topic || figure is null || !effects.TryGetValue(topic.Number.Value, out var read))
            return new TermRead(
                OrderTerm.Effect,
                null,
                measured < Effect.Fewest
                    ? $"{Counted(measured, "release")} in all {(measured == 1 ? "has" : "have")} figures; "
                        + $"it takes {Effect.Fewest} to compare."
                    : "No release on it has a figure yet.",
                [new TermFigure("releases with figures", measured)]
            );
        return new TermRead(
            OrderTerm.Effect,
            Ratios.AsValue(read.Ratio),
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Counted(read.Releases, "release")} on it had {read.Raw:0.0#} times the usual {figure} of their outlets after a week; "
            )
                + (
                    Math.Abs(read.Ratio - 1) < 0.05
                        ? "releases differ as much by themselves, so it counts as usual."
                        : string.Create(CultureInfo.InvariantCulture, $"so few count as {read.Ratio:0.0#} times.")
                ),
            [
                new TermFigure("releases", read.Releases),
                new TermFigure($"times the usual {figure}", Math.Round(read.Raw, 2)),
                new TermFigure("drawn towards the usual", Math.Round(read.Ratio, 2)),
            ]
        );
    }

    private TermRead AsksOf(TopicRow row)
    {
        if (wishes.Count == 0)
            return new TermRead(OrderTerm.Asks, null, "No reader asks for anything that is not answered.", []);
        var roots = Stems.Of(row.Name).Select(s => s.Root).ToHashSet();
        var own = wishes
            .Where(a =>
                row.Topic is { } topic
                    ? a.Topics.Any(t => t.Number == topic.Number)
                    : roots.Count > 0 && roots.IsSubsetOf(Stems.Of(a.Ask).Select(s => s.Root))
            )
            .ToList();
        var (weight, people) = (own.Sum(a => a.Weight), own.Sum(a => a.People));
        return new TermRead(
            OrderTerm.Asks,
            WorthTerms.Asks(weight),
            own.Count == 0
                ? "No reader asks for anything on it."
                : string.Create(
                    CultureInfo.InvariantCulture,
                    $"{Counted(people, "reader")} {(people == 1 ? "wants" : "want")} something on it: “{own.MaxBy(a => a.Weight)!.Ask}”"
                ),
            [new TermFigure("asks", own.Count), new TermFigure("readers", people), new TermFigure("weight", Math.Round(weight, 1))]
        );
    }

    private TermRead CoverageOf(TopicRow row, IReadOnlyList<CoverageCell> cells, List<Seen> seen)
    {
        var outs = seen.Where(s => s.From == From.Releases).ToList();
        DateOnly? lastOut = cells.Max(c => c.LastOut);
        if (outs.Count > 0 && outs.Max(s => s.Day) is var sent && (lastOut is null || sent > lastOut))
            lastOut = sent;
        var (inWork, inHand) = (cells.Sum(c => c.InWork), row.Topic is { } topic ? topic.Kept - topic.Used : 0);
        var days = lastOut is { } day ? Math.Max(0, today.DayNumber - day.DayNumber) : (int?)null;
        // What is only words has no slips of its own; what speaks of it waits too.
        var things = row.Topic is { } its ? inHand + its.Sources : seen.Where(s => s.From is From.Slips or From.Sources).Sum(s => s.Count);
        List<string> parts =
        [
            days is { } ago
                ? (ago == 0 ? "Something on it went out today" : $"The last on it went out {Counted(ago, "day")} ago")
                : "Nothing on it went out yet",
        ];
        if (inHand > 0)
            parts.Add($"{Counted(inHand, "kept slip")} {(inHand == 1 ? "waits" : "wait")} for a piece");
        parts.Add(inWork == 0 ? "nothing is in work" : $"{Counted(inWork, "piece")} {(inWork == 1 ? "is" : "are")} in work");
        List<TermFigure> figures = [new("kept slips without a piece", inHand), new("pieces in work", inWork)];
        if (days is { } since)
            figures.Insert(0, new TermFigure("days since the last", since));
        return new TermRead(OrderTerm.Coverage, LongAgo.Value(days, things, inWork), string.Join("; ", parts) + ".", figures);
    }

    private IReadOnlyList<MonthCount> Months(List<Seen> seen)
    {
        var start = new DateOnly(today.Year, today.Month, 1).AddMonths(1 - MonthsShown);
        var by = seen.Where(s => s.Day >= start)
            .GroupBy(s => (Month: new DateOnly(s.Day.Year, s.Day.Month, 1), s.From))
            .ToDictionary(g => g.Key, g => g.Sum(s => s.Count));
        return
        [
            .. Enumerable
                .Range(0, MonthsShown)
                .Select(m => start.AddMonths(m))
                .Select(m => new MonthCount(
                    m,
                    by.GetValueOrDefault((m, From.Slips)),
                    by.GetValueOrDefault((m, From.Sources)),
                    by.GetValueOrDefault((m, From.Messages)),
                    by.GetValueOrDefault((m, From.Releases))
                )),
        ];
    }

    private static int[] ByMonth(List<Seen> seen)
    {
        var months = new int[12];
        foreach (var one in seen)
            months[one.Day.Month - 1] += one.Count;
        return months;
    }

    private static string Times(int count) => count == 1 ? "once" : $"{count} times";

    private static string Counted(int count, string noun) => count == 1 ? $"1 {noun}" : $"{count} {noun}s";

    private static string Number(double value) => value.ToString(value < 10 ? "0.#" : "0", CultureInfo.InvariantCulture);

    private static string Day(DateOnly day) => day.ToString("d MMMM", CultureInfo.InvariantCulture);
}
