using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Topics;

/// <summary>A line of a digest with its source and place.</summary>
/// <param name="Text">The passage as it stands now.</param>
/// <param name="Words">The writer's own wording of the line; null while it is the passage.</param>
/// <param name="IsStale">Whether the passage was changed since the writer worded the line.</param>
public sealed record CompiledLine(
    SlipNumber Slip,
    string Text,
    string? Words,
    bool IsStale,
    SourceNumber Source,
    string SourceTitle,
    string Creators,
    string Date,
    string Locator,
    double Carries,
    IReadOnlyList<Opposition> Against,
    IReadOnlyList<SlipNumber> With
)
{
    /// <summary>What is shown: the writer's words, or the passage.</summary>
    public string Shown => Words ?? Text;
}

/// <summary>A theme of a digest.</summary>
/// <param name="Anchor">The line by which the theme is known when the writer names it.</param>
/// <param name="IsNamed">Whether the writer named it.</param>
public sealed record CompiledTheme(SlipNumber Anchor, string Name, bool IsNamed, int Sources, IReadOnlyList<CompiledLine> Lines);

/// <summary>What the sources on a topic say.</summary>
/// <param name="Intro">The writer's own lines before it.</param>
/// <param name="Hidden">Lines that the writer left out.</param>
public sealed record CompiledDigest(
    TopicNumber Topic,
    string Name,
    string Intro,
    int Version,
    int Sources,
    int Passages,
    IReadOnlyList<CompiledTheme> Themes,
    IReadOnlyList<CompiledLine> Hidden
);

/// <summary>A change to a digest; what is not set stays.</summary>
public sealed record DigestChange
{
    public string? Intro { get; init; }

    /// <summary>The line that is changed.</summary>
    public SlipNumber? Line { get; init; }

    /// <summary>Its wording; null gives it back to the passage.</summary>
    public Maybe<string> Words { get; init; }

    public bool? Hidden { get; init; }

    /// <summary>A line under whose theme it is put; null gives it back to where it belongs by its words.</summary>
    public Maybe<SlipNumber?> Beside { get; init; }

    /// <summary>The line that anchors the theme that is named.</summary>
    public SlipNumber? Theme { get; init; }

    /// <summary>Its name; null gives it back its own words.</summary>
    public Maybe<string> Name { get; init; }
}

/// <summary>Compiles digests and keeps what the writer changed in them.</summary>
public sealed class DigestStore(PapersFile papers)
{
    private const int LongestName = 120,
        LongestIntro = 20_000;

    public CompiledDigest Get(TopicNumber topic) => papers.Read(db => Compile(db, topic));

