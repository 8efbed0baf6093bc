using System.Text.RegularExpressions;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Text;

/// <summary>
/// A query turned into SQL. Everything typed goes in as a parameter or as a number that was looked up. Words that all of it
/// depends on become one match of the full-text index, which ranks; the rest becomes a condition for each kind of thing.
/// </summary>
internal sealed partial class Asked
{
    private readonly SqliteConnection db;
    private readonly PapersFile papers;
    private readonly Lazy<TopicNames> topics;
    private readonly Query rest;
    private bool? isBroad;

    public Asked(SqliteConnection db, PapersFile papers, Query query)
    {
        (this.db, this.papers, Query) = (db, papers, query);
        topics = new(() => TopicNames.Of(db));
        var parts = query is Query.And and ? and.Parts : [query];
        // In a question the joining words tell nothing; they count only where nothing else is asked.
        if (parts.Any(part => part is Query.Words words && !IsJoining(words)))
            parts = [.. parts.Where(part => part is not Query.Words words || !IsJoining(words))];
        var ranked = parts.Select(part => (Part: part, Match: Words(part))).ToList();
        Match = string.Join(" AND ", ranked.Where(r => r.Match is not null).Select(r => r.Match));
        rest = Query.All(ranked.Where(r => r.Match is null).Select(r => r.Part));
        Arguments.Add("Match", Match);
        Arguments.Add("today", papers.Today);
    }

    /// <summary>Reads what was typed, with the last word unfinished.</summary>
    /// <exception cref="BadInputException">It can't be read.</exception>
    public static Asked Typed(SqliteConnection db, PapersFile papers, string? typed) => new(db, papers, Understand(typed, isTyping: true));

    /// <summary>The query that was typed.</summary>
    /// <exception cref="BadInputException">It can't be read.</exception>
    public static Query Understand(string? typed, bool isTyping = false)
    {
        var reading = QueryReader.Read(typed, isTyping);
        return reading.Query ?? throw new BadInputException("query", $"{reading.Problem!.Message} (at character {reading.Problem.At + 1})");
    }

    public Query Query { get; }

    /// <summary>What the full-text index is asked; empty when nothing has to stand in the text.</summary>
    public string Match { get; }

    /// <summary>Values for what <see cref="For"/> names, and <c>@Match</c> and <c>@today</c>.</summary>
    public DynamicParameters Arguments { get; } = new();

    public bool IsOnlyWords => rest is Query.Everything;

    /// <summary>In more texts than this a rank says little and takes long: bm25 is worked out for every one of them.</summary>
    internal const int MostRanked = 8_000;

    /// <summary>Whether the words stand nearly everywhere, as the first letters of a word do. Then the newest come first.</summary>
    public bool IsBroad =>
        isBroad ??=
            Match.Length > 0
            && db.ExecuteScalar<int>(
                $"SELECT count(*) FROM (SELECT 1 FROM finding WHERE finding MATCH @Match LIMIT {MostRanked + 1})",
                new { Match }
            ) > MostRanked;

    /// <summary>The order of hits in the full-text index.</summary>
    /// <param name="title">How much more a word in a title counts than one in the text.</param>
    public string Order(int title) => IsBroad ? "ORDER BY finding.rowid DESC" : $"AND rank MATCH 'bm25({title}.0, 1.0)' ORDER BY rank";

    /// <summary>The condition on a row <c>s</c> of this kind, besides the words of <see cref="Match"/>.</summary>
    public string For(ThingKind kind) => Condition(rest, kind);

    /// <summary>The condition with its words, for a row <c>s</c> that is not reached through the full-text index.</summary>
    public string Whole(ThingKind kind) =>
        Match.Length == 0 || For(kind) == "0"
            ? For(kind)
            : $"{For(kind)} AND {Number(kind)} IN (SELECT rowid / 8 FROM finding WHERE finding MATCH @Match AND rowid % 8 = {(int)kind})";

    private string Condition(Query query, ThingKind kind) =>
        query switch
        {
            Query.And and => Joined(and.Parts.Select(p => Condition(p, kind)).ToList(), " AND ", none: "0", all: "1"),
            Query.Or or => Joined(or.Parts.Select(p => Condition(p, kind)).ToList(), " OR ", none: "1", all: "0"),
            // What can't be said of a thing is not so: a source is no question, and "not kind:question" lets it through.
            Query.Not not => Condition(not.Part, kind) switch
            {
                "0" => "1",
                "1" => "0",
                var part => $"NOT ({part})",
            },
            Query.Words => Words(query) is { } match
                ? $"{Number(kind)} IN (SELECT rowid / 8 FROM finding WHERE finding MATCH {Value(match)} AND rowid % 8 = {(int)kind})"
                : "0",
            Query.Field field => Field(field, kind),
            _ => "1",
        };

