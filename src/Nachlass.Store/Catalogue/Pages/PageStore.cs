using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Pages;

/// <summary>How often a page was read.</summary>
public sealed record PageCount(int Views, int Readers)
{
    internal static PageCount Of(IEnumerable<PageDay> days)
    {
        var all = days.ToList();
        return new PageCount(all.Sum(d => d.Views), all.Sum(d => d.Readers));
    }
}

/// <summary>A page as it is looked at by its writer.</summary>
/// <param name="Of">Title of its piece or series.</param>
/// <param name="IsBehind">Whether the text it shows is not what stands in the draft now.</param>
/// <param name="Held">Comments that wait for a word of the writer's.</param>
/// <param name="Week">Since six days ago; readers of each day added up.</param>
/// <param name="Days">By day, the earliest first.</param>
/// <param name="Comments">The latest first.</param>
public sealed record PageShown(
    Page Page,
    string Of,
    bool IsBehind,
    int Held,
    PageCount Today,
    PageCount Week,
    PageCount All,
    IReadOnlyList<PageDay> Days,
    IReadOnlyList<PageComment> Comments
)
{
    /// <summary>Where on the site it stands.</summary>
    public string Path => $"/{Page.Slug}/";
}

/// <summary>A page to be put up.</summary>
/// <param name="Slug">Its place on the site; made of the title when left out.</param>
/// <param name="Title">The piece's or series' when left out.</param>
/// <param name="Passphrase">What its readers have to know; empty for none.</param>
/// <param name="Outlet">On which it is noted as gone out, too; null for none.</param>
/// <param name="Address">Where the site begins, for that note.</param>
public sealed record NewPage(
    PieceNumber? Piece = null,
    SeriesNumber? Series = null,
    string? Slug = null,
    string? Title = null,
    string? Summary = null,
    bool Follows = false,
    string? Passphrase = null,
    bool TakesComments = false,
    bool IsListed = true,
    OutletNumber? Outlet = null,
    string? Address = null
);

/// <summary>A change to a page; what is not set stays.</summary>
/// <param name="Passphrase">Empty to have none.</param>
public sealed record PageChange(
    int? Version,
    string? Slug = null,
    string? Title = null,
    string? Summary = null,
    bool? Follows = null,
    string? Passphrase = null,
    bool? TakesComments = null,
    bool? IsListed = null
);

/// <summary>What is said of a comment.</summary>
public sealed record CommentWord(CommentState State);

/// <summary>What stands at an address of the site.</summary>
public abstract record AtAddress
{
    private AtAddress() { }

    /// <param name="Parts">As it is to be read now.</param>
    /// <param name="Updated">When its text was changed last.</param>
    /// <param name="Comments">Those that are shown.</param>
    public sealed record Up(Page Page, IReadOnlyList<PagePart> Parts, DateTimeOffset Updated, IReadOnlyList<PageComment> Comments)
        : AtAddress;

    /// <summary>It stands elsewhere now.</summary>
    public sealed record Moved(string Slug) : AtAddress;

    /// <summary>It was there, and was taken down.</summary>
    public sealed record Gone : AtAddress;
}

/// <summary>Puts pages up, changes them and takes them down.</summary>
/// <param name="hash">Makes the hash of a passphrase that is kept.</param>
public sealed class PageStore(PapersFile papers, MessageStore messages, AskShelf shelf, Func<string, string> hash)
{
    public IReadOnlyList<PageShown> List() =>
        papers.Read(db =>
            (IReadOnlyList<PageShown>)[.. PageRows.List(db).OrderByDescending(p => p.Number.Value).Select(p => Shown(db, p))]
        );

    public PageShown Get(PageNumber number) => papers.Read(db => Shown(db, PageRows.Get(db, number)));

    /// <summary>The page of a piece; null where it has none.</summary>
    public Page? Of(PieceNumber piece) =>
        papers.Read(db => PageRows.List(db, "p.piece = @piece", new { piece }) is [var page, ..] ? page : null);

