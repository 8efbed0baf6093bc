using System.Globalization;
using Nachlass.Core.Text;

namespace Nachlass.Core.Capture;

/// <summary>What a text on a day's sheet can fill in.</summary>
/// <param name="Now">The writer's day and time.</param>
/// <param name="LastRelease">The last day a piece went out; null when none has.</param>
/// <param name="Waiting">Slips that wait for a decision.</param>
/// <param name="CaughtYesterday">Slips caught the day before.</param>
/// <param name="Piece">Title of the piece in hand that is due first; null when none is in hand.</param>
/// <param name="NextOpen">The next date of a cadence that no piece fills; null when there is none.</param>
/// <param name="NextDue">The next due date of a piece in hand; null when none has one.</param>
public sealed record DayFacts(
    DateTime Now,
    DateOnly? LastRelease = null,
    int Waiting = 0,
    int CaughtYesterday = 0,
    string? Piece = null,
    DateOnly? NextDue = null,
    DateOnly? NextOpen = null
)
{
    /// <summary>The facts by the names a text uses for them, each with what it gives now; empty where there is nothing to say.</summary>
    public IReadOnlyDictionary<string, object> ByName() =>
        new Dictionary<string, object>
        {
            ["date"] = Now.ToString("d MMMM yyyy", CultureInfo.InvariantCulture),
            ["weekday"] = Now.ToString("dddd", CultureInfo.InvariantCulture),
            ["day"] = Now.Day,
            ["month"] = Now.ToString("MMMM", CultureInfo.InvariantCulture),
            ["year"] = Now.Year,
            ["week"] = ISOWeek.GetWeekOfYear(Now),
            ["time"] = Now.ToString("HH:mm", CultureInfo.InvariantCulture),
            ["days_since_release"] = LastRelease is { } last ? DateOnly.FromDateTime(Now).DayNumber - last.DayNumber : "",
            ["waiting"] = Waiting,
            ["caught_yesterday"] = CaughtYesterday,
            ["piece"] = Piece ?? "",
            ["next_open_date"] = NextOpen?.ToString("dddd d MMMM", CultureInfo.InvariantCulture) ?? "",
            ["next_due"] = NextDue?.ToString("dddd d MMMM", CultureInfo.InvariantCulture) ?? "",
        };

    private static readonly (string Name, string Words, string? If)[] Known =
    [
        ("weekday", "the weekday", null),
        ("date", "the date", null),
        ("day", "the day of the month", null),
        ("month", "the month", null),
        ("year", "the year", null),
        ("week", "the number of the week", null),
        ("time", "the time", null),
        ("waiting", "the number of waiting slips", null),
        ("caught_yesterday", "the number caught yesterday", null),
        ("piece", "the piece that is due first", "a piece is in hand"),
        ("next_due", "the next due date", "something is due"),
        ("next_open_date", "the next open date", "a date is open"),
        ("days_since_release", "the days since the last release", "something went out before"),
    ];

    /// <summary>All that can be filled in, in the order they are offered.</summary>
    public IReadOnlyList<FillInOffer> Offers()
    {
        var now = ByName();
        return [.. Known.Select(k => new FillInOffer(k.Name, k.Words, Convert.ToString(now[k.Name], CultureInfo.InvariantCulture)!, k.If))];
    }
}
