using System.Text;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Catalogue.Pages;

/// <summary>The form in which one asks for letters.</summary>
/// <param name="Mark">When it was fetched, sealed.</param>
/// <param name="Said">What is to be said to who sent it; empty for nothing.</param>
public sealed record LetterForm(string Mark, string Said = "", string Address = "", string Name = "");

public static partial class SiteFiles
{
    private const string FromLetters = "../../",
        FromLetter = "../../../";

    /// <summary>Where one asks for the letters of an outlet, and reads those that went out.</summary>
    /// <param name="name">What they are called.</param>
    /// <param name="form">Null among files, which nobody answers for.</param>
    /// <param name="letters">Those that can be read, the latest first; null where nobody may.</param>
    public static string Letters(Site site, string name, LetterForm? form, IReadOnlyList<ArchivedLetter>? letters)
    {
        var main = new StringBuilder($"<article>\n<header><h1>{Escaped(name)}</h1>");
        if (form is not null)
            main.Append("<p class=\"summary\">Letters by mail. You leave with one press in any of them.</p>");
        main.Append("</header>\n");
        if (form is not null)
            main.Append(
                $"""
                <form method="post">
                {(form.Said.Length > 0 ? $"<p class=\"said\" role=\"status\">{Escaped(form.Said)}</p>" : "")}
                <p><label for="address">Your mail address</label>
                <input id="address" name="address" type="email" required maxlength="254" autocomplete="email" value="{Escaped(
                    form.Address
                )}"></p>
                <p><label for="name">Your name, if you like</label>
                <input id="name" name="name" maxlength="100" autocomplete="name" value="{Escaped(form.Name)}"></p>
                <p class="trap" aria-hidden="true"><label for="website">Leave this empty</label>
                <input id="website" name="website" tabindex="-1" autocomplete="off"></p>
                <input type="hidden" name="mark" value="{Escaped(form.Mark)}">
                <p><button type="submit">Send me the letters</button></p>
                </form>

                """
            );
        if (letters is { Count: > 0 })
        {
            main.Append(form is null ? "" : "<h2>Letters that went out</h2>\n").Append("<ol class=\"pages\">\n");
            foreach (var letter in letters)
            {
                var said = letter.Summary.Length > 0 ? letter.Summary : Beginning(letter.Text);
                var (language, level) = (Escaped(letter.Language), form is null ? "h2" : "h3");
                main.Append(
                    $"<li><{level} lang=\"{language}\"><a href=\"{letter.Piece}/\">{Escaped(letter.Title)}</a></{level}>\n"
                        + $"<p lang=\"{language}\">{Escaped(said)}</p>\n<p class=\"date\">{Day(letter.OutOn)}</p></li>\n"
                );
            }
            main.Append("</ol>\n");
        }
        return Whole(
            site,
            name,
            "en",
            letters is null ? Meta("robots", "noindex") : "",
            main.Append("</article>\n").ToString(),
            FromLetters
        );
    }

    /// <summary>A letter that went out, with its pictures inside.</summary>
    /// <param name="name">What the letters are called.</param>
    /// <param name="address">Where it is.</param>
    /// <param name="markdown">Its text, under its own picture.</param>
    /// <param name="picture">Finds a picture by its address in the text; null when it is none of these papers.</param>
    public static string Letter(Site site, string name, Uri address, ArchivedLetter letter, string markdown, Func<string, Picture?> picture)
    {
        var description = letter.Summary.Length > 0 ? letter.Summary : Beginning(letter.Text);
        var head = new StringBuilder()
            .Append(Meta("description", description))
            .Append($"<link rel=\"canonical\" href=\"{Escaped(address.ToString())}\">\n")
            .Append(Property("og:type", "article"))
            .Append(Property("og:title", letter.Title))
            .Append(Property("og:description", description))
            .Append(Property("og:url", address.ToString()))
            .Append(Property("og:site_name", site.Name));
        var main = new StringBuilder(
            $"<article>\n<header>\n<h1>{Escaped(letter.Title)}</h1>\n<p class=\"date\" lang=\"en\">{Day(letter.OutOn)} · "
                + $"<a href=\"../\">{Escaped(name)}</a></p>\n</header>\n"
        )
            .Append(PieceFile.Fragment(markdown, picture).Trim())
            .Append('\n');
        foreach (var correction in letter.Corrections)
            main.Append($"<p class=\"date\">{Day(correction.At)}: {Escaped(correction.Note)}</p>\n");
        return Whole(site, letter.Title, letter.Language, head.ToString(), main.Append("</article>\n").ToString(), FromLetter);
    }
}
