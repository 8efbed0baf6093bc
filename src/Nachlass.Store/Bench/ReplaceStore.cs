using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>What is looked for, and where.</summary>
/// <param name="Piece">The piece.</param>
/// <param name="Section">Only in this section of it.</param>
/// <param name="Series">In all pieces of its series.</param>
public sealed record ReplaceAsked(
    PieceNumber? Piece,
    string? Find,
    string? With = null,
    SoughtAs As = SoughtAs.Plain,
    bool MatchCase = false,
    SectionNumber? Section = null,
    bool Series = false
);

/// <summary>A place as it is shown before anything is changed.</summary>
/// <param name="Nth">Which one of its piece, from 0.</param>
/// <param name="From">Where it begins in the draft, in UTF-16 units.</param>
/// <param name="Before">What stands before it.</param>
/// <param name="Found">What stands there.</param>
/// <param name="Becomes">What would stand there.</param>
/// <param name="After">What stands behind it.</param>
public sealed record PlaceShown(int Nth, int From, int To, string Before, string Found, string Becomes, string After);

/// <summary>The places in one piece.</summary>
/// <param name="Version">Of its draft.</param>
public sealed record PlacesInPiece(PieceNumber Piece, string Title, int Version, IReadOnlyList<PlaceShown> Places);

/// <summary>The places that are replaced in one piece.</summary>
/// <param name="Version">Of the draft they were found in.</param>
/// <param name="Places">Which ones, from 0.</param>
public sealed record PlacesChosen(PieceNumber? Piece, int? Version, IReadOnlyList<int>? Places);

/// <summary>Places to be replaced, as one step.</summary>
public sealed record Replacement(ReplaceAsked? Asked, IReadOnlyList<PlacesChosen>? Chosen);

/// <summary>What was replaced.</summary>
public sealed record Replaced(int Places, IReadOnlyList<PieceNumber> Pieces);

/// <summary>Finds and replaces in drafts; nothing is changed that was not shown.</summary>
public sealed class ReplaceStore(PapersFile papers)
{
    private const int Around = 40,
        MostPieces = 500;

    /// <summary>Where it stands, and what would become of it.</summary>
    public IReadOnlyList<PlacesInPiece> Preview(ReplaceAsked asked)
    {
        var sought = Sought(asked);
        return papers.Read(db =>
            (IReadOnlyList<PlacesInPiece>)
                [
                    .. Pieces(db, asked)
                        .Select(number =>
                        {
                            var (outline, version, _) = DraftRows.Read(db, number);
                            var text = outline.Text;
                            return new PlacesInPiece(
                                number,
                                PieceRows.Get(db, number).Title,
                                version,
                                [.. Found(outline, sought, asked.Section).Select((p, i) => Shown(text, p, i))]
                            );
                        })
                        .Where(p => p.Places.Count > 0),
                ]
        );
    }

    private static Sought Sought(ReplaceAsked asked) =>
        new(
            // What is looked for may begin and end with spaces.
            string.IsNullOrEmpty(asked.Find)
                ? throw new BadInputException("find", "Write what is looked for.")
                : Check.Length("find", asked.Find, Replacing.LongestSought),
            Check.Length("with", asked.With, Replacing.LongestWith),
            asked.As,
            asked.MatchCase
        );

    private static IReadOnlyList<PieceNumber> Pieces(SqliteConnection db, ReplaceAsked asked)
    {
        var piece = asked.Piece ?? throw new BadInputException("piece", "Name the piece.");
        PieceRows.Get(db, piece);
        return asked.Series && SeriesRows.Of(db, piece) is { } series ? SeriesRows.Pieces(db, series.Number) : [piece];
    }

    private static IEnumerable<FoundPlace> Found(Outline outline, Sought sought, SectionNumber? section)
    {
        var places = Replacing.In(outline.Text, sought);
        if (section is null)
            return places;
        var at = outline.Lead.Length;
        foreach (var one in outline.Sections)
        {
            var end = at + one.Part.Raw.Length;
            if (one.Number == section)
                return places.Where(p => p.From >= at && p.To <= end);
            at = end;
        }
        throw new BadInputException("section", $"There is no section {section} any more.");
    }

    private static PlaceShown Shown(string text, FoundPlace place, int nth)
    {
        var from = Math.Max(0, place.From - Around);
        var to = Math.Min(text.Length, place.To + Around);
        return new PlaceShown(
            nth,
            place.From,
            place.To,
            Line((from > 0 ? "…" : "") + text[from..place.From]),
            text[place.From..place.To],
            place.Becomes,
            Line(text[place.To..to] + (to < text.Length ? "…" : ""))
        );
    }

    private static string Line(string text) => PlainText.Cleaned(text).ReplaceLineEndings(" ");

    /// <summary>Replaces the places that were chosen, in all their pieces as one step.</summary>
    /// <exception cref="StaleException">A draft was changed since its places were shown.</exception>
    public Done<Replaced> Replace(Replacement replacement, Once once)
    {
        var asked = replacement.Asked ?? throw new BadInputException("asked", "Say what is looked for.");
        var chosen = replacement.Chosen ?? throw new BadInputException("chosen", "Choose the places.");
        if (chosen.Count > MostPieces)
            throw new BadInputException("chosen", $"{MostPieces} pieces at most at once.");
        var sought = Sought(asked);
        return papers.Run(
            $"replaced “{asked.Find}”",
            once,
            change =>
            {
                var all = Pieces(change.Db, asked).ToHashSet();
                var pieces = new List<PieceNumber>();
                var count = 0;
                foreach (var of in chosen)
                {
                    var piece = of.Piece ?? throw new BadInputException("chosen", "Name the piece of the places.");
                    if (!all.Contains(piece))
                        throw new BadInputException("chosen", $"P {piece} is not among the pieces that were looked through.");
                    var (outline, version, _) = DraftRows.Read(change.Db, piece);
                    if (version != Check.Version(of.Version))
                        throw new StaleException($"The draft of P {piece}", DraftStore.Of(change.Db, piece));
                    var wanted = (of.Places ?? []).ToHashSet();
                    var places = Found(outline, sought, asked.Section).Where((_, i) => wanted.Contains(i)).ToList();
                    if (places.Count == 0)
                        continue;
                    count += places.Count;
                    pieces.Add(piece);
                    DraftRows.Write(change, piece, outline.Rewrite(Replacing.Made(outline.Text, places), null));
                }
                if (pieces is [var only])
                    change.OnPiece = only;
                var times = count == 1 ? "once" : $"{count} times";
                change.What = $"replaced “{asked.Find}” {times} in {string.Join(", ", pieces.Select(p => $"P {p}"))}";
                return new Replaced(count, pieces);
            }
        );
    }
}
