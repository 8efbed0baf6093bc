using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Routes;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Bench;

public sealed class RouteTests
{
    private static readonly RouteGround Bare = new(ReadyFormats.Essay, [], [], "", new Dictionary<string, string>());

    private static Outline Of(string text, params (int? Aim, string Beat, int Material)[] hung)
    {
        var (lead, parts) = DraftText.Split(text);
        return new Outline(
            lead,
            [
                .. parts.Select(
                    (p, i) =>
                        i < hung.Length
                            ? new Section(SectionNumber.Of(i + 1), p, hung[i].Aim, hung[i].Beat, hung[i].Material)
                            : new Section(SectionNumber.Of(i + 1), p, null, "", 1)
                ),
            ]
        );
    }

    private static IReadOnlyList<Fault> Found(string text, FaultKind kind) =>
        [.. RouteFinder.Of(Of(text), Bare).Faults.Where(f => f.Kind == kind)];

    private const string Bread =
        "On flood days they were paid in bread: four loaves for a full stage, two for half of it. The far-bank parish entered "
        + "them, since coin was of no use to anyone who could not reach a shop. ";

    private const string Bells =
        "A bell hangs from the gallows frame beside the landing. Whoever hears it rows, at night or in fog, and writes the hour afterwards "
        + "into the ledger by the door. ";

    [Fact]
    public void Two_sections_that_say_the_same_are_found_with_their_phrases_and_the_place()
    {
        var text =
            $"## One\n\n{Bread}\n\n## Two\n\n{Bells}\n\n## Three\n\nIt was in bread again: *four loaves* for a full stage. "
            + "The far-bank parish paid, coin being of no use to anyone.\n";
        var fault = Found(text, FaultKind.SaysTwice).ShouldHaveSingleItem();
        fault.Sections.Select(s => s.Value).ShouldBe([3, 1]);
        fault.Phrases.ShouldContain("far-bank parish");
        text[fault.At!.Value..].ShouldStartWith(fault.Phrases[0][..4]);
        fault.IsGrave.ShouldBeTrue();
        Found($"## One\n\n{Bread}\n\n## Two\n\n{Bells}\n", FaultKind.SaysTwice).ShouldBeEmpty();
    }

    [Fact]
    public void What_stands_in_many_sections_is_the_subject_and_no_repetition() =>
        Found(string.Concat(Enumerable.Range(1, 5).Select(i => $"## S{i}\n\n{Bread}\n\n")), FaultKind.SaysTwice).ShouldBeEmpty();

    [Theory]
    [InlineData("Hester Lunt wrote it down.", "Hester Lunt, who kept the book, was no clerk.", "Hester Lunt")]
    [InlineData("So Lunt wrote it down.", "It was kept by Hester Lunt.", "Hester Lunt")]
    [InlineData("They went with Quillan on the oars.", "Quillan was a ferryman of nineteen.", "Quillan")]
    [InlineData("The ruled line tells nothing.", "The thin column is called the “ruled line” by the wardens.", "ruled line")]
    public void A_name_or_term_before_it_is_introduced_is_found(string first, string then, string name)
    {
        var fault = Found($"## One\n\n{first}\n\n## Two\n\n{then}\n", FaultKind.BeforeItsTime).ShouldHaveSingleItem();
        fault.Phrases.ShouldBe([name]);
        fault.After.ShouldBe("stands in 1 and is introduced in 2");
    }

    [Theory]
    [InlineData("Hester Lunt, who kept the book, wrote.", "Hester Lunt, who kept the book, was no clerk.")]
    [InlineData("The boat lay at Ostrey, and stayed at Ostrey.", "At Ostrey, the bell rang; from Ostrey, a boat came.")]
    [InlineData("Nobody came on Easter Monday.", "Easter was the day. Monday was a feast.")]
    [InlineData("There were Lunts and Pells.", "Hester Lunt and Anna Lunt were sisters.")]
    public void What_is_introduced_in_time_or_is_no_person_is_not(string first, string then) =>
        Found($"## One\n\n{first}\n\n## Two\n\n{then}\n", FaultKind.BeforeItsTime).ShouldBeEmpty();

    [Fact]
    public void Neighbours_that_share_next_to_nothing_are_a_long_step()
    {
        var other =
            "Sugar dissolves slowly under low heat while the copper pan is stirred; apricots, cut small, give colour first and then their "
            + "juice, which thickens when the spoon is lifted and cooled upon a plate of glass.";
        var step = Found($"## One\n\n{Bread}{Bread}\n\n## Two\n\n{Bread}{Bread}\n\n## Three\n\n{other}{other}\n", FaultKind.LongStep)
            .ShouldHaveSingleItem();
        step.Sections.Select(s => s.Value).ShouldBe([3, 2]);
        step.IsGrave.ShouldBeFalse();
    }

