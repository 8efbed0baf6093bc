using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas.Order;

/// <summary>How much each term counts.</summary>
/// <param name="Version">To be given back with a change.</param>
public sealed record TopicWeighing(OrderWeights Weights, int Version);

/// <summary>Other weights; none for those that papers begin with.</summary>
public sealed record TopicWeighingChange(OrderWeights? Weights, int? Version);

/// <summary>The weights of the order of topics.</summary>
public sealed class TopicWeighingStore(PapersFile papers)
{
    public TopicWeighing Get() => papers.Read(Shown);

    /// <summary>Weighs differently from now on.</summary>
    /// <exception cref="StaleException">Another tab weighed differently meanwhile.</exception>
    public Done<TopicWeighing> Put(TopicWeighingChange weighed, Once once)
    {
        var based = weighed.Version ?? throw new BadInputException("version", "Say which version the change is based on.");
        var weights = weighed.Weights?.Checked();
        return papers.Run(
            "weighed topics differently",
            once,
            change =>
            {
                var before = Shown(change.Db);
                if (before.Version != based)
                    throw new StaleException("How topics are weighed", before);
                Put(change.Db, weights ?? new OrderWeights());
                return Shown(change.Db);
            }
        );
    }

    internal static OrderWeights? Own(SqliteConnection db) =>
        db.ExecuteScalar<string?>("SELECT weights FROM topic_weighing") is { } kept
        && JsonSerializer.Deserialize<OrderWeights>(kept) is { } own
        && own != new OrderWeights()
            ? own
            : null;

    internal static void Put(SqliteConnection db, OrderWeights weights) =>
        db.Execute(
            "INSERT INTO topic_weighing (id, weights) VALUES (1, @weights) "
                + "ON CONFLICT (id) DO UPDATE SET weights = @weights, version = version + 1",
            new { weights = JsonSerializer.Serialize(weights) }
        );

    private static TopicWeighing Shown(SqliteConnection db) =>
        new(Own(db) ?? new OrderWeights(), db.ExecuteScalar<int?>("SELECT version FROM topic_weighing") ?? 0);
}
