using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Figures;

/// <summary>One figure of a release over time.</summary>
/// <param name="Latest">The last total there is.</param>
/// <param name="Week">What it was seven days after the release went out; null where that is not known.</param>
/// <param name="Usual">What the middle release of that outlet had then; null where there are too few.</param>
public sealed record FigureLine(string Name, int Latest, double? Week, double? Usual, IReadOnlyList<ReleaseFigure> Told);

/// <summary>All figures of a release.</summary>
/// <param name="Tried">Notes of what was tried with others, to be chosen from, the latest first.</param>
public sealed record FiguresOf(ReleaseNumber Release, IReadOnlyList<FigureLine> Lines, IReadOnlyList<string> Tried);

/// <summary>A figure as its writer types it.</summary>
/// <param name="Day">Up to the end of which day; today when left out.</param>
/// <param name="Total">All of it up to then; null to take it away.</param>
public sealed record FigureTyped(string? Name, int? Total, DateOnly? Day = null);

/// <summary>What is compared.</summary>
/// <param name="Figure">The name of a figure.</param>
/// <param name="After">So many days after going out.</param>
/// <param name="Outlet">Only on this outlet; all of them when null.</param>
public sealed record ComparisonAsked(string Figure, MeasuredAs As, ComparedBy By, int After, OutletNumber? Outlet);

/// <summary>A name of a figure, and how many releases have it.</summary>
public sealed record FigureName(string Name, int Releases);

/// <summary>A release that is compared.</summary>
public sealed record ReleaseCompared(ReleaseNumber Release, string Title, DateOnly OutOn, double Value);

/// <summary>Groups of releases compared.</summary>
/// <param name="Compared">How many releases are compared.</param>
/// <param name="Young">How many went out too lately.</param>
/// <param name="Untold">How many are old enough, and the figure is not known at that age.</param>
/// <param name="Names">The figures there are.</param>
public sealed record ComparisonShown(
    string Figure,
    MeasuredAs As,
    ComparedBy By,
    int After,
    OutletNumber? Outlet,
    int Compared,
    int Young,
    int Untold,
    IReadOnlyList<GroupCompared> Groups,
    IReadOnlyList<ReleaseCompared> Releases,
    IReadOnlyList<FigureName> Names
);

/// <summary>A release whose outlet can be asked for its figures.</summary>
public sealed record ToAsk(ReleaseNumber Release, OutletNumber Outlet, string Address);

/// <summary>Figures of what went out.</summary>
public sealed class ReleaseFigureStore(PapersFile papers)
{
    public const int UsualAfter = 7,
        MostAfter = 3_650;

    /// <summary>Releases are asked about for so many days; ours.</summary>
    private const int AskedFor = 180;

    /// <exception cref="NotThereException">There is no such release.</exception>
    public FiguresOf Get(ReleaseNumber number) =>
        papers.Read(db =>
        {
            var release = ReleaseRows.Get(db, number);
            var all = All(db, papers.Today);
            var outlets = ReleaseRows.List(db, "true", null).ToDictionary(r => r.Number);
            return new FiguresOf(
                number,
                [
                    .. all.Where(f => f.Release == number)
                        .GroupBy(f => f.Figure.Name)
                        .OrderByDescending(g => g.Max(f => f.Figure.Total))
                        .ThenBy(g => g.Key, StringComparer.Ordinal)
                        .Select(g =>
                        {
                            var told = g.Select(f => f.Figure).OrderBy(f => f.Day).ToList();
                            var others = all.Where(f =>
                                    f.Figure.Name == g.Key && f.Release != number && outlets[f.Release].Outlet == release.Outlet
                                )
                                .GroupBy(f => f.Release)
                                .Select(o => ReleaseFigures.After(o.Select(f => f.Figure), outlets[o.Key].OutOn, UsualAfter))
                                .OfType<double>()
                                .ToList();
                            return new FigureLine(
                                g.Key,
                                told[^1].Total,
                                ReleaseFigures.After(told, release.OutOn, UsualAfter),
                                others.Count < Comparison.Few ? null : LeadTimes.Median(others),
                                told
                            );
                        }),
                ],
                db.Query<string>("SELECT tried FROM release WHERE tried <> '' GROUP BY lower(tried) ORDER BY max(out_on) DESC").ToList()
            );
        });

    /// <summary>The latest of each figure of all releases, the highest first.</summary>
    public ILookup<ReleaseNumber, (string Name, int Total)> Latest() =>
        papers.Read(db =>
            All(db, papers.Today)
                .GroupBy(f => (f.Release, f.Figure.Name))
                .Select(g => (g.Key.Release, g.Key.Name, g.MaxBy(f => f.Figure.Day).Figure.Total))
                .OrderByDescending(f => f.Total)
                .ToLookup(f => f.Release, f => (f.Name, f.Total))
        );

