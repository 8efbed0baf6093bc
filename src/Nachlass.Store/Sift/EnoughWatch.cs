using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Sift;

/// <summary>
/// Brings slips back that were held until there are enough sources. A source speaks to a slip when a passage or note of it links to the
/// slip,
/// or the slip to it, or when it reads like the slip. Looked at whenever a source or a passage has changed.
/// </summary>
public sealed class EnoughWatch : IDisposable
{
    private readonly PapersFile papers;
    private readonly Nearby nearby;
    private Task looking = Task.CompletedTask;

    public EnoughWatch(PapersFile papers, Nearby nearby)
    {
        (this.papers, this.nearby) = (papers, nearby);
        papers.Written += Follow;
    }

    /// <summary>The sources that speak to a slip.</summary>
    public IReadOnlyList<SourceNumber> Speaking(SlipNumber slip) => papers.Read(db => Speaking(db, slip));

    /// <summary>Brings back every held slip that has enough, each as a step of its own.</summary>
    public void Look()
    {
        var enough = papers.Read(db =>
            db.Query<(int Number, int Wanted)>(
                    "SELECT number, held_sources FROM slip WHERE held_sources IS NOT NULL AND state = 'held' AND held_until IS NULL"
                )
                .ToList()
                .Select(s => (Slip: SlipNumber.Of(s.Number), s.Wanted, Sources: Speaking(db, SlipNumber.Of(s.Number))))
                .Where(s => s.Sources.Count >= s.Wanted)
                .ToList()
        );
        foreach (var (slip, wanted, sources) in enough)
            papers.Run(
                $"slip {slip} came back",
                Once.Unkeyed,
                change =>
                {
                    var which = string.Join(", ", sources.Select(s => $"source {s}"));
                    change.What = $"slip {slip} came back: {sources.Count} sources speak to it ({which})";
                    // Held until today is what every list already knows as back.
                    return change.Db.Execute(
                        "UPDATE slip SET held_until = @Today, version = version + 1 "
                            + "WHERE number = @slip AND state = 'held' AND held_until IS NULL AND held_sources = @wanted",
                        new
                        {
                            change.Today,
                            slip,
                            wanted,
                        }
                    );
                }
            );
    }

    /// <summary>Waits until what was begun is done.</summary>
    internal void Settle() => looking.Wait();

    private List<SourceNumber> Speaking(SqliteConnection db, SlipNumber slip)
    {
        var text = db.QuerySingle<string>("SELECT text FROM slip WHERE number = @slip", new { slip });
        var linked = db.Query<int>(
            """
            SELECT from_number FROM link WHERE to_kind = 'slip' AND to_number = @slip AND from_kind = 'source'
            UNION SELECT p.source FROM link l JOIN slip p ON p.number = l.from_number
                WHERE l.to_kind = 'slip' AND l.to_number = @slip AND l.from_kind = 'slip' AND p.source IS NOT NULL
            UNION SELECT to_number FROM link WHERE from_kind = 'slip' AND from_number = @slip AND to_kind = 'source'
            """,
            new { slip }
        );
        var near = nearby
            .Nearest(
                text,
                60,
                ReadsLike.AgainFloor,
                thing => thing.Kind is ThingKind.Source or ThingKind.Slip && thing != Reference.To(slip)
            )
            .Select(n => n.Thing)
            .ToList();
        var passages = db.Query<int>(
            "SELECT DISTINCT source FROM slip WHERE source IS NOT NULL AND state <> 'dropped' AND number IN (SELECT value "
                + "FROM json_each(@slips))",
            new { slips = Mapping.List(near.Where(n => n.Kind == ThingKind.Slip).Select(n => n.Number)) }
        );
        var all = linked.Concat(passages).Concat(near.Where(n => n.Kind == ThingKind.Source).Select(n => n.Number)).Distinct().Order();
        return
        [
            .. db.Query<int>(
                    "SELECT number FROM source WHERE trashed_at IS NULL AND number IN (SELECT value FROM json_each(@all)) ORDER BY number",
                    new { all = Mapping.List(all) }
                )
                .Select(SourceNumber.Of),
        ];
    }

    private void Follow(Committed done)
    {
        // Links and passages are rows of their own; a slip that is merely decided about changes nothing here.
        if (!done.Rows.Any(r => r.Table is "source" or "link" or "slip"))
            return;
        looking = looking.ContinueWith(_ => Look(), TaskScheduler.Default);
    }

    public void Dispose()
    {
        papers.Written -= Follow;
        looking.Wait();
    }
}
