using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Bench;

/// <summary>What is meant so on routes, as rows.</summary>
internal static class RouteRows
{
    public static IReadOnlyDictionary<string, string> SetAside(SqliteConnection db, PieceNumber piece) =>
        db.Query<(string Key, string Reason)>("SELECT key, reason FROM set_aside WHERE piece = @piece", new { piece })
            .ToDictionary(a => a.Key, a => a.Reason);

    public static void Put(SqliteConnection db, PieceNumber piece, string key, string reason) =>
        db.Execute(
            "INSERT INTO set_aside (piece, key, reason) VALUES (@piece, @key, @reason) "
                + "ON CONFLICT (piece, key) DO UPDATE SET reason = @reason",
            new
            {
                piece,
                key,
                reason,
            }
        );

    /// <summary>As they go out with the papers: in the keys stand the places of sections, since numbers are given anew where they come
    /// in.</summary>
    public static IReadOnlyList<SetAsideImage> Image(SqliteConnection db, PieceNumber piece, IReadOnlyDictionary<int, int> places) =>
        [
            .. SetAside(db, piece)
                .OrderBy(a => a.Key, StringComparer.Ordinal)
                .Select(a => (Key: Renumbered(a.Key, n => places.TryGetValue(n, out var at) ? at : null), a.Value))
                .Where(a => a.Key is not null)
                .Select(a => new SetAsideImage(a.Key!, a.Value)),
        ];

    public static void Put(SqliteConnection db, PieceNumber piece, IReadOnlyList<SetAsideImage> all, IReadOnlyList<int> sections)
    {
        foreach (var one in all)
            if (Renumbered(one.Key, n => n >= 1 && n <= sections.Count ? sections[n - 1] : null) is { } key)
                Put(db, piece, key, Check.Text("set-aside", one.Reason, RouteStore.LongestReason));
    }

    /// <summary>A key with other numbers for its sections; null where one of them is no more. They stand between its kind and what it is
    /// about.</summary>
    private static string? Renumbered(string key, Func<int, int?> number)
    {
        var parts = key.Split(':');
        for (var i = 1; i < parts.Length && int.TryParse(parts[i], out var old); i++)
        {
            if (number(old) is not { } other)
                return null;
            parts[i] = other.ToString(System.Globalization.CultureInfo.InvariantCulture);
        }
        return string.Join(':', parts);
    }
}