    /// <summary>Keeps a figure as typed, or takes one away.</summary>
    public Done<FiguresOf> Type(ReleaseNumber number, FigureTyped typed, Once once)
    {
        var name = ReleaseFigures.CheckedName(typed.Name);
        if (typed.Total is < 0 or > ReleaseFigures.Most)
            throw new BadInputException("total", $"A figure is a whole number from 0 to {ReleaseFigures.Most:N0}.");
        var day = typed.Day ?? papers.Today;
        var done = papers.Run(
            $"noted {name} of R {number}",
            once,
            change =>
            {
                var release = ReleaseRows.Get(change.Db, number);
                if (!Check.IsDay(day) || day > change.Today || day < release.OutOn)
                    throw new BadInputException("day", "A figure is of a day since it went out, today at the latest.");
                if (typed.Total is { } total)
                    ReleaseFigureRows.Put(change.Db, number, new ReleaseFigure(name, day, total, ToldBy.Hand));
                else if (ReleaseFigureRows.RemoveTyped(change.Db, number, name, day) == 0)
                    throw new NotThereException($"figure “{name}” of that day that was typed");
                else
                    change.What = $"took {name} of R {number} away";
                return number;
            }
        );
        return new Done<FiguresOf>(done.Command, Get(number), done.Repeated, done.Followed);
    }

    /// <summary>Releases that went out lately with an address, whose outlet was not asked today.</summary>
    /// <param name="outlets">Outlets that can be asked.</param>
    public IReadOnlyList<ToAsk> ToAsk(IReadOnlyCollection<OutletNumber> outlets) =>
        papers.Read(db =>
            (IReadOnlyList<ToAsk>)
                [
                    .. db.Query<(int Release, int Outlet, string Address)>(
                            """
                            SELECT r.number, r.outlet, r.address FROM release r
                            WHERE r.address <> '' AND r.out_on >= @from AND r.outlet IN (SELECT value FROM json_each(@outlets))
                                AND NOT EXISTS (SELECT 1 FROM figure_told t WHERE t.release = r.number AND t.day = @Today)
                            ORDER BY r.out_on DESC, r.number DESC
                            """,
                            new
                            {
                                from = papers.Today.AddDays(-AskedFor),
                                outlets = Mapping.List(outlets.Select(o => o.Value)),
                                papers.Today,
                            }
                        )
                        .Select(t => new ToAsk(ReleaseNumber.Of(t.Release), OutletNumber.Of(t.Outlet), t.Address)),
                ]
        );

    /// <summary>Keeps what an outlet told of a release up to now. It is no step that could be taken back.</summary>
    public void Told(ReleaseNumber number, IReadOnlyDictionary<string, int> figures)
    {
        papers.Alone(db =>
        {
            foreach (var (name, total) in figures)
                ReleaseFigureRows.Put(db, number, new ReleaseFigure(name, papers.Today, total, ToldBy.Outlet));
            return 0;
        });
        papers.Nudge("release", number.Value);
    }

    /// <summary>Groups of releases compared by a figure.</summary>
    public ComparisonShown Compare(ComparisonAsked asked)
    {
        var name = ReleaseFigures.CheckedName(asked.Figure);
        if (asked.After is < 1 or > MostAfter)
            throw new BadInputException("after", $"Compare them 1 to {MostAfter} days after they went out.");
        return papers.Read(db =>
        {
            var all = All(db, papers.Today);
            var releases = ReleaseRows
                .List(db, "EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)", null)
                .Where(r => asked.Outlet is null || r.Outlet == asked.Outlet)
                .ToList();
            var told = all.ToLookup(f => (f.Release, f.Figure.Name), f => f.Figure);
            double? At(Release release, string figure) => ReleaseFigures.After(told[(release.Number, figure)], release.OutOn, asked.After);
            var young = releases.Count(r => r.OutOn.AddDays(asked.After) > papers.Today);
            var old = releases.Where(r => r.OutOn.AddDays(asked.After) <= papers.Today).ToList();
            var known = old.Select(r => (Release: r, Value: At(r, name))).Where(r => r.Value is not null).ToList();
            var groups = Groups(db, [.. known.Select(k => k.Release)], asked.By);
            return new ComparisonShown(
                name,
                asked.As,
                asked.By,
                asked.After,
                asked.Outlet,
                known.Count,
                young,
                old.Count - known.Count,
                Comparison.Of(
                    [
                        .. known.Select(k => new ReleaseMeasured(
                            k.Release.Number,
                            k.Value!.Value,
                            At(k.Release, ReleaseFigures.Views),
                            groups(k.Release)
                        )),
                    ],
                    asked.As
                ),
                [.. known.Select(k => new ReleaseCompared(k.Release.Number, k.Release.Title, k.Release.OutOn, k.Value!.Value))],
                [
                    .. all.GroupBy(f => f.Figure.Name)
                        .Select(g => new FigureName(g.Key, g.Select(f => f.Release).Distinct().Count()))
                        .OrderByDescending(n => n.Releases)
                        .ThenBy(n => n.Name, StringComparer.Ordinal),
                ]
            );
        });
    }

