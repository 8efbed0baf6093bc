using System.IO.Hashing;
using System.Runtime.InteropServices;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Choosing;

/// <summary>What stands near an idea, whatever its state: that is asked when it is counted.</summary>
/// <param name="Near">The nearest slips and sources, with how near they are.</param>
/// <param name="Said">Pieces that went out in which some of it stands, with how much.</param>
internal sealed record Surrounded(List<(Reference Thing, float Likeness)> Near, List<(int Piece, float Share)> Said);

/// <summary>
/// Remembers what stands near each idea, since to look for it takes milliseconds among a hundred thousand texts. Looked for once, then kept
/// in step with the texts that commands touch: a new text is compared with all once and laid beside those it is near to. Ideas go by
/// the number of their slip, marked paragraphs by their number below nothing.
/// </summary>
internal sealed class Surroundings : IDisposable
{
    /// <summary>How many near things are remembered of each.</summary>
    private const int Kept = 24;

    /// <summary>The least likeness at which a thing counts as near; see <see cref="Core.Sift.ReadsLike.Floor"/>.</summary>
    private const double Floor = Core.Sift.ReadsLike.Floor;

    /// <summary>The least share of an idea in a passage that is said of it.</summary>
    private const double SaidFloor = 0.2;

    /// <summary>In how many of the nearest pieces that went out an idea is looked for.</summary>
    private const int SaidIn = 3;

    /// <summary>From so many changed texts on, looking anew is quicker than following them.</summary>
    private const int Many = 500;

    private readonly PapersFile papers;
    private readonly Nearby nearby;
    private readonly Lock gate = new(),
        noted = new();
    private readonly Dictionary<int, Surrounded> known = [];
    private readonly Dictionary<Reference, HashSet<int>> listed = [];
    private readonly Dictionary<Reference, ulong> seen = [];
    private HashSet<Reference> touched = [];

    public Surroundings(PapersFile papers, Nearby nearby)
    {
        (this.papers, this.nearby) = (papers, nearby);
        papers.Written += Note;
    }

    /// <summary>How many ideas have been looked at.</summary>
    public int Count
    {
        get
        {
            lock (gate)
                return known.Count;
        }
    }

    /// <summary>Grows whenever something here changes.</summary>
    public int Version { get; private set; }

    /// <summary>Looks at what is remembered while nothing changes it.</summary>
    public T While<T>(Func<Func<int, Surrounded?>, T> look)
    {
        lock (gate)
            return look(idea => known.GetValueOrDefault(idea));
    }

    private void Note(Committed done)
    {
        lock (noted)
            foreach (var (table, row) in done.Rows)
                switch (table)
                {
                    case "slip":
                        touched.Add(new Reference(ThingKind.Slip, (int)row));
                        break;
                    case "source":
                        touched.Add(new Reference(ThingKind.Source, (int)row));
                        break;
                    case "piece" or "draft":
                        touched.Add(new Reference(ThingKind.Piece, (int)row));
                        break;
                }
    }

    /// <summary>Takes in what commands have changed.</summary>
    public void Follow()
    {
        lock (gate)
        {
            HashSet<Reference> now;
            lock (noted)
                (now, touched) = (touched, []);
            if (now.Count == 0 || known.Count == 0)
                return;
            if (now.Count > Many)
            {
                known.Clear();
                listed.Clear();
                seen.Clear();
                Version++;
                return;
            }
            papers.Read(db =>
            {
                foreach (var thing in now)
                    Follow(db, thing);
                return 0;
            });
        }
    }

    private void Follow(SqliteConnection db, Reference thing)
    {
        var text = TextOf(db, thing);
        var print = Print(text);
        if (seen.TryGetValue(thing, out var before) && before == print)
            return;
        seen[thing] = print;
        Version++;
        if (listed.Remove(thing, out var beside))
            foreach (var idea in beside)
                if (known.GetValueOrDefault(idea) is { } old)
                {
                    // What stood in a piece, and what a full list had left out, is looked for again.
                    if (thing.Kind == ThingKind.Piece || old.Near.Count >= Kept)
                        Forget(idea);
                    else
                        old.Near.RemoveAll(near => near.Thing == thing);
                }
        if (thing.Kind == ThingKind.Slip)
            Forget(thing.Number);
        if (text is null)
            return;
        foreach (var near in nearby.Nearest(text, Kept * 2, Floor, other => other.Kind == ThingKind.Slip && other != thing))
            if (known.GetValueOrDefault(near.Thing.Number) is { } idea)
            {
                if (thing.Kind == ThingKind.Piece)
                    Forget(near.Thing.Number);
                else
                    List(near.Thing.Number, idea, thing, (float)near.Likeness);
            }
    }

