using System.Collections;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Core.Text.Queries;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sources;

/// <summary>Which part of the papers a list shows.</summary>
public enum InState
{
    Sight,
    Waiting,
    Kept,
    Held,
    Dropped,
    Trashed,
    All,
}

/// <summary>What is asked of the library.</summary>
/// <param name="Query">A query; the last word may be unfinished. Where it names a state, <see cref="State"/> in sight gives way to
/// it.</param>
/// <param name="State">In sight (the default): waiting and kept slips, and sources.</param>
/// <param name="Kind">A kind of slip; null for all.</param>
/// <param name="Sources">True for sources only, false for slips only, null for both.</param>
/// <param name="Topic">A topic, with those under it.</param>
/// <param name="Used">Whether a slip stands in a piece.</param>
/// <param name="Sort">The order; the best first when words are asked for and none is given, else the newest first.</param>
public sealed record LibraryQuery(
    string? Query = null,
    InState State = InState.Sight,
    SlipKind? Kind = null,
    bool? Sources = null,
    TopicNumber? Topic = null,
    bool? Used = null,
    int Page = 1,
    ListSort? Sort = null,
    bool Upward = false
);

/// <summary>A slip or a source in a list. <paramref name="Excerpt"/> marks what was found between U+0002 and U+0003.</summary>
/// <param name="From">The title of the source that a slip is a passage of.</param>
/// <param name="Worth">How much now speaks for making something of a slip, 0 to 100; null when it is out of sight.</param>
/// <param name="Piece">The piece, where <paramref name="Other"/> is one.</param>
/// <param name="Other">A piece or a day sheet, where the query asks for those by <c>in:pieces</c> or <c>in:sheets</c>.</param>
public sealed record LibraryEntry(
    Slip? Slip,
    Source? Source,
    string? Excerpt,
    string? From = null,
    Hit? Other = null,
    double? Worth = null,
    Piece? Piece = null
);

/// <summary>How many entries a filter would leave, with the other filters as they are.</summary>
public sealed record Facets(
    IReadOnlyDictionary<string, int> States,
    IReadOnlyDictionary<string, int> Kinds,
    IReadOnlyDictionary<int, int> Topics,
    int Used,
    int Unused
);

/// <summary>Slips and sources in one list.</summary>
public sealed class LibraryStore(PapersFile papers, SlipColumns columns, WorthStore worth)
{
    public const int PageSize = 50;

    /// <summary>How many entries are given at once when all are asked for.</summary>
    public const int MostAtOnce = 5_000;

    /// <summary>A page of the list: by rank when words are asked for, else the newest first.</summary>
    /// <exception cref="BadInputException">The query can't be read.</exception>
    public Paged<LibraryEntry> List(LibraryQuery query)
    {
        var page = query.Page is >= 1 and <= 1_000_000 ? query.Page : throw new BadInputException("page", "Pages are counted from 1.");
        return papers.Read(db =>
        {
            var asked = Asked.Typed(db, papers, query.Query);
            var rows = Rows(db, query, asked, PageSize, (page - 1) * PageSize);
            // A page that is not full is the last one and says itself how many there are.
            var total =
                page == 1 && rows.Count < PageSize ? rows.Count
                : asked.IsBroad && asked.IsOnlyWords && query.Topic is null ? Counted(db, query, asked)
                : db.ExecuteScalar<int>(CountSql(query, asked), asked.Arguments);
            var isWeighed = query.Sort == ListSort.Worth || query.Query?.Contains("worth", StringComparison.OrdinalIgnoreCase) == true;
            return new Paged<LibraryEntry>(Entries(db, rows, isWeighed), total, page, PageSize);
        });
    }

