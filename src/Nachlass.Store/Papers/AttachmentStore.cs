using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Papers;

/// <summary>Files and pictures tied to slips, sources and pieces.</summary>
public sealed class AttachmentStore(PapersFile papers, FileShelf shelf, ReadFile look)
{
    internal const string Columns =
        "SELECT number, slip, source, piece, hash, name, type, bytes, why, credit, caught_at, version FROM attachment";

    /// <summary>What is tied to a thing, in the order it was tied.</summary>
    public IReadOnlyList<Attachment> Of(Reference thing) => papers.Read(db => Of(db, thing));

    internal static IReadOnlyList<Attachment> Of(SqliteConnection db, Reference thing) =>
        [.. db.Query<Row>($"{Columns} WHERE {Column(thing)} = @Number ORDER BY number", new { thing.Number }).Select(row => row.Whole)];

    internal static IReadOnlyList<Attachment> All(SqliteConnection db) =>
        [.. db.Query<Row>($"{Columns} ORDER BY number").Select(row => row.Whole)];

    public Attachment Get(AttachmentNumber number) => papers.Read(db => Get(db, number));

    /// <summary>A tied file; null when there is none of this number.</summary>
    public Attachment? Find(AttachmentNumber number) => papers.Read(db => FindIn(db, number));

    internal static Attachment? FindIn(SqliteConnection db, AttachmentNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE number = @number", new { number })?.Whole;

    private static Attachment Get(SqliteConnection db, AttachmentNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE number = @number", new { number })?.Whole
        ?? throw new NotThereException($"attachment {number}");

    /// <summary>Ties a file to a thing.</summary>
    /// <exception cref="BadInputException">The file is empty, too large or has no name.</exception>
    public Done<Attachment> Add(Reference to, string? name, Stream content, string? why, Once once)
    {
        var clean = Check.Text("name", Path.GetFileName(name?.Replace('\\', '/')), Attachment.LongestName);
        var line = Check.Length("why", why, Attachment.LongestWhy).Trim();
        // Before megabytes are taken in for nothing.
        if (papers.Read(db => Links.TitleOf(db, to)) is null)
            throw new NotThereException(to.ToString());
        var (hash, bytes) = shelf.Keep(content);
        var reading = look(clean, shelf.Path(hash));
        return papers.Run($"attached “{clean}” to {to}", once, change => Put(change, to, clean, line, hash, bytes, reading));
    }

    internal static Attachment Put(Change change, Reference to, string name, string why, string hash, long bytes, FileReading reading)
    {
        if (Links.TitleOf(change.Db, to) is null)
            throw new NotThereException(to.ToString());
        var number = change.Db.ExecuteScalar<int>(
            $"INSERT INTO attachment ({Column(to)}, hash, name, type, bytes, why, words, caught_at) "
                + "VALUES (@Number, @hash, @name, @Type, @bytes, @why, @Words, @Now) RETURNING number",
            new
            {
                to.Number,
                hash,
                name,
                reading.Type,
                bytes,
                why,
                reading.Words,
                change.Now,
            }
        );
        return Get(change.Db, AttachmentNumber.Of(number));
    }

    /// <summary>Puts an attachment of taken-out papers back, number and all.</summary>
    internal static void Put(SqliteConnection db, Attachment attachment, FileReading reading) =>
        db.Execute(
            $"INSERT INTO attachment (number, {Column(attachment.To)}, hash, name, type, bytes, why, credit, words, caught_at) "
                + "VALUES (@Number, @to, @Hash, @Name, @Type, @Bytes, @Why, @Credit, @Words, @CaughtAt)",
            new
            {
                attachment.Number,
                to = attachment.To.Number,
                attachment.Hash,
                attachment.Name,
                attachment.Type,
                attachment.Bytes,
                attachment.Why,
                attachment.Credit,
                reading.Words,
                attachment.CaughtAt,
            }
        );

    /// <summary>Says why it matters, or what it is called.</summary>
    /// <exception cref="StaleException">It was changed elsewhere.</exception>
    public Done<Attachment> Edit(AttachmentNumber number, int? version, string? name, string? why, Once once, string? credit = null)
    {
        var based = Check.Version(version);
        if (name is not null)
            name = Check.Text("name", name, Attachment.LongestName);
        Check.Length("why", why, Attachment.LongestWhy);
        Check.Length("credit", credit, Attachment.LongestCredit);
        return papers.Run(
            "changed an attachment",
            once,
            change =>
            {
                var attachment = Get(change.Db, number);
                if (attachment.Version != based)
                    throw new StaleException($"“{attachment.Name}”", attachment);
                change.Db.Execute(
                    "UPDATE attachment SET name = @name, why = @why, credit = @credit, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        name = name ?? attachment.Name,
                        why = why?.Trim() ?? attachment.Why,
                        credit = credit?.Trim() ?? attachment.Credit,
                    }
                );
                return Get(change.Db, number);
            }
        );
    }

    /// <summary>Unties a file; undo ties it again.</summary>
    public Done<Attachment> Remove(AttachmentNumber number, Once once) =>
        papers.Run(
            "took an attachment away",
            once,
            change =>
            {
                var attachment = Get(change.Db, number);
                change.Db.Execute(
                    """
                    UPDATE piece_brief SET cover = NULL, version = version + 1 WHERE cover = @number;
                    DELETE FROM piece_reference WHERE attachment = @number;
                    DELETE FROM attachment WHERE number = @number;
                    """,
                    new { number }
                );
                change.What = $"took “{attachment.Name}” away from {attachment.To}";
                return attachment;
            }
        );

    private static string Column(Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => "slip",
            ThingKind.Source => "source",
            ThingKind.Piece => "piece",
            _ => throw new BadInputException("to", "Files can be tied to slips, sources and pieces."),
        };

    private sealed class Row
    {
        public int Number { get; init; }
        public int? Slip { get; init; }
        public int? Source { get; init; }
        public int? Piece { get; init; }
        public string Hash { get; init; } = "";
        public string Name { get; init; } = "";
        public string Type { get; init; } = "";
        public long Bytes { get; init; }
        public string Why { get; init; } = "";
        public string Credit { get; init; } = "";
        public DateTimeOffset CaughtAt { get; init; }
        public int Version { get; init; }

        public Attachment Whole =>
            new()
            {
                Number = AttachmentNumber.Of(Number),
                To =
                    Slip is { } slip ? new(ThingKind.Slip, slip)
                    : Source is { } source ? new(ThingKind.Source, source)
                    : new(ThingKind.Piece, Piece!.Value),
                Hash = Hash,
                Name = Name,
                Type = Type,
                Bytes = Bytes,
                Why = Why,
                Credit = Credit,
                CaughtAt = CaughtAt,
                Version = Version,
            };
    }
}
