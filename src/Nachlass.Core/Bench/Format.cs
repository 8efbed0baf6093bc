using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>A section as a format lays it down.</summary>
/// <param name="Title">What it is called until the writer says otherwise.</param>
/// <param name="Beat">The job it does in the route.</param>
/// <param name="Aim">Words it should have; null when it has no measure.</param>
/// <param name="Depth">1 for a section, 2 for one inside it.</param>
public sealed record SkeletonSection(string Title, string Beat, int? Aim, int Depth = 1);

/// <summary>A kind of piece.</summary>
/// <param name="Key">Its name in files and addresses.</param>
/// <param name="Name">Its name for people.</param>
/// <param name="Stages">Where such a piece can stand, in order; the last one is out.</param>
/// <param name="Skeleton">The sections a new one starts with.</param>
/// <param name="Beats">The jobs its sections can do, in the order of the route.</param>
/// <param name="Limit">Most characters in one section, where the outlet sets one.</param>
public sealed record Format(
    string Key,
    string Name,
    IReadOnlyList<string> Stages,
    IReadOnlyList<SkeletonSection> Skeleton,
    IReadOnlyList<string> Beats,
    int? Limit = null
)
{
    /// <summary>Words of the whole: the sum over the skeleton.</summary>
    public int Aim => Skeleton.Sum(s => s.Aim ?? 0);

    /// <summary>Usual hours at each stage, in the order of the stages; none for the last, at which nothing is left to do.</summary>
    public IReadOnlyList<double> Hours { get; init; } = [];

    /// <summary>Usual hours from the first stage to the last.</summary>
    public double UsualHours => Hours.Sum();

    /// <summary>The stage of a text that only has to go out.</summary>
    public string ReadyStage => Stages.Contains("Ready") ? "Ready" : Stages[^2];

    /// <summary>Whether a piece at this stage has gone out.</summary>
    public bool IsOut(string stage) => stage == Stages[^1];
}

/// <summary>The formats every set of papers has from the start.</summary>
public static class ReadyFormats
{
    private static readonly string[] Usual = ["Gather", "Outline", "Draft", "Edit", "Ready", "Out"];

    public static readonly Format Essay = new(
        "essay",
        "Essay",
        Usual,
        [
            new("Where it begins", "opening", 250),
            new("What is at stake", "problem", 350),
            new("What changes it", "turn", 400),
            new("What shows it", "proof", 500),
            new("What remains", "landing", 200),
        ],
        ["opening", "problem", "turn", "proof", "counter", "landing"]
    )
    {
        Hours = [3, 2, 6, 4, 1, 0],
    };

    public static readonly Format Letter = new(
        "letter",
        "Letter",
        Usual,
        [
            new("Greeting", "opening", 80),
            new("The main thing", "story", 400),
            new("Found this fortnight", "finds", 200),
            new("A question back", "ask", 80),
            new("Sign-off", "landing", 40),
        ],
        ["opening", "story", "finds", "ask", "landing"]
    )
    {
        Hours = [1, 1, 3, 2, 1, 0],
    };

    public static readonly Format Thread = new(
        "thread",
        "Thread",
        ["Gather", "Draft", "Ready", "Out"],
        [
            new("First post", "hook", 45),
            new("Second post", "point", 45),
            new("Third post", "point", 45),
            new("Fourth post", "turn", 45),
            new("Last post", "landing", 45),
        ],
        ["hook", "point", "turn", "landing"],
        Limit: 300
    )
    {
        Hours = [0.5, 1, 0.5, 0],
    };

    public static readonly Format Audio = new(
        "audio",
        "Audio script",
        ["Gather", "Outline", "Script", "Record", "Cut", "Ready", "Out"],
        [
            new("Cold open", "opening", 90),
            new("Where we stand", "place", 250),
            new("What happened here", "story", 500),
            new("What you can hear", "scene", 300),
            new("Walking on", "landing", 120),
        ],
        ["opening", "place", "story", "scene", "turn", "landing"]
    )
    {
        Hours = [3, 2, 5, 3, 4, 1, 0],
    };

    public static readonly Format Talk = new(
        "talk",
        "Talk",
        ["Gather", "Outline", "Draft", "Rehearse", "Ready", "Out"],
        [
            new("An image to begin with", "opening", 200),
            new("The claim", "claim", 200),
            new("First case", "proof", 600),
            new("Second case", "proof", 600),
            new("What speaks against it", "counter", 300),
            new("What to take home", "landing", 250),
        ],
        ["opening", "claim", "proof", "counter", "landing"]
    )
    {
        Hours = [4, 2, 6, 4, 2, 0],
    };

    /// <summary>All of them, in the order in which they are offered.</summary>
    public static readonly IReadOnlyList<Format> All = [Essay, Letter, Thread, Audio, Talk];

    /// <summary>The format with this key.</summary>
    /// <exception cref="BadInputException">There is none.</exception>
    public static Format Named(string key) =>
        Find(key)
        ?? throw new BadInputException("format", $"There is no format “{key}”. There are: {string.Join(", ", All.Select(f => f.Key))}.");

    /// <summary>The keys of formats that are named, each once, in the order of the ready ones.</summary>
    /// <exception cref="BadInputException">There is no such format.</exception>
    public static IReadOnlyList<string> Keys(IEnumerable<string> named)
    {
        var keys = named.Select(key => Named(key).Key).ToHashSet();
        return [.. All.Select(f => f.Key).Where(keys.Contains)];
    }

    /// <summary>The format with this key, or null.</summary>
    public static Format? Find(string? key) => All.FirstOrDefault(f => f.Key == key);
}
