using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Papers;

/// <summary>What holds after every command and every undo, in whatever order.</summary>
public sealed class InvariantTests
{
    [Fact]
    public void An_undo_in_another_order_never_makes_a_topic_its_own_ancestor()
    {
        using var desk = new Desk();
        var a = desk.Topics.Add(new TopicChange { Name = "rivers" }, Once.Unkeyed).Answer;
        var b = desk.Topics.Add(new TopicChange { Name = "fords" }, Once.Unkeyed).Answer;
        CommandNumber Under(TopicNumber topic, TopicNumber? wider) =>
            desk
                .Topics.Edit(
                    topic,
                    new TopicChange { Version = desk.Topics.List().First(t => t.Number == topic).Version, Wider = new(true, wider) },
                    Once.Unkeyed
                )
                .Command;
        Under(a.Number, b.Number);
        var loose = Under(a.Number, null);
        Under(b.Number, a.Number);
        // Putting rivers under fords again would close the circle.
        Should.Throw<ClashException>(() => desk.Undo(loose));
        desk.Topics.List().Count.ShouldBe(2);
        Should.Throw<BadInputException>(() => Under(a.Number, b.Number)).Field.ShouldBe("wider");
    }

    [Fact]
    public void An_undo_never_puts_a_text_inside_itself()
    {
        using var desk = new Desk();
        var (a, b) = (desk.Catch("one").Number, desk.Catch("two").Number);
        CommandNumber Write(SlipNumber slip, string text) =>
            desk
                .Slips.Edit(slip, new Store.Capture.SlipChange { Version = desk.Slips.Get(slip).Version, Text = text }, Once.Unkeyed)
                .Command;
        Write(a, $"[[slip {b}]]");
        var back = Write(a, "one again");
        Write(b, $"[[slip {a}]]");
        Should.Throw<ClashException>(() => desk.Undo(back));
        Should.Throw<BadInputException>(() => Write(a, $"[[slip {b}]]")).Field.ShouldBe("text");
    }

