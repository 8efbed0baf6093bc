using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>
/// Guesses topics from the writer's own decisions. Weights of words, and how sure the guesses are, are learnt in the background from all
/// decisions anew; what was decided or taken back since is laid over them at each guess, so that it counts at once and a decision taken
/// back leaves nothing behind.
/// </summary>
public sealed class TopicLearning : IDisposable
{
    /// <summary>How many slips are guessed to learn how sure a guess is.</summary>
    private const int Sample = 400;

    /// <summary>After so many changed slips it learns again.</summary>
    private const int Often = 60;

    /// <summary>One in so many is held back for learning how sure the guesses are.</summary>
    private const int HeldBack = 5;

    private readonly PapersFile papers;
    private readonly Nearby nearby;
    private readonly Lock gate = new();
    private readonly CancellationTokenSource ended = new();
    private volatile Learnt learnt = Learnt.Nothing;
    private HashSet<int> changed = [],
        beingLearnt = [];
    private TopicWeights? laidOver;
    private Task learning = Task.CompletedTask;

    /// <param name="RowsOf">Which slip each row of a topic or a refusal belongs to, so that one that goes is known.</param>
    private sealed record Learnt(TopicWeights Weights, Calibration Calibration, Dictionary<(string Table, long Row), int> RowsOf)
    {
        public static readonly Learnt Nothing = new(TopicWeights.None, Calibration.None, []);
    }

    public TopicLearning(PapersFile papers, Nearby nearby)
    {
        (this.papers, this.nearby) = (papers, nearby);
        papers.Written += Note;
    }

    /// <summary>The likely topics of a text, the surest first.</summary>
    /// <param name="near">The nearest things, some to spare.</param>
    internal IReadOnlyList<LikelyTopic> Guess(
        SqliteConnection db,
        string text,
        IReadOnlyList<Nearness> near,
        IReadOnlySet<TopicNumber> already
    )
    {
        var known = learnt;
        return LikelyTopics.Of(
            text,
            Sorted(db, near),
            db.Query<Topic>(TopicStore.Names).ToList(),
            already,
            known.Calibration,
            Weights(db, known)
        );
    }

    /// <summary>The learnt weights with what was decided since.</summary>
    private TopicWeights Weights(SqliteConnection db, Learnt known)
    {
        List<int> slips;
        lock (gate)
        {
            if (laidOver is { } ready)
                return ready;
            slips = [.. changed.Union(beingLearnt)];
        }
        var now = All(db, slips).ToDictionary(d => d.Thing, d => (Decided?)d);
        var differing = slips
            .Select(slip => (slip, Now: now.GetValueOrDefault(slip), Then: known.Weights.LearntFrom(slip)))
            .Where(s => s.Now is null ? s.Then is not null : !s.Now.Says(s.Then))
            .ToDictionary(s => s.slip, s => s.Now);
        var weights = differing.Count == 0 ? known.Weights : known.Weights.With(differing);
        lock (gate)
            if (ReferenceEquals(known, learnt) && slips.Count == changed.Union(beingLearnt).Count())
                laidOver = weights;
        return weights;
    }

    /// <summary>What was decided about slips: those named, or all.</summary>
    private static IEnumerable<Decided> All(SqliteConnection db, IReadOnlyList<int>? slips = null)
    {
        var among = slips is null ? "" : "WHERE slip IN (SELECT value FROM json_each(@slips))";
        var arguments = new { slips = slips is null ? "[]" : Mapping.List(slips) };
        var topics = db.Query<(int Slip, int Topic)>($"SELECT slip, topic FROM slip_topic {among} ORDER BY slip, topic", arguments)
            .ToLookup(r => r.Slip, r => TopicNumber.Of(r.Topic));
        var refused = db.Query<(int Slip, int Topic)>($"SELECT slip, topic FROM topic_refusal {among} ORDER BY slip, topic", arguments)
            .ToLookup(r => r.Slip, r => TopicNumber.Of(r.Topic));
        // The newest first, of which alone it learns when there are many.
        var texts = db.Query<(int Number, string Text)>(
            "SELECT number, text FROM slip WHERE state IN ('kept', 'waiting', 'held') "
                + (
                    slips is null
                        ? "AND number IN (SELECT slip FROM slip_topic UNION SELECT "
                            + "slip FROM topic_refusal) ORDER BY number DESC LIMIT @most"
                        : "AND number IN (SELECT value FROM json_each(@slips))"
                ),
            new { arguments.slips, most = TopicWeights.MostTexts }
        );
        foreach (var (number, text) in texts)
            if (topics[number].Any() || refused[number].Any())
                yield return new Decided(number, text, [.. topics[number]], [.. refused[number]]);
    }

