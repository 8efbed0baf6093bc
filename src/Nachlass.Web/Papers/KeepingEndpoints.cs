using Nachlass.Store.Papers;

namespace Nachlass.Web.Papers;

/// <summary>Where copies go, and at what time of the day.</summary>
public sealed record BackupRequest(string? Folder, string? At);

public sealed record MirrorRequest(string? Folder);

/// <summary>Copies of the papers, their mirror, and the log of the work.</summary>
internal static class KeepingEndpoints
{
    public static void MapKeeping(this RouteGroupBuilder api)
    {
        api.MapGet("/copies", (Backups backups) => TypedResults.Ok(backups.State));
        api.MapPut("/copies", (BackupRequest chosen, Backups backups) => TypedResults.Ok(backups.Choose(chosen.Folder, chosen.At)));
        api.MapPost("/copies", (Backups backups) => TypedResults.Ok(backups.Make()));
        api.MapPost("/copies/{name}/restore", (string name, Backups backups) => TypedResults.Ok(backups.PutBack(name)));
        api.MapGet("/mirror", (Mirror mirror) => TypedResults.Ok(mirror.State));
        api.MapPut("/mirror", (MirrorRequest chosen, Mirror mirror) => TypedResults.Ok(mirror.Choose(chosen.Folder)));
        api.MapGet("/work-log", (WorkLogStore log, DateOnly? from = null, DateOnly? to = null) => TypedResults.Ok(log.Between(from, to)));
    }
}
