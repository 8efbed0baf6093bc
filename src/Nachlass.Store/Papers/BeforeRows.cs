using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;

namespace Nachlass.Store.Papers;

/// <summary>What stands beside pieces from before they were written, as it goes out of the papers and into them.</summary>
internal static class BeforeRows
{
    /// <param name="places">The sections in the draft, by number, counted from 1.</param>
    public static BeforeImage Read(SqliteConnection db, PieceNumber piece, IReadOnlyDictionary<int, int> places) =>
        new(
            BriefRows.Read(db, piece) with
            {
                Version = 0,
            },
            [.. TitleStore.Rows(db, piece).Select(t => (t.Text, t.Note))],
            [.. FindOutStore.Rows(db, piece).Select(f => new ToFindImage(f.Slip, f.Move, f.Answer))],
            [
                .. ReferenceStore
                    .Rows(db, piece)
                    .Select(r => new ReferenceImage(
                        r.Address,
                        r.Attachment,
                        r.Slip,
                        r.Why,
                        r.Section is { } section && places.TryGetValue(section, out var at) ? at : null
                    )),
            ]
        );

    /// <param name="sections">The numbers of the sections in the draft, in order.</param>
    public static void Put(SqliteConnection db, PieceNumber piece, BeforeImage before, IReadOnlyList<int> sections)
    {
        BriefRows.Write(db, piece, before.Brief);
        foreach (var (text, note) in before.Titles)
            TitleStore.Put(db, piece, text, note);
        foreach (var found in before.ToFind)
            FindOutStore.Put(db, piece, found.Slip, found.Move, found.Answer);
        foreach (var reference in before.References)
            ReferenceStore.Put(
                db,
                piece,
                new ReferenceRow
                {
                    Address = reference.Address,
                    Attachment = reference.Picture,
                    Slip = reference.Slip,
                    Why = reference.Why,
                    Section =
                        reference.Section is not { } nth ? null
                        : nth >= 1 && nth <= sections.Count ? sections[nth - 1]
                        : throw new BadInputException(
                            "zip",
                            $"P {piece} has no section {nth} to put a reference in. Nothing was brought in."
                        ),
                }
            );
    }
}
