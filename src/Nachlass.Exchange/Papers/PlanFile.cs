using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Papers;

/// <summary>Outlets, cadences and hours, as the file <c>plan.md</c> of a set of papers.</summary>
internal static class PlanFile
{
    public const string Name = "plan.md";

    /// <summary>The file's content; null when nothing is planned by.</summary>
    public static string? Write(PlanningImage plan) =>
        plan.Outlets.Count
            + plan.Away.Count
            + plan.StageRules.Count
            + plan.Guide.Count
            + plan.Countries.Count
            + plan.Goals.Count
            + plan.NeverForDates.Count
            == 0
        && plan.Hours is null
            ? null
            : new FrontMatterWriter()
                .Add("hours", plan.Hours?.ByWeekday.Select(Said) ?? [])
                .Add(
                    "away",
                    plan.Away.Select(a =>
                        new FrontMatterWriter().Add("number", a.Number.Value).Add("first", a.From).Add("last", a.To).Add("name", a.Name)
                    )
                )
                .Add(
                    "outlets",
                    plan.Outlets.Select(o =>
                        new FrontMatterWriter()
                            .Add("number", o.Number.Value)
                            .Add("name", o.Name)
                            .Add("mark", o.Mark)
                            .Add("colour", o.Colour)
                            .Add("formats", o.Formats)
                            .Add("limit", o.Limit?.Most)
                            .Add("limit-in", o.Limit is { } limit ? limit.In.ToString().ToLowerInvariant() : "")
                            .Add("best-day", o.BestDay?.ToString().ToLowerInvariant() ?? "")
                            .Add("best-hour", o.BestHour)
                            .Add("address", o.Address)
                            .Add("blocks", o.Blocks.SelectMany(b => (string[])[b.Name, b.Text]))
                            .Add("put-away", o.IsPutAway ? "yes" : "")
                    )
                )
                .Add(
                    "cadences",
                    plan.Cadences.Select(c =>
                        new FrontMatterWriter()
                            .Add("outlet", c.Outlet.Value)
                            .Add("format", c.Format)
                            .Add("rule", c.Rule)
                            .Add("from", c.From)
                            .Add("until", c.Until)
                            .Add("fallback-days", c.Fallback)
                            .Add("pauses", c.Pauses.SelectMany(p => (string[])[Said(p.From), Said(p.To)]))
                            .Add("other-dates", c.Others.SelectMany(o => (string[])[Said(o.Date), o.To is { } to ? Said(to) : "none"]))
                    )
                )
                .Add(
                    "stage-rules",
                    plan.StageRules.Select(r =>
                        new FrontMatterWriter()
                            .Add("name", r.Rule.Name)
                            .Add("format", r.Rule.Format ?? "")
                            .Add("stage", r.Rule.Stage)
                            .Add("query", r.Rule.Query)
                            .Add("acts", JsonSerializer.Serialize(r.Rule.Acts, Json))
                            .Add("on", r.Rule.IsOn ? "yes" : "")
                            .Add("ran", r.Ran.Select(p => p.ToString(CultureInfo.InvariantCulture)))
                    )
                )
                .Add("countries", plan.Countries)
                .Add("never-for-dates", plan.NeverForDates.Select(n => $"{n.Kind.ToString().ToLowerInvariant()} {n.Number}"))
                .Add(
                    "goals",
                    plan.Goals.Select(g =>
                        new FrontMatterWriter()
                            .Add("number", g.Number.Value)
                            .Add("of", g.Of)
                            .Add("target", g.Target)
                            .Add("from", g.From)
                            .Add("by", g.By)
                            .Add("format", g.Format ?? "")
                            .Add("readers", g.Readers)
                            .Add("readers-before", g.ReadersBefore)
                    )
                )
                .Add(
                    "guide",
                    plan.Guide.Select(l =>
                        new FrontMatterWriter()
                            .Add("number", l.Number.Value)
                            .Add("every", l.Every)
                            .Add("text", l.Text)
                            .Add("done", l.DoneOn)
                    )
                )
                .Write("Where pieces go out, how often, and the hours there are for them.");

