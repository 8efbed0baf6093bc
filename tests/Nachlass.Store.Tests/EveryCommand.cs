using System.Collections;
using System.Reflection;
using System.Runtime.CompilerServices;
using System.Runtime.ExceptionServices;
using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Sources;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Tests;

/// <summary>
/// Every command of the stores, found by reflection so that a new one cannot be left out, called with made-up arguments that fit the
/// papers as they are: numbers that exist, versions that are current, words that mean something here.
/// </summary>
internal sealed class EveryCommand(Desk desk, Random random)
{
    /// <summary>A picture of one point, as PNG.</summary>
    public const string OnePixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

    /// <summary>Steps of history are not commands of their own, whole papers come in only where there are none, and keys stand outside of
    /// undo.</summary>
    private static readonly string[] Apart =
    [
        "HistoryStore.Undo",
        "HistoryStore.StepBack",
        "HistoryStore.StepBackTo",
        "HistoryStore.StepForward",
        "DraftStore.Back",
        "DraftStore.Forward",
        "DraftStore.BackTo",
        "ImageStore.Put",
        "CaptureKeyStore.Withdraw",
    ];

    private static readonly string[] Words =
    [
        "Ferrymen paid in bread [[slip 2]] #ferries",
        "“Four loaves, no coin” #bread",
        "Why do fords keep saints’ names?",
        "See [[P 1, Two]] and [[ferries]].",
        "- [ ] ask Pell on Friday",
        "https://tavle.example/weir the weir",
        "naïve 👩‍🌾 ’s",
        "## One\n\nfirst\n\n## Two\n\nsecond [[slip 1]]\n",
        "## Two\n\nother words\n\n### Three\n\nand [[slip 3]]\n",
        "bread\n\nloaves and bread #bread\n\nand again",
        "one loaf\n\n---\n\ntwo loaves\n\n[[standing text 1]]\n\n---\n\nthree",
        "",
    ];

    private readonly object[] stores =
    [
        .. typeof(Desk)
            .GetProperties()
            .Where(p => p.PropertyType.Namespace?.StartsWith("Nachlass.Store", StringComparison.Ordinal) == true)
            .Select(p => p.GetValue(desk)!),
    ];

    /// <summary>All commands: what a store does once and can take back.</summary>
    public static IReadOnlyList<MethodInfo> All { get; } =
    [
        .. typeof(PapersFile)
            .Assembly.GetTypes()
            .Where(t => t.IsPublic && t != typeof(PapersFile))
            .SelectMany(t => t.GetMethods(BindingFlags.Public | BindingFlags.Instance))
            .Where(m => m.ReturnType.IsGenericType && m.ReturnType.GetGenericTypeDefinition() == typeof(Done<>))
            .Where(m => m.GetParameters().Any(p => p.ParameterType == typeof(Once)) && !Apart.Contains(Name(m)))
            .OrderBy(Name, StringComparer.Ordinal),
    ];

    public static string Name(MethodInfo method) =>
        $"{method.DeclaringType!.Name}.{method.Name}({string.Join(',', method.GetParameters().Select(p => p.Name))})" is var full
        && Apart.Any(a => full.StartsWith(a + "(", StringComparison.Ordinal))
            ? full[..full.IndexOf('(', StringComparison.Ordinal)]
            : full;

