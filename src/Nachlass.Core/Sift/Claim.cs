using Nachlass.Core.Papers;

namespace Nachlass.Core.Sift;

/// <summary>On which side of a claim something stands.</summary>
public enum Side
{
    For,
    Against,
}

/// <summary>Something that speaks for a claim or against it.</summary>
/// <param name="Thing">A slip or a source.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Note">Why, in the writer's words.</param>
/// <param name="Source">The source it comes from; null for a slip of the writer's own.</param>
public sealed record Evidence(Reference Thing, string Title, Side Side, string Note, SourceNumber? Source, DateTimeOffset AddedAt);

/// <summary>One part of a figure.</summary>
/// <param name="Name">What it is, in a few words.</param>
/// <param name="Figure">What it adds.</param>
public sealed record Term(string Name, double Figure);

/// <summary>How ready a claim is to be written, with what is still missing.</summary>
/// <param name="Figure">0 to 1.</param>
/// <param name="Terms">What it is made of; they add up to the figure.</param>
/// <param name="Missing">What would help most, in a sentence each.</param>
public sealed record Readiness(double Figure, IReadOnlyList<Term> Terms, IReadOnlyList<string> Missing)
{
    /// <summary>So many independent sources for it are enough, and so many words of the writer's own.</summary>
    public const int EnoughSources = 3,
        EnoughWords = 60;

    /// <summary>
    /// A claim is ready when independent sources speak for it (two fifths), what speaks against it has been looked at (a quarter), the
    /// writer
    /// has said it in words of their own (a quarter), and it has a title that says it (a tenth). Two passages of one source are one voice.
    /// </summary>
    /// <param name="words">Words of the slip's own text.</param>
    public static Readiness Of(string title, int words, IReadOnlyList<Evidence> evidence)
    {
        var voices = evidence.Where(e => e.Side == Side.For).Select(e => e.Source?.ToString() ?? e.Thing.ToString()).Distinct().Count();
        var against = evidence.Count(e => e.Side == Side.Against);
        var answered = evidence.Count(e => e.Side == Side.Against && e.Note.Length > 0);
        Term[] terms =
        [
            new(voices == 1 ? "1 voice for it" : $"{voices} voices for it", 0.4 * Math.Min(voices, EnoughSources) / EnoughSources),
            new(
                against == 0 ? "nothing against it yet" : $"{against} against it, {answered} answered",
                against == 0 ? 0 : 0.15 + 0.1 * answered / against
            ),
            new($"{words} words of your own", 0.25 * Math.Min(words, EnoughWords) / EnoughWords),
            new(title.Length > 0 ? "a title that says it" : "no title yet", title.Length > 0 ? 0.1 : 0),
        ];
        var missing = new List<string>();
        if (title.Length == 0)
            missing.Add("Say it in one line, as a title.");
        if (voices < EnoughSources)
            missing.Add(
                (EnoughSources - voices) switch
                {
                    EnoughSources => "Nothing speaks for it yet.",
                    1 => "1 more independent source would make it stand.",
                    var more => $"{more} more independent sources would make it stand.",
                }
            );
        if (against == 0)
            missing.Add("Look for what speaks against it.");
        else if (answered < against)
            missing.Add("Answer what speaks against it, in a note.");
        if (words < EnoughWords)
            missing.Add("Say more of it in your own words.");
        return new Readiness(terms.Sum(t => t.Figure), terms, missing);
    }
}
