using System.Net;
using System.Net.Sockets;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Nachlass.Exchange.Words;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Store.Choosing;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Month;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Ideas.Service;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;
using Nachlass.Web.Bench;
using Nachlass.Web.Capture;
using Nachlass.Web.Catalogue;
using Nachlass.Web.Catalogue.Asks;
using Nachlass.Web.Catalogue.Audio;
using Nachlass.Web.Catalogue.Letters;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;
using Nachlass.Web.Catalogue.Reuse;
using Nachlass.Web.Choosing;
using Nachlass.Web.Hosting;
using Nachlass.Web.Ideas;
using Nachlass.Web.Ideas.Service;
using Nachlass.Web.Papers;
using Nachlass.Web.Plan;
using Nachlass.Web.Sift;
using Nachlass.Web.Sources;
using Nachlass.Web.Topics;
using Serilog;
using Serilog.Events;

if (args is [Reader.Verb])
{
    using var asked = new StreamReader(Console.OpenStandardInput());
    using var said = new StreamWriter(Console.OpenStandardOutput());
    Nachlass.Exchange.Capture.ForeignReader.Run(asked, said);
    return 0;
}
if (args is [DemoOutlets.Verb, var port, var folder])
{
    await DemoOutlets.Run(int.Parse(port, System.Globalization.CultureInfo.InvariantCulture), folder);
    return 0;
}
try
{
    var begin = args;
    while (true)
    {
        // Put away at the end, so that all of the papers lie in their one file.
        await using var app = Nachlass.Web.Startup.Build(begin);
        await app.StartAsync();
        if (args is ["openapi", var file, ..])
        {
            // The addresses are known only once the app runs.
            await Nachlass.Web.Startup.WriteDescription(app, file);
            await app.StopAsync();
            return 0;
        }
        Demo.AskForIdeas(app.Services.GetRequiredService<Settings>(), app.Services.GetRequiredService<IdeaStore>());
        var feed = await Demo.StartFeed(
            app.Services.GetRequiredService<Settings>(),
            TimeProvider.System,
            app.Services.GetRequiredService<FeedStore>()
        );
        using var outlets = await DemoOutlets.Start(
            app.Services.GetRequiredService<Settings>(),
            app.Services.GetRequiredService<ConnectionStore>(),
            app.Services.GetRequiredService<MailboxStore>(),
            app.Services.GetRequiredService<ServiceStore>(),
            app.Services.GetRequiredService<Secrets>(),
            app.Services.GetRequiredService<PapersFile>().Today
        );
        if (ReferenceEquals(begin, args))
            Console.WriteLine($"Nachlass is at {app.Urls.FirstOrDefault()}   (Ctrl+C stops it)");
        await app.WaitForShutdownAsync();
        if (feed is not null)
            await feed.DisposeAsync();
        if (!app.Services.GetRequiredService<Restart>().IsAsked)
            return 0;
        // With the papers that were put back, also where a demo would begin with its own.
        begin = [.. args, "--demo", ""];
    }
}
catch (Exception error) when (error is CannotOpenException or CannotStartException)
{
    Console.Error.WriteLine(error.Message);
    return 1;
}
catch (IOException error) when (error.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException or SocketException)
{
    Console.Error.WriteLine($"{error.Message} Stop the other program, or choose another address with NACHLASS_URL.");
    return 1;
}

