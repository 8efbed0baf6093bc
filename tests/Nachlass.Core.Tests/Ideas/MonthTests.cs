using CsCheck;
using Nachlass.Core.Ideas.Month;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;

namespace Nachlass.Core.Tests.Ideas;

/// <summary>Topics on dates, and in which forms.</summary>
public sealed class MonthTests
{
    private static readonly DateOnly Monday = new(2026, 11, 30);

    private static readonly OutletNumber Weekly = OutletNumber.Of(1);

    private static Place On(int day, string format = "essay") => new(Monday.AddDays(day), Weekly, format);

    private static List<int?> Filled(FillingCase filling)
    {
        var on = new int?[filling.Places.Count];
        foreach (var filled in Filler.Fill(filling).Filled)
            on[filled.Place] = filling.Candidates[filled.Candidate].Topic;
        return [.. on];
    }

    private static FillingCase Case(IReadOnlyList<TopicForDates> topics, IReadOnlyList<Place> places, int spacing = 0) =>
        TopicsOnDates.Case(
            topics,
            places,
            new Dictionary<string, double> { ["essay"] = 2 },
            [],
            new Dictionary<int, IReadOnlyList<DateOnly>>(),
            spacing
        );

    [Fact]
    public void The_worthiest_come_most_often_and_all_get_their_turn()
    {
        var on = Filled(Case([new(1, 90, []), new(2, 70, []), new(3, 40, [])], [.. Enumerable.Range(0, 6).Select(i => On(i * 3))]));
        on.ShouldAllBe(topic => topic != null);
        (on.Count(t => t == 1), on.Count(t => t == 2), on.Count(t => t == 3)).ShouldBe((3, 2, 1));
    }

    [Fact]
    public void A_topic_with_an_occasion_comes_before_it() =>
        Filled(Case([new(1, 60, []), new(2, 60, [Monday.AddDays(9)])], [On(1), On(9)], spacing: 20)).ShouldBe([1, 2]);

    [Fact]
    public void No_topic_is_nearer_to_itself_than_wished() =>
        Gen.Select(Gen.Double[0, 100].Array[1, 5], Gen.Int[0, 40].Array[1, 14], Gen.Int[0, 20])
            .Sample(
                (scores, days, spacing) =>
                {
                    var places = days.Distinct().Order().Select(d => On(d)).ToList();
                    var on = Filled(Case([.. scores.Select((s, i) => new TopicForDates(i, s, []))], places, spacing));
                    return on.Index()
                        .Where(o => o.Item is not null)
                        .GroupBy(o => o.Item)
                        .All(g =>
                            g.Select(o => places[o.Index].Date.DayNumber).Order().ToList() is var at
                            && at.Zip(at.Skip(1)).All(pair => pair.Second - pair.First >= spacing)
                        );
                },
                iter: 60
            );

    private static IEnumerator<(OutletNumber, DayOfWeek?, string)> Next(DayOfWeek? best = null) =>
        Enumerable.Repeat((Weekly, best, "essay"), 100).GetEnumerator();

    [Fact]
    public void Fewer_dates_a_week_stay_spread_and_more_are_added_on_working_days()
    {
        var last = Monday.AddDays(13);
        List<Place> daily = [.. Enumerable.Range(0, 14).Select(i => On(i))];
        var two = HowOften.Of(daily, 2, Monday, last, Next());
        two.Select(p => p.Date.DayNumber - Monday.DayNumber).ShouldBe([0, 3, 7, 10]);
        var added = HowOften.Of([On(0)], 3, Monday, last, Next(DayOfWeek.Thursday));
        added.Count.ShouldBe(6);
        added.ShouldContain(p => p.Date == Monday.AddDays(3));
        added.ShouldAllBe(p => p.Date.DayOfWeek != DayOfWeek.Saturday && p.Date.DayOfWeek != DayOfWeek.Sunday);
        added.Select(p => p.Date).Distinct().Count().ShouldBe(6);
        HowOften.Of([], 3, Monday, last, Enumerable.Empty<(OutletNumber, DayOfWeek?, string)>().GetEnumerator()).ShouldBeEmpty();
    }

    private static FormFacts Form(string key, double hours, double? ratio = null, bool promotes = false) =>
        new(key, key, hours, ratio is { } r ? new EffectRead(6, r, r) : null, promotes);

    [Fact]
    public void A_form_that_reaches_more_for_less_has_the_larger_share()
    {
        var mix = FormMix.Of([Form("essay", 8, 1), Form("letter", 2, 1), Form("thread", 2, 1.5)], 12, null);
        mix.Select(m => m.Format).ShouldBe(["thread", "letter", "essay"]);
        (mix.Sum(m => m.Percent), mix.Sum(m => m.Count)).ShouldBe((100, 12));
        mix[0].Because.ShouldBe("6 releases in it reached 1.5 times the usual of their outlets, which counts as 1.5; a piece takes 2 h.");
        FormMix.Of([Form("essay", 8)], 3, null)[0].Because.ShouldStartWith("No release in it has figures");
    }

    [Fact]
    public void Where_hours_are_short_light_forms_come_more_often()
    {
        FormFacts[] forms = [Form("essay", 10), Form("thread", 1)];
        var free = FormMix.Of(forms, 10, null).Single(m => m.Format == "essay").Count;
        var tight = FormMix.Of(forms, 10, 20).Single(m => m.Format == "essay").Count;
        tight.ShouldBeLessThan(free);
        (tight * 10 + (10 - tight)).ShouldBeLessThanOrEqualTo(20);
    }

    [Fact]
    public void What_promotes_stays_the_smallest_unless_wished() =>
        Gen.Select(Gen.Select(Gen.Double[0.25, 20], Gen.Double[0.2, 4], Gen.Bool).Array[2, 6], Gen.Int[0, 60])
            .Sample(
                (forms, dates) =>
                {
                    FormFacts[] facts = [.. forms.Select((f, i) => Form($"f{i}", f.Item1, f.Item2, f.Item3))];
                    var mix = FormMix.Of(facts, dates, null);
                    var promoting = facts.Where(f => f.Promotes).Select(f => f.Format).ToHashSet();
                    var (theirs, others) = (mix.Where(m => promoting.Contains(m.Format)), mix.Where(m => !promoting.Contains(m.Format)));
                    return mix.Sum(m => m.Percent) == 100
                        && mix.Sum(m => m.Count) == dates
                        // One per cent is what rounding can do.
                        && (promoting.Count == 0 || !others.Any() || theirs.Max(m => m.Percent) <= others.Min(m => m.Percent) + 1);
                }
            );

    [Fact]
    public void The_hour_is_that_of_the_figures_then_the_outlets_own_then_the_first()
    {
        List<(int, double)> sent = [.. Enumerable.Repeat((7, 10.0), 5), .. Enumerable.Repeat((18, 30.0), 5)];
        BestHour.Of(sent, 9).Hour.ShouldBe(18);
        BestHour.Of(sent[..9], 9).ShouldBe(new HourChosen(9, "The outlet’s own hour; 9 releases are too few to say better."));
        BestHour.Of([], null).Hour.ShouldBe(BestHour.First);
    }
}
