using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>Something changed in the papers.</summary>
/// <param name="Areas">Tables it touched, so that open tabs ask again for what they show.</param>
/// <param name="Command">The command that did it.</param>
/// <param name="What">What was done, in words.</param>
/// <param name="By">The tab that asked for it; null when it was none.</param>
public sealed record Changed(CommandNumber Command, string What, IReadOnlyList<string> Areas, string? By = null);

/// <summary>Tells every open tab what changed, whichever door it came in by.</summary>
internal sealed class Events : IDisposable
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15);
    private readonly PapersFile papers;
    private readonly Lock gate = new();
    private readonly List<Channel<Changed>> listeners = [];

    public Events(PapersFile papers)
    {
        this.papers = papers;
        papers.Written += Tell;
    }

    private void Tell(Committed done)
    {
        var changed = new Changed(done.Command, done.What, [.. done.Rows.Select(r => r.Table).Distinct()], done.By);
        lock (gate)
            foreach (var listener in listeners)
                listener.Writer.TryWrite(changed);
    }

    /// <summary>What changes from now on, with a beat in between so that a dead line is noticed.</summary>
    public async IAsyncEnumerable<SseItem<Changed?>> Listen([EnumeratorCancellation] CancellationToken cancel)
    {
        var own = Channel.CreateBounded<Changed>(new BoundedChannelOptions(100) { FullMode = BoundedChannelFullMode.DropOldest });
        lock (gate)
            listeners.Add(own);
        try
        {
            yield return new SseItem<Changed?>(null, "beat");
            while (!cancel.IsCancellationRequested)
            {
                var item = await Next(own.Reader, cancel);
                yield return item is null ? new SseItem<Changed?>(null, "beat") : new SseItem<Changed?>(item, "changed");
            }
        }
        finally
        {
            lock (gate)
                listeners.Remove(own);
        }
    }

    private static async Task<Changed?> Next(ChannelReader<Changed> reader, CancellationToken cancel)
    {
        using var beat = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        beat.CancelAfter(Beat);
        try
        {
            return await reader.ReadAsync(beat.Token);
        }
        catch (OperationCanceledException)
        {
            return null;
        }
    }

    public void Dispose() => papers.Written -= Tell;
}
