using System.Globalization;

namespace Nachlass.Core.Choosing;

/// <summary>An idea with what is known of it, in numbers and by name; says in words why it stands where it stands.</summary>
public sealed record Prospect
{
    public required Known Known { get; init; }

    /// <summary>Name of the format its hours are of; null when the writer has not said one.</summary>
    public string? Format { get; init; }

    public int Passages { get; init; }
    public int Takeaways { get; init; }
    public int Sources { get; init; }

    /// <summary>What stands on either side of a claim.</summary>
    public int Evidence { get; init; }

    /// <summary>Distinct readers who want it.</summary>
    public int Readers { get; init; }

    /// <summary>How many of them asked for something on its topic only.</summary>
    public int OnTopicOnly { get; init; }

    public DateOnly? LastAsk { get; init; }

    /// <summary>The next occasion on its topics.</summary>
    public string? Occasion { get; init; }

    /// <summary>The core topic that lies furthest under its share.</summary>
    public string? Topic { get; init; }

    /// <summary>The title of the piece in which most of it stands.</summary>
    public string? SaidIn { get; init; }

    public DateOnly? SaidOn { get; init; }

    public bool IsClaim { get; init; }
    public int For { get; init; }
    public int Against { get; init; }
    public int Questions { get; init; }
    public int Answered { get; init; }

    private int Things => Known.Things ?? 0;

    /// <summary>What a term is made of, in a few words; null when it is not known.</summary>
    public string? Evident(WorthTerm term) =>
        term switch
        {
            WorthTerm.Pull => Known.Pull is { } pull ? $"{pull} of 5" : null,
            WorthTerm.Effort => Known.Hours is not null
                ? $"about {Hours()}"
                    + (Known.Effort is { } effort ? $", effort {effort}" : "")
                    + (Format is null ? "" : $", as {In.Article(Format.ToLowerInvariant())}")
                    + (Known.HoursAtHand is { } has ? $"; you have {HoursOf(has)}" : "")
                : null,
            WorthTerm.Material => Known.Things is null ? null
            : Things == 0 ? "nothing lies ready yet"
            : In.List(
                In.Some(Evidence, "piece of evidence", "pieces of evidence"),
                In.Some(Passages, "passage"),
                In.Some(Takeaways, "takeaway"),
                In.Some(Sources, "source")
            ),
            WorthTerm.Asks => Known.Wishes is null ? null
            : Readers == 0 ? "nobody has asked for it"
            : $"{In.Some(Readers, "reader")}"
                + (
                    OnTopicOnly == 0 ? ""
                    : OnTopicOnly == Readers ? " on its topic"
                    : $", {In.Number(OnTopicOnly)} of them on its topic only"
                )
                + (LastAsk is { } last ? $", the last in {In.Month(last)}" : ""),
            WorthTerm.Timeliness => !Known.KnowsOccasions ? null
            : Known.DaysUntil is { } until
                ? $"{Occasion} {(until == 0 ? "is today" : $"in {In.Days(until)}")}; {In.Article(Format?.ToLowerInvariant() ?? "piece")} "
                    + $"takes you {In.Days(Known.DaysNeeded)}"
            : "no occasion on its topics is near",
            WorthTerm.Mix => Known.Share is { } share
                ? $"{Topic}: {Percent(share.Has)} of what went out, {Percent(share.Wished)} wished"
                : null,
            WorthTerm.Novelty => Known.Said is { } said
                ? SaidIn is null || said.Covered == 0
                    ? "nothing that went out says it"
                    : $"{In.Part(said.Covered)} of it stands in “{SaidIn}”{(SaidOn is { } on ? $", out in {In.Month(on)}" : "")}"
                : null,
            WorthTerm.Ripeness => Known.Ripe is null
                ? null
                : In.List(
                    IsClaim
                        ? Against == 0
                            ? $"{In.Number(For)} for it, nothing against it yet"
                            : $"{In.Number(For)} for it, {In.Number(Against)} against"
                        : "",
                    Questions == 0 ? ""
                        : Questions == 1
                            ? Answered == 1 ? "its question is answered"
                                : "its question is open"
                        : $"{In.Number(Answered)} of {In.Number(Questions)} questions answered"
                ),
            _ => Known.Days == 0 ? "caught today" : $"caught {In.Days(Known.Days)} ago",
        };

