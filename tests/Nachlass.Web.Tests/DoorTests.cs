using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Configuration;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Tests;

/// <summary>Who gets in when others than this machine can reach the app.</summary>
public sealed class DoorTests
{
    private static Settings From(params (string, string)[] settings) =>
        Settings.From(
            new ConfigurationBuilder()
                .AddInMemoryCollection(settings.Select(s => new KeyValuePair<string, string?>(s.Item1, s.Item2)))
                .Build()
        );

    [Theory]
    [InlineData("http://192.0.2.7:5240", "", "", "", "read along")]
    [InlineData("https://192.0.2.7:5240", "", "", "", "NACHLASS_CERTIFICATE")]
    [InlineData("https://192.0.2.7:5240", "/no/such.pem", "", "", "no certificate")]
    [InlineData("http://0.0.0.0:5240", "", "yes", "", "NACHLASS_HOSTS")]
    [InlineData("http://127.0.0.1:5240", "", "perhaps", "", "yes or no")]
    public void What_would_leave_the_papers_open_does_not_start(
        string url,
        string certificate,
        string proxy,
        string hosts,
        string reason
    ) =>
        Should
            .Throw<CannotStartException>(() => From(("url", url), ("certificate", certificate), ("proxy", proxy), ("hosts", hosts)))
            .Message.ShouldContain(reason);

    [Fact]
    public void Loopback_asks_for_nothing_and_the_rest_is_answered_under_its_names()
    {
        From()
            .ShouldSatisfyAllConditions(s => s.IsOpen.ShouldBeFalse(), s => s.AnsweredHosts.ShouldBe(["localhost", "127.0.0.1", "[::1]"]));
        From(("proxy", "yes"), ("hosts", "desk.example"))
            .ShouldSatisfyAllConditions(s => s.IsOpen.ShouldBeTrue(), s => s.AnsweredHosts.ShouldContain("desk.example"));
    }

