using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>A place that names a thing without linking to it.</summary>
public sealed record Unlinked(Reference In, string Title, string Sentence);

/// <summary>A name that can stand between double brackets.</summary>
/// <param name="Write">What is written there.</param>
/// <param name="Title">What it is called; a section's heading.</param>
/// <param name="Part">The section's heading; empty for the whole.</param>
public sealed record LinkOffer(Reference Thing, string Write, string Title, string Part = "");

/// <summary>Links that could be.</summary>
public sealed class MentionStore(PapersFile papers)
{
    private const int Most = 50,
        MostOffered = 8;

    /// <summary>The places that name a thing, or a section of it, without a link.</summary>
    /// <param name="thing">The thing.</param>
    /// <param name="section">The heading of a section; empty for the whole.</param>
    public IReadOnlyList<Unlinked> Of(Reference thing, string section = "") =>
        papers.Read<IReadOnlyList<Unlinked>>(db =>
        {
            var names = Links.WordsFor(db, thing, section);
            return
            [
                .. names
                    .SelectMany(name => Renaming.Holding(db, name))
                    .Distinct()
                    .Where(place => place != thing && IsInSight(db, place))
                    .SelectMany(place =>
                        Renaming
                            .TextsOf(db, place)
                            .Select(text => (place, text, Mention: Mentions.In(text, names) is [var first, ..] ? first : null))
                    )
                    .Where(found => found.Mention is not null && !IsLinked(db, found.text, thing, section))
                    .DistinctBy(found => found.place)
                    .Take(Most)
                    .Select(found => new Unlinked(
                        found.place,
                        Links.TitleOf(db, found.place) ?? "",
                        PlainText.WithReferences(References.LineAround(found.text, found.Mention!.Start, found.Mention.Length))
                    )),
            ];
        });

    /// <summary>Where the links in a thing's texts lead, and what has become of it.</summary>
    public IReadOnlyList<LinkOut> From(Reference thing) =>
        papers.Read(db => Links.From(db, string.Join('\n', Renaming.TextsOf(db, thing))));

    /// <summary>Makes the first place in a text that names a thing, or a section of it, a link.</summary>
    public Done<Unlinked> Link(Reference thing, string section, Reference place, Once once) =>
        papers.Run(
            "made a link",
            once,
            change =>
            {
                var names = Links.WordsFor(change.Db, thing, section);
                // A slip and a section are known by number; the words themselves would lead nowhere.
                var behind =
                    section.Length > 0 ? $"{thing}, {section}"
                    : thing.Kind == ThingKind.Slip ? thing.ToString()
                    : null;
                var isDone = false;
                Renaming.Rewrite(
                    change,
                    place,
                    text =>
                    {
                        // The words of a section stay in sight before its link; a second press must not link them twice.
                        if (isDone || IsLinked(change.Db, text, thing, section) || Mentions.Link(text, names, behind) is not { } linked)
                            return text;
                        isDone = true;
                        return linked;
                    }
                );
                if (!isDone)
                    throw new ClashException($"{place} does not name it any more.");
                var title = Links.TitleOf(change.Db, place) ?? "";
                change.What = $"linked {place} to {(section.Length > 0 ? section : Links.TitleOf(change.Db, thing))}";
                return new Unlinked(place, title, "");
            }
        );

