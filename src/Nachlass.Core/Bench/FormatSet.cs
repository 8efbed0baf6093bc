using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench;

/// <summary>The formats of one set of papers, in the order in which they are offered.</summary>
public sealed class FormatSet(IReadOnlyList<Format> all)
{
    /// <summary>The ones every set of papers has from the start.</summary>
    public static readonly FormatSet Ready = new(ReadyFormats.All);

    private readonly Dictionary<string, Format> byKey = all.ToDictionary(f => f.Key);

    public IReadOnlyList<Format> All { get; } = all;

    /// <summary>Those that a new piece is offered.</summary>
    public IEnumerable<Format> Offered => All.Where(f => !f.IsPutAway);

    /// <summary>What a piece is when nobody has said: the first that is offered.</summary>
    public Format First => Offered.FirstOrDefault() ?? All[0];

    /// <summary>The first one whose sections are posts; else the first.</summary>
    public Format ForPosts => Offered.FirstOrDefault(f => f.IsInParts) ?? First;

    /// <summary>The format with this key, or null.</summary>
    public Format? Find(string? key) => key is null ? null : byKey.GetValueOrDefault(key);

    /// <summary>The format with this key.</summary>
    /// <exception cref="BadInputException">There is none.</exception>
    public Format Named(string key) =>
        Find(key)
        ?? throw new BadInputException("format", $"There is no format “{key}”. There are: {string.Join(", ", All.Select(f => f.Key))}.");

    /// <summary>The keys of formats that are named, each once, in their order.</summary>
    /// <exception cref="BadInputException">There is no such format.</exception>
    public IReadOnlyList<string> Keys(IEnumerable<string> named)
    {
        var keys = named.Select(key => Named(key).Key).ToHashSet();
        return [.. All.Select(f => f.Key).Where(keys.Contains)];
    }
}
