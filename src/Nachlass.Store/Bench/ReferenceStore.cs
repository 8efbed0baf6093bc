using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>What a piece refers to.</summary>
/// <param name="Address">A page on the web; empty for none.</param>
/// <param name="Picture">A picture of the piece.</param>
/// <param name="Slip">A passage or another slip.</param>
/// <param name="Why">Why it is referred to.</param>
/// <param name="Section">Where in the text; null for nowhere yet.</param>
public sealed record PieceReferenceShown(
    PieceReferenceNumber Number,
    string Address,
    Attachment? Picture,
    Slip? Slip,
    string Why,
    SectionNumber? Section
);

/// <summary>A reference, or a change to one; what is not set stays. It names one of address, picture and slip.</summary>
public sealed record ReferenceChange
{
    public PieceReferenceNumber? Number { get; init; }
    public string? Address { get; init; }
    public AttachmentNumber? Picture { get; init; }
    public SlipNumber? Slip { get; init; }
    public string? Why { get; init; }
    public Maybe<SectionNumber?> Section { get; init; }
}

/// <summary>All references of a piece, in order; the others are taken away.</summary>
public sealed record ReferencesChange(IReadOnlyList<ReferenceChange>? References);

/// <summary>What pieces refer to.</summary>
public sealed class ReferenceStore(PapersFile papers)
{
    public const int Most = 500;

    public IReadOnlyList<PieceReferenceShown> Of(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static IReadOnlyList<PieceReferenceShown> Of(SqliteConnection db, PieceNumber piece)
    {
        PieceRows.Get(db, piece);
        var rows = Rows(db, piece);
        var slips = SlipRows.All(db, [.. rows.Select(r => r.Slip).OfType<int>().Distinct()]);
        var pictures = AttachmentStore.Of(db, Reference.To(piece)).ToDictionary(a => a.Number.Value);
        return
        [
            .. rows.Select(r => new PieceReferenceShown(
                r.Number,
                r.Address,
                r.Attachment is { } picture ? pictures.GetValueOrDefault(picture) : null,
                r.Slip is { } slip ? slips[slip] : null,
                r.Why,
                r.Section is { } section && r.GoneAt is null ? SectionNumber.Of(section) : null
            )),
        ];
    }

    internal static IReadOnlyList<ReferenceRow> Rows(SqliteConnection db, PieceNumber piece) =>
        db.Query<ReferenceRow>(
                """
                SELECT r.number, r.address, r.attachment, r.slip, r.why, r.section, s.gone_at FROM piece_reference r
                LEFT JOIN section s ON s.number = r.section WHERE r.piece = @piece ORDER BY r.position, r.number
                """,
                new { piece }
            )
            .AsList();

    internal static void Put(SqliteConnection db, PieceNumber piece, ReferenceRow row) =>
        db.Execute(
            """
            INSERT INTO piece_reference (piece, position, address, attachment, slip, why, section)
            VALUES (@piece, (SELECT coalesce(max(position), 0) + 1 FROM piece_reference WHERE piece = @piece),
                @Address, @Attachment, @Slip, @Why, @Section)
            """,
            new
            {
                piece,
                row.Address,
                row.Attachment,
                row.Slip,
                row.Why,
                row.Section,
            }
        );

    private static ReferenceRow Get(SqliteConnection db, PieceNumber piece, PieceReferenceNumber number) =>
        Rows(db, piece).FirstOrDefault(r => r.Number == number) ?? throw new NotThereException($"reference {number} of P {piece}");

    /// <summary>The row a change makes of another, checked.</summary>
    private static ReferenceRow Changed(SqliteConnection db, PieceNumber piece, ReferenceRow before, ReferenceChange edit)
    {
        var section = edit.Section.Or(before.Section is { } was ? SectionNumber.Of(was) : null);
        var row = before with
        {
            Address = edit.Address is null ? before.Address : Check.WebAddress("address", edit.Address),
            Attachment = edit.Picture?.Value ?? before.Attachment,
            Slip = edit.Slip?.Value ?? before.Slip,
            Why = edit.Why is null ? before.Why : Check.Length("why", edit.Why, Brief.LongestField).Trim(),
            Section = section?.Value,
        };
        if ((row.Address.Length > 0 ? 1 : 0) + (row.Attachment is null ? 0 : 1) + (row.Slip is null ? 0 : 1) != 1)
            throw new BadInputException("address", "A reference is one of a web address, a picture and a slip.");
        if (
            row.Attachment is { } picture
            && AttachmentStore.Of(db, Reference.To(piece)).All(a => a.Number.Value != picture || !a.IsPicture)
        )
            throw new BadInputException("picture", $"P {piece} has no picture {picture}; attach it to the piece first.");
        if (row.Slip is { } slip && SlipRows.Find(db, SlipNumber.Of(slip)) is null)
            throw new BadInputException("slip", $"There is no slip {slip}.");
        if (
            edit.Section is { IsSet: true, Value: { } into }
            && db.ExecuteScalar<int>(
                "SELECT count(*) FROM section WHERE number = @into AND piece = @piece AND gone_at IS NULL",
                new { into, piece }
            ) == 0
        )
            throw new BadInputException("section", $"There is no section {into} in P {piece}.");
        return row;
    }

    private static void Write(SqliteConnection db, ReferenceRow row) =>
        db.Execute(
            """
            UPDATE piece_reference SET address = @Address, attachment = @Attachment, slip = @Slip, why = @Why, section = @Section
            WHERE number = @Number
            """,
            row
        );

    public Done<IReadOnlyList<PieceReferenceShown>> Add(PieceNumber piece, ReferenceChange made, Once once) =>
        papers.Run(
            $"added a reference to P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                if (Rows(change.Db, piece).Count >= Most)
                    throw new BadInputException("references", $"{Most} references are enough for one piece.");
                Put(change.Db, piece, Changed(change.Db, piece, new ReferenceRow(), made));
                return Of(change.Db, piece);
            }
        );

