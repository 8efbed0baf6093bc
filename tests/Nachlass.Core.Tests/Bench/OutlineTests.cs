using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Bench;

public class OutlineTests
{
    /// <summary>An outline as the store would give it: every section numbered.</summary>
    private static Outline Of(string text)
    {
        var (lead, parts) = DraftText.Split(text);
        return new Outline(
            lead,
            [.. parts.Select((part, i) => new Section(SectionNumber.Of(i + 1), part, 100 * (i + 1), $"beat {i + 1}"))]
        );
    }

    private static SectionNumber N(int number) => SectionNumber.Of(number);

    private const string Text = "## One\n\nfirst\n\n## Two\n\nsecond\n\n### Two a\n\ninside\n\n## Three\n\nthird\n";

    [Fact]
    public void Changed_headings_are_told_from_moved_and_deleted_ones()
    {
        var outline = Of("## One\n\na\n\n## Two\n\nb\n\n## Three\n\nc\n");
        outline.HeadingsChangedIn(outline.Rewrite("## Three\n\nc\n\n## One\n\na\n\n## Second\n\nb\n")).ShouldBe([("Two", "Second")]);
        outline.HeadingsChangedIn(outline.Rewrite("## One\n\na\n")).ShouldBeEmpty();
    }

    [Fact]
    public void A_new_outline_has_the_skeleton_of_its_format()
    {
        var outline = Outline.From(ReadyFormats.Essay);
        outline.Sections.Select(s => s.Title).ShouldBe(ReadyFormats.Essay.Skeleton.Select(s => s.Title));
        outline.Sections.Sum(s => s.Aim).ShouldBe(ReadyFormats.Essay.Aim);
        outline.Text.ShouldStartWith("## Where it begins\n\n## What is at stake\n\n");
    }

    [Fact]
    public void Moving_takes_children_and_text_along()
    {
        var moved = Of(Text).Move(N(2), N(1), 1);
        moved.Sections.Select(s => s.Number!.Value.Value).ShouldBe([2, 3, 1, 4]);
        moved.Text.ShouldBe("## Two\n\nsecond\n\n### Two a\n\ninside\n\n## One\n\nfirst\n\n## Three\n\nthird\n");
    }

    [Fact]
    public void Moving_the_last_one_up_puts_an_empty_line_behind_it() =>
        Of(Text).Move(N(4), N(1), 1).Text.ShouldStartWith("## Three\n\nthird\n\n## One");

    [Fact]
    public void Nesting_changes_the_depth_of_the_whole_family()
    {
        var nested = Of(Text).Move(N(2), N(4), 2);
        nested.Sections.Select(s => s.Depth).ShouldBe([1, 2, 3, 1]);
        nested.Text.ShouldContain("### Two\n\nsecond");
        nested.Text.ShouldContain("#### Two a\n\ninside");
    }

    [Fact]
    public void No_section_is_nested_deeper_than_one_below_its_neighbour() => Of(Text).Move(N(4), N(1), 3).Sections[0].Depth.ShouldBe(1);

    [Fact]
    public void Dropping_a_section_on_its_own_child_leaves_it() => Of(Text).Move(N(2), N(3), 1).Text.TrimEnd().ShouldBe(Text.TrimEnd());

    [Fact]
    public void Deleting_takes_the_children_and_nothing_else()
    {
        var left = Of(Text).Remove(N(2));
        left.Sections.Select(s => s.Title).ShouldBe(["One", "Three"]);
        left.Text.ShouldBe("## One\n\nfirst\n\n## Three\n\nthird\n");
    }

    [Fact]
    public void Renaming_keeps_the_text_to_the_letter() =>
        Of(Text).Change(N(1), "Eins", 5, "").Text.ShouldBe(Text.Replace("## One", "## Eins", StringComparison.Ordinal));

    [Fact]
    public void Adding_after_a_section_comes_behind_its_children()
    {
        var added = Of(Text).Add(new Section(null, DraftPart.Empty("New", 1)), N(2));
        added.Sections.Select(s => s.Title).ShouldBe(["One", "Two", "Two a", "New", "Three"]);
        added.Text.ShouldContain("inside\n\n## New\n\n## Three");
    }

    [Fact]
    public void An_unknown_section_is_said_to_be_missing() => Should.Throw<NotThereException>(() => Of(Text).Remove(N(99)));

    [Fact]
    public void Writing_on_keeps_every_section()
    {
        var next = Of(Text).Rewrite(Text.Replace("second", "second, and more", StringComparison.Ordinal));
        next.Sections.Select(s => (s.Number!.Value.Value, s.Aim)).ShouldBe([(1, 100), (2, 200), (3, 300), (4, 400)]);
    }

    [Fact]
    public void A_heading_rewritten_in_the_draft_is_the_same_section()
    {
        var next = Of(Text).Rewrite(Text.Replace("## One", "## The first", StringComparison.Ordinal));
        next.Sections[0]
            .ShouldSatisfyAllConditions(s => s.Number.ShouldBe(N(1)), s => s.Title.ShouldBe("The first"), s => s.Beat.ShouldBe("beat 1"));
    }

