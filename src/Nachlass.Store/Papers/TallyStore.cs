using Dapper;
using Nachlass.Store.Sift;

namespace Nachlass.Store.Papers;

/// <summary>The live counts beside the screens' names.</summary>
/// <param name="Desk">Open moves that are due today or late.</param>
/// <param name="Sift">Waiting slips.</param>
/// <param name="Library">Slips in sight and sources.</param>
/// <param name="Bench">Pieces in hand.</param>
/// <param name="Catalogue">Pieces that went out.</param>
public sealed record Tally(int Desk, int Sift, int Library, int Topics, int Bench, int Catalogue);

public sealed class TallyStore(PapersFile papers)
{
    public Tally Count() =>
        papers.Read(db =>
        {
            var today = papers.Today;
            return new Tally(
                db.ExecuteScalar<int>("SELECT count(*) FROM move WHERE done_at IS NULL AND due <= @today", new { today }),
                SiftStore.CountWaiting(db, today),
                db.ExecuteScalar<int>(
                    "SELECT (SELECT count(*) FROM slip WHERE state IN ('waiting', 'kept')) + (SELECT count(*) FROM source "
                        + "WHERE trashed_at IS NULL)"
                ),
                db.ExecuteScalar<int>("SELECT count(*) FROM topic WHERE merged_into IS NULL"),
                db.ExecuteScalar<int>("SELECT count(*) FROM piece WHERE out_on IS NULL AND trashed_at IS NULL"),
                db.ExecuteScalar<int>("SELECT count(*) FROM piece WHERE out_on IS NOT NULL AND trashed_at IS NULL")
            );
        });
}
