using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Dapper;

namespace Nachlass.Store.Text;

/// <summary>A place that names a thing without linking to it.</summary>
public sealed record Unlinked(Reference In, string Title, string Sentence);

/// <summary>A name that can stand between double brackets.</summary>
/// <param name="Write">What is written there.</param>
/// <param name="Title">What it is called.</param>
public sealed record LinkOffer(Reference Thing, string Write, string Title);

/// <summary>Links that could be.</summary>
public sealed class MentionStore(PapersFile papers)
{
    private const int Most = 50, MostOffered = 8;

    /// <summary>The places that name a thing without a link.</summary>
    public IReadOnlyList<Unlinked> Of(Reference thing) => papers.Read<IReadOnlyList<Unlinked>>(db =>
    {
        var names = Links.NamesOf(db, thing);
        return [.. names.SelectMany(name => Renaming.Holding(db, name)).Distinct().Where(place => place != thing && IsInSight(db, place))
            .SelectMany(place => Renaming.TextsOf(db, place).Select(text => (place, text, Mention: Mentions.In(text, names) is [var first, ..] ? first : null)))
            .Where(found => found.Mention is not null && !IsLinked(found.text, thing, names)).DistinctBy(found => found.place).Take(Most)
            .Select(found => new Unlinked(found.place, Links.TitleOf(db, found.place) ?? "", PlainText.WithReferences(References.SentenceAround(found.text, found.Mention!.Start, found.Mention.Length))))];
    });

    /// <summary>Makes the first place in a text that names a thing a link.</summary>
    public Done<Unlinked> Link(Reference thing, Reference place, Once once) => papers.Run("made a link", once, change =>
    {
        var names = Links.NamesOf(change.Db, thing);
        var isDone = false;
        Renaming.Rewrite(change, place, text =>
        {
            if (isDone || Mentions.Link(text, names) is not { } linked) return text;
            isDone = true;
            return linked;
        });
        if (!isDone) throw new ClashException($"{place} does not name it any more.");
        var title = Links.TitleOf(change.Db, place) ?? "";
        change.What = $"linked {place} to {Links.TitleOf(change.Db, thing)}";
        return new Unlinked(place, title, "");
    });

    /// <summary>What could stand between double brackets, from what was begun there.</summary>
    public IReadOnlyList<LinkOffer> Offers(string? typed) => papers.Read<IReadOnlyList<LinkOffer>>(db =>
    {
        var begun = (typed ?? "").Trim();
        var number = References.Read(begun).Thing is { } exact ? exact.Number : int.TryParse(begun, out var n) ? n : 0;
        var rows = db.Query<(string Kind, int Number, string Title)>(
            """
            SELECT * FROM (SELECT 'topic', number, name FROM topic WHERE merged_into IS NULL AND (instr(lower(name), lower(@begun)) > 0 OR number IN (SELECT topic FROM topic_alias WHERE instr(lower(name), lower(@begun)) > 0)) ORDER BY instr(lower(name), lower(@begun)), lower(name) LIMIT @MostOffered)
            UNION ALL SELECT * FROM (SELECT 'piece', number, title FROM piece WHERE trashed_at IS NULL AND (number = @number OR instr(lower(title), lower(@begun)) > 0) ORDER BY number <> @number, changed_at DESC LIMIT @MostOffered)
            UNION ALL SELECT * FROM (SELECT 'source', number, title FROM source WHERE trashed_at IS NULL AND (number = @number OR instr(lower(title), lower(@begun)) > 0) ORDER BY number <> @number, caught_at DESC LIMIT @MostOffered)
            UNION ALL SELECT 'slip', number, substr(text, 1, 200) FROM slip WHERE number = @number
            """, new { begun, number, MostOffered }).Select(r => (Thing: new Reference(Enum.Parse<ThingKind>(r.Kind, true), r.Number), r.Title)).ToList();
        // Slips have no titles; they are offered by their words.
        if (begun.Length >= 3 && number == 0)
        {
            var asked = Asked.Typed(db, papers, string.Join(' ', Stems.Of(begun).Select(s => s.Word)));
            if (asked.Match.Length > 0)
                rows.AddRange(db.Query<(int Number, string Text)>("SELECT number, substr(text, 1, 200) FROM slip WHERE number IN (SELECT rowid / 8 FROM finding WHERE finding MATCH @Match AND rowid % 8 = 0 ORDER BY rank LIMIT 5) AND state <> 'dropped'", asked.Arguments)
                    .Select(s => (new Reference(ThingKind.Slip, s.Number), s.Text)));
        }
        return [.. rows.DistinctBy(r => r.Thing).Take(MostOffered * 2).Select(r => new LinkOffer(r.Thing, Written(r.Thing, r.Title), r.Thing.Kind == ThingKind.Slip ? PlainText.Headline(r.Title, 80) : r.Title))];
    });

    /// <summary>By name, where the name can stand between brackets and leads there; by number otherwise.</summary>
    private static string Written(Reference thing, string title) =>
        thing.Kind == ThingKind.Slip || title.AsSpan().ContainsAny("[]\n") || References.Read(title).Thing is not null ? thing.ToString() : title;

    private static bool IsLinked(string text, Reference thing, IReadOnlyList<string> names) =>
        References.In(text).Any(r => r.Thing == thing || (r.Thing is null && names.Contains(r.Name, StringComparer.OrdinalIgnoreCase)));

    private static bool IsInSight(SqliteConnection db, Reference place) => place.Kind switch
    {
        ThingKind.Slip => db.ExecuteScalar<int>("SELECT count(*) FROM slip WHERE number = @Number AND state <> 'dropped'", new { place.Number }) > 0,
        ThingKind.Source or ThingKind.Piece => db.ExecuteScalar<int>($"SELECT count(*) FROM {place.Kind.Kept()} WHERE number = @Number AND trashed_at IS NULL", new { place.Number }) > 0,
        _ => true,
    };
}
