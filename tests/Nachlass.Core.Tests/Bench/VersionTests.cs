using CsCheck;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench;

public sealed class VersionTests
{
    private const string Old =
        "Before all.\n\n## The toll\n\nThe toll was a loaf a head, taken at the stage.\n\nNobody paid to come home.\n\n"
        + "## The bell\n\nThe bell hung on the wrong bank for nineteen years.\n";

    private const string New =
        "Before all.\n\n## The bell\n\nThe bell hung on the wrong bank for nineteen years.\n\n## The toll\n\n"
        + "The toll was half a loaf a head, taken at the stage.\n\nBishops crossed free.\n";

    private static readonly Gen<string> Draft =
        from parts in Gen.OneOf(
            Gen.Const("## A\n\n"),
            Gen.Const("### B\n"),
            Gen.Const("some words of a paragraph\n\n"),
            Gen.Const("other words of it\n\n"),
            Gen.Const("one line\nand another\n\n\n"),
            Gen.Const("```\n## no heading\n\n```\n\n"),
            Gen.String[Gen.Char["ab #\n"], 0, 12]
        ).Array[0, 9]
        select string.Concat(parts);

    [Fact]
    public void Units_put_together_are_the_text() =>
        Draft.Sample(text =>
        {
            var units = VersionText.Units(text);
            string.Concat(units.Select(u => u.Text)).ShouldBe(text);
            units.ShouldAllBe(u => u.Text.Length > 0);
        });

    [Fact]
    public void Both_texts_come_out_of_their_comparison_and_nothing_of_either_is_lost() =>
        Gen.Select(Draft, Draft)
            .Sample(
                (old, now) =>
                {
                    var compared = Comparison.Of(old, now);
                    var all = Enumerable.Range(0, compared.Paragraphs.Count).ToList();
                    string.Concat(compared.Paragraphs.Select(p => p.Old)).ShouldBe(old);
                    string.Concat(compared.Paragraphs.Select(p => p.New)).ShouldBe(now);
                    compared.With([]).ShouldBe(now);
                    compared.With(all).ShouldBe(old);
                    foreach (var paragraph in compared.Paragraphs.Where(p => p.Change == ParagraphChange.Changed))
                    {
                        Words(paragraph, StandsIn.New).ShouldBe(paragraph.Old.TrimEnd('\n'));
                        Words(paragraph, StandsIn.Old).ShouldBe(paragraph.New.TrimEnd('\n'));
                    }
                }
            );

    private static string Words(ComparedParagraph paragraph, StandsIn without) =>
        string.Concat(paragraph.Words.Where(w => w.In != without).Select(w => w.Text));

    [Fact]
    public void What_one_takes_back_stands_there_again_and_the_rest_stays() =>
        Gen.Select(Draft, Draft, Gen.Int[0, 8])
            .Sample(
                (old, now, at) =>
                {
                    var compared = Comparison.Of(old, now);
                    if (at >= compared.Paragraphs.Count)
                        return;
                    var taken = compared.With([at]);
                    taken.ShouldContain(compared.Paragraphs[at].Old.Trim('\n'));
                    for (var other = 0; other < compared.Paragraphs.Count; other++)
                        if (other != at && other != compared.Paragraphs[at].Other)
                            taken.ShouldContain(compared.Paragraphs[other].New.Trim('\n'));
                }
            );

    [Fact]
    public void A_comparison_says_what_changed_word_by_word_what_came_what_went_and_what_moved()
    {
        var compared = Comparison.Of(Old, New);
        var toll = compared.Paragraphs.Single(p => p.Words.Count > 0);
        toll.Change.ShouldBe(ParagraphChange.MovedHere);
        toll.Words.Where(w => w.In == StandsIn.Old).Select(w => w.Text.Trim()).ShouldBeEmpty();
        toll.Words.Where(w => w.In == StandsIn.New).Select(w => w.Text.Trim()).ShouldBe(["half"]);
        compared.Paragraphs.Where(p => p.Change == ParagraphChange.Added).Select(p => p.New.Trim()).ShouldBe(["Bishops crossed free."]);
        compared
            .Paragraphs.Where(p => p.Change == ParagraphChange.Removed)
            .Select(p => p.Old.Trim())
            .ShouldBe(["Nobody paid to come home."]);
        compared.Paragraphs.Where(p => p.Change == ParagraphChange.MovedHere).ShouldNotBeEmpty();
        (compared.Added, compared.Removed).ShouldBe((4, 5));
        Comparison.Of("One word here.\n", "One more word here.\n").Paragraphs.Single().Change.ShouldBe(ParagraphChange.Changed);
    }

