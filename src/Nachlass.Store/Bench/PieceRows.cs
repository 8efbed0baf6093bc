using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Bench;

internal static class PieceRows
{
    private const string Columns = """
        p.number, p.title, p.running, coalesce(nullif(p.language, ''), 'en-GB') AS language, p.citing,
        (SELECT json_group_object(key, value) FROM piece_field f WHERE f.piece = p.number) AS fields,
        (SELECT count(*) FROM piece_step x WHERE x.piece = p.number AND x.stage = p.stage AND x.done_at IS NULL) AS open_steps,
         p.format, p.brief, p.stage, p.due, p.outlet, p.out_on, p.out_address, p.pinned, p.started_at, p.trashed_at, p.version, d.words,
        (SELECT at FROM stage_entry e WHERE e.piece = p.number ORDER BY e.id DESC LIMIT 1) AS stage_since,
        (SELECT json_group_array(word ORDER BY id) FROM piece_state w WHERE w.piece = p.number) AS states,
        max(p.changed_at, d.changed_at) AS changed_at,
        coalesce(p.word_aim, (SELECT coalesce(sum(aim), 0) FROM section WHERE piece = p.number AND gone_at IS NULL)) AS aim, p.word_aim,
        (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY pt.id)
            FROM piece_topic pt JOIN topic t ON t.number = pt.topic WHERE pt.piece = p.number) AS topics
        FROM piece p JOIN draft d ON d.piece = p.number
        """;

    /// <exception cref="NotThereException">There is no such piece.</exception>
    public static Piece Get(SqliteConnection db, PieceNumber number) => Find(db, number) ?? throw new NotThereException($"P {number}");

    public static Piece? Find(SqliteConnection db, PieceNumber number) => List(db, "p.number = @number", new { number }).SingleOrDefault();

    /// <summary>Pieces that meet a condition: overdue and due first, then by last change.</summary>
    public static IReadOnlyList<Piece> List(SqliteConnection db, string where, object? arguments)
    {
        var pieces = db.Query<Piece>(
                $"SELECT {Columns} WHERE {where} ORDER BY p.out_on IS NOT NULL, p.due IS NULL, p.due, p.out_on DESC, changed_at DESC",
                arguments
            )
            .ToList();
        var moves = db.Query<Move>(
                $"SELECT {MoveRows.Columns} WHERE v.done_at IS NULL AND v.piece IN @numbers "
                    + $"ORDER BY v.due IS NULL, v.due, {MoveRows.Order}",
                new { numbers = pieces.Select(p => p.Number.Value) }
            )
            .ToLookup(m => m.Piece);
        return [.. pieces.Select(p => p with { NextMove = moves[p.Number].FirstOrDefault() })];
    }

    /// <summary>Begins a piece: its format's skeleton and template are its outline and its draft, and its checklist comes along.</summary>
    /// <param name="title">What the writer calls it; the format's pattern makes its title of that.</param>
    /// <param name="series">The series whose next one it is: its pattern goes before the format's, and it counts in it.</param>
    public static PieceNumber Start(
        Change change,
        string title,
        Format format,
        string brief,
        IReadOnlyList<TopicNumber> topics,
        Series? series = null
    )
    {
        var nth = series is null ? 0 : SeriesRows.NextNumber(SeriesRows.Pieces(change.Db, series.Number).Count);
        var pattern = series?.TitlePattern is { Length: > 0 } own ? own : format.TitlePattern;
        var running = format.TitlePattern.Contains("number", StringComparison.Ordinal) ? NextRunning(change.Db, format) : (int?)null;
        var facts = FactsFor(
            change.Db,
            change.Now.DateTime,
            title,
            format,
            series?.TitlePattern is { Length: > 0 } ? nth : running ?? 1,
            topics
        ) with
        {
            Series = series?.Name ?? "",
        };
        var named = facts.TitleBy(pattern);
        var number = PieceNumber.Of(
            change.Db.ExecuteScalar<int>(
                "INSERT INTO piece (title, format, brief, stage, started_at, changed_at, running, laid) "
                    + "VALUES (@named, @Key, @brief, @stage, @Now, @Now, @running, @laid) RETURNING number",
                new
                {
                    named = named.Length > Piece.LongestTitle ? named[..Piece.LongestTitle] : named,
                    format.Key,
                    brief,
                    stage = format.Stages[0],
                    change.Now,
                    running,
                    laid = LaidWritten(
                        format.Skeleton.Select(s => s.Number).Concat(format.Steps.Select(s => s.Number)).Select(n => LaidName(format, n))
                    ),
                }
            )
        );
        StageRows.Enter(change.Db, number, format.Stages[0], change.Now);
        change.Db.Execute("INSERT INTO draft (piece, changed_at) VALUES (@number, @Now)", new { number, change.Now });
        var outline = Outline.From(format);
        if (format.Template.Length > 0 && FillIn.Fill(format.Template, (facts with { Title = named }).ByName()) is { Fault: null } filled)
            outline = outline.Behind(filled.Text.TrimEnd() + "\n\n");
        DraftRows.Write(change, number, outline);
        SetTopics(change.Db, number, topics);
        if (series is not null)
            SeriesRows.Put(change.Db, series.Number, number, nth);
        StepRows.Lay(change.Db, number, format.Steps);
        return number;
    }

