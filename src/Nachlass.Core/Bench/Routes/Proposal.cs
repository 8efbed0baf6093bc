using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Routes;

/// <summary>A slip that a proposal has to find a place for.</summary>
/// <param name="Order">Its place in its source.</param>
/// <param name="IsTied">Whether it is of the piece's material; else it would fit.</param>
public sealed record ToPlace(SlipNumber Slip, string Text, SlipKind Kind, SourceNumber? Source, double Order, bool IsTied);

/// <summary>A slip in the place that is proposed for it.</summary>
/// <param name="Words">Words it shares with the section, as they stand in it, the most telling first.</param>
/// <param name="Why">What else speaks for the place: its kind, the order of its source; empty when the words say it.</param>
public sealed record Placement(SlipNumber Slip, IReadOnlyList<string> Words, string Why, bool IsTied);

/// <summary>A line of a proposal: a section with what would be laid into it.</summary>
/// <param name="Key">By which it is taken: it is the same as long as the proposal is.</param>
/// <param name="Section">The section that is there; null for a new one.</param>
/// <param name="Title">Its title, or the one a new section would have.</param>
/// <param name="Beat">The beat a new one would have.</param>
/// <param name="Aim">Words a new one would have.</param>
/// <param name="Before">The section it would stand before, for one that is new or would be moved; at the end when null.</param>
/// <param name="IsMoved">Whether a section that is there would be moved.</param>
/// <param name="Slips">What would be laid in, in order.</param>
public sealed record ProposedSection(
    string Key,
    SectionNumber? Section,
    string Title,
    string Beat,
    int? Aim,
    SectionNumber? Before,
    bool IsMoved,
    IReadOnlyList<Placement> Slips
)
{
    /// <summary>Whether it would stay as it is.</summary>
    public bool IsAsItIs => Section is not null && !IsMoved && Slips.Count == 0;
}

/// <summary>What the material proposes.</summary>
/// <param name="Sections">In the order they would stand in.</param>
/// <param name="Left">Slips that no place is found for.</param>
public sealed record Proposal(IReadOnlyList<ProposedSection> Sections, IReadOnlyList<SlipNumber> Left);

/// <summary>Lays material along an outline and the beats of its format. The same outline and material always give the same proposal, and
/// each slip stands in it once.</summary>
/// <remarks>
/// Sections and slips are TF-IDF vectors over stems; a slip goes to the section nearest by cosine where that is near enough (a Rocchio
/// classifier: Manning, Raghavan and Schütze, <i>Introduction to Information Retrieval</i> (2008), section 14.2). What is near to none is
/// put together by <see cref="Clusters"/>; a group becomes a section for a beat that is missing, by the kinds of its slips, and stands
/// where that beat comes. Within a section slips keep the order of their source.
/// </remarks>
public static class Proposals
{
    /// <summary>From this cosine on a slip goes to a section; what is not of the material has to be nearer.</summary>
    public const double Near = 0.1,
        NearFromOutside = 0.14;

    /// <summary>Slips nearer to each other than this may be a section together.</summary>
    public const double Together = 0.085;

    private const int MostWords = 3,
        TitleWeight = 2,
        LongestTitle = 60;

