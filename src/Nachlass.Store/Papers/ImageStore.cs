using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Store.Choosing;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Plan;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Papers;

/// <summary>How much was brought in.</summary>
public sealed record BroughtIn(int Slips, int Sources, int Topics, int Pieces, int Moves, int Days);

/// <summary>A whole set of papers out of the file and into it.</summary>
public sealed class ImageStore(PapersFile papers, FileShelf shelf, ReadFile look)
{
    /// <summary>All papers as they are now.</summary>
    public PapersImage Take() =>
        papers.Read(db => new PapersImage
        {
            Purpose = db.ExecuteScalar<string>("SELECT purpose FROM papers") ?? "",
            Topics =
            [
                .. db.Query<Topic>(
                    "SELECT t.number, t.name, t.colour, t.wider, t.merged_into, t.wish, t.place, (SELECT json_group_array(name) "
                        + "FROM topic_alias a WHERE a.topic = t.number) AS aliases FROM topic t ORDER BY t.number"
                ),
            ],
            Sources = [.. db.Query<Source>($"SELECT {SourceRows.Whole} FROM source s ORDER BY s.number")],
            Transcripts = TranscriptStore.All(db),
            Questions = db.ExecuteScalar<string>("SELECT questions FROM papers") is { } questions
                ? JsonSerializer.Deserialize<IReadOnlyList<string>>(questions, Answers.Json)
                : null,
            Slips = [.. db.Query<Slip>($"SELECT {SlipRows.Columns} FROM slip s ORDER BY s.number")],
            Pieces = [.. PieceRows.List(db, "1", null).OrderBy(p => p.Number.Value).Select(p => Take(db, p))],
            Moves = [.. db.Query<Move>($"SELECT {MoveRows.Columns} ORDER BY v.number")],
            Days = [.. db.Query<DateOnly>("SELECT day FROM day_sheet ORDER BY day").ToList().Select(day => SheetRows.Sheet(db, day))],
            Attachments = AttachmentStore.All(db),
            Occasions = OccasionStore.All(db),
            Planning = PlanRows.Take(db),
            Keys = OwnKeyStore.All(db),
            Sifting = SiftingRows.Take(db),
            Choosing = WeighingStore.Take(db),
            Series = SeriesRows.Image(db),
            StandingTexts = [.. StandingTextRows.All(db).OrderBy(t => t.Number.Value)],
            Patterns = PatternRows.All(db),
            OfferedIdeas = OfferedIdeaRows.All(db),
            Angles = AngleRows.Own(db),
            Decks = DeckRows.Own(db),
            OrderWeights = TopicWeighingStore.Own(db),
            Posts = PostRows.List(db, "true", null),
            OwnWords = SpellingStore.Own(db),
            SittingAim = db.ExecuteScalar<int?>("SELECT sitting_aim FROM papers"),
            Sittings = SittingStore.Image(db),
            Shots = AloudStore.Image(db),
            Formats = FormatRows.AllUnlessReady(db),
            Releases = [.. ReleaseRows.List(db, "true", null, withText: true).OrderBy(r => r.Number.Value)],
            NeverThere = ReleaseRows.Never(db),
            CatalogueViews = [.. CatalogueViewStore.All(db).OrderBy(v => v.Number.Value)],
            Messages = MessageRows.List(db, "true", null, "m.number"),
            Asks = AskRows.All(db),
            Wishes = AskRows.Wishes(db),
            HiddenWords = MessageRows.HiddenWords(db),
            Pages = PageRows.Image(db),
            Reuse = ReuseRows.Image(db),
            Figures = ReleaseFigureRows.Image(db),
            Closings = ClosingRows.All(db),
            KeptOfThem = ClosingRows.KeptOf(db),
            Plan = SheetRows.Plan(db) is { Version: > 0 } plan ? plan : null,
        });

