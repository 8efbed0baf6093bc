using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A standing text, and where it stands.</summary>
/// <param name="Pieces">Pieces in hand whose drafts or side texts name it.</param>
/// <param name="Frozen">Pieces that went out with it, as it stood then.</param>
/// <param name="Formats">Names of formats whose template names it.</param>
public sealed record StandingTextShown(
    StandingTextNumber Number,
    string Name,
    string Text,
    int Version,
    IReadOnlyList<PieceNumber> Pieces,
    IReadOnlyList<PieceNumber> Frozen,
    IReadOnlyList<string> Formats
);

/// <summary>A standing text, or a change to one; what is not set stays.</summary>
public sealed record StandingTextChange(string? Name = null, string? Text = null, int? Version = null);

/// <summary>Standing texts as rows.</summary>
internal static class StandingTextRows
{
    private const string Columns = "SELECT number, name, text, version FROM standing_text";

    public static IReadOnlyList<StandingText> All(SqliteConnection db) =>
        [.. db.Query<Row>($"{Columns} ORDER BY name COLLATE NOCASE, number").Select(r => r.Whole)];

    public static StandingText Get(SqliteConnection db, StandingTextNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE number = @number", new { number })?.Whole
        ?? throw new NotThereException($"standing text {number}");

    /// <summary>A draft with its standing texts: as they are now, or as they stood when its piece went out.</summary>
    public static string Filled(SqliteConnection db, PieceNumber piece, string draft) =>
        StandingTexts.Filled(
            draft,
            number =>
                db.QuerySingleOrDefault<string>(
                    "SELECT text FROM standing_frozen WHERE piece = @piece AND standing = @number",
                    new { piece, number }
                ) ?? db.QuerySingleOrDefault<string>("SELECT text FROM standing_text WHERE number = @number", new { number })
        );

    /// <summary>The piece has gone out: what it names stays as it is now. Or it is back in hand: it follows again.</summary>
    public static void Freeze(Change change, PieceNumber piece, bool isOut)
    {
        change.Db.Execute("DELETE FROM standing_frozen WHERE piece = @piece", new { piece });
        if (!isOut)
            return;
        var texts = SideTextRows.Of(change.Db, piece).Select(t => t.Text).Prepend(DraftRows.Read(change.Db, piece).Outline.Text);
        foreach (var number in texts.SelectMany(StandingTexts.In).Distinct())
            if (change.Db.QuerySingleOrDefault<string>("SELECT text FROM standing_text WHERE number = @number", new { number }) is { } text)
                Put(change.Db, piece, number, text);
    }

    public static void Put(SqliteConnection db, PieceNumber piece, StandingTextNumber standing, string text) =>
        db.Execute(
            "INSERT INTO standing_frozen (piece, standing, text) VALUES (@piece, @standing, @text)",
            new
            {
                piece,
                standing,
                text,
            }
        );

    public static IReadOnlyList<(StandingTextNumber Number, string Text)> Frozen(SqliteConnection db, PieceNumber piece) =>
        [
            .. db.Query<(int Number, string Text)>(
                    "SELECT standing, text FROM standing_frozen WHERE piece = @piece ORDER BY standing",
                    new { piece }
                )
                .Select(f => (StandingTextNumber.Of(f.Number), f.Text)),
        ];

    public static void Put(SqliteConnection db, StandingText text) =>
        db.Execute("INSERT INTO standing_text (number, name, text) VALUES (@Number, @Name, @Text)", text);

    private sealed record Row
    {
        public StandingTextNumber Number { get; init; }
        public string Name { get; init; } = "";
        public string Text { get; init; } = "";
        public int Version { get; init; }

        public StandingText Whole => new(Number, Name, Text, Version);
    }
}

/// <summary>Texts that are edited once and stand in many drafts.</summary>
public sealed class StandingTextStore(PapersFile papers)
{
    public IReadOnlyList<StandingTextShown> List() =>
        papers.Read(db => (IReadOnlyList<StandingTextShown>)[.. StandingTextRows.All(db).Select(t => Shown(db, t))]);

