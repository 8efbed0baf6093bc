using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Letters;

/// <summary>Keeps what became of a letter to each of its readers, on disk before and after each of them.</summary>
public sealed class LetterStore(PapersFile papers)
{
    private const int SaidEvery = 25;
    private int sent;

    /// <summary>Those whose letter has not gone, of all who get letters at the first attempt. Who has left since gets none.</summary>
    /// <param name="key">The letter's.</param>
    public IReadOnlyList<Reader> Waiting(string key, OutletNumber outlet) =>
        papers.Alone(db =>
        {
            using var whole = db.BeginTransaction();
            if (!db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM letter_copy WHERE key = @key)", new { key }))
                db.Execute(
                    "INSERT INTO letter_copy (key, reader) SELECT @key, number FROM reader WHERE outlet = @outlet AND state = 'agreed' "
                        + "ORDER BY number",
                    new { key, outlet }
                );
            db.Execute(
                "UPDATE letter_copy SET state = 'refused', note = 'left before it went' WHERE key = @key AND state = 'waits' "
                    + "AND reader NOT IN (SELECT number FROM reader WHERE state = 'agreed')",
                new { key }
            );
            var waiting = ReaderStore.Rows(
                db,
                "number IN (SELECT reader FROM letter_copy WHERE key = @key AND state = 'waits') ORDER BY number",
                new { key }
            );
            whole.Commit();
            return waiting;
        });

    /// <summary>Writes down where the letter to a reader stands.</summary>
    /// <returns>Whether it is to go: nobody stopped it meanwhile, and its reader has not left.</returns>
    public bool Stand(string key, Reader reader, CopyState state, string note = "")
    {
        // Those who look on see how far it is, and not each of them.
        if (state == CopyState.Sent && ++sent % SaidEvery == 0)
            papers.Nudge("sending", 1);
        return papers.Alone(db =>
        {
            if (
                state == CopyState.Tries
                && !db.ExecuteScalar<bool>(
                    "SELECT EXISTS (SELECT 1 FROM letter_copy c JOIN reader r ON r.number = c.reader "
                        + "WHERE c.key = @key AND c.reader = @Number AND c.state = 'waits' AND r.state = 'agreed')",
                    new { key, reader.Number }
                )
            )
                return false;
            db.Execute(
                "UPDATE letter_copy SET state = @state, note = @note WHERE key = @key AND reader = @Number",
                new
                {
                    key,
                    reader.Number,
                    state = state.Kept(),
                    note,
                }
            );
            if (state is CopyState.Sent or CopyState.Refused)
                db.Execute("UPDATE reader SET trouble = @note WHERE number = @Number", new { reader.Number, note });
            return true;
        });
    }

    /// <summary>How a letter stands; null where it is none, or has not been begun.</summary>
    public LetterCount? Count(string key) => papers.Read(db => Count(db, key));

    internal static LetterCount? Count(SqliteConnection db, string key)
    {
        var by = db.Query<(string State, int Count)>("SELECT state, count(*) FROM letter_copy WHERE key = @key GROUP BY state", new { key })
            .ToDictionary(s => s.State, s => s.Count);
        return by.Count == 0
            ? null
            : new LetterCount(
                by.Values.Sum(),
                by.GetValueOrDefault("sent"),
                by.GetValueOrDefault("waits"),
                by.GetValueOrDefault("refused"),
                by.GetValueOrDefault("tries")
            );
    }

    /// <summary>Says of those nobody knows of that they arrived, or that they are to go again.</summary>
    internal static void Settle(SqliteConnection db, string key, CopyState state) =>
        db.Execute("UPDATE letter_copy SET state = @state WHERE key = @key AND state = 'tries'", new { key, state = state.Kept() });

    /// <summary>Keeps those that wait from going.</summary>
    internal static void Stop(SqliteConnection db, string key) =>
        db.Execute(
            "UPDATE letter_copy SET state = 'refused', note = 'stopped before it went' WHERE key = @key AND state = 'waits'",
            new { key }
        );
}
