using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Routes;

/// <summary>What can be wrong with a route.</summary>
public enum FaultKind
{
    BeatMissing,
    OutOfOrder,
    TooLong,
    TooShort,
    SaysTwice,
    LongStep,
    BeforeItsTime,
    NoMaterial,
    Unused,
    StillOpen,
    NoCall,
}

/// <summary>A place where the route would lose a reader.</summary>
/// <param name="Key">By which it can be set aside; made of its kind and the numbers of what it is about.</param>
/// <param name="Sections">The sections it is about, the one to go to first.</param>
/// <param name="Before">The words before the phrases.</param>
/// <param name="Phrases">Words of the text.</param>
/// <param name="After">The words after them.</param>
/// <param name="At">Where in the draft it is, in UTF-16 units; null where it is nowhere.</param>
/// <param name="IsGrave">Whether it is a fault and not only a doubt.</param>
/// <param name="Slips">Slips it is about.</param>
/// <param name="Beat">The beat that is missing.</param>
/// <param name="SetAside">The reason why it is meant so; null while it stands.</param>
public sealed record Fault(
    FaultKind Kind,
    string Key,
    IReadOnlyList<SectionNumber> Sections,
    string Before,
    IReadOnlyList<string> Phrases,
    string After,
    int? At,
    bool IsGrave,
    IReadOnlyList<SlipNumber> Slips,
    string Beat = "",
    string? SetAside = null
);

/// <summary>A section on the strip.</summary>
/// <param name="Words">Of its own text.</param>
/// <param name="Breadth">What it takes of the strip: its words or its aim, whichever is more, with the sections inside it.</param>
/// <param name="IsAtFault">Whether something is wrong with it or with a section inside it.</param>
public sealed record RouteSection(
    SectionNumber Number,
    string Place,
    string Title,
    int Depth,
    int Words,
    int? Aim,
    int Breadth,
    string Beat,
    bool IsAtFault
);

/// <summary>A beat that no section carries.</summary>
/// <param name="Before">The section before which it would come; null for the end.</param>
/// <param name="Aim">Words its section has in the format.</param>
public sealed record MissingBeat(string Beat, SectionNumber? Before, int? Aim);

/// <summary>A piece as the way a reader goes through it.</summary>
public sealed record Route(IReadOnlyList<RouteSection> Sections, IReadOnlyList<MissingBeat> Missing, IReadOnlyList<Fault> Faults);

/// <summary>What stands beside the text of a piece whose route is looked at.</summary>
/// <param name="Format">Its format; the beats of its skeleton are those the route needs, in the order of its beats.</param>
/// <param name="Loose">Slips of its material that are not placed in a section.</param>
/// <param name="Questions">Questions that are still open.</param>
/// <param name="Call">Its call to action; empty for none.</param>
/// <param name="SetAside">Faults that are meant so, by their keys, with the reason.</param>
public sealed record RouteGround(
    Format Format,
    IReadOnlyList<SlipNumber> Loose,
    IReadOnlyList<SlipNumber> Questions,
    string Call,
    IReadOnlyDictionary<string, string> SetAside
);

/// <summary>Looks through an outline and its draft for the places where a reader would be lost.</summary>
public static class RouteFinder
{
    /// <summary>A section is too long above so much of its aim, and too short under so much once the draft stands from end to end or
    /// it is settled.</summary>
    public const double MostOfAim = 1.1,
        LeastOfAim = 2.0 / 3;

    /// <summary>A section needs no material once so much of its aim is written.</summary>
    public const double WrittenEnough = 0.5;

