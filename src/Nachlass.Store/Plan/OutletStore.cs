using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A change to an outlet; what is not set stays.</summary>
public sealed record OutletChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }

    /// <summary>One to three letters; empty to have them made of the name.</summary>
    public string? Mark { get; init; }

    public TopicColour? Colour { get; init; }

    /// <summary>Keys of the formats it takes; none: all of them.</summary>
    public IReadOnlyList<string>? Formats { get; init; }

    /// <summary>How much one text there may have.</summary>
    public Maybe<int?> LimitMost { get; init; }

    public MeasuredIn? LimitIn { get; init; }
    public Maybe<DayOfWeek?> BestDay { get; init; }

    /// <summary>0 to 23.</summary>
    public Maybe<int?> BestHour { get; init; }

    public string? Address { get; init; }
    public IReadOnlyList<DescriptionBlock>? Blocks { get; init; }
    public bool? IsPutAway { get; init; }
}

/// <summary>Where pieces go out.</summary>
public sealed class OutletStore(PapersFile papers)
{
    /// <summary>All of them, those put away last.</summary>
    public IReadOnlyList<Outlet> List() => papers.Read(OutletRows.All);

    public Outlet Get(OutletNumber number) => papers.Read(db => OutletRows.Get(db, number));

    public Done<Outlet> Add(OutletChange made, Once once)
    {
        var outlet = Changed(new Outlet(), made).Checked();
        return papers.Run(
            $"made the outlet “{outlet.Name}”",
            once,
            change =>
            {
                Check(change.Db, outlet);
                return OutletRows.Put(change.Db, outlet);
            }
        );
    }

    public Done<Outlet> Edit(OutletNumber number, OutletChange edit, Once once)
    {
        var based = Core.Papers.Check.Version(edit.Version);
        return papers.Run(
            "changed an outlet",
            once,
            change =>
            {
                var outlet = OutletRows.Get(change.Db, number);
                if (outlet.Version != based)
                    throw new StaleException($"the outlet “{outlet.Name}”", outlet);
                var made = Changed(outlet, edit).Checked();
                Check(change.Db, made);
                change.What = edit.IsPutAway switch
                {
                    true => $"put the outlet “{made.Name}” away",
                    false => $"took the outlet “{made.Name}” out again",
                    _ => $"changed the outlet “{made.Name}”",
                };
                return OutletRows.Put(change.Db, made);
            }
        );
    }

    /// <summary>Takes an outlet away with its cadences; pieces that were to go out on it have none.</summary>
    /// <exception cref="ClashException">Something went out there already.</exception>
    public Done<Outlet> Remove(OutletNumber number, Once once) =>
        papers.Run(
            "took an outlet away",
            once,
            change =>
            {
                var outlet = OutletRows.Get(change.Db, number);
                if (change.Db.ExecuteScalar<int>("SELECT count(*) FROM release WHERE outlet = @number", new { number }) is > 0 and var sent)
                    throw new ClashException(
                        $"{(sent == 1 ? "One release" : $"{sent} releases")} went out on “{outlet.Name}”, which has to stay for that. "
                            + "Put it away instead: nothing is planned for it any more."
                    );
                if (change.Db.ExecuteScalar<int>("SELECT count(*) FROM sending WHERE outlet = @number", new { number }) > 0)
                    throw new ClashException($"Something waits to go out on “{outlet.Name}”; take it out of the queue first.");
                if (
                    change.Db.ExecuteScalar<int>("SELECT count(*) FROM reader WHERE outlet = @number", new { number })
                    is > 0
                        and var readers
                )
                    throw new ClashException(
                        $"“{outlet.Name}” has {(readers == 1 ? "a reader" : $"{readers} readers")} on its list. Put it away "
                            + "instead, or take them off the list first."
                    );
                change.Db.Execute("DELETE FROM never_there WHERE outlet = @number", new { number });
                change.Db.Execute("DELETE FROM outlet_cadence WHERE outlet = @number", new { number });
                change.Db.Execute("UPDATE piece SET outlet = NULL, version = version + 1 WHERE outlet = @number", new { number });
                change.Db.Execute("DELETE FROM outlet WHERE number = @number", new { number });
                change.What = $"took the outlet “{outlet.Name}” away";
                return outlet;
            }
        );

    private static Outlet Changed(Outlet outlet, OutletChange edit) =>
        outlet with
        {
            Name = edit.Name ?? outlet.Name,
            Mark = edit.Mark ?? outlet.Mark,
            Colour = edit.Colour ?? outlet.Colour,
            Formats = edit.Formats ?? outlet.Formats,
            Limit = edit.LimitMost.Or(outlet.Limit?.Most) is { } most
                ? new Limit(most, edit.LimitIn ?? outlet.Limit?.In ?? MeasuredIn.Characters)
                : null,
            BestDay = edit.BestDay.Or(outlet.BestDay),
            BestHour = edit.BestHour.Or(outlet.BestHour),
            Address = edit.Address ?? outlet.Address,
            Blocks = edit.Blocks ?? outlet.Blocks,
            IsPutAway = edit.IsPutAway ?? outlet.IsPutAway,
        };

    private static void Check(SqliteConnection db, Outlet outlet)
    {
        var formats = FormatRows.All(db);
        foreach (var key in outlet.Formats)
            if (formats.All.All(f => f.Key != key))
                throw new BadInputException("formats", $"There is no format “{key}”.");
        if (OutletRows.All(db).Any(o => o.Number != outlet.Number && o.Name.Equals(outlet.Name, StringComparison.OrdinalIgnoreCase)))
            throw new BadInputException("name", $"There is an outlet “{outlet.Name}” already.");
    }
}

internal static class OutletRows
{
    public static IReadOnlyList<Outlet> All(SqliteConnection db) =>
        [
            .. db.Query<(int Number, string Definition, bool PutAway, int Version)>(
                    "SELECT number, definition, put_away, version FROM outlet ORDER BY put_away, number"
                )
                .Select(row =>
                    JsonSerializer.Deserialize<Outlet>(row.Definition, Answers.Json)! with
                    {
                        Number = OutletNumber.Of(row.Number),
                        IsPutAway = row.PutAway,
                        Version = row.Version,
                    }
                ),
        ];

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Outlet Get(SqliteConnection db, OutletNumber number) =>
        All(db).FirstOrDefault(o => o.Number == number) ?? throw new NotThereException($"outlet {number}");

    /// <summary>Writes an outlet, a new one where it has no number.</summary>
    public static Outlet Put(SqliteConnection db, Outlet outlet)
    {
        var number = db.ExecuteScalar<int>(
            """
            INSERT INTO outlet (number, definition, put_away) VALUES (@number, @definition, @IsPutAway)
            ON CONFLICT (number) DO UPDATE SET definition = @definition, put_away = @IsPutAway, version = version + 1 RETURNING number
            """,
            new
            {
                number = outlet.Number.Value == 0 ? (int?)null : outlet.Number.Value,
                definition = Written(outlet),
                outlet.IsPutAway,
            }
        );
        return Get(db, OutletNumber.Of(number));
    }

    /// <summary>What stands in columns of its own is no part of it.</summary>
    private static string Written(Outlet outlet)
    {
        var node = JsonSerializer.SerializeToNode(outlet with { Number = OutletNumber.Of(1) }, Answers.Json)!.AsObject();
        foreach (var name in (string[])["number", "isPutAway", "version"])
            node.Remove(name);
        return node.ToJsonString();
    }
}
