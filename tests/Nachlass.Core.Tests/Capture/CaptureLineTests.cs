using Nachlass.Core.Capture;

namespace Nachlass.Core.Tests.Capture;

public class CaptureLineTests
{
    private static readonly DateOnly Tuesday = new(2026, 11, 24);

    [Theory]
    [InlineData("A bridge that only opens for eels", SlipKind.Idea)]
    [InlineData("Why do fords keep saints’ names?", SlipKind.Question)]
    [InlineData("“The river keeps the accounts.” — J. Pell", SlipKind.Quote)]
    [InlineData("\"Four loaves, no coin\"", SlipKind.Quote)]
    [InlineData("«Personne ne paie pour rentrer»", SlipKind.Quote)]
    [InlineData("> Carried the midwife, nothing", SlipKind.Quote)]
    [InlineData("“Why?” he said, and rowed", SlipKind.Quote)]
    [InlineData("’Twas the ferryman’s own", SlipKind.Idea)]
    public void The_kind_is_read_from_how_the_line_is_written(string typed, SlipKind kind) =>
        CaptureLine.Read(typed, Tuesday).Kind.ShouldBe(kind);

    [Fact]
    public void A_link_makes_a_source_with_that_address()
    {
        var read = CaptureLine.Read("Weir works closed till March (https://tavletrust.example/weir?a=1#b).", Tuesday);
        read.Becomes.ShouldBe(Becomes.Source);
        read.Address.ShouldBe("https://tavletrust.example/weir?a=1#b");
        read.Text.ShouldContain("Weir works");
    }

    [Fact]
    public void The_fragment_of_an_address_is_no_topic() =>
        CaptureLine.Read("see https://tavletrust.example/weir#opening", Tuesday).Topics.ShouldBeEmpty();

    [Fact]
    public void Topics_are_read_anywhere_and_leave_the_text_at_its_end()
    {
        var read = CaptureLine.Read("The #ferries paid in bread #flood-marks #tolls #Tolls", Tuesday);
        read.Topics.ShouldBe(["ferries", "flood marks", "tolls"]);
        read.Text.ShouldBe("The #ferries paid in bread");
    }

    [Fact]
    public void A_line_of_nothing_but_topics_keeps_its_text() =>
        CaptureLine.Read("#ferries #tolls", Tuesday).Text.ShouldBe("#ferries #tolls");

    [Theory]
    [InlineData("number #1 of 3")]
    [InlineData("C# is a language")]
    [InlineData("## a heading")]
    public void Other_hashes_are_no_topics(string typed) => CaptureLine.Read(typed, Tuesday).Topics.ShouldBeEmpty();

    [Fact]
    public void A_box_makes_a_move_with_its_date()
    {
        var read = CaptureLine.Read("- [ ] Ask Pell about the night bell by Friday", Tuesday);
        read.Becomes.ShouldBe(Becomes.Move);
        read.Text.ShouldBe("Ask Pell about the night bell by Friday");
        read.Date.ShouldBe(new DateOnly(2026, 11, 27));
    }

    private static CaptureReading Overruled(string typed, Overruling said) => CaptureLine.Read(typed, Tuesday, said);

    [Fact]
    public void The_writer_can_overrule_the_reading()
    {
        Overruled("- [ ] Ask Pell", new(Move: false))
            .ShouldSatisfyAllConditions(r => r.Becomes.ShouldBe(Becomes.Slip), r => r.Text.ShouldBe("Ask Pell"));
        Overruled("- [ ] Ask Pell", new(Kind: SlipKind.Note)).Becomes.ShouldBe(Becomes.Slip);
        Overruled("Ask Pell", new(Move: true)).Becomes.ShouldBe(Becomes.Move);
        Overruled("Is this a note?", new(Kind: SlipKind.Note)).Kind.ShouldBe(SlipKind.Note);
    }

    [Fact]
    public void An_address_can_be_a_mention_and_no_source() =>
        Overruled("Like https://tavle.example but wetter", new(Source: false))
            .ShouldSatisfyAllConditions(r => r.Becomes.ShouldBe(Becomes.Slip), r => r.Kind.ShouldBe(SlipKind.Note));

    [Fact]
    public void A_tag_that_is_no_topic_stays_a_word()
    {
        Overruled("Painted on the wall: #toll #ferries", new(Topics: ["ferries"]))
            .ShouldSatisfyAllConditions(r => r.Topics.ShouldBe(["ferries"]), r => r.Text.ShouldBe("Painted on the wall: #toll #ferries"));
        Overruled("Paid in bread #tolls #ferries", new(Topics: ["tolls", "ferries"])).Text.ShouldBe("Paid in bread");
    }

    [Fact]
    public void Pasted_lines_lose_their_bullets_but_not_their_boxes() =>
        CaptureLine
            .Lines("- one\n\n* two\n3. three\n- [ ] four\n  five #ferries \n1789 was dear")
            .ShouldBe(["one", "two", "three", "[ ] four", "five #ferries", "1789 was dear"]);

    [Theory]
    [InlineData("call tomorrow", "2026-11-25")]
    [InlineData("on Tuesday", "2026-11-24")]
    [InlineData("by Mon", "2026-11-30")]
    [InlineData("Wednesday, early", "2026-11-25")]
    [InlineData("in 2 weeks", "2026-12-08")]
    [InlineData("in 3 days", "2026-11-27")]
    [InlineData("10 Dec", "2026-12-10")]
    [InlineData("the 3rd February at ten", "2027-02-03")]
    [InlineData("29 February", null)]
    [InlineData("2026-12-24 it is", "2026-12-24")]
    [InlineData("2026-13-45", null)]
    [InlineData("the sun came out", null)]
    [InlineData("a man may wait", null)]
    public void Dates_are_read_as_a_person_says_them(string text, string? expected) =>
        DateInText.Find(text, Tuesday)?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture).ShouldBe(expected);

    [Theory]
    [InlineData("2026-11-20", "2026-11-20")]
    [InlineData("20.11.", "2026-11-20")]
    [InlineData("20. 11. 2025", "2025-11-20")]
    [InlineData("20 November", "2026-11-20")]
    [InlineData("3 jan", "2027-01-03")]
    [InlineData("Nov 20, 2024", "2024-11-20")]
    [InlineData(" Yesterday ", "2026-11-23")]
    [InlineData("31 February", null)]
    [InlineData("see 2026-11-20", null)]
    [InlineData("1784", null)]
    public void A_text_that_is_a_day_is_that_day(string typed, string? day) =>
        DateInText
            .Whole(typed, new DateOnly(2026, 11, 24))
            .ShouldBe(day is null ? null : DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture));
}
