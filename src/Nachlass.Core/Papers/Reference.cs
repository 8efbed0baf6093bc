namespace Nachlass.Core.Papers;

/// <summary>The kinds of thing that have a number or a name and can be pointed at.</summary>
public enum ThingKind
{
    Slip,
    Source,
    Piece,
    Topic,
    Day,
}

/// <summary>Points at one thing in the papers.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Number">Its number; for a day sheet the day as days since 0001-01-01.</param>
public readonly record struct Reference(ThingKind Kind, int Number)
{
    public static Reference To(SlipNumber slip) => new(ThingKind.Slip, slip.Value);

    public static Reference To(SourceNumber source) => new(ThingKind.Source, source.Value);

    public static Reference To(PieceNumber piece) => new(ThingKind.Piece, piece.Value);

    public static Reference To(TopicNumber topic) => new(ThingKind.Topic, topic.Value);

    public static Reference To(DateOnly day) => new(ThingKind.Day, day.DayNumber);

    /// <summary>As a writer would say it: <c>slip 214</c>, <c>P 12</c>.</summary>
    public override string ToString() =>
        Kind switch
        {
            ThingKind.Piece => $"P {Number}",
            ThingKind.Day => DateOnly.FromDayNumber(Number).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
            _ => $"{Kind.ToString().ToLowerInvariant()} {Number}",
        };
}
