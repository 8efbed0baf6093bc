using System.Text;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Papers;

public sealed class AttachmentTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private static MemoryStream Content(string text) => new(Encoding.UTF8.GetBytes(text));

    private Reference Slip => Reference.To(desk.Catch("one " + Guid.NewGuid()).Number);

    [Fact]
    public void A_file_is_tied_with_a_line_on_why_and_found_by_its_words()
    {
        var slip = Slip;
        var file = desk.Attachments.Add(slip, "C:\\notes\\bread.txt", Content("loaves at the stage"), " the column ", Once.Unkeyed).Answer;
        (file.Name, file.Why, file.Type, file.Bytes, file.IsPicture).ShouldBe(("bread.txt", "the column", "text/plain", 19, false));
        desk.Find.Find("loaves").Hits.ShouldHaveSingleItem().Thing.ShouldBe(slip);
        var changed = desk.Attachments.Edit(file.Number, 1, null, "the proof", Once.Unkeyed).Answer;
        desk.Find.Find("proof").Hits.ShouldHaveSingleItem();
        Should.Throw<StaleException>(() => desk.Attachments.Edit(file.Number, 1, null, "x", Once.Unkeyed));
        var gone = desk.Attachments.Remove(changed.Number, Once.Unkeyed);
        desk.Attachments.Of(slip).ShouldBeEmpty();
        desk.Find.Find("loaves").Hits.ShouldBeEmpty();
        desk.Undo(gone.Command);
        desk.Attachments.Of(slip).ShouldHaveSingleItem().Why.ShouldBe("the proof");
        using var kept = new StreamReader(desk.Shelf.Open(file.Hash));
        kept.ReadToEnd().ShouldBe("loaves at the stage");
    }

    [Fact]
    public void The_same_content_lies_once()
    {
        var (one, two) = (Slip, Slip);
        desk.Attachments.Add(one, "a.bin", Content("same"), null, Once.Unkeyed)
            .Answer.Hash.ShouldBe(desk.Attachments.Add(two, "b.bin", Content("same"), null, Once.Unkeyed).Answer.Hash);
        Directory.EnumerateFiles(Path.Combine(desk.Folder, "files"), "*", SearchOption.AllDirectories).ShouldHaveSingleItem();
    }

    [Fact]
    public void What_can_not_be_tied_is_refused()
    {
        var slip = Slip;
        Should
            .Throw<BadInputException>(() => desk.Attachments.Add(slip, "a", Content(""), null, Once.Unkeyed))
            .Message.ShouldContain("empty");
        Should.Throw<BadInputException>(() => desk.Attachments.Add(slip, "a/", Content("x"), null, Once.Unkeyed)).Field.ShouldBe("name");
        Should.Throw<NotThereException>(() =>
            desk.Attachments.Add(new Reference(ThingKind.Slip, 99), "a", Content("x"), null, Once.Unkeyed)
        );
        Should
            .Throw<BadInputException>(() => desk.Attachments.Add(Reference.To(desk.Today), "a", Content("x"), null, Once.Unkeyed))
            .Message.ShouldContain("slips, sources and pieces");
        Should.Throw<NotThereException>(() => desk.Shelf.Open("../../papers.db"));
        Directory.Exists(Path.Combine(desk.Folder, "files")).ShouldBeTrue();
        Directory.EnumerateFiles(Path.Combine(desk.Folder, "files"), "arriving*").ShouldBeEmpty();
    }

    /// <summary>Files, transcripts, a source's own words and fields, questions and occasions go out in the zip and come in again.</summary>
    [Fact]
    public void All_that_belongs_to_reading_goes_out_and_comes_in()
    {
        desk.Attachments.Add(Slip, "a.txt", Content("attached"), "why", Once.Unkeyed);
        var source = desk
            .Sources.Add(
                new SourceChange
                {
                    Title = "S",
                    Text = "# Its own words\n\nlong",
                    Details = new Dictionary<string, string> { ["publisher"] = "P: q" },
                },
                Once.Unkeyed
            )
            .Answer.Number;
        desk.Transcripts.Write(source, [new(1_000, 2_500, "You heard <it> & went", "Jonas Pell")], Once.Unkeyed);
        desk.Sources.SetQuestions(["Who pays?"], Once.Unkeyed);
        desk.Imports.Run(
            "x",
            Core.Capture.Origin.Import,
            null,
            () => [("", new Core.Capture.Found.OfOccasion(1, "Lights", new(2026, 12, 6), new(2026, 12, 7), true))],
            Once.Unkeyed,
            stop: TestContext.Current.CancellationToken
        );
        var outlet = desk.Outlets.Add(new() { Name = "Low Water", Blocks = [new("About", "A letter.\nEvery other week.")] }, Once.Unkeyed);
        desk.Cadences.Set(
            outlet.Answer.Number,
            "letter",
            new("every second Friday", new(2026, 11, 13), new(2027, 11, 13), "a week later", [new(new(2026, 12, 20), new(2027, 1, 3))], []),
            Once.Unkeyed
        );
        desk.Cadences.Except(outlet.Answer.Number, "letter", new(2026, 11, 27), new(2026, 11, 28), Once.Unkeyed);
        desk.Hours.Set([1, 2.5, 0, 2, 2, 0, 0], Once.Unkeyed);
        desk.Hours.AddAway(new(2026, 12, 1), null, "Harnsby fair", Once.Unkeyed);
        using var zip = new MemoryStream();
        PapersZip.Write(desk.Images.Take(), zip, desk.Shelf.Open);
        using var other = new Desk();
        zip.Position = 0;
        other.Images.Put(PapersZip.Read(zip, content => other.Shelf.Keep(content).Hash), Once.Unkeyed);
        string.Concat(PapersFiles.Write(other.Images.Take())).ShouldBe(string.Concat(PapersFiles.Write(desk.Images.Take())));
        other.Find.Find("attached").Hits.ShouldHaveSingleItem();
        other.Find.Find("heard went").Hits.ShouldHaveSingleItem();
        using var again = new MemoryStream();
        PapersZip.Write(other.Images.Take(), again, other.Shelf.Open);
        again.ToArray().SequenceEqual(zip.ToArray()).ShouldBeTrue();
    }

    [Fact]
    public void A_zip_whose_file_was_changed_is_refused()
    {
        desk.Attachments.Add(Slip, "a.txt", Content("attached"), "why", Once.Unkeyed);
        using var zip = new MemoryStream();
        PapersZip.Write(desk.Images.Take(), zip, _ => Content("another"));
        zip.Position = 0;
        using var other = new Desk();
        Should
            .Throw<UnreadableFileException>(() => PapersZip.Read(zip, content => other.Shelf.Keep(content).Hash))
            .Message.ShouldContain("changed or damaged");
    }
}
