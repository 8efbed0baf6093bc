using Dapper;
using Microsoft.Data.Sqlite;
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
            var rows = db.Query<(int Kind, int Number, string? Excerpt)>(ListSql(query, found), arguments).AsList();
            // A page that is not full is the last one and says itself how many there are.
            var total = page == 1 && rows.Count < PageSize ? rows.Count : db.ExecuteScalar<int>(CountSql(query, found), arguments);
            var slips = SlipRows.All(db, [.. rows.Where(r => r.Kind == 0).Select(r => r.Number)]);
            var sources = SourceRows.All(db, [.. rows.Where(r => r.Kind == 1).Select(r => r.Number)]);
            return new Paged<LibraryEntry>([.. rows.Select(r => new LibraryEntry(
                r.Kind == 0 ? slips[r.Number] : null, r.Kind == 1 ? sources[r.Number] : null, r.Excerpt))], total, page, PageSize);
        });
    }

    /// <summary>What each filter would leave: all slips and sources the words and the topic leave are gone through once.</summary>
    public Facets Facets(LibraryQuery query) => papers.Read(db =>
    {
        var found = FindQuery.Read(query.Query);
        if (!string.IsNullOrWhiteSpace(query.Query) && found.Match.Length == 0) return Count([], [], query);
        var arguments = Arguments(query, found, 1);
        var open = query with { State = InState.All, Kind = null, Used = null, Sources = null };
        // Grouped as the index slip_filters has them, so that no text is read; what is used is few, and looked up by itself.
        var condition = Where(Slips(open), found, 0);
        var slips = db.Query<SlipGroup>(
            $"""
            SELECT s.state, s.kind, s.held_until, 0 AS used, count(*) AS count FROM slip s WHERE {condition} GROUP BY s.state, s.kind, s.held_until
            UNION ALL
            SELECT s.state, s.kind, s.held_until, 1, count(*) FROM slip s WHERE s.number IN ({UsedSlips}) AND {condition} GROUP BY s.state, s.kind, s.held_until
            """, arguments).AsList();
        var sources = db.Query<(bool Trashed, int Count)>(
            $"SELECT s.trashed_at IS NOT NULL, count(*) FROM source s WHERE {Where(Sources(open, anyState: true), found, 1)} GROUP BY 1", arguments).AsList();
        return Count(slips, sources, query) with { Topics = TopicCounts(db, query with { Topic = null }, found, arguments) };
    });

    /// <summary>Slips alike in all that a filter asks about; those that are used are counted once among all and once by themselves.</summary>
    private sealed record SlipGroup
    {
        public SlipState State { get; init; }
        public SlipKind Kind { get; init; }
        public DateOnly? HeldUntil { get; init; }
        public bool Used { get; init; }
        public int Count { get; init; }
    }

    private Facets Count(List<SlipGroup> slips, List<(bool Trashed, int Count)> sources, LibraryQuery query)
    {
        var today = papers.Today;
        return new Facets(
            Enum.GetValues<InState>().ToDictionary(s => s.Kept(), s => Left(query with { State = s })),
            Enum.GetValues<SlipKind>().ToDictionary(k => k.Kept(), k => Left(query with { Kind = k, Sources = null }))
                .Append(new("source", Left(query with { Kind = null, Used = null, Sources = true }))).ToDictionary(),
            new Dictionary<int, int>(), Left(query with { Used = true }), Left(query with { Used = false }));

        int Left(LibraryQuery q) =>
            (HasSlips(q) ? Slips(q) : 0) + (HasSources(q) ? sources.Where(s => s.Trashed == (q.State == InState.Trashed)).Sum(s => s.Count) : 0);

        int Slips(LibraryQuery q) => slips
            .Where(s => IsIn(q.State, s.State == SlipState.Held && s.HeldUntil <= today ? SlipState.Waiting : s.State) && (q.Kind ?? s.Kind) == s.Kind)
            .Sum(s => q.Used switch { null => s.Used ? 0 : s.Count, true => s.Used ? s.Count : 0, false => s.Used ? -s.Count : s.Count });
    }

    private static Dictionary<int, int> TopicCounts(SqliteConnection db, LibraryQuery query, FindQuery found, object arguments)
    {
        var parts = new List<string>();
        if (HasSlips(query)) parts.Add($"SELECT t.topic FROM slip s JOIN slip_topic t ON t.slip = s.number WHERE {Where(Slips(query), found, 0)}");
        if (HasSources(query)) parts.Add($"SELECT t.topic FROM source s JOIN source_topic t ON t.source = s.number WHERE {Where(Sources(query), found, 1)}");
        return parts.Count == 0 ? [] : db.Query<(int Topic, int Count)>($"SELECT topic, count(*) FROM ({string.Join(" UNION ALL ", parts)}) GROUP BY topic", arguments)
            .ToDictionary(r => r.Topic, r => r.Count);
    }

    /// <summary>The list query, whole; also for looking at its plan.</summary>
    internal static string ListSql(LibraryQuery query, FindQuery found)
    {
        // With words, the index gives the hits in order and an excerpt is made only for those that are shown.
        if (found.Match.Length > 0)
            return $"""
                SELECT finding.rowid % 8, finding.rowid / 8, snippet(finding, -1, char(2), char(3), '…', 28) FROM finding
                WHERE finding MATCH @Match AND rank MATCH 'bm25(3.0, 1.0)' AND ({Hits(query)}) ORDER BY rank LIMIT @PageSize OFFSET @skip
                """;
        var parts = Parts(query).Select(part =>
            $"SELECT * FROM (SELECT {part.Kind} AS kind, s.number, s.caught_at FROM {part.Table} s WHERE {part.Where} ORDER BY s.caught_at DESC, s.number DESC LIMIT @PageSize + @skip)").ToList();
        return parts.Count == 0 ? Nothing
            : $"SELECT kind, number, NULL FROM ({string.Join(" UNION ALL ", parts)}) ORDER BY caught_at DESC, kind, number DESC LIMIT @PageSize OFFSET @skip";
    }

    private static string CountSql(LibraryQuery query, FindQuery found)
    {
        if (found.Match.Length > 0) return $"SELECT count(*) FROM finding WHERE finding MATCH @Match AND ({Hits(query)})";
        var parts = Parts(query).Select(part => $"(SELECT count(*) FROM {part.Table} s WHERE {part.Where})").ToList();
        return "SELECT " + (parts.Count == 0 ? "0" : string.Join(" + ", parts));
    }

    private const string Nothing = "SELECT 0, 0, NULL WHERE 0";

    /// <summary>Which hits of the full-text index the filters let through.</summary>
    private static string Hits(LibraryQuery query)
    {
        var parts = Parts(query).Select(part => part.Where == "1" ? $"finding.rowid % 8 = {part.Kind}"
            : $"(finding.rowid % 8 = {part.Kind} AND EXISTS (SELECT 1 FROM {part.Table} s WHERE s.number = finding.rowid / 8 AND {part.Where}))").ToList();
        return parts.Count == 0 ? "0" : string.Join(" OR ", parts);
    }

    private static IEnumerable<(int Kind, string Table, string Where)> Parts(LibraryQuery query)
    {
        if (HasSlips(query)) yield return (0, "slip", Slips(query));
        if (HasSources(query)) yield return (1, "source", Sources(query));
    }

    private object Arguments(LibraryQuery query, FindQuery found, int page) => new
    {
        found.Match,
        query.Topic,
        PageSize,
        skip = (page - 1) * PageSize,
        today = papers.Today,
    };

    private static bool HasSlips(LibraryQuery query) => query.Sources != true && query.State != InState.Trashed;

    private static bool HasSources(LibraryQuery query) => query.Sources != false && query.Kind is null && query.Used is null
        && query.State is InState.Sight or InState.Kept or InState.All or InState.Trashed;

    /// <summary>The same as <see cref="SlipRows.Used"/>, gathered once for a list of many.</summary>
    private const string UsedSlips = "SELECT slip FROM material WHERE section IS NOT NULL AND slip IS NOT NULL UNION SELECT to_number FROM link WHERE to_kind = 'slip' AND from_kind = 'piece'";

    private static bool IsIn(InState asked, SlipState now) => asked switch
    {
        InState.Sight => now is SlipState.Waiting or SlipState.Kept,
        InState.Waiting => now == SlipState.Waiting,
        InState.Kept => now == SlipState.Kept,
        InState.Held => now == SlipState.Held,
        InState.Dropped => now == SlipState.Dropped,
        InState.Trashed => false,
        _ => true,
    };

    private static string Slips(LibraryQuery query)
    {
        const string back = "(s.state = 'held' AND s.held_until <= @today)";
        var where = new List<string>();
        if (query.State != InState.All) where.Add(query.State switch
        {
            InState.Waiting => $"(s.state = 'waiting' OR {back})",
            InState.Kept => "s.state = 'kept'",
            InState.Held => "s.state = 'held' AND s.held_until > @today",
            InState.Dropped => "s.state = 'dropped'",
            // Nearly all are in sight: the plus keeps the planner off the state's index and on the one that has them in order.
            _ => $"(+s.state IN ('waiting', 'kept') OR {back.Replace("s.state", "+s.state", StringComparison.Ordinal)})",
        });
        if (query.Kind is { } kind) where.Add($"s.kind = '{kind.Kept()}'");
        if (query.Topic is not null) where.Add("s.number IN (SELECT slip FROM slip_topic WHERE topic = @Topic)");
        if (query.Used is { } used) where.Add((used ? "" : "NOT ") + SlipRows.Used);
        return where.Count == 0 ? "1" : string.Join(" AND ", where);
    }

    private static string Sources(LibraryQuery query, bool anyState = false)
    {
        var where = new List<string>();
        if (!anyState) where.Add(query.State == InState.Trashed ? "s.trashed_at IS NOT NULL" : "s.trashed_at IS NULL");
        if (query.Topic is not null) where.Add("s.number IN (SELECT source FROM source_topic WHERE topic = @Topic)");
        return where.Count == 0 ? "1" : string.Join(" AND ", where);
    }

    /// <summary>A condition narrowed to what the words leave.</summary>
    private static string Where(string condition, FindQuery found, int kind) => found.Match.Length == 0 ? condition
        : $"{condition} AND s.number IN (SELECT rowid / 8 FROM finding WHERE finding MATCH @Match AND rowid % 8 = {kind})";
}
