using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>A wish with who wished it.</summary>
public sealed record WishShown(
    WishNumber Number,
    MessageNumber Message,
    string Text,
    string Person,
    string PersonKey,
    DateTimeOffset At,
    bool Answered,
    bool ByHand
);

/// <summary>A slip that would answer an ask.</summary>
public sealed record AskIdea(SlipNumber Slip, string Title);

/// <summary>A release that answers an ask already.</summary>
/// <param name="Sentence">What it says of it.</param>
public sealed record AskAnswer(ReleaseNumber Release, PieceNumber Piece, string Title, string Address, string Sentence);

/// <summary>A piece that was made of an ask.</summary>
/// <param name="Out">The release by which it went out last; null while it is in hand.</param>
public sealed record AskPiece(PieceNumber Piece, string Title, string Stage, AskAnswer? Out);

/// <summary>What readers want.</summary>
/// <param name="Ask">In the writer's words, else the wish that stands for all.</param>
/// <param name="People">How many people wished it.</param>
/// <param name="Weight">Each person once, halving with age, more with reach; see <see cref="AskWeight"/>.</param>
/// <param name="Messages">The messages it stands in.</param>
/// <param name="AnsweredBy">Releases in which it was answered, the likeliest first.</param>
/// <param name="Ideas">Slips that would answer it: the one made or chosen for it, else those that come nearest.</param>
/// <param name="Idea">The slip that was made of it, or chosen for it; null while there is none.</param>
/// <param name="ToAnswer">How many of its messages are not answered yet.</param>
public sealed record AskShown(
    AskNumber Number,
    string Ask,
    int People,
    double Weight,
    DateTimeOffset Last,
    IReadOnlyList<MessageNumber> Messages,
    IReadOnlyList<TopicMark> Topics,
    IReadOnlyList<AskAnswer> AnsweredBy,
    IReadOnlyList<AskIdea> Ideas,
    SlipNumber? Idea,
    AskPiece? Piece,
    IReadOnlyList<WishShown> Wishes,
    int ToAnswer,
    bool IsPutAway,
    string Title,
    int Version
);

/// <summary>A change to an ask; what is not set stays.</summary>
/// <param name="Title">In the writer's own words; empty to let a wish stand for it.</param>
/// <param name="PutAway">Whether it is out of sight.</param>
/// <param name="Idea">The number of the slip that would answer it, so that who asks counts for that; 0 for none.</param>
public sealed record AskChange(int? Version, string? Title = null, bool? PutAway = null, int? Idea = null);

/// <summary>Where a wish belongs.</summary>
/// <param name="Ask">The ask; a new one when left out.</param>
/// <param name="Nothing">Whether it asks nothing.</param>
public sealed record WishPlace(AskNumber? Ask = null, bool Nothing = false);

/// <summary>An ask that is another's.</summary>
public sealed record AskJoined(AskNumber? Into);

/// <summary>A piece made of an ask.</summary>
public sealed record AskPieceAsked(string? Format = null, string? Title = null);

/// <summary>Finds and keeps what readers ask.</summary>
public sealed class AskStore
{
    private readonly PapersFile papers;
    private readonly AskShelf shelf;
    private readonly Nearby nearby;
    private readonly WorthStore worth;

    public AskStore(PapersFile papers, AskShelf shelf, Nearby nearby, WorthStore worth)
    {
        (this.papers, this.shelf, this.nearby, this.worth) = (papers, shelf, nearby, worth);
        papers.Written += _ => Interlocked.Increment(ref written);
    }

    private long written;

    /// <summary>The list as it was worked out, and from what.</summary>
    private sealed record Listed(long Written, bool IsFilled, DateOnly Day, IReadOnlyList<AskShown> Asks);

    private Listed? listed;

    public const int LongestTitle = 300;

    private const int MostAnswers = 3,
        MostIdeas = 3,
        MostHeard = 12,
        MostRead = 40;

    /// <summary>How near a slip has to come to be named as one that would answer, by <see cref="Nearby"/>; ours.</summary>
    private const double IdeaFloor = 0.12;

    /// <summary>How much of an ask's words a passage has to have to answer it; ours.</summary>
    private const double AnswerFloor = 0.72;

