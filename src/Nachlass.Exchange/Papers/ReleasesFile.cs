using System.Globalization;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Papers;

/// <summary>What went out: <c>releases/0012 the-title.md</c> with the text as sent, and <c>releases.md</c>, which says that releases are
/// kept, and what is never to go where.</summary>
internal static class ReleasesFile
{
    public const string Name = "releases.md",
        Folder = "releases";

    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers)
    {
        if (
            papers.Releases is not { } releases
            || (papers.Pieces.All(p => p.Piece.OutOn is null) && papers.NeverThere.Count + papers.CatalogueViews.Count == 0)
        )
            yield break;
        yield return (
            Name,
            new FrontMatterWriter()
                .Add("releases", releases.Count)
                .Add(
                    "never",
                    papers.NeverThere.Select(n => new FrontMatterWriter().Add("piece", n.Piece.Value).Add("outlet", n.Outlet.Value))
                )
                .Add(
                    "views",
                    papers.CatalogueViews.Select(v =>
                        new FrontMatterWriter().Add("view", v.Number.Value).Add("name", v.Name).Add("with", v.With).Add("by", v.By)
                    )
                )
                .Write("What went out lies in the folder “releases”, each with the text as it was sent.")
        );
        foreach (var r in releases)
            yield return (
                $"{Folder}/{r.Number.Value:0000} {PieceFile.Name(r.Title)}.md",
                new FrontMatterWriter()
                    .Add("release", r.Number.Value)
                    .Add("piece", r.Piece.Value)
                    .Add("outlet", r.Outlet?.Value)
                    .Add("out", r.OutOn)
                    .Add("way", r.Way)
                    .Add("kind", r.Kind == ReleaseKind.Usual ? "" : r.Kind.ToString().ToLowerInvariant())
                    .Add("title", r.Title)
                    .Add("address", r.Address)
                    .Add("summary", r.Summary)
                    .Add("tried", r.Tried)
                    .Add("sha-256", r.Hash)
                    .Add(
                        "recording",
                        (r.Recording is { } sound ? [sound] : Array.Empty<Recording>()).Select(s =>
                            new FrontMatterWriter()
                                .Add("name", s.Name)
                                .Add("file", s.Hash)
                                .Add("type", s.Type)
                                .Add("bytes", s.Bytes.ToString(CultureInfo.InvariantCulture))
                                .Add("ms", s.Ms)
                                .Add("key", s.Key)
                                .Add("at", s.At)
                        )
                    )
                    .Add(
                        "picture",
                        (r.Picture is { } picture ? [picture] : Array.Empty<SentPicture>()).Select(p =>
                            new FrontMatterWriter()
                                .Add("name", p.Name)
                                .Add("file", p.Hash)
                                .Add("type", p.Type)
                                .Add("shows", p.Shows)
                                .Add("credit", p.Credit)
                        )
                    )
                    .Add(
                        "speaks-of",
                        r.SpeaksOf.Select(s => new FrontMatterWriter().Add("topic", s.Topic?.Name ?? "").Add("words", s.Words))
                    )
                    .Add(
                        "corrections",
                        r.Corrections.Select(c =>
                            new FrontMatterWriter().Add("at", c.At).Add("there", c.ThereAt).Add("note", c.Note).Add("text", c.Text)
                        )
                    )
                    .Write(r.Text)
            );
    }

    /// <param name="topic">A topic by its name; refuses one that is not there.</param>
    /// <param name="day">A day of a file, moved along.</param>
    /// <param name="instant">An instant of a file, moved along.</param>
    public static Release Read(
        string file,
        FrontMatter f,
        Func<string, TopicMark> topic,
        Func<FrontMatter, string, DateOnly?> day,
        Func<FrontMatter, string, DateTimeOffset?> instant
    )
    {
        var title = Check.Text("title", f.Word("title"), Piece.LongestTitle);
        return new Release
        {
            Number = ReleaseNumber.Of(Must(file, "release", f.Number("release"))),
            Piece = PieceNumber.Of(Must(file, "piece", f.Number("piece"))),
            Outlet = f.Number("outlet") is { } outlet ? OutletNumber.Of(outlet) : null,
            OutOn = Must(file, "out", day(f, "out")),
            Way = f.Enum("way", ReleaseWay.BroughtIn),
            Kind = f.Enum("kind", ReleaseKind.Usual),
            Title = title,
            Text = Check.Length("text", f.Text, DraftText.Longest),
            Hash = Release.HashOf(title, f.Text),
            Address = Check.WebAddress("address", f.Word("address")),
            Summary = Check.Length("summary", f.Word("summary"), Release.LongestSummary),
            Tried = Check.Length("tried", f.Word("tried"), Release.LongestTried),
            SpeaksOf =
            [
                .. f.Records("speaks-of")
                    .Select(s => new SpokenOf(
                        s.Word("topic") is { Length: > 0 } name ? topic(name) : null,
                        Check.Length("speaks-of", s.Word("words"), Release.LongestWords)
                    )),
            ],
            Recording = f.Records("recording").Select(s => Sound(file, s, instant)).FirstOrDefault(),
            Picture = f.Records("picture").Select(p => Picture(file, p)).FirstOrDefault(),
            Corrections =
            [
                .. f.Records("corrections")
                    .Select(c => new Correction(Must(file, "at", instant(c, "at")), c.Word("note"), c.Word("text"), instant(c, "there"))),
            ],
        };
    }

    private static SentPicture Picture(string file, FrontMatter p) =>
        new(
            Check.Text("name", p.Word("name"), Attachment.LongestName),
            HashOf(file, "picture", p),
            p.Word("type") is var type && SentPicture.Has(type)
                ? type
                : throw new UnreadableFileException(file, $"“{type}” is no kind of picture."),
            Check.Length("shows", p.Word("shows"), SentPicture.LongestShows),
            Check.Length("credit", p.Word("credit"), Attachment.LongestCredit)
        );

    private static string HashOf(string file, string what, FrontMatter f) =>
        f.Word("file") is { Length: 64 } hash && hash.All(char.IsAsciiHexDigitLower)
            ? hash
            : throw new UnreadableFileException(file, $"the field “file” of its {what} is no SHA-256.");

    private static Recording Sound(string file, FrontMatter s, Func<FrontMatter, string, DateTimeOffset?> instant) =>
        new(
            Check.Text("name", s.Word("name"), Attachment.LongestName),
            HashOf(file, "recording", s),
            SoundTypes.Has(s.Word("type"))
                ? s.Word("type")
                : throw new UnreadableFileException(file, $"“{s.Word("type")}” is no kind of sound that goes into a feed."),
            long.TryParse(s.Word("bytes"), NumberStyles.None, CultureInfo.InvariantCulture, out var bytes) ? bytes : 0,
            Math.Max(0, s.Number("ms") ?? 0),
            s.Word("key") is { Length: > 0 and <= Recording.LongestKey } key && key.All(char.IsAsciiLetterOrDigit)
                ? key
                : throw new UnreadableFileException(file, "the field “key” of its recording is made of letters and digits."),
            Must(file, "at", instant(s, "at"))
        );

    public static IReadOnlyList<CatalogueView> Views(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("views")
                    .Select(v => new CatalogueView(
                        CatalogueViewNumber.Of(Must(Name, "view", v.Number("view"))),
                        Check.Text("name", v.Word("name"), CatalogueView.LongestName),
                        Check.Length("with", v.Word("with"), CatalogueView.LongestWith),
                        v.Enum("by", CatalogueBy.Year)
                    )),
            ];

    public static IReadOnlyList<(PieceNumber Piece, OutletNumber Outlet)> Never(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("never")
                    .Select(n =>
                        (PieceNumber.Of(Must(Name, "piece", n.Number("piece"))), OutletNumber.Of(Must(Name, "outlet", n.Number("outlet"))))
                    ),
            ];

    private static T Must<T>(string file, string field, T? value)
        where T : struct => value ?? throw new UnreadableFileException(file, $"the field “{field}” is missing.");
}