    private void Forget(int idea)
    {
        if (!known.Remove(idea, out var old))
            return;
        foreach (var thing in old.Near.Select(n => n.Thing).Concat(old.Said.Select(s => new Reference(ThingKind.Piece, s.Piece))))
            if (listed.TryGetValue(thing, out var beside))
                beside.Remove(idea);
    }

    private void List(int idea, Surrounded old, Reference thing, float likeness)
    {
        old.Near.RemoveAll(near => near.Thing == thing);
        old.Near.Add((thing, likeness));
        Beside(thing, idea);
        if (old.Near.Count <= Kept)
            return;
        var last = old.Near.MinBy(near => (near.Likeness, near.Thing.Number));
        old.Near.Remove(last);
        listed.GetValueOrDefault(last.Thing)?.Remove(idea);
    }

    private void Beside(Reference thing, int idea) => (CollectionsMarshal.GetValueRefOrAddDefault(listed, thing, out _) ??= []).Add(idea);

    /// <summary>Looks for what stands near some ideas.</summary>
    /// <param name="ideas">Numbers of slips, or of marked paragraphs below nothing, with what is to be looked for.</param>
    public void Look(SqliteConnection db, IEnumerable<(int Idea, string Text)> ideas)
    {
        var outs = db.Query<int>("SELECT number FROM piece WHERE out_on IS NOT NULL AND trashed_at IS NULL")
            .Select(number => new Reference(ThingKind.Piece, number))
            .ToList();
        var drafts = new Dictionary<int, string>();
        foreach (var (idea, text) in ideas)
        {
            var own = new Reference(ThingKind.Slip, idea);
            var near = nearby
                .Nearest(text, Kept, Floor, thing => thing.Kind is ThingKind.Slip or ThingKind.Source && thing != own)
                .Select(n => (n.Thing, (float)n.Likeness))
                .ToList();
            var said = nearby
                .NearestOf(text, outs, SaidIn, Core.Sift.ReadsLike.PieceFloor)
                .Select(piece => (piece.Thing.Number, Covering.Best(text, Draft(piece.Thing.Number), nearby.Rarity, SaidFloor)))
                .Where(piece => piece.Item2 is not null)
                .Select(piece => (piece.Number, (float)piece.Item2!.Share))
                .ToList();
            lock (gate)
            {
                Forget(idea);
                known[idea] = new Surrounded(near, said);
                foreach (var (thing, _) in near)
                    Beside(thing, idea);
                foreach (var (piece, _) in said)
                    Beside(new Reference(ThingKind.Piece, piece), idea);
                if (idea > 0)
                    seen[own] = Print(text);
                Version++;
            }
        }

        string Draft(int piece) =>
            drafts.TryGetValue(piece, out var draft)
                ? draft
                : drafts[piece] = db.ExecuteScalar<string>("SELECT text FROM piece_said WHERE piece = @piece", new { piece }) ?? "";
    }

    /// <summary>The text that a thing is compared by; null when it isn't there. Of a piece only what went out counts.</summary>
    private static string? TextOf(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @Number", new { thing.Number }),
            ThingKind.Source => db.QuerySingleOrDefault<string>(
                "SELECT title || char(10) || creators || char(10) || container || char(10) || summary || char(10) || comments "
                    + "FROM source WHERE number = @Number",
                new { thing.Number }
            ),
            _ => db.QuerySingleOrDefault<string>(
                "SELECT p.title || char(10) || d.text FROM piece p JOIN piece_said d ON d.piece = p.number "
                    + "WHERE p.number = @Number AND p.out_on IS NOT NULL AND p.trashed_at IS NULL",
                new { thing.Number }
            ),
        };

    private static ulong Print(string? text) => text is null ? 0 : XxHash3.HashToUInt64(MemoryMarshal.AsBytes(text.AsSpan()));

    public void Dispose() => papers.Written -= Note;
}
