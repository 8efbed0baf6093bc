using Dapper;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Queue;

/// <summary>How outlets are reached. It belongs to this machine: it is no part of what is undone, goes out or is put beside as a
/// mirror.</summary>
public sealed class ConnectionStore(PapersFile papers)
{
    public IReadOnlyList<Connection> List() =>
        papers.Read(db =>
            (IReadOnlyList<Connection>)
                [
                    .. db.Query<(
                        int Outlet,
                        string Kind,
                        string Address,
                        bool HasSecret,
                        string User,
                        string Sender,
                        string Trusts,
                        bool IsArchived
                    )>(
                            "SELECT c.outlet, c.kind, c.address, c.secret <> '', c.user, c.sender, c.trusts, c.is_archived "
                                + "FROM outlet_connection c JOIN outlet o ON o.number = c.outlet ORDER BY c.outlet"
                        )
                        .Select(c => new Connection(
                            OutletNumber.Of(c.Outlet),
                            Enum.Parse<ConnectionKind>(c.Kind, ignoreCase: true),
                            c.Address,
                            c.HasSecret,
                            c.User,
                            c.Sender,
                            c.Trusts,
                            c.IsArchived
                        )),
                ]
        );

    public Connection? Find(OutletNumber outlet) => List().FirstOrDefault(c => c.Outlet == outlet);

    /// <summary>The secret as it is kept: encrypted.</summary>
    public string Secret(OutletNumber outlet) =>
        papers.Read(db => db.ExecuteScalar<string?>("SELECT secret FROM outlet_connection WHERE outlet = @outlet", new { outlet })) ?? "";

    /// <summary>Keeps how an outlet is reached.</summary>
    /// <param name="secret">Encrypted; null to keep the one there is.</param>
    /// <exception cref="Core.Papers.NotThereException">There is no such outlet.</exception>
    public void Set(OutletNumber outlet, ConnectionKind kind, string address, string? secret) =>
        Set(new Connection(outlet, kind, address, HasSecret: false), secret);

    /// <inheritdoc cref="Set(OutletNumber, ConnectionKind, string, string?)"/>
    public void Set(Connection connection, string? secret)
    {
        papers.Alone(db =>
        {
            OutletRows.Get(db, connection.Outlet);
            return db.Execute(
                """
                INSERT INTO outlet_connection (outlet, kind, address, secret, user, sender, trusts)
                VALUES (@Outlet, @kind, @Address, coalesce(@secret, ''), @User, @Sender, @Trusts)
                ON CONFLICT (outlet) DO UPDATE SET kind = @kind, address = @Address, secret = coalesce(@secret, secret),
                    user = @User, sender = @Sender, trusts = @Trusts
                """,
                new
                {
                    connection.Outlet,
                    kind = connection.Kind.Kept(),
                    connection.Address,
                    secret,
                    connection.User,
                    connection.Sender,
                    connection.Trusts,
                }
            );
        });
        papers.Nudge("outlet_connection", connection.Outlet.Value);
    }

    /// <summary>Says whether the letters of an outlet that went out can be read on the site.</summary>
    /// <exception cref="Core.Papers.NotThereException">No letters go out there.</exception>
    public Connection Archive(OutletNumber outlet, bool isArchived)
    {
        if (Find(outlet) is not { Kind: ConnectionKind.Mail })
            throw new Core.Papers.NotThereException($"a letter service of outlet {outlet}");
        papers.Alone(db =>
            db.Execute("UPDATE outlet_connection SET is_archived = @isArchived WHERE outlet = @outlet", new { outlet, isArchived })
        );
        papers.Nudge("outlet_connection", outlet.Value);
        return Find(outlet)!;
    }

    public void Remove(OutletNumber outlet)
    {
        papers.Alone(db => db.Execute("DELETE FROM outlet_connection WHERE outlet = @outlet", new { outlet }));
        papers.Nudge("outlet_connection", outlet.Value);
    }
}
