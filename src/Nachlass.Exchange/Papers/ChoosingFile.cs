using System.Globalization;
using System.Text.Json;
using Nachlass.Core.Bench;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Papers;

/// <summary>How ideas are weighed and what was chosen, as the file <c>choosing.md</c> of a set of papers.</summary>
internal static class ChoosingFile
{
    public const string Name = "choosing.md";

    /// <summary>The file's content; null when there is nothing to say.</summary>
    public static string? Write(ChoosingImage choosing) =>
        choosing.Weighing == Weighing.Evenly.Key && choosing.Weights is null && choosing.Choices.Count == 0
            ? null
            : new FrontMatterWriter()
                .Add("weighing", choosing.Weighing)
                .Add(
                    "weights",
                    choosing.Weights is null
                        ? []
                        : WorthTerms.All.Select(term =>
                            new FrontMatterWriter().Add("term", term).Add("weight", Said(choosing.Weights[term]))
                        )
                )
                .Add(
                    "choices",
                    choosing.Choices.Select(c =>
                        new FrontMatterWriter()
                            .Add("at", c.At)
                            .Add("slip", c.Slip?.Value)
                            .Add("paragraph", c.Usable?.Value)
                            .Add("piece", c.Piece?.Value)
                            .Add("rank", Said(c.Rank))
                            .Add("rank-by-pull", Said(c.PullRank))
                            .Add("among", c.Among)
                            .Add("stood", c.Stood)
                    )
                )
                .Write("How ideas are weighed, and what stood there when pieces were begun.");

    /// <param name="f">The file's fields; null when there is no such file.</param>
    /// <param name="instant">Reads an instant, moved as all dates are.</param>
    /// <exception cref="UnreadableFileException">A number or a list of terms can't be read.</exception>
    public static ChoosingImage Read(FrontMatter? f, Func<FrontMatter, string, DateTimeOffset?> instant)
    {
        if (f is null)
            return ChoosingImage.First;
        var weights = f.Records("weights").ToDictionary(w => w.Enum("term", WorthTerm.Pull), w => Figure(w, "weight"));
        return new ChoosingImage(
            f.Word("weighing") is Weighing.OwnKey ? Weighing.OwnKey : Weighing.Named(f.Word("weighing")).Key,
            weights.Count == 0 ? null : Weights.Of([.. WorthTerms.All.Select(term => weights.GetValueOrDefault(term))]).Checked(),
            [
                .. f.Records("choices")
                    .Select(c => new ChoiceImage(
                        instant(c, "at") ?? throw new UnreadableFileException(Name, "a choice does not say when it was made."),
                        c.Number("slip") is { } slip ? SlipNumber.Of(slip) : null,
                        c.Number("paragraph") is { } paragraph ? UsableNumber.Of(paragraph) : null,
                        c.Number("piece") is { } piece ? PieceNumber.Of(piece) : null,
                        Figure(c, "rank"),
                        Figure(c, "rank-by-pull"),
                        c.Number("among") ?? 0,
                        Terms(c.Word("stood"))
                    )),
            ]
        );
    }

    /// <summary>Lists of nine numbers from 0 to 1, or null where a term is not known.</summary>
    private static string Terms(string stood)
    {
        try
        {
            var lists = JsonSerializer.Deserialize<List<List<double?>>>(stood);
            if (
                lists is { Count: > 0 }
                && lists.All(list => list.Count == WorthTerms.All.Count && list.All(v => v is null or >= 0 and <= 1))
            )
                return stood;
        }
        catch (JsonException) { }
        throw new UnreadableFileException(Name, "the terms of a choice are no lists of nine numbers from 0 to 1.");
    }

    private static double Figure(FrontMatter f, string field) =>
        double.TryParse(f.Word(field), NumberStyles.Float, CultureInfo.InvariantCulture, out var figure) && double.IsFinite(figure)
            ? figure
            : throw new UnreadableFileException(Name, $"“{f.Word(field)}” is no number for “{field}”.");

    private static string Said(double figure) => figure.ToString("0.###", CultureInfo.InvariantCulture);
}
