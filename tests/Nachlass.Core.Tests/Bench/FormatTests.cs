using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench;

public class FormatTests
{
    private static readonly Format Plain = new() { Name = "Walk", Stages = ["Begin", "Out"] };

    [Fact]
    public void Every_ready_format_is_whole_and_is_kept_just_as_it_is()
    {
        foreach (var format in ReadyFormats.All)
        {
            format.Stages.Count.ShouldBeGreaterThan(2);
            format.Skeleton.ShouldAllBe(s => format.Beats.Contains(s.Beat) && s.Aim > 0 && s.Title.Length > 0);
            format.Steps.ShouldAllBe(s => format.Stages.Contains(s.Stage) && s.Text.Length > 0);
            format.Steps.Count.ShouldBeGreaterThan(1);
            format.UsualHours.ShouldBeGreaterThan(0);
            format.IsOut(format.Stages[^1]).ShouldBeTrue();
            var numbers = format.Skeleton.Concat(format.Later).Select(s => s.Number).Concat(format.Steps.Select(s => s.Number)).ToList();
            numbers.ShouldBeUnique();
            numbers.ShouldAllBe(n => n > 0);
            var kept = FormatRules.Checked(format);
            System.Text.Json.JsonSerializer.Serialize(kept).ShouldBe(System.Text.Json.JsonSerializer.Serialize(format));
        }
        ReadyFormats.All.Select(f => f.Key).ShouldBeUnique();
        Should.Throw<BadInputException>(() => FormatSet.Ready.Named("sonnet")).Field.ShouldBe("format");
    }

    [Fact]
    public void What_makes_no_sense_is_named()
    {
        string Field(Format format) => Should.Throw<BadInputException>(() => FormatRules.Checked(format)).Field;
        Field(Plain with { Name = " " }).ShouldBe("name");
        Field(Plain with { Stages = ["Out"] }).ShouldBe("stages");
        Field(Plain with { Stages = ["Begin", "begin"] }).ShouldBe("stages");
        Field(Plain with { Hours = [1] }).ShouldBe("hours");
        Field(Plain with { Hours = [1, -1] }).ShouldBe("hours");
        Field(Plain with { Steps = [new("Nowhere", "x")] }).ShouldBe("steps");
        Field(Plain with { Steps = [new("Begin", "x", Address: "javascript:alert(1)")] }).ShouldBe("steps");
        Field(Plain with { Fields = [new("", "Place"), new("", "place")] }).ShouldBe("fields");
        Field(Plain with { Fields = [new("", "State", FieldKind.Choice)] }).ShouldBe("fields");
        Field(Plain with { Fields = [new("", "Title")] }).ShouldBe("fields");
        Field(Plain with { SideTexts = [new("", "Notes", new Limit(0))] }).ShouldBe("sideTexts");
        Field(Plain with { TitlePattern = "{{ nothing }}" }).ShouldBe("titlePattern");
        Field(Plain with { Template = "one\n{% if x %}" }).ShouldBe("template");
        Field(Plain with { Folders = ["../up"] }).ShouldBe("folders");
        Field(Plain with { Limits = new(LinkLength: 0) }).ShouldBe("limits");
    }

    [Fact]
    public void Sections_and_steps_keep_their_numbers_and_none_is_given_twice()
    {
        var first = FormatRules.Checked(Plain with { Skeleton = [new("One"), new("Two")], Steps = [new("Begin", "a"), new("Begin", "b")] });
        first.Skeleton.Select(s => s.Number).Concat(first.Steps.Select(s => s.Number)).ShouldBe([1, 2, 3, 4]);
        var fewer = FormatRules.Checked(first with { Skeleton = [first.Skeleton[1]], Steps = [] }, first);
        fewer.Skeleton.Single().Number.ShouldBe(2);
        var more = FormatRules.Checked(fewer with { Skeleton = [new("New"), .. fewer.Skeleton], Steps = [new("Begin", "c")] }, first);
        more.Skeleton.Select(s => s.Number).ShouldBe([5, 2]);
        more.Steps.Single().Number.ShouldBe(6);
    }

    [Theory]
    [InlineData("Show notes", "show_notes")]
    [InlineData("  Wo & wann? ", "wo_wann")]
    [InlineData("Où", "ou")]
    [InlineData("2nd", "n2nd")]
    [InlineData("道", "field")]
    public void Keys_are_made_of_names(string name, string key) => FormatRules.KeyOf(name).ShouldBe(key);

    [Fact]
    public void A_key_stays_when_the_name_changes()
    {
        var first = FormatRules.Checked(
            Plain with
            {
                Fields = [new("", "Place"), new("", "Länge", FieldKind.Number)],
                SideTexts = [new("", "Show notes")],
            }
        );
        first.Fields.Select(f => f.Key).ShouldBe(["place", "lange"]);
        var renamed = FormatRules.Checked(first with { Fields = [first.Fields[0] with { Name = "Where" }, first.Fields[1]] }, first);
        renamed.Fields[0].Key.ShouldBe("place");
    }

