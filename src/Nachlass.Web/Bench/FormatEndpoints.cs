using System.Text;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>A format to be tried on a piece; on a made-up one when there is none.</summary>
public sealed record TryRequest(NewFormat? Format, PieceNumber? Piece = null);

/// <summary>Whether a format is put away.</summary>
public sealed record PutAwayRequest(bool Away);

/// <summary>A format as it came in a file.</summary>
public sealed record FormatFileRequest(string? Name, string? Content);

/// <summary>When a step is due as a move.</summary>
public sealed record DueRequest(DateOnly? Due = null);

/// <summary>The formats of the papers, and what pieces have of them.</summary>
internal static class FormatEndpoints
{
    public static void MapFormats(this RouteGroupBuilder api)
    {
        api.MapGet("/formats", (FormatStore formats) => TypedResults.Ok(formats.List()));
        api.MapPost(
            "/formats",
            (NewFormat format, FormatStore formats, Request request) => request.Ok(formats.Add(new Format(format), request.Once))
        );
        api.MapPost(
                "/formats/file",
                (FormatFileRequest file, FormatStore formats, Request request) => request.Ok(formats.Add(Read(file), request.Once))
            )
            .WithMetadata(new RequestSizeLimitAttribute(FormatFile.LongestFile * 2));
        api.MapPost(
            "/formats/tried",
            (TryRequest tried, FormatStore formats) =>
                TypedResults.Ok(formats.Try(tried.Format is { } format ? new Format(format) : new Format(), tried.Piece))
        );
        api.MapGet("/formats/{key}", (string key, FormatStore formats) => TypedResults.Ok(formats.Get(key)));
        api.MapPut(
            "/formats/{key}",
            (string key, FormatEdit edit, FormatStore formats, Request request) => request.Ok(formats.Edit(key, edit, request.Once))
        );
        api.MapDelete(
            "/formats/{key}",
            (string key, FormatStore formats, Request request) => request.Ok(formats.Remove(key, request.Once))
        );
        api.MapPut(
            "/formats/{key}/away",
            (string key, PutAwayRequest put, FormatStore formats, Request request) =>
                request.Ok(formats.PutAway(key, put.Away, request.Once))
        );
        api.MapGet(
            "/formats/{key}/file",
            (string key, FormatStore formats) =>
                TypedResults.File(
                    Encoding.UTF8.GetBytes(FormatFile.Write(new Format(formats.Get(key)))),
                    "application/json",
                    $"{key}.format.json"
                )
        );
        api.MapGet("/pieces/{number}/steps", (PieceNumber number, StepStore steps) => TypedResults.Ok(steps.Of(number)));
        api.MapPut(
            "/pieces/{number}/steps",
            (PieceNumber number, StepsDone done, StepStore steps, Request request) => request.Ok(steps.SetDone(number, done, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/steps",
            (PieceNumber number, StepChange made, StepStore steps, Request request) => request.Ok(steps.Add(number, made, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/steps/offered",
            (PieceNumber number, Laying laying, StepStore steps, Request request) => request.Ok(steps.Lay(number, laying, request.Once))
        );
        api.MapPatch(
            "/pieces/{number}/steps/{step}",
            (PieceNumber number, StepNumber step, StepChange change, StepStore steps, Request request) =>
                request.Ok(steps.Edit(number, step, change, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/steps/{step}",
            (PieceNumber number, StepNumber step, StepStore steps, Request request) => request.Ok(steps.Remove(number, step, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/steps/{step}/move",
            (PieceNumber number, StepNumber step, DueRequest due, StepStore steps, Request request) =>
                request.Ok(steps.MakeMove(number, step, due.Due, request.Once))
        );
        api.MapGet("/pieces/{number}/fields", (PieceNumber number, BesideStore beside) => TypedResults.Ok(beside.Fields(number)));
        api.MapPut(
            "/pieces/{number}/fields",
            (PieceNumber number, FieldsChange fields, BesideStore beside, Request request) =>
                request.Ok(beside.SetFields(number, fields, request.Once))
        );
        api.MapGet("/pieces/{number}/side-texts", (PieceNumber number, BesideStore beside) => TypedResults.Ok(beside.SideTexts(number)));
        api.MapGet(
            "/pieces/{number}/side-texts/{name}",
            (PieceNumber number, string name, BesideStore beside) => TypedResults.Ok(beside.SideText(number, name))
        );
        api.MapPut(
            "/pieces/{number}/side-texts/{name}",
            (PieceNumber number, string name, SideTextChange text, BesideStore beside, Request request) =>
                request.Ok(beside.WriteSideText(number, name, text, request.Once))
        );
        api.MapGet("/pieces/{number}/folders", (PieceNumber number, PieceFolders folders) => TypedResults.Ok(folders.Of(number)));
    }

    private static Format Read(FormatFileRequest file)
    {
        try
        {
            return FormatFile.Read(file.Name ?? "format.json", file.Content ?? "");
        }
        catch (UnreadableFileException error)
        {
            throw new BadInputException("content", error.Message);
        }
    }
}
