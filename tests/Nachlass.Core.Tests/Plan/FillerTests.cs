using CsCheck;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;

namespace Nachlass.Core.Tests.Plan;

public class FillerTests
{
    private static readonly DateOnly Today = new(2026, 11, 24);

    private static Place On(int day, string format = "essay", int outlet = 1) => new(Today.AddDays(day), OutletNumber.Of(outlet), format);

    private static Candidate One(int key, double worth, int? topic = null, double hours = 2, params string[] formats) =>
        new()
        {
            Key = key,
            Worth = worth,
            Topic = topic,
            Hours = (formats.Length == 0 ? ["essay"] : formats).ToDictionary(f => f, _ => hours),
        };

    private static IEnumerable<(int Day, int Key)> Filled(FillingCase filling)
    {
        var proposal = Filler.Fill(filling);
        return proposal.Filled.Select(f => (filling.Places[f.Place].Date.DayNumber - Today.DayNumber, filling.Candidates[f.Candidate].Key));
    }

    [Fact]
    public void What_is_worth_most_goes_where_its_format_goes_out() =>
        Filled(
                new()
                {
                    Places = [On(3), On(5, "thread"), On(9)],
                    Candidates = [One(1, 40), One(2, 60), One(3, 50), One(4, 30, formats: "thread")],
                }
            )
            .OrderBy(f => f.Key)
            .Select(f => f.Key)
            .ShouldBe([2, 3, 4]);

    [Fact]
    public void What_is_timed_to_an_occasion_stands_just_before_it() =>
        Filled(
                new()
                {
                    Places = [On(3), On(10), On(17)],
                    Candidates = [One(1, 50) with { Occasions = [Today.AddDays(11)] }, One(2, 50), One(3, 50)],
                }
            )
            .ShouldContain((10, 1));

    [Fact]
    public void A_topic_under_its_wish_is_taken_before_one_that_is_worth_a_little_more() =>
        Filled(
                new()
                {
                    Places = [On(3)],
                    Candidates = [One(1, 60, 7), One(2, 50, 8)],
                    Wished = new Dictionary<int, int> { [8] = 1 },
                }
            )
            .ShouldBe([(3, 2)]);

    [Fact]
    public void Hours_topics_and_series_are_kept_to()
    {
        var places = new[] { On(3), On(5), On(20) };
        // Two hours up to the fifth day, and six up to the twentieth.
        Filled(
                new()
                {
                    Places = places,
                    Candidates = [One(1, 60), One(2, 50, hours: 3), One(3, 40)],
                    Free = [(Today.AddDays(3), 1), (Today.AddDays(5), 2), (Today.AddDays(20), 6)],
                }
            )
            .ShouldBe([(5, 1), (20, 2)]);
        Filled(
                new()
                {
                    Places = places,
                    Candidates = [One(1, 60, 7), One(2, 50, 7)],
                    Spacing = 15,
                }
            )
            .Select(f => f.Day)
            .ShouldContain(20);
        Filled(
                new()
                {
                    Places = places,
                    Candidates = [One(1, 60, 7)],
                    Spacing = 14,
                    Taken = new Dictionary<int, IReadOnlyList<DateOnly>> { [7] = [Today.AddDays(-8)] },
                }
            )
            .ShouldBe([(20, 1)]);
        Filled(
                new()
                {
                    Places = [On(3), On(5)],
                    Candidates = [One(1, 60) with { InSeries = (1, 2) }, One(2, 50) with { InSeries = (1, 1) }],
                }
            )
            .ShouldBe([(3, 2), (5, 1)]);
        Filled(
                new()
                {
                    Places = [On(3), On(9)],
                    Candidates = [One(1, 60) with { InSeries = (1, 3) }],
                    Fixed = [(1, 2, Today.AddDays(5))],
                }
            )
            .ShouldBe([(9, 1)]);
    }

    [Fact]
    public void Nothing_to_fill_or_to_fill_it_with_is_no_fault()
    {
        Filler.Fill(new() { Places = [], Candidates = [One(1, 3)] }).Filled.ShouldBeEmpty();
        Filler.Fill(new() { Places = [On(1)], Candidates = [] }).ShouldBe(new Proposal([], 0, 0), new Same());
    }

    private sealed class Same : IEqualityComparer<Proposal>
    {
        public bool Equals(Proposal? x, Proposal? y) => x!.Filled.SequenceEqual(y!.Filled) && x.Value == y.Value && x.Bound == y.Bound;

        public int GetHashCode(Proposal obj) => 0;
    }

