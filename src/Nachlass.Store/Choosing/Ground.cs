using System.Globalization;
using System.Runtime.InteropServices;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Choosing;

/// <summary>An idea that could become a piece: a slip, or a marked paragraph, whose number is then below nothing.</summary>
internal readonly record struct Idea(int Key, int? Pull, int? Effort, string? Format, int Day, ReadOnlyMemory<int> Topics, int Source);

/// <summary>
/// All that worth is read from, as it stands at one moment; to be asked only while the surroundings don't change (<see
/// cref="Surroundings.While"/>): what can be said of a topic, a format or a piece is worked out once, so that
/// each of a hundred thousand ideas only looks it up.
/// </summary>
internal sealed class Ground
{
    /// <summary>Wishes on a topic that are counted at most; the ones after them would add next to nothing.</summary>
    private const int MostWishes = 12;

    /// <summary>A wish that is only on the idea's topic weighs so much of one that is near the idea itself.</summary>
    private const double OnTopic = 0.5;

    /// <summary>From this likeness on two texts are about the same; below it a topic they share has to say so too. What only shares a
    /// word reads like it as well.</summary>
    private const float Sure = (float)Core.Sift.ReadsLike.AgainFloor;

    /// <summary>Days back to which the mix is looked at.</summary>
    private const int MixDays = 365;

    /// <summary>From so many finished pieces of a format on, they say how long one takes.</summary>
    private const int EnoughFinished = 3;

    private readonly Columns slips;
    private readonly Func<int, ReadOnlyMemory<int>> topicsOf;
    private readonly ILookup<int, int> topicsOfSource;
    private readonly DateOnly today;
    private double? hoursAtHand;
    private readonly Func<int, Surrounded?> surroundings;
    private readonly Dictionary<int, (string Reader, DateOnly Day)> asks;
    private readonly Dictionary<int, List<(string Reader, double Weight, DateOnly Day)>> wishes = [];

    /// <summary>Wishes of messages by the idea that was made of their ask.</summary>
    private readonly Dictionary<int, List<(string Reader, double Weight, DateOnly Day)>> askedFor = [];
    private readonly bool isAsked;
    private readonly Dictionary<int, List<(int Days, string Name)>> occasions;
    private readonly Dictionary<int, (string Topic, double Has, double Wished)> mix;
    private readonly Dictionary<int, (string Title, DateOnly OutOn)> outs;
    private readonly Dictionary<int, List<Reference>> ties;
    private readonly Dictionary<int, (double Ready, int For, int Against)> claims;
    private readonly Dictionary<int, HashSet<int>> evidence;
    private readonly HashSet<int> trashedSources;
    private readonly Dictionary<string, (Format Format, double Hours, int Days)> formats;
    private readonly ILookup<int, int> questionsOf;
    private readonly HashSet<int> answered;
    private readonly Dictionary<long, double> wishesOn = [];

