using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Topics;

/// <summary>A topic to be made, or a change to one; what is not set stays.</summary>
public sealed record TopicChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }
    public TopicColour? Colour { get; init; }
    public IReadOnlyList<string>? Aliases { get; init; }

    /// <summary>Number of the wider topic, or null for none.</summary>
    public Maybe<TopicNumber?> Wider { get; init; }

    /// <summary>The share of what goes out that it should have, in per cent, or null for none.</summary>
    public Maybe<int?> Wish { get; init; }
}

/// <summary>A column of an axis.</summary>
/// <param name="Number">The topic it is; null for a new one, or one that there is by this name.</param>
/// <param name="Version">The version its name was read from.</param>
public sealed record AxisColumn(TopicNumber? Number, string? Name, int? Version = null);

/// <summary>An axis to be made, or changed: all of its columns, in order.</summary>
/// <param name="Name">Of a new one.</param>
public sealed record AxisChange(string? Name, IReadOnlyList<AxisColumn>? Columns);

/// <summary>An axis against which topics are held: a wider topic, and those under it in the writer's order.</summary>
public sealed record Axis(TopicNumber Number, string Name, IReadOnlyList<Topic> Columns)
{
    public const int Most = 24;
}

/// <summary>A topic opened: everything on it and under it, by kind.</summary>
/// <param name="NewSince">Kept slips that came in since it was last gone through.</param>
/// <param name="Takeaways">What its sources say, with whole texts.</param>
/// <param name="GoesWith">Topics that share material with it, the strongest first.</param>
/// <param name="Near">Topics that may be the same.</param>
public sealed record TopicOpened(
    Topic Topic,
    IReadOnlyList<Topic> Narrower,
    IReadOnlyList<Slip> Slips,
    int SlipsInAll,
    IReadOnlyList<Source> Sources,
    IReadOnlyList<Piece> Pieces,
    int NewSince,
    IReadOnlyList<Slip> Takeaways,
    IReadOnlyList<TogetherNamed> GoesWith,
    IReadOnlyList<TopicMark> Near,
    IReadOnlyList<ClaimLine> Claims,
    IReadOnlyList<LinkLine> LinkedFrom,
    IReadOnlyList<HistoryLine> History
);

/// <summary>What goes together, with names.</summary>
public sealed record TogetherNamed(TopicMark First, TopicMark Second, int Shared, double Strength, double Times);

/// <summary>Two topics that may be one, and what merging the second into the first would change.</summary>
/// <param name="Texts">How many texts name the second by a link or a tag.</param>
public sealed record MayBeOne(Topic First, Topic Second, NearReason Reason, int Slips, int Sources, int Pieces, int Texts);

/// <summary>Reads and changes topics.</summary>
public sealed class TopicStore(PapersFile papers, HistoryStore history, SlipColumns columns)
{
    public const int MostShown = 200;

    /// <summary>How many pairs that may be one are offered at once.</summary>
    private const int MostOffered = 12;

    private const string Own =
        "t.number, t.name, t.colour, t.wider, w.name AS wider_name, t.merged_into, t.wish, t.place, t.version, "
        + "(SELECT json_group_array(name) FROM topic_alias a WHERE a.topic = t.number) AS aliases";

    /// <summary>Topics with names and aliases only.</summary>
    internal const string Names =
        $"SELECT {Own} FROM topic t LEFT JOIN topic w ON w.number = t.wider WHERE t.merged_into IS NULL ORDER BY lower(t.name)";

    /// <summary>All topics with their figures, by name.</summary>
    public IReadOnlyList<Topic> List() => papers.Read<IReadOnlyList<Topic>>(All);

    private List<Topic> All(SqliteConnection db) => TopicFigures.Of(db, db.Query<Topic>(Names).AsList(), columns.Now(), papers.Today);

    /// <summary>A topic without figures, also one that was merged and only answers for its old number.</summary>
    private static Topic Get(SqliteConnection db, TopicNumber number) =>
        db.QuerySingleOrDefault<Topic>(
            $"SELECT {Own} FROM topic t LEFT JOIN topic w ON w.number = t.wider WHERE t.number = @number",
            new { number }
        ) ?? throw new NotThereException($"topic {number}");

    /// <summary>A topic with its figures as the running command has left them.</summary>
    private Topic Figured(SqliteConnection db, TopicNumber number) =>
        TopicFigures.Of(db, db.Query<Topic>(Names).AsList(), SlipColumns.Read(db), papers.Today).FirstOrDefault(t => t.Number == number)
        ?? Get(db, number);

