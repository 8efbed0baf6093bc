using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>A message as it comes in.</summary>
/// <param name="Person">Who wrote, by name.</param>
/// <param name="Address">Their mail address.</param>
/// <param name="At">When; now when left out.</param>
/// <param name="Way">Where it came.</param>
/// <param name="About">What it answers: title or address of a release, its number, or the subject of a mail.</param>
/// <param name="Text">As written, as Markdown.</param>
/// <param name="Reach">How many stand behind it.</param>
/// <param name="Key">By what it is known again.</param>
public sealed record NewMessage(
    string? Person,
    string? Text,
    DateTimeOffset? At = null,
    string? Address = null,
    string? Way = null,
    string? About = null,
    int? Reach = null,
    string? Key = null
);

/// <summary>What came in.</summary>
/// <param name="Messages">New messages.</param>
/// <param name="There">Messages that were there already.</param>
/// <param name="Wishes">Wishes found in the new ones.</param>
/// <param name="Asks">Asks that are new with them.</param>
/// <param name="Unread">Places that could not be read, with the reason.</param>
public sealed record MessagesIn(int Messages, int There, int Wishes, int Asks, IReadOnlyList<string> Unread);

/// <summary>A message as it is read.</summary>
/// <param name="About">The title of the release it answers; empty for none.</param>
/// <param name="FromPerson">How many messages there are of this person.</param>
public sealed record MessageShown(Message Message, string About, int FromPerson, IReadOnlyList<WishKept> Wishes)
{
    /// <summary>Its text as it reads.</summary>
    public string Html => Reading.Html(Message.Text);
}

/// <summary>Messages, the latest first.</summary>
/// <param name="Total">How many meet what was asked for.</param>
/// <param name="Hidden">How many are hidden by the writer's own words.</param>
/// <param name="All">How many there are at all.</param>
public sealed record MessagesShown(IReadOnlyList<MessageShown> Messages, int Total, int Hidden, int All, IReadOnlyList<string> HiddenWords);

/// <summary>Which messages are asked for.</summary>
/// <param name="Query">Words that stand in them.</param>
/// <param name="Person">Of one person, as <see cref="Message.PersonKey"/> has it.</param>
/// <param name="Open">Only those that are not answered yet.</param>
/// <param name="Skip">How many to pass over.</param>
public sealed record MessagesAsked(
    string? Query = null,
    string? Person = null,
    ReleaseNumber? Release = null,
    AskNumber? Ask = null,
    bool Open = false,
    int Skip = 0
);

/// <summary>A change to what is said of a message; what is not set stays.</summary>
/// <param name="Answered">Whether it is answered.</param>
/// <param name="Answer">What was answered, as Markdown.</param>
/// <param name="Release">The release it answers; 0 for none.</param>
public sealed record MessageChange(int? Version, bool? Answered = null, string? Answer = null, int? Release = null);

/// <summary>A word whose messages are not shown.</summary>
public sealed record HiddenWord(string? Word);

/// <summary>Keeps what readers wrote.</summary>
public sealed class MessageStore(PapersFile papers, AskShelf shelf)
{
    public const int MostAtOnce = 50_000,
        Page = 50;

    private const int LongestKey = 500,
        LongestWord = 60,
        MostWords = 500;

    /// <summary>Takes messages in, each once, and places their wishes.</summary>
    public Done<MessagesIn> BringIn(IReadOnlyList<NewMessage> messages, Once once, IReadOnlyList<string>? unread = null)
    {
        if (messages.Count > MostAtOnce)
            throw new BadInputException("messages", $"At most {MostAtOnce:N0} messages come in at once.");
        var now = papers.Time.GetUtcNow();
        var read = Read(messages, now);
        return shelf.Run(
            "brought messages in",
            once,
            change =>
            {
                var db = change.Db;
                var (fresh, wishes, asks) = Put(db, read);
                change.What = fresh == 1 ? "brought in 1 message" : $"brought in {fresh} messages";
                return new MessagesIn(fresh, read.Count - fresh, wishes, asks, unread ?? []);
            }
        );
    }

    /// <summary>Whether all of them are known already, so that to bring them in would only be a step more to undo.</summary>
    public bool AllThere(IReadOnlyList<NewMessage> messages)
    {
        var now = papers.Time.GetUtcNow();
        var keys = messages.Select(m => Checked(m, now).Message.Key).ToList();
        return papers.Read(db =>
            db.Query<string>(
                    "SELECT key FROM message WHERE key IN (SELECT value FROM json_each(@keys))",
                    new { keys = System.Text.Json.JsonSerializer.Serialize(keys) }
                )
                .ToHashSet()
                .IsSupersetOf(keys)
        );
    }

