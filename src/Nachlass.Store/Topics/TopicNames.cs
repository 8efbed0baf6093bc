using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Text;

namespace Nachlass.Store.Topics;

/// <summary>The names topics go by, and which stand under which.</summary>
internal sealed class TopicNames
{
    private readonly Dictionary<string, int> numbers = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, HashSet<int>> byRoot = [];
    private readonly Dictionary<int, List<string>> names = [];
    private ILookup<int, int> narrower = null!;

    public static TopicNames Of(SqliteConnection db)
    {
        var all = new TopicNames();
        var rows = db.Query<(int Number, string Name, int? Wider)>(
                "SELECT number, name, wider FROM topic WHERE merged_into IS NULL ORDER BY number"
            )
            .AsList();
        foreach (var (number, name, _) in rows)
            all.Add(number, name);
        foreach (var (topic, name) in db.Query<(int Topic, string Name)>("SELECT topic, name FROM topic_alias ORDER BY id"))
            all.Add(topic, name);
        all.narrower = rows.Where(r => r.Wider is not null).ToLookup(r => r.Wider!.Value, r => r.Number);
        return all;
    }

    /// <summary>The topic of that name and all that stand under it; none when there is no such name.</summary>
    public IReadOnlyCollection<int> Under(string name)
    {
        if (!numbers.TryGetValue(name, out var first))
            return [];
        var found = new HashSet<int> { first };
        var open = new Queue<int>(found);
        while (open.TryDequeue(out var at))
            foreach (var under in narrower[at])
                if (found.Add(under))
                    open.Enqueue(under);
        return found;
    }

    /// <summary>The topics that a name speaks of, by any of their names, word for word or in another form.</summary>
    public List<int> NamedIn(string text)
    {
        var words = " " + Root(text) + " ";
        return
        [
            .. byRoot
                .Where(named => words.Contains(" " + named.Key + " ", StringComparison.Ordinal))
                .SelectMany(named => named.Value)
                .Distinct(),
        ];
    }

    /// <summary>The other names of the topic that is called so, by the stems of its words.</summary>
    public IEnumerable<string> OtherNames(string word)
    {
        if (!byRoot.TryGetValue(Root(word), out var topics))
            return [];
        return topics.SelectMany(t => names[t]).Where(name => !name.Equals(word, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>Names that hold what was begun, those that start with it first.</summary>
    public IEnumerable<string> Containing(string begun) =>
        names
            .Values.Select(n => n[0])
            .Where(name => name.Contains(begun, StringComparison.OrdinalIgnoreCase))
            .OrderByDescending(name => name.StartsWith(begun, StringComparison.OrdinalIgnoreCase))
            .ThenBy(name => name);

    private void Add(int number, string name)
    {
        numbers[name] = number;
        if (!names.TryGetValue(number, out var list))
            names[number] = list = [];
        list.Add(name);
        var root = Root(name);
        if (root.Length == 0)
            return;
        if (!byRoot.TryGetValue(root, out var set))
            byRoot[root] = set = [];
        set.Add(number);
    }

    private static string Root(string name) => string.Join(' ', Stems.Of(name).Select(s => s.Root));
}
