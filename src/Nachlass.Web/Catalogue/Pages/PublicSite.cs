using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Audio;
using Nachlass.Web.Catalogue.Letters;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Pages;

/// <summary>
/// Serves the pages of one's own: a server beside the desk's, on a port of its own, that knows nothing but pages and who leaves a list of
/// readers. It takes comments and passphrases, and has no other address, no session and no cookie of the desk.
/// </summary>
internal sealed class PublicSite(
    Settings settings,
    PageStore pages,
    SiteWriter writer,
    SettingStore kept,
    LetterDoors letters,
    FormMarks marks,
    AudioSite audio,
    PapersFile papers,
    IDataProtectionProvider protection,
    ILogger<PublicSite> log
) : IHostedService, IAsyncDisposable
{
    /// <summary>What a site is called while its writer gave it no name.</summary>
    public const string FirstName = "Pages";

    /// <summary>The limit of what people send, by name.</summary>
    public const string Seldom = "comments";

    private const int MostComments = 5,
        MostGuesses = 10,
        MostRequests = 600,
        MostBody = 32 << 10;

    private static readonly TimeSpan Unlocked = TimeSpan.FromDays(30),
        FlushEvery = TimeSpan.FromSeconds(2);

    private static readonly string[] Machines =
    [
        "bot",
        "crawl",
        "spider",
        "slurp",
        "preview",
        "fetch",
        "curl",
        "wget",
        "python",
        "headlesshttp",
    ];

    private readonly PasswordHasher<PageStore> hasher = new();
    private readonly ReadersOfDay readers = new(() => RandomNumberGenerator.GetBytes(32));
    private readonly ITimeLimitedDataProtector opened = protection.CreateProtector("Nachlass.Pages.Open").ToTimeLimitedDataProtector();
    private readonly Lock gate = new();
    private Dictionary<PageNumber, PageDay> counted = [];
    private WebApplication? app;
    private Timer? flushing;

    /// <summary>Why nobody can read the pages; empty while they are served.</summary>
    public string Problem { get; private set; } = "";

    /// <summary>Where this server listens; null when it does not.</summary>
    public Uri? Listens { get; private set; }

    public static string Hash(string passphrase) => new PasswordHasher<PageStore>().HashPassword(null!, passphrase);

    /// <summary>The site as its writer set it.</summary>
    public Site Site =>
        new(
            kept.Get(SettingStore.SiteName) ?? FirstName,
            new Uri(kept.Get(SettingStore.SiteAddress) ?? Listens?.ToString() ?? "http://127.0.0.1/"),
            SiteWriter.Fonts.Count > 0
        );

    public async Task StartAsync(CancellationToken stop)
    {
        if (settings.Pages is not { } address)
        {
            Problem = "Serving pages is switched off (NACHLASS_PAGES).";
            return;
        }
        var made = Build(address);
        try
        {
            await made.StartAsync(stop);
        }
        catch (IOException error)
        {
            // The desk is of use without them.
            Problem = $"Pages can't be served at {address}: {error.Message}";
            log.LogWarning("{Problem}", Problem);
            await made.DisposeAsync();
            return;
        }
        app = made;
        Listens = new Uri(made.Urls.First() + "/");
        flushing = new Timer(_ => Flush(), null, FlushEvery, FlushEvery);
    }

    private WebApplication Build(Uri address)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls(address.GetLeftPart(UriPartial.Authority));
        var certificate = address.Scheme == "https" ? Doorkeeper.Certificate(settings) : null;
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Limits.MaxRequestBodySize = MostBody;
            kestrel.Limits.MaxConcurrentConnections = 400;
            kestrel.Limits.RequestHeadersTimeout = TimeSpan.FromSeconds(10);
            kestrel.Limits.MaxRequestHeadersTotalSize = 16 << 10;
            if (certificate is not null)
                kestrel.ConfigureHttpsDefaults(https => https.ServerCertificate = certificate);
        });
        builder.Services.AddResponseCompression();
        builder.Services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.GlobalLimiter = PartitionedRateLimiter.Create<HttpContext, string>(http =>
                Limit(Who(http), MostRequests, TimeSpan.FromMinutes(1))
            );
            limits.AddPolicy(Seldom, http => Limit(Who(http), MostComments, TimeSpan.FromMinutes(10)));
            limits.AddPolicy("guesses", http => Limit(Who(http), MostGuesses, TimeSpan.FromMinutes(10)));
            limits.OnRejected = async (context, stop) =>
                await Say(
                        context.HttpContext,
                        StatusCodes.Status429TooManyRequests,
                        "Too much at once",
                        "Please go back, wait some minutes and try again; what you wrote is still in your browser."
                    )
                    .ExecuteAsync(context.HttpContext);
        });
        var site = builder.Build();
        if (settings.BehindProxy)
            site.UseForwardedHeaders(
                new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto }
            );
        site.UseResponseCompression();
        site.Use(AddHeaders);
        site.UseRouting();
        site.UseRateLimiter();
        string[] reading = ["GET", "HEAD"];
        site.MapMethods(
            "/",
            reading,
            http => Open(http, (s, texts) => SiteFiles.List(s, texts, audio.Feeds(s), letters.Open()), "text/html")
        );
        site.MapMethods("/feed.atom", reading, http => Open(http, SiteFiles.Feed, "application/atom+xml"));
        site.MapMethods(
            "/sitemap.xml",
            reading,
            http => Open(http, (s, texts) => SiteFiles.Sitemap(s, texts, letters.Addresses(s)), "application/xml")
        );
        site.MapMethods("/robots.txt", reading, http => Open(http, (s, _) => SiteFiles.Robots(s), "text/plain"));
        site.MapMethods("/style.css", reading, http => Open(http, (s, _) => SiteFiles.Style(s.HasFonts), "text/css"));
        site.MapMethods("/fonts/{name}", reading, (string name) => Font(name));
        site.MapMethods("/{slug}", reading, (HttpContext http, string slug) => Page(http, slug));
        site.MapMethods("/{slug}/pictures/{file}", reading, (HttpContext http, string slug, string file) => Picture(http, slug, file));
        site.MapPost("/{slug}/comments", (Delegate)Comment).RequireRateLimiting(Seldom).DisableAntiforgery();
        site.MapPost("/mentions", (Delegate)Mention).RequireRateLimiting(Seldom).DisableAntiforgery();
        site.MapPost("/{slug}/open", (Delegate)Unlock).RequireRateLimiting("guesses").DisableAntiforgery();
        letters.Map(site, () => Site);
        audio.Map(site, () => Site);
        site.MapFallback("{**rest}", (HttpContext http) => NotThere(http));
        return site;
    }

    private static RateLimitPartition<string> Limit(string who, int most, TimeSpan within) =>
        RateLimitPartition.GetFixedWindowLimiter(
            who,
            _ => new FixedWindowRateLimiterOptions
            {
                PermitLimit = most,
                Window = within,
                QueueLimit = 0,
            }
        );

    private static string Who(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";

    private async Task AddHeaders(HttpContext http, RequestDelegate next)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy =
            "default-src 'none'; style-src 'self'; font-src 'self'; img-src 'self' data:; form-action 'self'; base-uri 'none'; "
            + "frame-ancestors 'none'";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        try
        {
            await next(http);
        }
        catch (Exception error) when (!http.Response.HasStarted && !http.RequestAborted.IsCancellationRequested)
        {
            log.LogError(error, "A page could not be shown");
            await Say(http, StatusCodes.Status500InternalServerError, "This did not work", "Please try it again in a while.")
                .ExecuteAsync(http);
        }
    }

    private Task Open(HttpContext http, Func<Site, IReadOnlyList<PageText>, string> write, string type) =>
        Give(http, write(Site, [.. pages.Open().Select(writer.Text)]), type, "public, max-age=60").ExecuteAsync(http);

    /// <summary>Gives a text, or says that it is the one the asker has (RFC 9110, 13.1.2).</summary>
    private static IResult Give(HttpContext http, string text, string type, string cached, string? tag = null)
    {
        var known = $"\"{tag ?? Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..24]}\"";
        http.Response.Headers.ETag = known;
        http.Response.Headers.CacheControl = cached;
        return http.Request.Headers.IfNoneMatch == known
            ? Results.StatusCode(StatusCodes.Status304NotModified)
            : Results.Content(text, $"{type}; charset=utf-8");
    }

    private static IResult Font(string name) =>
        SiteWriter.Fonts.TryGetValue(name, out var path)
            ? Results.File(
                path,
                "font/woff2",
                entityTag: new Microsoft.Net.Http.Headers.EntityTagHeaderValue($"\"{Path.GetFileName(path)}\"")
            )
            : Results.NotFound();

    private IResult NotThere(HttpContext http) =>
        Say(http, StatusCodes.Status404NotFound, "Nothing is here", "There is no page at this address, and never was.");

    private IResult Say(HttpContext http, int status, string title, string words)
    {
        http.Response.Headers.CacheControl = "no-store";
        return Results.Content(
            SiteFiles.Notice(Site with { Address = new Uri("http://here/") }, title, words),
            "text/html; charset=utf-8",
            statusCode: status
        );
    }

    private IResult Page(HttpContext http, string slug)
    {
        var (up, other) = Find(http, slug);
        if (up is null)
            return other!;
        // Links within a page are relative to it as to a folder.
        if (!http.Request.Path.Value!.EndsWith('/'))
            return Results.Redirect($"/{slug}/", permanent: true);
        if (IsClosed(http, up.Page))
            return Closed(http, up.Page, wasWrong: false);
        Count(http, up.Page);
        if (http.Request.Query.ContainsKey("thanks") && up.Page.TakesComments)
            return Form(up, new CommentForm(marks.Make(), "Thank you. It will be read, and shown then."), 200, http);
        var (html, tag) = writer.Html(Site, up, up.Page.TakesComments ? marks.Make() : null);
        return Give(http, html, "text/html", Cached(up.Page), tag);
    }

    private static string Cached(Page page) => page.AsksPassphrase ? "private, no-store" : "public, max-age=60";

    private IResult Form(AtAddress.Up up, CommentForm form, int status, HttpContext http)
    {
        http.Response.Headers.CacheControl = "no-store";
        return Results.Content(SiteFiles.Page(Site, writer.Text(up), form), "text/html; charset=utf-8", statusCode: status);
    }

    /// <summary>A page that is up, or what is answered instead.</summary>
    private (AtAddress.Up? Up, IResult? Other) Find(HttpContext http, string slug) =>
        pages.At(slug.ToLowerInvariant()) switch
        {
            AtAddress.Up up when up.Page.Slug == slug => (up, null),
            AtAddress.Up up => (null, Results.Redirect($"/{up.Page.Slug}/", permanent: true)),
            AtAddress.Moved moved => (null, Results.Redirect($"/{moved.Slug}/", permanent: true)),
            AtAddress.Gone => (
                null,
                Say(http, StatusCodes.Status410Gone, "This page is gone", "It was here, and its writer took it down.")
            ),
            _ => (null, NotThere(http)),
        };

    private IResult Picture(HttpContext http, string slug, string file)
    {
        var (up, other) = Find(http, slug);
        if (up is null)
            return other!;
        if (IsClosed(http, up.Page) || writer.Picture(up, file) is not { } picture)
            return NotThere(http);
        // Its name is made of what it shows.
        http.Response.Headers.CacheControl = up.Page.AsksPassphrase ? "private, max-age=3600" : "public, max-age=31536000, immutable";
        return Results.Bytes(picture, "image/webp");
    }

    private async Task<IResult> Comment(HttpContext http, string slug)
    {
        var (up, other) = Find(http, slug);
        if (up is null)
            return other!;
        if (IsClosed(http, up.Page))
            return Closed(http, up.Page, wasWrong: false);
        if (!up.Page.TakesComments || !http.Request.HasFormContentType)
            return NotThere(http);
        if (await FormMarks.Read(http) is not { } form)
            return Say(
                http,
                StatusCodes.Status400BadRequest,
                "That can’t be read",
                "The form came in pieces. Please go back and send it again."
            );
        string person = form["name"].ToString(),
            text = form["comment"].ToString(),
            mark = form["mark"].ToString();
        switch (CommentRules.Doubt(form["website"], marks.Since(mark)))
        {
            case CommentDoubt.Trapped:
                return Results.Redirect($"/{slug}/?thanks#comments");
            case CommentDoubt.TooQuick:
                return Again("That was quick. Please send it once more.", mark);
            case CommentDoubt.TooOld:
                return Again("This page was open for long. Please send it once more.", marks.Make());
        }
        try
        {
            (person, text) = CommentRules.Checked(person, text);
        }
        catch (BadInputException error)
        {
            return Again(error.Message, mark);
        }
        return pages.Hold(up.Page.Number, person, text)
            ? Results.LocalRedirect($"/{slug}/?thanks#comments")
            : Again("There are too many comments that have not been read yet. Please try it again another day.", mark);

        IResult Again(string said, string with) =>
            Form(up, new CommentForm(with, said, person, text), StatusCodes.Status400BadRequest, http);
    }

    /// <summary>Takes a Webmention (W3C, 3.2): it is held, and nothing is fetched before the writer wants it.</summary>
    private async Task<IResult> Mention(HttpContext http)
    {
        if (!http.Request.HasFormContentType || await FormMarks.Read(http) is not { } form)
            return Plain(StatusCodes.Status400BadRequest, "Say source and target in a form.");
        try
        {
            var (source, slug) = Webmention.Checked(form["source"], form["target"], Site.Address);
            var (up, _) = Find(http, slug);
            if (up is null || IsClosed(http, up.Page) || !up.Page.TakesComments)
                return Plain(StatusCodes.Status400BadRequest, "That page takes no mentions.");
            return pages.HoldMention(up.Page.Number, source)
                ? Plain(StatusCodes.Status202Accepted, "Thank you. It will be looked at.")
                : Plain(StatusCodes.Status503ServiceUnavailable, "There are too many to look at. Please try again another day.");
        }
        catch (BadInputException error)
        {
            return Plain(StatusCodes.Status400BadRequest, error.Message);
        }

        static IResult Plain(int status, string words) => Results.Text(words, "text/plain; charset=utf-8", statusCode: status);
    }

    private bool IsClosed(HttpContext http, Page page)
    {
        if (!page.AsksPassphrase)
            return false;
        if (pages.Secret(page.Number) is not { } secret || http.Request.Cookies[CookieOf(page)] is not { } cookie)
            return true;
        try
        {
            return opened.Unprotect(cookie) != Key(page, secret);
        }
        catch (CryptographicException)
        {
            return true;
        }
    }

    private static string CookieOf(Page page) => $"page-{page.Number}";

    /// <summary>What the cookie of a page says: another passphrase ends it.</summary>
    private static string Key(Page page, string secret) =>
        $"{page.Number} {Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)))[..16]}";

    private IResult Closed(HttpContext http, Page page, bool wasWrong)
    {
        http.Response.Headers.CacheControl = "no-store";
        return Results.Content(
            SiteFiles.Closed(Site, wasWrong, pages.Secret(page.Number) is not null),
            "text/html; charset=utf-8",
            statusCode: StatusCodes.Status403Forbidden
        );
    }

    private async Task<IResult> Unlock(HttpContext http, string slug)
    {
        var (up, other) = Find(http, slug);
        if (up is null)
            return other!;
        if (!up.Page.AsksPassphrase)
            return Results.LocalRedirect($"/{slug}/");
        var said = http.Request.HasFormContentType && await FormMarks.Read(http) is { } form ? form["passphrase"].ToString().Trim() : "";
        if (
            pages.Secret(up.Page.Number) is not { } secret
            || said.Length is 0 or > Core.Catalogue.Pages.Page.LongestPassphrase
            || hasher.VerifyHashedPassword(pages, secret, said) == PasswordVerificationResult.Failed
        )
            return Closed(http, up.Page, wasWrong: said.Length > 0);
        http.Response.Cookies.Append(
            CookieOf(up.Page),
            opened.Protect(Key(up.Page, secret), Unlocked),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                Secure = http.Request.IsHttps,
                Path = $"/{slug}",
                MaxAge = Unlocked,
            }
        );
        return Results.LocalRedirect($"/{slug}/");
    }

    /// <summary>Where everybody may read a piece on this site; null when there is no such page.</summary>
    public Uri? PageOf(PieceNumber piece) =>
        pages.Open().FirstOrDefault(up => up.Page.Piece == piece) is { } up ? Site.AddressOf(up.Page) : null;

    private void Count(HttpContext http, Page page)
    {
        var browser = http.Request.Headers.UserAgent.ToString();
        if (
            !HttpMethods.IsGet(http.Request.Method)
            || browser.Length == 0
            || http.Request.Headers["Sec-Purpose"].ToString().Contains("prefetch", StringComparison.Ordinal)
            || Machines.Any(m => browser.Contains(m, StringComparison.OrdinalIgnoreCase))
        )
            return;
        var today = papers.Today;
        var isNew = readers.IsNew(page.Number, today, Who(http), browser);
        lock (gate)
        {
            var day = counted.GetValueOrDefault(page.Number) is { } there && there.Day == today ? there : new PageDay(today, 0, 0);
            counted[page.Number] = day with { Views = day.Views + 1, Readers = day.Readers + (isNew ? 1 : 0) };
        }
    }

    /// <summary>Writes down what was counted.</summary>
    public void Flush()
    {
        Dictionary<PageNumber, PageDay> now;
        lock (gate)
        {
            if (counted.Count == 0)
                return;
            (now, counted) = (counted, []);
        }
        try
        {
            pages.Count([.. now.Select(c => (c.Key, c.Value))]);
        }
        catch (Exception error) when (error is not OutOfMemoryException)
        {
            // A full disk, or papers that are gone; counts are not worth stopping for.
            log.LogError(error, "What was counted of pages could not be written");
        }
    }

    public async Task StopAsync(CancellationToken stop)
    {
        if (flushing is not null)
            await flushing.DisposeAsync();
        if (app is not null)
            await app.StopAsync(stop);
        Flush();
    }

    public async ValueTask DisposeAsync()
    {
        if (flushing is not null)
            await flushing.DisposeAsync();
        if (app is not null)
            await app.DisposeAsync();
        app = null;
    }
}
