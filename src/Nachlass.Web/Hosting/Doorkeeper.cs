using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.Json;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>How the door stands.</summary>
/// <param name="Asks">Whether a passphrase is asked for at all: when others can reach the app.</param>
/// <param name="IsIn">Whether this browser may go in.</param>
/// <param name="IsSet">Whether a passphrase has been chosen.</param>
public sealed record DoorState(bool Asks, bool IsIn, bool IsSet);

public sealed record SignInRequest(string? Passphrase);

/// <summary>A new passphrase; the present one is named when there is one.</summary>
public sealed record PassphraseRequest(string? Present, string? Next);

/// <summary>
/// Asks for the passphrase when others than this machine can reach the app. It is hashed with the framework's own hasher; who
/// knows it gets a cookie that ends with the next change of the passphrase; who guesses may do so five times in five minutes.
/// </summary>
internal sealed class Doorkeeper : IDisposable
{
    public const int ShortestPassphrase = 12;
    private const int MostWrong = 5;
    private const string Stamp = "stamp",
        Session = "session";
    private static readonly TimeSpan SessionLasts = TimeSpan.FromDays(30);

    // One guess of an address at a time, so that sixty at once are no more than five.
    private readonly Lock[] turns = [.. Enumerable.Range(0, 64).Select(_ => new Lock())];
    private static readonly TimeSpan WrongWithin = TimeSpan.FromMinutes(5);
    private static readonly PasswordHasher<Doorkeeper> Hasher = new();

    private readonly Settings settings;
    private readonly SettingStore kept;
    private readonly PartitionedRateLimiter<string> guesses = PartitionedRateLimiter.Create<string, string>(who =>
        RateLimitPartition.GetFixedWindowLimiter(
            who,
            _ => new FixedWindowRateLimiterOptions
            {
                PermitLimit = MostWrong,
                Window = WrongWithin,
                QueueLimit = 0,
            }
        )
    );

    /// <exception cref="CannotStartException">Others can reach the app, and there is no passphrase yet.</exception>
    public Doorkeeper(Settings settings, SettingStore kept)
    {
        (this.settings, this.kept) = (settings, kept);
        if (settings.IsOpen && kept.Get(SettingStore.Passphrase) is null)
            throw new CannotStartException(
                "Others could reach these papers, and they have no passphrase. Start Nachlass on http://127.0.0.1 first and choose "
                    + "one: the menu at the top right, Passphrase."
            );
    }

