using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

internal static class MaterialRows
{
    /// <summary>Ties a slip or source to a piece, or moves it to another section of it.</summary>
    public static void Add(Change change, PieceNumber piece, Reference thing, SectionNumber? section)
    {
        var column = Column(thing);
        if (change.Db.ExecuteScalar<int>($"SELECT count(*) FROM {column} WHERE number = @Number", new { thing.Number }) == 0)
            throw new BadInputException(column, $"There is no {thing}.");
        if (
            section is { } s
            && change.Db.ExecuteScalar<int>(
                "SELECT count(*) FROM section WHERE number = @s AND piece = @piece AND gone_at IS NULL",
                new { s, piece }
            ) == 0
        )
            throw new BadInputException("section", $"There is no section {s} in P {piece}.");
        change.Db.Execute(
            $"""
            INSERT INTO material (piece, {column}, section, position)
            VALUES (@piece, @Number, @section, (SELECT coalesce(max(position), 0) + 1 FROM material WHERE piece = @piece))
            ON CONFLICT (piece, {column}) DO UPDATE SET section = excluded.section, was_in = NULL
            """,
            new
            {
                piece,
                thing.Number,
                section,
            }
        );
    }

    /// <summary>Says in which gone section material lay, so that it is placed again when that section comes back.</summary>
    public static void WasIn(SqliteConnection db, PieceNumber piece, Reference thing, SectionNumber section) =>
        db.Execute(
            $"UPDATE material SET was_in = @section WHERE piece = @piece AND {Column(thing)} = @Number",
            new
            {
                section,
                piece,
                thing.Number,
            }
        );

    /// <summary>What is put to use has been decided about.</summary>
    public static void Settle(Change change, SlipNumber slip) =>
        change.Db.Execute(
            "UPDATE slip SET state = 'kept', settled_at = @Now, held_until = NULL, held_occasion = NULL, "
                + "held_sources = NULL, held_look_up = NULL, "
                + "version = version + 1 WHERE number = @slip AND state IN ('waiting', 'held')",
            new { slip, change.Now }
        );

    public static bool Remove(SqliteConnection db, PieceNumber piece, Reference thing) =>
        db.Execute($"DELETE FROM material WHERE piece = @piece AND {Column(thing)} = @Number", new { piece, thing.Number }) > 0;

    private static string Column(Reference thing) =>
        thing.Kind switch
        {
            ThingKind.Slip => "slip",
            ThingKind.Source => "source",
            _ => throw new BadInputException("kind", "Material is a slip or a source."),
        };
}