namespace Nachlass.Web
{
    /// <summary>Puts the program together.</summary>
    internal static class Startup
    {
        public static WebApplication Build(string[] args)
        {
            var builder = WebApplication.CreateBuilder(
                new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory }
            );
            builder.Configuration.AddEnvironmentVariables("NACHLASS_");
            builder.Configuration.AddCommandLine(args);
            var settings = Settings.From(builder.Configuration);
            builder.Services.AddSerilog(log =>
                log.MinimumLevel.Warning()
                    .MinimumLevel.Override("Microsoft.Hosting.Lifetime", LogEventLevel.Fatal)
                    // What a request asked for wrongly is answered to the asker; it is no fault of the server's.
                    .MinimumLevel.Override("Microsoft.AspNetCore.Diagnostics.ExceptionHandlerMiddleware", LogEventLevel.Fatal)
                    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", LogEventLevel.Error)
                    .MinimumLevel.Override("Microsoft.Extensions.Hosting.Internal.Host", LogEventLevel.Fatal)
                    .WriteTo.Console(
                        formatProvider: System.Globalization.CultureInfo.InvariantCulture,
                        standardErrorFromLevel: LogEventLevel.Verbose
                    )
            );
            builder.WebHost.UseUrls(settings.Url.GetLeftPart(UriPartial.Authority));
            var certificate = Doorkeeper.Certificate(settings);
            builder.WebHost.ConfigureKestrel(kestrel =>
            {
                kestrel.AddServerHeader = false;
                if (certificate is not null)
                    kestrel.ConfigureHttpsDefaults(https => https.ServerCertificate = certificate);
            });
            Doorkeeper.AddTo(builder.Services, settings);
            // Only a proxy on this machine is believed about who asks and how.
            builder.Services.Configure<ForwardedHeadersOptions>(forwarded =>
                forwarded.ForwardedHeaders =
                    ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost
            );
            AddStores(builder.Services, settings);
            builder.Services.AddSingleton<Events>();
            builder.Services.AddProblemDetails();
            builder.Services.AddExceptionHandler<Problems>();
            builder.Services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
            builder.Services.ConfigureHttpJsonOptions(json => Answers.Configure(json.SerializerOptions));
            builder.Services.AddHostFiltering(hosts => hosts.AllowedHosts = [.. settings.AnsweredHosts]);
            builder.Services.AddOpenApi(Describing.Configure);
            builder.Services.AddResponseCompression(c => c.EnableForHttps = false);
            builder.Services.Configure<HostOptions>(host =>
            {
                host.ShutdownTimeout = TimeSpan.FromSeconds(5);
                // A folder or feed that can't be asked is no reason to stop writing.
                host.BackgroundServiceExceptionBehavior = BackgroundServiceExceptionBehavior.Ignore;
            });
            var app = builder.Build();
            // Opened here and not at the first request, so that what is wrong with the papers stops the start.
            app.Services.GetRequiredService<PapersFile>();
            app.Services.GetRequiredService<Doorkeeper>();
            app.Services.GetRequiredService<Imports>();
            app.Services.GetRequiredService<Events>();
            app.Services.GetRequiredService<EnoughWatch>();
            app.Services.GetRequiredService<RuleStore>();
            app.Services.GetRequiredService<StageRuleStore>();
            app.Services.GetRequiredService<Joining>();
            var columns = app.Services.GetRequiredService<SlipColumns>();
            var nearby = app.Services.GetRequiredService<Nearby>();
            var learning = app.Services.GetRequiredService<TopicLearning>();
            var worth = app.Services.GetRequiredService<WorthStore>();
            var shelf = app.Services.GetRequiredService<AskShelf>();
            _ = Task.Run(() =>
            {
                columns.Fill();
                nearby.Fill(app.Lifetime.ApplicationStopping);
                learning.Begin();
                // The first text to be shown would otherwise wait a second for Markdown and sanitiser to be compiled.
                Nachlass.Core.Text.Reading.Html("# A *first* text");
                if (!app.Lifetime.ApplicationStopping.IsCancellationRequested)
                    _ = shelf.ReadClosely();
                worth.KeepFilled(app.Lifetime.ApplicationStopping);
            });
            Use(app, Path.Combine(AppContext.BaseDirectory, "wwwroot"));
            return app;
        }

