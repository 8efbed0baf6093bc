using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Tests.Sources;

public sealed class LibraryTests : IDisposable
{
    private readonly Desk desk = new();

    public LibraryTests()
    {
        desk.Catch("Ferrymen paid in bread on flood days #ferries #tolls");
        desk.Catch("“Four loaves of bread, bread and more bread” #tolls");
        desk.Catch("Why do fords keep saints’ names? #fords");
        desk.Catch("Podcast about puddles");
        desk.Decisions.Decide(SlipNumber.Of(2), new Decision.Keep(), Once.Unkeyed);
        desk.Decisions.Decide(SlipNumber.Of(3), new Decision.Hold(desk.Today.AddDays(9)), Once.Unkeyed);
        desk.Decisions.Decide(SlipNumber.Of(4), new Decision.Drop(), Once.Unkeyed);
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Account book of the ferry",
                Summary = "A bread column without a heading.",
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
    }

    public void Dispose() => desk.Dispose();

    private List<string> Names(LibraryQuery query) =>
        [.. desk.Library.List(query).Items.Select(e => e.Slip is { } slip ? $"slip {slip.Number}" : $"source {e.Source!.Number}")];

    [Fact]
    public void In_sight_are_waiting_and_kept_slips_and_sources() =>
        Names(new()).ShouldBe(["slip 1", "slip 2", "source 1"], ignoreOrder: true);

    [Theory]
    [InlineData(InState.Waiting, "slip 1")]
    [InlineData(InState.Held, "slip 3")]
    [InlineData(InState.Dropped, "slip 4")]
    [InlineData(InState.Kept, "slip 2,source 1")]
    public void States_narrow_the_list(InState state, string names) =>
        Names(new(State: state)).ShouldBe(names.Split(','), ignoreOrder: true);

    [Fact]
    public void A_held_slip_is_in_sight_again_on_its_date()
    {
        desk.Clock.Advance(TimeSpan.FromDays(9));
        Names(new(State: InState.Waiting)).ShouldBe(["slip 1", "slip 3"], ignoreOrder: true);
        Names(new(State: InState.Held)).ShouldBeEmpty();
        Names(new("saints")).ShouldBe(["slip 3"]);
        desk.Library.Facets(new())
            .States.ShouldSatisfyAllConditions(s => s["waiting"].ShouldBe(2), s => s["held"].ShouldBe(0), s => s["sight"].ShouldBe(4));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("bread")]
    public void What_a_facet_promises_is_what_its_filter_leaves(string? words)
    {
        foreach (
            var start in new LibraryQuery[]
            {
                new(words),
                new(words, InState.All),
                new(words, Kind: SlipKind.Quote),
                new(words, Sources: true),
                new(words, InState.Kept, Used: false),
            }
        )
        {
            var facets = desk.Library.Facets(start);
            foreach (var state in Enum.GetValues<InState>())
                facets
                    .States[state.ToString().ToLowerInvariant()]
                    .ShouldBe(desk.Library.List(start with { State = state }).Total, $"{start} in {state}");
            foreach (var kind in Enum.GetValues<SlipKind>())
                facets
                    .Kinds[kind.ToString().ToLowerInvariant()]
                    .ShouldBe(desk.Library.List(start with { Kind = kind, Sources = null }).Total, $"{start} of {kind}");
            facets.Used.ShouldBe(desk.Library.List(start with { Used = true }).Total);
            facets.Unused.ShouldBe(desk.Library.List(start with { Used = false }).Total);
            foreach (var topic in desk.Topics.List())
                facets
                    .Topics.GetValueOrDefault(topic.Number.Value)
                    .ShouldBe(desk.Library.List(start with { Topic = topic.Number }).Total, $"{start} on {topic.Name}");
        }
    }

    [Fact]
    public void Words_are_ranked_and_marked()
    {
        var found = desk.Library.List(new("bread"));
        found.Total.ShouldBe(3);
        found.Items[0].Slip!.Number.Value.ShouldBe(2);
        found.Items[0].Excerpt!.ShouldContain("\u0002bread\u0003");
        Names(new("LOAF")).ShouldBeEmpty();
        Names(new("loav")).ShouldBe(["slip 2"]);
        Names(new("flooding")).ShouldBe(["slip 1"]);
        Names(new("saints names", State: InState.All)).ShouldBe(["slip 3"]);
        Names(new("\"; OR 1=1 --")).ShouldBeEmpty();
        Names(new("***")).ShouldBeEmpty();
    }

