using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Papers;

/// <summary>The law of undo, over every command there is.</summary>
public sealed class UndoLawTests
{
    /// <summary>
    /// Commands in any order, with steps back and forward among them. A step back is refused only for a reason; one that is made leads to
    /// the state before the command, doing it again to the state after it, and once more back and forward the same; and at the end all
    /// of it can be taken back, from the last to the first, to the byte.
    /// </summary>
    [Fact]
    public void Any_sequence_of_commands_and_steps_leads_to_the_states_it_names()
    {
        var done = new System.Collections.Concurrent.ConcurrentDictionary<string, int>();
        Gen.Int.Sample(
            seed =>
            {
                using var desk = new Desk();
                var random = new Random(seed);
                var every = new EveryCommand(desk, random);
                EveryCommand.Furnish(desk);
                var start = desk.Everything();
                var taken = new List<(CommandNumber Command, string Before, string After, bool Undone)>();
                for (var step = 0; step < 50; step++)
                {
                    var before = desk.Everything();
                    var standing = taken.FindLastIndex(t => !t.Undone);
                    if (random.Next(4) == 0 && standing >= 0)
                    {
                        Walk(desk, taken, standing, random.Next(1, 5));
                        continue;
                    }
                    // As often as not one that has not been seen done yet.
                    var unseen = EveryCommand.All.Where(m => !done.ContainsKey(EveryCommand.Name(m))).ToList();
                    var among = unseen.Count > 0 && random.Next(2) == 0 ? unseen : EveryCommand.All;
                    var method = among[random.Next(among.Count)];
                    if (every.Try(method) is not { } command)
                    {
                        desk.Everything().ShouldBe(before, $"{EveryCommand.Name(method)} was refused and changed something");
                        continue;
                    }
                    done.TryAdd(EveryCommand.Name(method), 0);
                    var after = desk.Everything();
                    if (desk.IsLogged(command))
                        taken.Add((command, before, after, false));
                }
                for (var i = taken.Count - 1; i >= 0; i--)
                    if (!taken[i].Undone)
                    {
                        desk.Undo(taken[i].Command);
                        Same(desk, taken[i].Before);
                    }
                desk.Everything().ShouldBe(start);
            },
            iter: 40,
            threads: 2
        );
        // What chance left out, each on a desk of its own.
        foreach (var method in EveryCommand.All.Where(m => !done.ContainsKey(EveryCommand.Name(m))))
        {
            using var desk = new Desk();
            EveryCommand.Furnish(desk);
            var every = new EveryCommand(desk, new Random(1));
            var others = new Random(2);
            for (var attempt = 0; attempt < 1_000 && !done.ContainsKey(EveryCommand.Name(method)); attempt++)
            {
                // Some need others to be done first.
                if (attempt % 50 == 49)
                    every.Try(EveryCommand.All[others.Next(EveryCommand.All.Count)]);
                var before = desk.Everything();
                if (every.Try(method) is not { } command)
                    continue;
                done.TryAdd(EveryCommand.Name(method), 0);
                if (desk.IsLogged(command))
                    desk.Undo(command);
                Same(desk, before);
            }
        }
        EveryCommand
            .All.Select(EveryCommand.Name)
            .Where(name => !done.ContainsKey(name))
            .ShouldBeEmpty("commands that this law never got to see done");
    }

    /// <summary>
    /// A writer who writes, does anything at all that leaves the piece, and steps back on its page, comes back to before what they wrote:
    /// nothing stands in the way of that walk which is no step of it.
    /// </summary>
    [Fact]
    public void No_command_stands_in_the_way_of_stepping_back_on_a_piece()
    {
        var barring = new List<string>();
        // One desk for many of them; another when the piece is gone, or can't be stepped back on.
        foreach (var some in EveryCommand.All.Chunk(20))
        {
            using var desk = new Desk();
            EveryCommand.Furnish(desk);
            var every = new EveryCommand(desk, new Random(3));
            var piece = desk.Pieces.List()[0].Number;
            foreach (var method in some)
            {
                var before = desk.Drafts.Get(piece).Text;
                desk.Drafts.Save(piece, before + "\n\nand more words", desk.Drafts.Get(piece).Version, Once.Unkeyed);
                // Often enough to have met this piece among the others.
                for (var attempt = 0; attempt < 12; attempt++)
                    every.Try(method);
                if (desk.Pieces.List().All(p => p.Number != piece))
                    piece = desk.Pieces.Start(new Store.Bench.NewPiece("Another bank"), Once.Unkeyed).Answer.Number;
                else if (Barring(desk, piece, before) is { } refused)
                    barring.Add($"{EveryCommand.Name(method)}: {refused}");
            }
        }
        barring.ShouldBeEmpty();
    }

    /// <summary>Steps back until a draft is as it was; the refusal, when there is one.</summary>
    private static string? Barring(Desk desk, PieceNumber piece, string text)
    {
        try
        {
            for (var step = 0; step < 60 && desk.Drafts.Get(piece).Text != text; step++)
                desk.Drafts.Back(piece, Once.Unkeyed);
            return null;
        }
        catch (RefusedException refused)
        {
            return refused.Message;
        }
    }

