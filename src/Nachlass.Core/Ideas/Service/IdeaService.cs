using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas.Service;

/// <summary>How a service of ideas is spoken to.</summary>
public enum ServiceForm
{
    /// <summary>In the open form of docs/idea-service.md.</summary>
    Ideas,

    /// <summary>As chat completions over HTTP, which many programs that run a language model speak.</summary>
    Chat,
}

/// <summary>What a service may take of time, and may cost.</summary>
/// <param name="Seconds">How long an answer may take, 5 to 600.</param>
/// <param name="RequestsADay">How often it is asked on a day, 1 to 1,000.</param>
/// <param name="TokensAMonth">How many tokens may go to it and come from it in a month of the calendar, 1,000 to 100,000,000.</param>
public sealed record ServiceLimits(int Seconds = 60, int RequestsADay = 20, int TokensAMonth = 300_000)
{
    /// <exception cref="BadInputException">One is out of its range.</exception>
    public ServiceLimits Checked()
    {
        Within("seconds", Seconds, 5, 600);
        Within("requestsADay", RequestsADay, 1, 1_000);
        Within("tokensAMonth", TokensAMonth, 1_000, 100_000_000);
        return this;
    }

    private static void Within(string field, int value, int least, int most)
    {
        if (value < least || value > most)
            throw new BadInputException(field, $"Give a number from {least:N0} to {most:N0}.");
    }
}

/// <summary>A service that makes ideas, without its key.</summary>
/// <param name="Address">Where it is asked.</param>
/// <param name="Model">Which of its models, in the chat form; else empty.</param>
/// <param name="IsOn">Whether it may be asked at all.</param>
public sealed record IdeaService(string Address, ServiceForm Form, string Model, bool IsOn, ServiceLimits Limits)
{
    public const int LongestModel = 200,
        LongestKey = 4_000;

    /// <summary>What an answer may be long, in bytes. Ours: a hundred ideas of the longest text are a tenth of it.</summary>
    public const int LongestAnswer = 1 << 20;

    private const string Completions = "/chat/completions";

    /// <summary>A service as it was typed.</summary>
    /// <exception cref="BadInputException">It can't be one; names the field.</exception>
    public IdeaService Checked()
    {
        var address = Check.WebAddress("address", Address);
        if (address.Length == 0)
            throw new BadInputException("address", "Give the address at which the service is asked; it begins with https://.");
        var at = new Uri(address);
        if (at.UserInfo.Length > 0)
            throw new BadInputException("address", "A name or password in the address would be seen; give the key by itself.");
        // A key that goes unencrypted can be read by whoever is on the way.
        if (at.Scheme != Uri.UriSchemeHttps && !at.IsLoopback)
            throw new BadInputException("address", "Only a service on this machine is asked without encryption; use https://.");
        var model = Check.Length("model", Model?.Trim(), LongestModel);
        if (Form == ServiceForm.Chat && model.Length == 0)
            throw new BadInputException("model", "Name the model that is to answer.");
        return new IdeaService(address, Form, Form == ServiceForm.Chat ? model : "", IsOn, Limits.Checked());
    }

    /// <summary>Where a question goes: in the chat form the address may be that of the service as a whole.</summary>
    public Uri Endpoint =>
        Form == ServiceForm.Chat && !Address.TrimEnd('/').EndsWith(Completions, StringComparison.Ordinal)
            ? new Uri(Address.TrimEnd('/') + Completions)
            : new Uri(Address);

    /// <summary>What the service is called where it is spoken of.</summary>
    public string Host => new Uri(Address).Authority;
}

/// <summary>What was asked of a service so far.</summary>
/// <param name="Today">Requests of today.</param>
/// <param name="ThisMonth">Tokens of this month.</param>
public sealed record ServiceUse(int Today, long ThisMonth)
{
    /// <summary>Characters of a token, roughly, where a service does not count for itself. Ours: between three and five in texts of
    /// European languages.</summary>
    public const int CharactersOfToken = 4;

    /// <summary>Tokens one idea takes in an answer at most, with what it was made from.</summary>
    public const int TokensOfIdea = 120;

    public static int Tokens(int characters) => (characters + CharactersOfToken - 1) / CharactersOfToken;

    /// <summary>Why one more request can't be sent; null when it can.</summary>
    /// <param name="tokens">What it would take with its answer, at most.</param>
    public string? Hinders(ServiceLimits limits, int tokens) =>
        Today >= limits.RequestsADay ? $"The service was asked {Today:N0} times today, and {limits.RequestsADay:N0} is the limit you set."
        : ThisMonth + tokens > limits.TokensAMonth
            ? $"This would take up to {tokens:N0} tokens; of the {limits.TokensAMonth:N0} you set for a month "
                + $"{Math.Max(0, limits.TokensAMonth - ThisMonth):N0} are left."
        : null;
}
