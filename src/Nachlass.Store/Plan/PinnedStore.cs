using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>The few pieces that are next, at hand everywhere.</summary>
public sealed class PinnedStore(PapersFile papers)
{
    /// <summary>More than these are not the next few any more.</summary>
    public const int Most = 4;

    /// <summary>In the writer's order.</summary>
    public IReadOnlyList<Piece> List() =>
        papers.Read(db => PieceRows.List(db, "p.pinned IS NOT NULL AND p.trashed_at IS NULL", null).OrderBy(p => p.Pinned).ToList());

    /// <summary>Pins pieces, in this order, and no others.</summary>
    /// <exception cref="BadInputException">There are more than four, or one that is not there or is out.</exception>
    public Done<IReadOnlyList<Piece>> Set(IReadOnlyList<PieceNumber> pieces, Once once)
    {
        var order = pieces.Distinct().ToList();
        if (order.Count > Most)
            throw new BadInputException("pieces", $"At most {Most} pieces are pinned; take one away first.");
        return papers.Run<IReadOnlyList<Piece>>(
            "pinned pieces",
            once,
            change =>
            {
                foreach (var number in order)
                    if (PieceRows.Find(change.Db, number) is not { TrashedAt: null })
                        throw new BadInputException("pieces", $"There is no P {number}.");
                change.Db.Execute(
                    "UPDATE piece SET pinned = NULL WHERE pinned IS NOT NULL AND number NOT IN @numbers",
                    new { numbers = order.Select(p => p.Value).ToList() }
                );
                foreach (var (number, at) in order.Select((n, i) => (n, i + 1)))
                    change.Db.Execute("UPDATE piece SET pinned = @at WHERE number = @number AND pinned IS NOT @at", new { at, number });
                change.What = order.Count == 0 ? "pinned nothing" : $"pinned {string.Join(", ", order.Select(p => $"P {p}"))}";
                return [.. PieceRows.List(change.Db, "p.pinned IS NOT NULL AND p.trashed_at IS NULL", null).OrderBy(p => p.Pinned)];
            }
        );
    }
}