    [Fact]
    public void Deleting_an_occasion_gives_back_what_waited_for_it()
    {
        using var desk = new Desk();
        desk.Imports.Run(
            "x",
            Origin.Import,
            null,
            () => [("a.ics", new Found.OfOccasion(1, "Lights", desk.Today.AddDays(9), desk.Today.AddDays(9)))],
            Once.Unkeyed,
            stop: TestContext.Current.CancellationToken
        );
        var occasion = desk.Occasions.All()[0].Number;
        var slip = desk.Catch("for the lights").Number;
        desk.Decisions.Decide(slip, new Core.Sift.Decision.Hold(Occasion: occasion), Once.Unkeyed);
        var gone = desk.Occasions.Remove(occasion, Once.Unkeyed).Command;
        desk.Slips.Get(slip).State.ShouldBe(SlipState.Waiting);
        desk.Undo(gone);
        desk.Slips.Get(slip).ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Held), s => s.HeldOccasion.ShouldBe(occasion));
    }

    [Fact]
    public void What_links_leave_grows_with_the_text_and_not_with_its_square()
    {
        using var desk = new Desk();
        string Text(int links) => string.Concat(Enumerable.Range(1, links).Select(i => $"as [[slip {i % 90 + 1}]] has it and "));
        long Size() => desk.Papers.Read(db => db.ExecuteScalar<long>("SELECT sum(length(sentence)) FROM link"));
        var slip = desk.Catch(Text(400)).Number;
        var small = Size();
        desk.Slips.Edit(slip, new Store.Capture.SlipChange { Version = desk.Slips.Get(slip).Version, Text = Text(3_200) }, Once.Unkeyed);
        Size().ShouldBeLessThan(small * 10);
        var before = desk.LogLength();
        for (var i = 0; i < 20; i++)
            desk.Slips.Edit(
                slip,
                new Store.Capture.SlipChange { Version = desk.Slips.Get(slip).Version, Text = Text(3_200) + new string('x', i + 1) },
                Once.Unkeyed
            );
        (desk.LogLength() - before).ShouldBeLessThan(2_000_000);
    }

    public static TheoryData<string, string> Impossible =>
        new()
        {
            { "slips/0001.md", "---\nslip: 2147483647\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\nx" },
            { "slips/0001.md", "---\nslip: 0\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\nx" },
            { "slips/0001.md", "---\nslip: 1\nmerged-into: 1\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\nx" },
            { "slips/0001.md", "---\nslip: 1\ncaught: \"2026-01-01T00:00:00Z\"\n---\n\n[[slip 1]]" },
            { "topics/a.md", "---\ntopic: 1\nname: a\nunder: 1\n---\n\n" },
            { "sources/1.md", "---\nsource: 1\ntitle: a\naddress: \"javascript:alert(1)\"\n---\n\n" },
            {
                "pieces/1.md",
                "---\npiece: 1\nformat: essay\nstage: Gather\nstarted: \"2026-01-01T00:00:00Z\"\nsections:\n- aim: 3\n---\n\nx"
            },
            { "topics/a.md", "---\ntopic: 1\nname: " + new string('[', 3_000) + "\n---\n\n" },
            { "topics/a.md", "---\ntopic: 1\ntopic: 2\nname: a\n---\n\n" },
        };

    [Theory]
    [MemberData(nameof(Impossible))]
    public void Papers_that_could_not_be_are_refused_before_anything_is_written(string name, string content)
    {
        using var desk = new Desk();
        Should.Throw<RefusedException>(() =>
            desk.Images.Put(
                Exchange.Papers.PapersFiles.Read([("papers.md", "---\nnachlass: 1\n---\n\n"), (name, content)]).Checked(),
                Once.Unkeyed
            )
        );
        desk.Images.Take().IsEmpty.ShouldBeTrue();
        desk.Catch("goes on").Number.Value.ShouldBe(1);
    }

    [Fact]
    public void What_was_taken_from_one_thing_comes_back_whatever_another_was_given_since()
    {
        using var desk = new Desk();
        var (a, b) = (desk.Catch("one #fords #rivers").Number, desk.Catch("two").Number);
        CommandNumber Sort(SlipNumber slip, params string[] topics) =>
            desk
                .Slips.Edit(slip, new Store.Capture.SlipChange { Version = desk.Slips.Get(slip).Version, Topics = topics }, Once.Unkeyed)
                .Command;
        var taken = Sort(a, "fords");
        Sort(b, "bells");
        desk.Undo(taken);
        desk.Slips.Get(a).Topics.Select(t => t.Name).ShouldBe(["fords", "rivers"], ignoreOrder: true);
        desk.Slips.Get(b).Topics.ShouldHaveSingleItem().Name.ShouldBe("bells");
    }

    /// <summary>A number that was given again would make another thing's row stand in the way of a step back.</summary>
    [Fact]
    public void Rows_that_steps_back_bring_back_are_numbered_once_or_by_the_thing_they_are_of()
    {
        using var desk = new Desk();
        // Of which there is one, or one for each thing.
        string[] byThing =
        [
            "papers",
            "draft",
            "day_sheet",
            "day_plan",
            "digest",
            "claim",
            "weighing",
            "topic_weighing",
            "closing",
            "reused",
            "release_recording",
            "release_picture",
            "sending_picture",
        ];
        desk.Papers.Read(db =>
                db.Query<(string Name, string Sql)>(
                        """
                        SELECT t.name, t.sql FROM sqlite_master t WHERE t.type = 'table' AND EXISTS
                            (SELECT 1 FROM sqlite_master u WHERE u.type = 'trigger' AND u.name = 'undo_' || t.name || '_insert')
                        """
                    )
                    .ToList()
            )
            .Where(t => !t.Sql.Contains("AUTOINCREMENT", StringComparison.Ordinal))
            .Select(t => t.Name)
            .ShouldBe(byThing, ignoreOrder: true);
    }
}
