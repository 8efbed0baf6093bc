using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Web.Plan;

/// <summary>Whether the plan can be read as a calendar.</summary>
/// <param name="IsOn">Whether there is an address.</param>
/// <param name="Path">Its path, only as it is made; what is kept of it can't be read back.</param>
public sealed record CalendarAddress(bool IsOn, string? Path);

/// <summary>The plan as a calendar at a secret address. The address stands outside of undo, so that no step back opens it again.</summary>
internal static class CalendarEndpoints
{
    /// <summary>How far back and ahead the calendar goes, in days.</summary>
    private const int Back = 60,
        Ahead = 700;

    public static void MapCalendar(this IEndpointRouteBuilder app, RouteGroupBuilder api)
    {
        api.MapGet(
            "/plan/calendar",
            (SettingStore kept) => TypedResults.Ok(new CalendarAddress(kept.Get(SettingStore.Calendar) is not null, null))
        );
        api.MapPost(
            "/plan/calendar",
            (SettingStore kept) =>
            {
                var secret = CaptureSecret.From(RandomNumberGenerator.GetBytes(32))[CaptureSecret.Start.Length..];
                kept.Set(SettingStore.Calendar, CaptureSecret.Hash(secret));
                return TypedResults.Ok(new CalendarAddress(true, $"/calendar/{secret}.ics"));
            }
        );
        api.MapDelete(
            "/plan/calendar",
            (SettingStore kept) =>
            {
                kept.Set(SettingStore.Calendar, null);
                return TypedResults.Ok(new CalendarAddress(false, null));
            }
        );
        app.MapGet("/calendar/{secret}.ics", Feed).WithDescription("The plan as iCalendar (RFC 5545), at its secret address.");
    }

    private static Results<ContentHttpResult, NotFound> Feed(
        string secret,
        SettingStore kept,
        PlanStore plan,
        OutletStore outlets,
        PapersFile papers,
        HttpContext http
    )
    {
        if (
            kept.Get(SettingStore.Calendar) is not { } hash
            || !CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(hash), Encoding.ASCII.GetBytes(CaptureSecret.Hash(secret)))
        )
            return TypedResults.NotFound();
        http.Response.Headers.CacheControl = "private, no-cache";
        http.Response.Headers["X-Robots-Tag"] = "noindex";
        var shown = plan.Get(papers.Today.AddDays(-Back), papers.Today.AddDays(Ahead));
        return TypedResults.Text(
            CalendarFeed.Write(
                shown.Entries,
                outlets.List().ToDictionary(o => o.Number, o => o.Name),
                $"{http.Request.Scheme}://{http.Request.Host}",
                papers.Time.GetUtcNow()
            ),
            "text/calendar",
            Encoding.UTF8
        );
    }
}