    public Ground(
        SqliteConnection db,
        Columns slips,
        Func<int, ReadOnlyMemory<int>> topicsOf,
        DateOnly today,
        Func<int, Surrounded?> surroundings,
        IReadOnlyList<ReaderWish> written
    )
    {
        this.topicsOf = topicsOf;
        topicsOfSource = db.Query<(int Source, int Topic)>("SELECT source, topic FROM source_topic").ToLookup(t => t.Source, t => t.Topic);
        (this.slips, this.today, this.surroundings) = (slips, today, surroundings);
        var topics = db.Query<(int Number, string Name, int? Wider, int? Wish)>(
                "SELECT number, name, wider, wish FROM topic WHERE merged_into IS NULL"
            )
            .ToDictionary(t => t.Number);
        var under = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Topic, u => u.Under);
        trashedSources = [.. db.Query<int>("SELECT number FROM source WHERE trashed_at IS NOT NULL")];
        asks = Asks(db);
        foreach (var ask in slips.Tags.Where(t => t.Slip > 0 && asks.ContainsKey(t.Slip)))
            (CollectionsMarshal.GetValueRefOrAddDefault(wishes, ask.Topic, out _) ??= []).Add(Wish(ask.Slip, OnTopic));
        foreach (var wish in written)
        {
            var weight = AskWeight.Of(today.DayNumber - wish.Day.DayNumber, wish.Reach);
            if (wish.Idea is { } made)
                (CollectionsMarshal.GetValueRefOrAddDefault(askedFor, made, out _) ??= []).Add((wish.Person, weight, wish.Day));
            foreach (var topic in wish.Topics)
                (CollectionsMarshal.GetValueRefOrAddDefault(wishes, topic, out _) ??= []).Add((wish.Person, OnTopic * weight, wish.Day));
        }
        isAsked = asks.Count + written.Count > 0;
        foreach (var topic in wishes.Keys)
            wishes[topic] =
            [
                .. wishes[topic]
                    .GroupBy(w => w.Reader)
                    .Select(g => g.MaxBy(w => w.Weight))
                    .OrderByDescending(w => w.Weight)
                    .Take(MostWishes),
            ];
        occasions = Occasions(db, under);
        outs = db.Query<(int Number, string Title, DateOnly OutOn)>(
                "SELECT number, title, out_on FROM piece WHERE out_on IS NOT NULL AND trashed_at IS NULL"
            )
            .ToDictionary(p => p.Number, p => (p.Title, p.OutOn));
        mix = Mix(db, topics, under);
        (claims, evidence) = Claims(db);
        ties = Ties(db);
        var questions = ties.Where(t => IsThere(t.Key) && slips.Slips[t.Key].Kind == SlipKind.Question).ToList();
        // A question is answered by what it is tied to that is kept and no question itself.
        answered = [.. questions.Where(q => q.Value.Any(IsAnswer)).Select(q => q.Key)];
        questionsOf = questions
            .SelectMany(q => q.Value.Where(thing => thing.Kind == ThingKind.Slip).Select(thing => (Idea: thing.Number, Question: q.Key)))
            .ToLookup(q => q.Idea, q => q.Question);
        formats = Formats(db);

