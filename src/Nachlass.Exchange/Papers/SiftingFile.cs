using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Exchange.Papers;

/// <summary>
/// What was decided about slips and topics, as the file <c>sifting.md</c> of a set of papers: slips gone through again, topics refused or
/// kept apart, and what was changed in digests.
/// </summary>
internal static class SiftingFile
{
    public const string Name = "sifting.md";

    /// <summary>The file's content; null when there is nothing to say.</summary>
    public static string? Write(SiftingImage sifting)
    {
        if (
            sifting.GoneThrough.Count
                + sifting.Refusals.Count
                + sifting.Apart.Count
                + sifting.Digests.Count
                + sifting.Rules.Count
                + sifting.Claims.Count
                + sifting.Usable.Count
                + sifting.Lifted.Count
            == 0
        )
            return null;
        return new FrontMatterWriter()
            .Add(
                "gone-through",
                sifting.GoneThrough.Select(g =>
                    new FrontMatterWriter()
                        .Add("for", Word(g.For.Kind))
                        .Add("number", g.For.Number)
                        .Add("slip", g.Slip.Value)
                        .Add("at", g.At)
                )
            )
            .Add(
                "rules",
                sifting.Rules.Select(r =>
                    new FrontMatterWriter()
                        .Add("name", r.Name)
                        .Add("when", r.When)
                        .Add("query", r.Query)
                        .Add("act", JsonSerializer.Serialize(r.Act, Json))
                        .Add("on", r.IsOn ? "yes" : "")
                )
            )
            .Add("claims", sifting.Claims.Select(c => new FrontMatterWriter().Add("slip", c.Slip.Value).Add("title", c.Title)))
            .Add(
                "evidence",
                sifting.Claims.SelectMany(c =>
                    c.Evidence.Select(e =>
                        new FrontMatterWriter()
                            .Add("claim", c.Slip.Value)
                            .Add(Word(e.Thing.Kind), e.Thing.Number)
                            .Add("side", e.Side)
                            .Add("note", e.Note)
                            .Add("at", e.At)
                    )
                )
            )
            .Add(
                "usable",
                sifting.Usable.Select(u =>
                    new FrontMatterWriter()
                        .Add("in", Word(u.In.Kind))
                        .Add("number", u.In.Number)
                        .Add("format", u.Format)
                        .Add("marked", u.MarkedAt)
                        .Add("used", u.UsedAt)
                        .Add("piece", u.Piece?.Value)
                        .Add("paragraph", u.Paragraph)
                )
            )
            .Add(
                "lifted",
                sifting.Lifted.Select(l =>
                    (
                        l.In.Kind == ThingKind.Day
                            ? new FrontMatterWriter().Add("day", DateOnly.FromDayNumber(l.In.Number))
                            : new FrontMatterWriter().Add(Word(l.In.Kind), l.In.Number)
                    )
                        .Add("became-slip", l.Slip?.Value)
                        .Add("became-move", l.Move?.Value)
                        .Add("paragraph", l.Paragraph)
                )
            )
            .Add("refused", sifting.Refusals.Select(r => new FrontMatterWriter().Add("slip", r.Slip.Value).Add("topic", r.Topic.Value)))
            .Add("apart", sifting.Apart.Select(a => new FrontMatterWriter().Add("first", a.First.Value).Add("second", a.Second.Value)))
            .Add("digests", sifting.Digests.Select(d => new FrontMatterWriter().Add("topic", d.Topic.Value).Add("intro", d.Intro)))
            .Add(
                "digest-lines",
                sifting.Digests.SelectMany(d =>
                    d.Lines.Select(l =>
                        new FrontMatterWriter()
                            .Add("topic", d.Topic.Value)
                            .Add("slip", l.Slip.Value)
                            .Add("words", l.Words)
                            .Add("based-on", l.BasedOn)
                            .Add("left-out", l.Hidden ? "yes" : "")
                            .Add("beside", l.Beside?.Value)
                    )
                )
            )
            .Add(
                "digest-themes",
                sifting.Digests.SelectMany(d =>
                    d.Themes.Select(t => new FrontMatterWriter().Add("topic", d.Topic.Value).Add("slip", t.Slip.Value).Add("name", t.Name))
                )
            )
            .Write("What was decided about slips and topics.");
    }