    [Fact]
    public void Words_that_stand_nearly_everywhere_bring_names_and_then_the_newest()
    {
        const int made = Asked.MostRanked + 50;
        desk.Papers.Run(
            "many",
            Once.Unkeyed,
            change =>
            {
                for (var i = 0; i < made; i++)
                    SlipRows.Insert(change, new NewSlip($"Bread again, {i}") { State = i % 2 == 0 ? SlipState.Kept : SlipState.Dropped });
                return 0;
            }
        );
        desk.Topics.Add(new Store.Topics.TopicChange { Name = "bread and coin" }, Once.Unkeyed);
        var found = desk.Find.Find("br");
        found.Hits[0].Title.ShouldBe("bread and coin");
        found.Hits[1].Thing.ShouldBe(new Reference(ThingKind.Slip, 4 + made));
        found.Total.ShouldBe(FindStore.MostCounted + 1);
        var list = desk.Library.List(new("br"));
        list.Items[0].Slip!.Number.Value.ShouldBe(3 + made);
        list.Total.ShouldBe(made / 2 + 3);
        foreach (var state in (InState[])[InState.Dropped, InState.Kept, InState.Waiting, InState.All])
            desk.Library.List(new("br", state)).Total.ShouldBe(desk.Library.Facets(new("br")).States[state.Kept()], state.Kept());
        // A rarer word is ranked as ever.
        desk.Find.Find("loaves ").Hits.ShouldHaveSingleItem().Thing.ShouldBe(new Reference(ThingKind.Slip, 2));
    }

