using System.Text;
using Ganss.Xss;
using Markdig;
using Markdig.Extensions.EmphasisExtras;
using Markdig.Extensions.TaskLists;
using Markdig.Helpers;
using Markdig.Parsers;
using Markdig.Renderers;
using Markdig.Renderers.Html;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>Turns Markdown into HTML that is safe to show. Everything goes through the sanitiser, the writer's own words too.</summary>
public static class Reading
{
    private static readonly HtmlSanitizer Sanitizer = MakeSanitizer(forOutside: false);
    private static readonly HtmlSanitizer OutsideSanitizer = MakeSanitizer(forOutside: true);

    /// <summary>The tags that a writer may use. Boxes to be ticked come of lists, and are no field of a form.</summary>
    private static readonly HashSet<string> Tags = [.. Sanitizer.AllowedTags.Except(["input"], StringComparer.OrdinalIgnoreCase)];
    private static readonly MarkdownPipeline Inside = Pipeline(forOutside: false);
    private static readonly MarkdownPipeline Outside = Pipeline(forOutside: true);

    /// <summary>HTML as the app shows it: references are links to the thing.</summary>
    public static string Html(string markdown) => ToHtml(markdown, Inside);

    /// <summary>HTML as it goes out: no brackets, no numbers of ours, no remarks to oneself.</summary>
    public static string HtmlForOutside(string markdown) => ToHtml(References.Spoken(Remarks.Without(markdown), Said), Outside);

    private static string Said(TextReference reference) => reference.IsNumbered ? "" : reference.Name;

    /// <summary>Blocks that are cleaned at once: what the sanitiser takes grows with the square of what stands side by side.</summary>
    private const int MostAtOnce = 200;

    /// <summary>Items of one list, or links of one paragraph, at most; a text with more is read as the plain text it is.</summary>
    private const int MostBeside = 5_000;

    private static string ToHtml(string markdown, MarkdownPipeline pipeline)
    {
        try
        {
            var sanitizer = pipeline == Outside ? OutsideSanitizer : Sanitizer;
            var document = Markdown.Parse(TooManyMarks.AsWords(markdown), pipeline);
            TagsAsWords.In(document, Tags);
            var parts = document.Descendants().ToList();
            // A tag of the writer's own may be closed many blocks later.
            var hasTags = parts.Any(part => part is HtmlBlock or HtmlInline);
            if (
                parts.Exists(part => part is ContainerBlock { Count: > MostBeside } || IsLong(part))
                || hasTags && document.Count > MostBeside
            )
                return Plain(markdown);
            if (document.Count <= MostAtOnce || hasTags)
                return sanitizer.Sanitize(document.ToHtml(pipeline));
            var html = new StringBuilder();
            foreach (var some in document.Chunk(MostAtOnce))
            {
                using var writer = new StringWriter();
                var renderer = new HtmlRenderer(writer);
                pipeline.Setup(renderer);
                foreach (var block in some)
                    renderer.Render(block);
                html.Append(sanitizer.Sanitize(writer.ToString()));
            }
            return html.ToString();
        }
        catch (ArgumentException)
        {
            // Nested deeper than the parser goes: then it is read as the plain text it is.
            return Plain(markdown);
        }
    }

    private static bool IsLong(MarkdownObject part) => part is ContainerInline inline && inline.Skip(MostBeside).Any();

    /// <summary>Paragraphs of encoded words, which have nothing to be cleaned of.</summary>
    private static string Plain(string text) =>
        string.Concat(
            Paragraphs
                .Raw(text)
                .Select(paragraph =>
                    $"<p>{System.Net.WebUtility.HtmlEncode(paragraph).Replace("\n", "<br>\n", StringComparison.Ordinal)}</p>\n"
                )
        );

    private static MarkdownPipeline Pipeline(bool forOutside)
    {
        var builder = new MarkdownPipelineBuilder()
            .UsePipeTables()
            .UseTaskLists()
            .UseAutoLinks()
            .UseEmphasisExtras(EmphasisExtraOptions.Strikethrough);
        builder.BlockParsers.Replace<HtmlBlockParser>(new TagsAsWords.BlockParser(Tags));
        if (forOutside)
            builder.UseFootnotes();
        else
            builder.Extensions.Add(new ReferenceExtension());
        return builder.Build();
    }

