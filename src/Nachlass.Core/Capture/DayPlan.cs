using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Capture;

/// <summary>What a block of a day's sheet is.</summary>
public enum BlockKind
{
    /// <summary>Ruled lines, each for an idea.</summary>
    Lines,

    /// <summary>A question to answer.</summary>
    Question,

    /// <summary>Free writing for a number of minutes.</summary>
    Writing,

    /// <summary>A text with fill-ins, to go on from.</summary>
    Text,

    /// <summary>What was written in it the last time.</summary>
    Again,

    /// <summary>Moves for the day.</summary>
    Moves,

    /// <summary>Longer aims: kept in the plan, folded on every sheet.</summary>
    Aims,

    /// <summary>The piece in hand.</summary>
    Piece,

    /// <summary>What was caught through the day.</summary>
    Caught,
}

/// <summary>On which days a block stands: on all when nothing is named, else on any that is.</summary>
/// <param name="Weekdays">Days of the week.</param>
/// <param name="DaysOfMonth">Days of the month, 1 to 31; 31 is the last one of any month.</param>
/// <param name="Dates">Single days.</param>
public sealed record BlockDays(IReadOnlyList<DayOfWeek> Weekdays, IReadOnlyList<int> DaysOfMonth, IReadOnlyList<DateOnly> Dates)
{
    public static readonly BlockDays Every = new([], [], []);

    public bool Include(DateOnly day) =>
        (Weekdays.Count == 0 && DaysOfMonth.Count == 0 && Dates.Count == 0)
        || Weekdays.Contains(day.DayOfWeek)
        || Dates.Contains(day)
        || DaysOfMonth.Contains(day.Day)
        || (DaysOfMonth.Contains(31) && day.AddDays(1).Day == 1);
}

/// <summary>A block of the plan.</summary>
/// <param name="Number">Stays the same through every change; sheets know it by this.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Heading">What stands above it; may be empty.</param>
/// <param name="Days">On which days it stands.</param>
/// <param name="Text">The question, the text with fill-ins, or the aims.</param>
/// <param name="Size">Ruled lines (1 to 20), or minutes of free writing (1 to 180).</param>
public sealed record PlanBlock(int Number, BlockKind Kind, string Heading, BlockDays Days, string Text = "", int? Size = null)
{
    public const int LongestHeading = 120;
    public const int LongestText = 10_000;
    public const int MostLines = 20;
    public const int MostMinutes = 180;
}

/// <summary>What stands on a new day's sheet, in order.</summary>
/// <param name="Blocks">The blocks; free writing and moves at most once each.</param>
/// <param name="DaysOff">Weekdays on which nothing has to be written.</param>
/// <param name="Version">For changing it.</param>
public sealed record DayPlan(IReadOnlyList<PlanBlock> Blocks, IReadOnlyList<DayOfWeek> DaysOff, int Version = 1)
{
    public const int MostBlocks = 30;

    /// <summary>The plan papers begin with.</summary>
    public static readonly DayPlan First = new(
        [
            new(1, BlockKind.Lines, "First thoughts", BlockDays.Every, Size: 3),
            new(2, BlockKind.Writing, "Loose writing", BlockDays.Every, Size: 10),
            new(3, BlockKind.Caught, "Caught through the day", BlockDays.Every),
            new(4, BlockKind.Moves, "Moves", BlockDays.Every),
        ],
        []
    );

    /// <summary>The sheet of a day on which nothing has been written yet.</summary>
    /// <param name="day">The day.</param>
    /// <param name="facts">What fill-ins can say of it.</param>
    /// <param name="before">What was written in a block the last time before that day; null when never.</param>
    public IReadOnlyList<SheetBlock> SheetFor(DateOnly day, DayFacts facts, Func<int, string?> before) =>
        [
            .. Blocks
                .Where(b => b.Days.Include(day))
                .Select(b =>
                    b.Kind switch
                    {
                        BlockKind.Text => FillIn.Fill(b.Text, facts.ByName()) is var filled
                            ? new SheetBlock(b.Number, b.Kind, b.Heading, "", filled.Text, null, 0, filled.Fault)
                            : null!,
                        BlockKind.Again => new SheetBlock(b.Number, b.Kind, b.Heading, "", before(b.Number) ?? b.Text, null),
                        BlockKind.Question or BlockKind.Aims => new SheetBlock(b.Number, b.Kind, b.Heading, b.Text, "", null),
                        _ => new SheetBlock(b.Number, b.Kind, b.Heading, "", "", b.Size),
                    }
                ),
        ];

    /// <summary>The plan, if it makes sense.</summary>
    /// <exception cref="BadInputException">A heading or text is too long, a size is out of range, a block comes twice that
    /// can't.</exception>
    public DayPlan Checked()
    {
        if (Blocks.Count > MostBlocks)
            throw new BadInputException("blocks", $"A plan has at most {MostBlocks} blocks.");
        if (Blocks.GroupBy(b => b.Number).Any(g => g.Count() > 1) || Blocks.Any(b => b.Number < 1))
            throw new BadInputException("number", "Every block has a number of its own, from 1.");
        foreach (var once in (BlockKind[])[BlockKind.Writing, BlockKind.Moves, BlockKind.Caught, BlockKind.Piece])
            if (Blocks.Count(b => b.Kind == once) > 1)
                throw new BadInputException("kind", $"“{Named(once)}” stands on a sheet once.");
        if (DaysOff.Distinct().Count() > 6)
            throw new BadInputException("daysOff", "At least one weekday is no day off.");
        return this with { Blocks = [.. Blocks.Select(Checked)], DaysOff = [.. DaysOff.Distinct().Order()] };
    }

    private static PlanBlock Checked(PlanBlock block)
    {
        var heading = Check.Length("heading", block.Heading, PlanBlock.LongestHeading).Trim();
        Check.Length("text", block.Text, PlanBlock.LongestText);
        if (block.Kind == BlockKind.Question)
            Check.Text("text", block.Text, PlanBlock.LongestText);
        if (block.Days.DaysOfMonth.Any(d => d is < 1 or > 31))
            throw new BadInputException("daysOfMonth", "Days of the month go from 1 to 31.");
        int? size = block.Kind switch
        {
            BlockKind.Lines => block.Size is >= 1 and <= PlanBlock.MostLines
                ? block.Size
                : throw new BadInputException("size", $"Between 1 and {PlanBlock.MostLines} ruled lines."),
            BlockKind.Writing => block.Size is >= 1 and <= PlanBlock.MostMinutes
                ? block.Size
                : throw new BadInputException("size", $"Between 1 and {PlanBlock.MostMinutes} minutes."),
            _ => null,
        };
        return block with { Heading = heading, Size = size };
    }

    /// <summary>What a kind of block is called.</summary>
    public static string Named(BlockKind kind) =>
        kind switch
        {
            BlockKind.Lines => "Ruled lines",
            BlockKind.Question => "A question",
            BlockKind.Writing => "Free writing",
            BlockKind.Text => "A text with fill-ins",
            BlockKind.Again => "The same as last time",
            BlockKind.Moves => "Moves for today",
            BlockKind.Aims => "Longer aims",
            BlockKind.Piece => "The piece in hand",
            _ => "Caught through the day",
        };
}
