using Dapper;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Sift;

/// <summary>Counts how the sifting goes.</summary>
public sealed class FlowStore(PapersFile papers)
{
    /// <summary>The last months, the present one among them. What came in kept, while reading or from elsewhere, was not sifted and is not
    /// counted.</summary>
    public Flow Over(int months) =>
        papers.Read(db =>
        {
            var count = Math.Clamp(months, 1, 60);
            var first = new DateOnly(papers.Today.Year, papers.Today.Month, 1).AddMonths(1 - count);
            var rows = db.Query<(string Month, int Kept, int Held, int Dropped, int Used, int Out)>(
                    $"""
                    SELECT substr(s.settled_at, 1, 7), count(*) FILTER (WHERE s.state = 'kept'), count(*) FILTER (WHERE s.state = 'held'),
                        count(*) FILTER (WHERE s.state = 'dropped'),
                        count(*) FILTER (WHERE s.state = 'kept' AND {SlipRows.Used}),
                        count(*) FILTER (WHERE s.state = 'kept' AND {Links.StandsInAPiece(ThingKind.Slip, "p.out_on IS NOT NULL")})
                    FROM slip s WHERE s.settled_at >= @first AND s.settled_at <> s.caught_at GROUP BY 1
                    """,
                    new { first = first.Kept() }
                )
                .ToDictionary(r => r.Month);
            return Flow.Of([
                .. Enumerable
                    .Range(0, count)
                    .Select(i => first.AddMonths(i))
                    .Select(month =>
                    {
                        var row = rows.GetValueOrDefault(month.Kept()[..7]);
                        return new FlowMonth(month, row.Kept, row.Held, row.Dropped, row.Used, row.Out);
                    }),
            ]);
        });
}
