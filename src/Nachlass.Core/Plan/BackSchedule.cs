namespace Nachlass.Core.Plan;

/// <summary>What a stage still takes.</summary>
/// <param name="Hours">0 for one that takes none.</param>
/// <param name="By">The day the writer wants it done by; null for as late as the date allows.</param>
public sealed record StageWork(string Stage, double Hours, DateOnly? By = null);

/// <summary>Something that is to be out on a day.</summary>
/// <param name="Key">By which the caller knows it.</param>
/// <param name="Due">The day it goes out.</param>
/// <param name="Stages">What is still to do, in order.</param>
public sealed record DatedWork(int Key, DateOnly Due, IReadOnlyList<StageWork> Stages);

/// <summary>When a stage is done.</summary>
/// <param name="From">The day its work begins.</param>
/// <param name="By">The day it has to be done by.</param>
public sealed record StageDates(string Stage, DateOnly From, DateOnly By, double Hours);

/// <summary>One work, worked back from its date.</summary>
/// <param name="Stages">Those that got their days, in order; a stage that found no hours at all is not among them.</param>
/// <param name="Missing">Hours that fit nowhere before its date.</param>
/// <param name="ReadyOn">Where hours are missing: the first day on which it could be ready, behind everything else; null when there
/// is none within a year.</param>
public sealed record WorkedBack(int Key, DateOnly Due, IReadOnlyList<StageDates> Stages, double Missing, DateOnly? ReadyOn);

/// <summary>All works on their days.</summary>
/// <param name="Days">Hours of work on each day, by work; days without any are left out.</param>
public sealed record Worked(IReadOnlyList<WorkedBack> Works, IReadOnlyDictionary<DateOnly, IReadOnlyDictionary<int, double>> Days);

/// <summary>
/// Works back from the dates on which things go out to the days on which their stages are done, through the hours there are. The
/// earliest date comes first and takes the last free hours before it, so that work stands as late as it can. Whether all of it fits does
/// not depend on that choice: in the order of dates, a work lacks hours exactly when the works up to its date need more than the days up
/// to it have (the test of preemptive earliest-deadline scheduling: Horn 1974, “Some simple scheduling algorithms”).
/// </summary>
public static class BackSchedule
{
    /// <summary>So far behind its date a first possible day is looked for.</summary>
    public const int Beyond = 366;

    /// <summary>Hours smaller than this are the rest of a sum.</summary>
    private const double Nothing = 1e-9;

    /// <param name="works">In any order; the same date is taken in the order of keys.</param>
    /// <param name="today">Nothing is done before it. A date before it counts as today.</param>
    public static Worked Of(IEnumerable<DatedWork> works, WorkCalendar calendar, DateOnly today)
    {
        var free = new Dictionary<DateOnly, double>();
        double Free(DateOnly day) => free.TryGetValue(day, out var left) ? left : free[day] = calendar.On(day);
        var days = new Dictionary<DateOnly, Dictionary<int, double>>();
        void Take(DateOnly day, int key, double hours)
        {
            free[day] = Free(day) - hours;
            if (!days.TryGetValue(day, out var on))
                days[day] = on = [];
            on[key] = on.GetValueOrDefault(key) + hours;
        }

        var done = new List<WorkedBack>();
        // From a day on backwards everything is taken: works that come later need not look at it again.
        var full = today.AddDays(-1);
        foreach (var work in works.OrderBy(w => w.Due).ThenBy(w => w.Key))
        {
            var dates = new List<StageDates>();
            var day = work.Due < today ? today : work.Due;
            var missing = 0.0;
            foreach (var stage in work.Stages.Reverse())
            {
                if (stage.By is { } wished && wished < day)
                    day = wished < today ? today : wished;
                var left = stage.Hours;
                DateOnly? by = null,
                    from = null;
                while (left > Nothing && day > full)
                {
                    var here = Math.Min(left, Free(day));
                    if (here > Nothing)
                    {
                        Take(day, work.Key, here);
                        left -= here;
                        by ??= day;
                        from = day;
                    }
                    // The rest of a day belongs to the stage before.
                    if (Free(day) <= Nothing)
                        day = day.AddDays(-1);
                }
                if (left > Nothing)
                    missing += left;
                if (by is { } last)
                    dates.Add(new StageDates(stage.Stage, from!.Value, last, stage.Hours));
            }
            while (full < work.Due && Free(full.AddDays(1)) <= Nothing)
                full = full.AddDays(1);
            dates.Reverse();
            done.Add(new WorkedBack(work.Key, work.Due, dates, missing, null));
        }
        return new Worked(
            [.. done.Select(w => w.Missing > 0 ? w with { ReadyOn = FirstBehind(w) } : w)],
            days.ToDictionary(d => d.Key, d => (IReadOnlyDictionary<int, double>)d.Value)
        );

        DateOnly? FirstBehind(WorkedBack work)
        {
            var left = work.Missing;
            var day = (work.Due < today ? today : work.Due).AddDays(1);
            for (var i = 0; i < Beyond; i++, day = day.AddDays(1))
                if ((left -= Free(day)) <= Nothing)
                    return day;
            return null;
        }
    }
}
