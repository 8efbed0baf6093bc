using Dapper;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Text;

namespace Nachlass.Store.Papers;

/// <summary>
/// What holds after every command, however it came about: by hand, by an undo in any order, by papers coming in. Looked at inside the
/// command, over the rows it touched; a command that would break one of these is taken back whole.
/// </summary>
internal static class Invariants
{
    /// <exception cref="BadInputException">What was asked for would break one of them.</exception>
    /// <exception cref="ClashException">What was to be brought back would.</exception>
    public static void Check(Change change)
    {
        var touched = change
            .Db.Query<(string Table, int Row)>(
                "SELECT DISTINCT tbl, row FROM undo_log WHERE command = @command AND tbl IN ('topic', 'slip')",
                new { command = change.Number }
            )
            .ToLookup(t => t.Table, t => t.Row);
        if (touched["topic"].Any())
            NoTopicIsItsOwnAncestor(change);
        if (touched["slip"].Any())
        {
            NoSlipIsMergedIntoItself(change);
            NoSlipStandsInsideItself(change);
        }
    }

    private static void NoTopicIsItsOwnAncestor(Change change)
    {
        var all = change
            .Db.Query<(int Number, string Name, int? Wider, int? Into)>("SELECT number, name, wider, merged_into FROM topic")
            .ToDictionary(t => t.Number);
        if (Round(all.Keys, number => all[number].Wider) is { } own)
            throw Broken(change, "wider", $"The topic “{all[own].Name}” would come to stand under itself.");
        if (Round(all.Keys, number => all[number].Into) is { } merged)
            throw Broken(change, "into", $"The topic “{all[merged].Name}” would be merged into itself.");
    }

    private static void NoSlipIsMergedIntoItself(Change change)
    {
        var merged = change
            .Db.Query<(int Number, int Into)>(
                """
                WITH RECURSIVE way (number, into_number) AS (
                    SELECT number, merged_into FROM slip WHERE merged_into IS NOT NULL AND number IN (
                        SELECT row FROM undo_log WHERE command = @command AND tbl = 'slip')
                    UNION SELECT s.number, s.merged_into FROM way JOIN slip s ON s.number = way.into_number WHERE s.merged_into IS NOT NULL)
                SELECT number, into_number FROM way
                """,
                new { command = change.Number }
            )
            .ToDictionary(m => m.Number, m => m.Into);
        if (Round(merged.Keys, number => merged.TryGetValue(number, out var into) ? into : null) is { } own)
            throw Broken(change, "into", $"Slip {own} would be merged into itself.");
    }

    private static void NoSlipStandsInsideItself(Change change)
    {
        var showing = change
            .Db.Query<(int Number, string Text)>(
                "SELECT number, text FROM slip WHERE instr(text, '[[') > 0 AND number IN "
                    + "(SELECT row FROM undo_log WHERE command = @command AND tbl = 'slip')",
                new { command = change.Number }
            )
            .ToList();
        foreach (var (number, text) in showing)
            if (
                Inclusions.In(text).Count > 0
                && Inclusions.Circle(SlipNumber.Of(number), text, other => Links.TextOf(change.Db, other)) is { } way
            )
                throw Broken(
                    change,
                    "text",
                    $"Slip {number} would stand inside itself: {string.Join(" shows ", way.Select(n => $"slip {n}"))}. "
                        + "Put the reference inside a sentence to link without showing it."
                );
    }

    /// <summary>A number from which the way leads back to itself; null when there is none.</summary>
    private static int? Round(IEnumerable<int> numbers, Func<int, int?> next)
    {
        var safe = new HashSet<int>();
        foreach (var number in numbers)
        {
            var way = new HashSet<int>();
            for (int? at = number; at is { } here && !safe.Contains(here); at = next(here))
                if (!way.Add(here))
                    return here;
            safe.UnionWith(way);
        }
        return null;
    }

    private static RefusedException Broken(Change change, string field, string reason) =>
        change.IsAsItWas ? new ClashException(reason) : new BadInputException(field, reason);
}
