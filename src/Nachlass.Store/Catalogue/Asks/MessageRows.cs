using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>Readers' messages, their wishes and asks as rows.</summary>
internal static class MessageRows
{
    private const string Columns =
        "m.number, m.person, m.address, m.at, m.way, m.release, m.text, m.reach, m.key, m.answered_at, m.answer, m.version";

    /// <summary>Messages that meet a condition, the latest first.</summary>
    public static IReadOnlyList<Message> List(
        SqliteConnection db,
        string where,
        object? arguments,
        string order = "m.at DESC, m.number DESC"
    ) => db.Query<Message>($"SELECT {Columns} FROM message m WHERE {where} ORDER BY {order}", arguments).AsList();

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Message Get(SqliteConnection db, MessageNumber number) =>
        List(db, "m.number = @number", new { number }).SingleOrDefault() ?? throw new NotThereException($"message {number}");

    /// <summary>Writes messages; one of number 0 gets the next. All go by one statement, since to make one ready takes longer than to
    /// carry it out.</summary>
    /// <returns>Their numbers, in their order.</returns>
    public static IReadOnlyList<MessageNumber> Put(SqliteConnection db, IReadOnlyList<Message> messages)
    {
        var last = db.ExecuteScalar<int?>("SELECT seq FROM sqlite_sequence WHERE name = 'message'") ?? 0;
        var numbers = messages.Select(m => m.Number.Value == 0 ? MessageNumber.Of(++last) : m.Number).ToList();
        db.Execute(
            """
            INSERT INTO message (number, person, address, at, way, release, text, reach, key, answered_at, answer)
            VALUES (@number, @Person, @Address, @At, @Way, @Release, @Text, @Reach, @Key, @AnsweredAt, @Answer)
            """,
            messages.Zip(
                numbers,
                (message, number) =>
                    new
                    {
                        number,
                        message.Person,
                        message.Address,
                        message.At,
                        message.Way,
                        message.Release,
                        message.Text,
                        message.Reach,
                        message.Key,
                        message.AnsweredAt,
                        message.Answer,
                    }
            )
        );
        return numbers;
    }

    public static void Remove(SqliteConnection db, MessageNumber number) =>
        db.Execute("DELETE FROM wish WHERE message = @number; DELETE FROM message WHERE number = @number", new { number });

    public static IReadOnlyList<string> HiddenWords(SqliteConnection db) =>
        db.Query<string>("SELECT word FROM hidden_word ORDER BY word").AsList();

    public static void PutHiddenWord(SqliteConnection db, string word) =>
        db.Execute("INSERT OR IGNORE INTO hidden_word (word) VALUES (@word)", new { word });
}

/// <summary>Asks and wishes as rows.</summary>
internal static class AskRows
{
    public static IReadOnlyList<AskKept> All(SqliteConnection db, string where = "true", object? arguments = null) =>
        [
            .. db.Query<AskRow>($"SELECT number, title, slip, piece, put_away, version FROM ask WHERE {where} ORDER BY number", arguments)
                .Select(a => new AskKept(a.Number, a.Title, a.Slip, a.Piece, a.PutAway, a.Version)),
        ];

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static AskKept Get(SqliteConnection db, AskNumber number) =>
        All(db, "number = @number", new { number }).SingleOrDefault() ?? throw new NotThereException($"ask {number}");

    public static AskNumber Put(SqliteConnection db, AskKept? ask = null) =>
        AskNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO ask (number, title, slip, piece, put_away) VALUES (@number, @title, @slip, @piece, @away) RETURNING number",
                new
                {
                    number = ask?.Number.Value,
                    title = ask?.Title ?? "",
                    slip = ask?.Slip,
                    piece = ask?.Piece,
                    away = ask?.IsPutAway ?? false,
                }
            )
        );

    public static IReadOnlyList<WishKept> Wishes(SqliteConnection db, string where = "true", object? arguments = null) =>
        [
            .. db.Query<WishRow>($"SELECT number, message, text, ask, by_hand FROM wish WHERE {where} ORDER BY number", arguments)
                .Select(w => new WishKept(w.Number, w.Message, w.Text, w.Ask, w.ByHand)),
        ];

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static WishKept Wish(SqliteConnection db, WishNumber number) =>
        Wishes(db, "number = @number", new { number }).SingleOrDefault() ?? throw new NotThereException($"wish {number}");

    /// <summary>Writes wishes; one of number 0 gets the next.</summary>
    public static void Put(SqliteConnection db, IEnumerable<WishKept> wishes) =>
        db.Execute(
            "INSERT INTO wish (number, message, text, ask, by_hand) VALUES (@number, @Message, @Text, @Ask, @ByHand)",
            wishes.Select(wish => new
            {
                number = wish.Number.Value == 0 ? (int?)null : wish.Number.Value,
                wish.Message,
                wish.Text,
                wish.Ask,
                wish.ByHand,
            })
        );

    /// <summary>Puts a wish where its writer says that it belongs. The ask it leaves and the one it goes to stay from then on what they
    /// were made.</summary>
    public static void Move(SqliteConnection db, WishNumber wish, AskNumber? ask) =>
        db.Execute(
            "UPDATE ask SET version = version + 1 WHERE number IN (@ask, (SELECT ask FROM wish WHERE number = @wish)); "
                + "UPDATE wish SET ask = @ask, by_hand = 1 WHERE number = @wish",
            new { wish, ask }
        );

    /// <summary>Takes asks away in which nothing is wished any more, unless something was made of them.</summary>
    public static void Tidy(SqliteConnection db) =>
        db.Execute("DELETE FROM ask WHERE slip IS NULL AND piece IS NULL AND number NOT IN (SELECT ask FROM wish WHERE ask IS NOT NULL)");

    private sealed record AskRow
    {
        public AskNumber Number { get; init; }
        public string Title { get; init; } = "";
        public SlipNumber? Slip { get; init; }
        public PieceNumber? Piece { get; init; }
        public bool PutAway { get; init; }
        public int Version { get; init; }
    }

    private sealed record WishRow
    {
        public WishNumber Number { get; init; }
        public MessageNumber Message { get; init; }
        public string Text { get; init; } = "";
        public AskNumber? Ask { get; init; }
        public bool ByHand { get; init; }
    }
}
