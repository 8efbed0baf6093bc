using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>Keeps a place in a text that is rewritten around it.</summary>
public static class Followed
{
    /// <summary>Where a place is after the text was changed in one stretch: before the stretch it stays, behind it it moves along, inside
    /// it goes to the stretch's end.</summary>
    /// <param name="place">In UTF-16 units.</param>
    public static int Place(string before, string after, int place)
    {
        var most = Math.Min(before.Length, after.Length);
        var head = before.AsSpan().CommonPrefixLength(after);
        if (place <= head)
            return Math.Min(place, after.Length);
        var tail = 0;
        while (tail < most - head && before[^(tail + 1)] == after[^(tail + 1)])
            tail++;
        return Math.Clamp(place >= before.Length - tail ? place + after.Length - before.Length : after.Length - tail, 0, after.Length);
    }
}

/// <summary>The number of a place to come back to.</summary>
public readonly record struct MarkNumber(int Value) : INumber<MarkNumber>
{
    public static MarkNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out MarkNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}