    /// <summary>How many have words that stand nearly everywhere. The hits come as one value and slips are looked up by their columns, not
    /// row by row.</summary>
    private int Counted(SqliteConnection db, LibraryQuery query, Asked asked)
    {
        var (all, today) = (columns.Now(), papers.Today);
        var sources = HasSources(query)
            ? db.Query<int>($"SELECT s.number FROM source s WHERE {Sources(query)}", Arguments(query, asked)).ToHashSet()
            : [];
        var hits = db.ExecuteScalar<string>("SELECT group_concat(rowid) FROM finding WHERE finding MATCH @Match", asked.Arguments) ?? "";
        var count = 0;
        foreach (var range in hits.AsSpan().Split(','))
        {
            var row = long.Parse(hits.AsSpan(range), System.Globalization.CultureInfo.InvariantCulture);
            var number = (int)(row / 8);
            if (
                (row % 8) switch
                {
                    0 => IsSlipIn(number),
                    1 => sources.Contains(number),
                    _ => false,
                }
            )
                count++;
        }
        return count;

        bool IsSlipIn(int n) =>
            HasSlips(query)
            && n < all.Slips.Length
            && all.Slips[n].Exists
            && Passes(query, asked, all.StateOf(n, today), all.Slips[n].Kind, all.IsUsed(n));
    }

    /// <summary>All of a list in its order, up to <see cref="MostAtOnce"/>.</summary>
    public IReadOnlyList<LibraryEntry> All(LibraryQuery query) =>
        papers.Read(db => Entries(db, Rows(db, query, Asked.Typed(db, papers, query.Query), MostAtOnce, 0), true));

    private List<(int Kind, int Number, string? Excerpt)> Rows(SqliteConnection db, LibraryQuery query, Asked asked, int most, int skip)
    {
        if (query.Sort == ListSort.Worth)
            papers.Provide(db);
        var sql = ListSql(query, asked);
        asked.Arguments.AddDynamicParams(new { most, skip });
        return db.Query<(int Kind, int Number, string? Excerpt)>(sql, asked.Arguments).AsList();
    }

    /// <param name="isWeighed">Whether anybody looks at what the slips are worth; after a decision the ranking takes a moment.</param>
    private List<LibraryEntry> Entries(SqliteConnection db, List<(int Kind, int Number, string? Excerpt)> rows, bool isWeighed)
    {
        var slips = SlipRows.All(db, [.. rows.Where(r => r.Kind == 0).Select(r => r.Number)]);
        var sources = SourceRows.All(db, [.. rows.Where(r => r.Kind == 1).Select(r => r.Number)]);
        var pieces = PieceRows
            .List(db, "p.number IN @numbers", new { numbers = rows.Where(r => r.Kind == (int)ThingKind.Piece).Select(r => r.Number) })
            .ToDictionary(p => p.Number.Value);
        var titles = SourceRows.Titles(db, [.. slips.Values.Select(s => s.Source).OfType<SourceNumber>().Distinct()]);
        return
        [
            .. rows.Select(r => new LibraryEntry(
                r.Kind == 0 ? slips[r.Number] : null,
                r.Kind == 1 ? sources[r.Number] : null,
                r.Excerpt is null ? null : PlainText.Of(r.Excerpt),
                r.Kind == 0 && slips[r.Number].Source is { } of ? titles.GetValueOrDefault(of) : null,
                r.Kind is 0 or 1 ? null : FindStore.HitOf(db, r.Number * 8L + r.Kind, ""),
                r.Kind == 0 && isWeighed ? worth.WorthOf(r.Number) : null,
                r.Kind == (int)ThingKind.Piece ? pieces.GetValueOrDefault(r.Number) : null
            )),
        ];
    }

    /// <summary>What each filter would leave: all slips and sources the words and the topic leave are gone through once.</summary>
    public Facets Facets(LibraryQuery query) =>
        papers.Read(db =>
        {
            var asked = Asked.Typed(db, papers, query.Query);
            var open = query with { State = InState.All, Kind = null, Used = null, Sources = null };
            var all = columns.Now();
            var left = Left(db, open with { Topic = null }, asked, all);
            var onTopic = query.Topic is null ? left : Left(db, open, asked, all);
            var sources = db.Query<(bool Trashed, int Count)>(
                    "SELECT s.trashed_at IS NOT NULL, count(*) FROM source s "
                        + $"WHERE {Sources(open, anyState: true)} AND {asked.Whole(ThingKind.Source)} GROUP BY 1",
                    Arguments(query, asked)
                )
                .AsList();
            return Count(all, onTopic, sources, query, asked) with
            {
                Topics = TopicCounts(db, query with { Topic = null }, asked, all, left),
            };
        });

