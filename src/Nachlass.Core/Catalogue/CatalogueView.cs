using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue;

/// <summary>The number of a kept way of looking at the catalogue.</summary>
public readonly record struct CatalogueViewNumber(int Value) : INumber<CatalogueViewNumber>
{
    public static CatalogueViewNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out CatalogueViewNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>By what the pieces of the catalogue stand together.</summary>
public enum CatalogueBy
{
    Year,
    Series,
    Outlet,
    Format,
    Topic,
    Kind,
}

/// <summary>A way of looking at the catalogue.</summary>
/// <param name="With">Words that all have to stand in what is shown of a piece; empty for all pieces.</param>
public sealed record CatalogueView(CatalogueViewNumber Number, string Name, string With, CatalogueBy By, int Version = 1)
{
    public const int LongestName = 80,
        LongestWith = 200;
}
