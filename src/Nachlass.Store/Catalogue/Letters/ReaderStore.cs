using System.Security.Cryptography;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Letters;

/// <summary>Readers who come onto a list.</summary>
/// <param name="List">One a line: an address, or a name and an address.</param>
/// <param name="How">How they agreed, in the writer's words.</param>
public sealed record NewReaders(string? List, string? How);

/// <summary>What came of it.</summary>
/// <param name="Added">How many are new on the list.</param>
/// <param name="There">How many are on it already.</param>
/// <param name="Left">Addresses that left before; they are not taken in again.</param>
/// <param name="Unread">Lines in which there is no address.</param>
public sealed record ReadersAdded(int Added, int There, IReadOnlyList<string> Left, IReadOnlyList<string> Unread);

/// <summary>The list of an outlet.</summary>
/// <param name="Agreed">How many get the letters.</param>
public sealed record ReaderList(IReadOnlyList<Reader> Readers, int Agreed, int Asked, int Left);

/// <summary>
/// Keeps who gets letters. What readers say of themselves is theirs: it is no part of undo, so that who left is not brought back by a key,
/// and of no copy in files; it lies in the papers' file and its copies.
/// </summary>
public sealed class ReaderStore(PapersFile papers)
{
    private const int MostAtOnce = 20_000;
    private static readonly TimeSpan AskedAgain = TimeSpan.FromMinutes(10);

    private const string Columns =
        "SELECT number, outlet, address, name, token, state, asked_at, agreed_at, how, left_at, trouble FROM reader";

    public ReaderList List(OutletNumber outlet) =>
        papers.Read(db =>
        {
            OutletRows.Get(db, outlet);
            var all = Rows(db, "outlet = @outlet ORDER BY state = 'left', asked_at DESC, number DESC", new { outlet });
            return new ReaderList(
                all,
                all.Count(r => r.State == ReaderState.Agreed),
                all.Count(r => r.State == ReaderState.Asked),
                all.Count(r => r.State == ReaderState.Left)
            );
        });

    internal static IReadOnlyList<Reader> Rows(SqliteConnection db, string where, object? arguments) =>
        [
            .. db.Query<Row>($"{Columns} WHERE {where}", arguments)
                .Select(r => new Reader(
                    r.Number,
                    r.Outlet,
                    r.Address,
                    r.Name,
                    r.Token,
                    r.State,
                    r.AskedAt,
                    r.AgreedAt,
                    r.How,
                    r.LeftAt,
                    r.Trouble
                )),
        ];

    internal static int Agreed(SqliteConnection db, OutletNumber outlet) =>
        db.ExecuteScalar<int>("SELECT count(*) FROM reader WHERE outlet = @outlet AND state = 'agreed'", new { outlet });

    /// <summary>Puts readers on a list who agreed to it elsewhere.</summary>
    public ReadersAdded Add(OutletNumber outlet, NewReaders made)
    {
        var how = Check.Text("how", made.How?.Trim(), Reader.LongestHow);
        var (read, unread) = Reader.InList(made.List);
        if (read.Count + unread.Count > MostAtOnce)
            throw new BadInputException("list", $"At most {MostAtOnce:N0} come in at once.");
        if (read.Count == 0)
            throw new BadInputException(
                "list",
                unread.Count == 0 ? "Say who; one a line." : "In none of these lines is there a mail address."
            );
        var added = papers.Alone(db =>
        {
            OutletRows.Get(db, outlet);
            using var whole = db.BeginTransaction();
            var known = db.Query<(string Address, string State)>("SELECT address, state FROM reader WHERE outlet = @outlet", new { outlet })
                .ToDictionary(r => r.Address, r => r.State, StringComparer.OrdinalIgnoreCase);
            var (fresh, there, left) = (0, 0, new List<string>());
            foreach (var (address, name) in read)
                if (!known.TryGetValue(address, out var state))
                {
                    known[address] = "agreed";
                    Put(db, outlet, address, name, ReaderState.Agreed, how);
                    fresh++;
                }
                else if (state == "left")
                    left.Add(address);
                else
                {
                    there++;
                    if (state == "asked")
                        db.Execute(
                            "UPDATE reader SET state = 'agreed', agreed_at = @now, how = @how "
                                + "WHERE outlet = @outlet AND address = @address",
                            new
                            {
                                outlet,
                                address,
                                how,
                                now = Now,
                            }
                        );
                }
            whole.Commit();
            return new ReadersAdded(fresh, there, left, unread);
        });
        Nudge(outlet);
        return added;
    }

