using System.Text.Json;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>Keeps which mailbox is watched. It belongs to this machine: it is no part of what is undone or goes out.</summary>
public sealed class MailboxStore(PapersFile papers, SettingStore settings)
{
    private sealed record Kept(MailboxStands Stands, WatchedMailbox.Place Place, string Secret);

    private Kept? Now => settings.Get(SettingStore.Mailbox) is { } json ? JsonSerializer.Deserialize<Kept>(json) : null;

    public MailboxStands? Get() => Now?.Stands;

    /// <summary>Its password, encrypted.</summary>
    public string Secret => Now?.Secret ?? "";

    public WatchedMailbox.Place Place => Now?.Place ?? new();

    /// <summary>Watches a mailbox.</summary>
    /// <param name="secret">Encrypted; null to keep the one there is.</param>
    public void Watch(WatchedMailbox box, string? secret)
    {
        var before = Now;
        // Another box has other numbers; so has an earlier day.
        var isSame = before?.Stands.Box is { } was && (was with { Trusts = box.Trusts }) == box;
        Set(
            new Kept(
                new MailboxStands(box, null, isSame ? before!.Stands.Came : 0),
                isSame ? before!.Place : new(),
                secret ?? before?.Secret ?? ""
            )
        );
    }

    public void Part()
    {
        settings.Set(SettingStore.Mailbox, null);
        papers.Nudge("mailbox", 0);
    }

    /// <summary>Notes what a look into it brought.</summary>
    /// <param name="of">The box that was looked into; one that is watched no more is forgotten.</param>
    public void Looked(WatchedMailbox of, WatchedMailbox.Place place, int came, string problem, bool rests)
    {
        if (Now is not { } now || now.Stands.Box != of)
            return;
        Set(
            now with
            {
                Stands = now.Stands with
                {
                    LookedAt = papers.Time.GetUtcNow(),
                    Came = now.Stands.Came + came,
                    Problem = problem,
                    Rests = rests,
                },
                Place = place,
            }
        );
    }

    private void Set(Kept kept)
    {
        settings.Set(SettingStore.Mailbox, JsonSerializer.Serialize(kept));
        papers.Nudge("mailbox", 0);
    }
}
