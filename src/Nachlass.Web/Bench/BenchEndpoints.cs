using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>Material to be tied or placed: a slip or a source, and the section, or none to leave it loose.</summary>
public sealed record PlaceRequest(SlipNumber? Slip = null, SourceNumber? Source = null, SectionNumber? Section = null)
{
    public Reference Thing =>
        (Slip, Source) switch
        {
            ({ } slip, null) => Reference.To(slip),
            (null, { } source) => Reference.To(source),
            _ => throw new BadInputException("slip", "Name a slip or a source."),
        };
}

/// <summary>A draft to be saved.</summary>
/// <param name="Text">The whole text.</param>
/// <param name="Version">The version it is based on.</param>
/// <param name="Anchors">Where its sections begin, as an editor followed them; null when nobody did.</param>
public sealed record DraftRequest(string? Text, int? Version, IReadOnlyList<Anchor>? Anchors = null);

/// <summary>What is to be lifted out of a draft: all that is marked, once it was left; or one stretch of it.</summary>
public sealed record LiftRequest(bool Left = false, string? Idea = null);

/// <summary>Two texts that grew out of one.</summary>
/// <param name="Mine">The one.</param>
/// <param name="Theirs">The other.</param>
/// <param name="Origin">The text both grew out of; null when it is not known.</param>
public sealed record CompareRequest(string? Mine, string? Theirs, string? Origin = null);

/// <summary>The step to go back before.</summary>
public sealed record BackToRequest(CommandNumber? Command);

/// <summary>The version of the draft that a change is based on.</summary>
public sealed record BasedOn(int? Version);

/// <summary>Text to be counted.</summary>
/// <param name="Text">The text.</param>
/// <param name="AsDraft">Whether it is a stretch of a draft, whose headings are not counted.</param>
public sealed record CountRequest(string? Text, bool AsDraft = false);

/// <summary>A paragraph to be marked as usable by itself.</summary>
public sealed record MarkRequest(string? Paragraph, string? Format = null);

/// <summary>The piece that was made.</summary>
public sealed record PieceStarted(PieceNumber Piece);

/// <summary>Formats, pieces, material, outline, draft, and taking the finished text out.</summary>
internal static class BenchEndpoints
{
    private const int DraftLimit = 10 << 20;

