using Microsoft.AspNetCore.RateLimiting;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Web.Catalogue.Pages;

namespace Nachlass.Web.Catalogue.Letters;

/// <summary>Where readers ask for letters, say that it was them, and leave: doors of the public site.</summary>
internal sealed class LetterDoors(ReaderStore readers, FormMarks marks)
{
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
        app.MapMethods("/letters/{outlet:int}", reading, (int outlet) => Letters(outlet, "", new LetterForm(marks.Make())));
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

    private IResult Letters(int outlet, string said, LetterForm form, int status = 200) =>
        readers.NameOf(OutletNumber.Of(Math.Max(1, outlet))) is { } name
            ? Results.Content(SiteFiles.Letters(site(), name, said, form), "text/html; charset=utf-8", statusCode: status)
            : Unknown();

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
                return Letters(outlet, thanks, new LetterForm(marks.Make()));
            case CommentDoubt.TooQuick:
                return Letters(outlet, "That was quick. Please send it once more.", new LetterForm(mark, address, name), 400);
            case CommentDoubt.TooOld:
                return Letters(
                    outlet,
                    "This page was open for long. Please send it once more.",
                    new LetterForm(marks.Make(), address, name),
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
            return Letters(outlet, error.Message, new LetterForm(mark, address, name), 400);
        }
        // Whoever is on the list already learns nothing here, and no second letter goes out for it.
        if (readers.Ask(to, address, name) is { } asked)
            Asked?.Invoke(asked);
        return Letters(outlet, thanks, new LetterForm(marks.Make()));
    }
}
