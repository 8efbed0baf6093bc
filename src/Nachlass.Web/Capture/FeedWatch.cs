using System.Net;
using System.Net.Http.Headers;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Capture;

/// <summary>Asks the watched feeds when it is time, and takes in what is new.</summary>
internal sealed class FeedWatch(FeedStore feeds, ImportStore imports, Reader reader, PapersFile papers, ILogger<FeedWatch> log)
    : BackgroundService
{
    private const long MostBytes = 16 << 20;
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(5);

    // A redirect could lead to another host, and no other host is ever called.
    private readonly HttpClient http = new(
        new SocketsHttpHandler
        {
            AllowAutoRedirect = false,
            UseProxy = false,
            AutomaticDecompression = DecompressionMethods.All,
        }
    )
    {
        Timeout = TimeSpan.FromSeconds(20),
    };

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        using var timer = new PeriodicTimer(Between, papers.Time);
        try
        {
            do
            {
                try
                {
                    foreach (var feed in feeds.List().Where(f => f.IsDue(papers.Time.GetUtcNow())))
                        await Ask(feed, stop);
                }
                catch (Exception error) when (error is not OperationCanceledException)
                {
                    // A full disk, or papers that are gone: it goes on when that is mended.
                    log.LogError(error, "The feeds could not be asked");
                }
            } while (await timer.WaitForNextTickAsync(stop));
        }
        catch (OperationCanceledException) { }
    }

    /// <summary>Asks a feed once.</summary>
    /// <returns>How many slips came of it.</returns>
    public async Task<int> Ask(WatchedFeed feed, CancellationToken stop)
    {
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, feed.Address);
            if (feed.Etag.Length > 0)
                request.Headers.TryAddWithoutValidation("If-None-Match", feed.Etag);
            if (feed.Modified.Length > 0)
                request.Headers.TryAddWithoutValidation("If-Modified-Since", feed.Modified);
            request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("application/atom+xml"));
            request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("application/rss+xml"));
            using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, stop);
            if (answer.StatusCode == HttpStatusCode.NotModified)
            {
                feeds.Asked(feed, null, "", came: false, feed.Etag, feed.Modified);
                return 0;
            }
            if (!answer.IsSuccessStatusCode)
                throw new HttpRequestException($"its server answers {(int)answer.StatusCode}");
            return await Take(feed, answer, stop);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            throw;
        }
        catch (Exception error) when (error is HttpRequestException or IOException or RefusedException or OperationCanceledException)
        {
            feeds.Asked(
                feed,
                null,
                error is OperationCanceledException ? "It did not answer within 20 seconds." : error.Message,
                came: false,
                feed.Etag,
                feed.Modified
            );
            return 0;
        }
        catch (Exception error)
        {
            log.LogError(error, "The feed {Address} could not be taken in", feed.Address);
            feeds.Asked(feed, null, "Something went wrong in Nachlass; the server's log says more.", came: false, feed.Etag, feed.Modified);
            return 0;
        }
    }

    private async Task<int> Take(WatchedFeed feed, HttpResponseMessage answer, CancellationToken stop)
    {
        var parcel = new Parcel(Path.Combine(papers.Folder, "incoming", Guid.NewGuid().ToString("N")));
        try
        {
            using var whole = new MemoryStream();
            await using (var body = await answer.Content.ReadAsStreamAsync(stop))
            {
                var buffer = new byte[81_920];
                for (int read; (read = await body.ReadAsync(buffer, stop)) > 0; )
                {
                    if (whole.Length + read > MostBytes)
                        throw new BadInputException("feed", "It is larger than 16 MiB.");
                    whole.Write(buffer, 0, read);
                }
            }
            whole.Position = 0;
            parcel.Add("feed", whole);
            var reads = reader.Read(parcel, new ToRead(papers.Today, Only: new Feed().Key), stop: stop);
            if (reads is not [{ Reason: null } feedRead])
                throw new BadInputException("feed", reads is [{ Reason: { } why }] ? $"It can't be read: {why}" : "It is no feed.");
            var title = feedRead.Title ?? "";
            IEnumerable<(string, Found)> Finding() => reads.Things(parcel).Select(f => ("", f.Found));
            // An asking that brings nothing new leaves no trace in the history.
            var slips = imports.Preview(Finding, (_, _, _) => { }, stop).IsEmpty
                ? 0
                : imports.Run($"took in what is new in “{title}”", Origin.Feed, title, Finding, Once.Unkeyed, stop: stop).Answer.Slips;
            feeds.Asked(
                feed,
                title,
                "",
                slips > 0,
                answer.Headers.ETag?.ToString() ?? "",
                answer.Content.Headers.LastModified?.ToString("R") ?? ""
            );
            return slips;
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    public override void Dispose()
    {
        http.Dispose();
        base.Dispose();
    }
}
