using System.Globalization;

namespace Nachlass.Core.Text.Queries;

/// <summary>Says a query in plain words, so that a writer sees how it was understood.</summary>
public static class QueryWords
{
    /// <summary>For example: <c>on ferries, kept or waiting, pull 4 or more, with “night bell”</c>.</summary>
    public static string Of(Query query, DateOnly today) => query is Query.Everything ? "everything in sight" : Say(query, today);

    private static string Say(Query query, DateOnly today) =>
        query switch
        {
            Query.Words words => words.IsExact ? $"with “{words.Text}” as it stands"
            : words.IsUnfinished ? $"with “{words.Text}…”"
            : $"with “{words.Text}”",
            Query.Field field => Say(field, today),
            Query.And and => string.Join(", ", and.Parts.Select(p => Say(p, today))),
            Query.Or or => "either " + string.Join(" or ", or.Parts.Select(p => p is Query.And ? $"({Say(p, today)})" : Say(p, today))),
            Query.Not not => not.Part is Query.And or Query.Or ? $"not ({Say(not.Part, today)})" : "not " + Say(not.Part, today),
            _ => "everything",
        };

    private static string Say(Query.Field field, DateOnly today)
    {
        var value = field.Value;
        return field.Name switch
        {
            QueryField.Topic => value == "none" ? "on no topic" : $"on {value}",
            QueryField.Kind => value is "idea" or "ask" ? $"an {value}" : $"a {value}",
            QueryField.State => value == "any" ? "in any state" : value,
            QueryField.Held => value switch
            {
                "look-up" => "held to look something up",
                "sources" => "held until there are enough sources",
                _ => $"held until {(value == "date" ? "a date" : "an occasion")}",
            },
            QueryField.Effort or QueryField.Pull or QueryField.Worth =>
                $"{field.Name.ToString().ToLowerInvariant()} {Compared(field.Comparison, value)}",
            QueryField.Since => $"caught since {Day(value, false, today)}",
            QueryField.Until => $"caught until {Day(value, true, today)}",
            QueryField.Used => value == "yes" ? "standing in a piece" : "not used yet",
            QueryField.Source => value switch
            {
                "any" => "from a source",
                "none" => "from no source",
                _ => int.TryParse(value, out _) ? $"from source {value}" : $"from a source named “{value}”",
            },
            QueryField.In => QueryFields.Places.Contains(value)
                ? $"among the {(value == "sheets" ? "day sheets" : value)}"
                : $"in the material of {value}",
            QueryField.Link => value switch
            {
                "any" => "linked to something",
                "none" => "linked to nothing and by nothing",
                _ => $"linked to {value}",
            },
            QueryField.Origin => value switch
            {
                "strip" => "written in the strip",
                "sheet" => "from a day sheet",
                "feed" => "from a feed",
                "reading" => "caught while reading",
                "import" => "brought in",
                "folder" => "from the drop folder",
                "clip" => "clipped",
                "paste" => "pasted",
                _ => $"from the {value}",
            },
            QueryField.Stage => $"at the stage {value}",
            QueryField.Due => value switch
            {
                "none" => "without a due date",
                "any" => "with a due date",
                _ => Due(field, today),
            },
            QueryField.Field => QueryFields.OwnFieldOf(value) switch
            {
                var (key, sign, said) when sign.Length > 0 => $"with {key} {sign} {said}",
                var (key, _, _) => $"with something in {key}",
            },
            _ => value == "none" ? "with no format" : $"to become: {value}",
        };
    }

    private static string Due(Query.Field field, DateOnly today)
    {
        var way = field.Comparison switch
        {
            Comparison.Is => "on",
            Comparison.Below => "before",
            Comparison.AtMost => "before or on",
            Comparison.Above => "after",
            _ => "after or on",
        };
        var isEnd = field.Comparison is Comparison.AtMost or Comparison.Above;
        return QueryFields.DueDay(field.Value, isEnd, today) is { } day
            ? $"due {way} {day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}"
            : $"due {way} {field.Value}";
    }

    private static string Compared(Comparison comparison, string value) =>
        comparison switch
        {
            Comparison.Below => $"under {value}",
            Comparison.AtMost => $"{value} or less",
            Comparison.Above => $"over {value}",
            Comparison.AtLeast => $"{value} or more",
            _ => value == "none" ? "not set" : value,
        };

    private static string Day(string value, bool isEnd, DateOnly today) =>
        QueryFields.Day(value, isEnd, today) is { } day ? day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture) : value;
}
