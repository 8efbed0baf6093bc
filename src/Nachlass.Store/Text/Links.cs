using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>A place that links to a thing.</summary>
/// <param name="From">Where the link stands.</param>
/// <param name="Title">What that place is called.</param>
/// <param name="Sentence">The sentence around the link.</param>
/// <param name="Part">The heading of the section it leads to; empty for the whole.</param>
public sealed record LinkLine(Reference From, string Title, string Sentence, string Part = "");

/// <summary>Where a text's link leads.</summary>
/// <param name="Name">As it stands between the brackets.</param>
/// <param name="To">The thing; null while there is none of that name.</param>
/// <param name="Title">What the thing is called.</param>
/// <param name="Gone">What has become of it, when it is out of sight: dropped, merged, in the trash; or that it has no such
/// section.</param>
/// <param name="Part">The heading of the section it leads to; empty for the whole.</param>
public sealed record LinkOut(string Name, Reference? To, string? Title, string? Gone = null, string Part = "");

/// <summary>Keeps the references of texts as rows, in the same transaction as the text.</summary>
internal static class Links
{
    /// <summary>Whether a slip or source, a row <c>s</c>, stands in a piece that is not in the trash: as its material, loose or placed, as
    /// what it was started from, which is its material too, or in its draft.</summary>
    /// <param name="besides">What else has to be so of the piece, a row <c>p</c>.</param>
    public static string StandsInAPiece(ThingKind kind, string besides = "1") =>
        $"""
            (EXISTS (SELECT 1 FROM material m JOIN piece p ON p.number = m.piece
                WHERE m.{kind.Kept()} = s.number AND p.trashed_at IS NULL AND {besides})
             OR EXISTS (SELECT 1 FROM link l JOIN piece p ON p.number = l.from_number
                WHERE l.to_kind = '{kind.Kept()}' AND l.to_number = s.number AND l.from_kind = 'piece'
                    AND p.trashed_at IS NULL AND {besides}))
            """;

    /// <summary>Whether one slip or source stands in a piece that is not in the trash.</summary>
    public static bool IsInAPiece(SqliteConnection db, Reference thing) =>
        db.ExecuteScalar<int>(
            $"SELECT count(*) FROM {thing.Kind.Kept()} s WHERE s.number = @Number AND {StandsInAPiece(thing.Kind)}",
            new { thing.Number }
        ) > 0;

    /// <summary>Whether a slip or source is there, and neither dropped nor in the trash.</summary>
    public static bool IsInSight(SqliteConnection db, Reference thing) =>
        db.ExecuteScalar<int>(
            thing.Kind == ThingKind.Slip
                ? "SELECT count(*) FROM slip WHERE number = @Number AND state <> 'dropped'"
                : "SELECT count(*) FROM source WHERE number = @Number AND trashed_at IS NULL",
            new { thing.Number }
        ) > 0;

    /// <summary>Writes down the references of a text in place of those it had.</summary>
    public static void Write(SqliteConnection db, Reference from, string text, bool isNew = false)
    {
        var kind = from.Kind.Kept();
        var references = text.Contains("[[", StringComparison.Ordinal) ? References.In(text) : [];
        // Only what differs is written, so that a save in a long text with many links is a small step.
        var old = isNew
            ? []
            : db.Query<LinkRow>(
                    "SELECT id, to_kind, to_number, to_name, to_part, sentence FROM link "
                        + "WHERE from_kind = @kind AND from_number = @Number ORDER BY id",
                    new { kind, from.Number }
                )
                .ToList();
        var left = old.GroupBy(o => o with { Id = 0 }).ToDictionary(g => g.Key, g => new Queue<long>(g.Select(o => o.Id)));
        foreach (var reference in references)
        {
            var (name, part) = Parted(db, reference);
            var row = new LinkRow
            {
                ToKind = reference.Thing?.Kind.Kept(),
                ToNumber = reference.Thing?.Number,
                ToName = name.ToLowerInvariant(),
                ToPart = part,
                Sentence = References.LineAround(text, reference.Start, reference.Length),
            };
            if (left.TryGetValue(row, out var same) && same.TryDequeue(out _))
                continue;
            db.Execute(
                "INSERT INTO link (from_kind, from_number, to_kind, to_number, to_name, to_part, sentence) "
                    + "VALUES (@kind, @Number, @ToKind, @ToNumber, @ToName, @ToPart, @Sentence)",
                new
                {
                    kind,
                    from.Number,
                    row.ToKind,
                    row.ToNumber,
                    row.ToName,
                    row.ToPart,
                    row.Sentence,
                }
            );
        }
        var gone = left.Values.SelectMany(ids => ids).ToList();
        if (gone.Count > 0)
            db.Execute("DELETE FROM link WHERE id IN (SELECT value FROM json_each(@ids))", new { ids = $"[{string.Join(',', gone)}]" });
    }

