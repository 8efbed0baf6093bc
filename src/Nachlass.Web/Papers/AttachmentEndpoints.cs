using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Papers;

public sealed record AttachmentChange(int? Version, string? Name = null, string? Why = null, string? Credit = null);

/// <summary>Files and pictures tied to slips, sources and pieces.</summary>
internal static class AttachmentEndpoints
{
    public static void MapAttachments(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/attachments/{kind}/{number:int}",
            (Word<ThingKind> kind, int number, AttachmentStore attachments) =>
                TypedResults.Ok(attachments.Of(new Reference(kind.Value, number)))
        );
        api.MapPost("/attachments/{kind}/{number:int}", Add).WithMetadata(new RequestSizeLimitAttribute(Attachment.MostBytes + (1 << 20)));
        api.MapPatch(
            "/attachments/{number}",
            (AttachmentNumber number, AttachmentChange change, AttachmentStore attachments, Request request) =>
                request.Ok(attachments.Edit(number, request.Based(change.Version), change.Name, change.Why, request.Once, change.Credit))
        );
        api.MapDelete(
            "/attachments/{number}",
            (AttachmentNumber number, AttachmentStore attachments, Request request) => request.Ok(attachments.Remove(number, request.Once))
        );
        api.MapGet("/attachments/{number}/content", Content).Produces(200, contentType: "application/octet-stream");
    }

    /// <summary>The body is the file itself; its name is percent-encoded in the query.</summary>
    private static async Task<Created<Attachment>> Add(
        Word<ThingKind> kind,
        int number,
        HttpContext http,
        AttachmentStore attachments,
        Request request,
        string? name = null,
        string? why = null
    )
    {
        await using var file = await Bodies.ToFile(http);
        return request.Created(
            attachments.Add(new Reference(kind.Value, number), name, file, why, request.Once),
            $"/api/attachments/{kind.Value}/{number}"
        );
    }

    /// <summary>The file. Only pictures and sounds are shown in place; anything else is a download, so that nothing a stranger wrote runs
    /// as a page of ours.</summary>
    private static FileStreamHttpResult Content(AttachmentNumber number, AttachmentStore attachments, FileShelf shelf, HttpContext http)
    {
        var attachment = attachments.Get(number);
        http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        var content = shelf.Open(attachment.Hash);
        return attachment.IsPicture || SoundTypes.Has(attachment.Type)
            // Players jump about in a sound (RFC 9110, 14).
            ? TypedResults.Stream(content, attachment.Type, enableRangeProcessing: true)
            : TypedResults.Stream(content, "application/octet-stream", attachment.Name);
    }
}

/// <summary>Bodies that are too large to be held in memory.</summary>
internal static class Bodies
{
    /// <summary>A file that is gone when it is closed.</summary>
    public static FileStream Passing() =>
        new(Path.GetTempFileName(), FileMode.Open, FileAccess.ReadWrite, FileShare.None, 81_920, FileOptions.DeleteOnClose);

    /// <summary>The body as a file that is gone when it is closed.</summary>
    public static async Task<FileStream> ToFile(HttpContext http)
    {
        var file = Passing();
        try
        {
            await http.Request.Body.CopyToAsync(file, http.RequestAborted);
            file.Position = 0;
            return file;
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }
}
