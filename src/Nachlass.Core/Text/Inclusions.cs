using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>
/// Texts shown inside others: a paragraph that is nothing but a reference to a slip, <c>[[slip 214]]</c>, stands for the slip's own text.
/// It stays one
/// text; a change to the slip shows wherever it stands.
/// </summary>
public static partial class Inclusions
{
    /// <summary>How many texts may stand one inside the other.</summary>
    public const int Deepest = 8;

    /// <summary>Characters at most that a text grows to; references beyond stay as they are written.</summary>
    public const int MostShown = 2_000_000;

    /// <summary>The slips whose texts stand in a text, in order.</summary>
    public static IReadOnlyList<SlipNumber> In(string text) =>
        text.Contains("[[", StringComparison.Ordinal) ? [.. Alone().Matches(text).Select(Number)] : [];

    /// <summary>The text with every slip it shows written out, those inside of them too.</summary>
    /// <param name="text">A Markdown text.</param>
    /// <param name="textOf">A slip's text; null when there is none, and then the reference stays.</param>
    /// <param name="shown">How a slip's text is put; as it is when null.</param>
    public static string Expanded(string text, Func<SlipNumber, string?> textOf, Func<SlipNumber, string, string>? shown = null) =>
        new Expanding(textOf, shown).Of(text, 0);

    private sealed class Expanding(Func<SlipNumber, string?> textOf, Func<SlipNumber, string, string>? shown)
    {
        private int written;

        public string Of(string text, int depth)
        {
            if (depth == Deepest || !text.Contains("[[", StringComparison.Ordinal))
                return text;
            return Alone()
                .Replace(
                    text,
                    m =>
                    {
                        var slip = Number(m);
                        // A few texts that each show the next many times would unfold to more than any memory holds.
                        if (written > MostShown || textOf(slip) is not { } inside)
                            return m.Value;
                        written += inside.Length;
                        var whole = Of(inside.Trim(), depth + 1);
                        return m.Groups["before"].Value + (shown is null ? whole : shown(slip, whole));
                    }
                );
        }
    }

    /// <summary>A slip's text as it stands inside another on the screen: set off, with where it comes from under it.</summary>
    public static string SetOff(SlipNumber slip, string text) =>
        string.Join('\n', text.Split('\n').Select(line => "> " + line)) + $"\n>\n> from [[slip {slip}]]";

    /// <summary>The way round by which a slip would come to stand inside itself; null when it doesn't.</summary>
    /// <param name="slip">The slip whose text changes.</param>
    /// <param name="text">Its new text.</param>
    /// <param name="textOf">The text of any slip.</param>
    public static IReadOnlyList<SlipNumber>? Circle(SlipNumber slip, string text, Func<SlipNumber, string?> textOf)
    {
        var shownBy = new Dictionary<SlipNumber, SlipNumber>();
        var next = new Queue<(SlipNumber Slip, string Text)>([(slip, text)]);
        while (next.TryDequeue(out var at))
            foreach (var shown in In(at.Text))
            {
                if (shown == slip)
                    return [slip, .. Back(at.Slip).Reverse(), slip];
                if (shownBy.TryAdd(shown, at.Slip) && textOf(shown) is { } further)
                    next.Enqueue((shown, further));
            }
        return null;

        IEnumerable<SlipNumber> Back(SlipNumber from)
        {
            for (var at = from; at != slip; at = shownBy[at])
                yield return at;
        }
    }

    private static SlipNumber Number(Match match) =>
        SlipNumber.Of(int.Parse(match.Groups["number"].Value, System.Globalization.CultureInfo.InvariantCulture));

    [GeneratedRegex(
        @"(?<before>^|\n[ \t]*\n)[ \t]*\[\[\s*slip\s+(?<number>[1-9]\d{0,8})\s*\]\][ \t]*(?=\n[ \t]*\n|\n?[ \t]*$(?!\n))",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Alone();
}
