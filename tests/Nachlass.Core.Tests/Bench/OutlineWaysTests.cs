using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Bench;

public sealed class OutlineWaysTests
{
    private static Outline Of(string text)
    {
        var (lead, parts) = DraftText.Split(text);
        return new Outline(lead, [.. parts.Select((part, i) => new Section(SectionNumber.Of(i + 1), part, 100))]);
    }

    private static SectionNumber[] N(params int[] numbers) => [.. numbers.Select(SectionNumber.Of)];

    private static string Shape(Outline outline) => string.Join(' ', outline.Sections.Select(s => new string('.', s.Depth - 1) + s.Title));

    private const string Five = "## A\n\na\n\n## B\n\nb\n\n### C\n\nc\n\n## D\n\nd\n\n## E\n\ne\n";

    [Theory]
    [InlineData(OutlineWay.Up, new[] { 4, 5 }, "A D E B .C")]
    [InlineData(OutlineWay.Up, new[] { 1, 2 }, "A B .C D E")]
    [InlineData(OutlineWay.Down, new[] { 1, 2 }, "D A B .C E")]
    [InlineData(OutlineWay.Down, new[] { 4, 5 }, "A B .C D E")]
    [InlineData(OutlineWay.In, new[] { 4, 5 }, "A B .C .D .E")]
    [InlineData(OutlineWay.Out, new[] { 3 }, "A B C D E")]
    [InlineData(OutlineWay.Up, new[] { 2, 3 }, "B .C A D E")]
    [InlineData(OutlineWay.In, new[] { 1 }, "A B .C D E")]
    public void Several_go_together_in_their_order(OutlineWay way, int[] chosen, string shape) =>
        Shape(Of(Five).Step(N(chosen), way)).ShouldBe(shape);

    [Theory]
    [InlineData(new[] { 1, 5 }, 4, 1, "B .C A E D")]
    [InlineData(new[] { 5, 1 }, 3, 2, "B .A .E .C D")]
    [InlineData(new[] { 1, 3 }, null, 1, "B D E A C")]
    [InlineData(new[] { 1, 3 }, null, 2, "B D E .A .C")]
    [InlineData(new[] { 2, 3, 4 }, 1, 1, "B .C D A E")]
    [InlineData(new[] { 2, 4 }, 3, 1, "A B .C D E")]
    [InlineData(new[] { 1, 4 }, 4, 1, "B .C A D E")]
    public void Several_are_laid_before_another_together(int[] chosen, int? before, int depth, string shape) =>
        Shape(Of(Five).Move(N(chosen), before is { } number ? SectionNumber.Of(number) : null, depth)).ShouldBe(shape);

    private static readonly Gen<(string Text, int[] Chosen, OutlineWay Way)> Any =
        from depths in Gen.Int[2, 5].Array[1, 9]
        from chosen in Gen.Int[1, 9].Array[1, 4]
        from way in Gen.Enum<OutlineWay>()
        select (
            string.Concat(depths.Select((d, i) => $"{new string('#', d)} S{i}\n\ntext {i}\n\n")),
            chosen.Where(c => c <= depths.Length).DefaultIfEmpty(1).ToArray(),
            way
        );

    [Fact]
    public void No_step_loses_a_section_or_a_letter() => Any.Sample(any => LosesNothing(any.Text, o => o.Step(N(any.Chosen), any.Way)));

    [Fact]
    public void Several_moved_stand_together_in_their_order_and_nothing_is_lost() =>
        Gen.Select(Any, Gen.Int[0, 8], Gen.Int[1, 5])
            .Sample(
                (any, to, depth) =>
                {
                    var outline = Of(any.Text);
                    SectionNumber? before = to < outline.Sections.Count ? outline.Sections[to].Number : null;
                    var after = LosesNothing(any.Text, o => o.Move(N(any.Chosen), before, depth));
                    var families = any.Chosen.SelectMany(c => outline.Family(N(c)[0])).Select(s => s.Title).ToHashSet();
                    var places = after.Sections.Index().Where(s => families.Contains(s.Item.Title)).Select(s => s.Index).ToList();
                    (places[^1] - places[0]).ShouldBe(places.Count - 1);
                    foreach (var isMoved in (bool[])[true, false])
                        after
                            .Sections.Where(s => families.Contains(s.Title) == isMoved)
                            .Select(s => s.Title)
                            .ShouldBe(outline.Sections.Where(s => families.Contains(s.Title) == isMoved).Select(s => s.Title));
                }
            );

