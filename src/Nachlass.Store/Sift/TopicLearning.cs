using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>
/// Guesses topics from the writer's own decisions. The decisions themselves are read afresh for every guess, so a correction
/// counts at once; how sure the guesses are is learnt in the background by guessing the topics of slips that have some, each as if it had
/// none.
/// </summary>
public sealed class TopicLearning : IDisposable
{
    /// <summary>How many slips are guessed to learn from, the latest sorted first.</summary>
    private const int Sample = 400;

    /// <summary>After so many changes of topics it learns again.</summary>
    private const int Often = 40;

    private readonly PapersFile papers;
    private readonly Nearby nearby;
    private volatile Calibration calibration = Calibration.None;
    private Task learning = Task.CompletedTask;
    private int changes;

    public TopicLearning(PapersFile papers, Nearby nearby)
    {
        (this.papers, this.nearby) = (papers, nearby);
        papers.Written += Count;
    }

    /// <summary>The likely topics of a text, the surest first.</summary>
    /// <param name="self">The thing the text belongs to, which does not vote.</param>
    /// <param name="near">The nearest things, some to spare.</param>
    internal IReadOnlyList<LikelyTopic> Guess(
        SqliteConnection db,
        string text,
        IReadOnlyList<Core.Text.Nearness> near,
        IReadOnlySet<TopicNumber> already
    ) => LikelyTopics.Of(text, Sorted(db, near), db.Query<Topic>(TopicStore.Names).ToList(), already, calibration);

    /// <summary>Learns how often a score was right.</summary>
    public void Learn() =>
        papers.Read(db =>
        {
            var topics = db.Query<Topic>(TopicStore.Names).ToList();
            var sample = db.Query<(int Number, string Text)>(
                    "SELECT number, text FROM slip s WHERE state IN ('kept', 'waiting') AND EXISTS (SELECT 1 "
                        + "FROM slip_topic t WHERE t.slip = s.number) ORDER BY caught_at DESC LIMIT @Sample",
                    new { Sample }
                )
                .AsList();
            var own = TopicRows.Of(db, [.. sample.Select(s => new Reference(ThingKind.Slip, s.Number))]);
            var guesses = new List<(double, bool)>();
            foreach (var (number, text) in sample)
            {
                var self = new Reference(ThingKind.Slip, number);
                var right = own[self].ToHashSet();
                var near = nearby.Nearest(text, LikelyTopics.Neighbours, LikelyTopics.Chance, thing => thing != self);
                guesses.AddRange(
                    LikelyTopics.Scores(text, Sorted(db, near), topics).Take(8).Select(s => (s.Score, right.Contains(s.Topic.Number)))
                );
            }
            calibration = Calibration.From(guesses);
            return guesses.Count;
        });

    private static List<SortedNear> Sorted(SqliteConnection db, IReadOnlyList<Core.Text.Nearness> near)
    {
        var topics = TopicRows.Of(db, [.. near.Select(n => n.Thing)]);
        var refused = db.Query<(int Slip, int Topic)>(
                "SELECT slip, topic FROM topic_refusal WHERE slip IN (SELECT value FROM json_each(@slips))",
                new { slips = Mapping.List(near.Where(n => n.Thing.Kind == ThingKind.Slip).Select(n => n.Thing.Number)) }
            )
            .ToLookup(r => r.Slip, r => TopicNumber.Of(r.Topic));
        return
        [
            .. near.Select(n => new SortedNear(
                n,
                [.. topics[n.Thing]],
                n.Thing.Kind == ThingKind.Slip ? [.. refused[n.Thing.Number]] : []
            )),
        ];
    }

    private void Count(Committed done)
    {
        if (Interlocked.Add(ref changes, done.Rows.Count(r => r.Table is "slip_topic" or "topic_refusal")) < Often || !learning.IsCompleted)
            return;
        Interlocked.Exchange(ref changes, 0);
        learning = Task.Run(Learn);
    }

    public void Dispose()
    {
        papers.Written -= Count;
        learning.Wait();
    }
}
