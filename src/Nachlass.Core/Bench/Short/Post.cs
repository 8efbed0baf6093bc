using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench.Short;

/// <summary>The number of a short post.</summary>
public readonly record struct PostNumber(int Value) : INumber<PostNumber>
{
    public static PostNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out PostNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A short post of a day.</summary>
/// <param name="Day">The day on whose sheet it was written.</param>
/// <param name="ReadyAt">When it was said to be ready; null while it is not.</param>
/// <param name="SentAt">When it was sent; null while it waits.</param>
public sealed record Post(PostNumber Number, DateOnly Day, string Text, DateTimeOffset? ReadyAt, DateTimeOffset? SentAt, int Version)
{
    public const int LongestText = 20_000;
}
