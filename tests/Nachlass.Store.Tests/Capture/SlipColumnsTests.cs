using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Capture;

/// <summary>What is kept in memory of all slips says the same as the file, whatever was done.</summary>
public sealed class SlipColumnsTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void After_any_commands_and_undos_it_is_as_if_read_anew(int seed)
    {
        var random = new Random(seed);
        var topics = Enumerable
            .Range(1, 3)
            .Select(i => desk.Topics.Add(new TopicChange { Name = $"Topic {i}" }, Once.Unkeyed).Answer.Number)
            .ToList();
        var slips = Enumerable.Range(0, 6).Select(i => desk.Catch($"Slip of a test, the {i}th #topic-1").Number).ToList();
        var done = new Stack<CommandNumber>();
        for (var i = 0; i < 40; i++)
        {
            var slip = slips[random.Next(slips.Count)];
            try
            {
                done.Push(
                    random.Next(8) switch
                    {
                        0 => desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed).Command,
                        1 => desk.Decisions.Decide(slip, new Decision.Drop(), Once.Unkeyed).Command,
                        2 => desk.Decisions.Decide(slip, new Decision.Hold(desk.Today.AddDays(3)), Once.Unkeyed).Command,
                        3 => desk.Pieces.Start(new NewPiece("A piece", Brief: $"about [[slip {slip}]]", Slip: slip), Once.Unkeyed).Command,
                        4 => desk
                            .Slips.Edit(
                                slip,
                                new SlipChange
                                {
                                    Version = desk.Slips.Get(slip).Version,
                                    Topics = random.Next(2) == 0 ? [] : ["Topic 1", "Topic 2"],
                                    Effort = random.Next(1, 6),
                                    Formats = ["essay", "talk"],
                                },
                                Once.Unkeyed
                            )
                            .Command,
                        5 => desk.Topics.Merge(topics[2], topics[0], Once.Unkeyed).Command,
                        6 => Caught(),
                        _ => Undone(),
                    }
                );
            }
            catch (Exception refused) when (refused is BadInputException or ClashException or NotThereException or StaleException)
            {
                continue;
            }
            Same();
        }

        CommandNumber Caught()
        {
            var caught = desk.Capture.CatchSlip("Another one #topic-2", null, Once.Unkeyed);
            slips.Add(caught.Answer.Number);
            return caught.Command;
        }

        CommandNumber Undone() => done.Count == 0 ? Caught() : desk.History.Undo(done.Pop(), Once.Unkeyed).Command;
    }

    private void Same()
    {
        var kept = desk.Columns.Now();
        var read = desk.Papers.Read(SlipColumns.Read);
        Assert.Equal(Slips(read), Slips(kept));
        Assert.Equal(read.Tags.Where(t => t.Slip > 0).Order(), kept.Tags.Where(t => t.Slip > 0).Order());
        Assert.Equal(Enumerable.Range(0, read.Slips.Length).Where(read.IsUsed), Enumerable.Range(0, kept.Slips.Length).Where(kept.IsUsed));

        static IEnumerable<(int, SlipColumn, string)> Slips(Columns columns) =>
            columns
                .Slips.Select((slip, number) => (number, slip with { Format = 0 }, columns.Formats[slip.Format]))
                .Where(s => s.Item2.Exists);
    }

    [Fact]
    public void What_was_held_until_a_day_waits_from_that_day_on()
    {
        var slip = desk.Catch("Until the ice goes").Number;
        desk.Decisions.Decide(slip, new Decision.Hold(desk.Today.AddDays(2)), Once.Unkeyed);
        Assert.Equal(SlipState.Held, desk.Columns.Now().StateOf(slip.Value, desk.Today.AddDays(1)));
        Assert.Equal(SlipState.Waiting, desk.Columns.Now().StateOf(slip.Value, desk.Today.AddDays(2)));
    }
}
