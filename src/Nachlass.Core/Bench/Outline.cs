using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A part of an outline together with its text in the draft.</summary>
/// <param name="Number">Stays the same through renaming, moving and rewriting; null for one that was just written.</param>
/// <param name="Part">Its heading and text.</param>
/// <param name="Aim">Words it should have.</param>
/// <param name="Beat">The job it does; empty when it has none.</param>
/// <param name="Material">How many slips and sources are placed in it.</param>
public sealed record Section(SectionNumber? Number, DraftPart Part, int? Aim = null, string Beat = "", int Material = 0)
{
    public const int LongestTitle = 300;
    public const int MostAim = 1_000_000;
    public const int LongestNote = 5_000;

    /// <summary>What its writer notes about it; it never goes out.</summary>
    public string Note { get; init; } = "";

    /// <summary>Whether its writer says that it is settled.</summary>
    public bool IsSettled { get; init; }

    public string Title => Part.Title;
    public int Depth => Part.Depth;

    /// <summary>The same section some levels deeper, or shallower when negative, as far as headings go.</summary>
    public Section Deeper(int by) =>
        by == 0 ? this : this with { Part = Part.WithHeading(Title, Math.Clamp(Depth + by, 1, DraftText.Deepest)) };

    /// <summary>Whether nothing hangs on it but its heading and text.</summary>
    public bool IsBare => Aim is null && Beat.Length == 0 && Material == 0 && Note.Length == 0 && !IsSettled;
}

/// <summary>A step in an outline.</summary>
public enum OutlineWay
{
    Up,
    Down,
    In,
    Out,
}

/// <summary>Where an editor, which followed a section through every keystroke, says its heading begins.</summary>
/// <param name="Section">The section.</param>
/// <param name="Start">In the draft, in UTF-16 units.</param>
public readonly record struct Anchor(SectionNumber Section, int Start);

/// <summary>
/// A piece's outline and draft, which are one thing: the sections are the draft's headings, and moving a section moves its
/// text. Every change gives a new outline; no change loses a section or a letter except <see cref="Remove"/>.
/// </summary>
/// <param name="Lead">The text before the first heading.</param>
/// <param name="Sections">The draft's headings in order, each with the text under it.</param>
public sealed record Outline(string Lead, IReadOnlyList<Section> Sections)
{
    public static readonly Outline Empty = new("", []);

    /// <summary>Sections whose heading is gone from the draft, with what hung on them and as they last stood, the latest first. They come
    /// back with their heading.</summary>
    public IReadOnlyList<Section> Gone { get; init; } = [];

    /// <summary>The draft as one text.</summary>
    public string Text => DraftText.Compose(Lead, Sections.Select(s => s.Part));

    /// <summary>The outline a new piece starts with.</summary>
    public static Outline From(Format format) =>
        new("", [.. format.Skeleton.Select(s => new Section(null, DraftPart.Empty(s.Title, s.Depth), s.Aim, s.Beat))]);

    /// <summary>The same outline with a text at the beginning of its first section.</summary>
    public Outline BeginWith(string text)
    {
        var first = Sections[0];
        return this with
        {
            Sections =
            [
                first with
                {
                    Part = first.Part.With("\n" + text.TrimEnd() + "\n\n" + first.Part.Body.TrimStart()),
                },
                .. Sections.Skip(1),
            ],
        };
    }

    /// <summary>The same outline behind a text, whose headings are sections too.</summary>
    public Outline Behind(string text)
    {
        var (lead, parts) = DraftText.Split(text);
        return this with { Lead = lead + Lead, Sections = [.. parts.Select(part => new Section(null, part)), .. Sections] };
    }

    /// <summary>
    /// The outline after the draft was rewritten. A section is where an anchor says it is. Without anchors it is recognised by its
    /// title, then by its text, then by its place between recognised neighbours. A heading that is left over brings back the gone section
    /// that had it, or its text; else it is a new section. What is no longer in the text is gone, not lost.
    /// </summary>
    /// <param name="text">The draft.</param>
    /// <param name="anchors">Where the sections' headings begin in it; null when nobody followed them.</param>
    public Outline Rewrite(string text, IReadOnlyList<Anchor>? anchors = null)
    {
        var (lead, parts) = DraftText.Split(text);
        var recognising = new Recognising(this, parts);
        if (anchors is not null)
            recognising.ByAnchor(lead.Length, anchors);
        else
            recognising.ByLikeness();
        recognising.BringBack();
        return new Outline(lead, recognising.Found()) { Gone = recognising.Left() };
    }