    [Fact]
    public void Beats_that_are_missing_stand_where_they_would_come_and_those_out_of_order_are_named()
    {
        var outline = Of(
            "## A\n\n## B\n\n## C\n\n## D\n\n",
            (250, "opening", 1),
            (null, "turn", 1),
            (300, "problem", 1),
            (200, "landing", 1)
        );
        var route = RouteFinder.Of(outline, Bare);
        route.Missing.ShouldBe([new MissingBeat("proof", SectionNumber.Of(4), 500)]);
        route.Faults.Single(f => f.Kind == FaultKind.OutOfOrder).Before.ShouldContain("comes elsewhere");
        RouteFinder.Of(Outline.From(ReadyFormats.Essay) is var fresh ? Numbered(fresh) : fresh, Bare).Missing.ShouldBeEmpty();
    }

    private static Outline Numbered(Outline outline) =>
        outline with
        {
            Sections = [.. outline.Sections.Select((s, i) => s with { Number = SectionNumber.Of(i + 1) })],
        };

    [Fact]
    public void Aims_material_questions_and_the_call_are_measured()
    {
        var words = string.Join(' ', Enumerable.Range(0, 120).Select(i => "word" + i));
        var outline = Of(
            $"## A\n\n{words}\n\n## B\n\n{words.Replace("word", "other", StringComparison.Ordinal)}\n\n## C\n\n## D\n\nsee [[slip 4]]\n",
            (100, "", 1),
            (300, "", 1),
            (200, "", 0),
            (200, "", 0)
        );
        var route = RouteFinder.Of(
            outline,
            Bare with
            {
                Loose = [SlipNumber.Of(1)],
                Questions = [SlipNumber.Of(2), SlipNumber.Of(3)],
                Call = "Write to the ferry wardens",
            }
        );
        string Said(FaultKind kind) => route.Faults.Single(f => f.Kind == kind).Before;
        Said(FaultKind.TooLong).ShouldBe("1 has 120 words of 100, 20 % over its aim");
        // C is empty still, so nothing is called short.
        route.Faults.ShouldNotContain(f => f.Kind == FaultKind.TooShort);
        RouteFinder
            .Of(Of($"## A\n\n{words}\n", (300, "", 1)), Bare)
            .Faults.Single(f => f.Kind == FaultKind.TooShort)
            .Before.ShouldBe("1 has 120 words of 300");
        Said(FaultKind.NoMaterial).ShouldBe("3 has no material");
        Said(FaultKind.Unused).ShouldBe("One slip of the material has no place");
        Said(FaultKind.StillOpen).ShouldBe("2 questions are still open");
        route.Faults.Single(f => f.Kind == FaultKind.NoCall).Phrases.ShouldBe(["Write to the ferry wardens"]);
        route.Sections.Where(s => s.IsAtFault).Select(s => s.Title).ShouldBe(["C"]);
    }

