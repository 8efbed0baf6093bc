using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>What makes a format one that pieces can be made of.</summary>
public static partial class FormatRules
{
    public const int LongestName = 60,
        LongestText = 20_000,
        MostStages = 20,
        MostParts = 200,
        MostHours = 1_000,
        MostAtOnce = 999;

    /// <summary>A format as it is kept: trimmed, its sections, steps, fields and side texts with numbers and keys of their own.</summary>
    /// <param name="format">The format as it was written.</param>
    /// <param name="before">The format as it stood; null for a new one. Numbers go on from it, so that none is given twice.</param>
    /// <exception cref="BadInputException">Something in it makes no sense; the message says what and where.</exception>
    public static Format Checked(Format format, Format? before = null)
    {
        format = format with
        {
            Stages = format.Stages ?? [],
            Hours = format.Hours ?? [],
            Skeleton = format.Skeleton ?? [],
            Later = format.Later ?? [],
            Beats = format.Beats ?? [],
            Fields = format.Fields ?? [],
            Steps = format.Steps ?? [],
            SideTexts = format.SideTexts ?? [],
            Folders = format.Folders ?? [],
            TitlePlaces = format.TitlePlaces ?? [],
            Most = format.Most ?? new Dictionary<string, int>(),
        };
        var name = Check.Text("name", format.Name, LongestName);
        var stages = Stages(format.Stages);
        if (format.Hours.Count > 0 && format.Hours.Count != stages.Count)
            throw new BadInputException("hours", "There is a number of hours for each stage.");
        if (format.Hours.Any(h => !(h is >= 0 and <= MostHours)))
            throw new BadInputException("hours", $"Usual hours are from 0 to {MostHours:N0}.");
        if (format.Most.Values.Any(most => most is < 1 or > MostAtOnce))
            throw new BadInputException("most", $"So many pieces at a stage are from 1 to {MostAtOnce}.");
        var next = Math.Max(Highest(format), before is null ? 0 : Highest(before));
        var given = new HashSet<int>();
        int Number(int own) => own > 0 && given.Add(own) ? own : ++next;
        var beats = Words("beats", format.Beats);
        var fields = Fields(format.Fields);
        var sideTexts = SideTexts(format.SideTexts);
        return format with
        {
            Name = name,
            Stages = stages,
            Hours = format.Hours.Count == 0 ? [.. stages.Select(_ => 0.0)] : format.Hours,
            Most = format.Most.Where(m => stages.Contains(m.Key)).ToDictionary(),
            Skeleton = Sections("skeleton", format.Skeleton, Number),
            Later = Sections("later", format.Later, Number),
            Beats = [.. beats.Concat(format.Skeleton.Concat(format.Later).Select(s => s.Beat.Trim())).Where(b => b.Length > 0).Distinct()],
            Limits = Limits(format.Limits),
            Fields = fields,
            Steps =
            [
                .. Few("steps", format.Steps)
                    .Select(step =>
                        step with
                        {
                            Stage = stages.Contains(step.Stage.Trim())
                                ? step.Stage.Trim()
                                : throw new BadInputException(
                                    "steps",
                                    $"The step “{step.Text}” is for a stage “{step.Stage}” that there is not."
                                ),
                            Text = Check.Text("steps", step.Text, 500),
                            Instructions = Check.Length("steps", step.Instructions, LongestText).Trim(),
                            Address = Check.WebAddress("steps", step.Address),
                            Who = Check.Length("steps", step.Who, 200).Trim(),
                            Number = Number(step.Number),
                        }
                    ),
            ],
            SideTexts = sideTexts,
            TitlePattern = Pattern("titlePattern", format.TitlePattern, 300, fields),
            Template = Pattern("template", format.Template, LongestText, fields),
            Folders = Folders(format.Folders),
            TitlePlaces =
            [
                .. Few("titlePlaces", format.TitlePlaces)
                    .Select(place =>
                        place.Most is > 0 and <= TitleLook.Longest
                            ? place with
                            {
                                Name = Check.Text("titlePlaces", place.Name, LongestName),
                            }
                            : throw new BadInputException(
                                "titlePlaces",
                                $"“{place.Name}” shows from 1 to {TitleLook.Longest} characters of a title."
                            )
                    ),
            ],
        };
    }

