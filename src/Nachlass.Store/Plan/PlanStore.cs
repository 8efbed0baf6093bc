using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A share of a week's load, by name.</summary>
/// <param name="Missing">Hours of it that fit nowhere before its date.</param>
public sealed record LoadLine(PieceNumber Piece, string Title, double Hours, double Missing);

/// <summary>How full a week is.</summary>
/// <param name="Monday">Its first day.</param>
/// <param name="Week">Its number (ISO 8601).</param>
/// <param name="Hours">Hours there are; of the present week those from today on.</param>
/// <param name="Load">Hours of work in it.</param>
/// <param name="Over">Hours by which it is too full.</param>
/// <param name="IsPast">Whether it is over.</param>
public sealed record PlanWeek(DateOnly Monday, int Week, double Hours, double Load, double Over, bool IsPast, IReadOnlyList<LoadLine> By);

/// <summary>A piece without a date.</summary>
/// <param name="Hours">Hours of work it still needs.</param>
public sealed record UndatedPiece(
    PieceNumber Number,
    string Title,
    string Format,
    string Stage,
    OutletNumber? Outlet,
    SeriesNumber? Series,
    double Hours,
    IReadOnlyList<TopicMark> Topics
);

/// <summary>Some weeks of the plan.</summary>
/// <param name="From">A Monday.</param>
/// <param name="To">A Sunday.</param>
/// <param name="HoursAreSaid">Whether the writer has said the hours; else they are the usual ones.</param>
/// <param name="Entries">By day, then in the order in which they are read.</param>
/// <param name="Undated">Pieces in hand that have no date, the furthest first.</param>
public sealed record PlanShown(
    DateOnly From,
    DateOnly To,
    DateOnly Today,
    bool HoursAreSaid,
    IReadOnlyList<PlanWeek> Weeks,
    IReadOnlyList<PlanEntry> Entries,
    IReadOnlyList<UndatedPiece> Undated
);

/// <summary>A week before and after something is moved.</summary>
/// <param name="Hours">Hours there are in it.</param>
public sealed record WeekChange(DateOnly Monday, int Week, double Hours, double Before, double After);

/// <summary>What moving a piece to a day would do.</summary>
/// <param name="Weeks">Weeks whose load changes.</param>
/// <param name="Begins">The first day of work on it; null where there is none left.</param>
/// <param name="Missing">Hours of it that fit nowhere before that day; 0 when it fits.</param>
/// <param name="ReadyOn">Where hours are missing: the first day it could be ready.</param>
/// <param name="Others">What else would not fit any more, or would fit again.</param>
/// <param name="Mix">Core topics whose share of the six weeks from today changes.</param>
public sealed record PlanTried(
    DateOnly On,
    IReadOnlyList<WeekChange> Weeks,
    DateOnly? Begins,
    double Missing,
    DateOnly? ReadyOn,
    IReadOnlyList<LoadLine> Others,
    IReadOnlyList<MixChange> Mix
);

/// <summary>How many pieces of the next six weeks are on a core topic, before and after something is moved.</summary>
/// <param name="Of">All pieces of those weeks, after.</param>
/// <param name="Wished">Its wished share, in percent.</param>
public sealed record MixChange(string Topic, int Before, int After, int Of, int Wished);

/// <summary>Dates, and what has to be done by when for them to hold.</summary>
public sealed class PlanStore(PapersFile papers)
{
    public const int UsualWeeks = 6,
        MostWeeks = 110;

    /// <summary>Whole weeks of the plan.</summary>
    /// <param name="from">A day of the first; null for this week.</param>
    /// <param name="to">A day of the last; null for six weeks.</param>
    /// <exception cref="BadInputException">They end before they begin, or are more than about two years.</exception>
    public PlanShown Get(DateOnly? from, DateOnly? to)
    {
        var today = papers.Today;
        var first = from ?? today;
        if (!Check.IsDay(first) || to is { } asked && !Check.IsDay(asked))
            throw new BadInputException("from", "The plan is shown in the years 1000 to 8999.");
        first = WeekLoad.MondayOf(first);
        var last = WeekLoad.MondayOf(to ?? first.AddDays(7 * (UsualWeeks - 1))).AddDays(6);
        if (last < first)
            throw new BadInputException("to", "The plan ends on the day it begins or later.");
        if (last.DayNumber - first.DayNumber >= 7 * MostWeeks)
            throw new BadInputException("to", $"At most {MostWeeks} weeks are shown at once.");
        return papers.Read(db => new Planned(db, today).Shown(db, first, last));
    }

    /// <summary>What it would do to put a piece on a day.</summary>
    public PlanTried Try(PieceNumber number, DateOnly on)
    {
        if (!Check.IsDay(on))
            throw new BadInputException("on", "The day is in the years 1000 to 8999.");
        return papers.Read(db =>
        {
            PieceRows.Get(db, number);
            return new Planned(db, papers.Today).Tried(db, number, on);
        });
    }

    /// <summary>Puts a piece on a day, or takes its day away.</summary>
    /// <param name="on">The day it is to go out; null for none.</param>
    /// <param name="outlet">Where; null to leave that as it is.</param>
    public Done<PlanShown> Place(PieceNumber number, DateOnly? on, OutletNumber? outlet, Once once)
    {
        if (on is { } day && !Check.IsDay(day))
            throw new BadInputException("on", "The day is in the years 1000 to 8999.");
        return papers.Run(
            $"planned P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                if (piece.OutOn is not null)
                    throw new BadInputException("piece", $"P {number} is out; its day is past.");
                if (outlet is { } at)
                    PlanRows.PutOn(change.Db, number, at);
                change.Db.Execute("UPDATE piece SET due = @on, version = version + 1 WHERE number = @number", new { on, number });
                change.What = on is { } to ? $"put P {number} on {to:d MMMM}" : $"took P {number} off its day";
                return Now(change);
            }
        );
    }

    /// <summary>Says by which day a stage of a piece is to be done; null leaves it to be worked back from its date.</summary>
    public Done<PlanShown> PlaceStage(PieceNumber number, string stage, DateOnly? on, Once once)
    {
        if (on is { } day && !Check.IsDay(day))
            throw new BadInputException("on", "The day is in the years 1000 to 8999.");
        return papers.Run(
            $"planned a stage of P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                var format = FormatRows.Named(change.Db, piece.Format);
                if (!format.Stages.Contains(stage) || format.IsOut(stage))
                    throw new BadInputException(
                        "stage",
                        $"The stages of {format.Name} are {string.Join(", ", format.Stages.SkipLast(1))}."
                    );
                PlanRows.SetStageDay(change.Db, number, stage, on);
                change.What = on is { } to ? $"put {stage} of P {number} on {to:d MMMM}" : $"left {stage} of P {number} to its date";
                return Now(change);
            }
        );
    }

    private static PlanShown Now(Change change)
    {
        var first = WeekLoad.MondayOf(change.Today);
        return new Planned(change.Db, change.Today).Shown(change.Db, first, first.AddDays(7 * UsualWeeks - 1));
    }
}
