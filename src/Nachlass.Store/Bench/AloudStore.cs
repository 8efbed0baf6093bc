using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A piece to be read aloud.</summary>
/// <param name="Pace">Words a minute, as this reader reads.</param>
public sealed record PieceAloud(PieceNumber Piece, string Title, IReadOnlyList<ReadSection> Sections, int Words, ReadPace Pace);

/// <summary>A piece on a shooting list.</summary>
/// <param name="Said">What is said: own points, or the outline.</param>
/// <param name="IsOwn">Whether the points are the writer's own.</param>
/// <param name="Seconds">As long as it lasts at this reader's pace.</param>
public sealed record ShotShown(
    ShotNumber Number,
    DateOnly Day,
    PieceNumber Piece,
    string Title,
    IReadOnlyList<string> Said,
    bool IsOwn,
    string Points,
    string Needs,
    int Words,
    int Seconds,
    int? Aim,
    DateTimeOffset? DoneAt,
    int Version
);

/// <summary>A piece for a day's list, or a change to a line of one; what is not set stays.</summary>
public sealed record ShotChange
{
    public DateOnly? Day { get; init; }
    public PieceNumber? Piece { get; init; }
    public string? Points { get; init; }
    public string? Needs { get; init; }

    /// <summary>Seconds.</summary>
    public Maybe<int?> Aim { get; init; }
    public bool? Done { get; init; }

    /// <summary>The place it gets on its day, from 0.</summary>
    public int? Place { get; init; }
    public int? Version { get; init; }
}

/// <summary>A reading that was done.</summary>
public sealed record ReadingDone(int Words, double Seconds);

/// <summary>Reading aloud, and lists of what is recorded on a day.</summary>
public sealed class AloudStore(PapersFile papers, OutStore outs, SettingStore settings)
{
    private const string PaceSetting = "reading pace";

    private const string Columns =
        "SELECT number, day, piece, points, needs, aim, done_at, version FROM shot s WHERE piece IN (SELECT "
        + "number FROM piece WHERE trashed_at IS NULL)";

    public ReadPace Pace()
    {
        var kept = (settings.Get(PaceSetting) ?? "").Split(' ');
        return
            kept is [var words, var readings]
            && double.TryParse(words, CultureInfo.InvariantCulture, out var pace)
            && int.TryParse(readings, CultureInfo.InvariantCulture, out var count)
            ? new ReadPace(pace, count)
            : ReadPace.Mean;
    }

    /// <summary>Learns from a reading.</summary>
    public ReadPace Learn(ReadingDone reading)
    {
        var next = Pace().After(reading.Words, reading.Seconds);
        settings.Set(PaceSetting, string.Create(CultureInfo.InvariantCulture, $"{next.Words} {next.Readings}"));
        return next;
    }

    public PieceAloud Read(PieceNumber number)
    {
        var sections = ReadText.Of(outs.Finished(number, new OutAsked(WithTitle: false, Citing: Core.Bench.Writing.Citing.None)));
        var title = papers.Read(db => PieceRows.Get(db, number).Title);
        return new PieceAloud(number, title, sections, sections.Sum(s => s.Words), Pace());
    }

    /// <summary>What is recorded on a day, in order.</summary>
    public IReadOnlyList<ShotShown> Of(DateOnly day)
    {
        var pace = Pace();
        return papers.Read(db => Of(db, day, pace));
    }

    private static IReadOnlyList<ShotShown> Of(SqliteConnection db, DateOnly day, ReadPace pace) =>
        [.. db.Query<Row>($"{Columns} AND day = @day ORDER BY position, number", new { day }).Select(r => Shown(db, r.Whole, pace))];

    private static Shot Get(SqliteConnection db, ShotNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} AND number = @number", new { number })?.Whole
        ?? throw new NotThereException($"line {number} of a shooting list");

    private static ShotShown Shown(SqliteConnection db, Shot shot, ReadPace pace)
    {
        var piece = PieceRows.Get(db, shot.Piece);
        var own = shot.Points.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var outline = DraftRows.Read(db, shot.Piece).Outline.Sections.Select(s => s.Title);
        return new ShotShown(
            shot.Number,
            shot.Day,
            shot.Piece,
            piece.Title,
            own.Length > 0 ? own : [.. outline],
            own.Length > 0,
            shot.Points,
            shot.Needs,
            piece.Words,
            ReadingPace.Seconds(piece.Words, (int)Math.Round(pace.Words)),
            shot.Aim,
            shot.DoneAt,
            shot.Version
        );
    }

