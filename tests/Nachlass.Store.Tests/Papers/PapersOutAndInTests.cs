using System.IO.Compression;
using System.Text;
using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Papers;

public sealed class PapersOutAndInTests
{
    private static byte[] Zip(PapersImage papers)
    {
        using var memory = new MemoryStream();
        PapersZip.Write(papers, memory, hash => throw new InvalidOperationException(hash));
        return memory.ToArray();
    }

    private static byte[] ZipOf(params (string Name, string Content)[] files)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, true))
            foreach (var (name, content) in files)
            {
                using var stream = zip.CreateEntry(name).Open();
                stream.Write(Encoding.UTF8.GetBytes(content));
            }
        return memory.ToArray();
    }

    private static string NoFiles(Stream content) => throw new InvalidOperationException("no file was expected");

    /// <summary>Whatever commands made of the papers: they go out, and come in again as the same.</summary>
    [Fact]
    public void Whatever_was_done_all_papers_go_out_and_into_empty_papers_as_the_same_papers() =>
        Gen.Int.Sample(
            seed =>
            {
                using var desk = new Desk();
                var random = new Random(seed);
                var every = new EveryCommand(desk, random);
                EveryCommand.Furnish(desk);
                for (var step = 0; step < 40; step++)
                    every.Try(EveryCommand.All[random.Next(EveryCommand.All.Count)]);
                SameInOthers(desk);
            },
            iter: 15,
            threads: 1
        );

    /// <summary>Says which file differs, and how, before the bytes are compared.</summary>
    private static void SameFiles(byte[] second, byte[] first)
    {
        Dictionary<string, string> Files(byte[] zip)
        {
            using var archive = new ZipArchive(new MemoryStream(zip));
            return archive.Entries.ToDictionary(e => e.FullName, e => new StreamReader(e.Open()).ReadToEnd());
        }
        var (all, before) = (Files(second), Files(first));
        all.Keys.ShouldBe(before.Keys);
        foreach (var (name, content) in before)
            all[name].ShouldBe(content, name);
    }

    private static void SameInOthers(Desk desk)
    {
        var image = desk.Images.Take();
        using var first = new MemoryStream();
        PapersZip.Write(image, first, desk.Shelf.Open);
        using var other = new Desk();
        other.Images.Put(PapersZip.Read(new MemoryStream(first.ToArray()), file => other.Shelf.Keep(file).Hash), Once.Unkeyed);
        var (then, now) = (Lines(image), Lines(other.Images.Take()));
        string.Join('\n', now.Except(then)).ShouldBe(string.Join('\n', then.Except(now)));
        using var second = new MemoryStream();
        PapersZip.Write(other.Images.Take(), second, other.Shelf.Open);
        SameFiles(second.ToArray(), first.ToArray());
        second.ToArray().SequenceEqual(first.ToArray()).ShouldBeTrue();
    }

    private static List<string> Lines(PapersImage image) =>
        [.. PapersFiles.Write(image).SelectMany(f => f.Content.Split('\n').Select(line => f.Name + ": " + line))];

    [Fact]
    public void What_is_kept_beside_a_piece_and_what_was_lifted_out_goes_with_the_papers()
    {
        using var desk = new Desk();
        var slip = desk.Catch("a rope").Number;
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;
        Draft Write(string text) => desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed).Answer;
        var section = Write("## The toll\n\nfour loaves\n\n## After\n\nThe bell. #ferries\n").Sections[0].Number;
        desk.Pieces.Place(piece, Reference.To(slip), section, Once.Unkeyed);
        desk.Drafts.Lift(piece, true, null, Once.Unkeyed);
        Write("## After\n\nThe bell. #ferries\n").Gone.ShouldContain(g => g.Title == "The toll");

        SameInOthers(desk);
        using var zip = new MemoryStream();
        PapersZip.Write(desk.Images.Take(), zip, desk.Shelf.Open);
        using var other = new Desk();
        other.Images.Put(PapersZip.Read(new MemoryStream(zip.ToArray()), NoFiles), Once.Unkeyed);
        other.Drafts.Lift(piece, true, null, Once.Unkeyed).Answer.IsNothing.ShouldBeTrue();
        var back = other.Drafts.Save(
            piece,
            "## The toll\n\nfour loaves\n\n## After\n\nThe bell. #ferries\n",
            other.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        back.Answer.Gone.ShouldNotContain(g => g.Title == "The toll");
        back.Answer.Sections[0].Material.ShouldBe(1);
    }

    [Fact]
    public void The_files_can_be_read_without_us()
    {
        using var desk = new Desk();
        desk.Catch("Ferrymen paid in bread #ferries");
        var files = PapersFiles.Write(desk.Images.Take()).ToDictionary(f => f.Name, f => f.Content);
        files.Keys.ShouldBe(["papers.md", "patterns.md", "views.json", "topics/0001 ferries.md", "slips/0001.md"]);
        files["slips/0001.md"]
            .ShouldBe(
                """
                ---
                slip: 1
                kind: idea
                state: waiting
                topics:
                - ferries
                origin: strip
                caught: 2026-11-24T08:00:00.000Z
                day: 2026-11-24
                ---

                Ferrymen paid in bread

                """.ReplaceLineEndings("\n")
            );
    }

    [Fact]
    public void Papers_are_brought_into_empty_papers_only_and_can_be_taken_back()
    {
        using var desk = new Desk();
        desk.Catch("one");
        var zip = Zip(desk.Images.Take());
        Should.Throw<ClashException>(() => desk.Images.Put(PapersZip.Read(new MemoryStream(zip), NoFiles), Once.Unkeyed));
        using var other = new Desk();
        var done = other.Images.Put(PapersZip.Read(new MemoryStream(zip), NoFiles), Once.Unkeyed);
        done.Answer.Slips.ShouldBe(1);
        other.Find.Find("one").Hits.ShouldHaveSingleItem();
        other.Undo(done.Command);
        other.Images.Take().IsEmpty.ShouldBeTrue();
    }

    private const string About = "---\nnachlass: 1\n---\n\n";

    public static TheoryData<string, string, string> Hostile =>
        new()
        {
            { "../../etc/cron.md", "---\n---\n", "leads out" },
            { "slips\\..\\..\\x.md", "---\n---\n", "leads out" },
            { "/slips/0001.md", "---\n---\n", "leads out" },
            { "slips/0001.md", "no front matter", "does not begin with front matter" },
            { "slips/0001.md", "---\nslip: [\n---\n\nx", "can't be read" },
            { "slips/0001.md", "---\nslip: one\n---\n\nx", "whole number" },
            { "slips/0001.md", "---\nslip: 1\ncaught: soon\n---\n\nx", "a time such as" },
            { "slips/0001.md", "---\nslip: 1\ncaught: \"2026-01-01T00:00:00Z\"\ntopics: [nowhere]\n---\n\nx", "no topic “nowhere”" },
            { "slips/0001.md", "---\nslip: 1\nkind: thought\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\nx", "it should be idea" },
            { "pieces/0001.md", "---\npiece: 1\nformat: sonnet\n---\n\nx", "no format “sonnet”" },
        };

    [Theory]
    [MemberData(nameof(Hostile))]
    public void What_can_not_be_read_is_refused_with_its_file_and_reason(string name, string content, string reason)
    {
        var zip = ZipOf(("papers.md", About), (name, content));
        var error = Should.Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(zip), NoFiles));
        error.Message.ShouldContain(name.Split('/')[^1].Split('\\')[^1]);
        error.Message.ShouldContain(reason);
    }

    [Fact]
    public void What_is_no_zip_or_no_papers_is_refused()
    {
        Should.Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream("not a zip at all"u8.ToArray()), NoFiles));
        Should
            .Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(ZipOf(("readme.md", "x"))), NoFiles))
            .Message.ShouldContain("front matter");
        Should
            .Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(ZipOf(("slips/0001.md", "---\n---\n"))), NoFiles))
            .Message.ShouldContain("papers.md");
    }

    [Fact]
    public void A_file_that_unpacks_to_too_much_is_refused()
    {
        var zip = ZipOf(("papers.md", About), ("slips/0001.md", new string('a', 17 << 20)));
        zip.Length.ShouldBeLessThan(100_000);
        Should.Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(zip), NoFiles)).Message.ShouldContain("16 MiB");
    }

    [Fact]
    public void A_zip_that_refers_to_nothing_brings_in_nothing()
    {
        using var desk = new Desk();
        var slip = "---\nslip: 1\nsource: 7\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\nx";
        Should.Throw<BadInputException>(() =>
            desk.Images.Put(PapersZip.Read(new MemoryStream(ZipOf(("papers.md", About), ("slips/0001.md", slip))), NoFiles), Once.Unkeyed)
        );
        var twice = slip.Replace("source: 7\n", "", StringComparison.Ordinal);
        Should.Throw<BadInputException>(() =>
            desk.Images.Put(
                PapersZip.Read(new MemoryStream(ZipOf(("papers.md", About), ("slips/0001.md", twice), ("slips/0002.md", twice))), NoFiles),
                Once.Unkeyed
            )
        );
        desk.Images.Take().IsEmpty.ShouldBeTrue();
    }
}
