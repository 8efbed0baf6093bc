using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;

namespace Nachlass.Standins.Catalogue;

/// <summary>What the stand-in does wrong when it is told to.</summary>
public enum PostFault
{
    None,

    /// <summary>It takes eight seconds.</summary>
    Slow,

    /// <summary>It has taken enough for now: 429 with Retry-After.</summary>
    Full,

    /// <summary>It is down: 503.</summary>
    Down,

    /// <summary>It answers something that is no Micropub.</summary>
    Wrong,

    /// <summary>It takes the post and the answer is lost.</summary>
    Lost,
}

/// <summary>A post that the stand-in keeps.</summary>
/// <param name="Uid">By which its sender knows it.</param>
/// <param name="ReplyTo">The address of the post it answers; null for none.</param>
/// <param name="IsHtml">Whether its content is HTML.</param>
/// <param name="PutRightAt">When its text was last changed; null while it is as it came.</param>
/// <param name="Photo">Where the picture beside its words lies; null for none.</param>
/// <param name="Shows">What that shows.</param>
public sealed record KeptPost(
    int Number,
    string Uid,
    string Name,
    string Content,
    bool IsHtml,
    string? ReplyTo,
    DateTimeOffset At,
    DateTimeOffset? PutRightAt = null,
    string? Photo = null,
    string? Shows = null
);

/// <summary>
/// Stands in for a site or a place for short posts that speaks Micropub (W3C Recommendation, 23 May 2017), with the list of posts of its
/// extension “Query for Post List”: a server of its own on a port of this machine. It keeps what it got in a file, shows it to a
/// browser, and can be told at <c>POST /faults</c> to fail for so many requests.
/// </summary>
public sealed class PostServer : IAsyncDisposable
{
    private readonly WebApplication app;
    private readonly string name;
    private readonly string token;
    private readonly int? limit;
    private readonly string? file;
    private readonly TimeProvider time;
    private readonly ConcurrentQueue<PostFault> faults = new();
    private bool lists = true;
    private bool takesPictures = true;
    private readonly Lock gate = new();
    private readonly List<KeptPost> posts = [];

    private PostServer(WebApplication app, string name, string token, int? limit, string? file, TimeProvider time)
    {
        (this.app, this.name, this.token, this.limit, this.file, this.time) = (app, name, token, limit, file, time);
        if (file is not null && File.Exists(file))
            // A post that was changed stands there again; the last holds.
            posts.AddRange(
                File.ReadLines(file)
                    .Select(line => JsonSerializer.Deserialize<KeptPost>(line)!)
                    .GroupBy(post => post.Number)
                    .Select(same => same.Last())
                    .OrderBy(post => post.Number)
            );
    }

    /// <summary>Starts it.</summary>
    /// <param name="port">Where; 0 for any free port.</param>
    /// <param name="name">What it calls itself.</param>
    /// <param name="token">The bearer token it takes posts with.</param>
    /// <param name="limit">Characters a post may have; null for any number.</param>
    /// <param name="file">Where it keeps what it got; null for nowhere.</param>
    /// <param name="lists">Whether it tells which posts it has.</param>
    /// <param name="takesPictures">Whether it has a media endpoint.</param>
    public static async Task<PostServer> Start(
        int port,
        string name,
        string token,
        int? limit,
        string? file,
        TimeProvider time,
        bool lists = true,
        bool takesPictures = true
    )
    {
        var app = Standin.Page(port);
        var server = new PostServer(app, name, token, limit, file, time) { lists = lists, takesPictures = takesPictures };
        app.MapGet("/micropub", (HttpContext http, string? q, int? limit, string? url) => server.Query(http, q, limit, url));
        app.MapPost("/micropub", (Delegate)server.Take);
        app.MapPost("/media", (Delegate)server.TakePicture);
        app.MapGet(
            "/media/{number:int}",
            (int number) => server.pictures.TryGetValue(number, out var kept) ? Results.Bytes(kept.Content, kept.Type) : Results.NotFound()
        );
        app.MapGet("/", () => Results.Content(server.Page(), "text/html; charset=utf-8"));
        app.MapGet("/posts/{number:int}", (int number) => server.Post(number));
        app.MapPost("/later", (int days) => server.Later(days));
        app.MapPost("/faults", (PostFault fault, int times) => server.Fail(fault, times));
        await app.StartAsync();
        return server;
    }

    public Uri Address => new(app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First());

    public Uri Endpoint => new(Address, "/micropub");

    public IReadOnlyList<KeptPost> Posts
    {
        get
        {
            lock (gate)
                return [.. posts];
        }
    }

    /// <summary>Makes the next requests that bring a post fail.</summary>
    public void Fail(PostFault fault, int times = 1)
    {
        for (var i = 0; i < times; i++)
            faults.Enqueue(fault);
    }

