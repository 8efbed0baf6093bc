using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Catalogue;

/// <summary>Something that went out before these papers knew of it, as it was found in a feed, a mailbox, a table or a folder.</summary>
/// <param name="Title">Its title.</param>
/// <param name="Text">As Markdown, without the title; empty where it does not come along.</param>
/// <param name="On">The day it went out.</param>
/// <param name="Address">Where it can be read; empty where that is not said.</param>
public sealed record PastRelease(string Title, string Text, DateOnly On, string Address, IReadOnlyList<string> Topics)
{
    public const int MostAtOnce = 5_000;

    /// <summary>What a reader found, as a release.</summary>
    /// <param name="dayOf">The writer's calendar day of an instant.</param>
    /// <returns>The release, or why it can't be one.</returns>
    public static (PastRelease? Release, string Why) Of(Found found, Func<DateTimeOffset, DateOnly> dayOf)
    {
        switch (found)
        {
            // A message: its subject, and all of its words.
            case Found.OfSlip { Slip: { Source: { Type: SourceType.Message } message } slip }:
                return Made(
                    message.Title,
                    message.Text.Length > slip.Text.Length ? message.Text : slip.Text,
                    slip.CaughtAt,
                    "",
                    slip.Topics
                );
            // An entry of a feed.
            case Found.OfSlip { Slip: { Source: { Type: SourceType.Page, Text.Length: > 0 } page } slip }:
                return Made(page.Title, page.Text, slip.CaughtAt, page.Address, slip.Topics);
            // A row of a table: its title stands in bold before its text.
            case Found.OfSlip { Slip: var slip }:
                var (title, text) = Row(slip.Text);
                return Made(title, text, slip.CaughtAt, slip.Source?.Address ?? "", slip.Topics);
            case Found.OfSource { Source: var source }:
                return Made(source.Title, WithoutTitle(source.Text, source.Title), null, source.Address, source.Topics, source.Date);
            case Found.Unread unread:
                return (null, unread.Reason);
            default:
                return (null, "it is none that went out.");
        }

        (PastRelease?, string) Made(
            string title,
            string text,
            DateTimeOffset? at,
            string address,
            IReadOnlyList<string> topics,
            string written = ""
        )
        {
            var named = string.Join(' ', title.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
            if (named.Length == 0)
                return (null, "it has no title.");
            var on =
                at is { } instant ? dayOf(instant)
                : DateOnly.TryParse(written, System.Globalization.CultureInfo.InvariantCulture, out var day) ? day
                : (DateOnly?)null;
            if (on is not { } date || !Check.IsDay(date))
                return (null, $"“{Short(named)}” has no date that can be read.");
            return (
                new PastRelease(
                    named.Length > Piece.LongestTitle ? named[..Piece.LongestTitle] : named,
                    text.Trim(),
                    date,
                    Uri.TryCreate(address, UriKind.Absolute, out var web) && web.Scheme is "http" or "https" ? address : "",
                    topics
                ),
                ""
            );
        }
    }

    private static string Short(string title) => title.Length > 80 ? title[..80] + "…" : title;

    private static (string Title, string Text) Row(string words)
    {
        if (words.StartsWith("**", StringComparison.Ordinal) && words.IndexOf("**", 2, StringComparison.Ordinal) is > 2 and var end)
            return (words[2..end], words[(end + 2)..].Trim());
        var line = words.IndexOf('\n', StringComparison.Ordinal);
        return line < 0 ? (words, "") : (words[..line].TrimStart('#', ' '), words[(line + 1)..].Trim());
    }

    /// <summary>A text whose first line may be its title.</summary>
    private static string WithoutTitle(string text, string title)
    {
        var trimmed = text.TrimStart();
        var end = trimmed.IndexOf('\n', StringComparison.Ordinal);
        var first = (end < 0 ? trimmed : trimmed[..end]).TrimStart('#').Trim();
        return trimmed.StartsWith('#') && first == title ? (end < 0 ? "" : trimmed[end..].Trim()) : text;
    }
}
