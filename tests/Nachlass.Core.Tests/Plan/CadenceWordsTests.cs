using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class CadenceWordsTests
{
    [Theory]
    [InlineData("every second Thursday", "FREQ=WEEKLY;INTERVAL=2;BYDAY=TH")]
    [InlineData("every other thursday", "FREQ=WEEKLY;INTERVAL=2;BYDAY=TH")]
    [InlineData("The second to last Monday of the month", "FREQ=MONTHLY;BYDAY=-2MO")]
    [InlineData("weekdays except in August", "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR;BYMONTH=1,2,3,4,5,6,7,9,10,11,12")]
    [InlineData("first and third Friday", "FREQ=MONTHLY;BYDAY=1FR,3FR")]
    [InlineData("second Thursday of every month", "FREQ=MONTHLY;BYDAY=2TH")]
    [InlineData("Mondays and Thursdays", "FREQ=WEEKLY;BYDAY=MO,TH")]
    [InlineData("every 3 weeks on Tuesday", "FREQ=WEEKLY;INTERVAL=3;BYDAY=TU")]
    [InlineData("fortnightly", "FREQ=WEEKLY;INTERVAL=2")]
    [InlineData("the 1st and 15th of the month, not in July or August", "FREQ=MONTHLY;BYMONTHDAY=1,15;BYMONTH=1,2,3,4,5,6,9,10,11,12")]
    [InlineData("last day of the month", "FREQ=MONTHLY;BYMONTHDAY=-1")]
    [InlineData("every three months on the last Friday", "FREQ=MONTHLY;INTERVAL=3;BYDAY=-1FR")]
    [InlineData("first Monday and third Friday of the month", "FREQ=MONTHLY;BYDAY=1MO,3FR")]
    [InlineData("every year on 24 December", "FREQ=YEARLY;BYMONTHDAY=24;BYMONTH=12")]
    [InlineData("every third Friday", "FREQ=MONTHLY;BYDAY=3FR")]
    [InlineData("every ten days", "FREQ=DAILY;INTERVAL=10")]
    [InlineData("Fridays only in Mar and Oct.", "FREQ=WEEKLY;BYDAY=FR;BYMONTH=3,10")]
    [InlineData("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=-2", "FREQ=MONTHLY;BYDAY=MO;BYSETPOS=-2")]
    public void A_cadence_is_read_from_words(string words, string rule) => CadenceWords.Read(words).ShouldBe(rule);

    [Theory]
    [InlineData("")]
    [InlineData("now and then")]
    [InlineData("every Blursday")]
    [InlineData("every second")]
    [InlineData("sixth Friday of the month")]
    [InlineData("the 32nd of the month")]
    [InlineData("every year on 30 February")]
    [InlineData("every 1000 weeks")]
    [InlineData("every 0 days")]
    [InlineData("Fridays except in Smarch")]
    [InlineData("first Friday and 15th of the month")]
    [InlineData("weekdays except in January February March April May June July August September October November December")]
    public void What_is_no_cadence_is_refused_with_an_example(string words) =>
        Should.Throw<BadInputException>(() => CadenceWords.Read(words)).Field.ShouldBe("words");

    [Theory]
    [InlineData("FREQ=WEEKLY;INTERVAL=2;BYDAY=FR;WKST=MO", "every second Friday")]
    [InlineData("FREQ=MONTHLY;BYDAY=-2MO", "the second to last Monday of the month")]
    [InlineData("freq=weekly;byday=fr,mo,tu,we,th", "weekdays")]
    [InlineData("FREQ=DAILY;INTERVAL=14", "every 14 days")]
    [InlineData("FREQ=MONTHLY;BYMONTHDAY=3,22,-1", "the 3rd, 22nd and last day of the month")]
    public void A_rule_is_said(string rule, string words) => CadenceWords.Say(rule).ShouldBe(words);

    [Theory]
    [InlineData("FREQ=WEEKLY;UNTIL=20300101")]
    [InlineData("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=2")]
    [InlineData("FREQ=HOURLY")]
    [InlineData("FREQ=WEEKLY;FREQ=DAILY")]
    [InlineData("FREQ=WEEKLY;BYDAY=XX")]
    [InlineData("nonsense")]
    public void What_no_sentence_says_is_not_said(string rule) => CadenceWords.Say(rule).ShouldBeNull();

    private static readonly Gen<int> Nth = Gen.OneOf(Gen.Int[1, 5], Gen.Int[-5, -1]);
    private static readonly Gen<DayOfWeek> Weekday = Gen.Enum<DayOfWeek>();
    private static readonly Gen<int[]> Months = Gen.OneOf(Gen.Const(Array.Empty<int>()), Gen.Int[1, 12].Array[1, 11]);

    private static readonly Gen<Recurring> Any =
        from unit in Gen.Enum<Every>()
        from count in Gen.Int[1, Recurring.MostCount]
        from weekdays in Gen.Select(Weekday, Nth, (day, nth) => new OnWeekday(day, unit == Every.Month ? nth : 0)).Array[0, 4]
        from days in Gen.OneOf(Gen.Int[1, 31], Gen.Int[-31, -1]).Array[0, 4]
        from date in Gen.Select(Gen.Int[1, 28], Gen.Int[1, 12])
        from months in Months
        from byWeekday in Gen.Bool
        select unit switch
        {
            Every.Day => new Recurring(unit, count, [], [], Recurring.InOrder(months)),
            Every.Week => new Recurring(unit, count, Recurring.InOrder(weekdays), [], Recurring.InOrder(months)),
            Every.Month when byWeekday => new Recurring(unit, count, Recurring.InOrder(weekdays), [], Recurring.InOrder(months)),
            Every.Month => new Recurring(unit, count, [], Recurring.InOrder(days), Recurring.InOrder(months)),
            _ => byWeekday ? new Recurring(unit, count, [], [], []) : new Recurring(unit, count, [], [date.Item1], [date.Item2]),
        };

    [Fact]
    public void What_is_said_is_read_again_as_the_same() =>
        Any.Sample(told => CadenceWords.Read(CadenceWords.Say(told)).ShouldBe(told.Rule), iter: 20_000);

    [Fact]
    public void A_rule_that_is_written_is_read_again_as_the_same() =>
        Any.Sample(told => Recurring.Of(told.Rule).ShouldBe(told), iter: 20_000);
}
