using System.Text.RegularExpressions;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>What is said before a piece goes out.</summary>
public enum BeforeOutKind
{
    /// <summary>There is not a word in it.</summary>
    Nothing,

    /// <summary>A reference does the work of a word; its title goes in its place.</summary>
    Titled,

    /// <summary>A reference does the work of a word and leads to nothing; a hole would be left.</summary>
    Hole,

    /// <summary>A move to be done still stands in it; it is left out.</summary>
    Move,

    /// <summary>A section nobody has written; its heading is left out.</summary>
    Unwritten,

    /// <summary>A sign that something is still to come: TK, ???.</summary>
    ToCome,

    /// <summary>A remark to oneself; it is left out.</summary>
    Remark,

    /// <summary>More than its format allows.</summary>
    Over,

    /// <summary>A picture of which nobody says whose it is.</summary>
    NoCredit,

    /// <summary>A picture of which nobody says what it shows.</summary>
    NoDescription,

    /// <summary>A question that the piece was to answer and that is open.</summary>
    Question,

    /// <summary>A note that is referred to and is not there.</summary>
    NoNote,
}

/// <summary>Something a writer should know before a piece goes out.</summary>
/// <param name="Kind">What kind of thing it is.</param>
/// <param name="Said">In a sentence.</param>
/// <param name="At">Where in the draft, in UTF-16 units; −1 when it does not stand there.</param>
/// <param name="Part">The part of the piece's page where it is mended: empty for the draft, <c>before</c>, <c>beside</c>.</param>
public sealed record BeforeOutNote(BeforeOutKind Kind, string Said, int At, string Part = "");

/// <summary>What is known about a piece beside its draft, when it is looked through before it goes out.</summary>
public sealed record BeforeOutFacts
{
    public static readonly BeforeOutFacts None = new();

    /// <summary>What a numbered thing is called; null when there is none.</summary>
    public Func<Reference, string?> Named { get; init; } = _ => null;

    /// <summary>Whose the picture at an address is; empty when nobody says, null when it lies elsewhere.</summary>
    public Func<string, string?> CreditOf { get; init; } = _ => null;

    /// <summary>Whether a reference goes out as a citation, so that nothing is to be said of it.</summary>
    public Func<TextReference, bool> IsCited { get; init; } = _ => false;

    public FormatLimits Limits { get; init; } = FormatLimits.None;

    /// <summary>What was to be found out and is not.</summary>
    public IReadOnlyList<string> OpenQuestions { get; init; } = [];

    /// <summary>Texts beside the draft with what they have against their limits.</summary>
    public IReadOnlyList<(string Name, Measured Measured)> SideTexts { get; init; } = [];
}

/// <summary>Looks a draft through before it goes out.</summary>
public static partial class BeforeOut
{
    private const int Most = 50,
        LongestShown = 60;

    /// <summary>What is to be said: of the draft in the order of the text, then of what is beside it.</summary>
    /// <param name="draft">The draft.</param>
    /// <param name="facts">What is known beside it.</param>
    public static IReadOnlyList<BeforeOutNote> Of(string draft, BeforeOutFacts facts)
    {
        var (lead, parts) = DraftText.Split(draft);
        if (Counts.Of(lead).Words + parts.Sum(p => Counts.Of(p.Body).Words) == 0)
            return [new BeforeOutNote(BeforeOutKind.Nothing, "There is not a word in it yet.", 0)];
        var notes = new[]
        {
            ReferencesIn(draft, facts),
            Finished
                .OpenMove()
                .Matches(draft)
                .Select(m => new BeforeOutNote(
                    BeforeOutKind.Move,
                    $"A move still stands in it and is left out: {m.Value.Trim()[6..]}",
                    m.Index
                )),
            Unwritten(lead, parts),
            ToCome()
                .Matches(draft)
                .Select(m => new BeforeOutNote(BeforeOutKind.ToCome, $"“{Line(draft, m.Index)}” is still to come.", m.Index)),
            Remarks
                .In(draft)
                .Select(r => new BeforeOutNote(BeforeOutKind.Remark, $"You said to yourself: {Short(r.Text)} It is left out.", r.From)),
            Pictures(draft, facts.CreditOf),
            NotesThatMiss(draft),
            Over(draft, lead, parts, facts.Limits),
        };
        return
        [
            .. notes.SelectMany(n => n).OrderBy(n => n.At).Take(Most),
            .. facts
                .SideTexts.Where(t => t.Measured.IsOver)
                .Select(t => new BeforeOutNote(BeforeOutKind.Over, $"{t.Name} has {Figures(t.Measured)}.", -1, "beside")),
            .. facts.OpenQuestions.Select(q => new BeforeOutNote(BeforeOutKind.Question, $"Still open: {Short(q)}", -1, "before")),
        ];
    }

