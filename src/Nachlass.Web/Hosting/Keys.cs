using System.Globalization;
using System.Threading.RateLimiting;
using Nachlass.Core.Capture;
using Nachlass.Store.Capture;

namespace Nachlass.Web.Hosting;

/// <summary>
/// Lets a program in that names a capture key, to add and for nothing else, and not faster than a person would ever need.
/// A request without a key is none of its business.
/// </summary>
internal sealed class Keys(CaptureKeyStore keys) : IDisposable
{
    public const int EachMinute = 60;

    private const string Scheme = "Bearer ";
    private static readonly object Found = new();

    private readonly PartitionedRateLimiter<string> pace = PartitionedRateLimiter.Create<string, string>(who =>
        RateLimitPartition.GetTokenBucketLimiter(
            who,
            _ => new TokenBucketRateLimiterOptions
            {
                TokenLimit = EachMinute,
                TokensPerPeriod = EachMinute,
                ReplenishmentPeriod = TimeSpan.FromMinutes(1),
                QueueLimit = 0,
            }
        )
    );

    public async Task Let(HttpContext http, RequestDelegate next)
    {
        var said = http.Request.Headers.Authorization.ToString();
        if (said.Length == 0)
        {
            await next(http);
            return;
        }
        var secret = said.StartsWith(Scheme, StringComparison.OrdinalIgnoreCase) ? said[Scheme.Length..].Trim() : "";
        // Wrong guesses are counted together, right ones by the key they open.
        var key = keys.Open(secret);
        using var lease = pace.AttemptAcquire(key is null ? "nobody" : $"key {key.Number}");
        if (!lease.IsAcquired)
        {
            var wait = lease.TryGetMetadata(MetadataName.RetryAfter, out var after) ? (int)Math.Ceiling(after.TotalSeconds) : 60;
            http.Response.Headers.RetryAfter = wait.ToString(CultureInfo.InvariantCulture);
            await Refuse(
                http,
                429,
                "Too fast",
                $"A key may add {EachMinute} times a minute. Try again in {wait} seconds; nothing was added."
            );
        }
        else if (key is null)
        {
            http.Response.Headers.WWWAuthenticate = "Bearer";
            await Refuse(
                http,
                401,
                "No such key",
                "This capture key is unknown or was withdrawn. Make one in Nachlass: the menu at the top right, Keys for other programs."
            );
        }
        else if (!HttpMethods.IsPost(http.Request.Method) || (http.Request.Path != "/api/capture" && http.Request.Path != "/api/clips"))
            await Refuse(http, 403, "Adding only", "A capture key may only add, with POST /api/capture or /api/clips.");
        else
        {
            http.Items[Found] = key;
            await next(http);
        }
    }

    /// <summary>The key a request came with; null for the writer's own.</summary>
    public static CaptureKey? Of(HttpContext http) => http.Items[Found] as CaptureKey;

    private static Task Refuse(HttpContext http, int status, string title, string detail) =>
        Results.Problem(detail, statusCode: status, title: title).ExecuteAsync(http);

    public void Dispose() => pace.Dispose();
}
