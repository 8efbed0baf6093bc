using System.Globalization;
using System.Text.RegularExpressions;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Routes;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>A slip as a route or proposal speaks of it.</summary>
public sealed record SlipNamed(SlipNumber Number, string Words);

/// <summary>A route with what is said in it.</summary>
/// <param name="Named">The slips that faults are about.</param>
public sealed record RouteShown(PieceNumber Piece, int Version, Route Route, IReadOnlyList<SlipNamed> Named);

/// <summary>A proposal with what is said in it.</summary>
/// <param name="Version">Of the draft it is made for.</param>
public sealed record ProposalShown(PieceNumber Piece, int Version, Proposal Proposal, IReadOnlyList<SlipNamed> Named);

/// <summary>What is taken of a proposal.</summary>
/// <param name="Keys">The lines that are taken; all when null.</param>
/// <param name="Slips">The slips that are taken of them; all when null.</param>
public sealed record ProposalTaken(int? Version, IReadOnlyList<string>? Keys = null, IReadOnlyList<SlipNumber>? Slips = null);

/// <summary>Something a route finds that is meant so; without a reason it stands again.</summary>
public sealed record SetAsideRequest(string? Key, string? Reason);

/// <summary>A place to come back to.</summary>
/// <param name="At">Where in the draft, in UTF-16 units.</param>
/// <param name="Section">Title of the section it is in.</param>
/// <param name="Words">What stands there.</param>
public sealed record MarkShown(MarkNumber Number, int At, string Section, string Words);

/// <summary>A place in the draft, in UTF-16 units, as the version that was seen has it.</summary>
public sealed record NewMark(int? Version, int At);

/// <summary>Routes of pieces, what their material proposes, and marks in drafts.</summary>
public sealed partial class RouteStore(PapersFile papers, AdviceStore advice)
{
    public const int LongestReason = 500,
        MostMarks = 200;
    private const int MostFitting = 12,
        MostOfSources = 60;

    public RouteShown Of(PieceNumber piece)
    {
        var proposal = Proposal(piece).Proposal;
        return papers.Read(db =>
        {
            var own = PieceRows.Get(db, piece);
            var (outline, version, _) = DraftRows.Read(db, piece);
            var route = RouteFinder.Of(
                outline,
                new RouteGround(
                    FormatRows.Named(db, own.Format),
                    Loose(db, piece, outline.Text),
                    OpenQuestions(db, piece),
                    BriefRows.Read(db, piece).CallToAction,
                    RouteRows.SetAside(db, piece)
                )
            );
            // What would fit a section that has nothing is what the material proposes for it.
            var faults = route.Faults.Select(f =>
                f.Kind == FaultKind.NoMaterial
                    ? f with
                    {
                        Slips = [.. proposal.Sections.Where(s => s.Section == f.Sections[0]).SelectMany(s => s.Slips.Select(p => p.Slip))],
                    }
                    : f
            );
            route = route with { Faults = [.. faults] };
            return new RouteShown(piece, version, route, Named(db, route.Faults.SelectMany(f => f.Slips)));
        });
    }

    /// <summary>Slips of the material that have no place and that the draft doesn't refer to; questions are found elsewhere.</summary>
    private static IReadOnlyList<SlipNumber> Loose(SqliteConnection db, PieceNumber piece, string text)
    {
        var referred = References.In(text).Select(r => r.Thing).OfType<Reference>().ToHashSet();
        return
        [
            .. db.Query<int>(
                    """
                    SELECT m.slip FROM material m JOIN slip s ON s.number = m.slip
                    WHERE m.piece = @piece AND m.section IS NULL AND s.kind <> 'question' ORDER BY m.position
                    """,
                    new { piece }
                )
                .Where(slip => !referred.Contains(new Reference(ThingKind.Slip, slip)))
                .Select(SlipNumber.Of),
        ];
    }

    private static IReadOnlyList<SlipNumber> OpenQuestions(SqliteConnection db, PieceNumber piece) =>
        [
            .. db.Query<int>(
                    """
                    SELECT slip FROM to_find WHERE piece = @piece AND slip IS NOT NULL AND answer IS NULL
                    UNION SELECT m.slip FROM material m JOIN slip s ON s.number = m.slip
                    WHERE m.piece = @piece AND s.kind = 'question'
                        AND m.slip NOT IN (SELECT slip FROM to_find WHERE piece = @piece AND answer IS NOT NULL)
                    """,
                    new { piece }
                )
                .Select(SlipNumber.Of),
        ];

    private static IReadOnlyList<SlipNamed> Named(SqliteConnection db, IEnumerable<SlipNumber> slips)
    {
        var found = SlipRows.All(db, [.. slips.Select(s => s.Value).Distinct()]);
        return [.. found.Values.OrderBy(s => s.Number.Value).Select(s => new SlipNamed(s.Number, PlainText.Headline(s.Title ?? s.Text)))];
    }

