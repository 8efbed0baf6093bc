using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Exchange.Words;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>What a word means, and other words for it.</summary>
/// <param name="Says">Why there is nothing; empty when there is something.</param>
public sealed record WordMeanings(string Word, string Language, IReadOnlyList<Meaning> Meanings, string Says);

/// <summary>Words on hand while a draft is written: its language, a look over it, spelling and synonyms.</summary>
internal static class WritingEndpoints
{
    private const int LongestWord = 100;

    public static void MapWriting(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/words/{word}/synonyms",
            (string word, WordNet wordNet, string? language = null) => TypedResults.Ok(Synonyms(word, language, wordNet))
        );
        api.MapGet("/spelling/words", (SpellingStore spelling) => TypedResults.Ok(spelling.Words()));
        api.MapPost(
            "/spelling/words",
            (OwnWord word, SpellingStore spelling, Request request) => request.Ok(spelling.Add(word, request.Once))
        );
        api.MapPost(
            "/spelling/words/remove",
            (OwnWord word, SpellingStore spelling, Request request) => request.Ok(spelling.Remove(word, request.Once))
        );
        api.MapPost("/replace/preview", (ReplaceAsked asked, ReplaceStore replacing) => TypedResults.Ok(replacing.Preview(asked)));
        api.MapPost(
            "/replace",
            (Replacement replacement, ReplaceStore replacing, Request request) => request.Ok(replacing.Replace(replacement, request.Once))
        );
        api.MapGet("/pieces/{number}/sitting", (PieceNumber number, SittingStore sittings) => TypedResults.Ok(sittings.Of(number)));
        api.MapPost(
            "/pieces/{number}/sitting/end",
            (PieceNumber number, SittingStore sittings, Request request) => request.Ok(sittings.End(number, request.Once))
        );
        api.MapPut(
            "/pieces/{number}/aims",
            (PieceNumber number, AimsChange aims, SittingStore sittings, Request request) =>
                request.Ok(sittings.Aim(number, aims, request.Once))
        );
        MapAloud(api);
        api.MapGet("/languages", () => TypedResults.Ok(Languages.All));
        api.MapGet(
            "/pieces/{number}/check",
            (PieceNumber number, OutStore outs, string? without = null) => TypedResults.Ok(outs.Check(number, Kinds(without)))
        );
    }

    private static void MapAloud(RouteGroupBuilder api)
    {
        api.MapGet("/pieces/{number}/reading", (PieceNumber number, AloudStore aloud) => TypedResults.Ok(aloud.Read(number)));
        api.MapGet("/reading-pace", (AloudStore aloud) => TypedResults.Ok(aloud.Pace()));
        api.MapPost("/reading-pace", (ReadingDone reading, AloudStore aloud) => TypedResults.Ok(aloud.Learn(reading)));
        api.MapGet("/shots", (AloudStore aloud, DateOnly day) => TypedResults.Ok(aloud.Of(day)));
        api.MapPost(
            "/shots",
            (ShotChange made, AloudStore aloud, Request request) => request.Created(aloud.Add(made, request.Once), "/api/shots")
        );
        api.MapPatch(
            "/shots/{number}",
            (ShotNumber number, ShotChange change, AloudStore aloud, Request request) =>
                request.Ok(aloud.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/shots/{number}",
            (ShotNumber number, AloudStore aloud, Request request) => request.Ok(aloud.Remove(number, request.Once))
        );
    }

    private static WordMeanings Synonyms(string word, string? tag, WordNet wordNet)
    {
        var clean = Check.Text("word", word, LongestWord);
        var language =
            Languages.Find(tag ?? Languages.Usual)
            ?? throw new BadInputException("language", $"The languages are {string.Join(", ", Languages.All.Select(l => l.Tag))}.");
        if (!language.HasSynonyms)
            return new WordMeanings(clean, language.Tag, [], $"There are no synonyms at hand for {language.Name}.");
        var meanings = wordNet.Of(clean);
        return new WordMeanings(clean, language.Tag, meanings, meanings.Count > 0 ? "" : $"“{clean}” is not among the words at hand.");
    }

    /// <summary>Kinds with commas between.</summary>
    private static HashSet<CheckKind> Kinds(string? without) =>
        [
            .. (without ?? "")
                .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Select(word =>
                    Enum.TryParse<CheckKind>(word, true, out var kind) && Enum.IsDefined(kind)
                        ? kind
                        : throw new BadInputException(
                            "without",
                            $"“{word}” is nothing that is looked for: {string.Join(", ", Enum.GetNames<CheckKind>()).ToLowerInvariant()}."
                        )
                ),
        ];
}
