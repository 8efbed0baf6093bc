using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Nachlass.Core.Capture;
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
        var text = TextIn.Whole(file);
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
            if (name is not ("BEGIN:VEVENT" or "BEGIN:VTODO"))
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
        {
            if (e.Start is null)
                return new Found.Unread(line, "this event has no readable date.", block);
            if (string.IsNullOrWhiteSpace(e.Summary))
                return new Found.Unread(line, "this event has no name.", block);
            var from = Day(e.Start)!.Value;
            // RFC 5545, 3.6.1: the end of an event of whole days is the day after its last.
            var to =
                Day(e.End) is { } end && end > from
                    ? e.End!.HasTime
                        ? end
                        : end.AddDays(-1)
                    : from;
            var rule = e.RecurrenceRule;
            return new Found.OfOccasion(line, e.Summary.Trim(), from, to, rule?.Frequency == Ical.Net.FrequencyType.Yearly)
            {
                Doubt =
                    rule is null || rule.Frequency == Ical.Net.FrequencyType.Yearly
                        ? null
                        : "it repeats more often than every year; only its first date comes in.",
            };
        }
        if (calendar?.Todos.FirstOrDefault() is { } todo)
            return string.IsNullOrWhiteSpace(todo.Summary)
                ? new Found.Unread(line, "this to-do has no name.", block)
                : new Found.OfMove(line, todo.Summary.Trim(), Day(todo.Due), todo.Completed is not null || todo.Status == "COMPLETED");
        return new Found.Unread(line, "this entry can't be read.", block);
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
                    RecurrenceRule = occasion.EveryYear ? new RecurrenceRule(Ical.Net.FrequencyType.Yearly) : null,
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
