using System.Globalization;
using System.Text.Json.Serialization;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Sources;

/// <summary>What kind of thing was read, heard, watched or found.</summary>
public enum SourceType
{
    Book,
    Article,
    Page,
    Video,
    Podcast,
    Thread,
    Interview,
    Archive,
    Message,
    Observation,
}

/// <summary>Something read, heard, watched or found.</summary>
public sealed record Source
{
    public const int LongestText = 500_000;
    public const int LongestWords = 4_000_000;
    public const int LongestField = 2_000;

    public required SourceNumber Number { get; init; }
    public SourceType Type { get; init; }
    public required string Title { get; init; }

    /// <summary>Who made it, separated by semicolons.</summary>
    public string Creators { get; init; } = "";

    /// <summary>What it is part of: journal, site, archive, series.</summary>
    public string Container { get; init; } = "";

    /// <summary>When it came out, as precisely as known: <c>1789</c>, <c>1789-10</c>, <c>spring 1790</c>.</summary>
    public string Date { get; init; } = "";

    public string Address { get; init; } = "";
    public string Language { get; init; } = "";

    /// <summary>What it says, in the writer's own words. Markdown.</summary>
    public string Summary { get; init; } = "";

    /// <summary>What the writer makes of it. Markdown.</summary>
    public string Comments { get; init; } = "";

    /// <summary>The fields that its type needs, by CSL variable; see <see cref="SourceForms"/>.</summary>
    public IReadOnlyDictionary<string, string> Details { get; init; } = new Dictionary<string, string>();

    /// <summary>The source's own words, where they were taken along: of a clipped page, a document. Markdown; not given in lists.</summary>
    public string Text { get; init; } = "";

    /// <summary>Whether it came in by itself and has not been gone through.</summary>
    public bool IsNew { get; init; }

    public DateTimeOffset CaughtAt { get; init; }
    public DateTimeOffset? TrashedAt { get; init; }
    public int Version { get; init; }

    /// <summary>How many passages point into it.</summary>
    public int Passages { get; init; }

    public IReadOnlyList<TopicMark> Topics { get; init; } = [];

    /// <summary>All of its words, for comparing and searching.</summary>
    public string Wording => string.Join('\n', Title, Creators, Container, Summary, Comments);

    /// <summary>Of a message: who sent it, where its title does not say that, by what way and when; null for any other source.</summary>
    [JsonIgnore]
    public string? SentBy
    {
        get
        {
            if (Type != SourceType.Message)
                return null;
            var day = DateOnly.TryParseExact(Date, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var sent)
                ? sent.ToString("d MMM yyyy", CultureInfo.InvariantCulture)
                : Date;
            var by = Title.EndsWith(Creators, StringComparison.Ordinal) ? "" : Creators;
            return string.Join(", ", new[] { by, Container, day }.Where(said => said.Length > 0)) is { Length: > 0 } said ? said : null;
        }
    }
}
