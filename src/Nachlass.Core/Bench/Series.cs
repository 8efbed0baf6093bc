using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>The number of a series.</summary>
public readonly record struct SeriesNumber(int Value) : INumber<SeriesNumber>
{
    public static SeriesNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SeriesNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>Pieces in an order.</summary>
/// <param name="TitlePattern">What its next piece is called, with fill-ins; empty to leave that to the format.</param>
/// <param name="Format">The format its next piece has; empty for any.</param>
public sealed record Series(SeriesNumber Number, string Name, string About, string TitlePattern, string Format, int Version)
{
    public const int LongestName = 200,
        MostPieces = 500;
}

/// <summary>A piece's place in a series.</summary>
/// <param name="Nth">Counted from 1.</param>
/// <param name="Of">How many there are.</param>
public sealed record InSeries(SeriesNumber Series, string Name, int Nth, int Of);

/// <summary>What a piece says, in its own words: how it begins and how it ends.</summary>
public sealed record SaidInShort(string First, string Last)
{
    public static SaidInShort Of(string draft)
    {
        var sentences = Paragraphs.Of(draft).SelectMany(Paragraphs.Sentences).Where(s => s.Length > 1).ToList();
        return sentences.Count == 0 ? new SaidInShort("", "") : new SaidInShort(sentences[0], sentences.Count > 1 ? sentences[^1] : "");
    }
}
