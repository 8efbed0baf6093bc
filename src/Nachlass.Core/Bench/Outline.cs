using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>A part of an outline together with its text in the draft.</summary>
/// <param name="Number">Stays the same through renaming, moving and rewriting; null for one that was just written.</param>
/// <param name="Part">Its heading and text.</param>
/// <param name="Aim">Words it should have.</param>
/// <param name="Beat">The job it does; empty when it has none.</param>
public sealed record Section(SectionNumber? Number, DraftPart Part, int? Aim = null, string Beat = "")
{
    public const int LongestTitle = 300;
    public const int MostAim = 1_000_000;
    public string Title => Part.Title;
    public int Depth => Part.Depth;
}

/// <summary>
/// A piece's outline and draft, which are one thing: the sections are the draft's headings, and moving a section moves its
/// text. Every change gives a new outline; no change loses a section or a letter except <see cref="Remove"/>.
/// </summary>
public sealed record Outline(string Lead, IReadOnlyList<Section> Sections)
{
    public static readonly Outline Empty = new("", []);

    /// <summary>The draft as one text.</summary>
    public string Text => DraftText.Compose(Lead, Sections.Select(s => s.Part));

    /// <summary>The outline a new piece starts with.</summary>
    public static Outline From(Format format) =>
        new("", [.. format.Skeleton.Select(s => new Section(null, DraftPart.Empty(s.Title, s.Depth), s.Aim, s.Beat))]);

    /// <summary>
    /// The outline after the draft was rewritten. Sections are recognised by their title, then by their text, then by their
    /// place between recognised neighbours, and keep number, aim and beat; headings that are left over are new sections.
    /// </summary>
    public Outline Rewrite(string text)
    {
        var (lead, parts) = DraftText.Split(text);
        var old = new Section?[Sections.Count];
        for (var i = 0; i < old.Length; i++)
            old[i] = Sections[i];
        var match = new Section?[parts.Count];
        Pair((section, part) => section.Title == part.Title && section.Part.Body == part.Body);
        Pair((section, part) => section.Title == part.Title);
        Pair((section, part) => section.Part.Body.Trim().Length > 0 && section.Part.Body.Trim() == part.Body.Trim());
        PairByPlace(old, match);
        return new Outline(lead, [.. parts.Select((part, i) => (match[i] ?? new Section(null, part)) with { Part = part })]);

        void Pair(Func<Section, DraftPart, bool> same)
        {
            for (var p = 0; p < parts.Count; p++)
            {
                if (match[p] is not null)
                    continue;
                var at = Array.FindIndex(old, section => section is not null && same(section, parts[p]));
                if (at < 0)
                    continue;
                match[p] = old[at];
                old[at] = null;
            }
        }
    }

    /// <summary>Headings that a later form of this outline has put in place of others; one that still stands elsewhere is not given
    /// up.</summary>
    public IEnumerable<(string Old, string New)> HeadingsChangedIn(Outline later)
    {
        var still = later.Sections.Select(s => s.Title).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var now = later.Sections.Where(s => s.Number is not null).ToDictionary(s => s.Number!.Value, s => s.Title);
        return Sections
            .Where(s => s.Number is { } number && now.TryGetValue(number, out var title) && title != s.Title && !still.Contains(s.Title))
            .Select(s => (s.Title, now[s.Number!.Value]));
    }

    /// <summary>A heading rewritten word for word stands where the old one stood: between the same neighbours, as many left as
    /// new.</summary>
    private void PairByPlace(Section?[] old, Section?[] match)
    {
        for (var from = 0; from < match.Length; from++)
        {
            if (match[from] is not null)
                continue;
            var to = from;
            while (to < match.Length && match[to] is null)
                to++;
            var before = from == 0 ? -1 : IndexOf(match[from - 1]!);
            var after = to == match.Length ? Sections.Count : IndexOf(match[to]!);
            var left = Enumerable.Range(0, Sections.Count).Where(i => i > before && i < after && old[i] is not null).ToList();
            if (left.Count == to - from)
                for (var i = 0; i < left.Count; i++)
                    (match[from + i], old[left[i]]) = (old[left[i]], null);
            from = to;
        }
    }

