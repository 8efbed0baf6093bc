using System.Text;
using System.Xml.Linq;
using MimeKit.Utils;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>OPML 2.0 (opml.org/spec2.opml): outlines into slips, the branches being their topics, or into the outline of a piece.</summary>
public sealed class Opml : IFormat
{
    private const int Deepest = 50;

    public string Key => "opml";
    public string Name => "Outline (OPML)";
    public IReadOnlyList<DocumentsAs> Choices => [DocumentsAs.Slip, DocumentsAs.Piece];

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".opml" || start.Contains("<opml", StringComparison.OrdinalIgnoreCase);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var document = XmlIn.Document(file);
        var body =
            document.Root?.Element("body")
            ?? throw new Papers.UnreadableFileException(file.Name, "there is no body in it, so it is no outline.");
        var title = document.Root!.Element("head")?.Element("title")?.Value.Trim() is { Length: > 0 } named ? named : file.Title;
        return how.Documents == DocumentsAs.Piece ? Piece(body, title) : Slips(body, [], 1);
    }

    private static IEnumerable<Found> Piece(XElement body, string title)
    {
        var draft = new StringBuilder();
        Write(body, 2);
        yield return new Found.OfPiece(1, title, draft.ToString().Trim());

        void Write(XElement under, int level)
        {
            foreach (var outline in under.Elements("outline"))
            {
                draft.Append('#', Math.Min(level, 4)).Append(' ').Append(Text(outline).Split('\n')[0]).Append("\n\n");
                if (Note(outline) is { Length: > 0 } note)
                    draft.Append(note).Append("\n\n");
                if (level < Deepest)
                    Write(outline, level + 1);
            }
        }
    }

    /// <summary>A text of more characters is no name of a topic.</summary>
    private const int LongestTopic = 60;

    private static IEnumerable<Found> Slips(XElement under, IReadOnlyList<string> branches, int depth)
    {
        foreach (var outline in under.Elements("outline"))
        {
            var line = XmlIn.Line(outline);
            var text = Text(outline);
            var hasLeaves = outline.Elements("outline").Any();
            if (text.Length == 0 && !hasLeaves)
            {
                yield return new Found.Unread(
                    line,
                    "this entry has no text.",
                    outline.ToString()[..Math.Min(400, outline.ToString().Length)]
                );
                continue;
            }
            if (depth > Deepest)
            {
                yield return new Found.Unread(line, $"it lies deeper than {Deepest} levels.", text);
                continue;
            }
            // A branch says what its leaves are about; what it says beyond a name is a slip of its own.
            var isTopic = hasLeaves && text.Length <= LongestTopic;
            if (!isTopic && text.Length > 0 || Note(outline).Length > 0 || Address(outline).Length > 0)
                yield return Slip(outline, line, text, branches);
            if (hasLeaves)
                foreach (var found in Slips(outline, isTopic && text.Length > 0 ? [.. branches, text] : branches, depth + 1))
                    yield return found;
        }
    }

    private static Found Slip(XElement outline, int line, string text, IReadOnlyList<string> branches)
    {
        var left = new LeftOut();
        // The two nearest branches are topics; a slip that had all above it would be about everything.
        left.Add("the branches", string.Join(" / ", branches.SkipLast(MostBranches)));
        foreach (var attribute in outline.Attributes().Where(a => !Placed.Contains(a.Name.LocalName)))
            left.Add(attribute.Name.LocalName, attribute.Value);
        var categories =
            outline
                .Attribute("category")
                ?.Value.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Select(c => c.Trim('/'))
            ?? [];
        var words = Note(outline) is { Length: > 0 } note ? $"{text}\n\n{note}" : text;
        var found = PlainList.Reading(
            line,
            words,
            [.. branches.TakeLast(MostBranches).Concat(categories).Distinct(StringComparer.OrdinalIgnoreCase)],
            default
        );
        var address = Address(outline);
        return found switch
        {
            Found.OfSlip of => of with
            {
                Slip = of.Slip with
                {
                    CaughtAt = DateUtils.TryParse(outline.Attribute("created")?.Value ?? "", out var at) && at.Year > 1900 ? at : null,
                    Source =
                        address.Length == 0
                            ? of.Slip.Source
                            : new FoundSource(text.Length > 0 ? PlainText.Headline(text) : address)
                            {
                                Type = SourceType.Page,
                                Address = address,
                            },
                },
                Doubt = left.Said,
            },
            _ => found with { Doubt = left.Said },
        };
    }

    private const int MostBranches = 2;

    /// <summary>Attributes that have a place, or only say how an outline is shown (OPML 2.0).</summary>
    private static readonly HashSet<string> Placed =
    [
        "text",
        "title",
        "_note",
        "category",
        "created",
        "type",
        "htmlUrl",
        "url",
        "isComment",
        "isBreakpoint",
    ];

    /// <summary>The page that an entry of type link or rss points to; empty for none of the web.</summary>
    private static string Address(XElement outline) =>
        (outline.Attribute("htmlUrl") ?? outline.Attribute("url"))?.Value.Trim() is { } address
        && Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && uri.Scheme is "http" or "https"
            ? address
            : "";

    private static string Text(XElement outline) =>
        (outline.Attribute("text") ?? outline.Attribute("title"))?.Value.ReplaceLineEndings("\n").Trim() ?? "";

    private static string Note(XElement outline) => outline.Attribute("_note")?.Value.ReplaceLineEndings("\n").Trim() ?? "";

    /// <summary>Writes slips under their first topic.</summary>
    public static XDocument Write(string title, IEnumerable<Slip> slips) =>
        Document(
            title,
            slips
                .GroupBy(s => s.Topics.Count > 0 ? s.Topics[0].Name : "")
                .OrderBy(g => g.Key, StringComparer.Ordinal)
                .SelectMany(group =>
                    group.Key.Length == 0
                        ? group.Select(Leaf)
                        : [new XElement("outline", new XAttribute("text", group.Key), group.Select(Leaf))]
                )
        );

    /// <summary>Writes the outline of a piece: each section with its text as its note.</summary>
    public static XDocument Write(string title, string draft)
    {
        var (lead, parts) = DraftText.Split(draft);
        var root = new XElement("body");
        var open = new Stack<(int Level, XElement Element)>();
        open.Push((0, root));
        if (lead.Trim().Length > 0)
            root.Add(new XElement("outline", new XAttribute("text", "Opening"), new XAttribute("_note", Xml(lead.Trim()))));
        foreach (var part in parts)
        {
            while (open.Peek().Level >= part.Depth)
                open.Pop();
            var element = new XElement(
                "outline",
                new XAttribute("text", Xml(part.Title)),
                part.Body.Trim().Length > 0 ? new XAttribute("_note", Xml(part.Body.Trim())) : null
            );
            open.Peek().Element.Add(element);
            open.Push((part.Depth, element));
        }
        return Document(title, root.Elements());
    }

    private static XElement Leaf(Slip slip)
    {
        var rest = slip.Topics.Skip(1).Select(t => t.Name).ToList();
        return new XElement(
            "outline",
            new XAttribute("text", Xml(slip.Text)),
            rest.Count > 0 ? new XAttribute("category", string.Join(',', rest)) : null
        );
    }

    private static XDocument Document(string title, IEnumerable<XElement> outlines) =>
        new(
            new XDeclaration("1.0", "utf-8", null),
            new XElement(
                "opml",
                new XAttribute("version", "2.0"),
                new XElement("head", new XElement("title", Xml(title))),
                new XElement("body", outlines)
            )
        );

    /// <summary>Without the few control signs that XML 1.0 can't hold at all.</summary>
    private static string Xml(string text) => new([.. text.Where(c => System.Xml.XmlConvert.IsXmlChar(c) || char.IsSurrogate(c))]);
}
