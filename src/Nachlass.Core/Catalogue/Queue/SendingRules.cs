using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue.Queue;

/// <summary>How the queue goes on.</summary>
public static class SendingRules
{
    /// <summary>Waiting times between attempts: doubled and more, as RFC 5321 (4.5.4.1) asks of mail, and at an end within a day, since a
    /// writer wants to know.</summary>
    private static readonly TimeSpan[] Waits =
    [
        TimeSpan.FromMinutes(1),
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(20),
        TimeSpan.FromHours(1),
        TimeSpan.FromHours(3),
        TimeSpan.FromHours(6),
        TimeSpan.FromHours(12),
    ];

    /// <summary>After a lost answer it is looked for soon: most often the outlet has it.</summary>
    private static readonly TimeSpan LookAfter = TimeSpan.FromSeconds(20);

    /// <summary>No outlet is waited for longer, whatever it asks.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromDays(1);

    /// <summary>What is later than that is not sent without asking: nobody was here, or the clock jumped.</summary>
    public static readonly TimeSpan Lateness = TimeSpan.FromHours(6);

    public static int MostTries => Waits.Length + 1;

    /// <summary>A sending after an attempt at one of its parts.</summary>
    public static Sending After(Sending sending, int nth, Outcome outcome, DateTimeOffset now)
    {
        switch (outcome)
        {
            case Outcome.Taken(var address):
                return GotOn(address);
            case Outcome.WasThere(var address):
                return GotOn(address);
            case Outcome.Later(var reason, var after):
                return Again(reason, after ?? TimeSpan.Zero, PartState.Waits);
            case Outcome.Unknown(var reason):
                return Again(reason, LookAfter, PartState.Tries, isLook: true);
            case Outcome.Refused(var reason):
                return With(PartState.Waits, "") with { State = SendingState.GaveUp, Problem = reason };
            case Outcome.CannotTell(var reason):
                return With(PartState.Tries, "") with { State = SendingState.Asks, Problem = reason };
            default:
                throw new ArgumentOutOfRangeException(nameof(outcome));
        }

        Sending GotOn(string address) =>
            With(PartState.Sent, address) with
            {
                State = SendingState.Waits,
                Tries = 0,
                Problem = "",
                NextTry = now,
            };

        Sending Again(string reason, TimeSpan least, PartState part, bool isLook = false)
        {
            var tried = sending.Tries + 1;
            if (tried >= MostTries)
                return With(part, "") with
                {
                    State = part == PartState.Tries ? SendingState.Asks : SendingState.GaveUp,
                    Tries = tried,
                    Problem = $"{reason} It was tried {tried} times.",
                };
            var wait = isLook && sending.Tries == 0 ? least : Max(Waits[tried - 1], least);
            return With(part, "") with
            {
                State = SendingState.Waits,
                Tries = tried,
                Problem = reason,
                NextTry = now + (wait > Longest ? Longest : wait),
            };
        }

        Sending With(PartState state, string address) =>
            sending with
            {
                Parts = [.. sending.Parts.Select(p => p.Nth == nth ? p with { State = state, Address = address } : p)],
            };
    }

    private static TimeSpan Max(TimeSpan a, TimeSpan b) => a > b ? a : b;

    /// <summary>What goes out by itself of a text: the parts of a thread, where its format is in parts; else the whole.</summary>
    public static IReadOnlyList<string> Parts(Format format, string text) =>
        format.IsInParts ? [.. ThreadParts.In(text).Select(p => p.Text)]
        : text.Trim().Length == 0 ? []
        : [text.Trim()];

    /// <summary>What is over the outlet's limit, a sentence each; nothing where all of it may go.</summary>
    public static IReadOnlyList<string> Over(IReadOnlyList<string> parts, Limit? limit)
    {
        if (limit is null)
            return [];
        var unit = limit.In == MeasuredIn.Words ? "words" : "characters";
        return
        [
            .. parts
                .Select((text, i) => (Measured: Measure.Of(text, limit, FormatLimits.None), Nth: i + 1))
                .Where(p => p.Measured.IsOver)
                .Select(p =>
                    $"{(parts.Count == 1 ? "It" : $"Post {p.Nth}")} has {p.Measured.Has:N0} {unit}, "
                    + $"{p.Measured.Has - limit.Most:N0} more than the outlet takes."
                ),
        ];
    }

    /// <summary>An instant from a day and a time on the writer's clock (IANA zones). A time that the clock leaps over in spring is the
    /// first after it; of one that comes twice in autumn it is the first.</summary>
    public static DateTimeOffset At(DateOnly day, TimeOnly time, TimeZoneInfo zone)
    {
        var local = day.ToDateTime(time, DateTimeKind.Unspecified);
        while (zone.IsInvalidTime(local))
            local = local.AddMinutes(1);
        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset);
    }
}
