using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench.Versions;

/// <summary>Why a version was kept.</summary>
public enum VersionWhy
{
    /// <summary>As a sitting left it.</summary>
    Sitting,

    /// <summary>As it moved on from a stage.</summary>
    Stage,

    /// <summary>Before much of it was changed at once.</summary>
    Before,

    /// <summary>Because its writer gave it a name.</summary>
    Named,
}

/// <summary>A draft as it stood once.</summary>
/// <param name="At">When it stood so.</param>
/// <param name="Name">The writer's name for it; else the stage it left, or what was about to be done to it.</param>
public sealed record DraftVersion(VersionNumber Number, DateTimeOffset At, VersionWhy Why, string Name, string Text)
{
    public const int LongestName = 200;
}

/// <summary>When a version is kept by itself, and how long.</summary>
public static class VersionRules
{
    /// <summary>So long nothing is written between two sittings.</summary>
    public static readonly TimeSpan Pause = TimeSpan.FromMinutes(30);

    /// <summary>So many characters, and so much of the draft, are a large change when their paragraphs go at once.</summary>
    public const int LargeFrom = 1_000;
    public const double LargeShare = 0.1;

    /// <summary>Whether what is written now belongs to another sitting than what was written last.</summary>
    public static bool IsNewSitting(DateTimeOffset last, DateTimeOffset now) => now - last >= Pause;

    /// <summary>Whether so much goes at once that the draft is kept before. What only moves does not go.</summary>
    public static bool IsLarge(string before, string after)
    {
        var least = Math.Max(LargeFrom, (int)(before.Length * LargeShare));
        // The stretch between what is the same at both ends is cheap to know, and most writing ends here.
        var start = before.AsSpan().CommonPrefixLength(after);
        var most = Math.Min(before.Length, after.Length) - start;
        var end = 0;
        while (end < most && before[^(end + 1)] == after[^(end + 1)])
            end++;
        if (before.Length - start - end < least)
            return false;
        var left = VersionText.Units(after).GroupBy(u => u.Text).ToDictionary(g => g.Key, g => g.Count());
        var gone = 0;
        foreach (var unit in VersionText.Units(before))
            if (left.TryGetValue(unit.Text, out var count) && count > 0)
                left[unit.Text] = count - 1;
            else
                gone += unit.Text.Length;
        return gone >= least;
    }

    /// <summary>The versions that go, given all of a piece: those with a name never do, of the others stay as many as of copies of the
    /// papers: every one of the last two days, then one of each day, week, month and year (<see cref="Thinning"/>).</summary>
    /// <param name="now">In the writer's own time.</param>
    public static IReadOnlyList<VersionNumber> Gone(
        IEnumerable<(VersionNumber Number, DateTimeOffset At, VersionWhy Why)> all,
        DateTimeOffset now
    )
    {
        var unnamed = all.Where(v => v.Why != VersionWhy.Named)
            .Select(v => (v.Number, At: v.At.ToOffset(now.Offset).DateTime))
            .OrderBy(v => v.At)
            .ToList();
        var gone = Thinning.Gone([.. unnamed.Select(v => v.At)], now.DateTime).ToHashSet();
        return [.. unnamed.Where(v => gone.Contains(v.At)).Select(v => v.Number)];
    }
}

/// <summary>A heading or a paragraph of a draft, with the empty lines behind it.</summary>
/// <param name="Section">Which section it stands in, counted from 0; −1 before the first heading.</param>
public readonly record struct VersionUnit(string Text, int Section, bool IsHeading);

/// <summary>A draft as headings and paragraphs, by which versions are kept and compared.</summary>
public static class VersionText
{
    /// <summary>Titles of the sections that are not as they were, and of those that are gone; an empty one for the text before the
    /// first.</summary>
    public static IEnumerable<string> Changed(string before, string after)
    {
        var (lead, parts) = DraftText.Split(before);
        var (leadNow, now) = DraftText.Split(after);
        if (lead.Trim() != leadNow.Trim())
            yield return "";
        var had = parts.ToLookup(p => p.Title, p => p.Body.Trim());
        foreach (var part in now)
            if (!had[part.Title].Contains(part.Body.Trim()))
                yield return part.Title;
        var titles = now.Select(p => p.Title).ToHashSet();
        foreach (var part in parts.Where(p => !titles.Contains(p.Title)))
            yield return part.Title;
    }

    /// <summary>Its units in order; put together they are the text to the letter.</summary>
    public static IReadOnlyList<VersionUnit> Units(string text)
    {
        var (lead, parts) = DraftText.Split(text);
        var units = new List<VersionUnit>();
        Add(lead, 0, -1);
        for (var at = 0; at < parts.Count; at++)
        {
            var raw = parts[at].Raw;
            var body = parts[at].BodyStart;
            while (body < raw.Length && raw[body] == '\n')
                body++;
            units.Add(new VersionUnit(raw[..body], at, true));
            Add(raw, body, at);
        }
        return units;

        void Add(string part, int from, int section)
        {
            while (from < part.Length)
            {
                var end = part.IndexOf("\n\n", from, StringComparison.Ordinal);
                end = end < 0 ? part.Length : end;
                while (end < part.Length && part[end] == '\n')
                    end++;
                units.Add(new VersionUnit(part[from..end], section, false));
                from = end;
            }
        }
    }
}
