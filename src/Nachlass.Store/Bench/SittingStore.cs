using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>How a piece is coming on.</summary>
/// <param name="Now">The sitting that goes on; null when nothing was written for half an hour.</param>
/// <param name="Last">The sitting before it, or the last one there was.</param>
/// <param name="SittingAim">Words a sitting should have; null for none.</param>
/// <param name="Today">Words written today, in all pieces.</param>
/// <param name="Days">Words written on each of the last fourteen days, the oldest first.</param>
public sealed record SittingShown(DraftSitting? Now, DraftSitting? Last, int? SittingAim, int Today, IReadOnlyList<WrittenOn> Days);

/// <summary>Words written on a day, in all pieces.</summary>
public sealed record WrittenOn(DateOnly Day, int Written, int Pasted);

/// <summary>Aims in words; what is not set stays, nothing takes one away.</summary>
public sealed record AimsChange
{
    /// <summary>Of a sitting.</summary>
    public Maybe<int?> Sitting { get; init; }

    /// <summary>Of the piece.</summary>
    public Maybe<int?> Piece { get; init; }
}

/// <summary>What was written, sitting by sitting.</summary>
public sealed class SittingStore(PapersFile papers)
{
    private const int Days = 14;

    private const string Columns = "SELECT number, piece, started_at, last_at, written, taken, pasted, ended AS is_ended FROM sitting";

    public SittingShown Of(PieceNumber piece) => papers.Read(db => Of(db, piece, papers.Time.GetUtcNow(), papers.Today));

    private SittingShown Of(SqliteConnection db, PieceNumber piece, DateTimeOffset now, DateOnly today)
    {
        PieceRows.Get(db, piece);
        var last = db.Query<Row>($"{Columns} WHERE piece = @piece ORDER BY last_at DESC, number DESC LIMIT 2", new { piece })
            .Select(r => r.Whole)
            .ToList();
        var goesOn = last is [var newest, ..] && newest.GoesOn(now);
        var from = today.AddDays(1 - Days);
        var byDay = db.Query<(DateTimeOffset At, int Written, int Pasted)>(
                "SELECT started_at, written, pasted FROM sitting WHERE started_at >= @from",
                new { from = now.AddDays(-Days - 1) }
            )
            .GroupBy(s => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(s.At, papers.Time.LocalTimeZone).DateTime))
            .ToDictionary(g => g.Key, g => (Written: g.Sum(s => s.Written), Pasted: g.Sum(s => s.Pasted)));
        var days = Enumerable
            .Range(0, Days)
            .Select(i => from.AddDays(i))
            .Select(day => new WrittenOn(day, byDay.GetValueOrDefault(day).Written, byDay.GetValueOrDefault(day).Pasted))
            .ToList();
        return new SittingShown(
            goesOn ? last[0] : null,
            last.ElementAtOrDefault(goesOn ? 1 : 0),
            db.ExecuteScalar<int?>("SELECT sitting_aim FROM papers"),
            days[^1].Written,
            days
        );
    }

    /// <summary>Takes a save into the sitting that goes on, or begins one.</summary>
    internal static void Wrote(Change change, PieceNumber piece, int before, int after, int pasted)
    {
        var db = change.Db;
        var last = db.QueryFirstOrDefault<Row>(
            $"{Columns} WHERE piece = @piece ORDER BY last_at DESC, number DESC LIMIT 1",
            new { piece }
        )?.Whole;
        var sitting = (
            last is not null && last.GoesOn(change.Now)
                ? last
                : new DraftSitting(
                    SittingNumber.Of(
                        db.ExecuteScalar<int>(
                            "INSERT INTO sitting (piece, started_at, last_at) VALUES (@piece, @Now, @Now) RETURNING number",
                            new { piece, change.Now }
                        )
                    ),
                    piece,
                    change.Now,
                    change.Now,
                    0,
                    0,
                    0,
                    false
                )
        ).With(before, after, pasted, change.Now);
        db.Execute(
            "UPDATE sitting SET last_at = @LastAt, written = @Written, taken = @Taken, pasted = @Pasted WHERE number = @Number",
            sitting
        );
    }

    /// <summary>Ends the sitting that goes on, if one does.</summary>
    public Done<SittingShown> End(PieceNumber piece, Once once) =>
        papers.Run(
            $"ended a sitting over P {piece}",
            once,
            change =>
            {
                // One of the steps of the piece: the writing before it can only be taken back behind it.
                change.OnPiece = piece;
                if (Of(change.Db, piece, change.Now, change.Today).Now is { } now)
                    change.Db.Execute("UPDATE sitting SET ended = 1 WHERE number = @Number", new { now.Number });
                return Of(change.Db, piece, change.Now, change.Today);
            }
        );

    /// <summary>Sets the words that a sitting, or the piece, should have.</summary>
    public Done<SittingShown> Aim(PieceNumber piece, AimsChange aims, Once once)
    {
        Checked("sitting", aims.Sitting.Value);
        Checked("piece", aims.Piece.Value);
        return papers.Run(
            $"set an aim for P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                if (aims.Sitting.IsSet)
                    change.Db.Execute("UPDATE papers SET sitting_aim = @aim", new { aim = aims.Sitting.Value });
                if (aims.Piece.IsSet)
                    change.Db.Execute(
                        "UPDATE piece SET word_aim = @aim, version = version + 1 WHERE number = @piece",
                        new { aim = aims.Piece.Value, piece }
                    );
                return Of(change.Db, piece, change.Now, change.Today);
            }
        );
    }

    private static void Checked(string field, int? aim)
    {
        if (aim is < 1 or > DraftSitting.MostAim)
            throw new BadInputException(field, $"An aim is between 1 and {DraftSitting.MostAim:N0} words.");
    }

    internal static IReadOnlyList<DraftSitting> Image(SqliteConnection db) =>
        [.. db.Query<Row>($"{Columns} ORDER BY number").Select(r => r.Whole)];

    internal static void Put(SqliteConnection db, DraftSitting sitting) =>
        db.Execute(
            "INSERT INTO sitting (piece, started_at, last_at, written, taken, pasted, ended) "
                + "VALUES (@Piece, @StartedAt, @LastAt, @Written, @Taken, @Pasted, @IsEnded)",
            sitting
        );

    private sealed record Row
    {
        public SittingNumber Number { get; init; }
        public PieceNumber Piece { get; init; }
        public DateTimeOffset StartedAt { get; init; }
        public DateTimeOffset LastAt { get; init; }
        public int Written { get; init; }
        public int Taken { get; init; }
        public int Pasted { get; init; }
        public bool IsEnded { get; init; }

        public DraftSitting Whole => new(Number, Piece, StartedAt, LastAt, Written, Taken, Pasted, IsEnded);
    }
}
