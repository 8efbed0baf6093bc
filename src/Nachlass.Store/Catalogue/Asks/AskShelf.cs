using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>Keeps all wishes at hand as <see cref="AskPlaces"/> needs them, so that one more message takes no reading of all others. After
/// any other change to wishes they are read anew when next needed.</summary>
public sealed class AskShelf
{
    private readonly PapersFile papers;
    private readonly Lock gate = new();
    private volatile AskPlaces? places;
    private CommandNumber own;

    public AskShelf(PapersFile papers)
    {
        this.papers = papers;
        papers.Written += Follow;
    }

    private void Follow(Committed done)
    {
        if (done.Command != own && done.Rows.Any(r => r.Table is "wish" or "message" or "ask"))
            places = null;
    }

    /// <summary>Runs a command that places wishes.</summary>
    internal Done<T> Run<T>(string what, Once once, Func<Change, T> act)
    {
        try
        {
            return papers.Run(
                what,
                once,
                change =>
                {
                    own = change.Number;
                    return act(change);
                }
            );
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
        var at = At(db);
        var fresh = 0;
        var placing = Task.Run(() =>
        {
            lock (gate)
                return at.Place([.. wishes.Select(w => w.Wish.Words)], () => last + ++fresh);
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
                asks,
                (w, ask) =>
                    new WishKept(WishNumber.Of(0), messages[w.Message], w.Wish.Text, ask == 0 ? null : AskNumber.Of(ask), ByHand: false)
            )
        );
        return fresh;
    }

    /// <summary>How alike two wishes are.</summary>
    internal double Likeness(SqliteConnection db, Wish a, Wish b)
    {
        lock (gate)
            return At(db).Likeness(a.Words, b.Words);
    }

    private AskPlaces At(SqliteConnection db)
    {
        if (places is { } there)
            return there;
        var made = new AskPlaces();
        foreach (
            var (text, wish, ask) in db.Query<(string Text, string Wish, int? Ask)>(
                "SELECT m.text, w.text, w.ask FROM wish w JOIN message m ON m.number = w.message ORDER BY w.number"
            )
        )
            made.Add(Wishes.Named(text, wish).Words, ask ?? 0);
        return places = made;
    }
}
