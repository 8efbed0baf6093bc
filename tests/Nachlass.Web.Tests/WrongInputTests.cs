using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>Whatever is sent to any operation of the API, it answers that it can't be taken and names the field; it never breaks.</summary>
public sealed class WrongInputTests : IDisposable
{
    private readonly Server server = new();
    private JsonNode document = null!;

    public void Dispose() => server.Dispose();

    private static readonly string[] Bodies = ["", "no JSON", "null", "[]", "{}", "\"text\"", "7", "{\"", "[null]", "{\"version\":\"x\"}"];

    /// <summary>What no field of any kind takes, or only some.</summary>
    private static readonly string[] Values =
    [
        "null",
        "\"\"",
        "\"x\"",
        "-1",
        "0",
        "2147483647",
        "-2147483648",
        "1e300",
        "1.5",
        "true",
        "{}",
        "[]",
        "[null]",
        "[1,1]",
        "[{}]",
        "\"0001-01-01\"",
        "\"9999-12-31\"",
        "\"\\u0000\"",
        "\"[[slip 1]]\"",
    ];

    private static readonly string[] Segments = ["0", "-1", "x", "99999", "2147483648", "%00", "0001-01-01", "9999-12-31", "%F0%9F%90%9F"];

    [Fact]
    public async Task Every_operation_answers_wrong_input_with_a_reason()
    {
        document = (await server.Get("/openapi/v1.json")).Body!;
        await Furnish();
        var broken = new List<string>();
        var asked = 0;
        // What locks the door comes last.
        var operations = document["paths"]!
            .AsObject()
            .SelectMany(path => path.Value!.AsObject().Select(op => (Path: path.Key, Method: op.Key, Operation: op.Value!)))
            .OrderBy(op => op.Path.Contains("door", StringComparison.Ordinal) || op.Path.Contains("sign", StringComparison.Ordinal))
            .ToList();
        foreach (var (path, method, operation) in operations)
        foreach (var (address, content) in Requests(path, operation))
        {
            using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), address) { Content = content };
            using var response = await server.Client.SendAsync(request, TestContext.Current.CancellationToken);
            asked++;
            var status = (int)response.StatusCode;
            if (status is >= 200 and < 300 or 304 or 401 or 302)
                continue;
            var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
            var said =
                $"{method} {address} {(content is null ? "" : await content.ReadAsStringAsync(TestContext.Current.CancellationToken))}";
            if (status >= 500)
                broken.Add($"{status}: {said[..Math.Min(300, said.Length)]}");
            else if (status == 400 && !text.Contains("\"field\":", StringComparison.Ordinal))
                broken.Add($"400 without its field: {said[..Math.Min(300, said.Length)]}");
        }
        asked.ShouldBeGreaterThan(2_000);
        broken.ShouldBeEmpty();
        (await server.Get("/api/health")).Status.ShouldBe(200);
    }

    private async Task Furnish()
    {
        await server.Catch("Ferrymen paid in bread #ferries");
        await server.Catch("“Four loaves, no coin” #bread");
        await server.Post("/api/sources", new { title = "A book", topics = (string[])["bread"] });
        await server.Post("/api/pieces", new { title = "The far bank" });
        await server.Post("/api/moves", new { text = "ask Pell" });
        await server.Post("/api/views", new { name = "Bread", query = "bread" });
    }

    private IEnumerable<(string Address, HttpContent? Content)> Requests(string path, JsonNode operation)
    {
        var parameters = operation["parameters"]?.AsArray().Select(p => p!).ToList() ?? [];
        var good = Filled(path, parameters, null, "");
        foreach (var parameter in parameters.Where(p => p["in"]!.GetValue<string>() is "path" or "query"))
        // A NUL in a path never reaches us: the web server itself says that this is no address.
        foreach (var segment in Segments.Where(s => s != "%00" || parameter["in"]!.GetValue<string>() == "query"))
            yield return (Filled(path, parameters, parameter, segment), BodyOf(operation) is { } body ? Json(body.ToJsonString()) : null);
        if (operation["requestBody"]?["content"]?["application/json"] is null)
        {
            yield return (good, null);
            yield return (
                good,
                new ByteArrayContent([0, 1, 2]) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } }
            );
            yield break;
        }
        foreach (var text in Bodies)
            yield return (good, Json(text));
        yield return (good, new StringContent("text", Encoding.UTF8, "text/plain"));
        var whole = BodyOf(operation)!;
        yield return (good, Json(whole.ToJsonString()));
        foreach (var pointer in Places(whole).ToList())
        foreach (var value in Values)
            yield return (good, Json(With(whole, pointer, value)));
    }

    private static StringContent Json(string text) => new(text, Encoding.UTF8, "application/json");

    private static string Filled(string path, IEnumerable<JsonNode> parameters, JsonNode? wrong, string segment)
    {
        var query = new List<string>();
        foreach (var parameter in parameters)
        {
            var name = parameter["name"]!.GetValue<string>();
            var value = parameter == wrong ? segment : Plausible(name);
            if (parameter["in"]!.GetValue<string>() == "path")
                path = path.Replace("{" + name + "}", value, StringComparison.Ordinal);
            else if (
                parameter["in"]!.GetValue<string>() == "query"
                && (parameter == wrong || parameter["required"]?.GetValue<bool>() == true)
            )
                query.Add($"{name}={value}");
        }
        return query.Count == 0 ? path : $"{path}?{string.Join('&', query)}";
    }

    private static string Plausible(string name) =>
        name switch
        {
            "kind" => "slip",
            "day" => "2026-11-24",
            "name" => "bread",
            _ => "1",
        };

    private JsonNode? BodyOf(JsonNode operation) =>
        operation["requestBody"]?["content"]?["application/json"]?["schema"] is { } schema ? Example(schema, 0) : null;

    private JsonNode? Example(JsonNode schema, int depth)
    {
        if (schema["$ref"] is { } reference)
            return Example(document["components"]!["schemas"]![reference.GetValue<string>().Split('/')[^1]]!, depth + 1);
        if (depth > 8)
            return null;
        foreach (var choice in (string[])["oneOf", "anyOf"])
            if (schema[choice]?.AsArray().FirstOrDefault(one => one!["type"]?.ToString() != "null") is { } one)
                return Example(one, depth + 1);
        if (schema["enum"]?.AsArray().FirstOrDefault() is { } word)
            return word.DeepClone();
        var types = schema["type"] is JsonArray several ? several.Select(t => t!.ToString()).ToList() : [schema["type"]?.ToString() ?? ""];
        if (types.Contains("object") || schema["properties"] is not null)
            return new JsonObject(
                schema["properties"]
                    ?.AsObject()
                    .Select(p => KeyValuePair.Create(p.Key, p.Value is { } value ? Example(value, depth + 1) : null))
                    ?? []
            );
        if (types.Contains("array"))
            return schema["items"] is { } items ? new JsonArray(Example(items, depth + 1)) : new JsonArray();
        return types.Contains("integer") || types.Contains("number") ? 1
            : types.Contains("boolean") ? false
            : schema["format"]?.ToString() switch
            {
                "date" => "2026-11-24",
                "date-time" => "2026-11-24T08:00:00Z",
                _ => "bread",
            };
    }

    /// <summary>Every place in a body that holds something, as the way to it.</summary>
    private static IEnumerable<IReadOnlyList<object>> Places(JsonNode? node, IReadOnlyList<object>? way = null)
    {
        way ??= [];
        if (way.Count > 0)
            yield return way;
        var children = node switch
        {
            JsonObject of => of.Select(p => ((object)p.Key, p.Value)),
            JsonArray of => of.Select((item, i) => ((object)i, item)),
            _ => [],
        };
        foreach (var (key, child) in children)
        foreach (var place in Places(child, [.. way, key]))
            yield return place;
    }

    private static string With(JsonNode whole, IReadOnlyList<object> way, string value)
    {
        var copy = whole.DeepClone();
        var at = copy;
        foreach (var key in way.SkipLast(1))
            at = key is int i ? at[i]! : at[(string)key]!;
        var put = JsonNode.Parse(value);
        if (way[^1] is int last)
            at[last] = put;
        else
            at[(string)way[^1]] = put;
        return copy.ToJsonString(new JsonSerializerOptions());
    }
}
