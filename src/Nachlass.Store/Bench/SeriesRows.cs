using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Bench;

/// <summary>Series as rows.</summary>
internal static class SeriesRows
{
    private const string Columns = "SELECT s.number, s.name, s.about, s.title_pattern, s.format, s.version FROM series s";

    public static IReadOnlyList<Series> All(SqliteConnection db) => [.. db.Query<Row>($"{Columns} ORDER BY s.number").Select(r => r.Whole)];

    /// <exception cref="NotThereException">There is no such series.</exception>
    public static Series Get(SqliteConnection db, SeriesNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE s.number = @number", new { number })?.Whole
        ?? throw new NotThereException($"series {number}");

    /// <summary>The series a piece is in.</summary>
    public static Series? Of(SqliteConnection db, PieceNumber piece) =>
        db.QuerySingleOrDefault<Row>(
            $"{Columns} JOIN series_piece sp ON sp.series = s.number WHERE sp.piece = @piece",
            new { piece }
        )?.Whole;

    /// <summary>Its pieces, in order, without those in the trash.</summary>
    public static IReadOnlyList<PieceNumber> Pieces(SqliteConnection db, SeriesNumber series) =>
        [
            .. db.Query<int>(
                    "SELECT sp.piece FROM series_piece sp JOIN piece p ON p.number = sp.piece "
                        + "WHERE sp.series = @series AND p.trashed_at IS NULL ORDER BY sp.position, sp.id",
                    new { series }
                )
                .Select(PieceNumber.Of),
        ];

    public static int NextNumber(int pieces) => pieces + 1;

    public static void Put(SqliteConnection db, SeriesNumber series, PieceNumber piece, int position) =>
        db.Execute(
            "INSERT INTO series_piece (series, piece, position) VALUES (@series, @piece, @position) "
                + "ON CONFLICT (piece) DO UPDATE SET position = @position",
            new
            {
                series,
                piece,
                position,
            }
        );

    public static IReadOnlyList<SeriesImage> Image(SqliteConnection db) =>
        [
            .. All(db)
                .Select(s => new SeriesImage(
                    s,
                    [
                        .. db.Query<int>("SELECT piece FROM series_piece WHERE series = @Number ORDER BY position, id", new { s.Number })
                            .Select(PieceNumber.Of),
                    ]
                )),
        ];

    public static void PutImage(SqliteConnection db, SeriesImage image)
    {
        db.Execute(
            "INSERT INTO series (number, name, about, title_pattern, format) VALUES (@Number, @Name, @About, @TitlePattern, @Format)",
            image.Series
        );
        for (var at = 0; at < image.Pieces.Count; at++)
            Put(db, image.Series.Number, image.Pieces[at], at + 1);
    }

    private sealed record Row
    {
        public SeriesNumber Number { get; init; }
        public string Name { get; init; } = "";
        public string About { get; init; } = "";
        public string TitlePattern { get; init; } = "";
        public string Format { get; init; } = "";
        public int Version { get; init; }

        public Series Whole => new(Number, Name, About, TitlePattern, Format, Version);
    }
}