    private PageShown Shown(SqliteConnection db, Page page)
    {
        var days = PageRows.Days(db, page.Number);
        var comments = PageRows.Comments(db, "page = @Number", new { page.Number });
        return new PageShown(
            page,
            OfTitle(db, page),
            page.DownAt is null
                && !page.Follows
                && HasText(db, page)
                && !PageRows.Parts(db, page.Number).SequenceEqual(PageRows.PartsNow(db, page)),
            comments.Count(c => c.State == CommentState.Held),
            PageCount.Of(days.Where(d => d.Day == papers.Today)),
            PageCount.Of(days.Where(d => d.Day > papers.Today.AddDays(-7))),
            PageCount.Of(days),
            days,
            [.. comments.Reverse()]
        );
    }

    private static string OfTitle(SqliteConnection db, Page page) =>
        page.Piece is { } piece
            ? PieceRows.Get(db, piece).Title
            : db.ExecuteScalar<string?>("SELECT name FROM series WHERE number = @Series", new { page.Series }) ?? page.Title;

    /// <summary>Whether there is something to be shown of it: its piece is not in the trash, its series is still there.</summary>
    private static bool HasText(SqliteConnection db, Page page) =>
        db.ExecuteScalar<bool>(
            page.Piece is not null
                ? "SELECT EXISTS (SELECT 1 FROM piece WHERE number = @Piece AND trashed_at IS NULL)"
                : "SELECT EXISTS (SELECT 1 FROM series WHERE number = @Series)",
            new { page.Piece, page.Series }
        );

    /// <summary>Puts a piece or a series up.</summary>
    /// <exception cref="ClashException">It has a page already.</exception>
    public Done<PageShown> PutUp(NewPage made, Once once)
    {
        if (made.Piece is null == made.Series is null)
            throw new BadInputException("piece", "A page shows either a piece or a series.");
        var typed = string.IsNullOrWhiteSpace(made.Slug) ? null : PageAddress.Checked(made.Slug);
        var title = string.IsNullOrWhiteSpace(made.Title) ? null : Check.Text("title", made.Title, Page.LongestTitle);
        var summary = Check.Length("summary", made.Summary?.Trim(), Page.LongestSummary);
        var secret = Passphrase(made.Passphrase);
        return papers.Run(
            "put a page up",
            once,
            change =>
            {
                var db = change.Db;
                var named = made.Piece is { } piece ? PieceRows.Get(db, piece).Title : SeriesRows.Get(db, made.Series!.Value).Name;
                if (PageRows.List(db, "p.piece IS @Piece AND p.series IS @Series", new { made.Piece, made.Series }) is [var there, ..])
                    throw new ClashException($"It has a page already, at /{there.Slug}/.");
                if (typed is not null && PageRows.IsTaken(db, typed))
                    throw new BadInputException("slug", $"Another page is at /{typed}/, or was.");
                var page = new Page
                {
                    Number = PageNumber.Of(0),
                    Piece = made.Piece,
                    Series = made.Series,
                    Slug = typed ?? PageAddress.Free(SlugOf(title ?? named), slug => PageRows.IsTaken(db, slug)),
                    Title = title ?? named,
                    Summary = summary,
                    Follows = made.Follows,
                    AsksPassphrase = secret is { Length: > 0 },
                    TakesComments = made.TakesComments,
                    IsListed = made.IsListed,
                    PutUpAt = change.Now,
                    RenewedAt = change.Now,
                };
                var number = PageRows.Put(db, page);
                PageRows.SetParts(db, number, Written(db, page));
                Keep(db, number, secret);
                if (made.Outlet is { } outlet)
                    ReleaseStore.Record(
                        change,
                        made.Piece ?? throw new BadInputException("outlet", "A series goes out piece by piece."),
                        new NewRelease(outlet, Address: made.Address is null ? null : $"{made.Address.TrimEnd('/')}/{page.Slug}/")
                    );
                change.What = $"put “{page.Title}” up as a page";
                return Shown(db, PageRows.Get(db, number));
            }
        );
    }