        private static void AddStores(IServiceCollection services, Settings settings)
        {
            services.AddSingleton(settings);
            services.AddSingleton(TimeProvider.System);
            services.AddSingleton(provider => Demo.Open(settings, provider.GetRequiredService<TimeProvider>()));
            services.AddSingleton<Nearby>();
            services.AddSingleton<SlipColumns>();
            services.AddSingleton<WorthStore>();
            services.AddSingleton<WeighingStore>();
            services.AddSingleton<HistoryStore>();
            services.AddSingleton<OwnKeyStore>();
            services.AddSingleton<WorkLogStore>();
            services.AddSingleton<Restart>();
            services.AddSingleton<Backups>();
            services.AddHostedService(provider => provider.GetRequiredService<Backups>());
            services.AddSingleton<Mirror>();
            services.AddHostedService(provider => provider.GetRequiredService<Mirror>());
            services.AddSingleton<TallyStore>();
            services.AddSingleton<ImageStore>();
            services.AddSingleton<CaptureStore>();
            services.AddSingleton<CaptureKeyStore>();
            services.AddSingleton<Keys>();
            services.AddSingleton<Doorkeeper>();
            services.AddSingleton<SlipStore>();
            services.AddSingleton<DeskStore>();
            services.AddSingleton<DayPlanStore>();
            services.AddSingleton<SiftStore>();
            services.AddSingleton<DecisionStore>();
            services.AddSingleton<RuleStore>();
            services.AddSingleton<HolidayStore>();
            services.AddSingleton<FigureStore>();
            services.AddSingleton<GoalStore>();
            services.AddSingleton<PinnedStore>();
            services.AddSingleton<ChoosingStore>();
            services.AddSingleton<AheadStore>();
            services.AddSingleton<GuideStore>();
            services.AddSingleton<StageStore>();
            services.AddSingleton<StageRuleStore>();
            services.AddSingleton<ClaimStore>();
            services.AddSingleton<UsableStore>();
            services.AddSingleton<FlowStore>();
            services.AddSingleton<AdviceStore>();
            services.AddSingleton<TopicLearning>();
            services.AddSingleton<EnoughWatch>();
            services.AddSingleton<LibraryStore>();
            services.AddSingleton<ViewStore>();
            services.AddSingleton<SourceStore>();
            services.AddSingleton<TopicStore>();
            services.AddSingleton<DigestStore>();
            services.AddSingleton<CoverageStore>();
            services.AddSingleton<MentionStore>();
            services.AddSingleton<PieceStore>();
            services.AddSingleton<StartStore>();
            services.AddSingleton<FormatStore>();
            services.AddSingleton<StepStore>();
            services.AddSingleton<BesideStore>();
            services.AddSingleton<PieceFolders>();
            services.AddSingleton<BriefStore>();
            services.AddSingleton<TitleStore>();
            services.AddSingleton<VariantStore>();
            services.AddSingleton<FindOutStore>();
            services.AddSingleton<ReferenceStore>();
            services.AddSingleton<RouteStore>();
            services.AddSingleton<SeriesStore>();
            services.AddSingleton<VersionStore>();
            services.AddSingleton<DraftStore>();
            services.AddSingleton<OutStore>();
            services.AddSingleton<StandingTextStore>();
            services.AddSingleton<PatternStore>();
            services.AddSingleton<SparkStore>();
            services.AddSingleton<AngleStore>();
            services.AddSingleton<IdeaStore>();
            services.AddSingleton<OccasionIdeaStore>();
            services.AddSingleton<ServiceStore>();
            services.AddSingleton<QuestionStore>();
            services.AddSingleton<ServiceClient>();
            services.AddSingleton<AskingService>();
            services.AddSingleton<TopicOrderStore>();
            services.AddSingleton<TopicWeighingStore>();
            services.AddSingleton<MonthStore>();
            services.AddSingleton<DeckStore>();
            services.AddSingleton<PostStore>();
            services.AddSingleton<ThreadStore>();
            services.AddSingleton<SpellingStore>();
            services.AddSingleton<ReplaceStore>();
            services.AddSingleton<SittingStore>();
            services.AddSingleton<AloudStore>();
            services.AddSingleton(new WordNet(Path.Combine(AppContext.BaseDirectory, "words", "wordnet")));
            services.AddSingleton<FindStore>();
            services.AddSingleton<FileShelf>();
            services.AddSingleton<Reader>();
            services.AddSingleton<Nachlass.Core.Papers.ReadFile>(provider => provider.GetRequiredService<Reader>().Look);
            services.AddSingleton<AttachmentStore>();
            services.AddSingleton<TranscriptStore>();
            services.AddSingleton<ImportStore>();
            services.AddSingleton<Imports>();
            services.AddSingleton<FeedStore>();
            services.AddSingleton<OccasionStore>();
            services.AddSingleton<OutletStore>();
            services.AddSingleton<CadenceStore>();
            services.AddSingleton<HoursStore>();
            services.AddSingleton<PlanStore>();
            services.AddSingleton<FillingStore>();
            services.AddSingleton<MixStore>();
            services.AddSingleton<ReleaseStore>();
            services.AddSingleton<CatalogueStore>();
            services.AddSingleton<PastStore>();
            services.AddSingleton<ClosingStore>();
            services.AddSingleton<MentionLook>();
            services.AddSingleton<CatalogueViewStore>();
            services.AddSingleton<ReleaseFigureStore>();
            services.AddSingleton<ReuseStore>();
            services.AddHostedService<FigureWatch>();
            services.AddSingleton<AskShelf>();
            services.AddSingleton<MessageStore>();
            services.AddSingleton<AskStore>();
            services.AddSingleton<MailboxStore>();
            services.AddSingleton<MailboxWatch>();
            services.AddHostedService(provider => provider.GetRequiredService<MailboxWatch>());
            services.AddSingleton(provider => new PageStore(
                provider.GetRequiredService<PapersFile>(),
                provider.GetRequiredService<MessageStore>(),
                provider.GetRequiredService<AskShelf>(),
                PublicSite.Hash
            ));
            services.AddSingleton<SiteWriter>();
            services.AddSingleton<FormMarks>();
            services.AddSingleton<LetterArchive>();
            services.AddSingleton<OutgoingPictures>();
            services.AddSingleton<LetterDoors>();
            services.AddSingleton<PublicSite>();
            services.AddHostedService(provider => provider.GetRequiredService<PublicSite>());
            services.AddSingleton<ConnectionStore>();
            services.AddSingleton<QueueStore>();
            services.AddSingleton<ReaderStore>();
            services.AddSingleton<LetterStore>();
            services.AddSingleton<Mail>();
            services.AddSingleton<AudioStore>();
            services.AddSingleton<AudioSite>();
            services.AddSingleton<AudioChannel>();
            services.AddSingleton<Joining>();
            services.AddSingleton<Secrets>();
            services.AddSingleton<Sender>();
            services.AddHostedService(provider => provider.GetRequiredService<Sender>());
            services.AddSingleton<SettingStore>();
            services.AddSingleton<FeedWatch>();
            services.AddHostedService(provider => provider.GetRequiredService<FeedWatch>());
            services.AddSingleton<DropFolder>();
            services.AddHostedService(provider => provider.GetRequiredService<DropFolder>());
        }

