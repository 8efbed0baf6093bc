using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Text;

/// <summary>Something found. <paramref name="Excerpt"/> marks the words between U+0002 and U+0003.</summary>
/// <param name="Address">Where in the app it is shown.</param>
/// <param name="Note">Where it stands: a slip's state, a source's type, a piece's stage.</param>
/// <param name="IsNamed">Whether what was typed is its name; such a thing comes before any text that says it.</param>
public sealed record Hit(Reference Thing, string Title, string Excerpt, string Note, string Address, bool IsNamed = false);

/// <summary>A piece in which what was asked has been said.</summary>
/// <param name="OutOn">When it went out; null while it is in work.</param>
/// <param name="Saying">The passage, with how much of what was asked stands in it.</param>
public sealed record SaidAlready(PieceNumber Piece, string Title, string Format, string Stage, DateOnly? OutOn, Covered Saying);

/// <summary>What was found.</summary>
/// <param name="Covered">Releases and drafts that say it, the fullest first.</param>
/// <param name="Total">How many there are of the hits; they are the first of them. It is not counted beyond
/// <see cref="FindStore.MostCounted"/> and one.</param>
public sealed record Findings(IReadOnlyList<SaidAlready> Covered, IReadOnlyList<Hit> Hits, int Total);

/// <summary>How a query was understood.</summary>
/// <param name="Said">In plain words; empty when it can't be read.</param>
/// <param name="Query">As it is kept; null when it can't be read.</param>
/// <param name="Problem">What is wrong, and where.</param>
/// <param name="Completions">What could stand at the caret.</param>
public sealed record QueryUnderstood(string Said, string? Query, QueryProblem? Problem, IReadOnlyList<Completion> Completions);

/// <summary>Finds anything by words, number or query.</summary>
public sealed class FindStore(PapersFile papers, Nearby nearby)
{
    public const int Most = 20;

    private const int MostSaid = 3,
        MostNamed = 4,
        MostRecent = 8;

    /// <summary>Beyond this many hits nobody counts.</summary>
    public const int MostCounted = 1_000;

    /// <summary>How many of the nearest pieces are read for a passage.</summary>
    private const int PiecesRead = 8;

    /// <summary>The best hits, with what has been said about it; things with the number that was typed come first.</summary>
    /// <exception cref="BadInputException">The query can't be read.</exception>
    public Findings Find(string? typed)
    {
        if (string.IsNullOrWhiteSpace(typed))
            return new([], [], 0);
        return papers.Read(db =>
        {
            var asked = Asked.Typed(db, papers, typed);
            var hits = Numbered(db, typed.Trim());
            if (DateInText.Whole(typed, papers.Today) is { } day)
                hits.Add(SheetOf(day));
            hits.AddRange(Called(db, typed.Trim()).Where(named => hits.All(h => h.Thing != named.Thing)));
            if (asked.IsBroad && asked.Query is Query.Words begun)
                hits.AddRange(Named(db, begun.Text).Where(named => hits.All(h => h.Thing != named.Thing)));
            var total = 0;
            foreach (var (rowId, excerpt) in asked.Match.Length > 0 ? ByWords(db, asked, out total) : ByFields(db, asked, out total))
                if (HitOf(db, rowId, excerpt) is { } hit && (rowId % 8 is Moments or Files || hits.All(h => h.Thing != hit.Thing)))
                    hits.Add(hit);
            // Asked in words, not by fields: then the first question is whether it has been said.
            var words = asked.IsOnlyWords ? string.Join(' ', asked.Query.Leaves().OfType<Query.Words>().Select(w => w.Text)) : "";
            return new Findings(words.Length < 3 ? [] : Said(db, words, onlyOut: false, Covering.Floor), hits, Math.Max(total, hits.Count));
        });
    }