    private bool IsLetIn(HttpContext http) => http.Request.Headers.Authorization == $"Bearer {token}";

    private IResult Query(HttpContext http, string? q, int? limit, string? url)
    {
        if (!IsLetIn(http))
            return Error(401, "unauthorized", "The token is not the one of this place.");
        if (q == "config")
        {
            var config = new Dictionary<string, object> { ["q"] = (string[])["config", "source", "figures"], ["name"] = name };
            if (takesPictures)
                config["media-endpoint"] = new Uri(Address, "/media").ToString();
            return Results.Json(config);
        }
        if (q == "figures")
            return Posts.FirstOrDefault(p => AddressOf(p) == url) is { } asked
                ? Results.Json(new { figures = FiguresOf(asked) })
                : Error(404, "not_found", "There is no such post here.");
        if (q != "source" || !lists)
            return Error(400, "invalid_request", "This question is not known here.");
        return Results.Json(
            new
            {
                items = Posts
                    .Reverse()
                    .Take(Math.Clamp(limit ?? 20, 1, 200))
                    .Select(p => new
                    {
                        type = (string[])["h-entry"],
                        properties = new
                        {
                            uid = (string[])[p.Uid],
                            url = (string[])[AddressOf(p)],
                            content = (string[])[p.Content],
                        },
                    }),
            }
        );
    }

    private int daysLater;

    /// <summary>Makes all that it has so many days older, so that its figures have grown.</summary>
    public void Later(int days) => daysLater += days;

    /// <summary>
    /// What became of a post: people come quickly and then ever more slowly, each post has its own draw, some of those who come read it to
    /// the end, and a few answer. The same post at the same age always has the same figures.
    /// </summary>
    private Dictionary<string, int> FiguresOf(KeptPost post)
    {
        var age = Math.Max(0, (time.GetUtcNow() - post.At).TotalDays + daysLater);
        var draw = SHA256.HashData(Encoding.UTF8.GetBytes(post.Uid + post.Number));
        // Three quarters come within days, the others over months; most posts draw few, some many.
        var appeal = 60 * Math.Exp(2.2 * draw[0] / 255);
        var views = (int)(appeal * (0.75 * (1 - Math.Exp(-age / 2.5)) + 0.25 * (1 - Math.Exp(-age / 60))));
        return new()
        {
            ["views"] = views,
            ["reads"] = (int)(views * (0.25 + 0.35 * draw[1] / 255)),
            ["replies"] = (int)(views * 0.02 * draw[2] / 255),
        };
    }

    private readonly ConcurrentDictionary<int, (string Type, byte[] Content)> pictures = new();

    /// <summary>How many pictures came.</summary>
    public int Pictures => pictures.Count;

    /// <summary>Takes a picture (Micropub, 3.6.2); they are kept while it runs.</summary>
    private async Task<IResult> TakePicture(HttpContext http)
    {
        if (!IsLetIn(http))
            return Error(401, "unauthorized", "The token is not the one of this place.");
        if (!http.Request.HasFormContentType || (await http.Request.ReadFormAsync(http.RequestAborted)).Files["file"] is not { } file)
            return Error(400, "invalid_request", "There is no file in it.");
        if (!file.ContentType.StartsWith("image/", StringComparison.Ordinal))
            return Error(400, "invalid_request", "Only pictures are taken here.");
        using var content = new MemoryStream();
        await file.CopyToAsync(content, http.RequestAborted);
        var number = pictures.Count + 1;
        pictures[number] = (file.ContentType, content.ToArray());
        http.Response.Headers.Location = new Uri(Address, $"/media/{number}").ToString();
        return Results.StatusCode(201);
    }

