using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A pattern, or a change to one; what is not set stays.</summary>
/// <param name="Used">Whether a bit is used.</param>
public sealed record PatternChange(
    PatternKind? Kind = null,
    string? Name = null,
    string? Text = null,
    bool? Used = null,
    int? Version = null
);

/// <summary>Patterns as rows.</summary>
internal static class PatternRows
{
    private const string Columns = "SELECT number, kind, name, text, used_at, version FROM pattern";

    public static IReadOnlyList<Pattern> All(SqliteConnection db) =>
        [
            .. db.Query<Row>($"{Columns} ORDER BY number")
                .Select(r => r.Whole)
                .OrderBy(p => p.Kind)
                .ThenBy(p => p.UsedAt is not null)
                .ThenBy(p => p.Number.Value),
        ];

    public static Pattern Get(SqliteConnection db, PatternNumber number) =>
        db.QuerySingleOrDefault<Row>($"{Columns} WHERE number = @number", new { number })?.Whole
        ?? throw new NotThereException($"pattern {number}");

    /// <summary>Puts these in place of all there are.</summary>
    public static void PutAll(SqliteConnection db, IEnumerable<Pattern> patterns)
    {
        db.Execute("DELETE FROM pattern WHERE true");
        foreach (var pattern in patterns)
            db.Execute(
                "INSERT INTO pattern (number, kind, name, text, used_at) VALUES (@Number, @kind, @Name, @Text, @UsedAt)",
                new
                {
                    pattern.Number,
                    kind = pattern.Kind.Kept(),
                    pattern.Name,
                    pattern.Text,
                    pattern.UsedAt,
                }
            );
    }

    private sealed record Row
    {
        public PatternNumber Number { get; init; }
        public PatternKind Kind { get; init; }
        public string Name { get; init; } = "";
        public string Text { get; init; } = "";
        public DateTimeOffset? UsedAt { get; init; }
        public int Version { get; init; }

        public Pattern Whole => new(Number, Kind, Name, Text, UsedAt, Version);
    }
}

/// <summary>Patterns for openings, posts and titles, and a stock of bits.</summary>
public sealed class PatternStore(PapersFile papers)
{
    public IReadOnlyList<Pattern> List() => papers.Read(PatternRows.All);

    /// <summary>A pattern as it is put into a piece: what is known filled in, the rest as places.</summary>
    /// <exception cref="BadInputException">It can't be laid; says why.</exception>
    public LaidPattern Lay(PatternNumber number, PieceNumber? piece) =>
        papers.Read(db =>
        {
            var pattern = PatternRows.Get(db, number);
            var facts =
                piece is { } named && PieceRows.Get(db, named) is var its
                    ? PieceRows.FactsOf(papers.Time.GetLocalNow().DateTime, its, FormatRows.Named(db, its.Format)).ByName()
                    : new Dictionary<string, object>();
            var (laid, fault) = Patterns.Lay(pattern.Text, facts);
            return laid ?? throw new BadInputException("text", $"“{pattern.Name}” can't be filled in: {fault!.Reason}");
        });

    public Done<Pattern> Add(PatternChange made, Once once) =>
        papers.Run(
            "made a pattern",
            once,
            change =>
            {
                var kind = made.Kind ?? throw new BadInputException("kind", "A pattern is for an opening, a post, a title, or a bit.");
                var text = Text(made.Text);
                var name = Name(made.Name, text);
                var number = PatternNumber.Of(
                    change.Db.ExecuteScalar<int>(
                        "INSERT INTO pattern (kind, name, text) VALUES (@kind, @name, @text) RETURNING number",
                        new
                        {
                            kind = kind.Kept(),
                            name,
                            text,
                        }
                    )
                );
                change.What = $"made the pattern “{name}”";
                return PatternRows.Get(change.Db, number);
            }
        );

    public Done<Pattern> Edit(PatternNumber number, PatternChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a pattern",
            once,
            change =>
            {
                var before = PatternRows.Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The pattern “{before.Name}”", before);
                var text = edit.Text is null ? before.Text : Text(edit.Text);
                var kind = edit.Kind ?? before.Kind;
                change.Db.Execute(
                    "UPDATE pattern SET kind = @kind, name = @name, text = @text, used_at = @used, version = "
                        + "version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        kind = kind.Kept(),
                        name = edit.Name is null ? before.Name : Name(edit.Name, text),
                        text,
                        used = kind != PatternKind.Bit ? null
                        : edit.Used is { } used
                            ? used ? before.UsedAt ?? change.Now
                                : null
                        : before.UsedAt,
                    }
                );
                change.What = edit.Used is { } isUsed
                    ? $"ticked “{before.Name}” as {(isUsed ? "used" : "not used")}"
                    : $"changed the pattern “{before.Name}”";
                return PatternRows.Get(change.Db, number);
            }
        );
    }

    public Done<bool> Remove(PatternNumber number, Once once) =>
        papers.Run(
            "took a pattern away",
            once,
            change =>
            {
                change.What = $"took the pattern “{PatternRows.Get(change.Db, number).Name}” away";
                change.Db.Execute("DELETE FROM pattern WHERE number = @number", new { number });
                return true;
            }
        );

    private static string Name(string? name, string text) =>
        string.IsNullOrWhiteSpace(name) ? Core.Text.PlainText.Headline(text, 60) : Check.Text("name", name, Pattern.LongestName);

    /// <summary>A text that can be filled in.</summary>
    private static string Text(string? text)
    {
        var kept = Check.Text("text", text, Pattern.LongestText);
        var (_, fault) = Patterns.Lay(kept, PieceFacts.Sample([]).ByName());
        return fault is null
            ? kept
            : throw new BadInputException(
                "text",
                fault.Line > 0 ? $"Line {fault.Line}, place {fault.Column}: {fault.Reason}" : fault.Reason
            );
    }
}