    /// <summary>Takes one message in as a part of another command.</summary>
    internal void Take(Change change, NewMessage said) => Put(change.Db, Read([said], change.Now));

    private sealed record ReadMessage(Message Message, string About, IReadOnlyList<Wish> Wishes);

    /// <summary>Messages with their wishes, which are looked for before the papers are held, and on all processors.</summary>
    private static List<ReadMessage> Read(IReadOnlyList<NewMessage> messages, DateTimeOffset now)
    {
        var found = messages
            .Select(m => Checked(m, now))
            .ToList()
            .AsParallel()
            .AsOrdered()
            .Select(m => new ReadMessage(m.Message, m.About, Wishes.In(m.Message.Text)))
            .ToList();
        var read = new Queue<Wish>(AskShelf.Read([.. found.SelectMany(m => m.Wishes)]));
        return [.. found.Select(m => m with { Wishes = [.. m.Wishes.Select(_ => read.Dequeue())] })];
    }

    private (int Fresh, int Wishes, int Asks) Put(SqliteConnection db, IReadOnlyList<ReadMessage> read)
    {
        var known = db.Query<string>("SELECT key FROM message").ToHashSet();
        var releases = new Lazy<IReadOnlyList<Release>>(() => ReleaseRows.List(db, "true", null));
        var fresh = read.OrderBy(r => r.Message.At).Where(r => known.Add(r.Message.Key)).ToList();
        var wishes = fresh.SelectMany((r, i) => r.Wishes.Select(wish => (i, wish))).ToList();
        var asks = shelf.Place(
            db,
            wishes,
            () =>
                MessageRows.Put(
                    db,
                    [.. fresh.Select(r => r.Message with { Release = r.About.Length == 0 ? null : ReleaseOf(r.About, releases.Value) })]
                )
        );
        return (fresh.Count, wishes.Count, asks);
    }

    private static (Message Message, string About) Checked(NewMessage said, DateTimeOffset now)
    {
        var person = Check.Length("person", said.Person?.Trim(), Message.LongestPerson);
        var address = Check.Length("address", said.Address?.Trim(), Message.LongestPerson);
        var text = Check.Text("text", said.Text, Message.LongestText);
        var at = said.At ?? now;
        if (said.Reach is < 1 or > Message.MostReach)
            throw new BadInputException("reach", "The reach of a message is how many stand behind it: 1 or more.");
        return (
            new Message
            {
                Number = MessageNumber.Of(0),
                Person = person,
                Address = address,
                At = at,
                Way = Check.Length("way", said.Way?.Trim(), Message.LongestWay),
                Text = text,
                Reach = said.Reach ?? 1,
                Key = Check.Length("key", said.Key, LongestKey) is { Length: > 0 } key
                    ? key
                    : Message.Fingerprint(person, address, said.At ?? default, text),
            },
            said.About?.Trim() ?? ""
        );
    }

    /// <summary>The release a message says it answers: by its number, its address, or its title, which may stand in a subject.</summary>
    internal static ReleaseNumber? ReleaseOf(string about, IReadOnlyList<Release> releases)
    {
        var said = about.StartsWith("R ", StringComparison.OrdinalIgnoreCase) ? about[2..] : about;
        if (ReleaseNumber.TryParse(said, out var number))
            return releases.FirstOrDefault(r => r.Number == number)?.Number;
        return (
            releases.FirstOrDefault(r => r.Address.Length > 0 && r.Address.Equals(about, StringComparison.OrdinalIgnoreCase))
            ?? releases
                .Where(r => about.Contains(r.Title, StringComparison.OrdinalIgnoreCase))
                .OrderByDescending(r => r.Title.Length)
                .FirstOrDefault()
        )?.Number;
    }

    public MessagesShown List(MessagesAsked asked) =>
        papers.Read(db =>
        {
            var words = MessageRows.HiddenWords(db);
            var all = MessageRows.List(
                db,
                Where(asked),
                new
                {
                    match = Match(asked.Query),
                    asked.Release,
                    asked.Ask,
                }
            );
            var shown = all.Where(m => !IsHidden(m, words)).ToList();
            var people = db.Query<(int, string, string)>("SELECT number, person, address FROM message")
                .CountBy(p => Message.KeyOf(p.Item2, p.Item3, MessageNumber.Of(p.Item1)))
                .ToDictionary();
            var met = asked.Person is { } person ? shown.Where(m => m.PersonKey == person).ToList() : shown;
            var page = met.Skip(Math.Max(0, asked.Skip)).Take(Page).ToList();
            var wishes = AskRows
                .Wishes(
                    db,
                    "message IN (SELECT value FROM json_each(@numbers))",
                    new { numbers = Mapping.List(page.Select(m => m.Number.Value)) }
                )
                .ToLookup(w => w.Message);
            var titles = db.Query<(int, string)>("SELECT number, title FROM release").ToDictionary(r => r.Item1, r => r.Item2);
            return new MessagesShown(
                [
                    .. page.Select(m => new MessageShown(
                        m,
                        m.Release is { } r ? titles[r.Value] : "",
                        people.GetValueOrDefault(m.PersonKey, 1),
                        [.. wishes[m.Number]]
                    )),
                ],
                met.Count,
                all.Count - shown.Count,
                people.Values.Sum(),
                words
            );
        });

