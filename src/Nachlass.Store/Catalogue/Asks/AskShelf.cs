using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>
/// Keeps all wishes at hand as <see cref="AskPlaces"/> needs them, so that one more message takes no reading of all others. After any other
/// change to wishes they are read anew when next needed. What a few wishes mean is read as they come, and the latest of asks that nobody
/// has touched are placed again with them, so that it makes no difference in what order they came. Thousands are placed by their words
/// alone, and read closely and placed again behind.
/// </summary>
public sealed class AskShelf
{
    /// <summary>So many wishes are read closely while somebody waits for it.</summary>
    public const int MostClosely = 200;

    /// <summary>So many are placed again with what comes, the latest.</summary>
    private const int MostAgain = 100;

    /// <summary>So many are read behind before they are written down.</summary>
    private const int AtOnce = 64;

    /// <summary>All wishes at hand.</summary>
    /// <param name="Numbers">Of each its number, in the order in which they were taken in.</param>
    /// <param name="Lacking">Those whose meaning is not known yet, by the how manieth they are.</param>
    private sealed record Shelved(AskPlaces Places, List<int> Numbers, List<(int At, string Said)> Lacking);

    private readonly PapersFile papers;
    private readonly Lock gate = new(),
        shelfGate = new(),
        readingGate = new();
    private volatile Shelved? places;

    /// <summary>The shelf as a command has changed it, until it is in the papers.</summary>
    private Shelved? pending;

    /// <summary>Counts changes, so that what was read before one is not kept after it.</summary>
    private int turn;

    private CommandNumber own;
    private Task reading = Task.CompletedTask;
    private int toRead;
    private volatile int left;

    /// <summary>How many wishes are still to be read closely behind; 0 when all are.</summary>
    public int Left => left;

    public AskShelf(PapersFile papers)
    {
        this.papers = papers;
        papers.Written += Follow;
    }

    private void Follow(Committed done)
    {
        if (!done.Rows.Any(r => r.Table is "wish" or "message" or "ask"))
            return;
        lock (shelfGate)
        {
            turn++;
            places = done.Command == own ? pending ?? places : null;
            pending = null;
        }
    }

    /// <summary>Runs a command that places wishes.</summary>
    internal Done<T> Run<T>(string what, Once once, Func<Change, T> act)
    {
        try
        {
            var done = papers.Run(
                what,
                once,
                change =>
                {
                    (own, pending) = (change.Number, null);
                    return act(change);
                }
            );
            if (toRead > 0)
            {
                left = toRead;
                _ = ReadClosely();
            }
            return done;
        }
        catch
        {
            // What it took in is not in the papers.
            places = null;
            throw;
        }
    }

    /// <summary>Places new wishes and writes them down.</summary>
    /// <param name="wishes">Each with the place of its message among those that are written.</param>
    /// <param name="write">Writes their messages, which is done while their places are looked for.</param>
    /// <returns>How many asks are new.</returns>
    internal int Place(SqliteConnection db, IReadOnlyList<(int Message, Wish Wish)> wishes, Func<IReadOnlyList<MessageNumber>> write)
    {
        if (wishes.Count == 0)
        {
            write();
            return 0;
        }
        var last = db.ExecuteScalar<int?>("SELECT seq FROM sqlite_sequence WHERE name = 'ask'") ?? 0;
        var at = Taken(db);
        var areRead = wishes.All(w => w.Wish.Meaning is not null);
        if (areRead)
        {
            MeaningRows.Put(db, wishes.Select(w => (w.Wish.Said, w.Wish.Meaning!)));
            Know(db, at);
        }
        var again = areRead ? Free(db, at, $"number IN (SELECT number FROM wish ORDER BY number DESC LIMIT {MostAgain})") : [];
        var fresh = 0;
        var placing = Task.Run(() =>
        {
            lock (gate)
                return at.Places.Place([.. wishes.Select(w => w.Wish)], () => last + ++fresh, [.. again.Select(a => a.At)]);
        });
        IReadOnlyList<MessageNumber> messages;
        try
        {
            messages = write();
        }
        finally
        {
            // Whatever becomes of the messages, nobody else is to look for places meanwhile.
            Task.WaitAny(placing);
        }
        var asks = placing.GetAwaiter().GetResult();
        for (var i = 1; i <= fresh; i++)
            AskRows.Put(db, new AskKept(AskNumber.Of(last + i), "", null, null, IsPutAway: false, Version: 1));
        AskRows.Put(
            db,
            wishes.Zip(
                asks.Skip(again.Count),
                (w, ask) =>
                    new WishKept(WishNumber.Of(0), messages[w.Message], w.Wish.Text, ask == 0 ? null : AskNumber.Of(ask), ByHand: false)
            )
        );
        Move(db, again, asks);
        pending = at;
        var numbers = db.Query<int>("SELECT number FROM wish ORDER BY number DESC LIMIT @Count", new { wishes.Count }).Reverse().ToList();
        at.Numbers.AddRange(numbers);
        if (!areRead)
        {
            db.Execute("INSERT INTO wish_to_read (wish) SELECT value FROM json_each(@numbers)", new { numbers = Mapping.List(numbers) });
            toRead = wishes.Select(w => w.Wish.Said).Distinct().Count();
        }
        return fresh;
    }

