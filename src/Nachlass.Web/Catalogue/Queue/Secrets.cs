using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Keeps tokens and passwords encrypted, with keys that never leave this machine (the framework's data protection).</summary>
internal sealed class Secrets(IDataProtectionProvider protection)
{
    private readonly IDataProtector protector = protection.CreateProtector("Nachlass.Outlets");

    public string Close(string secret) => secret.Length == 0 ? "" : protector.Protect(secret);

    /// <returns>The secret; null where the keys to it are not here.</returns>
    public string? Open(string closed)
    {
        if (closed.Length == 0)
            return "";
        try
        {
            return protector.Unprotect(closed);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