    /// <summary>Puts a piece at the end of a day's list.</summary>
    public Done<IReadOnlyList<ShotShown>> Add(ShotChange made, Once once)
    {
        var pace = Pace();
        return papers.Run(
            "put a piece on a shooting list",
            once,
            change =>
            {
                var db = change.Db;
                var piece = made.Piece ?? throw new BadInputException("piece", "Name the piece.");
                var day = made.Day ?? change.Today;
                PieceRows.Get(db, piece);
                if (!Check.IsDay(day))
                    throw new BadInputException("day", "That is no day a list is kept for.");
                var there = Of(db, day, pace);
                if (there.Any(s => s.Piece == piece))
                    throw new ClashException($"P {piece} is on the list of that day already.");
                if (there.Count == Shot.MostOfADay)
                    throw new ClashException($"A day has {Shot.MostOfADay} pieces at most.");
                db.Execute("DELETE FROM shot WHERE day = @day AND piece = @piece", new { day, piece });
                db.Execute(
                    "INSERT INTO shot (day, piece, position, points, needs, aim) "
                        + "VALUES (@day, @piece, (SELECT coalesce(max(position), 0) + 1 FROM shot WHERE day = "
                        + "@day), @points, @needs, @aim)",
                    new
                    {
                        day,
                        piece,
                        points = Check.Length("points", made.Points, Shot.LongestPoints),
                        needs = Check.Length("needs", made.Needs, Shot.LongestNeeds),
                        aim = Aim(made.Aim.Value),
                    }
                );
                change.What = $"put P {piece} on a shooting list";
                return Of(db, day, pace);
            }
        );
    }

    public Done<IReadOnlyList<ShotShown>> Edit(ShotNumber number, ShotChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var pace = Pace();
        return papers.Run(
            "changed a shooting list",
            once,
            change =>
            {
                var db = change.Db;
                var before = Get(db, number);
                if (before.Version != based)
                    throw new StaleException($"P {before.Piece} on the list", Shown(db, before, pace));
                db.Execute(
                    "UPDATE shot SET points = @points, needs = @needs, aim = @aim, done_at = @done, version = "
                        + "version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        points = Check.Length("points", edit.Points ?? before.Points, Shot.LongestPoints),
                        needs = Check.Length("needs", edit.Needs ?? before.Needs, Shot.LongestNeeds),
                        aim = Aim(edit.Aim.Or(before.Aim)),
                        done = edit.Done switch
                        {
                            true => before.DoneAt ?? change.Now,
                            false => null,
                            null => before.DoneAt,
                        },
                    }
                );
                if (edit.Place is { } place)
                    Move(db, before, place);
                if (edit.Done is { } isDone)
                    change.What = isDone ? $"recorded P {before.Piece}" : $"P {before.Piece} is to be recorded again";
                return Of(db, before.Day, pace);
            }
        );
    }

    private static void Move(SqliteConnection db, Shot shot, int place)
    {
        var order = db.Query<int>("SELECT number FROM shot WHERE day = @Day ORDER BY position, number", new { shot.Day }).ToList();
        order.Remove(shot.Number.Value);
        order.Insert(Math.Clamp(place, 0, order.Count), shot.Number.Value);
        for (var at = 0; at < order.Count; at++)
            db.Execute(
                "UPDATE shot SET position = @position WHERE number = @number AND position <> @position",
                new { number = order[at], position = at + 1 }
            );
    }

    public Done<IReadOnlyList<ShotShown>> Remove(ShotNumber number, Once once)
    {
        var pace = Pace();
        return papers.Run(
            "took a piece off a shooting list",
            once,
            change =>
            {
                var shot = Get(change.Db, number);
                change.Db.Execute("DELETE FROM shot WHERE number = @number", new { number });
                change.What = $"took P {shot.Piece} off a shooting list";
                return Of(change.Db, shot.Day, pace);
            }
        );
    }

    private static int? Aim(int? seconds) =>
        seconds is < 1 or > Shot.MostAim ? throw new BadInputException("aim", "A length is between a second and a day.") : seconds;

    internal static IReadOnlyList<Shot> Image(SqliteConnection db) =>
        [
            .. db.Query<Row>("SELECT number, day, piece, points, needs, aim, done_at, version FROM shot ORDER BY day, position, number")
                .Select(r => r.Whole),
        ];

    internal static void Put(SqliteConnection db, Shot shot, int position) =>
        db.Execute(
            "INSERT INTO shot (number, day, position, piece, points, needs, aim, done_at) VALUES (@Number, "
                + "@Day, @position, @Piece, @Points, @Needs, @Aim, @DoneAt)",
            new
            {
                shot.Number,
                shot.Day,
                position,
                shot.Piece,
                shot.Points,
                shot.Needs,
                shot.Aim,
                shot.DoneAt,
            }
        );

    private sealed record Row
    {
        public ShotNumber Number { get; init; }
        public DateOnly Day { get; init; }
        public PieceNumber Piece { get; init; }
        public string Points { get; init; } = "";
        public string Needs { get; init; } = "";
        public int? Aim { get; init; }
        public DateTimeOffset? DoneAt { get; init; }
        public int Version { get; init; }

        public Shot Whole => new(Number, Day, Piece, Points, Needs, Aim, DoneAt, Version);
    }
}