    /// <summary>Wishes of asks that nobody has touched, with the how manieth they are, whose meaning is known.</summary>
    private static List<(int At, WishKept Wish)> Free(SqliteConnection db, Shelved shelved, string which)
    {
        var lacking = shelved.Lacking.Select(l => l.At).ToHashSet();
        return
        [
            .. AskRows
                .Wishes(
                    db,
                    $"{which} AND by_hand = 0 AND ask IN (SELECT number FROM ask WHERE title = '' AND slip IS NULL AND piece IS NULL "
                        + "AND put_away = 0 AND version = 1)"
                )
                .Select(wish => (shelved.Numbers.BinarySearch(wish.Number.Value), wish))
                .Where(w => !lacking.Contains(w.Item1)),
        ];
    }

    /// <summary>Writes down where wishes went that were placed again.</summary>
    private static void Move(SqliteConnection db, List<(int At, WishKept Wish)> again, IReadOnlyList<int> asks)
    {
        var moved = again.Zip(asks, (a, ask) => (a.Wish, Ask: ask)).Where(m => m.Wish.Ask?.Value != m.Ask).ToList();
        if (moved.Count == 0)
            return;
        db.Execute(
            "UPDATE wish SET ask = @ask WHERE number = @number",
            moved.Select(m => new { number = m.Wish.Number, ask = m.Ask == 0 ? (int?)null : m.Ask })
        );
        AskRows.Tidy(db);
    }

    /// <summary>What wishes mean, where they are few enough to wait for it and this machine can; else as they are.</summary>
    internal static IReadOnlyList<Wish> Read(IReadOnlyList<Wish> wishes) =>
        wishes.Count is 0 or > MostClosely || !SentenceMeaning.IsThere
            ? wishes
            : [.. wishes.Zip(SentenceMeaning.Of([.. wishes.Select(w => w.Said)]), (wish, meaning) => wish with { Meaning = meaning })];

    /// <summary>Reads what wishes mean of which it is not known, where they are few.</summary>
    private void Know(SqliteConnection db, Shelved at)
    {
        if (at.Lacking.Count is 0 or > MostClosely)
            return;
        var meanings = SentenceMeaning.Of([.. at.Lacking.Select(l => l.Said)]);
        lock (gate)
            foreach (var ((wish, _), meaning) in at.Lacking.Zip(meanings))
                at.Places.Know(wish, meaning);
        MeaningRows.Put(db, at.Lacking.Zip(meanings, (l, meaning) => (l.Said, meaning)));
        at.Lacking.Clear();
    }

    /// <summary>How many wishes were placed by their words alone and are still to be read closely.</summary>
    private static int ToRead(SqliteConnection db) => db.ExecuteScalar<int>("SELECT count(*) FROM wish_to_read JOIN wish ON number = wish");

