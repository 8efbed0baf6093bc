using Dapper;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>Something found. <paramref name="Excerpt"/> marks the words between U+0002 and U+0003.</summary>
/// <param name="Address">Where in the app it is shown.</param>
/// <param name="Note">Where it stands: a slip's state, a source's type, a piece's stage.</param>
public sealed record Hit(Reference Thing, string Title, string Excerpt, string Note, string Address);

/// <summary>Finds anything by words or number.</summary>
public sealed class FindStore(PapersFile papers)
{
    public const int Most = 20;

    /// <summary>The best hits; things with the number that was typed come first.</summary>
    public IReadOnlyList<Hit> Find(string? typed)
    {
        var query = FindQuery.Read(typed);
        if (query.Match.Length == 0) return [];
        return papers.Read(db =>
        {
            var hits = new List<Hit>();
            if (query.Number is { } number)
                foreach (var kind in query.Kind is { } only ? [only] : (ThingKind[])[ThingKind.Slip, ThingKind.Piece, ThingKind.Source])
                    if (Links.TitleOf(db, new Reference(kind, number)) is { } title)
                        hits.Add(new Hit(new Reference(kind, number), title, "", "", Reading.AddressOf(new Reference(kind, number))));
            var rows = db.Query<(long RowId, string Excerpt)>(
                """
                SELECT rowid, snippet(finding, -1, char(2), char(3), '…', 20) FROM finding WHERE finding MATCH @Match
                AND rank MATCH 'bm25(4.0, 1.0)' ORDER BY rank LIMIT @Most
                """, new { query.Match, Most });
            foreach (var (rowId, excerpt) in rows)
            {
                var thing = new Reference((ThingKind)(rowId % 8), (int)(rowId / 8));
                if (hits.Any(h => h.Thing == thing) || Note(db, thing) is not { } note) continue;
                hits.Add(new Hit(thing, Links.TitleOf(db, thing) ?? "", excerpt, note, Reading.AddressOf(thing)));
            }
            return hits;
        });
    }

    /// <summary>Where a thing stands; null for what was merged or trashed, which is not offered.</summary>
    private static string? Note(Microsoft.Data.Sqlite.SqliteConnection db, Reference thing) => thing.Kind switch
    {
        ThingKind.Slip => db.ExecuteScalar<string>("SELECT state FROM slip WHERE number = @Number", new { thing.Number }),
        ThingKind.Source => db.ExecuteScalar<string>("SELECT type FROM source WHERE number = @Number AND trashed_at IS NULL", new { thing.Number }),
        ThingKind.Piece => db.ExecuteScalar<string>("SELECT stage FROM piece WHERE number = @Number AND trashed_at IS NULL", new { thing.Number }),
        ThingKind.Topic => db.ExecuteScalar<string>("SELECT 'topic' FROM topic WHERE number = @Number AND merged_into IS NULL", new { thing.Number }),
        _ => "day sheet",
    };

    /// <summary>Where a name between double brackets leads, or null.</summary>
    public string? AddressOf(string name) => papers.Read(db => (References.Read(name).Thing ?? Links.Named(db, name.Trim())) is { } thing ? Reading.AddressOf(thing) : null);
}
