using System.Net;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using MimeKit;
using MimeKit.Text;
using MimeKit.Utils;
using Nachlass.Core.Text;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Catalogue.Letters;

/// <summary>A letter to many, before it is addressed.</summary>
/// <param name="Title">Its subject.</param>
/// <param name="Markdown">Its text, without the title.</param>
/// <param name="Language">Of its text, as a BCP 47 tag.</param>
/// <param name="From">The address it comes from.</param>
/// <param name="FromName">Whom it comes from.</param>
/// <param name="OnTheWeb">Where it can be read on the web; null for nowhere.</param>
/// <param name="Picture">Finds a picture by its address in the text; null when it is none of these papers.</param>
public sealed record Letter(
    string Title,
    string Markdown,
    string Language,
    string From,
    string FromName,
    Uri? OnTheWeb,
    Func<string, Picture?> Picture
);

/// <summary>Writes letters as mail (RFC 5322) with a text and an HTML part (RFC 2046, 5.1.4).</summary>
public static partial class LetterFile
{
    /// <summary>Its pictures are as wide as its text.</summary>
    private const string Style = "max-width:36rem;margin:0 auto;padding:0 16px;font:17px/1.6 Georgia,'Times New Roman',serif;color:#1b2421";

    public const string OnTheWebWords = "Read it on the web",
        LeavingWords = "Get no more of these letters";

    private const string Small = "font-size:13px;line-height:1.5;color:#54605a";

    /// <summary>The letter to a reader, whom it tells how to leave: in its last line, and in its head for the mail program
    /// (List-Unsubscribe, RFC 2369; in one click, RFC 8058).</summary>
    /// <param name="id">Its Message-ID: the same letter to the same reader has the same.</param>
    /// <param name="at">When it is sent.</param>
    /// <param name="leave">Where the reader leaves; null for a letter to somebody on no list.</param>
    public static MimeMessage To(Letter letter, string address, string name, string id, DateTimeOffset at, Uri? leave)
    {
        var message = new MimeMessage
        {
            MessageId = $"{id}@{Domain(letter.From)}",
            Date = at,
            Subject = letter.Title,
        };
        message.From.Add(new MailboxAddress(letter.FromName, letter.From));
        message.To.Add(new MailboxAddress(name, address));
        if (leave is not null)
        {
            message.Headers.Add(HeaderId.ListId, $"<letters.{Domain(letter.From)}>");
            message.Headers.Add(HeaderId.ListUnsubscribe, $"<{leave}>");
            message.Headers.Add(HeaderId.ListUnsubscribePost, "List-Unsubscribe=One-Click");
        }
        message.Body = new MultipartAlternative
        {
            new TextPart(TextFormat.Plain) { Text = Plain(letter, leave) },
            Html(letter, leave),
        };
        return message;
    }

    /// <summary>A link as it stands in Markdown; a picture is none.</summary>
    [GeneratedRegex(@"(?<!!)\[(?<words>[^\[\]\n]+)\]\(<?(?<to>https?://[^\s<>()]+)>?(?:\s+""[^""\n]*"")?\)")]
    private static partial Regex Link();

    /// <summary>What reads text alone follows no link: its address stands behind its words.</summary>
    private static string WithAddress(Match link) =>
        link.Groups["words"].Value == link.Groups["to"].Value
            ? link.Groups["to"].Value
            : $"{link.Groups["words"].Value} ({link.Groups["to"].Value})";

    private static string Domain(string address) => address[(address.LastIndexOf('@') + 1)..];

    private static string Plain(Letter letter, Uri? leave) =>
        string.Join(
            "\n\n",
            new[]
            {
                PlainFile.Text(Link().Replace(letter.Markdown, WithAddress)).Trim(),
                "-- \n"
                    + string.Join(
                        "\n",
                        new[]
                        {
                            letter.OnTheWeb is { } web ? $"On the web: {web}" : "",
                            leave is null ? "" : $"To get no more of these letters: {leave}",
                        }.Where(line => line.Length > 0)
                    ),
            }.Where(part => part != "-- \n")
        ) + "\n";

    private static MultipartRelated Html(Letter letter, Uri? leave)
    {
        var body = new HtmlParser().ParseDocument(Reading.HtmlForOutside(letter.Markdown)).Body!;
        FinishedPage.Caption(body, letter.Picture);
        var pictures = new Dictionary<string, MimePart>();
        foreach (var image in body.QuerySelectorAll("img").ToList())
        {
            image.RemoveAttribute("srcset");
            if (image.GetAttribute("src") is not { } at || letter.Picture(at) is not { } found)
            {
                image.Replace(body.Owner!.CreateTextNode(image.GetAttribute("alt") is { Length: > 0 } said ? $"[{said}]" : ""));
                continue;
            }
            if (!pictures.TryGetValue(at, out var part))
                pictures[at] = part = new MimePart(ContentType.Parse(found.Type))
                {
                    Content = new MimeContent(new MemoryStream(found.Content)),
                    ContentId = MimeUtils.GenerateMessageId(),
                    ContentDisposition = new ContentDisposition(ContentDisposition.Inline),
                    ContentTransferEncoding = ContentEncoding.Base64,
                };
            image.SetAttribute("src", $"cid:{part.ContentId}");
            image.SetAttribute("style", "max-width:100%;height:auto");
        }
        // A part of a letter that is jumped to is found in few mail programs; its words stay.
        foreach (var link in body.QuerySelectorAll("a[href^='/']"))
            link.RemoveAttribute("href");
        var foot = string.Join(
            " · ",
            new[]
            {
                letter.OnTheWeb is { } web
                    ? $"<a href=\"{WebUtility.HtmlEncode(web.ToString())}\" style=\"color:#2450b8\">{OnTheWebWords}</a>"
                    : "",
                leave is null ? "" : $"<a href=\"{WebUtility.HtmlEncode(leave.ToString())}\" style=\"color:#2450b8\">{LeavingWords}</a>",
            }.Where(link => link.Length > 0)
        );
        var html = $"""
            <!doctype html>
            <html lang="{WebUtility.HtmlEncode(letter.Language)}">
            <head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{WebUtility.HtmlEncode(letter.Title)}</title></head>
            <body style="margin:0;padding:24px 0;background:#ffffff">
            <div style="{Style}">
            <h1 style="font-size:27px;line-height:1.2">{WebUtility.HtmlEncode(letter.Title)}</h1>
            {body.InnerHtml.Trim()}
            {(
                foot.Length > 0
                    ? $"<hr style=\"border:0;border-top:1px solid #c3ccc5;margin:32px 0 12px\"><p lang=\"en\" style=\"{Small}\">{foot}</p>"
                    : ""
            )}
            </div>
            </body>
            </html>

            """;
        var related = new MultipartRelated { new TextPart(TextFormat.Html) { Text = html } };
        foreach (var part in pictures.Values)
            related.Add(part);
        return related;
    }
}
