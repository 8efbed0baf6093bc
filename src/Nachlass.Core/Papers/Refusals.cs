namespace Nachlass.Core.Papers;

/// <summary>Something the writer asked for that cannot be done as asked. Nothing has been changed.</summary>
public abstract class RefusedException(string message) : Exception(message);

/// <summary>A field holds something that cannot be taken.</summary>
/// <param name="field">The field, named as in the request.</param>
/// <param name="reason">Why, in a sentence a writer understands.</param>
public sealed class BadInputException(string field, string reason) : RefusedException(reason)
{
    public string Field { get; } = field;
}

/// <summary>There is no such thing, or no longer.</summary>
public sealed class NotThereException(string what) : RefusedException($"There is no {what}.");

/// <summary>Someone was faster: the version named is not the current one.</summary>
/// <param name="what">The thing, as a writer would say it.</param>
/// <param name="current">Its current state, to be shown beside what was sent.</param>
public sealed class StaleException(string what, object current) : RefusedException($"{what} was changed elsewhere since you opened it.")
{
    public object Current { get; } = current;
}

/// <summary>The request contradicts what has happened meanwhile.</summary>
/// <param name="reason">Why, in a sentence a writer understands.</param>
/// <param name="inTheWay">The command that stands in the way, when it is one.</param>
/// <param name="thing">What that command was about.</param>
public sealed class ClashException(string reason, CommandNumber? inTheWay = null, Reference? thing = null) : RefusedException(reason)
{
    public CommandNumber? InTheWay { get; } = inTheWay;
    public Reference? Thing { get; } = thing;
}

/// <summary>Checks that name the field.</summary>
public static class Check
{
    /// <summary>The text without outer white space.</summary>
    /// <param name="called">What a person calls the field, where that is not its name.</param>
    /// <exception cref="BadInputException">It is empty or longer than <paramref name="limit"/> characters.</exception>
    public static string Text(string field, string? text, int limit, string? called = null)
    {
        var trimmed = text?.Trim() ?? "";
        if (trimmed.Length == 0)
            throw new BadInputException(field, $"The {called ?? field} is empty; write something first.");
        return Length(field, trimmed, limit, called);
    }

    /// <summary>The text as it is, if not too long.</summary>
    /// <param name="called">What a person calls the field, where that is not its name.</param>
    /// <exception cref="BadInputException">It is longer than <paramref name="limit"/> characters, or holds a NUL.</exception>
    public static string Length(string field, string? text, int limit, string? called = null)
    {
        if (text?.Length > limit)
            throw new BadInputException(field, $"The {called ?? field} is longer than {limit:N0} characters.");
        if (text?.Contains('\0') == true)
            throw new BadInputException(field, $"The {called ?? field} holds a NUL character.");
        return text ?? "";
    }

    /// <summary>The address of a page on the web, or nothing.</summary>
    /// <exception cref="BadInputException">It is something else.</exception>
    public static string WebAddress(string field, string? address)
    {
        var trimmed = Length(field, address, 2_000).Trim();
        return trimmed.Length == 0 || (Uri.TryCreate(trimmed, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https")
            ? trimmed
            : throw new BadInputException(field, $"“{trimmed}” is no web address; one begins with https://.");
    }

    /// <summary>Whether a date is one a writer could mean, so that counting days from it never leaves the calendar: years 1000 to
    /// 8999.</summary>
    public static bool IsDay(DateOnly day) => day.Year is >= 1000 and < 9000;

    /// <summary>A step from 1 to 5, or none.</summary>
    /// <exception cref="BadInputException">It is outside 1 to 5.</exception>
    public static int? Step(string field, int? step) =>
        step is null or >= 1 and <= 5 ? step : throw new BadInputException(field, $"The {field} goes from 1 to 5.");

    /// <summary>The version a change was based on.</summary>
    /// <exception cref="BadInputException">None was named.</exception>
    public static int Version(int? version) =>
        version ?? throw new BadInputException("version", "A change names the version it was based on.");
}