    private static string Where(MessagesAsked asked) =>
        string.Join(
            " AND ",
            (
                (string?[])
                    [
                        "true",
                        Match(asked.Query) is null
                            ? null
                            : "m.number IN (SELECT rowid FROM message_words WHERE message_words MATCH @match)",
                        asked.Release is null ? null : "m.release = @Release",
                        asked.Ask is null ? null : "m.number IN (SELECT message FROM wish WHERE ask = @Ask)",
                        asked.Open ? "m.answered_at IS NULL" : null,
                    ]
            ).OfType<string>()
        );

    /// <summary>All of the words typed, the last as the beginning of one.</summary>
    private static string? Match(string? query)
    {
        var words = Stems.Of(query ?? "").Select(s => s.Word.Replace("\"", "", StringComparison.Ordinal)).ToList();
        return words.Count == 0 ? null : string.Join(" AND ", words.Select((w, i) => i == words.Count - 1 ? $"\"{w}\"*" : $"\"{w}\""));
    }

    internal static bool IsHidden(Message message, IReadOnlyList<string> words) =>
        words.Any(w => message.Text.Contains(w, StringComparison.OrdinalIgnoreCase));

    public Done<Message> Edit(MessageNumber number, MessageChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var answer = edit.Answer is null ? null : Check.Length("answer", edit.Answer, Message.LongestText);
        return papers.Run(
            $"changed message {number}",
            once,
            change =>
            {
                var message = MessageRows.Get(change.Db, number);
                if (message.Version != based)
                    throw new StaleException($"message {number}", message);
                var release = edit.Release is null or 0
                    ? null
                    : (ReleaseNumber?)ReleaseRows.Get(change.Db, ReleaseNumber.Of(edit.Release.Value)).Number;
                change.Db.Execute(
                    "UPDATE message SET answered_at = @at, answer = @answer, release = @release, version = version + 1 "
                        + "WHERE number = @number",
                    new
                    {
                        number,
                        at = edit.Answered switch
                        {
                            true => message.AnsweredAt ?? change.Now,
                            false => null,
                            null => message.AnsweredAt,
                        },
                        answer = answer ?? message.Answer,
                        release = edit.Release is null ? message.Release : release,
                    }
                );
                if (edit.Answered is { } answered)
                    change.What = answered ? $"answered message {number}" : $"message {number} is to be answered";
                return MessageRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>Takes a message away, with its wishes.</summary>
    public Done<Message> Remove(MessageNumber number, Once once) =>
        papers.Run(
            $"took message {number} away",
            once,
            change =>
            {
                var message = MessageRows.Get(change.Db, number);
                MessageRows.Remove(change.Db, number);
                AskRows.Tidy(change.Db);
                return message;
            }
        );

    /// <summary>Hides messages with a word; they stay, and count in no ask.</summary>
    public Done<IReadOnlyList<string>> Hide(HiddenWord made, Once once)
    {
        var word = Check.Text("word", made.Word, LongestWord);
        return papers.Run(
            $"hides messages with “{word}”",
            once,
            change =>
            {
                if (MessageRows.HiddenWords(change.Db).Count >= MostWords)
                    throw new ClashException($"There are {MostWords} words already.");
                MessageRows.PutHiddenWord(change.Db, word);
                return MessageRows.HiddenWords(change.Db);
            }
        );
    }

    /// <summary>Shows messages with a word again.</summary>
    public Done<IReadOnlyList<string>> Unhide(HiddenWord gone, Once once)
    {
        var word = Check.Text("word", gone.Word, LongestWord);
        return papers.Run(
            $"shows messages with “{word}” again",
            once,
            change =>
            {
                if (change.Db.Execute("DELETE FROM hidden_word WHERE word = @word", new { word }) == 0)
                    throw new NotThereException($"the hidden word “{word}”");
                return MessageRows.HiddenWords(change.Db);
            }
        );
    }
}