    private sealed record LinkRow
    {
        public long Id { get; init; }
        public string? ToKind { get; init; }
        public int? ToNumber { get; init; }
        public string ToName { get; init; } = "";
        public string ToPart { get; init; } = "";
        public string Sentence { get; init; } = "";
    }

    /// <summary>A reference's name without the section behind it, and the section. A title that has a comma of its own is one
    /// name.</summary>
    private static (string Name, string Part) Parted(SqliteConnection db, TextReference reference)
    {
        if (reference.IsNumbered || !reference.Name.Contains(',', StringComparison.Ordinal) || Named(db, reference.Name) is not null)
            return (reference.Name, reference.Part);
        var with = References
            .WithPart(reference.Name)
            .FirstOrDefault(w => Named(db, w.Name) is { Kind: ThingKind.Piece or ThingKind.Source });
        return with.Name is null ? (reference.Name, "") : with;
    }

    /// <summary>What a reference leads to, and the section in it.</summary>
    public static (Reference? To, string Part) Target(SqliteConnection db, TextReference reference)
    {
        var (name, part) = Parted(db, reference);
        return (reference.Thing ?? Named(db, name), part);
    }

    /// <summary>The headings of a piece or source, in order.</summary>
    public static IReadOnlyList<string> SectionsOf(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Piece => Headings(
                db.QuerySingleOrDefault<string>("SELECT text FROM draft WHERE piece = @Number", new { thing.Number })
            ),
            ThingKind.Source => Headings(
                db.QuerySingleOrDefault<string>(
                    "SELECT summary || char(10) || comments || char(10) || text FROM source WHERE number = @Number",
                    new { thing.Number }
                )
            ),
            _ => [],
        };

    private static IReadOnlyList<string> Headings(string? text) =>
        text is null ? [] : [.. Core.Bench.DraftText.Split(text).Parts.Select(p => p.Title)];

    /// <summary>A slip's text, to be shown inside another; null when there is none, or it was dropped.</summary>
    public static string? TextOf(SqliteConnection db, SlipNumber slip) =>
        db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @slip AND state <> 'dropped'", new { slip });

    /// <summary>A text as it is shown, with the slips it stands for set off inside it.</summary>
    public static string Shown(SqliteConnection db, string text) => Inclusions.Expanded(text, slip => TextOf(db, slip), Inclusions.SetOff);

    /// <summary>A text as it goes out, with the slips it stands for written out.</summary>
    public static string WrittenOut(SqliteConnection db, string text) => Inclusions.Expanded(text, slip => TextOf(db, slip));

    /// <summary>The places that link to a thing, by its number or by one of its names.</summary>
    public static IReadOnlyList<LinkLine> To(SqliteConnection db, Reference thing, params IEnumerable<string> names)
    {
        var rows = db.Query<(string Kind, int Number, string Sentence, string Part)>(
            """
            SELECT from_kind, from_number, sentence, to_part FROM link WHERE to_kind = @kind AND to_number = @Number
            UNION SELECT from_kind, from_number, sentence, to_part FROM link WHERE to_kind IS NULL AND to_name IN @names
            """,
            new
            {
                kind = thing.Kind.Kept(),
                thing.Number,
                names = names.Select(n => n.ToLowerInvariant()).ToList(),
            }
        );
        return
        [
            .. rows.Select(r => (From: new Reference(Enum.Parse<ThingKind>(r.Kind, true), r.Number), r.Sentence, r.Part))
                .Where(r => r.From != thing)
                .Select(r => new LinkLine(r.From, TitleOf(db, r.From) ?? "", PlainText.WithReferences(r.Sentence), r.Part)),
        ];
    }