    /// <summary>What speaks for it most, each as a phrase, the weightiest first; together one short sentence.</summary>
    public IReadOnlyList<string> Reasons(Weights weights)
    {
        var values = Known.Values();
        var strong = WorthTerms
            .All.Where(term => term != WorthTerm.Waiting && values[term] is >= 0.5 && weights[term] > 0)
            .OrderByDescending(term => weights[term] * values[term]!.Value)
            .Select(Reason)
            .Where(reason => reason.Length > 0)
            .Take(3)
            .ToList();
        if (strong.Count > 0)
            return strong;
        return Known.Days > 180 && weights[WorthTerm.Waiting] > 0 ? [$"it has waited {In.Days(Known.Days)}"] : ["little speaks for it yet"];
    }

    private string Reason(WorthTerm term) =>
        term switch
        {
            WorthTerm.Pull => Known.Pull == 5 ? "it draws you most" : "it draws you",
            WorthTerm.Effort => Known.HoursAtHand is null ? "it is light" : "it fits the time you have",
            WorthTerm.Material => Passages >= Things - Passages
                ? $"{In.Some(Passages, "passage")} {(Passages == 1 ? "waits" : "wait")}"
                : $"{In.Some(Things, "thing")} {(Things == 1 ? "lies" : "lie")} ready",
            WorthTerm.Asks => $"{In.Some(Readers, "reader")} {(Readers == 1 ? "asks" : "ask")}",
            WorthTerm.Timeliness => Known.DaysUntil is { } until ? $"{Occasion} is in {In.Days(until)}" : "",
            WorthTerm.Mix => $"{Topic} lies under its share",
            WorthTerm.Novelty => Known.Said is not { Covered: > 0 } said ? "nothing that went out says it"
            : said.Days > WorthTerms.SaidHalfLife ? "it was said long ago"
            : "little of it has gone out",
            WorthTerm.Ripeness => IsClaim
                ? Against > 0
                    ? "both sides have been heard"
                    : $"{In.Number(For)} speak for it"
                : "its questions are answered",
            _ => "",
        };

    internal string Hours() => HoursOf(Known.Hours ?? 0);

    private static string HoursOf(double hours) =>
        hours < 1
            ? $"{Math.Max(1, Math.Round(hours * 12) * 5):0} min"
            : $"{Math.Round(hours, hours < 3 ? 1 : 0).ToString("0.#", CultureInfo.InvariantCulture)} h";

    private static string Percent(double share) => $"{Math.Round(100 * share):0} %";
}

/// <summary>Numbers and lists as a sentence has them.</summary>
internal static class In
{
    private static readonly string[] Words =
    [
        "no",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
    ];

    public static string Number(int count) =>
        count >= 0 && count < Words.Length ? Words[count] : count.ToString(CultureInfo.InvariantCulture);

    /// <summary>The number a word says, from one on, in letters or figures; null where it says none.</summary>
    public static int? NumberOf(string word) =>
        Array.IndexOf(Words, word) is var known and > 0 ? known
        : int.TryParse(word, NumberStyles.None, CultureInfo.InvariantCulture, out var figure) && figure > 0 ? figure
        : null;

    /// <summary>Empty for none.</summary>
    public static string Some(int count, string one, string? many = null) =>
        count == 0 ? "" : $"{Number(count)} {(count == 1 ? one : many ?? one + "s")}";

    public static string List(params IEnumerable<string> parts)
    {
        var said = parts.Where(part => part.Length > 0).ToList();
        return said.Count < 2 ? string.Concat(said) : string.Join(", ", said.SkipLast(1)) + " and " + said[^1];
    }

    public static string Article(string noun) => ("aeiou".Contains(noun[0], StringComparison.Ordinal) ? "an " : "a ") + noun;

    public static string Days(int days) =>
        days == 1 ? "a day"
        : days < 60 ? $"{days} days"
        : days < 730 ? $"{days / 30} months"
        : $"{days / 365} years";

    public static string Month(DateOnly day) => day.ToString("MMMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A share as one says it.</summary>
    public static string Part(double share) =>
        share switch
        {
            < 0.15 => "a little",
            < 0.29 => "a quarter",
            < 0.42 => "a third",
            < 0.6 => "half",
            < 0.72 => "two thirds",
            < 0.9 => "most",
            _ => "all",
        };
}
