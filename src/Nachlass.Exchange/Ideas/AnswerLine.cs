using System.Text.Json;
using System.Text.RegularExpressions;
using Nachlass.Core.Ideas.Service;

namespace Nachlass.Exchange.Ideas;

/// <summary>What one line of an answer says.</summary>
/// <param name="Idea">Null where it has none.</param>
/// <param name="Tokens">How much the service says the request took; null where it does not.</param>
public sealed partial record AnswerLine(ServedIdea? Idea, int? Tokens = null)
{
    private static readonly AnswerLine Nothing = new(null, null);

    private static readonly JsonDocumentOptions Shallow = new() { MaxDepth = 8, CommentHandling = JsonCommentHandling.Skip };

    /// <summary>Reads a line of the open form: an object of JSON. Whatever else stands there says nothing.</summary>
    public static AnswerLine Read(string line, IdeaQuestion asked)
    {
        try
        {
            using var json = JsonDocument.Parse(line, Shallow);
            var said = json.RootElement;
            if (said.ValueKind != JsonValueKind.Object)
                return Nothing;
            return new AnswerLine(
                ServedIdea.Of(Word(said, "text"), Word(said, "shape"), Number(said, "topic"), Words(said, "from"), asked),
                Number(said, "tokens") is > 0 and var tokens ? tokens : null
            );
        }
        catch (JsonException)
        {
            return Nothing;
        }
        // Half a surrogate pair, escaped, is JSON and no text.
        catch (InvalidOperationException)
        {
            return Nothing;
        }
    }

    /// <summary>Reads a line of what a model wrote: an object of JSON as it was told to write, or an idea in plain words, with or without
    /// the mark of a list before it.</summary>
    public static AnswerLine ReadLoosely(string line, IdeaQuestion asked)
    {
        var bare = line.Trim().TrimEnd(',');
        if (bare.Length == 0 || Frame().IsMatch(bare))
            return Nothing;
        if (bare[0] == '{')
            return Read(bare, asked);
        var words = ListMark().Replace(bare, "");
        // What leads in or leads out is no idea: it stands in no list.
        return words.Length < bare.Length ? new AnswerLine(ServedIdea.Of(words.Trim('"', '“', '”'), "", null, [], asked)) : Nothing;
    }

    private static string? Word(JsonElement said, string name) =>
        said.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;

    private static int? Number(JsonElement said, string name) =>
        said.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out var number)
            ? number
            : null;

    private static IEnumerable<string> Words(JsonElement said, string name) =>
        said.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Array
            ? value.EnumerateArray().Where(v => v.ValueKind == JsonValueKind.String).Select(v => v.GetString()!).Take(20)
            : [];

    [GeneratedRegex(@"^(```.*|[\[\]{}]+)$")]
    private static partial Regex Frame();

    [GeneratedRegex(@"^(\d{1,3}[.)]|[-*•])\s+")]
    private static partial Regex ListMark();
}
