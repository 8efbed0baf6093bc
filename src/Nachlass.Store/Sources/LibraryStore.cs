using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Sources;

/// <summary>Which part of the papers a list shows.</summary>
public enum InState { Sight, Waiting, Kept, Held, Dropped, Trashed, All }

/// <summary>What is asked of the library.</summary>
/// <param name="Query">Words; all must stand in the text.</param>
/// <param name="State">In sight (the default): waiting and kept slips, and sources.</param>
/// <param name="Kind">A kind of slip; null for all.</param>
/// <param name="Sources">True for sources only, false for slips only, null for both.</param>
/// <param name="Used">Whether a slip stands in a piece.</param>
public sealed record LibraryQuery(string? Query = null, InState State = InState.Sight, SlipKind? Kind = null, bool? Sources = null,
    TopicNumber? Topic = null, bool? Used = null, int Page = 1);

/// <summary>A slip or a source in a list. <paramref name="Excerpt"/> marks what was found between U+0002 and U+0003.</summary>
public sealed record LibraryEntry(Slip? Slip, Source? Source, string? Excerpt);

/// <summary>How many entries a filter would leave, with the other filters as they are.</summary>
public sealed record Facets(IReadOnlyDictionary<string, int> States, IReadOnlyDictionary<string, int> Kinds, IReadOnlyDictionary<int, int> Topics, int Used, int Unused);

/// <summary>Slips and sources in one list.</summary>
public sealed class LibraryStore(PapersFile papers)
{
    public const int PageSize = 50;

    /// <summary>A page of the list: by rank when words are asked for, else the newest first.</summary>
    public Paged<LibraryEntry> List(LibraryQuery query)
    {
        var page = query.Page is >= 1 and <= 1_000_000 ? query.Page : throw new BadInputException("page", "Pages are counted from 1.");
        var found = FindQuery.Read(query.Query);
        if (!string.IsNullOrWhiteSpace(query.Query) && found.Match.Length == 0) return new([], 0, page, PageSize);
        return papers.Read(db =>
        {
            var arguments = Arguments(query, found, page);
            var sql = ListSql(query, found);
            var rows = db.Query<(int Kind, int Number, string? Excerpt)>(sql, arguments).ToList();
            var total = db.ExecuteScalar<int>($"SELECT count(*) FROM ({Matching(query, found)})", arguments);
            var slips = db.Query<Slip>($"SELECT {SlipRows.Columns} FROM slip s WHERE s.number IN @numbers",
                new { numbers = rows.Where(r => r.Kind == 0).Select(r => r.Number) }).ToDictionary(s => s.Number.Value);
            var sources = db.Query<Source>($"SELECT {SourceRows.Columns} FROM source s WHERE s.number IN @numbers",
                new { numbers = rows.Where(r => r.Kind == 1).Select(r => r.Number) }).ToDictionary(s => s.Number.Value);
            return new Paged<LibraryEntry>([.. rows.Select(r => new LibraryEntry(
                r.Kind == 0 ? slips[r.Number] : null, r.Kind == 1 ? sources[r.Number] : null, r.Excerpt))], total, page, PageSize);
        });
    }

    /// <summary>What each filter would leave.</summary>
    public Facets Facets(LibraryQuery query) => papers.Read(db =>
    {
        var found = FindQuery.Read(query.Query);
        var arguments = Arguments(query, found, 1);
        return new Facets(
            Enum.GetValues<InState>().ToDictionary(s => s.Kept(), s => Count(query with { State = s })),
            Enum.GetValues<SlipKind>().ToDictionary(k => k.Kept(), k => Count(query with { Kind = k, Sources = null }))
                .Append(new("source", Count(query with { Kind = null, Sources = true }))).ToDictionary(),
            db.Query<(int Topic, int Count)>(
                $"""
                SELECT topic, count(*) FROM (
                    SELECT st.topic FROM ({Matching(query with { Topic = null }, found)}) e JOIN slip_topic st ON e.kind = 0 AND st.slip = e.number
                    UNION ALL SELECT st.topic FROM ({Matching(query with { Topic = null }, found)}) e JOIN source_topic st ON e.kind = 1 AND st.source = e.number)
                GROUP BY topic
                """, arguments).ToDictionary(r => r.Topic, r => r.Count),
            Count(query with { Used = true }), Count(query with { Used = false }));

        int Count(LibraryQuery other) => db.ExecuteScalar<int>($"SELECT count(*) FROM ({Matching(other, found)})", arguments);
    });

