using System.Globalization;
using System.Text.RegularExpressions;
using Fluid;

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
}

/// <summary>Something that can be filled in, as a writer chooses it.</summary>
/// <param name="Name">Its name in the text: <c>next_due</c>.</param>
/// <param name="Words">What it is, as it is said: "the next due date".</param>
/// <param name="Now">What it gives now; empty when there is nothing to say.</param>
/// <param name="If">What has to be so for there to be something to say: "something is due"; null when there always is.</param>
public sealed record FillInOffer(string Name, string Words, string Now, string? If);

/// <summary>Why a text can't be filled in.</summary>
/// <param name="Line">Line of the text, from 1; 0 when it can't be told.</param>
/// <param name="Column">Place in the line, from 1; 0 when it can't be told.</param>
/// <param name="Reason">What is wrong, in a sentence.</param>
public sealed record FillInFault(int Line, int Column, string Reason);

/// <summary>A text with its fill-ins filled; where one is wrong, the text as it stands, and why.</summary>
public sealed record FilledIn(string Text, FillInFault? Fault);

/// <summary>Fills texts in: Liquid, with conditions and filters but without loops, so that no text can run away.</summary>
public static partial class FillIn
{
    private static readonly FluidParser Parser = MakeParser();

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
    public static IReadOnlyList<FillInOffer> Offers(DayFacts facts)
    {
        var now = facts.ByName();
        return [.. Known.Select(k => new FillInOffer(k.Name, k.Words, Convert.ToString(now[k.Name], CultureInfo.InvariantCulture)!, k.If))];
    }

    private static FluidParser MakeParser()
    {
        var parser = new FluidParser();
        foreach (var tag in (string[])["for", "tablerow", "cycle", "include", "render", "increment", "decrement"])
            parser.RegisteredTags.Remove(tag);
        return parser;
    }

    /// <summary>The text with its fill-ins replaced by what they stand for. Never throws for anything written in it.</summary>
    public static FilledIn Fill(string text, DayFacts facts)
    {
        if (!text.Contains('{', StringComparison.Ordinal))
            return new FilledIn(text, null);
        if (TooDeep(text) is { } deep)
            return new FilledIn(text, deep);
        if (!Parser.TryParse(text, out var template, out var error))
            return new FilledIn(text, Fault(error));
        var byName = facts.ByName();
        string? unknown = null;
        var options = new TemplateOptions
        {
            MaxSteps = 10_000,
            MaxRecursion = 20,
            StrictFilters = true,
            CultureInfo = CultureInfo.InvariantCulture,
        };
        options.Undefined = name =>
        {
            unknown ??= name;
            return new ValueTask<Fluid.Values.FluidValue>(Fluid.Values.NilValue.Instance);
        };
        var context = new TemplateContext(options);
        foreach (var (name, value) in byName)
            context.SetValue(name, value);
        try
        {
            var filled = template.Render(context);
            return unknown is null
                ? new FilledIn(filled, null)
                : new FilledIn(text, At(text, unknown, $"There is no fill-in “{unknown}”. There are: {string.Join(", ", byName.Keys)}."));
        }
        catch (Exception wrong) when (wrong is not OutOfMemoryException)
        {
            // A division by nothing, a number too large: whatever a text asks for, the sheet stands.
            return new FilledIn(text, new FillInFault(0, 0, wrong.Message.TrimEnd('.') + "."));
        }
    }

    /// <summary>How deep brackets and conditions may stand one inside the other, and how long one fill-in may be.</summary>
    private const int Deepest = 12,
        LongestTag = 400;

    /// <summary>Why a text would be more than the reader of fill-ins can hold; null when it isn't.</summary>
    private static FillInFault? TooDeep(string text)
    {
        var (brackets, conditions) = (0, 0);
        foreach (Match tag in Tag().Matches(text))
        {
            if (tag.Length > LongestTag)
                return At(text, tag.Index, $"A fill-in has at most {LongestTag} characters.");
            brackets = 0;
            foreach (var c in tag.Value)
                if (c is '(' or '[' && ++brackets > Deepest)
                    return At(text, tag.Index, $"Brackets stand at most {Deepest} deep.");
                else if (c is ')' or ']')
                    brackets--;
            var word = Condition().Match(tag.Value).Groups[1].Value;
            if (word.StartsWith("end", StringComparison.Ordinal))
                conditions--;
            else if (word.Length > 0 && ++conditions > Deepest)
                return At(text, tag.Index, $"Conditions stand at most {Deepest} deep.");
        }
        // An opening that is never closed would be read to the end of the text, over and over.
        return text.Split("{{").Length + text.Split("{%").Length > 2_000
            ? new FillInFault(0, 0, "There are more than 2,000 fill-ins in it.")
            : null;
    }

    private static FillInFault At(string text, int at, string reason)
    {
        var before = text.AsSpan(0, at);
        return new FillInFault(before.Count('\n') + 1, at - before.LastIndexOf('\n'), reason);
    }

    [GeneratedRegex(@"\{\{(?:(?!\}\}).){0,500}(?:\}\})?|\{%(?:(?!%\}).){0,500}(?:%\})?", RegexOptions.Singleline)]
    private static partial Regex Tag();

    [GeneratedRegex(@"^\{%-?\s*((?:end)?(?:if|unless|case|capture|comment|raw))\b")]
    private static partial Regex Condition();

    private static FillInFault At(string text, string name, string reason)
    {
        var at = Regex.Match(text, $@"\{{[\{{%][^}}]*?\b{Regex.Escape(name)}\b") is { Success: true } found ? found.Index : 0;
        return At(text, at, reason);
    }

    /// <summary>The parser says: what it expected at (line:column), then the source.</summary>
    private static FillInFault Fault(string error)
    {
        var place = Place().Match(error);
        var reason = error.Split('\n')[0];
        return place.Success
            ? new FillInFault(
                int.Parse(place.Groups[1].Value, CultureInfo.InvariantCulture),
                int.Parse(place.Groups[2].Value, CultureInfo.InvariantCulture),
                reason.Replace(place.Value, "", StringComparison.Ordinal).Trim().TrimEnd('.') + "."
            )
            : new FillInFault(0, 0, reason);
    }

    [GeneratedRegex(@"\s*at \((\d+):(\d+)\)")]
    private static partial Regex Place();
}
