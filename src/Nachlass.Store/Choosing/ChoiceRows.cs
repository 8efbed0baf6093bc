using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Choosing;

/// <summary>What stood there when pieces were begun.</summary>
internal static class ChoiceRows
{
    /// <summary>How many of the latest choices are learnt from.</summary>
    public const int Learnt = 200;

    /// <summary>The terms of the taken one, then of the others.</summary>
    public static string Written(IEnumerable<TermValues> stood) =>
        JsonSerializer.Serialize(stood.Select(values => values.ToList().Select(v => v is { } said ? Math.Round(said, 3) : (double?)null)));

    /// <summary>Remembers a choice, inside the command that begins the piece, so that taking that back forgets it.</summary>
    public static void Remember(Change change, Stood? stood, PieceNumber piece)
    {
        if (stood is null)
            return;
        Put(
            change.Db,
            new ChoiceImage(
                change.Now,
                stood.Key > 0 ? SlipNumber.Of(stood.Key) : null,
                stood.Key < 0 ? UsableNumber.Of(-stood.Key) : null,
                piece,
                stood.Rank,
                stood.PullRank,
                stood.Among,
                stood.Terms
            )
        );
    }

    public static void Put(SqliteConnection db, ChoiceImage choice) =>
        db.Execute(
            "INSERT INTO choice (at, slip, usable, piece, rank, pull_rank, among, stood) "
                + "VALUES (@At, @Slip, @Usable, @Piece, @Rank, @PullRank, @Among, @Stood)",
            choice
        );

    public static IReadOnlyList<ChoiceImage> All(SqliteConnection db) =>
        [
            .. db.Query<ChoiceRow>("SELECT at, slip, usable, piece, rank, pull_rank, among, stood FROM choice ORDER BY number")
                .Select(row => new ChoiceImage(row.At, row.Slip, row.Usable, row.Piece, row.Rank, row.PullRank, row.Among, row.Stood)),
        ];

    /// <summary>The latest choices, as learning takes them.</summary>
    public static IReadOnlyList<Chosen> ForLearning(SqliteConnection db) =>
        [
            .. db.Query<string>($"SELECT stood FROM (SELECT number, stood FROM choice ORDER BY number DESC LIMIT {Learnt}) ORDER BY number")
                .Select(stood => JsonSerializer.Deserialize<List<List<double?>>>(stood)!)
                .Where(stood => stood.Count > 1)
                .Select(stood => new Chosen([.. stood.Select(TermValues.Of)], 0)),
        ];

    private sealed record ChoiceRow
    {
        public DateTimeOffset At { get; init; }
        public SlipNumber? Slip { get; init; }
        public UsableNumber? Usable { get; init; }
        public PieceNumber? Piece { get; init; }
        public double Rank { get; init; }
        public double PullRank { get; init; }
        public int Among { get; init; }
        public string Stood { get; init; } = "";
    }
}
