using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Topics;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Topics;

public sealed record MergeRequest(TopicNumber Into);

/// <summary>Topics.</summary>
internal static class TopicEndpoints
{
    public static void MapTopics(this RouteGroupBuilder api)
    {
        api.MapGet("/topics", (TopicStore topics) => TypedResults.Ok(topics.List()));
        api.MapPost("/topics", Add);
        api.MapGet("/topics/{number}", Get);
        api.MapPatch("/topics/{number}", (TopicNumber number, TopicChange change, TopicStore topics, Request request) =>
            request.Ok(topics.Edit(number, change with { Version = request.Based(change.Version) }, request.Once)));
        api.MapPost("/topics/{number}/merge", (TopicNumber number, MergeRequest merge, TopicStore topics, Request request) =>
            request.Ok(topics.Merge(number, merge.Into, request.Once)));
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
}
