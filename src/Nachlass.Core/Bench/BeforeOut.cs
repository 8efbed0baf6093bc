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
}

/// <summary>Something a writer should know before a piece goes out.</summary>
/// <param name="Kind">What kind of thing it is.</param>
/// <param name="Said">In a sentence.</param>
/// <param name="At">Where in the draft, in UTF-16 units.</param>
public sealed record BeforeOutNote(BeforeOutKind Kind, string Said, int At);

/// <summary>Looks a draft through before it goes out.</summary>
public static class BeforeOut
{
    private const int Most = 50;

    /// <summary>What is to be said, in the order of the text.</summary>
    /// <param name="draft">The draft.</param>
    /// <param name="named">What a numbered thing is called; null when there is none.</param>
    public static IReadOnlyList<BeforeOutNote> Of(string draft, Func<Reference, string?> named)
    {
        var (lead, parts) = DraftText.Split(draft);
        if (Counts.Of(lead).Words + parts.Sum(p => Counts.Of(p.Body).Words) == 0)
            return [new BeforeOutNote(BeforeOutKind.Nothing, "There is not a word in it yet.", 0)];
        var notes = new List<BeforeOutNote>();
        foreach (var reference in References.In(draft))
        {
            var line = reference.Start == 0 ? 0 : draft.LastIndexOf('\n', reference.Start - 1) + 1;
            var before = draft[line..reference.Start];
            if (reference.Thing is not { } thing || (thing.Kind == ThingKind.Slip && !Finished.IsWord(before)))
                continue;
            var title = Finished.Said(reference, before, named);
            notes.Add(
                title.Length > 0
                    ? new BeforeOutNote(BeforeOutKind.Titled, $"Where it says [[{reference.Name}]], “{title}” will stand.", reference.Start)
                    : new BeforeOutNote(
                        BeforeOutKind.Hole,
                        $"[[{reference.Name}]] leads to nothing, and leaves a hole where it stands.",
                        reference.Start
                    )
            );
        }
        notes.AddRange(
            Finished
                .OpenMove()
                .Matches(draft)
                .Select(m => new BeforeOutNote(
                    BeforeOutKind.Move,
                    $"A move still stands in it and is left out: {m.Value.Trim()[6..]}",
                    m.Index
                ))
        );
        var at = lead.Length;
        for (var i = 0; i < parts.Count; at += parts[i].Raw.Length, i++)
            if (parts[i].Body.Trim().Length == 0 && (i + 1 == parts.Count || parts[i + 1].Depth <= parts[i].Depth))
                notes.Add(new BeforeOutNote(BeforeOutKind.Unwritten, $"“{parts[i].Title}” has no text; its heading is left out.", at));
        return [.. notes.OrderBy(n => n.At).Take(Most)];
    }
}