    /// <summary>Releases and drafts in which a text has been said already, the fullest first.</summary>
    internal List<SaidAlready> Said(SqliteConnection db, string text, bool onlyOut, double floor)
    {
        var rows = db.Query<(int Number, string Title, string Format, string Stage, DateOnly? OutOn)>(
                "SELECT number, title, format, stage, out_on FROM piece "
                    + "WHERE trashed_at IS NULL AND (out_on IS NOT NULL OR NOT @onlyOut)",
                new { onlyOut }
            )
            .ToDictionary(p => p.Number);
        var nearest = nearby.NearestOf(text, rows.Keys.Select(number => new Reference(ThingKind.Piece, number)), PiecesRead, 0);
        var drafts = db.Query<(int Piece, string Text)>(
            "SELECT piece, text FROM piece_said WHERE piece IN (SELECT value FROM json_each(@numbers))",
            new { numbers = Mapping.List(nearest.Select(n => n.Thing.Number)) }
        );
        return
        [
            .. drafts
                .Select(d => (Piece: rows[d.Piece], Saying: Covering.Best(text, d.Text, nearby.Rarity, floor)))
                .Where(d => d.Saying is not null)
                .OrderByDescending(d => d.Saying!.Share)
                .ThenByDescending(d => d.Piece.OutOn)
                .ThenBy(d => d.Piece.Number)
                .Take(MostSaid)
                .Select(d => new SaidAlready(
                    PieceNumber.Of(d.Piece.Number),
                    d.Piece.Title,
                    d.Piece.Format,
                    d.Piece.Stage,
                    d.Piece.OutOn,
                    d.Saying!
                )),
        ];
    }

    private static IEnumerable<string> Begun(IEnumerable<string> names, string begun) =>
        names.Distinct().Where(name => name.StartsWith(begun, StringComparison.OrdinalIgnoreCase));

    /// <summary>How a query is understood, and what could be typed next.</summary>
    public QueryUnderstood Understand(string? typed, int? caret)
    {
        var reading = QueryReader.Read(typed, isTyping: true);
        return papers.Read(db =>
        {
            var topics = new Lazy<TopicNames>(() => TopicNames.Of(db));
            return new QueryUnderstood(
                reading.Query is null ? "" : QueryWords.Of(reading.Query, papers.Today),
                QueryReader.Read(typed).Query?.ToString(),
                reading.Problem,
                QueryCompletion.At(
                    typed ?? "",
                    caret ?? typed?.Length ?? 0,
                    (field, begun) =>
                        field switch
                        {
                            QueryField.Topic => topics.Value.Containing(begun),
                            QueryField.Format => Begun(Bench.FormatRows.All(db).All.Select(f => f.Key), begun),
                            QueryField.Stage => Begun(
                                Bench.FormatRows.All(db).All.SelectMany(f => f.Stages).Select(s => s.ToLowerInvariant()),
                                begun
                            ),
                            QueryField.Field => Begun(Bench.FormatRows.All(db).All.SelectMany(f => f.Fields).Select(f => f.Key), begun),
                            QueryField.Source => Titles(
                                "SELECT title FROM source WHERE trashed_at IS NULL "
                                    + "AND instr(lower(title), lower(@begun)) > 0 ORDER BY lower(title) LIMIT 8",
                                begun
                            ),
                            QueryField.In => Titles(
                                "SELECT title FROM piece WHERE trashed_at IS NULL "
                                    + "AND instr(lower(title), lower(@begun)) > 0 ORDER BY changed_at DESC LIMIT 8",
                                begun
                            ),
                            QueryField.Link => topics
                                .Value.Containing(begun)
                                .Concat(
                                    Titles(
                                        "SELECT title FROM piece WHERE trashed_at IS NULL "
                                            + "AND instr(lower(title), lower(@begun)) > 0 ORDER BY changed_at DESC LIMIT 8",
                                        begun
                                    )
                                ),
                            _ => [],
                        }
                )
            );

            // A value is written in quotation marks, which it can't hold itself.
            IEnumerable<string> Titles(string sql, string begun) =>
                db.Query<string>(sql, new { begun }).Where(title => !title.AsSpan().ContainsAny("\"“”„"));
        });
    }

    /// <summary>What has a name that begins so; while hardly anything is typed, names say more than texts.</summary>
    private static IEnumerable<Hit> Named(SqliteConnection db, string begun)
    {
        var parts = new[] { ("topic", "name", "merged_into"), ("piece", "title", "trashed_at"), ("source", "title", "trashed_at") }.Select(
            ((string Table, string Name, string Gone) of) =>
                $"SELECT * FROM (SELECT '{of.Table}', number, {of.Name} FROM {of.Table} "
                + $"WHERE lower({of.Name}) >= lower(@begun) AND lower({of.Name}) < lower(@begun) || char(1114111) "
                + $"AND {of.Gone} IS NULL ORDER BY lower({of.Name}) LIMIT {MostNamed})"
        );
        foreach (var (kind, number, title) in db.Query<(string, int, string)>(string.Join(" UNION ALL ", parts), new { begun }))
        {
            var thing = new Reference(Enum.Parse<ThingKind>(kind, true), number);
            yield return new Hit(thing, title, "", Note(db, thing) ?? "", Reading.AddressOf(thing));
        }
    }