    private async Task<IResult> Take(HttpContext http)
    {
        if (!IsLetIn(http))
            return Error(401, "unauthorized", "The token is not the one of this place.");
        faults.TryDequeue(out var fault);
        switch (fault)
        {
            case PostFault.Slow:
                await Task.Delay(TimeSpan.FromSeconds(8), time, http.RequestAborted);
                break;
            case PostFault.Full:
                http.Response.Headers.RetryAfter = "120";
                return Error(429, "rate_limited", "This place has taken enough for now.");
            case PostFault.Down:
                return Results.StatusCode(503);
            case PostFault.Wrong:
                return Results.Content("<p>It works!</p>", "text/html");
        }
        JsonNode? entry;
        try
        {
            entry = await JsonNode.ParseAsync(http.Request.Body, cancellationToken: http.RequestAborted);
        }
        catch (JsonException)
        {
            return Error(400, "invalid_request", "The post can't be read.");
        }
        if (entry?["action"]?.ToString() == "update")
            return Change(entry);
        var given = entry?["properties"];
        string First(string property) => given?[property]?[0] is JsonValue value ? value.ToString() : "";
        var html = given?["content"]?[0] is JsonObject rich ? rich["html"]?.ToString() ?? "" : "";
        var content = html.Length > 0 ? html : First("content");
        if (content.Length == 0)
            return Error(400, "invalid_request", "The post has no content.");
        if (limit is { } most && new StringInfo(content).LengthInTextElements > most)
            return Error(400, "invalid_request", $"A post here has at most {most} characters.");
        // With what it shows, or without (Micropub, 3.3.2).
        var photo = given?["photo"]?[0] is JsonObject described ? described["value"]?.ToString() : First("photo");
        var shows = (given?["photo"]?[0] as JsonObject)?["alt"]?.ToString();
        KeptPost post;
        lock (gate)
        {
            post = new KeptPost(
                posts.Count + 1,
                First("uid"),
                First("name"),
                content,
                html.Length > 0,
                First("in-reply-to") is { Length: > 0 } to ? to : null,
                time.GetUtcNow(),
                Photo: string.IsNullOrEmpty(photo) ? null : photo,
                Shows: shows
            );
            posts.Add(post);
            if (file is not null)
                File.AppendAllText(file, JsonSerializer.Serialize(post) + "\n");
        }
        if (fault == PostFault.Lost)
        {
            http.Abort();
            return Results.Empty;
        }
        http.Response.Headers.Location = AddressOf(post);
        return Results.StatusCode(201);
    }

    /// <summary>Changes the text of a post (Micropub, 3.4).</summary>
    private IResult Change(JsonNode entry)
    {
        var (content, html) = (entry["replace"]?["content"]?[0]) switch
        {
            JsonObject rich => (rich["html"]?.ToString() ?? "", true),
            JsonValue plain => (plain.ToString(), false),
            _ => ("", false),
        };
        if (content.Length == 0)
            return Error(400, "invalid_request", "There is no content to put in its place.");
        if (limit is { } most && new StringInfo(content).LengthInTextElements > most)
            return Error(400, "invalid_request", $"A post here has at most {most} characters.");
        lock (gate)
        {
            var at = posts.FindIndex(p => AddressOf(p) == entry["url"]?.ToString());
            if (at < 0)
                return Error(400, "invalid_request", "There is no such post here.");
            posts[at] = posts[at] with { Content = content, IsHtml = html, PutRightAt = time.GetUtcNow() };
            if (file is not null)
                File.AppendAllText(file, JsonSerializer.Serialize(posts[at]) + "\n");
        }
        return Results.NoContent();
    }

    private string AddressOf(KeptPost post) => new Uri(Address, $"/posts/{post.Number}").ToString();

    private static IResult Error(int status, string error, string description) =>
        Results.Json(new { error, error_description = description }, statusCode: status);

    private IResult Post(int number) =>
        Posts.FirstOrDefault(p => p.Number == number) is { } post
            ? Results.Content(Standin.Html(post.Name.Length > 0 ? post.Name : name, Written(post)), "text/html; charset=utf-8")
            : Results.NotFound();

    private string Page()
    {
        var list = new StringBuilder();
        foreach (var post in Posts.Reverse())
            list.Append(Written(post));
        return Standin.Html(
            name,
            "<p>A stand-in: it keeps what it is sent, and fails when it is told to "
                + "(POST /faults?fault=Lost&amp;times=1; Slow, Full, Down, Wrong, Lost).</p>"
                + (list.Length > 0 ? list : "<p>Nothing came yet.</p>")
        );
    }

    private static string Written(KeptPost post) =>
        $"<article><p><a href=\"/posts/{post.Number}\">No. {post.Number}</a>, "
        + post.At.ToString("d MMM yyyy HH:mm", CultureInfo.InvariantCulture)
        + (post.PutRightAt is { } changed ? $", put right {changed.ToString("d MMM yyyy HH:mm", CultureInfo.InvariantCulture)}" : "")
        + $"{(post.ReplyTo is { } to ? $", in reply to {WebUtility.HtmlEncode(to)}" : "")}</p>"
        + (post.IsHtml ? post.Content : $"<pre style=\"white-space:pre-wrap;font:inherit\">{WebUtility.HtmlEncode(post.Content)}</pre>")
        + (
            post.Photo is { } photo
                ? $"<p><img src=\"{WebUtility.HtmlEncode(photo)}\" alt=\"{WebUtility.HtmlEncode(post.Shows ?? "")}\" "
                    + "style=\"max-width:100%\"></p>"
                : ""
        )
        + "</article><hr>";

    public async ValueTask DisposeAsync() => await app.DisposeAsync();
}
