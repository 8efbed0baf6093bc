namespace Nachlass.Core.Catalogue;

/// <summary>The picture that goes out with a piece on one outlet, above its text.</summary>
/// <param name="Name">Of its file.</param>
/// <param name="Hash">SHA-256 of its content in lower-case hexadecimal, under which it lies among the files.</param>
/// <param name="Type">Its media type.</param>
/// <param name="Shows">What it shows, for those who can't see it.</param>
/// <param name="Credit">Whose it is, as it is said under it; empty when nobody says.</param>
public sealed record SentPicture(string Name, string Hash, string Type, string Shows, string Credit)
{
    public const int LongestShows = 300;

    private static readonly (string Type, string Ending)[] Known =
    [
        ("image/jpeg", ".jpg"),
        ("image/png", ".png"),
        ("image/gif", ".gif"),
        ("image/webp", ".webp"),
        ("image/avif", ".avif"),
    ];

    public static bool Has(string type) => Known.Any(k => k.Type == type);

    /// <summary>How the name of a file of its kind ends; empty for a kind that is none.</summary>
    public static string EndingOf(string type) => Known.FirstOrDefault(k => k.Type == type).Ending ?? "";
}
