using System.Globalization;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A place where titles are shown, and how many characters of one it shows.</summary>
public sealed record TitlePlace(string Name, int Most)
{
    /// <summary>Where titles are shown as a rule, for formats that say nothing of their own. Widths are in pixels there, so the counts are
    /// round figures for running text in common typefaces.</summary>
    public static readonly IReadOnlyList<TitlePlace> Usual =
    [
        new("a mail on a phone", 40),
        new("a list of search results", 60),
        new("a link that is passed on", 70),
    ];
}

/// <summary>A title as one place shows it.</summary>
/// <param name="Shown">What stands there.</param>
/// <param name="Cut">What is cut off; empty when all of it is shown.</param>
public sealed record TitleShown(string Place, int Most, string Shown, string Cut);

/// <summary>A word of a title that earlier titles had too.</summary>
public sealed record SharedWord(string Word, IReadOnlyList<EarlierTitle> Titles);

/// <summary>The title of another piece.</summary>
public sealed record EarlierTitle(PieceNumber Piece, string Title);

/// <summary>What can be said of a title beside others.</summary>
/// <param name="Length">In characters as one sees them.</param>
/// <param name="Alike">Earlier titles that are too like it.</param>
public sealed record TitleLook(
    int Length,
    IReadOnlyList<TitleShown> Places,
    IReadOnlyList<SharedWord> Shared,
    IReadOnlyList<EarlierTitle> Alike
)
{
    public const int Longest = Piece.LongestTitle;

    /// <summary>Two titles are too like each other when so much of all their words is in both (Jaccard).</summary>
    public const double TooLike = 0.5;

    private const int MostTitles = 5;

    public static TitleLook Of(string title, IReadOnlyList<TitlePlace> places, IReadOnlyList<EarlierTitle> earlier)
    {
        var length = new StringInfo(title).LengthInTextElements;
        var stems = Stems.Of(title).DistinctBy(s => s.Root).ToList();
        var others = earlier.Select(e => (Title: e, Roots: Stems.Of(e.Title).Select(s => s.Root).ToHashSet())).ToList();
        var shared = stems
            .Select(stem => new SharedWord(
                stem.Word,
                [.. others.Where(o => o.Roots.Contains(stem.Root)).Select(o => o.Title).Take(MostTitles)]
            ))
            .Where(s => s.Titles.Count > 0);
        var alike = others
            .Where(o =>
                stems.Count(s => o.Roots.Contains(s.Root)) is var both and > 0
                && both / (double)(stems.Count + o.Roots.Count - both) >= TooLike
            )
            .Select(o => o.Title);
        return new TitleLook(
            length,
            [
                .. (places.Count > 0 ? places : TitlePlace.Usual).Select(p =>
                    length <= p.Most
                        ? new TitleShown(p.Name, p.Most, title, "")
                        : new TitleShown(
                            p.Name,
                            p.Most,
                            new StringInfo(title).SubstringByTextElements(0, p.Most),
                            new StringInfo(title).SubstringByTextElements(p.Most)
                        )
                ),
            ],
            [.. shared],
            [.. alike.Take(MostTitles)]
        );
    }
}