    private static PieceImage Take(SqliteConnection db, Piece piece)
    {
        var (outline, _, _) = DraftRows.Read(db, piece.Number);
        var places = outline.Sections.Select((s, i) => (s.Number!.Value.Value, i + 1)).ToDictionary();
        var gone = DraftRows.Gone(db, piece.Number);
        var goneAt = gone.Select((s, i) => (s.Number.Value, i + 1)).ToDictionary();
        var material = db.Query<(int? Slip, int? Source, int? Section, int? WasIn)>(
                "SELECT slip, source, section, was_in FROM material WHERE piece = @Number ORDER BY position",
                new { piece.Number }
            )
            .Select(m => new MaterialImage(
                m.Slip is { } s ? new Reference(ThingKind.Slip, s) : new Reference(ThingKind.Source, m.Source!.Value),
                m.Section is { } at ? places[at] : null,
                m.WasIn is { } was ? goneAt[was] : null
            ));
        return new PieceImage(
            piece,
            outline.Text,
            [.. outline.Sections.Select(s => new SectionImage(s.Aim, s.Beat, s.Note, s.IsSettled))],
            [.. material]
        )
        {
            Gone = [.. gone.Select(g => g.Image)],
            StageDays = PlanRows.StageDays(db, piece.Number),
            Stages = StageRows.Of(db, piece.Number),
            Versions = VersionRows.Image(db, piece.Number),
            Thread = ThreadStore.Image(db, piece.Number),
            Frozen = StandingTextRows.Frozen(db, piece.Number),
            Steps =
            [
                .. StepRows
                    .Of(db, piece.Number)
                    .Select(s => new StepImage(s.Stage, s.Text, s.Instructions, s.Address, s.Who, s.DoneAt, s.Move)),
            ],
            Laid = PieceRows.Laid(db, piece.Number) is { Count: > 0 } laid ? [.. laid.Order(StringComparer.Ordinal)] : null,
            SideTexts = SideTextRows.Of(db, piece.Number),
            Before = BeforeRows.Read(db, piece.Number, places),
            SetAside = RouteRows.Image(db, piece.Number, places),
            Marks = MarkRows.Image(db, piece.Number, places),
        };
    }

