namespace Nachlass.Core.Papers;

/// <summary>A field in a change: left as it is, or set to a value, which may be null to clear it.</summary>
public readonly record struct Maybe<T>(bool IsSet, T? Value)
{
    public static implicit operator Maybe<T>(T? value) => new(true, value);

    /// <summary>The new value, or the present one when it was left as it is.</summary>
    public T? Or(T? present) => IsSet ? Value : present;
}

/// <summary>One page of a list.</summary>
/// <param name="Total">How many there are on all pages.</param>
/// <param name="Page">The page given, from 1.</param>
public sealed record Paged<T>(IReadOnlyList<T> Items, int Total, int Page, int PageSize);