    public Done<IReadOnlyList<PieceReferenceShown>> Edit(PieceNumber piece, PieceReferenceNumber number, ReferenceChange edit, Once once) =>
        papers.Run(
            $"changed a reference of P {piece}",
            once,
            change =>
            {
                Write(change.Db, Changed(change.Db, piece, Get(change.Db, piece, number), edit));
                return Of(change.Db, piece);
            }
        );

    public Done<IReadOnlyList<PieceReferenceShown>> Remove(PieceNumber piece, PieceReferenceNumber number, Once once) =>
        papers.Run(
            $"took a reference from P {piece}",
            once,
            change =>
            {
                Get(change.Db, piece, number);
                change.Db.Execute("DELETE FROM piece_reference WHERE number = @number", new { number });
                return Of(change.Db, piece);
            }
        );

    /// <summary>Sets all references of a piece, in order.</summary>
    public Done<IReadOnlyList<PieceReferenceShown>> Set(PieceNumber piece, ReferencesChange all, Once once)
    {
        var kept = all.References ?? [];
        if (kept.Count > Most)
            throw new BadInputException("references", $"{Most} references are enough for one piece.");
        return papers.Run(
            $"set the references of P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                var had = Rows(change.Db, piece).ToDictionary(r => r.Number);
                foreach (var gone in had.Keys.Where(n => kept.All(k => k.Number != n)))
                    change.Db.Execute("DELETE FROM piece_reference WHERE number = @gone", new { gone });
                for (var at = 0; at < kept.Count; at++)
                {
                    if (kept[at].Number is not { } number)
                    {
                        Put(change.Db, piece, Changed(change.Db, piece, new ReferenceRow(), kept[at]));
                        number = PieceReferenceNumber.Of(change.Db.ExecuteScalar<int>("SELECT max(number) FROM piece_reference"));
                    }
                    else if (had.Remove(number, out var before))
                        Write(change.Db, Changed(change.Db, piece, before, kept[at]));
                    else
                        throw new BadInputException("references", $"P {piece} has no reference {number}, or it is named twice.");
                    change.Db.Execute(
                        "UPDATE piece_reference SET position = @position WHERE number = @number",
                        new { position = at + 1, number }
                    );
                }
                return Of(change.Db, piece);
            }
        );
    }
}

internal sealed record ReferenceRow
{
    public PieceReferenceNumber Number { get; init; }
    public string Address { get; init; } = "";
    public int? Attachment { get; init; }
    public int? Slip { get; init; }
    public string Why { get; init; } = "";
    public int? Section { get; init; }
    public DateTimeOffset? GoneAt { get; init; }
}
