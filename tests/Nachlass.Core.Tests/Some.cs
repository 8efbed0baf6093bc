using CsCheck;

namespace Nachlass.Core.Tests;

/// <summary>Generators shared by the property tests.</summary>
internal static class Some
{
    /// <summary>One of these.</summary>
    public static Gen<T> Of<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(at => values[at]);
}