    /// <summary>Reads behind what wishes mean of which it is not known, and places those again that were placed by their words alone.
    /// </summary>
    /// <returns>Done when nothing is left to read.</returns>
    public Task ReadClosely()
    {
        lock (readingGate)
        {
            toRead = 0;
            var before = reading;
            return reading = Task.Run(async () =>
            {
                await before.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
                try
                {
                    ReadAll();
                }
                catch (Exception e) when (e is InvalidOperationException or SqliteException or IOException)
                {
                    // The papers are closed, or can't be written: what is left is read when they are opened again.
                }
                finally
                {
                    left = 0;
                }
            });
        }
    }

    private void ReadAll()
    {
        var unread = papers.Read(db =>
        {
            var known = MeaningRows.All(db);
            return Kept(db).Select(w => w.Wish.Said).Distinct().Where(said => !known.ContainsKey(MeaningRows.KeyOf(said))).ToList();
        });
        if (unread.Count > 0 && !SentenceMeaning.IsThere)
            return;
        left = unread.Count;
        foreach (var some in unread.Chunk(AtOnce))
        {
            var meanings = SentenceMeaning.Of(some);
            papers.Alone(db =>
            {
                MeaningRows.Put(db, some.Zip(meanings));
                return 0;
            });
            left -= some.Length;
        }
        if (unread.Count > 0)
            lock (shelfGate)
            {
                turn++;
                places = null;
            }
        if (papers.Read(ToRead) > 0)
            PlaceAgain();
    }

    /// <summary>Places wishes by what they mean that were placed by their words.</summary>
    private void PlaceAgain()
    {
        Run(
            "read wishes closely",
            Once.Unkeyed,
            change =>
            {
                var db = change.Db;
                var at = Taken(db);
                var again = Free(db, at, "number IN (SELECT wish FROM wish_to_read)");
                db.Execute("DELETE FROM wish_to_read");
                IReadOnlyList<int> asks;
                lock (gate)
                    asks = at.Places.Place([], () => AskRows.Put(db).Value, [.. again.Select(a => a.At)]);
                change.What =
                    $"read {again.Count} wishes closely: {again.Select(a => a.Wish.Ask).Distinct().Count()} asks became "
                    + $"{asks.Distinct().Count()}";
                Move(db, again, asks);
                pending = at;
                return 0;
            }
        );
    }

    /// <summary>How alike two wishes are.</summary>
    internal double Likeness(SqliteConnection db, Wish a, Wish b)
    {
        lock (gate)
            return At(db).Places.Likeness(a.Words, b.Words);
    }

    /// <summary>The shelf for a command that changes it; nobody else's until that is in the papers.</summary>
    private Shelved Taken(SqliteConnection db)
    {
        var at = At(db);
        lock (shelfGate)
            (turn, places) = (turn + 1, null);
        return at;
    }

    private Shelved At(SqliteConnection db)
    {
        if (places is { } there)
            return there;
        var began = Volatile.Read(ref turn);
        var (made, meanings) = (new Shelved(new AskPlaces(), [], []), MeaningRows.All(db));
        foreach (var (number, ask, wish) in Kept(db))
        {
            var meaning = meanings.GetValueOrDefault(MeaningRows.KeyOf(wish.Said));
            if (meaning is null)
                made.Lacking.Add((made.Numbers.Count, wish.Said));
            made.Numbers.Add(number);
            made.Places.Add(wish with { Meaning = meaning }, ask ?? 0);
        }
        lock (shelfGate)
            if (turn == began)
                places = made;
        return made;
    }

    /// <summary>All wishes in the papers, in the order in which they came.</summary>
    private static IEnumerable<(int Number, int? Ask, Wish Wish)> Kept(SqliteConnection db) =>
        db.Query<(int Number, string Text, string Wish, int? Ask)>(
                "SELECT w.number, m.text, w.text, w.ask FROM wish w JOIN message m ON m.number = w.message ORDER BY w.number"
            )
            .Select(w => (w.Number, w.Ask, Wishes.Named(w.Text, w.Wish)));
}
