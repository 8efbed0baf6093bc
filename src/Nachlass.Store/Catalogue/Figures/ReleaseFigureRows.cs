using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Figures;

/// <summary>Figures of releases, as rows.</summary>
internal static class ReleaseFigureRows
{
    private const string Kept = """
        SELECT release, name, day, total, 'hand' AS by FROM figure_typed
        UNION ALL SELECT release, name, day, total, 'outlet' FROM figure_told t
            WHERE NOT EXISTS (SELECT 1 FROM figure_typed h WHERE h.release = t.release AND h.name = t.name AND h.day = t.day)
        """;

    /// <summary>A release that is a page of one's own: at the site's own address, or at one of this machine where the site has
    /// none.</summary>
    private const string Paged = """
        release r JOIN page p ON p.piece = r.piece JOIN page_day d ON d.page = p.number AND d.day >= r.out_on
            AND r.address LIKE '%/' || p.slug
            AND r.address LIKE coalesce((SELECT nullif(value, '') FROM setting WHERE name = 'site address'), 'http://127.0.0.1:') || '%'
        """;

    /// <summary>What is counted here: views and readers of pages, and letters sent.</summary>
    private const string Counted = $"""
        SELECT r.number AS release, 'views' AS name, d.day, sum(d.views) OVER (PARTITION BY r.number, p.number ORDER BY d.day) AS total,
            'here' AS by FROM {Paged}
        UNION ALL SELECT r.number, 'readers', d.day, sum(d.readers) OVER (PARTITION BY r.number, p.number ORDER BY d.day), 'here'
        FROM {Paged}
        UNION ALL SELECT s.release, 'sent', r.out_on, count(*), 'here'
        FROM sending s JOIN release r ON r.number = s.release JOIN sending_part x ON x.sending = s.number
            JOIN letter_copy c ON c.key = x.key AND c.state = 'sent' GROUP BY s.release
        """;

    public static IReadOnlyList<(ReleaseNumber Release, ReleaseFigure Figure)> All(SqliteConnection db, ReleaseNumber? release = null) =>
        Read(db, $"{Kept} UNION ALL {Counted}", release);

    /// <summary>The views of each release as last known, without reading all that were ever told.</summary>
    public static Dictionary<ReleaseNumber, int> LatestViews(SqliteConnection db) =>
        db.Query<(int Release, int Total, string Day)>(
                // SQLite takes the other columns from the row that has the maximum (sqlite.org/lang_select.html, “bare columns”).
                $"SELECT f.release, f.total, max(f.day) FROM ({Kept} UNION ALL {Counted}) f WHERE f.name = @Views GROUP BY f.release",
                new { ReleaseFigures.Views }
            )
            .ToDictionary(f => ReleaseNumber.Of(f.Release), f => f.Total);

    /// <summary>What was typed and told, as it goes out with the papers.</summary>
    public static IReadOnlyList<FigureImage> Image(SqliteConnection db) =>
        [.. Read(db, Kept, null).Select(f => new FigureImage(f.Release, f.Figure))];

    private static List<(ReleaseNumber Release, ReleaseFigure Figure)> Read(SqliteConnection db, string from, ReleaseNumber? release) =>
        [
            .. db.Query<(int Release, string Name, string Day, int Total, string By)>(
                    $"SELECT f.release, f.name, f.day, f.total, f.by FROM ({from}) f WHERE (@release IS NULL OR f.release = @release) "
                        + "AND EXISTS (SELECT 1 FROM release r WHERE r.number = f.release) ORDER BY f.release, f.name, f.day, f.by",
                    new { release = release?.Value }
                )
                .Select(f =>
                    (
                        ReleaseNumber.Of(f.Release),
                        new ReleaseFigure(f.Name, Mapping.Day(f.Day)!.Value, f.Total, Enum.Parse<ToldBy>(f.By, ignoreCase: true))
                    )
                ),
        ];

    public static void Put(SqliteConnection db, ReleaseNumber release, ReleaseFigure figure) =>
        db.Execute(
            $"INSERT INTO {(figure.By == ToldBy.Hand ? "figure_typed" : "figure_told")} (release, name, day, total) "
                + "VALUES (@release, @Name, @Day, @Total) ON CONFLICT (release, name, day) DO UPDATE SET total = @Total",
            new
            {
                release,
                figure.Name,
                figure.Day,
                figure.Total,
            }
        );

    public static int RemoveTyped(SqliteConnection db, ReleaseNumber release, string? name = null, DateOnly? day = null) =>
        db.Execute(
            "DELETE FROM figure_typed WHERE release = @release AND (@name IS NULL OR name = @name) AND (@day IS NULL OR day = @day)",
            new
            {
                release,
                name,
                day,
            }
        );
}
