using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;

namespace Nachlass.Store.Plan;

/// <summary>What a candidate of a sitting is.</summary>
public enum CandidateKind
{
    Piece,
    Idea,
    Ask,
    Occasion,
}

/// <summary>An open date of a period.</summary>
public sealed record OpenPlace(DateOnly Date, OutletNumber Outlet, string OutletName, string Format, string FormatName);

/// <summary>Something that could go out in a period.</summary>
/// <param name="Number">Of the piece, slip or occasion.</param>
/// <param name="Worth">0 to 100; null where nothing is known.</param>
/// <param name="Why">What speaks for it, the weightiest first.</param>
/// <param name="Formats">What it could become, by key; every format when empty.</param>
/// <param name="Hours">Hours it still needs; null where that is not known.</param>
/// <param name="On">The day it is about, of an occasion.</param>
public sealed record PlanCandidate(
    CandidateKind Kind,
    int Number,
    string Title,
    double? Worth,
    IReadOnlyList<string> Why,
    IReadOnlyList<string> Formats,
    double? Hours,
    DateOnly? On,
    IReadOnlyList<TopicMark> Topics
);

/// <summary>A sitting over a period: the dates that are open, and what could fill them, the worthiest first.</summary>
public sealed record PlanSitting(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<OpenPlace> Open,
    IReadOnlyList<PlanCandidate> Candidates,
    IReadOnlyList<PlanWeek> Weeks
);

/// <summary>Something planned or out that a candidate is near to.</summary>
/// <param name="Likeness">0 to 1, as everywhere what reads like something is measured.</param>
/// <param name="On">The day it is due or went out.</param>
/// <param name="Words">The words that make them alike.</param>
/// <param name="Passage">The paragraph in which most of them stand.</param>
public sealed record TooNear(
    PieceNumber Piece,
    string Title,
    double Likeness,
    DateOnly On,
    bool IsOut,
    IReadOnlyList<string> Words,
    string Passage
);

/// <summary>Choosing what goes out in a period, one candidate after the other.</summary>
public sealed class ChoosingStore(PapersFile papers, WorthStore worth, AdviceStore advice)
{
    /// <summary>A quarter and a few days.</summary>
    public const int MostDays = 100;

    private const int MostIdeas = 40,
        MostAsks = 15,
        MostNear = 3,
        LongestPassage = 400;

    /// <summary>Below this two texts are not too near, only on one subject.</summary>
    private const double NearFrom = 0.2;

    /// <param name="from">The first day; today when it is left out or past.</param>
    /// <param name="to">The last; the end of the month after next week when it is left out.</param>
    /// <exception cref="BadInputException">They end before they begin, or are more than a quarter.</exception>
    public PlanSitting Get(DateOnly? from, DateOnly? to)
    {
        var first = from is { } asked && asked > papers.Today ? asked : papers.Today;
        var last = to ?? first.AddDays(34);
        if (!Check.IsDay(first) || !Check.IsDay(last) || last < first || last.DayNumber - first.DayNumber > MostDays)
            throw new BadInputException("to", $"The days end on the day they begin or later, and are {MostDays} at most.");
        var ideas = worth.Best(new WorthAsked(MostIdeas * 2)).Where(i => i.Slip is not null).ToList();
        return papers.Read(db => Of(db, first, last, ideas));
    }

