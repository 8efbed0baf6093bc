using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>By what a mix is told apart.</summary>
public enum MixBy
{
    Topic,
    Format,
    Outlet,

    /// <summary>The topics under one of the writer's choice.</summary>
    Axis,
}

/// <summary>What a mix is counted in.</summary>
public enum MixIn
{
    Pieces,
    Words,
    Hours,
}

/// <summary>One line of a mix.</summary>
/// <param name="Key">Number of a topic or outlet, or key of a format.</param>
/// <param name="Wished">The wished share, 0 to 1; null where none is said.</param>
/// <param name="Planned">The share of what is to go out in these days, 0 to 1.</param>
/// <param name="InWork">The share of all that is in hand.</param>
/// <param name="Out">The share of what went out in these days.</param>
/// <param name="WishedDates">How many of all dates in these days it should have; null where no share is wished.</param>
/// <param name="PlannedDates">How many it has.</param>
public sealed record MixLine(
    string Key,
    string Name,
    TopicColour? Colour,
    double? Wished,
    double Planned,
    double InWork,
    double Out,
    int? WishedDates,
    double PlannedDates
);

/// <summary>An exchange that would bring the plan nearer to what is wished.</summary>
/// <param name="Out">The piece that would leave its date.</param>
/// <param name="Piece">The piece that would come; null where it is an idea.</param>
/// <param name="Slip">The idea that would come.</param>
/// <param name="Before">How far off the wish the plan is, 0 to 1.</param>
/// <param name="After">How far off it would be.</param>
public sealed record MixSwap(
    PieceNumber Out,
    string OutTitle,
    PieceNumber? Piece,
    SlipNumber? Slip,
    string Title,
    double Before,
    double After
);

/// <param name="Dates">Dates in these days, filled and open.</param>
/// <param name="Planned">What is to go out in them, in what it is counted in.</param>
/// <param name="InWork">What is in hand.</param>
/// <param name="Out">What went out in them.</param>
public sealed record MixShown(
    DateOnly From,
    DateOnly To,
    MixBy By,
    MixIn In,
    IReadOnlyList<MixLine> Lines,
    int Dates,
    double Planned,
    double InWork,
    double Out,
    MixSwap? Swap
);

/// <summary>What is planned against what is wished.</summary>
public sealed class MixStore(PapersFile papers, WorthStore worth)
{
    private const int Ideas = 40;