    /// <summary>All asks, the weightiest first.</summary>
    /// <param name="putAway">Whether those that are put away are asked for.</param>
    public IReadOnlyList<AskShown> List(bool putAway = false)
    {
        if (putAway)
            return papers.Read(db => Shown(db, a => a.IsPutAway));
        // Much else is made from it, and it holds until something is written.
        var now = (Interlocked.Read(ref written), nearby.IsFilled, papers.Today);
        if (listed is { } there && (there.Written, there.IsFilled, there.Day) == now)
            return there.Asks;
        var asks = papers.Read(db => Shown(db, a => !a.IsPutAway));
        listed = new Listed(now.Item1, now.IsFilled, now.Today, asks);
        return asks;
    }

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public AskShown Get(AskNumber number) =>
        papers.Read(db =>
        {
            AskRows.Get(db, number);
            return Shown(db, a => a.Number == number, evenEmpty: true).Single();
        });

    private IReadOnlyList<AskShown> Shown(SqliteConnection db, Func<AskKept, bool> which, bool evenEmpty = false)
    {
        var hidden = MessageRows.HiddenWords(db);
        var messages = MessageRows
            .List(db, "m.number IN (SELECT message FROM wish WHERE ask IS NOT NULL)", null)
            .Where(m => !MessageStore.IsHidden(m, hidden))
            .ToDictionary(m => m.Number);
        var wishes = AskRows.Wishes(db, "ask IS NOT NULL").Where(w => messages.ContainsKey(w.Message)).ToLookup(w => w.Ask!.Value);
        var names = TopicNames.Of(db);
        var topics = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number.Value);
        var releases = ReleaseRows.List(db, "true", null).ToDictionary(r => r.Number);
        var today = papers.Today;
        return
        [
            .. AskRows
                .All(db)
                .Where(which)
                .Where(a => evenEmpty || wishes.Contains(a.Number))
                .Select(ask =>
                {
                    var own = wishes[ask.Number].Select(w => (Kept: w, Message: messages[w.Message])).ToList();
                    // Of a wish of hundreds the latest stand for all.
                    var heard = own.OrderByDescending(w => w.Message.At).Take(MostHeard).ToList();
                    var read = heard.Select(w => Wishes.Named(w.Message.Text, w.Kept.Text)).ToList();
                    var title =
                        ask.Title.Length > 0 ? ask.Title
                        : read.Count == 0 ? ""
                        : AskWeight.Title(read, (a, b) => shelf.Likeness(db, a, b));
                    var people = own.Select(w => w.Message.PersonKey).Distinct().Count();
                    var words = string.Join("\n", heard.Select(w => w.Kept.Text).Prepend(title));
                    return new AskShown(
                        ask.Number,
                        title,
                        people,
                        Math.Round(
                            AskWeight.Of(
                                own.Select(w => (w.Message.PersonKey, today.DayNumber - Day(w.Message.At).DayNumber, w.Message.Reach))
                            ),
                            2
                        ),
                        own.Count == 0 ? default : own.Max(w => w.Message.At),
                        [.. own.Select(w => w.Message.Number).Distinct()],
                        [.. names.NamedIn(words).Distinct().Select(t => topics[t])],
                        read.Count == 0 ? [] : Answers(db, read, releases),
                        Ideas(db, ask, words),
                        ask.Slip,
                        ask.Piece is { } piece ? PieceOf(db, piece, releases) : null,
                        [
                            .. own.OrderByDescending(w => w.Message.At)
                                .Select(w => new WishShown(
                                    w.Kept.Number,
                                    w.Message.Number,
                                    w.Kept.Text,
                                    w.Message.Person,
                                    w.Message.PersonKey,
                                    w.Message.At,
                                    w.Message.AnsweredAt is not null,
                                    w.Kept.ByHand
                                )),
                        ],
                        own.Select(w => w.Message).DistinctBy(m => m.Number).Count(m => m.AnsweredAt is null),
                        ask.IsPutAway,
                        ask.Title,
                        ask.Version
                    );
                })
                .OrderByDescending(a => a.Weight)
                .ThenByDescending(a => a.Last)
                .ThenBy(a => a.Number.Value),
        ];
    }

    private DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, papers.Time.LocalTimeZone).DateTime);

    private static AskPiece? PieceOf(SqliteConnection db, PieceNumber number, Dictionary<ReleaseNumber, Release> releases)
    {
        var piece = PieceRows.Get(db, number);
        var last = releases
            .Values.Where(r => r.Piece == number)
            .OrderByDescending(r => r.Address.Length > 0)
            .ThenByDescending(r => r.OutOn)
            .FirstOrDefault();
        return new AskPiece(
            number,
            piece.Title,
            piece.Stage,
            last is null ? null : new AskAnswer(last.Number, number, last.Title, last.Address, "")
        );
    }

    /// <summary>The idea made of it, else the slips that come nearest and are no asks themselves.</summary>
    private IReadOnlyList<AskIdea> Ideas(SqliteConnection db, AskKept ask, string words)
    {
        if (ask.Slip is { } made)
            return [new AskIdea(made, SlipRows.Get(db, made).Title)];
        var near = nearby.Nearest(words, MostIdeas * 4, IdeaFloor, thing => thing.Kind == ThingKind.Slip);
        var slips = db.Query<Slip>(
                $"SELECT {SlipRows.Columns} FROM slip s WHERE s.number IN (SELECT value FROM json_each(@numbers)) "
                    + "AND s.state IN ('waiting', 'kept', 'held') AND s.kind IN ('idea', 'question', 'note')",
                new { numbers = Mapping.List(near.Select(n => n.Thing.Number)) }
            )
            .ToDictionary(s => s.Number.Value);
        return
        [
            .. near.Where(n => slips.ContainsKey(n.Thing.Number))
                .Select(n => new AskIdea(slips[n.Thing.Number].Number, slips[n.Thing.Number].Title))
                .Take(MostIdeas),
        ];
    }

    /// <summary>Releases in a passage of which most of the words of one of the wishes stand: two sentences, with the title and what the
    /// release is said to speak of.</summary>
    private IReadOnlyList<AskAnswer> Answers(SqliteConnection db, IReadOnlyList<Wish> wishes, Dictionary<ReleaseNumber, Release> releases)
    {
        var best = new Dictionary<ReleaseNumber, (double Share, string Sentence)>();
        foreach (var wish in wishes)
        {
            var own = wish.Words.Where(w => w.Share == 1).Select(w => w.Root).ToList();
            if (own.Count < 2)
                continue;
            var wanted = own.ToDictionary(root => root, nearby.Rarity);
            var found = db.Query<(int Number, string Title, string Text)>(
                $"SELECT rowid, title, text FROM sent_words WHERE sent_words MATCH @match ORDER BY rank LIMIT {MostRead}",
                new { match = string.Join(" OR ", own.Select(root => $"\"{root.Replace("\"", "", StringComparison.Ordinal)}\"*")) }
            );
            foreach (var (number, title, text) in found)
            {
                if (!releases.TryGetValue(ReleaseNumber.Of(number), out var release))
                    continue;
                var head = title + ". " + string.Join(". ", release.SpeaksOf.Select(s => s.Words));
                if (AskAnswered.Passage(wanted, head, text) is { } passage && passage.Share >= AnswerFloor)
                    if (!best.TryGetValue(release.Number, out var before) || before.Share < passage.Share)
                        best[release.Number] = passage;
            }
        }
        return
        [
            .. best.OrderByDescending(b => b.Value.Share)
                .ThenByDescending(b => releases[b.Key].OutOn)
                .Take(MostAnswers)
                .Select(b => new AskAnswer(b.Key, releases[b.Key].Piece, releases[b.Key].Title, releases[b.Key].Address, b.Value.Sentence)),
        ];
    }

    public Done<AskKept> Edit(AskNumber number, AskChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var title = edit.Title is null ? null : Check.Length("title", edit.Title.Trim(), LongestTitle);
        return papers.Run(
            $"changed ask {number}",
            once,
            change =>
            {
                var ask = AskRows.Get(change.Db, number);
                if (ask.Version != based)
                    throw new StaleException($"ask {number}", ask);
                var idea = edit.Idea is null or 0 ? null : (SlipNumber?)SlipRows.Get(change.Db, SlipNumber.Of(edit.Idea.Value)).Number;
                change.Db.Execute(
                    "UPDATE ask SET title = @title, put_away = @away, slip = @slip, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        title = title ?? ask.Title,
                        away = edit.PutAway ?? ask.IsPutAway,
                        slip = edit.Idea is null ? ask.Slip : idea,
                    }
                );
                if (edit.Idea is not null)
                    change.What = idea is null ? $"ask {number} has no idea yet" : $"slip {idea} answers ask {number}";
                if (edit.PutAway is { } away)
                    change.What = away ? $"put ask {number} away" : $"took ask {number} out again";
                return AskRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>Puts a wish where it belongs: into an ask, into a new one, or nowhere.</summary>
    public Done<WishKept> Place(WishNumber number, WishPlace place, Once once) =>
        papers.Run(
            "placed a wish",
            once,
            change =>
            {
                var wish = AskRows.Wish(change.Db, number);
                AskNumber? ask =
                    place.Nothing ? null
                    : place.Ask is { } into ? AskRows.Get(change.Db, into).Number
                    : AskRows.Put(change.Db);
                AskRows.Move(change.Db, number, ask);
                AskRows.Tidy(change.Db);
                change.What =
                    place.Nothing ? "said that a sentence asks nothing"
                    : place.Ask is null ? "parted a wish from its ask"
                    : $"put a wish into ask {ask}";
                return AskRows.Wish(change.Db, number);
            }
        );

    /// <summary>Says that two asks are one.</summary>
    public Done<AskKept> Join(AskNumber number, AskJoined joined, Once once)
    {
        var into = joined.Into ?? throw new BadInputException("into", "Name the ask it is the same as.");
        if (into == number)
            throw new BadInputException("into", "An ask is the same as itself; choose another.");
        return papers.Run(
            $"joined ask {number} with ask {into}",
            once,
            change =>
            {
                var (gone, kept) = (AskRows.Get(change.Db, number), AskRows.Get(change.Db, into));
                if (gone.Piece is not null && kept.Piece is not null && gone.Piece != kept.Piece)
                    throw new ClashException("A piece was made of each of the two; they can't be one.");
                change.Db.Execute("UPDATE wish SET ask = @into, by_hand = 1 WHERE ask = @number", new { number, into });
                change.Db.Execute(
                    "UPDATE ask SET slip = coalesce(slip, @slip), piece = coalesce(piece, @piece), "
                        + "title = CASE WHEN title = '' THEN @title ELSE title END, version = version + 1 WHERE number = @into",
                    new
                    {
                        into,
                        slip = gone.Slip,
                        piece = gone.Piece,
                        title = gone.Title,
                    }
                );
                change.Db.Execute("DELETE FROM ask WHERE number = @number", new { number });
                return AskRows.Get(change.Db, into);
            }
        );
    }

    /// <summary>Makes an idea of an ask, with who asked as its evidence.</summary>
    /// <exception cref="ClashException">One was made already.</exception>
    public Done<Slip> MakeIdea(AskNumber number, Once once)
    {
        var shown = Get(number);
        return papers.Run($"made an idea of ask {number}", once, change => Idea(change, shown));
    }

    private static Slip Idea(Change change, AskShown shown)
    {
        var ask = AskRows.Get(change.Db, shown.Number);
        if (ask.Slip is { } made)
            throw new ClashException($"Slip {made} was made of it already.", thing: Reference.To(made));
        var slip = SlipRows.Add(
            change,
            new NewSlip(Evidence(shown))
            {
                Kind = SlipKind.Idea,
                OriginNote = "asked by readers",
                Topics = [.. shown.Topics.Select(t => t.Number)],
            }
        );
        change.Db.Execute(
            "UPDATE ask SET slip = @slip, version = version + 1 WHERE number = @Number",
            new { slip = slip.Number, shown.Number }
        );
        change.What = $"made slip {slip.Number} of ask {shown.Number}";
        return slip;
    }

    /// <summary>The ask with all who asked it, as Markdown.</summary>
    private static string Evidence(AskShown shown)
    {
        var lines = shown.Wishes.Select(w =>
        {
            var person = w.Person.Length > 0 ? WordsAsMarkdown.Of(w.Person) : "a reader";
            return $"- “{WordsAsMarkdown.Of(w.Text.Trim('“', '”'))}” ({person}, {w.At:yyyy-MM-dd})";
        });
        var readers = shown.People == 1 ? "1 reader" : $"{shown.People} readers";
        var text = $"{WordsAsMarkdown.Of(shown.Ask)}\n\nAsked by {readers}:\n\n{string.Join('\n', lines)}";
        return text.Length <= Slip.LongestText ? text : text[..Slip.LongestText];
    }

    /// <summary>Begins a piece that answers an ask, with its idea as material.</summary>
    /// <exception cref="ClashException">One was begun already.</exception>
    public Done<Piece> MakePiece(AskNumber number, AskPieceAsked asked, Once once)
    {
        var shown = Get(number);
        var title = Check.Text("title", asked.Title ?? shown.Ask.TrimEnd('?', '.', '!'), Piece.LongestTitle);
        var stood = shown.Ideas is [var idea, ..] && shown.Piece is null ? worth.Standing(idea.Slip.Value) : null;
        return papers.Run(
            $"began a piece for ask {number}",
            once,
            change =>
            {
                var ask = AskRows.Get(change.Db, number);
                if (ask.Piece is { } made)
                    throw new ClashException($"P {made} was begun for it already.", thing: Reference.To(made));
                var slip = ask.Slip ?? Idea(change, shown).Number;
                var piece = PieceStore.Begin(change, new NewPiece(title, asked.Format, Slip: slip), ask.Slip is null ? null : stood);
                change.Db.Execute(
                    "UPDATE ask SET piece = @piece, version = version + 1 WHERE number = @number",
                    new { number, piece = piece.Number }
                );
                change.What = $"started P {piece.Number} for ask {number}";
                return piece;
            }
        );
    }
}