    private static Func<Release, IReadOnlyList<string>> Groups(SqliteConnection db, IReadOnlyList<Release> releases, ComparedBy by)
    {
        var pieces = PieceRows.List(db, "p.out_on IS NOT NULL", null).ToDictionary(p => p.Number);
        switch (by)
        {
            case ComparedBy.Outlet:
                var outlets = OutletRows.All(db).ToDictionary(o => o.Number, o => o.Name);
                return r => [r.Outlet is { } at ? outlets[at] : "not said"];
            case ComparedBy.Format:
                var formats = FormatRows.All(db);
                return r => [formats.Named(pieces[r.Piece].Format).Name];
            case ComparedBy.Topic:
                return r => [.. pieces[r.Piece].Topics.Select(t => t.Name)];
            case ComparedBy.Weekday:
                return r => [r.OutOn.DayOfWeek.ToString()];
            case ComparedBy.Title:
                return r => [ReleaseGroups.OfTitle(r.Title)];
            case ComparedBy.Length:
                var words = releases.Select(r => r.Words).ToList();
                return r => [ReleaseGroups.OfLength(r.Words, words)];
            default:
                return r => [r.Tried.Length > 0 ? r.Tried.ToLowerInvariant() : "nothing noted"];
        }
    }

    /// <summary>The figure that most releases have, and what each had so many days after it went out; null where there is none.</summary>
    internal static (string Name, IReadOnlyList<(ReleaseNumber Release, int? Outlet, double Value)> Releases)? Usual(
        SqliteConnection db,
        DateOnly today
    )
    {
        var all = All(db, today);
        if (
            all.GroupBy(f => f.Figure.Name)
                .Select(g => (Figures: g, Of: g.Select(f => f.Release).Distinct().Count()))
                // Replies are counted for everything and are mostly none.
                .OrderByDescending(g => g.Of >= Comparison.Few && g.Figures.Key != ReleaseFigures.Replies)
                .ThenByDescending(g => g.Of)
                .ThenByDescending(g => g.Figures.Key == ReleaseFigures.Views)
                .Select(g => g.Figures)
                .FirstOrDefault()
            is not { } most
        )
            return null;
        var told = most.ToLookup(f => f.Release, f => f.Figure);
        return (
            most.Key,
            [
                .. ReleaseRows
                    .List(db, "EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)", null)
                    .Select(r => (r.Number, r.Outlet?.Value, Value: ReleaseFigures.After(told[r.Number], r.OutOn, UsualAfter)))
                    .Where(r => r.Value is not null)
                    .Select(r => (r.Number, r.Item2, r.Value!.Value)),
            ]
        );
    }

    /// <summary>What was typed, told and counted; replies are the messages that answer a release.</summary>
    private static List<(ReleaseNumber Release, ReleaseFigure Figure)> All(SqliteConnection db, DateOnly today)
    {
        var all = ReleaseFigureRows.All(db).ToList();
        var replied = db.Query<(int Release, string Day, int Count)>(
                "SELECT release, substr(at, 1, 10), count(*) FROM message WHERE release IS NOT NULL GROUP BY release, substr(at, 1, 10)"
            )
            .ToLookup(m => m.Release, m => (Day: Mapping.Day(m.Day)!.Value, m.Count));
        var told = all.Where(f => f.Figure.Name == ReleaseFigures.Replies).Select(f => f.Release.Value).ToHashSet();
        foreach (var release in replied)
        {
            // Where an outlet counts them, it knows of more than came here.
            if (told.Contains(release.Key))
                continue;
            var total = 0;
            foreach (var (day, count) in release.OrderBy(r => r.Day))
                all.Add((ReleaseNumber.Of(release.Key), new ReleaseFigure(ReleaseFigures.Replies, day, total += count, ToldBy.Here)));
            if (all[^1].Figure.Day < today)
                all.Add((ReleaseNumber.Of(release.Key), new ReleaseFigure(ReleaseFigures.Replies, today, total, ToldBy.Here)));
        }
        return all;
    }
}
