using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Sources;

internal static class SourceRows
{
    public const string Columns = """
        s.number, s.type, s.title, s.creators, s.container, s.date, s.address, s.language, s.details, s.summary, s.comments, s.is_new,
            s.caught_at, s.trashed_at, s.version,
        (SELECT count(*) FROM slip p WHERE p.source = s.number AND p.state <> 'dropped') AS passages,
        (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY st.id)
            FROM source_topic st JOIN topic t ON t.number = st.topic WHERE st.source = s.number) AS topics
        """;

    /// <summary>The columns with the source's own words, which may be long and are not wanted in lists.</summary>
    public const string Whole = Columns + ", s.text";

    /// <exception cref="NotThereException">There is no such source.</exception>
    public static Source Get(SqliteConnection db, SourceNumber number) =>
        db.QuerySingleOrDefault<Source>($"SELECT {Whole} FROM source s WHERE s.number = @number", new { number })
        ?? throw new NotThereException($"source {number}");

    /// <inheritdoc cref="Capture.SlipRows.All"/>
    public static Dictionary<int, Source> All(SqliteConnection db, IReadOnlyCollection<int> numbers) =>
        numbers.Count == 0
            ? []
            : db.Query<Source>(
                    $"SELECT {Columns} FROM source s WHERE s.number IN (SELECT value FROM json_each(@numbers))",
                    new { numbers = Mapping.List(numbers) }
                )
                .ToDictionary(source => source.Number.Value);

    /// <summary>Titles by number.</summary>
    public static IReadOnlyDictionary<SourceNumber, string> Titles(SqliteConnection db, IReadOnlyCollection<SourceNumber> numbers) =>
        numbers.Count == 0
            ? new Dictionary<SourceNumber, string>()
            : db.Query<(int Number, string Title)>(
                    "SELECT number, title FROM source WHERE number IN (SELECT value FROM json_each(@numbers))",
                    new { numbers = Mapping.List(numbers.Select(n => n.Value)) }
                )
                .ToDictionary(s => SourceNumber.Of(s.Number), s => s.Title);

    /// <summary>The source with this address, or a new one that takes its title from the words around it.</summary>
    public static Source ForAddress(Change change, string address, string text, IReadOnlyList<TopicNumber> topics)
    {
        var known = change.Db.QueryFirstOrDefault<int?>(
            "SELECT number FROM source WHERE address = @address AND address <> '' AND trashed_at IS NULL",
            new { address }
        );
        if (known is { } found)
            return Get(change.Db, SourceNumber.Of(found));
        // Words before or behind an address name it; what is left around one in the middle of a sentence is no title.
        var at = text.IndexOf(address, StringComparison.Ordinal);
        var sides = new[] { text[..at], text[(at + address.Length)..] }.Select(side =>
            side.Trim(' ', '-', '–', '—', ':', '(', ')', '<', '>', '.', '\n')
        );
        var words = sides.Where(side => side.Length > 0).ToList() is [var one] ? PlainText.Headline(one) : "";
        var title =
            words.Length > 0 ? words
            : Uri.TryCreate(address, UriKind.Absolute, out var uri) ? uri.Host + uri.AbsolutePath.TrimEnd('/')
            : address;
        return Add(
            change,
            new Source
            {
                Number = default,
                Type = SourceType.Page,
                Title = title,
                Address = address,
            },
            topics
        );
    }

    public static Source Add(Change change, Source source, IReadOnlyList<TopicNumber> topics)
    {
        var number = SourceNumber.Of(
            change.Db.ExecuteScalar<int>(
                """
                INSERT INTO source (type, title, creators, container, date, address, language, details, summary, comments, text, is_new,
                    caught_at)
                VALUES (@type, @Title, @Creators, @Container, @Date, @Address, @Language, @Details, @Summary, @Comments, @Text, @IsNew,
                    @Now) RETURNING number
                """,
                new
                {
                    type = source.Type.Kept(),
                    source.Title,
                    source.Creators,
                    source.Container,
                    source.Date,
                    source.Address,
                    source.Language,
                    source.Details,
                    source.Summary,
                    source.Comments,
                    source.Text,
                    source.IsNew,
                    change.Now,
                }
            )
        );
        SetTopics(change.Db, number, topics, isNew: true);
        Links.Write(change.Db, Reference.To(number), source.Summary + "\n" + source.Comments, isNew: true);
        return Get(change.Db, number);
    }

    public static void SetTopics(SqliteConnection db, SourceNumber source, IReadOnlyList<TopicNumber> topics, bool isNew = false)
    {
        if (!isNew)
            db.Execute(
                "DELETE FROM source_topic WHERE source = @source AND topic NOT IN @topics",
                new { source, topics = topics.Select(t => t.Value) }
            );
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO source_topic (source, topic) VALUES (@source, @topic)", new { source, topic });
    }
}
