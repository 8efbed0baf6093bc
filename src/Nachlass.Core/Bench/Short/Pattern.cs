using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Short;

/// <summary>The number of a pattern.</summary>
public readonly record struct PatternNumber(int Value) : INumber<PatternNumber>
{
    public static PatternNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out PatternNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>What a pattern is for.</summary>
public enum PatternKind
{
    Opening,
    Post,
    Title,

    /// <summary>A small bit that is used once: an aside, a line, a picture of words.</summary>
    Bit,
}

/// <summary>A short shape with places to fill, in Liquid.</summary>
/// <param name="Text">What is known of a piece is filled in (<c>{{ title }}</c>); any other name is a place for its writer.</param>
/// <param name="UsedAt">When a bit was used; null while it is not, and for the other kinds.</param>
public sealed record Pattern(PatternNumber Number, PatternKind Kind, string Name, string Text, DateTimeOffset? UsedAt, int Version)
{
    public const int LongestName = 120,
        LongestText = 4_000;
}

/// <summary>A place in a laid pattern.</summary>
/// <param name="From">Where it begins, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
/// <param name="Name">The same name is filled at once.</param>
public sealed record PatternPlace(int From, int To, string Name);

/// <summary>A pattern with what is known filled in, and the places that are left.</summary>
public sealed record LaidPattern(string Text, IReadOnlyList<PatternPlace> Places);

/// <summary>Lays patterns.</summary>
public static partial class Patterns
{
    /// <summary>Fills in what is known; what is left are places, shown by their names as words.</summary>
    /// <param name="text">The pattern.</param>
    /// <param name="facts">What is known, by name.</param>
    /// <returns>The laid pattern, or why it can't be laid.</returns>
    public static (LaidPattern? Laid, FillInFault? Fault) Lay(string text, IReadOnlyDictionary<string, object> facts)
    {
        // A place goes through the filling as a sign that stands in no text (Unicode private use), and is found again by it.
        var names = new List<string>();
        var marked = Place()
            .Replace(
                text,
                m =>
                {
                    if (facts.ContainsKey(m.Groups[1].Value))
                        return m.Value;
                    names.Add(m.Groups[1].Value);
                    return Sign;
                }
            );
        var filled = FillIn.Fill(marked, facts);
        if (filled.Fault is { } fault)
            return (null, fault);
        var laid = new StringBuilder();
        var places = new List<PatternPlace>();
        foreach (var (part, i) in filled.Text.Split(Sign).Select((part, i) => (part, i)))
        {
            if (i > 0 && i <= names.Count)
            {
                var shown = names[i - 1].Replace('_', ' ');
                places.Add(new PatternPlace(laid.Length, laid.Length + shown.Length, names[i - 1]));
                laid.Append(shown);
            }
            laid.Append(part);
        }
        return (new LaidPattern(laid.ToString(), places), null);
    }

    private const string Sign = "\uf8ff";

    [GeneratedRegex(@"\{\{-?\s*([a-z][a-z0-9_]{0,60})\s*-?\}\}", RegexOptions.IgnoreCase)]
    private static partial Regex Place();
}