    /// <summary>Changes a line, a theme's name or the words before all.</summary>
    public Done<CompiledDigest> Edit(TopicNumber topic, DigestChange edit, Once once) =>
        papers.Run(
            "changed a digest",
            once,
            change =>
            {
                var db = change.Db;
                var before = Compile(db, topic);
                var lines = before.Themes.SelectMany(t => t.Lines).Concat(before.Hidden).ToDictionary(l => l.Slip);
                if (edit.Intro is not null)
                    db.Execute(
                        "INSERT INTO digest (topic, intro) VALUES (@topic, @intro) ON CONFLICT (topic) DO UPDATE SET intro = "
                            + "@intro, version = version + 1",
                        new { topic, intro = Check.Length("intro", edit.Intro, LongestIntro).Trim() }
                    );
                if (edit.Line is { } slip)
                {
                    if (!lines.TryGetValue(slip, out var line))
                        throw new BadInputException("line", $"Slip {slip} is no line of this digest.");
                    if (edit.Beside is { IsSet: true, Value: { } beside } && !lines.ContainsKey(beside))
                        throw new BadInputException("beside", $"Slip {beside} is no line of this digest.");
                    db.Execute("INSERT OR IGNORE INTO digest_line (topic, slip) VALUES (@topic, @slip)", new { topic, slip });
                    if (edit.Words.IsSet)
                    {
                        var words = Check.Length("words", edit.Words.Value, LongestIntro).Trim();
                        db.Execute(
                            "UPDATE digest_line SET words = @words, based_on = @Text WHERE topic = @topic AND slip = @slip",
                            new
                            {
                                topic,
                                slip,
                                words = words.Length == 0 || words == line.Text ? null : words,
                                line.Text,
                            }
                        );
                    }
                    if (edit.Hidden is { } hidden)
                        db.Execute(
                            "UPDATE digest_line SET hidden = @hidden WHERE topic = @topic AND slip = @slip",
                            new
                            {
                                topic,
                                slip,
                                hidden,
                            }
                        );
                    if (edit.Beside.IsSet)
                        db.Execute(
                            "UPDATE digest_line SET beside = @beside WHERE topic = @topic AND slip = @slip",
                            new
                            {
                                topic,
                                slip,
                                beside = edit.Beside.Value,
                            }
                        );
                }
                if (edit.Theme is { } anchor)
                {
                    var theme =
                        before.Themes.FirstOrDefault(t => t.Lines.Any(l => l.Slip == anchor))
                        ?? throw new BadInputException("theme", $"No theme of this digest holds slip {anchor}.");
                    db.Execute(
                        "DELETE FROM digest_theme WHERE topic = @topic AND slip IN @slips",
                        new { topic, slips = theme.Lines.Select(l => l.Slip.Value) }
                    );
                    if (!string.IsNullOrWhiteSpace(edit.Name.Value))
                        db.Execute(
                            "INSERT INTO digest_theme (topic, slip, name) VALUES (@topic, @anchor, @name)",
                            new
                            {
                                topic,
                                anchor,
                                name = Check.Text("name", edit.Name.Value, LongestName),
                            }
                        );
                }
                change.What = $"changed the digest of {before.Name}";
                return Compile(db, topic);
            }
        );

    /// <summary>Lays the lines of a digest beside a piece as loose material.</summary>
    /// <param name="piece">The piece; a new essay on the topic when null.</param>
    /// <returns>The piece.</returns>
    public Done<PieceNumber> IntoPiece(TopicNumber topic, PieceNumber? piece, Once once) =>
        papers.Run(
            "put a digest into a piece",
            once,
            change =>
            {
                var digest = Compile(change.Db, topic);
                if (digest.Themes.Count == 0)
                    throw new BadInputException("topic", "There is nothing in this digest yet.");
                if (piece is { } there && PieceRows.Find(change.Db, there) is null)
                    throw new BadInputException("piece", $"There is no P {there}.");
                var into = piece ?? PieceRows.Start(change, digest.Name, FormatRows.All(change.Db).First, digest.Intro, [topic]);
                foreach (var line in digest.Themes.SelectMany(t => t.Lines))
                    if (
                        change.Db.ExecuteScalar<int>(
                            "SELECT count(*) FROM material WHERE piece = @into AND slip = @Slip",
                            new { into, line.Slip }
                        ) == 0
                    )
                        MaterialRows.Add(change, into, Reference.To(line.Slip), null);
                change.What = piece is null
                    ? $"started P {into} from the digest of {digest.Name}"
                    : $"put the digest of {digest.Name} into P {into}";
                return into;
            }
        );