    public static void AddTo(IServiceCollection services, Settings settings)
    {
        // The keys of the cookies lie beside the papers, so that a restart signs nobody out.
        services
            .AddDataProtection()
            .SetApplicationName("nachlass")
            .PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(settings.Data, "sign-in")));
        services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(cookie =>
            {
                cookie.Cookie.Name = "nachlass";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Lax;
                cookie.Cookie.SecurePolicy = settings.IsOpen ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
                cookie.ExpireTimeSpan = SessionLasts;
                cookie.SlidingExpiration = true;
                cookie.Events.OnValidatePrincipal = context =>
                {
                    if (!context.HttpContext.RequestServices.GetRequiredService<Doorkeeper>().Knows(context.Principal))
                        context.RejectPrincipal();
                    return Task.CompletedTask;
                };
            });
    }

    /// <summary>The certificate for HTTPS.</summary>
    /// <exception cref="CannotStartException">It can't be read.</exception>
    public static X509Certificate2? Certificate(Settings settings)
    {
        if (settings.Certificate is not { } file)
            return null;
        try
        {
            return Path.GetExtension(file).ToLowerInvariant() is ".pfx" or ".p12"
                ? X509CertificateLoader.LoadPkcs12FromFile(file, null)
                : X509CertificateLoader.LoadPkcs12(
                    X509Certificate2.CreateFromPemFile(file, settings.CertificateKey).Export(X509ContentType.Pkcs12),
                    null
                );
        }
        catch (Exception error) when (error is CryptographicException or IOException)
        {
            throw new CannotStartException($"The certificate {file} can't be used: {error.Message}");
        }
    }

    /// <summary>Changes with the passphrase, and tells nothing of it.</summary>
    private string StampNow =>
        kept.Get(SettingStore.Passphrase) is { } hash ? Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(hash)))[..16] : "";

    private bool Knows(ClaimsPrincipal? who) =>
        who?.FindFirstValue(Stamp) == StampNow && who.FindFirstValue(Session) is { } session && !SignedOut().ContainsKey(session);

    /// <summary>Sessions that were ended before their cookie ends, and when.</summary>
    private Dictionary<string, DateTimeOffset> SignedOut() =>
        kept.Get(SettingStore.SignedOut) is { } written ? JsonSerializer.Deserialize<Dictionary<string, DateTimeOffset>>(written)! : [];

    private async Task<NoContent> SignOut(HttpContext http, TimeProvider time)
    {
        if ((await http.AuthenticateAsync()).Principal?.FindFirstValue(Session) is { } session)
        {
            var ended = SignedOut().Where(s => s.Value > time.GetUtcNow() - SessionLasts).ToDictionary();
            ended[session] = time.GetUtcNow();
            kept.Set(SettingStore.SignedOut, JsonSerializer.Serialize(ended));
        }
        await http.SignOutAsync();
        return TypedResults.NoContent();
    }

    /// <summary>Lets in who is signed in, what has a key of its own, and what anyone may see.</summary>
    public async Task Let(HttpContext http, RequestDelegate next)
    {
        if (!settings.IsOpen || Keys.Of(http) is not null || IsForAll(http.Request.Path) || (await http.AuthenticateAsync()).Succeeded)
        {
            await next(http);
            return;
        }
        if (http.Request.Path.StartsWithSegments("/api") || http.Request.Path.StartsWithSegments("/openapi"))
            await Results
                .Problem("Sign in first. What you wrote is kept in this browser.", statusCode: 401, title: "Not signed in")
                .ExecuteAsync(http);
        else
            http.Response.Redirect("/sign-in?back=" + Uri.EscapeDataString(http.Request.Path + http.Request.QueryString));
    }

    /// <summary>The empty pages and their parts: there is nothing of the papers in them.</summary>
    private static bool IsForAll(PathString path) =>
        path == "/sign-in"
        || path == "/c"
        || path == "/clip"
        || path == "/api/sign-in"
        || path == "/api/health"
        // Its address is a secret of its own.
        || path.StartsWithSegments("/calendar")
        || path.StartsWithSegments("/assets")
        || path == "/mark.svg"
        || path == "/phone.webmanifest"
        || path == "/phone-worker.js";

    public void Map(RouteGroupBuilder api)
    {
        // A handler of the request alone would be taken for one that writes its answer itself.
        api.MapGet("/sign-in", async (HttpContext http, Settings _) => TypedResults.Ok(await State(http)));
        api.MapPost("/sign-in", SignIn);
        api.MapDelete("/sign-in", SignOut);
        api.MapPut("/passphrase", Change);
    }

    private async Task<DoorState> State(HttpContext http) =>
        new(settings.IsOpen, !settings.IsOpen || (await http.AuthenticateAsync()).Succeeded, kept.Get(SettingStore.Passphrase) is not null);

    private async Task<Results<Ok<DoorState>, ProblemHttpResult>> SignIn(SignInRequest said, HttpContext http)
    {
        if (Guess(http, said.Passphrase) is { } refused)
            return refused;
        await Admit(http);
        return TypedResults.Ok(new DoorState(settings.IsOpen, true, true));
    }

    private Task Admit(HttpContext http) =>
        http.SignInAsync(
            new ClaimsPrincipal(
                new ClaimsIdentity(
                    [new Claim(Stamp, StampNow), new Claim(Session, Guid.NewGuid().ToString("N"))],
                    CookieAuthenticationDefaults.AuthenticationScheme
                )
            ),
            new AuthenticationProperties { IsPersistent = true }
        );

    /// <summary>Null when the passphrase is right. Only wrong guesses count.</summary>
    private ProblemHttpResult? Guess(HttpContext http, string? said)
    {
        var who = Network(http.Connection.RemoteIpAddress);
        lock (turns[(uint)who.GetHashCode(StringComparison.Ordinal) % turns.Length])
            return Guess(http, said, who);
    }

    /// <summary>Who guesses: an address, of IPv6 the whole network that one household or server has.</summary>
    internal static string Network(IPAddress? address)
    {
        if (address is null)
            return "someone";
        if (address.IsIPv4MappedToIPv6)
            address = address.MapToIPv4();
        return address.AddressFamily == AddressFamily.InterNetworkV6 && !IPAddress.IsLoopback(address)
            ? Convert.ToHexString(address.GetAddressBytes()[..8])
            : address.ToString();
    }

    private ProblemHttpResult? Guess(HttpContext http, string? said, string who)
    {
        var hash = kept.Get(SettingStore.Passphrase);
        if (guesses.GetStatistics(who) is { CurrentAvailablePermits: 0 })
        {
            http.Response.Headers.RetryAfter = ((int)WrongWithin.TotalSeconds).ToString(CultureInfo.InvariantCulture);
            return TypedResults.Problem(
                $"There were {MostWrong} wrong ones. Wait five minutes.",
                statusCode: 429,
                title: "Too many guesses"
            );
        }
        if (
            hash is not null
            && !string.IsNullOrEmpty(said)
            && said.Length <= 1_000
            && Hasher.VerifyHashedPassword(this, hash, said) != PasswordVerificationResult.Failed
        )
            return null;
        using var lease = guesses.AttemptAcquire(who);
        return TypedResults.Problem(
            "This is not the passphrase.",
            statusCode: 403,
            title: "Not the passphrase",
            extensions: new Dictionary<string, object?> { ["field"] = "passphrase" }
        );
    }

    private async Task<Results<Ok<DoorState>, ProblemHttpResult>> Change(PassphraseRequest said, HttpContext http)
    {
        if (kept.Get(SettingStore.Passphrase) is not null && Guess(http, said.Present) is { } refused)
            return refused;
        if ((said.Next?.Trim().Length ?? 0) < ShortestPassphrase)
            throw new BadInputException(
                "next",
                $"A passphrase has at least {ShortestPassphrase} characters; a few words are easiest to keep."
            );
        kept.Set(SettingStore.Passphrase, Hasher.HashPassword(this, Check.Length("next", said.Next, 1_000)));
        await Admit(http);
        return TypedResults.Ok(new DoorState(settings.IsOpen, true, true));
    }

    public void Dispose() => guesses.Dispose();
}
