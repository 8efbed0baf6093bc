using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>A place that links to a thing.</summary>
/// <param name="From">Where the link stands.</param>
/// <param name="Title">What that place is called.</param>
/// <param name="Sentence">The sentence around the link.</param>
public sealed record LinkLine(Reference From, string Title, string Sentence);

/// <summary>Where a text's link leads.</summary>
/// <param name="Name">As it stands between the brackets.</param>
/// <param name="To">The thing; null while there is none of that name.</param>
/// <param name="Title">What the thing is called.</param>
/// <param name="Gone">What has become of it, when it is out of sight: dropped, merged, in the trash.</param>
public sealed record LinkOut(string Name, Reference? To, string? Title, string? Gone = null);

/// <summary>Keeps the references of texts as rows, in the same transaction as the text.</summary>
internal static class Links
{
    /// <summary>Writes down the references of a text in place of those it had.</summary>
    public static void Write(SqliteConnection db, Reference from, string text, bool isNew = false)
    {
        if (from.Kind == ThingKind.Slip) RefuseCircle(db, SlipNumber.Of(from.Number), text);
        var kind = from.Kind.Kept();
        var references = text.Contains("[[", StringComparison.Ordinal) ? References.In(text) : [];
        if (!isNew) db.Execute("DELETE FROM link WHERE from_kind = @kind AND from_number = @Number", new { kind, from.Number });
        foreach (var reference in references)
            db.Execute("INSERT INTO link (from_kind, from_number, to_kind, to_number, to_name, sentence) VALUES (@kind, @Number, @toKind, @to, @name, @sentence)", new
            {
                kind,
                from.Number,
                toKind = reference.Thing?.Kind.Kept(),
                to = reference.Thing?.Number,
                name = reference.Name.ToLowerInvariant(),
                sentence = References.SentenceAround(text, reference.Start, reference.Length),
            });
    }

    /// <exception cref="BadInputException">The slip would come to stand inside itself.</exception>
    private static void RefuseCircle(SqliteConnection db, SlipNumber slip, string text)
    {
        if (Inclusions.In(text).Count == 0 || Inclusions.Circle(slip, text, number => TextOf(db, number)) is not { } way) return;
        throw new BadInputException("text", $"Slip {slip} would stand inside itself: {string.Join(" shows ", way.Select(n => $"slip {n}"))}. Put the reference inside a sentence to link without showing it.");
    }

    /// <summary>A slip's text, to be shown inside another; null when there is none, or it was dropped.</summary>
    public static string? TextOf(SqliteConnection db, SlipNumber slip) => db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @slip AND state <> 'dropped'", new { slip });

    /// <summary>A text as it is shown, with the slips it stands for set off inside it.</summary>
    public static string Shown(SqliteConnection db, string text) => Inclusions.Expanded(text, slip => TextOf(db, slip), Inclusions.SetOff);

    /// <summary>A text as it goes out, with the slips it stands for written out.</summary>
    public static string WrittenOut(SqliteConnection db, string text) => Inclusions.Expanded(text, slip => TextOf(db, slip));

    /// <summary>The places that link to a thing, by its number or by one of its names.</summary>
    public static IReadOnlyList<LinkLine> To(SqliteConnection db, Reference thing, params IEnumerable<string> names)
    {
        var rows = db.Query<(string Kind, int Number, string Sentence)>(
            """
            SELECT from_kind, from_number, sentence FROM link WHERE to_kind = @kind AND to_number = @Number
            UNION SELECT from_kind, from_number, sentence FROM link WHERE to_kind IS NULL AND to_name IN @names
            """, new { kind = thing.Kind.Kept(), thing.Number, names = names.Select(n => n.ToLowerInvariant()).ToList() });
        return [.. rows.Select(r => (From: new Reference(Enum.Parse<ThingKind>(r.Kind, true), r.Number), r.Sentence))
            .Where(r => r.From != thing)
            .Select(r => new LinkLine(r.From, TitleOf(db, r.From) ?? "", PlainText.WithReferences(r.Sentence)))];
    }

    /// <summary>Where the links of a text lead, each target once.</summary>
    public static IReadOnlyList<LinkOut> From(SqliteConnection db, string text) =>
        [.. References.In(text).DistinctBy(r => r.Name, StringComparer.OrdinalIgnoreCase).Select(r =>
        {
            var to = r.Thing ?? Named(db, r.Name);
            var title = to is { } thing ? TitleOf(db, thing) : null;
            return new LinkOut(r.Name, title is null ? null : to, title, title is null ? null : Gone(db, to!.Value));
        })];

    /// <summary>What has become of a thing that is out of sight; null while it is in sight.</summary>
    private static string? Gone(SqliteConnection db, Reference thing) => thing.Kind switch
    {
        ThingKind.Slip => db.QuerySingleOrDefault<string>("SELECT CASE WHEN merged_into IS NOT NULL THEN 'merged into slip ' || merged_into ELSE 'dropped' END FROM slip WHERE number = @Number AND state = 'dropped'", new { thing.Number }),
        ThingKind.Source or ThingKind.Piece => db.QuerySingleOrDefault<string>($"SELECT 'in the trash' FROM {thing.Kind.Kept()} WHERE number = @Number AND trashed_at IS NOT NULL", new { thing.Number }),
        ThingKind.Topic => db.QuerySingleOrDefault<string>("SELECT 'merged' FROM topic WHERE number = @Number AND merged_into IS NOT NULL", new { thing.Number }),
        _ => null,
    };

    /// <summary>The thing with this name: a topic or its alias, else a piece, else a source.</summary>
    public static Reference? Named(SqliteConnection db, string name)
    {
        var row = db.QueryFirstOrDefault<(string Kind, int Number)?>(
            """
            SELECT 'topic', number FROM topic WHERE lower(name) = lower(@name) AND merged_into IS NULL
            UNION ALL SELECT 'topic', topic FROM topic_alias WHERE lower(name) = lower(@name)
            UNION ALL SELECT 'piece', number FROM piece WHERE lower(title) = lower(@name) AND trashed_at IS NULL
            UNION ALL SELECT 'source', number FROM source WHERE lower(title) = lower(@name) AND trashed_at IS NULL
            LIMIT 1
            """, new { name });
        return row is { } found ? new Reference(Enum.Parse<ThingKind>(found.Kind, true), found.Number) : null;
    }

    /// <summary>The names by which texts may point at a thing besides its number: a topic's with its aliases, a title.</summary>
    public static IReadOnlyList<string> NamesOf(SqliteConnection db, Reference thing) => thing.Kind switch
    {
        ThingKind.Topic => db.Query<string>("SELECT name FROM topic WHERE number = @Number UNION ALL SELECT name FROM topic_alias WHERE topic = @Number", new { thing.Number }).AsList(),
        ThingKind.Source or ThingKind.Piece => TitleOf(db, thing) is { } title ? [title] : [],
        _ => [],
    };

    /// <summary>What a thing is called, or null if there is none.</summary>
    public static string? TitleOf(SqliteConnection db, Reference thing) => thing.Kind switch
    {
        ThingKind.Slip => db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @Number", new { thing.Number }) is { } text ? PlainText.Headline(text) : null,
        ThingKind.Source => db.QuerySingleOrDefault<string>("SELECT title FROM source WHERE number = @Number", new { thing.Number }),
        ThingKind.Piece => db.QuerySingleOrDefault<string>("SELECT title FROM piece WHERE number = @Number", new { thing.Number }),
        ThingKind.Topic => db.QuerySingleOrDefault<string>("SELECT name FROM topic WHERE number = @Number", new { thing.Number }),
        _ => thing.ToString(),
    };
}
