using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Choosing;

/// <summary>A choice as papers keep it.</summary>
/// <param name="Slip">What was taken; null when it was a marked paragraph.</param>
/// <param name="Usable">The marked paragraph that was taken.</param>
/// <param name="Piece">The piece that was begun.</param>
/// <param name="Rank">Its place by worth, from 1; equals stand half before it.</param>
/// <param name="PullRank">Its place by pull alone.</param>
/// <param name="Among">How many ideas stood there.</param>
/// <param name="Stood">The terms of the taken one and of the first others, as JSON.</param>
public sealed record ChoiceImage(
    DateTimeOffset At,
    SlipNumber? Slip,
    UsableNumber? Usable,
    PieceNumber? Piece,
    double Rank,
    double PullRank,
    int Among,
    string Stood
);

/// <summary>Weights as papers keep them, and the choices they were learnt from.</summary>
/// <param name="Weighing">Key of ready weights, or the writer's own.</param>
/// <param name="Weights">Weights of the writer's own; null when there are none.</param>
public sealed record ChoosingImage(string Weighing, Weights? Weights, IReadOnlyList<ChoiceImage> Choices)
{
    public static readonly ChoosingImage First = new(Choosing.Weighing.Evenly.Key, null, []);
}

/// <summary>How often the first three held what was taken.</summary>
/// <param name="Choices">How many choices there are.</param>
/// <param name="Held">In how many of them the first three by worth, as it was weighed then, held what was taken.</param>
/// <param name="HeldByPull">In how many the first three by pull alone did; equals share what they would hold.</param>
public sealed record Record(int Choices, double Held, double HeldByPull)
{
    public static Record Of(IReadOnlyList<ChoiceImage> choices) =>
        new(choices.Count, choices.Count(c => c.Rank <= Learning.First), choices.Count(c => c.PullRank <= Learning.First));
}
