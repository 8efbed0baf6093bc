using System.Text.Json.Serialization;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;

namespace Nachlass.Core.Plan;

/// <summary>The number of a rule of a stage.</summary>
public readonly record struct StageRuleNumber(int Value) : INumber<StageRuleNumber>
{
    public static StageRuleNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out StageRuleNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>One thing that follows when a piece comes to a stage. Texts may have fill-ins of the piece: <c>{{ title }}</c>.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "act")]
[JsonDerivedType(typeof(LaySteps), "steps")]
[JsonDerivedType(typeof(MakeMove), "move")]
[JsonDerivedType(typeof(BeginSideText), "sideText")]
[JsonDerivedType(typeof(MakeFolders), "folders")]
[JsonDerivedType(typeof(StartAnother), "another")]
public abstract record StageAct
{
    private protected StageAct() { }

    /// <summary>Lays steps into its checklist, at the stage it came to.</summary>
    public sealed record LaySteps(IReadOnlyList<string>? Steps) : StageAct;

    /// <summary>Makes a move on it.</summary>
    /// <param name="Days">Due so many days after; null for no date.</param>
    public sealed record MakeMove(string? Text, int? Days = null) : StageAct;

    /// <summary>Begins a text beside the draft, where there is none yet.</summary>
    /// <param name="Name">As its format calls it; a piece whose format has none of that name is left alone.</param>
    public sealed record BeginSideText(string? Name, string? Text) : StageAct;

    /// <summary>Makes folders for its files.</summary>
    public sealed record MakeFolders(IReadOnlyList<string>? Names) : StageAct;

    /// <summary>Starts a piece of another format that follows it, with its topics and material: its subject is used again.</summary>
    public sealed record StartAnother(string? Format) : StageAct;
}

/// <summary>What follows by itself when a piece comes to a stage.</summary>
public sealed record StageRule
{
    public const int LongestName = 120,
        MostActs = 10,
        MostLines = 20,
        MostDays = 730;

    public StageRuleNumber Number { get; init; }
    public required string Name { get; init; }

    /// <summary>Key of the format it is for; null for all that have the stage.</summary>
    public string? Format { get; init; }

    public required string Stage { get; init; }

    /// <summary>Which pieces it is for, as a query; empty for all that come there.</summary>
    public string Query { get; init; } = "";

    public required IReadOnlyList<StageAct> Acts { get; init; }
    public bool IsOn { get; init; }
    public int Version { get; init; }

    /// <summary>The rule, if it can be kept.</summary>
    /// <param name="formats">The formats there are; null to keep a rule whose format or stage is not there any more.</param>
    /// <exception cref="BadInputException">It has no name, there is no such stage, its query can't be read, or what it does makes no
    /// sense.</exception>
    public StageRule Checked(FormatSet? formats)
    {
        var stage = Check.Text("stage", Stage, FormatRules.LongestName);
        if (formats is not null)
            stage =
                (Format is null ? formats.All : [formats.Named(Format)])
                    .SelectMany(f => f.Stages)
                    .FirstOrDefault(s => s.Equals(stage, StringComparison.OrdinalIgnoreCase))
                ?? throw new BadInputException("stage", $"There is no stage “{stage}”.");
        var query = "";
        if (!string.IsNullOrWhiteSpace(Query))
        {
            var reading = QueryReader.Read(Query);
            if (reading.Problem is { } problem)
                throw new BadInputException("query", $"{problem.Message} (at character {problem.At + 1})");
            query = reading.Query!.ToString();
        }
        if (Acts is not { Count: > 0 })
            throw new BadInputException("acts", "Say what follows.");
        if (Acts.Count > MostActs)
            throw new BadInputException("acts", $"At most {MostActs} things follow.");
        return this with
        {
            Name = Check.Text("name", Name, LongestName),
            Stage = stage,
            Query = query,
            Acts = [.. Acts.Select(act => Checked(act, formats, Format is null ? [] : formats?.Named(Format).Fields))],
        };
    }

    private static StageAct Checked(StageAct act, FormatSet? formats, IReadOnlyList<OwnField>? fields)
    {
        // What can be filled in is known only where the format is; what can't be is left as it is written.
        string Filled(string field, string? text, int longest) =>
            Check.Text(field, text, longest) is var said && (formats is null || fields is null)
                ? said
                : FormatRules.Pattern(field, said, longest, fields);
        switch (act)
        {
            case StageAct.LaySteps lay:
                return new StageAct.LaySteps([.. Lines("steps", lay.Steps).Select(l => Filled("steps", l, 500))]);
            case StageAct.MakeMove move:
                if (move.Days is < 0 or > MostDays)
                    throw new BadInputException("days", $"A move is due from 0 to {MostDays} days after.");
                return move with { Text = Filled("move", move.Text, Move.LongestText) };
            case StageAct.BeginSideText side:
                return new StageAct.BeginSideText(
                    Check.Text("side text", side.Name, FormatRules.LongestName),
                    Filled("side text", side.Text, FormatRules.LongestText)
                );
            case StageAct.MakeFolders folders:
                return new StageAct.MakeFolders(FormatRules.Folders(Lines("folders", folders.Names)));
            case StageAct.StartAnother another:
                return formats is null ? another : new StageAct.StartAnother(formats.Named(another.Format ?? "").Key);
            default:
                throw new BadInputException("acts", "Say what follows.");
        }
    }

    private static List<string> Lines(string field, IReadOnlyList<string>? lines)
    {
        var said = (lines ?? []).Where(l => !string.IsNullOrWhiteSpace(l)).ToList();
        return said.Count switch
        {
            0 => throw new BadInputException(field, $"The {field} are empty; write one first."),
            > MostLines => throw new BadInputException(field, $"At most {MostLines} of them."),
            _ => said,
        };
    }

    /// <summary>What it would do with a piece, in words.</summary>
    public IReadOnlyList<string> Would(FormatSet formats) => [.. Acts.Select(act => Would(act, formats))];

    private static string Would(StageAct act, FormatSet formats) =>
        act switch
        {
            StageAct.LaySteps { Steps: [var one] } => $"lay in the step “{one}”",
            StageAct.LaySteps lay => $"lay in {lay.Steps!.Count} steps",
            StageAct.MakeMove { Days: null } move => $"make the move “{move.Text}”",
            StageAct.MakeMove { Days: 0 } move => $"make the move “{move.Text}”, due that day",
            StageAct.MakeMove move => $"make the move “{move.Text}”, due {(move.Days == 1 ? "a day" : $"{move.Days} days")} after",
            StageAct.BeginSideText side => $"begin its {side.Name!.ToLowerInvariant()}",
            StageAct.MakeFolders folders => $"make the folders {string.Join(", ", folders.Names!)}",
            StageAct.StartAnother another =>
                $"start a piece that follows it: {(formats.Find(another.Format)?.Name ?? another.Format!).ToLowerInvariant()}",
            _ => "",
        };
}