    private DateTimeOffset Now => papers.Time.GetUtcNow();

    private void Put(SqliteConnection db, OutletNumber outlet, string address, string name, ReaderState state, string how) =>
        db.Execute(
            "INSERT INTO reader (outlet, address, name, token, state, asked_at, agreed_at, how) "
                + "VALUES (@outlet, @address, @name, @token, @state, @now, @agreed, @how)",
            new
            {
                outlet,
                address,
                name,
                token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
                state = state.Kept(),
                now = Now,
                agreed = state == ReaderState.Agreed ? Now : (DateTimeOffset?)null,
                how,
            }
        );

    /// <summary>Somebody asks for the letters; they get them once they said so from their mailbox.</summary>
    /// <returns>To whom the question is to be sent; null when they get the letters already, or were asked just now.</returns>
    public Reader? Ask(OutletNumber outlet, string address, string name)
    {
        var asked = papers.Alone(db =>
        {
            OutletRows.Get(db, outlet);
            var there = Rows(db, "outlet = @outlet AND address = @address", new { outlet, address }) is [var known] ? known : null;
            // Who is asked already is not asked again at once, whoever fills in the form.
            if (there is { State: ReaderState.Agreed } || there is { State: ReaderState.Asked } && Now - there.AskedAt < AskedAgain)
                return null;
            if (there is null)
                Put(db, outlet, address, name, ReaderState.Asked, "");
            else
                // Who left may come back by their own will.
                db.Execute("UPDATE reader SET state = 'asked', asked_at = @now WHERE number = @Number", new { there.Number, now = Now });
            return Rows(db, "outlet = @outlet AND address = @address", new { outlet, address })[0];
        });
        Nudge(outlet);
        return asked;
    }

    /// <summary>The name of an outlet that sends letters; null where there is none.</summary>
    public string? NameOf(OutletNumber outlet) =>
        papers.Read(db =>
            db.ExecuteScalar<bool>(
                "SELECT EXISTS (SELECT 1 FROM outlet_connection WHERE outlet = @outlet AND kind = 'mail')",
                new { outlet }
            )
                ? OutletRows.All(db).FirstOrDefault(o => o.Number == outlet)?.Name
                : null
        );

    /// <summary>The reader who holds a link; null when nobody does.</summary>
    public Reader? ByToken(string token) => papers.Read(db => Rows(db, "token = @token", new { token }) is [var reader] ? reader : null);

    /// <summary>A reader says from their mailbox that they want the letters.</summary>
    public void Agree(Reader reader) => Stand(reader, ReaderState.Agreed, "on the page, and from their mailbox");

    /// <summary>A reader does not get letters any more.</summary>
    public void Leave(Reader reader) => Stand(reader, ReaderState.Left, reader.How);

    private void Stand(Reader reader, ReaderState state, string how)
    {
        papers.Alone(db =>
            db.Execute(
                "UPDATE reader SET state = @state, how = @how, agreed_at = coalesce(@agreed, agreed_at), left_at = @left "
                    + "WHERE number = @Number",
                new
                {
                    reader.Number,
                    how,
                    state = state.Kept(),
                    agreed = state == ReaderState.Agreed ? Now : (DateTimeOffset?)null,
                    left = state == ReaderState.Left ? Now : (DateTimeOffset?)null,
                }
            )
        );
        Nudge(reader.Outlet);
    }

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public Reader Get(ReaderNumber number) =>
        papers.Read(db => Rows(db, "number = @number", new { number })).SingleOrDefault()
        ?? throw new NotThereException($"reader {number}");

    /// <summary>Takes all away that is known of a reader.</summary>
    public void Forget(ReaderNumber number)
    {
        var reader = Get(number);
        papers.Alone(db => db.Execute("DELETE FROM reader WHERE number = @number", new { number }));
        Nudge(reader.Outlet);
    }

    private void Nudge(OutletNumber outlet) => papers.Nudge("reader", outlet.Value);

    private sealed record Row
    {
        public ReaderNumber Number { get; init; }
        public OutletNumber Outlet { get; init; }
        public string Address { get; init; } = "";
        public string Name { get; init; } = "";
        public string Token { get; init; } = "";
        public ReaderState State { get; init; }
        public DateTimeOffset AskedAt { get; init; }
        public DateTimeOffset? AgreedAt { get; init; }
        public string How { get; init; } = "";
        public DateTimeOffset? LeftAt { get; init; }
        public string Trouble { get; init; } = "";
    }
}
