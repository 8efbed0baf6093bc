using Nachlass.Core.Bench;

namespace Nachlass.Core.Plan;

/// <summary>What a piece in work is worth to go on with, beside ideas that are not begun.</summary>
public static class PieceWorth
{
    /// <summary>Of one that has only been begun: what was begun goes before what was not.</summary>
    public const double Begun = 60;

    /// <summary>From 60 to 100, the more the further it is along its stages.</summary>
    public static double Of(Format format, string stage)
    {
        var at = Math.Max(0, format.Stages.ToList().IndexOf(stage));
        return Begun + (100 - Begun) * at / Math.Max(1, format.Stages.Count - 1);
    }
}
