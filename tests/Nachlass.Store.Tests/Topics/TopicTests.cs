using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Topics;

public sealed class TopicTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private Core.Topics.Topic Named(string name) => desk.Topics.List().Single(t => t.Name == name);

    [Fact]
    public void A_name_is_one_topic_however_it_is_written()
    {
        desk.Catch("one #Ferries");
        desk.Catch("two #ferries");
        desk.Topics.List().ShouldHaveSingleItem().Waiting.ShouldBe(2);
    }

    [Fact]
    public void An_alias_stands_for_its_topic()
    {
        desk.Catch("one #ferries");
        desk.Topics.Edit(Named("ferries").Number, new TopicChange { Version = 1, Aliases = ["the boat"] }, Once.Unkeyed);
        desk.Catch("two #the-boat").Topics.ShouldHaveSingleItem().Name.ShouldBe("ferries");
    }

    [Fact]
    public void A_topics_new_name_follows_into_texts_and_its_old_one_still_leads_to_it()
    {
        desk.Catch("one #ferries");
        desk.Catch("compare [[ferries]]");
        desk.Topics.Edit(Named("ferries").Number, new TopicChange { Version = 1, Name = "boats" }, Once.Unkeyed);
        var opened = desk.Topics.Open(Named("boats").Number);
        opened.LinkedFrom.ShouldHaveSingleItem().Sentence.ShouldBe("compare boats", "the text follows");
        opened.Topic.Aliases.ShouldBe(["ferries"]);
        desk.Find.AddressOf("Ferries").ShouldBe($"/topics/{opened.Topic.Number}");
    }

    [Fact]
    public void Merging_lets_everything_follow()
    {
        desk.Catch("one #ferries #boats");
        desk.Catch("two #boats");
        var old = Named("boats");
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("Bread", Topics: ["boats"]), Once.Unkeyed).Answer;
        desk.Topics.Add(new TopicChange { Name = "oars", Wider = Named("boats").Number }, Once.Unkeyed);
        var merged = desk.Topics.Merge(Named("boats").Number, Named("ferries").Number, Once.Unkeyed).Answer;
        merged.ShouldSatisfyAllConditions(t => t.Waiting.ShouldBe(2), t => t.Pieces.ShouldBe(1), t => t.Aliases.ShouldBe(["boats"]));
        desk.Topics.List().Select(t => t.Name).ShouldBe(["ferries", "oars"]);
        Named("oars").Wider.ShouldBe(merged.Number);
        desk.Pieces.Get(piece.Number).Topics.ShouldHaveSingleItem().Name.ShouldBe("ferries");
        desk.Catch("three #boats").Topics.ShouldHaveSingleItem().Name.ShouldBe("ferries");
        // Nothing can be wished of one that is part of another; the refusal names that other.
        Should
            .Throw<ClashException>(() => desk.Topics.Edit(old.Number, new TopicChange { Version = 2, Wish = 20 }, Once.Unkeyed))
            .Message.ShouldContain("ferries");
    }

    [Fact]
    public void Names_that_are_taken_and_circles_are_refused()
    {
        desk.Catch("one #ferries #tolls");
        Should
            .Throw<BadInputException>(() =>
                desk.Topics.Edit(Named("tolls").Number, new TopicChange { Version = 1, Name = "FERRIES" }, Once.Unkeyed)
            )
            .Field.ShouldBe("name");
        Should.Throw<BadInputException>(() => desk.Topics.Add(new TopicChange { Name = "Tolls" }, Once.Unkeyed)).Field.ShouldBe("name");
        desk.Topics.Edit(Named("tolls").Number, new TopicChange { Version = 1, Wider = Named("ferries").Number }, Once.Unkeyed);
        Should
            .Throw<BadInputException>(() =>
                desk.Topics.Edit(Named("ferries").Number, new TopicChange { Version = 1, Wider = Named("tolls").Number }, Once.Unkeyed)
            )
            .Field.ShouldBe("wider");
        Should.Throw<StaleException>(() => desk.Topics.Edit(Named("tolls").Number, new TopicChange { Version = 1 }, Once.Unkeyed));
    }
}
