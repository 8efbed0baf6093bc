using System.Globalization;
using System.Text;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Pages;

namespace Nachlass.Web.Catalogue.Letters;

/// <summary>A reader without what stands in their links.</summary>
public sealed record ReaderShown(
    ReaderNumber Number,
    string Address,
    string Name,
    ReaderState State,
    DateTimeOffset AskedAt,
    DateTimeOffset? AgreedAt,
    string How,
    DateTimeOffset? LeftAt,
    string Trouble
)
{
    internal static ReaderShown Of(Reader r) =>
        new(r.Number, r.Address, r.Name, r.State, r.AskedAt, r.AgreedAt, r.How, r.LeftAt, r.Trouble);
}

/// <summary>The list of an outlet.</summary>
/// <param name="JoinAt">Where people ask for the letters; empty where nothing is sent.</param>
/// <param name="IsArchived">Whether the letters that went out can be read there, too.</param>
public sealed record ReadersShown(
    IReadOnlyList<ReaderShown> Readers,
    int Agreed,
    int Asked,
    int Left,
    string JoinAt,
    bool IsArchived = false
);

/// <summary>Whether the letters of an outlet that went out can be read on the site.</summary>
public sealed record ArchiveRequest(bool IsArchived);

/// <summary>Who gets the letters of an outlet.</summary>
internal static class ReaderEndpoints
{
    public static void MapReaders(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/outlets/{number}/readers",
            (OutletNumber number, ReaderStore readers, ConnectionStore connections, PublicSite site) =>
            {
                var list = readers.List(number);
                return TypedResults.Ok(
                    new ReadersShown(
                        [.. list.Readers.Select(ReaderShown.Of)],
                        list.Agreed,
                        list.Asked,
                        list.Left,
                        readers.NameOf(number) is null ? "" : new Uri(site.Site.Address, $"letters/{number}/").ToString(),
                        connections.Find(number) is { Kind: ConnectionKind.Mail, IsArchived: true }
                    )
                );
            }
        );
        api.MapPost(
            "/outlets/{number}/readers",
            (OutletNumber number, NewReaders made, ReaderStore readers) => TypedResults.Ok(readers.Add(number, made))
        );
        api.MapPut(
            "/outlets/{number}/archive",
            (OutletNumber number, ArchiveRequest asked, ConnectionStore connections) =>
                TypedResults.Ok(connections.Archive(number, asked.IsArchived))
        );
        api.MapGet(
                "/outlets/{number}/readers.csv",
                (OutletNumber number, ReaderStore readers) =>
                    TypedResults.File(Encoding.UTF8.GetBytes(Csv(readers.List(number))), "text/csv; charset=utf-8", "readers.csv")
            )
            .Produces<string>(200, "text/csv");
        api.MapPost(
            "/readers/{number}/leave",
            (ReaderNumber number, ReaderStore readers) =>
            {
                readers.Leave(readers.Get(number));
                return TypedResults.Ok(ReaderShown.Of(readers.Get(number)));
            }
        );
        api.MapDelete(
            "/readers/{number}",
            (ReaderNumber number, ReaderStore readers) =>
            {
                readers.Forget(number);
                return TypedResults.NoContent();
            }
        );
    }

    private static string Csv(ReaderList list) =>
        CsvTable.Write(
            ["address", "name", "state", "asked", "agreed", "how", "left"],
            list.Readers.Select(r =>
                (IReadOnlyList<string>)
                    [r.Address, r.Name, r.State.ToString().ToLowerInvariant(), Day(r.AskedAt), Day(r.AgreedAt), r.How, Day(r.LeftAt)]
            )
        );

    private static string Day(DateTimeOffset? at) => at?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "";
}
