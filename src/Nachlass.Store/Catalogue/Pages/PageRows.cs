using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Pages;

/// <summary>Pages of one's own as rows.</summary>
internal static class PageRows
{
    private const string Columns =
        "p.number, p.piece, p.series, p.slug, p.title, p.summary, p.follows, p.asks AS asks_passphrase, p.takes_comments, p.is_listed, "
        + "p.put_up_at, p.renewed_at, p.down_at, p.version";

    public static IReadOnlyList<Page> List(SqliteConnection db, string where = "true", object? arguments = null) =>
        db.Query<Page>($"SELECT {Columns} FROM page p WHERE {where} ORDER BY p.number", arguments).AsList();

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Page Get(SqliteConnection db, PageNumber number) =>
        List(db, "p.number = @number", new { number }).SingleOrDefault() ?? throw new NotThereException($"page {number}");

    public static PageNumber Put(SqliteConnection db, Page page)
    {
        return PageNumber.Of(
            db.ExecuteScalar<int>(
                """
                INSERT INTO page (number, piece, series, slug, title, summary, follows, asks, takes_comments, is_listed, put_up_at,
                    renewed_at, down_at)
                VALUES (@number, @Piece, @Series, @Slug, @Title, @Summary, @Follows, @AsksPassphrase, @TakesComments, @IsListed, @PutUpAt,
                    @RenewedAt, @DownAt) RETURNING number
                """,
                new
                {
                    number = page.Number.Value == 0 ? (int?)null : page.Number.Value,
                    page.Piece,
                    page.Series,
                    page.Slug,
                    page.Title,
                    page.Summary,
                    page.Follows,
                    page.AsksPassphrase,
                    page.TakesComments,
                    page.IsListed,
                    page.PutUpAt,
                    page.RenewedAt,
                    page.DownAt,
                }
            )
        );
    }

    /// <summary>Its pieces as they were put up.</summary>
    public static IReadOnlyList<PagePart> Parts(SqliteConnection db, PageNumber page) =>
        [
            .. db.Query<(int Piece, string Title, string Text)>(
                    "SELECT piece, title, text FROM page_part WHERE page = @page ORDER BY id",
                    new { page }
                )
                .Select(p => new PagePart(PieceNumber.Of(p.Piece), p.Title, p.Text)),
        ];

    public static void SetParts(SqliteConnection db, PageNumber page, IReadOnlyList<PagePart> parts)
    {
        db.Execute("DELETE FROM page_part WHERE page = @page", new { page });
        foreach (var part in parts)
            db.Execute(
                "INSERT INTO page_part (page, piece, title, text) VALUES (@page, @Piece, @Title, @Text)",
                new
                {
                    page,
                    part.Piece,
                    part.Title,
                    part.Text,
                }
            );
    }

    /// <summary>Its pieces as they stand now: of a series those that went out. A reference to another piece leads to its page where
    /// everybody may read it, else to where it can be read elsewhere.</summary>
    public static IReadOnlyList<PagePart> PartsNow(SqliteConnection db, Page page)
    {
        var pieces = page.Piece is { } one
            ? [PieceRows.Get(db, one)]
            : SeriesRows
                .Pieces(db, page.Series!.Value)
                .Select(number => PieceRows.Get(db, number))
                .Where(piece => piece.OutOn is not null)
                .ToList();
        var within = pieces.Select(p => p.Number).ToHashSet();
        var asked = new OutAsked(WithTitle: false)
        {
            PageOf = piece => within.Contains(piece) && page.Series is not null ? $"#{Anchor(piece)}" : OpenPath(db, piece),
        };
        return [.. pieces.Select(p => new PagePart(p.Number, p.Title, OutStore.Finished(db, p.Number, asked).TrimEnd()))];
    }

    /// <summary>By what a piece is jumped to on the page of its series.</summary>
    public static string Anchor(PieceNumber piece) => $"piece-{piece}";

