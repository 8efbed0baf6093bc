using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Capture;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Capture;

/// <summary>What was read of a file, kept beside it until it is brought in: one thing a line, as JSON. What is shown before an import and
/// what the import makes are so the same. Every text passes <see cref="PlainText.Cleaned"/> here.</summary>
public static class Spool
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase), new CleanText() },
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        AllowOutOfOrderMetadataProperties = true,
    };

    /// <summary>The things of a spool, in the order they were found.</summary>
    public static IEnumerable<Found> Read(string path)
    {
        using var reader = new StreamReader(path);
        while (reader.ReadLine() is { } line)
            yield return JsonSerializer.Deserialize<Found>(line, Json)!;
    }

    /// <summary>Everything in files that were read; a file that can't be read is one place that could not.</summary>
    public static IEnumerable<(InFile File, Found Found)> Things(this IReadOnlyList<FileRead> reads, Parcel parcel) =>
        reads.SelectMany(read =>
            (read.Spool is { } spool ? Read(spool) : [new Found.Unread(0, read.Reason ?? "", parcel.Files[read.File].Name)]).Select(found =>
                (parcel.Files[read.File], found)
            )
        );

    /// <summary>Writes things into a spool as they are found.</summary>
    /// <returns>How many there were.</returns>
    public static int Write(string path, IEnumerable<Found> things, Action<int>? gone = null)
    {
        var count = 0;
        using var writer = new StreamWriter(path);
        foreach (var found in things)
        {
            writer.WriteLine(JsonSerializer.Serialize(found, Json));
            if (++count % 1_000 == 0)
                gone?.Invoke(count);
        }
        return count;
    }

    private sealed class CleanText : JsonConverter<string>
    {
        public override string? Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => reader.GetString();

        public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
            writer.WriteStringValue(PlainText.Cleaned(value));

        public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            reader.GetString()!;

        public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
            writer.WritePropertyName(PlainText.Cleaned(value));
    }
}
