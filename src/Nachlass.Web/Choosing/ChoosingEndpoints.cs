using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Choosing;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Choosing;

/// <summary>Which ideas are asked for, as it stands in an address.</summary>
internal sealed record IdeasAsked(
    [FromQuery(Name = "most")] int Most = 50,
    [FromQuery(Name = "skip")] int Skip = 0,
    [FromQuery(Name = "topic")] TopicNumber? Topic = null,
    [FromQuery(Name = "hours")] double? Hours = null
)
{
    public WorthAsked Whole => new(Most, Skip, Topic, Hours);
}

/// <summary>Which idea to develop next, and how that is weighed.</summary>
internal static class ChoosingEndpoints
{
    public static void MapChoosing(this RouteGroupBuilder api)
    {
        api.MapGet("/worth", ([AsParameters] IdeasAsked asked, WorthStore worth) => TypedResults.Ok(worth.Best(asked.Whole)));
        api.MapGet("/worth/about", (WorthStore worth) => TypedResults.Ok(worth.About()));
        api.MapGet(
            "/worth/beside",
            (
                WorthStore worth,
                SlipNumber? slip = null,
                UsableNumber? usable = null,
                SlipNumber? otherSlip = null,
                UsableNumber? otherUsable = null
            ) => TypedResults.Ok(worth.Beside(Key("slip", slip, usable), Key("otherSlip", otherSlip, otherUsable)))
        );
        api.MapGet("/worth/choices", (WeighingStore weighing) => TypedResults.Ok(weighing.Choices()));
        api.MapPut(
            "/worth/weights",
            (WeighingChange weighed, WeighingStore weighing, Request request) => request.Ok(weighing.Weigh(weighed, request.Once))
        );
        api.MapGet(
            "/slips/{number}/worth",
            (SlipNumber number, WorthStore worth) =>
                TypedResults.Ok(worth.Of(number) ?? throw new NotThereException($"slip {number} in sight"))
        );
    }

    private static int Key(string field, SlipNumber? slip, UsableNumber? usable) =>
        (slip, usable) switch
        {
            ({ } number, null) => number.Value,
            (null, { } paragraph) => -paragraph.Value,
            _ => throw new BadInputException(field, "Name a slip or a marked paragraph."),
        };
}
