namespace Nachlass.Core.Text.Queries;

/// <summary>How a step is compared.</summary>
public enum Comparison
{
    Is,
    Below,
    AtMost,
    Above,
    AtLeast,
}

/// <summary>What is asked of the papers: words, fields, and how they are joined.</summary>
public abstract record Query
{
    private protected Query() { }

    /// <summary>Nothing was asked, so all answers.</summary>
    public sealed record Everything : Query;

    /// <summary>Words that stand in the text.</summary>
    /// <param name="Text">The word, or several that stand together.</param>
    /// <param name="IsExact">Whether they were put in quotation marks; then no other name of a topic counts for them.</param>
    /// <param name="IsUnfinished">Whether the word is still being typed, so that its beginning is enough.</param>
    public sealed record Words(string Text, bool IsExact = false, bool IsUnfinished = false) : Query;

    /// <summary>A field that has a value. Made by <see cref="QueryReader"/>, which has checked the value.</summary>
    public sealed record Field(QueryField Name, Comparison Comparison, string Value) : Query;

    /// <summary>All of them hold. Two or more, none of them an <c>and</c> itself.</summary>
    public sealed record And(IReadOnlyList<Query> Parts) : Query
    {
        public bool Equals(And? other) => other is not null && Parts.SequenceEqual(other.Parts);

        public override int GetHashCode() => Parts.Aggregate(1, HashCode.Combine);
    }

    /// <summary>One of them holds. Two or more, none of them an <c>or</c> itself.</summary>
    public sealed record Or(IReadOnlyList<Query> Parts) : Query
    {
        public bool Equals(Or? other) => other is not null && Parts.SequenceEqual(other.Parts);

        public override int GetHashCode() => Parts.Aggregate(2, HashCode.Combine);
    }

    /// <summary>It does not hold.</summary>
    public sealed record Not(Query Part) : Query;

    /// <summary>All of several; one alone stands for itself, none asks for everything.</summary>
    public static Query All(params IEnumerable<Query> parts)
    {
        var flat = parts.Where(p => p is not Everything).SelectMany(p => p is And and ? and.Parts : [p]).ToList();
        return flat.Count switch
        {
            0 => new Everything(),
            1 => flat[0],
            _ => new And(flat),
        };
    }

    /// <summary>One of several.</summary>
    public static Query Any(params IEnumerable<Query> parts)
    {
        var flat = parts.SelectMany(p => p is Or or ? or.Parts : [p]).ToList();
        return flat.Any(p => p is Everything) || flat.Count == 0 ? new Everything()
            : flat.Count == 1 ? flat[0]
            : new Or(flat);
    }

    /// <summary>Every part of it that is no join.</summary>
    public IEnumerable<Query> Leaves() =>
        this switch
        {
            And and => and.Parts.SelectMany(p => p.Leaves()),
            Or or => or.Parts.SelectMany(p => p.Leaves()),
            Not not => not.Part.Leaves(),
            _ => [this],
        };

    /// <summary>Whether it asks about a field anywhere.</summary>
    public bool Names(QueryField field) => Leaves().Any(leaf => leaf is Field named && named.Name == field);

    /// <summary>As it would be typed; reading it gives the same query again.</summary>
    public sealed override string ToString() => Print(this, 0);

    // Strength: 0 for or, 1 for and, 2 for not and what stands alone.
    private static string Print(Query query, int strength) =>
        query switch
        {
            Words words => words.IsExact || IsJoin(words.Text) ? Quoted(words.Text) : words.Text,
            Field field => field.Name.ToString().ToLowerInvariant() + Sign(field.Comparison) + Written(field.Value),
            Or or => Bracketed(string.Join(" or ", or.Parts.Select(p => Print(p, 1))), strength > 0),
            And and => Bracketed(string.Join(' ', and.Parts.Select(p => Print(p, 2))), strength > 1),
            Not not => "not " + Print(not.Part, 2),
            _ => "",
        };

    private static string Bracketed(string text, bool needed) => needed ? $"({text})" : text;

    private static string Written(string value) =>
        value.All(c => char.IsLetterOrDigit(c) || c is '-' or '_' or '.' or '/') ? value : Quoted(value);

    private static string Quoted(string text) => '"' + text + '"';

    internal static bool IsJoin(string word) => word.ToLowerInvariant() is "and" or "or" or "not";

    /// <summary>The sign a comparison is written with.</summary>
    public static string Sign(Comparison comparison) =>
        comparison switch
        {
            Comparison.Below => "<",
            Comparison.AtMost => "<=",
            Comparison.Above => ">",
            Comparison.AtLeast => ">=",
            _ => ":",
        };
}
