using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Catalogue;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Reuse;

/// <summary>Whether all that was wanted has been made.</summary>
public sealed record ReuseDone(bool Done);

/// <summary>Pieces that were made.</summary>
public sealed record PiecesMade(IReadOnlyList<PieceNumber> Pieces);

/// <summary>Using again what went out.</summary>
internal static class ReuseEndpoints
{
    public static void MapReuse(this RouteGroupBuilder api)
    {
        api.MapGet("/reuse", (ReuseStore reuse) => TypedResults.Ok(reuse.List()));
        api.MapGet("/pieces/{number}/reuse", (PieceNumber number, ReuseStore reuse) => TypedResults.Ok(reuse.Get(number)));
        api.MapGet("/pieces/{number}/family", (PieceNumber number, ReuseStore reuse) => TypedResults.Ok(reuse.FamilyOf(number)));
        api.MapPut(
            "/pieces/{number}/reuse/done",
            (PieceNumber number, ReuseDone asked, ReuseStore reuse, Request request) =>
                request.Ok(reuse.SetDone(number, asked.Done, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/reuse/make",
            (PieceNumber number, UsableStore usable, Request request) =>
            {
                var done = usable.UseAll(Reference.To(number), request.Once);
                return request.Ok(
                    new Store.Papers.Done<PiecesMade>(done.Command, new PiecesMade(done.Answer), done.Repeated, done.Followed)
                );
            }
        );
        api.MapPost(
            "/pieces/{number}/cuts",
            (PieceNumber number, CutChange made, ReuseStore reuse, Request request) => request.Ok(reuse.Add(number, made, request.Once))
        );
        api.MapGet(
                "/pieces/{number}/cuts.vtt",
                (PieceNumber number, ReuseStore reuse) =>
                    TypedResults.File(
                        System.Text.Encoding.UTF8.GetBytes(CutsFile.WebVtt(reuse.Get(number).Cuts)),
                        "text/vtt; charset=utf-8",
                        $"P {number} cuts.vtt"
                    )
            )
            .Produces<string>(200, "text/vtt");
        api.MapPatch(
            "/cuts/{number}",
            (CutNumber number, CutChange edit, ReuseStore reuse, Request request) =>
                request.Ok(reuse.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapDelete(
            "/cuts/{number}",
            (CutNumber number, ReuseStore reuse, Request request) => request.Ok(reuse.Remove(number, request.Once))
        );
        api.MapPost(
            "/cuts/{number}/piece",
            (CutNumber number, CutMade made, ReuseStore reuse, Request request) =>
            {
                var done = reuse.Make(number, made, request.Once);
                return request.Ok(
                    new Store.Papers.Done<PiecesMade>(done.Command, new PiecesMade([done.Answer]), done.Repeated, done.Followed)
                );
            }
        );
    }
}
