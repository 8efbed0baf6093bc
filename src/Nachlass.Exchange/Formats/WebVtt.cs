using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

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
        if (text.StartsWith("WEBVTT", StringComparison.Ordinal))
            return Cues(text, payload => Voices(payload, WebUtility.HtmlDecode));
        return Arrow().IsMatch(text) ? Cues(text, payload => Voices(payload, words => words)) : Plain(text);
    }

    /// <summary>Reads what <see cref="WebVtt"/> wrote, to the letter: no speaker is guessed and nothing is taken for a mark.</summary>
    public static IReadOnlyList<TranscriptLine> ReadOurs(string text) => Cues(text, Ours).Lines;

    private static IEnumerable<(string Speaker, string Words)> Ours(string payload)
    {
        var voice = OurVoice().Match(payload);
        yield return (WebUtility.HtmlDecode(voice.Groups["speaker"].Value), WebUtility.HtmlDecode(voice.Groups["words"].Value));
    }

    /// <summary>
    /// WebVTT (W3C, 6.1) and SubRip differ for us only in the sign before the milliseconds, and in that only WebVTT has a head and
    /// notes: both are blocks with a line of times, before which a name or number may stand. A line of times also begins a cue where no
    /// empty line stands before it.
    /// </summary>
    private static ReadTranscript Cues(string text, Func<string, IEnumerable<(string Speaker, string Words)>> voices)
    {
        var (lines, unread) = (new List<TranscriptLine>(), new List<Found.Unread>());
        var isVtt = text.StartsWith("WEBVTT", StringComparison.Ordinal);
        var rows = text.Split('\n');
        for (var at = 0; at < rows.Length; )
        {
            if (rows[at].Trim().Length == 0)
            {
                at++;
                continue;
            }
            var (begins, times) = (at, -1);
            while (at < rows.Length && rows[at].Trim().Length > 0)
            {
                if (rows[at].Contains("-->", StringComparison.Ordinal) && (times < 0 || Times().IsMatch(rows[at])))
                {
                    if (times >= 0)
                    {
                        // The number of the next cue is no word of this one.
                        var isNumbered = at - 1 > times && rows[at - 1].Trim().All(char.IsAsciiDigit);
                        Cue(begins, times, isNumbered ? at - 1 : at);
                        begins = at;
                    }
                    times = at;
                }
                at++;
            }
            if (times >= 0)
                Cue(begins, times, at);
            else if (!isVtt || begins > 0 && !Aside().IsMatch(rows[begins]))
                unread.Add(new Found.Unread(begins + 1, "this block has no times.", string.Join('\n', rows[begins..at])));
        }
        return new ReadTranscript(lines, unread);

        void Cue(int begins, int times, int end)
        {
            if (Times().Match(rows[times]) is not { Success: true } found)
                Wrong($"“{rows[times].Trim()}” is no pair of times.");
            else if (Milliseconds(found, "to") < Milliseconds(found, "from"))
                Wrong("it ends before it begins.");
            else
                foreach (var (speaker, words) in voices(string.Join('\n', rows[(times + 1)..end])))
                    lines.Add(new TranscriptLine(Milliseconds(found, "from"), Milliseconds(found, "to"), words, speaker));

            void Wrong(string reason) => unread.Add(new Found.Unread(times + 1, reason, string.Join('\n', rows[begins..end])));
        }
    }

    private static IEnumerable<(string Speaker, string Words)> Voices(string payload, Func<string, string> decoded)
    {
        // WebVTT marks a speaker as <v Name>; there may be several in one cue.
        var parts = Voice().Split(payload);
        if (parts[0].Trim().Length > 0)
            yield return Split(Clean(parts[0], decoded));
        for (var i = 1; i + 1 < parts.Length; i += 2)
            if (Clean(parts[i + 1], decoded) is { Length: > 0 } words)
                yield return (decoded(parts[i]).Trim(), words);
    }

    private static string Clean(string text, Func<string, string> decoded) =>
        string.Join(' ', decoded(Tags().Replace(text, "")).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

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

    /// <summary>The tags there are (W3C WebVTT, 6.4, and those of SubRip); any other sign in angle brackets is words.</summary>
    [GeneratedRegex(
        @"</?(?:b|c|font|i|lang|rt|ruby|s|u|v)(?:[.\s][^<>]*)?>|<\d[\d:.]*>|\{\\(?:an?\d|[bisu]\d|pos\([^)}]*\)|c&[^}]*)\}",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Tags();

    /// <summary>A block of a WebVTT file that says nothing: a note, styles, a region.</summary>
    [GeneratedRegex(@"^(?:NOTE(?:[ \t]|$)|(?:STYLE|REGION)\s*$)")]
    private static partial Regex Aside();

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
            yield return new Found.OfSource(1, new FoundSource(file.Title) { Type = SourceType.Podcast, Transcript = InOrder(file, read) });
    }

    private static IReadOnlyList<TranscriptLine> InOrder(InFile file, ReadTranscript read)
    {
        try
        {
            return Transcript.InOrder(read.Lines.SelectMany(Transcript.Cut));
        }
        catch (BadInputException error)
        {
            throw new UnreadableFileException(file.Name, error.Message);
        }
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
