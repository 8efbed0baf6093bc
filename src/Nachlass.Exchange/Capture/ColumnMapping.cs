using System.Globalization;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Capture;

/// <summary>What a column of a table means for a slip.</summary>
public enum ColumnRole
{
    Skip,
    Text,
    Title,
    Comment,
    Topics,
    Kind,
    Date,
    Pull,
    Effort,
    Locator,
    Source,
    Creators,
    Address,
    Sender,
    Channel,
    About,
    Reach,
    SenderAddress,
}

/// <summary>What the columns of a table mean. Each table with the same columns is read by it, so it is remembered by their names.</summary>
public sealed record ColumnMapping(IReadOnlyDictionary<string, ColumnRole> Roles)
{
    private static readonly (ColumnRole Role, string[] Names)[] Usual =
    [
        (ColumnRole.Text, ["text", "highlight", "quote", "quotation", "note", "idea", "content", "body", "message", "passage", "entry"]),
        (ColumnRole.Title, ["title", "heading", "subject", "name"]),
        (ColumnRole.Comment, ["comment", "comments", "remark", "annotation", "my note"]),
        (ColumnRole.Topics, ["topics", "topic", "tags", "tag", "labels", "keywords", "category", "categories"]),
        (ColumnRole.Kind, ["kind", "type"]),
        (ColumnRole.Date, ["date", "caught", "created", "created at", "added", "time", "timestamp", "sent", "received", "day"]),
        (ColumnRole.Pull, ["pull"]),
        (ColumnRole.Effort, ["effort"]),
        (ColumnRole.Locator, ["locator", "page", "location", "where", "position"]),
        (ColumnRole.Source, ["source", "book", "book title", "source title", "work"]),
        (ColumnRole.Creators, ["creators", "creator", "author", "authors", "book author"]),
        (ColumnRole.Sender, ["from", "sender", "reader", "who", "name of sender", "person"]),
        (ColumnRole.Channel, ["channel", "via", "medium", "came by", "received by", "way"]),
        (ColumnRole.Address, ["address", "url", "link", "web address"]),
        (ColumnRole.About, ["about", "answers", "in reply to", "release", "on"]),
        (ColumnRole.Reach, ["reach", "likes", "agreed", "votes"]),
        (ColumnRole.SenderAddress, ["email", "e-mail", "mail", "mail address"]),
    ];

    /// <summary>Guesses from the names of the columns; where none is called like a text, the first that means nothing else is it.</summary>
    public static ColumnMapping Guess(IReadOnlyList<string> columns)
    {
        var roles = new Dictionary<string, ColumnRole>();
        foreach (var column in columns)
        {
            var name = column.Trim().Replace('_', ' ').ToLowerInvariant();
            var role = Usual.FirstOrDefault(u => u.Names.Contains(name)).Role;
            var isTaken = role != ColumnRole.Skip && roles.ContainsValue(role);
            // Beside a highlight, a note is what the reader said to it.
            roles[column] =
                !isTaken ? role
                : role == ColumnRole.Text && !roles.ContainsValue(ColumnRole.Comment) ? ColumnRole.Comment
                : ColumnRole.Skip;
        }
        if (!roles.ContainsValue(ColumnRole.Text))
        {
            var column =
                columns.FirstOrDefault(c => roles[c] == ColumnRole.Comment)
                ?? columns.FirstOrDefault(c => roles[c] == ColumnRole.Title)
                ?? columns.FirstOrDefault(c => roles[c] == ColumnRole.Skip);
            if (column is not null)
                roles[column] = ColumnRole.Text;
        }
        return new ColumnMapping(roles);
    }

    /// <summary>The mapping of a table with these columns: the one said for it, else guessed.</summary>
    public static ColumnMapping For(IReadOnlyList<string> columns, IReadOnlyDictionary<string, ColumnMapping>? said) =>
        said?.GetValueOrDefault(ShapeOf(columns)) ?? Guess(columns);

    /// <summary>By what a table is known again.</summary>
    public static string ShapeOf(IEnumerable<string> columns) =>
        string.Join('\t', columns.Select(c => c.Trim().ToLowerInvariant()).Order(StringComparer.Ordinal));