    private PlanSitting Of(SqliteConnection db, DateOnly first, DateOnly last, List<WorthLine> ideas)
    {
        var today = papers.Today;
        var planned = new Planned(db, today);
        var formats = FormatRows.All(db);
        var outlets = OutletRows.All(db).Where(o => !o.IsPutAway).ToDictionary(o => o.Number);
        var never = NeverRows.All(db).ToHashSet();
        var filled = CadenceRows.Filled(db);
        List<OpenPlace> open =
        [
            .. CadenceRows
                .All(db)
                .Where(c => outlets.ContainsKey(c.Outlet))
                .SelectMany(c =>
                    CadenceRows
                        .Dates(c, filled, first, last, today)
                        .Where(d => d.Piece is null && !d.IsMissed)
                        .Select(d => new OpenPlace(d.Date, c.Outlet, outlets[c.Outlet].Name, c.Format, formats.Named(c.Format).Name))
                )
                .OrderBy(p => p.Date)
                .ThenBy(p => p.Outlet.Value)
                .ThenBy(p => p.Format, StringComparer.Ordinal),
        ];
        var candidates = planned
            .Undated.Where(p => !never.Contains(Reference.To(p.Number)))
            .Select(p => new PlanCandidate(
                CandidateKind.Piece,
                p.Number.Value,
                p.Title,
                PieceWorth.Of(formats.Named(p.Format), p.Stage),
                [$"in work, at {p.Stage}"],
                [p.Format],
                planned.HoursLeft(p),
                null,
                p.Topics
            ))
            .ToList();
        var asks = db.Query<int>(
                "SELECT number FROM slip WHERE kind = 'ask' AND state IN ('waiting', 'kept') "
                    + $"AND number NOT IN (SELECT slip FROM material WHERE slip IS NOT NULL) ORDER BY caught_at DESC LIMIT {MostAsks}"
            )
            .ToList();
        candidates.AddRange(
            ideas
                .Where(i => !asks.Contains(i.Slip!.Value.Value) && !never.Contains(Reference.To(i.Slip.Value)))
                .Take(MostIdeas)
                .Select(i => new PlanCandidate(
                    CandidateKind.Idea,
                    i.Slip!.Value.Value,
                    i.Title,
                    i.Score,
                    i.Reason,
                    i.Formats,
                    i.Hours,
                    null,
                    i.Topics
                ))
        );
        var known = ideas.ToDictionary(i => i.Slip!.Value.Value);
        var slips = SlipRows.All(db, asks);
        candidates.AddRange(
            asks.Where(a => !never.Contains(new Reference(ThingKind.Slip, a)))
                .Select(a => new PlanCandidate(
                    CandidateKind.Ask,
                    a,
                    slips[a].Title,
                    known.GetValueOrDefault(a)?.Score,
                    known.GetValueOrDefault(a)?.Reason ?? ["readers ask for it"],
                    known.GetValueOrDefault(a)?.Formats ?? [],
                    known.GetValueOrDefault(a)?.Hours,
                    null,
                    slips[a].Topics
                ))
        );
        candidates.AddRange(
            OccasionStore
                .All(db)
                .Select(o => (Occasion: o, o.Next(first)?.From))
                .Where(o => o.From is { } on && on <= last)
                .Select(o => new PlanCandidate(
                    CandidateKind.Occasion,
                    o.Occasion.Number.Value,
                    o.Occasion.Name,
                    null,
                    [$"it is on {o.From:d MMMM}"],
                    [],
                    null,
                    o.From,
                    o.Occasion.Topics
                ))
        );
        return new PlanSitting(
            first,
            last,
            open,
            // What no open date takes is not asked about.
            [
                .. candidates
                    .Where(c => c.Formats.Count == 0 || c.Formats.Any(f => open.Any(o => o.Format == f)))
                    .OrderByDescending(c => c.Worth ?? 50)
                    .ThenBy(c => c.Kind)
                    .ThenBy(c => c.Number),
            ],
            planned.Shown(db, WeekLoad.MondayOf(first), WeekLoad.MondayOf(last).AddDays(6)).Weeks
        );
    }

    /// <summary>What is planned or out and near to a candidate, with the passage that is.</summary>
    public IReadOnlyList<TooNear> Near(CandidateKind kind, int number)
    {
        var text = papers.Read(db =>
            kind switch
            {
                CandidateKind.Piece => PieceRows.Get(db, PieceNumber.Of(number)).Title
                    + "\n"
                    + DraftRows.Read(db, PieceNumber.Of(number)).Outline.Text,
                CandidateKind.Occasion => OccasionStore.All(db).FirstOrDefault(o => o.Number.Value == number)?.Name
                    ?? throw new NotThereException($"occasion {number}"),
                _ => SlipRows.Get(db, SlipNumber.Of(number)).Text,
            }
        );
        var dated = papers.Read(db =>
            db.Query<(int Number, DateOnly? Due, DateOnly? Out)>(
                    "SELECT number, due, out_on FROM piece WHERE trashed_at IS NULL AND (due IS NOT NULL OR out_on IS NOT NULL)"
                )
                .ToDictionary(p => p.Number, p => (p.Due, p.Out))
        );
        var like = advice.Like(
            text,
            MostNear,
            thing =>
                thing.Kind == ThingKind.Piece && dated.ContainsKey(thing.Number) && !(kind == CandidateKind.Piece && thing.Number == number)
        );
        return papers.Read<IReadOnlyList<TooNear>>(db =>
            [
                .. like.Where(a => a.Likeness >= NearFrom)
                    .Select(a =>
                    {
                        var (due, gone) = dated[a.Thing.Number];
                        var draft = DraftRows.Read(db, PieceNumber.Of(a.Thing.Number)).Outline.Text;
                        return new TooNear(
                            PieceNumber.Of(a.Thing.Number),
                            a.Title,
                            a.Likeness,
                            gone ?? due!.Value,
                            gone is not null,
                            a.Words,
                            Passage(draft, a.Words)
                        );
                    }),
            ]
        );
    }

    private static string Passage(string draft, IReadOnlyList<string> words)
    {
        var best = Paragraphs
            .Of(draft)
            .Where(p => !p.StartsWith('#'))
            .OrderByDescending(p => words.Count(w => p.Contains(w, StringComparison.OrdinalIgnoreCase)))
            .FirstOrDefault("");
        return best.Length > LongestPassage ? best[..LongestPassage].TrimEnd() + "…" : best;
    }

    /// <summary>Says that a slip or piece is never to be offered for open dates, or may be again.</summary>
    public Done<bool> Never(Reference thing, bool never, Once once)
    {
        if (thing.Kind is not (ThingKind.Slip or ThingKind.Piece))
            throw new BadInputException("kind", "Slips and pieces are offered.");
        return papers.Run(
            never ? $"never {thing} for a date" : $"{thing} for a date again",
            once,
            change =>
            {
                if (thing.Kind == ThingKind.Slip)
                    SlipRows.Get(change.Db, SlipNumber.Of(thing.Number));
                else
                    PieceRows.Get(change.Db, PieceNumber.Of(thing.Number));
                if (never)
                    NeverRows.Put(change.Db, thing);
                else
                    NeverRows.Remove(change.Db, thing);
                return never;
            }
        );
    }
}
