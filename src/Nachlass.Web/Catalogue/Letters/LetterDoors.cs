using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.AspNetCore.RateLimiting;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Letters;

/// <summary>Where readers ask for letters, say that it was them, and leave: doors of the public site.</summary>
internal sealed class LetterDoors(ReaderStore readers, LetterArchive archive, OutgoingPictures pictures, FormMarks marks)
{
    private const int MostKept = 100;
    private readonly ConcurrentDictionary<(OutletNumber, PieceNumber), (string Key, string Html)> written = new();

    private Func<Site> site = null!;

    /// <summary>Told when somebody asks for letters, so that they are asked in their mailbox whether it was them.</summary>
    public event Action<Reader>? Asked;

    public void Map(WebApplication app, Func<Site> at)
    {
        site = at;
        string[] reading = ["GET", "HEAD"];
        app.MapMethods("/leave/{token}", reading, (string token) => Leaving(token));
        app.MapPost("/leave/{token}", (HttpContext http, string token) => Leave(http, token)).DisableAntiforgery();
        app.MapMethods("/join/{token}", reading, (string token) => Joining(token));
        app.MapPost("/join/{token}", (string token) => Join(token)).DisableAntiforgery();
        app.MapMethods("/letters/{outlet:int}", reading, (HttpContext http, int outlet) => Read(http, outlet));
        app.MapMethods(
            "/letters/{outlet:int}/{piece:int}",
            reading,
            (HttpContext http, int outlet, int piece) => Letter(http, outlet, piece)
        );
        app.MapPost("/letters/{outlet:int}", (Delegate)AskForLetters).RequireRateLimiting(PublicSite.Seldom).DisableAntiforgery();
    }

    private IResult Ask(string title, string words, string press, int status = 200) =>
        Results.Content(SiteFiles.Question(site(), title, words, press), "text/html; charset=utf-8", statusCode: status);

    private IResult Unknown() =>
        Results.Content(
            SiteFiles.Notice(site() with { Address = new Uri("http://here/") }, "Nothing is here", "This link leads to no letters."),
            "text/html; charset=utf-8",
            statusCode: StatusCodes.Status404NotFound
        );

    /// <summary>A link in a letter is followed by programs, too; only a press, or a mail program's one click, leaves the list.</summary>
    private IResult Leaving(string token) =>
        readers.ByToken(token) is not { } reader ? Unknown()
        : reader.State == ReaderState.Left ? Ask("You get none of these letters", $"Nothing is sent to {reader.Address} any more.", "")
        : Ask("Leave these letters?", $"They go to {reader.Address}.", "Get no more of them");

