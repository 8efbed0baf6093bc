using System.IO.Hashing;
using System.Runtime.InteropServices;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>Versions of drafts, as rows.</summary>
internal static class VersionRows
{
    private const string Much = "much of it was taken out";

    private const string Columns = """
        SELECT v.number, v.at, v.why, v.name, (
            SELECT group_concat(u.text, '' ORDER BY e.key) FROM json_each(v.units) e JOIN version_unit u ON u.id = e.value
        ) AS text FROM piece_version v
        """;

    /// <summary>The versions of a piece, the newest first.</summary>
    public static IReadOnlyList<DraftVersion> Of(SqliteConnection db, PieceNumber piece) =>
        [.. db.Query<Row>($"{Columns} WHERE v.piece = @piece ORDER BY v.at DESC, v.number DESC", new { piece }).Select(r => r.Whole)];

    /// <exception cref="NotThereException">The piece has no such version.</exception>
    public static DraftVersion Get(SqliteConnection db, PieceNumber piece, VersionNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE v.piece = @piece AND v.number = @number", new { piece, number })?.Whole
        ?? throw new NotThereException($"version {number} of P {piece}");

    /// <summary>Keeps a draft as it stands; nothing when it is empty, or when it is the newest version already and gets no name.</summary>
    public static VersionNumber? Keep(Change change, PieceNumber piece, string text, DateTimeOffset at, VersionWhy why, string name)
    {
        var db = change.Db;
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var units = JsonSerializer.Serialize(VersionText.Units(text).Select(unit => Unit(db, piece, unit.Text)));
        var newest = db.QueryFirstOrDefault<string>(
            "SELECT units FROM piece_version WHERE piece = @piece ORDER BY at DESC, number DESC LIMIT 1",
            new { piece }
        );
        if (newest == units && why != VersionWhy.Named)
            return null;
        var number = db.ExecuteScalar<int>(
            "INSERT INTO piece_version (piece, at, why, name, units) VALUES (@piece, @at, @why, @name, @units) RETURNING number",
            new
            {
                piece,
                at,
                why = why.Kept(),
                name = name.Length > DraftVersion.LongestName ? name[..DraftVersion.LongestName] : name,
                units,
            }
        );
        Thin(change, piece);
        return VersionNumber.Of(number);
    }

    /// <summary>What is kept by itself before a draft is written anew: as a sitting left it, and what is about to go at large.</summary>
    public static void BeforeWriting(Change change, PieceNumber piece, string before, DateTimeOffset changedAt, string after)
    {
        if (change.IsAsItWas || before == after)
            return;
        if (VersionRules.IsNewSitting(changedAt, change.Now))
            Keep(change, piece, before, changedAt, VersionWhy.Sitting, "");
        else if (VersionRules.IsLarge(before, after))
            Keep(
                change,
                piece,
                before,
                change.Now,
                VersionWhy.Before,
                change.What.StartsWith("wrote", StringComparison.Ordinal) ? Much : change.What
            );
    }

    /// <summary>A version with a name is its writer's; one without is thinned like any other.</summary>
    public static void Name(SqliteConnection db, VersionNumber number, string name) =>
        db.Execute(
            "UPDATE piece_version SET name = @name, why = @why WHERE number = @number",
            new
            {
                number,
                name,
                why = (name.Length == 0 ? VersionWhy.Sitting : VersionWhy.Named).Kept(),
            }
        );

    public static void Remove(SqliteConnection db, PieceNumber piece, IEnumerable<VersionNumber> numbers)
    {
        var gone = numbers.Select(n => n.Value).ToList();
        if (gone.Count == 0)
            return;
        db.Execute("DELETE FROM piece_version WHERE piece = @piece AND number IN @gone", new { piece, gone });
        db.Execute(
            """
            DELETE FROM version_unit WHERE piece = @piece AND id NOT IN (
                SELECT e.value FROM piece_version v, json_each(v.units) e WHERE v.piece = @piece
            )
            """,
            new { piece }
        );
    }

    private static void Thin(Change change, PieceNumber piece) =>
        Remove(
            change.Db,
            piece,
            VersionRules.Gone(
                change
                    .Db.Query<Row>("SELECT number, at, why FROM piece_version WHERE piece = @piece", new { piece })
                    .Select(r => (r.Number, r.At, r.Why)),
                change.Now
            )
        );

    /// <summary>The id of a unit; it gets one when it is new.</summary>
    private static int Unit(SqliteConnection db, PieceNumber piece, string text)
    {
        var hash = (long)XxHash64.HashToUInt64(MemoryMarshal.AsBytes(text.AsSpan()));
        var asked = new
        {
            piece,
            hash,
            text,
        };
        return db.ExecuteScalar<int?>("SELECT id FROM version_unit WHERE piece = @piece AND hash = @hash AND text = @text", asked)
            ?? db.ExecuteScalar<int>("INSERT INTO version_unit (piece, hash, text) VALUES (@piece, @hash, @text) RETURNING id", asked);
    }

    /// <summary>As they go out with the papers, the oldest first.</summary>
    public static IReadOnlyList<VersionImage> Image(SqliteConnection db, PieceNumber piece) =>
        [.. Of(db, piece).Reverse().Select(v => new VersionImage(v.At, v.Why, v.Name, v.Text))];

    public static void Put(Change change, PieceNumber piece, IReadOnlyList<VersionImage> versions)
    {
        foreach (var version in versions)
            change.Db.Execute(
                "INSERT INTO piece_version (piece, at, why, name, units) VALUES (@piece, @At, @why, @Name, @units)",
                new
                {
                    piece,
                    version.At,
                    why = version.Why.Kept(),
                    version.Name,
                    units = JsonSerializer.Serialize(VersionText.Units(version.Text).Select(u => Unit(change.Db, piece, u.Text))),
                }
            );
    }

    private sealed record Row
    {
        public VersionNumber Number { get; init; }
        public DateTimeOffset At { get; init; }
        public VersionWhy Why { get; init; }
        public string Name { get; init; } = "";
        public string Text { get; init; } = "";

        public DraftVersion Whole => new(Number, At, Why, Name, Text);
    }
}
