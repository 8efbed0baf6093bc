using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Choosing;

/// <summary>Other weights.</summary>
/// <param name="Version">The version they are based on.</param>
/// <param name="Key">Key of ready weights; the writer's own when null.</param>
/// <param name="Weights">The writer's own; left out with a key.</param>
public sealed record WeighingChange(int? Version, string? Key = null, Weights? Weights = null);

/// <summary>A choice with what became of it.</summary>
/// <param name="Title">What the piece is called now.</param>
/// <param name="Stage">Where it stands; null when it is gone.</param>
/// <param name="Days">Days from its beginning until it went out, or until today.</param>
/// <param name="IsAgainst">Whether it stood below the first three.</param>
public sealed record ChoiceMade(
    DateTimeOffset At,
    SlipNumber? Slip,
    PieceNumber? Piece,
    string Title,
    string? Stage,
    DateOnly? OutOn,
    bool IsTrashed,
    int Days,
    double Rank,
    int Among,
    bool IsAgainst
);

/// <summary>What choices have to say.</summary>
/// <param name="Needed">How many more choices it takes before there is something to learn; 0 when there is.</param>
/// <param name="Offered">Weights that would have done better than the present ones; null when none would.</param>
/// <param name="PresentHeld">In how many choices the present weights would have held the taken one among the first three.</param>
/// <param name="OfferedHeld">The same of the offered ones, each choice judged by weights that the others taught.</param>
public sealed record WhatChoicesSay(
    Record Record,
    int Needed,
    Weights? Offered,
    int PresentHeld,
    int OfferedHeld,
    IReadOnlyList<ChoiceMade> Choices
);

/// <summary>The weights of worth, and what the writer's choices say about them.</summary>
public sealed class WeighingStore(PapersFile papers)
{
    public const int MostShown = 100;

    internal static Weighing Of(SqliteConnection db) =>
        db.QuerySingleOrDefault<(string Key, string? Weights)?>("SELECT key, weights FROM weighing") is { } kept
            ? kept.Key == Weighing.OwnKey && kept.Weights is { } own
                ? Weighing.Own(Read(own))
                : Weighing.Ready.FirstOrDefault(w => w.Key == kept.Key) ?? Weighing.Evenly
            : Weighing.Evenly;

    internal static int VersionOf(SqliteConnection db) => db.ExecuteScalar<int?>("SELECT version FROM weighing") ?? 0;

    private static Weights Read(string kept) => Weights.Of(JsonSerializer.Deserialize<List<double>>(kept)!);

    /// <summary>Weighs differently from now on.</summary>
    /// <exception cref="StaleException">Another tab weighed differently meanwhile.</exception>
    public Done<Weighing> Weigh(WeighingChange weighed, Once once)
    {
        var weighing =
            weighed.Key is { } key && key != Weighing.OwnKey ? Weighing.Named(key)
            : weighed.Weights is { } own ? Weighing.Own(own.Checked())
            : throw new BadInputException("weights", "Say how much each term counts, or name ready weights.");
        return papers.Run(
            $"weighed ideas {weighing.Name}",
            once,
            change =>
            {
                var version = VersionOf(change.Db);
                if (weighed.Version is { } based && based != version)
                    throw new StaleException("How ideas are weighed", new { Version = version, Weighing = Of(change.Db) });
                Put(change.Db, weighing.Key, weighing.Key == Weighing.OwnKey ? weighing.Weights : null);
                return weighing;
            }
        );
    }

    private static void Put(SqliteConnection db, string key, Weights? weights) =>
        db.Execute(
            "INSERT INTO weighing (id, key, weights) VALUES (1, @key, @weights) "
                + "ON CONFLICT (id) DO UPDATE SET key = @key, weights = coalesce(@weights, weights), version = version + 1",
            new { key, weights = weights is null ? null : JsonSerializer.Serialize(weights.ToList()) }
        );

    /// <summary>How the writer chose, and what would have foretold it better.</summary>
    public WhatChoicesSay Choices() =>
        papers.Read(db =>
        {
            var all = ChoiceRows.All(db);
            var chosen = ChoiceRows.ForLearning(db);
            var present = Of(db).Weights;
            var learnt = Learn(db, chosen, present);
            var presentHeld = chosen.Count(choice => Learning.IsHeld(choice, present));
            return new WhatChoicesSay(
                Record.Of(all),
                Math.Max(0, Learning.Enough - chosen.Count),
                learnt is { } offer && offer.Held > presentHeld ? offer.Weights : null,
                presentHeld,
                learnt?.Held ?? 0,
                [.. all.Reverse().Take(MostShown).Select(choice => Made(db, choice))]
            );
        });

    private sealed record Lesson(int Last, int Count, Weights From, Learnt? Learnt);

    private Lesson? lesson;

    /// <summary>What was learnt holds until another choice is made or taken back, or the weights are changed.</summary>
    private Learnt? Learn(SqliteConnection db, IReadOnlyList<Chosen> chosen, Weights present)
    {
        var last = db.ExecuteScalar<int?>("SELECT max(number) FROM choice") ?? 0;
        if (lesson is { } held && (held.Last, held.Count) == (last, chosen.Count) && held.From == present)
            return held.Learnt;
        var learnt = Learning.From(chosen, present);
        lesson = new Lesson(last, chosen.Count, present, learnt);
        return learnt;
    }

    private ChoiceMade Made(SqliteConnection db, ChoiceImage choice)
    {
        var piece = db.QuerySingleOrDefault<(string Title, string Stage, string? OutOn, bool IsTrashed)?>(
            "SELECT title, stage, out_on, trashed_at IS NOT NULL FROM piece WHERE number = @Piece",
            new { choice.Piece }
        );
        var outOn = Mapping.Day(piece?.OutOn);
        var began = DateOnly.FromDateTime(choice.At.ToOffset(papers.Time.LocalTimeZone.GetUtcOffset(choice.At)).DateTime);
        return new ChoiceMade(
            choice.At,
            choice.Slip,
            choice.Piece,
            piece?.Title ?? (choice.Slip is { } slip ? Links.TitleOf(db, Reference.To(slip)) ?? "" : ""),
            piece?.Stage,
            outOn,
            piece?.IsTrashed ?? false,
            Math.Max(0, (outOn ?? papers.Today).DayNumber - began.DayNumber),
            choice.Rank,
            choice.Among,
            choice.Rank > Learning.First
        );
    }

    internal static ChoosingImage Take(SqliteConnection db) =>
        new(Of(db).Key, db.ExecuteScalar<string?>("SELECT weights FROM weighing") is { } kept ? Read(kept) : null, ChoiceRows.All(db));

    internal static void Put(SqliteConnection db, ChoosingImage image)
    {
        if (image.Weighing != Weighing.Evenly.Key || image.Weights is not null)
            Put(db, image.Weighing, image.Weights);
        foreach (var choice in image.Choices)
            ChoiceRows.Put(db, choice);
    }
}