    [Fact]
    public void A_heading_rewritten_together_with_its_text_is_known_by_its_place()
    {
        var next = Of(Text).Rewrite(Text.Replace("## One\n\nfirst", "## Anew\n\nquite other words", StringComparison.Ordinal));
        next.Sections[0].Number.ShouldBe(N(1));
    }

    [Fact]
    public void Sections_cut_and_pasted_elsewhere_are_known_again()
    {
        var next = Of(Text).Rewrite("## Three\n\nthird\n\n## One\n\nfirst\n\n## Two\n\nsecond\n\n### Two a\n\ninside\n");
        next.Sections.Select(s => s.Number!.Value.Value).ShouldBe([4, 1, 2, 3]);
    }

    [Fact]
    public void A_heading_written_in_between_is_new_and_one_taken_away_is_gone()
    {
        Of(Text)
            .Rewrite(Text.Replace("## Three", "## Between\n\nnew\n\n## Three", StringComparison.Ordinal))
            .Sections.Select(s => s.Number?.Value)
            .ShouldBe([1, 2, 3, null, 4]);
        Of(Text).Rewrite("## One\n\nfirst\n\n## Three\n\nthird\n").Sections.Select(s => s.Number?.Value).ShouldBe([1, 4]);
    }

    [Fact]
    public void A_heading_that_is_cut_away_is_kept_and_comes_back_with_all_that_hung_on_it()
    {
        var without = Of(Text).Rewrite(Text.Replace("## One\n\nfirst\n\n", "", StringComparison.Ordinal), []);
        without.Gone.ShouldContain(s => s.Number == N(1) && s.Aim == 100 && s.Title == "One");
        var back = without.Rewrite(without.Text + "\n## ONE\n\nfirst\n");
        back.Sections[^1]
            .ShouldSatisfyAllConditions(s => s.Number.ShouldBe(N(1)), s => s.Aim.ShouldBe(100), s => s.Beat.ShouldBe("beat 1"));
        back.Gone.ShouldNotContain(s => s.Number == N(1));
    }

    [Fact]
    public void A_heading_typed_anew_letter_by_letter_is_the_section_it_was()
    {
        var outline = Of(Text);
        foreach (var typed in (string[])["", "## ", "## O", "## On", "## One"])
        {
            var text = Text.Replace("## One", typed, StringComparison.Ordinal);
            // What an editor would say: the others stand where they stand, and what was typed last is a heading of its own.
            outline = outline.Rewrite(text, [.. Followed(outline, text)]);
        }
        outline.Sections.Select(s => s.Number!.Value.Value).ShouldBe([1, 2, 3, 4]);
        outline.Sections[0].Aim.ShouldBe(100);
    }

    private static IEnumerable<Anchor> Followed(Outline outline, string text) =>
        outline
            .Sections.Where(s => s.Number is not null && text.Contains(s.Part.Raw.Trim(), StringComparison.Ordinal))
            .Select(s => new Anchor(s.Number!.Value, text.IndexOf(s.Part.Raw.Trim(), StringComparison.Ordinal)));

    [Fact]
    public void Anchors_know_a_section_whose_heading_and_text_are_both_others_now()
    {
        var text = "## Three\n\nquite other\n\n## One\n\nalso other\n";
        // The hand wrote “Three” over “One”, and “One” over “Three”.
        var next = Of(Text).Rewrite(text, [new Anchor(N(1), 0), new Anchor(N(4), text.IndexOf("## One", StringComparison.Ordinal))]);
        next.Sections.Select(s => s.Number!.Value.Value).ShouldBe([1, 4]);
        next.Gone.Select(s => s.Number!.Value.Value).ShouldBe([2, 3]);
        // Anchors that make no sense are not believed.
        Of(Text).Rewrite(Text, [new Anchor(N(1), 7), new Anchor(N(99), 0), new Anchor(N(1), 7)]).Sections.Count.ShouldBe(4);
    }

    [Fact]
    public void A_section_dropped_inside_a_family_joins_it_and_steals_no_child()
    {
        // Before “Two a”, which is inside “Two”: it can't take “Two a” along, so it stands inside too.
        var next = Of(Text).Move(N(4), N(3), 1);
        next.Sections.Select(s => (s.Title, s.Depth)).ShouldBe([("One", 1), ("Two", 1), ("Three", 2), ("Two a", 2)]);
    }

