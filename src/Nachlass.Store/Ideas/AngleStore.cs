using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas;

/// <summary>All angles, and what each kind of spark lets them fill in.</summary>
/// <param name="Places">By kind, the names that can stand in a wording.</param>
/// <param name="AreReady">Whether they are the ones papers begin with.</param>
/// <param name="Version">To be given back with a change.</param>
public sealed record AnglesShown(
    IReadOnlyList<Angle> Angles,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Places,
    bool AreReady,
    int Version
);

/// <summary>Angles in place of all there are; none for the ready ones.</summary>
public sealed record AnglesChange(IReadOnlyList<Angle>? Angles, int? Version);

/// <summary>Angles as rows.</summary>
internal static class AngleRows
{
    /// <summary>The writer's own, in their order; null while the ready ones hold.</summary>
    public static IReadOnlyList<Angle>? Own(SqliteConnection db) =>
        db.Query<(string Shape, SparkKind For, string Wording, bool IsOff)>(
                "SELECT shape, spark, wording, is_off FROM angle ORDER BY number"
            )
            .Select(a => new Angle(a.Shape, a.For, a.Wording, a.IsOff))
            .ToList()
            is { Count: > 0 } own
            ? own
            : null;

    public static void PutAll(SqliteConnection db, IEnumerable<Angle> angles)
    {
        db.Execute("DELETE FROM angle WHERE true");
        foreach (var angle in angles)
            db.Execute(
                "INSERT INTO angle (shape, spark, wording, is_off) VALUES (@Shape, @spark, @Wording, @IsOff)",
                new
                {
                    angle.Shape,
                    spark = angle.For.Kept(),
                    angle.Wording,
                    angle.IsOff,
                }
            );
    }
}

/// <summary>The stock of angles that ideas are laid with.</summary>
public sealed class AngleStore(PapersFile papers)
{
    public const int Most = 200;

    public AnglesShown Get() => papers.Read(Shown);

    private static AnglesShown Shown(SqliteConnection db)
    {
        var own = AngleRows.Own(db);
        return new AnglesShown(
            own ?? Angles.Ready,
            Enum.GetValues<SparkKind>().Where(kind => Angles.Places(kind).Count > 0).ToDictionary(kind => kind.Kept(), Angles.Places),
            own is null,
            // Rows are numbered once, so that each change has a number of its own.
            db.ExecuteScalar<int>("SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'angle'), 0)")
        );
    }

    /// <summary>Puts angles in place of all there are.</summary>
    /// <exception cref="BadInputException">One can't be laid; says which and why.</exception>
    /// <exception cref="StaleException">They were changed elsewhere meanwhile.</exception>
    public Done<AnglesShown> Put(AnglesChange change, Once once)
    {
        var based = Check.Version(change.Version);
        var angles = (change.Angles ?? []).Select(Checked).ToList();
        if (angles.Count > Most)
            throw new BadInputException("angles", $"There can be {Most} angles.");
        if (angles.Count > 0 && angles.TrueForAll(a => a.IsOff))
            throw new BadInputException("angles", "With all of them off there would be no ideas.");
        if (angles.CountBy(a => (a.For, a.Shape.ToLowerInvariant())).FirstOrDefault(a => a.Value > 1) is { Value: > 1 } twice)
            throw new BadInputException("angles", $"“{twice.Key.Item2}” is there twice.");
        return papers.Run(
            "changed the angles",
            once,
            running =>
            {
                var before = Shown(running.Db);
                if (before.Version != based)
                    throw new StaleException("The angles", before);
                AngleRows.PutAll(running.Db, angles);
                running.What = angles.Count == 0 ? "brought the ready angles back" : "changed the angles";
                return Shown(running.Db);
            }
        );
    }

    private static Angle Checked(Angle angle, int at)
    {
        var kept = angle with
        {
            Shape = Check.Text($"angles[{at}].shape", angle.Shape, Angle.LongestShape, "name of an angle"),
            Wording = Check.Text($"angles[{at}].wording", angle.Wording, Angle.LongestWording, "wording"),
        };
        var fault = Angles.Fault(kept);
        return fault is null ? kept : throw new BadInputException($"angles[{at}].wording", $"“{kept.Shape}”: {fault}");
    }
}
