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
}

/// <summary>A topic opened: everything on it, by kind.</summary>
public sealed record TopicOpened(Topic Topic, IReadOnlyList<Topic> Narrower, IReadOnlyList<Slip> Slips, int SlipsInAll, IReadOnlyList<Source> Sources,
    IReadOnlyList<Piece> Pieces, IReadOnlyList<LinkLine> LinkedFrom, IReadOnlyList<HistoryLine> History);

/// <summary>Reads and changes topics.</summary>
public sealed class TopicStore(PapersFile papers, HistoryStore history)
{
    public const int MostShown = 200;

    private const string Own =
        "t.number, t.name, t.colour, t.wider, w.name AS wider_name, t.merged_into, t.version, (SELECT json_group_array(name) FROM topic_alias a WHERE a.topic = t.number) AS aliases";

    /// <summary>Topics with names and aliases only.</summary>
    internal const string Names = $"SELECT {Own} FROM topic t LEFT JOIN topic w ON w.number = t.wider WHERE t.merged_into IS NULL ORDER BY lower(t.name)";

    private static readonly string WithFigures =
        $"""
        SELECT {Own},
            count(*) FILTER (WHERE s.state = 'waiting' OR (s.state = 'held' AND s.held_until <= @today)) AS waiting,
            count(*) FILTER (WHERE s.state = 'kept') AS kept,
            count(*) FILTER (WHERE s.state = 'held' AND (s.held_until IS NULL OR s.held_until > @today)) AS held,
            count(*) FILTER (WHERE s.state = 'kept' AND {SlipRows.Used}) AS used,
            (SELECT count(*) FROM source_topic x JOIN source o ON o.number = x.source WHERE x.topic = t.number AND o.trashed_at IS NULL) AS sources,
            (SELECT count(*) FROM piece_topic x JOIN piece p ON p.number = x.piece WHERE x.topic = t.number AND p.trashed_at IS NULL) AS pieces,
            (SELECT max(p.out_on) FROM piece_topic x JOIN piece p ON p.number = x.piece WHERE x.topic = t.number AND p.trashed_at IS NULL) AS last_out
        FROM topic t LEFT JOIN topic w ON w.number = t.wider
        LEFT JOIN slip_topic st ON st.topic = t.number LEFT JOIN slip s ON s.number = st.slip
        """;

    /// <summary>All topics with their figures, by name.</summary>
    public IReadOnlyList<Topic> List() => papers.Read(db =>
        db.Query<Topic>($"{WithFigures} WHERE t.merged_into IS NULL GROUP BY t.number ORDER BY lower(t.name)", new { today = papers.Today }).ToList());

    private Topic Get(SqliteConnection db, TopicNumber number) =>
        db.QuerySingleOrDefault<Topic>($"{WithFigures} WHERE t.number = @number GROUP BY t.number", new { number, today = papers.Today })
        ?? throw new NotThereException($"topic {number}");

    public TopicOpened Open(TopicNumber number)
    {
        var done = history.Of(Reference.To(number));
        return papers.Read(db =>
        {
            var topic = Get(db, number);
            var arguments = new { number, MostShown, today = papers.Today };
            var narrower = db.Query<Topic>($"{WithFigures} WHERE t.wider = @number AND t.merged_into IS NULL GROUP BY t.number ORDER BY lower(t.name)", arguments);
            var slips = db.Query<Slip>(
                $"""
                SELECT {SlipRows.Columns} FROM slip_topic x JOIN slip s ON s.number = x.slip WHERE x.topic = @number AND s.state <> 'dropped'
                ORDER BY s.state = 'held', s.pull IS NULL, s.pull DESC, s.caught_at DESC LIMIT @MostShown
                """, arguments);
            var all = db.ExecuteScalar<int>("SELECT count(*) FROM slip_topic x JOIN slip s ON s.number = x.slip WHERE x.topic = @number AND s.state <> 'dropped'", arguments);
            var sources = db.Query<Source>(
                $"SELECT {SourceRows.Columns} FROM source_topic x JOIN source s ON s.number = x.source WHERE x.topic = @number AND s.trashed_at IS NULL ORDER BY lower(s.title) LIMIT @MostShown", arguments);
            var pieces = PieceRows.List(db, "p.number IN (SELECT piece FROM piece_topic WHERE topic = @number)", arguments);
            return new TopicOpened(topic, [.. narrower], [.. slips], all, [.. sources], pieces,
                Links.To(db, Reference.To(number), topic.Aliases.Prepend(topic.Name)), done);
        });
    }

