using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Web.Capture;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Asks;

/// <summary>Messages sent together.</summary>
public sealed record MessagesSent(IReadOnlyList<NewMessage>? Messages);

/// <summary>How far what readers ask is read.</summary>
/// <param name="Left">Wishes that came by thousands, are asks by their words alone so far, and are still to be read closely.</param>
public sealed record AsksReading(int Left);

/// <summary>What readers wrote and ask.</summary>
internal static class AskEndpoints
{
    public static void MapAsks(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/messages",
            (
                MessageStore messages,
                string? query = null,
                string? person = null,
                ReleaseNumber? release = null,
                AskNumber? ask = null,
                bool open = false,
                int skip = 0
            ) => TypedResults.Ok(messages.List(new MessagesAsked(query, person, release, ask, open, skip)))
        );
        api.MapPost(
            "/messages",
            (MessagesSent sent, MessageStore messages, Request request) =>
                request.Ok(
                    messages.BringIn(sent.Messages ?? throw new BadInputException("messages", "There are no messages in it."), request.Once)
                )
        );
        api.MapPost("/messages/import", Import);
        api.MapPatch(
            "/messages/{number}",
            (MessageNumber number, MessageChange edit, MessageStore messages, Request request) =>
                request.Ok(messages.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapDelete(
            "/messages/{number}",
            (MessageNumber number, MessageStore messages, Request request) => request.Ok(messages.Remove(number, request.Once))
        );
        api.MapPost(
            "/hidden-words",
            (HiddenWord word, MessageStore messages, Request request) => request.Ok(messages.Hide(word, request.Once))
        );
        api.MapDelete(
            "/hidden-words/{word}",
            (string word, MessageStore messages, Request request) => request.Ok(messages.Unhide(new HiddenWord(word), request.Once))
        );
        api.MapGet("/asks", (AskStore asks, bool putAway = false) => TypedResults.Ok(asks.List(putAway)));
        api.MapGet("/asks/reading", (AskShelf shelf) => TypedResults.Ok(new AsksReading(shelf.Left)));
        api.MapGet("/asks/{number}", (AskNumber number, AskStore asks) => TypedResults.Ok(asks.Get(number)));
        api.MapPatch(
            "/asks/{number}",
            (AskNumber number, AskChange edit, AskStore asks, Request request) =>
                request.Ok(asks.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapPost(
            "/asks/{number}/join",
            (AskNumber number, AskJoined joined, AskStore asks, Request request) => request.Ok(asks.Join(number, joined, request.Once))
        );
        api.MapPost(
            "/asks/{number}/idea",
            (AskNumber number, AskStore asks, Request request) => request.Ok(asks.MakeIdea(number, request.Once))
        );
        api.MapPost(
            "/asks/{number}/piece",
            (AskNumber number, AskPieceAsked asked, AskStore asks, Request request) =>
                request.Ok(asks.MakePiece(number, asked, request.Once))
        );
        api.MapPut(
            "/wishes/{number}/place",
            (WishNumber number, WishPlace place, AskStore asks, Request request) => request.Ok(asks.Place(number, place, request.Once))
        );
    }

    /// <summary>Brings in a table (CSV, JSON) or a mailbox, whose rows and mails are messages. It is read as any strange file is, in a
    /// process of its own.</summary>
    private static async Task<Ok<MessagesIn>> Import(
        HttpContext http,
        Imports imports,
        Reader reader,
        MessageStore messages,
        PapersFile papers,
        Request request
    )
    {
        var parcel = imports.NewParcel();
        try
        {
            await ParcelIn.Read(http, parcel);
            if (parcel.Files.Count == 0)
                throw new BadInputException("files", "There is no file in it.");
            var reads = await Task.Run(() => reader.Read(parcel, new ToRead(papers.Today), stop: http.RequestAborted));
            var (found, unread) = (new List<NewMessage>(), new List<string>());
            foreach (var (file, thing) in reads.Things(parcel))
                if (Of(thing) is { } message)
                    found.Add(message);
                else
                    unread.Add($"{file.Name}{(thing.Line > 0 ? $", line {thing.Line}" : "")}: {Why(thing)}");
            if (found.Count == 0)
                throw new BadInputException(
                    "files",
                    unread.Count > 0 ? $"No message could be read. {unread[0]}" : "There is no message in it."
                );
            return request.Ok(messages.BringIn(found, request.Once, [.. unread.Take(MostUnread)]));
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    private const int MostUnread = 100;

    private static string Why(Found thing) =>
        thing is Found.Unread unread ? unread.Reason : "nobody is named as writer; a table of messages has columns from and text.";

    /// <summary>A message of what a reader found; null when it is none.</summary>
    internal static NewMessage? Of(Found thing) =>
        thing is Found.OfSlip { Slip: { Source: { Type: Core.Sources.SourceType.Message } source } slip }
            ? new NewMessage(
                source.Creators,
                slip.Text,
                slip.CaughtAt,
                source.SenderAddress,
                // As the tables of messages have it, which name the ways they came.
                source.Container == "Mail"
                    ? "mail"
                    : source.Container,
                slip.About ?? source.Title,
                slip.Reach,
                source.MessageId
            )
            : null;
}
