using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class VersionStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly PieceNumber piece;

    public VersionStoreTests() => piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    private Draft Write(string text) => desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed).Answer;

    private IReadOnlyList<VersionShown> Kept => [.. desk.Versions.List(piece).Skip(1)];

    private static string Long(string word) =>
        string.Concat(Enumerable.Range(0, 30).Select(i => $"Paragraph {i} of the {word} says what no other says.\n\n"));

    [Fact]
    public void A_sitting_is_kept_when_the_next_one_begins()
    {
        Write("## One\n\nfirst words\n");
        Write("## One\n\nfirst words and more\n");
        var ended = desk.Clock.GetUtcNow();
        var begun = Kept.Count;
        desk.Clock.Advance(VersionRules.Pause);
        Write("## One\n\nfirst words and more, the next day\n");
        Kept.Count.ShouldBe(begun + 1);
        Kept[0].ShouldSatisfyAllConditions(v => v.Why.ShouldBe(VersionWhy.Sitting), v => v.At.ShouldBe(ended), v => v.Words.ShouldBe(4));
        desk.Versions.Get(piece, Kept[0].Number!.Value).Text.ShouldBe("## One\n\nfirst words and more\n");
        desk.Versions.List(piece)[0].ShouldSatisfyAllConditions(v => v.Number.ShouldBeNull(), v => v.Sections.ShouldBe(["One"]));
    }

    [Fact]
    public void A_stage_and_what_is_about_to_go_are_kept_and_one_undo_takes_both_back()
    {
        Write(Long("bell"));
        var before = desk.Everything();
        var moved = desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Stage = "Draft" }, Once.Unkeyed);
        Kept[0].ShouldSatisfyAllConditions(v => v.Why.ShouldBe(VersionWhy.Stage), v => v.Name.ShouldBe("as it left Gather"));
        desk.Undo(moved.Command);
        desk.Everything().ShouldBe(before);

        Write("nothing of it");
        Kept[0].ShouldSatisfyAllConditions(v => v.Why.ShouldBe(VersionWhy.Before), v => v.Words.ShouldBeGreaterThan(200));
    }

    [Fact]
    public void A_version_costs_what_is_new_in_it()
    {
        long Bytes() =>
            desk.Papers.Read(db => Dapper.SqlMapper.ExecuteScalar<long>(db, "SELECT total(length(text)) FROM version_unit", null));
        Write(Long("bell"));
        desk.Versions.Keep(piece, new VersionName("one"), Once.Unkeyed);
        var one = Bytes();
        Write(Long("bell") + "one paragraph more\n");
        desk.Versions.Keep(piece, new VersionName("two"), Once.Unkeyed);
        (Bytes() - one).ShouldBeInRange(1, 40);
        desk.Versions.Remove(piece, Kept[0].Number!.Value, Once.Unkeyed);
        Bytes().ShouldBe(one);
        desk.Versions.Get(piece, Kept[0].Number!.Value).Text.ShouldBe(Long("bell"));
    }

    [Fact]
    public void A_paragraph_a_section_and_a_whole_version_are_taken_back_and_the_draft_is_kept_first()
    {
        const string old = "## Toll\n\nA loaf a head it was.\n\nNobody paid to come home.\n\n## Bell\n\nOn the wrong bank.\n";
        Write(old);
        desk.Versions.Keep(piece, new VersionName("whole"), Once.Unkeyed);
        var version = Kept[0].Number!.Value;
        Write("## Toll\n\nHalf a loaf a head it was.\n\n## Bell\n\nOn the wrong bank, for years.\n");
        var compared = desk.Versions.Against(piece, version, null);
        compared.ShouldSatisfyAllConditions(
            c => c.Sections.ShouldBe(["Toll", "Bell"]),
            c => c.Draft.ShouldBe(desk.Drafts.Get(piece).Version),
            c => c.New.More.ShouldBe(-2)
        );
        var home = compared.Comparison.Paragraphs.ToList().FindIndex(p => p.Old.StartsWith("Nobody", StringComparison.Ordinal));
        var before = desk.Everything();
        var one = desk.Versions.Take(piece, version, new VersionTaken(compared.Draft, Paragraphs: [home]), Once.Unkeyed);
        one.Answer.Text.ShouldBe(
            "## Toll\n\nHalf a loaf a head it was.\n\nNobody paid to come home.\n\n## Bell\n\nOn the wrong bank, for years.\n"
        );
        one.Answer.Sections.Select(s => s.Number).ShouldBe(desk.Drafts.Get(piece).Sections.Select(s => s.Number));
        Kept[0].Why.ShouldBe(VersionWhy.Before);
        desk.Undo(one.Command);
        desk.Everything().ShouldBe(before);

        desk.Versions.Take(piece, version, new VersionTaken(desk.Drafts.Get(piece).Version, Section: 0), Once.Unkeyed)
            .Answer.Text.ShouldBe(old.Replace("bank.", "bank, for years.", StringComparison.Ordinal));
        desk.Versions.Take(piece, version, new VersionTaken(desk.Drafts.Get(piece).Version), Once.Unkeyed).Answer.Text.ShouldBe(old);
        Should.Throw<StaleException>(() => desk.Versions.Take(piece, version, new VersionTaken(1), Once.Unkeyed));
        Should
            .Throw<BadInputException>(() =>
                desk.Versions.Take(piece, version, new VersionTaken(desk.Drafts.Get(piece).Version, Section: 9), Once.Unkeyed)
            )
            .Field.ShouldBe("section");
    }

    [Fact]
    public void Named_versions_stay_while_the_others_thin_out_and_all_go_with_the_papers()
    {
        for (var day = 0; day < 60; day++)
        {
            Write($"## One\n\nwords of day {day}\n");
            if (day == 20)
                desk.Versions.Keep(piece, new VersionName("the good one"), Once.Unkeyed);
            desk.Clock.Advance(TimeSpan.FromHours(8));
        }
        Kept.Count.ShouldBeInRange(12, 26);
        Kept.ShouldContain(v => v.Name == "the good one");
        var image = desk.Images.Take().Pieces.Single();
        image.Versions.Select(v => v.Text).ShouldBe(Kept.Reverse().Select(v => desk.Versions.Get(piece, v.Number!.Value).Text));
        var named = Kept.Single(v => v.Name == "the good one").Number!.Value;
        desk.Versions.Rename(piece, named, new VersionName(""), Once.Unkeyed).Answer.ShouldAllBe(v => v.Why != VersionWhy.Named);
        Should.Throw<BadInputException>(() => desk.Versions.Keep(piece, new VersionName(" "), Once.Unkeyed)).Field.ShouldBe("name");
    }
}