    private static Outline LosesNothing(string text, Func<Outline, Outline> change)
    {
        var before = Of(text);
        var after = change(before);
        after.Sections.Select(s => s.Number!.Value.Value).Order().ShouldBe(before.Sections.Select(s => s.Number!.Value.Value).Order());
        after.Sections.Select(s => s.Part.Body.Trim()).Order().ShouldBe(before.Sections.Select(s => s.Part.Body.Trim()).Order());
        return after;
    }

    [Fact]
    public void A_split_section_keeps_its_number_and_shares_its_aim()
    {
        var split = Of("## A\n\none two three. four five six\n\n## B\n\nb\n").Split("## A\n\none two three.".Length, "New");
        split.Text.ShouldBe("## A\n\none two three.\n\n## New\n\nfour five six\n\n## B\n\nb\n");
        split.Sections.Select(s => s.Number?.Value).ShouldBe([1, null, 2]);
        split.Sections.Select(s => s.Aim).ShouldBe([50, 50, 100]);
        Should.Throw<BadInputException>(() => Of("## A heading\n\na\n").Split(5, "New")).Field.ShouldBe("at");
        Of("lead words\n\n## A\n").Split(4, "New").Text.ShouldStartWith("lead\n\n## New\n\nwords");
    }

    [Fact]
    public void Joined_sections_are_one_with_both_texts_aims_and_notes()
    {
        var outline = Of(Five).Change(N(2)[0], "B", 100, "", "for B").Change(N(4)[0], "D", 30, "", "for D");
        var joined = outline.Join(N(4)[0]);
        joined.Text.ShouldBe("## A\n\na\n\n## B\n\nb\n\n### C\n\nc\n\nd\n\n## E\n\ne\n");
        joined.Sections[2].ShouldSatisfyAllConditions(s => s.Aim.ShouldBe(130), s => s.Note.ShouldBe("for D"));
        joined.Gone.Single().Title.ShouldBe("D");
        Should.Throw<BadInputException>(() => outline.Join(N(1)[0])).Message.ShouldContain("no section before");
    }

    [Fact]
    public void Split_and_joined_again_says_the_same() =>
        (from at in Gen.Int[6, 30] select at).Sample(at =>
        {
            const string text = "## A\n\nsome words that stand in one section of it\n";
            var split = Of(text).Split(at, "New");
            var numbered = split with { Sections = [.. split.Sections.Select((s, i) => s with { Number = SectionNumber.Of(i + 1) })] };
            string Words(string t) => string.Concat(t.Where(char.IsLetter));
            Words(numbered.Join(N(2)[0]).Text).ShouldBe(Words(text));
        });

    [Fact]
    public void A_place_stays_with_what_it_stands_before_while_the_text_around_it_changes()
    {
        Followed.Place("one two three", "one and two three", 8).ShouldBe(12);
        Followed.Place("one two three", "one two three four", 4).ShouldBe(4);
        Followed.Place("one two three", "one three", 6).ShouldBe(5);
        (
            from a in Gen.String[Gen.Char["ab "], 0, 20]
            from b in Gen.String[Gen.Char["ab "], 0, 20]
            from p in Gen.Int[0, 20]
            select (a, b, p)
        ).Sample(s => Followed.Place(s.a, s.b, Math.Min(s.p, s.a.Length)).ShouldBeInRange(0, s.b.Length));
    }
}
