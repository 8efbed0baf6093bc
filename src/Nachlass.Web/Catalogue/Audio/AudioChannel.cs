using System.Net;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Audio;

/// <summary>
/// Sends a recording into the audio feed beside the pages of one's own, and tells the feed's hub that it has grown (WebSub, W3C
/// Recommendation, 23 January 2018; how a publisher tells its hub is left open there, and is done as hubs take it: a form with
/// <c>hub.mode=publish</c> and the feed's address). Told twice, a hub looks twice and finds the same, so nothing is ever doubled.
/// </summary>
internal sealed class AudioChannel(PublicSite site, AudioStore audio) : IChannel, IDisposable
{
    // A redirect could lead to another host, and no other host is ever called.
    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = TimeSpan.FromSeconds(30),
        MaxResponseContentBufferSize = 64 << 10,
    };

    public async Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop)
    {
        if (audio.Episodes(connection.Outlet).FirstOrDefault(e => e.Recording.Key == post.Key) is not { } episode)
            return new Outcome.Refused("Its recording is gone. Attach it to the piece and send it again.");
        if (site.Listens is null)
            return new Outcome.Later(site.Problem);
        var address = new Uri(AudioSite.FolderOf(site.Site, connection.Outlet), episode.Recording.File).ToString();
        return await Tell(connection, stop) ?? new Outcome.Taken(address);
    }

    /// <summary>It may be told again, so there is nothing to look up.</summary>
    public Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop) => Task.FromResult<Outcome?>(null);

    public async Task<string> Try(Connection connection, string secret, CancellationToken stop) =>
        site.Listens is null
            ? site.Problem
            : await Tell(connection, stop) switch
            {
                null => "",
                Outcome.Later(var reason, _) => reason,
                Outcome.Refused(var reason) => reason,
                _ => "Its hub does not answer as one does.",
            };

    public async Task<Outcome?> PutRight(Connection connection, string secret, string address, Post post, CancellationToken stop) =>
        await Tell(connection, stop) ?? new Outcome.Taken(address);

    /// <summary>Tells the hub that the feed has grown.</summary>
    /// <returns>Null when it took that, or there is none; else what is wrong.</returns>
    private async Task<Outcome?> Tell(Connection connection, CancellationToken stop)
    {
        if (connection.Address.Length == 0)
            return null;
        var feed = AudioSite.AddressOf(site.Site, connection.Outlet).ToString();
        try
        {
            using var form = new FormUrlEncodedContent([new("hub.mode", "publish"), new("hub.topic", feed), new("hub.url", feed)]);
            using var answer = await http.PostAsync(new Uri(connection.Address), form, stop);
            if (answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.Accepted or HttpStatusCode.NoContent)
                return null;
            var after = answer.Headers.RetryAfter is { } retry ? retry.Delta ?? (retry.Date - DateTimeOffset.UtcNow) : null;
            var status = (int)answer.StatusCode;
            return status is 429 or >= 500
                ? new Outcome.Later($"The feed has it; its hub answers {status}, and is told again.", after)
                : new Outcome.Refused($"The feed has it, but its hub will not hear of it: it answers {status}. Look at its address.");
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return new Outcome.Later("The feed has it; its hub can’t be reached, and is told again.");
        }
    }

    public void Dispose() => http.Dispose();
}