    private static IEnumerable<BeforeOutNote> ReferencesIn(string draft, BeforeOutFacts facts)
    {
        foreach (var reference in References.In(draft))
        {
            var line = reference.Start == 0 ? 0 : draft.LastIndexOf('\n', reference.Start - 1) + 1;
            var before = draft[line..reference.Start];
            if (reference.Thing is not { } thing || (thing.Kind == ThingKind.Slip && !Finished.IsWord(before)) || facts.IsCited(reference))
                continue;
            var title = Finished.Said(reference, before, facts.Named);
            yield return title.Length > 0
                ? new BeforeOutNote(BeforeOutKind.Titled, $"Where it says [[{reference.Name}]], “{title}” will stand.", reference.Start)
                : new BeforeOutNote(
                    BeforeOutKind.Hole,
                    $"[[{reference.Name}]] leads to nothing, and leaves a hole where it stands.",
                    reference.Start
                );
        }
    }

    private static IEnumerable<BeforeOutNote> Unwritten(string lead, IReadOnlyList<DraftPart> parts)
    {
        var at = lead.Length;
        for (var i = 0; i < parts.Count; at += parts[i].Raw.Length, i++)
            if (parts[i].Body.Trim().Length == 0 && (i + 1 == parts.Count || parts[i + 1].Depth <= parts[i].Depth))
                yield return new BeforeOutNote(BeforeOutKind.Unwritten, $"“{parts[i].Title}” has no text; its heading is left out.", at);
    }

    private static IEnumerable<BeforeOutNote> Pictures(string draft, Func<string, string?> creditOf)
    {
        foreach (var picture in PicturesInText.In(draft))
        {
            var called =
                picture.Caption.Length > 0 ? picture.Caption
                : picture.Shows.Length > 0 ? picture.Shows
                : picture.Address;
            if (creditOf(picture.Address) is "")
                yield return new BeforeOutNote(
                    BeforeOutKind.NoCredit,
                    $"Nobody says whose the picture “{Short(called)}” is.",
                    picture.From
                );
            if (picture.Shows.Length == 0)
                yield return new BeforeOutNote(
                    BeforeOutKind.NoDescription,
                    $"Nobody says what the picture “{Short(called)}” shows to those who cannot see it.",
                    picture.From
                );
        }
    }

    private static IEnumerable<BeforeOutNote> NotesThatMiss(string draft)
    {
        var there = Footnotes.In(draft).Select(n => n.Key).ToHashSet();
        return Footnotes
            .References(draft)
            .Where(r => !there.Contains(r.Key))
            .Select(r => new BeforeOutNote(BeforeOutKind.NoNote, $"The note [^{r.Key}] is not there.", r.At));
    }

    private static IEnumerable<BeforeOutNote> Over(string draft, string lead, IReadOnlyList<DraftPart> parts, FormatLimits limits)
    {
        if (limits.Part is { } part)
        {
            var thread = ThreadParts.In(draft);
            for (var i = 0; i < thread.Count; i++)
                if (Measure.Of(thread[i].Text, part, limits) is { IsOver: true } has)
                    yield return new BeforeOutNote(BeforeOutKind.Over, $"Part {i + 1} has {Figures(has)}.", thread[i].From);
        }
        if (limits.Whole is { } whole)
        {
            var has = Measure.Of(string.Join("\n\n", parts.Select(p => p.Body).Prepend(lead)), whole, limits);
            if (has.IsOver)
                yield return new BeforeOutNote(BeforeOutKind.Over, $"The whole has {Figures(has)}.", draft.Length);
        }
    }

    private static string Figures(Measured has) => $"{has.Has:N0} of {has.Most:N0} {(has.In == MeasuredIn.Words ? "words" : "characters")}";

    private static string Short(string text)
    {
        var line = PlainText.Headline(text, LongestShown);
        return line.Length > 0 && char.IsLetterOrDigit(line[^1]) ? line + "." : line;
    }

    private static string Line(string draft, int at)
    {
        var start = at == 0 ? 0 : draft.LastIndexOf('\n', at - 1) + 1;
        var end = draft.IndexOf('\n', at);
        var line = draft[Math.Max(start, at - 24)..(end < 0 ? Math.Min(draft.Length, at + 30) : Math.Min(end, at + 30))].Trim();
        return line;
    }

    /// <summary>The trade's mark for what is to come, and what writers put in its place.</summary>
    [GeneratedRegex(@"\bTK(?:TK)*\b|\?\?\?|\bTODO\b|\bXXX\b")]
    private static partial Regex ToCome();
}
