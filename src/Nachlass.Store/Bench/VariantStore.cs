using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>A title made of a piece's own words, and how it looks beside others.</summary>
public sealed record TitleVariant(string Text, string Shape, string Where, TitleLook Look);

/// <summary>Titles and openings made of a piece's own words. Nothing is changed by looking at them.</summary>
public sealed record VariantsShown(PieceNumber Piece, IReadOnlyList<TitleVariant> Titles, IReadOnlyList<Variant> Openings);

/// <summary>Finds titles and openings in what a piece has of words: its draft, and the slips that lie beside it.</summary>
public sealed class VariantStore(PapersFile papers, Nearby nearby)
{
    /// <summary>How many of the slips beside a piece are read, and how much of a draft.</summary>
    private const int MostSlips = 60,
        MostSections = 200;

    /// <exception cref="NotThereException">There is no such piece.</exception>
    public VariantsShown Of(PieceNumber number) =>
        papers.Read(db =>
        {
            var piece = PieceRows.Get(db, number);
            var outline = DraftRows.Read(db, number).Outline;
            var draft = outline
                .Sections.Take(MostSections)
                .Select(s => new OwnText(s.Title.Length > 0 ? s.Title : "the draft", s.Part.Body))
                .Prepend(new OwnText("the beginning", outline.Lead))
                .Where(t => !string.IsNullOrWhiteSpace(t.Text))
                .ToList();
            var beside = db.Query<(int Number, string Kind, string Text)>(
                    """
                    SELECT s.number, s.kind, s.text FROM material m JOIN slip s ON s.number = m.slip
                    WHERE m.piece = @number AND s.state <> 'dropped' ORDER BY m.position LIMIT @MostSlips
                    """,
                    new { number, MostSlips }
                )
                .Select(s => new OwnText($"slip {s.Number}", s.Text, s.Kind == "quote"))
                .ToList();
            var own = new OwnWords(
                piece.Title,
                [.. outline.Sections.Select(s => PlainText.Of(s.Title).Trim()).Where(t => t.Length > 0)],
                draft,
                beside,
                Terms([.. draft, .. beside]),
                nearby.Rarity
            );
            var places = FormatRows.Named(db, piece.Format).TitlePlaces;
            var earlier = TitleStore.Earlier(db, number);
            var kept = TitleStore.Rows(db, number).Select(t => t.Text).ToHashSet(StringComparer.OrdinalIgnoreCase);
            return new VariantsShown(
                number,
                [
                    .. TitleVariants
                        .Of(own)
                        .Where(v => !kept.Contains(v.Text))
                        .Select(v => new TitleVariant(v.Text, v.Shape, v.Where, TitleLook.Of(v.Text, places, earlier))),
                ],
                OpeningVariants.Of(own)
            );
        });

    /// <summary>What the paragraphs of a piece say more than all other papers do.</summary>
    private IReadOnlyList<CharacteristicTerm> Terms(IReadOnlyList<OwnText> texts)
    {
        var paragraphs = texts
            .SelectMany(t => Paragraphs.Of(t.Text))
            // Each paragraph counts as a text; by which number is told to nobody.
            .Select((text, at) => (new Reference(ThingKind.Slip, at + 1), text))
            .ToList();
        return CharacteristicTerms.Of(paragraphs, nearby.Holders, nearby.Count + paragraphs.Count, new TermWords());
    }
}
