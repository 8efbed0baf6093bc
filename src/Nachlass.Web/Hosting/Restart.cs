namespace Nachlass.Web.Hosting;

/// <summary>Lets the program begin anew with other papers, in the same process and at the same address.</summary>
internal sealed class Restart(IHostApplicationLifetime lifetime)
{
    /// <summary>Whether it is to begin anew once it has stopped.</summary>
    public bool IsAsked { get; private set; }

    /// <summary>Stops it a moment later, so that the answer to the one who asked still goes out.</summary>
    public void Ask()
    {
        IsAsked = true;
        _ = Task.Run(async () =>
        {
            await Task.Delay(TimeSpan.FromMilliseconds(300));
            lifetime.StopApplication();
        });
    }
}
