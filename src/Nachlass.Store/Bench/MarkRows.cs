using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Bench;

/// <summary>Places to come back to, as rows. Each is kept by its section, so that it moves with it, and goes and comes back with
/// it.</summary>
internal static class MarkRows
{
    public static IReadOnlyList<MarkRow> Of(SqliteConnection db, PieceNumber piece) =>
        db.Query<MarkRow>("SELECT number, section, place FROM piece_mark WHERE piece = @piece ORDER BY number", new { piece }).AsList();

    public static void Add(SqliteConnection db, PieceNumber piece, int? section, int place) =>
        db.Execute(
            "INSERT INTO piece_mark (piece, section, place) VALUES (@piece, @section, @place)",
            new
            {
                piece,
                section,
                place,
            }
        );

    private static void Move(SqliteConnection db, MarkNumber number, int? section, int place) =>
        db.Execute(
            "UPDATE piece_mark SET section = @section, place = @place WHERE number = @number",
            new
            {
                section,
                place,
                number,
            }
        );

    /// <summary>Keeps the marks of a piece where they are while its text changes around them.</summary>
    public static void Follow(SqliteConnection db, PieceNumber piece, Outline before, Outline after)
    {
        foreach (var mark in Of(db, piece))
        {
            var (old, now) = (Raw(before, mark.Section), Raw(after, mark.Section));
            if (old is not null && now is not null && Followed.Place(old, now, mark.Place) is var place && place != mark.Place)
                Move(db, mark.Number, mark.Section, place);
        }
    }

    private static string? Raw(Outline outline, int? section) =>
        section is null ? outline.Lead : outline.Sections.FirstOrDefault(s => s.Number?.Value == section)?.Part.Raw;

    /// <summary>After a section was joined to the one before it.</summary>
    public static void Join(SqliteConnection db, Section first, Section second)
    {
        var begins = first.Part.Raw.TrimEnd().Length + 2;
        var skipped = second.Part.Body.Length - second.Part.Body.TrimStart('\n').Length + second.Part.BodyStart;
        foreach (
            var mark in db.Query<MarkRow>("SELECT number, section, place FROM piece_mark WHERE section = @Number", new { second.Number })
                .ToList()
        )
            Move(db, mark.Number, first.Number!.Value.Value, begins + Math.Max(0, mark.Place - skipped));
    }

    /// <summary>After a section was split: what stood behind the place stands in the new section.</summary>
    /// <param name="had">The marks as they were.</param>
    public static void Split(SqliteConnection db, IReadOnlyList<MarkRow> had, Outline before, Outline after, int at)
    {
        var made = after.Sections.ToList().FindIndex(s => before.Sections.All(b => b.Number != s.Number));
        if (made < 0)
            return;
        var (section, from) = (after.Sections[made], made == 0 ? null : after.Sections[made - 1].Number);
        var start = from is null ? 0 : before.Lead.Length + before.Sections.TakeWhile(s => s.Number != from).Sum(s => s.Part.Raw.Length);
        var cut = at - start;
        foreach (var mark in had.Where(m => m.Section == from?.Value && m.Place >= cut))
            Move(
                db,
                mark.Number,
                section.Number!.Value.Value,
                Math.Min(section.Part.BodyStart + 1 + mark.Place - cut, section.Part.Raw.Length)
            );
    }

    public static IReadOnlyList<MarkImage> Image(SqliteConnection db, PieceNumber piece, IReadOnlyDictionary<int, int> places) =>
        [
            .. Of(db, piece)
                .Where(m => m.Section is null || places.ContainsKey(m.Section.Value))
                .Select(m => new MarkImage(m.Section is { } section ? places[section] : null, m.Place)),
        ];

    public static void Put(SqliteConnection db, PieceNumber piece, IReadOnlyList<MarkImage> marks, IReadOnlyList<int> sections)
    {
        foreach (var mark in marks.Where(m => m.Section is null or >= 1 && (m.Section ?? 1) <= Math.Max(1, sections.Count)))
            Add(db, piece, mark.Section is { } nth ? sections[nth - 1] : null, mark.Place);
    }
}

internal sealed record MarkRow
{
    public MarkNumber Number { get; init; }
    public int? Section { get; init; }
    public int Place { get; init; }
}
