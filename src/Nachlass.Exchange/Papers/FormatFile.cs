using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;

namespace Nachlass.Exchange.Papers;

/// <summary>One format as a JSON file, as it goes out and comes in, by itself or with the papers.</summary>
public static class FormatFile
{
    public const string Folder = "formats/";

    /// <summary>The largest file that is read: far more than any format needs.</summary>
    public const int LongestFile = 1 << 20;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        MaxDepth = 16,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    /// <summary>What is computed of a format is no part of its file.</summary>
    private static readonly string[] Computed = ["limit", "aim", "usualHours", "version"];

    public static string Write(Format format)
    {
        var node = JsonSerializer.SerializeToNode(format, Json)!.AsObject();
        foreach (var name in Computed)
            node.Remove(name);
        return node.ToJsonString(Json) + "\n";
    }

    /// <param name="name">Name of the file, for messages.</param>
    /// <exception cref="UnreadableFileException">It is no format, or one that makes no sense.</exception>
    public static Format Read(string name, string content)
    {
        if (content.Length > LongestFile)
            throw new UnreadableFileException(name, "it is larger than any format is.");
        try
        {
            var format = JsonSerializer.Deserialize<Format>(content, Json) ?? throw new UnreadableFileException(name, "it is empty.");
            return FormatRules.Checked(format) with { Key = FormatRules.KeyFor(format), IsPutAway = format.IsPutAway };
        }
        catch (JsonException error)
        {
            throw new UnreadableFileException(name, $"it is no format ({error.Message})");
        }
        catch (BadInputException error)
        {
            throw new UnreadableFileException(name, $"{error.Field}: {error.Message}");
        }
    }
}