    internal static CompiledDigest Compile(SqliteConnection db, TopicNumber topic)
    {
        var (name, merged) = db.QuerySingleOrDefault<(string?, int?)>(
            "SELECT name, merged_into FROM topic WHERE number = @topic",
            new { topic }
        );
        if (name is null || merged is not null)
            throw new NotThereException($"topic {topic}");
        // Few slips have a source and nearly all are kept: the plus keeps the planner off the state's index.
        var passages = db.Query<PassageRow>(
                """
                SELECT s.number AS slip, s.text, s.locator, o.number AS source, o.title, o.creators, o.date FROM slip s
                    JOIN source o ON o.number = s.source
                WHERE +s.state IN ('kept', 'waiting') AND o.trashed_at IS NULL AND s.number IN (
                    SELECT slip FROM slip_topic WHERE topic IN (SELECT under FROM topic_under
                        WHERE topic = @topic) AND slip IN (SELECT number FROM slip INDEXED BY slip_source WHERE source IS NOT NULL)
                    UNION SELECT p.number FROM source_topic x JOIN slip p ON p.source = x.source
                        WHERE x.topic IN (SELECT under FROM topic_under WHERE topic = @topic))
                ORDER BY s.number
                """,
                new { topic }
            )
            .ToDictionary(p => SlipNumber.Of(p.Slip));
        var edits = db.Query<EditRow>("SELECT slip, words, based_on, hidden, beside FROM digest_line WHERE topic = @topic", new { topic })
            .ToDictionary(e => SlipNumber.Of(e.Slip));
        var names = db.Query<(int Slip, string Name)>("SELECT slip, name FROM digest_theme WHERE topic = @topic", new { topic })
            .ToDictionary(n => SlipNumber.Of(n.Slip), n => n.Name);
        var (intro, version) = db.QuerySingleOrDefault<(string?, int)>(
            "SELECT intro, version FROM digest WHERE topic = @topic",
            new { topic }
        );
        var hidden = edits.Values.Where(e => e.Hidden).Select(e => SlipNumber.Of(e.Slip)).ToHashSet();
        var computed = Digest.Of([
            .. passages
                .Values.Where(p => !hidden.Contains(SlipNumber.Of(p.Slip)))
                .Select(p => new DigestPassage(SlipNumber.Of(p.Slip), SourceNumber.Of(p.Source), p.Text)),
        ]);
        var themes = computed.Select(t => (t.Name, Lines: t.Lines.Select(Line).ToList())).ToList();
        foreach (var edit in edits.Values.Where(e => e.Beside is not null && !e.Hidden))
        {
            var from = themes.FindIndex(t => t.Lines.Any(l => l.Slip.Value == edit.Slip));
            var to = themes.FindIndex(t => t.Lines.Any(l => l.Slip.Value == edit.Beside));
            if (from < 0 || to < 0 || from == to)
                continue;
            var moved = themes[from].Lines.Single(l => l.Slip.Value == edit.Slip);
            themes[from].Lines.Remove(moved);
            themes[to].Lines.Add(moved);
        }
        return new CompiledDigest(
            topic,
            name,
            intro ?? "",
            version,
            passages.Values.Select(p => p.Source).Distinct().Count(),
            passages.Count,
            [
                .. themes
                    .Where(t => t.Lines.Count > 0)
                    .Select(t =>
                    {
                        var given = t.Lines.Where(l => names.ContainsKey(l.Slip)).Select(l => names[l.Slip]).FirstOrDefault();
                        return new CompiledTheme(
                            t.Lines[0].Slip,
                            given ?? t.Name,
                            given is not null,
                            t.Lines.Select(l => l.Source).Distinct().Count(),
                            t.Lines
                        );
                    }),
            ],
            [
                .. hidden
                    .Where(passages.ContainsKey)
                    .Order(Comparer<SlipNumber>.Create((a, b) => a.Value.CompareTo(b.Value)))
                    .Select(slip => Line(new DigestLine(slip, 0, [], []))),
            ]
        );

        CompiledLine Line(DigestLine line)
        {
            var (p, edit) = (passages[line.Slip], edits.GetValueOrDefault(line.Slip));
            // A line to be read: our own references and Markdown's marks say nothing here.
            var text = string.Join(' ', PlainText.Of(p.Text).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
            return new CompiledLine(
                line.Slip,
                text,
                edit?.Words,
                edit?.Words is not null && edit.BasedOn != text,
                SourceNumber.Of(p.Source),
                p.Title,
                p.Creators,
                p.Date,
                p.Locator,
                line.Carries,
                line.Against,
                line.With
            );
        }
    }

    private sealed record PassageRow
    {
        public int Slip { get; init; }
        public string Text { get; init; } = "";
        public string Locator { get; init; } = "";
        public int Source { get; init; }
        public string Title { get; init; } = "";
        public string Creators { get; init; } = "";
        public string Date { get; init; } = "";
    }

    private sealed record EditRow
    {
        public int Slip { get; init; }
        public string? Words { get; init; }
        public string BasedOn { get; init; } = "";
        public bool Hidden { get; init; }
        public int? Beside { get; init; }
    }
}
