using System.Text.RegularExpressions;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Text.Queries;

/// <summary>What is wrong with a query, and where.</summary>
/// <param name="At">Where it starts in what was typed, from 0.</param>
/// <param name="Length">How many characters it is about; 0 for a place between two.</param>
public sealed record QueryProblem(int At, int Length, string Message);

/// <summary>What was typed, read: a query, or what is wrong with it.</summary>
public sealed record QueryReading(Query? Query, QueryProblem? Problem);

/// <summary>
/// Reads queries. Words stand side by side and all must hold; <c>or</c> binds weaker than <c>and</c>, <c>not</c> strongest;
/// round brackets group, straight or curly quotation marks keep words together, <c>#name</c> is short for <c>topic:name</c>.
/// </summary>
public sealed partial class QueryReader
{
    /// <summary>The longest query that is read.</summary>
    public const int Longest = 2_000;

    /// <summary>How deep brackets and <c>not</c> may go.</summary>
    public const int Deepest = 40;

    private readonly string text;
    private readonly bool isTyping;
    private readonly List<Token> tokens = [];
    private int at;
    private int depth;

    private QueryReader(string text, bool isTyping) => (this.text, this.isTyping) = (text, isTyping);

    /// <summary>Reads a query; anything may be typed.</summary>
    /// <param name="typed">The text.</param>
    /// <param name="isTyping">Whether the last word may be unfinished.</param>
    public static QueryReading Read(string? typed, bool isTyping = false)
    {
        var text = typed ?? "";
        if (text.Length > Longest)
            return new(null, new(Longest, text.Length - Longest, $"A query is at most {Longest:N0} characters long."));
        var reader = new QueryReader(text, isTyping);
        try
        {
            reader.Cut();
            var query = reader.tokens.Count == 0 ? new Query.Everything() : reader.Or();
            if (reader.at < reader.tokens.Count)
                throw Wrong(reader.tokens[reader.at], "This bracket closes nothing.");
            return new(query, null);
        }
        catch (Fault fault)
        {
            return new(null, fault.Problem);
        }
    }

    private Query Or()
    {
        var parts = new List<Query> { And() };
        while (Takes("or"))
            parts.Add(And());
        return Query.Any(parts);
    }

    private Query And()
    {
        var parts = new List<Query> { Not() };
        while (at < tokens.Count && tokens[at].Kind != Shape.Close && !Is("or"))
        {
            Takes("and");
            parts.Add(Not());
        }
        return Query.All(parts);
    }

    private Query Not()
    {
        if (++depth > Deepest)
            throw Wrong(tokens[Math.Min(at, tokens.Count - 1)], "Brackets and “not” go too deep here.");
        var query = Is("not") ? Negated() : Single();
        depth--;
        return query;
    }

    private Query.Not Negated()
    {
        at++;
        return new Query.Not(Not());
    }

    private Query Single()
    {
        if (at >= tokens.Count)
            throw new Fault(
                new(text.Length, 0, tokens.Count == 0 ? "Something is missing here." : $"After “{tokens[^1].Text}” something is missing.")
            );
        var token = tokens[at++];
        switch (token.Kind)
        {
            case Shape.Open:
                var inside = Or();
                if (at >= tokens.Count)
                    throw Wrong(token, "This bracket is not closed.");
                at++;
                return inside;
            case Shape.Close:
                throw Wrong(token, "Before this bracket something is missing.");
            case Shape.Quoted:
                return new Query.Words(token.Text, IsExact: true);
            case Shape.Field:
                return token.Asked!;
            case Shape.Join:
                throw Wrong(token, $"Before “{token.Text}” something is missing. To look for the word itself, put it in quotation marks.");
            default:
                return new Query.Words(token.Text, IsUnfinished: isTyping && token.At + token.Length == text.Length);
        }
    }

    private bool Is(string join) =>
        at < tokens.Count && tokens[at].Kind == Shape.Join && tokens[at].Text.Equals(join, StringComparison.OrdinalIgnoreCase);

    private bool Takes(string join)
    {
        if (!Is(join))
            return false;
        at++;
        return true;
    }

    private void Cut()
    {
        for (var i = 0; i < text.Length; )
        {
            if (char.IsWhiteSpace(text[i]))
            {
                i++;
                continue;
            }
            if (text[i] is '(' or ')')
            {
                tokens.Add(new(text[i] == '(' ? Shape.Open : Shape.Close, text[i].ToString(), i, 1));
                i++;
                continue;
            }
            if (IsQuote(text[i]))
            {
                var (quoted, after) = Quotation(i);
                if (quoted.Length > 0)
                    tokens.Add(new(Shape.Quoted, quoted, i, after - i));
                i = after;
                continue;
            }
            var named = Named().Match(text, i);
            if (named.Success && named.Index == i && Fielded(named) is { } field)
            {
                tokens.Add(field);
                i = field.At + field.Length;
                continue;
            }
            var end = i;
            while (end < text.Length && !char.IsWhiteSpace(text[end]) && text[end] is not '(' and not ')' && !IsQuote(text[end]))
                end++;
            var word = text[i..end];
            tokens.Add(
                word.Length > 1 && word[0] == '#'
                    ? new(Shape.Field, word, i, word.Length, new Query.Field(QueryField.Topic, Comparison.Is, TopicName.FromTag(word[1..])))
                    : new(Query.IsJoin(word) ? Shape.Join : Shape.Word, word, i, word.Length)
            );
            i = end;
        }
    }

