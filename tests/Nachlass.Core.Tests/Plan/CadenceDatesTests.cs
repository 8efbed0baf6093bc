using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class CadenceDatesTests
{
    private static readonly DateOnly Today = new(2026, 11, 24);

    private static readonly Cadence Fortnightly = new("letter", "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", new(2026, 10, 30));

    private static readonly Dictionary<DateOnly, (PieceNumber, string)> Filled = new()
    {
        [new(2026, 10, 30)] = (PieceNumber.Of(9), "Letter 39"),
    };

    private static IReadOnlyList<PlannedDate> Dates(Cadence cadence, DateOnly? from = null) =>
        CadenceDates.Between(cadence, Filled, from ?? new(2026, 10, 26), new(2026, 12, 13), Today);

    [Fact]
    public void A_missed_date_comes_once_more_after_the_days_of_its_fallback()
    {
        // 13 November went by; two weeks and a day later it comes again, and that is still ahead.
        var dates = Dates(Fortnightly with { Fallback = 15 });
        dates
            .Select(d => (d.Date, d.Piece is not null, d.IsMissed, d.InsteadOf))
            .ShouldBe([
                (new(2026, 10, 30), true, false, null),
                (new(2026, 11, 13), false, true, null),
                (new(2026, 11, 27), false, false, null),
                (new(2026, 11, 28), false, false, new DateOnly(2026, 11, 13)),
                (new(2026, 12, 11), false, false, null),
            ]);
        // Also where the missed date itself is not shown.
        Dates(Fortnightly with { Fallback = 15 }, Today).Select(d => d.InsteadOf).ShouldContain(new DateOnly(2026, 11, 13));
    }

    [Fact]
    public void A_fallback_that_is_a_date_anyway_is_none_and_one_that_was_missed_too_does_not_come_a_third_time()
    {
        Dates(Fortnightly with { Fallback = 14 }).ShouldAllBe(d => d.InsteadOf == null);
        var twice = Dates(Fortnightly with { Fallback = 7 }).Where(d => d.InsteadOf is not null).ShouldHaveSingleItem();
        (twice.Date, twice.IsMissed).ShouldBe((new DateOnly(2026, 11, 20), true));
    }

    [Fact]
    public void Pauses_exceptions_and_an_end_are_kept_to()
    {
        var cadence = Fortnightly with
        {
            Pauses = [new Days(new(2026, 12, 20), new(2027, 1, 3))],
            Others = [new OtherDate(new(2026, 11, 27), null), new OtherDate(new(2026, 12, 11), new(2026, 12, 9))],
            Until = new(2027, 1, 30),
        };
        // 25 December is in the pause, 27 November fell out, 11 December is two days earlier.
        cadence.Dates(Today).ShouldBe([new(2026, 12, 9), new(2027, 1, 8), new(2027, 1, 22)]);
        // A date that is moved into the days that are asked for, from before them.
        (cadence with { Others = [new OtherDate(new(2026, 11, 13), new(2026, 11, 25))] })
            .Dates(Today)
            .First()
            .ShouldBe(new DateOnly(2026, 11, 25));
    }

    [Theory]
    [InlineData("a week later", 7)]
    [InlineData("two weeks later", 14)]
    [InlineData("The next day", 1)]
    [InlineData("3 days later.", 3)]
    [InlineData("in ten days", 10)]
    [InlineData("", null)]
    [InlineData("never", null)]
    public void A_fallback_is_read_from_words(string words, int? days) => FallbackWords.Read(words).ShouldBe(days);

    [Fact]
    public void What_is_said_of_a_fallback_is_read_again_as_the_same()
    {
        for (int? days = 1; days <= Cadence.LongestFallback; days++)
            FallbackWords.Read(FallbackWords.Say(days)).ShouldBe(days);
        FallbackWords.Read(FallbackWords.Say(null)).ShouldBeNull();
        Should.Throw<BadInputException>(() => FallbackWords.Read("when I feel like it")).Field.ShouldBe("fallback");
        Should.Throw<BadInputException>(() => FallbackWords.Read("400 days later")).Field.ShouldBe("fallback");
    }

    [Fact]
    public void Dates_are_in_order_and_each_comes_once_whatever_is_different()
    {
        var day = Gen.Int[0, 200].Select(d => new DateOnly(2026, 11, 1).AddDays(d));
        Gen.Select(
                Gen.OneOf(Gen.Const("FREQ=DAILY;INTERVAL=3"), Gen.Const("FREQ=WEEKLY;BYDAY=MO,TH"), Gen.Const("FREQ=MONTHLY;BYDAY=-2MO")),
                Gen.Select(day, Gen.Int[0, 20]).Select((d, n) => new Days(d, d.AddDays(n))).Array[0, 3],
                Gen.Select(day, day.Nullable()).Select((d, to) => new OtherDate(d, to)).Array[0, 5]
            )
            .Sample(
                (rule, pauses, others) =>
                {
                    var cadence = new Cadence("letter", rule, new(2026, 11, 1))
                    {
                        Pauses = pauses,
                        Others = [.. others.DistinctBy(o => o.Date)],
                    };
                    var dates = cadence.Dates(new(2026, 11, 10), new(2027, 4, 1)).ToList();
                    dates.ShouldBe(dates.Distinct().Order());
                    var moved = cadence.Others.Select(o => o.To).ToHashSet();
                    dates
                        .Where(d => !moved.Contains(d))
                        .ShouldAllBe(d => !pauses.Any(p => p.Have(d)) && cadence.Others.All(o => o.Date != d));
                }
            );
    }
}
