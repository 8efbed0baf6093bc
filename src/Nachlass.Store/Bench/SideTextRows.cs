using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Bench;

/// <summary>Texts beside drafts as rows. One that is empty is not there.</summary>
internal static class SideTextRows
{
    public static IReadOnlyList<(string Key, string Text)> Of(SqliteConnection db, PieceNumber piece) =>
        db.Query<(string, string)>("SELECT key, text FROM side_text WHERE piece = @piece ORDER BY key", new { piece }).AsList();

    public static (string Text, int Version)? Find(SqliteConnection db, PieceNumber piece, string key) =>
        db.QuerySingleOrDefault<(string, int)?>(
            "SELECT text, version FROM side_text WHERE piece = @piece AND key = @key",
            new { piece, key }
        );

    public static void Put(SqliteConnection db, PieceNumber piece, string key, string text)
    {
        if (text.Trim().Length == 0)
            db.Execute("DELETE FROM side_text WHERE piece = @piece AND key = @key", new { piece, key });
        else
            db.Execute(
                "INSERT INTO side_text (piece, key, text) VALUES (@piece, @key, @text) "
                    + "ON CONFLICT (piece, key) DO UPDATE SET text = @text, version = version + 1",
                new
                {
                    piece,
                    key,
                    text,
                }
            );
    }
}
