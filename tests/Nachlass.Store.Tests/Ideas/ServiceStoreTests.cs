using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Service;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Ideas;

/// <summary>What is asked of a service, and the log of it.</summary>
public sealed class ServiceStoreTests : IDisposable
{
    private static readonly IdeaService Service = new(
        "https://ideas.example/ideas",
        ServiceForm.Ideas,
        "",
        true,
        new ServiceLimits(60, 300, 1_000_000)
    );

    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void A_question_tells_of_the_topics_texts_and_of_what_exists_and_the_same_papers_ask_the_same()
    {
        for (var i = 0; i < 3; i++)
            desk.Decisions.Decide(desk.Catch($"A ferry never waits, {i} #ferries").Number, new Core.Sift.Decision.Keep(), Once.Unkeyed);
        desk.Pieces.Start(new Store.Bench.NewPiece("The far bank", Topics: ["ferries"]), Once.Unkeyed);
        desk.Pieces.Start(new Store.Bench.NewPiece("On nothing of this"), Once.Unkeyed);
        var asked = new IdeasWanted(Count: 7, Audience: "beginners", Seed: 4);
        var question = desk.Questions.For(asked);
        var topic = question.Topics.ShouldHaveSingleItem();
        topic.Name.ShouldBe("ferries");
        topic.Notes.Select(n => n.Text).ShouldContain(t => t.StartsWith("A ferry never waits"));
        question.Exists.ShouldBe(["The far bank"]);
        (question.Count, question.Seed, question.Audience).ShouldBe((7, 4, "beginners"));
        Exchange.Ideas.QuestionFile.Write(desk.Questions.For(asked)).ShouldBe(Exchange.Ideas.QuestionFile.Write(question));
        Should
            .Throw<BadInputException>(() => desk.Questions.For(asked with { Like = Core.Ideas.OfferNumber.Of(1) }))
            .Field.ShouldBe("like");
    }

    [Fact]
    public void Of_papers_with_nothing_a_topic_that_is_named_can_be_asked_about()
    {
        Should.Throw<BadInputException>(() => desk.Questions.For(new IdeasWanted())).Field.ShouldBe("topics");
        var topic = desk.Topics.Add(new Store.Topics.TopicChange { Name = "weirs" }, Once.Unkeyed).Answer.Number;
        desk.Questions.For(new IdeasWanted([topic])).Topics.ShouldHaveSingleItem().Notes.ShouldBeEmpty();
    }

    [Fact]
    public void A_request_counts_from_its_beginning_and_its_words_are_kept_for_a_while()
    {
        var first = desk.IdeaServices.Begin(Service, "what was sent", 900);
        desk.IdeaServices.Get().Use.ShouldBe(new ServiceUse(1, 900));
        desk.IdeaServices.Log()[0].Seconds.ShouldBeNull();
        desk.IdeaServices.End(first, new ServiceEnded("what came", 2, 40, 1.5, ""));
        desk.IdeaServices.Get().Use.ShouldBe(new ServiceUse(1, 40));
        desk.IdeaServices.Whole(first).ShouldSatisfyAllConditions(w => w.Sent.ShouldBe("what was sent"), w => w.Came.ShouldBe("what came"));
        // Where the service does not count, a fourth of the characters is what it took.
        var second = desk.IdeaServices.Begin(Service, new string('x', 40), 900);
        desk.IdeaServices.End(second, new ServiceEnded(new string('y', 20), 0, null, 1, "It answers 503."));
        desk.IdeaServices.Log()[0].ShouldSatisfyAllConditions(r => r.Tokens.ShouldBe(15), r => r.IsCounted.ShouldBeFalse());
        for (var i = 0; i < 210; i++)
            desk.IdeaServices.Begin(Service, "more", 1);
        desk.IdeaServices.Whole(first).ShouldSatisfyAllConditions(w => w.Sent.ShouldBeEmpty(), w => w.Request.Tokens.ShouldBe(40));
        Should.Throw<NotThereException>(() => desk.IdeaServices.Whole(99_999));
    }

    [Fact]
    public void The_limits_hold_for_what_would_be_too_much()
    {
        var tight = Service with { Limits = new ServiceLimits(60, 2, 1_000) };
        Should.Throw<ClashException>(() => desk.IdeaServices.Begin(tight, "x", 1_001)).Message.ShouldContain("1,001 tokens");
        desk.IdeaServices.Begin(tight, "x", 600);
        Should.Throw<ClashException>(() => desk.IdeaServices.Begin(tight, "x", 600)).Message.ShouldContain("400 are left");
        desk.IdeaServices.Begin(tight, "x", 100);
        Should.Throw<ClashException>(() => desk.IdeaServices.Begin(tight, "x", 1)).Message.ShouldContain("2 times today");
    }
}
