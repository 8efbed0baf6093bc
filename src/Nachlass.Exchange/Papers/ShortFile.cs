using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;

namespace Nachlass.Exchange.Papers;

/// <summary>Standing texts, patterns and short posts, each kind as a file of its own.</summary>
internal static class ShortFile
{
    public const string StandingName = "standing-texts.md",
        PatternsName = "patterns.md",
        PostsName = "posts.md";

    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers)
    {
        if (papers.StandingTexts.Count > 0)
            yield return (
                StandingName,
                new FrontMatterWriter()
                    .Add(
                        "texts",
                        papers.StandingTexts.Select(t =>
                            new FrontMatterWriter().Add("number", t.Number.Value).Add("name", t.Name).Add("text", t.Text)
                        )
                    )
                    .Write("Texts that are edited once and stand in many drafts.")
            );
        if (papers.Patterns is { } patterns)
            yield return (
                PatternsName,
                new FrontMatterWriter()
                    .Add(
                        "patterns",
                        patterns.Select(p =>
                            new FrontMatterWriter()
                                .Add("number", p.Number.Value)
                                .Add("kind", p.Kind)
                                .Add("name", p.Name)
                                .Add("text", p.Text)
                                .Add("used", p.UsedAt)
                        )
                    )
                    .Write("Short shapes with places to fill, in Liquid.")
            );
        if (papers.Posts.Count > 0)
            yield return (
                PostsName,
                new FrontMatterWriter()
                    .Add(
                        "posts",
                        papers.Posts.Select(p =>
                            new FrontMatterWriter()
                                .Add("number", p.Number.Value)
                                .Add("day", p.Day)
                                .Add("text", p.Text)
                                .Add("ready", p.ReadyAt)
                                .Add("sent", p.SentAt)
                        )
                    )
                    .Write("Short posts of the days.")
            );
    }

    public static IReadOnlyList<StandingText> StandingTexts(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("texts")
                    .Select(t => new StandingText(
                        StandingTextNumber.Of(Number(StandingName, t)),
                        Check.Text("name", t.Word("name"), StandingText.LongestName),
                        Check.Length("text", t.Word("text"), StandingText.LongestText),
                        1
                    )),
            ];

    /// <summary>Null when the papers say nothing of them.</summary>
    public static IReadOnlyList<Pattern>? Patterns(FrontMatter? f) =>
        f is null
            ? null
            :
            [
                .. f.Records("patterns")
                    .Select(p => new Pattern(
                        PatternNumber.Of(Number(PatternsName, p)),
                        p.Enum("kind", PatternKind.Bit),
                        Check.Text("name", p.Word("name"), Pattern.LongestName),
                        Check.Text("text", p.Word("text"), Pattern.LongestText),
                        p.Instant("used"),
                        1
                    )),
            ];

    /// <param name="shift">Days by which their dates are moved.</param>
    public static IReadOnlyList<Post> Posts(FrontMatter? f, int shift) =>
        f is null
            ? []
            :
            [
                .. f.Records("posts")
                    .Select(p => new Post(
                        PostNumber.Of(Number(PostsName, p)),
                        p.Day("day")?.AddDays(shift) ?? throw new UnreadableFileException(PostsName, "a post has no day."),
                        Check.Length("text", p.Word("text"), Post.LongestText),
                        p.Instant("ready")?.AddDays(shift),
                        p.Instant("sent")?.AddDays(shift),
                        1
                    )),
            ];

    private static int Number(string file, FrontMatter f) =>
        f.Number("number") ?? throw new UnreadableFileException(file, "one has no number.");
}
