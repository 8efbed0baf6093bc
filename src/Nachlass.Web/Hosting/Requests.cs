using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>What every command takes from its request besides its body: the key that makes a retry harmless, and the response that says its
/// number.</summary>
public sealed class Request(HttpContext http)
{
    public const string KeyHeader = "Idempotency-Key";

    /// <summary>Says under which number a command can be taken back.</summary>
    public const string CommandHeader = "Nachlass-Command";

    /// <summary>Names the tab that asks, so that it knows its own changes again when it is told of them.</summary>
    public const string TabHeader = "Nachlass-Tab";

    /// <summary>Says what rules did in the same step, percent-encoded.</summary>
    public const string RulesHeader = "Nachlass-Rules";

    private const int LongestKey = 200;

    public static ValueTask<Request> BindAsync(HttpContext http) => ValueTask.FromResult(new Request(http));

    /// <exception cref="BadInputException">The key is empty or too long.</exception>
    public Once Once
    {
        get
        {
            if (!http.Request.Headers.TryGetValue(KeyHeader, out var keys))
                return Store.Papers.Once.Unkeyed with { By = Tab };
            var key = Check.Text(KeyHeader, keys.ToString(), LongestKey);
            return new Once(key, $"{Who} {http.Request.Method} {http.Request.Path} {http.Items[Said]}".Trim(), Tab);
        }
    }

    private static readonly object Said = new();

    /// <summary>Whose key it is, so that another program's key gives no answer of the writer's.</summary>
    private string Who => Keys.Of(http) is { } key ? $"key {key.Number}" : "";

    /// <summary>Notes what a request with a key says, so that the same key with other words is told from a retry.</summary>
    public static async Task Note(HttpContext http, RequestDelegate next)
    {
        if (http.Request.Headers.ContainsKey(KeyHeader))
        {
            // Files are told apart by their length; reading them twice would cost more than it saves.
            if (http.Request.HasJsonContentType())
            {
                http.Request.EnableBuffering();
                http.Items[Said] = Convert.ToHexStringLower(await SHA256.HashDataAsync(http.Request.Body, http.RequestAborted))[..16];
                http.Request.Body.Position = 0;
            }
            else
                http.Items[Said] = $"{http.Request.ContentLength} {http.Request.QueryString}";
        }
        await next(http);
    }

    private string? Tab => http.Request.Headers[TabHeader].ToString() is { Length: > 0 and <= LongestKey } tab ? tab : null;

    /// <summary>The version a change was based on: from <c>If-Match</c>, else from the body.</summary>
    public int? Based(int? version)
    {
        var match = http.Request.Headers.IfMatch.ToString().Trim().Trim('"');
        if (match.Length == 0)
            return version;
        return int.TryParse(match, NumberStyles.None, CultureInfo.InvariantCulture, out var read)
            ? read
            : throw new BadInputException("If-Match", "If-Match holds the version as \"3\".");
    }

    /// <summary>200 with what a command answered.</summary>
    public Ok<T> Ok<T>(Done<T> done)
    {
        Say(done.Command, done.Followed);
        return TypedResults.Ok(done.Answer);
    }

    /// <summary>201 with what a command made.</summary>
    public Created<T> Created<T>(Done<T> done, string address)
    {
        Say(done.Command, done.Followed);
        return TypedResults.Created(address, done.Answer);
    }

    /// <summary>200 with something that has a version, for <c>If-Match</c>.</summary>
    public Ok<T> Versioned<T>(T thing, int version)
    {
        http.Response.Headers.ETag = $"\"{version}\"";
        return TypedResults.Ok(thing);
    }

    private void Say(CommandNumber command, string followed)
    {
        http.Response.Headers[CommandHeader] = command.ToString();
        if (followed.Length > 0)
            http.Response.Headers[RulesHeader] = Uri.EscapeDataString(followed);
    }
}

/// <summary>A word in an address that stands for one value of an enum, in any case.</summary>
public readonly record struct Word<T>(T Value)
    where T : struct, Enum
{
    public static bool TryParse(string? text, out Word<T> word)
    {
        // “pdf-html” is PdfHtml.
        text = text?.Replace("-", "", StringComparison.Ordinal);
        var read = Enum.TryParse<T>(text, ignoreCase: true, out var value) && Enum.IsDefined(value) && !char.IsAsciiDigit(text![0]);
        word = new Word<T>(value);
        return read;
    }
}
