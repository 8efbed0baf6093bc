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
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>For which dates a filling is asked.</summary>
/// <param name="From">The first; today when it is left out.</param>
/// <param name="To">The last; six weeks on when it is left out.</param>
/// <param name="Spacing">Days that lie between two things on one topic at least; ten when it is left out.</param>
public sealed record FillingAsked(DateOnly? From = null, DateOnly? To = null, int? Spacing = null);

/// <summary>A date with what would fill it.</summary>
/// <param name="Slip">The idea; null where it is a piece.</param>
/// <param name="Piece">The piece; null where it is an idea.</param>
/// <param name="Worth">0 to 100.</param>
/// <param name="Hours">Hours it takes.</param>
/// <param name="Because">What speaks for it there, the weightiest first.</param>
public sealed record FillingPlace(
    DateOnly Date,
    OutletNumber Outlet,
    string Format,
    SlipNumber? Slip,
    PieceNumber? Piece,
    string Title,
    double Worth,
    double Hours,
    IReadOnlyList<string> Because
);

/// <summary>A date that stays open, and why.</summary>
public sealed record StaysOpen(DateOnly Date, OutletNumber Outlet, string Format, string Why);

/// <summary>Something that is not among the proposed, and why.</summary>
public sealed record LeftOut(SlipNumber? Slip, PieceNumber? Piece, string Title, double Worth, string Why);

/// <summary>A proposal for the open dates.</summary>
/// <param name="Value">What it adds up to.</param>
/// <param name="Bound">No filling can add up to more than this.</param>
public sealed record FillingProposed(
    IReadOnlyList<FillingPlace> Places,
    IReadOnlyList<StaysOpen> Open,
    IReadOnlyList<LeftOut> LeftOut,
    double Value,
    double Bound
);

/// <summary>A place of a proposal that is taken.</summary>
public sealed record FillingTaken(DateOnly Date, OutletNumber Outlet, string? Format, SlipNumber? Slip = null, PieceNumber? Piece = null);

/// <summary>Fills open dates with pieces and ideas.</summary>
public sealed class FillingStore(PapersFile papers, WorthStore worth)
{
    public const int UsualSpacing = 10,
        MostSpacing = 200,
        MostIdeas = 120,
        MostLeftOut = 12,
        MostTaken = 200;

    /// <exception cref="BadInputException">The days or the spacing can't be.</exception>
    public FillingProposed Propose(FillingAsked asked)
    {
        var first = asked.From is { } from && from > papers.Today ? from : papers.Today;
        var last = asked.To ?? WeekLoad.MondayOf(first).AddDays(7 * PlanStore.UsualWeeks - 1);
        if (!Check.IsDay(first) || !Check.IsDay(last) || last < first || last.DayNumber - first.DayNumber > 7 * PlanStore.MostWeeks)
            throw new BadInputException("to", "The days end on the day they begin or later, and are two years at most.");
        if (asked.Spacing is < 0 or > MostSpacing)
            throw new BadInputException("spacing", $"The spacing is from 0 to {MostSpacing} days.");
        var ideas = worth.Best(new WorthAsked(MostIdeas)).Where(i => i.Slip is not null).ToList();
        return papers.Read(db => new FillingMaking(db, papers.Today, first, last, asked.Spacing ?? UsualSpacing, ideas).Proposed());
    }

    /// <summary>Takes places of a proposal: pieces get their date, ideas are begun for it.</summary>
    public Done<IReadOnlyList<PieceNumber>> Take(IReadOnlyList<FillingTaken> places, Once once)
    {
        if (places.Count is 0 or > MostTaken)
            throw new BadInputException("places", $"From 1 to {MostTaken} places are taken at once.");
        foreach (var place in places)
        {
            if (place.Slip is null == place.Piece is null)
                throw new BadInputException("places", "Each place names a slip or a piece.");
            if (!Check.IsDay(place.Date))
                throw new BadInputException("date", "The day is in the years 1000 to 8999.");
        }
        // What stood there is asked before anything changes.
        var begun = places
            .Where(p => p.Slip is not null)
            .DistinctBy(p => p.Slip)
            .Select(p =>
            {
                var title = worth.Of(p.Slip!.Value)?.Title ?? "";
                var made = new NewPiece(Cut(title), p.Format, Slip: p.Slip, Due: p.Date, Outlet: p.Outlet);
                return (Place: p, Made: made, Stood: PieceStore.Stood(worth, made));
            })
            .ToDictionary(p => p.Place);
        return papers.Run(
            "filled open dates",
            once,
            change =>
            {
                List<PieceNumber> filled = [];
                foreach (var place in places)
                    if (place.Piece is { } number)
                    {
                        var piece = PieceRows.Get(change.Db, number);
                        if (piece.OutOn is not null)
                            throw new BadInputException("piece", $"P {number} is out; its day is past.");
                        PlanRows.PutOn(change.Db, number, place.Outlet);
                        change.Db.Execute(
                            "UPDATE piece SET due = @Date, version = version + 1 WHERE number = @number",
                            new { place.Date, number }
                        );
                        filled.Add(number);
                    }
                    else if (begun.TryGetValue(place, out var start))
                    {
                        var topics = SlipRows.Get(change.Db, place.Slip!.Value).Topics.Select(t => t.Name).ToList();
                        var title = start.Made.Title is { Length: > 0 } said ? said : $"Slip {place.Slip}";
                        filled.Add(PieceStore.Begin(change, start.Made with { Title = title, Topics = topics }, start.Stood).Number);
                    }
                change.What = filled.Count == 1 ? $"filled an open date with P {filled[0]}" : $"filled {filled.Count} open dates";
                return (IReadOnlyList<PieceNumber>)filled;
            }
        );
    }

    private static string Cut(string title) => title.Length > Piece.LongestTitle ? title[..Piece.LongestTitle] : title;
}