    /// <summary>Puts a set of papers into a file that has none, numbers and all, as one command.</summary>
    /// <exception cref="ClashException">There are papers in it already.</exception>
    /// <exception cref="BadInputException">Something refers to what isn't there.</exception>
    public Done<BroughtIn> Put(PapersImage image, Once once) =>
        papers.Run(
            "brought in papers",
            once,
            change =>
            {
                var db = change.Db;
                change.IsAsItWas = true;
                if (
                    db.ExecuteScalar<int>(
                        "SELECT EXISTS (SELECT 1 FROM slip) + EXISTS (SELECT 1 FROM source) + EXISTS (SELECT 1 "
                            + "FROM piece) + EXISTS (SELECT 1 FROM topic) + EXISTS (SELECT 1 FROM day_sheet) + EXISTS (SELECT 1 "
                            + "FROM move)"
                    ) > 0
                )
                    throw new ClashException(
                        "There are papers here already. A zip of papers can be read into empty papers only; start Nachlass with "
                            + "another folder (NACHLASS_DATA) for it."
                    );
                try
                {
                    db.Execute("PRAGMA defer_foreign_keys = ON");
                    if (image.Purpose.Length > 0)
                        db.Execute("UPDATE papers SET purpose = @Purpose, version = version + 1", new { image.Purpose });
                    foreach (var topic in image.Topics)
                        Put(db, topic);
                    foreach (var source in image.Sources)
                        Put(db, source);
                    foreach (var (source, lines) in image.Transcripts)
                        TranscriptStore.Put(db, source, lines);
                    if (image.Questions is { } questions)
                        db.Execute("UPDATE papers SET questions = @kept", new { kept = JsonSerializer.Serialize(questions, Answers.Json) });
                    foreach (var key in image.Keys)
                        OwnKeyStore.Put(db, key);
                    foreach (var slip in image.Slips)
                        Put(db, slip);
                    if (image.Formats is { } formats)
                    {
                        db.Execute("DELETE FROM format");
                        foreach (var format in formats)
                            FormatRows.Put(db, format);
                    }
                    foreach (var piece in image.Pieces)
                        Put(change, piece);
                    // They were written before they came here.
                    db.Execute("DELETE FROM written WHERE command = @Number", new { change.Number });
                    foreach (var move in image.Moves)
                        db.Execute(
                            "INSERT INTO move (number, text, due, done_at, piece, caught_at, day, note, place, start, remind_at, "
                                + "repeats, follows) "
                                + "VALUES (@Number, @Text, @Due, @DoneAt, @Piece, @CaughtAt, @Day, @Note, @Place, @Start, @RemindAt, "
                                + "@Repeats, @Follows)",
                            move
                        );
                    foreach (var day in image.Days)
                    {
                        db.Execute(
                            "INSERT INTO day_sheet (day_number, day, text) VALUES (@number, @Day, @Text)",
                            new
                            {
                                number = day.Day.DayNumber,
                                day.Day,
                                day.Text,
                            }
                        );
                        SheetRows.Add(db, day.Day.DayNumber, day.Blocks);
                        SheetRows.WriteLinks(db, day.Day);
                    }
                    foreach (var attachment in image.Attachments)
                    {
                        var place = shelf.Path(attachment.Hash);
                        if (!File.Exists(place))
                            throw new BadInputException(
                                "zip",
                                $"The file “{attachment.Name}” of {attachment.To} is not in the zip. Nothing was brought in."
                            );
                        AttachmentStore.Put(db, attachment, look(attachment.Name, place));
                    }
                    foreach (var release in image.Releases ?? [])
                    foreach (
                        var (name, hash) in new[]
                        {
                            (release.Recording?.Name, release.Recording?.Hash),
                            (release.Picture?.Name, release.Picture?.Hash),
                        }
                    )
                        if (hash is not null && !File.Exists(shelf.Path(hash)))
                            throw new BadInputException(
                                "zip",
                                $"The file “{name}” of R {release.Number} is not in the zip. Nothing was brought in."
                            );
                    PlanRows.Put(db, image.Planning);
                    foreach (var occasion in image.Occasions)
                    {
                        db.Execute(
                            "INSERT INTO occasion (number, name, from_day, to_day, every_year, recurs) "
                                + "VALUES (@Number, @Name, @From, @To, @EveryYear, @Recurs)",
                            new
                            {
                                occasion.Number,
                                occasion.Name,
                                occasion.From,
                                occasion.To,
                                occasion.EveryYear,
                                occasion.Recurs,
                            }
                        );
                        OccasionStore.PutTopics(db, occasion.Number, [.. occasion.Topics.Select(t => t.Number)]);
                    }
                    SiftingRows.Put(db, image.Sifting);
                    WeighingStore.Put(db, image.Choosing);
                    foreach (var text in image.StandingTexts)
                        StandingTextRows.Put(db, text);
                    if (image.Patterns is { } patterns)
                        PatternRows.PutAll(db, patterns);
                    if (image.Angles is { } angles)
                        AngleRows.PutAll(db, angles);
                    if (image.Decks is { } decks)
                        DeckRows.PutAll(db, decks);
                    if (image.OrderWeights is { } weights)
                        TopicWeighingStore.Put(db, weights);
                    foreach (var idea in image.OfferedIdeas)
                        OfferedIdeaRows.Put(db, idea);
                    foreach (var post in image.Posts)
                        PostRows.Put(db, post);
                    foreach (var word in image.OwnWords)
                        SpellingStore.Put(db, word);
                    if (image.SittingAim is { } aim)
                        db.Execute("UPDATE papers SET sitting_aim = @aim", new { aim });
                    foreach (var sitting in image.Sittings)
                        SittingStore.Put(db, sitting);
                    foreach (var (shot, at) in image.Shots.Select((s, i) => (s, i)))
                        AloudStore.Put(db, shot, at + 1);
                    foreach (var release in image.Releases ?? [])
                        ReleaseRows.Put(db, release);
                    if (image.Releases is null)
                        ReleaseRows.MakeForAllOut(db);
                    foreach (var (piece, outlet) in image.NeverThere)
                        ReleaseRows.PutNever(db, piece, outlet);
                    foreach (var view in image.CatalogueViews)
                        CatalogueViewStore.Put(db, view);
                    MessageRows.Put(db, image.Messages);
                    foreach (var ask in image.Asks)
                        AskRows.Put(db, ask);
                    AskRows.Put(db, image.Wishes);
                    foreach (var word in image.HiddenWords)
                        MessageRows.PutHiddenWord(db, word);
                    ReuseRows.Put(db, image.Reuse);
                    foreach (var (release, figure) in image.Figures)
                        ReleaseFigureRows.Put(db, release, figure);
                    foreach (var closing in image.Closings)
                        ClosingRows.Put(db, closing);
                    foreach (var kept in image.KeptOfThem)
                        ClosingRows.Put(db, kept);
                    foreach (var series in image.Series)
                        SeriesRows.PutImage(db, series);
                    foreach (var page in image.Pages)
                        PageRows.PutImage(db, page);
                    if (image.Plan is { } plan)
                        db.Execute(
                            "INSERT INTO day_plan (id, blocks, days_off) VALUES (1, @blocks, @daysOff)",
                            new
                            {
                                blocks = JsonSerializer.Serialize(plan.Blocks, Answers.Json),
                                daysOff = JsonSerializer.Serialize(plan.DaysOff, Answers.Json),
                            }
                        );
                    if (db.QueryFirstOrDefault<string>("SELECT \"table\" FROM pragma_foreign_key_check") is { } table)
                        throw new BadInputException(
                            "zip",
                            $"A {table} in the zip refers to something that is not in it. Nothing was brought in."
                        );
                }
                catch (SqliteException error) when (error.SqliteErrorCode == 19)
                {
                    throw new BadInputException(
                        "zip",
                        $"Two files in the zip have the same number, or a value can't be taken ({error.Message}). Nothing was brought in."
                    );
                }
                return new BroughtIn(
                    image.Slips.Count,
                    image.Sources.Count,
                    image.Topics.Count,
                    image.Pieces.Count,
                    image.Moves.Count,
                    image.Days.Count
                );
            }
        );

