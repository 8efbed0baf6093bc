using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;

namespace Nachlass.Store.Catalogue;

/// <summary>Pictures that go out with a piece, as rows beside what they go with.</summary>
internal static class SentPictureRows
{
    /// <summary>What they go with.</summary>
    public const string Sending = "sending",
        Release = "release";

    /// <summary>The pictures of some, by their numbers.</summary>
    /// <param name="numbers">As a JSON array.</param>
    public static IReadOnlyDictionary<int, SentPicture> Of(SqliteConnection db, string what, string numbers) =>
        db.Query<(int Number, string Name, string Hash, string Type, string Shows, string Credit)>(
                $"SELECT {what}, name, hash, type, shows, credit FROM {what}_picture "
                    + $"WHERE {what} IN (SELECT value FROM json_each(@numbers))",
                new { numbers }
            )
            .ToDictionary(p => p.Number, p => new SentPicture(p.Name, p.Hash, p.Type, p.Shows, p.Credit));

    public static void Put(SqliteConnection db, string what, int number, SentPicture picture) =>
        db.Execute(
            $"INSERT INTO {what}_picture ({what}, name, hash, type, shows, credit) VALUES (@number, @Name, @Hash, @Type, @Shows, @Credit)",
            new
            {
                number,
                picture.Name,
                picture.Hash,
                picture.Type,
                picture.Shows,
                picture.Credit,
            }
        );
}
