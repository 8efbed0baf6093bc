using System.Text.RegularExpressions;

namespace Nachlass.Core.Capture;

/// <summary>A move written in the middle of a text, as a line that begins with <c>- [ ]</c>.</summary>
/// <param name="Words">What is to be done.</param>
/// <param name="IsDone">Whether it is ticked.</param>
public sealed record MoveInText(string Words, bool IsDone);

/// <summary>Reads and ticks moves in texts.</summary>
public static partial class MovesInText
{
    /// <summary>The moves of a text, in order.</summary>
    public static IReadOnlyList<MoveInText> In(string text) =>
        [.. Line().Matches(text).Select(m => new MoveInText(m.Groups["words"].Value.Trim(), m.Groups["tick"].Value != " "))];

    /// <summary>The text with the line of one move ticked, or open again.</summary>
    public static string Ticked(string text, string words, bool done) =>
        Line()
            .Replace(
                text,
                m =>
                    m.Groups["words"].Value.Trim() == words
                        ? m.Groups["mark"].Value + (done ? "[x]" : "[ ]") + m.Groups["rest"].Value + m.Groups["words"].Value
                        : m.Value
            );

    [GeneratedRegex(@"^(?<mark>[ \t]*[-*+] )\[(?<tick>[ xX])\](?<rest>[ \t]+)(?<words>\S[^\r\n]*)", RegexOptions.Multiline)]
    private static partial Regex Line();
}
