using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Nachlass.Core.Ideas.Service;

namespace Nachlass.Exchange.Ideas;

/// <summary>The open form in which a service of ideas is asked and answers (docs/idea-service.md).</summary>
public static class QuestionFile
{
    public const string Version = "ideas/1";

    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        // It is never put into a page as it is, and is to be read by its writer.
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A question as JSON, as it is shown and as it is sent.</summary>
    public static string Write(IdeaQuestion question)
    {
        var json = new JsonObject
        {
            ["nachlass"] = Version,
            ["count"] = question.Count,
            ["seed"] = question.Seed,
            ["language"] = question.Language,
        };
        foreach (var (name, words) in new[] { ("format", question.Format), ("audience", question.Audience), ("outlet", question.Outlet) })
            if (words.Length > 0)
                json[name] = words;
        if (question.Period is { } period)
        {
            json["from"] = Day(period.From);
            json["to"] = Day(period.To);
        }
        json["topics"] = new JsonArray([.. question.Topics.Select(Topic)]);
        json["exists"] = Strings(question.Exists);
        return Write(json);
    }

    internal static string Write(JsonObject json) => json.ToJsonString(Readable);

    private static JsonObject Topic(QuestionTopic topic)
    {
        var json = new JsonObject { ["topic"] = topic.Number.Value, ["name"] = topic.Name };
        if (topic.Terms.Count > 0)
            json["terms"] = Strings(topic.Terms);
        if (topic.Notes.Count > 0)
            json["notes"] = new JsonArray([.. topic.Notes.Select(n => new JsonObject { ["of"] = n.Name, ["text"] = n.Text })]);
        return json;
    }

    private static JsonArray Strings(IEnumerable<string> strings) => new([.. strings.Select(s => JsonValue.Create(s))]);

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
