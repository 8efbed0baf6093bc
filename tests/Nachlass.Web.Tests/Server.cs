using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Nachlass.Web.Tests;

/// <summary>The whole program on a real port and a real file, in a folder of its own.</summary>
public sealed class Server : WebApplicationFactory<Program>
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-web-").FullName;

    /// <summary>Papers with nothing in them, made once: bringing a file up to date takes longer than most tests.</summary>
    private static readonly Lazy<string> Empty = new(() =>
    {
        var made = Directory.CreateTempSubdirectory("nachlass-empty-").FullName;
        Store.Papers.PapersFile.Open(made, TimeProvider.System).Dispose();
        return Path.Combine(made, Store.Papers.PapersFile.FileName);
    });

    public Server()
    {
        File.Copy(Empty.Value, Path.Combine(folder, Store.Papers.PapersFile.FileName));
        UseKestrel();
        StartServer();
        Client = CreateClient();
    }

    public HttpClient Client { get; }

    /// <summary>The folder of its papers.</summary>
    public string Folder => folder;

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("data", folder);
        builder.UseSetting("url", "http://127.0.0.1:0");
    }

    public async Task<(int Status, JsonNode? Body, HttpResponseMessage Response)> Send(
        HttpMethod method,
        string address,
        object? body = null,
        params (string Name, string Value)[] headers
    )
    {
        using var request = new HttpRequestMessage(method, address);
        if (body is HttpContent content)
            request.Content = content;
        else if (body is not null)
            request.Content = JsonContent.Create(body);
        // So that a refusal is read before megabytes are sent against it.
        request.Headers.ExpectContinue = request.Content is StringContent;
        foreach (var (name, value) in headers)
            request.Headers.TryAddWithoutValidation(name, value);
        var response = await Client.SendAsync(request, TestContext.Current.CancellationToken);
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        JsonNode? json = null;
        try
        {
            json = text.Length == 0 ? null : JsonNode.Parse(text);
        }
        catch (JsonException)
        {
            json = JsonValue.Create(text);
        }
        return ((int)response.StatusCode, json, response);
    }

    public Task<(int Status, JsonNode? Body, HttpResponseMessage Response)> Get(string address) => Send(HttpMethod.Get, address);

    public Task<(int Status, JsonNode? Body, HttpResponseMessage Response)> Post(
        string address,
        object body,
        params (string, string)[] headers
    ) => Send(HttpMethod.Post, address, body, headers);

    /// <summary>Attaches a picture of one colour to a piece.</summary>
    /// <returns>The number of the attachment, and the file.</returns>
    public async Task<(int Number, byte[] Content)> AttachPicture(int piece, string name, int width = 40, int height = 20)
    {
        using var bitmap = new SkiaSharp.SKBitmap(width, height);
        bitmap.Erase(SkiaSharp.SKColors.Teal);
        using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Png, 100);
        using var file = new ByteArrayContent(data.ToArray());
        var (status, made, _) = await Send(HttpMethod.Post, $"/api/attachments/piece/{piece}?name={name}", file);
        status.ShouldBe(201, made?.ToString());
        return (made!["number"]!.GetValue<int>(), data.ToArray());
    }

    public async Task<int> Catch(string text) => (await Post("/api/slips", new { text })).Body!["number"]!.GetValue<int>();

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        for (var attempt = 0; disposing && Directory.Exists(folder); attempt++)
            try
            {
                Directory.Delete(folder, recursive: true);
            }
            catch (IOException) when (attempt < 20)
            {
                // An import that is put away is taking its own files away.
                Thread.Sleep(50);
            }
    }
}
