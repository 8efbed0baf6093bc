using CsCheck;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Catalogue;

/// <summary>What listeners get, and the box readers write to.</summary>
public sealed class AudioTests
{
    [Theory]
    [InlineData("0:00 The bell", 0, "The bell")]
    [InlineData("- 4:10 The lane", 250_000, "The lane")]
    [InlineData("* 1:02:03 – The *far* bank", 3_723_000, "The far bank")]
    [InlineData("90:05: Late", null, null)]
    [InlineData("12:99 no minute", null, null)]
    [InlineData("It is 4:10 now", null, null)]
    [InlineData("4:10", null, null)]
    [InlineData("    4:10 code", null, null)]
    public void A_line_that_begins_with_a_time_is_a_chapter(string line, int? ms, string? title)
    {
        var found = Chapters.In($"Words before.\n\n{line}\n\nWords behind.");
        if (ms is null)
            found.ShouldBeEmpty();
        else
            found.ShouldHaveSingleItem().ShouldBe(new Chapter(ms.Value, title!));
    }

    [Fact]
    public void Without_its_chapters_a_text_begins_with_its_words() =>
        Chapters.Without("- 0:00 One\n- 1:40 Two\n\nIt is 4:10 now.\n").ShouldBe("\nIt is 4:10 now.\n");

    [Fact]
    public void Chapters_go_on_and_lie_within_the_recording()
    {
        Chapters.Wrong("0:00 A\n1:00 B\n", 120_000).ShouldBeEmpty();
        Chapters.Wrong("0:00 A\n1:00 B\n1:00 C\n", 120_000).ShouldHaveSingleItem().ShouldContain("does not begin after “B”");
        Chapters.Wrong("0:00 A\n2:00 B\n", 120_000).ShouldHaveSingleItem().ShouldContain("the recording ends at 2:00");
        Chapters.Wrong("0:00 A\n2:00 B\n", 0).ShouldBeEmpty();
    }

    private static readonly Gen<(string Script, int Ms)> Scripts = Gen.Select(
        Gen.Select(Gen.String[Gen.Char['a', 'e'], 1, 8], Gen.Int[0, 200]).List[0, 12],
        Gen.Int[0, 7_200_000],
        (parts, ms) => (string.Concat(parts.Select(p => $"## {p.Item1}\n\n{string.Concat(Enumerable.Repeat("word ", p.Item2))}\n\n")), ms)
    );

    [Fact]
    public void Chapters_that_are_proposed_are_chapters_with_nothing_wrong() =>
        Scripts.Sample(script =>
        {
            var lines = Chapters.Proposed(script.Script, script.Ms);
            Chapters.Wrong(lines, script.Ms).ShouldBeEmpty(lines);
            var found = Chapters.In(lines);
            found.Count.ShouldBe(lines.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length, lines);
            if (found.Count > 0)
                found.Count.ShouldBeGreaterThan(1, lines);
        });

    [Fact]
    public void A_chapter_lies_where_its_words_come()
    {
        static string Words(int count) => string.Concat(Enumerable.Repeat("word ", count));
        var script = $"## One\n\n{Words(100)}\n\n## Two\n\n{Words(300)}\n\n## Three\n\n{Words(100)}\n";
        Chapters.Proposed(script, 500_000).ShouldBe("- 0:00 One\n- 1:40 Two\n- 6:40 Three\n");
        Chapters.Proposed(Words(100) + "\n\n" + script, 600_000).ShouldBe("- 1:40 One\n- 3:20 Two\n- 8:20 Three\n");
        Chapters.Proposed("No headings.", 60_000).ShouldBeEmpty();
        // Without a recording it is as long as it takes to say.
        Chapters.Proposed(script, 0).ShouldStartWith("- 0:00 One\n- 0:32 Two");
    }

    [Theory]
    [InlineData("494433040000000000000000", "audio/mpeg")]
    [InlineData("FFFB90640000000000000000", "audio/mpeg")]
    [InlineData("4F676753000200000000", "audio/ogg")]
    [InlineData("664C614300000022", "audio/flac")]
    [InlineData("524946462400000057415645", "audio/wav")]
    [InlineData("00000020667479704D344120", "audio/mp4")]
    [InlineData("524946462400000057454250", null)]
    [InlineData("FFD8FFE000104A464946", null)]
    [InlineData("FFFE41004200", null)]
    [InlineData("", null)]
    public void A_sound_is_known_by_its_first_bytes(string hex, string? type) => SoundTypes.Of(Convert.FromHexString(hex)).ShouldBe(type);

    [Theory]
    [InlineData("mail.example", "imap://mail.example:993")]
    [InlineData(" IMAP://mail.example:143/ ", "imap://mail.example:143")]
    public void A_mailbox_is_named_as_people_name_it(string typed, string kept) => WatchedMailbox.CheckedAddress(typed).ShouldBe(kept);

    [Theory]
    [InlineData("")]
    [InlineData("ada@mail.example")]
    [InlineData("mail.example/inbox")]
    [InlineData("mail example")]
    public void What_is_no_mail_server_is_refused_at_its_field(string typed) =>
        Should.Throw<BadInputException>(() => WatchedMailbox.CheckedAddress(typed)).Field.ShouldBe("address");

    [Fact]
    public void A_box_that_numbers_its_mails_anew_is_gone_through_from_the_beginning()
    {
        var place = new WatchedMailbox.Place(7, 40);
        place.From(7).ShouldBe(41u);
        place.From(8).ShouldBe(1u);
        new WatchedMailbox.Place().From(7).ShouldBe(1u);
    }
}
