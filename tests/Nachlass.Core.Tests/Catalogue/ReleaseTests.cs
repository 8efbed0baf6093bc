using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Catalogue;

public class ReleaseTests
{
    private static readonly TopicMark Tolls = new(TopicNumber.Of(1), "tolls", TopicColour.Ochre),
        Ropes = new(TopicNumber.Of(2), "ropes", TopicColour.Teal);

    private static Release Release(int number, int piece, string outOn, int words = 100, int? outlet = null) =>
        new()
        {
            Number = ReleaseNumber.Of(number),
            Piece = PieceNumber.Of(piece),
            Outlet = outlet is { } at ? OutletNumber.Of(at) : null,
            OutOn = DateOnly.Parse(outOn, System.Globalization.CultureInfo.InvariantCulture),
            Title = $"Piece {piece}",
            Text = "",
            Hash = "",
            Words = words,
        };

    private static Outlet Outlet(int number, string name, params string[] formats) =>
        new()
        {
            Number = OutletNumber.Of(number),
            Name = name,
            Formats = formats,
        };

    [Fact]
    public void The_hash_changes_with_title_and_text_and_with_nothing_else()
    {
        var hash = Core.Catalogue.Release.HashOf("The bell", "It rang.");
        hash.ShouldBe(Core.Catalogue.Release.HashOf("The bell", "It rang."));
        hash.Length.ShouldBe(64);
        Core.Catalogue.Release.HashOf("The bell", "It rang!").ShouldNotBe(hash);
        Core.Catalogue.Release.HashOf("The bell ", "It rang.").ShouldNotBe(hash);
    }

    [Fact]
    public void A_summary_line_is_made_of_what_it_speaks_of()
    {
        SummaryLine
            .Of([
                new SpokenOf(Tolls, "what a penny bought."),
                new SpokenOf(Ropes, ""),
                new SpokenOf(null, "who rang the bell"),
                new(Ropes, ""),
            ])
            .ShouldBe("What a penny bought; ropes; who rang the bell.");
        SummaryLine.Of([]).ShouldBe("");
    }

    [Fact]
    public void A_summary_line_stops_where_there_is_no_more_room()
    {
        var line = SummaryLine.Of(Enumerable.Range(1, 40).Select(i => new SpokenOf(null, $"the {i}th thing of many")));
        line.Length.ShouldBeLessThanOrEqualTo(162);
        line.ShouldStartWith("The 1th thing of many; the 2th");
        line.ShouldEndWith("many.");
    }

    [Fact]
    public void What_a_text_speaks_of_is_offered_from_its_headings_and_the_topics_of_its_piece()
    {
        const string text = "Lead.\n\n## The toll at noon\n\nx\n\n## A word on *sleep*\n\ny\n";
        SpokenOffers
            .Of(text, [Tolls, Ropes], [], new HashSet<string>())
            .ShouldBe([new SpokenOf(Tolls, "The toll at noon"), new SpokenOf(null, "A word on sleep"), new SpokenOf(Ropes, "")]);
        SpokenOffers
            .Of(
                text + "\n## Sign-off\n\nz\n",
                [Tolls, Ropes],
                [new SpokenOf(Tolls, "the toll at NOON"), new SpokenOf(Ropes, "knots")],
                new HashSet<string> { "Sign-off" }
            )
            .ShouldBe([new SpokenOf(null, "A word on sleep")]);
    }

    [Fact]
    public void Each_outlet_says_how_a_piece_stands_to_it()
    {
        var letter = Outlet(1, "Low Water", "letter");
        var site = Outlet(2, "site") with { Limit = new Limit(3, MeasuredIn.Words) };
        var posts = Outlet(3, "posts", "thread");
        var talks = Outlet(4, "talks", "talk");

        var there = HereNotThere.Of(
            "letter",
            "Five words stand in here.",
            [letter, site, posts, talks],
            [Release(9, 1, "2026-05-01", outlet: 1), Release(4, 1, "2026-04-01", outlet: 1)],
            new HashSet<OutletNumber> { talks.Number }
        );

        there.ShouldBe([
            new There(letter.Number, ThereState.Out, ReleaseNumber.Of(9), 0),
            new There(site.Number, ThereState.Could, null, 2),
            new There(posts.Number, ThereState.InAnotherForm, null, 0),
            new There(talks.Number, ThereState.Never, null, 0),
        ]);
    }

    [Fact]
    public void What_went_out_there_is_out_even_where_it_was_never_to_go()
    {
        var posts = Outlet(3, "posts", "thread");
        HereNotThere
            .Of("letter", "", [posts], [Release(1, 1, "2026-05-01", outlet: 3)], new HashSet<OutletNumber> { posts.Number })[0]
            .State.ShouldBe(ThereState.Out);
    }

    [Fact]
    public void A_year_is_reviewed_against_the_one_before()
    {
        YearEntry Entry(Release release, string outlet, params TopicMark[] topics) =>
            new(release, "Letter", outlet, topics, release.Number.Value == 4 ? [PieceNumber.Of(8), PieceNumber.Of(9)] : []);
        var year = YearInReview.Of(
            [
                Entry(Release(1, 1, "2025-11-01", 500), "Low Water", Tolls),
                Entry(Release(2, 2, "2026-01-10", 300), "Low Water", Tolls),
                // The same piece, at its full length elsewhere.
                Entry(Release(3, 2, "2026-01-12", 320), "site", Tolls),
                Entry(Release(4, 3, "2026-04-02", 900), "Low Water", Ropes),
            ],
            2026
        );

        (year.Releases, year.Pieces, year.Words).ShouldBe((3, 2, 1220));
        (year.ReleasesBefore, year.WordsBefore).ShouldBe((1, 500));
        year.Months.ShouldBe([2, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0]);
        year.Outlets.ShouldBe([new YearCount("Low Water", 2, 1), new YearCount("site", 1, 0)]);
        year.Topics.ShouldBe([new YearCount("tolls", 2, 1), new YearCount("ropes", 1, 0)]);
        year.NewTopics.ShouldBe(["ropes"]);
        year.Quiet.ShouldBe(new YearQuiet(new DateOnly(2026, 1, 12), 80));
        year.Marks.Select(m => (m.Why, m.Release.Value))
            .ShouldBe([("the first", 2), ("the latest", 4), ("the longest", 4), ("the shortest", 2), ("built on most", 4)]);
        year.Marks[^1].Figure.ShouldBe("by 2 later pieces");
    }

    [Fact]
    public void A_year_with_nothing_in_it_has_nothing_to_say()
    {
        var year = YearInReview.Of([], 2026);
        (year.Releases, year.Words, year.Quiet).ShouldBe((0, 0, null));
        year.Marks.ShouldBeEmpty();
    }
}
