using Dapper;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.Time.Testing;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests;

/// <summary>A set of papers in a folder of its own, with every store on it and a clock that stands still.</summary>
public sealed class Desk : IDisposable
{
    /// <summary>Papers with nothing in them, made once: bringing a file up to date takes longer than most tests.</summary>
    private static readonly Lazy<string> Empty = new(() =>
    {
        var made = Directory.CreateTempSubdirectory("nachlass-empty-").FullName;
        PapersFile.Open(made, TimeProvider.System).Dispose();
        return Path.Combine(made, PapersFile.FileName);
    });

    public Desk(string? folder = null)
    {
        Folder = folder ?? Directory.CreateTempSubdirectory("nachlass-test-").FullName;
        if (folder is null)
            File.Copy(Empty.Value, Path.Combine(Folder, PapersFile.FileName));
        Clock = new FakeTimeProvider(new DateTimeOffset(2026, 11, 24, 8, 0, 0, TimeSpan.Zero));
        Papers = PapersFile.Open(Folder, Clock);
        Nearby = new Nearby(Papers);
        Nearby.Fill();
        Columns = new SlipColumns(Papers);
        Worth = new WorthStore(Papers, Columns, Nearby);
        Weighing = new WeighingStore(Papers);
        History = new HistoryStore(Papers);
        Capture = new CaptureStore(Papers);
        Slips = new SlipStore(Papers, History);
        Days = new DeskStore(Papers);
        Plans = new DayPlanStore(Papers);
        Sift = new SiftStore(Papers, Nearby, Worth);
        Decisions = new DecisionStore(Papers, Worth);
        Rules = new RuleStore(Papers);
        StageRules = new StageRuleStore(Papers);
        Stages = new StageStore(Papers);
        Guide = new GuideStore(Papers);
        Claims = new ClaimStore(Papers, Nearby);
        Usable = new UsableStore(Papers, Worth);
        OwnKeys = new OwnKeyStore(Papers);
        Flow = new FlowStore(Papers);
        Find = new FindStore(Papers, Nearby);
        Learning = new TopicLearning(Papers, Nearby);
        Advice = new AdviceStore(Papers, Nearby, Learning, Find);
        Library = new LibraryStore(Papers, Columns, Worth);
        Sources = new SourceStore(Papers, History);
        Topics = new TopicStore(Papers, History, Columns);
        Digests = new DigestStore(Papers);
        Coverage = new CoverageStore(Papers, Topics, Columns);
        Mentions = new MentionStore(Papers);
        Pieces = new PieceStore(Papers, History, Advice, Worth);
        Drafts = new DraftStore(Papers, History);
        Outs = new OutStore(Papers);
        StandingTexts = new StandingTextStore(Papers);
        Patterns = new PatternStore(Papers);
        Posts = new PostStore(Papers);
        Threads = new ThreadStore(Papers);
        Spelling = new SpellingStore(Papers);
        Replacing = new ReplaceStore(Papers);
        Sittings = new SittingStore(Papers);
        Aloud = new AloudStore(Papers, Outs, new SettingStore(Papers));
        Starting = new StartStore(Papers, Find, Worth, Nearby);
        Formats = new FormatStore(Papers);
        Steps = new StepStore(Papers);
        Beside = new BesideStore(Papers);
        Briefs = new BriefStore(Papers);
        Titles = new TitleStore(Papers);
        Finding = new FindOutStore(Papers);
        References = new ReferenceStore(Papers);
        Routes = new RouteStore(Papers, Advice);
        Series = new SeriesStore(Papers);
        Versions = new VersionStore(Papers);
        Views = new ViewStore(Papers, Library);
        Shelf = new FileShelf(Papers);
        ReadFile look = FileKinds.Read;
        Images = new ImageStore(Papers, Shelf, look);
        Attachments = new AttachmentStore(Papers, Shelf, look);
        Imports = new ImportStore(Papers, Shelf, look);
        Transcripts = new TranscriptStore(Papers);
        Feeds = new FeedStore(Papers);
        Occasions = new OccasionStore(Papers);
        HolidaysSeen = new HolidayStore(Papers);
        Figures = new FigureStore(Papers);
        Goals = new GoalStore(Papers);
        Pinned = new PinnedStore(Papers);
        Choosing = new ChoosingStore(Papers, Worth, Advice);
        Ahead = new AheadStore(Papers, Worth, Advice);
        Outlets = new OutletStore(Papers);
        Releases = new ReleaseStore(Papers);
        ReleaseFigures = new Store.Catalogue.Figures.ReleaseFigureStore(Papers);
        Reuse = new Store.Catalogue.Reuse.ReuseStore(Papers);
        CatalogueViews = new CatalogueViewStore(Papers);
        Closings = new ClosingStore(Papers, Nearby);
        Catalogue = new CatalogueStore(Papers, Nearby);
        AskShelf = new Store.Catalogue.Asks.AskShelf(Papers);
        Messages = new Store.Catalogue.Asks.MessageStore(Papers, AskShelf);
        Asks = new Store.Catalogue.Asks.AskStore(Papers, AskShelf, Nearby, Worth);
        Angles = new Store.Ideas.AngleStore(Papers);
        var sparks = new Store.Ideas.SparkStore(Papers, Nearby, Topics, Coverage, Digests, Advice, Asks, Occasions, Columns);
        Ideas = new Store.Ideas.IdeaStore(Papers, sparks, Find, Nearby);
        OccasionIdeas = new Store.Ideas.OccasionIdeaStore(Papers, Ahead, Topics, sparks, Ideas, Nearby);
        Questions = new Store.Ideas.Service.QuestionStore(Papers, sparks, Ideas);
        IdeaServices = new Store.Ideas.Service.ServiceStore(Papers, new SettingStore(Papers));
        Variants = new VariantStore(Papers, Nearby);
        Decks = new Store.Ideas.DeckStore(Papers);
        TopicWeighing = new Store.Ideas.Order.TopicWeighingStore(Papers);
        TopicOrder = new Store.Ideas.Order.TopicOrderStore(Papers, Topics, Asks, Occasions, Coverage, Columns);
        Month = new Store.Ideas.Month.MonthStore(Papers, TopicOrder, sparks, Occasions, Nearby, Columns);
        Past = new Store.Catalogue.PastStore(Papers);
        Pages = new Store.Catalogue.Pages.PageStore(Papers, Messages, AskShelf, passphrase => "hash of " + passphrase);
        Cadences = new CadenceStore(Papers);
        Connections = new ConnectionStore(Papers);
        Audio = new Store.Catalogue.Audio.AudioStore(Papers, Shelf, look);
        Queue = new QueueStore(Papers, Cadences, Audio);
        Hours = new HoursStore(Papers);
        Plan = new PlanStore(Papers);
        Filling = new FillingStore(Papers, Worth);
        Mix = new MixStore(Papers, Worth);
    }

