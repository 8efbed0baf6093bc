using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.Logging;

namespace Nachlass.Standins.Catalogue;

/// <summary>What the stand-ins of this folder have in common.</summary>
internal static class Standin
{
    /// <summary>A server for its page, on a port of this machine. Whatever came is shown without scripts.</summary>
    /// <param name="port">0 for any free port.</param>
    public static WebApplication Page(int port)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
        var page = builder.Build();
        page.Use(
            (http, next) =>
            {
                http.Response.Headers.ContentSecurityPolicy =
                    "default-src 'none'; style-src 'unsafe-inline'; img-src 'self' data:; media-src http:; sandbox allow-forms";
                return next(http);
            }
        );
        return page;
    }

    /// <summary>A certificate for which nobody vouches.</summary>
    public static X509Certificate2 Certificate(string name)
    {
        using var key = RSA.Create(2048);
        using var made = new CertificateRequest(
            $"CN={name} (a stand-in)",
            key,
            HashAlgorithmName.SHA256,
            RSASignaturePadding.Pkcs1
        ).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddYears(1));
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), null);
    }

    /// <summary>SHA-256 of a certificate, in hexadecimal.</summary>
    public static string HashOf(X509Certificate2 certificate) => Convert.ToHexStringLower(SHA256.HashData(certificate.RawData));

    public static int FreePort()
    {
        using var socket = new TcpListener(IPAddress.Loopback, 0);
        socket.Start();
        return ((IPEndPoint)socket.LocalEndpoint).Port;
    }

    /// <summary>A page of a stand-in.</summary>
    public static string Html(string title, string body) =>
        $"<!doctype html><html lang=en><meta charset=utf-8><title>{WebUtility.HtmlEncode(title)}</title>"
        + $"<body style=\"max-width:40rem;margin:2rem auto;font:1rem/1.5 serif\"><h1>{WebUtility.HtmlEncode(title)}</h1>{body}";
}
