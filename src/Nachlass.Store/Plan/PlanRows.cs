using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A piece as the plan knows it.</summary>
internal sealed record PlannedPiece
{
    public required PieceNumber Number { get; init; }
    public required string Title { get; init; }
    public required string Format { get; init; }
    public required string Stage { get; init; }
    public DateOnly? Due { get; init; }
    public DateOnly? OutOn { get; init; }
    public OutletNumber? Outlet { get; init; }
    public SeriesNumber? Series { get; init; }

    /// <summary>Its place in its series.</summary>
    public int Nth { get; init; }
    public int Version { get; init; }
    public int Words { get; init; }

    /// <summary>Values of its own fields, by their keys.</summary>
    public IReadOnlyDictionary<string, string> Fields { get; init; } = new Dictionary<string, string>();
    public IReadOnlyList<TopicMark> Topics { get; init; } = [];
}

internal static class PlanRows
{
    /// <summary>Pieces that are in hand, and those that went out from a day on.</summary>
    public static IReadOnlyList<PlannedPiece> Pieces(SqliteConnection db, DateOnly outFrom) =>
        [
            .. db.Query<PlannedPiece>(
                """
                SELECT p.number, p.title, p.format, p.stage, p.due, p.out_on, p.outlet, p.version, d.words,
                    (SELECT json_group_object(key, value) FROM piece_field f WHERE f.piece = p.number) AS fields,
                    (SELECT series FROM series_piece sp WHERE sp.piece = p.number) AS series,
                    coalesce((SELECT position FROM series_piece sp WHERE sp.piece = p.number), 0) AS nth,
                    (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY pt.id)
                        FROM piece_topic pt JOIN topic t ON t.number = pt.topic WHERE pt.piece = p.number) AS topics
                FROM piece p JOIN draft d ON d.piece = p.number
                WHERE p.trashed_at IS NULL AND (p.out_on IS NULL OR p.out_on >= @outFrom) ORDER BY p.number
                """,
                new { outFrom }
            ),
        ];

    /// <summary>Refuses an outlet that is not there, or does not take pieces of a format.</summary>
    public static void CheckTakes(SqliteConnection db, OutletNumber outlet, string format)
    {
        var at =
            OutletRows.All(db).FirstOrDefault(o => o.Number == outlet)
            ?? throw new BadInputException("outlet", $"There is no outlet {outlet}.");
        if (!at.Takes(format))
            throw new BadInputException("outlet", $"{at.Name} does not take {format}.");
    }

    /// <summary>Says where a piece is to go out.</summary>
    /// <exception cref="BadInputException">There is no such outlet, or it does not take the piece's format.</exception>
    public static void PutOn(SqliteConnection db, PieceNumber piece, OutletNumber outlet)
    {
        CheckTakes(db, outlet, db.ExecuteScalar<string>("SELECT format FROM piece WHERE number = @piece", new { piece })!);
        db.Execute("UPDATE piece SET outlet = @outlet WHERE number = @piece", new { outlet, piece });
    }

    public static IReadOnlyList<(string Stage, DateOnly Day)> StageDays(SqliteConnection db, PieceNumber piece) =>
        [.. db.Query<(string Stage, DateOnly Day)>("SELECT stage, day FROM stage_day WHERE piece = @piece ORDER BY stage", new { piece })];

    /// <summary>All days by which stages are wanted done, by piece.</summary>
    public static ILookup<int, (string Stage, DateOnly Day)> StageDays(SqliteConnection db) =>
        db.Query<(int Piece, string Stage, DateOnly Day)>("SELECT piece, stage, day FROM stage_day")
            .ToLookup(s => s.Piece, s => (s.Stage, s.Day));

    public static void SetStageDay(SqliteConnection db, PieceNumber piece, string stage, DateOnly? day)
    {
        if (day is null)
            db.Execute("DELETE FROM stage_day WHERE piece = @piece AND stage = @stage", new { piece, stage });
        else
            db.Execute(
                "INSERT INTO stage_day (piece, stage, day) VALUES (@piece, @stage, @day) "
                    + "ON CONFLICT (piece, stage) DO UPDATE SET day = @day",
                new
                {
                    piece,
                    stage,
                    day,
                }
            );
    }

    public static PlanningImage Take(SqliteConnection db) =>
        new([.. OutletRows.All(db).OrderBy(o => o.Number.Value)], CadenceRows.All(db), HoursRows.Said(db), HoursRows.Away(db))
        {
            StageRules = StageRuleStore.Image(db),
            Guide = GuideStore.All(db),
            Goals = GoalStore.All(db),
            NeverForDates = NeverRows.All(db),
            Countries = HolidayStore.Chosen(db),
        };

    public static void Put(SqliteConnection db, PlanningImage image)
    {
        foreach (var outlet in image.Outlets)
            OutletRows.Put(db, outlet);
        foreach (var cadence in image.Cadences)
            CadenceRows.Put(db, cadence);
        if (image.Hours is { } hours)
            HoursRows.Put(db, hours);
        foreach (var away in image.Away)
            HoursRows.Put(db, away);
        GuideStore.Put(db, image.Guide);
        foreach (var goal in image.Goals)
            GoalStore.Put(db, goal);
        foreach (var never in image.NeverForDates)
            NeverRows.Put(db, never);
        if (image.Countries.Count > 0)
            HolidayStore.Put(db, image.Countries);
        foreach (var rule in image.StageRules)
            StageRuleStore.Put(db, rule);
    }
}