    /// <summary>The slips that the words and the topic leave.</summary>
    private static IReadOnlyList<int> Left(SqliteConnection db, LibraryQuery open, Asked asked, Columns all)
    {
        var condition = $"{Slips(open, asked)} AND {asked.Whole(ThingKind.Slip)}";
        return condition == "1 AND 1"
            ? [.. Enumerable.Range(0, all.Slips.Length).Where(n => all.Slips[n].Exists)]
            :
            [
                .. db.Query<int>($"SELECT s.number FROM slip s WHERE {condition}", Arguments(open, asked))
                    .Where(n => n < all.Slips.Length && all.Slips[n].Exists),
            ];
    }

    private Facets Count(Columns all, IReadOnlyList<int> slips, List<(bool Trashed, int Count)> sources, LibraryQuery query, Asked asked)
    {
        var today = papers.Today;
        var groups = slips
            .GroupBy(n => (State: all.StateOf(n, today), all.Slips[n].Kind, Used: all.IsUsed(n)))
            .Select(g => (g.Key.State, g.Key.Kind, g.Key.Used, Count: g.Count()))
            .ToList();
        return new Facets(
            Enum.GetValues<InState>().ToDictionary(s => s.Kept(), s => Left(query with { State = s })),
            Enum.GetValues<SlipKind>()
                .ToDictionary(k => k.Kept(), k => Left(query with { Kind = k, Sources = null }))
                .Append(new("source", Left(query with { Kind = null, Used = null, Sources = true })))
                .ToDictionary(),
            new Dictionary<int, int>(),
            Left(query with { Used = true }),
            Left(query with { Used = false })
        );

        int Left(LibraryQuery q) =>
            (HasSlips(q) ? groups.Where(g => Passes(q, asked, g.State, g.Kind, g.Used)).Sum(g => g.Count) : 0)
            + (HasSources(q) ? sources.Where(s => s.Trashed == (q.State == InState.Trashed)).Sum(s => s.Count) : 0);
    }

    private static bool Passes(LibraryQuery query, Asked asked, SlipState state, SlipKind kind, bool used) =>
        IsIn(StateOf(query, asked), state) && (query.Kind ?? kind) == kind && (query.Used ?? used) == used;

    private Dictionary<int, int> TopicCounts(SqliteConnection db, LibraryQuery query, Asked asked, Columns all, IReadOnlyList<int> left)
    {
        var counts = HasSources(query)
            ? db.Query<(int Topic, int Count)>(
                    "SELECT u.topic, count(DISTINCT s.number) "
                        + "FROM source s JOIN source_topic t ON t.source = s.number JOIN topic_under u ON u.under = t.topic "
                        + $"WHERE {Sources(query)} AND {asked.Whole(ThingKind.Source)} GROUP BY u.topic",
                    Arguments(query, asked)
                )
                .ToDictionary(c => c.Topic, c => c.Count)
            : [];
        if (!HasSlips(query))
            return counts;
        var (today, shown) = (papers.Today, new BitArray(all.Slips.Length));
        foreach (var n in left)
            shown[n] = Passes(query, asked, all.StateOf(n, today), all.Slips[n].Kind, all.IsUsed(n));
        var topics = db.Query<Topic>(TopicStore.Names).AsList();
        var under = TopicFigures.Under(all, topics);
        foreach (var topic in topics.Select(t => t.Number))
            if (under(topic).Count(slip => shown[slip]) is > 0 and var count)
                counts[topic.Value] = counts.GetValueOrDefault(topic.Value) + count;
        return counts;
    }

    /// <summary>The list query, whole; also for looking at its plan.</summary>
    internal static string ListSql(LibraryQuery query, Asked asked)
    {
        var arguments = Arguments(query, asked);
        // With words, the index gives the hits in order and an excerpt is made only for those that are shown.
        if (asked.Match.Length > 0 && query.Sort is null)
            return $"""
                SELECT finding.rowid % 8, finding.rowid / 8, snippet(finding, -1, char(2), char(3), '…', 28) FROM finding
                WHERE finding MATCH @Match AND ({Hits(query, asked)}) {asked.Order(3)} LIMIT @most OFFSET @skip
                """;
        var way = query.Upward ? "ASC" : "DESC";
        var parts = Parts(query, asked)
            .Select(part => (Part: part, Where: $"{part.Where} AND {asked.Whole(part.Of)}"))
            .Select(p => Selected(p.Part, p.Where, query.Sort, way, asked.FieldAsked ?? "1"))
            .ToList();
        if (parts.Count == 0)
            return Nothing;
        var order = query.Sort is null or ListSort.Caught ? $"caught_at {way}" : $"place IS NULL, place {way}, caught_at DESC";
        return $"""
            SELECT kind, number, NULL FROM ({string.Join(" UNION ALL ", parts)})
            ORDER BY {order}, kind, number DESC LIMIT @most OFFSET @skip
            """;
    }

