using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue;

/// <summary>Asks the outlets once a day what became of what went out lately.</summary>
internal sealed class FigureWatch(
    ReleaseFigureStore figures,
    ConnectionStore connections,
    Sender sender,
    PapersFile papers,
    ILogger<FigureWatch> log
) : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromHours(1);
    private static readonly TimeSpan AtFirst = TimeSpan.FromSeconds(20);

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        try
        {
            await Task.Delay(AtFirst, papers.Time, stop);
            using var timer = new PeriodicTimer(Between, papers.Time);
            do await AskAll(stop);
            while (await timer.WaitForNextTickAsync(stop));
        }
        catch (OperationCanceledException) { }
    }

    /// <summary>Asks for all that was not asked for today. An outlet that does not answer, or tells none, is left until the next
    /// time.</summary>
    public async Task AskAll(CancellationToken stop)
    {
        var silent = new HashSet<OutletNumber>();
        try
        {
            var outlets = connections.List().Where(c => c.Kind == ConnectionKind.Micropub).Select(c => c.Outlet).ToList();
            foreach (var asked in figures.ToAsk(outlets))
                if (!silent.Contains(asked.Outlet) && await sender.AskFigures(asked, stop) is { Figures: null, IsOfThisOne: false })
                    silent.Add(asked.Outlet);
        }
        catch (Exception error) when (error is not OperationCanceledException)
        {
            log.LogError(error, "The outlets could not be asked for their figures");
        }
    }
}
