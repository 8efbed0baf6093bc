using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Text;

/// <summary>Texts of the papers as they are written back when a name in them changes.</summary>
internal static class Renaming
{
    /// <summary>Puts a new name in place of old ones in every text that links to them or has them as a tag.</summary>
    /// <param name="tags">Whether <c>#tags</c> name it too, as they do a topic.</param>
    /// <returns>How many things were changed.</returns>
    public static int Follow(Change change, IReadOnlyCollection<string> old, string name, bool tags) =>
        Naming(change.Db, old, tags)
            .Count(thing =>
                Rewrite(
                    change,
                    thing,
                    text => Mentions.Renamed(text, old, name, tags, inside => Links.Named(change.Db, inside) is not null)
                )
            );

    /// <summary>The same for a piece or a source that gets another title. A title that can't stand between brackets is linked by
    /// number.</summary>
    public static void Retitled(Change change, Reference thing, string old, string title)
    {
        if (old.Equals(title, StringComparison.OrdinalIgnoreCase))
            return;
        Follow(change, [old], title.AsSpan().ContainsAny("[]\n") ? thing.ToString() : title, tags: false);
    }

    /// <summary>The same for sections that get other headings. The thing's own texts are in the hands of whoever writes it.</summary>
    /// <param name="change">The running command.</param>
    /// <param name="thing">The piece or source they are in.</param>
    /// <param name="headings">Old and new headings.</param>
    public static void Reheaded(Change change, Reference thing, IEnumerable<(string Old, string New)> headings)
    {
        foreach (var (place, old, heading) in Leading(change.Db, thing, headings))
            Rewrite(change, place, text => Mentions.PartRenamed(text, thing, Links.NamesOf(change.Db, thing), old, heading));
    }

    /// <summary>The places that link to headings which get others, each with the heading and the one to come.</summary>
    public static IReadOnlyList<(Reference Place, string Old, string New)> Leading(
        SqliteConnection db,
        Reference thing,
        IEnumerable<(string Old, string New)> headings
    )
    {
        var linkable = headings.Where(h => h.New.Trim().Length > 0 && !h.New.AsSpan().ContainsAny("[]\n")).ToList();
        if (linkable.Count == 0)
            return [];
        var links = Links.To(db, thing, Links.NamesOf(db, thing));
        return
        [
            .. linkable
                .SelectMany(h =>
                    links.Where(l => l.Part.Equals(h.Old, StringComparison.OrdinalIgnoreCase)).Select(l => (l.From, h.Old, h.New))
                )
                .Distinct(),
        ];
    }

    /// <summary>The things whose texts link to a name or have it as a tag.</summary>
    public static IReadOnlyList<Reference> Naming(SqliteConnection db, IReadOnlyCollection<string> names, bool tags)
    {
        var linked = db.Query<(string Kind, int Number)>(
                "SELECT DISTINCT from_kind, from_number FROM link WHERE to_kind IS NULL AND to_name IN @names",
                new { names = names.Select(n => n.ToLowerInvariant()) }
            )
            .Select(l => new Reference(Enum.Parse<ThingKind>(l.Kind, true), l.Number));
        var tagged = !tags
            ? []
            : names
                .SelectMany(name => Holding(db, name))
                .Where(thing => TextsOf(db, thing).Any(text => Mentions.Renamed(text, names, "\0", true) != text));
        return [.. linked.Concat(tagged).Distinct()];
    }

    /// <summary>The things whose texts hold these words next to each other.</summary>
    public static IEnumerable<Reference> Holding(SqliteConnection db, string words)
    {
        var phrase = string.Join(
            ' ',
            Stems
                .Fold(words)
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
                .Select(w => w.Replace("\"", "", StringComparison.Ordinal))
        );
        return phrase.Length == 0
            ? []
            : db.Query<long>(
                    "SELECT rowid FROM finding WHERE finding MATCH @phrase AND rowid % 8 IN (0, 1, 2, 4) LIMIT 5000",
                    new { phrase = $"\"{phrase}\"" }
                )
                .Select(row => new Reference((ThingKind)(row % 8), (int)(row / 8)));
    }

