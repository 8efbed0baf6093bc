using System.Text.Json;
using Dapper;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas.Service;

/// <summary>The service of ideas as it is set.</summary>
/// <param name="Service">Null while none is.</param>
/// <param name="HasKey">Whether a key to it is kept.</param>
/// <param name="Use">What was asked of any service so far.</param>
public sealed record ServiceStands(IdeaService? Service, bool HasKey, ServiceUse Use);

/// <summary>A request to a service, in the list of all.</summary>
/// <param name="Model">Empty where it has none.</param>
/// <param name="Ideas">How many ideas came of it.</param>
/// <param name="Tokens">What it took: as the service counted, else roughly by its characters.</param>
/// <param name="IsCounted">Whether the service counted.</param>
/// <param name="Seconds">How long it took; null where it was not brought to an end.</param>
/// <param name="Problem">Why it ended early, in a sentence; empty where it did not.</param>
public sealed record ServiceRequest(
    int Number,
    DateTimeOffset At,
    string Address,
    string Model,
    int Ideas,
    int Tokens,
    bool IsCounted,
    double? Seconds,
    string Problem
);

/// <summary>A request with what was sent and what came, to the letter.</summary>
public sealed record ServiceRequestWhole(ServiceRequest Request, string Sent, string Came);

/// <summary>How a request ended.</summary>
/// <param name="Tokens">As the service counted; null where it did not.</param>
public sealed record ServiceEnded(string Came, int Ideas, int? Tokens, double Seconds, string Problem);

/// <summary>Keeps which service makes ideas, and the log of what was asked of it. It belongs to this machine: it is no part of what is
/// undone or goes out.</summary>
public sealed class ServiceStore(PapersFile papers, SettingStore settings)
{
    /// <summary>Requests of which it is kept what was sent and what came; of older ones only how much there was.</summary>
    private const int KeptWhole = 200;

    private const string Columns =
        "number AS Number, at AS At, address AS Address, model AS Model, ideas AS Ideas, tokens AS Tokens, counted AS IsCounted, "
        + "seconds AS Seconds, problem AS Problem";

    private readonly Lock gate = new();

    private sealed record Kept(IdeaService Service, string Key);

    private Kept? Now => settings.Get(SettingStore.IdeaService) is { } json ? JsonSerializer.Deserialize<Kept>(json) : null;

    public ServiceStands Get() => new(Now?.Service, Now?.Key is { Length: > 0 }, Use());

    /// <summary>The key to it, encrypted.</summary>
    public string Key => Now?.Key ?? "";

    /// <summary>Sets it. The limits and the address are checked before.</summary>
    /// <param name="key">Encrypted; null to keep the one there is.</param>
    public void Set(IdeaService service, string? key) =>
        settings.Set(SettingStore.IdeaService, JsonSerializer.Serialize(new Kept(service, key ?? Key)));

    /// <summary>Forgets it, and the key to it. The log stays.</summary>
    public void Part() => settings.Set(SettingStore.IdeaService, null);

    private ServiceUse Use()
    {
        var day = papers.Time.GetLocalNow();
        var midnight = day.Date;
        return papers.Read(db => new ServiceUse(
            db.ExecuteScalar<int>("SELECT count(*) FROM idea_request WHERE at >= @from", new { from = Instant(midnight) }),
            db.ExecuteScalar<long>(
                "SELECT coalesce(sum(tokens), 0) FROM idea_request WHERE at >= @from",
                new { from = Instant(new DateTime(midnight.Year, midnight.Month, 1, 0, 0, 0, DateTimeKind.Unspecified)) }
            )
        ));
    }

    private DateTimeOffset Instant(DateTime local) => new(local, papers.Time.LocalTimeZone.GetUtcOffset(local));

    /// <summary>Notes a request before it is sent, so that it counts also when nothing ever comes.</summary>
    /// <param name="tokens">What it takes at most; put right when it has ended.</param>
    /// <exception cref="ClashException">The limits leave no room for it.</exception>
    public int Begin(IdeaService service, string sent, int tokens)
    {
        lock (gate)
        {
            if (Use().Hinders(service.Limits, tokens) is { } hinders)
                throw new ClashException(hinders);
            return papers.Alone(db =>
            {
                db.Execute(
                    "UPDATE idea_request SET sent = '', came = '' WHERE sent <> '' AND number <= "
                        + "(SELECT max(number) FROM idea_request) - @KeptWhole",
                    new { KeptWhole }
                );
                return db.ExecuteScalar<int>(
                    "INSERT INTO idea_request (at, address, model, sent, tokens) VALUES (@at, @Address, @Model, @sent, @tokens) "
                        + "RETURNING number",
                    new
                    {
                        at = papers.Time.GetUtcNow(),
                        service.Address,
                        service.Model,
                        sent,
                        tokens,
                    }
                );
            });
        }
    }

    /// <summary>Notes how a request ended.</summary>
    public void End(int number, ServiceEnded ended) =>
        papers.Alone(db =>
            db.Execute(
                """
                UPDATE idea_request SET came = @Came, ideas = @Ideas, seconds = @Seconds, problem = @Problem, counted = @Tokens IS NOT NULL,
                    tokens = coalesce(@Tokens, @roughly + (length(sent) + 3) / 4) WHERE number = @number
                """,
                new
                {
                    number,
                    ended.Came,
                    ended.Ideas,
                    ended.Seconds,
                    ended.Problem,
                    ended.Tokens,
                    roughly = ServiceUse.Tokens(ended.Came.Length),
                }
            )
        );

    /// <summary>The log, the newest first.</summary>
    public IReadOnlyList<ServiceRequest> Log() =>
        papers.Read(db =>
            db.Query<Row>($"SELECT {Columns} FROM idea_request ORDER BY number DESC LIMIT 100").Select(r => r.Whole).ToList()
        );

    /// <exception cref="NotThereException">There is no such request.</exception>
    public ServiceRequestWhole Whole(int number) =>
        papers.Read(db =>
        {
            var row =
                db.QuerySingleOrDefault<Row>($"SELECT {Columns}, sent, came FROM idea_request WHERE number = @number", new { number })
                ?? throw new NotThereException($"request {number}");
            return new ServiceRequestWhole(row.Whole, row.Sent, row.Came);
        });

    private sealed record Row
    {
        public int Number { get; init; }
        public DateTimeOffset At { get; init; }
        public string Address { get; init; } = "";
        public string Model { get; init; } = "";
        public int Ideas { get; init; }
        public int Tokens { get; init; }
        public bool IsCounted { get; init; }
        public double? Seconds { get; init; }
        public string Problem { get; init; } = "";
        public string Sent { get; init; } = "";
        public string Came { get; init; } = "";

        public ServiceRequest Whole => new(Number, At, Address, Model, Ideas, Tokens, IsCounted, Seconds, Problem);
    }
}
