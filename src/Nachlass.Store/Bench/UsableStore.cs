using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Bench;

/// <summary>A paragraph that could be used by itself.</summary>
/// <param name="In">The text it stands in.</param>
/// <param name="Title">What that is called.</param>
/// <param name="Text">Its wording now; as it was last seen when it is gone from there.</param>
/// <param name="IsGone">Whether it is gone from there.</param>
/// <param name="Format">Key of the format it could be.</param>
public sealed record Usable(
    UsableNumber Number,
    Reference In,
    string Title,
    string Text,
    bool IsGone,
    string Format,
    int Characters,
    int? Limit
);

/// <summary>A paragraph of a text, and whether it is marked.</summary>
public sealed record ParagraphOffered(string Text, UsableNumber? Marked, string? Format);

/// <summary>Marked paragraphs inside other commands.</summary>
internal static class Usables
{
    /// <summary>Begins a piece's draft with a marked paragraph, in its wording now; it leaves the list.</summary>
    public static void Into(Change change, PieceNumber piece, UsableNumber number)
    {
        var now =
            UsableStore.Find(change.Db, number)
            ?? throw new BadInputException("usable", $"There is no marked paragraph {number} any more.");
        var (outline, _, _) = DraftRows.Read(change.Db, piece);
        DraftRows.Write(change, piece, outline.Sections.Count == 0 ? outline with { Lead = now.Text + "\n" } : outline.BeginWith(now.Text));
        IsUsed(change, number, now.Text, piece);
    }

    /// <summary>Says that a paragraph stands in a piece now, in which words.</summary>
    public static void IsUsed(Change change, UsableNumber number, string text, PieceNumber piece)
    {
        if (
            change.Db.QuerySingleOrDefault<int?>(
                "SELECT in_number FROM usable WHERE number = @Value AND in_kind = 'piece'",
                new { number.Value }
            ) is
            { } of
        )
            ReuseRows.CameOf(change.Db, new CameOf(piece, PieceNumber.Of(of), CameHow.Passage));
        change.Db.Execute(
            "UPDATE usable SET used_at = @Now, piece = @piece, paragraph = @text WHERE number = @Value",
            new
            {
                change.Now,
                piece,
                text,
                number.Value,
            }
        );
    }
}

/// <summary>Paragraphs of any text that are worth using by themselves.</summary>
public sealed class UsableStore(PapersFile papers, WorthStore worth)
{
    /// <summary>All that are not used yet, the latest marked first, each as it is worded now.</summary>
    public IReadOnlyList<Usable> List() =>
        papers.Read<IReadOnlyList<Usable>>(db => [.. Rows(db, "used_at IS NULL", null).Select(row => Now(db, row))]);

    /// <summary>The paragraphs of a text.</summary>
    public IReadOnlyList<ParagraphOffered> Paragraphs(Reference thing) =>
        papers.Read<IReadOnlyList<ParagraphOffered>>(db =>
        {
            var paragraphs = ParagraphsOf(db, thing);
            var marked = Rows(
                    db,
                    "used_at IS NULL AND in_kind = @kind AND in_number = @Number",
                    new { kind = thing.Kind.Kept(), thing.Number }
                )
                .Select(row => (row, Text: Following.Of(row.Paragraph, paragraphs)))
                .Where(m => m.Text is not null)
                .GroupBy(m => m.Text!)
                .ToDictionary(g => g.Key, g => g.First().row);
            return
            [
                .. paragraphs.Select(p =>
                    marked.TryGetValue(p, out var row)
                        ? new ParagraphOffered(p, UsableNumber.Of(row.Number), row.AsFormat)
                        : new ParagraphOffered(p, null, null)
                ),
            ];
        });

    /// <summary>Marks a paragraph as usable by itself.</summary>
    public Done<Usable> Mark(Reference thing, string? paragraph, string? format, Once once) =>
        papers.Run(
            $"marked a paragraph of {thing}",
            once,
            change =>
            {
                var text = Check.Text("paragraph", paragraph, DraftText.Longest);
                var formats = FormatRows.All(change.Db);
                var named = format is null ? formats.ForPosts : formats.Named(format);
                if (!ParagraphsOf(change.Db, thing).Contains(text))
                    throw new BadInputException("paragraph", $"{thing} has no such paragraph any more; open it again.");
                var number = change.Db.ExecuteScalar<int>(
                    "INSERT INTO usable (in_kind, in_number, paragraph, as_format, marked_at) "
                        + "VALUES (@kind, @Number, @text, @Key, @Now) RETURNING number",
                    new
                    {
                        kind = thing.Kind.Kept(),
                        thing.Number,
                        text,
                        named.Key,
                        change.Now,
                    }
                );
                return Now(change.Db, Rows(change.Db, "number = @number", new { number }).Single());
            }
        );

