namespace Nachlass.Core.Catalogue.Queue;

/// <summary>What became of an attempt to send something.</summary>
public abstract record Outcome
{
    private Outcome() { }

    /// <summary>The outlet has it.</summary>
    /// <param name="Address">Where it can be read; empty where the outlet does not say.</param>
    public sealed record Taken(string Address) : Outcome;

    /// <summary>The outlet had it already: it was taken at an attempt whose answer was lost.</summary>
    public sealed record WasThere(string Address) : Outcome;

    /// <summary>It was not taken, and may be at another time.</summary>
    /// <param name="After">How long the outlet asks to be left alone; null where it does not say.</param>
    public sealed record Later(string Reason, TimeSpan? After = null) : Outcome;

    /// <summary>The outlet will not have it as it is.</summary>
    public sealed record Refused(string Reason) : Outcome;

    /// <summary>Nobody knows: it was sent, and no answer came.</summary>
    public sealed record Unknown(string Reason) : Outcome;

    /// <summary>Whether the outlet has it could not be looked up, so that sending it again could double it.</summary>
    public sealed record CannotTell(string Reason) : Outcome;
}
