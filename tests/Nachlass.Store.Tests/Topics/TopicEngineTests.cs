using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Topics;

public sealed class TopicEngineTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private Topic Topic(string name) => desk.Topics.List().Single(t => t.Name == name);

    private SlipNumber Kept(string text)
    {
        var slip = desk.Catch(text).Number;
        desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed);
        return slip;
    }

    [Fact]
    public void Topics_that_may_be_one_are_offered_with_what_would_change_and_merging_follows_into_every_text()
    {
        Kept("The night bell #bells");
        Kept("A glove in the loft #bells");
        var slip = Kept("The fog bell #bell").Value;
        desk.Slips.Edit(
            SlipNumber.Of(1),
            new SlipChange { Version = desk.Slips.Get(SlipNumber.Of(1)).Version, Text = "See [[bell]] and #bell-ringers, a #bell." },
            Once.Unkeyed
        );
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Foundry book",
                Summary = "All about the [[Bell]].",
                Topics = ["bell"],
            },
            Once.Unkeyed
        );
        var piece = desk.Pieces.Start(new NewPiece("Letter"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, "## Main\n\nThe [[bell]] again.\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Days.Write(desk.Today, "Thinking of the bell, #bell", 0, Once.Unkeyed);
        var before = desk.Everything();

        var near = desk.Topics.MayBeOne().ShouldHaveSingleItem();
        near.ShouldSatisfyAllConditions(
            n => n.First.Name.ShouldBe("bells"),
            n => n.Second.Name.ShouldBe("bell"),
            n => n.Slips.ShouldBe(1),
            n => n.Sources.ShouldBe(1),
            n => n.Texts.ShouldBe(4)
        );
        var merged = desk.Topics.Merge(near.Second.Number, near.First.Number, Once.Unkeyed);
        desk.Slips.Get(SlipNumber.Of(1)).Text.ShouldBe("See [[bells]] and #bell-ringers, a #bells.");
        desk.Sources.Get(SourceNumber.Of(1)).Summary.ShouldBe("All about the [[bells]].");
        desk.Drafts.Get(piece).Text.ShouldContain("The [[bells]] again.");
        desk.Days.Day(desk.Today).Sheet.Text.ShouldBe("Thinking of the bell, #bells");
        desk.Slips.Get(SlipNumber.Of(slip)).Topics.ShouldHaveSingleItem().Name.ShouldBe("bells");
        desk.Topics.MayBeOne().ShouldBeEmpty();
        desk.Undo(merged.Command);
        desk.Everything().ShouldBe(before);
        desk.Topics.KeepApart(near.First.Number, near.Second.Number, Once.Unkeyed).Answer.ShouldBeEmpty();
        desk.Topics.MayBeOne().ShouldBeEmpty();
    }

    [Fact]
    public void A_title_that_changes_is_followed_by_the_links_to_it()
    {
        desk.Sources.Add(new SourceChange { Title = "Bells over Water" }, Once.Unkeyed);
        var piece = desk.Pieces.Start(new NewPiece("The second bell"), Once.Unkeyed).Answer;
        var slip = desk.Catch("As [[bells over water]] says; for [[The second bell]]").Number;
        desk.Sources.Edit(SourceNumber.Of(1), new SourceChange { Version = 1, Title = "Bells over Water, 2nd edition" }, Once.Unkeyed);
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = piece.Version, Title = "The [second] bell" }, Once.Unkeyed);
        desk.Slips.Get(slip).Text.ShouldBe("As [[Bells over Water, 2nd edition]] says; for [[P 1]]");
        desk.Slips.Open(slip).LinksOut.ShouldAllBe(l => l.To != null);
    }

    [Fact]
    public void A_wider_topic_counts_what_stands_under_it_once()
    {
        Kept("both #bells #signals");
        Kept("one #bells");
        var bells = Topic("bells");
        desk.Topics.Edit(
            bells.Number,
            new TopicChange { Version = bells.Version, Wider = new Maybe<TopicNumber?>(true, Topic("signals").Number) },
            Once.Unkeyed
        );
        Topic("signals").Kept.ShouldBe(2);
        Topic("bells").Kept.ShouldBe(2);
        var opened = desk.Topics.Open(Topic("signals").Number);
        opened.ShouldSatisfyAllConditions(
            o => o.Slips.Count.ShouldBe(2),
            o => o.SlipsInAll.ShouldBe(2),
            o => o.NewSince.ShouldBe(2),
            o => o.Narrower.ShouldHaveSingleItem()
        );
    }

    [Fact]
    public void What_goes_together_is_found_over_slips_sources_and_pieces()
    {
        for (var i = 0; i < 8; i++)
            Kept($"bell and rope {i} #bells #ropes");
        for (var i = 0; i < 8; i++)
            Kept($"ice {i} #ice");
        Kept("one of each #bells #ice");
        var pair = desk.Topics.GoTogether().ShouldHaveSingleItem();
        pair.ShouldSatisfyAllConditions(
            p => new[] { p.First.Name, p.Second.Name }.ShouldBe(["bells", "ropes"], ignoreOrder: true),
            p => p.Shared.ShouldBe(8)
        );
        desk.Topics.Open(Topic("ropes").Number).GoesWith.ShouldHaveSingleItem();
        desk.Topics.Open(Topic("ice").Number).GoesWith.ShouldBeEmpty();
    }

    [Fact]
    public void The_map_shows_what_is_in_hand_in_work_and_out_by_format_and_by_an_axis_of_ones_own()
    {
        var slip = Kept("a bell #bells #explain");
        desk.Slips.Edit(slip, new SlipChange { Version = desk.Slips.Get(slip).Version, Formats = ["letter"] }, Once.Unkeyed);
        var piece = desk.Pieces.Start(new NewPiece("On bells") { Format = "letter", Topics = ["bells"] }, Once.Unkeyed).Answer;
        var map = desk.Coverage.Map(null);
        map.Cells.ShouldBe(
            [
                new CoverageCell(Topic("bells").Number, "letter", 1, 1, 0, null),
                new CoverageCell(Topic("explain").Number, "letter", 1, 0, 0, null),
            ],
            ignoreOrder: true
        );
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = piece.Version, Stage = "Out" }, Once.Unkeyed);
        desk.Coverage.Map(null)
            .Cells.Single(c => c.Topic == Topic("bells").Number)
            .ShouldBe(new CoverageCell(Topic("bells").Number, "letter", 1, 0, 1, desk.Today));
        var intent = desk.Topics.Add(new TopicChange { Name = "intent" }, Once.Unkeyed).Answer.Number;
        desk.Topics.Edit(
            Topic("explain").Number,
            new TopicChange { Version = Topic("explain").Version, Wider = new Maybe<TopicNumber?>(true, intent) },
            Once.Unkeyed
        );
        var own = desk.Coverage.Map(intent);
        own.Columns.ShouldHaveSingleItem().Name.ShouldBe("explain");
        own.Rows.Select(r => r.Name).ShouldBe(["bells"]);
        own.Cells.ShouldHaveSingleItem().InHand.ShouldBe(1);
    }

    [Fact]
    public void Words_that_keep_coming_up_are_counted_in_sources_and_in_messages()
    {
        desk.Sources.Add(
            new SourceChange
            {
                Title = "One",
                Summary = "The night bell was muffled.",
                Topics = ["bells"],
            },
            Once.Unkeyed
        );
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Two",
                Summary = "A night bell is heard.",
                Topics = ["bells"],
            },
            Once.Unkeyed
        );
        desk.Coverage.Words(WordsIn.Sources, null).Phrases.ShouldContain(p => p.Words == "night bell" && p.Texts == 2);
        desk.Coverage.Words(WordsIn.Sources, Topic("bells").Number).Phrases.ShouldAllBe(p => !p.Words.Contains("bell"));
        desk.Coverage.Words(WordsIn.Messages, null).ShouldSatisfyAllConditions(w => w.Texts.ShouldBe(0), w => w.Phrases.ShouldBeEmpty());
    }

    private void Passage(int source, string text, string locator = "p. 3") =>
        desk.Sources.AddPassage(SourceNumber.Of(source), new NewPassage(text, locator), Once.Unkeyed);

    [Fact]
    public void A_digest_follows_its_sources_and_keeps_what_the_writer_changed()
    {
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Crossing Dues",
                Creators = "Brandt, H.",
                Date = "1931",
                Topics = ["tolls"],
            },
            Once.Unkeyed
        );
        desk.Sources.Add(
            new SourceChange
            {
                Title = "High Water",
                Creators = "Marchetti, Odile",
                Date = "2009",
                Topics = ["tolls"],
            },
            Once.Unkeyed
        );
        Passage(1, "The toll was doubled when the river flooded above the stage.", "p. 31");
        Passage(2, "The toll was not doubled when the river flooded, for the ferry was closed.", "p. 12");
        var tolls = Topic("tolls").Number;
        var digest = desk.Digests.Get(tolls);
        var theme = digest.Themes.ShouldHaveSingleItem();
        theme.Lines.Select(l => l.Locator).ShouldBe(["p. 31", "p. 12"], ignoreOrder: true);
        theme.Lines[0].Against.ShouldHaveSingleItem();

        var slip = theme.Lines.Single(l => l.Creators.StartsWith("Brandt", StringComparison.Ordinal)).Slip;
        desk.Digests.Edit(
            tolls,
            new DigestChange
            {
                Line = slip,
                Words = "Brandt has a double toll in flood.",
                Intro = "The old quarrel.",
            },
            Once.Unkeyed
        );
        desk.Digests.Edit(tolls, new DigestChange { Theme = theme.Anchor, Name = "The flood toll" }, Once.Unkeyed);
        Passage(2, "Nine eels were paid for the crossing of a coffin.");
        digest = desk.Digests.Get(tolls);
        digest.ShouldSatisfyAllConditions(
            d => d.Intro.ShouldBe("The old quarrel."),
            d => d.Passages.ShouldBe(3),
            d => d.Themes[0].Name.ShouldBe("The flood toll"),
            d =>
                d.Themes.SelectMany(t => t.Lines)
                    .Single(l => l.Slip == slip)
                    .ShouldSatisfyAllConditions(l => l.Shown.ShouldBe("Brandt has a double toll in flood."), l => l.IsStale.ShouldBeFalse())
        );

        // The passage itself changes: the writer's words stay, and it is said that they may be out of date.
        desk.Slips.Edit(
            slip,
            new SlipChange
            {
                Version = desk.Slips.Get(slip).Version,
                Text = "The toll was trebled when the river flooded above the stage.",
            },
            Once.Unkeyed
        );
        desk.Digests.Get(tolls)
            .Themes.SelectMany(t => t.Lines)
            .Single(l => l.Slip == slip)
            .ShouldSatisfyAllConditions(l => l.IsStale.ShouldBeTrue(), l => l.Text.ShouldContain("trebled"));
        var hidden = desk.Digests.Edit(tolls, new DigestChange { Line = slip, Hidden = true }, Once.Unkeyed);
        hidden.Answer.Hidden.ShouldHaveSingleItem().Slip.ShouldBe(slip);
        desk.Undo(hidden.Command);
        desk.Digests.Get(tolls).Hidden.ShouldBeEmpty();

        var coffin = desk.Digests.Get(tolls).Themes.SelectMany(t => t.Lines).Single(l => l.Text.Contains("coffin")).Slip;
        desk.Digests.Edit(tolls, new DigestChange { Line = coffin, Beside = slip }, Once.Unkeyed)
            .Answer.Themes.ShouldHaveSingleItem()
            .Lines.Count.ShouldBe(3);
        Should
            .Throw<BadInputException>(() =>
                desk.Digests.Edit(tolls, new DigestChange { Line = SlipNumber.Of(99), Hidden = true }, Once.Unkeyed)
            )
            .Field.ShouldBe("line");
    }

    [Fact]
    public void A_digest_becomes_material_and_a_file()
    {
        desk.Sources.Add(
            new SourceChange
            {
                Title = "Crossing Dues",
                Creators = "Brandt, H.",
                Date = "1931",
                Topics = ["tolls"],
            },
            Once.Unkeyed
        );
        Passage(1, "The toll was doubled.", "p. 31");
        var tolls = Topic("tolls").Number;
        var piece = desk.Digests.IntoPiece(tolls, null, Once.Unkeyed).Answer;
        desk.Pieces.Get(piece).Title.ShouldBe("tolls");
        desk.Pieces.Material(piece).Items.ShouldHaveSingleItem();
        Should.Throw<BadInputException>(() => desk.Digests.IntoPiece(tolls, PieceNumber.Of(9), Once.Unkeyed)).Field.ShouldBe("piece");
        var digest = desk.Digests.Get(tolls);
        Exchange
            .Topics.DigestFile.Write(
                digest.Name,
                digest.Intro,
                digest.Themes.Select(t =>
                    (
                        t.Name,
                        t.Lines.Select(l => new Exchange.Topics.DigestFileLine(
                            l.Slip,
                            l.Shown,
                            l.Creators,
                            l.Date,
                            l.SourceTitle,
                            l.Locator,
                            []
                        ))
                    )
                )
            )
            .ShouldContain("- The toll was doubled. (Brandt, 1931, p. 31) [[slip 1]]");
    }

    [Fact]
    public void What_names_a_thing_without_a_link_is_found_and_linked_with_undo()
    {
        var place = desk.Catch("The Bells of Quillan are out of tune. So it goes.").Number;
        desk.Catch("Linked already: [[bells]] #bells");
        var bells = Reference.To(Topic("bells").Number);
        var found = desk.Mentions.Of(bells).ShouldHaveSingleItem();
        found.ShouldSatisfyAllConditions(
            f => f.In.ShouldBe(Reference.To(place)),
            f => f.Sentence.ShouldBe("The Bells of Quillan are out of tune.")
        );
        var linked = desk.Mentions.Link(bells, "", Reference.To(place), Once.Unkeyed);
        desk.Slips.Get(place).Text.ShouldBe("The [[Bells]] of Quillan are out of tune. So it goes.");
        desk.Topics.Open(Topic("bells").Number).LinkedFrom.ShouldContain(l => l.From == Reference.To(place));
        desk.Mentions.Of(bells).ShouldBeEmpty();
        Should.Throw<ClashException>(() => desk.Mentions.Link(bells, "", Reference.To(place), Once.Unkeyed));
        desk.Undo(linked.Command);
        desk.Mentions.Of(bells).ShouldHaveSingleItem();
    }

    [Fact]
    public void Titles_numbers_topics_and_words_of_slips_are_offered_for_a_link()
    {
        desk.Catch("A muffled bell #bells");
        desk.Sources.Add(new SourceChange { Title = "Bells over Water" }, Once.Unkeyed);
        desk.Mentions.Offers("bel").Select(o => o.Write).ShouldBe(["bells", "Bells over Water", "slip 1"], ignoreOrder: true);
        desk.Mentions.Offers("1").Select(o => o.Write).ShouldBe(["Bells over Water", "slip 1"], ignoreOrder: true);
        desk.Mentions.Offers("muffled").ShouldHaveSingleItem().Title.ShouldBe("A muffled bell");
        desk.Mentions.Offers("nothing of the kind").ShouldBeEmpty();
    }
}