    /// <summary>The list query, whole; also for looking at its plan.</summary>
    internal static string ListSql(LibraryQuery query, FindQuery found) => found.Match.Length > 0
        ? $"""
          SELECT e.kind, e.number, snippet(finding, -1, char(2), char(3), '…', 28) FROM ({Matching(query, found)}) e
          JOIN finding ON finding.rowid = e.number * 8 + e.kind
          WHERE finding MATCH @Match ORDER BY bm25(finding, 3.0, 1.0), e.number DESC LIMIT @PageSize OFFSET @skip
          """
        : $"SELECT kind, number, NULL FROM ({Matching(query, found, newest: true)}) ORDER BY caught_at DESC, kind, number DESC LIMIT @PageSize OFFSET @skip";

    private static object Arguments(LibraryQuery query, FindQuery found, int page) => new
    {
        found.Match,
        query.Topic,
        PageSize,
        skip = (page - 1) * PageSize,
    };

    /// <summary>Kind (0 slip, 1 source), number and time of catching of all that match, or of as many of the newest as a page needs.</summary>
    private static string Matching(LibraryQuery query, FindQuery found, bool newest = false)
    {
        var parts = new List<string>();
        if (query.Sources != true && query.State != InState.Trashed) parts.Add(Slips(query, found));
        if (query.Sources != false && query.Kind is null && query.Used is null && query.State is InState.Sight or InState.Kept or InState.All or InState.Trashed)
            parts.Add(SourcesSql(query, found));
        return parts.Count == 0 ? "SELECT 0 AS kind, 0 AS number, '' AS caught_at WHERE 0" : string.Join(" UNION ALL ",
            newest ? parts.Select(part => $"SELECT * FROM ({part} ORDER BY s.caught_at DESC, s.number DESC LIMIT @PageSize + @skip)") : parts);
    }

    private static string Slips(LibraryQuery query, FindQuery found)
    {
        var where = new List<string> { query.State switch
        {
            InState.Waiting => "s.state = 'waiting'",
            InState.Kept => "s.state = 'kept'",
            InState.Held => "s.state = 'held'",
            InState.Dropped => "s.state = 'dropped'",
            InState.Sight => "s.state IN ('waiting', 'kept')",
            _ => "1",
        } };
        if (query.Kind is { } kind) where.Add($"s.kind = '{kind.Kept()}'");
        if (query.Topic is not null) where.Add("s.number IN (SELECT slip FROM slip_topic WHERE topic = @Topic)");
        if (query.Used is { } used) where.Add((used ? "" : "NOT ") + SlipRows.Used);
        if (found.Match.Length > 0) where.Add("s.number IN (SELECT rowid / 8 FROM finding WHERE finding MATCH @Match AND rowid % 8 = 0)");
        return $"SELECT 0 AS kind, s.number, s.caught_at FROM slip s WHERE {string.Join(" AND ", where)}";
    }

    private static string SourcesSql(LibraryQuery query, FindQuery found)
    {
        var where = new List<string> { query.State == InState.Trashed ? "s.trashed_at IS NOT NULL" : "s.trashed_at IS NULL" };
        if (query.Topic is not null) where.Add("s.number IN (SELECT source FROM source_topic WHERE topic = @Topic)");
        if (found.Match.Length > 0) where.Add("s.number IN (SELECT rowid / 8 FROM finding WHERE finding MATCH @Match AND rowid % 8 = 1)");
        return $"SELECT 1 AS kind, s.number, s.caught_at FROM source s WHERE {string.Join(" AND ", where)}";
    }
}