    /// <summary>How a section or step of a format is named among those that a piece has had.</summary>
    public static string LaidName(Format format, int number) => $"{format.Key}:{number}";

    public static string LaidWritten(IEnumerable<string> laid) => JsonSerializer.Serialize(laid.Distinct());

    /// <summary>The sections and steps a piece has had or was not to have; null where that was never said.</summary>
    public static HashSet<string>? Laid(SqliteConnection db, PieceNumber piece) =>
        db.ExecuteScalar<string?>("SELECT laid FROM piece WHERE number = @piece", new { piece }) is { } kept
            ? [.. JsonSerializer.Deserialize<List<string>>(kept)!]
            : null;

    /// <summary>The next running number of a format: one more than any that it gave or that stands in a title of its pattern.</summary>
    public static int NextRunning(SqliteConnection db, Format format)
    {
        var before = format.TitlePattern.Split("{{", 2)[0];
        var given = db.Query<(int? Running, string Title)>(
            "SELECT running, title FROM piece WHERE format = @Key AND trashed_at IS NULL",
            new { format.Key }
        );
        return 1
            + given
                .Select(p =>
                    p.Running
                    ?? (
                        before.Trim().Length > 0
                        && p.Title.StartsWith(before, StringComparison.OrdinalIgnoreCase)
                        && int.TryParse(string.Concat(p.Title[before.Length..].TakeWhile(char.IsAsciiDigit)), out var said)
                            ? said
                            : 0
                    )
                )
                .DefaultIfEmpty(0)
                .Max();
    }

    /// <summary>What can be filled in about a piece that is not there yet.</summary>
    public static PieceFacts FactsFor(
        SqliteConnection db,
        DateTime now,
        string title,
        Format format,
        int running,
        IReadOnlyList<TopicNumber> topics
    )
    {
        var names = db.Query<(int Number, string Name)>("SELECT number, name FROM topic").ToDictionary(t => t.Number, t => t.Name);
        return new PieceFacts(
            title,
            running,
            now,
            format.Name,
            "",
            [.. topics.Where(t => names.ContainsKey(t.Value)).Select(t => names[t.Value])],
            null,
            [.. format.Fields.Select(f => (f, ""))]
        );
    }

    /// <summary>What can be filled in about a piece.</summary>
    public static PieceFacts FactsOf(DateTime now, Piece piece, Format format) =>
        new(
            piece.Title,
            piece.Running ?? 1,
            now,
            format.Name,
            "",
            [.. piece.Topics.Select(t => t.Name)],
            piece.Due,
            [.. format.Fields.Select(f => (f, piece.Fields.GetValueOrDefault(f.Key, "")))]
        );

    public static void SetTopics(SqliteConnection db, PieceNumber piece, IReadOnlyList<TopicNumber> topics)
    {
        db.Execute(
            "DELETE FROM piece_topic WHERE piece = @piece AND topic NOT IN @topics",
            new { piece, topics = topics.Select(t => t.Value) }
        );
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO piece_topic (piece, topic) VALUES (@piece, @topic)", new { piece, topic });
    }
}
