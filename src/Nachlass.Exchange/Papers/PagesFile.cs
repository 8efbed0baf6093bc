using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Papers;

/// <summary>Pages of one's own: <c>pages/0003 the-address.md</c>, with their texts as put up, comments, and how often they were
/// read. What is known of their passphrases stays on the machine.</summary>
internal static class PagesFile
{
    public const string Folder = "pages";

    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers) =>
        papers.Pages.Select(image =>
        {
            var page = image.Page;
            return (
                $"{Folder}/{page.Number.Value:0000} {page.Slug}.md",
                new FrontMatterWriter()
                    .Add("page", page.Number.Value)
                    .Add("piece", page.Piece?.Value)
                    .Add("series", page.Series?.Value)
                    .Add("address", page.Slug)
                    .Add("title", page.Title)
                    .Add("summary", page.Summary)
                    .Add("follows", Yes(page.Follows))
                    .Add("asks-passphrase", Yes(page.AsksPassphrase))
                    .Add("takes-comments", Yes(page.TakesComments))
                    .Add("unlisted", Yes(!page.IsListed))
                    .Add("put-up", page.PutUpAt)
                    .Add("renewed", page.RenewedAt)
                    .Add("down", page.DownAt)
                    .Add("earlier", image.Earlier)
                    .Add(
                        "parts",
                        image.Parts.Select(p =>
                            new FrontMatterWriter().Add("piece", p.Piece.Value).Add("title", p.Title).Add("text", p.Text)
                        )
                    )
                    .Add(
                        "comments",
                        image.Comments.Select(c =>
                            new FrontMatterWriter()
                                .Add("comment", c.Number.Value)
                                .Add("at", c.At)
                                .Add("person", c.Person)
                                .Add("state", c.State)
                                .Add("source", c.Source)
                                .Add("text", c.Text)
                        )
                    )
                    .Add(
                        "days",
                        image.Days.Select(d => new FrontMatterWriter().Add("day", d.Day).Add("views", d.Views).Add("readers", d.Readers))
                    )
                    .Write("")
            );
        });

    /// <param name="day">A day of a file, moved along.</param>
    /// <param name="instant">An instant of a file, moved along.</param>
    public static PageImage Read(
        string file,
        FrontMatter f,
        Func<FrontMatter, string, DateOnly?> day,
        Func<FrontMatter, string, DateTimeOffset?> instant
    )
    {
        var number = PageNumber.Of(Must("page", f.Number("page")));
        var putUp = Must("put-up", instant(f, "put-up"));
        return new PageImage(
            new Page
            {
                Number = number,
                Piece = f.Number("piece") is { } piece ? PieceNumber.Of(piece) : null,
                Series = f.Number("series") is { } series ? SeriesNumber.Of(series) : null,
                Slug = PageAddress.Checked(f.Word("address")),
                Title = Check.Text("title", f.Word("title"), Page.LongestTitle),
                Summary = Check.Length("summary", f.Word("summary"), Page.LongestSummary),
                Follows = f.Word("follows") == "yes",
                AsksPassphrase = f.Word("asks-passphrase") == "yes",
                TakesComments = f.Word("takes-comments") == "yes",
                IsListed = f.Word("unlisted") != "yes",
                PutUpAt = putUp,
                RenewedAt = instant(f, "renewed") ?? putUp,
                DownAt = instant(f, "down"),
            },
            [
                .. f.Records("parts")
                    .Select(p => new PagePart(
                        PieceNumber.Of(Must("piece", p.Number("piece"))),
                        Check.Length("title", p.Word("title"), Piece.LongestTitle),
                        Check.Length("text", p.Word("text"), DraftText.Longest)
                    )),
            ],
            [.. f.Words("earlier").Select(PageAddress.Checked)],
            [
                .. f.Records("comments")
                    .Select(c => new PageComment(
                        CommentNumber.Of(Must("comment", c.Number("comment"))),
                        number,
                        Must("at", instant(c, "at")),
                        Check.Length("person", c.Word("person"), CommentRules.LongestPerson),
                        Check.Length("text", c.Word("text"), CommentRules.LongestText),
                        c.Enum("state", CommentState.Held),
                        Check.WebAddress("source", c.Word("source"))
                    )),
            ],
            [.. f.Records("days").Select(d => new PageDay(Must("day", day(d, "day")), d.Number("views") ?? 0, d.Number("readers") ?? 0))]
        );

        T Must<T>(string field, T? value)
            where T : struct => value ?? throw new UnreadableFileException(file, $"the field “{field}” is missing.");
    }

    private static string Yes(bool said) => said ? "yes" : "";
}