    public ProposalShown Proposal(PieceNumber piece)
    {
        var about = papers.Read(db => About(db, piece));
        var tied = papers.Read(db => Tied(db, piece));
        var fitting = advice
            .Like(about, MostFitting * 2, thing => thing.Kind == ThingKind.Slip && !tied.Contains(thing.Number))
            .Where(a => a.Note != "dropped")
            .Take(MostFitting)
            .Select(a => a.Thing.Number)
            .ToList();
        return papers.Read(db =>
        {
            var (outline, version, _) = DraftRows.Read(db, piece);
            var proposal = Made(db, piece, outline, fitting);
            return new ProposalShown(
                piece,
                version,
                proposal,
                Named(db, proposal.Sections.SelectMany(s => s.Slips.Select(p => p.Slip)).Concat(proposal.Left))
            );
        });
    }

    private static HashSet<int> Tied(SqliteConnection db, PieceNumber piece) =>
        [.. db.Query<int>("SELECT slip FROM material WHERE piece = @piece AND slip IS NOT NULL", new { piece })];

    /// <summary>All words that say what a piece is about.</summary>
    private static string About(SqliteConnection db, PieceNumber piece)
    {
        var own = PieceRows.Get(db, piece);
        return string.Join(
            '\n',
            db.Query<string>(
                    "SELECT s.text FROM material m JOIN slip s ON s.number = m.slip WHERE m.piece = @piece ORDER BY m.position",
                    new { piece }
                )
                .Prepend(DraftRows.Read(db, piece).Outline.Text)
                .Prepend(own.Brief)
                .Prepend(own.Title)
        );
    }

    private static Proposal Made(SqliteConnection db, PieceNumber piece, Outline outline, IReadOnlyList<int> fitting)
    {
        var material = db.Query<(int Slip, int? Section)>(
                "SELECT slip, section FROM material WHERE piece = @piece AND slip IS NOT NULL",
                new { piece }
            )
            .ToDictionary(m => m.Slip, m => m.Section);
        var referred = References.In(outline.Text).Select(r => r.Thing).OfType<Reference>().ToHashSet();
        // Passages of the sources that are laid beside it would fit if any do.
        var ofSources = db.Query<int>(
            """
            SELECT s.number FROM slip s WHERE s.state = 'kept' AND s.merged_into IS NULL AND s.kind IN ('quote', 'takeaway')
                AND s.source IN (SELECT source FROM material WHERE piece = @piece AND source IS NOT NULL)
            ORDER BY s.number LIMIT @MostOfSources
            """,
            new { piece, MostOfSources }
        );
        var others = fitting.Concat(ofSources).Distinct().Where(n => !material.ContainsKey(n));
        var loose = material.Where(m => m.Value is null).Select(m => m.Key);
        var slips = SlipRows.All(db, [.. material.Keys.Concat(others)]);
        var toPlace = loose
            .Concat(others)
            .Where(n => !referred.Contains(new Reference(ThingKind.Slip, n)) && slips[n].Kind != SlipKind.Question)
            .Select(n => slips[n])
            .Select(s => new ToPlace(s.Number, s.Text, s.Kind, s.Source, Order(s), material.ContainsKey(s.Number.Value)))
            .ToList();
        var proposal = Proposals.Of(
            outline,
            material.Where(m => m.Value is not null).ToLookup(m => SectionNumber.Of(m.Value!.Value), m => slips[m.Key].Text),
            toPlace,
            FormatRows.Named(db, PieceRows.Get(db, piece).Format)
        );
        var tied = toPlace.Where(s => s.IsTied).Select(s => s.Slip).ToHashSet();
        // What only might fit is not missed where it finds no place, and makes no section by itself.
        return proposal with
        {
            Sections = [.. proposal.Sections.Where(s => s.Section is not null || s.Slips.Any(p => p.IsTied))],
            Left = [.. proposal.Left.Where(tied.Contains)],
        };
    }

    /// <summary>Where a passage stands in its source: the first number of its locator; else by when it was caught.</summary>
    private static double Order(Slip slip) =>
        FirstNumber().Match(slip.Locator) is { Success: true } found
            ? double.Parse(found.Value, CultureInfo.InvariantCulture)
            : 1e6 + slip.Number.Value;

    [GeneratedRegex(@"\d{1,6}")]
    private static partial Regex FirstNumber();

