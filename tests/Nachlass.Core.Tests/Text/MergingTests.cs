using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class MergingTests
{
    private const string Origin = "## One\n\nfirst words\n\n## Two\n\nsecond words\n";

    [Fact]
    public void Changes_in_two_places_go_into_one_text()
    {
        var merged = Merging.Of(Origin, Origin.Replace("first", "my first", StringComparison.Ordinal), Origin + "\nand a third\n");
        merged.Text.ShouldBe("## One\n\nmy first words\n\n## Two\n\nsecond words\n\nand a third\n");
    }

    [Fact]
    public void Where_both_changed_the_same_line_the_writer_decides_and_sees_which_words()
    {
        var merged = Merging.Of(
            Origin,
            Origin.Replace("first words", "first loaves", StringComparison.Ordinal),
            Origin.Replace("first words", "first coins", StringComparison.Ordinal)
        );
        merged.Text.ShouldBeNull();
        var part = merged.Parts.Single(p => p.By == ChangedBy.Both);
        part.Words.Where(w => w.In != ChangedBy.Nobody)
            .Select(w => (w.Text, w.In))
            .ShouldBe([("coins", ChangedBy.Theirs), ("loaves", ChangedBy.Mine)]);
        merged.Parts.Count(p => p.By == ChangedBy.Nobody).ShouldBe(2);
    }

    [Fact]
    public void Without_the_origin_only_what_is_the_same_is_settled()
    {
        var merged = Merging.Of(null, "a\nb\nc\n", "a\nx\nc\n");
        merged.Text.ShouldBeNull();
        merged.Parts.Select(p => (p.By, p.Mine)).ShouldBe([(ChangedBy.Nobody, "a\n"), (ChangedBy.Both, "b\n"), (ChangedBy.Nobody, "c\n")]);
    }

    private static Gen<string> Texts => Some.Of("a\n", "b\n", "\n", "c c\n", "d").List[0, 8].Select(string.Concat);

    /// <summary>Nothing of either text is lost, and no line is in both a settled and an open part; a merge is the same from both
    /// sides.</summary>
    [Fact]
    public void Both_texts_can_be_read_off_their_merge() =>
        Gen.Select(Texts, Texts, Texts)
            .Sample(
                (origin, mine, theirs) =>
                {
                    var merged = Merging.Of(origin, mine, theirs);
                    string.Concat(merged.Parts.Select(p => p.Mine)).ShouldBe(mine);
                    string.Concat(merged.Parts.Select(p => p.Theirs)).ShouldBe(theirs);
                    Merging.Of(origin, theirs, mine).Text.ShouldBe(merged.Text);
                    Merging.Of(origin, mine, origin).Text.ShouldBe(mine);
                    Merging.Of(origin, origin, theirs).Text.ShouldBe(theirs);
                    Merging.Of(origin, mine, mine).Text.ShouldBe(mine);
                }
            );
}
