using System.Globalization;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;
using Nachlass.Exchange.Views;

namespace Nachlass.Exchange.Papers;

/// <summary>
/// A set of papers as Markdown files: <c>slips/0214.md</c>, <c>sources/0061.md</c>, <c>topics/ferries.md</c>,
/// <c>pieces/P12 the-price-of-the-far-bank.md</c>, <c>days/2026-11-24.md</c> and <c>papers.md</c>; beside them the words of
/// clipped pages (<c>texts/0061.md</c>), transcripts (<c>transcripts/0061.vtt</c>) and attached files (<c>files/</c>).
/// The files are described in docs/formats.md. Writing what was read gives the same files again.
/// </summary>
public static class PapersFiles
{
    internal const string About = "papers.md";
    private const string Unsaid = "?";
    private const string DayPlanFile = "day-plan.md";
    private const string AttachmentsFile = "attachments.md";
    private const string Transcribed = "transcripts";
    private const string Viewed = "views.json";

    private static string Word(DayOfWeek day) => day.ToString().ToLowerInvariant();

    /// <summary>The files of a set of papers, in a fixed order.</summary>
    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers)
    {
        var names = papers.Topics.ToDictionary(t => t.Number, t => t.Name);
        yield return (
            About,
            new FrontMatterWriter()
                .Add("nachlass", 1)
                .Add("purpose", papers.Purpose)
                .Add("questions", papers.Questions ?? [])
                .Add(
                    "occasions",
                    papers.Occasions.Select(o =>
                        new FrontMatterWriter()
                            .Add("number", o.Number.Value)
                            .Add("name", o.Name)
                            .Add("first", o.From)
                            .Add("last", o.To)
                            .Add("every-year", o.EveryYear ? "yes" : "")
                            .Add("recurs", o.Recurs ?? "")
                            .Add("topics", o.Topics.Select(t => t.Name))
                    )
                )
                .Add("keys", papers.Keys.Select(k => new FrontMatterWriter().Add("action", k.Action).Add("keys", k.Keys)))
                .Add(
                    "moves",
                    papers.Moves.Select(m =>
                        new FrontMatterWriter()
                            .Add("number", m.Number.Value)
                            .Add("text", m.Text)
                            .Add("due", m.Due)
                            .Add("done", m.DoneAt)
                            .Add("piece", m.Piece?.Value)
                            .Add("caught", m.CaughtAt)
                            .Add("day", m.Day)
                            .Add("note", m.Note)
                            .Add("place", m.Place)
                            .Add("start", m.Start)
                            .Add("remind", m.RemindAt)
                            .Add("repeats", m.Repeats ?? "")
                            .Add("follows", m.Follows?.Value)
                    )
                )
                .Write("These are the papers of one writer, taken out of Nachlass as Markdown files with YAML front matter.")
        );
        if (papers.Plan is { } plan)
            yield return (
                DayPlanFile,
                new FrontMatterWriter()
                    .Add("days-off", plan.DaysOff.Select(Word))
                    .Add(
                        "blocks",
                        plan.Blocks.Select(b =>
                            new FrontMatterWriter()
                                .Add("block", b.Number)
                                .Add("kind", b.Kind)
                                .Add("heading", b.Heading)
                                .Add("weekdays", b.Days.Weekdays.Select(Word))
                                .Add("days-of-month", b.Days.DaysOfMonth.Select(d => d.ToString(CultureInfo.InvariantCulture)))
                                .Add("dates", b.Days.Dates.Select(d => d.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)))
                                .Add("text", b.Text)
                                .Add("size", b.Size)
                        )
                    )
                    .Write("What stands on a new day's sheet.")
            );
        if (PlanFile.Write(papers.Planning) is { } planning)
            yield return (PlanFile.Name, planning);
        if (SiftingFile.Write(papers.Sifting) is { } sifting)
            yield return (SiftingFile.Name, sifting);
        if (SeriesFile.Write(papers.Series) is { } series)
            yield return (SeriesFile.Name, series);
        foreach (var file in ShortFile.Write(papers))
            yield return file;
        if (IdeasFile.Write(papers) is { } ideas)
            yield return (IdeasFile.Name, ideas);
        foreach (var file in MessagesFile.Write(papers))
            yield return file;
        foreach (var file in PagesFile.Write(papers))
            yield return file;
        foreach (var file in ReleasesFile.Write(papers))
            yield return file;
        if (ReuseFile.Write(papers.Reuse) is { } reuse)
            yield return (ReuseFile.Name, reuse);
        if (ReleaseFiguresFile.Write(papers) is { } figures)
            yield return (ReleaseFiguresFile.Name, figures);
        foreach (var file in ClosingsFile.Write(papers))
            yield return file;
        if (WritingFile.Write(papers) is { } writing)
            yield return (WritingFile.Name, writing);
        if (ChoosingFile.Write(papers.Choosing) is { } choosing)
            yield return (ChoosingFile.Name, choosing);
        if (papers.Sifting.Views is { } views)
            yield return (Viewed, ViewsFile.Write(views));
        foreach (var (format, at) in (papers.Formats ?? []).Select((f, i) => (f, i)))
            yield return ($"{FormatFile.Folder}{at + 1:00} {format.Key}.json", FormatFile.Write(format));
        foreach (var t in papers.Topics)
            yield return (
                $"topics/{t.Number.Value:0000} {PieceFile.Name(t.Name)}.md",
                new FrontMatterWriter()
                    .Add("topic", t.Number.Value)
                    .Add("name", t.Name)
                    .Add("colour", t.Colour)
                    .Add("also", t.Aliases)
                    .Add("under", t.Wider?.Value)
                    .Add("wished-share", t.Wish)
                    .Add("place", t.Place)
                    .Add("merged-into", t.MergedInto?.Value)
                    .Write("")
            );
        foreach (var s in papers.Sources)
            yield return (
                $"sources/{s.Number.Value:0000} {PieceFile.Name(s.Title)}.md",
                new FrontMatterWriter()
                    .Add("source", s.Number.Value)
                    .Add("type", s.Type)
                    .Add("title", s.Title)
                    .Add("creators", s.Creators)
                    .Add("container", s.Container)
                    .Add("date", s.Date)
                    .Add("address", s.Address)
                    .Add("language", s.Language)
                    .Add("topics", s.Topics.Select(t => t.Name))
                    .Add("caught", s.CaughtAt)
                    .Add("trashed", s.TrashedAt)
                    .Add("new", s.IsNew ? "yes" : "")
                    .Add(
                        "details",
                        s.Details.OrderBy(d => d.Key, StringComparer.Ordinal)
                            .Select(d => new FrontMatterWriter().Add("field", d.Key).Add("value", d.Value))
                    )
                    .Add("comments", s.Comments)
                    .Write(s.Summary)
            );
        foreach (var s in papers.Sources.Where(s => s.Text.Length > 0))
            yield return ($"texts/{s.Number.Value:0000}.md", new FrontMatterWriter().Add("source", s.Number.Value).Write(s.Text));
        foreach (var (source, lines) in papers.Transcripts)
            yield return ($"{Transcribed}/{source.Value:0000}.vtt", Transcripts.WebVtt(lines));
        if (papers.Attachments.Count > 0)
            yield return (
                AttachmentsFile,
                new FrontMatterWriter()
                    .Add(
                        "attachments",
                        papers.Attachments.Select(a =>
                            new FrontMatterWriter()
                                .Add("number", a.Number.Value)
                                .Add(a.To.Kind.ToString().ToLowerInvariant(), a.To.Number)
                                .Add("name", a.Name)
                                .Add("file", a.Hash)
                                .Add("type", a.Type)
                                .Add("bytes", a.Bytes.ToString(CultureInfo.InvariantCulture))
                                .Add("why", a.Why)
                                .Add("credit", a.Credit)
                                .Add("caught", a.CaughtAt)
                        )
                    )
                    .Write("The files lie in the folder “files”, each under the SHA-256 of its content.")
            );
        foreach (var s in papers.Slips)
            yield return (
                $"slips/{s.Number.Value:0000}.md",
                new FrontMatterWriter()
                    .Add("slip", s.Number.Value)
                    .Add("kind", s.Kind)
                    .Add("state", s.State)
                    .Add("topics", s.Topics.Select(t => t.Name))
                    .Add("pull", s.Pull)
                    .Add("effort", s.Effort)
                    .Add("format", s.Formats.Count == 0 ? null : string.Join(' ', s.Formats))
                    .Add("source", s.Source?.Value)
                    .Add("locator", s.Locator)
                    .Add("block", s.Block)
                    .Add("origin", s.Origin)
                    .Add("from", s.OriginNote)
                    .Add("caught", s.CaughtAt)
                    .Add("day", s.Day)
                    .Add("held-until", s.HeldUntil)
                    .Add("held-occasion", s.HeldOccasion?.Value)
                    .Add("held-sources", s.HeldSources)
                    // Held without a word of what for is a question still.
                    .Add("look-up", s.HeldLookUp is "" ? Unsaid : s.HeldLookUp)
                    .Add("merged-into", s.MergedInto?.Value)
                    .Add("settled", s.SettledAt)
                    .Write(s.Text)
            );
        foreach (var piece in papers.Pieces)
        {
            var p = piece.Piece;
            yield return (
                $"pieces/{p.Number.Value:0000} {PieceFile.Name(p.Title)}.md",
                BeforeFile
                    .AddTo(
                        new FrontMatterWriter()
                            .Add("piece", p.Number.Value)
                            .Add("title", p.Title)
                            .Add("format", p.Format)
                            .Add("stage", p.Stage)
                            .Add("brief", p.Brief)
                            .Add("topics", p.Topics.Select(t => t.Name))
                            .Add("due", p.Due)
                            .Add("outlet", p.Outlet?.Value)
                            .Add("out", p.OutOn)
                            .Add("out-address", p.OutAddress)
                            .Add("states", p.States)
                            .Add("pinned", p.Pinned)
                            .Add("started", p.StartedAt)
                            .Add("changed", p.ChangedAt)
                            .Add("trashed", p.TrashedAt)
                            .Add("running", p.Running)
                            .Add("language", p.Language)
                            .Add("citing", p.Citing)
                            .Add("word-aim", p.WordAim)
                            .Add(
                                "fields",
                                p.Fields.OrderBy(f => f.Key, StringComparer.Ordinal)
                                    .Select(f => new FrontMatterWriter().Add("field", f.Key).Add("value", f.Value))
                            )
                            .Add("stages", piece.Stages.Select(s => new FrontMatterWriter().Add("stage", s.Stage).Add("at", s.At)))
                            .Add("stage-days", piece.StageDays.Select(s => new FrontMatterWriter().Add("stage", s.Stage).Add("day", s.Day)))
                            .Add(
                                "steps",
                                piece.Steps.Select(s =>
                                    new FrontMatterWriter()
                                        .Add("stage", s.Stage)
                                        .Add("text", s.Text)
                                        .Add("how", s.Instructions)
                                        .Add("address", s.Address)
                                        .Add("who", s.Who)
                                        .Add("done", s.DoneAt)
                                        .Add("move", s.Move?.Value)
                                )
                            )
                            .Add("laid", piece.Laid ?? [])
                            .Add("numbered", piece.Thread?.IsNumbered == true ? "yes" : "")
                            .Add(
                                "copied",
                                (piece.Thread?.Copied ?? []).Select(c => new FrontMatterWriter().Add("part", c.Nth).Add("text", c.Text))
                            )
                            .Add(
                                "standing-texts",
                                piece.Frozen.Select(t => new FrontMatterWriter().Add("standing-text", t.Number.Value).Add("text", t.Text))
                            )
                            .Add(
                                "side-texts",
                                piece.SideTexts.Select(t => new FrontMatterWriter().Add("side-text", t.Key).Add("text", t.Text))
                            )
                            .Add(
                                "sections",
                                piece.Sections.Select(s =>
                                    new FrontMatterWriter()
                                        .Add("aim", s.Aim)
                                        .Add("beat", s.Beat)
                                        .Add("note", s.Note)
                                        .Add("settled", s.IsSettled ? "yes" : "")
                                )
                            )
                            .Add(
                                "material",
                                piece.Material.Select(m =>
                                    new FrontMatterWriter()
                                        .Add(m.Thing.Kind.ToString().ToLowerInvariant(), m.Thing.Number)
                                        .Add("section", m.Section)
                                        .Add("was-in", m.WasIn)
                                )
                            )
                            .Add(
                                "set-aside",
                                piece.SetAside.Select(a => new FrontMatterWriter().Add("what", a.Key).Add("reason", a.Reason))
                            )
                            .Add("marks", piece.Marks.Select(m => new FrontMatterWriter().Add("section", m.Section).Add("place", m.Place)))
                            .Add(
                                "gone",
                                piece.Gone.Select(g =>
                                    new FrontMatterWriter()
                                        .Add("title", g.Title)
                                        .Add("depth", g.Depth)
                                        .Add("aim", g.Aim)
                                        .Add("beat", g.Beat)
                                        .Add("at", g.At)
                                        .Add("note", g.Note)
                                        .Add("settled", g.IsSettled ? "yes" : "")
                                        .Add("text", g.Body)
                                )
                            ),
                        piece.Before
                    )
                    .Write(piece.Draft)
            );
            foreach (var version in VersionFile.Write(piece))
                yield return version;
        }
        foreach (var d in papers.Days)
            yield return (
                $"days/{d.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)}.md",
                new FrontMatterWriter()
                    .Add("day", d.Day)
                    .Add(
                        "blocks",
                        d.Blocks.Select(b =>
                            new FrontMatterWriter()
                                .Add("block", b.Block)
                                .Add("kind", b.Kind)
                                .Add("heading", b.Heading)
                                .Add("prompt", b.Prompt)
                                .Add("text", b.Text)
                                .Add("size", b.Size)
                        )
                    )
                    .Write(d.Text)
            );
    }

    /// <summary>Reads the files of a set of papers, in any order.</summary>
    /// <param name="files">Names with forward slashes, and contents.</param>
    /// <param name="shift">Days by which all dates are moved: 0 for papers, otherwise for the demo, whose dates follow today.</param>
    /// <exception cref="UnreadableFileException">A file can't be read, or refers to something that isn't there.</exception>
    public static PapersImage Read(IEnumerable<(string Name, string Content)> files, int shift = 0)
    {
        var all = files.ToList();
        var read = all.Where(f =>
                !f.Name.StartsWith(Transcribed, StringComparison.Ordinal)
                && !f.Name.StartsWith(FormatFile.Folder, StringComparison.Ordinal)
                && f.Name != Viewed
            )
            .Select(f => (f.Name, Folder: f.Name.Split('/')[0], Fields: FrontMatter.Read(f.Name, f.Content)))
            .OrderBy(f => f.Name, StringComparer.Ordinal)
            .ToList();
        var about =
            read.SingleOrDefault(f => f.Name == About).Fields
            ?? throw new UnreadableFileException(About, "this file is missing, so these are not papers of Nachlass.");
        if (about.Number("nachlass") != 1)
            throw new UnreadableFileException(About, "these papers were written by a newer Nachlass.");
        var topics = In("topics").Select(f => ReadTopic(f.Fields)).ToList();
        var byName = topics
            .SelectMany(t => t.Aliases.Prepend(t.Name).Select(name => (name, t)))
            .GroupBy(x => x.name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First().t, StringComparer.OrdinalIgnoreCase);
        var own = all.Where(f => f.Name.StartsWith(FormatFile.Folder, StringComparison.Ordinal))
            .OrderBy(f => f.Name, StringComparer.Ordinal)
            .Select(f => FormatFile.Read(f.Name, f.Content))
            .ToList();
        var formats = own.Count == 0 ? FormatSet.Ready : new FormatSet(own);
        var texts = In("texts").ToDictionary(f => Must(f.Name, "source", f.Fields.Number("source")), f => f.Fields.Text);
        return new PapersImage
        {
            Questions = about.Words("questions") is { Count: > 0 } questions ? questions : null,
            Planning = PlanFile.Read(In(PlanFile.Name).Select(f => f.Fields).FirstOrDefault(), about, shift),
            Occasions =
            [
                .. about
                    .Records("occasions")
                    .Select(o => new Occasion(
                        OccasionNumber.Of(Must(About, "number", o.Number("number"))),
                        o.Word("name"),
                        Must(About, "first", Day(o, "first")),
                        Must(About, "last", Day(o, "last")),
                        o.Word("every-year") == "yes"
                    )
                    {
                        Topics = Marks(About, o),
                        Recurs = o.Word("recurs") is { Length: > 0 } recurs ? OccasionDates.Read(recurs) : null,
                    }),
            ],
            Transcripts =
            [
                .. all.Where(f => f.Name.StartsWith(Transcribed, StringComparison.Ordinal))
                    .OrderBy(f => f.Name, StringComparer.Ordinal)
                    .Select(f =>
                        (
                            SourceNumber.TryParse(System.IO.Path.GetFileNameWithoutExtension(f.Name).TrimStart('0'), out var of)
                                ? of
                                : throw new UnreadableFileException(f.Name, "its name is no number of a source."),
                            Transcripts.ReadOurs(f.Content)
                        )
                    ),
            ],
            Attachments = [.. In(AttachmentsFile).SelectMany(f => f.Fields.Records("attachments")).Select(ReadAttachment)],
            Purpose = about.Word("purpose"),
            Sifting = SiftingFile.Read(In(SiftingFile.Name).Select(f => f.Fields).FirstOrDefault(), Day, Instant) with
            {
                Views = all.Where(f => f.Name == Viewed).Select(f => ViewsFile.Read(f.Content)).FirstOrDefault(),
            },
            Formats = own.Count == 0 ? null : own,
            Series = SeriesFile.Read(In(SeriesFile.Name).Select(f => f.Fields).FirstOrDefault()),
            StandingTexts = ShortFile.StandingTexts(In(ShortFile.StandingName).Select(f => f.Fields).FirstOrDefault()),
            Patterns = ShortFile.Patterns(In(ShortFile.PatternsName).Select(f => f.Fields).FirstOrDefault()),
            OwnWords = WritingFile.OwnWords(In(WritingFile.Name).Select(f => f.Fields).FirstOrDefault()),
            SittingAim = In(WritingFile.Name).Select(f => f.Fields).FirstOrDefault()?.Number("sitting-aim"),
            Sittings = WritingFile.Sittings(In(WritingFile.Name).Select(f => f.Fields).FirstOrDefault(), shift),
            Shots = WritingFile.Shots(In(WritingFile.Name).Select(f => f.Fields).FirstOrDefault(), shift),
            Posts = ShortFile.Posts(In(ShortFile.PostsName).Select(f => f.Fields).FirstOrDefault(), shift),
            OfferedIdeas = IdeasFile.Read(In(IdeasFile.Name).Select(f => f.Fields).FirstOrDefault(), Instant),
            Decks = IdeasFile.Decks(In(IdeasFile.Name).Select(f => f.Fields).FirstOrDefault()),
            OrderWeights = IdeasFile.Weights(In(IdeasFile.Name).Select(f => f.Fields).FirstOrDefault()),
            Angles = IdeasFile.Angles(In(IdeasFile.Name).Select(f => f.Fields).FirstOrDefault()),
            Choosing = ChoosingFile.Read(In(ChoosingFile.Name).Select(f => f.Fields).FirstOrDefault(), Instant),
            Topics = topics,
            Sources = [.. In("sources").Select(f => ReadSource(f.Fields, Marks(f.Name, f.Fields)))],
            Slips = [.. In("slips").Select(f => ReadSlip(f.Name, f.Fields, Marks(f.Name, f.Fields)))],
            Releases =
                In(ReleasesFile.Name).Any() || In(ReleasesFile.Folder).Any()
                    ?
                    [
                        .. In(ReleasesFile.Folder)
                            .Select(f => ReleasesFile.Read(f.Name, f.Fields, name => Mark(f.Name, name), Day, Instant)),
                    ]
                    : null,
            Messages = [.. In(MessagesFile.Folder).Select(f => MessagesFile.Read(f.Name, f.Fields, Instant))],
            Wishes = [.. In(MessagesFile.Folder).SelectMany(f => MessagesFile.Wishes(f.Name, f.Fields)).OrderBy(w => w.Number.Value)],
            Asks = MessagesFile.Asks(In(MessagesFile.Name).Select(f => f.Fields).FirstOrDefault()),
            HiddenWords = In(MessagesFile.Name).Select(f => f.Fields).FirstOrDefault()?.Words("hidden-words") ?? [],
            Pages = [.. In(PagesFile.Folder).Select(f => PagesFile.Read(f.Name, f.Fields, Day, Instant))],
            Reuse = ReuseFile.Read(In(ReuseFile.Name).Select(f => f.Fields).FirstOrDefault(), Instant),
            Figures = ReleaseFiguresFile.Read(In(ReleaseFiguresFile.Name).Select(f => f.Fields).FirstOrDefault(), shift),
            Closings = ClosingsFile.Closings(In(ClosingsFile.Name).Select(f => f.Fields).FirstOrDefault(), Instant),
            KeptOfThem = ClosingsFile.Kept(In(ClosingsFile.Name).Select(f => f.Fields).FirstOrDefault()),
            CatalogueViews = ReleasesFile.Views(In(ReleasesFile.Name).Select(f => f.Fields).FirstOrDefault()),
            NeverThere = ReleasesFile.Never(In(ReleasesFile.Name).Select(f => f.Fields).FirstOrDefault()),
            Pieces = [.. In("pieces").Select(f => ReadPiece(f.Name, f.Fields, Marks(f.Name, f.Fields)))],
            Keys = [.. about.Records("keys").Select(k => new OwnKey(k.Word("action"), k.Word("keys")).Checked())],
            Moves = [.. about.Records("moves").Select(ReadMove)],
            Days =
            [
                .. In("days")
                    .Select(f => new DaySheet
                    {
                        Day = Must(f.Name, "day", Day(f.Fields, "day")),
                        Text = f.Fields.Text,
                        Version = 1,
                        Blocks = [.. f.Fields.Records("blocks").Select(ReadBlock)],
                    }),
            ],
            Plan = In(DayPlanFile).Select(f => f.Fields).FirstOrDefault() is { } plan ? ReadPlan(plan) : null,
        };

        IEnumerable<(string Name, string Folder, FrontMatter Fields)> In(string folder) => read.Where(f => f.Folder == folder);
        DateOnly? Day(FrontMatter f, string field) => f.Day(field)?.AddDays(shift);
        DateTimeOffset? Instant(FrontMatter f, string field) => f.Instant(field)?.AddDays(shift);
        IReadOnlyList<TopicMark> Marks(string file, FrontMatter f) => [.. f.Words("topics").Select(name => Mark(file, name))];
        TopicMark Mark(string file, string name) =>
            byName.TryGetValue(name, out var t)
                ? new TopicMark(t.Number, t.Name, t.Colour)
                : throw new UnreadableFileException(file, $"there is no topic “{name}” among these papers.");

        Attachment ReadAttachment(FrontMatter f) =>
            new()
            {
                Number = AttachmentNumber.Of(Must(AttachmentsFile, "number", f.Number("number"))),
                To =
                    f.Number("slip") is { } slip ? new Reference(ThingKind.Slip, slip)
                    : f.Number("source") is { } source ? new Reference(ThingKind.Source, source)
                    : new Reference(ThingKind.Piece, Must(AttachmentsFile, "piece", f.Number("piece"))),
                Name = f.Word("name"),
                Hash = f.Word("file"),
                Type = f.Word("type"),
                Bytes = long.TryParse(f.Word("bytes"), NumberStyles.None, CultureInfo.InvariantCulture, out var bytes) ? bytes : 0,
                Why = f.Word("why"),
                Credit = f.Word("credit"),
                CaughtAt = Must(AttachmentsFile, "caught", Instant(f, "caught")),
            };
        SheetBlock ReadBlock(FrontMatter f) =>
            new(
                Must("days", "block", f.Number("block")),
                f.Enum("kind", BlockKind.Text),
                f.Word("heading"),
                f.Word("prompt"),
                f.Word("text"),
                f.Number("size")
            );
        DayPlan ReadPlan(FrontMatter f) =>
            new DayPlan(
                [
                    .. f.Records("blocks")
                        .Select(b => new PlanBlock(
                            Must(DayPlanFile, "block", b.Number("block")),
                            b.Enum("kind", BlockKind.Text),
                            b.Word("heading"),
                            new BlockDays(
                                b.Each<DayOfWeek>("weekdays"),
                                b.Numbers("days-of-month"),
                                [.. b.Days("dates").Select(d => d.AddDays(shift))]
                            ),
                            b.Word("text"),
                            b.Number("size")
                        )),
                ],
                f.Each<DayOfWeek>("days-off")
            ).Checked();

        Source ReadSource(FrontMatter f, IReadOnlyList<TopicMark> marks) =>
            new()
            {
                Number = SourceNumber.Of(Must("sources", "source", f.Number("source"))),
                Type = f.Enum("type", SourceType.Book),
                Title = f.Word("title"),
                Creators = f.Word("creators"),
                Container = f.Word("container"),
                Date = f.Word("date"),
                Address = f.Word("address"),
                Language = f.Word("language"),
                Details = f.Records("details").ToDictionary(d => d.Word("field"), d => d.Word("value")),
                Summary = f.Text,
                Text = texts.GetValueOrDefault(f.Number("source") ?? 0, ""),
                IsNew = f.Word("new") == "yes",
                Comments = f.Word("comments"),
                CaughtAt = Instant(f, "caught") ?? DateTimeOffset.UnixEpoch,
                TrashedAt = Instant(f, "trashed"),
                Topics = marks,
            };
        Slip ReadSlip(string file, FrontMatter f, IReadOnlyList<TopicMark> marks)
        {
            var number = SlipNumber.Of(Must(file, "slip", f.Number("slip")));
            var caught = Must(file, "caught", Instant(f, "caught"));
            return new Slip
            {
                Number = number,
                Text = Check.Length("text", f.Text, Slip.LongestText),
                Kind = f.Enum("kind", SlipKind.Idea),
                State = f.Enum("state", SlipState.Waiting),
                Origin = f.Enum("origin", Origin.Import),
                OriginNote = f.Word("from"),
                CaughtAt = caught,
                Day = Day(f, "day") ?? DateOnly.FromDateTime(caught.UtcDateTime),
                HeldUntil = Day(f, "held-until"),
                HeldOccasion = f.Number("held-occasion") is { } occasion ? OccasionNumber.Of(occasion) : null,
                HeldSources = f.Number("held-sources"),
                HeldLookUp =
                    f.WordOrNull("look-up") is not { } lookUp ? null
                    : lookUp == Unsaid ? ""
                    : Check.Length("look-up", lookUp, Decision.Hold.LongestLookUp),
                Pull = Check.Step("pull", f.Number("pull")),
                Effort = Check.Step("effort", f.Number("effort")),
                Formats = formats.Keys((f.WordOrNull("format") ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries)),
                Source = f.Number("source") is { } source ? SourceNumber.Of(source) : null,
                Locator = f.Word("locator"),
                Block = f.Number("block"),
                MergedInto = f.Number("merged-into") is { } into ? SlipNumber.Of(into) : null,
                SettledAt = Instant(f, "settled"),
                Topics = marks,
            };
        }
        PieceImage ReadPiece(string file, FrontMatter f, IReadOnlyList<TopicMark> marks)
        {
            var format =
                formats.Find(f.Word("format")) ?? throw new UnreadableFileException(file, $"there is no format “{f.Word("format")}”.");
            var started = Must(file, "started", Instant(f, "started"));
            var sections = f.Records("sections")
                .Select(s => new SectionImage(
                    s.Number("aim"),
                    s.Word("beat"),
                    Check.Length("note", s.Word("note"), Section.LongestNote),
                    s.Word("settled") == "yes"
                ))
                .ToList();
            return new PieceImage(
                new Piece
                {
                    Number = PieceNumber.Of(Must(file, "piece", f.Number("piece"))),
                    Title = f.Word("title"),
                    Format = format.Key,
                    Stage = format.Stages.Contains(f.Word("stage"))
                        ? f.Word("stage")
                        : throw new UnreadableFileException(file, $"the stages of {format.Name} are {string.Join(", ", format.Stages)}."),
                    Brief = f.Word("brief"),
                    Due = Day(f, "due"),
                    Outlet = f.Number("outlet") is { } outlet ? OutletNumber.Of(outlet) : null,
                    OutOn = Day(f, "out"),
                    StartedAt = started,
                    ChangedAt = Instant(f, "changed") ?? started,
                    TrashedAt = Instant(f, "trashed"),
                    OutAddress = f.Word("out-address"),
                    States = f.Words("states"),
                    Pinned = f.Number("pinned"),
                    Topics = marks,
                    Running = f.Number("running"),
                    Language = Languages.Named(f.Word("language")).Tag,
                    Citing = f.Enum("citing", Citing.None),
                    WordAim = f.Number("word-aim"),
                    Fields = f.Records("fields")
                        .ToDictionary(
                            v => v.Word("field"),
                            v =>
                                format.Fields.Any(own => own.Key == v.Word("field") && own.Kind == FieldKind.Date)
                                && Day(v, "value") is { } day
                                    ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                                    : v.Word("value")
                        ),
                },
                f.Text,
                sections,
                [
                    .. f.Records("material")
                        .Select(m => new MaterialImage(
                            m.Number("slip") is { } slip
                                ? new Reference(ThingKind.Slip, slip)
                                : new Reference(ThingKind.Source, Must(file, "material", m.Number("source"))),
                            m.Number("section"),
                            m.Number("was-in")
                        )),
                ]
            )
            {
                Steps =
                [
                    .. f.Records("steps")
                        .Select(s => new StepImage(
                            s.Word("stage"),
                            s.Word("text"),
                            s.Word("how"),
                            s.Word("address"),
                            s.Word("who"),
                            Instant(s, "done"),
                            s.Number("move") is { } move ? MoveNumber.Of(move) : null
                        )),
                ],
                Stages = [.. f.Records("stages").Select(s => new StageEntry(s.Word("stage"), Must(file, "at", Instant(s, "at"))))],
                StageDays = [.. f.Records("stage-days").Select(d => (d.Word("stage"), Must(file, "day", Day(d, "day"))))],
                Before = BeforeFile.Read(f),
                SetAside = [.. f.Records("set-aside").Select(s => new SetAsideImage(s.Word("what"), s.Word("reason")))],
                Marks = [.. f.Records("marks").Select(m => new MarkImage(m.Number("section"), Math.Max(0, m.Number("place") ?? 0)))],
                Thread =
                    f.Word("numbered") == "yes" || f.Records("copied").Count > 0
                        ? new ThreadImage(
                            f.Word("numbered") == "yes",
                            [.. f.Records("copied").Select(c => (Must(file, "part", c.Number("part")), c.Word("text")))]
                        )
                        : null,
                Frozen =
                [
                    .. f.Records("standing-texts")
                        .Select(t => (StandingTextNumber.Of(Must(file, "standing-text", t.Number("standing-text"))), t.Word("text"))),
                ],
                Laid = f.Words("laid") is { Count: > 0 } laid ? laid : null,
                SideTexts = [.. f.Records("side-texts").Select(t => (t.Word("side-text"), t.Word("text")))],
                Versions = VersionFile.Read(
                    In(VersionFile.Folder).Select(v => (v.Name, v.Fields)),
                    PieceNumber.Of(Must(file, "piece", f.Number("piece"))),
                    shift
                ),
                Gone =
                [
                    .. f.Records("gone")
                        .Select(g => new GoneImage(
                            Check.Length("gone", g.Word("title"), Section.LongestTitle),
                            Math.Clamp(g.Number("depth") ?? 1, 1, 6),
                            Check.Length("gone", g.Word("text"), DraftText.Longest),
                            g.Number("aim"),
                            g.Word("beat"),
                            Must(file, "at", Instant(g, "at")),
                            Check.Length("note", g.Word("note"), Section.LongestNote),
                            g.Word("settled") == "yes"
                        )),
                ],
            };
        }
        Move ReadMove(FrontMatter f)
        {
            var caught = Must(About, "caught", Instant(f, "caught"));
            return new Move
            {
                Number = MoveNumber.Of(Must(About, "number", f.Number("number"))),
                Text = f.Word("text"),
                Due = Day(f, "due"),
                DoneAt = Instant(f, "done"),
                Piece = f.Number("piece") is { } piece ? PieceNumber.Of(piece) : null,
                CaughtAt = caught,
                Day = Day(f, "day") ?? DateOnly.FromDateTime(caught.UtcDateTime),
                Note = Check.Length("note", f.Word("note"), Move.LongestNote),
                Place = f.Number("place"),
                Start = Day(f, "start"),
                RemindAt = Instant(f, "remind"),
                Repeats = f.Word("repeats") is { Length: > 0 } rule
                    ? MoveRepeat.Read(rule, Day(f, "due") ?? DateOnly.FromDateTime(caught.UtcDateTime))
                    : null,
                Follows = f.Number("follows") is { } before ? MoveNumber.Of(before) : null,
            };
        }
    }

    private static Topic ReadTopic(FrontMatter f) =>
        new()
        {
            Number = TopicNumber.Of(Must("topics", "topic", f.Number("topic"))),
            Name = TopicName.Clean(f.Word("name")),
            Colour = f.Enum("colour", TopicColour.Teal),
            Aliases = f.Words("also"),
            Wider = f.Number("under") is { } wider ? TopicNumber.Of(wider) : null,
            MergedInto = f.Number("merged-into") is { } into ? TopicNumber.Of(into) : null,
            Wish = f.Number("wished-share"),
            Place = f.Number("place") is > 0 and var place ? place : null,
        };

    private static T Must<T>(string file, string field, T? value)
        where T : struct => value ?? throw new UnreadableFileException(file, $"{field} is missing.");
}
