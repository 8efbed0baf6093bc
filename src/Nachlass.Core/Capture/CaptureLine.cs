using System.Text.RegularExpressions;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Capture;

/// <summary>What a caught line becomes.</summary>
public enum Becomes
{
    Slip,
    Source,
    Move,
}

/// <summary>What was read out of a caught line.</summary>
/// <param name="Becomes">A slip; a source with a slip that points at it; or a move.</param>
/// <param name="Kind">The kind of the slip.</param>
/// <param name="Text">The text to keep: without the box of a move and without the topics at its end.</param>
/// <param name="Topics">Names after <c>#</c>, in order, each once; <c>flood-marks</c> reads as two words.</param>
/// <param name="Address">The first web address in it.</param>
/// <param name="Date">The first date it names; a move is due on it.</param>
public sealed record CaptureReading(
    Becomes Becomes,
    SlipKind Kind,
    string Text,
    IReadOnlyList<string> Topics,
    string? Address,
    DateOnly? Date
);

/// <summary>What the writer says of a line instead of its reading; null leaves a point to the reading.</summary>
/// <param name="Move">Whether it is a move.</param>
/// <param name="Kind">The kind of the slip.</param>
/// <param name="Source">False when its address is only mentioned and is no source of its own.</param>
/// <param name="Topics">The topics meant. A tag that is not among them stays in the text, since it was a word and not a mark.</param>
public sealed record Overruling(bool? Move = null, SlipKind? Kind = null, bool? Source = null, IReadOnlyList<string>? Topics = null);

/// <summary>Reads a line as the writer typed it. The reading is a proposal; the writer may overrule it.</summary>
public static partial class CaptureLine
{
    /// <summary>Reads one caught text.</summary>
    /// <param name="typed">The text; several lines make one longer slip.</param>
    /// <param name="today">The writer's day, for dates such as "Friday".</param>
    /// <param name="overruling">What the writer says of it instead.</param>
    public static CaptureReading Read(string typed, DateOnly today, Overruling? overruling = null)
    {
        var said = overruling ?? new Overruling();
        var text = typed.Trim();
        var box = Box().Match(text);
        var isMove = said.Move ?? (said.Kind is null && box.Success);
        if (box.Success)
            text = text[box.Length..].Trim();
        var read = Hashes()
            .Matches(text)
            .Select(m => TopicName.FromTag(m.Groups[1].Value))
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .ToList();
        IReadOnlyList<string> topics = said.Topics ?? read;
        // Tags at the end are marks and not part of the sentence, unless one of them was no topic after all.
        var end = TrailingHashes().Match(text);
        var bare = text[..(end.Success ? end.Index : text.Length)].TrimEnd();
        var areMarks = Hashes()
            .Matches(end.Value)
            .All(m => topics.Contains(TopicName.FromTag(m.Groups[1].Value), StringComparer.OrdinalIgnoreCase));
        if (bare.Length > 0 && areMarks)
            text = bare;
        var date = DateInText.Find(text, today);
        if (isMove)
            return new(Becomes.Move, SlipKind.Note, text, topics, null, date);
        var link = Link().Match(text);
        var address = link.Success ? link.Value.TrimEnd('.', ',', ';', ')', '!', '?') : null;
        var isSource = address is not null && said.Source != false;
        return new(isSource ? Becomes.Source : Becomes.Slip, said.Kind ?? KindOf(text, address), text, topics, address, date);
    }

    /// <summary>The text without its web addresses, and without the brackets and dashes that stood around them.</summary>
    public static string WithoutAddresses(string text) => AroundLink().Replace(text, " ").Trim().TrimEnd(':', '-', '–', '—').Trim();

    private static SlipKind KindOf(string text, string? address)
    {
        if (Quotation().IsMatch(text))
            return SlipKind.Quote;
        if (text.EndsWith('?'))
            return SlipKind.Question;
        return address is null ? SlipKind.Idea : SlipKind.Note;
    }

    /// <summary>The lines of a pasted text that would each make a slip: bullets and numbers fall away, empty lines too.</summary>
    public static IReadOnlyList<string> Lines(string pasted) =>
        [.. pasted.Split('\n').Select(line => Bullet().Replace(line.Trim(), "$1").Trim()).Where(line => line.Length > 0)];

    [GeneratedRegex(@"^(?:[-*+]\s+)?\[[ xX]\](?:\s+|$)")]
    private static partial Regex Box();

    [GeneratedRegex(@"(?<![\w#&/\\])#(\p{L}[\p{L}\p{N}_-]*)")]
    private static partial Regex Hashes();

    [GeneratedRegex(@"(?:(?<![\w#&/\\])#\p{L}[\p{L}\p{N}_-]*\s*)+$")]
    private static partial Regex TrailingHashes();

    [GeneratedRegex("""\bhttps?://[^\s<>"“”]+""", RegexOptions.IgnoreCase)]
    private static partial Regex Link();

    [GeneratedRegex("""\s*[<(\[]?\bhttps?://[^\s<>"“”]+[>)\]]?[ \t]*(?:[-–—:][ \t]+)?""", RegexOptions.IgnoreCase)]
    private static partial Regex AroundLink();

    // Opens with a quotation mark of any of the usual shapes and closes it again further on, or is a Markdown quotation.
    [GeneratedRegex("""^(?:“[^”]+”|"[^"]+"|„[^“”]+[“”]|«[^»]+»|‘[^\n]{3,}’(?!\w)|>\s)""")]
    private static partial Regex Quotation();

    [GeneratedRegex(@"^(?:[-*+•–]\s+|\d{1,3}[.)]\s+)(?=\S)(?!\[[ xX]\])|^(?:[-*+]\s+)?(\[[ xX]\]\s)")]
    private static partial Regex Bullet();
}
