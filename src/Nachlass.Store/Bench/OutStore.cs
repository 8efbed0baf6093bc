using System.Globalization;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>What of a piece goes out, and how; whole and as it stands when nothing is said.</summary>
/// <param name="Sections">Only these, with those inside them; all when null.</param>
/// <param name="Citing">How it says where it has things from; as the piece has it when null.</param>
/// <param name="SideTexts">Keys of side texts that follow the draft, each under its name.</param>
/// <param name="Side">Key of a side text that goes out by itself, instead of the draft.</param>
public sealed record OutAsked(
    bool WithTitle = true,
    HeadingsAs Headings = HeadingsAs.Kept,
    IReadOnlyList<SectionNumber>? Sections = null,
    Citing? Citing = null,
    IReadOnlyList<string>? SideTexts = null,
    string? Side = null
)
{
    /// <summary>Where a piece can be read that is referred to; where it says nothing, an address of its releases is taken.</summary>
    public Func<PieceNumber, string?> PageOf { get; init; } = _ => null;
}

/// <summary>A picture that stands in a draft, with what is said under it.</summary>
/// <param name="Attachment">The file; null when it lies elsewhere.</param>
public sealed record PictureUsed(string Address, string Shows, string Caption, string Credit, Attachment? Attachment, int At);

/// <summary>A work that a draft refers to, as it is cited.</summary>
public sealed record WorkUsed(SourceNumber Source, string Line);

/// <summary>Captions, credits and works of what a draft really uses.</summary>
/// <param name="Text">All of it as a text that can stand beside the draft.</param>
public sealed record CreditsUsed(IReadOnlyList<PictureUsed> Pictures, IReadOnlyList<WorkUsed> Works, string Text);

/// <summary>Finished texts, and what is to be known before they go out.</summary>
public sealed class OutStore(PapersFile papers)
{
    /// <summary>A piece as it goes out, with the slips it stands for written out.</summary>
    public string Finished(PieceNumber number, OutAsked? asked = null) => papers.Read(db => Finished(db, number, asked));

    /// <inheritdoc cref="Finished(PieceNumber, OutAsked)"/>
    internal static string Finished(SqliteConnection db, PieceNumber number, OutAsked? asked = null)
    {
        asked ??= new OutAsked();
        var piece = PieceRows.Get(db, number);
        var format = FormatRows.Named(db, piece.Format);
        var how = How(db, piece, asked);
        if (asked.Side is { } only)
        {
            var side = SideTextRows.Find(db, number, only) ?? throw new NotThereException($"side text {only}");
            return Written(Whole(db, number, side.Text), how with { Citing = Citing.None, WithTitle = false, Sections = null });
        }
        var outline = DraftRows.Read(db, number).Outline;
        var text = Whole(db, number, outline.Text);
        if (asked.Sections is { } sections)
        {
            var at = outline.Sections.Select((s, i) => (s.Number!.Value, i)).ToDictionary(s => s.Value, s => s.i);
            how = how with
            {
                Sections = sections
                    .Select(s =>
                        at.TryGetValue(s, out var i) ? i : throw new BadInputException("sections", $"There is no section {s} in it.")
                    )
                    .ToHashSet(),
            };
        }
        var written = Written(text, how);
        foreach (var key in asked.SideTexts ?? [])
        {
            var side = SideTextRows.Find(db, number, key) ?? throw new NotThereException($"side text {key}");
            var name = format.SideTexts.FirstOrDefault(t => t.Key == key)?.Name ?? key.Replace('_', ' ');
            var beside = Written(Whole(db, number, side.Text), how with { Citing = Citing.None, WithTitle = false, Sections = null });
            written = $"{written.TrimEnd()}\n\n## {name}\n\n{beside}";
        }
        return written;

        string Written(string draft, FinishedAs asking) =>
            Core.Bench.Finished.Markdown(piece.Title, format, draft, thing => Links.TitleOf(db, thing), asking);
    }

    /// <summary>A text with the slips and standing texts it stands for.</summary>
    private static string Whole(SqliteConnection db, PieceNumber piece, string text) =>
        StandingTextRows.Filled(db, piece, Links.WrittenOut(db, text));

    private static FinishedAs How(SqliteConnection db, Piece piece, OutAsked asked) =>
        new()
        {
            WithTitle = asked.WithTitle,
            Headings = asked.Headings,
            Citing = asked.Citing ?? piece.Citing,
            Language = Languages.Named(piece.Language),
            Work = WorkOf(db),
            AddressOf = thing =>
                thing.Kind == ThingKind.Piece
                    ? asked.PageOf(PieceNumber.Of(thing.Number)) ?? ReleaseRows.AddressOf(db, PieceNumber.Of(thing.Number), piece.Outlet)
                    : null,
        };

