using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Nachlass.Core.Plan;

namespace Nachlass.Exchange.Formats;

/// <summary>The plan as an iCalendar document (RFC 5545): each thing a whole day, moves with an alarm in the morning.</summary>
public static class CalendarFeed
{
    /// <summary>A move is reminded of at this hour of its day, unless it has a time of its own.</summary>
    public const int AlarmHour = 9;

    /// <param name="entries">What stands on the plan.</param>
    /// <param name="outlets">Names of outlets by number.</param>
    /// <param name="home">Where the papers are, to link back to: <c>https://desk.example</c>.</param>
    /// <param name="now">When it was made; each event says so.</param>
    public static string Write(
        IEnumerable<PlanEntry> entries,
        IReadOnlyDictionary<OutletNumber, string> outlets,
        string home,
        DateTimeOffset now
    )
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Nachlass//Plan//EN" };
        calendar.AddProperty("X-WR-CALNAME", "Nachlass: plan");
        calendar.AddProperty("NAME", "Nachlass: plan");
        foreach (var entry in entries)
        {
            var made = new CalendarEvent
            {
                Uid = UidOf(entry) + "@nachlass",
                DtStamp = new CalDateTime(now.UtcDateTime),
                Summary = Said(entry),
                Start = new CalDateTime(entry.Day),
                End = new CalDateTime(entry.Last.AddDays(1)),
                // It says what is planned and takes no time of the day.
                Transparency = TransparencyType.Transparent,
                Description = About(entry, outlets),
            };
            if (entry.Piece is { } piece)
                made.Url = new Uri($"{home}/bench/{piece}");
            if (entry.Kind == PlanKind.Move)
                made.Alarms.Add(
                    new Alarm
                    {
                        Action = AlarmAction.Display,
                        Description = entry.Title,
                        // At its own time, where the writer has said one.
                        Trigger = entry.RemindAt is { } at
                            ? new Trigger { DateTime = new CalDateTime(at.UtcDateTime, "UTC") }
                            : new Trigger(Duration.FromHours(AlarmHour)),
                    }
                );
            calendar.Events.Add(made);
        }
        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }

    /// <summary>The same for the same thing at each asking, whatever day it is on, so that a reader moves it and makes no
    /// second one.</summary>
    private static string UidOf(PlanEntry entry) =>
        entry.Kind switch
        {
            PlanKind.Due or PlanKind.Out => $"piece-{entry.Piece}",
            PlanKind.Stage => $"stage-{entry.Piece}-{Convert.ToHexStringLower(System.Text.Encoding.UTF8.GetBytes(entry.Stage ?? ""))}",
            PlanKind.Move => $"move-{entry.Move}",
            PlanKind.Away => $"away-{entry.Away}",
            PlanKind.Occasion when entry.Country is { } country =>
                $"holiday-{country}-{entry.Day:yyyyMMdd}-{Convert.ToHexStringLower(System.Text.Encoding.UTF8.GetBytes(entry.Title))}",
            PlanKind.Occasion => $"occasion-{entry.Occasion}-{entry.Day:yyyyMMdd}",
            _ => $"date-{entry.Outlet}-{entry.Format}-{entry.InsteadOf ?? entry.Day:yyyyMMdd}{(entry.InsteadOf is null ? "" : "-again")}",
        };

    private static string Said(PlanEntry entry) =>
        entry.Kind switch
        {
            PlanKind.Due => $"{entry.Title} goes out",
            PlanKind.Out => $"{entry.Title} went out",
            PlanKind.Stage => $"{entry.Stage} done: {entry.Title}",
            PlanKind.Open => $"Open: {entry.Title}",
            PlanKind.Missed => $"Missed: {entry.Title}",
            PlanKind.Away => $"Away: {entry.Title}",
            _ => entry.Title,
        };

    private static string? About(PlanEntry entry, IReadOnlyDictionary<OutletNumber, string> outlets)
    {
        var parts = new List<string>();
        if (entry.Outlet is { } outlet && outlets.TryGetValue(outlet, out var name))
            parts.Add($"On {name}.");
        if (entry.Kind == PlanKind.Due)
            parts.Add($"It stands at {entry.Stage}.");
        if (entry.Missing is { } missing)
            parts.Add($"{missing:0.#} hours are missing before it.");
        if (entry.InsteadOf is { } missed)
            parts.Add($"It stands in for {missed:d MMMM}.");
        return parts.Count == 0 ? null : string.Join(' ', parts);
    }
}
