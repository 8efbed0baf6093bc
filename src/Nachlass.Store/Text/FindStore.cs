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
                if (rowId % 8 == Moments)
                {
                    if (Moment(db, rowId / 8, excerpt) is { } moment) hits.Add(moment);
                    continue;
                }
                if (rowId % 8 == Files)
                {
                    if (File(db, rowId / 8, excerpt) is { } file) hits.Add(file);
                    continue;
                }
                var thing = new Reference((ThingKind)(rowId % 8), (int)(rowId / 8));
                if (hits.Any(h => h.Thing == thing) || Note(db, thing) is not { } note) continue;
                hits.Add(new Hit(thing, Links.TitleOf(db, thing) ?? "", excerpt, note, Reading.AddressOf(thing)));
            }
            return hits;
        });
    }

    /// <summary>The kind of a line of a transcript in the index, beside those of <see cref="ThingKind"/>.</summary>
    internal const int Moments = 5;

    /// <summary>The kind of an attached file in the index.</summary>
    internal const int Files = 6;

    /// <summary>A file, at the thing it is tied to.</summary>
    private static Hit? File(Microsoft.Data.Sqlite.SqliteConnection db, long number, string excerpt)
    {
        var row = db.QuerySingleOrDefault<(int? Slip, int? Source, int? Piece, string Name)?>("SELECT slip, source, piece, name FROM attachment WHERE number = @number", new { number });
        if (row is not { } at) return null;
        var thing = at.Slip is { } slip ? new Reference(ThingKind.Slip, slip) : at.Source is { } source ? new Reference(ThingKind.Source, source) : new Reference(ThingKind.Piece, at.Piece!.Value);
        return Note(db, thing) is null ? null : new Hit(thing, at.Name, excerpt, "file", Reading.AddressOf(thing));
    }

    /// <summary>A moment of what was said; null when the source is in the trash.</summary>
    private static Hit? Moment(Microsoft.Data.Sqlite.SqliteConnection db, long line, string excerpt)
    {
        var row = db.QuerySingleOrDefault<(int Source, int From, string Title)?>(
            "SELECT s.number, l.from_ms, s.title FROM transcript_line l JOIN source s ON s.number = l.source WHERE l.id = @line AND s.trashed_at IS NULL", new { line });
        return row is not { } at ? null : new Hit(new Reference(ThingKind.Source, at.Source), at.Title, excerpt, $"at {Core.Sources.Transcript.Clock(at.From)}",
            $"{Reading.AddressOf(new Reference(ThingKind.Source, at.Source))}?at={at.From / 1000}");
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
