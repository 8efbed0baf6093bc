using System.Globalization;
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
public sealed class Mbox : IFormat
{
    public string Key => "mbox";
    public string Name => "Mailbox";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".mbox"
        || (start.StartsWith("From ", StringComparison.Ordinal) && start.Contains("\nFrom: ", StringComparison.Ordinal));

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        using var stream = File.OpenRead(file.Path);
        var parser = new MimeParser(stream, MimeFormat.Mbox);
        var number = 0;
        while (!parser.IsEndOfStream)
        {
            number++;
            Found found;
            try
            {
                found = Messages.Read(parser.ParseMessage(), number, file.Path);
            }
            catch (FormatException error)
            {
                found = new Found.Unread(number, $"message {number} can't be read ({error.Message.TrimEnd('.')}).", "");
                // Where one is broken, the parser can't say where the next begins.
                number = -1;
            }
            yield return found;
            if (number < 0)
                yield break;
        }
        if (number == 0)
            yield return new Found.Unread(1, "there is no message in it.", "");
    }
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
