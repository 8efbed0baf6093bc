using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Letters;

/// <summary>Asks those who want letters whether it was them, by a letter to their mailbox.</summary>
internal sealed class Joining
{
    private readonly ConnectionStore connections;
    private readonly Secrets secrets;
    private readonly Mail mail;
    private readonly PublicSite site;
    private readonly ReaderStore readers;
    private readonly ILogger<Joining> log;

    public Joining(
        PublicSite site,
        LetterDoors doors,
        ConnectionStore connections,
        Secrets secrets,
        Mail mail,
        ReaderStore readers,
        ILogger<Joining> log
    )
    {
        (this.site, this.connections, this.secrets, this.mail, this.readers, this.log) = (site, connections, secrets, mail, readers, log);
        doors.Asked += reader => _ = Task.Run(() => Ask(reader));
    }

    private async Task Ask(Reader reader)
    {
        try
        {
            if (
                connections.Find(reader.Outlet) is not { Kind: ConnectionKind.Mail } connection
                || secrets.Open(connections.Secret(reader.Outlet)) is not { } secret
            )
                return;
            var name = readers.NameOf(reader.Outlet);
            var link = new Uri(site.Site.Address, $"join/{reader.Token}");
            var words =
                $"Somebody, most likely you, asked for the letters “{name}” for this address.\n\n"
                + $"[Yes, send them to me]({link})\n\nIf it was not you, do nothing: then no letter comes.";
            var post = new Post($"join-{Guid.NewGuid():N}", $"Do you want the letters “{name}”?", words, "", default, "en", _ => null);
            if (await mail.SendTo(connection, secret, post, [reader.Address], CancellationToken.None) is { Length: > 0 } problem)
                log.LogWarning("Who asked for letters could not be asked back: {Problem}", problem);
        }
        catch (Exception error) when (error is not OutOfMemoryException)
        {
            // They can ask again.
            log.LogError(error, "Who asked for letters could not be asked back");
        }
    }
}
