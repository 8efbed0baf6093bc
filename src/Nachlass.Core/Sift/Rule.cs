using System.Text.Json.Serialization;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Sift;

/// <summary>The number of a rule.</summary>
public readonly record struct RuleNumber(int Value) : INumber<RuleNumber>
{
    public static RuleNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out RuleNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>After what a rule looks at a slip: when it has come in by any door, or when it was kept.</summary>
public enum RuleWhen
{
    Caught,
    Kept,
}

/// <summary>What a rule does with a slip that meets it.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "act")]
[JsonDerivedType(typeof(Start), "start")]
[JsonDerivedType(typeof(MakeReady), "ready")]
[JsonDerivedType(typeof(Sort), "sort")]
[JsonDerivedType(typeof(Keep), "keep")]
[JsonDerivedType(typeof(Drop), "drop")]
public abstract record RuleAct
{
    private protected RuleAct() { }

    /// <summary>Starts a piece with the slip as its first material.</summary>
    /// <param name="Format">Key of the format; the slip's own when null, and an essay when it has none.</param>
    public sealed record Start(string? Format = null) : RuleAct;

    /// <summary>Makes a piece whose text is the slip's own, ready to go out.</summary>
    /// <param name="Format">Key of the format; the slip's own when null, and a thread when it has none.</param>
    public sealed record MakeReady(string? Format = null) : RuleAct;

    /// <summary>Gives topics, a kind, or both.</summary>
    public sealed record Sort(IReadOnlyList<string>? Topics = null, SlipKind? Kind = null) : RuleAct;

    /// <summary>Keeps it, so that it does not wait.</summary>
    public sealed record Keep : RuleAct;

    /// <summary>Drops it, so that it does not wait.</summary>
    public sealed record Drop : RuleAct;
}

/// <summary>What follows by itself from a decision, or from a slip's coming in.</summary>
public sealed record Rule
{
    public const int LongestName = 120;

    public RuleNumber Number { get; init; }
    public required string Name { get; init; }
    public RuleWhen When { get; init; }

    /// <summary>Which slips it is for, as a query.</summary>
    public required string Query { get; init; }

    public required RuleAct Act { get; init; }
    public bool IsOn { get; init; }
    public int Version { get; init; }

    /// <summary>The rule, if it can be kept.</summary>
    /// <param name="formats">The formats there are; not looked at when null.</param>
    /// <exception cref="BadInputException">It has no name, its query can't be read or asks for everything, or what it does makes no
    /// sense.</exception>
    public Rule Checked(FormatSet? formats = null)
    {
        var reading = QueryReader.Read(Query);
        if (reading.Problem is { } problem)
            throw new BadInputException("query", $"{problem.Message} (at character {problem.At + 1})");
        if (reading.Query is Query.Everything)
            throw new BadInputException("query", "Say for which slips: a rule for all of them would leave nothing to decide.");
        switch (Act)
        {
            case RuleAct.Start { Format: { } format }:
                formats?.Named(format);
                break;
            case RuleAct.MakeReady { Format: { } format }:
                formats?.Named(format);
                break;
            case RuleAct.Sort { Kind: null, Topics: null or { Count: 0 } }:
                throw new BadInputException("act", "Say which topics or which kind it gives.");
            case RuleAct.Sort { Topics: { } topics }:
                foreach (var topic in topics)
                    TopicName.Clean(topic, "act");
                break;
            case RuleAct.Keep when When == RuleWhen.Kept:
                throw new BadInputException("act", "What was kept needs no keeping.");
            case null:
                throw new BadInputException("act", "Say what it does.");
        }
        return this with { Name = Check.Text("name", Name, LongestName), Query = reading.Query!.ToString() };
    }

    /// <summary>What it would do with a slip, in words.</summary>
    public string Would(Slip slip, FormatSet formats) =>
        Act switch
        {
            RuleAct.Start start =>
                $"start a piece: {(formats.Find(start.Format ?? slip.FirstFormat) ?? formats.First).Name.ToLowerInvariant()}",
            RuleAct.MakeReady ready =>
                $"make it ready to go out: {(formats.Find(ready.Format ?? slip.FirstFormat) ?? formats.ForPosts).Name.ToLowerInvariant()}",
            RuleAct.Sort sort => string.Join(
                ", ",
                (sort.Topics ?? [])
                    .Select(t => "topic " + t)
                    .Concat(sort.Kind is { } kind ? ["a " + kind.ToString().ToLowerInvariant()] : [])
            ),
            RuleAct.Keep => "keep it",
            _ => "drop it",
        };
}
