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
}

/// <summary>How an outlet is reached, without its secret.</summary>
/// <param name="Address">The endpoint's web address, or the folder's path.</param>
/// <param name="HasSecret">Whether a token is kept for it.</param>
public sealed record Connection(OutletNumber Outlet, ConnectionKind Kind, string Address, bool HasSecret)
{
    public const int LongestSecret = 4_000;

    /// <summary>An address that can be one of its kind.</summary>
    /// <exception cref="BadInputException">It can't be.</exception>
    public static string CheckedAddress(ConnectionKind kind, string? address)
    {
        if (kind == ConnectionKind.Micropub)
            return Check.WebAddress("address", address) is { Length: > 0 } web
                ? web
                : throw new BadInputException("address", "Give the address of the Micropub endpoint; it begins with https://.");
        var path = Check.Text("address", address, 1_000);
        return Path.IsPathFullyQualified(path)
            ? path
            : throw new BadInputException("address", $"“{path}” is no whole path of a folder; one begins with /.");
    }
}
