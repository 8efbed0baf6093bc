namespace Nachlass.Core.Sources;

/// <summary>A field of a source, under the name that the variables of the Citation Style Language 1.0.2 give it.</summary>
/// <param name="Key">The variable: <c>publisher-place</c>.</param>
/// <param name="Label">As the writer sees it.</param>
/// <param name="Hint">What it might hold.</param>
public sealed record SourceField(string Key, string Label, string Hint = "");

/// <summary>What a type of source is called and which fields it needs.</summary>
/// <param name="Csl">The item type of the Citation Style Language.</param>
/// <param name="Creators">What those who made it are called.</param>
/// <param name="Container">What it may be part of.</param>
/// <param name="Fields">Its own fields, beside title, creators, container, date, language and address, which all have.</param>
public sealed record SourceForm(
    SourceType Type,
    string Name,
    string Csl,
    string Creators,
    string Container,
    IReadOnlyList<SourceField> Fields
);

/// <summary>The forms of sources, after the types and variables of the Citation Style Language 1.0.2 (docs.citationstyles.org).</summary>
public static class SourceForms
{
    private static readonly SourceField Publisher = new("publisher", "Publisher");
    private static readonly SourceField Place = new("publisher-place", "Place");
    private static readonly SourceField Volume = new("volume", "Volume");
    private static readonly SourceField Editor = new("editor", "Editors", "Family, Given; …");
    private static readonly SourceField Doi = new("DOI", "DOI", "10.…");
    private static readonly SourceField Seen = new("accessed", "Seen on", "year-month-day");
    private static readonly SourceField Length = new("dimensions", "Length", "48 min");
    private static readonly SourceField Medium = new("medium", "Medium", "recording, notes");
    private static readonly SourceField Genre = new("genre", "Sort", "map, account book");

    public static readonly IReadOnlyList<SourceForm> All =
    [
        new(
            SourceType.Book,
            "book",
            "book",
            "Authors",
            "Part of",
            [
                Editor,
                new("translator", "Translators"),
                new("edition", "Edition", "2nd"),
                Volume,
                Publisher,
                Place,
                new("page", "Pages"),
                new("original-date", "First published", "1851"),
                new("ISBN", "ISBN"),
                Doi,
            ]
        ),
        new(
            SourceType.Article,
            "article",
            "article-journal",
            "Authors",
            "Journal",
            [Volume, new("issue", "Issue"), new("page", "Pages", "12–31"), Publisher, new("ISSN", "ISSN"), Doi]
        ),
        new(SourceType.Page, "web page", "webpage", "Authors", "Site", [Publisher, Seen, Doi]),
        new(SourceType.Video, "video", "motion_picture", "Made by", "Series", [Publisher, Length, Medium, Seen]),
        new(SourceType.Podcast, "podcast", "broadcast", "Spoken by", "Show", [new("number", "Episode"), Publisher, Length, Seen]),
        new(SourceType.Thread, "thread", "post", "Begun by", "Place", [Genre, Seen]),
        new(
            SourceType.Interview,
            "interview",
            "interview",
            "Who was asked",
            "Published in",
            [new("interviewer", "Who asked"), Place, Medium, Length]
        ),
        new(
            SourceType.Archive,
            "archive document",
            "manuscript",
            "Written by",
            "Collection",
            [new("archive", "Archive"), new("archive-place", "Its place"), new("archive_location", "Shelf mark"), Genre]
        ),
        new(SourceType.Message, "message", "personal_communication", "From", "", [new("recipient", "To"), Medium]),
        new(SourceType.Observation, "own observation", "document", "Seen by", "", [new("event-place", "Where"), Medium]),
    ];

    /// <summary>The form of a type.</summary>
    public static SourceForm Of(SourceType type) => All[(int)type];

    /// <summary>The type for an item type of the Citation Style Language; a book part counts as a book in its container.</summary>
    public static SourceType TypeOf(string csl) =>
        csl.ToLowerInvariant() switch
        {
            "article"
            or "article-journal"
            or "article-magazine"
            or "article-newspaper"
            or "paper-conference"
            or "review"
            or "review-book"
            or "entry-dictionary"
            or "entry-encyclopedia" => SourceType.Article,
            "webpage" or "post-weblog" or "dataset" or "software" => SourceType.Page,
            "motion_picture" or "performance" => SourceType.Video,
            "broadcast" or "song" or "speech" => SourceType.Podcast,
            "post" => SourceType.Thread,
            "interview" => SourceType.Interview,
            "manuscript" or "map" or "legal_case" or "treaty" or "collection" => SourceType.Archive,
            "personal_communication" => SourceType.Message,
            "document" => SourceType.Observation,
            _ => SourceType.Book,
        };

    private static readonly HashSet<string> Known = [.. All.SelectMany(form => form.Fields).Select(field => field.Key)];

    /// <summary>Whether any form has this field.</summary>
    public static bool Has(string key) => Known.Contains(key);
}
