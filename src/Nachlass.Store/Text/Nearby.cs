using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>Keeps the index of near texts in step with the papers: filled once at the start, then after every command
/// from the rows it touched, so that undo and import need no case of their own.</summary>
public sealed class Nearby : IDisposable
{
    private readonly PapersFile papers;
    private readonly NearIndex index = new();
    private readonly ManualResetEventSlim filled = new();

    public Nearby(PapersFile papers)
    {
        this.papers = papers;
        papers.Written += Follow;
    }

    private const int Batch = 1_000;

    /// <summary>Takes in all texts, a batch at a time; commands run in between, and reads find what is in already.</summary>
    public void Fill(CancellationToken stop = default)
    {
        foreach (var (kind, sql) in Texts)
        {
            var last = 0;
            for (var taken = Batch; taken == Batch && !stop.IsCancellationRequested; )
                // Under the same lock as commands, so that none slips in between reading a text and taking it in.
                taken = papers.Alone(db =>
                {
                    var rows = db.Query<(int Number, string Text)>(
                            sql + " WHERE t.number > @last ORDER BY t.number LIMIT @Batch",
                            new { last, Batch }
                        )
                        .AsList();
                    foreach (var (number, text) in rows)
                        index.Put(new Reference(kind, number), text);
                    if (rows.Count > 0)
                        last = rows[^1].Number;
                    return rows.Count;
                });
        }
        filled.Set();
    }

    public bool IsFilled => filled.IsSet;

    /// <inheritdoc cref="NearIndex.Nearest"/>
    public IReadOnlyList<Nearness> Nearest(string text, int most, double floor, Func<Reference, bool>? among = null) =>
        index.Nearest(text, most, floor, among);

    /// <inheritdoc cref="NearIndex.NearestOf"/>
    public IReadOnlyList<Nearness> NearestOf(string text, IEnumerable<Reference> things, int most, double floor) =>
        index.NearestOf(text, things, most, floor);

    /// <inheritdoc cref="NearIndex.Rarity"/>
    public double Rarity(string root) => index.Rarity(root);

    /// <inheritdoc cref="NearIndex.Holders"/>
    public int Holders(string root) => index.Holders(root);

    /// <inheritdoc cref="NearIndex.Count"/>
    public int Count => index.Count;

    private static readonly (ThingKind Kind, string Sql)[] Texts =
    [
        (ThingKind.Slip, "SELECT t.number, t.text FROM slip t"),
        (
            ThingKind.Source,
            "SELECT t.number, t.title || char(10) || t.creators || char(10) || t.container || char(10) || t.summary || char(10) || "
                + "t.comments FROM source t"
        ),
        (
            ThingKind.Piece,
            "SELECT t.number, t.title || char(10) || t.brief || char(10) || coalesce((SELECT d.text FROM piece_said d "
                + "WHERE d.piece = t.number), '') FROM piece t"
        ),
    ];

    private void Follow(Committed done)
    {
        var things = done.Rows.Select(Thing).OfType<Reference>().Distinct().ToList();
        if (things.Count == 0)
            return;
        // After an import there may be a hundred thousand; nobody has to wait for them to be compared with everything.
        if (things.Count > Batch)
            following = following.ContinueWith(_ => FollowAll(things), TaskScheduler.Default);
        else
            Refresh(things);
    }

    private Task following = Task.CompletedTask;
    private bool ended;

    private void FollowAll(List<Reference> things)
    {
        foreach (var some in things.Chunk(Batch))
        {
            if (ended)
                return;
            Refresh(some);
        }
    }

    /// <summary>Waits until all that was brought in is taken in.</summary>
    internal void Settle() => following.Wait();

    private void Refresh(IReadOnlyList<Reference> things) =>
        papers.Alone(db =>
        {
            foreach (var thing in things)
                Refresh(db, thing);
            return 0;
        });

    private void Refresh(SqliteConnection db, Reference thing)
    {
        var text = db.QuerySingleOrDefault<(int, string Text)?>(
            Texts.First(t => t.Kind == thing.Kind).Sql + " WHERE t.number = @Number",
            new { thing.Number }
        );
        if (text is { } found)
            index.Put(thing, found.Text);
        else
            index.Remove(thing);
    }

    private static Reference? Thing(Touched row) =>
        row.Table switch
        {
            "slip" => new Reference(ThingKind.Slip, (int)row.Row),
            "source" => new Reference(ThingKind.Source, (int)row.Row),
            "piece" or "draft" => new Reference(ThingKind.Piece, (int)row.Row),
            _ => null,
        };

    public void Dispose()
    {
        papers.Written -= Follow;
        ended = true;
        following.Wait();
        index.Dispose();
        filled.Dispose();
    }
}