    private static string SlugOf(string title)
    {
        var slug = string.Concat(Stems.Fold(title).Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-'));
        while (slug.Contains("--", StringComparison.Ordinal))
            slug = slug.Replace("--", "-", StringComparison.Ordinal);
        slug = slug[..Math.Min(slug.Length, 60)].Trim('-');
        return slug.Length == 0 ? "page" : slug;
    }

    private static string? Passphrase(string? typed)
    {
        if (typed is null)
            return null;
        var said = Check.Length("passphrase", typed.Trim(), Page.LongestPassphrase);
        return said.Length is > 0 and < Page.ShortestPassphrase
            ? throw new BadInputException("passphrase", $"A passphrase has at least {Page.ShortestPassphrase} characters.")
            : said;
    }

    private void Keep(SqliteConnection db, PageNumber page, string? secret)
    {
        // When it is to have none, the last one stays, so that taking that back brings it back.
        if (secret is { Length: > 0 })
            db.Execute(
                "INSERT INTO page_secret (page, hash) VALUES (@page, @kept) ON CONFLICT (page) DO UPDATE SET hash = @kept",
                new { page, kept = hash(secret) }
            );
    }

    /// <exception cref="BadInputException">There is not a word to be shown.</exception>
    private static IReadOnlyList<PagePart> Written(SqliteConnection db, Page page)
    {
        var parts = PageRows.PartsNow(db, page);
        return parts.Any(p => p.Text.Trim().Length > 0) ? parts
            : page.Piece is { } piece ? throw new BadInputException("piece", $"There is not a word in P {piece} yet.")
            : throw new BadInputException("series", "Nothing of this series is out yet; its page shows the pieces that are.");
    }

    public Done<PageShown> Edit(PageNumber number, PageChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var slug = edit.Slug is null ? null : PageAddress.Checked(edit.Slug);
        var title = edit.Title is null ? null : Check.Text("title", edit.Title, Page.LongestTitle);
        var summary = edit.Summary is null ? null : Check.Length("summary", edit.Summary.Trim(), Page.LongestSummary);
        var secret = Passphrase(edit.Passphrase);
        return papers.Run(
            $"changed page {number}",
            once,
            change =>
            {
                var db = change.Db;
                var page = PageRows.Get(db, number);
                if (page.Version != based)
                    throw new StaleException($"Page {number}", page);
                if (slug is not null && slug != page.Slug)
                {
                    if (PageRows.IsTaken(db, slug, number))
                        throw new BadInputException("slug", $"Another page is at /{slug}/, or was.");
                    // What is linked to today leads there tomorrow.
                    db.Execute("DELETE FROM page_earlier WHERE slug = @slug", new { slug });
                    PageRows.PutEarlier(db, number, page.Slug);
                }
                // One that no longer follows stays as it is at this moment.
                if (edit.Follows is false && page.Follows && HasText(db, page))
                    Renew(change, page);
                db.Execute(
                    """
                    UPDATE page SET slug = @slug, title = @title, summary = @summary, follows = @follows, asks = @asks,
                        takes_comments = @comments, is_listed = @listed, version = version + 1 WHERE number = @number
                    """,
                    new
                    {
                        number,
                        slug = slug ?? page.Slug,
                        title = title ?? page.Title,
                        summary = summary ?? page.Summary,
                        follows = edit.Follows ?? page.Follows,
                        asks = secret is null ? page.AsksPassphrase : secret.Length > 0,
                        comments = edit.TakesComments ?? page.TakesComments,
                        listed = edit.IsListed ?? page.IsListed,
                    }
                );
                Keep(db, number, secret);
                change.What = $"changed the page “{title ?? page.Title}”";
                return Shown(db, PageRows.Get(db, number));
            }
        );
    }

    private static void Renew(Change change, Page page)
    {
        PageRows.SetParts(change.Db, page.Number, Written(change.Db, page));
        change.Db.Execute(
            "UPDATE page SET renewed_at = @Now, version = version + 1 WHERE number = @Number",
            new { change.Now, page.Number }
        );
    }

    /// <summary>Shows the text as it stands now.</summary>
    public Done<PageShown> Renew(PageNumber number, Once once) =>
        papers.Run(
            $"renewed page {number}",
            once,
            change =>
            {
                var page = PageRows.Get(change.Db, number);
                Renew(change, page);
                change.What = $"put “{page.Title}” up as it stands now";
                return Shown(change.Db, PageRows.Get(change.Db, number));
            }
        );

    /// <summary>Takes a page down, or puts it up again as it was.</summary>
    public Done<PageShown> SetDown(PageNumber number, bool down, Once once) =>
        papers.Run(
            $"took page {number} down",
            once,
            change =>
            {
                var page = PageRows.Get(change.Db, number);
                if (page.DownAt is not null == down)
                    throw new ClashException(down ? "It is down already." : "It is up already.");
                change.Db.Execute(
                    "UPDATE page SET down_at = @at, version = version + 1 WHERE number = @number",
                    new { number, at = down ? change.Now : (DateTimeOffset?)null }
                );
                change.What = down ? $"took the page “{page.Title}” down" : $"put the page “{page.Title}” up again";
                return Shown(change.Db, PageRows.Get(change.Db, number));
            }
        );

    /// <summary>Says what becomes of a comment. One that is shown or kept is a message of its reader's, too.</summary>
    public Done<PageShown> Decide(CommentNumber number, CommentWord word, Once once) =>
        shelf.Run(
            $"decided about comment {number}",
            once,
            change =>
            {
                var db = change.Db;
                var comment =
                    PageRows.Comments(db, "number = @number", new { number }).SingleOrDefault()
                    ?? throw new NotThereException($"comment {number}");
                var page = PageRows.Get(db, comment.Page);
                if (comment.State == word.State)
                    throw new ClashException($"It is {word.State.Kept()} already.");
                db.Execute("UPDATE page_comment SET state = @state WHERE number = @number", new { number, state = word.State.Kept() });
                if (word.State is CommentState.Shown or CommentState.Kept)
                    messages.Take(
                        change,
                        new NewMessage(
                            comment.Person,
                            CommentRules.AsMarkdown(comment.Text),
                            comment.At,
                            Way: comment.Source.Length > 0 ? comment.Source : $"the page “{page.Title}”",
                            About: page.Title,
                            Key: $"page comment {number}"
                        )
                    );
                change.What = word.State switch
                {
                    CommentState.Shown => $"showed the comment of {comment.Person}",
                    CommentState.Kept => $"kept the comment of {comment.Person} as a message",
                    CommentState.Refused => $"refused the comment of {comment.Person}",
                    _ => $"holds the comment of {comment.Person}",
                };
                return Shown(db, page);
            }
        );

    /// <summary>What stands at a place of the site.</summary>
    /// <returns>Null where nothing is and was.</returns>
    public AtAddress? At(string slug) =>
        papers.Read<AtAddress?>(db =>
        {
            if (PageRows.List(db, "p.slug = @slug", new { slug }).SingleOrDefault() is { } page)
                return page.DownAt is null && Read(db, page) is { Parts.Count: > 0 } up ? up : new AtAddress.Gone();
            return
                db.ExecuteScalar<string?>(
                    "SELECT p.slug FROM page_earlier e JOIN page p ON p.number = e.page WHERE e.slug = @slug",
                    new { slug }
                )
                    is { } now
                ? new AtAddress.Moved(now)
                : null;
        });

    private static AtAddress.Up Read(SqliteConnection db, Page page)
    {
        var follows = page.Follows && HasText(db, page);
        // What lies in the trash is read by nobody.
        var trashed = db.Query<int>("SELECT number FROM piece WHERE trashed_at IS NOT NULL").ToHashSet();
        var parts = (follows ? PageRows.PartsNow(db, page) : PageRows.Parts(db, page.Number))
            .Where(p => !trashed.Contains(p.Piece.Value))
            .ToList();
        var updated = follows ? parts.Select(p => PieceRows.Get(db, p.Piece).ChangedAt).Append(page.RenewedAt).Max() : page.RenewedAt;
        return new AtAddress.Up(page, parts, updated, PageRows.Comments(db, "page = @Number AND state = 'shown'", new { page.Number }));
    }

    /// <summary>The pages everybody may come upon, the latest first.</summary>
    public IReadOnlyList<AtAddress.Up> Open() =>
        papers.Read(db =>
            (IReadOnlyList<AtAddress.Up>)
                [
                    .. PageRows
                        .List(db, "p.down_at IS NULL AND p.is_listed AND NOT p.asks")
                        .OrderByDescending(p => p.PutUpAt)
                        .Select(p => Read(db, p))
                        .Where(up => up.Parts.Count > 0),
                ]
        );

    /// <summary>The hash of a page's passphrase; null where there is none on this machine, and then nobody can read it.</summary>
    public string? Secret(PageNumber page) =>
        papers.Read(db => db.ExecuteScalar<string?>("SELECT hash FROM page_secret WHERE page = @page", new { page }));

    /// <summary>Holds what a reader wrote. It is no command: nothing a stranger does stands in the way of the writer's undo.</summary>
    /// <returns>Whether there was room for it.</returns>
    public bool Hold(PageNumber page, string person, string text)
    {
        var held = papers.Alone(db =>
        {
            if (db.ExecuteScalar<int>("SELECT count(*) FROM page_comment WHERE state = 'held'") >= CommentRules.MostHeld)
                return false;
            PageRows.Put(
                db,
                new PageComment(CommentNumber.Of(0), page, Mapping.ToMillisecond(papers.Time.GetUtcNow()), person, text, CommentState.Held)
            );
            return true;
        });
        papers.Nudge("page_comment", page.Value);
        return held;
    }

    /// <summary>Holds that a page elsewhere says it mentions one of these. Told again, it is the same mention. It is no command, as with
    /// <see cref="Hold"/>.</summary>
    /// <returns>Whether there was room for it.</returns>
    public bool HoldMention(PageNumber page, string source)
    {
        var (person, text) = Webmention.Unseen(source);
        var held = papers.Alone(db =>
        {
            if (PageRows.Comments(db, "page = @page AND source = @source", new { page, source }).Count > 0)
                return true;
            if (db.ExecuteScalar<int>("SELECT count(*) FROM page_comment WHERE state = 'held'") >= CommentRules.MostHeld)
                return false;
            PageRows.Put(
                db,
                new PageComment(default, page, Mapping.ToMillisecond(papers.Time.GetUtcNow()), person, text, CommentState.Held, source)
            );
            return true;
        });
        papers.Nudge("page_comment", page.Value);
        return held;
    }

    /// <summary>A mention that is held, with the page it mentions.</summary>
    /// <exception cref="NotThereException">There is none of that number.</exception>
    /// <exception cref="ClashException">It was written under the page, or is decided about.</exception>
    public (PageComment Comment, Page Page) Mention(CommentNumber number) =>
        papers.Read(db =>
        {
            var comment =
                PageRows.Comments(db, "number = @number", new { number }).SingleOrDefault()
                ?? throw new NotThereException($"comment {number}");
            return comment is { Source.Length: > 0, State: CommentState.Held }
                ? (comment, PageRows.Get(db, comment.Page))
                : throw new ClashException("There is nothing to look at elsewhere.");
        });

    /// <summary>Keeps what the page elsewhere says.</summary>
    public Done<PageShown> Looked(CommentNumber number, string person, string text, Once once)
    {
        var (checkedPerson, checkedText) = CommentRules.Checked(person, text);
        return shelf.Run(
            "looked at a mention",
            once,
            change =>
            {
                var comment =
                    PageRows.Comments(change.Db, "number = @number", new { number }).SingleOrDefault()
                    ?? throw new NotThereException($"comment {number}");
                change.Db.Execute(
                    "UPDATE page_comment SET person = @checkedPerson, text = @checkedText WHERE number = @number",
                    new
                    {
                        number,
                        checkedPerson,
                        checkedText,
                    }
                );
                return Shown(change.Db, PageRows.Get(change.Db, comment.Page));
            }
        );
    }

    /// <summary>Adds to what is counted of pages. Nobody is told: what shows it asks again by itself, and a page that is read much must not
    /// keep the desk busy.</summary>
    public void Count(IReadOnlyList<(PageNumber Page, PageDay Day)> counted) =>
        papers.Alone(db =>
        {
            foreach (var (page, day) in counted)
                PageRows.Count(db, page, day);
            return 0;
        });
}