    [Fact]
    public void A_part_over_the_limit_of_its_format_is_a_fault_and_who_uses_no_beats_misses_none()
    {
        var route = RouteFinder.Of(Of($"## A\n\n{new string('x', 350)}\n"), Bare with { Format = ReadyFormats.Thread });
        var fault = route.Faults.Single(f => f.Kind == FaultKind.TooLong);
        fault.Before.ShouldStartWith("1 has 350 characters of ");
        fault.IsGrave.ShouldBeTrue();
        route.Missing.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_set_aside_keeps_its_reason_and_is_no_fault_of_its_section()
    {
        var outline = Of("## A\n\n", (100, "", 0));
        var fault = RouteFinder.Of(outline, Bare).Faults.Single(f => f.Kind == FaultKind.NoMaterial);
        var route = RouteFinder.Of(outline, Bare with { SetAside = new Dictionary<string, string> { [fault.Key] = "a blank page" } });
        route.Faults.Single(f => f.Kind == FaultKind.NoMaterial).SetAside.ShouldBe("a blank page");
        route.Sections.Single().IsAtFault.ShouldBeFalse();
    }

    private static readonly string[] Vocabulary =
    [
        "bread",
        "bell",
        "Hester",
        "Lunt",
        "ferry",
        "loaf",
        "toll",
        ",",
        ".",
        "is",
        "a",
        "who",
        "#",
        "\n\n## ",
    ];

    private static readonly Gen<string> Word = Gen.Int[0, 13].Select(i => Vocabulary[i]);

    [Fact]
    public void Any_text_has_a_route_whose_places_lie_in_it_and_whose_keys_are_its_own() =>
        Word.Array[0, 80]
            .Sample(words =>
            {
                var text = string.Join(' ', words);
                var outline = Of(text);
                var route = RouteFinder.Of(outline, Bare);
                route.Sections.Count.ShouldBe(outline.Sections.Count);
                route.Faults.Select(f => f.Key).ShouldBeUnique();
                route.Faults.ShouldAllBe(f => f.At == null || f.At >= 0 && f.At <= text.Length);
            });

    private static readonly ILookup<SectionNumber, string> Nothing = Array.Empty<string>().ToLookup(_ => default(SectionNumber));

    private static ToPlace Slip(int number, string text, SlipKind kind = SlipKind.Quote, int? source = null, double order = 0) =>
        new(SlipNumber.Of(number), text, kind, source is { } s ? SourceNumber.Of(s) : null, order, true);

    [Fact]
    public void A_slip_goes_where_its_words_are_and_says_why_and_sources_keep_their_order()
    {
        var outline = Of($"## Bread\n\n{Bread}\n\n## The bell\n\n{Bells}\n", (400, "problem", 1), (300, "landing", 1));
        var proposal = Proposals.Of(
            outline,
            Nothing,
            [
                Slip(5, "Loaves entered by the far-bank parish, with the coin beside it.", source: 1, order: 9),
                Slip(6, "Paid in loaves, two for half a stage.", source: 1, order: 3),
                Slip(7, "The bell beside the landing was cracked.", SlipKind.Note),
                Slip(8, "Eels have no scales worth speaking of."),
            ],
            ReadyFormats.Essay
        );
        proposal.Sections.Select(s => string.Join(',', s.Slips.Select(p => p.Slip))).ShouldBe(["6,5", "7"]);
        proposal.Sections[0].Slips[0].Words.ShouldContain("stage");
        proposal.Sections[0].Slips[0].Why.ShouldBe("in the order of source 1");
        proposal.Left.Select(s => s.Value).ShouldBe([8]);
    }

    [Fact]
    public void What_is_near_to_no_section_becomes_one_for_a_beat_that_is_missing_where_that_comes()
    {
        var outline = Of($"## Bread\n\n{Bread}\n\n## The bell\n\n{Bells}\n", (250, "opening", 1), (200, "landing", 1));
        var proposal = Proposals.Of(
            outline,
            Nothing,
            [
                Slip(5, "Quillan charged a penny for a pig in March.", source: 2),
                Slip(6, "In March Quillan charged a penny a pig, the pig swimming.", source: 2),
            ],
            ReadyFormats.Essay
        );
        proposal.Sections.Select(s => s.Beat).ShouldBe(["opening", "proof", "landing"]);
        var made = proposal.Sections[1];
        made.ShouldSatisfyAllConditions(
            m => m.Section.ShouldBeNull(),
            m => m.Before!.Value.Value.ShouldBe(2),
            m => m.Slips.Count.ShouldBe(2),
            m => m.Slips[0].Why.ShouldContain("a quote for the proof"),
            m => m.Aim.ShouldBe(500)
        );
    }

    [Fact]
    public void A_section_whose_beat_comes_earlier_is_proposed_before()
    {
        var outline = Of("## A\n\n## B\n\n## C\n\n", (null, "opening", 1), (null, "proof", 1), (null, "problem", 1));
        var moved = Proposals.Of(outline, Nothing, [], ReadyFormats.Essay).Sections.Single(s => s.IsMoved);
        (moved.Title, moved.Before!.Value.Value).ShouldBe(("C", 2));
    }

    private static readonly Gen<(string Text, ToPlace[] Slips)> Anything =
        from words in Word.Array[0, 60]
        from slips in (
            from number in Gen.Int[1, 30]
            from text in Word.Array[1, 12]
            from kind in Gen.Enum<SlipKind>()
            from source in Gen.Int[0, 3]
            from order in Gen.Int[0, 9]
            select Slip(number, string.Join(' ', text), kind, source == 0 ? null : source, order)
        ).Array[0, 25]
        select (string.Join(' ', words), slips.DistinctBy(s => s.Slip).ToArray());

    [Fact]
    public void A_proposal_places_each_thing_once_and_is_always_the_same() =>
        Anything.Sample(any =>
        {
            var outline = Of(any.Text);
            var proposal = Proposals.Of(outline, Nothing, any.Slips, ReadyFormats.Essay);
            proposal
                .Sections.SelectMany(s => s.Slips.Select(p => p.Slip.Value))
                .Concat(proposal.Left.Select(s => s.Value))
                .Order()
                .ShouldBe(any.Slips.Select(s => s.Slip.Value).Distinct().Order());
            proposal.Sections.Where(s => s.Section is not null).Select(s => s.Section).ShouldBe(outline.Sections.Select(s => s.Number));
            proposal.Sections.Select(s => s.Key).ShouldBeUnique();
            var again = Proposals.Of(outline, Nothing, [.. any.Slips.Reverse()], ReadyFormats.Essay);
            Written(again).ShouldBe(Written(proposal with { }));
        });

    private static string Written(Proposal proposal) =>
        string.Join(
            '\n',
            proposal.Sections.Select(s => $"{s.Key} {s.Title} {s.Beat} {s.Before}: {string.Join(' ', s.Slips.Select(p => p.Slip))}")
        ) + string.Join(' ', proposal.Left);
}
