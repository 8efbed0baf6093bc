using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Capture;

public sealed class CaptureStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private IReadOnlyList<Caught> Catch(params IEnumerable<string> lines) =>
        desk.Capture.Catch([.. lines.Select(line => new ToCatch(line))], Once.Unkeyed).Answer;

    [Fact]
    public void Each_line_becomes_what_it_reads_as_in_one_command()
    {
        var done = desk.Capture.Catch(
            [new("A bell #bells"), new("- [ ] ask Pell tomorrow"), new("The weir https://tavle.example/weir")],
            Once.Unkeyed
        );
        done.Answer[0].Slip!.Topics.ShouldHaveSingleItem().Name.ShouldBe("bells");
        done.Answer[1].Move!.Due.ShouldBe(desk.Today.AddDays(1));
        done.Answer[2]
            .ShouldSatisfyAllConditions(
                c => c.Source!.Address.ShouldBe("https://tavle.example/weir"),
                c => c.Slip!.Source.ShouldBe(c.Source!.Number)
            );
        desk.Undo(done.Command);
        desk.Sift.Sitting().Waiting.ShouldBe(0);
        desk.Sources.New().ShouldBeEmpty();
    }

    [Fact]
    public void What_the_writer_says_of_a_line_goes_before_its_reading()
    {
        var said = desk
            .Capture.Catch([new("Is it so? #not", new Overruling(Kind: SlipKind.Note, Topics: []))], Once.Unkeyed)
            .Answer.Single()
            .Slip!;
        said.ShouldSatisfyAllConditions(
            s => s.Kind.ShouldBe(SlipKind.Note),
            s => s.Topics.ShouldBeEmpty(),
            s => s.Text.ShouldBe("Is it so? #not")
        );
        desk.Capture.Catch([new("only mentioned: https://a.example/", new Overruling(Source: false))], Once.Unkeyed)
            .Answer.Single()
            .Source.ShouldBeNull();
    }

    [Fact]
    public void A_slip_can_be_caught_with_topics_beside_its_own_and_the_format_it_would_become()
    {
        var done = desk.Capture.CatchSlip("What a penny was worth #coin", null, Once.Unkeyed, ["tolls", "Coin"], "letter");
        done.Answer.ShouldSatisfyAllConditions(
            s => s.Topics.Select(t => t.Name).ShouldBe(["coin", "tolls"]),
            s => s.Formats.ShouldBe(["letter"])
        );
        desk.Slips.Get(done.Answer.Number).Formats.ShouldBe(["letter"]);
        Should.Throw<BadInputException>(() => desk.Capture.CatchSlip("x", null, Once.Unkeyed, [], "novel")).Field.ShouldBe("format");
        Should.Throw<BadInputException>(() => desk.Capture.CatchSlip("x", null, Once.Unkeyed, [" "])).Field.ShouldBe("topic");
    }

    [Fact]
    public void What_waited_on_its_way_keeps_its_time_but_none_comes_from_the_future()
    {
        var (now, earlier) = (desk.Clock.GetUtcNow(), desk.Clock.GetUtcNow().AddDays(-2));
        var caught = desk
            .Capture.Catch([new("before", At: earlier, Origin: Origin.Phone), new("later", At: now.AddHours(3))], Once.Unkeyed)
            .Answer;
        caught[0]
            .Slip!.ShouldSatisfyAllConditions(
                s => s.CaughtAt.ShouldBe(earlier),
                s => s.Day.ShouldBe(desk.Today.AddDays(-2)),
                s => s.Origin.ShouldBe(Origin.Phone)
            );
        caught[1].Slip!.CaughtAt.ShouldBe(now);
    }

    [Fact]
    public void A_request_sent_again_is_answered_again_and_done_once()
    {
        var once = new Once("key-1", "caught: one");
        var first = desk.Capture.Catch([new("one")], once);
        var again = desk.Capture.Catch([new("one")], once);
        again.ShouldSatisfyAllConditions(
            a => a.Repeated.ShouldBeTrue(),
            a => a.Command.ShouldBe(first.Command),
            a => a.Answer.Single().Slip!.Number.ShouldBe(first.Answer.Single().Slip!.Number)
        );
        desk.Sift.Sitting().Waiting.ShouldBe(1);
        Should
            .Throw<BadInputException>(() => desk.Capture.Catch([new("two")], once with { Of = "caught: two" }))
            .Field.ShouldBe("Idempotency-Key");
    }

    [Theory]
    [InlineData("", "text")]
    [InlineData("  \n ", "text")]
    public void An_empty_line_is_refused_and_none_of_the_others_is_caught(string line, string field)
    {
        Should.Throw<BadInputException>(() => Catch("first", line)).Field.ShouldBe(field);
        desk.Sift.Sitting().Waiting.ShouldBe(0);
    }

    [Fact]
    public void Too_much_is_refused_with_its_field()
    {
        Should.Throw<BadInputException>(() => Catch(new string('x', Slip.LongestText + 1))).Field.ShouldBe("text");
        Should.Throw<BadInputException>(() => Catch(Enumerable.Repeat("x", CaptureStore.MostAtOnce + 1))).Field.ShouldBe("lines");
        Should.Throw<BadInputException>(() => Catch()).Field.ShouldBe("lines");
        Should
            .Throw<BadInputException>(() =>
                desk.Capture.Catch([new("x", OriginNote: new string('n', ToCatch.LongestNote + 1))], Once.Unkeyed)
            )
            .Field.ShouldBe("originNote");
    }

    [Fact]
    public void The_same_address_is_one_source_however_often_it_is_caught()
    {
        Catch("A https://tavle.example/weir", "B https://tavle.example/weir");
        desk.Sources.Open(SourceNumber.Of(1)).Passages.Count.ShouldBe(2);
        Should.Throw<NotThereException>(() => desk.Sources.Get(SourceNumber.Of(2)));
    }
}