    /// <param name="f">The file's fields; null when there is no such file.</param>
    /// <param name="day">Reads a day, moved as all dates are.</param>
    /// <param name="instant">Reads an instant, moved as all dates are.</param>
    public static SiftingImage Read(
        FrontMatter? f,
        Func<FrontMatter, string, DateOnly?> day,
        Func<FrontMatter, string, DateTimeOffset?> instant
    )
    {
        if (f is null)
            return new SiftingImage();
        var lines = f.Records("digest-lines")
            .ToLookup(
                l => Number(l, "topic"),
                l => new DigestLineImage(
                    Slip(l, "slip"),
                    l.WordOrNull("words"),
                    l.Word("based-on"),
                    l.Word("left-out") == "yes",
                    l.Number("beside") is { } b ? SlipNumber.Of(b) : null
                )
            );
        var themes = f.Records("digest-themes").ToLookup(t => Number(t, "topic"), t => (Slip(t, "slip"), t.Word("name")));
        var evidence = f.Records("evidence")
            .ToLookup(
                e => Number(e, "claim"),
                e =>
                    (
                        e.Number("slip") is { } slip
                            ? new Reference(ThingKind.Slip, slip)
                            : new Reference(ThingKind.Source, Number(e, "source")),
                        e.Enum("side", Side.For),
                        e.Word("note"),
                        instant(e, "at") ?? DateTimeOffset.UnixEpoch
                    )
            );
        return new SiftingImage
        {
            GoneThrough =
            [
                .. f.Records("gone-through")
                    .Select(g => new GoneThrough(
                        new Reference(g.Enum("for", ThingKind.Topic), Number(g, "number")),
                        Slip(g, "slip"),
                        instant(g, "at") ?? DateTimeOffset.UnixEpoch
                    )),
            ],
            Claims =
            [
                .. f.Records("claims").Select(c => new ClaimImage(Slip(c, "slip"), c.Word("title"), [.. evidence[Number(c, "slip")]])),
            ],
            Usable =
            [
                .. f.Records("usable")
                    .Select(u => new UsableImage(
                        new Reference(u.Enum("in", ThingKind.Slip), Number(u, "number")),
                        u.Word("paragraph"),
                        u.Word("format"),
                        instant(u, "marked") ?? DateTimeOffset.UnixEpoch,
                        instant(u, "used"),
                        u.Number("piece") is { } p ? PieceNumber.Of(p) : null
                    )),
            ],
            Lifted =
            [
                .. f.Records("lifted")
                    .Select(l => new LiftedImage(
                        day(l, "day") is { } of ? Reference.To(of) : new Reference(ThingKind.Piece, Number(l, "piece")),
                        l.Word("paragraph"),
                        l.Number("became-slip") is { } slip ? SlipNumber.Of(slip) : null,
                        l.Number("became-move") is { } move ? MoveNumber.Of(move) : null
                    )),
            ],
            Rules =
            [
                .. f.Records("rules")
                    .Select(r =>
                        new Rule
                        {
                            Name = r.Word("name"),
                            When = r.Enum("when", RuleWhen.Kept),
                            Query = r.Word("query"),
                            Act = ActOf(r.Word("act")),
                            IsOn = r.Word("on") == "yes",
                        }.Checked()
                    ),
            ],
            Refusals = [.. f.Records("refused").Select(r => (Slip(r, "slip"), TopicNumber.Of(Number(r, "topic"))))],
            Apart = [.. f.Records("apart").Select(a => (TopicNumber.Of(Number(a, "first")), TopicNumber.Of(Number(a, "second"))))],
            Digests =
            [
                .. f.Records("digests")
                    .Select(d => new DigestImage(
                        TopicNumber.Of(Number(d, "topic")),
                        d.Word("intro"),
                        [.. lines[Number(d, "topic")]],
                        [.. themes[Number(d, "topic")]]
                    )),
            ],
        };
    }

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        AllowOutOfOrderMetadataProperties = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    private static RuleAct ActOf(string written)
    {
        try
        {
            return JsonSerializer.Deserialize<RuleAct>(written, Json) ?? throw new JsonException();
        }
        catch (JsonException)
        {
            throw new UnreadableFileException(Name, $"“{written}” is nothing a rule does.");
        }
    }

    private static string Word(ThingKind kind) => kind.ToString().ToLowerInvariant();

    private static int Number(FrontMatter f, string field) =>
        f.Number(field) ?? throw new UnreadableFileException(Name, $"{field} is missing.");

    private static SlipNumber Slip(FrontMatter f, string field) => SlipNumber.Of(Number(f, field));
}
