using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using MimeKit;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
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
    /// A sign that was put before such a sentence is taken away again (mboxrd); where a head tells the length of its body in
    /// Content-Length and a message does end there, no line within it begins another and none had a sign put before it.
    /// </summary>
    private static IEnumerable<byte[]> Letters(InFile file)
    {
        // Latin-1 keeps every byte as one character and back.
        using var reader = new StreamReader(file.Path, Encoding.Latin1, detectEncodingFromByteOrderMarks: false);
        using var ahead = File.OpenRead(file.Path);
        var letter = new StringBuilder();
        var (isIn, isBlank, isHead) = (false, true, false);
        // Where the next line begins, and up to where the body is told to go, in bytes.
        var (at, told, until) = (0L, -1L, 0L);
        var line = Line(reader);
        while (line.Length > 0)
        {
            var next = Line(reader);
            at += line.Length;
            var words = line.TrimEnd('\n').TrimEnd('\r');
            if (isBlank && at > until && Envelope().IsMatch(words) && Field().IsMatch(next))
            {
                if (isIn)
                    yield return Encoding.Latin1.GetBytes(letter.ToString());
                letter.Clear();
                (isIn, isHead, told) = (true, true, -1);
            }
            else if (isIn)
            {
                letter.Append(at > until && Escaped().IsMatch(words) ? line.AsSpan(1) : line);
                if (isHead && Told().Match(words) is { Success: true } length)
                    told = long.Parse(length.Groups[1].Value, CultureInfo.InvariantCulture);
                if (isHead && words.Length == 0)
                {
                    isHead = false;
                    until = told > 0 && Ends(ahead, at + told) ? at + told : 0;
                }
            }
            if (letter.Length > TextIn.MostBytesAtOnce)
                throw new UnreadableFileException(file.Name, "a message in it is larger than 64 MiB.");
            isBlank = words.Length == 0;
            line = next;
        }
        if (isIn)
            yield return Encoding.Latin1.GetBytes(letter.ToString());
    }

    /// <summary>A line with its end; empty behind the last.</summary>
    private static string Line(StreamReader reader)
    {
        var line = new StringBuilder();
        while (line.Length <= TextIn.MostBytesAtOnce && reader.Read() is var next and >= 0)
            if (line.Append((char)next) is var all && next == '\n')
                return all.ToString();
        return line.ToString();
    }

    /// <summary>Whether a message ends at this byte: the file does, or another begins behind it.</summary>
    private static bool Ends(FileStream file, long at)
    {
        if (at >= file.Length)
            return at - file.Length <= 2;
        var behind = new byte[9];
        file.Position = at;
        var read = file.ReadAtLeast(behind, behind.Length, throwOnEndOfStream: false);
        return Encoding.Latin1.GetString(behind, 0, read).TrimStart('\r', '\n') is var start
            && (start.Length == 0 || start.StartsWith("From ", StringComparison.Ordinal));
    }

    [GeneratedRegex(
        @"^From \S+ +(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun) [A-Z][a-z]{2} [ \d]\d \d{1,2}:\d{2}(?::\d{2})?(?: \S+)? \d{4}(?: [+-]\d{4})?\s*$"
    )]
    private static partial Regex Envelope();

    [GeneratedRegex(@"^(?:[!-9;-~]+:|>?From )")]
    private static partial Regex Field();

    [GeneratedRegex(@"^>+From ")]
    private static partial Regex Escaped();

    [GeneratedRegex(@"^Content-Length:\s*(\d{1,10})\s*$", RegexOptions.IgnoreCase)]
    private static partial Regex Told();
}

/// <summary>A mail as a message with a slip.</summary>
internal static partial class Messages
{
    /// <summary>Attached files at most that come in with one.</summary>
    private const int MostFiles = 50;

    public static Found Read(MimeMessage message, int number, string beside)
    {
        var body = new Body();
        body.Add(message.Body);
        var text = string.Join("\n\n", body.Texts.Where(t => t.Length > 0));
        var said = string.Join("\n\n", body.Texts.Select(WithoutReply).Where(t => t.Length > 0));
        var subject = (message.Subject ?? "").Trim();
        var from = message.From.Mailboxes.FirstOrDefault();
        if (text.Length == 0 && subject.Length == 0)
            return new Found.Unread(number, $"message {number} has neither subject nor text.", message.Headers.ToString() ?? "");
        var words = said.Length > 0 ? said : WordsAsMarkdown.Of(subject);
        var left = body.Left;
        if (words.Length > Slip.LongestText)
        {
            words = words[..Slip.LongestText];
            left.Doubt($"the slip holds its first {Slip.LongestText:N0} characters; the message itself holds all");
        }
        var hasDate = message.Date.Year > 1970;
        if (!hasDate)
            left.Doubt("it has no readable date; it counts as caught today");
        left.Add("further senders", Names(message.From.Mailboxes.Skip(1)));
        left.Add("copies to", Names(message.Cc.Mailboxes.Concat(message.Bcc.Mailboxes)));
        if (body.Files.Count > MostFiles)
            left.Add($"{body.Files.Count - MostFiles} of its files");
        return new Found.OfSlip(
            number,
            new FoundSlip(words)
            {
                Kind =
                    CaptureLine.Read(words, default, new Overruling(Move: false)).Kind is SlipKind.Question
                        ? SlipKind.Question
                        : SlipKind.Note,
                CaughtAt = hasDate ? message.Date : null,
                Source = new FoundSource(subject.Length > 0 ? subject : TitleOf(from is null ? "" : Name(from), ""))
                {
                    Type = SourceType.Message,
                    Creators = from is null ? "" : Name(from),
                    SenderAddress = from?.Address,
                    MessageId = message.MessageId,
                    Container = Channel(message),
                    Date = hasDate ? message.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "",
                    Details = Names(message.To.Mailboxes) is { Length: > 0 and <= Source.LongestField } to
                        ? new Dictionary<string, string> { ["recipient"] = to }
                        : [],
                    // What an answer repeats is no slip, but it stays with the message.
                    Text =
                        text == words ? ""
                        : text.Length > Source.LongestWords ? text[..Source.LongestWords]
                        : text,
                    Files = [.. body.Files.Take(MostFiles).Select((part, i) => Attached(part, i, number, beside)).OfType<FoundFile>()],
                },
            }
        )
        {
            Doubt = left.Said,
        };
    }

