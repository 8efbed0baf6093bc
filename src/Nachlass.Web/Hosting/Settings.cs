using System.Net;

namespace Nachlass.Web.Hosting;

/// <summary>Where the app listens and keeps its papers: each by environment (<c>NACHLASS_URL</c>, <c>NACHLASS_DATA</c> …) or option
/// (<c>--url</c>, <c>--data</c> …).</summary>
/// <param name="Url">Address to listen on.</param>
/// <param name="Data">Folder of the papers.</param>
/// <param name="Demo">Folder of demo papers to begin with; the data folder is then renewed on each start.</param>
/// <param name="Certificate">PEM or PFX file with the certificate, for HTTPS.</param>
/// <param name="CertificateKey">PEM file with its key, when it is not in the same file.</param>
/// <param name="BehindProxy">Whether a proxy in front speaks HTTPS and passes requests on.</param>
/// <param name="Hosts">Names by which others reach it.</param>
/// <param name="Pages">Address on which pages of one's own are served; null for not at all.</param>
internal sealed record Settings(
    Uri Url,
    string Data,
    string? Demo,
    string? Certificate,
    string? CertificateKey,
    bool BehindProxy,
    IReadOnlyList<string> Hosts,
    Uri? Pages
)
{
    /// <summary>Whether anyone but this machine can reach it. Then it asks for a passphrase.</summary>
    public bool IsOpen => !Url.IsLoopback || BehindProxy;

    private bool IsEveryAddress =>
        IPAddress.TryParse(Url.Host.Trim('[', ']'), out var ip) && (ip.Equals(IPAddress.Any) || ip.Equals(IPAddress.IPv6Any));

    /// <summary>The names under which requests are answered; a page of another site that points its own name here is not.</summary>
    public IReadOnlyList<string> AnsweredHosts =>
        ["localhost", "127.0.0.1", "[::1]", .. IsEveryAddress || Url.IsLoopback ? Hosts : Hosts.Append(Url.Host)];

    /// <exception cref="CannotStartException">The settings contradict each other, or would leave the papers open.</exception>
    public static Settings From(IConfiguration configuration)
    {
        var url = Word("url") ?? "http://127.0.0.1:5240";
        if (!Uri.TryCreate(url, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https"))
            throw new CannotStartException($"NACHLASS_URL should be an address such as http://127.0.0.1:5240, not “{url}”.");
        var data =
            Word("data")
            ?? Path.Combine(
                Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData, Environment.SpecialFolderOption.DoNotVerify),
                "nachlass"
            );
        var proxy = Word("proxy")?.ToLowerInvariant() switch
        {
            null or "no" or "false" or "0" => false,
            "yes" or "true" or "1" => true,
            var other => throw new CannotStartException($"NACHLASS_PROXY is yes or no, not “{other}”."),
        };
        var hosts = (Word("hosts") ?? "").Split([',', ';', ' '], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var settings = new Settings(
            address,
            Path.GetFullPath(data),
            Word("demo") is { } demo ? Path.GetFullPath(demo) : null,
            Word("certificate"),
            Word("certificate_key"),
            proxy,
            hosts,
            PagesAt(Word("pages"), address, proxy)
        );
        if (address.Scheme == "https" && settings.Certificate is null)
            throw new CannotStartException(
                "For https, name the certificate with NACHLASS_CERTIFICATE (and its key with NACHLASS_CERTIFICATE_KEY)."
            );
        if (settings.Certificate is { } file && !File.Exists(file))
            throw new CannotStartException($"There is no certificate {file}.");
        if (!address.IsLoopback && address.Scheme == "http" && !proxy)
            throw new CannotStartException(
                $"{address.Host} can be reached from other machines, and over http anyone on the way could read along. Use https "
                    + "with NACHLASS_CERTIFICATE, put a proxy with HTTPS in front and set NACHLASS_PROXY=yes, or listen on "
                    + $"http://127.0.0.1:{address.Port}."
            );
        if ((settings.IsEveryAddress || proxy) && hosts.Length == 0)
            throw new CannotStartException("Say by which names others reach Nachlass with NACHLASS_HOSTS, such as desk.example.");
        if (settings.Pages is { Scheme: "https" } && settings.Certificate is null)
            throw new CannotStartException("For pages over https, name the certificate with NACHLASS_CERTIFICATE.");
        return settings;

        string? Word(string name) => configuration[name] is { Length: > 0 } word ? word : null;
    }

    /// <summary>How far above the app's own port that of the pages lies when nothing is said; below it where there is none so
    /// high.</summary>
    private const int PagesAbove = 10;

    /// <summary>Where pages are served: on this machine alone, unless its writer says where else.</summary>
    private static Uri? PagesAt(string? said, Uri app, bool proxy)
    {
        if (said?.ToLowerInvariant() is "off" or "no")
            return null;
        if (said is null)
        {
            var above = app.Port + PagesAbove;
            return new Uri($"http://127.0.0.1:{(app.Port == 0 ? 0 : above > IPEndPoint.MaxPort ? app.Port - PagesAbove : above)}");
        }
        if (!Uri.TryCreate(said, UriKind.Absolute, out var at) || at.Scheme is not ("http" or "https"))
            throw new CannotStartException($"NACHLASS_PAGES is an address such as http://127.0.0.1:5250, or off, not “{said}”.");
        if (at.Port == app.Port && at.Port != 0)
            throw new CannotStartException("Pages are served apart from the desk: give NACHLASS_PAGES another port than NACHLASS_URL.");
        if (!at.IsLoopback && at.Scheme == "http" && !proxy)
            throw new CannotStartException(
                $"Passphrases of pages would go to {at.Host} over http, where anyone on the way could read along. Use https with "
                    + "NACHLASS_CERTIFICATE, or put a proxy with HTTPS in front and set NACHLASS_PROXY=yes."
            );
        return at;
    }
}

/// <summary>The program can't start; the message says in one line why.</summary>
internal sealed class CannotStartException(string message) : Exception(message);
