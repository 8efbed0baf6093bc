using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Capture;

public sealed class ImportTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private static readonly FoundSource Bells = new("Bells over Water")
    {
        Creators = "Osei, Martin",
        Topics = ["bells"],
        Passages = [new("“A recast bell loses the voice.”") { Kind = SlipKind.Quote, Locator = "p. 61" }],
    };

    private static readonly IReadOnlyList<Found> Mixed =
    [
        new Found.OfSlip(
            1,
            new FoundSlip("The fog bell")
            {
                Topics = ["bells", "fog"],
                Pull = 4,
                CaughtAt = new DateTimeOffset(2026, 3, 4, 9, 0, 0, TimeSpan.Zero),
            }
        ),
        new Found.OfSource(2, Bells) { Doubt = "look at it" },
        new Found.OfSlip(3, new FoundSlip("Pitched to echo") { Source = Bells with { Topics = [], Passages = [] }, Locator = "p. 20" }),
        new Found.OfMove(4, "Ask the foundry", new DateOnly(2026, 12, 1)),
        new Found.OfPiece(5, "The wrong bank", "Lead.\n\n## Bell\n\nIt rang."),
        new Found.OfOccasion(6, "Ferry Lights", new(2026, 12, 6), new(2026, 12, 7), true),
        new Found.Unread(7, "no", "raw"),
    ];

    private static Finding Finding(IEnumerable<Found>? found = null) => () => (found ?? Mixed).Select(f => ("notes.txt", f));

    private Done<ImportCounts> Run(IEnumerable<Found>? found = null, bool settled = false) =>
        desk.Imports.Run(
            "brought in notes",
            Origin.Import,
            null,
            Finding(found),
            Once.Unkeyed,
            settled: settled,
            stop: TestContext.Current.CancellationToken
        );

    [Fact]
    public void What_the_preview_says_is_what_comes_in()
    {
        var seen = new List<(Found, bool)>();
        var before = desk.Everything();
        var preview = desk.Imports.Preview(Finding(), (_, found, isNew) => seen.Add((found, isNew)), TestContext.Current.CancellationToken);
        desk.Everything().ShouldBe(before);
        preview.ShouldBe(
            new ImportCounts(Slips: 3, Sources: 1, Topics: 2, Moves: 1, Pieces: 1, Occasions: 1, Files: 0, Known: 0, Doubtful: 1, Unread: 1)
        );
        seen.Count(s => s.Item2).ShouldBe(6);
        Run().Answer.ShouldBe(preview);
    }

    [Fact]
    public void Everything_stands_where_it_belongs()
    {
        Run();
        var slip = desk.Slips.Get(SlipNumber.Of(1));
        slip.ShouldSatisfyAllConditions(
            s => s.State.ShouldBe(SlipState.Waiting),
            s => s.Origin.ShouldBe(Origin.Import),
            s => s.OriginNote.ShouldBe("notes.txt"),
            s => s.Day.ShouldBe(new DateOnly(2026, 3, 4)),
            s => s.Pull.ShouldBe(4),
            s => s.Topics.Select(t => t.Name).ShouldBe(["bells", "fog"])
        );
        var opened = desk.Sources.Open(SourceNumber.Of(1));
        opened
            .Passages.Select(p => (p.Text, p.Locator))
            .ShouldBe([("“A recast bell loses the voice.”", "p. 61"), ("Pitched to echo", "p. 20")]);
        opened.Source.IsNew.ShouldBeTrue();
        desk.Drafts.Get(PieceNumber.Of(1)).Sections.ShouldHaveSingleItem().Title.ShouldBe("Bell");
        desk.Days.OpenMoves().ShouldHaveSingleItem().Due.ShouldBe(new DateOnly(2026, 12, 1));
        desk.Occasions.Coming(desk.Today, 30).ShouldHaveSingleItem().From.ShouldBe(new DateOnly(2026, 12, 6));
        desk.Find.Find("foundry").Hits.ShouldBeEmpty();
        desk.Advice.Like("a fog bell", 3, _ => true).ShouldNotBeEmpty();
    }

    [Fact]
    public void Bringing_in_again_adds_only_what_is_new_also_after_rewording()
    {
        Run();
        desk.Slips.Edit(SlipNumber.Of(1), new SlipChange { Version = 1, Text = "The fog bell, reworded" }, Once.Unkeyed);
        desk.Sources.Edit(SourceNumber.Of(1), new SourceChange { Version = 1, Title = "Bells" }, Once.Unkeyed);
        var again = Run([.. Mixed, new Found.OfSlip(8, new FoundSlip("A new one"))]).Answer;
        (again.Slips, again.Sources, again.Moves, again.Pieces, again.Occasions, again.Known).ShouldBe((1, 0, 0, 0, 0, 7));
    }

    [Fact]
    public void What_was_written_by_hand_is_known_too()
    {
        desk.Catch("The fog  bell");
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Bells over water",
                Creators = "M. Osei",
                Container = "A series",
                Details = new Dictionary<string, string> { ["ISBN"] = "0-306-40615-2" },
            },
            Once.Unkeyed
        );
        var counts = Run().Answer;
        (counts.Slips, counts.Sources, counts.Known).ShouldBe((2, 0, 2));
        desk.Sources.Open(SourceNumber.Of(1)).Passages.Count.ShouldBe(2);
    }

    [Fact]
    public void An_import_is_one_step_that_is_taken_back_and_done_again()
    {
        var before = desk.Everything();
        var first = Run();
        var after = desk.Everything();
        var back = desk.History.Undo(first.Command, Once.Unkeyed);
        desk.Everything().ShouldBe(before);
        Run().Answer.Slips.ShouldBe(3);
        desk.Everything().Split('\n').Length.ShouldBe(after.Split('\n').Length);
        back.Command.Value.ShouldBeGreaterThan(first.Command.Value);
    }

    [Fact]
    public void A_file_that_breaks_off_or_is_stopped_brings_in_nothing()
    {
        var before = desk.Everything();
        static IEnumerable<Found> Breaking()
        {
            yield return new Found.OfSlip(1, new FoundSlip("one"));
            throw new Exchange.Papers.UnreadableFileException("x.csv", "it breaks off.");
        }
        Should.Throw<RefusedException>(() => Run(Breaking()));
        using var stop = new CancellationTokenSource();
        IEnumerable<Found> Stopping()
        {
            yield return new Found.OfSlip(1, new FoundSlip("one"));
            stop.Cancel();
            yield return new Found.OfSlip(2, new FoundSlip("two"));
        }
        Should.Throw<OperationCanceledException>(() =>
            desk.Imports.Run("x", Origin.Import, null, Finding(Stopping()), Once.Unkeyed, stop: stop.Token)
        );
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void Files_come_along_and_lie_once()
    {
        var path = Path.Combine(desk.Folder, "x.txt");
        File.WriteAllText(path, "words of the attached file");
        var file = new FoundFile("x.txt", path, "the proof");
        Run([new Found.OfSlip(1, new FoundSlip("one") { Files = [file] }), new Found.OfSlip(2, new FoundSlip("two") { Files = [file] })])
            .Answer.Files.ShouldBe(2);
        Directory.EnumerateFiles(Path.Combine(desk.Folder, "files"), "*", SearchOption.AllDirectories).ShouldHaveSingleItem();
        desk.Attachments.Of(Reference.To(SlipNumber.Of(1))).ShouldHaveSingleItem().Why.ShouldBe("the proof");
        desk.Find.Find("attached words")
            .Hits.Select(h => h.Address)
            .Distinct()
            .ShouldBe(["/library/slip/1", "/library/slip/2"], ignoreOrder: true);
    }

    [Fact]
    public void Chosen_ones_come_in_as_kept_on_the_day_they_were_caught()
    {
        Run(settled: true);
        desk.Slips.Get(SlipNumber.Of(1))
            .ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Kept), s => s.SettledAt.ShouldBe(s.CaughtAt));
        desk.Sources.New().ShouldBeEmpty();
    }

    [Fact]
    public void Columns_are_remembered_by_the_table_they_belong_to()
    {
        desk.Imports.Mapping("a\u001fb").ShouldBeNull();
        desk.Imports.Remember("a\u001fb", "{\"a\":\"text\"}");
        desk.Imports.Remember("a\u001fb", "{\"b\":\"text\"}");
        desk.Imports.Mapping("a\u001fb").ShouldBe("{\"b\":\"text\"}");
    }

    [Fact]
    public void New_sources_are_gone_through_with_their_passages()
    {
        Run();
        desk.Sources.New().ShouldBe([SourceNumber.Of(1)]);
        var kept = desk.Sources.Review(SourceNumber.Of(1), keep: true, [SlipNumber.Of(3)], Once.Unkeyed);
        desk.Sources.New().ShouldBeEmpty();
        (desk.Slips.Get(SlipNumber.Of(2)).State, desk.Slips.Get(SlipNumber.Of(3)).State).ShouldBe((SlipState.Kept, SlipState.Dropped));
        desk.Undo(kept.Command);
        desk.Sources.Review(SourceNumber.Of(1), keep: false, [], Once.Unkeyed);
        (desk.Sources.Get(SourceNumber.Of(1)).TrashedAt is null, desk.Slips.Get(SlipNumber.Of(2)).State).ShouldBe(
            (false, SlipState.Dropped)
        );
    }

    [Fact]
    public void Only_feeds_of_this_machine_are_watched()
    {
        var feed = desk.Feeds.Watch("http://127.0.0.1:5241/notices.atom", 60, Once.Unkeyed).Answer;
        Should
            .Throw<BadInputException>(() => desk.Feeds.Watch("http://127.0.0.1:5241/notices.atom", 60, Once.Unkeyed))
            .Message.ShouldContain("already");
        Should
            .Throw<BadInputException>(() => desk.Feeds.Watch("https://news.example/feed", 60, Once.Unkeyed))
            .Message.ShouldContain("news.example");
        Should.Throw<BadInputException>(() => desk.Feeds.Watch("notices", 60, Once.Unkeyed)).Field.ShouldBe("address");
        Should.Throw<BadInputException>(() => desk.Feeds.Edit(feed.Number, 0, Once.Unkeyed)).Field.ShouldBe("minutes");
        feed.IsDue(desk.Clock.GetUtcNow()).ShouldBeTrue();
        desk.Feeds.Asked(feed, "Notices", "", came: true, "\"1\"", "");
        var asked = desk.Feeds.List().ShouldHaveSingleItem();
        (asked.Title, asked.IsDue(desk.Clock.GetUtcNow()), asked.IsDue(desk.Clock.GetUtcNow().AddHours(1))).ShouldBe(
            ("Notices", false, true)
        );
        desk.Feeds.Stop(feed.Number, Once.Unkeyed);
        desk.Feeds.List().ShouldBeEmpty();
    }
}