    public static Route Of(Outline outline, RouteGround ground)
    {
        var sections = outline.Sections;
        var places = Places([.. sections.Select(s => s.Depth)]);
        var texts = sections.Select(s => PlainText.Of(s.Part.Body)).ToList();
        var counted = sections.Select(s => Counts.Of(s.Part.Body).Words).ToList();
        var words = texts.Select(PlacedWords.Of).ToList();
        var starts = new int[sections.Count];
        for (int i = 0, at = outline.Lead.Length; i < sections.Count; at += sections[i].Part.Raw.Length, i++)
            starts[i] = at;
        var missing = MissingBeats(sections, ground.Format);
        var faults = new List<Fault>();
        faults.AddRange(
            missing.Select(m => Made(FaultKind.BeatMissing, m.Beat, [], $"No section is the {m.Beat}", [], "", true) with { Beat = m.Beat })
        );
        faults.AddRange(OutOfOrder());
        faults.AddRange(SaidTwice.In(texts, words).Select(Twice));
        faults.AddRange(Introductions.In(texts).Select(Early));
        faults.AddRange(Unfounded());
        faults.AddRange(Measured());
        faults.AddRange(LongSteps.In(words).Select(Step));
        if (ground.Loose.Count > 0)
            faults.Add(
                Made(
                    FaultKind.Unused,
                    "",
                    [],
                    ground.Loose.Count == 1
                        ? "One slip of the material has no place"
                        : $"{ground.Loose.Count} slips of the material have no place",
                    [],
                    "",
                    false
                ) with
                {
                    Slips = ground.Loose,
                }
            );
        if (ground.Questions.Count > 0)
            faults.Add(
                Made(
                    FaultKind.StillOpen,
                    "",
                    [],
                    ground.Questions.Count == 1 ? "One question is still open" : $"{ground.Questions.Count} questions are still open",
                    [],
                    "",
                    false
                ) with
                {
                    Slips = ground.Questions,
                }
            );
        if (ground.Call.Length > 0 && CallToAction.In(ground.Call, outline.Text) is null)
            faults.Add(Made(FaultKind.NoCall, "", [], "No sentence asks the reader to", [PlainText.Headline(ground.Call)], "", true));
        var all = faults.Select(f => f with { SetAside = ground.SetAside.GetValueOrDefault(f.Key) }).ToList();
        var atFault = all.Where(f => f.SetAside is null && f.IsGrave).SelectMany(f => f.Sections.Take(1)).ToHashSet();
        return new Route([.. sections.Select(Shown)], missing, all);

        RouteSection Shown(Section section, int at)
        {
            var end = EndOf(sections, at);
            var family = Enumerable.Range(at, end - at).ToList();
            return new RouteSection(
                section.Number!.Value,
                places[at],
                section.Title,
                section.Depth,
                counted[at],
                section.Aim,
                family.Sum(i => Math.Max(counted[i], sections[i].Aim ?? 0)),
                section.Beat,
                family.Any(i => atFault.Contains(sections[i].Number!.Value))
            );
        }

        Fault Made(
            FaultKind kind,
            string about,
            IReadOnlyList<int> concerned,
            string before,
            IReadOnlyList<string> phrases,
            string after,
            bool isGrave,
            int? inText = null
        )
        {
            var numbers = concerned.Select(i => sections[i].Number!.Value).ToList();
            var key = string.Join(
                ':',
                numbers.Select(n => n.ToString()).Prepend(kind.ToString()).Append(about).Where(part => part.Length > 0)
            );
            return new Fault(
                kind,
                key,
                numbers,
                before,
                phrases,
                after,
                    // Marks were taken off the text that was searched, so the place is looked for by its words.
                    concerned.Count == 0
                        ? null
                    : inText is { } place ? InDraft(concerned[0], place)
                    : starts[concerned[0]],
                isGrave,
                []
            );
        }

        int InDraft(int section, int place)
        {
            var text = texts[section];
            var word = words[section].FirstOrDefault(w => w.Start >= place);
            if (word.Word is null)
                return starts[section];
            var nth = words[section].Count(w => w.Word == word.Word && w.Start < word.Start);
            var raw = sections[section].Part.Raw;
            var at = sections[section].Part.BodyStart - 1;
            for (var i = 0; i <= nth && at < raw.Length; i++)
            {
                var next = raw.IndexOf(word.Word, at + 1, StringComparison.Ordinal);
                if (next < 0)
                    break;
                at = next;
            }
            return starts[section] + Math.Max(at, 0);
        }

        IEnumerable<Fault> OutOfOrder()
        {
            var beats = sections
                .Select((s, i) => (Section: i, Beat: ground.Format.Beats.ToList().IndexOf(s.Beat)))
                .Where(b => b.Beat >= 0)
                .ToList();
            var inOrder = LongestRising([.. beats.Select(b => b.Beat)]);
            return beats
                .Where((_, i) => !inOrder.Contains(i))
                .Select(b =>
                    Made(
                        FaultKind.OutOfOrder,
                        sections[b.Section].Beat,
                        [b.Section],
                        $"{places[b.Section]} is the {sections[b.Section].Beat}, which comes elsewhere in its format",
                        [],
                        "",
                        false
                    )
                );
        }

        Fault Twice(Repetition r) =>
            Made(
                FaultKind.SaysTwice,
                "",
                [r.Second, r.First],
                $"{places[r.Second]} says again what {places[r.First]} said:",
                r.Phrases,
                "",
                true,
                r.At
            );

        Fault Early(BeforeItsTime b) =>
            Made(
                FaultKind.BeforeItsTime,
                b.Name.ToLowerInvariant(),
                [b.Used, b.Introduced],
                "",
                [b.Name],
                $"stands in {places[b.Used]} and is introduced in {places[b.Introduced]}",
                true,
                b.At
            );

        Fault Step((int From, int To) step) =>
            Made(
                FaultKind.LongStep,
                "",
                [step.To, step.From],
                $"{places[step.From]} and {places[step.To]} share next to nothing; a sentence between them?",
                [],
                "",
                false
            );

        IEnumerable<Fault> Unfounded()
        {
            for (var i = 0; i < sections.Count; i++)
                // A heading that only holds others needs nothing of its own.
                if (
                    sections[i].Material == 0
                    && !(i + 1 < sections.Count && sections[i + 1].Depth > sections[i].Depth)
                    && (sections[i].Aim is { } aim ? counted[i] < aim * WrittenEnough : counted[i] == 0)
                    && !References.In(sections[i].Part.Body).Any(r => r.Thing is not null)
                )
                    yield return Made(FaultKind.NoMaterial, "", [i], $"{places[i]} has no material", [], "", true);
        }

        IEnumerable<Fault> Measured()
        {
            // While it is being written every section is short; that says something only once the draft stands from end to end.
            var isWhole = Enumerable.Range(0, sections.Count).All(i => counted[i] > 0 || EndOf(sections, i) > i + 1);
            for (var i = 0; i < sections.Count; i++)
            {
                if (
                    ground.Format.Limits.Part is { } limit
                    && Measure.Of(sections[i].Part.Body, limit, ground.Format.Limits) is { IsOver: true } over
                )
                {
                    yield return Made(
                        FaultKind.TooLong,
                        "",
                        [i],
                        $"{places[i]} has {over.Has:N0} {over.In.ToString().ToLowerInvariant()} of {over.Most:N0}, and more do not go out",
                        [],
                        "",
                        true
                    );
                    continue;
                }
                if (sections[i].Aim is not > 0 || counted[i] == 0)
                    continue;
                var aim = sections[i].Aim!.Value;
                if (counted[i] > aim * MostOfAim)
                    yield return Made(
                        FaultKind.TooLong,
                        "",
                        [i],
                        $"{places[i]} has {counted[i]:N0} words of {aim:N0}, {100.0 * counted[i] / aim - 100:0} % over its aim",
                        [],
                        "",
                        false
                    );
                else if (counted[i] < aim * LeastOfAim && (isWhole || sections[i].IsSettled))
                    yield return Made(FaultKind.TooShort, "", [i], $"{places[i]} has {counted[i]:N0} words of {aim:N0}", [], "", false);
            }
        }
    }