    /// <summary>The texts of a thing that the writer can put links into.</summary>
    public static IEnumerable<string> TextsOf(SqliteConnection db, Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => db.Query<string>("SELECT text FROM slip WHERE number = @Number", new { thing.Number }),
            ThingKind.Source => db.Query<string>(
                "SELECT summary FROM source WHERE number = @Number UNION ALL SELECT comments FROM source WHERE number = @Number",
                new { thing.Number }
            ),
            ThingKind.Piece => db.Query<string>("SELECT text FROM draft WHERE piece = @Number", new { thing.Number }),
            ThingKind.Day => db.Query<string>(
                "SELECT text FROM day_sheet WHERE day_number = @Number UNION ALL SELECT text FROM day_block WHERE day_number = @Number",
                new { thing.Number }
            ),
            _ => [],
        };

    /// <summary>Changes the texts of a thing, with its links and its place in the indexes.</summary>
    /// <returns>Whether anything changed.</returns>
    public static bool Rewrite(Change change, Reference thing, Func<string, string> rewrite)
    {
        var db = change.Db;
        if (!TextsOf(db, thing).Any())
            throw new NotThereException(thing.ToString());
        switch (thing.Kind)
        {
            case ThingKind.Slip:
                var slip = db.QuerySingle<string>("SELECT text FROM slip WHERE number = @Number", new { thing.Number });
                if (rewrite(slip) is var text && text == slip)
                    return false;
                db.Execute("UPDATE slip SET text = @text, version = version + 1 WHERE number = @Number", new { text, thing.Number });
                Links.Write(db, thing, text);
                return true;
            case ThingKind.Source:
                var (summary, comments) = db.QuerySingle<(string, string)>(
                    "SELECT summary, comments FROM source WHERE number = @Number",
                    new { thing.Number }
                );
                var (newSummary, newComments) = (rewrite(summary), rewrite(comments));
                if (newSummary == summary && newComments == comments)
                    return false;
                db.Execute(
                    "UPDATE source SET summary = @newSummary, comments = @newComments, version = version + 1 WHERE number = @Number",
                    new
                    {
                        newSummary,
                        newComments,
                        thing.Number,
                    }
                );
                Links.Write(db, thing, newSummary + "\n" + newComments);
                return true;
            case ThingKind.Piece:
                var piece = PieceNumber.Of(thing.Number);
                var (outline, _, _) = DraftRows.Read(db, piece);
                if (rewrite(outline.Text) is var draft && draft == outline.Text)
                    return false;
                DraftRows.Write(change, piece, outline.Rewrite(draft));
                Reword(db, thing, rewrite);
                return true;
            case ThingKind.Day:
                var changed = false;
                foreach (
                    var (id, block) in db.Query<(long, string)>(
                            "SELECT id, text FROM day_block WHERE day_number = @Number",
                            new { thing.Number }
                        )
                        .ToList()
                )
                    if (rewrite(block) is var other && other != block)
                    {
                        db.Execute("UPDATE day_block SET text = @other WHERE id = @id", new { other, id });
                        changed = true;
                    }
                Reword(db, thing, rewrite);
                var sheet = db.QuerySingle<string>("SELECT text FROM day_sheet WHERE day_number = @Number", new { thing.Number });
                if (rewrite(sheet) is var written && (written != sheet || changed))
                {
                    db.Execute(
                        "UPDATE day_sheet SET text = @written, version = version + 1 WHERE day_number = @Number",
                        new { written, thing.Number }
                    );
                    SheetRows.WriteLinks(db, DateOnly.FromDayNumber(thing.Number));
                    return true;
                }
                return changed;
            default:
                return false;
        }
    }

    /// <summary>What was lifted out of a text is known by its wording.</summary>
    private static void Reword(SqliteConnection db, Reference thing, Func<string, string> rewrite)
    {
        foreach (
            var (id, paragraph) in db.Query<(long, string)>(
                    "SELECT id, paragraph FROM lifted WHERE in_kind = @kind AND in_number = @Number",
                    new { kind = thing.Kind.Kept(), thing.Number }
                )
                .ToList()
        )
            if (rewrite(paragraph) is var other && other != paragraph)
                db.Execute("UPDATE lifted SET paragraph = @other WHERE id = @id", new { other, id });
    }
}
