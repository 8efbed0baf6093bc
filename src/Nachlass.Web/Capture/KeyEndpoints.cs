using Nachlass.Core.Capture;
using Nachlass.Store.Capture;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

public sealed record NewKeyRequest(string? Name);

/// <summary>Making and withdrawing the keys of other programs.</summary>
internal static class KeyEndpoints
{
    public static void MapKeys(this RouteGroupBuilder api)
    {
        api.MapGet("/keys", (CaptureKeyStore keys) => TypedResults.Ok(keys.List()));
        api.MapPost(
            "/keys",
            (NewKeyRequest key, CaptureKeyStore keys, Request request) => request.Created(keys.Make(key.Name), "/api/keys")
        );
        api.MapDelete(
            "/keys/{number}",
            (CaptureKeyNumber number, CaptureKeyStore keys, Request request) => request.Ok(keys.Withdraw(number, request.Once))
        );
    }
}