    public Done<Topic> Add(TopicChange made, Once once)
    {
        var name = TopicName.Clean(made.Name);
        return papers.Run($"made the topic {name}", once, change =>
        {
            if (TopicRows.Find(change.Db, name) is { } there) throw new BadInputException("name", $"There is a topic “{Get(change.Db, there).Name}” already.");
            var number = TopicRows.Add(change.Db, name);
            return Apply(change, Get(change.Db, number), made with { Name = null });
        });
    }

    /// <summary>Renames, recolours, gives aliases or a wider topic.</summary>
    public Done<Topic> Edit(TopicNumber number, TopicChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run("changed a topic", once, change =>
        {
            var topic = Get(change.Db, number);
            if (topic.Version != based) throw new StaleException($"The topic {topic.Name}", topic);
            var after = Apply(change, topic, edit);
            change.What = after.Name == topic.Name ? $"changed the topic {topic.Name}" : $"renamed the topic {topic.Name} to {after.Name}";
            return after;
        });
    }

    private Topic Apply(Change change, Topic topic, TopicChange edit)
    {
        var name = edit.Name is null ? topic.Name : TopicName.Clean(edit.Name);
        RefuseTaken(change.Db, topic.Number, name, "name");
        var wider = edit.Wider.Or(topic.Wider);
        for (var up = wider; up is { } at; up = change.Db.ExecuteScalar<int?>("SELECT wider FROM topic WHERE number = @at", new { at }) is { } next ? TopicNumber.Of(next) : null)
        {
            if (at == topic.Number) throw new BadInputException("wider", "A topic can't stand under itself.");
            Get(change.Db, at);
        }
        change.Db.Execute("UPDATE topic SET name = @name, colour = @colour, wider = @wider, version = version + 1 WHERE number = @Number",
            new { name, colour = (edit.Colour ?? topic.Colour).Kept(), wider, topic.Number });
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
        // Links in texts name the topic, so its old name goes on leading here.
        if (!name.Equals(topic.Name, StringComparison.OrdinalIgnoreCase)) AddAlias(change.Db, topic.Number, topic.Name);
        return Get(change.Db, topic.Number);
    }

    private static void AddAlias(SqliteConnection db, TopicNumber topic, string name) =>
        db.Execute("INSERT INTO topic_alias (topic, name) SELECT @topic, @name WHERE NOT EXISTS (SELECT 1 FROM topic_alias WHERE lower(name) = lower(@name))", new { topic, name });

    private void RefuseTaken(SqliteConnection db, TopicNumber number, string name, string field)
    {
        if (TopicRows.Find(db, name) is { } other && other != number)
            throw new BadInputException(field, $"“{name}” is the topic “{Get(db, other).Name}” already; merge the two instead.");
    }

    /// <summary>Merges a topic into another: slips, sources, pieces, narrower topics and aliases follow, and its name becomes an alias.</summary>
    public Done<Topic> Merge(TopicNumber number, TopicNumber into, Once once) => papers.Run("merged two topics", once, change =>
    {
        if (number == into) throw new BadInputException("into", "A topic can't be merged into itself.");
        var db = change.Db;
        var (from, to) = (Get(db, number), Get(db, into));
        if (to.MergedInto is not null || from.MergedInto is not null) throw new BadInputException("into", "One of the two was merged already.");
        if (to.Wider == number) db.Execute("UPDATE topic SET wider = @Wider WHERE number = @into", new { from.Wider, into });
        foreach (var (table, column) in ((string, string)[])[("slip_topic", "slip"), ("source_topic", "source"), ("piece_topic", "piece")])
            db.Execute(
                $"""
                INSERT OR IGNORE INTO {table} ({column}, topic) SELECT {column}, @into FROM {table} WHERE topic = @number ORDER BY id;
                DELETE FROM {table} WHERE topic = @number;
                """, new { number, into });
        db.Execute(
            """
            UPDATE topic SET wider = @into WHERE wider = @number;
            UPDATE topic SET merged_into = @into, wider = NULL, version = version + 1 WHERE number = @number;
            UPDATE topic_alias SET topic = @into WHERE topic = @number;
            UPDATE topic SET version = version + 1 WHERE number = @into;
            """, new { number, into });
        AddAlias(db, into, from.Name);
        change.What = $"merged the topic {from.Name} into {to.Name}";
        return Get(db, into);
    });
}
