using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.Json.Nodes;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Catalogue.Figures;
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
        LongestReason = 300,
        MostFigures = 20;

    // A redirect could lead to another host, and no other host is ever called.
    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = TimeSpan.FromSeconds(30),
        MaxResponseContentBufferSize = MostAnswer,
    };

    public async Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop)
    {
        var (content, photo, trouble) = await Content(connection, secret, post, stop);
        if (trouble is not null)
            return trouble;
        var properties = new JsonObject { ["content"] = new JsonArray(content), ["uid"] = new JsonArray(post.Key) };
        if (photo is not null)
            properties["photo"] = new JsonArray(photo);
        if (post.Title.Length > 0)
            properties["name"] = new JsonArray(post.Title);
        if (post.ReplyTo.Length > 0)
            properties["in-reply-to"] = new JsonArray(post.ReplyTo);
        var (answer, said) = await Say(
            connection,
            secret,
            new JsonObject { ["type"] = new JsonArray("h-entry"), ["properties"] = properties },
            stop
        );
        if (answer is null)
            return said!;
        using (answer)
            return answer.StatusCode is HttpStatusCode.Created or HttpStatusCode.Accepted && answer.Headers.Location is { } at
                ? new Outcome.Taken(new Uri(new Uri(connection.Address), at).ToString())
                : await Trouble(answer, stop);
    }

    /// <summary>Puts a text in the place of the one that is there (3.4).</summary>
    public async Task<Outcome?> PutRight(Connection connection, string secret, string address, Post post, CancellationToken stop)
    {
        var (content, _, trouble) = await Content(connection, secret, post, stop);
        if (trouble is not null)
            return trouble;
        var (answer, said) = await Say(
            connection,
            secret,
            new JsonObject
            {
                ["action"] = "update",
                ["url"] = address,
                ["replace"] = new JsonObject { ["content"] = new JsonArray(content) },
            },
            stop
        );
        if (answer is null)
            return said;
        using (answer)
            return answer.IsSuccessStatusCode ? new Outcome.Taken(address) : await Trouble(answer, stop);
    }

    /// <summary>Asks what became of a post, where the endpoint says that it can be asked (<c>q=figures</c>, an extension of ours that
    /// docs/catalogue.md describes).</summary>
    public async Task<FiguresTold> Figures(Connection connection, string secret, string address, CancellationToken stop)
    {
        try
        {
            using var asking = Asking(HttpMethod.Get, With(connection.Address, "q=config"), secret);
            using var config = await http.SendAsync(asking, stop);
            if (!config.IsSuccessStatusCode)
                return new FiguresTold(null, $"It answers {(int)config.StatusCode}.");
            var known = JsonNode.Parse(await config.Content.ReadAsStringAsync(stop));
            if (known is not JsonObject || known["q"] is not JsonArray queries || !queries.Any(q => q?.ToString() == "figures"))
                return new FiguresTold(null, "This outlet tells no figures. Type those you know.");
            using var request = Asking(HttpMethod.Get, With(connection.Address, "q=figures&url=" + Uri.EscapeDataString(address)), secret);
            using var answer = await http.SendAsync(request, stop);
            if (!answer.IsSuccessStatusCode)
                return new FiguresTold(
                    null,
                    await Reason(answer, stop),
                    answer.StatusCode is HttpStatusCode.BadRequest or HttpStatusCode.NotFound
                );
            var figures = new Dictionary<string, int>();
            if (JsonNode.Parse(await answer.Content.ReadAsStringAsync(stop)) is JsonObject all && all["figures"] is JsonObject told)
                foreach (var (name, value) in told.Take(MostFigures))
                    if (
                        value is JsonValue number
                        && number.TryGetValue<int>(out var total)
                        && total is >= 0 and <= ReleaseFigures.Most
                        && ReleaseFigures.IsName(name)
                    )
                        figures[ReleaseFigures.CheckedName(name)] = total;
            return figures.Count > 0 ? new FiguresTold(figures, "") : new FiguresTold(null, "What it says of the figures can't be read.");
        }
        catch (Exception error) when (error is JsonException or InvalidOperationException)
        {
            return new FiguresTold(null, "What it says of the figures can't be read.");
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return new FiguresTold(null, "It can't be reached.");
        }
    }

    /// <summary>What a post says: what has a title is an article and goes as HTML, its pictures first; a post goes as the words it is,
    /// its own picture beside them (microformats2, <c>u-photo</c>, with what it shows).</summary>
    private async Task<(JsonNode Content, JsonNode? Photo, Outcome? Trouble)> Content(
        Connection connection,
        string secret,
        Post post,
        CancellationToken stop
    )
    {
        var isTitled = post.Title.Length > 0;
        var (pictures, trouble) = await SendPictures(
            connection,
            secret,
            post,
            [
                .. isTitled ? PicturesInText.In(post.Text).Select(p => p.Address) : [],
                .. post.Shows is null ? Array.Empty<string>() : [Post.OwnPicture],
            ],
            stop
        );
        if (trouble is null && post.Shows is not null && !pictures.ContainsKey(Post.OwnPicture))
            trouble = new Outcome.Refused("It takes no pictures. Take it out here, and send it without its picture.");
        if (trouble is not null)
            return ("", null, trouble);
        if (!isTitled)
            return (
                JsonValue.Create(post.Text),
                post.Shows is null ? null : new JsonObject { ["value"] = pictures[Post.OwnPicture], ["alt"] = post.Shows },
                null
            );
        var html = PieceFile.Fragment(
            post.Whole,
            address => pictures.ContainsKey(address) ? post.Picture(address) : null,
            (address, _) => pictures[address]
        );
        return (new JsonObject { ["html"] = html }, null, null);
    }

    public ShownPart Shown(Connection connection, Post post, Func<string, string> at)
    {
        if (post.Title.Length > 0)
            return new ShownPart("", post.Title, PieceFile.Fragment(post.Whole, post.Picture, (address, _) => at(address)), "");
        var picture = post.Shows is null
            ? ""
            : PieceFile.Fragment(Post.Image(post.Shows, Post.OwnPicture), post.Picture, (address, _) => at(address));
        return new ShownPart("", "", picture, post.Text);
    }

    /// <summary>Says something to the endpoint.</summary>
    /// <returns>Its answer, or what became of it where there was none.</returns>
    private async Task<(HttpResponseMessage? Answer, Outcome? Instead)> Say(
        Connection connection,
        string secret,
        JsonObject what,
        CancellationToken stop
    )
    {
        using var request = Asking(HttpMethod.Post, connection.Address, secret);
        request.Content = new StringContent(what.ToJsonString(), new MediaTypeHeaderValue("application/json"));
        try
        {
            return (await http.SendAsync(request, stop), null);
        }
        catch (HttpRequestException error)
            when (error.HttpRequestError is HttpRequestError.ConnectionError or HttpRequestError.NameResolutionError)
        {
            return (null, new Outcome.Later("It can't be reached."));
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return (null, new Outcome.Unknown("It was sent, and no answer came."));
        }
    }

    private static async Task<Outcome> Trouble(HttpResponseMessage answer, CancellationToken stop) =>
        answer.StatusCode switch
        {
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

    /// <summary>Hands pictures of a post to the media endpoint (Micropub, 3.6), one of each; where there is none, they go as what they
    /// are called.</summary>
    /// <returns>Where each lies by its address in the text, or why the post can't go yet. A picture that is sent twice is a picture too
    /// many there, and no post.</returns>
    private async Task<(Dictionary<string, string> Pictures, Outcome? Trouble)> SendPictures(
        Connection connection,
        string secret,
        Post post,
        IReadOnlyList<string> addresses,
        CancellationToken stop
    )
    {
        var sent = new Dictionary<string, string>();
        var used = addresses.Distinct().Where(a => post.Picture(a) is not null).ToList();
        if (used.Count == 0)
            return (sent, null);
        try
        {
            using var asking = Asking(HttpMethod.Get, With(connection.Address, "q=config"), secret);
            using var config = await http.SendAsync(asking, stop);
            if (!config.IsSuccessStatusCode)
                return (sent, config.StatusCode >= HttpStatusCode.InternalServerError ? Later() : null);
            if (
                JsonNode.Parse(await config.Content.ReadAsStringAsync(stop))?["media-endpoint"]?.ToString() is not { Length: > 0 } said
                || !Uri.TryCreate(new Uri(connection.Address), said, out var media)
                || media.Host != new Uri(connection.Address).Host
            )
                return (sent, null);
            foreach (var address in used)
            {
                var picture = post.Picture(address)!;
                using var request = Asking(HttpMethod.Post, media.ToString(), secret);
                using var file = new ByteArrayContent(picture.Content);
                file.Headers.ContentType = MediaTypeHeaderValue.Parse(picture.Type);
                request.Content = new MultipartFormDataContent
                {
                    { file, "file", $"picture-{sent.Count + 1}.{picture.Type.Split('/')[1]}" },
                };
                using var answer = await http.SendAsync(request, stop);
                if (answer.StatusCode is not (HttpStatusCode.Created or HttpStatusCode.Accepted) || answer.Headers.Location is not { } at)
                    return (
                        sent,
                        (int)answer.StatusCode is >= 500 or 429
                            ? new Outcome.Later($"It takes no pictures for now ({(int)answer.StatusCode}).", After(answer))
                            : new Outcome.Refused($"It does not take a picture: {await Reason(answer, stop)}")
                    );
                sent[address] = new Uri(media, at).ToString();
            }
            return (sent, null);
        }
        catch (JsonException)
        {
            return (sent, null);
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            return (sent, Later());
        }

        static Outcome Later() => new Outcome.Later("It can't be reached.");
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