    /// <summary>Takes a proposal, whole or in part: sections are made or moved and slips laid in, as one step.</summary>
    /// <exception cref="ClashException">The proposal is another one by now.</exception>
    public Done<Draft> Take(PieceNumber piece, ProposalTaken taken, Once once)
    {
        var based = Check.Version(taken.Version);
        var shown = Proposal(piece);
        return papers.Run(
            $"took what the material of P {piece} proposes",
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                if (current != based || shown.Version != based)
                    throw new StaleException($"The draft of P {piece}", DraftStore.Of(change.Db, piece));
                var lines = (taken.Keys ?? [.. shown.Proposal.Sections.Where(s => !s.IsAsItIs).Select(s => s.Key)])
                    .Distinct()
                    .Select(key =>
                        shown.Proposal.Sections.FirstOrDefault(s => s.Key == key)
                        ?? throw new ClashException("The material proposes something else by now; look at it again.")
                    )
                    .OrderBy(line => shown.Proposal.Sections.ToList().IndexOf(line))
                    .ToList();
                if (lines.Count == 0)
                    throw new BadInputException("keys", "There is nothing in it to be taken.");
                change.OnPiece = piece;
                var before = outline.Sections.Select(s => s.Number).ToHashSet();
                foreach (var line in lines)
                    outline =
                        line.Section is null
                            ? outline.AddBefore(new Section(null, DraftPart.Empty(line.Title, 1), line.Aim, line.Beat), line.Before)
                        : line.IsMoved && taken.Slips is null ? outline.Move(line.Section.Value, line.Before, 1)
                        : outline;
                DraftRows.Write(change, piece, outline);
                var made = new Queue<SectionNumber>(
                    DraftRows.Read(change.Db, piece).Outline.Sections.Select(s => s.Number!.Value).Where(n => !before.Contains(n))
                );
                foreach (var line in lines)
                {
                    var section = line.Section ?? made.Dequeue();
                    foreach (var slip in line.Slips.Select(p => p.Slip).Where(s => taken.Slips?.Contains(s) != false))
                    {
                        MaterialRows.Add(change, piece, Reference.To(slip), section);
                        MaterialRows.Settle(change, slip);
                    }
                }
                return DraftStore.Of(change.Db, piece);
            }
        );
    }

    /// <summary>Says that something is meant so, and why; or that it stands again.</summary>
    public Done<bool> SetAside(PieceNumber piece, SetAsideRequest asked, Once once)
    {
        var key = Check.Text("key", asked.Key, 500);
        var reason = asked.Reason is null ? null : Check.Text("reason", asked.Reason, LongestReason);
        return papers.Run(
            reason is null ? $"took up again what was set aside in P {piece}" : $"set a finding aside in P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                if (reason is not null)
                    RouteRows.Put(change.Db, piece, key, reason);
                else
                    change.Db.Execute("DELETE FROM set_aside WHERE piece = @piece AND key = @key", new { piece, key });
                return true;
            }
        );
    }

    public IReadOnlyList<MarkShown> Marks(PieceNumber piece) => papers.Read(db => Marks(db, piece));

    private static IReadOnlyList<MarkShown> Marks(SqliteConnection db, PieceNumber piece)
    {
        var (outline, _, _) = DraftRows.Read(db, piece);
        var shown = new List<MarkShown>();
        foreach (var mark in MarkRows.Of(db, piece))
        {
            var start = mark.Section is null ? 0 : outline.Lead.Length;
            var section = outline.Sections.FirstOrDefault(s => s.Number?.Value == mark.Section);
            // One whose section is gone waits for it.
            if (mark.Section is not null && section is null)
                continue;
            if (section is not null)
                start += outline.Sections.TakeWhile(s => s != section).Sum(s => s.Part.Raw.Length);
            var raw = section?.Part.Raw ?? outline.Lead;
            var place = Math.Min(mark.Place, raw.Length);
            var line = raw.LastIndexOf('\n', Math.Max(0, place - 1)) + 1;
            shown.Add(
                new MarkShown(mark.Number, start + place, section?.Title ?? "", PlainText.Headline(raw[Math.Min(line, place)..], 80))
            );
        }
        return [.. shown.OrderBy(m => m.At)];
    }

    /// <summary>Marks a place in the draft, to come back to.</summary>
    public Done<IReadOnlyList<MarkShown>> Mark(PieceNumber piece, NewMark made, Once once)
    {
        var based = Check.Version(made.Version);
        return papers.Run(
            $"marked a place in P {piece}",
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                if (current != based)
                    throw new StaleException($"The draft of P {piece}", DraftStore.Of(change.Db, piece));
                if (MarkRows.Of(change.Db, piece).Count >= MostMarks)
                    throw new BadInputException("at", $"{MostMarks} marks are enough for one piece; take some away first.");
                var (section, start) = ((int?)null, 0);
                var at = outline.Lead.Length;
                foreach (var one in outline.Sections)
                {
                    if (at > made.At)
                        break;
                    (section, start) = (one.Number!.Value.Value, at);
                    at += one.Part.Raw.Length;
                }
                MarkRows.Add(change.Db, piece, section, Math.Max(0, made.At - start));
                return Marks(change.Db, piece);
            }
        );
    }

    public Done<IReadOnlyList<MarkShown>> Unmark(PieceNumber piece, MarkNumber number, Once once) =>
        papers.Run(
            $"took a mark from P {piece}",
            once,
            change =>
            {
                // A save moves marks along, so taking one away has its place among the saves.
                change.OnPiece = piece;
                if (change.Db.Execute("DELETE FROM piece_mark WHERE piece = @piece AND number = @number", new { piece, number }) == 0)
                    throw new NotThereException($"mark {number} in P {piece}");
                return Marks(change.Db, piece);
            }
        );
}