        bool IsAnswer(Reference thing) =>
            thing.Kind == ThingKind.Source
                ? !trashedSources.Contains(thing.Number)
                : IsThere(thing.Number)
                    && slips.Slips[thing.Number] is { State: SlipState.Kept, Kind: SlipKind.Quote or SlipKind.Takeaway };
    }

    /// <summary>The same for someone who has so many hours.</summary>
    public Ground With(double? hours)
    {
        if (hours is null)
            return this;
        var other = (Ground)MemberwiseClone();
        other.hoursAtHand = hours;
        return other;
    }

    private bool IsThere(int slip) => slip > 0 && slip < slips.Slips.Length && slips.Slips[slip].Exists;

    private (string Reader, double Weight, DateOnly Day) Wish(int ask, double share)
    {
        var (reader, day) = asks[ask];
        return (reader, share * WorthTerms.AskWeight(today.DayNumber - day.DayNumber), day);
    }

    /// <summary>Readers' asks that are in sight, with who asked. Where that is not known, each is a reader of its own.</summary>
    private static Dictionary<int, (string, DateOnly)> Asks(SqliteConnection db) =>
        db.Query<(int Slip, DateOnly Day, string? Type, string? Creators)>(
                "SELECT s.number, s.day, o.type, o.creators FROM slip s LEFT JOIN source o ON o.number = s.source "
                    + "WHERE s.kind = 'ask' AND s.state IN ('waiting', 'kept', 'held')"
            )
            .ToDictionary(
                a => a.Slip,
                a =>
                    (
                        a.Type == "message" && a.Creators is { Length: > 0 } by
                            ? Message.KeyOf(by, "", default)
                            : a.Slip.ToString(CultureInfo.InvariantCulture),
                        a.Day
                    )
            );

    private Dictionary<int, List<(int, string)>> Occasions(SqliteConnection db, ILookup<int, int> under)
    {
        var byTopic = new Dictionary<int, List<(int, string)>>();
        var set = db.Query<(int Occasion, int Topic)>("SELECT occasion, topic FROM occasion_topic").ToLookup(o => o.Occasion, o => o.Topic);
        var names = new Lazy<TopicNames>(() => TopicNames.Of(db));
        foreach (var occasion in OccasionStore.All(db))
        {
            if (occasion.Next(today) is not { } next)
                continue;
            var days = Math.Max(0, next.From.DayNumber - today.DayNumber);
            var on = set[occasion.Number.Value].ToList();
            if (on.Count == 0)
                on = names.Value.NamedIn(occasion.Name);
            foreach (var topic in on.SelectMany(topic => under[topic]).Distinct())
                (CollectionsMarshal.GetValueRefOrAddDefault(byTopic, topic, out _) ??= []).Add((days, occasion.Name));
        }
        return byTopic;
    }

    /// <summary>For each topic the core topic above it that lies furthest under its share of what went out and is in work.</summary>
    private Dictionary<int, (string, double, double)> Mix(
        SqliteConnection db,
        Dictionary<int, (int Number, string Name, int? Wider, int? Wish)> topics,
        ILookup<int, int> under
    )
    {
        var core = topics.Values.Where(t => t.Wish is not null).ToList();
        if (core.Count == 0)
            return [];
        var pieces = db.Query<(int Piece, int Topic)>(
                "SELECT x.piece, x.topic FROM piece_topic x JOIN piece p ON p.number = x.piece "
                    + "WHERE p.trashed_at IS NULL AND (p.out_on IS NULL OR p.out_on >= @since)",
                new { since = today.AddDays(-MixDays) }
            )
            .ToLookup(p => p.Topic, p => p.Piece);
        var on = core.ToDictionary(c => c.Number, c => under[c.Number].SelectMany(t => pieces[t]).ToHashSet());
        var all = on.Values.SelectMany(p => p).Distinct().Count();
        var found = new Dictionary<int, (string, double, double)>();
        foreach (var c in core)
        {
            var (has, wished) = (all == 0 ? 0 : on[c.Number].Count / (double)all, c.Wish!.Value / 100.0);
            foreach (var topic in under[c.Number])
                if (!found.TryGetValue(topic, out var other) || WorthTerms.Mix(has, wished) > WorthTerms.Mix(other.Item2, other.Item3))
                    found[topic] = (c.Name, has, wished);
        }
        return found;
    }

    private static (Dictionary<int, (double, int, int)>, Dictionary<int, HashSet<int>>) Claims(SqliteConnection db)
    {
        var weighed = db.Query<(int Claim, string Kind, int Number, string Side, string Note, int? Source)>(
                """
                SELECT e.claim, e.thing_kind, e.thing_number, e.side, e.note, iif(e.thing_kind = 'source', e.thing_number, s.source)
                FROM evidence e LEFT JOIN slip s ON e.thing_kind = 'slip' AND s.number = e.thing_number
                """
            )
            .ToLookup(e => e.Claim);
        var claims = db.Query<(int Slip, string Title, string Text)>(
                "SELECT c.slip, c.title, s.text FROM claim c JOIN slip s ON s.number = c.slip WHERE s.state <> 'dropped'"
            )
            .ToDictionary(
                c => c.Slip,
                c =>
                {
                    var sides = weighed[c.Slip]
                        .Select(e => new Evidence(
                            new Reference(Enum.Parse<ThingKind>(e.Kind, true), e.Number),
                            "",
                            Enum.Parse<Side>(e.Side, true),
                            e.Note,
                            e.Source is { } of ? SourceNumber.Of(of) : null,
                            default
                        ))
                        .ToList();
                    return (
                        Readiness.Of(c.Title, Counts.Of(c.Text).Words, sides).Figure,
                        sides.Count(e => e.Side == Side.For),
                        sides.Count(e => e.Side == Side.Against)
                    );
                }
            );
        return (claims, weighed.ToDictionary(g => g.Key, g => g.Select(e => Packed(e.Kind == "slip", e.Number)).ToHashSet()));
    }

    private static int Packed(bool isSlip, int number) => isSlip ? number : -number;

    /// <summary>What is tied to each slip by a link, either way, or as evidence.</summary>
    private static Dictionary<int, List<Reference>> Ties(SqliteConnection db)
    {
        var ties = new Dictionary<int, List<Reference>>();
        foreach (
            var (from, fromNumber, to, toNumber) in db.Query<(string From, int FromNumber, string To, int ToNumber)>(
                """
                SELECT from_kind, from_number, to_kind, to_number FROM link
                    WHERE from_kind IN ('slip', 'source') AND to_kind IN ('slip', 'source')
                UNION ALL SELECT l.from_kind, l.from_number, 'source', o.number FROM link l JOIN source o ON lower(o.title) = l.to_name
                    WHERE l.to_kind IS NULL AND l.from_kind = 'slip'
                UNION ALL SELECT 'slip', claim, thing_kind, thing_number FROM evidence
                UNION ALL SELECT 'slip', slip, 'slip', answer FROM to_find WHERE answer IS NOT NULL
                """
            )
        )
        {
            Tie(from, fromNumber, to, toNumber);
            Tie(to, toNumber, from, fromNumber);
        }
        return ties;

        void Tie(string from, int fromNumber, string to, int toNumber)
        {
            if (from == "slip" && !(from == to && fromNumber == toNumber))
                (CollectionsMarshal.GetValueRefOrAddDefault(ties, fromNumber, out _) ??= []).Add(
                    new Reference(to == "slip" ? ThingKind.Slip : ThingKind.Source, toNumber)
                );
        }
    }

    /// <summary>What a piece of each format takes: its usual hours, and the days that the finished ones took.</summary>
    private static Dictionary<string, (Format, double, int)> Formats(SqliteConnection db)
    {
        var took = db.Query<(string Format, string StartedAt, string OutOn)>(
                "SELECT format, started_at, out_on FROM piece WHERE out_on IS NOT NULL AND trashed_at IS NULL"
            )
            .ToLookup(p => p.Format, p => Mapping.Day(p.OutOn)!.Value.DayNumber - Mapping.Day(p.StartedAt[..10])!.Value.DayNumber);
        return FormatRows
            .All(db)
            .All.ToDictionary(
                format => format.Key,
                format =>
                {
                    var days = took[format.Key].Where(d => d > 0).Order().ToList();
                    return (
                        format,
                        format.UsualHours,
                        days.Count >= EnoughFinished ? days[days.Count / 2] : Math.Max(1, (int)Math.Ceiling(format.UsualHours))
                    );
                }
            );
    }

    public bool IsClaim(int slip) => claims.ContainsKey(slip);

    public Core.Choosing.Known Known(in Idea idea)
    {
        var around = surroundings(idea.Key);
        var (format, effort) = (FormatOf(idea), idea.Effort);
        var factor = WorthTerms.Hours(1, effort);
        return new Core.Choosing.Known
        {
            Pull = idea.Pull,
            Effort = effort,
            Hours = format is null ? null : format.Value.Hours * factor,
            HoursAtHand = hoursAtHand,
            Things = around is null ? null : CountOf(idea, around),
            Wishes = !isAsked ? null : WishesFor(idea, around),
            KnowsOccasions = occasions.Count > 0 && idea.Topics.Length > 0,
            DaysUntil = OccasionFor(idea, DaysFor(format, factor))?.Days,
            DaysNeeded = DaysFor(format, factor),
            Share = MixOf(idea) is { } core ? (core.Has, core.Wished) : null,
            Said =
                outs.Count == 0 || around is null ? null
                : SaidOf(around) is { } said ? (said.Share, today.DayNumber - outs[said.Piece].OutOn.DayNumber)
                : (0, 0),
            Ripe = RipeOf(idea.Key),
            Days = today.DayNumber - idea.Day,
        };
    }

    /// <summary>What an idea has, by name.</summary>
    public (Prospect Prospect, Dictionary<WorthTerm, List<Reference>> Things) Prospect(in Idea idea)
    {
        var known = Known(idea);
        var around = surroundings(idea.Key);
        var material = around is null ? [] : Material(idea, around);
        var readers = Readers(idea, around);
        var format = FormatOf(idea);
        var occasion = OccasionFor(idea, known.DaysNeeded);
        var said = around is null ? null : SaidOf(around);
        var questions = Questions(idea.Key);
        var claim = claims.GetValueOrDefault(idea.Key);
        var sides = evidence.GetValueOrDefault(idea.Key) ?? [];
        var (key, proof) = (idea.Key, material.Where(m => sides.Contains(Packed(m.Kind == ThingKind.Slip, m.Number))).ToHashSet());
        return (
            new Prospect
            {
                Known = known,
                Format = idea.Format is null ? null : format?.Format.Name,
                Evidence = proof.Count,
                Passages = material.Count(m =>
                    !proof.Contains(m) && m.Kind == ThingKind.Slip && slips.Slips[m.Number].Kind != SlipKind.Takeaway
                ),
                Takeaways = material.Count(m =>
                    !proof.Contains(m) && m.Kind == ThingKind.Slip && slips.Slips[m.Number].Kind == SlipKind.Takeaway
                ),
                Sources = material.Count(m => !proof.Contains(m) && m.Kind == ThingKind.Source),
                Readers = readers.Count,
                OnTopicOnly = readers.Count(r => r.OnTopicOnly),
                LastAsk = readers.Count == 0 ? null : readers.Max(r => r.Day),
                Occasion = occasion?.Name,
                Topic = MixOf(idea)?.Topic,
                SaidIn = said is { } s ? outs[s.Piece].Title : null,
                SaidOn = said is { } o ? outs[o.Piece].OutOn : null,
                IsClaim = claims.ContainsKey(key),
                For = claim.For,
                Against = claim.Against,
                Questions = questions.Count,
                Answered = questions.Count(answered.Contains),
            },
            new Dictionary<WorthTerm, List<Reference>>
            {
                [WorthTerm.Material] = [.. material.OrderByDescending(proof.Contains)],
                [WorthTerm.Asks] = [.. readers.Where(r => r.Ask > 0).Select(r => new Reference(ThingKind.Slip, r.Ask))],
                [WorthTerm.Novelty] = said is { } in_ ? [new Reference(ThingKind.Piece, in_.Piece)] : [],
                [WorthTerm.Ripeness] =
                [
                    .. questions.Where(q => q != key).Select(q => new Reference(ThingKind.Slip, q)),
                    .. sides.Select(packed => new Reference(packed > 0 ? ThingKind.Slip : ThingKind.Source, Math.Abs(packed))),
                ],
            }
        );
    }

    private (Format Format, double Hours, int Days)? FormatOf(in Idea idea) =>
        idea.Format is { } key && formats.TryGetValue(key, out var said) ? said
        // An effort without a format is measured by what is written most by default.
        : idea.Effort is not null ? formats.Values.First()
        : null;

    private static int DaysFor((Format Format, double Hours, int Days)? format, double factor) =>
        Math.Max(1, (int)Math.Ceiling((format?.Days ?? 14) * factor));

    private int CountOf(in Idea idea, Surrounded around)
    {
        var count = 0;
        foreach (var (thing, likeness) in CollectionsMarshal.AsSpan(around.Near))
            if (IsMaterial(thing, idea.Key) && IsNear(idea, thing, likeness))
                count++;
        if (idea.Source > 0 || ties.ContainsKey(idea.Key))
            count = Material(idea, around).Count;
        return count;
    }

    private List<Reference> Material(in Idea idea, Surrounded around)
    {
        var found = new List<Reference>();
        foreach (var (thing, likeness) in around.Near)
            if (IsMaterial(thing, idea.Key) && IsNear(idea, thing, likeness))
                found.Add(thing);
        if (idea.Source > 0 && new Reference(ThingKind.Source, idea.Source) is var own && IsMaterial(own, idea.Key) && !found.Contains(own))
            found.Add(own);
        if (ties.TryGetValue(idea.Key, out var tied))
        {
            var sides = evidence.GetValueOrDefault(idea.Key);
            foreach (var thing in tied)
                if (
                    !found.Contains(thing)
                    && (
                        IsMaterial(thing, idea.Key)
                        // What the writer has weighed counts whatever kind it is.
                        || (sides?.Contains(Packed(thing.Kind == ThingKind.Slip, thing.Number)) == true && IsInSight(thing))
                    )
                )
                    found.Add(thing);
        }
        return found;
    }

    private bool IsMaterial(Reference thing, int besides) =>
        IsInSight(thing)
        && (
            thing.Kind == ThingKind.Source
            || (thing.Number != besides && slips.Slips[thing.Number].Kind is SlipKind.Quote or SlipKind.Takeaway)
        );

    private bool IsNear(in Idea idea, Reference thing, float likeness)
    {
        if (likeness >= Sure)
            return true;
        if (thing.Kind == ThingKind.Slip)
        {
            foreach (var topic in topicsOf(thing.Number).Span)
                if (idea.Topics.Span.Contains(topic))
                    return true;
        }
        else
            foreach (var topic in topicsOfSource[thing.Number])
                if (idea.Topics.Span.Contains(topic))
                    return true;
        return false;
    }

    private bool IsInSight(Reference thing) =>
        thing.Kind == ThingKind.Source
            ? !trashedSources.Contains(thing.Number)
            : IsThere(thing.Number) && slips.Slips[thing.Number].State != SlipState.Dropped;

    private double WishesFor(in Idea idea, Surrounded? around)
    {
        if (HasNearAsk(idea, around))
            return Readers(idea, around).Sum(r => r.Weight);
        // Most ideas have wishes by their topics only, and few mixtures of topics there are.
        long mixture = 17;
        foreach (var topic in idea.Topics.Span)
            mixture = mixture * 1_000_003 + topic;
        if (!wishesOn.TryGetValue(mixture, out var weight))
            wishesOn[mixture] = weight = Readers(idea, null).Sum(r => r.Weight);
        return weight;
    }

    private bool HasNearAsk(in Idea idea, Surrounded? around)
    {
        if (askedFor.ContainsKey(idea.Key))
            return true;
        if (around is not null)
            foreach (var (thing, likeness) in CollectionsMarshal.AsSpan(around.Near))
                if (thing.Kind == ThingKind.Slip && asks.ContainsKey(thing.Number) && IsNear(idea, thing, likeness))
                    return true;
        return ties.TryGetValue(idea.Key, out var tied)
            && tied.Exists(thing => thing.Kind == ThingKind.Slip && asks.ContainsKey(thing.Number));
    }

    /// <param name="Ask">The slip by which they asked; 0 where it was a message.</param>
    private sealed record Reader(int Ask, double Weight, DateOnly Day, bool OnTopicOnly);

    /// <summary>The readers who want it, each once: by asks that are near it or tied to it, by messages of whose ask it was made, and by
    /// those on its topics.</summary>
    private List<Reader> Readers(in Idea idea, Surrounded? around)
    {
        var found = new Dictionary<string, Reader>();
        if (around is not null)
            foreach (var (thing, likeness) in around.Near)
                if (IsNear(idea, thing, likeness))
                    Take(thing);
        if (ties.TryGetValue(idea.Key, out var tied))
            foreach (var thing in tied)
                Take(thing);
        if (askedFor.TryGetValue(idea.Key, out var wrote))
            foreach (var (reader, weight, day) in wrote)
                if (!found.TryGetValue(reader, out var other) || other.Weight < weight)
                    found[reader] = new Reader(0, weight, day, false);
        foreach (var topic in idea.Topics.Span)
            if (wishes.TryGetValue(topic, out var on))
                foreach (var (reader, weight, day) in on)
                    if (!found.TryGetValue(reader, out var other) || (other.OnTopicOnly && other.Weight < weight))
                        found[reader] = new Reader(0, weight, day, true);
        if (found.Values.Any(r => r.Ask == 0))
            foreach (var (ask, (reader, day)) in asks)
                if (found.TryGetValue(reader, out var of) && of.Ask == 0 && of.Day == day)
                    found[reader] = of with { Ask = ask };
        return [.. found.Values.OrderBy(r => r.OnTopicOnly).ThenByDescending(r => r.Day).ThenBy(r => r.Ask)];

        void Take(Reference thing)
        {
            if (thing.Kind != ThingKind.Slip || !asks.ContainsKey(thing.Number))
                return;
            var (reader, weight, day) = Wish(thing.Number, 1);
            if (!found.TryGetValue(reader, out var other) || other.Weight < weight)
                found[reader] = new Reader(thing.Number, weight, day, false);
        }
    }

    private (int Days, string Name)? OccasionFor(in Idea idea, int needed)
    {
        (int Days, string Name)? best = null;
        foreach (var topic in idea.Topics.Span)
            if (occasions.TryGetValue(topic, out var on))
                foreach (var occasion in on)
                    if (best is not { } other || WorthTerms.Timeliness(occasion.Days, needed) > WorthTerms.Timeliness(other.Days, needed))
                        best = occasion;
        return best;
    }

    private (string Topic, double Has, double Wished)? MixOf(in Idea idea)
    {
        (string Topic, double Has, double Wished)? best = null;
        foreach (var topic in idea.Topics.Span)
            if (
                mix.TryGetValue(topic, out var core)
                && (best is not { } other || WorthTerms.Mix(core.Has, core.Wished) > WorthTerms.Mix(other.Has, other.Wished))
            )
                best = core;
        return best;
    }

    private (int Piece, double Share)? SaidOf(Surrounded around)
    {
        (int Piece, double Share)? most = null;
        var least = double.MaxValue;
        foreach (var (piece, share) in CollectionsMarshal.AsSpan(around.Said))
            if (
                outs.TryGetValue(piece, out var sent)
                && WorthTerms.Novelty(share, today.DayNumber - sent.OutOn.DayNumber) is var novelty
                && novelty < least
            )
                (most, least) = ((piece, share), novelty);
        return most;
    }

    private List<int> Questions(int slip)
    {
        var questions = questionsOf[slip].Where(q => q != slip && slips.Slips[q].State != SlipState.Dropped).Distinct().ToList();
        if (IsThere(slip) && slips.Slips[slip].Kind == SlipKind.Question)
            questions.Insert(0, slip);
        return questions;
    }

    private double? RipeOf(int slip)
    {
        if (slip < 0)
            return null;
        var isQuestion = IsThere(slip) && slips.Slips[slip].Kind == SlipKind.Question;
        double? asked =
            !isQuestion && !questionsOf.Contains(slip) ? null
            : Questions(slip) is { Count: > 0 } questions ? questions.Count(answered.Contains) / (double)questions.Count
            : null;
        double? ready = claims.TryGetValue(slip, out var claim) ? claim.Ready : null;
        return asked is null ? ready
            : ready is null ? asked
            : (asked + ready) / 2;
    }
}