    public Done<IReadOnlyList<Usable>> Unmark(UsableNumber number, Once once) =>
        papers.Run(
            "unmarked a paragraph",
            once,
            change =>
            {
                if (change.Db.Execute("DELETE FROM usable WHERE number = @Value", new { number.Value }) == 0)
                    throw new NotThereException($"marked paragraph {number}");
                return (IReadOnlyList<Usable>)[.. Rows(change.Db, "used_at IS NULL", null).Select(row => Now(change.Db, row))];
            }
        );

    /// <summary>Makes a piece of it, in its wording now; it leaves the list.</summary>
    public Done<PieceNumber> Use(UsableNumber number, Once once)
    {
        var stood = worth.Standing(-number.Value);
        return papers.Run(
            "used a paragraph",
            once,
            change =>
            {
                var row =
                    Rows(change.Db, "number = @Value AND used_at IS NULL", new { number.Value }).SingleOrDefault()
                    ?? throw new NotThereException($"marked paragraph {number}");
                var (piece, of) = Make(change, row);
                ChoiceRows.Remember(change, stood, piece);
                change.What = $"made P {piece} of a paragraph of {of}";
                return piece;
            }
        );
    }

    /// <summary>Makes a piece of each paragraph of a text that is marked and not used.</summary>
    /// <exception cref="ClashException">None is.</exception>
    public Done<IReadOnlyList<PieceNumber>> UseAll(Reference thing, Once once) =>
        papers.Run(
            $"used the paragraphs of {thing}",
            once,
            change =>
            {
                var rows = Rows(
                    change.Db,
                    "used_at IS NULL AND in_kind = @kind AND in_number = @Number",
                    new { kind = thing.Kind.Kept(), thing.Number }
                );
                if (rows.Count == 0)
                    throw new ClashException($"No paragraph of {thing} is marked.");
                // In the order they were marked.
                rows.Reverse();
                var made = rows.Select(row => Make(change, row).Piece).ToList();
                change.What = made is [var one] ? $"made P {one} of a paragraph of {thing}" : $"made {made.Count} pieces of {thing}";
                return (IReadOnlyList<PieceNumber>)made;
            }
        );

    private static (PieceNumber Piece, Reference Of) Make(Change change, Row row)
    {
        var now = Now(change.Db, row);
        var format = FormatRows.Named(change.Db, row.AsFormat);
        var topics = TopicRows.Of(change.Db, [now.In])[now.In].Distinct().ToList();
        var piece = PieceRows.Start(change, PlainText.Headline(now.Text, 80).Trim('“', '”', '"'), format, $"From {now.In}", topics);
        DraftRows.Write(change, piece, new Outline(now.Text + "\n", []));
        // A text that stands by itself is finished; one that is too long for its format is not.
        if (now.Limit is not { } limit || now.Characters <= limit)
        {
            change.Db.Execute("UPDATE piece SET stage = @ReadyStage WHERE number = @piece", new { format.ReadyStage, piece });
            StageRows.Enter(change.Db, piece, format.ReadyStage, change.Now);
        }
        Usables.IsUsed(change, now.Number, now.Text, piece);
        return (piece, now.In);
    }

    /// <summary>One that is not used yet, as it is worded now; null when there is none.</summary>
    internal static Usable? Find(SqliteConnection db, UsableNumber number) =>
        Rows(db, "number = @Value AND used_at IS NULL", new { number.Value }).SingleOrDefault() is { } row ? Now(db, row) : null;

    private static Usable Now(SqliteConnection db, Row row)
    {
        var thing = new Reference(Enum.Parse<ThingKind>(row.InKind, true), row.InNumber);
        var now = Following.Of(row.Paragraph, ParagraphsOf(db, thing));
        var text = now ?? row.Paragraph;
        return new Usable(
            UsableNumber.Of(row.Number),
            thing,
            Links.TitleOf(db, thing) ?? "",
            text,
            now is null,
            row.AsFormat,
            Counts.Of(text).Characters,
            FormatRows.All(db).Find(row.AsFormat)?.Limit
        );
    }

    private static List<string> ParagraphsOf(SqliteConnection db, Reference thing) =>
        [.. Renaming.TextsOf(db, thing).SelectMany(Core.Text.Paragraphs.Of)];

    private static List<Row> Rows(SqliteConnection db, string where, object? arguments) =>
        db.Query<Row>(
                $"SELECT number, in_kind, in_number, paragraph, as_format FROM usable WHERE {where} ORDER BY marked_at DESC, number DESC",
                arguments
            )
            .AsList();

    private sealed record Row
    {
        public int Number { get; init; }
        public string InKind { get; init; } = "";
        public int InNumber { get; init; }
        public string Paragraph { get; init; } = "";
        public string AsFormat { get; init; } = "";
    }
}