    private sealed class Behind(string folder) : Microsoft.AspNetCore.Mvc.Testing.WebApplicationFactory<Program>
    {
        public HttpClient Begin()
        {
            UseKestrel();
            StartServer();
            using var made = CreateClient();
            return new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false, UseCookies = false })
            {
                BaseAddress = made.BaseAddress,
            };
        }

        protected override void ConfigureWebHost(Microsoft.AspNetCore.Hosting.IWebHostBuilder builder)
        {
            builder.UseSetting("data", folder);
            builder.UseSetting("url", "http://127.0.0.1:0");
            builder.UseSetting("proxy", "yes");
            builder.UseSetting("hosts", "desk.example");
        }
    }

    private static void SetPassphrase(string folder, string passphrase)
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        new SettingStore(papers).Set(SettingStore.Passphrase, new PasswordHasher<object>().HashPassword(new object(), passphrase));
    }

    /// <summary>A request as a proxy that speaks HTTPS passes it on.</summary>
    private static HttpRequestMessage Passed(HttpMethod method, string address, object? body = null)
    {
        var request = new HttpRequestMessage(method, address) { Content = body is null ? null : JsonContent.Create(body) };
        request.Headers.Add("X-Forwarded-Proto", "https");
        request.Headers.Add("X-Forwarded-Host", "desk.example");
        request.Headers.Add("X-Forwarded-For", "192.0.2.9");
        return request;
    }

    [Fact]
    public void Without_a_passphrase_it_does_not_listen_to_others()
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-door-").FullName;
        try
        {
            Should
                .Throw<CannotStartException>(() => Startup.Build(["--data", folder, "--proxy=yes", "--hosts=desk.example"]))
                .Message.ShouldContain("no passphrase");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task The_passphrase_opens_a_few_wrong_ones_close_and_a_change_signs_others_out()
    {
        var cancel = TestContext.Current.CancellationToken;
        var folder = Directory.CreateTempSubdirectory("nachlass-door-").FullName;
        try
        {
            SetPassphrase(folder, "four loaves no coin");
            await using var app = new Behind(folder);
            using var client = app.Begin();
            Task<HttpResponseMessage> Send(HttpMethod method, string address, object? body = null) =>
                client.SendAsync(Passed(method, address, body), cancel);
            (await Send(HttpMethod.Get, "/api/sift")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
            (await Send(HttpMethod.Get, "/library?query=x")).Headers.Location!.OriginalString.ShouldBe(
                "/sign-in?back=%2Flibrary%3Fquery%3Dx"
            );
            (await Send(HttpMethod.Get, "/api/health")).StatusCode.ShouldBe(HttpStatusCode.OK);
            (await (await Send(HttpMethod.Get, "/api/sign-in")).Content.ReadAsStringAsync(cancel)).ShouldBe(
                "{\"asks\":true,\"isIn\":false,\"isSet\":true}"
            );

            (await Send(HttpMethod.Post, "/api/sign-in", new { passphrase = "wrong" })).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
            var signed = await Send(HttpMethod.Post, "/api/sign-in", new { passphrase = "four loaves no coin" });
            var cookie = signed.Headers.GetValues("Set-Cookie").Single();
            cookie.ShouldSatisfyAllConditions(
                c => c.ShouldContain("httponly", Case.Insensitive),
                c => c.ShouldContain("secure", Case.Insensitive),
                c => c.ShouldContain("samesite=lax", Case.Insensitive)
            );
            HttpRequestMessage With(HttpRequestMessage request)
            {
                request.Headers.Add("Cookie", cookie.Split(';')[0]);
                return request;
            }
            (await client.SendAsync(With(Passed(HttpMethod.Get, "/api/sift")), cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
            (
                await client.SendAsync(
                    With(Passed(HttpMethod.Put, "/api/passphrase", new { present = "four loaves no coin", next = "short" })),
                    cancel
                )
            ).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
            (
                await client.SendAsync(
                    With(Passed(HttpMethod.Put, "/api/passphrase", new { present = "four loaves no coin", next = "bishops pay nothing" })),
                    cancel
                )
            ).StatusCode.ShouldBe(HttpStatusCode.OK);
            (await client.SendAsync(With(Passed(HttpMethod.Get, "/api/sift")), cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);

            for (var i = 0; i < 4; i++)
                await Send(HttpMethod.Post, "/api/sign-in", new { passphrase = "guess" });
            var closed = await Send(HttpMethod.Post, "/api/sign-in", new { passphrase = "bishops pay nothing" });
            closed.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
            closed.Headers.RetryAfter!.Delta.ShouldBe(TimeSpan.FromMinutes(5));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task Of_sixty_guesses_at_once_only_five_are_tried()
    {
        var cancel = TestContext.Current.CancellationToken;
        var folder = Directory.CreateTempSubdirectory("nachlass-door-").FullName;
        try
        {
            SetPassphrase(folder, "four loaves no coin");
            await using var app = new Behind(folder);
            using var client = app.Begin();
            var answers = await Task.WhenAll(
                Enumerable
                    .Range(0, 60)
                    .Select(i => client.SendAsync(Passed(HttpMethod.Post, "/api/sign-in", new { passphrase = $"guess {i}" }), cancel))
            );
            answers.Count(a => a.StatusCode == HttpStatusCode.Forbidden).ShouldBe(5);
            answers.Count(a => a.StatusCode == HttpStatusCode.TooManyRequests).ShouldBe(55);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task Signing_out_ends_the_session_also_for_who_kept_its_cookie()
    {
        var cancel = TestContext.Current.CancellationToken;
        var folder = Directory.CreateTempSubdirectory("nachlass-door-").FullName;
        try
        {
            SetPassphrase(folder, "four loaves no coin");
            await using var app = new Behind(folder);
            using var client = app.Begin();
            async Task<string> SignIn()
            {
                var signed = await client.SendAsync(
                    Passed(HttpMethod.Post, "/api/sign-in", new { passphrase = "four loaves no coin" }),
                    cancel
                );
                return signed.Headers.GetValues("Set-Cookie").Single().Split(';')[0];
            }
            async Task<HttpStatusCode> With(string cookie, HttpMethod method, string address)
            {
                var request = Passed(method, address);
                request.Headers.Add("Cookie", cookie);
                return (await client.SendAsync(request, cancel)).StatusCode;
            }
            var (here, elsewhere) = (await SignIn(), await SignIn());
            ((int)await With(here, HttpMethod.Delete, "/api/sign-in")).ShouldBeInRange(200, 299);
            (await With(here, HttpMethod.Get, "/api/sift")).ShouldBe(HttpStatusCode.Unauthorized);
            (await With(elsewhere, HttpMethod.Get, "/api/sift")).ShouldBe(HttpStatusCode.OK);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public void A_certificate_is_read_from_pem()
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-door-").FullName;
        try
        {
            using var key = RSA.Create(2048);
            using var made = new CertificateRequest(
                "CN=desk.example",
                key,
                HashAlgorithmName.SHA256,
                RSASignaturePadding.Pkcs1
            ).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
            var (pem, keyFile) = (Path.Combine(folder, "desk.pem"), Path.Combine(folder, "desk.key"));
            File.WriteAllText(pem, made.ExportCertificatePem());
            File.WriteAllText(keyFile, key.ExportPkcs8PrivateKeyPem());
            using var read = Doorkeeper.Certificate(
                From(("url", "https://192.0.2.7:5240"), ("certificate", pem), ("certificate_key", keyFile))
            );
            read!.Subject.ShouldBe("CN=desk.example");
            File.WriteAllText(pem, "nonsense");
            Should
                .Throw<CannotStartException>(() =>
                    Doorkeeper.Certificate(From(("url", "https://192.0.2.7:5240"), ("certificate", pem), ("certificate_key", keyFile)))
                )
                .Message.ShouldContain("can't be used");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
