using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;

namespace Nachlass.Exchange.Views;

/// <summary>Views as a JSON file that other papers can take in: <c>{ "views": [ { "name": …, "query": … } ] }</c>, described in
/// docs/formats.md.</summary>
public static class ViewsFile
{
    private const int Most = 500;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
    };

    public static string Write(IEnumerable<SavedView> views) =>
        JsonSerializer.Serialize(
            new Kept([
                .. views.Select(v => new KeptView
                {
                    Name = v.Name,
                    Query = v.Query,
                    Layout = v.Layout,
                    Columns = v.Columns.Count == 0 ? null : v.Columns,
                    Sort = v.Sort,
                    Upward = v.Upward,
                    Grouped = v.Grouped,
                    OnDesk = v.OnDesk,
                }),
            ]),
            Json
        ) + "\n";

    /// <exception cref="BadInputException">It is no such file, or a query in it can't be read.</exception>
    public static IReadOnlyList<SavedView> Read(string text)
    {
        try
        {
            var views =
                JsonSerializer.Deserialize<Kept>(text, Json)?.Views
                ?? throw new BadInputException("file", "There is no list “views” in the file.");
            if (views.Count > Most)
                throw new BadInputException("file", $"The file holds more than {Most} views.");
            return
            [
                .. views.Select(v =>
                    new SavedView
                    {
                        Name = v.Name ?? "",
                        Query = v.Query ?? "",
                        Layout = v.Layout,
                        Columns = v.Columns ?? [],
                        Sort = v.Sort,
                        Upward = v.Upward,
                        Grouped = v.Grouped,
                        OnDesk = v.OnDesk,
                    }.Checked()
                ),
            ];
        }
        catch (JsonException error)
        {
            throw new BadInputException("file", $"This is no file of views: line {error.LineNumber + 1} can't be read.");
        }
    }

    private sealed record Kept(IReadOnlyList<KeptView>? Views);

    private sealed record KeptView
    {
        public string? Name { get; init; }
        public string? Query { get; init; }
        public ViewLayout Layout { get; init; }
        public IReadOnlyList<ViewColumn>? Columns { get; init; }
        public ListSort? Sort { get; init; }
        public bool Upward { get; init; }
        public ViewGroup? Grouped { get; init; }
        public bool OnDesk { get; init; }
    }
}
