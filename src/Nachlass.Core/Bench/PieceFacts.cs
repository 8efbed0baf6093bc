using System.Globalization;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>What a title pattern and a text template can fill in about a piece.</summary>
/// <param name="Title">What the writer calls it.</param>
/// <param name="Number">Its running number among its like.</param>
/// <param name="Fields">The format's own fields, each with its value; empty where nothing is said.</param>
public sealed record PieceFacts(
    string Title,
    int Number,
    DateTime Now,
    string Format,
    string Series,
    IReadOnlyList<string> Topics,
    DateOnly? Due,
    IReadOnlyList<(OwnField Field, string Value)> Fields
)
{
    private static readonly (string Name, string Words, string? If)[] Known =
    [
        ("title", "its title", null),
        ("number", "its running number", null),
        ("series", "the series", "it is in a series"),
        ("topic", "its first topic", "it has a topic"),
        ("topics", "its topics", "it has a topic"),
        ("format", "the format", null),
        ("due", "the day it is due", "it has a due date"),
        ("date", "the date", null),
        ("weekday", "the weekday", null),
        ("day", "the day of the month", null),
        ("month", "the month", null),
        ("year", "the year", null),
    ];

    /// <summary>Names that own fields can't have.</summary>
    public static readonly IReadOnlySet<string> Taken = Known.Select(k => k.Name).ToHashSet();

    /// <summary>Facts to try a pattern with.</summary>
    public static PieceFacts Sample(IReadOnlyList<OwnField> fields) =>
        new(
            "Title",
            1,
            new DateTime(2026, 1, 1),
            "Format",
            "Series",
            ["topic"],
            new DateOnly(2026, 1, 1),
            [.. fields.Select(f => (f, f.Name))]
        );

    /// <summary>The facts by the names a text uses for them.</summary>
    public IReadOnlyDictionary<string, object> ByName()
    {
        var facts = new Dictionary<string, object>
        {
            ["title"] = Title,
            ["number"] = Number,
            ["series"] = Series,
            ["topic"] = Topics.Count > 0 ? Topics[0] : "",
            ["topics"] = string.Join(", ", Topics),
            ["format"] = Format,
            ["due"] = Due?.ToString("d MMMM yyyy", CultureInfo.InvariantCulture) ?? "",
            ["date"] = Now.ToString("d MMMM yyyy", CultureInfo.InvariantCulture),
            ["weekday"] = Now.ToString("dddd", CultureInfo.InvariantCulture),
            ["day"] = Now.Day,
            ["month"] = Now.ToString("MMMM", CultureInfo.InvariantCulture),
            ["year"] = Now.Year,
        };
        foreach (var (field, value) in Fields)
            facts[field.Key] = value;
        return facts;
    }

    /// <summary>All that can be filled in, in the order they are offered.</summary>
    public IReadOnlyList<FillInOffer> Offers()
    {
        var now = ByName();
        return
        [
            .. Known.Select(k => new FillInOffer(k.Name, k.Words, Convert.ToString(now[k.Name], CultureInfo.InvariantCulture)!, k.If)),
            .. Fields.Select(f => new FillInOffer(
                f.Field.Key,
                f.Field.Name.ToLowerInvariant(),
                f.Value,
                $"{f.Field.Name.ToLowerInvariant()} is said"
            )),
        ];
    }

    /// <summary>What a piece is called by a pattern; its title where there is none, where the pattern is wrong, or where its title follows
    /// the pattern already.</summary>
    public string TitleBy(string pattern)
    {
        if (pattern.Length == 0)
            return Title;
        var filled = FillIn.Fill(pattern, ByName());
        var made = filled.Fault is null ? filled.Text.Replace('\n', ' ').Trim() : "";
        // “Letter 41: Letter 41: The bell” is nobody's title.
        var before = pattern.Split("{{", 2)[0].Trim();
        return made.Length == 0 || (before.Length > 2 && Title.StartsWith(before, StringComparison.OrdinalIgnoreCase)) ? Title : made;
    }
}
