using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.Json.Nodes;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>
/// Sends posts by Micropub (W3C Recommendation, 23 May 2017), in its JSON form. A post carries a <c>uid</c> of ours (microformats2
/// h-entry), by which the list of posts (extension “Query for Post List”) tells whether it is there.
/// </summary>
internal sealed class Micropub : IChannel, IDisposable
{
    private const int Looked = 50,
        MostAnswer = 4 << 20,
        LongestReason = 300;

    // A redirect could lead to another host, and no other host is ever called.
    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = TimeSpan.FromSeconds(30),
        MaxResponseContentBufferSize = MostAnswer,
    };

    public async Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop)
    {
        // What has a title is an article and goes as HTML, its pictures as what they are called; a post goes as the words it is.
        JsonNode content =
            post.Title.Length > 0 ? new JsonObject { ["html"] = PieceFile.Fragment(post.Text, _ => null) } : JsonValue.Create(post.Text);
        var properties = new JsonObject { ["content"] = new JsonArray(content), ["uid"] = new JsonArray(post.Key) };
        if (post.Title.Length > 0)
            properties["name"] = new JsonArray(post.Title);
        if (post.ReplyTo.Length > 0)
            properties["in-reply-to"] = new JsonArray(post.ReplyTo);
        var entry = new JsonObject { ["type"] = new JsonArray("h-entry"), ["properties"] = properties };
        using var request = Asking(HttpMethod.Post, connection.Address, secret);
        request.Content = new StringContent(entry.ToJsonString(), new MediaTypeHeaderValue("application/json"));
        HttpResponseMessage answer;
        try
        {
            answer = await http.SendAsync(request, stop);
        }
        catch (HttpRequestException error)
            when (error.HttpRequestError is HttpRequestError.ConnectionError or HttpRequestError.NameResolutionError)
        {
            return new Outcome.Later("It can't be reached.");
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return new Outcome.Unknown("It was sent, and no answer came.");
        }
        using (answer)
            return answer.StatusCode switch
            {
                HttpStatusCode.Created or HttpStatusCode.Accepted when answer.Headers.Location is { } at => new Outcome.Taken(
                    new Uri(new Uri(connection.Address), at).ToString()
                ),
                HttpStatusCode.TooManyRequests => new Outcome.Later("It has taken enough for now.", After(answer)),
                HttpStatusCode.ServiceUnavailable or HttpStatusCode.BadGateway or HttpStatusCode.GatewayTimeout => new Outcome.Later(
                    $"It answers {(int)answer.StatusCode}.",
                    After(answer)
                ),
                HttpStatusCode.BadRequest or HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden or HttpStatusCode.NotFound =>
                    new Outcome.Refused(await Reason(answer, stop)),
                // Anything else may have been said after it was taken.
                _ => new Outcome.Unknown($"It answers {(int)answer.StatusCode}, which says nothing of the post."),
            };
    }

    public async Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop)
    {
        try
        {
            using var request = Asking(HttpMethod.Get, With(connection.Address, $"q=source&limit={Looked}"), secret);
            using var answer = await http.SendAsync(request, stop);
            if (answer.StatusCode == HttpStatusCode.BadRequest)
                return new Outcome.CannotTell("No answer came, and this outlet does not list its posts. Look there whether it arrived.");
            if (!answer.IsSuccessStatusCode)
                return new Outcome.Later($"It answers {(int)answer.StatusCode} when it is asked whether it has the post.");
            var listed = JsonNode.Parse(await answer.Content.ReadAsStringAsync(stop));
            foreach (var item in listed?["items"]?.AsArray() ?? [])
                if (item?["properties"] is { } properties && Values(properties, "uid").Contains(post.Key))
                    return new Outcome.WasThere(Values(properties, "url").FirstOrDefault() ?? "");
            return listed?["items"] is JsonArray
                ? null
                : new Outcome.CannotTell(
                    "No answer came, and what this outlet says of its posts can't be read. Look there whether it arrived."
                );
        }
        catch (JsonException)
        {
            return new Outcome.CannotTell(
                "No answer came, and what this outlet says of its posts can't be read. Look there whether it arrived."
            );
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return new Outcome.Later("It can't be asked whether it has the post.");
        }
    }

    public async Task<string> Try(Connection connection, string secret, CancellationToken stop)
    {
        try
        {
            using var request = Asking(HttpMethod.Get, With(connection.Address, "q=config"), secret);
            using var answer = await http.SendAsync(request, stop);
            if (!answer.IsSuccessStatusCode)
                return await Reason(answer, stop);
            return JsonNode.Parse(await answer.Content.ReadAsStringAsync(stop)) is JsonObject
                ? ""
                : "It answers, but not as a Micropub endpoint does.";
        }
        catch (JsonException)
        {
            return "It answers, but not as a Micropub endpoint does.";
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return "It can't be reached.";
        }
    }

    private static HttpRequestMessage Asking(HttpMethod method, string address, string secret)
    {
        var request = new HttpRequestMessage(method, address);
        if (secret.Length > 0)
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", secret);
        request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("application/json"));
        return request;
    }

    private static string With(string address, string query) =>
        address + (address.Contains('?', StringComparison.Ordinal) ? "&" : "?") + query;

    private static IEnumerable<string> Values(JsonNode properties, string name) =>
        properties[name] is JsonArray all ? all.OfType<JsonValue>().Select(v => v.ToString()) : [];

    private static TimeSpan? After(HttpResponseMessage answer) => answer.Headers.RetryAfter?.Delta;

    /// <summary>What the endpoint says is wrong.</summary>
    private static async Task<string> Reason(HttpResponseMessage answer, CancellationToken stop)
    {
        try
        {
            var said = JsonNode.Parse(await answer.Content.ReadAsStringAsync(stop))?["error_description"]?.ToString() ?? "";
            if (said.Length > 0)
                return said.Length > LongestReason ? said[..LongestReason] + "…" : said;
        }
        catch (Exception error) when (error is JsonException or InvalidOperationException or HttpRequestException) { }
        return answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden
            ? "It does not take the token."
            : $"It answers {(int)answer.StatusCode}.";
    }

    public void Dispose() => http.Dispose();
}
