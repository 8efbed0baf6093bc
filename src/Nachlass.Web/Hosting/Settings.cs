namespace Nachlass.Web.Hosting;

/// <summary>Where the app listens and keeps its papers: <c>NACHLASS_URL</c> and <c>NACHLASS_DATA</c>, or <c>--url</c> and <c>--data</c>.</summary>
/// <param name="Url">Address to listen on, loopback only.</param>
/// <param name="Data">Folder of the papers.</param>
/// <param name="Demo">Folder of demo papers to begin with; the data folder is then renewed on each start.</param>
internal sealed record Settings(Uri Url, string Data, string? Demo)
{
    public static Settings From(IConfiguration configuration)
    {
        var url = configuration["url"] is { Length: > 0 } given ? given : "http://127.0.0.1:5240";
        if (!Uri.TryCreate(url, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https"))
            throw new CannotStartException($"NACHLASS_URL should be an address such as http://127.0.0.1:5240, not “{url}”.");
        if (!address.IsLoopback)
            throw new CannotStartException($"Nachlass listens on this machine only; {address.Host} can be reached from others. Use http://127.0.0.1:{address.Port}.");
        var data = configuration["data"] is { Length: > 0 } folder ? folder
            : Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData, Environment.SpecialFolderOption.DoNotVerify), "nachlass");
        return new Settings(address, Path.GetFullPath(data), configuration["demo"] is { Length: > 0 } demo ? Path.GetFullPath(demo) : null);
    }
}

/// <summary>The program can't start; the message says in one line why.</summary>
internal sealed class CannotStartException(string message) : Exception(message);
