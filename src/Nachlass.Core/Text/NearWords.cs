using System.Numerics.Tensors;
using System.Text;

namespace Nachlass.Core.Text;

/// <summary>
/// How near words are in meaning, by the company they keep in much English text, and how common they are: a table of stems that ships
/// with the program. Where it came from stands in its licence file beside it and in <c>bench/Nachlass.Bench/WordVectors.cs</c>.
/// </summary>
public sealed class NearWords
{
    /// <summary>Numbers that stand for a word.</summary>
    public const int Numbers = 100;

    private static readonly Lazy<NearWords> Shipped = new(() =>
        new NearWords(typeof(NearWords).Assembly.GetManifestResourceStream("NearWords.bin")!)
    );

    private readonly Dictionary<string, int> at;
    private readonly sbyte[] numbers;
    private readonly int[] ranks;

    private NearWords(Stream stream)
    {
        using var reader = new BinaryReader(stream, Encoding.UTF8);
        var count = reader.ReadInt32();
        (at, ranks, numbers) = (new Dictionary<string, int>(count), new int[count], new sbyte[count * Numbers]);
        for (var i = 0; i < count; i++)
        {
            at[reader.ReadString()] = i;
            ranks[i] = reader.ReadInt32();
        }
        reader.BaseStream.ReadExactly(System.Runtime.InteropServices.MemoryMarshal.AsBytes(numbers.AsSpan()));
    }

    /// <summary>The table that ships; read when it is first asked for.</summary>
    public static NearWords Table => Shipped.Value;

    /// <summary>The place of a stem among the commonest of English, from 1; null for one that is not among them.</summary>
    public int? RankOf(string root) => at.TryGetValue(root, out var i) ? ranks[i] : null;

    /// <summary>The direction of a stem, of length 1; null for one that is not in the table.</summary>
    public float[]? DirectionOf(string root)
    {
        if (!at.TryGetValue(root, out var i))
            return null;
        var direction = new float[Numbers];
        for (var n = 0; n < Numbers; n++)
            direction[n] = numbers[i * Numbers + n];
        var length = TensorPrimitives.Norm<float>(direction);
        if (length > 0)
            TensorPrimitives.Divide(direction, length, direction);
        return direction;
    }

    /// <summary>Writes such a table: how many; each stem with its rank; then their numbers, a byte each, the largest of a word
    /// 127.</summary>
    public static void Write(Stream into, IReadOnlyList<(string Root, float[] Vector, int Rank)> table)
    {
        using var writer = new BinaryWriter(into, Encoding.UTF8, leaveOpen: true);
        writer.Write(table.Count);
        foreach (var (root, _, rank) in table)
        {
            writer.Write(root);
            writer.Write(rank);
        }
        foreach (var (_, vector, _) in table)
        {
            var largest = Math.Max(1e-9f, TensorPrimitives.MaxMagnitude<float>(vector));
            foreach (var number in vector)
                writer.Write((sbyte)Math.Round(number / Math.Abs(largest) * sbyte.MaxValue));
        }
    }
}