    public string Folder { get; }
    public FakeTimeProvider Clock { get; }
    public PapersFile Papers { get; }
    public Nearby Nearby { get; }
    public SlipColumns Columns { get; }
    public WorthStore Worth { get; }
    public WeighingStore Weighing { get; }
    public HistoryStore History { get; }
    public CaptureStore Capture { get; }
    public SlipStore Slips { get; }
    public DeskStore Days { get; }
    public DayPlanStore Plans { get; }
    public SiftStore Sift { get; }
    public DecisionStore Decisions { get; }
    public RuleStore Rules { get; }
    public StageRuleStore StageRules { get; }
    public StageStore Stages { get; }
    public GuideStore Guide { get; }
    public ClaimStore Claims { get; }
    public UsableStore Usable { get; }
    public OwnKeyStore OwnKeys { get; }
    public FlowStore Flow { get; }
    public TopicLearning Learning { get; }
    public AdviceStore Advice { get; }
    public LibraryStore Library { get; }
    public SourceStore Sources { get; }
    public TopicStore Topics { get; }
    public DigestStore Digests { get; }
    public CoverageStore Coverage { get; }
    public MentionStore Mentions { get; }
    public PieceStore Pieces { get; }
    public DraftStore Drafts { get; }
    public OutStore Outs { get; }
    public StandingTextStore StandingTexts { get; }
    public PatternStore Patterns { get; }
    public PostStore Posts { get; }
    public ThreadStore Threads { get; }
    public SpellingStore Spelling { get; }
    public ReplaceStore Replacing { get; }
    public SittingStore Sittings { get; }
    public AloudStore Aloud { get; }
    public StartStore Starting { get; }
    public BriefStore Briefs { get; }
    public TitleStore Titles { get; }
    public FindOutStore Finding { get; }
    public ReferenceStore References { get; }
    public RouteStore Routes { get; }
    public SeriesStore Series { get; }
    public VersionStore Versions { get; }
    public FormatStore Formats { get; }
    public StepStore Steps { get; }
    public BesideStore Beside { get; }
    public FindStore Find { get; }
    public ViewStore Views { get; }
    public ImageStore Images { get; }
    public FileShelf Shelf { get; }
    public AttachmentStore Attachments { get; }
    public ImportStore Imports { get; }
    public TranscriptStore Transcripts { get; }
    public FeedStore Feeds { get; }
    public OccasionStore Occasions { get; }
    public FigureStore Figures { get; }
    public GoalStore Goals { get; }
    public PinnedStore Pinned { get; }
    public ChoosingStore Choosing { get; }
    public HolidayStore HolidaysSeen { get; }
    public AheadStore Ahead { get; }
    public OutletStore Outlets { get; }
    public ReleaseStore Releases { get; }
    public Store.Catalogue.Figures.ReleaseFigureStore ReleaseFigures { get; }
    public Store.Catalogue.Reuse.ReuseStore Reuse { get; }
    public CatalogueViewStore CatalogueViews { get; }
    public ClosingStore Closings { get; }
    public CatalogueStore Catalogue { get; }
    public Store.Catalogue.Asks.AskShelf AskShelf { get; }
    public Store.Catalogue.Asks.MessageStore Messages { get; }
    public Store.Catalogue.Asks.AskStore Asks { get; }
    public Store.Ideas.AngleStore Angles { get; }
    public Store.Ideas.IdeaStore Ideas { get; }
    public Store.Ideas.OccasionIdeaStore OccasionIdeas { get; }
    public Store.Ideas.Service.QuestionStore Questions { get; }
    public Store.Ideas.Service.ServiceStore IdeaServices { get; }
    public VariantStore Variants { get; }
    public Store.Ideas.DeckStore Decks { get; }
    public Store.Ideas.Order.TopicWeighingStore TopicWeighing { get; }
    public Store.Ideas.Order.TopicOrderStore TopicOrder { get; }
    public Store.Ideas.Month.MonthStore Month { get; }
    public Store.Catalogue.Pages.PageStore Pages { get; }
    public Store.Catalogue.PastStore Past { get; }
    public ConnectionStore Connections { get; }
    public Store.Catalogue.Audio.AudioStore Audio { get; }
    public QueueStore Queue { get; }
    public CadenceStore Cadences { get; }
    public HoursStore Hours { get; }
    public PlanStore Plan { get; }
    public FillingStore Filling { get; }
    public MixStore Mix { get; }

