using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Catalogue.Pages;

/// <summary>The forms of the public site: each carries when it was fetched, so that what fills it in too quickly is told from
/// people.</summary>
internal sealed class FormMarks(PapersFile papers, IDataProtectionProvider protection)
{
    private readonly IDataProtector marks = protection.CreateProtector("Nachlass.Pages.Form");

    /// <summary>The form that was sent; null when it came in pieces.</summary>
    public static async Task<IFormCollection?> Read(HttpContext http)
    {
        try
        {
            return await http.Request.ReadFormAsync(http.RequestAborted);
        }
        catch (Exception error) when (error is BadHttpRequestException or InvalidDataException or IOException)
        {
            return null;
        }
    }

    /// <summary>When a form was fetched, sealed so that nobody can make one up.</summary>
    public string Make() => marks.Protect(papers.Time.GetUtcNow().ToUnixTimeMilliseconds().ToString(CultureInfo.InvariantCulture));

    /// <summary>How long ago a form was fetched; null when its mark is none of ours.</summary>
    public TimeSpan? Since(string mark)
    {
        try
        {
            return papers.Time.GetUtcNow()
                - DateTimeOffset.FromUnixTimeMilliseconds(long.Parse(marks.Unprotect(mark), CultureInfo.InvariantCulture));
        }
        catch (Exception error) when (error is CryptographicException or FormatException)
        {
            return null;
        }
    }
}