    /// <summary>The work that a reference is to: a source, with what stands behind the comma as the place in it, or the source that a slip
    /// comes out of, with the slip's place.</summary>
    internal static Func<TextReference, CitedWork?> WorkOf(SqliteConnection db)
    {
        var known = new Dictionary<(Reference, string), CitedWork?>();
        return reference =>
        {
            if (reference.Thing is not { Kind: ThingKind.Source or ThingKind.Slip } named)
                return null;
            var key = (named, reference.Part);
            if (!known.TryGetValue(key, out var work))
                known[key] = work = Find(reference, named);
            return work;
        };

        CitedWork? Find(TextReference reference, Reference thing)
        {
            if (thing.Kind == ThingKind.Source)
                return Source(thing.Number) is { } named ? new CitedWork(named, reference.Part) : null;
            if (
                thing.Kind != ThingKind.Slip
                || SlipRows.All(db, [thing.Number]).GetValueOrDefault(thing.Number) is not { Source: { } from } slip
            )
                return null;
            return Source(from.Value) is { } source ? new CitedWork(source, slip.Locator) : null;

            Core.Sources.Source? Source(int number) => SourceRows.All(db, [number]).GetValueOrDefault(number);
        }
    }

    /// <summary>What a writer should know before the piece goes out.</summary>
    public IReadOnlyList<BeforeOutNote> BeforeOut(PieceNumber number) =>
        papers.Read(db =>
        {
            var piece = PieceRows.Get(db, number);
            var format = FormatRows.Named(db, piece.Format);
            var work = WorkOf(db);
            var questions = FindOutStore.Of(db, number).Where(q => !q.IsSettled).Select(q => q.Slip?.Text ?? q.Move?.Text ?? "");
            return Core.Bench.BeforeOut.Of(
                DraftRows.Read(db, number).Outline.Text,
                new BeforeOutFacts
                {
                    Named = thing => Links.TitleOf(db, thing),
                    CreditOf = address => PictureOf(db, number, address)?.Credit,
                    IsCited = piece.Citing == Citing.None ? _ => false : reference => work(reference) is not null,
                    Limits = format.Limits,
                    OpenQuestions = [.. questions.Where(q => q.Length > 0)],
                    SideTexts =
                    [
                        .. format
                            .SideTexts.Where(t => t.Limit is not null)
                            .Select(t => (t.Name, Measure.Of(SideTextRows.Find(db, number, t.Key)?.Text ?? "", t.Limit!, format.Limits))),
                    ],
                }
            );
        });

    /// <summary>The pictures and works that a piece really uses, with what is said of them.</summary>
    public CreditsUsed Credits(PieceNumber number) =>
        papers.Read(db =>
        {
            PieceRows.Get(db, number);
            var draft = DraftRows.Read(db, number).Outline.Text;
            var pictures = PicturesInText
                .In(draft)
                .Select(p =>
                {
                    var file = PictureOf(db, number, p.Address);
                    return new PictureUsed(p.Address, p.Shows, p.Caption, file?.Credit ?? "", file, p.From);
                })
                .ToList();
            var work = WorkOf(db);
            var works = Core
                .Sources.Bibliography.Of(
                    References.In(Whole(db, number, draft)).Select(work).OfType<CitedWork>().Select(w => w.Source).DistinctBy(s => s.Number)
                )
                .Select(w => new WorkUsed(w.Source.Number, w.Line))
                .ToList();
            var text = string.Join(
                "\n\n",
                pictures
                    .Select(
                        (p, at) =>
                            $"{at + 1}. {string.Join(" ", new[] { Sentence(p.Caption), Sentence(p.Credit) }.Where(w => w.Length > 0))}"
                    )
                    .Where(line => line.Contains(". ", StringComparison.Ordinal) && line.Length > 4)
                    .Concat(works.Select(w => "- " + w.Line))
            );
            return new CreditsUsed(pictures, works, text);
        });

    private static string Sentence(string words) => words.Length == 0 || words[^1] is '.' or '!' or '?' or '…' ? words : words + ".";

    /// <summary>The picture of these papers at an address in a text: by its number, or a piece's own by the name of its file.</summary>
    internal static Attachment? PictureOf(SqliteConnection db, PieceNumber piece, string address)
    {
        var path = Uri.UnescapeDataString(address);
        if (path.Contains("://", StringComparison.Ordinal))
            return null;
        var found = path.Split('/') is ["", "api", "attachments", var written, "content"]
            ? int.TryParse(written, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                ? AttachmentStore.FindIn(db, AttachmentNumber.Of(number))
                : null
            : AttachmentStore
                .Of(db, Reference.To(piece))
                .FirstOrDefault(a => a.Name.Equals(path.Split('/')[^1], StringComparison.OrdinalIgnoreCase));
        return found is { IsPicture: true } ? found : null;
    }

    /// <inheritdoc cref="PictureOf(SqliteConnection, PieceNumber, string)"/>
    public Attachment? PictureOf(PieceNumber piece, string address) => papers.Read(db => PictureOf(db, piece, address));

    /// <summary>A draft looked over for what its writer may want to see again.</summary>
    public CheckedDraft Check(PieceNumber number, IReadOnlySet<CheckKind> without) =>
        papers.Read(db =>
        {
            var piece = PieceRows.Get(db, number);
            return DraftCheck.Of(DraftRows.Read(db, number).Outline.Text, Languages.Named(piece.Language), without);
        });
}
