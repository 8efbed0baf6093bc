using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Audio;

/// <summary>A place in a recording that listeners can go to.</summary>
/// <param name="Ms">Where it begins, in milliseconds from the recording's beginning.</param>
public sealed record Chapter(int Ms, string Title);

/// <summary>
/// The chapters of a recording stand in the text that goes out with it, each in a line of its own that begins with its time:
/// <c>4:10 The lane</c>. So they are written, sent, put right and kept with that text, and listeners whose player knows no chapters read
/// them there.
/// </summary>
public static partial class Chapters
{
    public const int Most = 200,
        LongestTitle = 200;

    /// <summary>The chapters that a text names, in its order. A line of a list is one, too.</summary>
    public static IReadOnlyList<Chapter> In(string text)
    {
        var found = new List<Chapter>();
        foreach (var line in text.Split('\n'))
            if (found.Count < Most && Line().Match(line) is { Success: true } match && TimeOf(match.Groups["time"].Value) is { } ms)
            {
                var title = PlainText.Of(match.Groups["title"].Value).Trim();
                if (title.Length > 0)
                    found.Add(new Chapter(ms, title[..Math.Min(title.Length, LongestTitle)]));
            }
        return found;
    }

    /// <summary>The text without the lines that name chapters.</summary>
    public static string Without(string text) => string.Join('\n', text.Split('\n').Where(line => !Line().IsMatch(line)));

    private static int? TimeOf(string said)
    {
        try
        {
            return CutTimes.Read("text", said);
        }
        catch (BadInputException)
        {
            // A line may begin with figures that are no time.
            return null;
        }
    }

    /// <summary>What is wrong with the chapters of a text, a sentence each.</summary>
    /// <param name="lengthMs">How long the recording is, in milliseconds; 0 where nobody knows.</param>
    public static IReadOnlyList<string> Wrong(string text, int lengthMs)
    {
        var chapters = In(text);
        var wrong = new List<string>();
        for (var i = 1; i < chapters.Count; i++)
            if (chapters[i].Ms <= chapters[i - 1].Ms)
                wrong.Add(
                    $"“{chapters[i].Title}” at {CutTimes.Said(chapters[i].Ms)} does not begin after “{chapters[i - 1].Title}” at "
                        + $"{CutTimes.Said(chapters[i - 1].Ms)}."
                );
        if (lengthMs > 0 && chapters.FirstOrDefault(c => c.Ms >= lengthMs) is { } late)
            wrong.Add(
                $"“{late.Title}” begins at {CutTimes.Said(late.Ms)}, "
                    + $"and the recording ends at {CutTimes.Said(lengthMs / 1_000 * 1_000)}."
            );
        return wrong;
    }

    /// <summary>Lines for the headings of a script, each where its words come when the whole takes as long as the recording.</summary>
    /// <param name="script">As Markdown.</param>
    /// <param name="lengthMs">How long the recording is, in milliseconds; 0 where nobody knows: then it is spoken at
    /// <see cref="ReadingPace.Aloud"/>.</param>
    /// <returns>Empty where it has fewer than two headings, or no words between them.</returns>
    public static string Proposed(string script, int lengthMs)
    {
        var (lead, parts) = DraftText.Split(script);
        var words = parts.Select(p => Counts.Of(p.Body).Words).ToList();
        var before = Counts.Of(lead).Words;
        var all = before + words.Sum();
        if (lengthMs == 0)
            lengthMs = ReadingPace.Seconds(all, ReadingPace.Aloud) * 1_000;
        var lines = new StringBuilder();
        var (count, last) = (0, -1);
        foreach (var (part, its) in parts.Zip(words))
        {
            var title = PlainText.Of(part.Title).Trim();
            var at = all == 0 ? 0 : (int)((long)lengthMs * before / all / 1_000);
            before += its;
            // Two that begin in one second would be one place.
            if (title.Length == 0 || at <= last || at * 1_000 >= lengthMs)
                continue;
            lines.Append("- ").Append(CutTimes.Said(at * 1_000)).Append(' ').Append(WordsAsMarkdown.Of(title)).Append('\n');
            (last, count) = (at, count + 1);
        }
        return count < 2 ? "" : lines.ToString();
    }

    [GeneratedRegex(@"^\s{0,3}(?:[-*+]\s+)?(?<time>(?:\d{1,2}:)?\d{1,3}:\d{2})(?:\s+[-–—:]\s+|\s+)(?<title>\S.*)$")]
    private static partial Regex Line();
}
