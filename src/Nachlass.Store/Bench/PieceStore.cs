using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Bench;

/// <summary>A piece to be started.</summary>
/// <param name="Slip">The idea it is begun from.</param>
/// <param name="Slips">Slips that come along as material.</param>
/// <param name="Sources">Sources that come along.</param>
/// <param name="Usable">A marked paragraph that it is begun with; it stands in its draft.</param>
/// <param name="From">The piece that it follows.</param>
/// <param name="Series">The series whose next piece it is.</param>
/// <param name="Due">The day it is to go out.</param>
/// <param name="Outlet">Where it is to go out.</param>
public sealed record NewPiece(
    string? Title,
    string? Format = null,
    string? Brief = null,
    SlipNumber? Slip = null,
    IReadOnlyList<string>? Topics = null,
    IReadOnlyList<SlipNumber>? Slips = null,
    IReadOnlyList<SourceNumber>? Sources = null,
    UsableNumber? Usable = null,
    PieceNumber? From = null,
    DateOnly? Due = null,
    SeriesNumber? Series = null,
    OutletNumber? Outlet = null,
    IReadOnlyList<string>? Titles = null
);

/// <summary>A change to a piece; what is not set stays.</summary>
public sealed record PieceChange
{
    public int? Version { get; init; }
    public string? Title { get; init; }
    public string? Brief { get; init; }
    public string? Stage { get; init; }

    /// <summary>Key of a format. The stage stays if the new format has it, else it starts at the first.</summary>
    public string? Format { get; init; }

    public Maybe<DateOnly?> Due { get; init; }

    /// <summary>Where it is to go out; one that takes its format.</summary>
    public Maybe<OutletNumber?> Outlet { get; init; }
    public IReadOnlyList<string>? Topics { get; init; }

    /// <summary>A BCP 47 tag of one of the languages there are.</summary>
    public string? Language { get; init; }

    public Citing? Citing { get; init; }

    /// <summary>Where it can be read, once it is out; empty for nowhere.</summary>
    public string? OutAddress { get; init; }

    /// <summary>The day it went out; of one that is at its last stage.</summary>
    public DateOnly? OutOn { get; init; }

    /// <summary>Words of the writer's own that hold whatever its stage.</summary>
    public IReadOnlyList<string>? States { get; init; }

    public bool? Trashed { get; init; }
}

/// <summary>A slip or source tied to a piece.</summary>
/// <param name="Section">Where it is placed; null while it is loose.</param>
/// <param name="Referred">Whether the draft refers to it.</param>
public sealed record Material(Slip? Slip, Source? Source, SectionNumber? Section, bool Referred);

/// <summary>What a piece has to draw on.</summary>
/// <param name="WouldFit">What reads like the piece and is not tied to it yet.</param>
public sealed record MaterialOnHand(PieceNumber Piece, IReadOnlyList<Material> Items, IReadOnlyList<Alike> WouldFit);

/// <summary>Reads and changes pieces and their material.</summary>
public sealed class PieceStore(PapersFile papers, HistoryStore history, AdviceStore advice, WorthStore worth)
{
    public const int MostFitting = 6;

    /// <summary>All pieces: those in hand by due date, then those that went out.</summary>
    public IReadOnlyList<Piece> List(bool trashed = false) =>
        papers.Read(db => PieceRows.List(db, trashed ? "p.trashed_at IS NOT NULL" : "p.trashed_at IS NULL", null));

    public Piece Get(PieceNumber number) => papers.Read(db => PieceRows.Get(db, number));

    public IReadOnlyList<HistoryLine> History(PieceNumber number) => history.Of(Reference.To(number));

    /// <summary>The places that link to a piece.</summary>
    public IReadOnlyList<LinkLine> LinkedFrom(PieceNumber number) =>
        papers.Read(db => Links.To(db, Reference.To(number), PieceRows.Get(db, number).Title));

    public Done<Piece> Start(NewPiece made, Once once)
    {
        Check.Text("title", made.Title, Piece.LongestTitle);
        Check.Length("brief", made.Brief, Source.LongestField);
        var stood = Stood(worth, made);
        return papers.Run(
            "started a piece",
            once,
            change =>
            {
                var piece = Begin(change, made, stood);
                change.What = $"started P {piece.Number} “{piece.Title}”";
                return piece;
            }
        );
    }

    /// <summary>What stands there as something is chosen; asked before anything changes.</summary>
    internal static Stood? Stood(WorthStore worth, NewPiece made) =>
        made.Slip is { } idea ? worth.Standing(idea.Value)
        : made.Usable is { } marked ? worth.Standing(-marked.Value)
        : null;

