using System.Globalization;
using Nachlass.Core.Ideas;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>Ideas that were proposed and what was decided about them, as the file <c>ideas.md</c> of a set of papers.</summary>
internal static class IdeasFile
{
    public const string Name = "ideas.md";

    /// <summary>The file's content; null when there are none, and no angles of the writer's own.</summary>
    public static string? Write(PapersImage papers)
    {
        if (papers is { OfferedIdeas.Count: 0, Angles: null, OrderWeights: null, Decks: null })
            return null;
        var file = new FrontMatterWriter();
        if (papers.OrderWeights is { } weights)
        {
            var weighed = new FrontMatterWriter();
            foreach (var term in Enum.GetValues<OrderTerm>())
                weighed.Add(term.ToString().ToLowerInvariant(), weights[term].ToString("R", CultureInfo.InvariantCulture));
            file.Add("order-weights", [weighed]);
        }
        if (papers.Decks is { } decks)
            file.Add(
                "decks",
                decks.Select(deck =>
                    new FrontMatterWriter()
                        .Add("deck", deck.Name)
                        .Add(
                            "cards",
                            deck.Cards.Select(card =>
                                new FrontMatterWriter().Add("text", card.Text).Add("used", card.IsUsed ? "true" : null)
                            )
                        )
                )
            );
        if (papers.Angles is { } angles)
            file.Add(
                "angles",
                angles.Select(a =>
                    new FrontMatterWriter()
                        .Add("shape", a.Shape)
                        .Add("for", a.For)
                        .Add("wording", a.Wording)
                        .Add("off", a.IsOff ? "true" : null)
                )
            );
        if (papers.OfferedIdeas.Count > 0)
            file.Add("offered", papers.OfferedIdeas.Select(Record));
        return file.Write("Ideas that were proposed, what was decided about them, and the angles they are laid with.");
    }

    /// <summary>The writer's own angles; null when there are none.</summary>
    public static IReadOnlyList<Angle>? Angles(FrontMatter? f) =>
        f?.Records("angles").Select(One).ToList() is { Count: > 0 } angles ? angles : null;

    /// <summary>The writer's own decks; null when there are none.</summary>
    public static IReadOnlyList<Deck>? Decks(FrontMatter? f)
    {
        if (f?.Records("decks") is not { Count: > 0 } records)
            return null;
        try
        {
            return Core.Ideas.Decks.Checked([
                .. records.Select(d => new Deck(
                    d.Word("deck"),
                    [.. d.Records("cards").Select(c => new DeckCard(c.Word("text"), c.Word("used") == "true"))]
                )),
            ]);
        }
        catch (BadInputException bad)
        {
            throw new UnreadableFileException(Name, bad.Message);
        }
    }

    /// <summary>How much each term counts in the order of topics; null when it is as papers begin with.</summary>
    public static OrderWeights? Weights(FrontMatter? f) =>
        f?.Records("order-weights") is [var weighed, ..]
            ? new OrderWeights(
                Weight(weighed, OrderTerm.Season),
                Weight(weighed, OrderTerm.Rising),
                Weight(weighed, OrderTerm.Effect),
                Weight(weighed, OrderTerm.Asks),
                Weight(weighed, OrderTerm.Coverage)
            )
            : null;

    private static double Weight(FrontMatter f, OrderTerm term) =>
        double.TryParse(f.Word(term.ToString().ToLowerInvariant()), NumberStyles.Float, CultureInfo.InvariantCulture, out var weight)
        && weight is >= 0 and <= OrderWeights.Most
            ? weight
            : throw new UnreadableFileException(Name, $"{term} has no weight from 0 to {OrderWeights.Most:0}.");

    private static Angle One(FrontMatter f)
    {
        var angle = new Angle(
            Check.Text("shape", f.Word("shape"), Angle.LongestShape),
            f.Enum("for", SparkKind.Term),
            Check.Text("wording", f.Word("wording"), Angle.LongestWording),
            f.Word("off") == "true"
        );
        var fault = Core.Ideas.Angles.Fault(angle);
        return fault is null ? angle : throw new UnreadableFileException(Name, $"“{angle.Shape}”: {fault}");
    }

    private static FrontMatterWriter Record(OfferedIdea idea)
    {
        var record = new FrontMatterWriter()
            .Add("number", idea.Number.Value)
            .Add("round", idea.Round)
            .Add("at", idea.At)
            .Add("seed", idea.Seed)
            .Add("text", idea.Idea.Text)
            .Add("shape", idea.Idea.Shape)
            .Add("of", idea.Idea.Kind)
            .Add("topic", idea.Idea.Topic?.Value)
            .Add("because", idea.Idea.Because)
            .Add("state", idea.State)
            .Add("slip", idea.Slip?.Value);
        if (idea.Idea.From.Count > 0)
            record.Add("from", idea.Idea.From.Select(Origin));
        if (idea.SaidIn is { } said)
            record
                .Add("said-piece", said.Piece.Value)
                .Add("said-title", said.Title)
                .Add("said-passage", said.Passage)
                .Add("said-share", said.Share.ToString("R", CultureInfo.InvariantCulture));
        if (idea.Near is { } near)
            record.Add("near", near.Number).Add("near-title", near.Title);
        return record;
    }

    private static FrontMatterWriter Origin(IdeaOrigin origin) =>
        new FrontMatterWriter().Add("kind", origin.Kind).Add("number", origin.Number).Add("title", origin.Title);

    /// <param name="instant">Reads an instant, moved where the papers are.</param>
    public static IReadOnlyList<OfferedIdea> Read(FrontMatter? f, Func<FrontMatter, string, DateTimeOffset?> instant) =>
        f is null ? [] : [.. f.Records("offered").Select(record => One(record, instant))];

    private static OfferedIdea One(FrontMatter f, Func<FrontMatter, string, DateTimeOffset?> instant) =>
        new(
            OfferNumber.Of(Above(f, "number")),
            f.Number("round") ?? 1,
            instant(f, "at") ?? DateTimeOffset.UnixEpoch,
            Above(f, "seed"),
            new MadeIdea(
                Check.Text("text", f.Word("text"), OfferedIdea.LongestText),
                Check.Length("shape", f.Word("shape"), Angle.LongestShape),
                f.Enum("of", SparkKind.Term),
                f.Number("topic") is { } topic ? TopicNumber.Of(topic) : null,
                [.. f.Records("from").Select(o => new IdeaOrigin(o.Enum("kind", OriginKind.Slip), Above(o, "number"), o.Word("title")))],
                f.Word("because")
            ),
            f.Number("said-piece") is { } piece
                ? new SaidBefore(PieceNumber.Of(piece), f.Word("said-title"), f.Word("said-passage"), Share(f.Word("said-share")))
                : null,
            f.Number("near") is { } near ? new IdeaOrigin(OriginKind.Slip, near, f.Word("near-title")) : null,
            f.Enum("state", OfferState.Waiting),
            f.Number("slip") is { } slip ? SlipNumber.Of(slip) : null,
            1
        );

    private static int Above(FrontMatter f, string field) =>
        f.Number(field) is > 0 and var number ? number : throw new UnreadableFileException(Name, $"an idea has no {field} above 0.");

    private static double Share(string word) =>
        double.TryParse(word, NumberStyles.Float, CultureInfo.InvariantCulture, out var share) && share is >= 0 and <= 1
            ? share
            : throw new UnreadableFileException(Name, $"“{word}” is no share from 0 to 1.");
}
