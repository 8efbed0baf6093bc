using System.Globalization;
using Microsoft.Data.Sqlite;

namespace Nachlass.Store.Papers;

/// <summary>
/// How the undo log writes down what a text was before: only the stretch that differs, so that a long draft saved a thousand times
/// does not make the file grow by a thousand drafts. It is right because a row is only turned back from the very state it was left in.
/// </summary>
internal static class TextTurnedBack
{
    public const string Name = "turned_back";

    /// <summary>Below this a text is written down whole, in UTF-16 units.</summary>
    private const int Short = 200;

    public static void Register(SqliteConnection db) =>
        db.CreateFunction<string, string?, string?, string>(Name, Of, isDeterministic: true);

    /// <summary>The assignment that makes the new text the old one again.</summary>
    /// <param name="column">The column both stand in.</param>
    /// <param name="old">The text to go back to.</param>
    /// <param name="now">The text it is turned back from.</param>
    public static string Of(string column, string? old, string? now)
    {
        if (old is null)
            return $"{column}=NULL";
        if (now is null || old.Length < Short)
            return $"{column}={Quoted(old)}";
        var start = 0;
        while (start < old.Length && start < now.Length && old[start] == now[start])
            start++;
        if (start > 0 && char.IsHighSurrogate(old[start - 1]))
            start--;
        var (oldEnd, nowEnd) = (old.Length, now.Length);
        while (oldEnd > start && nowEnd > start && old[oldEnd - 1] == now[nowEnd - 1])
            (oldEnd, nowEnd) = (oldEnd - 1, nowEnd - 1);
        if (oldEnd < old.Length && char.IsLowSurrogate(old[oldEnd]))
            (oldEnd, nowEnd) = (oldEnd + 1, nowEnd + 1);
        var before = Characters(now.AsSpan(0, start));
        var rest = before + Characters(now.AsSpan(start, nowEnd - start)) + 1;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{column}=substr({column},1,{before})||{Quoted(old[start..oldEnd])}||substr({column},{rest})"
        );
    }

    /// <summary>Characters as SQLite counts them: code points.</summary>
    private static int Characters(ReadOnlySpan<char> text)
    {
        var count = 0;
        foreach (var _ in text.EnumerateRunes())
            count++;
        return count;
    }

    private static string Quoted(string text) => $"'{text.Replace("'", "''", StringComparison.Ordinal)}'";
}