    private static string Selected(Part part, string where, ListSort? sort, string way, string field)
    {
        var isSlip = part.Of == ThingKind.Slip;
        var place = sort switch
        {
            ListSort.Pull when isSlip => "s.pull",
            ListSort.Effort when isSlip => "s.effort",
            ListSort.Kind when isSlip => "s.kind",
            ListSort.State when isSlip => "s.state",
            ListSort.Stage when part.Of == ThingKind.Piece => "s.stage",
            ListSort.Due when part.Of == ThingKind.Piece => "coalesce(s.out_on, s.due)",
            // Numbers as numbers, and before words.
            ListSort.Field when part.Of == ThingKind.Piece =>
                "(SELECT CASE WHEN x.value GLOB '*[0-9]*' AND substr(x.value, 2) NOT GLOB '*[^0-9.]*' "
                    + $"THEN CAST(x.value AS REAL) ELSE lower(x.value) END FROM piece_field x "
                    + $"WHERE x.piece = s.number AND {field} ORDER BY x.key LIMIT 1)",
            ListSort.Worth when isSlip => "worth(s.number)",
            ListSort.Number => part.Number,
            ListSort.Text => part.Title,
            _ => "NULL",
        };
        var order =
            place == "NULL"
                ? $"{part.Caught} {(sort is null or ListSort.Caught ? way : "DESC")}, {part.Number} DESC"
                : $"{place} IS NULL, {place} {way}, {part.Caught} DESC";
        return $"SELECT * FROM (SELECT {part.Kind} AS kind, {part.Number} AS number, {part.Caught} AS caught_at, {place} AS place "
            + $"FROM {part.Table} s WHERE {where} ORDER BY {order} LIMIT @most + @skip)";
    }

    private static string CountSql(LibraryQuery query, Asked asked)
    {
        if (asked.Match.Length > 0)
            return $"SELECT count(*) FROM finding WHERE finding MATCH @Match AND ({Hits(query, asked)})";
        var parts = Parts(query, asked)
            .Select(part => $"(SELECT count(*) FROM {part.Table} s WHERE {part.Where} AND {asked.For(part.Of)})")
            .ToList();
        return "SELECT " + (parts.Count == 0 ? "0" : string.Join(" + ", parts));
    }

    private const string Nothing = "SELECT 0, 0, NULL WHERE 0";

    /// <summary>Which hits of the full-text index the filters let through.</summary>
    private static string Hits(LibraryQuery query, Asked asked)
    {
        var parts = Parts(query, asked)
            .Select(part => part with { Where = asked.IsOnlyWords ? part.Where : $"{part.Where} AND {asked.For(part.Of)}" })
            .Select(part =>
                part.Where == "1"
                    ? $"finding.rowid % 8 = {part.Kind}"
                    : $"(finding.rowid % 8 = {part.Kind} AND EXISTS (SELECT 1 FROM {part.Table} s "
                        + $"WHERE {part.Number} = finding.rowid / 8 AND {part.Where}))"
            )
            .ToList();
        return parts.Count == 0 ? "0" : string.Join(" OR ", parts);
    }

    /// <summary>A kind of thing in the list, as a table with its number, its time and its title.</summary>
    private sealed record Part(ThingKind Of, string Where)
    {
        public int Kind => (int)Of;
        public string Table => Of == ThingKind.Day ? "day_sheet" : Of.Kept();
        public string Number => Of == ThingKind.Day ? "s.day_number" : "s.number";

        public string Caught =>
            Of switch
            {
                ThingKind.Day => "s.day",
                ThingKind.Piece => "s.changed_at",
                _ => "s.caught_at",
            };

        public string Title =>
            Of switch
            {
                ThingKind.Slip => "lower(substr(s.text, 1, 80))",
                ThingKind.Day => "s.day",
                _ => "lower(s.title)",
            };
    }

