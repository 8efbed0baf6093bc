using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>A wish that readers wrote, as it counts for an idea.</summary>
/// <param name="Person">Who wishes it; see <see cref="Message.PersonKey"/>.</param>
/// <param name="Idea">The slip that was made of its ask; null for none.</param>
/// <param name="Topics">Topics it names.</param>
internal sealed record ReaderWish(string Person, DateOnly Day, int Reach, int? Idea, IReadOnlyList<int> Topics);

/// <summary>Keeps the wishes of messages at hand for weighing ideas: those in sight, of asks that no piece has answered. They are read anew
/// only after something was written that they are made of.</summary>
internal sealed class ReaderWishes
{
    private volatile IReadOnlyList<ReaderWish>? kept;
    private readonly TimeZoneInfo zone;

    public ReaderWishes(PapersFile papers)
    {
        zone = papers.Time.LocalTimeZone;
        papers.Written += done =>
        {
            if (done.Rows.Any(r => r.Table is "wish" or "message" or "ask" or "hidden_word" or "topic" or "topic_alias" or "release"))
                kept = null;
        };
    }

    public IReadOnlyList<ReaderWish> Now(SqliteConnection db) => kept ??= Read(db);

    private List<ReaderWish> Read(SqliteConnection db)
    {
        var rows = db.Query<Row>(
                """
                SELECT w.text, m.number, m.person, m.address, m.at, m.reach, a.slip, CASE WHEN h.any THEN m.text ELSE '' END AS whole
                FROM wish w JOIN ask a ON a.number = w.ask JOIN message m ON m.number = w.message
                    CROSS JOIN (SELECT EXISTS (SELECT 1 FROM hidden_word) AS any) h
                WHERE a.put_away = 0 AND NOT EXISTS (SELECT 1 FROM release r WHERE r.piece = a.piece)
                """
            )
            .AsList();
        if (rows.Count == 0)
            return [];
        var hidden = MessageRows.HiddenWords(db);
        var names = TopicNames.Of(db);
        return
        [
            .. rows.Where(r => !hidden.Any(word => r.Whole.Contains(word, StringComparison.OrdinalIgnoreCase)))
                .Select(r => new ReaderWish(
                    Message.KeyOf(r.Person, r.Address, MessageNumber.Of(r.Number)),
                    DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(r.At, zone).DateTime),
                    r.Reach,
                    r.Slip,
                    [.. names.NamedIn(r.Text).Distinct()]
                )),
        ];
    }

    private sealed record Row
    {
        public string Text { get; init; } = "";
        public int Number { get; init; }
        public string Person { get; init; } = "";
        public string Address { get; init; } = "";
        public DateTimeOffset At { get; init; }
        public int Reach { get; init; }
        public int? Slip { get; init; }
        public string Whole { get; init; } = "";
    }
}
