using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>Words that no word list has and that are right.</summary>
/// <param name="Own">Those the writer said are right.</param>
/// <param name="Names">Names that stand in the papers.</param>
public sealed record WordsKnown(IReadOnlyList<string> Own, IReadOnlyList<string> Names);

/// <summary>A word that is spelt right.</summary>
public sealed record OwnWord(string? Word);

/// <summary>The writer's own word list.</summary>
public sealed class SpellingStore(PapersFile papers)
{
    public const int LongestWord = 100,
        MostWords = 20_000;

    public WordsKnown Words() => papers.Read(Of);

    private static WordsKnown Of(SqliteConnection db)
    {
        var titles = db.Query<string>(
            "SELECT name FROM topic UNION ALL SELECT name FROM topic_alias UNION ALL SELECT title FROM source "
                + "UNION ALL SELECT title FROM piece"
        );
        var people = db.Query<string>("SELECT creators FROM source WHERE creators <> ''").SelectMany(PersonName.ReadAll);
        var texts = db.Query<string>("SELECT text FROM slip UNION ALL SELECT text FROM draft");
        var names = titles
            .SelectMany(NamesInTexts.InTitle)
            .Concat(people.SelectMany(p => NamesInTexts.InTitle($"{p.Given} {p.Family}")))
            .Concat(NamesInTexts.Of(texts))
            .Distinct(StringComparer.Ordinal)
            .Order(StringComparer.Ordinal);
        return new WordsKnown(Own(db), [.. names]);
    }

    internal static IReadOnlyList<string> Own(SqliteConnection db) => db.Query<string>("SELECT word FROM own_word ORDER BY word").AsList();

    public Done<WordsKnown> Add(OwnWord made, Once once) =>
        papers.Run(
            "took a word into the own list",
            once,
            change =>
            {
                var word = Checked(made.Word);
                if (change.Db.ExecuteScalar<int>("SELECT count(*) FROM own_word") >= MostWords)
                    throw new ClashException($"The list has {MostWords:N0} words, and takes no more.");
                Put(change.Db, word);
                change.What = $"took “{word}” into the own list of words";
                return Of(change.Db);
            }
        );

    public Done<WordsKnown> Remove(OwnWord gone, Once once) =>
        papers.Run(
            "took a word out of the own list",
            once,
            change =>
            {
                var word = Checked(gone.Word);
                if (change.Db.Execute("DELETE FROM own_word WHERE word = @word", new { word }) == 0)
                    throw new NotThereException($"word “{word}” in the own list");
                change.What = $"took “{word}” out of the own list of words";
                return Of(change.Db);
            }
        );

    internal static void Put(SqliteConnection db, string word) =>
        db.Execute("INSERT OR IGNORE INTO own_word (word) VALUES (@word)", new { word });

    private static string Checked(string? word)
    {
        var clean = Check.Text("word", word, LongestWord);
        return clean.Any(char.IsWhiteSpace) ? throw new BadInputException("word", "One word at a time, please.") : clean;
    }
}
