using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;
using Nachlass.Web.Papers;

namespace Nachlass.Web.Catalogue.Pages;

/// <summary>The writer's own site.</summary>
/// <param name="Address">Where it begins for its readers.</param>
/// <param name="OwnAddress">The address its writer gave it; empty where it is the one it is served at.</param>
/// <param name="ServedAt">Where this program serves it; empty when it does not.</param>
/// <param name="Problem">Why nobody can read it; empty when all is well.</param>
public sealed record SiteState(string Name, string Address, string OwnAddress, string ServedAt, string Problem);

/// <summary>The page of a piece.</summary>
/// <param name="Page">Null where it has none.</param>
public sealed record PageOf(Page? Page);

/// <summary>What the site is to be called, and where its readers find it.</summary>
/// <param name="Address">Empty for where it is served.</param>
public sealed record SiteChange(string? Name, string? Address);

/// <summary>Pages of one's own, as their writer sees them.</summary>
internal static class PageEndpoints
{
    private const int LongestName = 120;

    public static void MapPages(this RouteGroupBuilder api)
    {
        api.MapGet("/pages", (PageStore pages) => TypedResults.Ok(pages.List()));
        api.MapGet("/pieces/{number}/page", (PieceNumber number, PageStore pages) => TypedResults.Ok(new PageOf(pages.Of(number))));
        api.MapGet("/pages/{number}", (PageNumber number, PageStore pages) => TypedResults.Ok(pages.Get(number)));
        api.MapPost(
            "/pages",
            (NewPage made, PageStore pages, PublicSite site, Request request) =>
            {
                var done = pages.PutUp(made with { Address = site.Site.Address.ToString() }, request.Once);
                return request.Created(done, $"/api/pages/{done.Answer.Page.Number}");
            }
        );
        api.MapPatch(
            "/pages/{number}",
            (PageNumber number, PageChange edit, PageStore pages, Request request) =>
                request.Ok(pages.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapPost(
            "/pages/{number}/renew",
            (PageNumber number, PageStore pages, Request request) => request.Ok(pages.Renew(number, request.Once))
        );
        api.MapPost(
            "/pages/{number}/down",
            (PageNumber number, PageStore pages, Request request) => request.Ok(pages.SetDown(number, true, request.Once))
        );
        api.MapPost(
            "/pages/{number}/up",
            (PageNumber number, PageStore pages, Request request) => request.Ok(pages.SetDown(number, false, request.Once))
        );
        api.MapPost(
            "/comments/{number}",
            (CommentNumber number, CommentWord word, PageStore pages, Request request) =>
                request.Ok(pages.Decide(number, word, request.Once))
        );
        api.MapPost(
            "/comments/{number}/look",
            async (CommentNumber number, MentionLook mentions, Request request, HttpContext http) =>
                request.Ok(await mentions.Look(number, request.Once, http.RequestAborted))
        );
        api.MapGet("/site", (PublicSite site, SettingStore kept) => TypedResults.Ok(State(site, kept)));
        api.MapPut("/site", Change);
        api.MapGet(
                "/site.zip",
                (PublicSite site, SiteWriter writer) =>
                {
                    // Recordings may be too large to be held in memory.
                    var made = Bodies.Passing();
                    writer.Zip(site.Site, made);
                    made.Position = 0;
                    return TypedResults.File(made, "application/zip", "site.zip");
                }
            )
            .Produces<string>(200, "application/zip");
    }

    private static SiteState State(PublicSite site, SettingStore kept) =>
        new(
            site.Site.Name,
            site.Site.Address.ToString(),
            kept.Get(SettingStore.SiteAddress) ?? "",
            site.Listens?.ToString() ?? "",
            site.Problem
        );

    private static Ok<SiteState> Change(SiteChange said, PublicSite site, SettingStore kept)
    {
        var name = Check.Length("name", said.Name?.Trim(), LongestName);
        var address = Check.WebAddress("address", said.Address);
        kept.Set(SettingStore.SiteName, name.Length == 0 ? null : name);
        kept.Set(SettingStore.SiteAddress, address.Length == 0 ? null : address.TrimEnd('/') + "/");
        return TypedResults.Ok(State(site, kept));
    }
}