    /// <summary>What a message without a subject is called.</summary>
    public static string TitleOf(string sender, string channel) =>
        sender.Length > 0 ? $"Message from {sender}"
        : channel.Length > 0 ? $"Message by {channel}"
        : "Message from someone";

    /// <summary>By what way it came: the list it was sent through (RFC 2919), else mail.</summary>
    private static string Channel(MimeMessage message)
    {
        var list = (message.Headers[HeaderId.ListId] ?? "").Split('<')[0].Trim().Trim('"');
        return list.Length is > 0 and <= Source.LongestField ? list : "Mail";
    }

    private static string Name(MailboxAddress who) => who.Name is { Length: > 0 } name ? name : who.Address;

    private static string Names(IEnumerable<MailboxAddress> who) => string.Join("; ", who.Select(Name));

    /// <summary>What a message holds, part by part (RFC 2046).</summary>
    private sealed class Body
    {
        /// <summary>How deep parts may stand in one another.</summary>
        private const int Deepest = 40;

        public List<string> Texts { get; } = [];
        public List<MimePart> Files { get; } = [];
        public LeftOut Left { get; } = new();

        public void Add(MimeEntity? part, int depth = 0)
        {
            if (depth > Deepest)
            {
                Left.Add($"parts nested deeper than {Deepest}");
                return;
            }
            switch (part)
            {
                // The same in several forms: the plainest that says something (5.1.4 names the plainest first).
                case MultipartAlternative forms:
                    var before = Texts.Count;
                    foreach (var form in forms)
                    {
                        Add(form, depth + 1);
                        if (Texts.Skip(before).Any(t => t.Length > 0))
                            break;
                    }
                    foreach (var file in forms.SelectMany(Within).Where(p => p.IsAttachment || p.ContentType.IsMimeType("image", "*")))
                        if (!Files.Contains(file))
                            Files.Add(file);
                    break;
                case Multipart parts:
                    foreach (var one in parts)
                        Add(one, depth + 1);
                    break;
                case MessagePart { Message: { } forwarded }:
                    Texts.Add(Head(forwarded));
                    Add(forwarded.Body, depth + 1);
                    break;
                case TextPart { IsAttachment: false } text when text.IsHtml:
                    Texts.Add(HtmlText.Markdown(text.Text));
                    break;
                case TextPart { IsAttachment: false } text when text.ContentType.IsMimeType("text", "plain") || text.IsFlowed:
                    Texts.Add(WordsAsMarkdown.Of(Plain(text)).Trim());
                    break;
                case MimePart { ContentType: { } type } when type.MediaSubtype.EndsWith("-signature", StringComparison.OrdinalIgnoreCase):
                    Left.Add("its signature");
                    break;
                case MimePart file:
                    Files.Add(file);
                    break;
            }
        }

        private static IEnumerable<MimePart> Within(MimeEntity entity) =>
            entity is Multipart parts ? parts.SelectMany(Within)
            : entity is MimePart part and not TextPart { IsAttachment: false } ? [part]
            : [];

        /// <summary>Lines that were only folded for the way are one again (RFC 3676).</summary>
        private static string Plain(TextPart text) =>
            (text.IsFlowed ? new MimeKit.Text.FlowedToText().Convert(text.Text) : text.Text).ReplaceLineEndings("\n");

        private static string Head(MimeMessage forwarded) =>
            WordsAsMarkdown.Of(
                string.Join(
                    ", ",
                    new[]
                    {
                        forwarded.Subject?.Trim() ?? "",
                        Names(forwarded.From.Mailboxes),
                        forwarded.Date.Year > 1970 ? forwarded.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "",
                    }.Where(said => said.Length > 0)
                )
            );
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
        if (
            repeated > 0
            && lines[(repeated + 1)..].All(line => line.StartsWith("\\>", StringComparison.Ordinal) || line.Trim().Length == 0)
        )
            lines = lines[..repeated];
        return string.Join('\n', lines).Trim();
    }

    [GeneratedRegex(@"^On .{4,120} wrote:\s*$")]
    private static partial Regex Wrote();
}
