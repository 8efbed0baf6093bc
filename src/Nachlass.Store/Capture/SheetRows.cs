using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Store.Capture;

/// <summary>Day sheets and the plan they are made by, as rows.</summary>
internal static class SheetRows
{
    public static DaySheet Sheet(SqliteConnection db, DateOnly day) =>
        (
            db.QuerySingleOrDefault<DaySheet>("SELECT day, text, version FROM day_sheet WHERE day = @day", new { day })
            ?? new DaySheet { Day = day }
        ) with
        {
            Blocks = Begun(db, day),
        };

    /// <summary>The plan; the one papers begin with while it was never changed.</summary>
    public static DayPlan Plan(SqliteConnection db) =>
        db.QuerySingleOrDefault<(string Blocks, string DaysOff, int Version)?>("SELECT blocks, days_off, version FROM day_plan") is { } row
            ? new DayPlan(
                JsonSerializer.Deserialize<IReadOnlyList<PlanBlock>>(row.Blocks, Answers.Json)!,
                JsonSerializer.Deserialize<IReadOnlyList<DayOfWeek>>(row.DaysOff, Answers.Json)!,
                row.Version
            )
            : DayPlan.First with
            {
                Version = 0,
            };

    /// <summary>What fill-ins can say on a day.</summary>
    public static DayFacts Facts(SqliteConnection db, DateOnly day, DateTime now)
    {
        var (last, caught, piece, due) = db.QuerySingle<(string?, int, string?, string?)>(
            """
            SELECT (SELECT max(out_on) FROM piece WHERE trashed_at IS NULL AND out_on <= @day), (SELECT count(*) FROM slip
                WHERE day = @yesterday AND origin <> 'import'),
                (SELECT title FROM piece WHERE out_on IS NULL AND trashed_at IS NULL ORDER BY due IS NULL, due, changed_at DESC LIMIT 1),
                (SELECT min(due) FROM piece WHERE out_on IS NULL AND trashed_at IS NULL AND due >= @day)
            """,
            new { day, yesterday = day.AddDays(-1) }
        );
        return new DayFacts(
            DateOnly.FromDateTime(now) == day ? now : day.ToDateTime(TimeOnly.MinValue),
            Mapping.Day(last),
            SiftStore.CountWaiting(db, day),
            caught,
            piece,
            Mapping.Day(due),
            CadenceRows.NextOpen(db, day)
        );
    }

    /// <summary>The blocks of a day: as they were begun, else as a plan has them.</summary>
    public static IReadOnlyList<SheetBlock> Blocks(SqliteConnection db, DateOnly day, DateTime now, DayPlan? plan = null)
    {
        var made = plan ?? Plan(db);
        var begun = plan is null ? Begun(db, day) : [];
        var blocks = begun.Count > 0 ? begun : made.SheetFor(day, Facts(db, day, now), number => Before(db, number, day));
        // Aims are kept in the plan, so that they are the same on every sheet.
        return
        [
            .. blocks.Select(b =>
                b.Kind == BlockKind.Aims && made.Blocks.FirstOrDefault(p => p.Number == b.Block) is { } aims
                    ? b with
                    {
                        Prompt = aims.Text,
                    }
                    : b
            ),
        ];
    }

    private static List<SheetBlock> Begun(SqliteConnection db, DateOnly day) =>
        [
            .. db.Query<Row>(
                    "SELECT block, kind, heading, prompt, text, size, version FROM day_block WHERE day_number = @number ORDER BY position",
                    new { number = day.DayNumber }
                )
                .Select(r => new SheetBlock(r.Block, r.Kind, r.Heading, r.Prompt, r.Text, r.Size, r.Version)),
        ];

    private static string? Before(SqliteConnection db, int block, DateOnly day) =>
        db.QueryFirstOrDefault<string>(
            "SELECT text FROM day_block WHERE block = @block AND day_number < @number AND kind = 'again' ORDER BY day_number DESC LIMIT 1",
            new { block, number = day.DayNumber }
        );

    /// <summary>Begins a day's sheet, if it was not: from now on it keeps the blocks it has, whatever becomes of the plan.</summary>
    public static void Begin(Change change, DateOnly day, DateTime now)
    {
        var number = day.DayNumber;
        if (change.Db.ExecuteScalar<int>("SELECT count(*) FROM day_block WHERE day_number = @number", new { number }) > 0)
            return;
        change.Db.Execute(
            "INSERT OR IGNORE INTO day_sheet (day_number, day, text, version) VALUES (@number, @day, '', 0)",
            new { number, day }
        );
        Add(change.Db, number, Blocks(change.Db, day, now));
    }

    public static void Add(SqliteConnection db, int number, IReadOnlyList<SheetBlock> blocks)
    {
        for (var position = 0; position < blocks.Count; position++)
        {
            var b = blocks[position];
            db.Execute(
                "INSERT INTO day_block (day_number, block, position, kind, heading, prompt, text, size) "
                    + "VALUES (@number, @Block, @position, @kind, @Heading, @Prompt, @Text, @Size)",
                new
                {
                    number,
                    b.Block,
                    position,
                    kind = b.Kind.Kept(),
                    b.Heading,
                    b.Prompt,
                    b.Text,
                    b.Size,
                }
            );
        }
    }

    /// <summary>Writes down the links of everything on a sheet.</summary>
    public static void WriteLinks(SqliteConnection db, DateOnly day)
    {
        var sheet = Sheet(db, day);
        Links.Write(db, Reference.To(day), string.Join("\n\n", sheet.Blocks.Select(b => b.Text).Prepend(sheet.Text)));
    }

    private sealed record Row
    {
        public int Block { get; init; }
        public BlockKind Kind { get; init; }
        public string Heading { get; init; } = "";
        public string Prompt { get; init; } = "";
        public string Text { get; init; } = "";
        public int? Size { get; init; }
        public int Version { get; init; }
    }
}
