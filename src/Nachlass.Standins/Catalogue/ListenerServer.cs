using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.ServiceModel.Syndication;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Xml;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;

namespace Nachlass.Standins.Catalogue;

/// <summary>An episode as a listener has it.</summary>
/// <param name="Id">By which it is known in its feed.</param>
/// <param name="Length">Bytes of its sound, as its server says them.</param>
/// <param name="Chapters">Each with its second before it.</param>
public sealed record HeardEpisode(
    string Id,
    string Title,
    string Text,
    string Sound,
    string Type,
    long Length,
    IReadOnlyList<string> Chapters
);

/// <summary>
/// Stands in for a hub (WebSub, W3C Recommendation, 2018) and for a listener who follows it: told that a feed has grown, it fetches the
/// feed, and of each new episode the beginning of its sound and its chapters. It keeps what it got, shows it to a browser, and can be
/// told at <c>POST /faults</c> to fail for so many times.
/// </summary>
public sealed class ListenerServer : IAsyncDisposable
{
    private readonly WebApplication app;
    private readonly string? file;
    private readonly ConcurrentQueue<PostFault> faults = new();
    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false });
    private readonly Lock gate = new();
    private readonly List<HeardEpisode> episodes = [];

    private ListenerServer(WebApplication app, string? file)
    {
        (this.app, this.file) = (app, file);
        if (file is not null && File.Exists(file))
            episodes.AddRange(JsonSerializer.Deserialize<List<HeardEpisode>>(File.ReadAllText(file))!);
    }

    /// <summary>Starts it.</summary>
    /// <param name="port">Where; 0 for any free port.</param>
    /// <param name="file">Where it keeps what it got; null for nowhere.</param>
    public static async Task<ListenerServer> Start(int port, string? file)
    {
        var app = Standin.Page(port);
        var server = new ListenerServer(app, file);
        app.MapPost("/hub", (Delegate)server.Told);
        app.MapGet("/", () => Results.Content(server.Page(), "text/html; charset=utf-8"));
        app.MapPost("/faults", (PostFault fault, int times) => server.Fail(fault, times));
        await app.StartAsync();
        return server;
    }

    public Uri Address => new(app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First());

    public Uri Hub => new(Address, "/hub");

    /// <summary>How often it was told that a feed has grown.</summary>
    public int Times { get; private set; }

    public IReadOnlyList<HeardEpisode> Episodes
    {
        get
        {
            lock (gate)
                return [.. episodes];
        }
    }

    /// <summary>Makes the next tellings fail.</summary>
    public void Fail(PostFault fault, int times = 1)
    {
        for (var i = 0; i < times; i++)
            faults.Enqueue(fault);
    }

    private async Task<IResult> Told(HttpContext context)
    {
        faults.TryDequeue(out var fault);
        switch (fault)
        {
            case PostFault.Slow:
                await Task.Delay(TimeSpan.FromSeconds(8), context.RequestAborted);
                break;
            case PostFault.Full:
                context.Response.Headers.RetryAfter = "120";
                return Results.StatusCode(429);
            case PostFault.Down:
                return Results.StatusCode(503);
            case PostFault.Wrong:
                return Results.Redirect("https://elsewhere.example/");
        }
        if (!context.Request.HasFormContentType)
            return Results.BadRequest("Tell it in a form.");
        var form = await context.Request.ReadFormAsync(context.RequestAborted);
        var said = form["hub.topic"].ToString() is { Length: > 0 } topic ? topic : form["hub.url"].ToString();
        if (form["hub.mode"] != "publish" || !Uri.TryCreate(said, UriKind.Absolute, out var feed) || !feed.IsLoopback)
            return Results.BadRequest("Say hub.mode=publish, and a feed of this machine.");
        Times++;
        try
        {
            await Follow(feed, context.RequestAborted);
        }
        catch (Exception error) when (error is HttpRequestException or XmlException or JsonException)
        {
            return Results.BadRequest($"The feed can't be read: {error.Message}");
        }
        if (fault == PostFault.Lost)
        {
            context.Abort();
            return Results.Empty;
        }
        return Results.StatusCode(202);
    }

    private async Task Follow(Uri feed, CancellationToken stop)
    {
        using var text = new StringReader(await http.GetStringAsync(feed, stop));
        using var xml = XmlReader.Create(text);
        foreach (var item in SyndicationFeed.Load(xml).Items.Reverse())
        {
            if (item.Links.FirstOrDefault(l => l.RelationshipType == "enclosure") is not { } enclosure)
                continue;
            using var request = new HttpRequestMessage(HttpMethod.Get, enclosure.Uri);
            request.Headers.Range = new(0, 1023);
            using var sound = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, stop);
            var heard = new HeardEpisode(
                item.Id,
                item.Title.Text,
                item.Summary?.Text ?? "",
                enclosure.Uri.ToString(),
                sound.Content.Headers.ContentType?.MediaType ?? "",
                sound.StatusCode == HttpStatusCode.PartialContent ? sound.Content.Headers.ContentRange?.Length ?? 0 : 0,
                await ChaptersOf(item, stop)
            );
            lock (gate)
            {
                // Known by its guid: one that was put right is the same.
                var at = episodes.FindIndex(e => e.Id == heard.Id);
                if (at < 0)
                    episodes.Add(heard);
                else
                    episodes[at] = heard;
                if (file is not null)
                    File.WriteAllText(file, JsonSerializer.Serialize(episodes));
            }
        }
    }

    private async Task<IReadOnlyList<string>> ChaptersOf(SyndicationItem item, CancellationToken stop)
    {
        foreach (var extension in item.ElementExtensions.Where(e => e.OuterName == "chapters"))
        {
            var at = extension.GetReader().GetAttribute("url");
            if (JsonNode.Parse(await http.GetStringAsync(at, stop))?["chapters"] is JsonArray chapters)
                return [.. chapters.Select(c => string.Create(CultureInfo.InvariantCulture, $"{c!["startTime"]} {c["title"]}"))];
        }
        return [];
    }

    private string Page()
    {
        var list = new StringBuilder();
        foreach (var e in Episodes.Reverse())
            list.Append(
                $"<article><h2>{WebUtility.HtmlEncode(e.Title)}</h2><p>{e.Type}, {e.Length:N0} bytes</p>"
                    + $"<audio controls preload=none src=\"{WebUtility.HtmlEncode(e.Sound)}\"></audio>"
                    + $"<ul>{string.Concat(e.Chapters.Select(c => $"<li>{WebUtility.HtmlEncode(c)}</li>"))}</ul></article><hr>"
            );
        return Standin.Html(
            "A listener",
            "<p>A stand-in: told that a feed has grown, it fetches it; it fails when it is told to "
                + "(POST /faults?fault=Lost&amp;times=1; Slow, Full, Down, Wrong, Lost).</p>"
                + (list.Length > 0 ? list : "<p>Nothing came yet.</p>")
        );
    }

    public async ValueTask DisposeAsync()
    {
        await app.DisposeAsync();
        http.Dispose();
    }
}
