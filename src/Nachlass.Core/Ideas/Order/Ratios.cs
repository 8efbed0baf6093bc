namespace Nachlass.Core.Ideas.Order;

/// <summary>Ratios of what was seen to what would be usual, held back where little was seen.</summary>
public static class Ratios
{
    /// <summary>So many usual cases are added to both sides, so that 2 for 1 says little and 40 for 20 much: the mean of a gamma prior of
    /// mean 1 (DuMouchel, <i>The American Statistician</i> 53 (1999)). How strong it is, is ours.</summary>
    public const double Prior = 4;

    /// <param name="seen">How many there were, 0 or more.</param>
    /// <param name="usual">How many there would usually be, 0 or more.</param>
    /// <returns>1 where it is as usual.</returns>
    public static double HeldBack(double seen, double usual) => (seen + Prior) / (usual + Prior);

    /// <summary>A ratio on the way from 0 to 1: ½ at 1, two thirds at twice as much, a third at half as much.</summary>
    public static double AsValue(double ratio) => ratio / (1 + ratio);
}