    /// <summary>The sheet of a day that was typed, whether anything stands on it or not.</summary>
    private static Hit SheetOf(DateOnly day) =>
        new(
            Reference.To(day),
            day.ToString("dddd d MMMM yyyy", System.Globalization.CultureInfo.InvariantCulture),
            "",
            "the sheet of that day",
            Reading.AddressOf(Reference.To(day))
        );

    /// <summary>What has exactly this name, or a topic that has it as another name.</summary>
    private static IEnumerable<Hit> Called(SqliteConnection db, string name) =>
        db.Query<(int Kind, int Number)>(
                """
                SELECT * FROM (
                    SELECT @topic, number FROM topic WHERE lower(name) = lower(@name) AND merged_into IS NULL
                    UNION SELECT @topic, topic FROM topic_alias WHERE lower(name) = lower(@name)
                    UNION SELECT @piece, number FROM piece WHERE lower(title) = lower(@name) AND trashed_at IS NULL
                    UNION SELECT @source, number FROM source WHERE lower(title) = lower(@name) AND trashed_at IS NULL
                ) LIMIT @most
                """,
                new
                {
                    name = name.TrimStart('#'),
                    topic = (int)ThingKind.Topic,
                    piece = (int)ThingKind.Piece,
                    source = (int)ThingKind.Source,
                    most = MostNamed,
                }
            )
            .ToList()
            .Select(row => HitOf(db, row.Number * 8L + row.Kind, ""))
            .OfType<Hit>()
            .Select(hit => hit with { IsNamed = true });

    /// <summary>What was changed last, for coming back to it.</summary>
    public IReadOnlyList<Hit> Recent() =>
        papers.Read(db =>
            (IReadOnlyList<Hit>)
                [
                    .. HistoryStore
                        .Lines(db, "1", null, MostRecent * 4)
                        .Select(line => line.Thing)
                        .OfType<Reference>()
                        .Distinct()
                        .Select(thing => HitOf(db, thing.Number * 8L + (int)thing.Kind, ""))
                        .OfType<Hit>()
                        .Take(MostRecent),
                ]
        );

    private static List<Hit> Numbered(SqliteConnection db, string typed)
    {
        var thing = References.Read(typed).Thing;
        if (thing is null && !int.TryParse(typed, System.Globalization.NumberStyles.None, null, out _))
            return [];
        var kinds = thing is { } exact
            ? [exact]
            : (Reference[])
                [
                    .. new[] { ThingKind.Slip, ThingKind.Piece, ThingKind.Source }.Select(kind => new Reference(
                        kind,
                        int.TryParse(typed, out var number) ? number : 0
                    )),
                ];
        return
        [
            .. kinds
                .Select(found => (found, Title: Links.TitleOf(db, found)))
                .Where(f => f.Title is not null)
                .Select(f => new Hit(f.found, f.Title!, "", "", Reading.AddressOf(f.found))),
        ];
    }

    private static List<(long RowId, string Excerpt)> ByWords(SqliteConnection db, Asked asked, out int total)
    {
        var narrowed = asked.IsOnlyWords
            ? ""
            : " AND ("
                + string.Join(
                    " OR ",
                    Kinds.Select(kind =>
                        $"(finding.rowid % 8 = {(int)kind} AND EXISTS (SELECT 1 FROM {Table(kind)} s "
                        + $"WHERE {(kind == ThingKind.Day ? "s.day_number" : "s.number")} = finding.rowid / 8 AND {asked.For(kind)}))"
                    )
                )
                + ")";
        var rows = db.Query<(long Row, string Excerpt)>(
                $"""
                SELECT rowid, snippet(finding, -1, char(2), char(3), '…', 20) FROM finding WHERE finding MATCH @Match{narrowed}
                {asked.Order(4)} LIMIT {Most}
                """,
                asked.Arguments
            )
            .AsList();
        total =
            rows.Count < Most
                ? rows.Count
                : db.ExecuteScalar<int>(
                    $"SELECT count(*) FROM (SELECT 1 FROM finding WHERE finding MATCH @Match{narrowed} LIMIT {MostCounted + 1})",
                    asked.Arguments
                );
        return [.. rows.Select(r => (r.Row, PlainText.Of(r.Excerpt)))];
    }

