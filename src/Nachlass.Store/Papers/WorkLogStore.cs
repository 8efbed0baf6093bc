using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Store.Papers;

/// <summary>Says day by day what was done, from the history and from when things were caught, settled, done and sent.</summary>
public sealed class WorkLogStore(PapersFile papers)
{
    /// <summary>Days at most that are put together at once.</summary>
    public const int MostDays = 100;

    /// <param name="from">The first day; a week before the last when null.</param>
    /// <param name="to">The last day; today when null.</param>
    /// <exception cref="BadInputException">The days stand in the wrong order, or are too many.</exception>
    public WorkLog Between(DateOnly? from = null, DateOnly? to = null)
    {
        var last = to ?? papers.Today;
        var first = from ?? last.AddDays(-6);
        if (first > last)
            throw new BadInputException("from", "The first day lies behind the last.");
        if (last.DayNumber - first.DayNumber >= MostDays)
            throw new BadInputException("from", $"Choose {MostDays} days at most.");
        return papers.Read(db =>
        {
            var span = (Start: Start(first), End: Start(last.AddDays(1)));
            var caught = Lines(
                db,
                "SELECT caught_at AS at, '' AS what, substr(text, 1, 300) AS title, 'slip' AS kind, number FROM slip "
                    + "WHERE caught_at >= @start AND caught_at < @end ORDER BY caught_at, number",
                span
            );
            var decided = Lines(
                db,
                """
                SELECT settled_at AS at, CASE WHEN merged_into IS NOT NULL THEN 'merged' ELSE state END AS what,
                        substr(text, 1, 300) AS title,
                    'slip' AS kind, number FROM slip
                WHERE settled_at >= @start AND settled_at < @end AND settled_at <> caught_at AND state <> 'waiting'
                UNION ALL
                SELECT started_at, 'started', title, 'piece', number FROM piece WHERE started_at >= @start AND started_at < @end
                    AND trashed_at IS NULL
                ORDER BY 1, 5
                """,
                span
            );
            var moved = Lines(
                db,
                """
                SELECT done_at AS at, 'did' AS what, text AS title, 'day' AS kind, 0 AS number FROM move
                WHERE done_at >= @start AND done_at < @end
                UNION ALL
                SELECT at, what, '', 'piece', coalesce(piece, 0) FROM command
                WHERE at >= @start AND at < @end AND root IS NULL AND undone_by IS NULL AND what LIKE 'moved P %'
                ORDER BY 1, 5
                """,
                span
            );
            var written = db.Query<(string At, int Piece, string Title, int Words)>(
                    """
                    SELECT c.at, w.piece, p.title, w.words FROM written w JOIN command c ON c.number = w.command
                        JOIN piece p ON p.number = w.piece
                    WHERE c.at >= @start AND c.at < @end
                    """,
                    Arguments(span)
                )
                .ToList()
                .ToLookup(w => DayOf(w.At));
            var sheets = db.Query<(DateOnly Day, int Number, string Text)>(
                    """
                    SELECT d.day, d.day_number, d.text || coalesce((SELECT char(10) || group_concat(b.text, char(10)) FROM day_block b
                        WHERE b.day_number = d.day_number), '') FROM day_sheet d WHERE d.day >= @first AND d.day <= @last
                    """,
                    new { first = first.Kept(), last = last.Kept() }
                )
                .ToDictionary(s => s.Day);
            var sent = db.Query<(int Number, string Title, DateOnly Day)>(
                    "SELECT number, title, out_on FROM piece WHERE out_on >= @first AND out_on <= @last AND trashed_at IS NULL "
                        + "ORDER BY out_on",
                    new { first = first.Kept(), last = last.Kept() }
                )
                .ToLookup(s => s.Day);
            var days = Enumerable
                .Range(0, last.DayNumber - first.DayNumber + 1)
                .Select(i => last.AddDays(-i))
                .Select(day => new WorkDay(
                    day,
                    [.. caught[day]],
                    [.. decided[day]],
                    [.. Written(day)],
                    [.. moved[day]],
                    [.. sent[day].Select(s => new WorkLine("sent", s.Title, Reference.To(PieceNumber.Of(s.Number))))]
                ));
            return new WorkLog(first, last, [.. days]);

            IEnumerable<WordsWritten> Written(DateOnly day)
            {
                foreach (var piece in written[day].GroupBy(w => (w.Piece, w.Title)).OrderBy(g => g.Key.Piece))
                    if (piece.Sum(w => w.Words) is var words and not 0)
                        yield return new WordsWritten(piece.Key.Title, Reference.To(PieceNumber.Of(piece.Key.Piece)), words);
                if (sheets.TryGetValue(day, out var sheet) && Counts.Of(sheet.Text).Words is var own and > 0)
                    yield return new WordsWritten("the sheet of the day", Reference.To(day), own);
            }
        });
    }

    private ILookup<DateOnly, WorkLine> Lines(SqliteConnection db, string sql, (string Start, string End) span) =>
        db.Query<(string At, string What, string Title, string Kind, int Number)>(sql, Arguments(span))
            .ToList()
            .ToLookup(
                row => DayOf(row.At),
                row => new WorkLine(
                    row.What,
                    PlainText.Headline(row.Title),
                    row.Number == 0 ? null : new Reference(Enum.Parse<ThingKind>(row.Kind, true), row.Number)
                )
            );

    private static object Arguments((string Start, string End) span) => new { start = span.Start, end = span.End };

    private string Start(DateOnly day)
    {
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        return new DateTimeOffset(midnight, papers.Time.LocalTimeZone.GetUtcOffset(midnight)).Kept();
    }

    private DateOnly DayOf(string at) =>
        DateOnly.FromDateTime(
            TimeZoneInfo
                .ConvertTime(
                    DateTimeOffset.Parse(
                        at,
                        System.Globalization.CultureInfo.InvariantCulture,
                        System.Globalization.DateTimeStyles.AssumeUniversal
                    ),
                    papers.Time.LocalTimeZone
                )
                .DateTime
        );
}
