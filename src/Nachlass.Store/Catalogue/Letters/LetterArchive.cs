using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Letters;

/// <summary>The letters of outlets whose writer lets everybody read what went out.</summary>
public sealed class LetterArchive(PapersFile papers)
{
    private const string IsOpen =
        "EXISTS (SELECT 1 FROM outlet_connection c WHERE c.outlet = @outlet AND c.kind = 'mail' AND c.is_archived = 1)";

    /// <summary>Outlets whose letters can be read, with what they are called.</summary>
    public IReadOnlyList<(OutletNumber Outlet, string Name)> Open() =>
        papers.Read(db =>
        {
            var open = db.Query<int>("SELECT outlet FROM outlet_connection WHERE kind = 'mail' AND is_archived = 1").ToHashSet();
            return (IReadOnlyList<(OutletNumber, string)>)
                [.. OutletRows.All(db).Where(o => open.Contains(o.Number.Value)).Select(o => (o.Number, o.Name))];
        });

    /// <summary>The letters of an outlet, the latest first, one for each piece; null where nobody may read them.</summary>
    public IReadOnlyList<ArchivedLetter>? List(OutletNumber outlet) =>
        papers.Read(db =>
            db.ExecuteScalar<bool>($"SELECT {IsOpen}", new { outlet })
                ? (IReadOnlyList<ArchivedLetter>)
                    [
                        .. Going(db, outlet, piece: null)
                            .Concat(Out(db, outlet, piece: null))
                            .DistinctBy(l => l.Piece)
                            .OrderByDescending(l => l.OutOn)
                            .ThenByDescending(l => l.Piece.Value),
                    ]
                : null
        );

    /// <summary>The letter that a piece was; null where there is none, or nobody may read it.</summary>
    public ArchivedLetter? Find(OutletNumber outlet, PieceNumber piece) =>
        papers.Read(db =>
            db.ExecuteScalar<bool>($"SELECT {IsOpen}", new { outlet })
                ? Going(db, outlet, piece).Concat(Out(db, outlet, piece)).FirstOrDefault()
                : null
        );

    private static IEnumerable<ArchivedLetter> Out(SqliteConnection db, OutletNumber outlet, PieceNumber? piece) =>
        ReleaseRows
            .List(
                db,
                "r.outlet = @outlet AND (@piece IS NULL OR r.piece = @piece) "
                    + "AND EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)",
                new { outlet, piece },
                withText: true
            )
            .Select(r => new ArchivedLetter(
                r.Piece,
                r.Title,
                r.Corrections is [.., var last] ? last.Text : r.Text,
                r.Picture,
                r.OutOn,
                r.Summary.Length > 0 ? r.Summary : SummaryLine.Of(r.SpeaksOf),
                PieceRows.Get(db, r.Piece).Language,
                r.Corrections
            ));

    /// <summary>Those that are being sent: who has theirs already follows its link before it is a release.</summary>
    private static IEnumerable<ArchivedLetter> Going(SqliteConnection db, OutletNumber outlet, PieceNumber? piece) =>
        SendingRows
            .List(db, "s.outlet = @outlet AND (@piece IS NULL OR s.piece = @piece) AND s.state <> 'sent'", new { outlet, piece })
            .Where(s => s.Letters is { Sent: > 0 })
            .Select(s => new ArchivedLetter(
                s.Piece,
                s.Title,
                s.Text,
                s.Picture,
                DateOnly.FromDateTime(s.At.Date),
                "",
                PieceRows.Get(db, s.Piece).Language,
                []
            ));
}
