using System.Security.Cryptography;
using System.Text;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Catalogue.Audio;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Audio;

/// <summary>Serves audio feeds beside the pages of one's own: the feed, its recordings and their chapters, and nothing else of the
/// outlet.</summary>
internal sealed class AudioSite(AudioStore audio, ConnectionStore connections, FileShelf shelf, OutgoingPictures pictures)
{
    /// <summary>The feed of an outlet as it is now; null where it has none.</summary>
    public AudioFeed? Feed(Site site, OutletNumber outlet) =>
        connections.Find(outlet) is { Kind: ConnectionKind.Feed } connection
            ? new AudioFeed(
                audio.NameOf(outlet),
                site.Address,
                PlaceOf(outlet),
                connection.Address,
                audio.LanguageOf(outlet),
                audio.Episodes(outlet)
            )
            : null;

    /// <summary>All feeds that have something to be heard.</summary>
    public IReadOnlyList<AudioFeed> Feeds(Site site) =>
        [.. connections.List().Select(c => Feed(site, c.Outlet)).OfType<AudioFeed>().Where(f => f.Episodes.Count > 0)];

    private static string PlaceOf(OutletNumber outlet) => $"audio/{outlet}/";

    public static Uri FolderOf(Site site, OutletNumber outlet) => new(site.Address, PlaceOf(outlet));

    /// <summary>Opens the recording of an episode; null where its file is gone.</summary>
    public Stream? Open(Episode episode) => File.Exists(shelf.Path(episode.Recording.Hash)) ? shelf.Open(episode.Recording.Hash) : null;

    /// <summary>The picture of an episode; null where it has none, or its file is gone.</summary>
    public Picture? PictureOf(Episode episode) => episode.Picture is { } own ? pictures.Of(own) : null;

    public static Uri AddressOf(Site site, OutletNumber outlet) => new(FolderOf(site, outlet), AudioFeed.FeedName);

    public void Map(WebApplication app, Func<Site> site) =>
        app.MapMethods(
            "/audio/{outlet:int}/{file}",
            ["GET", "HEAD"],
            (HttpContext http, int outlet, string file) => Give(http, site(), outlet, file)
        );

    private IResult Give(HttpContext http, Site site, int outlet, string file)
    {
        if (Feed(site, OutletNumber.Of(outlet)) is not { } feed)
            return Results.NotFound();
        if (file == AudioFeed.FeedName)
            return Text(http, AudioFeedFile.Write(feed), "application/rss+xml");
        if (feed.Episodes.FirstOrDefault(e => file == e.Recording.Key + AudioFeed.ChaptersEnding) is { } chaptered)
            return Text(http, AudioFeedFile.ChaptersOf(chaptered), "application/json+chapters");
        if (feed.Episodes.FirstOrDefault(e => e.PictureFile == file && file.Length > 0) is { } shown)
        {
            if (PictureOf(shown) is not { } picture)
                return Results.NotFound();
            http.Response.Headers.CacheControl = "public, max-age=3600";
            return Results.Bytes(picture.Content, picture.Type);
        }
        if (
            feed.Episodes.FirstOrDefault(e => e.Recording.File == file) is not { } episode
            || !File.Exists(shelf.Path(episode.Recording.Hash))
        )
            return Results.NotFound();
        http.Response.Headers.CacheControl = "public, max-age=3600";
        // Players jump about in it (RFC 9110, 14).
        return Results.File(
            shelf.Path(episode.Recording.Hash),
            episode.Recording.Type,
            entityTag: new Microsoft.Net.Http.Headers.EntityTagHeaderValue($"\"{episode.Recording.Hash[..24]}\""),
            enableRangeProcessing: true
        );
    }

    private static IResult Text(HttpContext http, string text, string type)
    {
        var known = $"\"{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..24]}\"";
        http.Response.Headers.ETag = known;
        http.Response.Headers.CacheControl = "public, max-age=60";
        return http.Request.Headers.IfNoneMatch == known
            ? Results.StatusCode(StatusCodes.Status304NotModified)
            : Results.Content(text, $"{type}; charset=utf-8");
    }
}