    /// <param name="axis">The topic whose topics are told apart, by the axis.</param>
    public MixShown Get(DateOnly? from, DateOnly? to, MixBy by, MixIn counted, TopicNumber? axis)
    {
        var first = from ?? papers.Today;
        var last = to ?? first.AddDays(7 * PlanStore.UsualWeeks - 1);
        if (!Check.IsDay(first) || !Check.IsDay(last) || last < first)
            throw new BadInputException("to", "The days end on the day they begin or later.");
        if (by == MixBy.Axis && axis is null)
            throw new BadInputException("axis", "Say under which topic the topics are that are told apart.");
        var ideas = by == MixBy.Topic ? worth.Best(new WorthAsked(Ideas)) : [];
        return papers.Read(db =>
        {
            var formats = FormatRows.All(db);
            var pieces = PlanRows.Pieces(db, first);
            var kinds = Kinds(db, by, axis, formats);
            var under = db.Query<(int Topic, int Under)>("SELECT topic, under FROM topic_under").ToLookup(u => u.Under, u => u.Topic);
            var keys = kinds.Select((k, i) => (k.Key, i)).ToDictionary(x => x.Key, x => x.i, StringComparer.Ordinal);
            IReadOnlyList<int> On(IEnumerable<TopicMark> topics) =>
                [
                    .. topics
                        .SelectMany(t => under[t.Number.Value])
                        .Select(t => keys.GetValueOrDefault(Key(t), -1))
                        .Where(i => i >= 0)
                        .Distinct(),
                ];
            Mixed Of(PlannedPiece piece) =>
                new(
                    piece.Number.Value,
                    counted switch
                    {
                        MixIn.Words => piece.Words,
                        MixIn.Hours => formats.Named(piece.Format).UsualHours,
                        _ => 1,
                    },
                    by switch
                    {
                        MixBy.Format => keys.TryGetValue(piece.Format, out var f) ? [f] : [],
                        MixBy.Outlet => piece.Outlet is { } o && keys.TryGetValue(Key(o.Value), out var at) ? [at] : [],
                        _ => On(piece.Topics),
                    }
                );

            var planned = pieces.Where(p => p.OutOn is null && p.Due >= first && p.Due <= last).Select(Of).ToList();
            var inWork = pieces.Where(p => p.OutOn is null).Select(Of).ToList();
            var gone = pieces.Where(p => p.OutOn >= first && p.OutOn <= last).Select(Of).ToList();
            var open = CadenceRows
                .All(db)
                .Sum(c =>
                    CadenceRows.Dates(c, CadenceRows.Filled(db), first, last, papers.Today).Count(d => d.Piece is null && !d.IsMissed)
                );
            var dates = planned.Count + gone.Count + open;
            var wishes = kinds.Select(k => k.Wished).ToList();
            var wished = wishes.Select((w, i) => (w, i)).Where(x => x.w is not null).ToDictionary(x => x.i, x => x.w!.Value);
            // What nobody wished for takes the rest of the dates.
            var given = LargestRemainder.Of([.. wishes.Select(w => w ?? 0), Math.Max(0, 1 - wished.Values.Sum())], dates);
            var (ofPlanned, ofWork, ofOut) = (Mix.Shares(planned), Mix.Shares(inWork), Mix.Shares(gone));
            return new MixShown(
                first,
                last,
                by,
                counted,
                [
                    .. kinds.Select(
                        (k, i) =>
                            new MixLine(
                                k.Key,
                                k.Name,
                                k.Colour,
                                k.Wished,
                                ofPlanned.GetValueOrDefault(i),
                                ofWork.GetValueOrDefault(i),
                                ofOut.GetValueOrDefault(i),
                                k.Wished is null ? null : given[i],
                                planned.Concat(gone).Where(p => p.Of.Contains(i)).Sum(p => 1.0 / p.Of.Count)
                            )
                    ),
                ],
                dates,
                planned.Sum(p => p.Amount),
                inWork.Sum(p => p.Amount),
                gone.Sum(p => p.Amount),
                wished.Count == 0 ? null : Swapped()
            );

            MixSwap? Swapped()
            {
                // Of pieces and ideas, those without a date; an idea counts as one piece.
                var ready = pieces
                    .Where(p => p.OutOn is null && p.Due is null)
                    .Select(p => Of(p) with { Amount = 1 })
                    .Concat(ideas.Where(i => i.Slip is not null).Select(i => new Mixed(-i.Slip!.Value.Value, 1, On(i.Topics))))
                    .Where(m => m.Of.Count > 0)
                    .ToList();
                var swap = Mix.BestSwap([.. planned.Select(p => p with { Amount = 1 })], ready, wished);
                if (swap is null)
                    return null;
                var byNumber = pieces.ToDictionary(p => p.Number.Value);
                return new MixSwap(
                    PieceNumber.Of(swap.Out),
                    byNumber[swap.Out].Title,
                    swap.In > 0 ? PieceNumber.Of(swap.In) : null,
                    swap.In < 0 ? SlipNumber.Of(-swap.In) : null,
                    swap.In > 0 ? byNumber[swap.In].Title : ideas.First(i => i.Slip?.Value == -swap.In).Title,
                    swap.Before,
                    swap.After
                );
            }
        });
    }

    private sealed record Kind(string Key, string Name, TopicColour? Colour, double? Wished);

    private static string Key(int number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static IReadOnlyList<Kind> Kinds(SqliteConnection db, MixBy by, TopicNumber? axis, FormatSet formats) =>
        by switch
        {
            MixBy.Format => [.. formats.All.Where(f => !f.IsPutAway).Select(f => new Kind(f.Key, f.Name, null, null))],
            MixBy.Outlet =>
            [
                .. OutletRows.All(db).Where(o => !o.IsPutAway).Select(o => new Kind(Key(o.Number.Value), o.Name, o.Colour, null)),
            ],
            _ => Topics(db, by == MixBy.Axis ? axis : null),
        };

    /// <summary>Topics under another; without one the core topics, or where no share is wished those under no other.</summary>
    private static IReadOnlyList<Kind> Topics(SqliteConnection db, TopicNumber? under)
    {
        var all = db.Query<(int Number, string Name, TopicColour Colour, int? Wider, int? Wish)>(
                "SELECT number, name, colour, wider, wish FROM topic WHERE merged_into IS NULL ORDER BY wish IS NULL, wish DESC, name"
            )
            .ToList();
        var chosen =
            under is { } axis ? all.Where(t => t.Wider == axis.Value)
            : all.Any(t => t.Wish is not null) ? all.Where(t => t.Wish is not null)
            : all.Where(t => t.Wider is null);
        return [.. chosen.Select(t => new Kind(Key(t.Number), t.Name, t.Colour, under is null ? t.Wish / 100.0 : null))];
    }
}
