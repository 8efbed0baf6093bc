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
                    .. db.Query<(int Outlet, string Kind, string Address, bool HasSecret)>(
                            "SELECT c.outlet, c.kind, c.address, c.secret <> '' FROM outlet_connection c "
                                + "JOIN outlet o ON o.number = c.outlet "
                                + "ORDER BY c.outlet"
                        )
                        .Select(c => new Connection(
                            OutletNumber.Of(c.Outlet),
                            Enum.Parse<ConnectionKind>(c.Kind, ignoreCase: true),
                            c.Address,
                            c.HasSecret
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
    public void Set(OutletNumber outlet, ConnectionKind kind, string address, string? secret)
    {
        papers.Alone(db =>
        {
            OutletRows.Get(db, outlet);
            return db.Execute(
                "INSERT INTO outlet_connection (outlet, kind, address, secret) VALUES (@outlet, @kind, @address, coalesce(@secret, '')) "
                    + "ON CONFLICT (outlet) DO UPDATE SET kind = @kind, address = @address, secret = coalesce(@secret, secret)",
                new
                {
                    outlet,
                    kind = kind.Kept(),
                    address,
                    secret,
                }
            );
        });
        papers.Nudge("outlet_connection", outlet.Value);
    }

    public void Remove(OutletNumber outlet)
    {
        papers.Alone(db => db.Execute("DELETE FROM outlet_connection WHERE outlet = @outlet", new { outlet }));
        papers.Nudge("outlet_connection", outlet.Value);
    }
}
