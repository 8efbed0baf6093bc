using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Capture;

/// <summary>The number of a capture key.</summary>
public readonly record struct CaptureKeyNumber(int Value) : INumber<CaptureKeyNumber>
{
    public static CaptureKeyNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out CaptureKeyNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A key with which another program may add slips, and do nothing else.</summary>
public sealed record CaptureKey
{
    public const int LongestName = 80;

    public required CaptureKeyNumber Number { get; init; }

    /// <summary>What the writer calls it: "shortcut on the phone".</summary>
    public required string Name { get; init; }

    public DateTimeOffset MadeAt { get; init; }
    public DateTimeOffset? UsedAt { get; init; }

    /// <summary>Since when it opens nothing any more.</summary>
    public DateTimeOffset? WithdrawnAt { get; init; }
}

/// <summary>What a capture key looks like, and what is kept of it.</summary>
public static class CaptureSecret
{
    /// <summary>So that a key is known for one wherever it turns up.</summary>
    public const string Start = "nachlass_";

    /// <summary>A secret from random bytes: 32 of them, as base64url.</summary>
    public static string From(ReadOnlySpan<byte> random) => Start + Base64Url.EncodeToString(random);

    /// <summary>What is kept of a secret. It holds 256 random bits, so a plain SHA-256 can't be searched back as a passphrase's
    /// could.</summary>
    public static string Hash(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