    [Theory]
    [InlineData(FieldKind.Number, "12,5", "12.5")]
    [InlineData(FieldKind.Number, "007", "7")]
    [InlineData(FieldKind.Number, "many", null)]
    [InlineData(FieldKind.Number, "1e400", null)]
    [InlineData(FieldKind.Date, "2026-02-28", "2026-02-28")]
    [InlineData(FieldKind.Date, "2026-02-30", null)]
    [InlineData(FieldKind.Choice, "given", "Given")]
    [InlineData(FieldKind.Choice, "perhaps", null)]
    [InlineData(FieldKind.Link, "https://tavle.example/x", "https://tavle.example/x")]
    [InlineData(FieldKind.Link, "tavle", null)]
    [InlineData(FieldKind.Tick, "yes", "yes")]
    [InlineData(FieldKind.Tick, "no", "")]
    [InlineData(FieldKind.Tick, "perhaps", null)]
    [InlineData(FieldKind.Person, " Jonas\nPell ", "Jonas Pell")]
    [InlineData(FieldKind.LongText, "one\ntwo", "one\ntwo")]
    [InlineData(FieldKind.Text, "  ", "")]
    public void Values_are_what_their_field_can_hold(FieldKind kind, string typed, string? kept)
    {
        var field = new OwnField("x", "X", kind, kind == FieldKind.Choice ? ["Asked", "Given"] : null);
        if (kept is null)
            Should
                .Throw<BadInputException>(() => FieldValue.Checked(field, typed))
                .ShouldSatisfyAllConditions(e => e.Field.ShouldBe("fields.x"), e => e.Message.ShouldContain(typed));
        else
            FieldValue.Checked(field, typed).ShouldBe(kept);
    }

    [Fact]
    public void A_kept_value_is_kept_again_as_it_is() =>
        Gen.Select(
                Gen.Enum<FieldKind>(),
                Gen.OneOf(Gen.String, Gen.Double.Select(d => d.ToString()), Gen.Date.Select(d => d.ToString("yyyy-MM-dd")))
            )
            .Sample(
                (kind, typed) =>
                {
                    var field = new OwnField("x", "X", kind, ["a", "b"]);
                    try
                    {
                        var kept = FieldValue.Checked(field, typed);
                        FieldValue.Checked(field, kept).ShouldBe(kept);
                    }
                    catch (BadInputException) { }
                }
            );

    private static readonly PieceFacts Facts = new(
        "The bell",
        41,
        new DateTime(2026, 11, 26),
        "Letter",
        "Low Water",
        ["ferries", "voices"],
        new DateOnly(2026, 12, 11),
        [(new OwnField("place", "Place"), "Quillan")]
    );

    [Theory]
    [InlineData("", "The bell")]
    [InlineData("Letter {{ number }}: {{ title }}", "Letter 41: The bell")]
    [InlineData("{{ topic }} at {{ place }}, {{ due }}", "ferries at Quillan, 11 December 2026")]
    [InlineData("{% if series != '' %}{{ series }}: {% endif %}{{ title }}", "Low Water: The bell")]
    [InlineData("{{ nothing }}", "The bell")]
    [InlineData("{{ title", "The bell")]
    public void A_title_follows_its_pattern_and_stays_where_that_is_wrong(string pattern, string title) =>
        Facts.TitleBy(pattern).ShouldBe(title);

    [Fact]
    public void A_title_that_follows_the_pattern_already_is_left_alone() =>
        (Facts with { Title = "Letter 41: The bell" }).TitleBy("Letter {{ number }}: {{ title }}").ShouldBe("Letter 41: The bell");

    [Fact]
    public void Every_fill_in_that_is_offered_can_be_filled_in()
    {
        foreach (var offer in Facts.Offers())
            FillIn.Fill($"{{{{ {offer.Name} }}}}", Facts.ByName()).ShouldBe(new FilledIn(offer.Now, null));
        Facts.Offers().Select(o => o.Name).ShouldContain("place");
    }

    [Theory]
    [InlineData("Four loaves", 11)]
    [InlineData("**Four** loaves", 11)]
    [InlineData("see https://tavle.example/a-very-long-address-indeed-of-many-letters", 4 + 23)]
    [InlineData("👩‍🌾", 1)]
    public void Characters_are_counted_as_the_outlet_counts_them(string text, int has) =>
        Measure.Of(text, new Limit(300), new FormatLimits(LinkLength: 23)).Has.ShouldBe(has);

    [Fact]
    public void Code_units_and_words_are_counted_too()
    {
        Measure.Of("👩‍🌾 a", new Limit(300), new FormatLimits(CountAs: CharactersAs.CodeUnits)).Has.ShouldBe("👩‍🌾 a".Length);
        Measure.Of("one two three", new Limit(2, MeasuredIn.Words), FormatLimits.None).ShouldBe(new Measured(3, 2, MeasuredIn.Words));
        Measure.Of("one two three", new Limit(2, MeasuredIn.Words), FormatLimits.None).IsOver.ShouldBeTrue();
    }
}