    /// <summary>What meets the fields, the newest first.</summary>
    private static List<(long RowId, string Excerpt)> ByFields(SqliteConnection db, Asked asked, out int total)
    {
        var sql = string.Join(
            " UNION ALL ",
            Kinds.Select(kind =>
            {
                var (number, at) = kind switch
                {
                    ThingKind.Day => ("s.day_number", "s.day"),
                    ThingKind.Piece => ("s.number", "s.changed_at"),
                    ThingKind.Topic => ("s.number", "''"),
                    _ => ("s.number", "s.caught_at"),
                };
                var inSight = kind switch
                {
                    ThingKind.Slip or ThingKind.Day => "1",
                    ThingKind.Topic => "s.merged_into IS NULL",
                    _ => "s.trashed_at IS NULL",
                };
                return $"SELECT * FROM (SELECT {number} * 8 + {(int)kind} AS row, {at} AS at FROM {Table(kind)} s "
                    + $"WHERE {asked.For(kind)} AND {inSight} ORDER BY at DESC LIMIT {Most})";
            })
        );
        var rows = db.Query<long>($"SELECT row FROM ({sql}) ORDER BY at DESC LIMIT {Most}", asked.Arguments)
            .Select(row => (row, ""))
            .ToList();
        total = rows.Count;
        return rows;
    }

    private static readonly ThingKind[] Kinds = [ThingKind.Slip, ThingKind.Source, ThingKind.Piece, ThingKind.Topic, ThingKind.Day];

    private static string Table(ThingKind kind) => kind == ThingKind.Day ? "day_sheet" : kind.Kept();

    /// <summary>The kind of a line of a transcript in the index, beside those of <see cref="ThingKind"/>.</summary>
    internal const int Moments = 5;

    /// <summary>The kind of an attached file in the index.</summary>
    internal const int Files = 6;

    internal static Hit? HitOf(SqliteConnection db, long rowId, string excerpt)
    {
        if (rowId % 8 == Moments)
            return Moment(db, rowId / 8, excerpt);
        if (rowId % 8 == Files)
            return File(db, rowId / 8, excerpt);
        var thing = new Reference((ThingKind)(rowId % 8), (int)(rowId / 8));
        return Note(db, thing) is { } note ? new Hit(thing, Links.TitleOf(db, thing) ?? "", excerpt, note, Reading.AddressOf(thing)) : null;
    }

    /// <summary>A file, at the thing it is tied to.</summary>
    private static Hit? File(SqliteConnection db, long number, string excerpt)
    {
        var row = db.QuerySingleOrDefault<(int? Slip, int? Source, int? Piece, string Name)?>(
            "SELECT slip, source, piece, name FROM attachment WHERE number = @number",
            new { number }
        );
        if (row is not { } at)
            return null;
        var thing =
            at.Slip is { } slip ? new Reference(ThingKind.Slip, slip)
            : at.Source is { } source ? new Reference(ThingKind.Source, source)
            : new Reference(ThingKind.Piece, at.Piece!.Value);
        return Note(db, thing) is null ? null : new Hit(thing, at.Name, excerpt, "file", Reading.AddressOf(thing));
    }

    /// <summary>A moment of what was said; null when the source is in the trash.</summary>
    private static Hit? Moment(SqliteConnection db, long line, string excerpt)
    {
        var row = db.QuerySingleOrDefault<(int Source, int From, string Title)?>(
            "SELECT s.number, l.from_ms, s.title FROM transcript_line l JOIN source s ON s.number = l.source "
                + "WHERE l.id = @line AND s.trashed_at IS NULL",
            new { line }
        );
        return row is not { } at
            ? null
            : new Hit(
                new Reference(ThingKind.Source, at.Source),
                at.Title,
                excerpt,
                $"at {Core.Sources.Transcript.Clock(at.From)}",
                $"{Reading.AddressOf(new Reference(ThingKind.Source, at.Source))}?at={at.From / 1000}"
            );
    }

    /// <summary>Where a thing stands; null for what was merged or trashed, which is not offered.</summary>
    private static string? Note(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => db.ExecuteScalar<string>("SELECT state FROM slip WHERE number = @Number", new { thing.Number }),
            ThingKind.Source => db.ExecuteScalar<string>(
                "SELECT type FROM source WHERE number = @Number AND trashed_at IS NULL",
                new { thing.Number }
            ),
            ThingKind.Piece => db.ExecuteScalar<string>(
                "SELECT stage FROM piece WHERE number = @Number AND trashed_at IS NULL",
                new { thing.Number }
            ),
            ThingKind.Topic => db.ExecuteScalar<string>(
                "SELECT 'topic' FROM topic WHERE number = @Number AND merged_into IS NULL",
                new { thing.Number }
            ),
            _ => "day sheet",
        };

    /// <summary>Where a name between double brackets leads, or null.</summary>
    public string? AddressOf(string name) =>
        papers.Read(db => Links.Target(db, References.Read(name)) is ({ } thing, var part) ? Reading.AddressOf(thing, part) : null);
}
