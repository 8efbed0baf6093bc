using Nachlass.Core.Papers;

namespace Nachlass.Core.Text.Queries;

/// <summary>The number of a view.</summary>
public readonly record struct ViewNumber(int Value) : INumber<ViewNumber>
{
    public static ViewNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out ViewNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>How a view is laid out.</summary>
public enum ViewLayout
{
    List,
    Table,
}

/// <summary>A column of a table.</summary>
public enum ViewColumn
{
    Number,
    Text,
    Kind,
    State,
    Topics,
    Pull,
    Effort,
    Format,
    Source,
    Locator,
    Caught,
    Origin,
    Used,
    Worth,
    Stage,
    Due,
    Out,
    Words,
    Fields,
}

/// <summary>What a list can be sorted by.</summary>
public enum ListSort
{
    Caught,
    Pull,
    Effort,
    Kind,
    State,
    Number,
    Text,
    Worth,
    Stage,
    Due,

    /// <summary>By the own field that the query asks for, else by the first a piece has.</summary>
    Field,
}

/// <summary>What the rows of a table can be gathered under.</summary>
public enum ViewGroup
{
    Topic,
    Kind,
    State,
    Origin,
    Source,
    Format,
    Month,
}

/// <summary>A query worth asking again, with how its answer is laid out.</summary>
public sealed record SavedView
{
    public const int LongestName = 80;

    /// <summary>The columns a table has until the writer chooses.</summary>
    public static readonly IReadOnlyList<ViewColumn> UsualColumns =
    [
        ViewColumn.Number,
        ViewColumn.Text,
        ViewColumn.Kind,
        ViewColumn.Topics,
        ViewColumn.Pull,
        ViewColumn.Effort,
        ViewColumn.State,
        ViewColumn.Caught,
    ];

    public ViewNumber Number { get; init; }
    public required string Name { get; init; }

    /// <summary>The query, as it is typed.</summary>
    public required string Query { get; init; }

    public ViewLayout Layout { get; init; }

    /// <summary>The columns in their order; the usual ones when empty.</summary>
    public IReadOnlyList<ViewColumn> Columns { get; init; } = [];

    /// <summary>The order; by rank or the newest first when null.</summary>
    public ListSort? Sort { get; init; }

    public bool Upward { get; init; }

    public ViewGroup? Grouped { get; init; }

    /// <summary>Whether the Desk shows it.</summary>
    public bool OnDesk { get; init; }

    public int Position { get; init; }
    public int Version { get; init; }

    /// <summary>The view, if it can be kept: with its name trimmed, its query as it is printed, and no column twice.</summary>
    /// <exception cref="BadInputException">It has no name, or its query can't be read.</exception>
    public SavedView Checked()
    {
        var reading = QueryReader.Read(Query);
        if (reading.Problem is { } problem)
            throw new BadInputException("query", $"{problem.Message} (at character {problem.At + 1})");
        return this with
        {
            Name = Check.Text("name", Name, LongestName),
            Query = reading.Query!.ToString(),
            Columns = [.. Columns.Distinct()],
        };
    }
}
