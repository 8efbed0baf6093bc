using System.Globalization;

namespace Nachlass.Core.Papers;

/// <summary>A number that papers give to one kind of thing; never reused, starts at 1.</summary>
/// <typeparam name="TSelf">The number's own type, so that a slip's number is never taken for a piece's.</typeparam>
public interface INumber<TSelf>
    where TSelf : struct, INumber<TSelf>
{
    /// <summary>The number as shown, 1 or more.</summary>
    int Value { get; }

    /// <summary>The number with this value.</summary>
    static abstract TSelf Of(int value);
}

/// <summary>The number of a slip: <c>slip 214</c>.</summary>
public readonly record struct SlipNumber(int Value) : INumber<SlipNumber>
{
    public static SlipNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SlipNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a source: <c>source 61</c>.</summary>
public readonly record struct SourceNumber(int Value) : INumber<SourceNumber>
{
    public static SourceNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SourceNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a topic; seldom shown, since topics go by name.</summary>
public readonly record struct TopicNumber(int Value) : INumber<TopicNumber>
{
    public static TopicNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out TopicNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a piece, written <c>P 12</c>.</summary>
public readonly record struct PieceNumber(int Value) : INumber<PieceNumber>
{
    public static PieceNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out PieceNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a section, unique over all pieces.</summary>
public readonly record struct SectionNumber(int Value) : INumber<SectionNumber>
{
    public static SectionNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SectionNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a move.</summary>
public readonly record struct MoveNumber(int Value) : INumber<MoveNumber>
{
    public static MoveNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out MoveNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a version of a draft.</summary>
public readonly record struct VersionNumber(int Value) : INumber<VersionNumber>
{
    public static VersionNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out VersionNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a command, the unit of undo.</summary>
public readonly record struct CommandNumber(int Value) : INumber<CommandNumber>
{
    public static CommandNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out CommandNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

internal static class NumberText
{
    internal static bool TryParse<T>(string? text, out T number)
        where T : struct, INumber<T>
    {
        var read = int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var value) && value > 0;
        number = read ? T.Of(value) : default;
        return read;
    }

    internal static string Format(int value) => value.ToString(CultureInfo.InvariantCulture);
}