    /// <summary>Conditions joined; what is settled beforehand falls away, so that a kind that can't answer is not looked through.</summary>
    private static string Joined(List<string> conditions, string join, string none, string all)
    {
        if (conditions.Contains(none))
            return none;
        conditions.RemoveAll(c => c == all);
        return conditions.Count == 0 ? all : "(" + string.Join(join, conditions) + ")";
    }

    private static string Number(ThingKind kind) => kind == ThingKind.Day ? "s.day_number" : "s.number";

    private string Field(Query.Field field, ThingKind kind)
    {
        var isSlip = kind == ThingKind.Slip;
        switch (field.Name)
        {
            case QueryField.Topic:
                return On(field.Value, kind);
            case QueryField.Kind:
                return isSlip ? $"s.kind = {Value(field.Value)}" : "0";
            case QueryField.State:
                return field.Value == "any" ? "1"
                    : isSlip ? State(field.Value)
                    : "0";
            case QueryField.Held:
                return isSlip ? $"(s.state = 'held' AND {HeldFor(field.Value)})" : "0";
            case QueryField.Effort or QueryField.Pull:
                var column = field.Name == QueryField.Effort ? "s.effort" : "s.pull";
                if (!isSlip)
                    return "0";
                return field.Value == "none"
                    ? $"{column} IS NULL"
                    : $"coalesce({column} {(field.Comparison == Comparison.Is ? "=" : Query.Sign(field.Comparison))} {field.Value[0]}, 0)";
            case QueryField.Worth:
                if (!isSlip)
                    return "0";
                papers.Provide(db);
                // Compared as it is shown, in whole numbers.
                return $"coalesce(round(worth(s.number)) {(field.Comparison == Comparison.Is ? "=" : Query.Sign(field.Comparison))} "
                    + $"{int.Parse(field.Value, System.Globalization.CultureInfo.InvariantCulture)}, 0)";
            case QueryField.Since or QueryField.Until:
                return Caught(field, kind);
            case QueryField.Used:
                var used = kind switch
                {
                    ThingKind.Slip or ThingKind.Source => Links.StandsInAPiece(kind),
                    _ => null,
                };
                return used is null ? "0"
                    : field.Value == "yes" ? used
                    : "NOT " + used;
            case QueryField.Source:
                return Of(field.Value, kind);
            case QueryField.In:
                return In(field.Value, kind);
            case QueryField.Link:
                return Linked(field.Value, kind);
            case QueryField.Origin:
                return isSlip ? $"s.origin = {Value(field.Value)}" : "0";
            case QueryField.Stage:
                return kind == ThingKind.Piece ? $"lower(s.stage) = {Value(field.Value.ToLowerInvariant())}" : "0";
            case QueryField.Due:
                return kind == ThingKind.Piece ? Due(field) : "0";
            case QueryField.Field:
                return kind == ThingKind.Piece ? OwnField(field.Value) : "0";
            default:
                return kind switch
                {
                    ThingKind.Slip => field.Value == "none"
                        ? "s.format IS NULL"
                        : $"instr(' ' || coalesce(s.format, '') || ' ', ' ' || {Value(FormatKey(field.Value))} || ' ') > 0",
                    ThingKind.Piece => field.Value == "none" ? "0" : $"s.format = {Value(FormatKey(field.Value))}",
                    _ => "0",
                };
        }
    }

    /// <summary>The key of a format that is asked for by its key or its name.</summary>
    private string FormatKey(string asked) =>
        Bench.FormatRows.All(db).All.FirstOrDefault(f => f.Key == asked || f.Name.Equals(asked, StringComparison.OrdinalIgnoreCase))?.Key
        ?? asked;

    private string Due(Query.Field field)
    {
        if (field.Value is "none" or "any")
            return $"s.due IS {(field.Value == "any" ? "NOT " : "")}NULL";
        // A month or a year is all its days: after it begins when it is over, and so does what is at most it.
        var (first, last) = (
            QueryFields.DueDay(field.Value, false, papers.Today)!.Value,
            QueryFields.DueDay(field.Value, true, papers.Today)!.Value
        );
        return field.Comparison switch
        {
            Comparison.Is => $"coalesce(s.due BETWEEN {Value(first.Kept())} AND {Value(last.Kept())}, 0)",
            Comparison.Below or Comparison.AtLeast => $"coalesce(s.due {Query.Sign(field.Comparison)} {Value(first.Kept())}, 0)",
            _ => $"coalesce(s.due {Query.Sign(field.Comparison)} {Value(last.Kept())}, 0)",
        };
    }

