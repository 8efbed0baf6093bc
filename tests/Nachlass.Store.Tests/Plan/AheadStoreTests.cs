using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Plan;

/// <summary>The desk's day is Tuesday, 24 November 2026.</summary>
public sealed class AheadStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void What_lies_ahead_says_how_long_it_is_and_what_would_fit()
    {
        desk.Catch("What did a ferryman read while he waited? #ferries");
        desk.Catch("Loaves and bread #bread");
        var piece = desk.Pieces.Start(new NewPiece("The last boat", Topics: ["ferries"]), Once.Unkeyed).Answer.Number;
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "Day of the boats",
                From = new(2026, 12, 8),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        var ahead = desk.Ahead.Between(null, null).ShouldHaveSingleItem();
        // Ten working days of two hours, none of them given away.
        (ahead.Days, ahead.HoursFree, ahead.ByName).ShouldBe((14, 20, false));
        ahead.Fits[0].Piece.ShouldBe(piece);
        ahead.Fits.Select(f => f.Slip).OfType<SlipNumber>().ShouldHaveSingleItem();
        // Work that is due before it takes hours away.
        desk.Plan.Place(piece, new(2026, 12, 7), null, Once.Unkeyed);
        desk.Ahead.Between(null, null).Single().HoursFree.ShouldBeLessThan(20);
    }

    [Fact]
    public void Topics_that_an_occasion_names_are_its_topics_until_it_has_its_own()
    {
        desk.Catch("Eels at the weir #eels");
        var eels = desk.Occasions.Add(new OccasionChange { Name = "Night of the eels", From = new(2026, 12, 1) }, Once.Unkeyed).Answer;
        var ahead = desk.Ahead.Between(null, null).Single();
        (ahead.ByName, ahead.Topics.Single().Name).ShouldBe((true, "eels"));
        ahead.Fits.ShouldHaveSingleItem();
        desk.Occasions.SetTopics(eels.Number, ["weirs"], Once.Unkeyed);
        (desk.Ahead.Between(null, null).Single().ByName).ShouldBeFalse();
    }

    [Fact]
    public void Topics_its_name_reads_like_are_offered_for_an_occasion_on_none_and_what_is_on_them_would_fit()
    {
        for (var i = 0; i < 4; i++)
            desk.Catch($"Regatta boats race on the river, year {1880 + i} #races");
        var piece = desk.Pieces.Start(new NewPiece("Who rowed", Topics: ["races"]), Once.Unkeyed).Answer.Number;
        var made = desk.Occasions.Add(new OccasionChange { Name = "River regatta", From = new(2026, 12, 1) }, Once.Unkeyed).Answer;
        desk.Occasions.Add(new OccasionChange { Name = "Bakers’ guild dinner", From = new(2026, 12, 2) }, Once.Unkeyed);
        var ahead = desk.Ahead.Between(null, null);
        ahead[0].Topics.ShouldBeEmpty();
        ahead[0].Likely.Select(l => l.Topic.Name).ShouldBe(["races"]);
        ahead[0].Fits[0].Piece.ShouldBe(piece);
        (ahead[1].Likely.Count, ahead[1].Fits.Count).ShouldBe((0, 0));
        desk.Occasions.SetTopics(made.Number, ["races"], Once.Unkeyed);
        var set = desk.Ahead.Between(null, null)[0];
        (set.Topics.Single().Name, set.Likely.Count).ShouldBe(("races", 0));
    }

    [Fact]
    public void An_occasion_that_moves_begins_on_a_day_its_rule_gives_and_comes_again()
    {
        var made = desk
            .Occasions.Add(
                new OccasionChange
                {
                    Name = "Blessing of the boats",
                    From = new(2026, 11, 24),
                    To = new(2026, 11, 25),
                    Recurs = "Ascension",
                },
                Once.Unkeyed
            )
            .Answer;
        (made.From, made.To, made.RecursSaid).ShouldBe((new DateOnly(2027, 5, 6), new(2027, 5, 7), "Ascension"));
        desk.Ahead.Between(new(2027, 1, 1), new(2028, 12, 31)).Select(a => a.From).ShouldBe([new DateOnly(2027, 5, 6), new(2028, 5, 25)]);
        var edited = desk.Occasions.Edit(made.Number, new OccasionChange { Recurs = "", EveryYear = true }, Once.Unkeyed).Answer;
        (edited.Recurs, edited.EveryYear, edited.From).ShouldBe((null, true, new DateOnly(2027, 5, 6)));
        Should
            .Throw<BadInputException>(() => desk.Occasions.Edit(made.Number, new OccasionChange { Recurs = "now and then" }, Once.Unkeyed))
            .Field.ShouldBe("recurs");
        Should
            .Throw<BadInputException>(() => desk.Occasions.Edit(made.Number, new OccasionChange { To = new(2027, 5, 1) }, Once.Unkeyed))
            .Field.ShouldBe("to");
    }

    [Fact]
    public void Holidays_of_the_chosen_countries_lie_ahead_and_stand_on_the_plan()
    {
        desk.HolidaysSeen.Choose(["GB", "UN"], Once.Unkeyed);
        desk.Ahead.Between(new(2026, 12, 1), new(2026, 12, 31))
            .Select(a => (a.Country, a.Name))
            .ShouldBe([("UN", "Human Rights Day"), ("UN", "International Mountain Day"), ("GB", "Christmas"), ("GB", "Boxing Day")]);
        desk.Plan.Get(new(2026, 12, 21), new(2026, 12, 27)).Entries.Select(e => e.Title).ShouldBe(["Christmas", "Boxing Day"]);
        Should.Throw<BadInputException>(() => desk.HolidaysSeen.Choose(["ZZ"], Once.Unkeyed)).Field.ShouldBe("countries");
    }
}