    public StandingTextShown Get(StandingTextNumber number) => papers.Read(db => Shown(db, StandingTextRows.Get(db, number)));

    private static StandingTextShown Shown(SqliteConnection db, StandingText text)
    {
        var like = $"%[[%standing text {text.Number}%]]%";
        var named = db.Query<(int Piece, string Text)>(
                "SELECT piece, text FROM draft WHERE text LIKE @like UNION ALL SELECT piece, text FROM side_text WHERE text LIKE @like",
                new { like }
            )
            .Where(d => StandingTexts.In(d.Text).Contains(text.Number))
            .Select(d => PieceNumber.Of(d.Piece))
            .Distinct()
            .OrderBy(p => p.Value)
            .ToList();
        var frozen = db.Query<int>("SELECT piece FROM standing_frozen WHERE standing = @Number ORDER BY piece", new { text.Number })
            .Select(PieceNumber.Of)
            .ToList();
        var formats = FormatRows.All(db).Offered.Where(f => StandingTexts.In(f.Template).Contains(text.Number)).Select(f => f.Name);
        return new StandingTextShown(text.Number, text.Name, text.Text, text.Version, [.. named.Except(frozen)], frozen, [.. formats]);
    }

    public Done<StandingTextShown> Add(StandingTextChange made, Once once) =>
        papers.Run(
            "made a standing text",
            once,
            change =>
            {
                var name = Check.Text("name", made.Name, StandingText.LongestName);
                var text = Text(made.Text ?? "");
                var number = StandingTextNumber.Of(
                    change.Db.ExecuteScalar<int>(
                        "INSERT INTO standing_text (name, text) VALUES (@name, @text) RETURNING number",
                        new { name, text }
                    )
                );
                change.What = $"made the standing text “{name}”";
                return Shown(change.Db, StandingTextRows.Get(change.Db, number));
            }
        );

    /// <summary>Changes a standing text, wherever it stands in pieces in hand.</summary>
    public Done<StandingTextShown> Edit(StandingTextNumber number, StandingTextChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a standing text",
            once,
            change =>
            {
                var before = StandingTextRows.Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The standing text “{before.Name}”", before);
                change.Db.Execute(
                    "UPDATE standing_text SET name = @name, text = @text, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        name = edit.Name is null ? before.Name : Check.Text("name", edit.Name, StandingText.LongestName),
                        text = edit.Text is null ? before.Text : Text(edit.Text),
                    }
                );
                change.What = $"changed the standing text “{before.Name}”";
                return Shown(change.Db, StandingTextRows.Get(change.Db, number));
            }
        );
    }

    /// <summary>Takes a standing text away that stands nowhere in hand.</summary>
    /// <exception cref="ClashException">It stands somewhere; says where.</exception>
    public Done<bool> Remove(StandingTextNumber number, Once once) =>
        papers.Run(
            "took a standing text away",
            once,
            change =>
            {
                var shown = Shown(change.Db, StandingTextRows.Get(change.Db, number));
                if (shown.Pieces.Count + shown.Formats.Count > 0)
                    throw new ClashException(
                        $"“{shown.Name}” stands in {string.Join(", ", shown.Pieces.Select(p => $"P {p}").Concat(shown.Formats))}. "
                            + "Take it out there first; nothing was changed."
                    );
                change.Db.Execute("DELETE FROM standing_text WHERE number = @number", new { number });
                change.What = $"took the standing text “{shown.Name}” away";
                return true;
            }
        );

    private static string Text(string text)
    {
        var kept = Check.Length("text", text, StandingText.LongestText);
        return StandingTexts.In(kept).Count == 0 ? kept : throw new BadInputException("text", "A standing text cannot hold another one.");
    }
}