    /// <summary>Begins a piece with all that comes along.</summary>
    internal static Piece Begin(Change change, NewPiece made, Stood? stood)
    {
        var title = Check.Text("title", made.Title, Piece.LongestTitle);
        var brief = Check.Length("brief", made.Brief, Source.LongestField);
        var titles = (made.Titles ?? []).Select(TitleStore.Text).Distinct().Where(t => t != title).ToList();
        if (titles.Count > TitleStore.Most)
            throw new BadInputException("titles", $"{TitleStore.Most} titles are enough for one piece.");
        var formats = FormatRows.All(change.Db);
        var series = made.Series is { } of ? SeriesRows.Get(change.Db, of) : null;
        var key = made.Format ?? (series?.Format is { Length: > 0 } its ? its : null);
        var format = key is null ? formats.First : formats.Named(key);
        var piece = PieceRows.Start(change, title, format, brief, TopicRows.NumbersFor(change.Db, made.Topics ?? []), series);
        var slips = (made.Slips ?? []).Prepend(made.Slip ?? default).Where(s => s.Value > 0).Distinct().ToList();
        foreach (var thing in slips.Select(Reference.To).Concat((made.Sources ?? []).Select(Reference.To)))
            MaterialRows.Add(change, piece, thing, null);
        foreach (var slip in slips)
            MaterialRows.Settle(change, slip);
        if (made.Usable is { } usable)
            Usables.Into(change, piece, usable);
        if (made.From is { } follows)
            Follow(change, piece, follows);
        if (made.Due is { } due)
            change.Db.Execute("UPDATE piece SET due = @due WHERE number = @piece", new { due, piece });
        if (made.Outlet is { } outlet)
            PlanRows.PutOn(change.Db, piece, outlet);
        foreach (var beside in titles)
            TitleStore.Put(change.Db, piece, beside, "");
        ChoiceRows.Remember(change, stood, piece);
        return PieceRows.Get(change.Db, piece);
    }

    /// <summary>Says in its brief which piece it follows, where the writer has said nothing else.</summary>
    private static void Follow(Change change, PieceNumber piece, PieceNumber follows)
    {
        PieceRows.Get(change.Db, follows);
        ReuseRows.CameOf(change.Db, new CameOf(piece, follows, CameHow.Piece));
        change.Db.Execute(
            "UPDATE piece SET brief = @brief WHERE number = @piece AND brief = ''",
            new { piece, brief = $"after P {follows}" }
        );
    }