    /// <summary>Where its sections begin in the draft.</summary>
    private IEnumerable<(Section Section, int Start)> Starts()
    {
        var at = Lead.Length;
        foreach (var section in Sections)
        {
            yield return (section, at);
            at += section.Part.Raw.Length;
        }
    }

    /// <summary>The outline as it will be read when it is opened next: a code fence left open swallows the headings after it.</summary>
    public Outline Reread()
    {
        var (lead, parts) = DraftText.Split(Text);
        var recognising = new Recognising(this, parts);
        recognising.ByStart(lead.Length, Starts());
        return new Outline(lead, recognising.Found()) { Gone = recognising.Left() };
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

    /// <summary>The outline with one more section.</summary>
    /// <param name="section">The new section.</param>
    /// <param name="after">The section behind whose children it comes; at the end when null.</param>
    public Outline Add(Section section, SectionNumber? after = null)
    {
        var at = after is { } number ? EndOf(Find(number)) : Sections.Count;
        var list = Sections.ToList();
        list.Insert(at, section);
        return Joined(list);
    }

    /// <summary>The outline with one more section before another; at the end when null.</summary>
    public Outline AddBefore(Section section, SectionNumber? before)
    {
        var list = Sections.ToList();
        list.Insert(before is { } number ? Find(number) : Sections.Count, section);
        return Joined(list);
    }

    /// <summary>The outline with a section's title, aim, beat, note or standing changed.</summary>
    public Outline Change(SectionNumber number, string title, int? aim, string beat, string? note = null, bool? settled = null)
    {
        var list = Sections.ToList();
        var at = Find(number);
        var part = title == list[at].Title ? list[at].Part : list[at].Part.WithHeading(title, list[at].Depth);
        list[at] = list[at] with
        {
            Part = part,
            Aim = aim,
            Beat = beat,
            Note = note ?? list[at].Note,
            IsSettled = settled ?? list[at].IsSettled,
        };
        return this with { Sections = list };
    }

    /// <summary>The outline with a section, its children and all their text moved.</summary>
    public Outline Move(SectionNumber number, SectionNumber? before, int depth) => Move([number], before, depth);

    /// <summary>The outline with one or several sections, their children and all their text moved; they keep their order.</summary>
    /// <param name="chosen">The sections; one inside another of them goes with it.</param>
    /// <param name="before">The section they then stand before; at the end when null. One inside them leaves them there.</param>
    /// <param name="depth">Their new depth; children keep theirs relative to it. Never deeper than one below the section before it,
    /// nor so shallow that they would take the children of another: within a family they become some of the family.</param>
    public Outline Move(IReadOnlyCollection<SectionNumber> chosen, SectionNumber? before, int depth)
    {
        var families = Roots(chosen).Select(at => (Start: at, End: EndOf(at))).ToList();
        var own = families.SelectMany(f => Enumerable.Range(f.Start, f.End - f.Start)).ToHashSet();
        var list = Sections.Where((_, at) => !own.Contains(at)).ToList();
        var to = Enumerable.Range(0, before is { } b ? Find(b) : Sections.Count).Count(at => !own.Contains(at));
        var deepest = Math.Min(to == 0 ? 1 : list[to - 1].Depth + 1, DraftText.Deepest);
        var shallowest = Math.Min(to == list.Count ? 1 : list[to].Depth, deepest);
        var lands = Math.Clamp(depth, shallowest, deepest);
        list.InsertRange(
            to,
            families.SelectMany(f => Sections.Take(f.End).Skip(f.Start).Select(s => s.Deeper(lands - Sections[f.Start].Depth)))
        );
        return Joined(list);
    }

    /// <summary>Where some sections stand, in order, without those inside another of them, which go with it.</summary>
    private List<int> Roots(IReadOnlyCollection<SectionNumber> chosen)
    {
        var places = chosen.Select(Find).Distinct().Order().ToList();
        return [.. places.Where(at => !places.Any(p => p < at && at < EndOf(p)))];
    }

    /// <summary>The outline with one or several sections, each with its children, one step up, down, in or out. Those that can't go stay,
    /// and so do those that would only change places among themselves.</summary>
    public Outline Step(IReadOnlyCollection<SectionNumber> chosen, OutlineWay way)
    {
        var roots = Roots(chosen).ConvertAll(at => Sections[at].Number!.Value);
        if (way is OutlineWay.Down or OutlineWay.Out)
            roots.Reverse();
        var outline = this;
        var stuck = new HashSet<SectionNumber>();
        foreach (var root in roots)
        {
            var next = outline.Step(root, way, stuck);
            if (next is null)
                stuck.Add(root);
            else
                outline = next;
        }
        return outline;
    }

    private Outline? Step(SectionNumber number, OutlineWay way, HashSet<SectionNumber> stuck)
    {
        var at = Find(number);
        var (end, depth) = (EndOf(at), Sections[at].Depth);
        SectionNumber? At(int index) => index < Sections.Count ? Sections[index].Number : null;
        switch (way)
        {
            case OutlineWay.Up when at > 0:
                // Before the nearest section above that is not deeper, so that no family is broken up.
                var above = at - 1;
                while (above > 0 && Sections[above].Depth > depth)
                    above--;
                return stuck.Contains(Sections[above].Number!.Value) ? null : Move(number, At(above), depth);
            case OutlineWay.Down when end < Sections.Count:
                return stuck.Contains(Sections[end].Number!.Value) ? null : Move(number, At(EndOf(end)), depth);
            case OutlineWay.In when at > 0 && depth <= Sections[at - 1].Depth:
                return Move(number, At(end), depth + 1);
            case OutlineWay.Out when depth > 1:
                // Out of its family altogether, behind the last of it.
                var parent = at - 1;
                while (parent >= 0 && Sections[parent].Depth >= depth)
                    parent--;
                return Move(number, At(parent < 0 ? end : EndOf(parent)), depth - 1);
            default:
                return null;
        }
    }

    /// <summary>The outline with a section split: what stands behind a place in the draft is a section of its own, as deep as the one it
    /// was of, with its share of the aim.</summary>
    /// <param name="at">The place, in UTF-16 units.</param>
    /// <param name="title">The new section's title.</param>
    /// <exception cref="BadInputException">The place stands in a heading.</exception>
    public Outline Split(int at, string title)
    {
        var draft = Text;
        var place = Math.Clamp(at, 0, draft.Length);
        if (HeadingAt(place) is { } end && place < end)
            throw new BadInputException("at", "The cursor stands in a heading; put it into the text to split there.");
        var split = Starts().LastOrDefault(s => s.Start < place);
        var heading = "\n\n" + DraftText.Heading(title, split.Section?.Depth ?? 1) + "\n\n";
        var (before, behind) = (draft[..place].TrimEnd(' ', '\n'), draft[place..].TrimStart(' ', '\n'));
        var text = (before.Length == 0 ? heading.TrimStart('\n') : before + heading) + behind;
        var shift = text.Length - draft.Length;
        var anchors = Starts()
            .Where(s => s.Section.Number is not null)
            .Select(s => new Anchor(s.Section.Number!.Value, s.Start >= place ? s.Start + shift : s.Start));
        var outline = Rewrite(text, [.. anchors]);
        if (split.Section?.Aim is not { } aim)
            return outline;
        var first = outline.Sections.ToList().FindIndex(s => s.Number == split.Section.Number);
        var list = outline.Sections.ToList();
        var (words, rest) = (Counts.Of(list[first].Part.Body).Words, Counts.Of(list[first + 1].Part.Body).Words);
        var share = words + rest == 0 ? aim / 2 : (int)Math.Round(aim * (double)words / (words + rest));
        list[first] = list[first] with { Aim = share };
        list[first + 1] = list[first + 1] with { Aim = aim - share };
        return outline with { Sections = list };
    }

    /// <summary>The outline with a section joined to the one before it: its heading goes, its text and what is inside it stay.</summary>
    /// <exception cref="BadInputException">There is none before it.</exception>
    public Outline Join(SectionNumber number)
    {
        var at = Find(number);
        if (at == 0)
            throw new BadInputException("section", "There is no section before the first that it could be joined to.");
        var list = Sections.ToList();
        var (first, second) = (list[at - 1], list[at]);
        var raw = Spaced(first.Part.Raw.TrimEnd()) + second.Part.Body.TrimStart('\n');
        list[at - 1] = first with
        {
            Part = first.Part with { Raw = raw, BodyStart = Math.Min(first.Part.BodyStart, raw.Length) },
            Aim = first.Aim is null && second.Aim is null ? null : (first.Aim ?? 0) + (second.Aim ?? 0),
            Note = string.Join('\n', new[] { first.Note, second.Note }.Where(n => n.Length > 0)),
            IsSettled = first.IsSettled && second.IsSettled,
        };
        list.RemoveAt(at);
        return Joined(list) with { Gone = [second, .. Gone] };
    }

    /// <summary>The outline with a text put in.</summary>
    /// <param name="text">What goes in; a quotation becomes a paragraph of its own.</param>
    /// <param name="into">The section at whose end it goes, before its children.</param>
    /// <param name="cursor">Where it goes when no section is named, in UTF-16 units; at the end when null. A heading is not broken up: what
    /// goes in there comes under it.</param>
    /// <returns>The outline, and where in the draft the text begins and ends.</returns>
    public (Outline Outline, int Start, int End) Insert(string text, SectionNumber? into, int? cursor)
    {
        var draft = Text;
        var at = into is { } number ? EndOfBody(Find(number)) : Math.Clamp(cursor ?? draft.Length, 0, draft.Length);
        var own = text.StartsWith('>') || into is not null || cursor is null || IsOnEmptyLine(draft, at);
        if (into is null && HeadingAt(at) is { } below)
            (at, own) = (below, true);
        var (start, inserted) = Insertion.Into(draft, at, text, own);
        var anchors = Starts()
            .Where(s => s.Section.Number is not null)
            .Select(s => new Anchor(s.Section.Number!.Value, s.Start >= at ? s.Start + inserted.Length : s.Start))
            .ToList();
        return (Rewrite(draft.Insert(at, inserted), anchors), at + start, at + start + text.Length);
    }

    private static bool IsOnEmptyLine(string draft, int at) =>
        (at == 0 || draft[at - 1] == '\n') && (at == draft.Length || draft[at] == '\n');

    /// <summary>Behind the last word of a section's own text.</summary>
    private int EndOfBody(int index)
    {
        var (section, start) = Starts().ElementAt(index);
        return start + section.Part.Raw.TrimEnd().Length;
    }

    /// <summary>The end of the heading line that a place stands on; null when it stands on none.</summary>
    private int? HeadingAt(int place)
    {
        foreach (var (section, start) in Starts())
        {
            var end = start + section.Part.Raw.AsSpan(0, section.Part.BodyStart).TrimEnd('\n').Length;
            if (place >= start && place <= end)
                return end;
        }
        return null;
    }

    /// <summary>The outline with a section that is gone standing at the end again, with its text unless that still stands
    /// somewhere.</summary>
    public Outline BringBack(SectionNumber number)
    {
        var back =
            Gone.FirstOrDefault(s => s.Number == number) ?? throw new NotThereException($"section {number} among those that are gone");
        var stands = back.Part.Body.Trim() is { Length: > 0 } body && Text.Contains(body, StringComparison.Ordinal);
        var depth = Math.Min(back.Depth, Sections.Count == 0 ? 1 : Sections[^1].Depth + 1);
        var part = (stands ? DraftPart.Empty(back.Title, depth) : back.Part).WithHeading(back.Title, depth);
        return Joined([.. Sections, back with { Part = part }]) with { Gone = [.. Gone.Where(s => s.Number != number)] };
    }

    /// <summary>The outline with every text in it rewritten; the headings stay.</summary>
    public Outline Each(Func<string, string> rewrite) =>
        this with
        {
            Lead = rewrite(Lead),
            Sections =
            [
                .. Sections.Select(s => s with { Part = s.Part with { Raw = s.Part.Raw[..s.Part.BodyStart] + rewrite(s.Part.Body) } }),
            ],
        };

    /// <summary>The outline without a section, its children and their text.</summary>
    public Outline Remove(SectionNumber number)
    {
        var from = Find(number);
        var list = Sections.ToList();
        var gone = list.GetRange(from, EndOf(from) - from);
        list.RemoveRange(from, gone.Count);
        return Joined(list) with { Gone = [.. gone, .. Gone] };
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
    private Outline Joined(List<Section> list)
    {
        for (var i = 0; i + 1 < list.Count; i++)
            list[i] = list[i] with { Part = Spaced(list[i].Part) };
        return this with { Lead = Lead.Length == 0 || list.Count == 0 ? Lead : Spaced(Lead), Sections = list };
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
