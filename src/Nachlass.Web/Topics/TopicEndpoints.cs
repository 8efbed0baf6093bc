using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Topics;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Topics;

public sealed record MergeRequest(TopicNumber Into);

/// <summary>The piece that takes a digest in; a new one when null.</summary>
public sealed record DigestIntoPiece(PieceNumber? Piece = null);

/// <summary>The piece a digest was laid beside.</summary>
public sealed record DigestPlaced(PieceNumber Piece);

/// <summary>A place that names a thing and is to link to it.</summary>
public sealed record LinkRequest(ThingKind InKind, int InNumber, string? Section = null);

/// <summary>Topics: each by itself, all at once, and what names them.</summary>
internal static class TopicEndpoints
{
    public static void MapTopics(this RouteGroupBuilder api)
    {
        api.MapGet("/topics", (TopicStore topics) => TypedResults.Ok(topics.List()));
        api.MapPost("/topics", Add);
        api.MapGet("/topics/{number}", Get);
        api.MapPatch(
            "/topics/{number}",
            (TopicNumber number, TopicChange change, TopicStore topics, Request request) =>
                request.Ok(topics.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapPost(
            "/topics/{number}/merge",
            (TopicNumber number, MergeRequest merge, TopicStore topics, Request request) =>
                request.Ok(topics.Merge(number, merge.Into, request.Once))
        );
        api.MapGet("/topics/near-names", (TopicStore topics) => TypedResults.Ok(topics.MayBeOne()));
        api.MapPost(
            "/topics/{number}/apart/{other}",
            (TopicNumber number, TopicNumber other, TopicStore topics, Request request) =>
                request.Ok(topics.KeepApart(number, other, request.Once))
        );
        api.MapGet("/topics/together", (TopicStore topics) => TypedResults.Ok(topics.GoTogether()));
        api.MapPost(
            "/topics/axes",
            (AxisChange made, TopicStore topics, Request request) => request.Ok(topics.AddAxis(made, request.Once))
        );
        api.MapPut(
            "/topics/axes/{number}",
            (TopicNumber number, AxisChange edit, TopicStore topics, Request request) =>
                request.Ok(topics.EditAxis(number, edit, request.Once))
        );
        api.MapGet("/topics/coverage", (CoverageStore coverage, TopicNumber? axis = null) => TypedResults.Ok(coverage.Map(axis)));
        api.MapGet(
            "/topics/words",
            (CoverageStore coverage, Word<WordsIn>? of = null, TopicNumber? topic = null, int months = 18) =>
                TypedResults.Ok(coverage.Words(of?.Value ?? WordsIn.Sources, topic, months))
        );
        api.MapGet("/topics/{number}/digest", (TopicNumber number, DigestStore digests) => TypedResults.Ok(digests.Get(number)));
        api.MapPatch(
            "/topics/{number}/digest",
            (TopicNumber number, DigestChange change, DigestStore digests, Request request) =>
                request.Ok(digests.Edit(number, change, request.Once))
        );
        api.MapPost("/topics/{number}/digest/piece", IntoPiece);
        api.MapGet("/exports/digests/{number}.md", Export).Produces<string>(200, "text/markdown");
        api.MapGet(
            "/mentions/{kind}/{number}",
            (Word<ThingKind> kind, int number, MentionStore mentions, string section = "") =>
                TypedResults.Ok(mentions.Of(new Reference(kind.Value, number), section))
        );
        api.MapPost(
            "/mentions/{kind}/{number}/link",
            (Word<ThingKind> kind, int number, LinkRequest link, MentionStore mentions, Request request) =>
                request.Ok(
                    mentions.Link(
                        new Reference(kind.Value, number),
                        link.Section ?? "",
                        new Reference(link.InKind, link.InNumber),
                        request.Once
                    )
                )
        );
        api.MapGet(
            "/links/{kind}/{number}",
            (Word<ThingKind> kind, int number, MentionStore mentions) => TypedResults.Ok(mentions.From(new Reference(kind.Value, number)))
        );
        api.MapGet("/links/offers", (MentionStore mentions, string? begun = null) => TypedResults.Ok(mentions.Offers(begun)));
    }

    private static Created<Topic> Add(TopicChange topic, TopicStore topics, Request request)
    {
        var done = topics.Add(topic, request.Once);
        return request.Created(done, $"/api/topics/{done.Answer.Number}");
    }

    private static Ok<TopicOpened> Get(TopicNumber number, TopicStore topics, Request request)
    {
        var opened = topics.Open(number);
        return request.Versioned(opened, opened.Topic.Version);
    }

    private static Ok<DigestPlaced> IntoPiece(TopicNumber number, DigestIntoPiece into, DigestStore digests, Request request)
    {
        var done = digests.IntoPiece(number, into.Piece, request.Once);
        return request.Ok(new Store.Papers.Done<DigestPlaced>(done.Command, new DigestPlaced(done.Answer)));
    }

    private static FileContentHttpResult Export(TopicNumber number, DigestStore digests)
    {
        var digest = digests.Get(number);
        return TypedResults.File(
            System.Text.Encoding.UTF8.GetBytes(
                DigestFile.Write(
                    digest.Name,
                    digest.Intro,
                    digest.Themes.Select(t =>
                        (
                            t.Name,
                            t.Lines.Select(l => new DigestFileLine(
                                l.Slip,
                                l.Shown,
                                l.Creators,
                                l.Date,
                                l.SourceTitle,
                                l.Locator,
                                [.. l.Against.Select(a => a.Slip)]
                            ))
                        )
                    )
                )
            ),
            "text/markdown; charset=utf-8",
            $"digest {digest.Name}.md"
        );
    }
}