    private static IReadOnlyList<T> Few<T>(string field, IReadOnlyList<T> all) =>
        all.Count <= MostParts ? all : throw new BadInputException(field, $"There can be {MostParts} of them.");

    private static int Highest(Format format) =>
        format.Skeleton.Concat(format.Later).Select(s => s.Number).Concat(format.Steps.Select(s => s.Number)).DefaultIfEmpty(0).Max();

    private static List<string> Stages(IReadOnlyList<string> stages)
    {
        var named = stages.Select(s => Check.Text("stages", s, LongestName)).ToList();
        if (named.Count is < 2 or > MostStages)
            throw new BadInputException("stages", $"A format has from 2 to {MostStages} stages; at the last one a piece is out.");
        if (named.Distinct(StringComparer.OrdinalIgnoreCase).Count() != named.Count)
            throw new BadInputException("stages", "Two stages have the same name.");
        return named;
    }

    private static IReadOnlyList<string> Words(string field, IReadOnlyList<string> words) =>
        [.. Few(field, words).Select(w => Check.Text(field, w, LongestName)).Distinct(StringComparer.OrdinalIgnoreCase)];

    private static List<SkeletonSection> Sections(string field, IReadOnlyList<SkeletonSection> sections, Func<int, int> number)
    {
        var kept = new List<SkeletonSection>();
        foreach (var section in Few(field, sections))
        {
            if (section.Aim is < 0 or > Section.MostAim)
                throw new BadInputException(field, $"The aim of “{section.Title}” is from 0 to {Section.MostAim:N0} words.");
            kept.Add(
                new SkeletonSection(
                    Check.Text(field, section.Title.Replace('\n', ' '), Section.LongestTitle),
                    Check.Length(field, section.Beat, LongestName).Trim(),
                    section.Aim == 0 ? null : section.Aim,
                    // A section can't lie deeper than one step below the one before it.
                    Math.Clamp(section.Depth, 1, Math.Min(DraftText.Deepest, (kept.Count == 0 ? 0 : kept[^1].Depth) + 1)),
                    number(section.Number)
                )
            );
        }
        return kept;
    }

    private static FormatLimits Limits(FormatLimits? limits)
    {
        if (limits is null)
            return FormatLimits.None;
        foreach (var limit in (Limit?[])[limits.Part, limits.Whole])
            Sensible("limits", limit);
        if (limits.LinkLength is < 1 or > 1_000)
            throw new BadInputException("limits", "A link counts as 1 to 1,000 characters.");
        return limits;
    }

    private static void Sensible(string field, Limit? limit)
    {
        if (limit is { Most: < 1 or > 10_000_000 })
            throw new BadInputException(field, "A limit is at least 1.");
    }