    /// <summary>Where on the site everybody may read a piece; null when there is no such page.</summary>
    private static string? OpenPath(SqliteConnection db, PieceNumber piece) =>
        List(db, "p.piece = @piece AND p.down_at IS NULL AND NOT p.asks", new { piece }) is [var page, ..] ? $"/{page.Slug}/" : null;

    public static IReadOnlyList<string> Earlier(SqliteConnection db, PageNumber page) =>
        db.Query<string>("SELECT slug FROM page_earlier WHERE page = @page ORDER BY id", new { page }).AsList();

    public static void PutEarlier(SqliteConnection db, PageNumber page, string slug) =>
        db.Execute("INSERT INTO page_earlier (page, slug) VALUES (@page, @slug)", new { page, slug });

    /// <summary>Whether a page has an address, or had it.</summary>
    public static bool IsTaken(SqliteConnection db, string slug, PageNumber? but = null) =>
        db.ExecuteScalar<bool>(
            "SELECT EXISTS (SELECT 1 FROM page WHERE slug = @slug AND number IS NOT @but) "
                + "OR EXISTS (SELECT 1 FROM page_earlier WHERE slug = @slug AND page IS NOT @but)",
            new { slug, but }
        );

    public static IReadOnlyList<PageComment> Comments(SqliteConnection db, string where, object? arguments = null) =>
        [
            .. db.Query<CommentRow>(
                    $"SELECT number, page, at, person, text, state, source FROM page_comment WHERE {where} ORDER BY number",
                    arguments
                )
                .Select(c => new PageComment(c.Number, c.Page, c.At, c.Person, c.Text, c.State, c.Source)),
        ];

    public static void Put(SqliteConnection db, PageComment comment) =>
        db.Execute(
            "INSERT INTO page_comment (number, page, at, person, text, state, source) "
                + "VALUES (@number, @Page, @At, @Person, @Text, @state, @Source)",
            new
            {
                number = comment.Number.Value == 0 ? (int?)null : comment.Number.Value,
                comment.Page,
                comment.At,
                comment.Person,
                comment.Text,
                comment.Source,
                state = comment.State.Kept(),
            }
        );

    public static IReadOnlyList<PageDay> Days(SqliteConnection db, PageNumber page) =>
        [
            .. db.Query<(string Day, int Views, int Readers)>(
                    "SELECT day, views, readers FROM page_day WHERE page = @page ORDER BY day",
                    new { page }
                )
                .Select(d => new PageDay(Mapping.Day(d.Day)!.Value, d.Views, d.Readers)),
        ];

    public static void Count(SqliteConnection db, PageNumber page, PageDay day) =>
        db.Execute(
            "INSERT INTO page_day (page, day, views, readers) VALUES (@page, @Day, @Views, @Readers) "
                + "ON CONFLICT (page, day) DO UPDATE SET views = views + @Views, readers = readers + @Readers",
            new
            {
                page,
                day.Day,
                day.Views,
                day.Readers,
            }
        );

    public static IReadOnlyList<PageImage> Image(SqliteConnection db) =>
        [
            .. List(db)
                .Select(p => new PageImage(
                    p,
                    Parts(db, p.Number),
                    Earlier(db, p.Number),
                    Comments(db, "page = @Number", new { p.Number }),
                    Days(db, p.Number)
                )),
        ];

    public static void PutImage(SqliteConnection db, PageImage image)
    {
        Put(db, image.Page);
        // A file that says nothing of the text shows it as it stands.
        SetParts(db, image.Page.Number, image.Parts.Count > 0 ? image.Parts : PartsNow(db, image.Page));
        foreach (var slug in image.Earlier)
            PutEarlier(db, image.Page.Number, slug);
        foreach (var comment in image.Comments)
            Put(db, comment);
        foreach (var day in image.Days)
            Count(db, image.Page.Number, day);
    }

    private sealed record CommentRow
    {
        public CommentNumber Number { get; init; }
        public PageNumber Page { get; init; }
        public DateTimeOffset At { get; init; }
        public string Person { get; init; } = "";
        public string Text { get; init; } = "";
        public string Source { get; init; } = "";
        public CommentState State { get; init; }
    }
}