    /// <summary>The papers are as they were; else only what differs is said.</summary>
    private static void Same(Desk desk, string then)
    {
        var now = desk.Everything();
        if (now == then)
            return;
        var (old, other) = (then.Split('\n'), now.Split('\n'));
        string.Join('\n', other.Except(old)).ShouldBe(string.Join('\n', old.Except(other)));
    }

    /// <summary>Back, forward, back, forward … over the latest that stands.</summary>
    private static void Walk(Desk desk, List<(CommandNumber Command, string Before, string After, bool Undone)> taken, int at, int steps)
    {
        var (command, before, after, _) = taken[at];
        var last = command;
        for (var i = 0; i < steps; i++)
        {
            // By the number of the command, or by that of the step that is to be reversed.
            last = desk.History.Undo(i % 2 == 0 ? command : last, Once.Unkeyed).Command;
            Same(desk, i % 2 == 0 ? before : after);
        }
        taken[at] = (command, before, after, steps % 2 == 1);
    }

    [Fact]
    public void A_topic_made_in_passing_beside_a_piece_bars_no_step_back_and_stays_with_those_who_use_it()
    {
        using var desk = new Desk();
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("The bank"), Once.Unkeyed).Answer.Number;
        SlipNumber Caught(string text, PieceNumber? beside = null) =>
            desk.Capture.Catch([new Store.Capture.ToCatch(text, Beside: beside)], Once.Unkeyed).Answer[0].Slip!.Number;
        var first = Caught("A bell on each bank #bells", piece);
        var other = Caught("Another bell #bells");
        desk.Drafts.Back(piece, Once.Unkeyed);
        Should.Throw<NotThereException>(() => desk.Slips.Get(first));
        desk.Slips.Get(other).Topics.ShouldHaveSingleItem().Name.ShouldBe("bells");
        desk.Drafts.Forward(piece, Once.Unkeyed);
        desk.Slips.Get(first).Topics.ShouldBe(desk.Slips.Get(other).Topics);
    }

    [Fact]
    public void A_step_that_is_refused_names_what_stands_in_the_way()
    {
        using var desk = new Desk();
        var topic = desk.Topics.Add(new Store.Topics.TopicChange { Name = "ferries" }, Once.Unkeyed).Command;
        var slip = desk.Capture.CatchSlip("a rope #ferries", null, Once.Unkeyed);
        var refused = Should.Throw<ClashException>(() => desk.Undo(topic));
        refused.InTheWay.ShouldBe(slip.Command);
        refused.Thing.ShouldBe(Reference.To(slip.Answer.Number));
        desk.Undo(slip.Command);
        desk.Undo(topic);
        desk.Topics.List().ShouldBeEmpty();

        // A name that was taken meanwhile is a reason too.
        desk.Topics.Add(new Store.Topics.TopicChange { Name = "ferries" }, Once.Unkeyed);
        Should.Throw<ClashException>(() => desk.Undo(desk.LastStepOver(topic))).Message.ShouldContain("name");
    }

    [Fact]
    public void A_step_over_another_that_was_taken_back_is_refused_and_then_possible_again()
    {
        using var desk = new Desk();
        var slip = desk.Catch("one").Number;
        CommandNumber Write(string text) =>
            desk
                .Slips.Edit(slip, new Store.Capture.SlipChange { Version = desk.Slips.Get(slip).Version, Text = text }, Once.Unkeyed)
                .Command;
        var (first, second) = (Write("two"), Write("three"));
        desk.Undo(second);
        desk.Undo(first);
        // Doing the second again on top of “one” would make a state that never was.
        Should.Throw<ClashException>(() => desk.Undo(desk.LastStepOver(second))).InTheWay.ShouldBe(first);
        desk.Undo(desk.LastStepOver(first));
        desk.Undo(desk.LastStepOver(second));
        desk.Slips.Get(slip).Text.ShouldBe("three");
    }

    [Fact]
    public void The_log_of_a_long_draft_saved_often_grows_by_what_was_written()
    {
        using var desk = new Desk();
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("Long"), Once.Unkeyed).Answer.Number;
        var text = "## One\n\n" + string.Join("\n\n", Enumerable.Range(0, 400).Select(i => $"Paragraph {i} ’s 👩‍🌾 with its words."));
        desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var before = desk.Everything();
        var first = desk.LogLength();
        for (var i = 0; i < 50; i++)
            text = text.Insert(text.IndexOf("Paragraph 200", StringComparison.Ordinal), "é’👩‍🌾 ");
        var saves = new List<CommandNumber>();
        for (var i = 0; i < 50; i++)
            saves.Add(desk.Drafts.Save(piece, text[..(text.Length - i)], desk.Drafts.Get(piece).Version, Once.Unkeyed).Command);
        (desk.LogLength() - first).ShouldBeLessThan(20_000);
        saves.Reverse();
        foreach (var save in saves)
            desk.Undo(save);
        desk.Everything().ShouldBe(before);
    }
}
