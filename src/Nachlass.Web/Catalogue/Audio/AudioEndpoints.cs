using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Audio;

/// <summary>Where the audio feed of an outlet lies.</summary>
/// <param name="Episodes">How many it has.</param>
/// <param name="Problem">Why nobody can hear it; empty while they can.</param>
public sealed record AudioFeedStands(string Address, int Episodes, string Problem);

/// <summary>Recordings, and the feeds they go out in.</summary>
internal static class AudioEndpoints
{
    public static void MapAudio(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/outlets/{number}/feed",
            (OutletNumber number, AudioStore audio, PublicSite site) =>
                TypedResults.Ok(
                    new AudioFeedStands(AudioSite.AddressOf(site.Site, number).ToString(), audio.Episodes(number).Count, site.Problem)
                )
        );
        api.MapGet("/pieces/{number}/recordings", (PieceNumber number, AudioStore audio) => TypedResults.Ok(audio.Of(number)));
        api.MapPut(
            "/releases/{number}/recording",
            (ReleaseNumber number, RecordingChoice choice, AudioStore audio, Request request) =>
                request.Ok(audio.Choose(number, choice with { Version = request.Based(choice.Version) }, request.Once))
        );
    }
}
