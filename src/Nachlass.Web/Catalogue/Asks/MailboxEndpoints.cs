using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Asks;

/// <summary>A mailbox that is to be watched.</summary>
/// <param name="Secret">Its password; left out, the one that is kept stays.</param>
/// <param name="Folder">The folder; the inbox when left out.</param>
/// <param name="Since">The first day whose mails are taken in; thirty days ago when left out.</param>
/// <param name="Trusts">SHA-256 of a certificate that is to be believed although nobody vouches for it.</param>
public sealed record MailboxRequest(
    string? Address,
    string? User,
    string? Secret = null,
    string? Folder = null,
    DateOnly? Since = null,
    string? Trusts = null
);

/// <summary>The mailbox that is watched.</summary>
/// <param name="Stands">Null while none is.</param>
public sealed record MailboxNow(MailboxStands? Stands);

/// <summary>Watching the mailbox into which readers write.</summary>
internal static class MailboxEndpoints
{
    public static void MapMailbox(this RouteGroupBuilder api)
    {
        api.MapGet("/mailbox", (MailboxStore mailbox) => TypedResults.Ok(new MailboxNow(mailbox.Get())));
        api.MapPut("/mailbox", Watch);
        api.MapDelete(
            "/mailbox",
            (MailboxStore mailbox) =>
            {
                mailbox.Part();
                return TypedResults.NoContent();
            }
        );
        api.MapPost("/mailbox/look", Look);
    }

    private static Ok<MailboxNow> Watch(MailboxRequest asked, MailboxStore mailbox, Secrets secrets, PapersFile papers)
    {
        var address = WatchedMailbox.CheckedAddress(asked.Address);
        var user = Check.Text("user", asked.User?.Trim(), WatchedMailbox.LongestUser);
        var secret = asked.Secret is null ? null : Check.Length("secret", asked.Secret, Connection.LongestSecret);
        var folder = Check.Length("folder", asked.Folder?.Trim(), WatchedMailbox.LongestFolder);
        var since = asked.Since ?? papers.Today.AddDays(-WatchedMailbox.UsualDays);
        if (!Check.IsDay(since) || since > papers.Today)
            throw new BadInputException("since", "The first day whose mails come in is not after today.");
        // What was given to one place is told to no other.
        var before = mailbox.Get()?.Box;
        if (string.IsNullOrEmpty(secret) && (before is null || before.Address != address || before.User != user))
            throw new BadInputException("secret", "A mailbox wants a password.");
        mailbox.Watch(
            new WatchedMailbox(
                address,
                user,
                folder.Length == 0 ? WatchedMailbox.Inbox : folder,
                since,
                Check.Length("trusts", asked.Trusts?.Trim().ToLowerInvariant(), WatchedMailbox.LongestTrusts)
            ),
            string.IsNullOrEmpty(secret) ? null : secrets.Close(secret)
        );
        return TypedResults.Ok(new MailboxNow(mailbox.Get()));
    }

    private static async Task<Ok<MailboxLooked>> Look(MailboxStore mailbox, MailboxWatch watch, CancellationToken stop)
    {
        var looked = await watch.Look(stop);
        if (
            MailboxWatch.IsOfCertificate(looked.Problem)
            && mailbox.Get() is { Box: var box }
            && await MailboxWatch.Certificate(box, stop) is { } shown
        )
            looked = looked with { Certificate = shown.Hash, CertificateOf = shown.Name };
        return TypedResults.Ok(looked);
    }
}