    /// <summary>Lays out a little of everything, so that every command has something to act on.</summary>
    public static void Furnish(Desk desk)
    {
        var caught = desk.Capture.Catch([.. Words.Take(5).Select(w => new ToCatch(w)), new ToCatch(Words[5])], Once.Unkeyed).Answer;
        var first = caught[0].Slip!.Number;
        var source = caught[5].Source!.Number;
        var bread = new[] { "bread" };
        desk.Sources.Edit(source, new SourceChange { Version = desk.Sources.Get(source).Version, Topics = bread }, Once.Unkeyed);
        var passage = desk.Sources.AddPassage(source, new NewPassage("Four loaves of bread.", "f. 2"), Once.Unkeyed).Answer.Number;
        desk.Slips.Edit(passage, new SlipChange { Version = desk.Slips.Get(passage).Version, Topics = bread }, Once.Unkeyed);
        desk.Transcripts.Write(source, [new(0, 1_000, "said", "Pell"), new(1_000, 2_000, "and heard")], Once.Unkeyed);
        desk.Attachments.Add(Reference.To(first), "kept.txt", new MemoryStream("words"u8.ToArray()), "why", Once.Unkeyed);
        desk.Claims.Refine(first, "Bread was money", Once.Unkeyed);
        desk.Claims.Weigh(first, Reference.To(source), Side.For, "", Once.Unkeyed);
        var piece = desk.Pieces.Start(new Store.Bench.NewPiece("The far bank", Slip: first), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, Words[7] + "## Gone\n\nsoon\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Drafts.Save(piece, Words[7], desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Usable.Mark(Reference.To(first), desk.Usable.Paragraphs(Reference.To(first))[0].Text, "thread", Once.Unkeyed);
        desk.Imports.Run(
            "x",
            Origin.Import,
            null,
            () => [("a.ics", new Found.OfOccasion(1, "Lights", desk.Today, desk.Today))],
            Once.Unkeyed
        );
        desk.Plans.Write(
            DayPlan.First with
            {
                Blocks = [.. DayPlan.First.Blocks, new PlanBlock(7, BlockKind.Question, "Today", BlockDays.Every, "What was best?")],
            },
            0,
            Once.Unkeyed
        );
        desk.Catch("The far bank was bread to them, and ferries.");
        desk.Days.AddMove("ask Pell", null, piece, null, Once.Unkeyed);
        desk.Steps.MakeMove(piece, desk.Steps.Of(piece).Steps[0].Number, null, Once.Unkeyed);
        desk.Pieces.Start(new Store.Bench.NewPiece("A talk of ferries", "talk"), Once.Unkeyed);
        desk.Briefs.Edit(piece, new Store.Bench.BriefChange { ForWhom = "bakers", Heap = "loaf\n\ncoin\ntoll\n" }, Once.Unkeyed);
        desk.Titles.Add(piece, new Store.Bench.TitleChange("Bread for a crossing"), Once.Unkeyed);
        desk.Finding.Add(piece, new Store.Bench.NewToFind("Who paid in coin?"), Once.Unkeyed);
        desk.Finding.Add(piece, new Store.Bench.NewToFind("the toll table", Get: true), Once.Unkeyed);
        desk.References.Add(piece, new Store.Bench.ReferenceChange { Slip = passage, Why = "the price" }, Once.Unkeyed);
        desk.Series.Add(new Store.Bench.SeriesChange { Name = "Bread", Pieces = [piece] }, Once.Unkeyed);
        desk.StandingTexts.Add(new Store.Bench.StandingTextChange("Sign-off", "Yours, by the water."), Once.Unkeyed);
        desk.StandingTexts.Add(new Store.Bench.StandingTextChange("Used nowhere", "Gone."), Once.Unkeyed);
        desk.Posts.Add(new Store.Bench.PostChange(Text: "Bread for a crossing.", Ready: true), Once.Unkeyed);
        desk.Patterns.Add(new Store.Bench.PatternChange(PatternKind.Bit, "Loaf", "a loaf’s worth of {{ what }}"), Once.Unkeyed);
        desk.Spelling.Add(new Store.Bench.OwnWord("Ostrey"), Once.Unkeyed);
        desk.Angles.Put(new Store.Ideas.AnglesChange([new("plain", Core.Ideas.SparkKind.Term, "On {{ term }}")], 0), Once.Unkeyed);
        desk.Decks.Put(new([new("loaves", [new("Count them."), new("Whose bread?", true)]), new("none yet", [])], 0), Once.Unkeyed);
        desk.TopicWeighing.Put(new(new(1, 2, 3, 4, 5), 0), Once.Unkeyed);
        desk.Ideas.Keep(
            [
                .. Enumerable
                    .Range(1, 6)
                    .Select(i => new Store.Ideas.IdeaComing(
                        $"Bread, told backwards {i}",
                        "plain",
                        null,
                        [new(Core.Ideas.OriginKind.Slip, 1, "Bread")],
                        null,
                        null,
                        Core.Ideas.SparkKind.Term,
                        "It was there."
                    )),
            ],
            1,
            Once.Unkeyed
        );
        desk.Aloud.Add(new Store.Bench.ShotChange { Piece = piece, Needs = "the bell" }, Once.Unkeyed);
        desk.Versions.Keep(piece, new Store.Bench.VersionName("before the bread"), Once.Unkeyed);
        desk.Routes.Mark(piece, new Store.Bench.NewMark(desk.Drafts.Get(piece).Version, 9), Once.Unkeyed);
        desk.Feeds.Watch("http://127.0.0.1:1/feed", 60, Once.Unkeyed);
        var outlet = desk.Outlets.Add(new Store.Plan.OutletChange { Name = "Low Water" }, Once.Unkeyed).Answer.Number;
        // One on which nothing went out, so that it can be taken away.
        desk.Outlets.Add(new Store.Plan.OutletChange { Name = "The far notice board" }, Once.Unkeyed);
        var talk = desk.Pieces.Start(new Store.Bench.NewPiece("Said at the bridge", "talk"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(talk, "Bread went over the bridge.", desk.Drafts.Get(talk).Version, Once.Unkeyed);
        var release = desk.Releases.Record(talk, new Store.Catalogue.NewRelease(outlet), Once.Unkeyed).Answer;
        desk.Releases.Record(talk, new Store.Catalogue.NewRelease(outlet, desk.Today.AddDays(-3)), Once.Unkeyed);
        var page = desk.Pages.PutUp(new Store.Catalogue.Pages.NewPage(talk, Passphrase: "low water"), Once.Unkeyed).Answer.Page.Number;
        desk.Pages.Hold(page, "Ottilie", "Could you write about bread?");
        desk.Releases.Edit(
            release.Number,
            new Store.Catalogue.ReleaseChange { Version = release.Version, SpeaksOf = [new("bread", "how it crossed")] },
            Once.Unkeyed
        );
        desk.CatalogueViews.Add(new("On bread", "bread"), Once.Unkeyed);
        desk.Reuse.Add(talk, new("The bridge", FromMs: 0, ToMs: 9_000), Once.Unkeyed);
        var sound = desk
            .Attachments.Add(new Reference(ThingKind.Piece, talk.Value), "talk.wav", new MemoryStream(Wave.Silence(2)), "", Once.Unkeyed)
            .Answer;
        desk.Audio.Choose(release.Number, new(desk.Releases.Get(release.Number).Version, sound.Number), Once.Unkeyed);
        desk.ReleaseFigures.Type(release.Number, new("views", 12), Once.Unkeyed);
        desk.Closings.Write(talk, new(0, "Bread was money here.", "Count the loaves first."), Once.Unkeyed);
        desk.Closings.Keep(talk, new("Bread went over the bridge."), Once.Unkeyed);
        desk.Drafts.Save(talk, "Bread went over the far bridge.", desk.Drafts.Get(talk).Version, Once.Unkeyed);
        desk.Connections.Set(outlet, Core.Catalogue.Queue.ConnectionKind.Folder, "/tmp/never-written", null);
        var bridge = desk
            .Attachments.Add(
                new Reference(ThingKind.Piece, talk.Value),
                "bridge.png",
                new MemoryStream(Convert.FromBase64String(OnePixel)),
                "",
                Once.Unkeyed
            )
            .Answer;
        var sent = desk
            .Queue.Queue(
                talk,
                new Store.Catalogue.Queue.NewSending(outlet, "Said again", Picture: bridge.Number, Shows: "The bridge"),
                Once.Unkeyed
            )
            .Answer;
        desk.Queue.Finish(desk.Queue.End(desk.Queue.Begin(sent, 1), 1, new Core.Catalogue.Queue.Outcome.Taken("")));
        desk.Queue.Queue(piece, new Store.Catalogue.Queue.NewSending(outlet), Once.Unkeyed);
        desk.Messages.BringIn(
            [
                new("Ruth Amsel", "What was a penny worth in bread?", Reach: 3),
                new(
                    "Tom Okafor",
                    "How much bread was a penny worth?",
                    desk.Papers.Time.GetUtcNow().AddDays(-9),
                    "tom@readers.example",
                    "mail",
                    "R 1"
                ),
                new("Ida Knowles", "Please write about the eels and the weir."),
            ],
            Once.Unkeyed
        );
        desk.Asks.MakeIdea(desk.Asks.List()[0].Number, Once.Unkeyed);
        desk.Messages.Hide(new("Ostrey"), Once.Unkeyed);
        desk.Cadences.Set(outlet, "essay", new("every day", Fallback: "a week later"), Once.Unkeyed);
        desk.Hours.AddAway(desk.Today.AddDays(9), null, "Harnsby fair", Once.Unkeyed);
        desk.Goals.Add(
            new Store.Plan.GoalChange
            {
                Of = Core.Plan.GoalOf.Released,
                Target = 12,
                By = desk.Today.AddDays(90),
            },
            Once.Unkeyed
        );
        desk.Guide.Add(new Store.Plan.GuideChange { Every = Core.Plan.GuideEvery.Week, Text = "read the gauge" }, Once.Unkeyed);
        desk.StageRules.Add(
            new Store.Plan.StageRuleChange
            {
                Name = "Proofs",
                Stage = "Draft",
                Acts =
                [
                    new Core.Plan.StageAct.MakeMove("send {{ title }} to Pell", 2),
                    new Core.Plan.StageAct.LaySteps(["count the steps"]),
                ],
                IsOn = true,
            },
            Once.Unkeyed
        );
        desk.Rules.Add(
            new Store.Sift.RuleChange
            {
                Name = "Loaves",
                When = RuleWhen.Caught,
                Query = "loaves",
                Act = new RuleAct.Sort(["bread"], null),
                IsOn = true,
            },
            Once.Unkeyed
        );
    }

    /// <summary>Calls a command. What is refused changes nothing.</summary>
    /// <returns>The command's number, or null when it was refused.</returns>
    public CommandNumber? Try(MethodInfo method)
    {
        var store = stores.First(s => s.GetType() == method.DeclaringType);
        int? version = 1;
        for (var attempt = 0; attempt < 3; attempt++)
        {
            var arguments = method.GetParameters().Select(p => Made(p.ParameterType, p.Name!, version)).ToArray();
            try
            {
                var done = Called(() => method.Invoke(store, arguments)!);
                return (CommandNumber)done.GetType().GetProperty("Command")!.GetValue(done)!;
            }
            catch (StaleException stale)
            {
                // The version was a guess; the refusal tells the right one.
                version = (int?)stale.Current.GetType().GetProperty("Version")?.GetValue(stale.Current);
            }
            catch (RefusedException)
            {
                return null;
            }
        }
        return null;
    }

    private static object Called(Func<object> call)
    {
        try
        {
            return call();
        }
        catch (TargetInvocationException wrapped) when (wrapped.InnerException is { } inner)
        {
            ExceptionDispatchInfo.Capture(inner).Throw();
            throw;
        }
    }

    private T Pick<T>(params T[] from) => from[random.Next(from.Length)];

    private object? Made(Type type, string name, int? version)
    {
        if (Nullable.GetUnderlyingType(type) is { } inner)
            return name.Equals("version", StringComparison.OrdinalIgnoreCase) ? version
                : random.Next(3) == 0 ? null
                : Made(inner, name, version);
        if (type == typeof(Once))
            return Once.Unkeyed;
        if (type == typeof(string))
            return Text(name);
        if (type == typeof(int))
            return name.Equals("version", StringComparison.OrdinalIgnoreCase) ? version ?? 1
                : name == "block" ? Pick([.. desk.Plans.Plan().Blocks.Select(b => b.Number), 7])
                // A place in a draft, beyond its first heading too.
                : name.Equals("at", StringComparison.OrdinalIgnoreCase) ? random.Next(0, 80)
                : name is "Number" or "seed" ? random.Next(1, 6)
                : random.Next(0, 6);
        if (type == typeof(bool))
            return random.Next(2) == 0;
        if (type == typeof(DateOnly))
            return desk.Today.AddDays(random.Next(-2, 30));
        if (type == typeof(DateTimeOffset))
            return desk.Papers.Time.GetUtcNow();
        if (type == typeof(Stream))
            return new MemoryStream([.. Enumerable.Range(0, 9).Select(_ => (byte)random.Next(97, 120))]);
        if (type == typeof(Finding))
            return (Finding)(
                () =>
                    [
                        ("a.md", new Found.OfSlip(1, new FoundSlip($"brought {random.Next(99)} [[slip 1]]") { Topics = ["wholly new"] })),
                        ("a.md", new Found.OfPiece(2, "A piece", "## One\n\ntext")),
                        ("a.md", new Found.OfOccasion(3, "Lights", desk.Today, desk.Today)),
                    ]
            );
        if (type == typeof(CancellationToken) || type.IsGenericType && type.GetGenericTypeDefinition() == typeof(IProgress<>))
            return type.IsValueType ? default(CancellationToken) : null;
        if (type.IsEnum)
            return Enum.GetValues(type).GetValue(random.Next(Enum.GetValues(type).Length));
        if (type.GetInterfaces().Any(i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(INumber<>)))
            return Activator.CreateInstance(type, Number(type.Name));
        if (type == typeof(Reference))
            return Pick(
                new Reference(ThingKind.Slip, Number("SlipNumber")),
                new Reference(ThingKind.Source, Number("SourceNumber")),
                new Reference(ThingKind.Piece, Number("PieceNumber")),
                new Reference(ThingKind.Topic, Number("TopicNumber")),
                Reference.To(desk.Today)
            );
        if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Maybe<>))
            return random.Next(2) == 0
                ? Activator.CreateInstance(type)
                : Activator.CreateInstance(type, true, Made(type.GetGenericArguments()[0], name, version));
        if (type.IsGenericType && type.IsAssignableTo(typeof(IEnumerable)))
            return Several(type, name, version);
        if (type.IsAbstract)
            return Made(Pick(type.GetNestedTypes().Where(t => t.BaseType == type).ToArray()), name, version);
        return Thing(type, version);
    }

    private object Several(Type type, string name, int? version)
    {
        var items = type.GetGenericArguments();
        if (items.Length == 2 && name == "given")
            return new Dictionary<string, string> { ["sift.keep"] = Pick("j", "", "Ctrl+K"), ["sift.drop"] = Pick("x", "d") };
        if (items.Length == 2 && items[1] == typeof(bool))
            return new Dictionary<string, bool>
            {
                [Number("StepNumber").ToString(System.Globalization.CultureInfo.InvariantCulture)] = random.Next(2) == 0,
            };
        if (items.Length == 2 && name == "Values")
            return new Dictionary<string, string> { [Pick("place", "minutes", "venue")] = Pick("8", "") };
        if (items.Length == 2)
            return new Dictionary<string, string> { ["accessed"] = "2026-11-24", ["note"] = Pick(Words) };
        if (name == "hours")
            return Enumerable.Range(0, 7).Select(_ => (double)random.Next(9)).ToList();
        if (items[0] == typeof(Anchor))
            return desk.Papers.Read(db =>
                db.Query<int>("SELECT number FROM section").Select(n => new Anchor(SectionNumber.Of(n), random.Next(0, 60))).ToList()
            );
        var list = (IList)Activator.CreateInstance(typeof(List<>).MakeGenericType(items))!;
        for (var i = random.Next(1, 4); i > 0; i--)
            list.Add(Made(items[0], name, version));
        return list;
    }

    /// <summary>A record: what its constructor asks for, and some of what can be set besides.</summary>
    private object Thing(Type type, int? version)
    {
        if (type == typeof(Store.Bench.ProposalTaken))
            return new Store.Bench.ProposalTaken(version, Pick(null, new[] { "section:" + Number("SectionNumber") }));
        if (type == typeof(Store.Bench.Replacement))
        {
            var asked = new Store.Bench.ReplaceAsked(
                PieceNumber.Of(Number("PieceNumber")),
                Text("find"),
                Text("with"),
                Pick(Enum.GetValues<SoughtAs>())
            );
            try
            {
                var chosen = desk.Replacing.Preview(asked).Select(p => new Store.Bench.PlacesChosen(p.Piece, p.Version, [0, 1]));
                return new Store.Bench.Replacement(asked, [.. chosen]);
            }
            catch (NotThereException)
            {
                return new Store.Bench.Replacement(asked, []);
            }
        }
        if (type == typeof(Core.Plan.Days))
            return new Core.Plan.Days(desk.Today.AddDays(random.Next(9)), desk.Today.AddDays(9 + random.Next(9)));
        if (type == typeof(Store.Plan.FillingTaken))
        {
            var isPiece = random.Next(2) == 0;
            return new Store.Plan.FillingTaken(
                desk.Today.AddDays(random.Next(30)),
                Core.Plan.OutletNumber.Of(Number("OutletNumber")),
                Pick("essay", "talk"),
                isPiece ? null : SlipNumber.Of(Number("SlipNumber")),
                isPiece ? PieceNumber.Of(Number("PieceNumber")) : null
            );
        }
        if (type == typeof(Core.Ideas.Order.OrderWeights))
            return new Core.Ideas.Order.OrderWeights(random.Next(1, 6), random.Next(6), random.Next(6), random.Next(6), random.Next(6));
        if (type == typeof(Store.Ideas.CardTicked))
        {
            var deck = Pick([.. desk.Decks.Get().Decks.Where(d => d.Cards.Count > 0)]);
            return new Store.Ideas.CardTicked(deck.Name, Pick([.. deck.Cards]).Text, random.Next(3) > 0);
        }
        if (type == typeof(Store.Choosing.WeighingChange))
            return new Store.Choosing.WeighingChange(null, Pick("pull", "readers"));
        if (type.IsAssignableTo(typeof(Format)))
        {
            var made = (Format)Activator.CreateInstance(type)!;
            Format from = Pick(
                desk.Formats.List()[0],
                desk.Formats.List()[^1],
                ReadyFormats.Essay with
                {
                    Stages = ["Gather", "Write " + random.Next(3), "Out"],
                    Hours = [],
                    Steps = [],
                    TitlePattern = Pick("", "No. {{ number }}: {{ title }}"),
                    Template = Pick("", "For {{ weekday }}.\n\n## Laid in\n"),
                }
            );
            foreach (var property in typeof(Format).GetProperties().Where(p => p.SetMethod is not null))
                property.SetValue(made, property.GetValue(from));
            typeof(Format).GetProperty(nameof(Format.Name))!.SetValue(made, "Format " + random.Next(9));
            typeof(Format).GetProperty(nameof(Format.Version))!.SetValue(made, version ?? 1);
            if (made is Store.Bench.FormatEdit edit)
                return edit with
                {
                    Moved = new Dictionary<string, string>
                    {
                        ["Draft"] = "Gather",
                        ["Outline"] = "Gather",
                        ["Ready"] = "Out",
                        ["Edit"] = "Out",
                    },
                };
            return made;
        }
        if (type == typeof(Store.Ideas.IdeasDecided))
        {
            var act = (Store.Ideas.IdeaAct)Made(typeof(Store.Ideas.IdeaAct), "act", null)!;
            // Those that wait, or one that was shown elsewhere: never both.
            return random.Next(2) == 0
                ? new Store.Ideas.IdeasDecided([Core.Ideas.OfferNumber.Of(random.Next(1, 7))], act)
                : new Store.Ideas.IdeasDecided(
                    null,
                    act,
                    Idea: (Store.Ideas.IdeaComing)Made(typeof(Store.Ideas.IdeaComing), "idea", null)!
                );
        }
        if (type == typeof(DayPlan))
            return DayPlan.First with
            {
                Blocks =
                [
                    .. DayPlan.First.Blocks.Skip(random.Next(3)),
                    new PlanBlock(9 + random.Next(3), BlockKind.Question, "Today", BlockDays.Every, "What was best?"),
                ],
            };
        var constructor = type.GetConstructors().OrderByDescending(c => c.GetParameters().Length).FirstOrDefault();
        var thing =
            constructor is null || constructor.GetParameters() is [var only] && only.ParameterType == type
                ? RuntimeHelpers.GetUninitializedObject(type)
                : constructor.Invoke([.. constructor.GetParameters().Select(p => Made(p.ParameterType, p.Name!, version))]);
        foreach (
            var property in type.GetProperties()
                .Where(p => p.SetMethod is not null && constructor?.GetParameters().Any(c => c.Name == p.Name) != true)
        )
            if (property.Name == "Version" || random.Next(2) == 0 || property.GetCustomAttribute<RequiredMemberAttribute>() is not null)
                property.SetValue(thing, Made(property.PropertyType, property.Name, version));
        return thing;
    }

    private int Number(string type)
    {
        var table = type[..^"Number".Length] switch
        {
            "View" => "saved_view",
            "Step" => "piece_step",
            "Title" => "other_title",
            "Mark" => "piece_mark",
            "Version" => "piece_version",
            "StandingText" => "standing_text",
            "ToFind" => "to_find",
            "PieceReference" => "piece_reference",
            "StageRule" => "stage_rule",
            "GuideLine" => "guide_line",
            "Command" => "command",
            "Offer" => "offered_idea",
            "Comment" => "page_comment",
            "CatalogueView" => "catalogue_view",
            var name => name.ToLowerInvariant(),
        };
        var all = desk.Papers.Read(db => db.Query<int>($"SELECT rowid FROM {table} ORDER BY rowid").ToArray());
        return all.Length == 0 || random.Next(12) == 0 ? random.Next(1, 4) : Pick(all);
    }

    private string? Text(string name) =>
        name.ToLowerInvariant() switch
        {
            "key" => Pick("essay", "thread", "summary", "film", "place"),
            "format" => Pick(null, "essay", "letter", "thread"),
            "formats" => Pick("essay", "talk"),
            "stage" => Pick("Gather", "Draft", "Out"),
            "countries" => Pick("GB", "FR", "UN"),
            "recurs" => Pick("", "Good Friday", "the second Sunday of May"),
            "repeats" => Pick(null, "every day", "every second Friday"),
            "said" => Pick("FREQ=WEEKLY;BYDAY=FR", "first and third Friday", "every day", null),
            "fallback" => Pick("a week later", "the next day", null),
            "mark" => Pick("LW", ""),
            "query" => Pick("bread", "pull>=4", "topic:ferries"),
            "address" => $"http://127.0.0.1:{random.Next(2, 99)}/feed",
            "paragraph" => Pick([.. desk.Papers.Read(db => db.Query<string>("SELECT text FROM slip")).DefaultIfEmpty("x")]),
            "section" => Pick("", "One", "Two"),
            "slug" => Pick(null, "bread", "the-far-bank"),
            "passphrase" => Pick(null, "", "low water"),
            "date" => Pick("1784", "2026-03"),
            "idea" => Pick(null, "loaves and bread #bread"),
            "name" or "names" or "topics" or "aliases" or "withouttopics" => Pick("ferries", "bread", "tolls", "loaves " + random.Next(9)),
            "title" or "heading" => Pick("One", "Two", "The far bank", "Loaves " + random.Next(9)),
            "language" => Pick("en-GB", "de"),
            "topic" => Pick("", "bread", "tolls"),
            "word" => Pick("Ostrey", "Tavle", "loaf"),
            "states" => Pick("sponsored", "waits for Pell"),
            "steps" => Pick("read it aloud", "ask {{ title }}"),
            "outaddress" => Pick("", "https://ostrey.example/1"),
            "find" => Pick("bread", "first", "o"),
            "with" => Pick("loaves", ""),
            // What went out has no references in it.
            "sentence" => Pick("Bread went over the bridge.", "Four loaves, no coin.", ""),
            "from" => Pick("0:01", "1:02.5"),
            "to" => Pick("2:03", "9:00"),
            "locator" => Pick("f. 31r", "p. 3", ""),
            _ => Pick(Words),
        };
}