    public static void MapBench(this RouteGroupBuilder api)
    {
        var limit = new RequestSizeLimitAttribute(DraftLimit);
        api.MapGet("/usable", (UsableStore usable) => TypedResults.Ok(usable.List()));
        api.MapGet(
            "/usable/{kind}/{number}/paragraphs",
            (Word<ThingKind> kind, int number, UsableStore usable) => TypedResults.Ok(usable.Paragraphs(new Reference(kind.Value, number)))
        );
        api.MapPost(
            "/usable/{kind}/{number}",
            (Word<ThingKind> kind, int number, MarkRequest mark, UsableStore usable, Request request) =>
                request.Ok(usable.Mark(new Reference(kind.Value, number), mark.Paragraph, mark.Format, request.Once))
        );
        api.MapDelete(
            "/usable/{number}",
            (UsableNumber number, UsableStore usable, Request request) => request.Ok(usable.Unmark(number, request.Once))
        );
        api.MapPost("/usable/{number}/use", Use);
        api.MapGet("/pieces", (PieceStore pieces, bool trashed = false) => TypedResults.Ok(pieces.List(trashed)));
        api.MapGet(
            "/starting",
            (
                StartStore starting,
                string? slips = null,
                TopicNumber? topic = null,
                UsableNumber? usable = null,
                PieceNumber? piece = null,
                string? format = null,
                bool digest = false
            ) => TypedResults.Ok(starting.Offer(new Beginning(Numbered(slips), topic, usable, piece, format, digest)))
        );
        api.MapPost("/pieces", Start);
        api.MapGet("/pieces/{number}", Get);
        api.MapPatch(
            "/pieces/{number}",
            (PieceNumber number, PieceChange change, PieceStore pieces, Request request) =>
                request.Ok(pieces.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapGet("/pieces/{number}/history", (PieceNumber number, PieceStore pieces) => TypedResults.Ok(pieces.History(number)));
        api.MapGet("/pieces/{number}/links", (PieceNumber number, PieceStore pieces) => TypedResults.Ok(pieces.LinkedFrom(number)));
        api.MapGet("/pieces/{number}/material", (PieceNumber number, PieceStore pieces) => TypedResults.Ok(pieces.Material(number)));
        api.MapPut(
            "/pieces/{number}/material",
            (PieceNumber number, PlaceRequest place, PieceStore pieces, Request request) =>
                request.Ok(pieces.Place(number, place.Thing, place.Section, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/material/{kind}/{thing:int}",
            (PieceNumber number, Word<ThingKind> kind, int thing, PieceStore pieces, Request request) =>
                request.Ok(pieces.Untie(number, new Reference(kind.Value, thing), request.Once))
        );
        api.MapPost(
            "/pieces/{number}/insertion",
            (PieceNumber number, InsertionRequest insertion, DraftStore drafts, Request request) =>
                request.Ok(drafts.Insert(number, insertion with { Version = request.Based(insertion.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/back",
            (PieceNumber number, DraftStore drafts, Request request) => request.Ok(drafts.Back(number, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/forward",
            (PieceNumber number, DraftStore drafts, Request request) => request.Ok(drafts.Forward(number, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/back/to",
            (PieceNumber number, BackToRequest to, DraftStore drafts, Request request) =>
                request.Ok(
                    drafts.BackTo(
                        number,
                        to.Command ?? throw new BadInputException("command", "Name the step to go back before."),
                        request.Once
                    )
                )
        );
        api.MapPost(
            "/pieces/{number}/outline/{section}/back",
            (PieceNumber number, SectionNumber section, BasedOn based, DraftStore drafts, Request request) =>
                request.Ok(drafts.BringBack(number, section, request.Based(based.Version), request.Once))
        );
        api.MapPost(
            "/pieces/{number}/lift",
            (PieceNumber number, LiftRequest lift, DraftStore drafts, Request request) =>
                request.Ok(drafts.Lift(number, lift.Left, lift.Idea, request.Once))
        );
        api.MapPost(
                "/texts/compare",
                (CompareRequest asked) => TypedResults.Ok(Merging.Of(asked.Origin, asked.Mine ?? "", asked.Theirs ?? ""))
            )
            .WithMetadata(limit);
        api.MapGet("/pieces/{number}/draft", GetDraft);
        api.MapPatch(
            "/pieces/{number}/draft",
            (PieceNumber number, DraftChange changed, DraftStore drafts, Request request) =>
                request.Ok(drafts.Change(number, changed with { Version = request.Based(changed.Version) }, request.Once))
        );
        api.MapPut(
                "/pieces/{number}/draft",
                (PieceNumber number, DraftRequest draft, DraftStore drafts, Request request) =>
                    request.Ok(drafts.Save(number, draft.Text, request.Based(draft.Version), request.Once, draft.Anchors))
            )
            .WithMetadata(limit);
        api.MapGet("/pieces/{number}/outline", (PieceNumber number, DraftStore drafts) => TypedResults.Ok(drafts.Get(number).Sections));
        api.MapPost("/pieces/{number}/outline", AddSection);
        api.MapPatch(
            "/pieces/{number}/outline/{section}",
            (PieceNumber number, SectionNumber section, SectionChange change, DraftStore drafts, Request request) =>
                request.Ok(drafts.EditSection(number, section, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/outline/{section}/move",
            (PieceNumber number, SectionNumber section, SectionMove move, DraftStore drafts, Request request) =>
                request.Ok(drafts.MoveSection(number, section, move with { Version = request.Based(move.Version) }, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/outline/{section}",
            (PieceNumber number, SectionNumber section, DraftStore drafts, Request request, int? version = null) =>
                request.Ok(drafts.RemoveSection(number, section, request.Based(version), request.Once))
        );
        api.MapPost(
                "/counts",
                (CountRequest asked) => TypedResults.Ok(asked.AsDraft ? DraftText.Counted(asked.Text ?? "") : Counts.Of(asked.Text ?? ""))
            )
            .WithMetadata(limit);
    }

    private static Created<Piece> Start(NewPiece piece, PieceStore pieces, Request request)
    {
        var done = pieces.Start(piece, request.Once);
        return request.Created(done, $"/api/pieces/{done.Answer.Number}");
    }

    private static Ok<Piece> Get(PieceNumber number, PieceStore pieces, Request request)
    {
        var piece = pieces.Get(number);
        return request.Versioned(piece, piece.Version);
    }

    private static Ok<Draft> GetDraft(PieceNumber number, DraftStore drafts, Request request)
    {
        var draft = drafts.Get(number);
        return request.Versioned(draft, draft.Version);
    }

    private static Created<Draft> AddSection(PieceNumber number, NewSection section, DraftStore drafts, Request request) =>
        request.Created(
            drafts.AddSection(number, section with { Version = request.Based(section.Version) }, request.Once),
            $"/api/pieces/{number}/outline"
        );

    /// <summary>Numbers of slips with commas between.</summary>
    private static List<SlipNumber>? Numbered(string? slips) =>
        string.IsNullOrWhiteSpace(slips)
            ? null
            :
            [
                .. slips
                    .Split(',', 101)
                    .Select(s =>
                        SlipNumber.TryParse(s.Trim(), out var number)
                            ? number
                            : throw new BadInputException("slips", $"“{s}” is no number of a slip; they are given as 29,31.")
                    ),
            ];

    private static Ok<PieceStarted> Use(UsableNumber number, UsableStore usable, Request request)
    {
        var done = usable.Use(number, request.Once);
        return request.Ok(new Done<PieceStarted>(done.Command, new PieceStarted(done.Answer)));
    }
}
