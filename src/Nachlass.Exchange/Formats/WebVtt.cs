using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>What was read of a transcript, and what could not be.</summary>
public sealed record ReadTranscript(IReadOnlyList<TranscriptLine> Lines, IReadOnlyList<Found.Unread> Unread);

/// <summary>Transcripts of every kind: recognised by how they write their times.</summary>
public static partial class Transcripts
{
    /// <summary>Reads WebVTT, SubRip or plain text with times.</summary>
    public static ReadTranscript Read(string text)
    {
        text = text.TrimStart('\uFEFF').ReplaceLineEndings("\n");
        if (text.StartsWith("WEBVTT", StringComparison.Ordinal) || Arrow().IsMatch(text))
            return Cues(text, Voices);
        return Plain(text);
    }

    /// <summary>Reads what <see cref="WebVtt"/> wrote, to the letter: no speaker is guessed and nothing is taken for a mark.</summary>
    public static IReadOnlyList<TranscriptLine> ReadOurs(string text) => Cues(text, Ours).Lines;

    private static IEnumerable<(string Speaker, string Words)> Ours(string payload)
    {
        var voice = OurVoice().Match(payload);
        yield return (WebUtility.HtmlDecode(voice.Groups["speaker"].Value), WebUtility.HtmlDecode(voice.Groups["words"].Value));
    }

    /// <summary>WebVTT (W3C) and SubRip differ for us only in the sign before the milliseconds: both are blocks with a line of
    /// times.</summary>
    private static ReadTranscript Cues(string text, Func<string, IEnumerable<(string Speaker, string Words)>> voices)
    {
        var (lines, unread) = (new List<TranscriptLine>(), new List<Found.Unread>());
        var number = 1;
        foreach (var block in text.Split("\n\n"))
        {
            var begins = number + block.Length - block.TrimStart('\n').Length;
            number += block.Count(c => c == '\n') + 2;
            var rows = block.Trim('\n').Split('\n');
            if (
                rows[0].Length == 0
                || rows[0].StartsWith("WEBVTT", StringComparison.Ordinal)
                || rows[0].StartsWith("NOTE", StringComparison.Ordinal)
                || rows[0] is "STYLE" or "REGION"
            )
                continue;
            var at = Array.FindIndex(rows, row => row.Contains("-->", StringComparison.Ordinal));
            if (at < 0)
            {
                unread.Add(new Found.Unread(begins, "this block has no times.", block.Trim('\n')));
                continue;
            }
            if (Times().Match(rows[at]) is not { Success: true } times)
            {
                unread.Add(new Found.Unread(begins + at, $"“{rows[at].Trim()}” is no pair of times.", block.Trim('\n')));
                continue;
            }
            var (from, to) = (Milliseconds(times, "from"), Milliseconds(times, "to"));
            if (to < from)
            {
                unread.Add(new Found.Unread(begins + at, "it ends before it begins.", block.Trim('\n')));
                continue;
            }
            foreach (var (speaker, words) in voices(string.Join('\n', rows[(at + 1)..])))
                lines.Add(new TranscriptLine(from, to, words, speaker));
        }
        return new ReadTranscript(lines, unread);
    }

    private static IEnumerable<(string Speaker, string Words)> Voices(string payload)
    {
        // WebVTT marks a speaker as <v Name>; there may be several in one cue.
        var parts = Voice().Split(payload);
        if (parts[0].Trim().Length > 0)
            yield return Split(Clean(parts[0]));
        for (var i = 1; i + 1 < parts.Length; i += 2)
            if (Clean(parts[i + 1]) is { Length: > 0 } words)
                yield return (WebUtility.HtmlDecode(parts[i]).Trim(), words);
    }

    private static string Clean(string text) =>
        string.Join(' ', WebUtility.HtmlDecode(Tags().Replace(text, "")).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>"PELL: the rope was wet" is said by Pell.</summary>
    private static (string Speaker, string Words) Split(string words) =>
        Speaking().Match(words) is { Success: true } said ? (said.Groups[1].Value, said.Groups[2].Value) : ("", words);

    /// <summary>Lines that begin with a time; what follows without one goes on from the line above.</summary>
    private static ReadTranscript Plain(string text)
    {
        var (lines, unread) = (new List<TranscriptLine>(), new List<Found.Unread>());
        var number = 0;
        foreach (var row in text.Split('\n'))
        {
            number++;
            var bare = row.Trim();
            if (bare.Length == 0)
                continue;
            if (Timed().Match(bare) is { Success: true } timed)
            {
                var (speaker, words) = Split(timed.Groups["text"].Value.Trim());
                lines.Add(new TranscriptLine(Milliseconds(timed, "from"), 0, words, speaker));
            }
            else if (lines.Count > 0)
                lines[^1] = lines[^1] with { Text = (lines[^1].Text + " " + bare).Trim() };
            else
                unread.Add(new Found.Unread(number, "there is no time before it.", row));
        }
        return new ReadTranscript(lines, unread);
    }

    private static int Milliseconds(Match match, string group)
    {
        var parts = match.Groups[group].Value.Replace(',', '.').Split('.');
        var seconds = parts[0].Split(':').Aggregate(0L, (sum, part) => sum * 60 + long.Parse(part, CultureInfo.InvariantCulture));
        var thousandths = parts.Length > 1 ? int.Parse(parts[1].PadRight(3, '0')[..3], CultureInfo.InvariantCulture) : 0;
        return (int)Math.Min(int.MaxValue, seconds * 1000 + thousandths);
    }

    /// <summary>Writes WebVTT that <see cref="Read"/> gives back.</summary>
    public static string WebVtt(IEnumerable<TranscriptLine> lines)
    {
        var text = new StringBuilder("WEBVTT\n");
        foreach (var line in lines)
        {
            var speaker = line.Speaker.Length > 0 ? $"<v {Escaped(line.Speaker)}>" : "";
            text.Append($"\n{Time(line.From, '.')} --> {Time(line.To, '.')}\n{speaker}{Escaped(line.Text)}\n");
        }
        return text.ToString();
    }

    /// <summary>Writes SubRip.</summary>
    public static string SubRip(IEnumerable<TranscriptLine> lines)
    {
        var text = new StringBuilder();
        var number = 0;
        foreach (var line in lines)
        {
            var speaker = line.Speaker.Length > 0 ? line.Speaker + ": " : "";
            text.Append($"{++number}\n{Time(line.From, ',')} --> {Time(line.To, ',')}\n{speaker}{line.Text}\n\n");
        }
        return text.ToString();
    }

    private static string Escaped(string words) =>
        words
            .Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal);