    private static void Put(SqliteConnection db, Topic topic)
    {
        db.Execute(
            "INSERT INTO topic (number, name, colour, wider, merged_into, wish, place) "
                + "VALUES (@Number, @Name, @colour, @Wider, @MergedInto, @Wish, @Place)",
            new
            {
                topic.Number,
                topic.Name,
                colour = topic.Colour.Kept(),
                topic.Wider,
                topic.MergedInto,
                topic.Wish,
                topic.Place,
            }
        );
        foreach (var name in topic.Aliases)
            db.Execute("INSERT INTO topic_alias (topic, name) VALUES (@Number, @name)", new { topic.Number, name });
    }

    private static void Put(SqliteConnection db, Source source)
    {
        db.Execute(
            """
            INSERT INTO source (number, type, title, creators, container, date, address, language, details, summary, comments, text,
                is_new, caught_at, trashed_at)
            VALUES (@Number, @type, @Title, @Creators, @Container, @Date, @Address, @Language, @Details, @Summary, @Comments, @Text,
                @IsNew, @CaughtAt, @TrashedAt)
            """,
            new
            {
                source.Number,
                type = source.Type.Kept(),
                source.Title,
                source.Creators,
                source.Container,
                source.Date,
                source.Address,
                source.Language,
                source.Details,
                source.Summary,
                source.Comments,
                source.Text,
                source.IsNew,
                source.CaughtAt,
                source.TrashedAt,
            }
        );
        SourceRows.SetTopics(db, source.Number, [.. source.Topics.Select(t => t.Number)]);
        Links.Write(db, Reference.To(source.Number), source.Summary + "\n" + source.Comments, isNew: true);
    }

    private static void Put(SqliteConnection db, Slip slip)
    {
        db.Execute(
            """
            INSERT INTO slip (number, text, kind, state, origin, origin_note, caught_at, day, held_until, held_occasion, held_sources,
                held_look_up, pull, effort, format, source, locator, block, merged_into, settled_at)
            VALUES (@Number, @Text, @kind, @state, @origin, @OriginNote, @CaughtAt, @Day, @HeldUntil, @HeldOccasion, @HeldSources,
                @HeldLookUp, @Pull, @Effort, @format, @Source, @Locator, @Block, @MergedInto, @SettledAt)
            """,
            new
            {
                slip.Number,
                slip.Text,
                kind = slip.Kind.Kept(),
                state = slip.State.Kept(),
                origin = slip.Origin.Kept(),
                slip.OriginNote,
                slip.CaughtAt,
                slip.Day,
                slip.HeldUntil,
                slip.HeldOccasion,
                slip.HeldSources,
                slip.HeldLookUp,
                slip.Pull,
                slip.Effort,
                format = SlipRows.Kept(slip.Formats),
                slip.Source,
                slip.Locator,
                slip.Block,
                slip.MergedInto,
                slip.SettledAt,
            }
        );
        SlipRows.SetTopics(db, slip.Number, [.. slip.Topics.Select(t => t.Number)], isNew: true);
        Links.Write(db, Reference.To(slip.Number), slip.Text, isNew: true);
    }

