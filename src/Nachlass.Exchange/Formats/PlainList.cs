using System.Text;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>Plain and pasted lists: one slip a line, headings as topics, indented lines belong to the one above.</summary>
public sealed class PlainList : IFormat
{
    public string Key => "list";
    public string Name => "List, one slip a line";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".txt" or ".text" or ".list" || (file.Extension is "" && start.Length > 0);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        string? topic = null;
        var (begun, text, isGap) = (0, new StringBuilder(), false);
        foreach (var (number, line) in TextIn.Lines(file))
        {
            var bare = line.Trim();
            if (text.Length > 0 && bare.Length > 0 && char.IsWhiteSpace(line[0]))
            {
                text.Append(isGap ? "\n\n" : "\n").Append(bare);
                isGap = false;
                continue;
            }
            // What is indented below an empty line is the next paragraph of the same.
            isGap = text.Length > 0 && bare.Length == 0;
            if (isGap)
                continue;
            if (text.Length > 0)
            {
                yield return One(begun, text.ToString(), topic, how);
                text.Clear();
            }
            if (bare.Length == 0)
                continue;
            if (Heading(bare) is { } heading)
                topic = heading;
            else
            {
                begun = number;
                text.Append(bare);
            }
        }
        if (text.Length > 0)
            yield return One(begun, text.ToString(), topic, how);
    }

    private static string? Heading(string line)
    {
        if (line.StartsWith('#') && line.TrimStart('#') is { } rest && rest.StartsWith(' '))
            return rest.Trim();
        return
            line.EndsWith(':')
            && line.Length <= 60
            && !line.StartsWith('-')
            && !line.StartsWith('*')
            && !line.Contains("://", StringComparison.Ordinal)
            ? line[..^1].Trim()
            : null;
    }

    private static Found One(int line, string typed, string? topic, ReadAs how)
    {
        var parts = CaptureLine.Lines(typed.Split('\n')[0]);
        var text = parts.Count == 0 ? typed : parts[0] + typed[typed.Split('\n')[0].Length..];
        if (text.Length > Slip.LongestText)
            return new Found.Unread(line, $"it is longer than {Slip.LongestText:N0} characters.", text[..200] + "…");
        if (text.Any(c => char.IsControl(c) && c is not '\n' and not '\t'))
            return new Found.Unread(line, "it holds signs that are no text.", text);
        return Reading(line, text, topic is null ? [] : [topic], how.Today);
    }

    /// <summary>A line as it would be read when it is caught at the strip.</summary>
    internal static Found Reading(int line, string text, IReadOnlyList<string> topics, DateOnly today)
    {
        var reading = CaptureLine.Read(text, today);
        if (reading.Becomes == Becomes.Move)
            return new Found.OfMove(line, reading.Text, reading.Date);
        return new Found.OfSlip(
            line,
            new FoundSlip(reading.Text)
            {
                Kind = reading.Kind,
                Topics = [.. topics.Concat(reading.Topics).Distinct(StringComparer.OrdinalIgnoreCase)],
                Source =
                    reading.Becomes == Becomes.Source
                        ? new FoundSource(TitleFor(reading.Address!, reading.Text)) { Address = reading.Address!, Type = SourceType.Page }
                        : null,
            }
        );
    }

    private static string TitleFor(string address, string text)
    {
        var words = Core.Text.PlainText.Headline(
            text.Replace(address, "", StringComparison.Ordinal).Trim(' ', '-', '–', '—', ':', '(', ')')
        );
        return words.Length > 0 ? words : address;
    }

    /// <summary>Writes slips one a line under the headings of their first topics; the further lines of a slip are indented.</summary>
    public static string Write(IEnumerable<Slip> slips)
    {
        var text = new StringBuilder();
        foreach (var group in slips.GroupBy(s => s.Topics.Count > 0 ? s.Topics[0].Name : "").OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            if (group.Key.Length > 0)
                text.Append("# ").Append(group.Key).Append("\n\n");
            foreach (var slip in group)
            {
                var lines = slip.Text.Split('\n', StringSplitOptions.TrimEntries);
                text.Append("- ").AppendJoin('\n', lines.Select((line, i) => i == 0 || line.Length == 0 ? line : "  " + line));
                foreach (var topic in slip.Topics.Skip(1))
                    text.Append(" #").Append(topic.Name.Replace(' ', '-'));
                text.Append('\n');
            }
            text.Append('\n');
        }
        return text.ToString();
    }
}
