using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Ideas;

/// <summary>Looks through the papers for what ideas can be made from.</summary>
public sealed class SparkStore(
    PapersFile papers,
    Nearby nearby,
    TopicStore topics,
    CoverageStore coverage,
    DigestStore digests,
    AdviceStore advice,
    AskStore asks,
    OccasionStore occasions,
    SlipColumns columns
)
{
    /// <summary>The newest texts of a topic that are read for its terms.</summary>
    private const int MostTexts = 240,
        TextsAtAGlance = 60;

    /// <summary>How many sparks of a kind a topic gives at most, and how many topics are looked through when none is named.</summary>
    private const int MostOfAKind = 24,
        MostTopics = 24;

    /// <summary>Digests that are compiled at a glance, at most: each looks at all passages of a topic.</summary>
    private const int MostDigests = 8;

    /// <summary>Days ahead that occasions are looked for, and days after which something could have a sequel.</summary>
    private const int Ahead = 120,
        Old = 300;

    /// <summary>Kept slips and sources on a topic from which on a format it never had is worth a thought.</summary>
    private const int Enough = 5;

    /// <summary>Of the formats a topic never had, so many: each says little by itself.</summary>
    private const int MostEmpty = 3;

    private const int LongestWords = 90;

    /// <summary>Sparks one topic after the other, so that the first are there before the last topic was looked through.</summary>
    /// <param name="wanted">The topics; none for all that have material.</param>
    /// <param name="format">Key of a format they are wanted for; null for any.</param>
    /// <param name="atAGlance">For a few ideas on each of many topics: fewer texts are read, what was dropped is not looked through, and
    /// digests are only where topics are few.</param>
    /// <param name="period">Days for which they are wanted: occasions of these are looked for, and topics that have one come first; null
    /// for the time ahead.</param>
    public IEnumerable<IReadOnlyList<Spark>> ByTopic(
        IReadOnlyList<TopicNumber> wanted,
        string? format,
        bool atAGlance = false,
        IdeaPeriod? period = null
    )
    {
        var all = topics.List();
        var named = all.ToDictionary(t => t.Number);
        foreach (var number in wanted.Where(number => !named.ContainsKey(number)))
            throw new BadInputException("topics", $"There is no topic {number}.");
        var chosen =
            wanted.Count > 0
                ? wanted.Distinct().Select(number => named[number]).ToList()
                : [.. all.Where(t => t.Kept + t.Sources > 0).OrderByDescending(t => t.Kept + t.Sources).Take(MostTopics)];
        var coming = period is null
            ? occasions.Coming(papers.Today, Ahead)
            : occasions.Coming(period.From, period.To.DayNumber - period.From.DayNumber);
        if (period is not null && wanted.Count == 0)
            chosen = [.. chosen.OrderByDescending(t => coming.Any(o => o.Occasion.Topics.Any(on => on.Number == t.Number)))];
        var creators = papers.Read(db => Stems.Of(string.Join(' ', db.Query<string>("SELECT creators FROM source"))).Select(s => s.Root));
        var words = new TermWords(creators.ToHashSet());
        var slips = columns.Now();
        // What takes a look at all topics at once is left for later, so that the first idea need not wait for it.
        var texts = atAGlance ? TextsAtAGlance : MostTexts;
        var atHand = new Dictionary<TopicNumber, List<Spark>>();
        Topic? first = null;
        foreach (var topic in chosen)
        {
            atHand[topic.Number] = AtHand(topic, slips, words, texts);
            if (atHand[topic.Number].Count == 0)
                continue;
            first = topic;
            yield return atHand[topic.Number];
            break;
        }
        var wishes = asks.List();
        var map = coverage.Map(null);
        var pairs = topics.GoTogether().Where(p => p.Strength > LogLikelihood.Floor).ToList();
        var again = atAGlance ? [] : advice.Again();
        var isMany = atAGlance && chosen.Count > MostDigests;
        foreach (var topic in chosen.Where(t => t != first))
        {
            var own = atHand.GetValueOrDefault(topic.Number) ?? AtHand(topic, slips, words, texts);
            yield return [.. own, .. Further(topic, own)];
        }
        if (first is not null)
            yield return Further(first, atHand[first.Number]);

        List<Spark> Further(Topic topic, List<Spark> own) =>
            [
                .. Asked(topic, wishes),
                .. On(topic, coming, own.Find(s => s.Kind == SparkKind.Term)?.Words["term"] ?? topic.Name),
                .. NeverIn(topic, map, format),
                .. papers.Read(db => Together(db, topic, pairs, chosen).ToList()),
                .. isMany ? [] : Opposed(topic),
                .. Dropped(topic, again),
            ];
    }

    private List<Spark> AtHand(Topic topic, Columns slips, TermWords words, int texts) =>
        papers.Read<List<Spark>>(db => [.. Terms(db, topic, words, texts), .. Questions(db, slips, topic), .. Sequels(db, topic)]);

    private IEnumerable<Spark> Terms(SqliteConnection db, Topic topic, TermWords words, int most)
    {
        var texts = db.Query<(string Kind, int Number, string Text)>(
                """
                SELECT * FROM (SELECT 'slip', s.number, s.text FROM (SELECT DISTINCT x.slip FROM topic_under u
                    CROSS JOIN slip_topic x ON x.topic = u.under WHERE u.topic = @Number ORDER BY x.slip DESC LIMIT @most) t
                    CROSS JOIN slip s ON s.number = t.slip WHERE s.state <> 'dropped')
                UNION ALL SELECT * FROM (SELECT 'source', s.number, s.title || '. ' || s.summary FROM (SELECT DISTINCT x.source
                    FROM topic_under u CROSS JOIN source_topic x ON x.topic = u.under WHERE u.topic = @Number
                    ORDER BY x.source DESC LIMIT @most) t CROSS JOIN source s ON s.number = t.source WHERE s.trashed_at IS NULL)
                """,
                new { topic.Number, most }
            )
            .Select(t => (Thing: new Reference(Enum.Parse<ThingKind>(t.Kind, true), t.Number), t.Text))
            .ToList();
        return CharacteristicTerms
            .Of(texts, nearby.Holders, nearby.Count, words, MostOfAKind)
            .Select(term => new Spark(
                SparkKind.Term,
                topic.Number,
                new Dictionary<string, object>
                {
                    ["term"] = term.Spoken,
                    ["any"] = term.Any,
                    ["word"] = term.Words,
                    ["topic"] = topic.Name,
                },
                [.. term.Things.Select(thing => Origin(db, thing))],
                $"“{term.Words}” stands in {term.Texts} of {Counted(texts.Count, "text")} on {topic.Name}, and "
                    + (term.Elsewhere == 0 ? "nowhere else." : $"in {term.Elsewhere} of {nearby.Count - texts.Count} elsewhere.")
            ));
    }

    private static IEnumerable<Spark> Questions(SqliteConnection db, Columns columns, Topic topic)
    {
        var under = db.Query<int>("SELECT under FROM topic_under WHERE topic = @Number", new { topic.Number });
        var open = columns
            .Under(under)
            .Where(s => columns.Slips[s] is { Kind: SlipKind.Question, State: not SlipState.Dropped } && !columns.IsUsed(s))
            .OrderDescending()
            .Take(MostOfAKind)
            .ToList();
        return SlipRows
            .All(db, open)
            .Values.OrderByDescending(q => q.Number.Value)
            .Select(q => new Spark(
                SparkKind.Question,
                topic.Number,
                Words(("question", Question(q.Text)), ("topic", topic.Name)),
                [new IdeaOrigin(OriginKind.Slip, q.Number.Value, PlainText.Headline(q.Text))],
                $"You asked that on {Day(q.Day)}; it stands in no piece yet."
            ));
    }

    private IEnumerable<Spark> Sequels(SqliteConnection db, Topic topic) =>
        db.Query<(int Number, string Title, DateOnly OutOn)>(
                """
                SELECT min(r.number), p.title, p.out_on FROM piece p JOIN release r ON r.piece = p.number
                WHERE p.trashed_at IS NULL AND p.out_on <= @before AND p.number IN (
                    SELECT x.piece FROM piece_topic x JOIN topic_under u ON u.under = x.topic WHERE u.topic = @Number)
                GROUP BY p.number ORDER BY p.out_on DESC LIMIT @MostOfAKind
                """,
                new
                {
                    topic.Number,
                    before = papers.Today.AddDays(-Old),
                    MostOfAKind,
                }
            )
            .Select(r => new Spark(
                SparkKind.Sequel,
                topic.Number,
                Words(("release", r.Title), ("year", r.OutOn.Year.ToString(CultureInfo.InvariantCulture)), ("topic", topic.Name)),
                [new IdeaOrigin(OriginKind.Release, r.Number, r.Title)],
                $"It went out on {Day(r.OutOn)}, {Counted(papers.Today.DayNumber - r.OutOn.DayNumber, "day")} ago."
            ));

    private static IEnumerable<Spark> Together(SqliteConnection db, Topic topic, List<TogetherNamed> pairs, List<Topic> chosen)
    {
        foreach (var pair in pairs.Where(p => p.First.Number == topic.Number || p.Second.Number == topic.Number))
        {
            var other = pair.First.Number == topic.Number ? pair.Second : pair.First;
            // Where both are asked for, it belongs to the one that comes first.
            var isOthers = chosen.FindIndex(t => t.Number == other.Number) is >= 0 and var at && at < chosen.IndexOf(topic);
            var isWritten = db.ExecuteScalar<bool>(
                """
                SELECT EXISTS (SELECT 1 FROM piece p WHERE p.trashed_at IS NULL
                    AND EXISTS (SELECT 1 FROM piece_topic WHERE piece = p.number AND topic = @first)
                    AND EXISTS (SELECT 1 FROM piece_topic WHERE piece = p.number AND topic = @second))
                """,
                new { first = topic.Number, second = other.Number }
            );
            if (!isOthers && !isWritten)
                yield return new Spark(
                    SparkKind.Pair,
                    topic.Number,
                    Words(("topic", topic.Name), ("other", other.Name)),
                    [
                        new IdeaOrigin(OriginKind.Topic, topic.Number.Value, topic.Name),
                        new IdeaOrigin(OriginKind.Topic, other.Number.Value, other.Name),
                    ],
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{Counted(pair.Shared, "thing")} stand under both, {pair.Times:0.0} times as many as by chance, and no piece does."
                    )
                );
        }
    }

    private static IEnumerable<Spark> Asked(Topic topic, IReadOnlyList<AskShown> wishes) =>
        wishes
            .Where(a => a.AnsweredBy.Count == 0 && a.Piece is null && a.Topics.Any(t => t.Number == topic.Number))
            .OrderByDescending(a => a.Weight)
            .Take(MostOfAKind)
            .Select(a => new Spark(
                SparkKind.Ask,
                topic.Number,
                Words(("ask", Question(a.Ask)), ("topic", topic.Name)),
                [new IdeaOrigin(OriginKind.Ask, a.Number.Value, a.Ask)],
                string.Create(CultureInfo.InvariantCulture, $"{Counted(a.People, "reader")} want it, with a weight of {a.Weight:0.0}.")
            ));

    private IEnumerable<Spark> On(Topic topic, IReadOnlyList<ComingOccasion> coming, object term) =>
        coming
            .Where(o => o.Occasion.Topics.Any(t => t.Number == topic.Number))
            .Take(MostOfAKind)
            .Select(o => new Spark(
                SparkKind.Occasion,
                topic.Number,
                Words(
                    ("occasion", Amid(o.Occasion.Name)),
                    ("month", o.From.ToString("MMMM", CultureInfo.InvariantCulture)),
                    ("topic", topic.Name),
                    ("term", (string)term)
                ),
                [new IdeaOrigin(OriginKind.Occasion, o.Occasion.Number.Value, o.Occasion.Name)],
                $"It is on {Day(o.From)}, in {Counted(Math.Max(0, o.From.DayNumber - papers.Today.DayNumber), "day")}."
            ));

    private static IEnumerable<Spark> NeverIn(Topic topic, CoverageMap map, string? format)
    {
        if (topic.Kept + topic.Sources < Enough)
            return [];
        var filled = map.Cells.Where(c => c.Topic == topic.Number).Select(c => c.Column).ToHashSet();
        var inUse = map.Cells.Where(c => c.InWork + c.Out > 0).Select(c => c.Column).ToHashSet();
        return map
            .Columns.Where(c => !filled.Contains(c.Key) && (format is null ? inUse.Contains(c.Key) : c.Key == format))
            .Take(MostEmpty)
            .Select(c => new Spark(
                SparkKind.Empty,
                topic.Number,
                Words(("format", WithArticle(c.Name.ToLowerInvariant())), ("form", c.Name.ToLowerInvariant()), ("topic", topic.Name)),
                [new IdeaOrigin(OriginKind.Topic, topic.Number.Value, topic.Name)],
                $"{Counted(topic.Kept, "kept slip")} and {Counted(topic.Sources, "source")} are on it, and no "
                    + $"{c.Name.ToLowerInvariant()} in hand, in work or out."
            ));
    }

    private IEnumerable<Spark> Opposed(Topic topic)
    {
        var lines = digests.Get(topic.Number).Themes.SelectMany(t => t.Lines).ToDictionary(l => l.Slip);
        return lines
            .Values.SelectMany(line => line.Against.Select(against => (line, against)))
            .Where(pair => pair.line.Slip.Value < pair.against.Slip.Value && lines.ContainsKey(pair.against.Slip))
            .Take(MostOfAKind)
            .Select(pair =>
            {
                var other = lines[pair.against.Slip];
                return new Spark(
                    SparkKind.Opposed,
                    topic.Number,
                    Words(("first", Bare(pair.line.Text)), ("second", Bare(other.Text)), ("topic", topic.Name)),
                    [
                        new IdeaOrigin(OriginKind.Slip, pair.line.Slip.Value, PlainText.Headline(pair.line.Text)),
                        new IdeaOrigin(OriginKind.Slip, other.Slip.Value, PlainText.Headline(other.Text)),
                    ],
                    $"{pair.line.SourceTitle} and {other.SourceTitle} speak against each other: {pair.against.Because}"
                );
            });
    }

    private static IEnumerable<Spark> Dropped(Topic topic, IReadOnlyList<WorthAnotherLook> again) =>
        again
            .Where(a => a.Slip.Topics.Any(t => t.Number == topic.Number))
            .Select(a => new Spark(
                SparkKind.Dropped,
                topic.Number,
                Words(("slip", Sentence(PlainText.Headline(a.Slip.Title, LongestWords))), ("topic", topic.Name)),
                [
                    new IdeaOrigin(OriginKind.Slip, a.Slip.Thing.Number, a.Slip.Title),
                    new IdeaOrigin(Enum.Parse<OriginKind>(a.New.Kind.ToString()), a.New.Number, a.NewTitle),
                ],
                $"Something new reads like it: {a.NewTitle}."
            ));

    private static IdeaOrigin Origin(SqliteConnection db, Reference thing) =>
        new(Enum.Parse<OriginKind>(thing.Kind.ToString()), thing.Number, Links.TitleOf(db, thing) ?? "");

    private static Dictionary<string, object> Words(params (string Place, string Words)[] words) =>
        words.ToDictionary(w => w.Place, w => (object)w.Words);

    /// <summary>Ended as a sentence, so that another can follow.</summary>
    private static string Sentence(string text) => text.Length > 0 && text[^1] is '.' or '?' or '!' or '…' or '”' ? text : text + ".";

    /// <summary>What is asked: all of it up to its last question mark where it is short, else the sentence that asks, else the first
    /// words.</summary>
    private static string Question(string text)
    {
        var whole = PlainText.WithReferences(text).Trim();
        // What is noted behind the question, such as where to look, is no part of it.
        if (whole.LastIndexOf('?') is > 0 and var mark)
            whole = whole[..(mark + 1)] + (mark + 1 < whole.Length && whole[mark + 1] is '”' or '’' or ')' ? whole[mark + 1] : "");
        return whole.Length <= 2 * LongestWords
            ? Sentence(whole)
            : Paragraphs.Of(text).SelectMany(Paragraphs.Sentences).FirstOrDefault(s => s.EndsWith('?') && s.Length <= 2 * LongestWords)
                ?? Sentence(PlainText.Headline(text, LongestWords));
    }

    private static string Bare(string text) => PlainText.Headline(text, LongestWords).Trim('“', '”', '"').TrimEnd('.');

    private static string WithArticle(string noun) => $"{("aeiou".Contains(noun[0], StringComparison.Ordinal) ? "an" : "a")} {noun}";

    internal static string Counted(int count, string noun) => count == 1 ? $"1 {noun}" : $"{count} {noun}s";

    /// <summary>A name as it stands in the middle of a sentence: <i>The nine days of the ice</i> begins small there.</summary>
    internal static string Amid(string name) => name.StartsWith("The ", StringComparison.Ordinal) ? $"the {name[4..]}" : name;

    internal static string Day(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
}
