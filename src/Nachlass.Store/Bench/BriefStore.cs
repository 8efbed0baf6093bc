using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>The sheet before writing.</summary>
/// <param name="Purpose">The purpose of the papers, which the piece may serve.</param>
/// <param name="Held">Where the draft holds the call to action; null when it doesn't, or there is none.</param>
public sealed record BriefShown(PieceNumber Piece, Brief Brief, string Purpose, CallHeld? Held);

/// <summary>A change to what is settled; what is not set stays.</summary>
public sealed record BriefChange
{
    /// <summary>The version that a change of the heap is based on.</summary>
    public int? Version { get; init; }

    public string? ForWhom { get; init; }
    public string? Know { get; init; }
    public string? Feel { get; init; }
    public string? Do { get; init; }
    public string? Angle { get; init; }
    public string? CallToAction { get; init; }
    public bool? Serves { get; init; }
    public string? ServesWhy { get; init; }
    public string? CoverLine { get; init; }
    public Maybe<AttachmentNumber?> Cover { get; init; }
    public string? Heap { get; init; }
}

/// <summary>Lines of the heap that are to stand in the draft.</summary>
/// <param name="Start">Where in the heap the choice begins, in UTF-16 units; it is widened to whole lines.</param>
/// <param name="End">Where it ends.</param>
/// <param name="Version">The version of the heap.</param>
/// <param name="Section">The section at whose end they go; the end of the draft when null.</param>
public sealed record HeapOver(int Start, int End, int? Version, SectionNumber? Section = null);

/// <summary>The heap without what went over, and the draft with it.</summary>
public sealed record HeapGone(Brief Brief, Draft Draft);

/// <summary>A cover of a piece.</summary>
public sealed record CoverShown(PieceNumber Piece, string Title, AttachmentNumber Cover, string Line, DateOnly? OutOn);

/// <summary>What is settled before a piece is written.</summary>
public sealed class BriefStore(PapersFile papers)
{
    public BriefShown Of(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static BriefShown Of(SqliteConnection db, PieceNumber piece)
    {
        PieceRows.Get(db, piece);
        var brief = BriefRows.Read(db, piece);
        var draft = db.ExecuteScalar<string>("SELECT text FROM draft WHERE piece = @piece", new { piece }) ?? "";
        return new BriefShown(
            piece,
            brief,
            db.ExecuteScalar<string>("SELECT purpose FROM papers") ?? "",
            CallToAction.In(brief.CallToAction, draft)
        );
    }

    /// <summary>Settles something. Each field is kept by itself; the heap says which version it is based on.</summary>
    /// <exception cref="StaleException">The heap was changed in another tab meanwhile.</exception>
    public Done<BriefShown> Edit(PieceNumber piece, BriefChange edit, Once once)
    {
        var heap = Check.Length("heap", edit.Heap, Brief.LongestHeap);
        return papers.Run(
            $"settled something for P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                var before = BriefRows.Read(change.Db, piece);
                if (edit.Heap is not null && edit.Version is { } based && based != before.Version && before.Heap != heap)
                    throw new StaleException($"The heap of P {piece}", before);
                if (edit.Cover is { IsSet: true, Value: { } cover })
                    MustBePicture(change.Db, piece, cover);
                string Field(string name, string? typed, string was) =>
                    typed is null ? was : Check.Length(name, typed, Brief.LongestField).Trim();
                BriefRows.Write(
                    change.Db,
                    piece,
                    before with
                    {
                        ForWhom = Field("forWhom", edit.ForWhom, before.ForWhom),
                        Know = Field("know", edit.Know, before.Know),
                        Feel = Field("feel", edit.Feel, before.Feel),
                        Do = Field("do", edit.Do, before.Do),
                        Angle = Field("angle", edit.Angle, before.Angle),
                        CallToAction = Field("callToAction", edit.CallToAction, before.CallToAction),
                        Serves = edit.Serves ?? before.Serves,
                        ServesWhy = Field("servesWhy", edit.ServesWhy, before.ServesWhy),
                        CoverLine = Field("coverLine", edit.CoverLine, before.CoverLine),
                        Cover = edit.Cover.Or(before.Cover),
                        Heap = edit.Heap is null ? before.Heap : heap,
                    }
                );
                if (edit.Heap is not null)
                    change.What = $"wrote on the heap of P {piece}";
                return Of(change.Db, piece);
            }
        );
    }

    private static void MustBePicture(SqliteConnection db, PieceNumber piece, AttachmentNumber cover)
    {
        var found = AttachmentStore.Of(db, Reference.To(piece)).FirstOrDefault(a => a.Number == cover);
        if (found is not { IsPicture: true })
            throw new BadInputException("cover", $"P {piece} has no picture {cover}; attach it to the piece first.");
    }

    /// <summary>Puts lines of the heap at the end of a section, or of the draft; they are gone from the heap then.</summary>
    public Done<HeapGone> Over(PieceNumber piece, HeapOver asked, Once once) =>
        papers.Run(
            $"put lines of the heap into P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                var before = BriefRows.Read(change.Db, piece);
                if (asked.Version != before.Version)
                    throw new StaleException($"The heap of P {piece}", before);
                var (lines, left) = HeapLines.Take(before.Heap, asked.Start, asked.End);
                if (lines.Length == 0)
                    throw new BadInputException("start", "There are no words in what was chosen.");
                change.OnPiece = piece;
                BriefRows.Write(change.Db, piece, before with { Heap = left });
                var (outline, _, _) = DraftRows.Read(change.Db, piece);
                DraftRows.Write(change, piece, outline.Insert(lines, asked.Section, null).Outline);
                return new HeapGone(BriefRows.Read(change.Db, piece), DraftStore.Of(change.Db, piece));
            }
        );

    /// <summary>The covers of all pieces, those that went out last first.</summary>
    public IReadOnlyList<CoverShown> Covers() =>
        papers.Read(db =>
            (IReadOnlyList<CoverShown>)
                [
                    .. db.Query<CoverRow>(
                            """
                            SELECT p.number, p.title, b.cover, b.cover_line, p.out_on FROM piece_brief b JOIN piece p ON p.number = b.piece
                            WHERE b.cover IS NOT NULL AND p.trashed_at IS NULL ORDER BY p.out_on IS NULL, p.out_on DESC, p.number DESC
                            """
                        )
                        .Select(r => new CoverShown(r.Number, r.Title, r.Cover, r.CoverLine, r.OutOn)),
                ]
        );

    private sealed record CoverRow
    {
        public PieceNumber Number { get; init; }
        public string Title { get; init; } = "";
        public AttachmentNumber Cover { get; init; }
        public string CoverLine { get; init; } = "";
        public DateOnly? OutOn { get; init; }
    }
}