    [Fact]
    public void Kind_topic_and_use_narrow_the_list()
    {
        Names(new(Kind: SlipKind.Quote)).ShouldBe(["slip 2"]);
        Names(new(Sources: true)).ShouldBe(["source 1"]);
        var ferries = desk.Topics.List().Single(t => t.Name == "ferries").Number;
        Names(new(Topic: ferries)).ShouldBe(["slip 1", "source 1"], ignoreOrder: true);
        Names(new(Used: true)).ShouldBeEmpty();
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("Bread"), Once.Unkeyed).Answer.Number;
        var draft = desk.Drafts.Get(piece);
        desk.Drafts.Save(piece, draft.Text + "Paid in bread [[slip 1]].", draft.Version, Once.Unkeyed);
        desk.Pieces.Place(piece, Reference.To(SlipNumber.Of(2)), draft.Sections[0].Number, Once.Unkeyed);
        Names(new(Used: true)).ShouldBe(["slip 1", "slip 2"], ignoreOrder: true);
    }

    [Fact]
    public void Facets_count_what_each_filter_would_leave()
    {
        var facets = desk.Library.Facets(new());
        facets.States.ShouldSatisfyAllConditions(
            s => s["sight"].ShouldBe(3),
            s => s["waiting"].ShouldBe(1),
            s => s["dropped"].ShouldBe(1),
            s => s["all"].ShouldBe(5)
        );
        facets.Kinds.ShouldSatisfyAllConditions(k => k["quote"].ShouldBe(1), k => k["idea"].ShouldBe(1), k => k["source"].ShouldBe(1));
        facets.Unused.ShouldBe(2);
        desk.Library.Facets(new("bread")).States["sight"].ShouldBe(3);
        desk.Library.Facets(new("column"))
            .ShouldSatisfyAllConditions(f => f.States["sight"].ShouldBe(1), f => f.Topics.Values.Sum().ShouldBe(1));
    }

    [Fact]
    public void Links_are_listed_from_both_ends_with_their_sentence()
    {
        desk.Slips.Edit(
            SlipNumber.Of(1),
            new SlipChange { Version = 1, Text = "First. Compare [[slip 2]] and [[Account book of the ferry]]. Last." },
            Once.Unkeyed
        );
        var opened = desk.Slips.Open(SlipNumber.Of(2));
        opened
            .LinkedFrom.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                l => l.From.ShouldBe(Reference.To(SlipNumber.Of(1))),
                l => l.Sentence.ShouldBe("Compare slip 2 and Account book of the ferry.")
            );
        desk.Sources.Open(SourceNumber.Of(1)).LinkedFrom.ShouldHaveSingleItem();
        desk.Slips.Open(SlipNumber.Of(1))
            .LinksOut.Select(l => l.To)
            .ShouldBe([Reference.To(SlipNumber.Of(2)), Reference.To(SourceNumber.Of(1))]);
    }

    [Fact]
    public void A_link_caught_twice_is_one_source()
    {
        desk.Catch("Weir https://tavle.example/weir");
        desk.Catch("again https://tavle.example/weir");
        Names(new(Sources: true)).Count.ShouldBe(2);
        desk.Sources.Open(SourceNumber.Of(2)).Passages.Count.ShouldBe(2);
    }

    [Fact]
    public void A_passage_says_where_it_stands_in_its_own_line()
    {
        var film = desk
            .Sources.Add(
                new SourceChange
                {
                    Title = "The ropewalker’s daughter",
                    Type = Core.Sources.SourceType.Video,
                    Address = "https://tavle.example/film",
                },
                Once.Unkeyed
            )
            .Answer.Number;
        Slip Passage(string text, string? locator = null) =>
            desk.Sources.AddPassage(film, new NewPassage(text, locator), Once.Unkeyed).Answer;
        var timed = Passage("12:40-13:05: She counts the strands aloud");
        timed.ShouldSatisfyAllConditions(
            p => p.Text.ShouldBe("She counts the strands aloud"),
            p => p.Locator.ShouldBe("12:40–13:05"),
            p => p.Kind.ShouldBe(SlipKind.Takeaway)
        );
        var quoted = Passage("“Three hundred yards of shed”");
        Passage("“No window but one”", "fol 3 recto").Locator.ShouldBe("f. 3r");
        Should.Throw<BadInputException>(() => Passage("backwards", "13:05-12:40")).Field.ShouldBe("locator");
        var places = desk.Sources.Open(film).Places;
        places.Count.ShouldBe(2);
        places[timed.Number.Value].ShouldBe("https://tavle.example/film#t=760,785");
        places[quoted.Number.Value].ShouldBe("https://tavle.example/film#:~:text=Three%20hundred%20yards%20of%20shed");
        desk.Slips.Open(timed.Number).Place.ShouldBe("https://tavle.example/film#t=760,785");
        desk.Slips.Edit(timed.Number, new SlipChange { Version = 1, Locator = "p 4" }, Once.Unkeyed).Answer.Locator.ShouldBe("p. 4");
    }

    [Fact]
    public void A_source_needs_a_title_and_an_address_that_is_one()
    {
        Should.Throw<BadInputException>(() => desk.Sources.Add(new SourceChange { Title = " " }, Once.Unkeyed)).Field.ShouldBe("title");
        Should
            .Throw<BadInputException>(() =>
                desk.Sources.Edit(SourceNumber.Of(1), new SourceChange { Version = 1, Address = "javascript:alert(1)" }, Once.Unkeyed)
            )
            .Field.ShouldBe("address");
        Should
            .Throw<StaleException>(() =>
                desk.Sources.Edit(SourceNumber.Of(1), new SourceChange { Version = 7, Date = "1789" }, Once.Unkeyed)
            )
            .Current.ShouldBeOfType<Core.Sources.Source>();
    }

    /// <summary>No list that a screen shows reads a big table from end to end.</summary>
    [Theory]
    [InlineData(InState.Sight, null)]
    [InlineData(InState.Waiting, null)]
    [InlineData(InState.Held, SlipKind.Idea)]
    [InlineData(InState.All, null)]
    public void Lists_use_an_index(InState state, SlipKind? kind)
    {
        foreach (var words in (string?[])[null, "bread", "pull>=4 used:no topic:tolls", "bread since:7d not kind:quote"])
        {
            var plan = desk.Papers.Read(db =>
            {
                var asked = Asked.Typed(db, desk.Papers, words);
                var sql = LibraryStore.ListSql(new LibraryQuery(words, state, kind), asked);
                asked.Arguments.AddDynamicParams(new { most = 50, skip = 0 });
                return db.Query<(int, int, int, string Detail)>("EXPLAIN QUERY PLAN " + sql, asked.Arguments)
                    .Select(r => r.Detail)
                    .ToList();
            });
            plan.ShouldNotContain(
                step => step.StartsWith("SCAN s", StringComparison.Ordinal) && !step.Contains("INDEX", StringComparison.Ordinal),
                string.Join('\n', plan)
            );
        }
    }
}
