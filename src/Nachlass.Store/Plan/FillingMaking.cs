using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;

namespace Nachlass.Store.Plan;

/// <summary>One proposal being made.</summary>
internal sealed class FillingMaking
{
    private readonly FormatSet formats;
    private readonly IReadOnlyList<Outlet> outlets;
    private readonly List<Thing> things = [];
    private readonly FillingCase filling;
    private readonly Dictionary<int, string> topicNames;

    /// <param name="Key">Above 0 for a piece, below for a slip.</param>
    private sealed record Thing(
        int Key,
        string Title,
        double Worth,
        string Why,
        Candidate Candidate,
        IReadOnlyList<(DateOnly Day, string Name)> Occasions
    )
    {
        public PieceNumber? Piece => Key > 0 ? PieceNumber.Of(Key) : null;
        public SlipNumber? Slip => Key < 0 ? SlipNumber.Of(-Key) : null;
    }

    public FillingMaking(SqliteConnection db, DateOnly today, DateOnly first, DateOnly last, int spacing, IReadOnlyList<WorthLine> ideas)
    {
        formats = FormatRows.All(db);
        outlets = OutletRows.All(db);
        var planned = new Planned(db, today);
        var byTopic = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Under, u => u.Topic);
        var topics = db.Query<(int Number, string Name, int? Wish)>("SELECT number, name, wish FROM topic WHERE merged_into IS NULL")
            .ToDictionary(t => t.Number);
        topicNames = topics.ToDictionary(t => t.Key, t => t.Value.Name);
        // The core topic it is under, else its first.
        int? MainTopic(IEnumerable<Core.Topics.TopicMark> marks) =>
            marks
                .SelectMany(m => byTopic[m.Number.Value].Append(m.Number.Value))
                .Where(topics.ContainsKey)
                .OrderBy(t => topics[t].Wish is null)
                .Select(t => (int?)t)
                .FirstOrDefault();

        var places = OpenDates.Of(db, outlets, first, last, today);
        var wanted = places.Select(p => p.Format).ToHashSet();
        var occasions = OccasionStore.All(db);
        IReadOnlyList<(DateOnly, string)> Timed(IEnumerable<Core.Topics.TopicMark> marks)
        {
            var on = marks.SelectMany(m => byTopic[m.Number.Value].Append(m.Number.Value)).ToHashSet();
            return
            [
                .. occasions
                    .Where(o => o.Topics.Any(t => on.Contains(t.Number.Value)))
                    .Select(o => (Day: o.Next(first)?.From, o.Name))
                    .Where(o => o.Day <= last.AddDays(FillingRules.BeforeOccasion))
                    .Select(o => (o.Day!.Value, o.Name)),
            ];
        }

