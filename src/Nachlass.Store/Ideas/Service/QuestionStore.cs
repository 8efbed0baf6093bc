using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Ideas.Service;

/// <summary>Puts together what a service of ideas is asked and told. The same papers and wish give the same question.</summary>
public sealed class QuestionStore(PapersFile papers, SparkStore sparks, IdeaStore ideas)
{
    /// <summary>How much a service is told: enough to work from, little enough to be read before it is sent.</summary>
    private const int MostTopics = 8,
        MostTerms = 10,
        MostNotes = 12,
        LongestNote = 240,
        MostExisting = 60,
        LongestTitle = 120;

    /// <summary>The question for a wish.</summary>
    /// <exception cref="BadInputException">The wish makes no sense; names the field.</exception>
    public IdeaQuestion For(IdeasWanted asked)
    {
        if (asked.Like is not null)
            throw new BadInputException(
                "like",
                "A service is asked for ideas on topics; those like another are made from your own papers."
            );
        var wish = ideas.Wish(asked);
        var told = asked.Notes ?? true;
        var topics = sparks
            .ByTopic(asked.Topics ?? [], asked.Format, atAGlance: true, IdeaStore.Period(asked))
            .SelectMany(some => some)
            .Where(spark => spark.Topic is not null)
            .GroupBy(spark => spark.Topic!.Value)
            .Take(MostTopics)
            .Select(group => (Topic: group.Key, Sparks: group.ToList()))
            .ToList();
        // Also a topic of which nothing can be made here, since there is too little on it; one that was named even with nothing.
        var named = asked.Topics is { Count: > 0 } those ? those : papers.Read(WithMaterial);
        foreach (var topic in named.Distinct().Where(n => topics.TrueForAll(t => t.Topic != n)).Take(MostTopics - topics.Count))
            topics.Add((topic, []));
        if (topics.Count == 0)
            throw new BadInputException("topics", "Nothing is on any topic yet; choose a topic to ask about.");
        return papers.Read(db =>
        {
            var all = topics.Select(t => One(db, t.Topic, t.Sparks, told)).ToList();
            return new IdeaQuestion(
                wish.Count,
                wish.Seed,
                asked.Format is { } key ? FormatRows.Named(db, key).Name : "",
                wish.Audience,
                asked.Outlet is { } outlet ? OutletRows.Get(db, outlet).Name : "",
                IdeaStore.Period(asked),
                db.ExecuteScalar<string?>(
                    "SELECT language FROM piece WHERE trashed_at IS NULL AND language <> '' GROUP BY language "
                        + "ORDER BY count(*) DESC, language LIMIT 1"
                ) ?? Languages.All[0].Tag,
                all,
                told ? Existing(db, all) : []
            );
        });
    }

    private static IReadOnlyList<TopicNumber> WithMaterial(SqliteConnection db) =>
        [
            .. db.Query<TopicNumber>(
                """
                SELECT x.topic FROM slip_topic x JOIN slip s ON s.number = x.slip WHERE s.state <> 'dropped'
                GROUP BY x.topic ORDER BY count(*) DESC, x.topic LIMIT @MostTopics
                """,
                new { MostTopics }
            ),
        ];

    private static QuestionTopic One(SqliteConnection db, TopicNumber number, List<Spark> sparks, bool told)
    {
        var name = db.ExecuteScalar<string>("SELECT name FROM topic WHERE number = @number", new { number })!;
        if (!told)
            return new QuestionTopic(number, name, [], []);
        return new QuestionTopic(
            number,
            name,
            [.. sparks.Where(s => s.Kind == SparkKind.Term).Take(MostTerms).Select(s => (string)s.Words["word"])],
            [
                .. sparks
                    .Where(s => s.Kind is not (SparkKind.Empty or SparkKind.Pair or SparkKind.Dropped))
                    .SelectMany(s => s.From)
                    .Where(of => of.Kind != OriginKind.Topic)
                    .Distinct()
                    // Each kind gets its turn, so that a topic's many terms leave room for what readers ask.
                    .GroupBy(of => of.Kind)
                    .SelectMany(kind => kind.Select((of, at) => (of, at)))
                    .OrderBy(of => of.at)
                    .Select(of => of.of)
                    .Concat(Newest(db, number))
                    .DistinctBy(of => (of.Kind, of.Number))
                    .Take(MostNotes)
                    .Select(of => new QuestionNote(of, PlainText.Headline(TextOf(db, of), LongestNote))),
            ]
        );
    }

    /// <summary>The newest slips on a topic: of one with little on it that is all there is to tell.</summary>
    private static IEnumerable<IdeaOrigin> Newest(SqliteConnection db, TopicNumber number) =>
        db.Query<(int Number, string Text)>(
                """
                SELECT s.number, s.text FROM (SELECT DISTINCT x.slip FROM topic_under u CROSS JOIN slip_topic x ON x.topic = u.under
                    WHERE u.topic = @number ORDER BY x.slip DESC LIMIT @MostNotes) t
                    CROSS JOIN slip s ON s.number = t.slip WHERE s.state <> 'dropped'
                """,
                new { number, MostNotes }
            )
            .Select(s => new IdeaOrigin(OriginKind.Slip, s.Number, PlainText.Headline(s.Text)));

    /// <summary>What is told of a thing: a slip's words, a source's title and summary; of anything else what it is called.</summary>
    private static string TextOf(SqliteConnection db, IdeaOrigin of) =>
        of.Kind switch
        {
            OriginKind.Slip => db.ExecuteScalar<string?>("SELECT text FROM slip WHERE number = @Number", new { of.Number }),
            OriginKind.Source => db.ExecuteScalar<string?>(
                "SELECT title || '. ' || summary FROM source WHERE number = @Number",
                new { of.Number }
            ),
            _ => null,
        } ?? of.Title;

    /// <summary>Titles of pieces on these topics, and ideas proposed on them before, the newest first.</summary>
    private static IReadOnlyList<string> Existing(SqliteConnection db, List<QuestionTopic> topics) =>
        [
            .. db.Query<string>(
                    """
                    SELECT text FROM (
                        SELECT p.title AS text, p.number AS number, 0 AS kind FROM piece p
                        WHERE p.trashed_at IS NULL AND p.title <> '' AND EXISTS
                            (SELECT 1 FROM piece_topic x JOIN topic_under u ON u.under = x.topic
                                WHERE x.piece = p.number AND u.topic IN (SELECT value FROM json_each(@topics)))
                        UNION ALL
                        SELECT o.text, o.number, 1 FROM offered_idea o WHERE o.topic IN (SELECT value FROM json_each(@topics)))
                    ORDER BY kind, number DESC LIMIT @MostExisting
                    """,
                    new { topics = Mapping.List(topics.Select(t => t.Number.Value)), MostExisting }
                )
                .Select(text => PlainText.Headline(text, LongestTitle)),
        ];
}
