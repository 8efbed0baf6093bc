using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Routes;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class RouteStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly PieceNumber piece;

    public RouteStoreTests() => piece = desk.Pieces.Start(new NewPiece("The far bank", Topics: ["ferries"]), Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    private Draft Draft => desk.Drafts.Get(piece);

    private Draft Write(string text) => desk.Drafts.Save(piece, text, Draft.Version, Once.Unkeyed).Answer;

    private SlipNumber Lay(string text)
    {
        var slip = desk.Catch(text).Number;
        desk.Pieces.Place(piece, Reference.To(slip), null, Once.Unkeyed);
        return slip;
    }

    [Fact]
    public void What_the_material_proposes_is_taken_by_line_by_slip_or_whole_and_back_in_one_step()
    {
        Write(
            "## The bread column\n\nOn flood days four loaves paid for a stage, and the parish entered them.\n\n"
                + "## The bell\n\nA bell rings.\n"
        );
        var loaves = Lay("“Two loaves for half a stage, the parish to pay.”");
        var bell = Lay("“The bell rings cracked in frost.”");
        var before = desk.Everything();
        var shown = desk.Routes.Proposal(piece);
        shown.Named.Select(n => n.Number).ShouldBe([loaves, bell]);
        var line = shown.Proposal.Sections.Single(s => s.Slips.Any(p => p.Slip == loaves));
        line.Title.ShouldBe("The bread column");

        var part = desk.Routes.Take(piece, new ProposalTaken(shown.Version, [line.Key]), Once.Unkeyed);
        desk.Pieces.Material(piece).Items.Select(m => m.Section is null).ShouldBe([false, true]);
        desk.Routes.Proposal(piece).Proposal.Sections.SelectMany(s => s.Slips).Select(p => p.Slip).ShouldBe([bell]);
        desk.Undo(part.Command);
        desk.Everything().ShouldBe(before);

        desk.Routes.Take(piece, new ProposalTaken(desk.Routes.Proposal(piece).Version, null, [bell]), Once.Unkeyed);
        desk.Pieces.Material(piece).Items.Select(m => m.Section is null).ShouldBe([true, false]);
        Should
            .Throw<ClashException>(() => desk.Routes.Take(piece, new ProposalTaken(Draft.Version, ["new:99"]), Once.Unkeyed))
            .Message.ShouldContain("something else");
        Should.Throw<StaleException>(() => desk.Routes.Take(piece, new ProposalTaken(1), Once.Unkeyed));
    }

    [Fact]
    public void A_section_that_is_proposed_is_made_with_its_slips_where_its_beat_comes()
    {
        desk.Drafts.Several(
            piece,
            new SeveralSections(
                Draft.Version,
                [.. Draft.Sections.Where(s => s.Beat is "proof" or "turn").Select(s => s.Number)],
                SeveralAct.Remove
            ),
            Once.Unkeyed
        );
        var slips = new[]
        {
            Lay("“Quillan charged a penny for a pig in March.”"),
            Lay("“In March Quillan charged a penny a pig, the pig swimming.”"),
        };
        var shown = desk.Routes.Proposal(piece);
        desk.Routes.Take(piece, new ProposalTaken(shown.Version), Once.Unkeyed);
        var made = Draft.Sections.Single(s => s.Beat is "proof" or "turn");
        Draft.Sections[^1].Beat.ShouldBe("landing");
        desk.Pieces.Material(piece).Items.ShouldAllBe(m => m.Section == made.Number);
        desk.Pieces.Material(piece).Items.Select(m => m.Slip!.Number).ShouldBe(slips, ignoreOrder: true);
    }

    [Fact]
    public void A_finding_is_set_aside_with_a_reason_and_taken_up_again_and_goes_with_the_papers()
    {
        var fault = desk.Routes.Of(piece).Route.Faults.First(f => f.Kind == FaultKind.NoMaterial);
        Should
            .Throw<BadInputException>(() => desk.Routes.SetAside(piece, new SetAsideRequest(fault.Key, " "), Once.Unkeyed))
            .Field.ShouldBe("reason");
        desk.Routes.SetAside(piece, new SetAsideRequest(fault.Key, "told from memory"), Once.Unkeyed);
        desk.Routes.Of(piece).Route.Faults.Single(f => f.Key == fault.Key).SetAside.ShouldBe("told from memory");
        var image = desk.Images.Take().Pieces.Single();
        image.SetAside.Single().Key.ShouldBe("NoMaterial:1");
        desk.Routes.SetAside(piece, new SetAsideRequest(fault.Key, null), Once.Unkeyed);
        desk.Routes.Of(piece).Route.Faults.Single(f => f.Key == fault.Key).SetAside.ShouldBeNull();
    }

    [Fact]
    public void Parts_and_the_whole_are_counted_against_the_limits_of_the_format()
    {
        var thread = desk.Pieces.Start(new NewPiece("A thread", "thread"), Once.Unkeyed).Answer.Number;
        var draft = desk
            .Drafts.Save(thread, $"## One\n\n{new string('x', 350)}\n\n## Two\n\nshort\n", desk.Drafts.Get(thread).Version, Once.Unkeyed)
            .Answer;
        draft.Sections[0].Measured!.ShouldSatisfyAllConditions(m => m.Has.ShouldBe(350), m => m.IsOver.ShouldBeTrue());
        draft.Sections[1].Measured!.IsOver.ShouldBeFalse();
        desk.Drafts.Get(piece).Sections[0].Measured.ShouldBeNull();
    }

    [Fact]
    public void A_section_without_material_is_offered_what_would_fit()
    {
        Write("## Bread, loaves and coin\n\n## The bell in fog\n\nA bell rings in fog, and rings.\n");
        var fits = Lay("“Bread and loaves, no coin.”");
        var fault = desk.Routes.Of(piece).Route.Faults.First(f => f.Kind == FaultKind.NoMaterial);
        fault.Slips.ShouldBe([fits]);
    }

    [Fact]
    public void Marks_stay_with_their_words_through_writing_moving_splitting_joining_and_going()
    {
        var draft = Write("lead\n\n## One\n\nfirst words here\n\n## Two\n\nsecond words\n");
        int At(string words) => Draft.Text.IndexOf(words, StringComparison.Ordinal);
        desk.Routes.Mark(piece, new NewMark(draft.Version, At("words here")), Once.Unkeyed);
        var mark = desk.Routes.Mark(piece, new NewMark(draft.Version, At("second")), Once.Unkeyed).Answer[1];
        mark.ShouldSatisfyAllConditions(m => m.Section.ShouldBe("Two"), m => m.Words.ShouldBe("second words"));
        void Stand() => desk.Routes.Marks(piece).Select(m => m.At).Order().ShouldBe(new[] { At("words here"), At("second") }.Order());
        Write(Draft.Text.Replace("first", "the very first", StringComparison.Ordinal));
        Stand();
        desk.Drafts.MoveSection(piece, Draft.Sections[1].Number, new SectionMove(Draft.Version, Draft.Sections[0].Number, 1), Once.Unkeyed);
        Stand();
        desk.Drafts.Split(piece, new SectionSplit(Draft.Version, At("words here"), "Split"), Once.Unkeyed);
        Stand();
        desk.Drafts.Join(piece, Draft.Sections[^1].Number, Draft.Version, Once.Unkeyed);
        Stand();
        var gone = desk.Drafts.RemoveSection(piece, Draft.Sections[0].Number, Draft.Version, Once.Unkeyed).Answer;
        desk.Routes.Marks(piece).Count.ShouldBe(1);
        desk.Drafts.BringBack(piece, gone.Gone.First(g => g.Title == "Two").Number, gone.Version, Once.Unkeyed);
        desk.Routes.Marks(piece).Count.ShouldBe(2);
        desk.Routes.Unmark(piece, desk.Routes.Marks(piece)[0].Number, Once.Unkeyed).Answer.Count.ShouldBe(1);
    }

    [Fact]
    public void Joined_sections_share_their_material_and_a_note_and_a_settled_one_stay_with_their_section()
    {
        var draft = Write("## One\n\nfirst\n\n## Two\n\nsecond\n");
        var (one, two) = (draft.Sections[0].Number, draft.Sections[1].Number);
        var slip = Lay("“Bread.”");
        desk.Pieces.Place(piece, Reference.To(slip), two, Once.Unkeyed);
        desk.Drafts.EditSection(
            piece,
            one,
            new SectionChange
            {
                Version = Draft.Version,
                Note = "too dry?",
                Settled = true,
            },
            Once.Unkeyed
        );
        var before = desk.Everything();
        var joined = desk.Drafts.Join(piece, two, Draft.Version, Once.Unkeyed);
        desk.Pieces.Material(piece).Items.Single().Section.ShouldBe(one);
        joined.Answer.Sections.Single().ShouldSatisfyAllConditions(s => s.Note.ShouldBe("too dry?"), s => s.IsSettled.ShouldBeFalse());
        desk.Undo(joined.Command);
        desk.Everything().ShouldBe(before);
        Draft.Sections[0].IsSettled.ShouldBeTrue();
    }
}
