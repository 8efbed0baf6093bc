using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>Keys of the writer's own; what is not among them has the key it is born with.</summary>
public sealed class OwnKeyStore(PapersFile papers)
{
    public IReadOnlyList<OwnKey> List() => papers.Read(All);

    internal static IReadOnlyList<OwnKey> All(SqliteConnection db) =>
        [
            .. db.Query<(string Action, string Keys)>("SELECT action, keys FROM own_key ORDER BY action")
                .Select(k => new OwnKey(k.Action, k.Keys)),
        ];

    /// <summary>Gives keys, as one step: two that change places are given together.</summary>
    /// <param name="given">By what they do; an empty one gives back the key it is born with.</param>
    public Done<IReadOnlyList<OwnKey>> Give(IReadOnlyDictionary<string, string> given, Once once)
    {
        // A born key is looked at as any other would be, so that only acts that can be are named.
        var keys = given
            .Select(g => g.Value.Length == 0 ? new OwnKey(g.Key, "k").Checked() with { Keys = "" } : new OwnKey(g.Key, g.Value).Checked())
            .ToList();
        return papers.Run(
            "changed keys",
            once,
            change =>
            {
                foreach (var key in keys)
                    if (key.Keys.Length == 0)
                        change.Db.Execute("DELETE FROM own_key WHERE action = @Action", key);
                    else
                        Put(change.Db, key);
                change.What = keys is [var one]
                    ? one.Keys.Length == 0
                        ? $"gave {one.Action} its first key again"
                        : $"gave {one.Action} the key {one.Keys}"
                    : "changed keys";
                return All(change.Db);
            }
        );
    }

    internal static void Put(SqliteConnection db, OwnKey key) =>
        db.Execute("INSERT INTO own_key (action, keys) VALUES (@Action, @Keys) ON CONFLICT (action) DO UPDATE SET keys = @Keys", key);
}