        private static void Use(WebApplication app, string frontEnd)
        {
            if (app.Services.GetRequiredService<Settings>().BehindProxy)
                app.UseForwardedHeaders();
            // On the same machine it costs both ends more than the bytes it saves.
            app.UseWhen(
                http => http.Connection.RemoteIpAddress is not { } from || !IPAddress.IsLoopback(from),
                branch => branch.UseResponseCompression()
            );
            app.UseExceptionHandler();
            app.UseStatusCodePages();
            app.UseHostFiltering();
            app.Use((http, next) => Safety.AddHeaders(http, next));
            app.Use((http, next) => Safety.RefuseOtherOrigins(http, next));
            app.Use((http, next) => app.Services.GetRequiredService<Keys>().Let(http, next));
            app.Use((http, next) => app.Services.GetRequiredService<Doorkeeper>().Let(http, next));
            app.Use((http, next) => Request.Note(http, next));
            Safety.UseFrontEndFiles(app, frontEnd);
            app.UseRouting();
            app.MapOpenApi("/openapi/{documentName}.json");
            var api = app.MapGroup("/api").AddEndpointFilterFactory(Whole.Filter);
            api.ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
            api.MapPapers();
            api.MapKeeping();
            api.MapCapture();
            api.MapDesk();
            api.MapKeys();
            api.MapImports();
            api.MapClips();
            api.MapDoors();
            api.MapPlan();
            api.MapStages();
            api.MapFigures();
            api.MapPeriod();
            api.MapGuide();
            app.MapCalendar(api);
            api.MapAttachments();
            api.MapSift();
            api.MapLibrary();
            api.MapSources();
            api.MapTopics();
            api.MapChoosing();
            api.MapIdeas();
            api.MapService();
            api.MapBench();
            api.MapFormats();
            api.MapBeforeWriting();
            api.MapRoutes();
            api.MapTables();
            api.MapSeries();
            api.MapVersions();
            api.MapOut();
            api.MapWriting();
            api.MapShort();
            api.MapCatalogue();
            api.MapClosing();
            api.MapReuse();
            api.MapAsks();
            api.MapMailbox();
            api.MapQueue();
            api.MapAudio();
            api.MapPages();
            api.MapReaders();
            app.Services.GetRequiredService<Doorkeeper>().Map(api);
            Safety.MapFrontEnd(app, frontEnd);
        }

        /// <summary>Writes the OpenAPI document to a file, for the front end's client.</summary>
        public static async Task WriteDescription(WebApplication app, string file)
        {
            var provider = app.Services.GetRequiredKeyedService<IOpenApiDocumentProvider>("v1");
            var document = await provider.GetOpenApiDocumentAsync();
            await using var text = new StreamWriter(file) { NewLine = "\n" };
            document.SerializeAsV31(new OpenApiJsonWriter(text));
        }
    }
}

/// <summary>Named for the tests, which start the program inside themselves.</summary>
public partial class Program;