    private static void Put(Change change, PieceImage image)
    {
        var (db, piece) = (change.Db, image.Piece);
        db.Execute(
            """
            INSERT INTO piece (number, title, format, brief, stage, due, out_on, started_at, changed_at, trashed_at, running, laid,
                language, citing, word_aim, outlet, out_address, pinned)
            VALUES (@Number, @Title, @Format, @Brief, @Stage, @Due, @OutOn, @StartedAt, @ChangedAt, @TrashedAt, @Running, @laid, @Language,
                @citing, @WordAim, @Outlet, @OutAddress, @Pinned);
            INSERT INTO draft (piece, changed_at) VALUES (@Number, @ChangedAt);
            """,
            new
            {
                piece.Number,
                piece.Title,
                piece.Format,
                piece.Brief,
                piece.Stage,
                piece.Due,
                piece.Outlet,
                piece.OutOn,
                piece.OutAddress,
                piece.Pinned,
                piece.StartedAt,
                piece.ChangedAt,
                piece.TrashedAt,
                piece.Running,
                piece.Language,
                piece.WordAim,
                citing = piece.Citing.Kept(),
                laid = image.Laid is { } had ? PieceRows.LaidWritten(had) : null,
            }
        );
        foreach (var (stage, day) in image.StageDays)
            PlanRows.SetStageDay(db, piece.Number, stage, day);
        foreach (var entry in image.Stages)
            StageRows.Enter(db, piece.Number, entry.Stage, entry.At);
        // Papers from before stages were noted down say no more than when it was last changed.
        StageRows.Enter(db, piece.Number, piece.Stage, piece.ChangedAt);
        StageRows.SetStates(db, piece.Number, piece.States);
        foreach (var step in image.Steps)
            StepRows.Add(db, piece.Number, step.Stage, step.Text, step.Instructions, step.Address, step.Who, step.DoneAt, step.Move);
        foreach (var (key, value) in piece.Fields)
            db.Execute(
                "INSERT INTO piece_field (piece, key, value) VALUES (@Number, @key, @value)",
                new
                {
                    piece.Number,
                    key,
                    value,
                }
            );
        foreach (var (key, text) in image.SideTexts)
            SideTextRows.Put(db, piece.Number, key, text);
        PieceRows.SetTopics(db, piece.Number, [.. piece.Topics.Select(t => t.Number)]);
        var (lead, parts) = DraftText.Split(Check.Length("draft", image.Draft, DraftText.Longest));
        var outline = new Outline(
            lead,
            [
                .. parts.Select(
                    (part, i) =>
                        i < image.Sections.Count
                            ? new Section(null, part, image.Sections[i].Aim, image.Sections[i].Beat)
                            {
                                Note = image.Sections[i].Note,
                                IsSettled = image.Sections[i].IsSettled,
                            }
                            : new Section(null, part)
                ),
            ]
        );
        DraftRows.Write(change, piece.Number, outline);
        db.Execute("UPDATE draft SET changed_at = @ChangedAt WHERE piece = @Number", new { piece.Number, piece.ChangedAt });
        var sections = db.Query<int>(
                "SELECT number FROM section WHERE piece = @Number AND gone_at IS NULL ORDER BY position",
                new { piece.Number }
            )
            .ToList();
        VersionRows.Put(change, piece.Number, image.Versions);
        ThreadStore.Put(db, piece.Number, image.Thread);
        foreach (var (number, text) in image.Frozen)
            StandingTextRows.Put(db, piece.Number, number, text);
        BeforeRows.Put(db, piece.Number, image.Before, sections);
        RouteRows.Put(db, piece.Number, image.SetAside, sections);
        MarkRows.Put(db, piece.Number, image.Marks, sections);
        var gone = image.Gone.Select(g => DraftRows.PutGone(db, piece.Number, g)).ToList();
        foreach (var material in image.Material)
        {
            MaterialRows.Add(
                change,
                piece.Number,
                material.Thing,
                Placed(material.Section, sections) is { } at ? SectionNumber.Of(at) : null
            );
            if (Placed(material.WasIn, gone) is { } was)
                MaterialRows.WasIn(db, piece.Number, material.Thing, SectionNumber.Of(was));
        }

        int? Placed(int? place, List<int> among) =>
            place is not { } nth ? null
            : nth >= 1 && nth <= among.Count ? among[nth - 1]
            : throw new BadInputException("zip", $"P {piece.Number} has no section {nth} to place material in. Nothing was brought in.");
    }
}
