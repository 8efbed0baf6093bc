using System.Globalization;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Sources;

/// <summary>One line of what was said.</summary>
/// <param name="From">Where it begins, in milliseconds from the start.</param>
/// <param name="To">Where it ends, in milliseconds; not before <paramref name="From"/>.</param>
/// <param name="Text">What was said.</param>
/// <param name="Speaker">Who said it; empty when not told.</param>
public sealed record TranscriptLine(int From, int To, string Text, string Speaker = "");

/// <summary>The transcript of a source: lines in the order of their times.</summary>
public static class Transcript
{
    /// <summary>Lines at most; some thirty hours of speech.</summary>
    public const int MostLines = 50_000;

    public const int LongestLine = 5_000;

    /// <summary>The lines in order of time, empty ones left out; a line without an end lasts until the next begins. Words and speaker
    /// are one line each, as a cue can hold them.</summary>
    /// <exception cref="BadInputException">There are too many lines, or one is too long.</exception>
    public static IReadOnlyList<TranscriptLine> InOrder(IEnumerable<TranscriptLine> lines)
    {
        var sorted = lines
            .Select(line => line with { Text = OneLine(line.Text), Speaker = OneLine(line.Speaker) })
            .Where(line => line.Text.Length > 0)
            .OrderBy(line => line.From)
            .ToList();
        if (sorted.Count > MostLines)
            throw new BadInputException("transcript", $"A transcript has at most {MostLines:N0} lines.");
        if (sorted.FirstOrDefault(line => line.Text.Length > LongestLine) is { } line)
            throw new BadInputException("transcript", $"The line at {Clock(line.From)} is longer than {LongestLine:N0} characters.");
        return [.. sorted.Select((l, i) => l.To > l.From ? l : l with { To = i + 1 < sorted.Count ? sorted[i + 1].From : l.From })];
    }

    /// <summary>A line that is too long for one as several, cut between words; each lasts as long as its share of them.</summary>
    public static IEnumerable<TranscriptLine> Cut(TranscriptLine line)
    {
        var words = OneLine(line.Text);
        if (words.Length <= LongestLine)
            return [line];
        var parts = new List<(int From, int To)>();
        for (var at = 0; at < words.Length; )
        {
            var end = Math.Min(words.Length, at + LongestLine);
            if (end < words.Length)
                end = words.LastIndexOf(' ', end - 1, LongestLine) is var gap && gap > at ? gap : end;
            if (end < words.Length && char.IsLowSurrogate(words[end]))
                end--;
            parts.Add((at, end));
            at = end < words.Length && words[end] == ' ' ? end + 1 : end;
        }
        int Time(int at) => line.From + (int)((long)(line.To - line.From) * at / words.Length);
        return parts.Select(p => new TranscriptLine(Time(p.From), Time(p.To), words[p.From..p.To], line.Speaker));
    }

    private static string OneLine(string words) => string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>The passage that some neighbouring lines make: their words in one, and their time range as a locator in whole seconds that
    /// covers them.</summary>
    /// <exception cref="BadInputException">There are no lines.</exception>
    public static (string Text, string Locator) Passage(IReadOnlyList<TranscriptLine> lines)
    {
        if (lines.Count == 0)
            throw new BadInputException("lines", "Choose the lines that make the passage.");
        var speakers = lines.Select(line => line.Speaker).Distinct().Count() > 1;
        var text = string.Join(
            speakers ? "\n" : " ",
            lines.Select(line => speakers && line.Speaker.Length > 0 ? $"{line.Speaker}: {line.Text}" : line.Text)
        );
        var (from, to) = (lines[0].From / 1000, (lines[^1].To + 999) / 1000);
        return (text, Locator.Read(to > from ? $"{Clock(from * 1000)}-{Clock(to * 1000)}" : Clock(from * 1000)).Text);
    }

    /// <summary>A time as it is cited: <c>12:40</c>, <c>1:02:03</c>.</summary>
    public static string Clock(int milliseconds)
    {
        var seconds = milliseconds / 1000;
        return seconds >= 3600
            ? string.Create(CultureInfo.InvariantCulture, $"{seconds / 3600}:{seconds / 60 % 60:00}:{seconds % 60:00}")
            : string.Create(CultureInfo.InvariantCulture, $"{seconds / 60}:{seconds % 60:00}");
    }
}
