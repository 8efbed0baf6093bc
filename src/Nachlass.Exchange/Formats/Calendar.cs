using System.Globalization;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>iCalendar (RFC 5545): events become occasions, to-dos become moves.</summary>
public sealed class Calendar : IFormat
{
    public string Key => "ics";
    public string Name => "Calendar (iCalendar)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".ics" || start.StartsWith("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var text = TextIn.Unfolded(file);
        if (!text.Contains("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase))
            throw new UnreadableFileException(file.Name, "it is no calendar.");
        // Each entry is read by itself, so that a broken one does not take the others with it.
        foreach (var (line, block) in Entries(text))
        {
            var found = One(line, block);
            if (found is not null)
                yield return found;
        }
    }

    private static IEnumerable<(int Line, string Block)> Entries(string text)
    {
        var lines = text.Split('\n');
        for (var i = 0; i < lines.Length; i++)
        {
            var name = lines[i].Trim().ToUpperInvariant();
            if (name is not ("BEGIN:VEVENT" or "BEGIN:VTODO" or "BEGIN:VJOURNAL"))
                continue;
            var end = Array.FindIndex(lines, i, l => l.Trim().Equals("END:" + name[6..], StringComparison.OrdinalIgnoreCase));
            yield return (i + 1, string.Join('\n', end < 0 ? lines[i..] : lines[i..(end + 1)]));
            if (end < 0)
                yield break;
            i = end;
        }
    }

    private static Found? One(int line, string block)
    {
        Ical.Net.Calendar? calendar;
        try
        {
            calendar = Ical.Net.Calendar.Load(
                $"BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//Nachlass//EN\n{block}\nEND:VCALENDAR\n".Replace(
                    "\n",
                    "\r\n",
                    StringComparison.Ordinal
                )
            );
        }
        catch (Exception error) when (error is not OutOfMemoryException)
        {
            return new Found.Unread(line, $"this entry can't be read ({error.Message.Split('\n')[0].TrimEnd('.')}).", block);
        }
        if (calendar?.Events.FirstOrDefault() is { } e)
            return Event(line, block, e);
        if (calendar?.Todos.FirstOrDefault() is { } todo)
            return ToDo(line, block, todo);
        return new Found.Unread(line, "this entry can't be read.", block);
    }

    private static Found Event(int line, string block, CalendarEvent e)
    {
        if (e.Start is null)
            return new Found.Unread(line, "this event has no readable date.", block);
        if (string.IsNullOrWhiteSpace(e.Summary))
            return new Found.Unread(line, "this event has no name.", block);
        var from = Day(e.Start)!.Value;
        var left = new LeftOut();
        if (e.Start.HasTime)
            left.Add("its time", $"{e.Start.Value:HH:mm}{(End(e) is { } until ? $"–{until:HH:mm}" : "")}");
        left.Add("its place", e.Location);
        Rest(left, e);
        if (string.Equals(e.Status, "CANCELLED", StringComparison.OrdinalIgnoreCase))
            left.Doubt("it was cancelled");
        var comesAgain = Again(e, from, left);
        var recurs = comesAgain ? Moving(e.RecurrenceRule!, from) : null;
        if (comesAgain && recurs is null && !IsItsDate(e.RecurrenceRule!, from))
            left.Doubt($"its date moves from year to year; it comes in as every {from.Day} {Month(from)}");
        return new Found.OfOccasion(line, e.Summary.Trim(), from, LastDay(e, from), comesAgain && recurs is null, recurs)
        {
            Doubt = left.Said,
        };
    }

    /// <summary>When an event ends (RFC 5545, 3.6.1): where it says, or as long after its start as it says; null for neither.</summary>
    private static DateTime? End(CalendarEvent e) =>
        e.End?.Value ?? (e.Duration is { } lasts ? e.Start!.Value + lasts.ToTimeSpanUnspecified() : null);

    /// <summary>The last day it is on: what ends at midnight, as all that lasts whole days does, is not on the day that begins
    /// then.</summary>
    private static DateOnly LastDay(CalendarEvent e, DateOnly from)
    {
        if (End(e) is not { } end || DateOnly.FromDateTime(end) <= from)
            return from;
        var last = DateOnly.FromDateTime(end);
        return end.TimeOfDay == TimeSpan.Zero ? last.AddDays(-1) : last;
    }

    /// <summary>Whether it is every year on its dates; a rule that says less or more is doubtful.</summary>
    private static bool Again(CalendarEvent e, DateOnly from, LeftOut left)
    {
        if (e.ExceptionDates.GetAllDates().Any() || e.RecurrenceDates.GetAllDates().Any())
            left.Doubt("single dates were added to its rule or taken out of it, which has no place here");
        if (e.RecurrenceRule is not { } rule)
            return false;
        if (rule.Frequency != Ical.Net.FrequencyType.Yearly)
        {
            left.Doubt("it repeats more often than every year; only its first date comes in");
            return false;
        }
        if (rule.Until is { } until && DateOnly.FromDateTime(until.Value) is var end && end < from.AddYears(1) || rule.Count == 1)
            return false;
        if (rule.Until is not null || rule.Count is not null)
        {
            left.Doubt("its rule ends some day; only its first date comes in");
            return false;
        }
        if (rule.Interval > 1)
        {
            left.Doubt($"it comes only every {rule.Interval} years; only its first date comes in");
            return false;
        }
        return true;
    }

    /// <summary>Whether a yearly rule says no more than the date of its first day.</summary>
    private static bool IsItsDate(RecurrenceRule rule, DateOnly from) =>
        rule.ByDay.Count + rule.ByYearDay.Count + rule.ByWeekNo.Count + rule.BySetPosition.Count == 0
        && rule.ByMonth.All(month => month == from.Month)
        && rule.ByMonth.Count <= 1
        && rule.ByMonthDay.All(day => day == from.Day)
        && rule.ByMonthDay.Count <= 1;

    /// <summary>The rule of what moves from year to year, where it can be kept and gives the first day; null else.</summary>
    private static string? Moving(RecurrenceRule rule, DateOnly from)
    {
        if (IsItsDate(rule, from) || rule.ByDay.Count == 0)
            return null;
        try
        {
            var kept = OccasionDates.Read(rule.ToString() ?? "");
            foreach (var first in OccasionDates.From(kept, from, from))
                return first == from ? kept : null;
            return null;
        }
        catch (BadInputException)
        {
            return null;
        }
    }

    /// <summary>A rule of each month in one month only, as one of each year: other programs read the first as monthly.</summary>
    private static string Yearly(string rule) =>
        rule.StartsWith("FREQ=MONTHLY;", StringComparison.Ordinal) && rule.Contains("BYMONTH=", StringComparison.Ordinal)
            ? "FREQ=YEARLY" + rule["FREQ=MONTHLY".Length..]
            : rule;

    private static string Month(DateOnly day) => CultureInfo.InvariantCulture.DateTimeFormat.GetMonthName(day.Month);

    private static Found ToDo(int line, string block, Todo todo)
    {
        if (string.IsNullOrWhiteSpace(todo.Summary))
            return new Found.Unread(line, "this to-do has no name.", block);
        var left = new LeftOut();
        left.Add("its place", todo.Location);
        Rest(left, todo);
        if (todo.RecurrenceRule is not null)
            left.Doubt("it repeats; it comes in once");
        if (string.Equals(todo.Status, "CANCELLED", StringComparison.OrdinalIgnoreCase))
            left.Doubt("it was cancelled");
        var isDone = todo.Completed is not null || string.Equals(todo.Status, "COMPLETED", StringComparison.OrdinalIgnoreCase);
        var due =
            todo.Due is not null ? Day(todo.Due)
            : todo is { Start: { } start, Duration: { } lasts } ? DateOnly.FromDateTime(start.Value + lasts.ToTimeSpanUnspecified())
            : null;
        if (todo.Due is { HasTime: true } at)
            left.Add("its time", $"{at.Value:HH:mm}");
        return new Found.OfMove(line, todo.Summary.Trim(), due, isDone)
        {
            DoneAt = todo.Completed is { } done ? new DateTimeOffset(DateTime.SpecifyKind(done.AsUtc, DateTimeKind.Utc)) : null,
            Doubt = left.Said,
        };
    }

    /// <summary>What any entry may say beside its name and its date.</summary>
    private static void Rest(LeftOut left, RecurringComponent entry)
    {
        left.Add("its text", entry.Description);
        left.Add("its address", entry.Url?.ToString());
        left.Add("its categories", string.Join(", ", entry.Categories));
        left.Add("its comments", string.Join("; ", entry.Comments));
        left.Add("its people", string.Join(", ", entry.Attendees.Select(a => a.CommonName ?? a.Value?.ToString() ?? "")));
        if (entry.Alarms.Count > 0)
            left.Add(entry.Alarms.Count == 1 ? "its reminder" : "its reminders");
        if (entry.Attachments.Count > 0)
            left.Add("what is attached to it");
    }

    private static DateOnly? Day(CalDateTime? at) => at is null ? null : DateOnly.FromDateTime(at.Value);

    /// <summary>Writes occasions and moves as a calendar that <see cref="Read"/> gives back.</summary>
    public static string Write(IEnumerable<Core.Capture.Occasion> occasions, IEnumerable<Move> moves)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Nachlass//EN" };
        foreach (var occasion in occasions)
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = $"occasion-{occasion.Number}@nachlass",
                    DtStamp = Still,
                    Summary = occasion.Name,
                    Start = new CalDateTime(occasion.From),
                    End = new CalDateTime(occasion.To.AddDays(1)),
                    // What is counted from Easter has no rule there, and goes out as its next date.
                    RecurrenceRule =
                        occasion.EveryYear ? new RecurrenceRule(Ical.Net.FrequencyType.Yearly)
                        : occasion.Recurs?.StartsWith("FREQ=", StringComparison.Ordinal) == true
                            ? new RecurrenceRule(Yearly(occasion.Recurs))
                        : null,
                }
            );
        foreach (var move in moves)
            calendar.Todos.Add(
                new Todo
                {
                    Uid = $"move-{move.Number}@nachlass",
                    DtStamp = Still,
                    Summary = move.Text,
                    Due = move.Due is { } due ? new CalDateTime(due) : null,
                    Status = move.DoneAt is null ? "NEEDS-ACTION" : "COMPLETED",
                    Completed = move.DoneAt is { } done ? new CalDateTime(done.UtcDateTime, "UTC") : null,
                }
            );
        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }

    /// <summary>The same papers give the same file, so it carries no time of writing.</summary>
    private static readonly CalDateTime Still = new(2000, 1, 1, 0, 0, 0, "UTC");
}
