using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>Tells which heading of a rewritten draft is which section.</summary>
internal sealed class Recognising
{
    /// <summary>Most gone sections that are kept beside a piece; past that the oldest are let go.</summary>
    private const int MostGone = 200;

    private readonly Outline before;
    private readonly IReadOnlyList<DraftPart> parts;
    private readonly Section?[] match;
    private readonly List<Section> left;
    private readonly List<Section> gone;

    public Recognising(Outline before, IReadOnlyList<DraftPart> parts)
    {
        (this.before, this.parts) = (before, parts);
        match = new Section?[parts.Count];
        left = [.. before.Sections];
        gone = [.. before.Gone];
    }

    /// <summary>The sections, each with its heading and text of now.</summary>
    public IReadOnlyList<Section> Found() => [.. parts.Select((part, i) => (match[i] ?? new Section(null, part)) with { Part = part })];

    /// <summary>The sections that are not in the text. One on which nothing ever hung and that was empty is no loss.</summary>
    public IReadOnlyList<Section> Left() =>
        [
            .. left.Concat(gone)
                .Where(s => s.Number is not null && (!s.IsBare || s.Part.Body.Trim().Length > 0))
                .DistinctBy(s => s.Number)
                .Take(MostGone),
        ];

    /// <summary>By the places an editor followed. A section that is called gone may have come back under the hand.</summary>
    public void ByAnchor(int lead, IReadOnlyList<Anchor> anchors)
    {
        var known = left.Concat(gone).Where(s => s.Number is not null).DistinctBy(s => s.Number).ToDictionary(s => s.Number!.Value);
        ByStart(lead, anchors.Where(a => known.ContainsKey(a.Section)).Select(a => (known[a.Section], a.Start)));
    }

    /// <summary>By the places where the sections are known to begin.</summary>
    public void ByStart(int lead, IEnumerable<(Section Section, int Start)> places)
    {
        var at = lead;
        var starts = new Dictionary<int, int>();
        for (var i = 0; i < parts.Count; i++)
        {
            starts[at] = i;
            at += parts[i].Raw.Length;
        }
        var taken = new HashSet<SectionNumber>();
        foreach (var (section, start) in places)
            if (starts.TryGetValue(start, out var i) && match[i] is null && (section.Number is not { } number || taken.Add(number)))
                Take(i, section);
    }

    /// <summary>By title and text, by title, by text, and by place.</summary>
    public void ByLikeness()
    {
        Pair(left, (section, part) => section.Title == part.Title && section.Part.Body == part.Body);
        Pair(left, (section, part) => section.Title == part.Title);
        Pair(left, SameBody);
        ByPlace();
    }

    /// <summary>
    /// Headings that nobody knows bring back the sections that had them. A heading typed anew, letter by letter, was taken for a new
    /// section at its first letter: as long as nothing hangs on that one, the section whose title it has become comes back in its place.
    /// </summary>
    public void BringBack()
    {
        var away = left.Concat(gone).DistinctBy(s => s.Number).ToList();
        Pair(away, SameTitle);
        Pair(away, SameBody);
        for (var i = 0; i < parts.Count; i++)
        {
            if (match[i] is not { IsBare: true } typed || SameTitle(typed, parts[i]))
                continue;
            var back = away.FirstOrDefault(section => !section.IsBare && SameTitle(section, parts[i]));
            if (back is null)
                continue;
            away.Remove(back);
            Take(i, back);
        }
    }

    private static bool SameTitle(Section section, DraftPart part) => section.Title.Equals(part.Title, StringComparison.OrdinalIgnoreCase);

    private static bool SameBody(Section section, DraftPart part) =>
        section.Part.Body.Trim() is { Length: > 0 } body && body == part.Body.Trim();

    private void Pair(List<Section> among, Func<Section, DraftPart, bool> same)
    {
        for (var i = 0; i < parts.Count; i++)
        {
            if (match[i] is not null || among.FirstOrDefault(section => same(section, parts[i])) is not { } section)
                continue;
            among.Remove(section);
            Take(i, section);
        }
    }

    private void Take(int at, Section section)
    {
        match[at] = section;
        left.Remove(section);
        gone.RemoveAll(g => g.Number == section.Number);
    }

    /// <summary>A heading rewritten word for word stands where the old one stood: between the same neighbours, as many left as
    /// new.</summary>
    private void ByPlace()
    {
        for (var from = 0; from < match.Length; from++)
        {
            if (match[from] is not null)
                continue;
            var to = from;
            while (to < match.Length && match[to] is null)
                to++;
            var after = to == match.Length ? before.Sections.Count : IndexOf(match[to]!);
            var earlier = from == 0 ? -1 : IndexOf(match[from - 1]!);
            var between = before.Sections.Where((section, i) => i > earlier && i < after && left.Contains(section)).ToList();
            if (between.Count == to - from)
                for (var i = 0; i < between.Count; i++)
                    Take(from + i, between[i]);
            from = to;
        }
    }

    private int IndexOf(Section section)
    {
        for (var i = 0; i < before.Sections.Count; i++)
            if (ReferenceEquals(before.Sections[i], section))
                return i;
        return -1;
    }
}
