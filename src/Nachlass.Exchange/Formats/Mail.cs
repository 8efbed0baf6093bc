using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using MimeKit;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>A saved mail (RFC 5322): a source of type message, a slip with what was written, and its attachments.</summary>
public sealed class Mail : IFormat
{
    public string Key => "eml";
    public string Name => "Mail";

    public bool Recognises(InFile file, string start) => file.Extension is ".eml";

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        TextIn.NotLarge(file);
        using var stream = File.OpenRead(file.Path);
        MimeMessage message;
        try
        {
            message = MimeMessage.Load(stream);
        }
        catch (FormatException)
        {
            throw new UnreadableFileException(file.Name, "it is no mail: it has no readable head.");
        }
        yield return Messages.Read(message, 1, file.Path);
    }
}

/// <summary>Many mails in one file (RFC 4155).</summary>
public sealed partial class Mbox : IFormat
{
    public string Key => "mbox";
    public string Name => "Mailbox";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".mbox"
        || (start.StartsWith("From ", StringComparison.Ordinal) && start.Contains("\nFrom: ", StringComparison.Ordinal));

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var number = 0;
        foreach (var letter in Letters(file))
        {
            number++;
            yield return One(letter, number, file.Path);
        }
        if (number == 0)
            yield return new Found.Unread(1, "there is no message in it.", "");
    }

    /// <summary>A message that can't be read does not keep the later ones out.</summary>
    private static Found One(byte[] letter, int number, string beside)
    {
        try
        {
            using var stream = new MemoryStream(letter);
            return Messages.Read(MimeMessage.Load(stream), number, beside);
        }
        catch (FormatException error)
        {
            return new Found.Unread(number, $"message {number} can't be read ({error.Message.TrimEnd('.')}).", "");
        }
    }

    /// <summary>
    /// The messages of a file, byte by byte as they were. One begins at a line "From ", an address and a date (RFC 4155, appendix A), at
    /// the beginning or behind an empty line, with a field of a head below it; any other line that begins so is somebody's sentence.
    /// A sign that was put before such a sentence is taken away again (mboxrd).
    /// </summary>
    private static IEnumerable<byte[]> Letters(InFile file)
    {
        // Latin-1 keeps every byte as one character and back.
        using var reader = new StreamReader(file.Path, Encoding.Latin1, detectEncodingFromByteOrderMarks: false);
        var letter = new StringBuilder();
        var (isIn, isBlank) = (false, true);
        var line = reader.ReadLine();
        while (line is not null)
        {
            var next = reader.ReadLine();
            if (isBlank && Envelope().IsMatch(line) && next is not null && Field().IsMatch(next))
            {
                if (isIn)
                    yield return Encoding.Latin1.GetBytes(letter.ToString());
                letter.Clear();
                isIn = true;
            }
            else if (isIn)
                letter.Append(Escaped().IsMatch(line) ? line.AsSpan(1) : line).Append('\n');
            if (letter.Length > TextIn.MostBytesAtOnce)
                throw new UnreadableFileException(file.Name, "a message in it is larger than 64 MiB.");
            isBlank = line.Length == 0;
            line = next;
        }
        if (isIn)
            yield return Encoding.Latin1.GetBytes(letter.ToString());
    }

    [GeneratedRegex(
        @"^From \S+ +(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun) [A-Z][a-z]{2} [ \d]\d \d{1,2}:\d{2}(?::\d{2})?(?: \S+)? \d{4}(?: [+-]\d{4})?\s*$"
    )]
    private static partial Regex Envelope();

    [GeneratedRegex(@"^(?:[!-9;-~]+:|>?From )")]
    private static partial Regex Field();

    [GeneratedRegex(@"^>+From ")]
    private static partial Regex Escaped();
}

internal static partial class Messages
{
    public static Found Read(MimeMessage message, int number, string beside)
    {
        var text =
            message.TextBody is { } plain ? plain
            : message.HtmlBody is { } html ? HtmlText.Markdown(html)
            : "";
        text = WithoutReply(text.ReplaceLineEndings("\n")).Trim();
        var subject = (message.Subject ?? "").Trim();
        var from = message.From.Mailboxes.FirstOrDefault();
        if (text.Length == 0 && subject.Length == 0)
            return new Found.Unread(number, $"message {number} has neither subject nor text.", message.Headers.ToString() ?? "");
        var words = text.Length > 0 ? text : subject;
        if (words.Length > Slip.LongestText)
            words = words[..Slip.LongestText];
        var hasDate = message.Date.Year > 1970;
        return new Found.OfSlip(
            number,
            new FoundSlip(words)
            {
                Kind =
                    CaptureLine.Read(words, default, new Overruling(Move: false)).Kind is SlipKind.Question
                        ? SlipKind.Question
                        : SlipKind.Note,
                CaughtAt = hasDate ? message.Date : null,
                Source = new FoundSource(subject.Length > 0 ? subject : $"Message from {from?.Name ?? from?.Address ?? "someone"}")
                {
                    Type = SourceType.Message,
                    Creators = from?.Name is { Length: > 0 } name ? name : from?.Address ?? "",
                    Date = hasDate ? message.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "",
                    Details = message.To.Mailboxes.FirstOrDefault() is { } to
                        ? new Dictionary<string, string> { ["recipient"] = to.Name is { Length: > 0 } named ? named : to.Address }
                        : [],
                    Files =
                    [
                        .. message
                            .Attachments.OfType<MimePart>()
                            .Take(50)
                            .Select((part, i) => Attached(part, i, number, beside))
                            .OfType<FoundFile>(),
                    ],
                },
            }
        )
        {
            Doubt = hasDate ? null : "it has no readable date; it counts as caught today.",
        };
    }

    private static FoundFile? Attached(MimePart part, int index, int number, string beside)
    {
        if (part.Content is null)
            return null;
        var path = $"{beside}.{number}.{index}";
        if (!File.Exists(path))
            using (var kept = File.Create(path))
                part.Content.DecodeTo(kept);
        return new FoundFile(Path.GetFileName((part.FileName ?? $"attachment {index + 1}").Replace('\\', '/')), path);
    }

    /// <summary>Without what an answer repeats of the message before it.</summary>
    private static string WithoutReply(string text)
    {
        var lines = text.Split('\n').ToList();
        var repeated = lines.FindIndex(line => Wrote().IsMatch(line));
        if (repeated > 0 && lines[(repeated + 1)..].All(line => line.StartsWith('>') || line.Trim().Length == 0))
            lines = lines[..repeated];
        return string.Join('\n', lines);
    }

    [GeneratedRegex(@"^On .{4,120} wrote:\s*$")]
    private static partial Regex Wrote();
}