    public Done<Piece> Edit(PieceNumber number, PieceChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var title = edit.Title is null ? null : Check.Text("title", edit.Title, Piece.LongestTitle);
        Check.Length("brief", edit.Brief, Source.LongestField);
        var language = edit.Language is null
            ? null
            : Languages.Find(edit.Language)?.Tag
                ?? throw new BadInputException("language", $"The languages are {string.Join(", ", Languages.All.Select(l => l.Tag))}.");
        var address = edit.OutAddress is null ? null : Check.WebAddress("outAddress", edit.OutAddress);
        var states = edit.States is null ? null : StageRows.Checked(edit.States);
        if (edit.OutOn is { } day && !Check.IsDay(day))
            throw new BadInputException("outOn", "The day is in the years 1000 to 8999.");
        return papers.Run(
            $"changed P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                if (piece.Version != based)
                    throw new StaleException($"P {number}", piece);
                var format = FormatRows.Named(change.Db, edit.Format ?? piece.Format);
                var stage = edit.Stage ?? (format.Stages.Contains(piece.Stage) ? piece.Stage : format.Stages[0]);
                if (!format.Stages.Contains(stage))
                    throw new BadInputException("stage", $"The stages of {format.Name} are {string.Join(", ", format.Stages)}.");
                if (edit.Outlet is { IsSet: true, Value: { } to })
                    PlanRows.CheckTakes(change.Db, to, format.Key);
                if (edit.OutOn is not null && !format.IsOut(stage))
                    throw new BadInputException("outOn", $"It goes out when it comes to {format.Stages[^1]}.");
                if (stage != piece.Stage)
                    VersionRows.Keep(
                        change,
                        number,
                        DraftRows.Read(change.Db, number).Outline.Text,
                        change.Now,
                        VersionWhy.Stage,
                        $"as it left {piece.Stage}"
                    );
                change.Db.Execute(
                    """
                    UPDATE piece SET title = @title, brief = @brief, stage = @stage, format = @Key, due = @due, out_on = @outOn,
                        outlet = @outlet, out_address = @address, trashed_at = @trashed, language = @language, citing = @citing,
                        changed_at = @Now, version = version + 1 WHERE number = @number
                    """,
                    new
                    {
                        number,
                        title = title ?? piece.Title,
                        brief = edit.Brief?.Trim() ?? piece.Brief,
                        stage,
                        format.Key,
                        due = edit.Due.Or(piece.Due),
                        outlet = edit.Outlet.Or(piece.Outlet),
                        outOn = format.IsOut(stage) ? edit.OutOn ?? piece.OutOn ?? change.Today : (DateOnly?)null,
                        address = address ?? piece.OutAddress,
                        trashed = edit.Trashed switch
                        {
                            true => piece.TrashedAt ?? change.Now,
                            false => null,
                            _ => piece.TrashedAt,
                        },
                        language = language ?? piece.Language,
                        citing = (edit.Citing ?? piece.Citing).Kept(),
                        change.Now,
                    }
                );
                StageRows.Enter(change.Db, number, stage, change.Now);
                if (states is not null)
                    StageRows.SetStates(change.Db, number, states);
                if (format.IsOut(stage) != piece.OutOn is not null)
                    StandingTextRows.Freeze(change, number, format.IsOut(stage));
                if (edit.Topics is not null)
                    PieceRows.SetTopics(change.Db, number, TopicRows.NumbersFor(change.Db, edit.Topics));
                ReleaseRows.Follow(change.Db, piece);
                if (title is not null)
                    Renaming.Retitled(change, Reference.To(number), piece.Title, title);
                if (edit.Trashed is { } trash)
                    change.What = trash ? $"put P {number} into the trash" : $"took P {number} out of the trash";
                else if (stage != piece.Stage)
                    change.What = $"moved P {number} to {stage}";
                return PieceRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>A piece's material, and what else would fit it.</summary>
    public MaterialOnHand Material(PieceNumber number)
    {
        var (piece, items, text) = papers.Read(db =>
        {
            var piece = PieceRows.Get(db, number);
            var rows = db.Query<(int? Slip, int? Source, int? Section)>(
                    "SELECT slip, source, section FROM material WHERE piece = @number ORDER BY position",
                    new { number }
                )
                .ToList();
            var slips = SlipRows.All(db, [.. rows.Select(r => r.Slip).OfType<int>()]);
            var sources = SourceRows.All(db, [.. rows.Select(r => r.Source).OfType<int>()]);
            var text = db.ExecuteScalar<string>("SELECT text FROM draft WHERE piece = @number", new { number }) ?? "";
            var referred = References.In(text).Select(r => r.Thing).OfType<Reference>().ToHashSet();
            List<Material> items =
            [
                .. rows.Select(r => new Material(
                    r.Slip is { } s ? slips[s] : null,
                    r.Source is { } o ? sources[o] : null,
                    r.Section is { } n ? SectionNumber.Of(n) : null,
                    referred.Contains(
                        r.Slip is { } slip ? new Reference(ThingKind.Slip, slip) : new Reference(ThingKind.Source, r.Source ?? 0)
                    )
                )),
            ];
            return (piece, items, text);
        });
        var tied = items.Select(m => m.Slip is { } slip ? Reference.To(slip.Number) : Reference.To(m.Source!.Number)).ToHashSet();
        // What the writer has gathered says what the piece is about before a word of it is written.
        var about = string.Join(
            '\n',
            items.Select(m => m.Slip?.Text ?? m.Source!.Title).Prepend(text).Prepend(piece.Brief).Prepend(piece.Title)
        );
        var like = advice.Like(about, MostFitting * 2, thing => thing.Kind is ThingKind.Slip or ThingKind.Source && !tied.Contains(thing));
        return new MaterialOnHand(number, items, [.. like.Where(a => a.Note != "dropped").Take(MostFitting)]);
    }

    /// <summary>Ties a slip or source to a piece, places it in a section, or takes it out of its section again.</summary>
    public Done<bool> Place(PieceNumber number, Reference thing, SectionNumber? section, Once once) =>
        papers.Run(
            section is null ? $"laid {thing} beside P {number}" : $"placed {thing} in P {number}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, number);
                change.OnPiece = number;
                MaterialRows.Add(change, number, thing, section);
                if (thing.Kind == ThingKind.Slip)
                    MaterialRows.Settle(change, SlipNumber.Of(thing.Number));
                return true;
            }
        );

    /// <summary>Unties a slip or source from a piece; it stays in the library.</summary>
    public Done<bool> Untie(PieceNumber number, Reference thing, Once once) =>
        papers.Run(
            $"took {thing} away from P {number}",
            once,
            change =>
            {
                change.OnPiece = number;
                return MaterialRows.Remove(change.Db, number, thing) ? true : throw new NotThereException($"{thing} beside P {number}");
            }
        );
}