    private IResult Leave(HttpContext http, string token)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (readers.ByToken(token) is not { } reader)
            return Unknown();
        if (reader.State != ReaderState.Left)
            readers.Leave(reader);
        return Ask("You have left", $"Nothing is sent to {reader.Address} any more.", "");
    }

    private IResult Joining(string token) =>
        readers.ByToken(token) is not { State: ReaderState.Asked or ReaderState.Agreed } reader ? Unknown()
        : reader.State == ReaderState.Agreed ? Ask("You get the letters", $"They go to {reader.Address}.", "")
        : Ask("Get these letters?", $"They will go to {reader.Address}.", "Yes, send them to me");

    private IResult Join(string token)
    {
        if (readers.ByToken(token) is not { State: ReaderState.Asked or ReaderState.Agreed } reader)
            return Unknown();
        if (reader.State == ReaderState.Asked)
            readers.Agree(reader);
        return Ask("You get the letters", $"The next one goes to {reader.Address}.", "");
    }

    /// <summary>Where the letter that a piece is can be read on the site.</summary>
    public static Uri AddressOf(Site site, OutletNumber outlet, PieceNumber piece) => new(site.Address, $"letters/{outlet}/{piece}/");

    /// <summary>Where the letters of outlets can be read, from the site's beginning, with what they are called.</summary>
    public IReadOnlyList<(string Path, string Name)> Open() => [.. archive.Open().Select(o => ($"letters/{o.Outlet}/", o.Name))];

    /// <summary>The addresses of all letters that can be read.</summary>
    public IReadOnlyList<Uri> Addresses(Site at) =>
        [.. archive.Open().SelectMany(o => (archive.List(o.Outlet) ?? []).Select(l => AddressOf(at, o.Outlet, l.Piece)))];

    /// <summary>All letters that can be read, as they are written, by their places from the site's beginning.</summary>
    public IEnumerable<(string Path, string Html)> Files(Site site)
    {
        foreach (var (outlet, name) in archive.Open())
        {
            var letters = archive.List(outlet) ?? [];
            yield return ($"letters/{outlet}/", SiteFiles.Letters(site, name, form: null, letters));
            foreach (var letter in letters)
                yield return ($"letters/{outlet}/{letter.Piece}/", Written(site, outlet, name, letter));
        }
    }

    private string Written(Site site, OutletNumber outlet, string name, ArchivedLetter letter)
    {
        var text = letter.Picture is { } own ? $"{Post.Image(own.Shows, Post.OwnPicture)}\n\n{letter.Text}" : letter.Text;
        return SiteFiles.Letter(
            site,
            name,
            AddressOf(site, outlet, letter.Piece),
            letter,
            text,
            address =>
                address == Post.OwnPicture && letter.Picture is { } picture ? pictures.Of(picture) : pictures.Of(letter.Piece, address)
        );
    }

    private IResult Letters(int outlet, LetterForm form, int status = 200) =>
        OutletNumber.Of(Math.Max(1, outlet)) is var to && readers.NameOf(to) is { } name
            ? Results.Content(SiteFiles.Letters(site(), name, form, archive.List(to)), "text/html; charset=utf-8", statusCode: status)
            : Unknown();

    private IResult Read(HttpContext http, int outlet) =>
        // Links to letters are relative to it as to a folder.
        http.Request.Path.Value!.EndsWith('/')
            ? Letters(outlet, new LetterForm(marks.Make()))
            : Results.Redirect($"/letters/{outlet}/", permanent: true);

    private IResult Letter(HttpContext http, int outlet, int piece)
    {
        if (outlet < 1 || piece < 1)
            return Unknown();
        var (to, number) = (OutletNumber.Of(outlet), PieceNumber.Of(piece));
        if (readers.NameOf(to) is not { } name || archive.Find(to, number) is not { } letter)
            return Unknown();
        if (!http.Request.Path.Value!.EndsWith('/'))
            return Results.Redirect($"/letters/{outlet}/{piece}/", permanent: true);
        // Its pictures are read and made smaller; that is done once.
        var key = Release.HashOf(
            JsonSerializer.Serialize((site().Address, site().Name, name, letter.Corrections, letter.Picture, letter.OutOn), Keyed),
            letter.Title + letter.Text
        );
        if (!written.TryGetValue((to, number), out var kept) || kept.Key != key)
        {
            if (written.Count >= MostKept)
                written.Clear();
            written[(to, number)] = kept = (key, Written(site(), to, name, letter));
        }
        http.Response.Headers.CacheControl = "public, max-age=60";
        return Results.Content(kept.Html, "text/html; charset=utf-8");
    }

    private static readonly JsonSerializerOptions Keyed = new() { IncludeFields = true };

    private async Task<IResult> AskForLetters(HttpContext http, int outlet)
    {
        var to = OutletNumber.Of(Math.Max(1, outlet));
        if (readers.NameOf(to) is null || !http.Request.HasFormContentType || await FormMarks.Read(http) is not { } form)
            return Unknown();
        string address = form["address"].ToString(),
            name = form["name"].ToString(),
            mark = form["mark"].ToString();
        const string thanks = "Look into your mailbox: a letter asks there whether it was you. Only then do they come.";
        switch (CommentRules.Doubt(form["website"], marks.Since(mark)))
        {
            case CommentDoubt.Trapped:
                return Letters(outlet, new LetterForm(marks.Make(), thanks));
            case CommentDoubt.TooQuick:
                return Letters(outlet, new LetterForm(mark, "That was quick. Please send it once more.", address, name), 400);
            case CommentDoubt.TooOld:
                return Letters(
                    outlet,
                    new LetterForm(marks.Make(), "This page was open for long. Please send it once more.", address, name),
                    400
                );
        }
        try
        {
            address = Reader.CheckedAddress("address", address);
            name = Reader.CheckedName("name", name);
        }
        catch (BadInputException error)
        {
            return Letters(outlet, new LetterForm(mark, error.Message, address, name), 400);
        }
        // Whoever is on the list already learns nothing here, and no second letter goes out for it.
        if (readers.Ask(to, address, name) is { } asked)
            Asked?.Invoke(asked);
        return Letters(outlet, new LetterForm(marks.Make(), thanks));
    }
}