    /// <summary>Which own field is asked for first, as a condition on its key; null when none is.</summary>
    public string? FieldAsked { get; private set; }

    /// <summary>What stands in a field of a piece, by the field's key or name; numbers are compared as numbers.</summary>
    private string OwnField(string asked)
    {
        var (name, sign, value) = QueryFields.OwnFieldOf(asked);
        var keys = Bench
            .FormatRows.All(db)
            .All.SelectMany(f => f.Fields)
            .Where(f => f.Key.Equals(name, StringComparison.OrdinalIgnoreCase) || f.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
            .Select(f => f.Key)
            .Append(name.ToLowerInvariant())
            .Distinct();
        var among = $"x.key IN ({string.Join(", ", keys.Select(Value))})";
        FieldAsked ??= among;
        var has = $"x.piece = s.number AND {among}";
        var meets =
            sign.Length == 0 ? "1"
            : double.TryParse(
                value,
                System.Globalization.NumberStyles.Float,
                System.Globalization.CultureInfo.InvariantCulture,
                out var number
            ) && double.IsFinite(number)
                ? $"CAST(x.value AS REAL) {sign} {number.ToString("R", System.Globalization.CultureInfo.InvariantCulture)}"
            : sign == "=" ? $"instr(lower(x.value), {Value(value.ToLowerInvariant())}) > 0"
            : $"x.value {sign} {Value(value)}";
        return value is "none" && sign == "="
            ? $"NOT EXISTS (SELECT 1 FROM piece_field x WHERE {has})"
            : $"EXISTS (SELECT 1 FROM piece_field x WHERE {has} AND {meets})";
    }

    /// <summary>On the topic of that name, or on one under it.</summary>
    private string On(string name, ThingKind kind)
    {
        if (kind == ThingKind.Topic)
            return $"s.number IN ({List(topics.Value.Under(name))})";
        if (kind == ThingKind.Day)
            return "0";
        var (table, column) = ($"{kind.Kept()}_topic", kind.Kept());
        return name == "none"
            ? $"NOT EXISTS (SELECT 1 FROM {table} x WHERE x.{column} = s.number)"
            : $"s.number IN (SELECT {column} FROM {table} WHERE topic IN ({List(topics.Value.Under(name))}))";
    }

    internal static string State(string state) =>
        state switch
        {
            "waiting" => "(s.state = 'waiting' OR (s.state = 'held' AND s.held_until <= @today))",
            "held" => "(s.state = 'held' AND (s.held_until IS NULL OR s.held_until > @today))",
            _ => $"s.state = '{state}'",
        };

    private static string HeldFor(string reason) =>
        reason switch
        {
            "look-up" => "s.held_look_up IS NOT NULL",
            "occasion" => "s.held_occasion IS NOT NULL",
            "sources" => "s.held_sources IS NOT NULL",
            _ => "s.held_until IS NOT NULL AND s.held_occasion IS NULL AND s.held_sources IS NULL",
        };

    private string Caught(Query.Field field, ThingKind kind)
    {
        var isEnd = field.Name == QueryField.Until;
        var day = QueryFields.Day(field.Value, isEnd, papers.Today)!.Value;
        if (kind is ThingKind.Slip or ThingKind.Day)
            return $"s.day {(isEnd ? "<=" : ">=")} {Value(day.Kept())}";
        if (kind == ThingKind.Topic)
            return "0";
        var midnight = (isEnd ? day.AddDays(1) : day).ToDateTime(TimeOnly.MinValue);
        var instant = new DateTimeOffset(midnight, papers.Time.LocalTimeZone.GetUtcOffset(midnight));
        return $"{(kind == ThingKind.Source ? "s.caught_at" : "s.started_at")} {(isEnd ? "<" : ">=")} {Value(instant.Kept())}";
    }

    private string Of(string source, ThingKind kind)
    {
        if (kind == ThingKind.Source)
            return source is "any" ? "1"
                : source is "none" ? "0"
                : $"s.number IN ({Sources(source)})";
        if (kind != ThingKind.Slip)
            return "0";
        return source switch
        {
            "any" => "s.source IS NOT NULL",
            "none" => "s.source IS NULL",
            _ => $"coalesce(s.source IN ({Sources(source)}), 0)",
        };
    }

    private string Sources(string asked) =>
        int.TryParse(asked, out var number)
            ? number.ToString(System.Globalization.CultureInfo.InvariantCulture)
            : List(
                db.Query<int>(
                    "SELECT number FROM source WHERE trashed_at IS NULL "
                        + "AND (instr(lower(title), lower(@asked)) > 0 OR instr(lower(creators), lower(@asked)) > 0) LIMIT 1000",
                    new { asked }
                )
            );

    private string In(string place, ThingKind kind)
    {
        var whole = place switch
        {
            "slips" => ThingKind.Slip,
            "sources" => ThingKind.Source,
            "pieces" => ThingKind.Piece,
            "sheets" => ThingKind.Day,
            _ => (ThingKind?)null,
        };
        if (whole is { } only)
            return kind == only ? "1" : "0";
        var named =
            References.Read(place).Thing ?? (int.TryParse(place, out var n) ? new Reference(ThingKind.Piece, n) : Links.Named(db, place));
        if (named is not { Kind: ThingKind.Piece } piece)
            return "0";
        return kind switch
        {
            ThingKind.Slip or ThingKind.Source =>
                $"s.number IN (SELECT {kind.Kept()} FROM material WHERE piece = {piece.Number} AND {kind.Kept()} IS NOT NULL)",
            ThingKind.Piece => $"s.number = {piece.Number}",
            _ => "0",
        };
    }

    private string Linked(string to, ThingKind kind)
    {
        if (kind == ThingKind.Topic)
            return "0";
        var (own, number) = (kind.Kept(), Number(kind));
        var from = $"EXISTS (SELECT 1 FROM link l WHERE l.from_kind = '{own}' AND l.from_number = {number}";
        if (to == "any")
            return from + ")";
        if (to == "none")
            return $"NOT ({from}) OR EXISTS (SELECT 1 FROM link l WHERE l.to_kind = '{own}' AND l.to_number = {number}))";
        var thing = References.Read(to).Thing ?? Links.Named(db, to);
        var names = thing is { } found ? Links.NamesOf(db, found) : [to];
        var named = string.Join(", ", names.Select(name => Value(name.ToLowerInvariant())));
        var numbered = thing is { } t ? $"(l.to_kind = '{t.Kind.Kept()}' AND l.to_number = {t.Number}) OR " : "";
        return $"{from} AND ({numbered}(l.to_kind IS NULL AND l.to_name IN ({named}))))";
    }

    /// <summary>An expression of the full-text index; null for what it can't answer.</summary>
    private string? Words(Query query)
    {
        switch (query)
        {
            case Query.Words words:
                var own = Quoted(words.Text, words.IsUnfinished);
                if (own is null)
                    return null;
                if (words.IsExact)
                    return own;
                var others = topics.Value.OtherNames(words.Text).Select(name => Quoted(name, false)).OfType<string>().ToList();
                return others.Count == 0 ? own : $"({string.Join(" OR ", others.Prepend(own))})";
            case Query.And and:
                return Joined(and.Parts, " AND ");
            case Query.Or or:
                return Joined(or.Parts, " OR ");
            default:
                return null;
        }
    }

    private string? Joined(IReadOnlyList<Query> parts, string join)
    {
        var words = parts.Select(Words).ToList();
        return words.Contains(null) ? null : $"({string.Join(join, words)})";
    }

    private static bool IsJoining(Query.Words words) =>
        words is { IsExact: false, IsUnfinished: false }
        && Word().IsMatch(words.Text)
        && Stems.Of(words.Text).Count == 0
        && words.Text.Any(char.IsLetter);

    private static string? Quoted(string text, bool isUnfinished)
    {
        var words = string.Join(' ', Word().Matches(text).Select(w => w.Value));
        return words.Length == 0 ? null : $"\"{words}\"{(isUnfinished ? "*" : "")}";
    }

    private string Value(string value)
    {
        var name = $"q{Arguments.ParameterNames.Count()}";
        Arguments.Add(name, value);
        return "@" + name;
    }

    private static string List(IEnumerable<int> numbers) => string.Join(',', numbers.DefaultIfEmpty(0));

    [GeneratedRegex(@"[\p{L}\p{N}\p{M}]+")]
    private static partial Regex Word();
}