    /// <summary>What could stand between double brackets, from what was begun there.</summary>
    public IReadOnlyList<LinkOffer> Offers(string? typed) =>
        papers.Read<IReadOnlyList<LinkOffer>>(db =>
        {
            var begun = (typed ?? "").Trim();
            // Behind a comma a section of what stands before it is meant, once that is a piece or source.
            foreach (var (name, part) in References.WithPart(begun.EndsWith(',') ? begun + " \0" : begun))
                if (
                    (
                        References.Read(name).Thing
                        ?? (int.TryParse(name, out var p) ? new Reference(ThingKind.Piece, p) : Links.Named(db, name))
                    ) is
                    { Kind: ThingKind.Piece or ThingKind.Source } thing
                )
                    return [.. Sections(db, thing, part.Trim('\0')).Take(MostOffered * 2)];
            var number =
                References.Read(begun).Thing is { } exact ? exact.Number
                : int.TryParse(begun, out var n) ? n
                : 0;
            var rows = db.Query<(string Kind, int Number, string Title)>(
                    """
                    SELECT * FROM (SELECT 'topic', number, name FROM topic
                        WHERE merged_into IS NULL AND (instr(lower(name), lower(@begun)) > 0 OR number IN (SELECT topic
                        FROM topic_alias WHERE instr(lower(name), lower(@begun)) > 0))
                        ORDER BY instr(lower(name), lower(@begun)), lower(name) LIMIT @MostOffered)
                    UNION ALL SELECT * FROM (SELECT 'piece', number, title FROM piece
                        WHERE trashed_at IS NULL AND (number = @number OR instr(lower(title), lower(@begun)) > 0)
                        ORDER BY number <> @number, changed_at DESC LIMIT @MostOffered)
                    UNION ALL SELECT * FROM (SELECT 'source', number, title FROM source
                        WHERE trashed_at IS NULL AND (number = @number OR instr(lower(title), lower(@begun)) > 0)
                        ORDER BY number <> @number, caught_at DESC LIMIT @MostOffered)
                    UNION ALL SELECT 'slip', number, substr(text, 1, 200) FROM slip WHERE number = @number
                    """,
                    new
                    {
                        begun,
                        number,
                        MostOffered,
                    }
                )
                .Select(r => (Thing: new Reference(Enum.Parse<ThingKind>(r.Kind, true), r.Number), r.Title))
                .ToList();
            // Slips have no titles; they are offered by their words.
            if (begun.Length >= 3 && number == 0)
            {
                var asked = Asked.Typed(db, papers, string.Join(' ', Stems.Of(begun).Select(s => s.Word)));
                if (asked.Match.Length > 0)
                    rows.AddRange(
                        db.Query<(int Number, string Text)>(
                                "SELECT number, substr(text, 1, 200) FROM slip "
                                    + "WHERE number IN (SELECT rowid / 8 FROM finding "
                                    + "WHERE finding MATCH @Match AND rowid % 8 = 0 ORDER BY rank LIMIT 5) AND state <> 'dropped'",
                                asked.Arguments
                            )
                            .Select(s => (new Reference(ThingKind.Slip, s.Number), s.Text))
                    );
            }
            var whole = rows.DistinctBy(r => r.Thing)
                .Select(r => new LinkOffer(
                    r.Thing,
                    Written(r.Thing, r.Title),
                    r.Thing.Kind == ThingKind.Slip ? PlainText.Headline(r.Title, 80) : r.Title
                ));
            return [.. whole.Concat(begun.Length >= 3 && number == 0 ? Sections(db, begun) : []).Take(MostOffered * 2)];
        });

    /// <summary>The sections of a thing whose heading has what was begun.</summary>
    private static IEnumerable<LinkOffer> Sections(SqliteConnection db, Reference whole, string begun) =>
        Links
            .SectionsOf(db, whole)
            .Where(heading =>
                heading.Contains(begun, StringComparison.OrdinalIgnoreCase)
                && heading.Length is > 0 and < 200
                && !heading.AsSpan().ContainsAny("[]")
            )
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Select(heading => new LinkOffer(whole, $"{whole}, {heading}", heading, heading));

    /// <summary>Sections anywhere by the words of their heading.</summary>
    private List<LinkOffer> Sections(SqliteConnection db, string begun)
    {
        var asked = Asked.Typed(db, papers, string.Join(' ', Stems.Of(begun).Select(s => s.Word)));
        if (asked.Match.Length == 0)
            return [];
        var holding = db.Query<long>(
            "SELECT rowid FROM finding WHERE finding MATCH @Match AND rowid % 8 IN (1, 2) ORDER BY rank LIMIT 12",
            asked.Arguments
        );
        return [.. holding.SelectMany(row => Sections(db, new Reference((ThingKind)(row % 8), (int)(row / 8)), begun)).Take(MostOffered)];
    }

    /// <summary>By name, where the name can stand between brackets and leads there; by number otherwise.</summary>
    private static string Written(Reference thing, string title) =>
        thing.Kind == ThingKind.Slip || title.AsSpan().ContainsAny("[]\n") || References.Read(title).Thing is not null
            ? thing.ToString()
            : title;

    private static bool IsLinked(SqliteConnection db, string text, Reference thing, string section) =>
        References
            .In(text)
            .Any(r =>
                Links.Target(db, r) is var (to, part)
                && to == thing
                && (section.Length == 0 || part.Equals(section, StringComparison.OrdinalIgnoreCase))
            );

    private static bool IsInSight(SqliteConnection db, Reference place) =>
        place.Kind switch
        {
            ThingKind.Slip => db.ExecuteScalar<int>(
                "SELECT count(*) FROM slip WHERE number = @Number AND state <> 'dropped'",
                new { place.Number }
            ) > 0,
            ThingKind.Source or ThingKind.Piece => db.ExecuteScalar<int>(
                $"SELECT count(*) FROM {place.Kind.Kept()} WHERE number = @Number AND trashed_at IS NULL",
                new { place.Number }
            ) > 0,
            _ => true,
        };
}