    [Theory]
    [InlineData("a new line", null, 7, "## One\n\na new line\n\nfirst\n")]
    [InlineData("word", null, 11, "## One\n\nfir word st\n")]
    [InlineData("> quote", null, 11, "## One\n\nfir\n\n> quote\n\nst\n")]
    [InlineData("kept off the heading", null, 0, "## One\n\nkept off the heading\n\nfirst\n")]
    [InlineData("kept off the heading", null, 4, "## One\n\nkept off the heading\n\nfirst\n")]
    [InlineData("at the end of its section", 1, 0, "## One\n\nfirst\n\nat the end of its section\n\n## Two")]
    [InlineData("at the very end", null, null, "third\n\nat the very end\n")]
    public void What_is_put_in_never_breaks_a_heading_or_a_paragraph(string text, int? into, int? cursor, string expected)
    {
        var (next, start, end) = Of(Text).Insert(text, into is { } number ? N(number) : null, cursor);
        next.Text.ShouldContain(expected);
        next.Text[start..end].ShouldBe(text);
        next.Sections.Select(s => s.Number!.Value.Value).ShouldBe([1, 2, 3, 4]);
        next.Sections.Select(s => s.Title).ShouldBe(["One", "Two", "Two a", "Three"]);
    }

    [Fact]
    public void A_section_brought_back_by_hand_has_its_text_unless_that_still_stands()
    {
        var cut = Of(Text).Remove(N(2));
        cut.BringBack(N(2)).Text.ShouldEndWith("## Two\n\nsecond\n\n");
        var unheaded = Of(Text).Rewrite(Text.Replace("## Two\n", "", StringComparison.Ordinal), []);
        unheaded.BringBack(N(2)).Text.Split("second").Length.ShouldBe(2);
    }

    /// <summary>Whatever is moved wherever: nobody gets another's children, and no number is skipped.</summary>
    [Fact]
    public void Families_stay_together_through_any_sequence_of_moves()
    {
        var shape = Gen.Int[0, 2].List[1, 9];
        var moves = Gen.Select(Gen.Int[0, 9], Gen.Int[-1, 9], Gen.Int[-2, 7]).List[1, 12];
        Gen.Select(shape, moves)
            .Sample(
                (steps, moved) =>
                {
                    var depth = 0;
                    var text = string.Concat(
                        steps.Select((s, i) => $"{new string('#', (depth = Math.Clamp(depth + 1 - s, 1, 3)) + 1)} S{i}\n\nw{i}\n\n")
                    );
                    var outline = Of(text);
                    foreach (var (what, where, to) in moved)
                    {
                        var number = N(what % steps.Count + 1);
                        var family = outline.Family(number).Select(s => s.Number).ToHashSet();
                        var before = Parents(outline);
                        outline = outline.Move(number, where < 0 ? null : N(where % steps.Count + 1), to);
                        var after = Parents(outline);
                        foreach (var other in before.Keys.Where(n => n != number && !family.Contains(n)))
                            after[other].ShouldBe(before[other]);
                        outline.Sections.Zip(outline.Sections.Skip(1)).ShouldAllBe(pair => pair.Second.Depth <= pair.First.Depth + 1);
                    }
                }
            );
    }

    private static Dictionary<SectionNumber, SectionNumber?> Parents(Outline outline)
    {
        var parents = new Dictionary<SectionNumber, SectionNumber?>();
        for (var i = 0; i < outline.Sections.Count; i++)
            parents[outline.Sections[i].Number!.Value] = outline
                .Sections.Take(i)
                .LastOrDefault(s => s.Depth < outline.Sections[i].Depth)
                ?.Number;
        return parents;
    }

    /// <summary>Whatever is moved wherever: no section and no word of any text is ever lost or doubled.</summary>
    [Fact]
    public void An_outline_keeps_its_sections_through_any_sequence_of_moves()
    {
        var section = Gen.Select(Gen.Int[1, 3], Some.Of("", "text", "two lines\nof it", "ends\n"));
        var move = Gen.Select(Gen.Int[0, 9], Gen.Int[-1, 9], Gen.Int[-2, 7]);
        Gen.Select(section.List[1, 10], move.List[1, 15])
            .Sample(
                (sections, moves) =>
                {
                    var text = string.Concat(sections.Select((s, i) => $"{new string('#', s.Item1 + 1)} S{i}\n\n{s.Item2} w{i}\n\n"));
                    var outline = Of(text);
                    var words = Words(text);
                    foreach (var (what, where, depth) in moves)
                    {
                        var number = N(what % sections.Count + 1);
                        outline = outline.Move(number, where < 0 ? null : N(where % sections.Count + 1), depth);
                        outline.Sections.Select(s => s.Number!.Value.Value).Order().ShouldBe(Enumerable.Range(1, sections.Count));
                        Words(outline.Text).ShouldBe(words);
                        outline.Sections[0].Depth.ShouldBeGreaterThanOrEqualTo(1);
                        // What is kept is what will be read again.
                        var again = outline.Rewrite(outline.Text);
                        again.Sections.Select(s => s.Number).ShouldBe(outline.Sections.Select(s => s.Number));
                        again.Sections.Select(s => s.Depth).ShouldBe(outline.Sections.Select(s => s.Depth));
                    }
                },
                iter: 500
            );

        static List<string> Words(string text) => [.. text.Split((char[])[' ', '\n', '#'], StringSplitOptions.RemoveEmptyEntries).Order()];
    }
}