    /// <summary>Learns the weights of words, and how often a score was right.</summary>
    public void Learn()
    {
        lock (gate)
        {
            beingLearnt.UnionWith(changed);
            changed = [];
        }
        var (all, rows) = papers.Read(db =>
            (
                All(db).ToList(),
                db.Query<(string Table, long Row, int Slip)>(
                        "SELECT 'slip_topic', id, slip FROM slip_topic UNION ALL SELECT 'topic_refusal', rowid, slip FROM topic_refusal"
                    )
                    .ToDictionary(r => (r.Table, r.Row), r => r.Slip)
            )
        );
        var weights = TopicWeights.Learn(all, ended.Token);
        var calibration = Calibrated(all);
        lock (gate)
        {
            learnt = new Learnt(weights, calibration, rows);
            beingLearnt = [];
            laidOver = null;
        }
    }

    /// <summary>Guesses the topics of slips that have some, each as if nothing had been decided about it, and sees how often a score was
    /// right.</summary>
    private Calibration Calibrated(List<Decided> all)
    {
        var guesses = new List<(double, bool)>();
        // Of many texts one part held back is enough to learn from; of few, each part is held back in turn.
        for (var part = 0; part < (all.Count > Sample * HeldBack ? 1 : HeldBack); part++)
        {
            var asked = all.Where(d => d.Thing % HeldBack == part && d.Topics.Count > 0).Take(Sample).ToList();
            var weights =
                all.Count < LikelyTopics.FewestTexts
                    ? TopicWeights.None
                    : TopicWeights.Learn(all.Where(d => d.Thing % HeldBack != part), ended.Token);
            guesses.AddRange(Guesses(asked, weights));
        }
        return Calibration.From(guesses);
    }

    private List<(double Score, bool IsRight)> Guesses(List<Decided> asked, TopicWeights weights) =>
        papers.Read(db =>
        {
            var topics = db.Query<Topic>(TopicStore.Names).ToList();
            var guesses = new List<(double, bool)>();
            foreach (var decided in asked)
            {
                ended.Token.ThrowIfCancellationRequested();
                var self = new Reference(ThingKind.Slip, decided.Thing);
                var near = nearby.Nearest(decided.Text, LikelyTopics.Neighbours, LikelyTopics.Chance, thing => thing != self);
                guesses.AddRange(
                    LikelyTopics
                        .Scores(decided.Text, Sorted(db, near), topics, weights)
                        .Take(LikelyTopics.First)
                        .Select(s => (s.Score, decided.Topics.Contains(s.Topic.Number)))
                );
            }
            return guesses;
        });

    private static List<SortedNear> Sorted(SqliteConnection db, IReadOnlyList<Nearness> near)
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

    private void Note(Committed done)
    {
        var rows = done.Rows.Where(r => r.Table is "slip" or "slip_topic" or "topic_refusal").ToList();
        if (rows.Count == 0)
            return;
        var here = SlipsOf(rows);
        bool isTime;
        lock (gate)
        {
            changed.UnionWith(here);
            laidOver = null;
            isTime = changed.Count >= Often && learning.IsCompleted;
        }
        if (isTime)
            Begin();
    }

    /// <summary>Begins to learn; what needs it meanwhile goes on with what is known.</summary>
    public void Begin()
    {
        if (learning.IsCompleted)
            learning = Task.Run(LearnQuietly);
    }

    private void LearnQuietly()
    {
        try
        {
            Learn();
        }
        catch (OperationCanceledException)
        {
            // The program ends.
        }
    }

    /// <summary>The slips that rows belong to, or belonged to.</summary>
    private HashSet<int> SlipsOf(IReadOnlyList<Touched> rows)
    {
        var slips = rows.Where(r => r.Table == "slip").Select(r => (int)r.Row).ToHashSet();
        var before = learnt.RowsOf;
        foreach (var row in rows.Where(r => r.Table != "slip"))
            if (before.TryGetValue((row.Table, row.Row), out var slip))
                slips.Add(slip);
        papers.Read(db =>
        {
            foreach (var table in rows.Where(r => r.Table != "slip").GroupBy(r => r.Table))
                slips.UnionWith(
                    db.Query<int>(
                        $"SELECT slip FROM {table.Key} WHERE rowid IN (SELECT value FROM json_each(@rows))",
                        new { rows = $"[{string.Join(',', table.Select(r => r.Row))}]" }
                    )
                );
            return 0;
        });
        return slips;
    }

    public void Dispose()
    {
        papers.Written -= Note;
        ended.Cancel();
        learning.Wait();
        ended.Dispose();
    }
}
