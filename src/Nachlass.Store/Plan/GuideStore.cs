using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A line of a guide as it stands today.</summary>
public sealed record GuideShown(GuideLineNumber Number, GuideEvery Every, string Text, bool IsDone, int Version);

/// <summary>A line to be made, or a change to one; what is not set stays.</summary>
public sealed record GuideChange
{
    public int? Version { get; init; }
    public GuideEvery? Every { get; init; }
    public string? Text { get; init; }
    public bool? Done { get; init; }
}

/// <summary>What is gone through every day, week and month.</summary>
public sealed class GuideStore(PapersFile papers)
{
    public IReadOnlyList<GuideShown> List() => papers.Read(db => Shown(db, papers.Today));

    public Done<IReadOnlyList<GuideShown>> Add(GuideChange made, Once once)
    {
        var text = Check.Text("text", made.Text, GuideLine.LongestText).ReplaceLineEndings(" ");
        var every = made.Every ?? throw new BadInputException("every", "Say whether it is for the day, week or month.");
        return papers.Run(
            $"added “{text}” to the guide",
            once,
            change =>
            {
                change.Db.Execute(
                    "INSERT INTO guide_line (every, position, text) "
                        + "VALUES (@every, (SELECT coalesce(max(position), 0) + 1 FROM guide_line), @text)",
                    new { every = every.Kept(), text }
                );
                return Shown(change.Db, change.Today);
            }
        );
    }

    public Done<IReadOnlyList<GuideShown>> Edit(GuideLineNumber number, GuideChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var text = edit.Text is null ? null : Check.Text("text", edit.Text, GuideLine.LongestText).ReplaceLineEndings(" ");
        return papers.Run(
            "changed the guide",
            once,
            change =>
            {
                var line = Get(change.Db, number);
                if (line.Version != based)
                    throw new StaleException("This line of the guide", line);
                change.Db.Execute(
                    "UPDATE guide_line SET text = @text, every = @every, done_on = @doneOn, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        text = text ?? line.Text,
                        every = (edit.Every ?? line.Every).Kept(),
                        doneOn = edit.Done switch
                        {
                            true => change.Today,
                            false => null,
                            null => line.DoneOn,
                        },
                    }
                );
                change.What = $"{(edit.Done is null ? "changed" : edit.Done.Value ? "did" : "took up again")} “{text ?? line.Text}”";
                return Shown(change.Db, change.Today);
            }
        );
    }

    /// <summary>Puts a line before another one; behind all when that is null.</summary>
    public Done<IReadOnlyList<GuideShown>> Place(GuideLineNumber number, GuideLineNumber? before, Once once) =>
        papers.Run(
            "moved a line of the guide",
            once,
            change =>
            {
                Get(change.Db, number);
                if (before is { } other)
                    Get(change.Db, other);
                var order = All(change.Db).Select(l => l.Number).Where(n => n != number).ToList();
                var at = before is { } b ? order.IndexOf(b) : order.Count;
                order.Insert(at < 0 ? order.Count : at, number);
                for (var i = 0; i < order.Count; i++)
                    change.Db.Execute(
                        "UPDATE guide_line SET position = @at WHERE number = @line AND position <> @at",
                        new { at = i + 1, line = order[i] }
                    );
                return Shown(change.Db, change.Today);
            }
        );

    public Done<IReadOnlyList<GuideShown>> Remove(GuideLineNumber number, Once once) =>
        papers.Run(
            "took a line out of the guide",
            once,
            change =>
            {
                change.What = $"took “{Get(change.Db, number).Text}” out of the guide";
                change.Db.Execute("DELETE FROM guide_line WHERE number = @number", new { number });
                return Shown(change.Db, change.Today);
            }
        );

    private static GuideLine Get(SqliteConnection db, GuideLineNumber number) =>
        All(db).FirstOrDefault(l => l.Number == number) ?? throw new NotThereException($"line {number} of the guide");

    internal static IReadOnlyList<GuideLine> All(SqliteConnection db) =>
        [
            .. db.Query<(GuideLineNumber Number, string Every, string Text, DateOnly? DoneOn, int Version)>(
                    "SELECT number, every, text, done_on, version FROM guide_line ORDER BY position, number"
                )
                .Select(l => new GuideLine(l.Number, Enum.Parse<GuideEvery>(l.Every, true), l.Text, l.DoneOn, l.Version)),
        ];

    private static IReadOnlyList<GuideShown> Shown(SqliteConnection db, DateOnly today) =>
        [.. All(db).OrderBy(l => l.Every).Select(l => new GuideShown(l.Number, l.Every, l.Text, l.IsDone(today), l.Version))];

    /// <summary>Puts lines in, in order.</summary>
    internal static void Put(SqliteConnection db, IReadOnlyList<GuideLine> lines)
    {
        foreach (var (line, position) in lines.Select((l, i) => (l, i + 1)))
            db.Execute(
                "INSERT INTO guide_line (number, every, position, text, done_on) VALUES (@Number, @every, @position, @Text, @DoneOn)",
                new
                {
                    line.Number,
                    every = line.Every.Kept(),
                    position,
                    line.Text,
                    line.DoneOn,
                }
            );
    }
}