    private static Gen<FillingCase> Cases(int places, int candidates, int leastPlaces = 0) =>
        from days in Gen.Int[0, 60].Array[leastPlaces, places]
        from ideas in Gen.Select(
            Gen.Double[0, 100].Select(w => Math.Round(w, 1)),
            Gen.Int[0, 3].Nullable(0.8),
            Gen.Double[0, 12].Select(h => Math.Round(h, 1)),
            Gen.OneOf(Gen.Const("essay"), Gen.Const("thread"), Gen.Const("essay thread")),
            Gen.Int[0, 60].Nullable(0.3),
            Gen.Int[1, 2].Nullable(0.3)
        ).Array[0, candidates]
        from kinds in Gen.OneOf(Gen.Const("essay"), Gen.Const("thread")).Array[days.Length]
        from wished in Gen.Int[0, 3].Array[4]
        from free in Gen.Double[0, 10].Select(h => Math.Round(h, 1)).Array[0, 5]
        from spacing in Gen.Int[0, 15]
        from taken in Gen.Int[-20, 60].Nullable(0.5)
        select new FillingCase
        {
            Places = [.. days.Order().Select((d, i) => On(d, kinds[i], 1 + i % 2))],
            Candidates =
            [
                .. ideas.Select(
                    (idea, i) =>
                        One(i + 1, idea.Item1, idea.Item2, idea.Item3, idea.Item4.Split(' ')) with
                        {
                            Occasions = idea.Item5 is { } day ? [Today.AddDays(day)] : [],
                            InSeries = idea.Item6 is { } series ? (series, i) : null,
                            Outlet = i % 5 == 4 ? OutletNumber.Of(1) : null,
                        }
                ),
            ],
            Wished = wished.Select((w, topic) => (topic, w)).ToDictionary(x => x.topic, x => x.w),
            // What is free grows with the days.
            Free = [.. free.Select((_, i) => (Today.AddDays(12 * (i + 1)), free.Take(i + 1).Sum()))],
            Spacing = spacing,
            Taken = taken is { } at
                ? new Dictionary<int, IReadOnlyList<DateOnly>> { [1] = [Today.AddDays(at)] }
                : new Dictionary<int, IReadOnlyList<DateOnly>>(),
            Fixed = taken is { } before && before % 3 == 0 ? [(1, 2, Today.AddDays(before))] : [],
        };

    /// <summary>All fillings there are, one after the other.</summary>
    private static double Exhausted(FillingRules rules)
    {
        var on = new int[rules.Places];
        Array.Fill(on, -1);
        return Try(0);

        double Try(int place)
        {
            if (place == on.Length)
                return rules.IsAllowed(on) ? rules.Worth(on) : 0;
            var most = Try(place + 1);
            for (var c = 0; c < rules.Candidates; c++)
                if (rules.MayStand(place, c) && !on.Contains(c))
                {
                    on[place] = c;
                    most = Math.Max(most, Try(place + 1));
                    on[place] = -1;
                }
            return most;
        }
    }

    private static int[] Read(Proposal proposal, FillingRules rules)
    {
        var on = new int[rules.Places];
        Array.Fill(on, -1);
        foreach (var filled in proposal.Filled)
            on[filled.Place] = filled.Candidate;
        return on;
    }

    [Fact]
    public void A_few_dates_are_filled_as_well_as_can_be() =>
        Cases(5, 6)
            .Sample(
                filling =>
                {
                    var rules = new FillingRules(filling);
                    var proposal = Filler.Fill(filling);
                    rules.IsAllowed(Read(proposal, rules)).ShouldBeTrue();
                    rules.Worth(Read(proposal, rules)).ShouldBe(proposal.Value, 1e-6);
                    proposal.Value.ShouldBe(Exhausted(rules), 1e-6);
                    proposal.Bound.ShouldBe(proposal.Value, 1e-6);
                },
                iter: 400
            );

    [Fact]
    public void Many_are_filled_as_allowed_never_beyond_the_bound_and_always_the_same() =>
        Cases(25, 50)
            .Sample(
                filling =>
                {
                    var rules = new FillingRules(filling);
                    var proposal = Filler.Fill(filling);
                    rules.IsAllowed(Read(proposal, rules)).ShouldBeTrue();
                    rules.Worth(Read(proposal, rules)).ShouldBe(proposal.Value, 1e-6);
                    proposal.Value.ShouldBeLessThanOrEqualTo(proposal.Bound + 1e-6);
                    Filler.Fill(filling).Filled.ShouldBe(proposal.Filled);
                },
                iter: 40
            );

    [Fact]
    public void Many_dates_for_few_candidates_are_filled_as_well_as_can_be() =>
        Cases(11, 3, leastPlaces: 9)
            .Sample(
                filling =>
                {
                    var most = Exhausted(new FillingRules(filling));
                    var proposal = Filler.Fill(filling);
                    proposal.Value.ShouldBe(most, 1e-6);
                    proposal.Bound.ShouldBe(most, 1e-6);
                },
                iter: 400
            );

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Sixty_dates_by_two_hundred_candidates_come_within_two_percent_of_the_bound(int seed)
    {
        var random = new Random(seed);
        string[] formats = ["letter", "essay", "thread"];
        var free = 0.0;
        var proposal = Filler.Fill(
            new()
            {
                Places = [.. Enumerable.Range(0, 60).Select(i => On(7 + 3 * i, formats[random.Next(3)], 1 + i % 3))],
                Candidates =
                [
                    .. Enumerable
                        .Range(0, 200)
                        .Select(i =>
                            One(i, random.Next(30, 100), random.Next(10), 1 + 15 * random.NextDouble(), formats[i % 3]) with
                            {
                                Occasions = i % 6 == 0 ? [Today.AddDays(random.Next(180))] : [],
                            }
                        ),
                ],
                Wished = Enumerable.Range(0, 6).ToDictionary(topic => topic, topic => 2 * (6 - topic)),
                Free = [.. Enumerable.Range(0, 60).Select(i => (Today.AddDays(7 + 3 * i), free += 4 + 6 * random.NextDouble()))],
                Spacing = 10,
            }
        );
        proposal.Value.ShouldBeGreaterThan(0.98 * proposal.Bound);
    }
}
