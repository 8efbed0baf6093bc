using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Catalogue;

public class SendingRulesTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 24, 8, 0, 0, TimeSpan.Zero);
    private static readonly TimeZoneInfo Vienna = TimeZoneInfo.FindSystemTimeZoneById("Europe/Vienna");

    private static Sending Sending(int parts) =>
        new()
        {
            Number = SendingNumber.Of(1),
            Piece = PieceNumber.Of(1),
            Outlet = OutletNumber.Of(1),
            Title = "x",
            Text = "x",
            At = Now,
            NextTry = Now,
            Parts = [.. Enumerable.Range(1, parts).Select(i => new SendingPart(i, $"k{i}", "x", PartState.Waits, ""))],
        };

    [Fact]
    public void What_was_taken_is_sent_and_the_next_part_follows_at_once()
    {
        var after = SendingRules.After(Sending(2) with { Tries = 3 }, 1, new Outcome.Taken("https://a.example/1"), Now.AddMinutes(1));
        after.Parts[0].ShouldBe(new SendingPart(1, "k1", "x", PartState.Sent, "https://a.example/1"));
        (after.State, after.Tries, after.NextTry, after.Problem).ShouldBe((SendingState.Waits, 0, Now.AddMinutes(1), ""));
    }

    [Fact]
    public void What_was_not_taken_is_tried_again_ever_later_and_given_up_with_a_reason()
    {
        var sending = Sending(1);
        var waits = new List<TimeSpan>();
        while (sending.State == SendingState.Waits)
        {
            var at = sending.NextTry;
            sending = SendingRules.After(sending, 1, new Outcome.Later("It is down."), at);
            if (sending.State == SendingState.Waits)
                waits.Add(sending.NextTry - at);
        }
        waits.ShouldBe([.. waits.Order()]);
        waits.Count.ShouldBe(SendingRules.MostTries - 1);
        sending.State.ShouldBe(SendingState.GaveUp);
        sending.Problem.ShouldBe("It is down. It was tried 8 times.");
        sending.Parts[0].State.ShouldBe(PartState.Waits);
    }

    [Fact]
    public void An_outlet_that_asks_to_be_left_alone_is_left_alone_so_long_but_no_longer_than_a_day()
    {
        SendingRules.After(Sending(1), 1, new Outcome.Later("Full.", TimeSpan.FromMinutes(9)), Now).NextTry.ShouldBe(Now.AddMinutes(9));
        SendingRules.After(Sending(1), 1, new Outcome.Later("Full.", TimeSpan.FromDays(90)), Now).NextTry.ShouldBe(Now.AddDays(1));
    }

    [Fact]
    public void After_a_lost_answer_it_is_looked_for_before_it_is_sent_again_and_at_the_end_its_writer_is_asked()
    {
        var sending = SendingRules.After(Sending(1), 1, new Outcome.Unknown("No answer came."), Now);
        (sending.State, sending.Parts[0].State).ShouldBe((SendingState.Waits, PartState.Tries));
        for (var i = 0; i < 20 && sending.State == SendingState.Waits; i++)
            sending = SendingRules.After(sending, 1, new Outcome.Unknown("No answer came."), Now);
        (sending.State, sending.Parts[0].State).ShouldBe((SendingState.Asks, PartState.Tries));
        SendingRules.After(Sending(1), 1, new Outcome.CannotTell("Look there."), Now).State.ShouldBe(SendingState.Asks);
    }

    [Fact]
    public void Whatever_happens_a_part_that_was_sent_stays_sent() =>
        Gen.Select(Gen.Int[0, 5], Gen.Int[1, 3])
            .List[0, 40]
            .Sample(steps =>
            {
                var sending = Sending(3);
                foreach (var (kind, _) in steps)
                {
                    if (sending.Parts.FirstOrDefault(p => p.State != PartState.Sent) is not { } part)
                        break;
                    var before = sending.Parts.Where(p => p.State == PartState.Sent).ToList();
                    Outcome outcome = kind switch
                    {
                        0 => new Outcome.Taken("https://a.example/" + part.Nth),
                        1 => new Outcome.WasThere("https://a.example/" + part.Nth),
                        2 => new Outcome.Later("x"),
                        3 => new Outcome.Refused("x"),
                        4 => new Outcome.Unknown("x"),
                        _ => new Outcome.CannotTell("x"),
                    };
                    sending = SendingRules.After(sending, part.Nth, outcome, Now);
                    sending.Parts.Where(p => p.State == PartState.Sent).Take(before.Count).ShouldBe(before);
                    // Only what surely was not taken may be sent again without a look.
                    if (outcome is Outcome.Unknown or Outcome.CannotTell)
                        sending.Parts[part.Nth - 1].State.ShouldBe(PartState.Tries);
                }
            });

    [Fact]
    public void A_thread_goes_out_in_its_parts_and_an_essay_whole()
    {
        SendingRules.Parts(ReadyFormats.Thread, "One.\n\n---\n\nTwo.\n").ShouldBe(["One.", "Two."]);
        SendingRules.Parts(ReadyFormats.Essay, "One.\n\n---\n\nTwo.\n").ShouldBe(["One.\n\n---\n\nTwo."]);
        SendingRules.Parts(ReadyFormats.Essay, " \n").ShouldBeEmpty();
    }

    [Fact]
    public void What_is_over_the_limit_is_said_part_by_part() =>
        SendingRules
            .Over(["Short.", new string('x', 314)], new Limit(300))
            .ShouldBe(["Post 2 has 314 characters, 14 more than the outlet takes."]);

    [Theory]
    // The clock leaps from 02:00 to 03:00 on 29 March 2026, and comes back to 02:00 at 03:00 on 25 October.
    [InlineData("2026-03-29", "02:30", "2026-03-29T01:00:00Z")]
    [InlineData("2026-03-29", "03:30", "2026-03-29T01:30:00Z")]
    [InlineData("2026-10-25", "02:30", "2026-10-25T00:30:00Z")]
    [InlineData("2026-11-28", "07:30", "2026-11-28T06:30:00Z")]
    [InlineData("2026-07-28", "07:30", "2026-07-28T05:30:00Z")]
    public void A_time_on_the_writers_clock_is_one_instant_in_summer_and_in_winter(string day, string time, string instant) =>
        SendingRules
            .At(
                DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture),
                TimeOnly.Parse(time, System.Globalization.CultureInfo.InvariantCulture),
                Vienna
            )
            .ToUniversalTime()
            .ShouldBe(DateTimeOffset.Parse(instant, System.Globalization.CultureInfo.InvariantCulture));

    [Theory]
    [InlineData(ConnectionKind.Micropub, "")]
    [InlineData(ConnectionKind.Micropub, "ftp://a.example")]
    [InlineData(ConnectionKind.Folder, "relative/folder")]
    [InlineData(ConnectionKind.Folder, " ")]
    public void An_address_that_cannot_be_one_is_refused(ConnectionKind kind, string address) =>
        Should.Throw<BadInputException>(() => Connection.CheckedAddress(kind, address)).Field.ShouldBe("address");
}