    private static string Time(int milliseconds, char point) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{milliseconds / 3_600_000:00}:{milliseconds / 60_000 % 60:00}:{milliseconds / 1000 % 60:00}{point}{milliseconds % 1000:000}"
        );

    [GeneratedRegex(@"^\s*(?<from>(?:\d{1,4}:)?\d{1,2}:\d{2}[.,]\d{1,3})\s*-->\s*(?<to>(?:\d{1,4}:)?\d{1,2}:\d{2}[.,]\d{1,3})(?:\s.*)?$")]
    private static partial Regex Times();

    [GeneratedRegex(@"\d[.,]\d{1,3}\s*-->\s*\d")]
    private static partial Regex Arrow();

    [GeneratedRegex(@"^(?:<v (?<speaker>[^>]*)>)?(?<words>.*)$", RegexOptions.Singleline)]
    private static partial Regex OurVoice();

    [GeneratedRegex(@"<v(?:\.[^\s>]*)?\s+([^>]+)>")]
    private static partial Regex Voice();

    [GeneratedRegex(@"</?[a-zA-Z][^>]*>|<\d[\d:.]*>|\{\\[^}]*\}")]
    private static partial Regex Tags();

    [GeneratedRegex(@"^(\p{Lu}[\p{L}.'’ -]{0,38}):\s+(.+)$", RegexOptions.Singleline)]
    private static partial Regex Speaking();

    [GeneratedRegex(
        """
            ^[\[(]?(?<from>(?:\d{1,3}:)?\d{1,3}:\d{2}(?:[.,]\d{1,3})?)[\])]?
            (?:\s*[-–]\s*[\[(]?(?:\d{1,3}:)?\d{1,3}:\d{2}[\])]?)?
            \s*[-–—:]?\s+(?<text>.*)$
            """,
        RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Timed();

    /// <summary>A file as a source that was heard or watched.</summary>
    internal static IEnumerable<Found> AsSource(InFile file)
    {
        var read = Read(TextIn.Whole(file));
        foreach (var unread in read.Unread)
            yield return unread;
        if (read.Lines.Count > 0)
            yield return new Found.OfSource(
                1,
                new FoundSource(file.Title) { Type = SourceType.Podcast, Transcript = Transcript.InOrder(read.Lines) }
            );
    }

    internal static bool LooksTimed(string start) => start.Split('\n').Take(12).Count(line => Timed().IsMatch(line.Trim())) >= 3;
}

/// <summary>WebVTT: a transcript becomes a source that was heard.</summary>
public sealed class WebVtt : IFormat
{
    public string Key => "vtt";
    public string Name => "Transcript (WebVTT)";

    public bool Recognises(InFile file, string start) => file.Extension is ".vtt" || start.StartsWith("WEBVTT", StringComparison.Ordinal);

    public IEnumerable<Found> Read(InFile file, ReadAs how) => Transcripts.AsSource(file);
}

/// <summary>SubRip.</summary>
public sealed partial class SubRip : IFormat
{
    public string Key => "srt";
    public string Name => "Transcript (SubRip)";

    public bool Recognises(InFile file, string start) => file.Extension is ".srt" || First().IsMatch(start);

    public IEnumerable<Found> Read(InFile file, ReadAs how) => Transcripts.AsSource(file);

    [GeneratedRegex(@"\A\d+\r?\n\d{1,2}:\d{2}:\d{2},\d{3} --> ")]
    private static partial Regex First();
}

/// <summary>Plain text with a time before each line.</summary>
public sealed class TimedText : IFormat
{
    public string Key => "timed";
    public string Name => "Transcript, plain text with times";

    public bool Recognises(InFile file, string start) => file.Extension is ".txt" or "" && Transcripts.LooksTimed(start);

    public IEnumerable<Found> Read(InFile file, ReadAs how) => Transcripts.AsSource(file);
}
