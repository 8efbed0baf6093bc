using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>A mailbox into which readers write. It is looked into, and never changed.</summary>
/// <param name="Address">As <c>imap://host:port</c>.</param>
/// <param name="User">Who signs in there.</param>
/// <param name="Folder">The folder that is looked into.</param>
/// <param name="Since">The first day whose mails are taken in.</param>
/// <param name="Trusts">SHA-256 of a certificate that is believed although nobody vouches for it; empty for none.</param>
public sealed record WatchedMailbox(string Address, string User, string Folder, DateOnly Since, string Trusts = "")
{
    public const string Inbox = "INBOX";

    public const int LongestUser = 254,
        LongestFolder = 200,
        LongestTrusts = 64;

    /// <summary>Where TLS is begun at once (RFC 8314, 3.2); elsewhere it is begun by STARTTLS (RFC 9051, 6.2.1).</summary>
    public const int SecurePort = 993,
        OpenPort = 143;

    /// <summary>How far back a mailbox is looked into when its writer says nothing.</summary>
    public const int UsualDays = 30;

    /// <summary>A mailbox's server as typed, such as <c>mail.example</c>; the port for TLS when none is said.</summary>
    /// <exception cref="BadInputException">It is none.</exception>
    public static string CheckedAddress(string? typed) => MailServer.Checked("imap", typed, SecurePort);

    /// <summary>Which mails of a box are new.</summary>
    /// <param name="Numbers">Under which numbering the last was seen (UIDVALIDITY, RFC 9051, 2.3.1.1); 0 for none.</param>
    /// <param name="Last">The number of the last that was seen; 0 for none.</param>
    public sealed record Place(uint Numbers = 0, uint Last = 0)
    {
        /// <summary>The first number that is new, where the box numbers its mails so; 1 where it has numbered them anew.</summary>
        public uint From(uint numbers) => numbers == Numbers ? Last + 1 : 1;
    }
}

/// <summary>How the watching of a mailbox stands.</summary>
/// <param name="LookedAt">When it was looked into last; null for never.</param>
/// <param name="Came">How many messages have come from it.</param>
/// <param name="Problem">What is wrong, in a sentence; empty when nothing is.</param>
/// <param name="Rests">Whether it is left alone until its writer does something, since a box that refuses a password again and again
/// closes.</param>
public sealed record MailboxStands(
    WatchedMailbox Box,
    DateTimeOffset? LookedAt = null,
    int Came = 0,
    string Problem = "",
    bool Rests = false
);
