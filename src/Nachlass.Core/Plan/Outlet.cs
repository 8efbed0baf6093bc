using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Plan;

/// <summary>The number of an outlet.</summary>
public readonly record struct OutletNumber(int Value) : INumber<OutletNumber>
{
    public static OutletNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out OutletNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A text that goes with what is sent to an outlet: who writes it, how to leave, what it is about.</summary>
public sealed record DescriptionBlock(string Name, string Text);

/// <summary>Where pieces go out: a letter, a site, a feed, a stage.</summary>
public sealed record Outlet
{
    public const int LongestName = 80,
        LongestMark = 3,
        LongestBlock = 4_000,
        MostBlocks = 20,
        MostFormats = 100;

    public OutletNumber Number { get; init; }
    public string Name { get; init; } = "";

    /// <summary>One to three letters by which it is known where there is no room for its name.</summary>
    public string Mark { get; init; } = "";

    public TopicColour Colour { get; init; }

    /// <summary>Keys of the formats it takes; none: all of them.</summary>
    public IReadOnlyList<string> Formats { get; init; } = [];

    /// <summary>How much one text there may have; null for no limit.</summary>
    public Limit? Limit { get; init; }

    /// <summary>The weekday on which it reaches most; null when that is not said.</summary>
    public DayOfWeek? BestDay { get; init; }

    /// <summary>The hour of the day, 0 to 23; null when that is not said.</summary>
    public int? BestHour { get; init; }

    /// <summary>Its address on the web; empty for none.</summary>
    public string Address { get; init; } = "";

    public IReadOnlyList<DescriptionBlock> Blocks { get; init; } = [];

    /// <summary>Whether it is put away: nothing is planned for it any more.</summary>
    public bool IsPutAway { get; init; }

    public int Version { get; init; }

    /// <summary>Whether it takes pieces of a format.</summary>
    public bool Takes(string format) => Formats.Count == 0 || Formats.Contains(format);

    /// <summary>The outlet, with outer white space gone and a mark made of its name where it has none.</summary>
    /// <exception cref="BadInputException">Something about it can't be; the field says what.</exception>
    public Outlet Checked()
    {
        var name = Check.Text("name", Name, LongestName);
        var mark = Check.Length("mark", Mark.Trim(), 20);
        if (new System.Globalization.StringInfo(mark).LengthInTextElements > LongestMark)
            throw new BadInputException("mark", $"The mark has at most {LongestMark} letters.");
        if (BestHour is < 0 or > 23)
            throw new BadInputException("hour", "The best hour goes from 0 to 23.");
        if (Limit is { Most: < 1 or > 10_000_000 })
            throw new BadInputException("limit", "The limit is a number from 1 on.");
        if (Blocks.Count > MostBlocks)
            throw new BadInputException("blocks", $"There are at most {MostBlocks} description blocks.");
        if (Formats.Count > MostFormats)
            throw new BadInputException("formats", $"There are at most {MostFormats} formats.");
        return this with
        {
            Name = name,
            Mark = mark.Length > 0 ? mark : MarkOf(name),
            Address = Check.WebAddress("address", Address),
            Formats = [.. Formats.Distinct()],
            Blocks =
            [
                .. Blocks.Select(b => new DescriptionBlock(
                    Check.Text("name of a block", b.Name, LongestName),
                    Check.Length("text of a block", b.Text, LongestBlock)
                )),
            ],
        };
    }

    /// <summary>The first letters of its first two words.</summary>
    private static string MarkOf(string name) =>
        string.Concat(
                name.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(word => new System.Globalization.StringInfo(word).SubstringByTextElements(0, 1))
                    .Take(2)
            )
            .ToUpperInvariant();
}
