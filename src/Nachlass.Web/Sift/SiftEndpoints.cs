using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Capture;
using Nachlass.Store.Sift;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Sift;

/// <summary>Which pile is gone through, as it stands in an address.</summary>
internal sealed record PileAsked(
    [FromQuery(Name = "order")] Word<PileOrder>? Order = null,
    [FromQuery(Name = "view")] ViewNumber? View = null,
    [FromQuery(Name = "topic")] TopicNumber? Topic = null,
    [FromQuery(Name = "piece")] PieceNumber? Piece = null,
    [FromQuery(Name = "from")] string? From = null,
    [FromQuery(Name = "lookUp")] bool LookUp = false,
    [FromQuery(Name = "on")] TopicNumber? On = null
)
{
    public Pile Whole => new(Order?.Value ?? PileOrder.Origin, View, Topic, Piece, From, LookUp, On);

    /// <summary>The topic or piece for which slips are gone through again.</summary>
    public Reference? Again =>
        Topic is { } topic ? Reference.To(topic)
        : Piece is { } piece ? Reference.To(piece)
        : null;
}

/// <summary>A slip taken apart.</summary>
/// <param name="Parts">The text of each part, in order; two or more.</param>
public sealed record SplitRequest(int? Version, IReadOnlyList<string>? Parts);

/// <summary>Slips put together; the first takes the others in.</summary>
public sealed record JoinRequest(IReadOnlyList<SlipNumber>? Slips);

/// <summary>A dropped slip is left dropped although something new reads like it.</summary>
public sealed record LeaveRequest(ThingKind For, int Number);

/// <summary>A slip as a claim; null while it is none.</summary>
public sealed record ClaimAnswer(ClaimOpened? Claim);

public sealed record ClaimRequest(string? Title);

/// <summary>On which side something stands, and why.</summary>
public sealed record WeighRequest(Side Side, string? Note = null);

/// <summary>The piles, decisions and advice.</summary>
internal static class SiftEndpoints
{
    public static void MapSift(this RouteGroupBuilder api)
    {
        api.MapGet("/sift", ([AsParameters] PileAsked pile, SiftStore sift) => TypedResults.Ok(sift.Sitting(pile.Whole)));
        api.MapPost(
            "/slips/{number}/decision",
            (SlipNumber number, Decision decision, [AsParameters] PileAsked pile, DecisionStore decisions, Request request) =>
                request.Ok(decisions.Decide(number, decision, request.Once, pile.Again))
        );
        api.MapPost("/slips/{number}/pass", PassOver);
        api.MapPost(
            "/slips/several",
            (SeveralChange several, DecisionStore decisions, Request request) => request.Ok(decisions.Several(several, request.Once))
        );
        api.MapPost(
            "/slips/{number}/split",
            (SlipNumber number, SplitRequest split, DecisionStore decisions, Request request) =>
                request.Ok(decisions.Split(number, request.Based(split.Version), split.Parts ?? [], request.Once))
        );
        api.MapPost(
            "/slips/join",
            (JoinRequest join, DecisionStore decisions, Request request) => request.Ok(decisions.Join(join.Slips ?? [], request.Once))
        );
        api.MapGet("/slips/{number}/claim", (SlipNumber number, ClaimStore claims) => TypedResults.Ok(new ClaimAnswer(claims.Get(number))));
        api.MapPut(
            "/slips/{number}/claim",
            (SlipNumber number, ClaimRequest claim, ClaimStore claims, Request request) =>
                request.Ok(claims.Refine(number, claim.Title, request.Once))
        );
        api.MapPut(
            "/slips/{number}/claim/{kind}/{thing}",
            (SlipNumber number, Word<ThingKind> kind, int thing, WeighRequest weigh, ClaimStore claims, Request request) =>
                request.Ok(claims.Weigh(number, new Reference(kind.Value, thing), weigh.Side, weigh.Note, request.Once))
        );
        api.MapDelete(
            "/slips/{number}/claim/{kind}/{thing}",
            (SlipNumber number, Word<ThingKind> kind, int thing, ClaimStore claims, Request request) =>
                request.Ok(claims.TakeAway(number, new Reference(kind.Value, thing), request.Once))
        );
        api.MapGet("/rules", (RuleStore rules) => TypedResults.Ok(rules.List()));
        api.MapPost(
            "/rules",
            (RuleChange rule, RuleStore rules, Request request) =>
            {
                var done = rules.Add(rule, request.Once);
                return request.Created(done, $"/api/rules/{done.Answer.Number}");
            }
        );
        api.MapPost("/rules/try", (RuleChange rule, RuleStore rules) => TypedResults.Ok(rules.Try(rule)));
        api.MapPatch(
            "/rules/{number}",
            (RuleNumber number, RuleChange change, RuleStore rules, Request request) =>
                request.Ok(rules.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/rules/{number}",
            (RuleNumber number, RuleStore rules, Request request) => request.Ok(rules.Remove(number, request.Once))
        );
        api.MapGet("/sift/flow", (FlowStore flow, int months = 12) => TypedResults.Ok(flow.Over(months)));
        api.MapGet("/sift/again", (AdviceStore advice) => TypedResults.Ok(advice.Again()));
        api.MapPost(
            "/sift/again/{slip}/leave",
            (SlipNumber slip, LeaveRequest left, DecisionStore decisions, Request request) =>
                request.Ok(decisions.PassOver(slip, new Reference(left.For, left.Number), request.Once))
        );
        api.MapPost(
            "/slips/{number}/refusals/{topic}",
            (SlipNumber number, TopicNumber topic, SlipStore slips, Request request) =>
                request.Ok(slips.Refuse(number, topic, request.Once))
        );
        api.MapPost(
            "/topics/{number}/passed",
            (TopicNumber number, DecisionStore decisions, Request request) => request.Ok(decisions.PassOverAll(number, request.Once))
        );
        api.MapGet("/slips/{number}/advice", (SlipNumber number, AdviceStore advice) => TypedResults.Ok(advice.For(number)));
    }

    private static Ok<Slip> PassOver(SlipNumber number, [AsParameters] PileAsked pile, DecisionStore decisions, Request request) =>
        request.Ok(
            decisions.PassOver(
                number,
                pile.Again ?? throw new BadInputException("topic", "Name the topic or the piece for which the slip was looked at."),
                request.Once
            )
        );
}
