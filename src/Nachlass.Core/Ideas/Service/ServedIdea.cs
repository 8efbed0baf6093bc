using System.Globalization;
using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas.Service;

/// <summary>An idea as a service gave it: nothing but words, and of the writer's things only such as it was told of.</summary>
public sealed record ServedIdea(string Text, string Shape, TopicNumber? Topic, IReadOnlyList<IdeaOrigin> From)
{
    /// <summary>An idea from what a service said.</summary>
    /// <param name="topic">The number it named; one it was not told of counts as none, and of a single topic it need not be named.</param>
    /// <param name="from">Names of notes it says it made this from; those it was not told of are left out.</param>
    /// <returns>Null where there are no words, or more than an idea has.</returns>
    public static ServedIdea? Of(string? text, string? shape, int? topic, IEnumerable<string> from, IdeaQuestion asked)
    {
        var words = Plain(text);
        if (words.Length is 0 or > OfferedIdea.LongestText)
            return null;
        var about =
            asked.Topics.FirstOrDefault(t => t.Number.Value == topic) ?? (asked.Topics is [var only] && topic is null ? only : null);
        var notes = asked.Topics.SelectMany(t => t.Notes).DistinctBy(n => n.Name).ToDictionary(n => n.Name, n => n.Of);
        var named = Plain(shape);
        return new ServedIdea(
            words,
            named.Length <= Angle.LongestShape ? named : "",
            about?.Number,
            [.. from.Select(name => name.Trim().ToLowerInvariant()).Distinct().Where(notes.ContainsKey).Select(name => notes[name])]
        );
    }

    /// <summary>Words on one line, without signs that are not seen: those that turn the direction of what follows could make it read as
    /// something else.</summary>
    private static string Plain(string? words)
    {
        var plain = new StringBuilder(words?.Length ?? 0);
        foreach (var rune in (words ?? "").EnumerateRunes())
            if (Rune.IsWhiteSpace(rune) || Rune.IsControl(rune))
                plain.Append(plain.Length > 0 && plain[^1] != ' ' ? " " : "");
            else if (
                Rune.GetUnicodeCategory(rune) is not (UnicodeCategory.Format or UnicodeCategory.PrivateUse)
                && rune != Rune.ReplacementChar
            )
                plain.Append(rune);
        return plain.ToString().Trim();
    }
}
