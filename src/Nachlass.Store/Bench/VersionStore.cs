using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A version in the list of a piece's versions.</summary>
/// <param name="Number">Null for the draft as it is now.</param>
/// <param name="More">Words more than in the one before; fewer when negative.</param>
/// <param name="Sections">Titles of the sections that are not as they were in the one before.</param>
public sealed record VersionShown(
    VersionNumber? Number,
    DateTimeOffset At,
    VersionWhy Why,
    string Name,
    int Words,
    int More,
    IReadOnlyList<string> Sections
);

/// <summary>What two versions differ in.</summary>
/// <param name="Draft">The version of the draft, when it is the draft as it is now that is compared.</param>
/// <param name="Sections">Titles of the old one's sections, in order.</param>
public sealed record ComparedVersions(
    VersionShown Old,
    VersionShown New,
    int? Draft,
    IReadOnlyList<string> Sections,
    Comparison Comparison
);

/// <summary>A version, or another name for it; an empty one takes its name away.</summary>
public sealed record VersionName(string? Name);

/// <summary>What of a version is taken back.</summary>
/// <param name="Version">The version of the draft it goes into.</param>
/// <param name="Section">One of its sections, counted from 0.</param>
/// <param name="Paragraphs">Some paragraphs, by their places in the comparison with the draft; all of it when neither is named.</param>
public sealed record VersionTaken(int? Version, int? Section = null, IReadOnlyList<int>? Paragraphs = null);

/// <summary>A draft as it stood before: kept by itself and by name, compared, and taken back whole or in part.</summary>
public sealed class VersionStore(PapersFile papers)
{
    /// <summary>So many changed sections are named in the list.</summary>
    private const int MostNamed = 4;

    /// <summary>The draft as it is now and its versions, the newest first.</summary>
    public IReadOnlyList<VersionShown> List(PieceNumber piece) =>
        papers.Read(db =>
        {
            var all = VersionRows.Of(db, piece).Prepend(Now(db, piece).Draft).ToList();
            return (IReadOnlyList<VersionShown>)[.. all.Select((v, at) => Shown(v, at + 1 < all.Count ? all[at + 1].Text : null))];
        });

    public DraftVersion Get(PieceNumber piece, VersionNumber number) => papers.Read(db => VersionRows.Get(db, piece, number));

    /// <summary>Lays two versions beside each other.</summary>
    /// <param name="old">The one.</param>
    /// <param name="now">The other; the draft as it is now when null.</param>
    public ComparedVersions Against(PieceNumber piece, VersionNumber old, VersionNumber? now) =>
        papers.Read(db =>
        {
            var one = VersionRows.Get(db, piece, old);
            var (draft, version) = Now(db, piece);
            var other = now is { } number ? VersionRows.Get(db, piece, number) : draft;
            return new ComparedVersions(
                Shown(one, null),
                Shown(other, one.Text),
                now is null ? version : null,
                [.. DraftText.Split(one.Text).Parts.Select(p => p.Title)],
                Comparison.Of(one.Text, other.Text)
            );
        });

    /// <summary>Keeps the draft as it is now under a name.</summary>
    public Done<IReadOnlyList<VersionShown>> Keep(PieceNumber piece, VersionName named, Once once)
    {
        var name = Check.Text("name", named.Name, DraftVersion.LongestName);
        return Changed(
            piece,
            once,
            change =>
            {
                var text = DraftRows.Read(change.Db, piece).Outline.Text;
                if (VersionRows.Keep(change, piece, text, change.Now, VersionWhy.Named, name) is null)
                    throw new BadInputException("name", "There is nothing in the draft yet that could be kept.");
                return $"kept a version of P {piece} as “{name}”";
            }
        );
    }

    /// <summary>Gives a version a name, under which it stays for good, or takes its name away.</summary>
    public Done<IReadOnlyList<VersionShown>> Rename(PieceNumber piece, VersionNumber number, VersionName named, Once once)
    {
        var name = Check.Length("name", named.Name, DraftVersion.LongestName).Trim();
        return Changed(
            piece,
            once,
            change =>
            {
                VersionRows.Get(change.Db, piece, number);
                VersionRows.Name(change.Db, number, name);
                return name.Length == 0 ? $"took the name of a version of P {piece} away" : $"called a version of P {piece} “{name}”";
            }
        );
    }

    public Done<IReadOnlyList<VersionShown>> Remove(PieceNumber piece, VersionNumber number, Once once) =>
        Changed(
            piece,
            once,
            change =>
            {
                VersionRows.Get(change.Db, piece, number);
                VersionRows.Remove(change.Db, piece, [number]);
                return $"deleted a version of P {piece}";
            }
        );

    private Done<IReadOnlyList<VersionShown>> Changed(PieceNumber piece, Once once, Func<Change, string> act)
    {
        var done = papers.Run(
            $"changed the versions of P {piece}",
            once,
            change =>
            {
                change.What = act(change);
                return true;
            }
        );
        return new Done<IReadOnlyList<VersionShown>>(done.Command, List(piece));
    }

    /// <summary>Takes a version back, whole, a section or some paragraphs of it. The draft as it was is kept as a version first.</summary>
    /// <exception cref="StaleException">The draft was changed since it was compared; holds that draft.</exception>
    public Done<Draft> Take(PieceNumber piece, VersionNumber number, VersionTaken taken, Once once)
    {
        var based = Check.Version(taken.Version);
        return papers.Run(
            $"took a version of P {piece} back",
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                if (current != based)
                    throw new StaleException($"The draft of P {piece}", DraftStore.Of(change.Db, piece));
                var version = VersionRows.Get(change.Db, piece, number);
                var text = outline.Text;
                var next = version.Text;
                if (taken is { Section: not null } or { Paragraphs: not null })
                {
                    var comparison = Comparison.Of(version.Text, text);
                    var chosen = taken.Section is { } section ? comparison.OfSection(section) : taken.Paragraphs!;
                    if (chosen.Count == 0 || chosen.Any(at => at < 0 || at >= comparison.Paragraphs.Count))
                        throw new BadInputException(taken.Section is null ? "paragraphs" : "section", "There is no such place in it.");
                    next = comparison.With(chosen);
                    change.What = taken.Section is { } nth
                        ? $"took “{DraftText.Split(version.Text).Parts[nth].Title}” of a version of P {piece} back"
                        : $"took {(chosen.Count == 1 ? "a paragraph" : $"{chosen.Count} paragraphs")} of a version of P {piece} back";
                }
                change.OnPiece = piece;
                VersionRows.Keep(change, piece, text, change.Now, VersionWhy.Before, change.What);
                if (next != text)
                    DraftRows.Write(change, piece, outline.Rewrite(next));
                return DraftStore.Of(change.Db, piece);
            }
        );
    }

    private static (DraftVersion Draft, int Version) Now(SqliteConnection db, PieceNumber piece)
    {
        var (outline, version, changedAt) = DraftRows.Read(db, piece);
        return (new DraftVersion(default, changedAt, VersionWhy.Sitting, "", outline.Text), version);
    }

    private static VersionShown Shown(DraftVersion version, string? before)
    {
        var words = DraftText.Counted(version.Text).Words;
        return new VersionShown(
            version.Number.Value == 0 ? null : version.Number,
            version.At,
            version.Why,
            version.Name,
            words,
            before is null ? 0 : words - DraftText.Counted(before).Words,
            before is null ? [] : [.. VersionText.Changed(before, version.Text).Take(MostNamed)]
        );
    }
}
