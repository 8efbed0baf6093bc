using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Topics;

/// <summary>
/// Counts what stands under every topic, the narrower ones for the wider too, each thing once. The states are read from the index that holds
/// nothing else and tallied here: joined row by row in SQL, a hundred thousand slips take seven times as long.
/// </summary>
internal static class TopicFigures
{
    private const byte None = 0, Waiting = 1, Kept = 2, Held = 3, Used = 4;

    private sealed class Tally
    {
        public int Waiting, Kept, Held, Used;
    }

    /// <summary>The topics with their figures.</summary>
    public static List<Topic> Of(SqliteConnection db, List<Topic> topics, DateOnly today)
    {
        var states = States(db, today);
        var wider = topics.Where(t => t.Wider is not null).ToDictionary(t => t.Number.Value, t => t.Wider!.Value.Value);
        var tallies = topics.ToDictionary(t => t.Number.Value, _ => new Tally());
        // Only where something stands under a topic can a slip come to it twice.
        var seen = wider.Values.Distinct().ToDictionary(w => w, _ => new HashSet<int>());
        using (var reader = db.ExecuteReader("SELECT topic, slip FROM slip_topic INDEXED BY slip_topic_topic"))
            while (reader.Read())
            {
                var (topic, slip) = (reader.GetInt32(0), reader.GetInt32(1));
                for (var steps = 0; steps < 50; steps++)
                {
                    if (!seen.TryGetValue(topic, out var once) || once.Add(slip)) Add(topic, slip < states.Length ? states[slip] : None);
                    if (!wider.TryGetValue(topic, out topic)) break;
                }
            }
        var sources = Counted(db, "SELECT u.topic, count(DISTINCT x.source) FROM source_topic x JOIN topic_under u ON u.under = x.topic JOIN source o ON o.number = x.source WHERE o.trashed_at IS NULL GROUP BY u.topic");
        var pieces = db.Query<(int Topic, int Count, string? LastOut)>("SELECT u.topic, count(DISTINCT x.piece), max(p.out_on) FROM piece_topic x JOIN topic_under u ON u.under = x.topic JOIN piece p ON p.number = x.piece WHERE p.trashed_at IS NULL GROUP BY u.topic").ToDictionary(p => p.Topic);
        return [.. topics.Select(t =>
        {
            var (tally, piece) = (tallies[t.Number.Value], pieces.GetValueOrDefault(t.Number.Value));
            return t with
            {
                Waiting = tally.Waiting, Kept = tally.Kept, Held = tally.Held, Used = tally.Used,
                Sources = sources.GetValueOrDefault(t.Number.Value), Pieces = piece.Count, LastOut = Mapping.Day(piece.LastOut),
            };
        })];

        void Add(int topic, byte state)
        {
            if (!tallies.TryGetValue(topic, out var tally)) return;
            if (state == Waiting) tally.Waiting++;
            else if (state == Held) tally.Held++;
            else if (state is Kept or Used) tally.Kept++;
            if (state == Used) tally.Used++;
        }
    }

    private static byte[] States(SqliteConnection db, DateOnly today)
    {
        var states = new byte[db.ExecuteScalar<int>("SELECT coalesce(max(number), 0) FROM slip") + 1];
        var now = today.Kept();
        using (var reader = db.ExecuteReader("SELECT number, state, held_until FROM slip INDEXED BY slip_filters"))
            while (reader.Read())
                states[reader.GetInt32(0)] = reader.GetString(1) switch
                {
                    "waiting" => Waiting,
                    "kept" => Kept,
                    "held" => !reader.IsDBNull(2) && string.CompareOrdinal(reader.GetString(2), now) <= 0 ? Waiting : Held,
                    _ => None,
                };
        foreach (var slip in db.Query<int>("SELECT slip FROM material WHERE section IS NOT NULL AND slip IS NOT NULL UNION SELECT to_number FROM link WHERE to_kind = 'slip' AND from_kind = 'piece'"))
            if (slip < states.Length && states[slip] == Kept) states[slip] = Used;
        return states;
    }

    private static Dictionary<int, int> Counted(SqliteConnection db, string sql) => db.Query<(int Topic, int Count)>(sql).ToDictionary(c => c.Topic, c => c.Count);
}
