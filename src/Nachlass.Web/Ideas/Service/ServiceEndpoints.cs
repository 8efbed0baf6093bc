using System.Diagnostics;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Service;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Ideas.Service;

/// <summary>A service of ideas that is to be set.</summary>
/// <param name="Key">Its key; left out, the one that is kept stays.</param>
/// <param name="IsOn">Whether it may be asked; not, when it is left out.</param>
internal sealed record ServiceSet(
    string? Address,
    ServiceForm? Form = null,
    string? Model = null,
    string? Key = null,
    bool? IsOn = null,
    ServiceLimits? Limits = null
);

/// <summary>What would be sent to a service, before it is.</summary>
/// <param name="To">Where it goes.</param>
/// <param name="Sends">The body, to the letter.</param>
/// <param name="Told">What a model is told first, in the chat form; else empty.</param>
/// <param name="Question">The question by itself.</param>
/// <param name="Shown">A mark of all that, to be given back when it is sent.</param>
/// <param name="Tokens">What it takes with its answer at most, roughly.</param>
/// <param name="Hinders">Why it can't be sent; null when it can.</param>
internal sealed record ServiceLook(
    string To,
    string Sends,
    string Told,
    string Question,
    string Shown,
    int Seed,
    int Tokens,
    ServiceUse Use,
    ServiceLimits Limits,
    string? Hinders
);

/// <summary>A service of ideas: setting it, looking at what it would be sent, asking it, and the log of that.</summary>
internal sealed class AskingService(ServiceStore services, QuestionStore questions, IdeaStore ideas, ServiceClient client, Secrets secrets)
{
    private (IdeaService Service, IdeaQuestion Question, string Body, string Mark, int Tokens) Prepared(IdeasWanted wanted)
    {
        if (services.Get().Service is not { IsOn: true } service)
            throw new ClashException("No service of ideas is switched on.");
        var question = questions.For(wanted);
        var body = ServiceClient.Body(service, question);
        var mark = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{service.Endpoint}\n{body}")));
        return (service, question, body, mark, ServiceUse.Tokens(body.Length) + question.Count * ServiceUse.TokensOfIdea);
    }

    /// <summary>What would be sent.</summary>
    public ServiceLook Look(IdeasWanted wanted)
    {
        var (service, question, body, mark, tokens) = Prepared(wanted);
        var use = services.Get().Use;
        return new ServiceLook(
            service.Endpoint.ToString(),
            body,
            service.Form == ServiceForm.Chat ? Exchange.Ideas.ChatForm.Told : "",
            Exchange.Ideas.QuestionFile.Write(question),
            mark,
            question.Seed,
            tokens,
            use,
            service.Limits,
            use.Hinders(service.Limits, tokens)
        );
    }

    /// <summary>Asks the service, and gives what comes of it.</summary>
    /// <param name="trouble">Told why it ended early, where it did.</param>
    /// <exception cref="ClashException">It is off, at its limits, or what would be sent is not what was shown.</exception>
    public async IAsyncEnumerable<IdeaComing> Ask(
        IdeasWanted wanted,
        Action joined,
        Action<string> trouble,
        [EnumeratorCancellation] CancellationToken stop
    )
    {
        var (service, question, body, mark, tokens) = Prepared(wanted);
        if (wanted.Shown != mark)
            throw new ClashException(
                wanted.Shown is null
                    ? "What is sent to a service is looked at first."
                    : "What would be sent is no longer what you were shown. Look at it again."
            );
        if (secrets.Open(services.Key) is not { } key)
            throw new ClashException("The key to the service can't be opened on this machine. Give it again.");
        var request = services.Begin(service, body, tokens);
        var heard = new Heard();
        var watch = Stopwatch.StartNew();
        var (given, problem) = (0, "It was stopped.");
        using var time = CancellationTokenSource.CreateLinkedTokenSource(stop);
        time.CancelAfter(TimeSpan.FromSeconds(service.Limits.Seconds));
        var coming = ideas
            .Served(
                client.Ask(service, key, question, body, heard, time.Token),
                $"It came from the service at {service.Host}, which was shown what it was made from.",
                joined,
                time.Token
            )
            .GetAsyncEnumerator(time.Token);
        try
        {
            while (true)
            {
                try
                {
                    if (!await coming.MoveNextAsync())
                    {
                        problem = "";
                        break;
                    }
                }
                catch (Exception error)
                    when (!stop.IsCancellationRequested && ServiceClient.Trouble(error, service.Limits.Seconds) is { } said)
                {
                    problem = said;
                    trouble($"The service at {service.Host}: {said}");
                    break;
                }
                given++;
                yield return coming.Current;
            }
        }
        finally
        {
            await coming.DisposeAsync();
            services.End(request, new ServiceEnded(heard.Text, given, heard.Tokens, watch.Elapsed.TotalSeconds, problem));
        }
    }
}

internal static class ServiceEndpoints
{
    public static void MapService(this RouteGroupBuilder api)
    {
        api.MapGet("/ideas/service", (ServiceStore services) => TypedResults.Ok(services.Get()));
        api.MapPut("/ideas/service", Set);
        api.MapDelete(
            "/ideas/service",
            (ServiceStore services) =>
            {
                services.Part();
                return TypedResults.NoContent();
            }
        );
        api.MapPost("/ideas/service/look", (IdeasWanted wanted, AskingService asking) => TypedResults.Ok(asking.Look(wanted)));
        api.MapGet("/ideas/service/log", (ServiceStore services) => TypedResults.Ok(services.Log()));
        api.MapGet("/ideas/service/log/{number}", (int number, ServiceStore services) => TypedResults.Ok(services.Whole(number)));
    }

    private static Ok<ServiceStands> Set(ServiceSet asked, ServiceStore services, Secrets secrets)
    {
        var before = services.Get();
        var service = new IdeaService(
            asked.Address ?? "",
            asked.Form ?? ServiceForm.Ideas,
            asked.Model ?? "",
            asked.IsOn ?? false,
            asked.Limits ?? before.Service?.Limits ?? new ServiceLimits()
        ).Checked();
        var key = Check.Length("key", asked.Key?.Trim(), IdeaService.LongestKey);
        if (!key.All(sign => sign is > ' ' and < '\x7f'))
            throw new BadInputException("key", "A key has no spaces, and only letters, digits and signs of ASCII.");
        // What was given to one place is told to no other.
        var isSame = before.Service is { } was && new Uri(was.Address).Authority == new Uri(service.Address).Authority;
        services.Set(
            service,
            asked.Key is not null ? secrets.Close(key)
                : isSame ? null
                : ""
        );
        return TypedResults.Ok(services.Get());
    }
}
