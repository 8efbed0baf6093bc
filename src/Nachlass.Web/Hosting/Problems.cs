using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>The command that stands in the way of another, and what it was about.</summary>
public sealed record InTheWayAnswer(CommandNumber Command, Reference? Thing);

/// <summary>Answers what went wrong as Problem Details (RFC 9457): the field that is wrong, or the state that is now current.</summary>
internal sealed class Problems(IProblemDetailsService service, ILogger<Problems> log) : IExceptionHandler
{
    private const string WhichDecision = "A decision is keep, start, put, hold, drop, merge or wait.",
        WhichAct = "An act is start, ready, sort, keep or drop.";

    /// <summary>What the system calls a full disk, and a full share of it (errno of Linux).</summary>
    private const int NoSpace = 28,
        OverQuota = 122;

    public async ValueTask<bool> TryHandleAsync(HttpContext http, Exception exception, CancellationToken cancel)
    {
        var problem = exception switch
        {
            BadInputException bad => Bad(bad.Field, bad.Message),
            UnreadableFileException unreadable => Bad(unreadable.File, unreadable.Message),
            BadHttpRequestException bad => FromBadRequest(bad),
            // What the JSON reader says when a decision or an act does not say which one it is.
            NotSupportedException { Message: var said } when said.Contains("Path: $", StringComparison.Ordinal) => WhichOne(
                said.Split("Path: $")[1].TrimStart('.').Split(' ')[0]
            ),
            NotThereException gone => new ProblemDetails
            {
                Status = 404,
                Title = "Not there",
                Detail = gone.Message,
            },
            StaleException stale => new ProblemDetails
            {
                Status = 409,
                Title = "Changed elsewhere",
                Detail = stale.Message,
                Extensions = { ["current"] = stale.Current },
            },
            ClashException clash => new ProblemDetails
            {
                Status = 409,
                Title = "Can't be done any more",
                Detail = clash.Message,
                Extensions = { ["inTheWay"] = clash.InTheWay is { } command ? new InTheWayAnswer(command, clash.Thing) : null },
            },
            SqliteException { SqliteErrorCode: 13 } or IOException { HResult: NoSpace or OverQuota } => new ProblemDetails
            {
                Status = 507,
                Title = "The disk is full",
                Detail = "The disk is full. Nothing was changed; make room on the disk and try again.",
            },
            PapersGoneException gone => new ProblemDetails
            {
                Status = 503,
                Title = "The papers are not there",
                Detail = gone.Message,
            },
            SqliteException { SqliteErrorCode: 11 or 26 } damaged => new ProblemDetails
            {
                Status = 503,
                Title = "The papers are damaged",
                Detail = $"Nothing more is written. Stop Nachlass and put the papers back from a copy. ({damaged.Message})",
            },
            SqliteException { SqliteErrorCode: 8 or 10 } broken => new ProblemDetails
            {
                Status = 500,
                Title = "The papers can't be written",
                Detail = $"Nothing was changed. {broken.Message}",
            },
            OperationCanceledException when http.RequestAborted.IsCancellationRequested => null,
            _ => new ProblemDetails
            {
                Status = 500,
                Title = "Something went wrong in Nachlass",
                Detail = "Nothing was changed by this request. The server's log says more.",
            },
        };
        if (problem is null)
            return true;
        if (problem.Status == 500)
            log.LogError(exception, "{Method} {Path} failed", http.Request.Method, http.Request.Path);
        http.Response.StatusCode = problem.Status!.Value;
        return await service.TryWriteAsync(
            new ProblemDetailsContext
            {
                HttpContext = http,
                ProblemDetails = problem,
                Exception = exception,
            }
        );
    }

    private static ProblemDetails FromBadRequest(BadHttpRequestException bad)
    {
        if (bad.StatusCode == 413)
            return new ProblemDetails
            {
                Status = 413,
                Title = "Too large",
                Detail = "The request is larger than this place takes. Nothing was changed.",
            };
        if (bad.InnerException is JsonException json)
        {
            // The reader names .NET types, which tell a writer nothing; the place in the request does.
            if (json.Message.Contains("discriminator", StringComparison.Ordinal))
                return WhichOne(json.Path?.TrimStart('$', '.') ?? "");
            var field = json.Path?.TrimStart('$', '.') ?? "";
            return field.Length > 0
                ? Bad(field, $"The {field} holds something it can't be.")
                : Bad("", $"The request is not readable JSON: {json.Message.Split(" Path:")[0]}");
        }
        // The framework says: Failed to bind parameter "Type name" from "what was sent".
        if (bad.Message.Split('"') is not [_, var parameter, _, var sent, ..])
            return Bad("", bad.Message);
        var name = JsonNamingPolicy.CamelCase.ConvertName(parameter.Split(' ')[^1]);
        return Bad(name, $"“{sent}” is not something that {name} can be.");
    }

    private static ProblemDetails WhichOne(string path) =>
        path.StartsWith("act", StringComparison.Ordinal) ? Bad("act", WhichAct) : Bad("decision", WhichDecision);

    private static ProblemDetails Bad(string field, string reason) =>
        new()
        {
            Status = 400,
            Title = "Something in it can't be taken",
            Detail = reason,
            Extensions =
            {
                ["field"] = field,
                ["errors"] = new Dictionary<string, string[]> { [field] = [reason] },
            },
        };
}
