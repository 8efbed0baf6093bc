using System.Collections.Concurrent;
using System.Globalization;
using System.Text.RegularExpressions;
using Fluid;

namespace Nachlass.Core.Text;

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

    private static FluidParser MakeParser()
    {
        var parser = new FluidParser();
        foreach (var tag in (string[])["for", "tablerow", "cycle", "include", "render", "increment", "decrement"])
            parser.RegisteredTags.Remove(tag);
        return parser;
    }

    /// <summary>What was read of texts, since the same few are filled in over and over; never more than <see cref="MostKept"/>.</summary>
    private static readonly ConcurrentDictionary<string, (IFluidTemplate? Template, FillInFault? Fault)> Kept = new();
    private const int MostKept = 256,
        LongestKept = 4_000;

    /// <summary>The first name that stands for nothing, in what this thread fills in.</summary>
    [ThreadStatic]
    private static string? unknown;

    private static readonly TemplateOptions Options = new()
    {
        MaxSteps = 10_000,
        MaxRecursion = 20,
        StrictFilters = true,
        CultureInfo = CultureInfo.InvariantCulture,
        Undefined = name =>
        {
            unknown ??= name;
            return new ValueTask<Fluid.Values.FluidValue>(Fluid.Values.NilValue.Instance);
        },
    };

    private static (IFluidTemplate?, FillInFault?) Read(string text) =>
        TooDeep(text) is { } deep ? (null, deep)
        : Parser.TryParse(text, out var template, out var error) ? (template, null)
        : (null, Fault(error));

    /// <summary>The text with its fill-ins replaced by what they stand for. Never throws for anything written in it.</summary>
    /// <param name="text">The text.</param>
    /// <param name="facts">What can be filled in, by name.</param>
    public static FilledIn Fill(string text, IReadOnlyDictionary<string, object> facts)
    {
        if (!text.Contains('{', StringComparison.Ordinal))
            return new FilledIn(text, null);
        var (template, wrongIn) = text.Length > LongestKept ? Read(text) : Kept.GetOrAdd(text, Read);
        if (Kept.Count > MostKept)
            Kept.Clear();
        if (template is null)
            return new FilledIn(text, wrongIn);
        unknown = null;
        var context = new TemplateContext(Options);
        foreach (var (name, value) in facts)
            context.SetValue(name, value);
        try
        {
            var filled = template.Render(context);
            return unknown is null
                ? new FilledIn(filled, null)
                : new FilledIn(text, At(text, unknown, $"There is no fill-in “{unknown}”. There are: {string.Join(", ", facts.Keys)}."));
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