    /// <param name="outline">The outline as it is.</param>
    /// <param name="placed">Texts of what is placed in each section already.</param>
    /// <param name="slips">What has no place yet.</param>
    /// <param name="format">The format, for its beats.</param>
    public static Proposal Of(Outline outline, ILookup<SectionNumber, string> placed, IReadOnlyList<ToPlace> slips, Format format)
    {
        var items = slips.DistinctBy(s => s.Slip).OrderBy(s => s.Slip.Value).ToList();
        var sections = outline.Sections;
        var stems = sections
            .Select(s =>
                Enumerable
                    .Repeat(s.Title, TitleWeight)
                    .Append(PlainText.Of(s.Part.Body))
                    .Concat(placed[s.Number!.Value].Select(PlainText.Of))
                    .SelectMany(Stems.Of)
                    .ToList()
            )
            .Concat(items.Select(i => Stems.Of(PlainText.Of(i.Text))))
            .ToList();
        var vectors = Clusters.Weighed(stems);
        var laid = sections.Select(_ => new List<int>()).ToList();
        var loose = new List<int>();
        for (var i = 0; i < items.Count; i++)
        {
            var (best, likeness) = (-1, items[i].IsTied ? Near : NearFromOutside);
            for (var s = 0; s < sections.Count; s++)
                if (
                    Clusters.Product(vectors[s], vectors[sections.Count + i]) is var near
                    && near >= likeness
                    && (best < 0 || near > likeness)
                )
                    (best, likeness) = (s, near);
            if (best < 0)
                loose.Add(i);
            else
                laid[best].Add(i);
        }
        var (groups, left) = Groups();
        var beats = format.Beats.ToList();
        var missing = RouteFinder.MissingBeats(sections, format).ToList();
        var made = new List<ProposedSection>();
        // The group that fits a missing beat best takes it, and so on.
        var free = groups.ToList();
        foreach (
            var (group, beat) in groups
                .SelectMany(g => missing.Select(m => (Group: g, Beat: m)))
                .OrderByDescending(p => Suits(p.Group, p.Beat.Beat))
                .ThenBy(p => missing.IndexOf(p.Beat))
                .ThenBy(p => p.Group[0])
        )
        {
            if (!free.Contains(group) || made.Any(m => m.Beat == beat.Beat))
                continue;
            free.Remove(group);
            made.Add(New(group, beat.Beat, beat.Aim, beat.Before));
        }
        foreach (var group in free)
            made.Add(New(group, "", null, BehindNearest(group)));
        return new Proposal(Ordered(), [.. left.Select(i => items[i].Slip)]);

        (List<List<int>> Groups, List<int> Left) Groups()
        {
            var near = Clusters.Likenesses([.. loose.Select(i => vectors[sections.Count + i])]);
            var all = Clusters.Of(near, loose.Count, Together).Select(g => g.Select(m => loose[m]).Order().ToList()).ToList();
            // Without any outline a single slip may begin one.
            bool IsSection(List<int> g) => g.Count > 1 || sections.Count == 0;
            return ([.. all.Where(IsSection).OrderBy(g => g[0])], [.. all.Where(g => !IsSection(g)).SelectMany(g => g).Order()]);
        }

        double Suits(List<int> group, string beat) => group.Average(i => Affinity(items[i].Kind, beat));

        ProposedSection New(List<int> group, string beat, int? aim, SectionNumber? before)
        {
            var members = group.Select(i => vectors[sections.Count + i]).ToList();
            var centre = members.SelectMany(v => v).GroupBy(t => t.Key).ToDictionary(g => g.Key, g => g.Sum(t => t.Value) / members.Count);
            var middle = group.OrderByDescending(i => Clusters.Product(vectors[sections.Count + i], centre)).ThenBy(i => i).First();
            var title =
                TitleOffers.Of(items[middle].Text, null, []).FirstOrDefault(o => o.Title.Length <= LongestTitle)?.Title
                ?? Clusters.NameOf(centre, group.SelectMany(i => stems[sections.Count + i]));
            return new ProposedSection("new:" + items[group[0]].Slip, null, title, beat, aim, before, false, Laid(group, centre, beat));
        }

        // Behind the section it is nearest to, however far that is.
        SectionNumber? BehindNearest(List<int> group)
        {
            if (sections.Count == 0)
                return null;
            var nearest = Enumerable
                .Range(0, sections.Count)
                .OrderByDescending(s => group.Sum(i => Clusters.Product(vectors[s], vectors[sections.Count + i])))
                .ThenBy(s => s)
                .First();
            return sections.Skip(nearest + 1).FirstOrDefault(s => s.Depth <= sections[nearest].Depth)?.Number;
        }

        List<Placement> Laid(List<int> group, Dictionary<string, double> with, string beat)
        {
            var firstOf = group.GroupBy(i => items[i].Source?.Value ?? -items[i].Slip.Value).ToDictionary(g => g.Key, g => g.Min());
            return
            [
                .. group
                    .OrderBy(i => firstOf[items[i].Source?.Value ?? -items[i].Slip.Value])
                    .ThenBy(i => items[i].Order)
                    .ThenBy(i => i)
                    .Select(i => new Placement(
                        items[i].Slip,
                        Shared(sections.Count + i, with),
                        Why(items[i], beat, items[i].Source is { } s && group.Count(o => items[o].Source == s) > 1),
                        items[i].IsTied
                    )),
            ];
        }

        IReadOnlyList<string> Shared(int item, Dictionary<string, double> with) =>
            [
                .. vectors[item]
                    .Where(t => with.ContainsKey(t.Key))
                    .OrderByDescending(t => t.Value * with[t.Key])
                    .ThenBy(t => t.Key, StringComparer.Ordinal)
                    .Take(MostWords)
                    .Select(t => stems[item].First(s => s.Root == t.Key).Word),
            ];

        List<ProposedSection> Ordered()
        {
            var lines = new List<ProposedSection>();
            var moves = Moves(sections, beats);
            for (var s = 0; s < sections.Count; s++)
            {
                lines.AddRange(made.Where(m => m.Before == sections[s].Number));
                var isMoved = moves.TryGetValue(s, out var before);
                lines.Add(
                    new ProposedSection(
                        "section:" + sections[s].Number,
                        sections[s].Number,
                        sections[s].Title,
                        sections[s].Beat,
                        sections[s].Aim,
                        isMoved ? before : null,
                        isMoved,
                        Laid(laid[s], vectors[s], sections[s].Beat)
                    )
                );
            }
            lines.AddRange(made.Where(m => m.Before is null));
            return lines;
        }
    }