    /// <summary>A field with its value; null when what looks like one is only a word with a colon in it.</summary>
    private Token? Fielded(Match named)
    {
        var name = named.Groups[1].Value;
        var sign = named.Groups["sign"].Value.Trim();
        var from = named.Index;
        var valueAt = from + named.Length;
        var isQuoted = valueAt < text.Length && IsQuote(text[valueAt]);
        var (value, end) = isQuoted ? Quotation(valueAt) : Bare(valueAt);
        if (!Enum.TryParse<QueryField>(name, true, out var field) || char.IsDigit(name[0]))
        {
            // "Note: …" and addresses are words; a name that meets a value was meant as a field.
            if (sign != ":" || value.Length == 0 || value.StartsWith("//", StringComparison.Ordinal))
                return null;
            var near = Enum.GetNames<QueryField>()
                .Select(n => n.ToLowerInvariant())
                .OrderBy(n => Spelling.Distance(n, name.ToLowerInvariant()))
                .First();
            throw new Fault(
                new(
                    from,
                    name.Length,
                    Spelling.Distance(near, name.ToLowerInvariant()) <= 2
                        ? $"There is no field “{name}”; is “{near}” meant?"
                        : $"There is no field “{name}”. To look for the words, put them in quotation marks."
                )
            );
        }
        var comparison = sign switch
        {
            "<" => Comparison.Below,
            "<=" => Comparison.AtMost,
            ">" => Comparison.Above,
            ">=" => Comparison.AtLeast,
            _ => Comparison.Is,
        };
        // Names of topics and titles keep their capitals for the eye; the fixed values are one in any case.
        if (
            field is not (QueryField.Topic or QueryField.Source or QueryField.In or QueryField.Link or QueryField.Stage or QueryField.Field)
        )
            value = value.ToLowerInvariant();
        else if (QueryFields.Values(field).Contains(value.ToLowerInvariant()))
            value = value.ToLowerInvariant();
        if (field == QueryField.Topic && !isQuoted)
            value = TopicName.FromTag(value.TrimStart('#'));
        // A value that is still being typed asks nothing yet, and is no mistake.
        if (
            isTyping
            && end == text.Length
            && (value.Length == 0 || QueryFields.IsBegun(field, value))
            && (comparison == Comparison.Is || QueryFields.IsStep(field))
        )
            return new(Shape.Field, text[from..end], from, end - from, new Query.Everything());
        if (QueryFields.Fault(field, comparison, value) is { } fault)
            throw new Fault(value.Length == 0 ? new(from, end - from, fault) : new(valueAt, end - valueAt, fault));
        return new(Shape.Field, text[from..end], from, end - from, new Query.Field(field, comparison, value));
    }

    private (string Value, int End) Bare(int from)
    {
        var end = from;
        while (end < text.Length && !char.IsWhiteSpace(text[end]) && text[end] is not '(' and not ')' && !IsQuote(text[end]))
            end++;
        return (text[from..end], end);
    }

    private (string Value, int End) Quotation(int from)
    {
        var end = from + 1;
        while (end < text.Length && !IsQuote(text[end]))
            end++;
        if (end == text.Length)
            // While it is typed the closing mark is still to come.
            return isTyping
                ? (Clean(text[(from + 1)..]), end)
                : throw new Fault(new(from, text.Length - from, "This quotation is not closed."));
        return (Clean(text[(from + 1)..end]), end + 1);
    }

    private static string Clean(string quoted) => string.Join(' ', quoted.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    private static bool IsQuote(char c) => c is '"' or '“' or '”' or '„';

    private static Fault Wrong(Token token, string message) => new(new(token.At, token.Length, message));

    private enum Shape
    {
        Word,
        Quoted,
        Field,
        Join,
        Open,
        Close,
    }

    private sealed record Token(Shape Kind, string Text, int At, int Length, Query? Asked = null);

    private sealed class Fault(QueryProblem problem) : Exception
    {
        public QueryProblem Problem { get; } = problem;
    }

    [GeneratedRegex(@"\G(\p{L}{2,12})(?<sign>:|=|\s*(?:<=|>=|<|>)\s*)")]
    private static partial Regex Named();
}
