using System.IO.Hashing;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using System.Text;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Text;

namespace Nachlass.Store.Catalogue.Asks;

/// <summary>What wishes mean, kept beside the papers so that it is read from each sentence once; it is no part of them.</summary>
internal static class MeaningRows
{
    /// <summary>By what a meaning is found again.</summary>
    public static long KeyOf(string said) => (long)XxHash64.HashToUInt64(Encoding.UTF8.GetBytes(said));

    public static Dictionary<long, float[]> All(SqliteConnection db) =>
        db.Query<(long Said, byte[] Numbers)>("SELECT said, numbers FROM wish_meaning")
            .Where(m => m.Numbers.Length == SentenceMeaning.Numbers * 2)
            .ToDictionary(m => m.Said, m => Read(m.Numbers));

    public static void Put(SqliteConnection db, IEnumerable<(string Said, float[] Meaning)> meanings) =>
        db.Execute(
            "INSERT INTO wish_meaning (said, numbers) VALUES (@Said, @Numbers) ON CONFLICT DO NOTHING",
            meanings.Select(m => new { Said = KeyOf(m.Said), Numbers = Written(m.Meaning) })
        );

    private static float[] Read(byte[] numbers)
    {
        var meaning = new float[SentenceMeaning.Numbers];
        TensorPrimitives.ConvertToSingle(MemoryMarshal.Cast<byte, Half>(numbers), meaning);
        return meaning;
    }

    private static byte[] Written(float[] meaning)
    {
        var numbers = new Half[SentenceMeaning.Numbers];
        TensorPrimitives.ConvertToHalf(meaning, numbers);
        return MemoryMarshal.AsBytes<Half>(numbers).ToArray();
    }
}