    [Fact]
    public void A_section_is_taken_back_whole_wherever_it_stands_now()
    {
        var compared = Comparison.Of(Old, New);
        var taken = compared.With(compared.OfSection(0));
        taken.ShouldContain("## The toll\n\nThe toll was a loaf a head, taken at the stage.\n\nNobody paid to come home.");
        taken.ShouldNotContain("Bishops");
        taken.Split("## The bell").Length.ShouldBe(2);
        taken.Split("## The toll").Length.ShouldBe(2);
    }

    [Fact]
    public void Texts_with_nothing_in_common_are_compared_without_being_laid_side_by_side_word_by_word()
    {
        var (old, now) = (string.Join(' ', Enumerable.Range(0, 9_000)), string.Join(' ', Enumerable.Range(20_000, 9_000)));
        WordDifference.Of(old, now).Select(w => w.In).ShouldBe([StandsIn.Old, StandsIn.New]);
        var lines = Comparison.Of(old.Replace(" ", "\n\n"), now.Replace(" ", "\n\n"));
        lines.Removed.ShouldBe(9_000);
        // Hundreds of thousands of tiny paragraphs, none like another, are no more work than they are letters.
        string Many(int from) => string.Concat(Enumerable.Range(from, 200_000).Select(i => i + "\n\n"));
        Comparison.Of(Many(0), Many(500_000)).With([]).ShouldBe(Many(500_000));
        Merging.Of(Many(0), Many(500_000), Many(900_000)).Text.ShouldBeNull();
    }

    [Fact]
    public void A_change_is_large_when_much_goes_at_once_not_when_it_moves()
    {
        var paragraphs = Enumerable
            .Range(0, 40)
            .Select(i => $"Paragraph {i} says something that no other paragraph here says.\n\n")
            .ToList();
        var text = string.Concat(paragraphs);
        VersionRules.IsLarge(text, string.Concat(paragraphs.Take(15))).ShouldBeTrue();
        VersionRules.IsLarge(text, string.Concat(paragraphs.Skip(20).Concat(paragraphs.Take(20)))).ShouldBeFalse();
        VersionRules.IsLarge(text, text + "more").ShouldBeFalse();
        VersionRules.IsLarge(text, text.Replace("something", "a thing", StringComparison.Ordinal)).ShouldBeTrue();
        VersionRules.IsLarge(text, text.Replace("Paragraph 3 says", "Paragraph three says", StringComparison.Ordinal)).ShouldBeFalse();
    }

    [Fact]
    public void Versions_grow_thin_with_age_and_named_ones_never_go()
    {
        var now = new DateTimeOffset(2026, 11, 26, 12, 0, 0, TimeSpan.FromHours(1));
        var all = Enumerable
            .Range(0, 400)
            .Select(i => (VersionNumber.Of(i + 1), now.AddHours(-5 * i), i % 40 == 0 ? VersionWhy.Named : VersionWhy.Sitting))
            .ToList();
        var gone = VersionRules.Gone(all, now);
        gone.Count.ShouldBeInRange(300, 390);
        all.Where(v => v.Item3 == VersionWhy.Named).Select(v => v.Item1).ShouldAllBe(n => !gone.Contains(n));
        all.Where(v => now - v.Item2 <= TimeSpan.FromDays(2)).Select(v => v.Item1).ShouldAllBe(n => !gone.Contains(n));
    }

    [Fact]
    public void The_list_names_the_sections_that_are_not_as_they_were() =>
        VersionText.Changed(Old, New.Replace("Before", "After", StringComparison.Ordinal)).ShouldBe(["", "The toll"]);
}
