using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>What is settled before writing, in the front matter of a piece.</summary>
internal static class BeforeFile
{
    public static FrontMatterWriter AddTo(FrontMatterWriter file, BeforeImage before)
    {
        var brief = before.Brief;
        if (brief with { Version = 0 } != new Brief())
            file.Add(
                "before",
                [
                    new FrontMatterWriter()
                        .Add("for-whom", brief.ForWhom)
                        .Add("know", brief.Know)
                        .Add("feel", brief.Feel)
                        .Add("do", brief.Do)
                        .Add("angle", brief.Angle)
                        .Add("call-to-action", brief.CallToAction)
                        .Add("serves", brief.Serves ? "yes" : "")
                        .Add("serves-why", brief.ServesWhy)
                        .Add("cover-line", brief.CoverLine)
                        .Add("cover", brief.Cover?.Value)
                        .Add("heap", brief.Heap),
                ]
            );
        return file.Add("titles", before.Titles.Select(t => new FrontMatterWriter().Add("considered", t.Text).Add("note", t.Note)))
            .Add(
                "to-find",
                before.ToFind.Select(f => new FrontMatterWriter().Add("slip", f.Slip).Add("move", f.Move).Add("answer", f.Answer))
            )
            .Add(
                "references",
                before.References.Select(r =>
                    new FrontMatterWriter()
                        .Add("address", r.Address)
                        .Add("picture", r.Picture)
                        .Add("slip", r.Slip)
                        .Add("why", r.Why)
                        .Add("section", r.Section)
                )
            );
    }

    public static BeforeImage Read(FrontMatter f)
    {
        var brief = f.Records("before") is [var b, ..]
            ? new Brief
            {
                ForWhom = Field(b, "for-whom"),
                Know = Field(b, "know"),
                Feel = Field(b, "feel"),
                Do = Field(b, "do"),
                Angle = Field(b, "angle"),
                CallToAction = Field(b, "call-to-action"),
                Serves = b.Word("serves") == "yes",
                ServesWhy = Field(b, "serves-why"),
                CoverLine = Field(b, "cover-line"),
                Cover = b.Number("cover") is { } cover ? AttachmentNumber.Of(cover) : null,
                Heap = Check.Length("heap", b.Word("heap"), Brief.LongestHeap),
            }
            : new Brief();
        return new BeforeImage(
            brief,
            [.. f.Records("titles").Select(t => (Check.Text("titles", t.Word("considered"), TitleLook.Longest), Field(t, "note")))],
            [.. f.Records("to-find").Select(t => new ToFindImage(t.Number("slip"), t.Number("move"), t.Number("answer")))],
            [
                .. f.Records("references")
                    .Select(r => new ReferenceImage(
                        Check.WebAddress("references", r.Word("address")),
                        r.Number("picture"),
                        r.Number("slip"),
                        Field(r, "why"),
                        r.Number("section")
                    )),
            ]
        );
    }

    private static string Field(FrontMatter f, string name) => Check.Length(name, f.Word(name), Brief.LongestField);
}