    /// <summary>How well a kind of slip does the job of a beat, 0 to 1: passages prove, questions open a problem, thoughts claim and
    /// turn.</summary>
    internal static double Affinity(SlipKind kind, string beat) =>
        (beat, kind) switch
        {
            ("proof" or "evidence" or "example" or "case", SlipKind.Quote or SlipKind.Takeaway) => 1,
            ("counter", SlipKind.Quote or SlipKind.Takeaway) => 0.6,
            ("problem" or "question" or "hook", SlipKind.Question or SlipKind.Ask) => 1,
            ("claim" or "turn" or "landing", SlipKind.Idea or SlipKind.Note) => 0.8,
            ("opening", SlipKind.Idea or SlipKind.Quote) => 0.5,
            _ => 0.2,
        };

    private static string Why(ToPlace item, string beat, bool hasOrder)
    {
        var reasons = new List<string>();
        if (beat.Length > 0 && Affinity(item.Kind, beat) >= 0.6)
            reasons.Add(
                $"{(item.Kind is SlipKind.Idea or SlipKind.Ask ? "an" : "a")} {item.Kind.ToString().ToLowerInvariant()} for the {beat}"
            );
        if (hasOrder)
            reasons.Add($"in the order of source {item.Source}");
        return string.Join("; ", reasons);
    }

    /// <summary>Top sections whose beat comes earlier in the format than that of one before them, with where they would stand.</summary>
    private static Dictionary<int, SectionNumber?> Moves(IReadOnlyList<Section> sections, List<string> beats)
    {
        var moves = new Dictionary<int, SectionNumber?>();
        var stays = new List<(int At, int Beat)>();
        for (var at = 0; at < sections.Count; at++)
        {
            var beat = beats.IndexOf(sections[at].Beat);
            if (beat < 0 || sections[at].Depth > 1)
                continue;
            var later = stays.FirstOrDefault(s => s.Beat > beat, (At: -1, Beat: 0));
            if (later.At >= 0)
                moves[at] = sections[later.At].Number;
            else
                stays.Add((at, beat));
        }
        return moves;
    }
}
