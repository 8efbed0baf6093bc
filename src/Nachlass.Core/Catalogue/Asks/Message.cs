using System.Security.Cryptography;
using System.Text;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>The number of a reader's message.</summary>
public readonly record struct MessageNumber(int Value) : INumber<MessageNumber>
{
    public static MessageNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out MessageNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of an ask.</summary>
public readonly record struct AskNumber(int Value) : INumber<AskNumber>
{
    public static AskNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out AskNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>The number of a wish: one sentence of one message.</summary>
public readonly record struct WishNumber(int Value) : INumber<WishNumber>
{
    public static WishNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out WishNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>What a reader wrote to the writer.</summary>
public sealed record Message
{
    public const int LongestText = 100_000,
        LongestPerson = 200,
        LongestWay = 60,
        MostReach = 100_000_000;

    public required MessageNumber Number { get; init; }

    /// <summary>Who wrote, by name; empty where that is not known.</summary>
    public required string Person { get; init; }

    /// <summary>Their mail address, or the address of their page; empty where that is not known.</summary>
    public string Address { get; init; } = "";

    public required DateTimeOffset At { get; init; }

    /// <summary>Where it came: mail, a page, a post …, as it came in.</summary>
    public string Way { get; init; } = "";

    /// <summary>The release it answers.</summary>
    public ReleaseNumber? Release { get; init; }

    /// <summary>As written, as Markdown.</summary>
    public required string Text { get; init; }

    /// <summary>How many stand behind it, its writer among them: those who agreed, at least 1.</summary>
    public int Reach { get; init; } = 1;

    /// <summary>By what it is known again when it comes in once more: its Message-ID, else a fingerprint.</summary>
    public required string Key { get; init; }

    /// <summary>When it was answered.</summary>
    public DateTimeOffset? AnsweredAt { get; init; }

    /// <summary>What was answered, as Markdown; empty where that was not kept.</summary>
    public string Answer { get; init; } = "";
    public int Version { get; init; }

    /// <summary>By what two messages are of one person: the address, else the name; else each is of its own person.</summary>
    public string PersonKey => KeyOf(Person, Address, Number);

    public static string KeyOf(string person, string address, MessageNumber number) =>
        address.Length > 0 ? "@" + Stems.Fold(address)
        : person.Length > 0 ? Stems.Fold(person.Trim())
        : $"#{number}";

    /// <summary>The key of a message that has none of its own: SHA-256 (FIPS 180-4) of person, instant and text, so that the same file
    /// brought in again brings nothing.</summary>
    public static string Fingerprint(string person, string address, DateTimeOffset at, string text) =>
        Convert.ToHexStringLower(
            SHA256.HashData(Encoding.UTF8.GetBytes($"{person}\n{address}\n{at.UtcDateTime:yyyy-MM-ddTHH:mm:ss}\n{text.Trim()}"))
        );
}