    public TopicOpened Open(TopicNumber number)
    {
        var done = history.Of(Reference.To(number));
        return papers.Read(db =>
        {
            var now = columns.Now();
            var all = All(db);
            var topic = all.FirstOrDefault(t => t.Number == number) ?? Get(db, number);
            var arguments = new
            {
                number,
                MostShown,
                today = papers.Today,
            };
            var narrower = all.Where(t => t.Wider == number);
            const string on = "IN (SELECT under FROM topic_under WHERE topic = @number)";
            var slips = db.Query<Slip>(
                $"""
                SELECT {SlipRows.Columns} FROM slip s WHERE s.number IN (SELECT slip FROM slip_topic
                    WHERE topic {on}) AND s.state <> 'dropped'
                ORDER BY s.state = 'held', s.pull IS NULL, s.pull DESC, s.caught_at DESC LIMIT @MostShown
                """,
                arguments
            );
            var sources = db.Query<Source>(
                    $"SELECT {SourceRows.Columns} FROM source s WHERE s.number IN (SELECT source FROM source_topic "
                        + $"WHERE topic {on}) AND s.trashed_at IS NULL ORDER BY lower(s.title) LIMIT @MostShown",
                    arguments
                )
                .AsList();
            var takeaways = db.Query<Slip>(
                $"SELECT {SlipRows.Columns} FROM slip s WHERE s.source IN (SELECT value "
                    + "FROM json_each(@sources)) AND s.state <> 'dropped' ORDER BY s.source, s.kind = 'quote', s.number LIMIT @MostShown",
                new { sources = Mapping.List(sources.Select(o => o.Number.Value)), MostShown }
            );
            var pieces = PieceRows.List(db, $"p.number IN (SELECT piece FROM piece_topic WHERE topic {on})", arguments);
            var gone = db.Query<int>("SELECT slip FROM gone_through WHERE kind = 'topic' AND number = @number", arguments).ToHashSet();
            var fresh = TopicFigures.Under(now, all)(number).Count(slip => now.Slips[slip].State == SlipState.Kept && !gone.Contains(slip));
            return new TopicOpened(
                topic,
                [.. narrower],
                [.. slips],
                topic.Waiting + topic.Kept + topic.Held,
                sources,
                pieces,
                fresh,
                [.. takeaways],
                [.. GoTogether(db, number).Take(8)],
                NearOf(db, number),
                ClaimStore.On(db, number),
                Links.To(db, Reference.To(number), topic.Aliases.Prepend(topic.Name)),
                done
            );
        });
    }

    /// <summary>Topics that share material, the strongest pairs first.</summary>
    public IReadOnlyList<TogetherNamed> GoTogether() => papers.Read<IReadOnlyList<TogetherNamed>>(db => GoTogether(db));