    // HtmlSanitizer is documented as safe for concurrent Sanitize calls once configured.
    private static HtmlSanitizer MakeSanitizer(bool forOutside)
    {
        var sanitizer = new HtmlSanitizer();
        sanitizer.AllowedAttributes.Remove("style");
        sanitizer.AllowedAttributes.Add("class");
        sanitizer.AllowedClasses.Clear();
        foreach (var name in (string[])["reference", "contains-task-list", "task-list-item"])
            sanitizer.AllowedClasses.Add(name);
        if (forOutside)
        {
            sanitizer.AllowedAttributes.Add("id");
            foreach (var name in (string[])["footnotes", "footnote-ref", "footnote-back-ref"])
                sanitizer.AllowedClasses.Add(name);
        }
        foreach (var tag in (string[])["form", "button", "select", "textarea", "style", "input"])
            sanitizer.AllowedTags.Remove(tag);
        sanitizer.AllowedTags.Add("input");
        sanitizer.AllowedSchemes.Clear();
        foreach (var scheme in (string[])["http", "https", "mailto"])
            sanitizer.AllowedSchemes.Add(scheme);
        sanitizer.PostProcessNode += (_, e) =>
        {
            // Only notes have names to be gone to.
            if (e.Node is AngleSharp.Dom.IElement { Id: { } id } named && !id.StartsWith("fn", StringComparison.Ordinal))
                named.RemoveAttribute("id");
            // A ticked box in a text shows a state; it is not a field to type into.
            if (e.Node is AngleSharp.Html.Dom.IHtmlInputElement input)
            {
                if (input.GetAttribute("type") == "checkbox")
                    input.IsDisabled = true;
                else
                    input.Remove();
            }
        };
        return sanitizer;
    }

    private sealed class ReferenceExtension : IMarkdownExtension
    {
        public void Setup(MarkdownPipelineBuilder pipeline) => pipeline.InlineParsers.Insert(0, new ReferenceParser());

        public void Setup(MarkdownPipeline pipeline, IMarkdownRenderer renderer)
        {
            if (renderer is HtmlRenderer html)
                html.ObjectRenderers.Insert(0, new ReferenceRenderer());
        }
    }

    private sealed class ReferenceInline(TextReference reference) : LeafInline
    {
        public TextReference Reference { get; } = reference;
    }

    private sealed class ReferenceParser : InlineParser
    {
        public ReferenceParser() => OpeningCharacters = ['['];

        public override bool Match(InlineProcessor processor, ref StringSlice slice)
        {
            if (slice.PeekChar() != '[')
                return false;
            var close = slice.Text.IndexOf("]]", slice.Start, StringComparison.Ordinal);
            if (close < 0 || close > slice.End)
                return false;
            var inside = slice.Text[(slice.Start + 2)..close];
            if (inside.Length is 0 or > 300 || inside.AsSpan().IndexOfAny('[', ']', '\n') >= 0)
                return false;
            processor.Inline = new ReferenceInline(References.Read(inside));
            slice.Start = close + 2;
            return true;
        }
    }

    private sealed class ReferenceRenderer : HtmlObjectRenderer<ReferenceInline>
    {
        protected override void Write(HtmlRenderer renderer, ReferenceInline inline)
        {
            var reference = inline.Reference;
            renderer.Write("<a class=\"reference\" href=\"").WriteEscapeUrl(AddressOf(reference)).Write("\">");
            renderer.WriteEscape(reference.Name).Write("</a>");
        }
    }

    /// <summary>Where in the app a reference leads, as a path.</summary>
    public static string AddressOf(TextReference reference) =>
        reference.Thing is { } thing ? AddressOf(thing, reference.Part) : "/go/" + Uri.EscapeDataString(reference.Name);

    /// <summary>Where in the app a section of a thing is shown; the thing itself when the part is empty.</summary>
    public static string AddressOf(Reference thing, string part) =>
        AddressOf(thing) + (part.Length == 0 ? "" : "?section=" + Uri.EscapeDataString(part));

    /// <summary>Where in the app a thing is shown, as a path.</summary>
    public static string AddressOf(Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => $"/library/slip/{thing.Number}",
            ThingKind.Source => $"/library/source/{thing.Number}",
            ThingKind.Piece => $"/bench/{thing.Number}",
            ThingKind.Topic => $"/topics/{thing.Number}",
            _ => $"/desk/{thing}",
        };
}