    /// <summary>A row as a slip.</summary>
    /// <param name="line">Its line in the file.</param>
    /// <param name="raw">The row as it stands there.</param>
    /// <param name="values">Values by column.</param>
    public Found Row(int line, string raw, Func<string, string> values)
    {
        var text = All(ColumnRole.Text);
        var (title, comment) = (One(ColumnRole.Title), All(ColumnRole.Comment));
        if (text.Length == 0 && comment.Length == 0 && title.Length == 0)
            return new Found.Unread(line, "there is no text in it.", raw);
        string? doubt = null;
        var (sourceTitle, creators, address) = (One(ColumnRole.Source), One(ColumnRole.Creators), One(ColumnRole.Address));
        var kind = Kind(One(ColumnRole.Kind), ref doubt);
        var (sender, channel) = (One(ColumnRole.Sender), One(ColumnRole.Channel));
        var hasSource = sourceTitle.Length > 0 || address.Length > 0;
        if (kind is null && hasSource && text.Length > 0)
            kind = SlipKind.Quote;
        var words = string.Join("\n\n", ((string[])[title.Length > 0 ? $"**{title}**" : "", text, comment]).Where(part => part.Length > 0));
        if (words.Length > Slip.LongestText)
            return new Found.Unread(
                line,
                $"its text is longer than {Slip.LongestText:N0} characters.",
                raw.Length > 200 ? raw[..200] + "…" : raw
            );
        if (One(ColumnRole.Pull) is { Length: > 0 } pulled && Step(pulled) is null)
            return new Found.Unread(line, $"its pull is “{pulled}”; it goes from 1 to 5.", raw);
        if (One(ColumnRole.Effort) is { Length: > 0 } tried && Step(tried) is null)
            return new Found.Unread(line, $"its effort is “{tried}”; it goes from 1 to 5.", raw);
        DateTimeOffset? caught = null;
        if (One(ColumnRole.Date) is { Length: > 0 } date)
        {
            caught = Instant(date);
            if (caught is null)
                doubt ??= $"its date, “{date}”, was not understood; it counts as caught today.";
        }
        if (address.Length > 0 && !(Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https"))
        {
            doubt ??= $"its address, “{address}”, is none of the web and was left out.";
            address = "";
            hasSource = sourceTitle.Length > 0;
        }
        return new Found.OfSlip(
            line,
            new FoundSlip(words)
            {
                Kind = kind ?? CaptureLine.Read(words, default, new Overruling(Move: false)).Kind,
                Topics = Topics(One(ColumnRole.Topics)),
                Pull = Step(One(ColumnRole.Pull)),
                Effort = Step(One(ColumnRole.Effort)),
                Locator = ReadLocator(One(ColumnRole.Locator)),
                CaughtAt = caught,
                About = One(ColumnRole.About) is { Length: > 0 } about ? about : null,
                Reach = int.TryParse(One(ColumnRole.Reach), NumberStyles.None, CultureInfo.InvariantCulture, out var reach) ? reach : null,
                Source =
                    hasSource
                        ? new FoundSource(sourceTitle.Length > 0 ? sourceTitle : address)
                        {
                            Creators = creators,
                            Address = address,
                            Type = address.Length > 0 ? SourceType.Page : SourceType.Book,
                        }
                    : sender.Length + channel.Length > 0
                        ? Message(sender, channel, caught) with
                        {
                            SenderAddress = One(ColumnRole.SenderAddress),
                        }
                    : null,
            }
        )
        {
            Doubt = doubt,
        };

        string Value(string column) => values(column).ReplaceLineEndings("\n").Trim();
        string One(ColumnRole role) => Roles.FirstOrDefault(r => r.Value == role) is { Key: { } column } ? Value(column) : "";
        string All(ColumnRole role) =>
            string.Join("\n\n", Roles.Where(r => r.Value == role).Select(r => Value(r.Key)).Where(v => v.Length > 0));
    }

    /// <summary>What somebody wrote, as a source of type message: who, by what way and when.</summary>
    private static FoundSource Message(string sender, string channel, DateTimeOffset? sent) =>
        new(Messages.TitleOf(sender, channel))
        {
            Type = SourceType.Message,
            Creators = sender,
            Container = channel,
            Date = sent is { } at ? at.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "",
        };

    /// <summary>Topics between semicolons or commas, with or without their hash.</summary>
    internal static IReadOnlyList<string> Topics(string typed) =>
        [
            .. typed
                .Split(
                    typed.Contains(';', StringComparison.Ordinal) ? ';' : ',',
                    StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries
                )
                .Select(t => t.TrimStart('#'))
                .Where(t => t.Length > 0),
        ];

    private static SlipKind? Kind(string typed, ref string? doubt)
    {
        if (typed.Length == 0)
            return null;
        if (Enum.TryParse<SlipKind>(typed, ignoreCase: true, out var kind) && Enum.IsDefined(kind))
            return kind;
        switch (typed.ToLowerInvariant())
        {
            case "highlight" or "quotation":
                return SlipKind.Quote;
            case "comment" or "annotation" or "remark":
                return SlipKind.Note;
            case "request" or "wish":
                return SlipKind.Ask;
            default:
                doubt = $"its kind, “{typed}”, is none of ours; it was read from the text.";
                return null;
        }
    }

    private static int? Step(string typed) =>
        int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out var step) && step is >= 1 and <= 5 ? step : null;

    internal static string ReadLocator(string typed)
    {
        try
        {
            return Locator.Read(typed).Text;
        }
        catch (BadInputException)
        {
            return typed;
        }
    }

    private static readonly string[] Days =
    [
        "yyyy-MM-dd",
        "d.M.yyyy",
        "d/M/yyyy",
        "yyyy/M/d",
        "d MMM yyyy",
        "d MMMM yyyy",
        "MMMM d, yyyy",
        "MMM d, yyyy",
        "yyyyMMdd",
    ];

    /// <summary>A moment as tables write it: ISO 8601, or a day as people do, the day before the month.</summary>
    internal static DateTimeOffset? Instant(string typed)
    {
        if (DateTimeOffset.TryParseExact(typed, Days, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var day))
            return day.AddHours(12);
        if (
            typed.Length >= 16
            && char.IsAsciiDigit(typed[3])
            && DateTimeOffset.TryParse(typed, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var instant)
        )
            return instant;
        return null;
    }
}