    /// <param name="with">Only pairs with this topic; all when null.</param>
    private List<TogetherNamed> GoTogether(SqliteConnection db, TopicNumber? with = null)
    {
        const string tagged = """
            WITH tagged AS (
                SELECT x.slip * 4 AS thing, x.topic FROM slip_topic x
                UNION ALL SELECT x.source * 4 + 1, x.topic FROM source_topic x JOIN source s ON s.number = x.source
                    WHERE s.trashed_at IS NULL
                UNION ALL SELECT x.piece * 4 + 2, x.topic FROM piece_topic x JOIN piece p ON p.number = x.piece WHERE p.trashed_at IS NULL)
            """;
        var now = columns.Now();
        var counts = db.Query<int>("SELECT topic FROM source_topic UNION ALL SELECT topic FROM piece_topic")
            .CountBy(t => t)
            .ToDictionary(c => TopicNumber.Of(c.Key), c => c.Value);
        foreach (var slips in now.OnTopic)
            counts[TopicNumber.Of(slips.Key)] = counts.GetValueOrDefault(TopicNumber.Of(slips.Key)) + slips.Count();
        // Things with one topic go with nothing; they are only counted.
        var pairs = with is { } one
            ? db.Query<(int A, int B, int Shared)>(
                """
                SELECT min(a, b), max(a, b), count(*) FROM (
                    SELECT m.topic AS a, o.topic AS b FROM slip_topic m JOIN slip_topic o ON o.slip = m.slip AND o.topic <> m.topic
                        WHERE m.topic = @one
                    UNION ALL SELECT m.topic, o.topic FROM source_topic m
                        JOIN source_topic o ON o.source = m.source AND o.topic <> m.topic WHERE m.topic = @one
                    UNION ALL SELECT m.topic, o.topic FROM piece_topic m
                        JOIN piece_topic o ON o.piece = m.piece AND o.topic <> m.topic WHERE m.topic = @one)
                GROUP BY 1, 2
                """,
                new { one }
            )
            : db.Query<(int A, int B, int Shared)>(
                tagged
                    + " SELECT m.topic, o.topic, count(*) FROM tagged m JOIN tagged o ON o.thing = m.thing "
                    + "AND o.topic > m.topic GROUP BY m.topic, o.topic"
            );
        var all =
            now.Tagged
            + db.ExecuteScalar<int>(
                "SELECT (SELECT count(DISTINCT source) FROM source_topic) + (SELECT count(DISTINCT piece) FROM piece_topic)"
            );
        var marks = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number);
        return
        [
            .. Together
                .Of(pairs.Select(p => (TopicNumber.Of(p.A), TopicNumber.Of(p.B), p.Shared)), counts, all)
                .Select(t => new TogetherNamed(marks[t.First], marks[t.Second], t.Shared, t.Strength, t.Times)),
        ];
    }

    /// <summary>Topics that may be the same as one, without what merging would change.</summary>
    private static List<TopicMark> NearOf(SqliteConnection db, TopicNumber number)
    {
        var topics = db.Query<Topic>(Names).ToDictionary(t => t.Number);
        var apart = Apart(db);
        return
        [
            .. NearNames
                .Among([.. topics.Values])
                .Where(p => (p.First == number || p.Second == number) && !apart.Contains((p.First.Value, p.Second.Value)))
                .Select(p => topics[p.First == number ? p.Second : p.First])
                .Select(t => new TopicMark(t.Number, t.Name, t.Colour)),
        ];
    }

    private static HashSet<(int, int)> Apart(SqliteConnection db) =>
        db.Query<(int, int)>("SELECT first, second FROM topic_apart").ToHashSet();

    /// <summary>Topics that may be one, with what merging them would change.</summary>
    public IReadOnlyList<MayBeOne> MayBeOne() => papers.Read<IReadOnlyList<MayBeOne>>(MayBeOne);

    private List<MayBeOne> MayBeOne(SqliteConnection db)
    {
        var all = All(db).ToDictionary(t => t.Number);
        var pairs = NearNames.Among([.. all.Values]);
        if (pairs.Count == 0)
            return [];
        var apart = Apart(db);
        return
        [
            .. pairs
                .Where(p => !apart.Contains((p.First.Value, p.Second.Value)))
                .Take(MostOffered)
                .Select(p =>
                {
                    // The fuller one stays.
                    var (a, b) = (all[p.First], all[p.Second]);
                    if (b.Kept + b.Waiting + b.Sources > a.Kept + a.Waiting + a.Sources)
                        (a, b) = (b, a);
                    return new MayBeOne(
                        a,
                        b,
                        p.Reason,
                        db.ExecuteScalar<int>("SELECT count(*) FROM slip_topic WHERE topic = @Number", new { b.Number }),
                        db.ExecuteScalar<int>("SELECT count(*) FROM source_topic WHERE topic = @Number", new { b.Number }),
                        db.ExecuteScalar<int>("SELECT count(*) FROM piece_topic WHERE topic = @Number", new { b.Number }),
                        Renaming.Naming(db, [.. b.Aliases.Prepend(b.Name)], tags: true).Count
                    );
                }),
        ];
    }

    /// <summary>Says that two topics that look like one are two.</summary>
    public Done<IReadOnlyList<MayBeOne>> KeepApart(TopicNumber one, TopicNumber other, Once once) =>
        papers.Run(
            "kept two topics apart",
            once,
            change =>
            {
                var (first, second) = one.Value < other.Value ? (one, other) : (other, one);
                change.What = $"kept {Get(change.Db, first).Name} and {Get(change.Db, second).Name} apart";
                change.Db.Execute("INSERT OR IGNORE INTO topic_apart (first, second) VALUES (@first, @second)", new { first, second });
                return (IReadOnlyList<MayBeOne>)MayBeOne(change.Db);
            }
        );

    public Done<Topic> Add(TopicChange made, Once once)
    {
        var name = TopicName.Clean(made.Name);
        return papers.Run(
            $"made the topic {name}",
            once,
            change =>
            {
                if (TopicRows.Find(change.Db, name) is { } there)
                    throw new BadInputException("name", $"There is a topic “{Get(change.Db, there).Name}” already.");
                var number = TopicRows.Add(change.Db, name);
                return Apply(change, Get(change.Db, number), made with { Name = null });
            }
        );
    }

    /// <summary>Makes an axis of the writer's own against which topics are held: a wider topic and its narrower ones, in order.</summary>
    /// <exception cref="BadInputException">A name is missing, taken or twice there.</exception>
    public Done<Axis> AddAxis(AxisChange made, Once once)
    {
        var name = TopicName.Clean(made.Name);
        return papers.Run(
            $"made the axis {name}",
            once,
            change =>
            {
                if (TopicRows.Find(change.Db, name) is { } there)
                    throw new BadInputException("name", $"There is a topic “{Get(change.Db, there).Name}” already.");
                return SetAxis(change, TopicRows.Add(change.Db, name), made.Columns ?? []);
            }
        );
    }

    /// <summary>Sets the names and the order of an axis. A topic that is left out stays, and stands under it no more.</summary>
    /// <exception cref="StaleException">One was changed elsewhere meanwhile.</exception>
    public Done<Axis> EditAxis(TopicNumber number, AxisChange edit, Once once) =>
        papers.Run(
            "changed an axis",
            once,
            change =>
            {
                change.What = $"changed the axis {Get(change.Db, number).Name}";
                return SetAxis(change, number, edit.Columns ?? []);
            }
        );

    private Axis SetAxis(Change change, TopicNumber axis, IReadOnlyList<AxisColumn> columns)
    {
        if (columns.Count is 0 or > Axis.Most)
            throw new BadInputException("columns", $"An axis has 1 to {Axis.Most} columns.");
        var names = columns.Select(c => TopicName.Clean(c.Name, "columns")).ToList();
        if (names.CountBy(n => n, StringComparer.OrdinalIgnoreCase).FirstOrDefault(n => n.Value > 1) is { Value: > 1 } twice)
            throw new BadInputException("columns", $"“{twice.Key}” is there twice.");
        var had = change
            .Db.Query<TopicNumber>("SELECT number FROM topic WHERE wider = @axis AND merged_into IS NULL", new { axis })
            .ToHashSet();
        foreach (var gone in had.Where(n => columns.All(c => c.Number != n)))
            Apply(change, Get(change.Db, gone), new TopicChange { Wider = new(true, null) });
        for (var at = 0; at < columns.Count; at++)
        {
            var topic = Get(change.Db, columns[at].Number ?? TopicRows.Find(change.Db, names[at]) ?? TopicRows.Add(change.Db, names[at]));
            if (columns[at].Version is { } based && based != topic.Version)
                throw new StaleException($"The topic {topic.Name}", topic);
            if (topic.Name != names[at] || topic.Wider != axis)
                Apply(change, topic, new TopicChange { Name = names[at], Wider = new(true, axis) });
            change.Db.Execute("UPDATE topic SET place = @place WHERE number = @Number", new { place = at + 1, topic.Number });
        }
        var now = change.Db.Query<Topic>(Names).Where(t => t.Wider == axis).OrderBy(t => t.Place);
        return new Axis(axis, Get(change.Db, axis).Name, [.. now]);
    }

    /// <summary>Renames, recolours, gives aliases or a wider topic.</summary>
    public Done<Topic> Edit(TopicNumber number, TopicChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a topic",
            once,
            change =>
            {
                var topic = Get(change.Db, number);
                if (topic.Version != based)
                    throw new StaleException($"The topic {topic.Name}", topic);
                if (change.Db.ExecuteScalar<int?>("SELECT merged_into FROM topic WHERE number = @number", new { number }) is { } into)
                    throw new ClashException($"{topic.Name} became part of {Get(change.Db, TopicNumber.Of(into)).Name}; change that one.");
                var after = Apply(change, topic, edit);
                change.What =
                    after.Name == topic.Name ? $"changed the topic {topic.Name}" : $"renamed the topic {topic.Name} to {after.Name}";
                return after;
            }
        );
    }

    private Topic Apply(Change change, Topic topic, TopicChange edit)
    {
        var name = edit.Name is null ? topic.Name : TopicName.Clean(edit.Name);
        RefuseTaken(change.Db, topic.Number, name, "name");
        var wider = edit.Wider.Or(topic.Wider);
        for (
            var up = wider;
            up is { } at;
            up = change.Db.ExecuteScalar<int?>("SELECT wider FROM topic WHERE number = @at", new { at }) is { } next
                    ? TopicNumber.Of(next)
                    : null
        )
        {
            if (at == topic.Number)
                throw new BadInputException("wider", "A topic can't stand under itself.");
            Get(change.Db, at);
        }
        var wish = edit.Wish.Or(topic.Wish);
        if (edit.Wish.IsSet || edit.Wider.IsSet)
            WishedShares.Check(
                [.. change.Db.Query<Topic>(Names).Select(t => t.Number == topic.Number ? t with { Wish = wish, Wider = wider } : t)],
                topic.Number
            );
        change.Db.Execute(
            "UPDATE topic SET name = @name, colour = @colour, wider = @wider, wish = @wish, version = version + 1 WHERE number = @Number",
            new
            {
                name,
                wish,
                colour = (edit.Colour ?? topic.Colour).Kept(),
                wider,
                topic.Number,
            }
        );
        if (edit.Aliases is not null)
        {
            var aliases = edit.Aliases.Select(a => TopicName.Clean(a, "aliases")).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
            change.Db.Execute("DELETE FROM topic_alias WHERE topic = @Number AND name NOT IN @aliases", new { topic.Number, aliases });
            foreach (var alias in aliases.Except(topic.Aliases))
            {
                RefuseTaken(change.Db, topic.Number, alias, "aliases");
                AddAlias(change.Db, topic.Number, alias);
            }
        }
        if (!name.Equals(topic.Name, StringComparison.Ordinal))
        {
            // Every text that names it follows; what is outside of the papers may still use the old name, so that goes on leading here.
            Renaming.Follow(change, [topic.Name], name, tags: true);
            if (!name.Equals(topic.Name, StringComparison.OrdinalIgnoreCase))
                AddAlias(change.Db, topic.Number, topic.Name);
        }
        return Figured(change.Db, topic.Number);
    }

    private static void AddAlias(SqliteConnection db, TopicNumber topic, string name) =>
        db.Execute(
            "INSERT INTO topic_alias (topic, name) SELECT @topic, @name WHERE NOT EXISTS (SELECT 1 FROM topic_alias "
                + "WHERE lower(name) = lower(@name))",
            new { topic, name }
        );

    private static void RefuseTaken(SqliteConnection db, TopicNumber number, string name, string field)
    {
        if (TopicRows.Find(db, name) is { } other && other != number)
            throw new BadInputException(field, $"“{name}” is the topic “{Get(db, other).Name}” already; merge the two instead.");
    }

    /// <summary>Merges a topic into another: slips, sources, pieces, narrower topics and aliases follow, and its name becomes an
    /// alias.</summary>
    public Done<Topic> Merge(TopicNumber number, TopicNumber into, Once once) =>
        papers.Run(
            "merged two topics",
            once,
            change =>
            {
                if (number == into)
                    throw new BadInputException("into", "A topic can't be merged into itself.");
                var db = change.Db;
                var (from, to) = (Get(db, number), Get(db, into));
                if (to.MergedInto is not null || from.MergedInto is not null)
                    throw new BadInputException("into", "One of the two was merged already.");
                if (to.Wider == number)
                    db.Execute("UPDATE topic SET wider = @Wider WHERE number = @into", new { from.Wider, into });
                foreach (
                    var (table, column) in ((string, string)[])
                        [("slip_topic", "slip"), ("source_topic", "source"), ("piece_topic", "piece"), ("occasion_topic", "occasion")]
                )
                    db.Execute(
                        $"""
                        INSERT OR IGNORE INTO {table} ({column}, topic) SELECT {column}, @into FROM {table}
                            WHERE topic = @number ORDER BY id;
                        DELETE FROM {table} WHERE topic = @number;
                        """,
                        new { number, into }
                    );
                db.Execute(
                    """
                    UPDATE release_topic SET topic = @into WHERE topic = @number;
                    UPDATE offered_idea SET topic = @into WHERE topic = @number;
                    UPDATE topic SET wider = @into WHERE wider = @number;
                    UPDATE topic SET wish = coalesce(wish, (SELECT wish FROM topic WHERE number = @number)) WHERE number = @into;
                    UPDATE topic SET merged_into = @into, wider = NULL, wish = NULL, version = version + 1 WHERE number = @number;
                    UPDATE topic_alias SET topic = @into WHERE topic = @number;
                    UPDATE topic SET version = version + 1 WHERE number = @into;
                    """,
                    new { number, into }
                );
                Renaming.Follow(change, [.. from.Aliases.Prepend(from.Name)], to.Name, tags: true);
                AddAlias(db, into, from.Name);
                change.What = $"merged the topic {from.Name} into {to.Name}";
                return Figured(db, into);
            }
        );
}
