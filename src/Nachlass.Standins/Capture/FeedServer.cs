using System.Globalization;
using System.ServiceModel.Syndication;
using System.Text;
using System.Xml;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;

namespace Nachlass.Standins.Capture;

/// <summary>A notice that the stand-in publishes.</summary>
/// <param name="Title">Its title.</param>
/// <param name="Text">Its text, as HTML.</param>
/// <param name="After">Seconds after the start at which it appears; a negative number is as many days before.</param>
/// <param name="Category">What it is about.</param>
public sealed record Notice(string Title, string Text, int After, string? Category = null);

/// <summary>
/// Stands in for a body that publishes notices: a server of its own on a port of this machine, with the same notices as RSS 2.0
/// and as Atom, that answers questions about what has changed as real ones do (RFC 9110, 13.1).
/// </summary>
public sealed class FeedServer : IAsyncDisposable
{
    private readonly WebApplication app;
    private readonly TimeProvider time;
    private readonly DateTimeOffset start;
    private readonly string title;
    private readonly IReadOnlyList<Notice> notices;

    private FeedServer(WebApplication app, TimeProvider time, string title, IReadOnlyList<Notice> notices)
    {
        (this.app, this.time, this.title, this.notices) = (app, time, title, notices);
        start = time.GetUtcNow();
    }

    /// <summary>Starts it.</summary>
    /// <param name="port">Where; 0 for any free port.</param>
    public static async Task<FeedServer> Start(int port, TimeProvider time, string title, IReadOnlyList<Notice> notices)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
        var app = builder.Build();
        var server = new FeedServer(app, time, title, notices);
        app.MapGet("/notices.rss", (HttpContext http) => server.Give(http, "application/rss+xml", feed => feed.GetRss20Formatter()));
        app.MapGet("/notices.atom", (HttpContext http) => server.Give(http, "application/atom+xml", feed => feed.GetAtom10Formatter()));
        app.MapGet(
            "/notices/{number:int}",
            (int number) =>
            {
                if (number < 1 || number > server.Published.Count)
                    return Results.NotFound();
                var notice = server.notices[number - 1];
                return Results.Content(
                    "<!doctype html><html lang=en><meta charset=utf-8>"
                        + $"<title>{notice.Title}</title><h1>{notice.Title}</h1>{notice.Text}",
                    "text/html; charset=utf-8"
                );
            }
        );
        await app.StartAsync();
        return server;
    }

    /// <summary>Its address.</summary>
    public Uri Address => new(app.Urls.First());

    /// <summary>How often it has been asked.</summary>
    public int Asked { get; private set; }

    private IReadOnlyList<(Notice Notice, int Number, DateTimeOffset At)> Published =>
        [
            .. notices
                .Select((n, i) => (n, i + 1, n.After < 0 ? start.AddDays(n.After) : start.AddSeconds(n.After)))
                .Where(n => n.Item3 <= time.GetUtcNow()),
        ];

    private IResult Give(HttpContext http, string type, Func<SyndicationFeed, SyndicationFeedFormatter> format)
    {
        Asked++;
        var published = Published;
        var tag = string.Create(CultureInfo.InvariantCulture, $"\"{start.ToUnixTimeSeconds()}-{published.Count}\"");
        http.Response.Headers.ETag = tag;
        http.Response.Headers.LastModified = published
            .Select(p => p.At)
            .DefaultIfEmpty(start)
            .Max()
            .ToString("R", CultureInfo.InvariantCulture);
        if (http.Request.Headers.IfNoneMatch == tag)
            return Results.StatusCode(StatusCodes.Status304NotModified);
        var feed = new SyndicationFeed(
            title,
            "Notices of works on the river and its crossings",
            new Uri(Address, "/"),
            published
                .OrderByDescending(p => p.At)
                .Select(p =>
                {
                    var item = new SyndicationItem(
                        p.Notice.Title,
                        SyndicationContent.CreateHtmlContent(p.Notice.Text),
                        new Uri(Address, $"/notices/{p.Number}"),
                        $"urn:notice:{p.Number}",
                        p.At
                    )
                    {
                        PublishDate = p.At,
                        Summary = SyndicationContent.CreateHtmlContent(p.Notice.Text),
                    };
                    if (p.Notice.Category is { } category)
                        item.Categories.Add(new SyndicationCategory(category));
                    return item;
                })
        );
        var text = new StringBuilder();
        using (var xml = XmlWriter.Create(text, new XmlWriterSettings { Indent = true }))
            format(feed).WriteTo(xml);
        return Results.Content(text.ToString().Replace("utf-16", "utf-8", StringComparison.Ordinal), type + "; charset=utf-8");
    }

    public async ValueTask DisposeAsync()
    {
        using var soon = new CancellationTokenSource(TimeSpan.FromSeconds(1));
        await app.StopAsync(soon.Token);
        await app.DisposeAsync();
    }
}
