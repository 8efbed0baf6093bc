using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A format with its stages.</summary>
/// <param name="Most">How many of its pieces are to stand at a stage at once, where that is said.</param>
/// <param name="Takes">What each of its stages usually takes, in their order.</param>
public sealed record StagesOf(
    string Key,
    string Name,
    IReadOnlyList<string> Stages,
    IReadOnlyDictionary<string, int> Most,
    IReadOnlyList<StageLead> Takes
);

/// <summary>A piece and where it stands.</summary>
/// <param name="Since">When it came there.</param>
/// <param name="Days">Whole days it has stood there.</param>
/// <param name="Hours">Hours of work it still needs.</param>
/// <param name="Worth">What it is worth to go on with: 60 for being begun, and up to 40 more by how far it is.</param>
/// <param name="SeriesName">Empty for none.</param>
public sealed record StandingPiece(
    PieceNumber Number,
    string Title,
    string Format,
    string Stage,
    DateTimeOffset? Since,
    int Days,
    DateOnly? Due,
    OutletNumber? Outlet,
    double Hours,
    double Worth,
    int Words,
    int Aim,
    int OpenSteps,
    string SeriesName,
    IReadOnlyList<string> States,
    IReadOnlyList<TopicMark> Topics,
    string? NextMove,
    int Version
);

/// <summary>All pieces by where they stand.</summary>
/// <param name="Words">All words that hold across stages, those on most pieces first.</param>
/// <param name="JustOut">Pieces that went out in the last thirty days.</param>
public sealed record StagesShown(
    IReadOnlyList<StagesOf> Formats,
    IReadOnlyList<StandingPiece> Pieces,
    IReadOnlyList<string> Words,
    IReadOnlyList<StandingPiece> JustOut,
    DateOnly Today
);

/// <summary>Where all pieces stand.</summary>
public sealed class StageStore(PapersFile papers)
{
    private const int JustOutDays = 30;

    public StagesShown Get() =>
        papers.Read(db =>
        {
            var today = papers.Today;
            var now = papers.Time.GetUtcNow();
            var planned = new Planned(db, today);
            var formats = FormatRows.All(db);
            var series = db.Query<(int Piece, string Name)>(
                    "SELECT sp.piece, s.name FROM series_piece sp JOIN series s ON s.number = sp.series ORDER BY s.number"
                )
                .ToLookup(s => s.Piece, s => s.Name);
            StandingPiece Standing(Piece piece)
            {
                var format = formats.Named(piece.Format);
                var hours = planned.HoursLeft(piece.Format, piece.Stage);
                return new StandingPiece(
                    piece.Number,
                    piece.Title,
                    piece.Format,
                    piece.Stage,
                    piece.StageSince,
                    piece.StageSince is { } since ? Math.Max(0, (int)(now - since).TotalDays) : 0,
                    piece.Due,
                    piece.Outlet,
                    hours,
                    PieceWorth.Of(format, piece.Stage),
                    piece.Words,
                    piece.Aim,
                    piece.OpenSteps,
                    series[piece.Number.Value].FirstOrDefault() ?? "",
                    piece.States,
                    piece.Topics,
                    piece.NextMove?.Text,
                    piece.Version
                );
            }
            var pieces = PieceRows
                .List(db, "p.trashed_at IS NULL AND (p.out_on IS NULL OR p.out_on >= @since)", new { since = today.AddDays(-JustOutDays) })
                .ToLookup(p => p.OutOn is null);
            return new StagesShown(
                [
                    .. formats
                        .All.Where(f => !f.IsPutAway || pieces[true].Any(p => p.Format == f.Key))
                        .Select(f => new StagesOf(f.Key, f.Name, f.Stages, f.Most, planned.Takes(f.Key))),
                ],
                [.. pieces[true].Select(Standing)],
                [
                    .. pieces[true]
                        .SelectMany(p => p.States)
                        .GroupBy(w => w, StringComparer.OrdinalIgnoreCase)
                        .OrderByDescending(g => g.Count())
                        .ThenBy(g => g.Key, StringComparer.OrdinalIgnoreCase)
                        .Select(g => g.First()),
                ],
                [.. pieces[false].Select(Standing)],
                today
            );
        });
}
