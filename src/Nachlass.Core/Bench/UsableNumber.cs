using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>The number of a paragraph that could be used by itself.</summary>
public readonly record struct UsableNumber(int Value) : INumber<UsableNumber>
{
    public static UsableNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out UsableNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}