    /// <param name="f">The file's fields; null when there is no such file.</param>
    /// <param name="about">Fields of <c>papers.md</c>, where cadences stood before there were outlets.</param>
    /// <param name="shift">Days by which all dates are moved.</param>
    /// <exception cref="UnreadableFileException">A number or date can't be read, or makes no sense.</exception>
    public static PlanningImage Read(FrontMatter? f, FrontMatter about, int shift)
    {
        var before = about.Records("cadences").ToList();
        if (f is null && before.Count == 0)
            return PlanningImage.Nothing;
        try
        {
            if (f is null)
                return new PlanningImage(
                    [.. before.Select((c, i) => Named(c.Word("format"), i + 1))],
                    [.. before.Select((c, i) => Cadence(c, OutletNumber.Of(i + 1), shift))],
                    null,
                    []
                );
            return new PlanningImage(
                [.. f.Records("outlets").Select(Outlet)],
                [.. f.Records("cadences").Select(c => Cadence(c, OutletNumber.Of(Must(c.Number("outlet"), "outlet")), shift))],
                f.Words("hours") is { Count: > 0 } hours ? new WorkingHours([.. hours.Select(Figure)]).Checked() : null,
                [
                    .. f.Records("away")
                        .Select(a =>
                            new Away(
                                AwayNumber.Of(Must(a.Number("number"), "number")),
                                Day(a.Word("first"), shift),
                                Day(a.Word("last"), shift),
                                a.Word("name")
                            ).Checked()
                        ),
                ]
            )
            {
                Countries = f.Words("countries"),
                NeverForDates = [.. f.Words("never-for-dates").Select(Thing)],
                Goals =
                [
                    .. f.Records("goals")
                        .Select(g =>
                            new Goal(
                                GoalNumber.Of(Must(g.Number("number"), "number")),
                                g.Enum("of", GoalOf.Released),
                                Must(g.Number("target"), "target"),
                                Day(g.Word("from"), shift),
                                Day(g.Word("by"), shift),
                                g.Word("format") is { Length: > 0 } format ? format : null,
                                g.Number("readers") ?? 0,
                                g.Number("readers-before") ?? 0
                            ).Checked()
                        ),
                ],
                Guide =
                [
                    .. f.Records("guide")
                        .Select(l => new GuideLine(
                            GuideLineNumber.Of(Must(l.Number("number"), "number")),
                            l.Enum("every", GuideEvery.Day),
                            Check.Text("guide", l.Word("text"), GuideLine.LongestText),
                            l.Word("done") is { Length: > 0 } done ? Day(done, shift) : null
                        )),
                ],
                StageRules = [.. f.Records("stage-rules").Select(r => StageRule(r))],
            };
        }
        catch (BadInputException error)
        {
            throw new UnreadableFileException(Name, $"{error.Field}: {error.Message}");
        }
    }

    private static Reference Thing(string said) =>
        Core.Text.References.Read(said).Thing is { Kind: ThingKind.Slip or ThingKind.Piece } thing
            ? thing
            : throw new UnreadableFileException(Name, $"“{said}” is no slip and no piece.");

    private static StageRuleImage StageRule(FrontMatter r)
    {
        try
        {
            return new StageRuleImage(
                new StageRule
                {
                    Name = r.Word("name"),
                    Format = r.Word("format") is { Length: > 0 } format ? format : null,
                    Stage = r.Word("stage"),
                    Query = r.Word("query"),
                    Acts = JsonSerializer.Deserialize<List<StageAct>>(r.Word("acts"), Json) ?? [],
                    IsOn = r.Word("on") == "yes",
                }.Checked(null),
                [
                    .. r.Words("ran")
                        .Select(p =>
                            int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var piece)
                                ? piece
                                : throw new UnreadableFileException(Name, $"“{p}” is no number of a piece.")
                        ),
                ]
            );
        }
        catch (JsonException error)
        {
            throw new UnreadableFileException(Name, $"what a rule of a stage does can't be read ({error.Message})");
        }
    }

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        AllowOutOfOrderMetadataProperties = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static Outlet Named(string format, int number) =>
        new Outlet
        {
            Number = OutletNumber.Of(number),
            Name = format,
            Formats = [format],
        }.Checked();

    private static Outlet Outlet(FrontMatter o) =>
        new Outlet
        {
            Number = OutletNumber.Of(Must(o.Number("number"), "number")),
            Name = o.Word("name"),
            Mark = o.Word("mark"),
            Colour = o.Enum("colour", TopicColour.Teal),
            Formats = o.Words("formats"),
            Limit = o.Number("limit") is { } most
                ? new Limit(most, o.Word("limit-in") == "words" ? MeasuredIn.Words : MeasuredIn.Characters)
                : null,
            BestDay = o.Word("best-day") is { Length: > 0 } day ? Enum.Parse<DayOfWeek>(day, ignoreCase: true) : null,
            BestHour = o.Number("best-hour"),
            Address = o.Word("address"),
            Blocks = [.. o.Words("blocks").Chunk(2).Where(b => b.Length == 2).Select(b => new DescriptionBlock(b[0], b[1]))],
            IsPutAway = o.Word("put-away") == "yes",
        }.Checked();

    private static Cadence Cadence(FrontMatter c, OutletNumber outlet, int shift) =>
        new Cadence(c.Word("format"), c.Word("rule"), Day(c.Word("from"), shift))
        {
            Outlet = outlet,
            Until = c.Word("until") is { Length: > 0 } until ? Day(until, shift) : null,
            Fallback = c.Number("fallback-days"),
            Pauses = [.. c.Words("pauses").Chunk(2).Where(p => p.Length == 2).Select(p => new Days(Day(p[0], shift), Day(p[1], shift)))],
            Others =
            [
                .. c.Words("other-dates")
                    .Chunk(2)
                    .Where(o => o.Length == 2)
                    .Select(o => new OtherDate(Day(o[0], shift), o[1] == "none" ? null : Day(o[1], shift))),
            ],
        }.Checked();

    private static int Must(int? number, string what) =>
        number ?? throw new UnreadableFileException(Name, $"something in it has no {what}.");

    private static string Said(double figure) => figure.ToString("R", CultureInfo.InvariantCulture);

    private static string Said(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static double Figure(string said) =>
        double.TryParse(said, NumberStyles.Float, CultureInfo.InvariantCulture, out var figure)
            ? figure
            : throw new UnreadableFileException(Name, $"“{said}” is no number of hours.");

    private static DateOnly Day(string said, int shift) =>
        DateOnly.TryParseExact(said, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day.AddDays(shift)
            : throw new UnreadableFileException(Name, $"“{said}” is no date; one looks like 2026-11-24.");
}