    private int IndexOf(Section section)
    {
        for (var i = 0; i < Sections.Count; i++)
            if (ReferenceEquals(Sections[i], section))
                return i;
        return -1;
    }

    /// <summary>The outline with one more section.</summary>
    /// <param name="section">The new section.</param>
    /// <param name="after">The section behind whose children it comes; at the end when null.</param>
    public Outline Add(Section section, SectionNumber? after = null)
    {
        var at = after is { } number ? EndOf(Find(number)) : Sections.Count;
        var list = Sections.ToList();
        list.Insert(at, section);
        return Joined(Lead, list);
    }

    /// <summary>The outline with a section's title, aim or beat changed.</summary>
    public Outline Change(SectionNumber number, string title, int? aim, string beat)
    {
        var list = Sections.ToList();
        var at = Find(number);
        var part = title == list[at].Title ? list[at].Part : list[at].Part.WithHeading(title, list[at].Depth);
        list[at] = list[at] with { Part = part, Aim = aim, Beat = beat };
        return this with { Sections = list };
    }

    /// <summary>The outline with a section, its children and all their text moved.</summary>
    /// <param name="number">The section.</param>
    /// <param name="before">The section it then stands before; at the end when null. One of its own children leaves it where it is.</param>
    /// <param name="depth">Its new depth; its children keep theirs relative to it. Never deeper than one below the section before
    /// it.</param>
    public Outline Move(SectionNumber number, SectionNumber? before, int depth)
    {
        var from = Find(number);
        var count = EndOf(from) - from;
        var to = before is { } b ? Find(b) : Sections.Count;
        if (to > from && to < from + count)
            to = from;
        var list = Sections.ToList();
        var moved = list.GetRange(from, count);
        list.RemoveRange(from, count);
        if (to > from)
            to -= count;
        var deepest = to == 0 ? 1 : list[to - 1].Depth + 1;
        var shift = Math.Clamp(depth, 1, Math.Min(deepest, DraftText.Deepest)) - moved[0].Depth;
        list.InsertRange(
            to,
            moved.Select(s =>
                shift == 0 ? s : s with { Part = s.Part.WithHeading(s.Title, Math.Clamp(s.Depth + shift, 1, DraftText.Deepest)) }
            )
        );
        return Joined(Lead, list);
    }

    /// <summary>The outline without a section, its children and their text.</summary>
    public Outline Remove(SectionNumber number)
    {
        var from = Find(number);
        var list = Sections.ToList();
        list.RemoveRange(from, EndOf(from) - from);
        return Joined(Lead, list);
    }

    /// <summary>A section with its children.</summary>
    public IReadOnlyList<Section> Family(SectionNumber number)
    {
        var from = Find(number);
        return [.. Sections.Skip(from).Take(EndOf(from) - from)];
    }

    private int Find(SectionNumber number)
    {
        for (var i = 0; i < Sections.Count; i++)
            if (Sections[i].Number == number)
                return i;
        throw new NotThereException($"section {number} in this piece");
    }

    /// <summary>Behind the last child of the section at this place.</summary>
    private int EndOf(int at)
    {
        var end = at + 1;
        while (end < Sections.Count && Sections[end].Depth > Sections[at].Depth)
            end++;
        return end;
    }

    /// <summary>Puts an empty line between neighbours that had none, since a heading must begin a line of its own.</summary>
    private static Outline Joined(string lead, List<Section> list)
    {
        for (var i = 0; i + 1 < list.Count; i++)
            list[i] = list[i] with { Part = Spaced(list[i].Part) };
        return new Outline(lead.Length == 0 || list.Count == 0 ? lead : Spaced(lead), list);
    }

    private static DraftPart Spaced(DraftPart part)
    {
        var raw = Spaced(part.Raw);
        return raw == part.Raw
            ? part
            : part with
            {
                Raw = raw,
                BodyStart = Math.Min(
                    part.BodyStart == part.Raw.Length ? raw.IndexOf('\n', StringComparison.Ordinal) + 1 : part.BodyStart,
                    raw.Length
                ),
            };
    }

    private static string Spaced(string text) =>
        text.EndsWith("\n\n", StringComparison.Ordinal) ? text
        : text.EndsWith('\n') ? text + "\n"
        : text + "\n\n";
}