        var never = NeverRows.All(db).ToHashSet();
        foreach (var piece in planned.Undated.Where(p => !never.Contains(Reference.To(p.Number))))
        {
            var timed = Timed(piece.Topics);
            var value = PieceWorth.Of(formats.Named(piece.Format), piece.Stage);
            things.Add(
                new(
                    piece.Number.Value,
                    piece.Title,
                    value,
                    $"in work, at {piece.Stage}",
                    new Candidate
                    {
                        Key = piece.Number.Value,
                        Worth = value,
                        Hours = new Dictionary<string, double> { [piece.Format] = planned.HoursLeft(piece) },
                        Topic = MainTopic(piece.Topics),
                        Occasions = [.. timed.Select(t => t.Item1)],
                        Outlet = piece.Outlet,
                        InSeries = piece.Series is { } series ? (series.Value, piece.Nth) : null,
                    },
                    timed
                )
            );
        }
        foreach (var idea in ideas.Where(i => !never.Contains(Reference.To(i.Slip!.Value))))
        {
            var could = idea.Formats.Count > 0 ? idea.Formats.Where(wanted.Contains) : wanted;
            var timed = Timed(idea.Topics);
            things.Add(
                new(
                    -idea.Slip!.Value.Value,
                    idea.Title,
                    idea.Score,
                    idea.Reason.Count > 0 ? $"worth {idea.Score:0}: {idea.Reason[0]}" : $"worth {idea.Score:0}",
                    new Candidate
                    {
                        Key = -idea.Slip.Value.Value,
                        Worth = idea.Score,
                        Hours = could.ToDictionary(f => f, f => WorthTerms.Hours(formats.Named(f).UsualHours, idea.Effort)),
                        Topic = MainTopic(idea.Topics),
                        Occasions = [.. timed.Select(t => t.Item1)],
                    },
                    timed
                )
            );
        }
        var dated = planned.Dated.Where(p => p.Due >= first.AddDays(-spacing) && p.Due <= last.AddDays(spacing)).ToList();
        filling = new FillingCase
        {
            Places = places,
            Candidates = [.. things.Select(t => t.Candidate)],
            Wished = Wishes(
                topics.Values,
                dated.Where(p => p.Due >= first && p.Due <= last).Select(p => MainTopic(p.Topics)),
                places.Count
            ),
            Free = planned.Free(places.Select(p => p.Date)),
            Taken = dated
                .Concat(planned.Gone(first.AddDays(-spacing)))
                .Select(p => (Topic: MainTopic(p.Topics), Day: p.OutOn ?? p.Due!.Value))
                .Where(p => p.Topic is not null)
                .GroupBy(p => p.Topic!.Value)
                .ToDictionary(g => g.Key, g => (IReadOnlyList<DateOnly>)[.. g.Select(p => p.Day)]),
            Fixed =
            [
                .. planned
                    .Gone(DateOnly.MinValue)
                    .Concat(planned.Dated)
                    .Where(p => p.Series is not null)
                    .Select(p => (p.Series!.Value.Value, p.Nth, p.OutOn ?? p.Due!.Value)),
            ],
            Spacing = spacing,
        };
    }

    /// <summary>How many more of each core topic are wished, when all dates are shared out and those filled are taken off.</summary>
    private static Dictionary<int, int> Wishes(
        IEnumerable<(int Number, string Name, int? Wish)> topics,
        IEnumerable<int?> planned,
        int places
    )
    {
        var core = topics.Where(t => t.Wish is not null).OrderBy(t => t.Number).ToList();
        var has = planned.ToList();
        var rest = Math.Max(0, 100 - core.Sum(t => t.Wish!.Value));
        var given = LargestRemainder.Of([.. core.Select(t => (double)t.Wish!.Value), rest], places + has.Count);
        return core.Select((t, i) => (t.Number, More: given[i] - has.Count(h => h == t.Number)))
            .Where(t => t.More > 0)
            .ToDictionary(t => t.Number, t => t.More);
    }

    public FillingProposed Proposed()
    {
        var proposal = Filler.Fill(filling);
        var rules = new FillingRules(filling);
        var on = new int[rules.Places];
        Array.Fill(on, -1);
        foreach (var filled in proposal.Filled)
            on[filled.Place] = filled.Candidate;
        var left = new Dictionary<int, int>(filling.Wished);
        var places = proposal.Filled.Select(f => Said(f, rules, left)).ToList();
        var used = proposal.Filled.Select(f => f.Candidate).ToHashSet();
        return new FillingProposed(
            places,
            [
                .. Enumerable
                    .Range(0, rules.Places)
                    .Where(p => on[p] < 0)
                    .Select(p => new StaysOpen(
                        filling.Places[p].Date,
                        filling.Places[p].Outlet,
                        filling.Places[p].Format,
                        WhyOpen(rules, p)
                    )),
            ],
            [
                .. things
                    .Select((t, c) => (Thing: t, At: c))
                    .Where(t => !used.Contains(t.At))
                    .OrderBy(t => t.Thing.Key < 0)
                    .ThenByDescending(t => t.Thing.Worth)
                    .Take(FillingStore.MostLeftOut)
                    .Select(t => new LeftOut(t.Thing.Slip, t.Thing.Piece, t.Thing.Title, t.Thing.Worth, WhyOut(rules, on, t.At))),
            ],
            proposal.Value,
            proposal.Bound
        );
    }

    private FillingPlace Said(Filled filled, FillingRules rules, Dictionary<int, int> left)
    {
        var (place, thing) = (filling.Places[filled.Place], things[filled.Candidate]);
        List<string> because = [thing.Why];
        foreach (var (day, name) in thing.Occasions)
            if (FillingRules.OnTime(place.Date, day) > 0)
                because.Add($"{name} on {day:d MMMM}");
        if (thing.Candidate.Topic is { } topic && left.GetValueOrDefault(topic) is > 0 and var more)
        {
            because.Add(more == 1 ? $"{topicNames[topic]} is one short of its wish" : $"{topicNames[topic]} is {more} short of its wish");
            left[topic]--;
        }
        return new FillingPlace(
            place.Date,
            place.Outlet,
            place.Format,
            thing.Slip,
            thing.Piece,
            thing.Title,
            thing.Worth,
            rules.Hours(filled.Place, filled.Candidate),
            because
        );
    }

    private string WhyOpen(FillingRules rules, int place)
    {
        var format = filling.Places[place].Format;
        var could = Enumerable.Range(0, rules.Candidates).Where(c => filling.Candidates[c].Hours.ContainsKey(format)).ToList();
        if (could.Count == 0)
            return $"nothing at hand could be {Article(formats.Named(format).Name)}";
        if (could.Any(c => rules.MayStand(place, c)))
            return "what could stand there does not fit beside the others";
        return could.All(c => LacksHours(rules, place, c))
            ? "the hours before it are all given to what has a date"
            : "what has hours is too near to what stands on its topic, or out of its series’ order";
    }

    /// <summary>Whether the hours free up to a place, and up to each day after it, are too few for a candidate.</summary>
    private bool LacksHours(FillingRules rules, int place, int candidate) =>
        filling.Free.Skip(rules.CheckedFrom(place)).Any(free => free.Hours < rules.Hours(place, candidate));

    private string WhyOut(FillingRules rules, int[] on, int c)
    {
        var candidate = filling.Candidates[c];
        var fitting = Enumerable.Range(0, rules.Places).Where(p => candidate.Hours.ContainsKey(filling.Places[p].Format)).ToList();
        if (fitting.Count == 0)
            return "no open date takes what it would become";
        var possible = fitting.Where(p => rules.MayStand(p, c)).ToList();
        if (possible.Count == 0)
            return filling.Free.Count > 0 && fitting.All(p => filling.Free.Skip(rules.CheckedFrom(p)).Any(f => f.Hours < rules.Hours(p, c)))
                ? $"its {fitting.Min(p => rules.Hours(p, c)):0.#} h fit before none of its dates"
                : "too near to what stands on its topic, or out of its series’ order";
        var free = possible.Where(p => on[p] < 0).ToList();
        if (free.Count > 0)
        {
            var near = possible
                .SelectMany(p => Enumerable.Range(0, on.Length).Where(o => on[o] >= 0 && o != p && !rules.GoTogether(p, c, o, on[o])))
                .ToList();
            if (near.Count > 0)
                return $"too near to “{things[on[near[0]]].Title}” on the same topic";
            return "the hours go to what is worth more";
        }
        return "others add more on its dates";
    }

    private static string Article(string name) =>
        ("AEIOU".Contains(char.ToUpperInvariant(name[0]), StringComparison.Ordinal) ? "an " : "a ") + name.ToLowerInvariant();
}