    /// <summary>"1", "2", "2.1" for sections in order; a depth that is left out makes no hole.</summary>
    public static IReadOnlyList<string> Places(IReadOnlyList<int> depths)
    {
        var at = new List<int>();
        var places = new List<string>();
        foreach (var depth in depths)
        {
            var own = Math.Min(depth, at.Count + 1);
            at.RemoveRange(Math.Min(own, at.Count), Math.Max(0, at.Count - own));
            if (at.Count < own)
                at.Add(0);
            at[own - 1]++;
            places.Add(string.Join('.', at));
        }
        return places;
    }

    /// <summary>The beats of the format's skeleton that no section carries, with where each would come: before the first section whose beat
    /// comes after it.</summary>
    internal static IReadOnlyList<MissingBeat> MissingBeats(IReadOnlyList<Section> sections, Format format)
    {
        var beats = format.Beats.ToList();
        var carried = sections.Select(s => s.Beat).ToHashSet();
        // Whoever gives no section a beat doesn't work with them.
        if (sections.Count > 0 && !beats.Any(carried.Contains))
            return [];
        return
        [
            .. format
                .Skeleton.Where(s => s.Beat.Length > 0 && !carried.Contains(s.Beat))
                .DistinctBy(s => s.Beat)
                .Select(s => new MissingBeat(
                    s.Beat,
                    sections.FirstOrDefault(other => beats.IndexOf(other.Beat) > beats.IndexOf(s.Beat))?.Number,
                    s.Aim
                )),
        ];
    }

    private static int EndOf(IReadOnlyList<Section> sections, int at)
    {
        var end = at + 1;
        while (end < sections.Count && sections[end].Depth > sections[at].Depth)
            end++;
        return end;
    }

    /// <summary>Places of a longest run of numbers that never fall.</summary>
    private static HashSet<int> LongestRising(IReadOnlyList<int> numbers)
    {
        var (length, before) = (new int[numbers.Count], new int[numbers.Count]);
        var best = -1;
        for (var i = 0; i < numbers.Count; i++)
        {
            (length[i], before[i]) = (1, -1);
            for (var j = 0; j < i; j++)
                if (numbers[j] <= numbers[i] && length[j] + 1 > length[i])
                    (length[i], before[i]) = (length[j] + 1, j);
            if (best < 0 || length[i] > length[best])
                best = i;
        }
        var run = new HashSet<int>();
        for (var i = best; i >= 0; i = before[i])
            run.Add(i);
        return run;
    }
}
