using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>A title that is considered.</summary>
/// <param name="Number">Null for the one the piece has.</param>
public sealed record TitleLine(TitleNumber? Number, string Text, string Note, TitleLook Look);

/// <summary>The titles of a piece side by side.</summary>
/// <param name="Chosen">The one it has.</param>
/// <param name="Others">Those kept beside it, in the writer's order.</param>
public sealed record TitlesShown(PieceNumber Piece, TitleLine Chosen, IReadOnlyList<TitleLine> Others);

/// <summary>A title to be kept; without a number it is a new one.</summary>
public sealed record TitleKept(string? Text, string? Note = null, TitleNumber? Number = null);

/// <summary>All titles that are kept beside the one the piece has, in order; the others are taken away.</summary>
public sealed record TitlesChange(IReadOnlyList<TitleKept>? Titles);

/// <summary>A title, or a change to one; what is not set stays.</summary>
public sealed record TitleChange(string? Text = null, string? Note = null);

/// <summary>Titles that are considered for a piece.</summary>
public sealed class TitleStore(PapersFile papers)
{
    public const int Most = 100;

    public TitlesShown Of(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static TitlesShown Of(SqliteConnection db, PieceNumber number)
    {
        var piece = PieceRows.Get(db, number);
        var places = FormatRows.Named(db, piece.Format).TitlePlaces;
        var earlier = Earlier(db, number);
        return new TitlesShown(
            number,
            new TitleLine(null, piece.Title, "", TitleLook.Of(piece.Title, places, earlier)),
            [.. Rows(db, number).Select(t => new TitleLine(t.Number, t.Text, t.Note, TitleLook.Of(t.Text, places, earlier)))]
        );
    }

    /// <summary>The titles of all other pieces, the newest first.</summary>
    /// <param name="number">Null where there is no piece yet.</param>
    internal static IReadOnlyList<EarlierTitle> Earlier(SqliteConnection db, PieceNumber? number) =>
        [
            .. db.Query<(int Number, string Title)>(
                    "SELECT number, title FROM piece WHERE trashed_at IS NULL AND number IS NOT @number ORDER BY number DESC",
                    new { number }
                )
                .Select(p => new EarlierTitle(PieceNumber.Of(p.Number), p.Title)),
        ];

    internal static IReadOnlyList<TitleRow> Rows(SqliteConnection db, PieceNumber piece) =>
        db.Query<TitleRow>("SELECT number, text, note FROM other_title WHERE piece = @piece ORDER BY position, number", new { piece })
            .AsList();

    internal static void Put(SqliteConnection db, PieceNumber piece, string text, string note) =>
        db.Execute(
            "INSERT INTO other_title (piece, position, text, note) "
                + "VALUES (@piece, (SELECT coalesce(max(position), 0) + 1 FROM other_title WHERE piece = @piece), @text, @note)",
            new
            {
                piece,
                text,
                note,
            }
        );

    private static TitleRow Get(SqliteConnection db, PieceNumber piece, TitleNumber title) =>
        Rows(db, piece).FirstOrDefault(t => t.Number == title) ?? throw new NotThereException($"title {title} of P {piece}");

    internal static string Text(string? text) => Check.Text("text", text, TitleLook.Longest).ReplaceLineEndings(" ");

    private static string Note(string? note) => Check.Length("note", note, Brief.LongestField).Trim();

    public Done<TitlesShown> Add(PieceNumber piece, TitleChange made, Once once)
    {
        var (text, note) = (Text(made.Text), Note(made.Note));
        return papers.Run(
            $"noted a title for P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                if (Rows(change.Db, piece).Count >= Most)
                    throw new BadInputException("text", $"{Most} titles are enough for one piece; take one away first.");
                Put(change.Db, piece, text, note);
                return Of(change.Db, piece);
            }
        );
    }

    public Done<TitlesShown> Edit(PieceNumber piece, TitleNumber title, TitleChange edit, Once once)
    {
        var (text, note) = (edit.Text is null ? null : Text(edit.Text), edit.Note is null ? null : Note(edit.Note));
        return papers.Run(
            $"changed a title for P {piece}",
            once,
            change =>
            {
                var before = Get(change.Db, piece, title);
                change.Db.Execute(
                    "UPDATE other_title SET text = @text, note = @note WHERE number = @title",
                    new
                    {
                        text = text ?? before.Text,
                        note = note ?? before.Note,
                        title,
                    }
                );
                return Of(change.Db, piece);
            }
        );
    }

    /// <summary>Gives the piece a title that was kept beside; the one it had is kept in its place.</summary>
    public Done<TitlesShown> Take(PieceNumber number, TitleNumber title, Once once) =>
        papers.Run(
            $"took a title for P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                var taken = Get(change.Db, number, title);
                change.Db.Execute(
                    """
                    UPDATE other_title SET text = @Title WHERE number = @title;
                    UPDATE piece SET title = @Text, changed_at = @Now, version = version + 1 WHERE number = @number;
                    """,
                    new
                    {
                        piece.Title,
                        title,
                        taken.Text,
                        change.Now,
                        number,
                    }
                );
                Renaming.Retitled(change, Reference.To(number), piece.Title, taken.Text);
                change.What = $"called P {number} “{taken.Text}”";
                return Of(change.Db, number);
            }
        );

    public Done<TitlesShown> Remove(PieceNumber piece, TitleNumber title, Once once) =>
        papers.Run(
            $"took away a title of P {piece}",
            once,
            change =>
            {
                change.What = $"took away the title “{Get(change.Db, piece, title).Text}” of P {piece}";
                change.Db.Execute("DELETE FROM other_title WHERE number = @title", new { title });
                return Of(change.Db, piece);
            }
        );

    /// <summary>Sets all titles that are kept beside the piece's own, in order.</summary>
    public Done<TitlesShown> Set(PieceNumber piece, TitlesChange all, Once once)
    {
        var kept = (all.Titles ?? []).Select(t => (t.Number, Text: Text(t.Text), Note: Note(t.Note))).ToList();
        if (kept.Count > Most)
            throw new BadInputException("titles", $"{Most} titles are enough for one piece.");
        return papers.Run(
            $"set the titles of P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                var had = Rows(change.Db, piece).Select(t => t.Number).ToHashSet();
                foreach (var gone in had.Where(n => kept.All(k => k.Number != n)))
                    change.Db.Execute("DELETE FROM other_title WHERE number = @gone", new { gone });
                for (var at = 0; at < kept.Count; at++)
                {
                    var (number, text, note) = kept[at];
                    if (number is { } own && !had.Remove(own))
                        throw new BadInputException("titles", $"P {piece} has no title {own}, or it is named twice.");
                    change.Db.Execute(
                        number is null
                            ? "INSERT INTO other_title (piece, position, text, note) VALUES (@piece, @position, @text, @note)"
                            : "UPDATE other_title SET position = @position, text = @text, note = @note WHERE number = @number",
                        new
                        {
                            piece,
                            position = at + 1,
                            text,
                            note,
                            number,
                        }
                    );
                }
                return Of(change.Db, piece);
            }
        );
    }
}

internal sealed record TitleRow
{
    public TitleNumber Number { get; init; }
    public string Text { get; init; } = "";
    public string Note { get; init; } = "";
}
