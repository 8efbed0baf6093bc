using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue.Queue;

/// <summary>How an outlet is reached.</summary>
public enum ConnectionKind
{
    /// <summary>By Micropub (W3C Recommendation, 2017): a site, or a place for short posts.</summary>
    Micropub,

    /// <summary>As Markdown files in a folder of this machine.</summary>
    Folder,

    /// <summary>As letters to a list of readers, by mail (SMTP, RFC 5321, over TLS).</summary>
    Mail,

    /// <summary>As an audio feed (RSS 2.0 with enclosures) that lies beside the pages of one's own; where an address is given, the hub
    /// there is told that the feed has grown (WebSub, W3C Recommendation, 2018).</summary>
    Feed,
}

/// <summary>How an outlet is reached, without its secret.</summary>
/// <param name="Address">The endpoint's web address, the folder's path, the letter service as <c>smtp://host:port</c>, or the hub of a
/// feed; empty where a feed has none.</param>
/// <param name="HasSecret">Whether a token or password is kept for it.</param>
/// <param name="User">Who signs in at a letter service.</param>
/// <param name="Sender">The mail address letters come from.</param>
/// <param name="Trusts">SHA-256 of a certificate, in hexadecimal, that is believed although nobody vouches for it; empty for none.</param>
/// <param name="IsArchived">Whether its letters that went out can be read on the site by anybody.</param>
public sealed record Connection(
    OutletNumber Outlet,
    ConnectionKind Kind,
    string Address,
    bool HasSecret,
    string User = "",
    string Sender = "",
    string Trusts = "",
    bool IsArchived = false
)
{
    /// <summary>Whether a piece goes out there whole, whatever its format.</summary>
    public static bool IsWhole(ConnectionKind kind) => kind is ConnectionKind.Mail or ConnectionKind.Feed;

    public const int LongestSecret = 4_000,
        LongestUser = 254;

    /// <summary>An address that can be one of its kind.</summary>
    /// <exception cref="BadInputException">It can't be.</exception>
    public static string CheckedAddress(ConnectionKind kind, string? address)
    {
        if (kind == ConnectionKind.Micropub)
            return Check.WebAddress("address", address) is { Length: > 0 } web
                ? web
                : throw new BadInputException("address", "Give the address of the Micropub endpoint; it begins with https://.");
        if (kind == ConnectionKind.Mail)
            return MailServer.Checked("smtp", address, SubmissionPort);
        if (kind == ConnectionKind.Feed)
            return Check.WebAddress("address", address);
        var path = Check.Text("address", address, 1_000);
        return Path.IsPathFullyQualified(path)
            ? path
            : throw new BadInputException("address", $"“{path}” is no whole path of a folder; one begins with /.");
    }

    /// <summary>Where mail is handed in with TLS begun at once (RFC 8314, 3.3); elsewhere it is begun by STARTTLS (RFC 3207).</summary>
    public const int SubmissionsPort = 465,
        SubmissionPort = 587;
}
