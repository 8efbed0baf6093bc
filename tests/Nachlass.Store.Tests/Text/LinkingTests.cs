using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests.Text;

public sealed class LinkingTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private void Write(int slip, string text) =>
        desk.Slips.Edit(
            SlipNumber.Of(slip),
            new SlipChange { Version = desk.Slips.Get(SlipNumber.Of(slip)).Version, Text = text },
            Once.Unkeyed
        );

    [Fact]
    public void One_text_stands_in_two_places_and_is_edited_in_one()
    {
        desk.Catch("Flood is not a price.");
        desk.Catch("My note:\n\n[[slip 1]]");
        desk.Sources.Add(new SourceChange { Title = "High Water", Summary = "She says:\n\n[[slip 1]]" }, Once.Unkeyed);
        var piece = desk.Pieces.Start(new NewPiece("Letter"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, "## Main\n\n[[slip 1]]\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Slips.Get(SlipNumber.Of(1)).Used.ShouldBeTrue();
        Write(1, "Flood is a closing hour.");
        desk.Slips.Open(SlipNumber.Of(2))
            .Html.ShouldSatisfyAllConditions(
                h => h.ShouldContain("Flood is a closing hour."),
                h => h.ShouldContain("/library/slip/1"),
                h => h.ShouldContain("<blockquote>")
            );
        desk.Sources.Open(SourceNumber.Of(1)).SummaryHtml.ShouldContain("Flood is a closing hour.");
        desk.Outs.Finished(piece).ShouldBe("# Letter\n\n## Main\n\nFlood is a closing hour.\n");
    }

    [Fact]
    public void A_circle_is_refused_with_its_way_and_nothing_is_changed()
    {
        desk.Catch("one");
        desk.Catch("[[slip 1]]");
        Should
            .Throw<BadInputException>(() => Write(1, "one\n\n[[slip 2]]"))
            .ShouldSatisfyAllConditions(e => e.Field.ShouldBe("text"), e => e.Message.ShouldContain("slip 1 shows slip 2 shows slip 1"));
        desk.Slips.Get(SlipNumber.Of(1)).Text.ShouldBe("one");
        Write(1, "one, see [[slip 2]] beside it");
    }

    [Fact]
    public void Links_say_what_has_become_of_what_they_lead_to()
    {
        desk.Catch("gone");
        desk.Catch("into");
        desk.Catch("See [[slip 1]], [[slip 2]], [[Bells]] and [[nothing yet]].");
        desk.Sources.Add(new SourceChange { Title = "Bells" }, Once.Unkeyed);
        desk.Decisions.Decide(SlipNumber.Of(1), new Decision.Drop(), Once.Unkeyed);
        var links = desk.Slips.Open(SlipNumber.Of(3)).LinksOut;
        links.Select(l => l.Gone).ShouldBe(["dropped", null, null, null]);
        desk.Decisions.Decide(SlipNumber.Of(2), new Decision.MergeInto(SlipNumber.Of(1)), Once.Unkeyed);
        desk.Slips.Open(SlipNumber.Of(3)).LinksOut[1].Gone.ShouldBe("merged into slip 1");
        links[3].To.ShouldBeNull();
        // In a draft and on a day's sheet too.
        Letter("See [[slip 1]].\n");
        desk.Mentions.From(Reference.To(PieceNumber.Of(1))).ShouldHaveSingleItem().Gone.ShouldBe("dropped");
        desk.Days.Write(desk.Today, "and [[slip 2]]", 0, Once.Unkeyed);
        desk.Mentions.From(new Reference(ThingKind.Day, desk.Today.DayNumber)).ShouldHaveSingleItem().Gone.ShouldBe("merged into slip 1");
    }

    private (PieceNumber Piece, Draft Draft) Letter(string text)
    {
        var piece = desk.Pieces.Start(new NewPiece("The price, in bread"), Once.Unkeyed).Answer.Number;
        return (piece, desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed).Answer);
    }

    [Fact]
    public void A_link_leads_to_a_section_by_number_or_by_title()
    {
        var (piece, _) = Letter("## The bread column\n\nLoaves.\n\n## Who crossed free\n\nThe midwife.\n");
        desk.Catch(
            "See [[P 1, the bread column]] and [[The price, in bread, Who crossed free]], not [[P 1, The end]] and [[The price, in bread]]."
        );
        desk.Slips.Open(SlipNumber.Of(1))
            .LinksOut.Select(l => (l.To, l.Part, l.Gone))
            .ShouldBe([
                (Reference.To(piece), "the bread column", null),
                (Reference.To(piece), "Who crossed free", null),
                (Reference.To(piece), "The end", "has no section “The end”"),
                (Reference.To(piece), "", null),
            ]);
        desk.Pieces.LinkedFrom(piece).Count(l => l.Part == "Who crossed free").ShouldBe(1);
        desk.Find.AddressOf("The price, in bread, Who crossed free").ShouldBe("/bench/1?section=Who%20crossed%20free");
        desk.Slips.Open(SlipNumber.Of(1)).Html.ShouldContain("/bench/1?section=the%20bread%20column");
    }

    [Fact]
    public void Links_follow_a_heading_that_is_changed_in_the_draft_or_in_the_outline()
    {
        var (piece, draft) = Letter(
            "## The bread column\n\nLoaves.\n\n## Who crossed free\n\nThe midwife; see [[P 1, The bread column]].\n"
        );
        var slip = desk.Catch("Against [[P 1, The bread column]].").Number;
        var typed = desk.Drafts.Save(
            piece,
            draft.Text.Replace("## The bread column", "## The thin column", StringComparison.Ordinal),
            draft.Version,
            Once.Unkeyed
        );
        desk.Slips.Get(slip).Text.ShouldBe("Against [[P 1, The thin column]].");
        desk.Undo(typed.Command);
        desk.Slips.Get(slip).Text.ShouldBe("Against [[P 1, The bread column]].");
        var now = desk.Drafts.Get(piece);
        var named = desk.Drafts.EditSection(
            piece,
            now.Sections[0].Number,
            new SectionChange { Title = "Loaves", Version = now.Version },
            Once.Unkeyed
        );
        named.Answer.Text.ShouldEndWith("see [[P 1, Loaves]].\n");
        desk.Slips.Get(slip).Text.ShouldBe("Against [[P 1, Loaves]].");
        var source = desk.Sources.Add(new SourceChange { Title = "Dues", Text = "# Tolls\n\na\n\n# Bread\n\nb" }, Once.Unkeyed).Answer;
        var other = desk.Catch("By [[Dues, Tolls]].").Number;
        desk.Sources.Edit(
            source.Number,
            new SourceChange { Version = source.Version, Text = "# Tolls and dues\n\na\n\n# Bread\n\nb" },
            Once.Unkeyed
        );
        desk.Slips.Get(other).Text.ShouldBe("By [[Dues, Tolls and dues]].");
    }

    [Fact]
    public void Sections_are_offered_behind_a_comma_and_by_the_words_of_their_heading()
    {
        Letter("## The bread column\n\nLoaves.\n\n## Who crossed free\n\nThe midwife.\n");
        desk.Mentions.Offers("P 1,").Select(o => o.Write).ShouldBe(["P 1, The bread column", "P 1, Who crossed free"]);
        desk.Mentions.Offers("The price, in bread, who")
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(o => o.Part.ShouldBe("Who crossed free"), o => o.Title.ShouldBe("Who crossed free"));
        desk.Mentions.Offers("bread col").ShouldContain(o => o.Write == "P 1, The bread column");
    }

    [Fact]
    public void Slips_and_sections_named_without_a_link_are_found_and_linked()
    {
        var (piece, _) = Letter("## The bread column\n\nLoaves.\n");
        var place = desk.Catch("What the bread column leaves out, as slip 2 says.").Number;
        var other = desk.Catch("It leaves out the bees.").Number;
        desk.Mentions.Of(Reference.To(piece), "The bread column").ShouldHaveSingleItem().In.ShouldBe(Reference.To(place));
        desk.Mentions.Link(Reference.To(piece), "The bread column", Reference.To(place), Once.Unkeyed);
        desk.Mentions.Of(Reference.To(other)).ShouldHaveSingleItem().In.ShouldBe(Reference.To(place));
        desk.Mentions.Link(Reference.To(other), "", Reference.To(place), Once.Unkeyed);
        desk.Slips.Get(place).Text.ShouldBe("What the bread column [[P 1, The bread column]] leaves out, as [[slip 2]] says.");
        desk.Mentions.Of(Reference.To(piece), "The bread column").ShouldBeEmpty();
        desk.Mentions.Of(Reference.To(other)).ShouldBeEmpty();
    }

    [Fact]
    public void A_claim_gathers_what_speaks_for_and_against_it()
    {
        var slip = desk.Catch("The toll was not doubled when the river flooded #tolls").Number;
        desk.Claims.Get(slip).ShouldBeNull();
        desk.Sources.Add(new SourceChange { Title = "Crossing Dues" }, Once.Unkeyed);
        desk.Sources.AddPassage(SourceNumber.Of(1), new NewPassage("The toll was doubled when the river flooded.", "p. 31"), Once.Unkeyed);
        var claim = desk.Claims.Refine(slip, "Flood was a closing hour", Once.Unkeyed).Answer;
        claim
            .Offers.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(o => o.Side.ShouldBe(Side.Against), o => o.Because!.ShouldContain("not"));
        var weighed = desk.Claims.Weigh(slip, new Reference(ThingKind.Slip, 2), Side.Against, "He has only the board.", Once.Unkeyed);
        weighed.Answer.ShouldSatisfyAllConditions(
            c => c.Evidence.ShouldHaveSingleItem().Source.ShouldBe(SourceNumber.Of(1)),
            c => c.Offers.ShouldBeEmpty(),
            c => c.Readiness.Figure.ShouldBeGreaterThan(claim.Readiness.Figure)
        );
        desk.Topics.Open(desk.Topics.List().Single().Number)
            .Claims.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(c => c.Title.ShouldBe("Flood was a closing hour"), c => c.Against.ShouldBe(1));
        Should
            .Throw<BadInputException>(() => desk.Claims.Weigh(slip, Reference.To(slip), Side.For, null, Once.Unkeyed))
            .Field.ShouldBe("thing");
        Should
            .Throw<BadInputException>(() => desk.Claims.Weigh(SlipNumber.Of(2), Reference.To(slip), Side.For, null, Once.Unkeyed))
            .Field.ShouldBe("slip");
        desk.Undo(weighed.Command);
        desk.Claims.Get(slip)!.Evidence.ShouldBeEmpty();
    }

    [Fact]
    public void A_paragraph_marked_as_usable_shows_its_wording_of_today_until_it_is_used()
    {
        desk.Catch("First paragraph about the river.\n\nEveryone who stops on the bridge looks upstream. #bridges");
        var slip = Reference.To(SlipNumber.Of(1));
        var paragraph = desk.Usable.Paragraphs(slip)[1];
        desk.Usable.Mark(slip, paragraph.Text, "thread", Once.Unkeyed);
        Write(1, "First paragraph about the river.\n\nEveryone who stops on the bridge looks upstream, as if something were due.");
        var usable = desk.Usable.List().ShouldHaveSingleItem();
        usable.ShouldSatisfyAllConditions(
            u => u.Text.ShouldEndWith("as if something were due."),
            u => u.IsGone.ShouldBeFalse(),
            u => u.Limit.ShouldBe(300)
        );
        desk.Usable.Paragraphs(slip)[1].Marked.ShouldBe(usable.Number);
        var used = desk.Usable.Use(usable.Number, Once.Unkeyed);
        desk.Drafts.Get(used.Answer).Text.ShouldBe("Everyone who stops on the bridge looks upstream, as if something were due.\n");
        desk.Pieces.Get(used.Answer).Topics.ShouldHaveSingleItem().Name.ShouldBe("bridges");
        desk.Usable.List().ShouldBeEmpty();
        desk.Undo(used.Command);
        Write(1, "Nothing of it is left.");
        desk.Usable.List().ShouldHaveSingleItem().IsGone.ShouldBeTrue();
        Should.Throw<BadInputException>(() => desk.Usable.Mark(slip, "no such", "thread", Once.Unkeyed)).Field.ShouldBe("paragraph");
    }
}
