using System.Text;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Pages;

/// <summary>The number of a comment on a page.</summary>
public readonly record struct CommentNumber(int Value) : INumber<CommentNumber>
{
    public static CommentNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out CommentNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>What the writer said of a comment.</summary>
public enum CommentState
{
    /// <summary>Nothing yet: nobody else sees it.</summary>
    Held,

    /// <summary>It stands on the page, and among the messages.</summary>
    Shown,

    /// <summary>It is a message, and does not stand on the page.</summary>
    Kept,

    /// <summary>It is neither.</summary>
    Refused,
}

/// <summary>What a reader wrote under a page.</summary>
/// <param name="Person">As they call themselves.</param>
/// <param name="Text">As plain text: nothing in it is markup.</param>
/// <param name="Source">The page elsewhere that mentions this one (<see cref="Webmention"/>); empty for what was written here.</param>
public sealed record PageComment(
    CommentNumber Number,
    PageNumber Page,
    DateTimeOffset At,
    string Person,
    string Text,
    CommentState State,
    string Source = ""
);

/// <summary>What speaks against a person having written a comment.</summary>
public enum CommentDoubt
{
    None,

    /// <summary>It fills the field that people don't see. It is thanked for like any other, and not kept.</summary>
    Trapped,

    /// <summary>Faster than one can read and write; a person is asked to send it once more.</summary>
    TooQuick,

    /// <summary>The form was fetched too long ago, or its mark is none of ours; a person is asked to send it once more.</summary>
    TooOld,
}

/// <summary>Which comments are taken.</summary>
public static class CommentRules
{
    public const int LongestPerson = 100,
        LongestText = 4_000,
        MostHeld = 500;

    /// <summary>Nobody reads a page and writes under it in less.</summary>
    public static readonly TimeSpan Quickest = TimeSpan.FromSeconds(3);

    /// <summary>A form that was fetched longer ago is not believed.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(1);

    /// <summary>A comment as it may be held.</summary>
    /// <exception cref="BadInputException">It says who or what is missing, or too long.</exception>
    public static (string Person, string Text) Checked(string? person, string? text) =>
        (
            Check.Text("name", Line(person), LongestPerson),
            Check.Text("comment", (text ?? "").Replace("\r\n", "\n", StringComparison.Ordinal).Trim(), LongestText)
        );

    /// <summary>What speaks against a person having written it.</summary>
    /// <param name="trap">What stands in the field that is hidden from people.</param>
    /// <param name="since">How long ago the form was fetched; null when that can't be told.</param>
    public static CommentDoubt Doubt(string? trap, TimeSpan? since) =>
        !string.IsNullOrEmpty(trap) ? CommentDoubt.Trapped
        : since is not { } took || took > Longest ? CommentDoubt.TooOld
        : took < Quickest ? CommentDoubt.TooQuick
        : CommentDoubt.None;

    /// <summary>A comment as Markdown that reads as the words it is: nothing in it is a mark (CommonMark 0.31, 2.4).</summary>
    public static string AsMarkdown(string text)
    {
        var escaped = new StringBuilder();
        foreach (var line in text.Split('\n'))
        {
            if (escaped.Length > 0)
                escaped.Append('\n');
            var words = line.Trim();
            var numbered = words.TakeWhile(char.IsAsciiDigit).Count();
            for (var at = 0; at < words.Length; at++)
            {
                var isMark =
                    "\\`*_[]<&|~^".Contains(words[at], StringComparison.Ordinal)
                    || (at == 0 && "#>-+=".Contains(words[at], StringComparison.Ordinal))
                    || (at > 0 && at == numbered && (words[at] == '.' || words[at] == ')'));
                if (isMark)
                    escaped.Append('\\');
                escaped.Append(words[at]);
            }
        }
        return escaped.ToString();
    }

    private static string Line(string? words) =>
        string.Join(' ', (words ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}
