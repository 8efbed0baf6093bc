using System.Net.Security;
using System.Security.Cryptography;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Which certificates of mail servers are believed.</summary>
internal static class Certificates
{
    /// <summary>Those that somebody vouches for, and the one its writer believes.</summary>
    /// <param name="trusts">SHA-256 of that one, in hexadecimal; empty for none.</param>
    public static RemoteCertificateValidationCallback Believed(string trusts) =>
        (_, certificate, _, errors) =>
            errors == SslPolicyErrors.None
            || (
                trusts.Length > 0
                && certificate is not null
                && Convert.ToHexStringLower(SHA256.HashData(certificate.GetRawCertData())) == trusts
            );

    /// <summary>None: it is only looked at.</summary>
    /// <param name="seen">Told its SHA-256 in hexadecimal, and whose it says it is.</param>
    public static RemoteCertificateValidationCallback OnlySeen(Action<string, string> seen) =>
        (_, certificate, _, _) =>
        {
            if (certificate is not null)
                seen(Convert.ToHexStringLower(SHA256.HashData(certificate.GetRawCertData())), certificate.Subject);
            return false;
        };
}