    /// <summary>Where the links of a text lead, each target once.</summary>
    public static IReadOnlyList<LinkOut> From(SqliteConnection db, string text) =>
        [
            .. References
                .In(text)
                .DistinctBy(r => r.Name, StringComparer.OrdinalIgnoreCase)
                .Select(r =>
                {
                    var (to, part) = Target(db, r);
                    var title = to is { } thing ? TitleOf(db, thing) : null;
                    if (title is null)
                        return new LinkOut(r.Name, null, null);
                    var gone =
                        Gone(db, to!.Value)
                        ?? (
                            part.Length > 0 && !SectionsOf(db, to.Value).Contains(part, StringComparer.OrdinalIgnoreCase)
                                ? $"has no section “{part}”"
                                : null
                        );
                    return new LinkOut(r.Name, to, title, gone, part);
                }),
        ];

    /// <summary>What has become of a thing that is out of sight; null while it is in sight.</summary>
    private static string? Gone(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => db.QuerySingleOrDefault<string>(
                "SELECT CASE WHEN merged_into IS NOT NULL THEN 'merged into slip ' || merged_into ELSE 'dropped' END "
                    + "FROM slip WHERE number = @Number AND state = 'dropped'",
                new { thing.Number }
            ),
            ThingKind.Source or ThingKind.Piece => db.QuerySingleOrDefault<string>(
                $"SELECT 'in the trash' FROM {thing.Kind.Kept()} WHERE number = @Number AND trashed_at IS NOT NULL",
                new { thing.Number }
            ),
            ThingKind.Topic => db.QuerySingleOrDefault<string>(
                "SELECT 'merged' FROM topic WHERE number = @Number AND merged_into IS NOT NULL",
                new { thing.Number }
            ),
            _ => null,
        };

    /// <summary>The thing with this name: a topic or its alias, else a piece, else a source; one in the trash only where nothing else has
    /// the name.</summary>
    public static Reference? Named(SqliteConnection db, string name)
    {
        var row = db.QueryFirstOrDefault<(string Kind, int Number)?>(
            """
            SELECT kind, number FROM (SELECT 'topic' AS kind, number, 0 AS place FROM topic
                WHERE lower(name) = lower(@name) AND merged_into IS NULL
            UNION ALL SELECT 'topic', topic, 1 FROM topic_alias WHERE lower(name) = lower(@name)
            UNION ALL SELECT 'piece', number, iif(trashed_at IS NULL, 2, 4) FROM piece WHERE lower(title) = lower(@name)
            UNION ALL SELECT 'source', number, iif(trashed_at IS NULL, 3, 5) FROM source WHERE lower(title) = lower(@name))
            ORDER BY place LIMIT 1
            """,
            new { name }
        );
        return row is { } found ? new Reference(Enum.Parse<ThingKind>(found.Kind, true), found.Number) : null;
    }

    /// <summary>The names by which texts may point at a thing besides its number: a topic's with its aliases, a title.</summary>
    public static IReadOnlyList<string> NamesOf(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Topic => db.Query<string>(
                    "SELECT name FROM topic WHERE number = @Number UNION ALL SELECT name FROM topic_alias WHERE topic = @Number",
                    new { thing.Number }
                )
                .AsList(),
            ThingKind.Source or ThingKind.Piece => TitleOf(db, thing) is { } title ? [title] : [],
            _ => [],
        };

    /// <summary>The words that name a thing in plain text: its names, a slip's number, and what a claim says in one line.</summary>
    /// <param name="part">A section of it, which is named by its heading; a heading of one word is a word like any other, and names
    /// nothing.</param>
    public static IReadOnlyList<string> WordsFor(SqliteConnection db, Reference thing, string part) =>
        part.Length > 0
            ? part.Contains(' ', StringComparison.Ordinal)
                ? [part]
                : []
            : thing.Kind != ThingKind.Slip
                ? NamesOf(db, thing)
                :
                [
                    .. db.Query<string>("SELECT title FROM claim WHERE slip = @Number AND title <> ''", new { thing.Number })
                        .Prepend(thing.ToString()),
                ];

    /// <summary>What a thing is called, or null if there is none.</summary>
    public static string? TitleOf(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @Number", new { thing.Number })
                is { } text
                ? PlainText.Headline(text)
                : null,
            ThingKind.Source => db.QuerySingleOrDefault<string>("SELECT title FROM source WHERE number = @Number", new { thing.Number }),
            ThingKind.Piece => db.QuerySingleOrDefault<string>("SELECT title FROM piece WHERE number = @Number", new { thing.Number }),
            ThingKind.Topic => db.QuerySingleOrDefault<string>("SELECT name FROM topic WHERE number = @Number", new { thing.Number }),
            _ => thing.ToString(),
        };
}
