using System.Text.RegularExpressions;
using Markdig.Helpers;
using Markdig.Parsers;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;

namespace Nachlass.Core.Text;

/// <summary>What looks like a tag of HTML and is none that may stand in a text is words: <c>&lt;Pell&gt; he said</c> is read as it was
/// written. So is what is nested deeper than any text is.</summary>
internal static partial class TagsAsWords
{
    /// <summary>How many tags of HTML may stand one inside the other.</summary>
    private const int Deepest = 40;

    private static readonly HashSet<string> Empty = new(StringComparer.OrdinalIgnoreCase) { "br", "hr", "img", "input", "wbr", "col" };

    /// <summary>Opens a block of HTML only for a tag that may stand in a text; any other begins a paragraph.</summary>
    internal sealed class BlockParser(ISet<string> allowed) : HtmlBlockParser
    {
        public override BlockState TryOpen(BlockProcessor processor) =>
            Name().Match(processor.Line.ToString()) is { Success: true } tag && allowed.Contains(tag.Groups[1].Value)
                ? base.TryOpen(processor)
                : BlockState.None;
    }

    /// <summary>Puts words in place of the tags that may not stand in a text.</summary>
    public static void In(MarkdownDocument document, ISet<string> allowed)
    {
        var open = 0;
        foreach (var part in document.Descendants().Where(d => d is HtmlBlock or HtmlInline).ToList())
            if (part is HtmlBlock block)
            {
                var tamed = new StringSlice(
                    Tag().Replace(block.Lines.ToString(), tag => Stays(tag.Value) ? tag.Value : Escaped(tag.Value))
                );
                block.Lines = new StringLineGroup(1) { tamed };
            }
            else if (part is HtmlInline inline && !Stays(inline.Tag))
                inline.ReplaceBy(new LiteralInline(inline.Tag));

        bool Stays(string tag)
        {
            if (Name().Match(tag) is not { Success: true } named || !allowed.Contains(named.Groups[1].Value))
                return false;
            if (Empty.Contains(named.Groups[1].Value))
                return true;
            if (tag[1] == '/')
                open = Math.Max(0, open - 1);
            else if (++open > Deepest)
            {
                open--;
                return false;
            }
            return true;
        }
    }

    private static string Escaped(string tag) => "&lt;" + tag[1..];

    [GeneratedRegex(@"^\s{0,3}</?([a-zA-Z][a-zA-Z0-9]*)(?=[\s/>]|$)")]
    private static partial Regex Name();

    [GeneratedRegex(@"</?[a-zA-Z][^<>]*>|<")]
    private static partial Regex Tag();
}
