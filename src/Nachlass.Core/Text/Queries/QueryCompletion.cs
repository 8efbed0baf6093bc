namespace Nachlass.Core.Text.Queries;

/// <summary>What could stand where the caret is.</summary>
/// <param name="At">From where it replaces what was typed.</param>
/// <param name="Length">How much of it.</param>
/// <param name="Text">What is put there.</param>
/// <param name="About">What it means, in a few words; empty when its name says it.</param>
public sealed record Completion(int At, int Length, string Text, string About);

/// <summary>Completes fields and their values as a query is typed.</summary>
public static class QueryCompletion
{
    /// <summary>How many are offered at most.</summary>
    public const int Most = 8;

    /// <summary>What could stand at the caret, those that begin with what is typed first.</summary>
    /// <param name="typed">The query so far.</param>
    /// <param name="caret">Where the caret stands, 0 to the length of the text.</param>
    /// <param name="named">Names that a field takes besides its fixed values: topics, sources, pieces.</param>
    public static IReadOnlyList<Completion> At(string typed, int caret, Func<QueryField, string, IEnumerable<string>> named)
    {
        caret = Math.Clamp(caret, 0, typed.Length);
        var from = caret;
        var isOpen = typed[..caret].Count(c => c is '"' or '“' or '”' or '„') % 2 == 1;
        // Inside an open quotation only the value of a field is completed, from the field's name on.
        if (isOpen)
            from = typed.LastIndexOfAny(['"', '“', '”', '„'], caret - 1);
        while (from > 0 && !char.IsWhiteSpace(typed[from - 1]) && typed[from - 1] is not '(' and not ')')
            from--;
        var word = typed[from..caret];
        if (word.Length == 0)
            return [];
        if (word[0] == '#')
            return Offer(named(QueryField.Topic, word[1..]), word[1..], v => "topic:" + Written(v), from, caret, "");
        var sign = word.IndexOfAny([':', '<', '>', '=']);
        if (sign < 0)
            return isOpen
                ? []
                :
                [
                    .. Enum.GetValues<QueryField>()
                        .Select(f => (Field: f, Name: f.ToString().ToLowerInvariant()))
                        .Where(f => f.Name.StartsWith(word, StringComparison.OrdinalIgnoreCase))
                        .Select(f => new Completion(from, caret - from, f.Name + ":", QueryFields.About(f.Field)))
                        .Take(Most),
                ];
        if (!Enum.TryParse<QueryField>(word[..sign], true, out var field))
            return [];
        var valueAt = sign + 1 < word.Length && word[sign + 1] == '=' ? sign + 2 : sign + 1;
        var begun = word[valueAt..].Trim('"', '“', '”', '„');
        var head = word[..valueAt];
        return Offer(
            QueryFields
                .Values(field)
                .Where(v => v.StartsWith(begun, StringComparison.OrdinalIgnoreCase) && (v != "none" || head[^1] == ':'))
                .Concat(named(field, begun)),
            begun,
            v => head + Written(v),
            from,
            caret,
            ""
        );
    }

    private static List<Completion> Offer(
        IEnumerable<string> values,
        string begun,
        Func<string, string> written,
        int from,
        int caret,
        string about
    ) =>
        [
            .. values
                .Distinct()
                .OrderByDescending(v => v.StartsWith(begun, StringComparison.OrdinalIgnoreCase))
                .Take(Most)
                .Select(v => new Completion(from, caret - from, written(v), about)),
        ];

    private static string Written(string value) => value.All(c => char.IsLetterOrDigit(c) || c is '-' or '_') ? value : '"' + value + '"';
}
