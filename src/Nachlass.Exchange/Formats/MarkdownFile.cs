using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>A Markdown file with or without YAML front matter: a slip, or when asked a source's text or a piece. Files that it links to
/// beside it are attached.</summary>
public sealed partial class MarkdownFile : IFormat
{
    /// <summary>A slip of more words is offered as doubtful: it may be a piece.</summary>
    private const int Long = 1_500;

    public string Key => "markdown";
    public string Name => "Markdown";
    public IReadOnlyList<DocumentsAs> Choices => [DocumentsAs.Slip, DocumentsAs.Source, DocumentsAs.Piece];

    public bool Recognises(InFile file, string start) => file.Extension is ".md" or ".markdown";

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var whole = TextIn.Whole(file);
        FrontMatter? fields = null;
        Found.Unread? bad = null;
        var text = whole;
        if (whole.StartsWith("---\n", StringComparison.Ordinal))
        {
            try
            {
                fields = FrontMatter.Read(file.Name, whole);
                text = fields.Text;
            }
            catch (UnreadableFileException error)
            {
                bad = new Found.Unread(1, error.Message, whole.Length > 2_000 ? whole[..2_000] : whole);
            }
        }
        if (bad is not null)
        {
            yield return bad;
            yield break;
        }
        text = text.Trim();
        var title = fields?.WordOrNull("title") ?? FirstHeading(text) ?? file.Title;
        if (text.Length == 0 && fields is null)
        {
            yield return new Found.Unread(1, "the file is empty.", "");
            yield break;
        }
        IReadOnlyList<string> topics = fields is null
            ? []
            :
            [
                .. fields
                    .Words("topics")
                    .Concat(fields.Words("tags"))
                    .SelectMany(ColumnMapping.Topics)
                    .Distinct(StringComparer.OrdinalIgnoreCase),
            ];
        var caught = (fields?.WordOrNull("date") ?? fields?.WordOrNull("created") ?? fields?.WordOrNull("caught")) is { } date
            ? ColumnMapping.Instant(date)
            : null;
        var files = Beside(file, text, how).ToList();
        if (how.Documents == DocumentsAs.Piece)
            yield return new Found.OfPiece(
                1,
                title,
                FirstHeading(text) == title ? text[(text.IndexOf('\n', StringComparison.Ordinal) + 1)..].Trim() : text
            );
        else if (how.Documents == DocumentsAs.Source)
            yield return new Found.OfSource(
                1,
                new FoundSource(title)
                {
                    Text = text,
                    Topics = topics,
                    Date = fields?.Word("date") ?? "",
                    Creators = fields?.Word("author") ?? "",
                    Files = files,
                }
            );
        else
        {
            var words = FirstHeading(text) is null && title != file.Title ? $"**{title}**\n\n{text}" : text;
            if (words.Trim().Length == 0)
                words = title;
            if (words.Length > Slip.LongestText)
                yield return new Found.Unread(
                    1,
                    $"it is longer than {Slip.LongestText:N0} characters; bring it in as a piece or a source.",
                    title
                );
            else
            {
                var reading = CaptureLine.Read(words, how.Today, new Overruling(Move: false, Source: false));
                yield return new Found.OfSlip(
                    1,
                    new FoundSlip(words)
                    {
                        Kind =
                            fields?.WordOrNull("kind") is { } kind
                            && Enum.TryParse<SlipKind>(kind, true, out var said)
                            && Enum.IsDefined(said)
                                ? said
                                : reading.Kind,
                        Topics = [.. topics.Concat(reading.Topics).Distinct(StringComparer.OrdinalIgnoreCase)],
                        CaughtAt = caught,
                        Files = files,
                    }
                )
                {
                    Doubt = Counts.Of(words).Words > Long ? "it is long for a slip; it may be a piece." : null,
                };
            }
        }
    }

    private static string? FirstHeading(string text) =>
        text.StartsWith("# ", StringComparison.Ordinal) ? text[2..].Split('\n')[0].Trim() : null;

    private static IEnumerable<FoundFile> Beside(InFile file, string text, ReadAs how)
    {
        var folder = file.Name.Contains('/', StringComparison.Ordinal) ? file.Name[..(file.Name.LastIndexOf('/') + 1)] : "";
        foreach (Match link in Links().Matches(text))
        {
            var target = Uri.UnescapeDataString(link.Groups["to"].Value.Trim('<', '>'));
            if (target.Contains("://", StringComparison.Ordinal) || target.EndsWith(".md", StringComparison.OrdinalIgnoreCase))
                continue;
            if (how.Beside?.Invoke(Resolve(folder, target)) is { } beside)
                yield return new FoundFile(Path.GetFileName(beside.Name), beside.Path, link.Groups["said"].Value);
        }
    }

    /// <summary>A relative name as one of the parcel's; one that climbs out of it names nothing there.</summary>
    private static string Resolve(string folder, string target)
    {
        var parts = new List<string>();
        foreach (var part in (folder + target).Split('/'))
        {
            if (part == ".." && parts.Count > 0)
                parts.RemoveAt(parts.Count - 1);
            else if (part is not ("" or "."))
                parts.Add(part);
        }
        return string.Join('/', parts);
    }

    [GeneratedRegex(@"!?\[(?<said>[^\[\]]*)\]\((?<to><[^<>]+>|[^()\s]+)(?:\s+""[^""]*"")?\)")]
    private static partial Regex Links();
}