    private static List<OwnField> Fields(IReadOnlyList<OwnField> fields)
    {
        var keys = new HashSet<string>();
        var kept = new List<OwnField>();
        foreach (var field in Few("fields", fields))
        {
            var name = Check.Text("fields", field.Name, LongestName);
            if (kept.Any(other => other.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
                throw new BadInputException("fields", $"Two fields are called “{name}”.");
            var choices = field.Kind == FieldKind.Choice ? Words("fields", field.Choices ?? []) : null;
            if (field.Kind == FieldKind.Choice && choices!.Count == 0)
                throw new BadInputException("fields", $"Say what can be chosen for “{name}”.");
            kept.Add(new OwnField(Unique(keys, field.Key, name), name, field.Kind, choices, field.OnRow));
        }
        foreach (var field in kept)
            if (PieceFacts.Taken.Contains(field.Key))
                throw new BadInputException("fields", $"“{field.Name}” is filled in as something else already; call the field otherwise.");
        return kept;
    }

    private static List<SideText> SideTexts(IReadOnlyList<SideText> sideTexts)
    {
        var keys = new HashSet<string>();
        var kept = new List<SideText>();
        foreach (var text in Few("sideTexts", sideTexts))
        {
            var name = Check.Text("sideTexts", text.Name, LongestName);
            if (kept.Any(other => other.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
                throw new BadInputException("sideTexts", $"Two side texts are called “{name}”.");
            Sensible("sideTexts", text.Limit);
            kept.Add(new SideText(Unique(keys, text.Key, name), name, text.Limit));
        }
        return kept;
    }

    private static string Unique(HashSet<string> keys, string? own, string name)
    {
        var key = own is not null && KeyForm().IsMatch(own) ? own : KeyOf(name);
        for (var more = 2; !keys.Add(key); more++)
            key = $"{KeyOf(name)}_{more}";
        return key;
    }

    private const string Accented = "àáâãäåçèéêëìíîïñòóôõöøùúûüýÿß",
        Plain = "aaaaaaceeeeiiiinoooooouuuuyys";

    /// <summary>The key of a format: its own where it can be one, else made of its name.</summary>
    public static string KeyFor(Format format) => KeyForm().IsMatch(format.Key) ? format.Key : KeyOf(format.Name);

    /// <summary>A key made of a name: small letters and digits, with underscores between.</summary>
    public static string KeyOf(string name)
    {
        var key = new StringBuilder();
        foreach (var letter in name.ToLowerInvariant())
        {
            // There are no tables of Unicode here to take accents off; these are the letters of Latin 1.
            var c = Accented.IndexOf(letter, StringComparison.Ordinal) is >= 0 and var at ? Plain[at] : letter;
            if (char.IsAsciiLetterOrDigit(c))
                key.Append(char.ToLowerInvariant(c));
            else if (key.Length > 0 && key[^1] != '_' && (char.IsWhiteSpace(c) || c is '-' or '_' or '/' or '’' or '\''))
                key.Append('_');
        }
        var made = key.ToString().Trim('_');
        made = made.Length > 40 ? made[..40].Trim('_') : made;
        return made.Length == 0 ? "field"
            : char.IsAsciiDigit(made[0]) ? "n" + made
            : made;
    }

    /// <summary>A text with fill-ins, if they can be filled.</summary>
    /// <param name="fields">Own fields that can be filled in besides.</param>
    public static string Pattern(string field, string? pattern, int longest, IReadOnlyList<OwnField> fields)
    {
        var text = Check.Length(field, pattern, longest).Trim();
        if (FillIn.Fill(text, PieceFacts.Sample(fields).ByName()).Fault is { } fault)
            throw new BadInputException(
                field,
                fault.Line == 0 ? fault.Reason : $"{fault.Reason} (line {fault.Line}, character {fault.Column})"
            );
        return text;
    }

    /// <summary>Names of folders, if the disk can have them.</summary>
    public static IReadOnlyList<string> Folders(IReadOnlyList<string> folders)
    {
        var kept = new List<string>();
        foreach (var folder in Few("folders", folders))
        {
            var name = Check.Text("folders", folder, LongestName);
            if (!FolderForm().IsMatch(name) || name is "." or "..")
                throw new BadInputException("folders", $"“{name}” can't be a folder’s name: letters, digits, spaces, - and _ can.");
            if (kept.Contains(name, StringComparer.OrdinalIgnoreCase))
                throw new BadInputException("folders", $"Two folders are called “{name}”.");
            kept.Add(name);
        }
        return kept;
    }

    [GeneratedRegex(@"^[a-z][a-z0-9_]{0,45}$")]
    private static partial Regex KeyForm();

    [GeneratedRegex(@"^[\p{L}\p{N}][\p{L}\p{N} _-]*$")]
    private static partial Regex FolderForm();
}
