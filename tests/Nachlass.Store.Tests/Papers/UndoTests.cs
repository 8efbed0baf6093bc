using CsCheck;
using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Papers;

public sealed class UndoTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    public static TheoryData<string> Commands =>
        [
            "catch",
            "move",
            "source",
            "keep",
            "start",
            "put",
            "hold",
            "drop",
            "merge",
            "edit slip",
            "edit source",
            "trash source",
            "passage",
            "rename topic",
            "merge topics",
            "edit piece",
            "place",
            "untie",
            "add section",
            "rename section",
            "move section",
            "delete section",
            "draft",
            "sheet",
            "lifted",
            "line",
            "answer",
            "day plan",
            "purpose",
            "tick",
            "import",
            "attach",
            "take away",
            "transcript",
            "spoken passage",
            "comment",
            "questions",
            "review",
            "watch",
            "details",
            "cadence",
            "split",
            "join",
            "several",
            "hold for sources",
            "pass over",
            "refuse",
            "refine",
            "weigh",
            "rule",
            "rule acts",
            "rule away",
            "new topic",
            "apart",
            "digest",
            "digest into a piece",
            "view",
            "change view",
            "views in",
            "link",
            "mark",
            "use",
            "linked heading",
        ];

    /// <summary>Whatever is done, taking it back leaves every row and the search index as they were; doing it again does it
    /// again.</summary>
    [Theory]
    [MemberData(nameof(Commands))]
    public void Taking_back_leaves_everything_as_it_was(string command)
    {
        var first = desk
            .Capture.Catch(
                [
                    new ToCatch("Ferrymen paid in bread [[slip 2]] #ferries #bread"),
                    new ToCatch("“Four loaves, no coin” #bread"),
                    new ToCatch("Weir https://tavle.example/weir #floods"),
                ],
                Once.Unkeyed
            )
            .Answer;
        var (a, b) = (first[0].Slip!.Number, first[1].Slip!.Number);
        var source = first[2].Source!;
        var piece = desk.Pieces.Start(new NewPiece("The far bank", "essay", Slip: b), Once.Unkeyed).Answer.Number;
        var draft = desk.Drafts.Get(piece);
        var move = desk.Days.AddMove("ask Pell on Friday", null, piece, null, Once.Unkeyed).Answer;
        desk.Pieces.Place(piece, Reference.To(b), draft.Sections[1].Number, Once.Unkeyed);
        desk.Plans.Write(
            DayPlan.First with
            {
                Blocks = [.. DayPlan.First.Blocks, new PlanBlock(7, BlockKind.Question, "Today", BlockDays.Every, "What was best?")],
            },
            0,
            Once.Unkeyed
        );
        desk.Attachments.Add(Reference.To(a), "kept.txt", new MemoryStream("words"u8.ToArray()), "why", Once.Unkeyed);
        desk.Transcripts.Write(source.Number, [new(0, 1_000, "said", "Pell")], Once.Unkeyed);
        var bread = desk.Topics.List().Single(t => t.Name == "bread").Number;
        var passage = desk
            .Sources.AddPassage(source.Number, new NewPassage("Four loaves a day, and no coin in the book.", "f. 2"), Once.Unkeyed)
            .Answer.Number;
        desk.Sources.Edit(
            source.Number,
            new SourceChange { Version = desk.Sources.Get(source.Number).Version, Topics = ["floods", "bread"] },
            Once.Unkeyed
        );
        var claim = desk.Catch("Loaves were counted").Number;
        desk.Claims.Refine(claim, "", Once.Unkeyed);
        var rule = desk
            .Rules.Add(
                new RuleChange
                {
                    Name = "Ferries start a piece",
                    When = RuleWhen.Kept,
                    Query = "topic:ferries",
                    Act = new RuleAct.Start("letter"),
                    IsOn = true,
                },
                Once.Unkeyed
            )
            .Answer.Number;
        var view = desk.Views.Add(new ViewChange { Name = "Unused", Query = "used:no" }, Once.Unkeyed).Answer;
        var usable = desk.Usable.Mark(Reference.To(a), "Ferrymen paid in bread", "thread", Once.Unkeyed).Answer.Number;
        desk.Catch($"See [[P 1, {draft.Sections[0].Title}]].");
        var outlet = desk.Outlets.Add(new Store.Plan.OutletChange { Name = "Low Water" }, Once.Unkeyed).Answer.Number;
        var before = desk.Everything();
        var version = desk.Drafts.Get(piece).Version;
        var topics = desk.Topics.List();
        var done = command switch
        {
            "catch" => desk
                .Capture.Catch(
                    [new ToCatch("new #topic"), new ToCatch("- [ ] a move tomorrow"), new ToCatch("https://tavle.example/new")],
                    Once.Unkeyed
                )
                .Command,
            "move" => desk.Days.AddMove("walk the fords", null, null, null, Once.Unkeyed).Command,
            "source" => desk.Sources.Add(new SourceChange { Title = "A book", Topics = ["brandnew"] }, Once.Unkeyed).Command,
            "keep" => desk.Decisions.Decide(a, new Decision.Keep(), Once.Unkeyed).Command,
            "start" => desk.Decisions.Decide(a, new Decision.StartPiece("letter"), Once.Unkeyed).Command,
            "put" => desk.Decisions.Decide(a, new Decision.PutIntoPiece(piece), Once.Unkeyed).Command,
            "hold" => desk.Decisions.Decide(a, new Decision.Hold(desk.Today.AddDays(3)), Once.Unkeyed).Command,
            "drop" => desk.Decisions.Decide(a, new Decision.Drop(), Once.Unkeyed).Command,
            "merge" => desk.Decisions.Decide(b, new Decision.MergeInto(a), Once.Unkeyed).Command,
            "edit slip" => desk
                .Slips.Edit(
                    a,
                    new SlipChange
                    {
                        Version = 1,
                        Text = "other words [[P 1]]",
                        Pull = 4,
                        Topics = ["floods", "else"],
                    },
                    Once.Unkeyed
                )
                .Command,
            "edit source" => desk
                .Sources.Edit(
                    source.Number,
                    new SourceChange
                    {
                        Version = desk.Sources.Get(source.Number).Version,
                        Title = "Other",
                        Summary = "see [[slip 1]]",
                        Topics = [],
                    },
                    Once.Unkeyed
                )
                .Command,
            "trash source" => desk
                .Sources.Edit(
                    source.Number,
                    new SourceChange { Version = desk.Sources.Get(source.Number).Version, Trashed = true },
                    Once.Unkeyed
                )
                .Command,
            "passage" => desk.Sources.AddPassage(source.Number, new NewPassage("what it says", "p. 3"), Once.Unkeyed).Command,
            "rename topic" => desk
                .Topics.Edit(
                    topics[0].Number,
                    new TopicChange
                    {
                        Version = topics[0].Version,
                        Name = "loaves",
                        Aliases = ["crumbs"],
                    },
                    Once.Unkeyed
                )
                .Command,
            "merge topics" => desk.Topics.Merge(topics[0].Number, topics[1].Number, Once.Unkeyed).Command,
            "edit piece" => desk
                .Pieces.Edit(
                    piece,
                    new PieceChange
                    {
                        Version = 1,
                        Title = "Other",
                        Stage = "Out",
                        Due = desk.Today,
                        Topics = ["bread"],
                    },
                    Once.Unkeyed
                )
                .Command,
            "place" => desk.Pieces.Place(piece, Reference.To(a), draft.Sections[0].Number, Once.Unkeyed).Command,
            "untie" => desk.Pieces.Untie(piece, Reference.To(b), Once.Unkeyed).Command,
            "add section" => desk.Drafts.AddSection(piece, new NewSection("More", version), Once.Unkeyed).Command,
            "rename section" => desk
                .Drafts.EditSection(
                    piece,
                    draft.Sections[1].Number,
                    new SectionChange
                    {
                        Version = version,
                        Title = "Renamed",
                        Aim = 5,
                    },
                    Once.Unkeyed
                )
                .Command,
            "move section" => desk
                .Drafts.MoveSection(piece, draft.Sections[4].Number, new SectionMove(version, draft.Sections[0].Number, 1), Once.Unkeyed)
                .Command,
            "delete section" => desk.Drafts.RemoveSection(piece, draft.Sections[1].Number, version, Once.Unkeyed).Command,
            "draft" => desk.Drafts.Save(piece, "lead [[slip 1]]\n\n## Only one\n\nwords", version, Once.Unkeyed).Command,
            "sheet" => desk.Days.Write(desk.Today, "loose [[slip 1]]", 0, Once.Unkeyed).Command,
            "lifted" => desk.Days.Write(desk.Today, "The bell woke the wrong bank #voices", 0, Once.Unkeyed, left: true).Command,
            "line" => desk
                .Days.CatchLine(desk.Today, 1, new SheetLine("A bridge for eels #eels", "Eels", "Ask Odile.", 4, 2), Once.Unkeyed)
                .Command,
            "answer" => desk.Days.WriteBlock(desk.Today.AddDays(-3), 7, "The bread column [[slip 1]].", 0, Once.Unkeyed).Command,
            "day plan" => desk
                .Plans.Write(
                    DayPlan.First with
                    {
                        Blocks = [.. DayPlan.First.Blocks.Take(2)],
                        DaysOff = [DayOfWeek.Sunday],
                    },
                    1,
                    Once.Unkeyed
                )
                .Command,
            "purpose" => desk.Days.Write("To look down", 1, Once.Unkeyed).Command,
            "tick" => desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Done = true }, Once.Unkeyed).Command,
            "import" => desk
                .Imports.Run("x", Origin.Import, null, () => Incoming, Once.Unkeyed, stop: TestContext.Current.CancellationToken)
                .Command,
            "attach" => desk
                .Attachments.Add(Reference.To(source.Number), "b.txt", new MemoryStream("other words"u8.ToArray()), null, Once.Unkeyed)
                .Command,
            "take away" => desk.Attachments.Remove(AttachmentNumber.Of(1), Once.Unkeyed).Command,
            "transcript" => desk
                .Transcripts.Write(source.Number, [new(0, 1_000, "other"), new(1_000, 2_000, "lines")], Once.Unkeyed)
                .Command,
            "spoken passage" => desk.Transcripts.KeepPassage(source.Number, 1, 1, Once.Unkeyed).Command,
            "comment" => desk.Sources.Answer(source.Number, "What does it change?", "All [[slip 1]]", Once.Unkeyed).Command,
            "questions" => desk.Sources.SetQuestions(["Who pays?"], Once.Unkeyed).Command,
            "review" => desk.Sources.Review(source.Number, keep: false, [], Once.Unkeyed).Command,
            "cadence" => desk.Cadences.Set(outlet, "letter", new("FREQ=WEEKLY;BYDAY=FR"), Once.Unkeyed).Command,
            "watch" => desk.Feeds.Watch("http://127.0.0.1:9/feed", 60, Once.Unkeyed).Command,
            "details" => desk
                .Sources.Edit(
                    source.Number,
                    new SourceChange
                    {
                        Version = desk.Sources.Get(source.Number).Version,
                        Details = new Dictionary<string, string> { ["accessed"] = "2026-11-24" },
                        Text = "its own words",
                    },
                    Once.Unkeyed
                )
                .Command,
            "split" => desk.Decisions.Split(a, 1, ["Ferrymen paid", "in bread [[slip 2]]"], Once.Unkeyed).Command,
            "join" => desk.Decisions.Join([a, b], Once.Unkeyed).Command,
            "several" => desk
                .Decisions.Several(
                    new SeveralChange
                    {
                        Slips = [a, b],
                        Kind = SlipKind.Question,
                        Pull = 5,
                        Topics = ["both"],
                        WithoutTopics = ["bread"],
                        Decision = new Decision.Drop(),
                    },
                    Once.Unkeyed
                )
                .Command,
            "hold for sources" => desk.Decisions.Decide(a, new Decision.Hold(Sources: 3), Once.Unkeyed).Command,
            "pass over" => desk.Decisions.PassOver(b, Reference.To(topics[0].Number), Once.Unkeyed).Command,
            "refuse" => desk.Slips.Refuse(a, topics[0].Number, Once.Unkeyed).Command,
            "refine" => desk.Claims.Refine(a, "Bread was money", Once.Unkeyed).Command,
            "weigh" => desk.Claims.Weigh(claim, Reference.To(source.Number), Side.Against, "Only on flood days.", Once.Unkeyed).Command,
            "rule" => desk
                .Rules.Edit(
                    rule,
                    new RuleChange
                    {
                        Version = desk.Rules.List().Single().Version,
                        IsOn = false,
                        Name = "Off",
                    },
                    Once.Unkeyed
                )
                .Command,
            "rule acts" => desk.Decisions.Decide(a, new Decision.Keep(), Once.Unkeyed).Command,
            "rule away" => desk.Rules.Remove(rule, Once.Unkeyed).Command,
            "new topic" => desk.Topics.Add(new TopicChange { Name = "tow", Aliases = ["tow paths"] }, Once.Unkeyed).Command,
            "apart" => desk.Topics.KeepApart(topics[0].Number, topics[1].Number, Once.Unkeyed).Command,
            "digest" => desk
                .Digests.Edit(
                    bread,
                    new DigestChange
                    {
                        Intro = "What bread was.",
                        Line = passage,
                        Words = "Four loaves.",
                    },
                    Once.Unkeyed
                )
                .Command,
            "digest into a piece" => desk.Digests.IntoPiece(bread, null, Once.Unkeyed).Command,
            "view" => desk
                .Views.Add(
                    new ViewChange
                    {
                        Name = "Loaves",
                        Query = "bread",
                        OnDesk = true,
                    },
                    Once.Unkeyed
                )
                .Command,
            "change view" => desk
                .Views.Edit(
                    view.Number,
                    new ViewChange
                    {
                        Version = view.Version,
                        Position = 1,
                        Grouped = ViewGroup.Topic,
                    },
                    Once.Unkeyed
                )
                .Command,
            "views in" => desk.Views.BringIn([new SavedView { Name = "From a file", Query = "pull>=4" }], Once.Unkeyed).Command,
            "link" => desk.Mentions.Link(Reference.To(bread), "", Reference.To(a), Once.Unkeyed).Command,
            "mark" => desk.Usable.Mark(Reference.To(b), "“Four loaves, no coin”", "thread", Once.Unkeyed).Command,
            "use" => desk.Usable.Use(usable, Once.Unkeyed).Command,
            "linked heading" => desk
                .Drafts.EditSection(
                    piece,
                    draft.Sections[0].Number,
                    new SectionChange { Version = version, Title = "The landing" },
                    Once.Unkeyed
                )
                .Command,
            _ => throw new InvalidOperationException(command),
        };
        var after = desk.Everything();
        after.ShouldNotBe(before);

        var back = desk.History.Undo(done, Once.Unkeyed);
        desk.Everything().ShouldBe(before);
        desk.Undo(back.Command);
        desk.Everything().ShouldBe(after);
    }

    /// <summary>The law behind all of it: any commands, taken back from the last to the first, leave what was there before them.</summary>
    [Fact]
    public void Whatever_was_done_can_all_be_taken_back_from_the_last_to_the_first() =>
        Anything.Steps.Sample(
            steps =>
            {
                using var papers = new Desk();
                var before = papers.Everything();
                foreach (var step in steps)
                    Anything.Do(papers, step);
                foreach (
                    var command in papers.Papers.Read(db =>
                        db.Query<int>("SELECT DISTINCT command FROM undo_log ORDER BY command DESC").ToList()
                    )
                )
                    papers.Undo(CommandNumber.Of(command));
                papers.Everything().ShouldBe(before);
            },
            iter: 60,
            threads: 1
        );

    private static IEnumerable<(string, Found)> Incoming =>
        [
            (
                "",
                new Found.OfSlip(
                    1,
                    new FoundSlip("brought [[slip 1]]")
                    {
                        Topics = ["wholly new"],
                        Source = new FoundSource("A page") { Address = "https://a.example/" },
                    }
                )
            ),
            ("", new Found.OfMove(2, "a move")),
            ("", new Found.OfPiece(3, "A piece", "## One\n\ntext")),
            ("", new Found.OfOccasion(4, "Lights", new(2026, 12, 6), new(2026, 12, 7))),
        ];

    [Fact]
    public void What_was_changed_since_is_not_taken_back_blindly()
    {
        var slip = desk.Catch("one");
        var kept = desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);
        var edited = desk.Slips.Edit(slip.Number, new SlipChange { Version = 2, Text = "one, better" }, Once.Unkeyed);
        Should.Throw<ClashException>(() => desk.Undo(kept.Command)).Message.ShouldContain($"changed slip {slip.Number}");
        desk.Slips.Get(slip.Number).Text.ShouldBe("one, better");

        desk.Undo(edited.Command);
        desk.Undo(kept.Command);
        desk.Slips.Get(slip.Number)
            .ShouldSatisfyAllConditions(s => s.State.ShouldBe(Core.Capture.SlipState.Waiting), s => s.Text.ShouldBe("one"));
    }

    [Fact]
    public void A_command_is_taken_back_once()
    {
        var slip = desk.Catch("one");
        var dropped = desk.Decisions.Decide(slip.Number, new Decision.Drop(), Once.Unkeyed);
        desk.Undo(dropped.Command);
        Should.Throw<ClashException>(() => desk.Undo(dropped.Command));
        Should.Throw<NotThereException>(() => desk.Undo(CommandNumber.Of(999)));
    }

    [Fact]
    public void A_version_seen_before_never_comes_back_with_other_content()
    {
        var slip = desk.Catch("one");
        var kept = desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);
        desk.Undo(kept.Command);
        desk.Slips.Get(slip.Number).Version.ShouldBeGreaterThan(2);
    }

    [Fact]
    public void Numbers_are_never_given_twice()
    {
        var caught = desk.Capture.CatchSlip("one", null, Once.Unkeyed);
        desk.Undo(caught.Command);
        desk.Catch("two").Number.Value.ShouldBe(caught.Answer.Number.Value + 1);
    }

    [Fact]
    public void A_piece_is_walked_back_and_forward_step_by_step_over_draft_outline_and_material()
    {
        var slip = desk.Catch("paid in bread").Number;
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;
        int Version() => desk.Drafts.Get(piece).Version;
        var states = new List<string> { desk.Everything() };
        void Done(object _) => states.Add(desk.Everything());
        Done(desk.Drafts.Save(piece, "## One\n\na\n\n## Two\n\nb\n", Version(), Once.Unkeyed));
        var sections = desk.Drafts.Get(piece).Sections;
        Done(desk.Drafts.MoveSection(piece, sections[1].Number, new SectionMove(Version(), sections[0].Number, 1), Once.Unkeyed));
        Done(desk.Pieces.Place(piece, Reference.To(slip), sections[0].Number, Once.Unkeyed));
        Done(desk.Drafts.EditSection(piece, sections[0].Number, new SectionChange { Version = Version(), Aim = 300 }, Once.Unkeyed));
        Done(desk.Drafts.Save(piece, desk.Drafts.Get(piece).Text + "more", Version(), Once.Unkeyed));
        for (var i = states.Count - 2; i >= 0; i--)
        {
            desk.Drafts.Back(piece, Once.Unkeyed);
            desk.Everything().ShouldBe(states[i]);
        }
        Should.Throw<ClashException>(() => desk.Drafts.Back(piece, Once.Unkeyed));
        for (var i = 1; i < states.Count; i++)
        {
            desk.Drafts.Forward(piece, Once.Unkeyed).Answer.What.ShouldStartWith("did again");
            desk.Everything().ShouldBe(states[i]);
        }
        Should.Throw<ClashException>(() => desk.Drafts.Forward(piece, Once.Unkeyed));

        // The history tells of steps, not of the walk over them.
        desk.History.Of(Reference.To(piece)).ShouldAllBe(h => !h.What.Contains("again", StringComparison.Ordinal) && !h.Undone);
        var placed = desk.History.Of(Reference.To(piece)).Single(h => h.What.StartsWith("placed", StringComparison.Ordinal));
        desk.Drafts.BackTo(piece, placed.Command, Once.Unkeyed).Answer.What.ShouldBe("went back 3 steps");
        desk.Everything().ShouldBe(states[2]);
        // Something new ends what could be done again.
        desk.Drafts.Save(piece, "anew", Version(), Once.Unkeyed);
        Should.Throw<ClashException>(() => desk.Drafts.Forward(piece, Once.Unkeyed));
    }

    [Fact]
    public void An_afternoon_of_writing_is_a_few_lines_of_history_and_many_steps()
    {
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;
        foreach (var text in (string[])["a", "a b", "a b c"])
        {
            desk.Clock.Advance(TimeSpan.FromSeconds(20));
            desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        }
        desk.Clock.Advance(TimeSpan.FromHours(1));
        desk.Drafts.Save(piece, "later", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.History.Of(Reference.To(piece)).Select(h => h.Times).ShouldBe([1, 3, 1]);
        desk.Drafts.Back(piece, Once.Unkeyed).Answer.Draft.Text.ShouldBe("a b c");
        desk.Drafts.Back(piece, Once.Unkeyed).Answer.Draft.Text.ShouldBe("a b");
    }

    [Fact]
    public void History_says_what_was_done_to_a_thing()
    {
        var slip = desk.Catch("one");
        desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);
        desk.History.Of(Reference.To(slip.Number)).Select(h => h.What).ShouldBe([$"kept slip {slip.Number}", $"caught slip {slip.Number}"]);
    }
}
