using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;

namespace Nachlass.Web.Capture;

/// <summary>Takes in files as the parts of a form; the file name of each part may have folders in it.</summary>
internal static class ParcelIn
{
    /// <exception cref="BadInputException">It is no such form.</exception>
    public static async Task Read(HttpContext http, Parcel parcel)
    {
        if (
            !MediaTypeHeaderValue.TryParse(http.Request.ContentType, out var type)
            || !type.MediaType.Equals("multipart/form-data", StringComparison.OrdinalIgnoreCase)
        )
            throw new BadInputException("Content-Type", "Files are sent as the parts of a multipart/form-data request.");
        var parts = new MultipartReader(HeaderUtilities.RemoveQuotes(type.Boundary).Value ?? "", http.Request.Body);
        while (await parts.ReadNextSectionAsync(http.RequestAborted) is { } part)
        {
            if (part.GetContentDispositionHeader() is not { } said || !said.IsFileDisposition())
                continue;
            var name = Uri.UnescapeDataString(
                (HeaderUtilities.RemoveQuotes(said.FileNameStar.HasValue ? said.FileNameStar : said.FileName).Value ?? "").Trim()
            );
            // The readers are synchronous, so what arrives is first put on disk.
            await using var file = new FileStream(
                Path.GetTempFileName(),
                FileMode.Open,
                FileAccess.ReadWrite,
                FileShare.None,
                81_920,
                FileOptions.DeleteOnClose
            );
            await part.Body.CopyToAsync(file, http.RequestAborted);
            file.Position = 0;
            parcel.Add(name.Length > 0 ? name : "pasted", file);
        }
    }
}
