using System.Security.Cryptography;
using Microsoft.Extensions.FileProviders;

namespace Nachlass.Web.Hosting;

/// <summary>What keeps a page of another site out: headers, the origin check, and the front end served with a fresh nonce.</summary>
internal static class Safety
{
    private const string NonceMark = "__NONCE__";

    /// <summary>Refuses writing requests that a page of another site has sent. Programs send no Origin and pass.</summary>
    public static async Task RefuseOtherOrigins(HttpContext http, RequestDelegate next)
    {
        var method = http.Request.Method;
        if (!HttpMethods.IsGet(method) && !HttpMethods.IsHead(method) && IsForeign(http.Request))
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            await Results.Problem("A page of another site may not write here.", statusCode: 403, title: "Refused").ExecuteAsync(http);
            return;
        }
        await next(http);
    }

    private static bool IsForeign(HttpRequest request)
    {
        var origin = request.Headers.Origin.ToString();
        if (origin.Length > 0)
            return !string.Equals(origin, $"{request.Scheme}://{request.Host}", StringComparison.OrdinalIgnoreCase);
        return request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site";
    }

    public static async Task AddHeaders(HttpContext http, RequestDelegate next)
    {
        var nonce = Convert.ToBase64String(RandomNumberGenerator.GetBytes(16));
        http.Items[NonceMark] = nonce;
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy =
            "default-src 'none'; script-src 'self'; "
            + $"style-src 'self' 'nonce-{nonce}'; font-src 'self'; img-src 'self' data: blob:; media-src 'self'; connect-src 'self'; "
            + "base-uri 'none'; form-action 'self'; frame-ancestors 'none'; manifest-src 'self'";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "no-referrer";
        // A clipped page opened this one and sends it its text; everywhere else nothing that opened us keeps a hold on us.
        headers["Cross-Origin-Opener-Policy"] = http.Request.Path == "/clip" ? "unsafe-none" : "same-origin";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        if (http.Request.Path.StartsWithSegments("/api"))
            headers.CacheControl = "no-store";
        await next(http);
    }

    /// <summary>Serves the built front end's files as they are; before routing, which would take their addresses for screens.</summary>
    public static void UseFrontEndFiles(WebApplication app, string root)
    {
        if (!Directory.Exists(root))
            return;
        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = new PhysicalFileProvider(root),
                ContentTypeProvider = new Microsoft.AspNetCore.StaticFiles.FileExtensionContentTypeProvider
                {
                    Mappings =
                    {
                        [".webmanifest"] = "application/manifest+json",
                        // Word lists of the speller.
                        [".aff"] = "text/plain; charset=utf-8",
                        [".dic"] = "text/plain; charset=utf-8",
                    },
                },
                OnPrepareResponse = file =>
                {
                    // Built files carry a hash of their content in their name.
                    if (file.File.Name == "phone-worker.js")
                        file.Context.Response.Headers.CacheControl = "no-cache";
                    if (file.Context.Request.Path.StartsWithSegments("/assets"))
                        file.Context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
                },
            }
        );
    }

    /// <summary>Serves the front end's page for every address that is a screen.</summary>
    public static void MapFrontEnd(WebApplication app, string root)
    {
        app.MapFallback("/api/{**rest}", () => Results.Problem("There is no such address.", statusCode: 404, title: "Not there"));
        app.MapFallback("/assets/{**rest}", () => Results.NotFound());
        if (!File.Exists(Path.Combine(root, "index.html")))
        {
            app.MapFallback(() => Results.Text("The front end has not been built. Run: make demo", statusCode: 503));
            return;
        }
        var page = File.ReadAllText(Path.Combine(root, "index.html"));
        var phone = File.ReadAllText(Path.Combine(root, "phone.html"));
        app.MapGet(
                "/c",
                (HttpContext http) =>
                {
                    http.Response.Headers.CacheControl = "no-store";
                    return Results.Content(phone, "text/html; charset=utf-8");
                }
            )
            .ExcludeFromDescription();
        app.MapFallback(
            "{**screen}",
            (HttpContext http) =>
            {
                http.Response.Headers.CacheControl = "no-store";
                return Results.Content(
                    page.Replace(NonceMark, (string)http.Items[NonceMark]!, StringComparison.Ordinal),
                    "text/html; charset=utf-8"
                );
            }
        );
    }
}