    private static IEnumerable<Part> Parts(LibraryQuery query, Asked asked)
    {
        if (HasSlips(query) && asked.For(ThingKind.Slip) != "0")
            yield return new Part(ThingKind.Slip, Slips(query, asked));
        if (HasSources(query) && asked.For(ThingKind.Source) != "0")
            yield return new Part(ThingKind.Source, Sources(query));
        // Pieces and sheets have places of their own; here they stand only when they are asked for.
        if (HasOthers(query) && Asks(asked, "pieces"))
            yield return new Part(
                ThingKind.Piece,
                "s.trashed_at IS NULL"
                    + (
                        query.Topic is null
                            ? ""
                            : " AND s.number IN (SELECT piece FROM piece_topic "
                                + "WHERE topic IN (SELECT under FROM topic_under WHERE topic = @Topic))"
                    )
            );
        if (HasOthers(query) && query.Topic is null && Asks(asked, "sheets"))
            yield return new Part(ThingKind.Day, "1");
    }

    private static bool HasOthers(LibraryQuery query) =>
        query is { Sources: null, Kind: null, Used: null, State: InState.Sight or InState.All };

    private static bool Asks(Asked asked, string place) =>
        asked
            .Query.Leaves()
            .OfType<Query.Field>()
            .Any(field =>
                (field.Name == QueryField.In && field.Value == place)
                // Only pieces have these, so whoever asks for them asks for pieces.
                || (place == "pieces" && field.Name is QueryField.Stage or QueryField.Due or QueryField.Field)
            );

    private static DynamicParameters Arguments(LibraryQuery query, Asked asked)
    {
        asked.Arguments.Add("Topic", query.Topic?.Value);
        return asked.Arguments;
    }

    private static bool HasSlips(LibraryQuery query) => query.Sources != true && query.State != InState.Trashed;

    private static bool HasSources(LibraryQuery query) =>
        query.Sources != false
        && query.Kind is null
        && query.Used is null
        && query.State is InState.Sight or InState.Kept or InState.All or InState.Trashed;

    /// <summary>A query that names a state has said which it wants.</summary>
    private static InState StateOf(LibraryQuery query, Asked asked) =>
        query.State == InState.Sight && (asked.Query.Names(QueryField.State) || asked.Query.Names(QueryField.Held))
            ? InState.All
            : query.State;

    private static bool IsIn(InState asked, SlipState now) =>
        asked switch
        {
            InState.Sight => now is SlipState.Waiting or SlipState.Kept,
            InState.Waiting => now == SlipState.Waiting,
            InState.Kept => now == SlipState.Kept,
            InState.Held => now == SlipState.Held,
            InState.Dropped => now == SlipState.Dropped,
            InState.Trashed => false,
            _ => true,
        };

    private static string Slips(LibraryQuery query, Asked asked)
    {
        var where = new List<string>();
        var state = StateOf(query, asked);
        if (state != InState.All)
            where.Add(
                state switch
                {
                    // Nearly all are in sight: the plus keeps the planner off the state's index and on the one that has them in order.
                    InState.Sight => "(+s.state IN ('waiting', 'kept') OR (+s.state = 'held' AND s.held_until <= @today))",
                    _ => Asked.State(state.Kept()),
                }
            );
        if (query.Kind is { } kind)
            where.Add($"s.kind = '{kind.Kept()}'");
        if (query.Topic is not null)
            where.Add("s.number IN (SELECT slip FROM slip_topic WHERE topic IN (SELECT under FROM topic_under WHERE topic = @Topic))");
        if (query.Used is { } used)
            where.Add((used ? "" : "NOT ") + SlipRows.Used);
        return where.Count == 0 ? "1" : string.Join(" AND ", where);
    }

    private static string Sources(LibraryQuery query, bool anyState = false)
    {
        var where = new List<string>();
        if (!anyState)
            where.Add(query.State == InState.Trashed ? "s.trashed_at IS NOT NULL" : "s.trashed_at IS NULL");
        if (query.Topic is not null)
            where.Add("s.number IN (SELECT source FROM source_topic WHERE topic IN (SELECT under FROM topic_under WHERE topic = @Topic))");
        return where.Count == 0 ? "1" : string.Join(" AND ", where);
    }
}
