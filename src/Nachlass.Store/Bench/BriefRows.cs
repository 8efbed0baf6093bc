using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Bench;

/// <summary>What is settled before writing, as rows.</summary>
internal static class BriefRows
{
    public static Brief Read(SqliteConnection db, PieceNumber piece) =>
        db.QuerySingleOrDefault<Brief>(
            "SELECT for_whom, know, feel, act AS \"do\", angle, call AS call_to_action, serves, serves_why, cover_line, cover, heap, "
                + "version FROM piece_brief WHERE piece = @piece",
            new { piece }
        ) ?? new Brief();

    /// <summary>Keeps what is settled; nothing at all is no row.</summary>
    public static void Write(SqliteConnection db, PieceNumber piece, Brief brief)
    {
        var kept = Read(db, piece);
        if (kept == brief)
            return;
        db.Execute(
            brief with { Version = 0 } == new Brief()
                ? "DELETE FROM piece_brief WHERE piece = @piece"
                : """
                INSERT INTO piece_brief (piece, for_whom, know, feel, act, angle, call, serves, serves_why, cover_line, cover, heap)
                VALUES (@piece, @ForWhom, @Know, @Feel, @Do, @Angle, @CallToAction, @Serves, @ServesWhy, @CoverLine, @Cover, @Heap)
                ON CONFLICT (piece) DO UPDATE SET for_whom = @ForWhom, know = @Know, feel = @Feel, act = @Do, angle = @Angle,
                    call = @CallToAction, serves = @Serves, serves_why = @ServesWhy, cover_line = @CoverLine, cover = @Cover, heap = @Heap,
                    version = version + 1
                """,
            new
            {
                piece,
                brief.ForWhom,
                brief.Know,
                brief.Feel,
                brief.Do,
                brief.Angle,
                brief.CallToAction,
                brief.Serves,
                brief.ServesWhy,
                brief.CoverLine,
                brief.Cover,
                brief.Heap,
            }
        );
    }
}