    public DateOnly Today => Papers.Today;

    public Slip Catch(string text) => Capture.CatchSlip(text, null, Once.Unkeyed).Answer;

    public void Undo(CommandNumber command) => History.Undo(command, Once.Unkeyed);

    /// <summary>The last step back or forward over a command.</summary>
    public CommandNumber LastStepOver(CommandNumber command) =>
        CommandNumber.Of(
            Papers.Read(db => db.ExecuteScalar<int>("SELECT max(number) FROM command WHERE root = @command", new { command }))
        );

    /// <summary>Whether a command changed any row.</summary>
    public bool IsLogged(CommandNumber command) =>
        Papers.Read(db => db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM undo_log WHERE command = @command)", new { command }));

    /// <summary>How many characters the undo log holds.</summary>
    public long LogLength() => Papers.Read(db => db.ExecuteScalar<long>("SELECT sum(length(inverse)) FROM undo_log"));

    /// <summary>Every row of every table that undo looks after, versions aside, as one text to compare.</summary>
    public string Everything() =>
        Papers.Read(db =>
        {
            var tables = db.Query<string>(
                    "SELECT DISTINCT tbl_name FROM sqlite_master "
                        + "WHERE type = 'trigger' AND name LIKE 'undo\\_%' ESCAPE '\\' ORDER BY tbl_name"
                )
                .ToList();
            return string.Join(
                '\n',
                tables
                    .SelectMany(table => Rows(db, $"SELECT * FROM {table}").Select(row => $"{table}: {row}").Order())
                    .Concat(Rows(db, "SELECT rowid, title, body FROM finding ORDER BY rowid").Select(row => $"finding: {row}"))
            );
        });

    private static List<string> Rows(SqliteConnection db, string sql)
    {
        using var reader = db.ExecuteReader(sql);
        var rows = new List<string>();
        while (reader.Read())
            rows.Add(
                string.Join(
                    '|',
                    Enumerable
                        .Range(0, reader.FieldCount)
                        .Where(i => reader.GetName(i) is not ("version" or "id"))
                        .Select(i => $"{reader.GetName(i)}={reader.GetValue(i)}")
                )
            );
        return rows;
    }

    public void Dispose()
    {
        Worth.Dispose();
        Learning.Dispose();
        Columns.Dispose();
        Nearby.Dispose();
        Papers.Dispose();
        Directory.Delete(Folder, recursive: true);
    }
}
