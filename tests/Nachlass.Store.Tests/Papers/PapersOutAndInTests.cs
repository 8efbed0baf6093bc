using System.IO.Compression;
using System.Text;
using CsCheck;
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

    /// <summary>Texts that YAML, Markdown and line ends make difficult.</summary>
    private static readonly string[] Awkward =
        ["plain", "---\nnot front matter\n---", "trailing\n\n\n", "\n\nleading", "“quotes” and 'quotes' and \"quotes\"", "- a\n- b: c", "tabs\tand # hash", "null", "1784", "~", "emoji 👩‍🌾 naïve", "## heading\n\n> quote", "C:\\path", "a: b: c", "[[slip 1]] #x"];

    [Fact]
    public void All_papers_out_and_into_empty_papers_are_the_same_papers()
    {
        var text = Gen.Int[0, Awkward.Length - 1].Select(i => Awkward[i]);
        var step = Gen.Select(Gen.Int[0, 20], text, Gen.Int[1, 9]);
        step.List[1, 25].Sample(steps =>
        {
            using var desk = new Desk();
            foreach (var (what, words, number) in steps) Do(desk, what, words, number);
            var image = desk.Images.Take();
            var first = Zip(image);
            using var other = new Desk();
            other.Images.Put(PapersZip.Read(new MemoryStream(first), NoFiles), Once.Unkeyed);
            string.Concat(PapersFiles.Write(other.Images.Take())).ShouldBe(string.Concat(PapersFiles.Write(image)));
            Zip(other.Images.Take()).SequenceEqual(first).ShouldBeTrue();
            other.Images.Take().Slips.Select(s => s.Text).ShouldBe(image.Slips.Select(s => s.Text));
        }, iter: 25, threads: 1);
    }

    private static void Do(Desk desk, int what, string words, int number)
    {
        var filled = words.Trim().Length == 0 ? "x" : words;
        try
        {
            switch (what)
            {
                case 0: desk.Catch(filled + " #ferries"); break;
                case 1: desk.Sources.Add(new SourceChange { Title = filled.Replace('\n', ' '), Summary = words, Comments = words, Topics = ["tolls"] }, Once.Unkeyed); break;
                case 2: desk.Decisions.Decide(SlipNumber.Of(number), new Decision.StartPiece("essay", filled.Split('\n')[0] + "x"), Once.Unkeyed); break;
                case 3: desk.Decisions.Decide(SlipNumber.Of(number), new Decision.Hold(desk.Today.AddDays(number)), Once.Unkeyed); break;
                case 4: desk.Days.Write(desk.Today.AddDays(-number), words, 0, Once.Unkeyed); break;
                case 5: desk.Days.AddMove(filled, null, null, null, Once.Unkeyed); break;
                case 6: desk.Drafts.Save(PieceNumber.Of(number), words, desk.Drafts.Get(PieceNumber.Of(number)).Version, Once.Unkeyed); break;
                case 7: desk.Sources.AddPassage(SourceNumber.Of(number), new NewPassage(filled, words.Split('\n')[0]), Once.Unkeyed); break;
                case 8: desk.Topics.Add(new TopicChange { Name = "topic " + number, Aliases = ["alias " + number] }, Once.Unkeyed); break;
                case 9: desk.Days.CatchLine(desk.Today.AddDays(-number), 1, new SheetLine(filled, words.Split('\n')[0], words, number % 5 + 1), Once.Unkeyed); break;
                case 10: desk.Days.WriteBlock(desk.Today.AddDays(-number), 11, words, 0, Once.Unkeyed); break;
                case 11: desk.Plans.Write(PlanWith(words, filled, number), desk.Plans.Plan().Version, Once.Unkeyed); break;
                case 12: desk.Decisions.PassOver(SlipNumber.Of(number), Reference.To(TopicNumber.Of(1)), Once.Unkeyed); break;
                case 13: desk.Slips.Refuse(SlipNumber.Of(number), TopicNumber.Of(1), Once.Unkeyed); break;
                case 14: desk.Topics.KeepApart(TopicNumber.Of(1), TopicNumber.Of(2), Once.Unkeyed); break;
                case 15: desk.Digests.Edit(TopicNumber.Of(1), new DigestChange { Intro = words, Line = SlipNumber.Of(number), Words = words, Hidden = number % 2 == 0, Theme = SlipNumber.Of(number), Name = filled.Split('\n')[0] }, Once.Unkeyed); break;
                case 16: desk.Views.Add(new Store.Text.ViewChange { Name = "view " + number, Query = $"pull>={number % 5 + 1}", OnDesk = true }, Once.Unkeyed); break;
                case 18: desk.Claims.Refine(SlipNumber.Of(number), words, Once.Unkeyed); desk.Claims.Weigh(SlipNumber.Of(number), Reference.To(SlipNumber.Of(number + 1)), Side.Against, words, Once.Unkeyed); break;
                case 19: desk.Usable.Mark(Reference.To(SlipNumber.Of(number)), desk.Usable.Paragraphs(Reference.To(SlipNumber.Of(number)))[0].Text, "letter", Once.Unkeyed); break;
                case 17: desk.Decisions.Decide(SlipNumber.Of(number), new Decision.Hold(Sources: number), Once.Unkeyed); break;
                default: desk.Decisions.Decide(SlipNumber.Of(number), new Decision.MergeInto(SlipNumber.Of(number + 1)), Once.Unkeyed); break;
            }
        }
        catch (Exception refused) when (refused is RefusedException or ArgumentOutOfRangeException)
        {
            // Not every step makes sense in every state; what is refused changes nothing.
        }
    }

    private static DayPlan PlanWith(string words, string filled, int number) => DayPlan.First with
    {
        DaysOff = [(DayOfWeek)(number % 7)],
        Blocks =
        [
            .. DayPlan.First.Blocks,
            new PlanBlock(10, BlockKind.Question, "Q " + words.Split('\n')[0], new([DayOfWeek.Friday, (DayOfWeek)(number % 7)], [number], [new(2026, 12, number)]), filled),
            new PlanBlock(11, BlockKind.Again, "", BlockDays.Every, words),
        ],
    };

    [Fact]
    public void The_files_can_be_read_without_us()
    {
        using var desk = new Desk();
        desk.Catch("Ferrymen paid in bread #ferries");
        var files = PapersFiles.Write(desk.Images.Take()).ToDictionary(f => f.Name, f => f.Content);
        files.Keys.ShouldBe(["papers.md", "views.json", "topics/0001 ferries.md", "slips/0001.md"]);
        files["slips/0001.md"].ShouldBe(
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

            """.ReplaceLineEndings("\n"));
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

    public static TheoryData<string, string, string> Hostile => new()
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
        Should.Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(ZipOf(("readme.md", "x"))), NoFiles)).Message.ShouldContain("front matter");
        Should.Throw<UnreadableFileException>(() => PapersZip.Read(new MemoryStream(ZipOf(("slips/0001.md", "---\n---\n"))), NoFiles)).Message.ShouldContain("papers.md");
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
        Should.Throw<BadInputException>(() => desk.Images.Put(PapersZip.Read(new MemoryStream(ZipOf(("papers.md", About), ("slips/0001.md", slip))), NoFiles), Once.Unkeyed));
        var twice = slip.Replace("source: 7\n", "", StringComparison.Ordinal);
        Should.Throw<BadInputException>(() => desk.Images.Put(PapersZip.Read(new MemoryStream(ZipOf(("papers.md", About), ("slips/0001.md", twice), ("slips/0002.md", twice))), NoFiles), Once.Unkeyed));
        desk.Images.Take().IsEmpty.ShouldBeTrue();
    }
}
