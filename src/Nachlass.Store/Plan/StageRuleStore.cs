using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Plan;

/// <summary>A rule of a stage to be made, or a change to one; what is not set stays.</summary>
public sealed record StageRuleChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }

    /// <summary>Key of the format it is for; nothing for all that have the stage.</summary>
    public Maybe<string?> Format { get; init; }

    public string? Stage { get; init; }
    public string? Query { get; init; }
    public IReadOnlyList<StageAct>? Acts { get; init; }
    public bool? IsOn { get; init; }
}

/// <summary>What a rule would have done when a piece came to its stage.</summary>
/// <param name="On">The day it came there.</param>
public sealed record StageRuleTrial(PieceNumber Piece, string Title, DateOnly On, IReadOnlyList<string> Would);

/// <summary>What a rule would have done in the past.</summary>
/// <param name="Looked">How many pieces came to its stage.</param>
public sealed record StageRuleTried(int Looked, IReadOnlyList<StageRuleTrial> Met);

/// <summary>A rule, and the pieces for which it has followed.</summary>
public sealed record StageRuleShown(StageRule Rule, IReadOnlyList<PieceNumber> Ran);

/// <summary>
/// Keeps rules of stages and runs them: at the end of each command, in the same step, over the pieces that came to a stage in it. Each
/// follows once for a piece, even if it comes to the stage again. Rules do not set off rules.
/// </summary>
public sealed class StageRuleStore
{
    /// <summary>How many arrivals a rule is tried on.</summary>
    public const int TriedOn = 100;

    private readonly PapersFile papers;
    private volatile bool anyOn;

    public StageRuleStore(PapersFile papers)
    {
        this.papers = papers;
        papers.Ending += Run;
        papers.Written += done =>
        {
            if (done.Rows.Any(r => r.Table == "stage_rule"))
                Look();
        };
        Look();
    }

    public IReadOnlyList<StageRuleShown> List() => papers.Read(Shown);

    private static IReadOnlyList<StageRuleShown> Shown(SqliteConnection db)
    {
        var ran = db.Query<(int Rule, PieceNumber Piece)>("SELECT rule, piece FROM stage_rule_ran ORDER BY id")
            .ToLookup(r => r.Rule, r => r.Piece);
        return [.. All(db).Select(rule => new StageRuleShown(rule, [.. ran[rule.Number.Value]]))];
    }

    /// <summary>What a rule would have done at the last hundred arrivals at its stage, without doing it.</summary>
    public StageRuleTried Try(StageRuleChange made) =>
        papers.Read(db =>
        {
            var formats = FormatRows.All(db);
            var rule = Changed(Blank, made with { Name = "tried" }).Checked(formats);
            var came = db.Query<(int Piece, string Title, DateTimeOffset At)>(
                    """
                    SELECT e.piece, p.title, min(e.at) FROM stage_entry e JOIN piece p ON p.number = e.piece
                    WHERE e.stage = @Stage COLLATE NOCASE AND p.trashed_at IS NULL AND (@Format IS NULL OR p.format = @Format)
                    GROUP BY e.piece ORDER BY min(e.at) DESC LIMIT @TriedOn
                    """,
                    new
                    {
                        rule.Stage,
                        rule.Format,
                        TriedOn,
                    }
                )
                .ToList();
            var met = Meeting(db, rule, [.. came.Select(c => c.Piece)]);
            return new StageRuleTried(
                came.Count,
                [
                    .. came.Where(c => met.Contains(c.Piece))
                        .Select(c => new StageRuleTrial(
                            PieceNumber.Of(c.Piece),
                            c.Title,
                            DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(c.At, papers.Time.LocalTimeZone).DateTime),
                            rule.Would(formats)
                        )),
                ]
            );
        });

    public Done<StageRule> Add(StageRuleChange made, Once once) =>
        papers.Run(
            "made a rule of a stage",
            once,
            change =>
            {
                var rule = Changed(Blank, made).Checked(FormatRows.All(change.Db));
                change.What = $"made the rule “{rule.Name}”{(rule.IsOn ? " and switched it on" : "")}";
                return Get(change.Db, Put(change.Db, rule));
            }
        );

    public Done<StageRule> Edit(StageRuleNumber number, StageRuleChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a rule of a stage",
            once,
            change =>
            {
                var before = Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The rule “{before.Name}”", before);
                var rule = Changed(before, edit).Checked(FormatRows.All(change.Db));
                change.Db.Execute(
                    "UPDATE stage_rule SET name = @Name, format = @Format, stage = @Stage, query = @Query, acts = @acts, is_on = @IsOn, "
                        + "version = version + 1 WHERE number = @Number",
                    Row(rule)
                );
                change.What =
                    before.IsOn == rule.IsOn
                        ? $"changed the rule “{rule.Name}”"
                        : $"switched the rule “{rule.Name}” {(rule.IsOn ? "on" : "off")}";
                return Get(change.Db, number);
            }
        );
    }

    public Done<IReadOnlyList<StageRuleShown>> Remove(StageRuleNumber number, Once once) =>
        papers.Run(
            "took a rule of a stage away",
            once,
            change =>
            {
                change.What = $"took the rule “{Get(change.Db, number).Name}” away";
                change.Db.Execute(
                    "DELETE FROM stage_rule_ran WHERE rule = @number; DELETE FROM stage_rule WHERE number = @number",
                    new { number }
                );
                return Shown(change.Db);
            }
        );

    private void Run(Change change)
    {
        if (!anyOn)
            return;
        // The log of the command knows which pieces came to a stage in it.
        var came = change
            .Db.Query<(int Piece, string Stage, string Format)>(
                """
                SELECT e.piece, e.stage, p.format FROM stage_entry e JOIN piece p ON p.number = e.piece AND p.stage = e.stage
                WHERE p.trashed_at IS NULL AND e.id IN (
                    SELECT row FROM undo_log WHERE command = @Number AND tbl = 'stage_entry' AND inverse LIKE 'DELETE %')
                ORDER BY e.id
                """,
                new { change.Number }
            )
            .ToList();
        if (came.Count == 0)
            return;
        var said = new List<string>();
        foreach (var rule in All(change.Db).Where(r => r.IsOn))
        {
            var there = came.Where(c => c.Stage == rule.Stage && (rule.Format ?? c.Format) == c.Format).Select(c => c.Piece).ToList();
            var before = change.What;
            foreach (var piece in Meeting(change.Db, rule, there).Order().Select(PieceNumber.Of))
            {
                var first = change.Db.Execute(
                    "INSERT OR IGNORE INTO stage_rule_ran (rule, piece) VALUES (@Number, @piece)",
                    new { rule.Number, piece }
                );
                if (first == 0)
                    continue;
                foreach (var act in rule.Acts)
                    Follow(change, act, PieceRows.Get(change.Db, piece));
                said.Add($"the rule “{rule.Name}” followed for P {piece}");
            }
            change.What = before;
        }
        if (said.Count == 0)
            return;
        change.Followed = string.Join("; ", said.Prepend(change.Followed).Where(s => s.Length > 0));
        change.What += "; " + string.Join("; ", said);
    }

    private void Follow(Change change, StageAct act, Piece piece)
    {
        var format = FormatRows.Named(change.Db, piece.Format);
        string Filled(string text) =>
            FillIn.Fill(text, PieceRows.FactsOf(change.Now.DateTime, piece, format).ByName()) is { Fault: null } filled
                ? filled.Text
                : text;
        switch (act)
        {
            case StageAct.LaySteps lay:
                foreach (var step in lay.Steps!)
                    StepRows.Add(change.Db, piece.Number, piece.Stage, Filled(step), "", "", "", null, null);
                break;
            case StageAct.MakeMove move:
                MoveRows.Add(
                    change,
                    Filled(move.Text!),
                    move.Days is { } days ? change.Today.AddDays(days) : null,
                    piece.Number,
                    change.Today
                );
                break;
            case StageAct.BeginSideText side:
                var key = format.SideTexts.FirstOrDefault(s => s.Name.Equals(side.Name, StringComparison.OrdinalIgnoreCase))?.Key;
                if (key is not null && SideTextRows.Find(change.Db, piece.Number, key) is null)
                    SideTextRows.Put(change.Db, piece.Number, key, Filled(side.Text!));
                break;
            case StageAct.MakeFolders folders:
                // On the disk, beside the papers: what a writer keeps in them no step back takes away.
                PieceFolders.Make(papers, piece.Number, folders.Names!);
                break;
            case StageAct.StartAnother another when FormatRows.All(change.Db).Find(another.Format) is not null:
                PieceStore.Begin(
                    change,
                    new NewPiece(
                        piece.Title,
                        another.Format,
                        Topics: [.. piece.Topics.Select(t => t.Name)],
                        Slips:
                        [
                            .. change.Db.Query<SlipNumber>(
                                "SELECT slip FROM material WHERE piece = @Number AND slip IS NOT NULL ORDER BY position",
                                new { piece.Number }
                            ),
                        ],
                        From: piece.Number
                    ),
                    null
                );
                break;
        }
    }

    private HashSet<int> Meeting(SqliteConnection db, StageRule rule, List<int> among)
    {
        if (among.Count == 0 || rule.Query.Length == 0)
            return [.. among];
        var asked = new Asked(db, papers, Asked.Understand(rule.Query));
        asked.Arguments.AddDynamicParams(new { among = Mapping.List(among) });
        return
        [
            .. db.Query<int>(
                $"SELECT s.number FROM piece s WHERE s.number IN (SELECT value FROM json_each(@among)) AND {asked.Whole(ThingKind.Piece)}",
                asked.Arguments
            ),
        ];
    }

    private static readonly StageRule Blank = new()
    {
        Name = "",
        Stage = "",
        Acts = [],
    };

    private static StageRule Changed(StageRule rule, StageRuleChange edit) =>
        rule with
        {
            Name = edit.Name ?? rule.Name,
            Format = edit.Format.Or(rule.Format),
            Stage = edit.Stage ?? rule.Stage,
            Query = edit.Query ?? rule.Query,
            Acts = edit.Acts ?? rule.Acts,
            IsOn = edit.IsOn ?? rule.IsOn,
        };

    internal static StageRuleNumber Put(SqliteConnection db, StageRule rule) =>
        StageRuleNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO stage_rule (name, format, stage, query, acts, is_on) VALUES (@Name, @Format, @Stage, @Query, @acts, @IsOn) "
                    + "RETURNING number",
                Row(rule)
            )
        );

    /// <summary>Puts one with the pieces for which it has followed.</summary>
    internal static void Put(SqliteConnection db, StageRuleImage image)
    {
        var number = Put(db, image.Rule);
        foreach (var piece in image.Ran)
            db.Execute(
                "INSERT INTO stage_rule_ran (rule, piece) SELECT @number, @piece WHERE @piece IN (SELECT number FROM piece)",
                new { number, piece }
            );
    }

    internal static IReadOnlyList<StageRuleImage> Image(SqliteConnection db) =>
        [.. Shown(db).Select(s => new StageRuleImage(s.Rule, [.. s.Ran.Select(p => p.Value)]))];

    private static object Row(StageRule rule) =>
        new
        {
            rule.Number,
            rule.Name,
            rule.Format,
            rule.Stage,
            rule.Query,
            acts = JsonSerializer.Serialize(rule.Acts, Answers.Json),
            rule.IsOn,
        };

    private static IReadOnlyList<StageRule> All(SqliteConnection db) =>
        [
            .. db.Query<(int Number, string Name, string? Format, string Stage, string Query, string Acts, bool IsOn)>(
                    "SELECT number, name, format, stage, query, acts, is_on FROM stage_rule ORDER BY number"
                )
                .Zip(db.Query<int>("SELECT version FROM stage_rule ORDER BY number"))
                .Select(r => new StageRule
                {
                    Number = StageRuleNumber.Of(r.First.Number),
                    Name = r.First.Name,
                    Format = r.First.Format,
                    Stage = r.First.Stage,
                    Query = r.First.Query,
                    Acts = JsonSerializer.Deserialize<IReadOnlyList<StageAct>>(r.First.Acts, Answers.Json)!,
                    IsOn = r.First.IsOn,
                    Version = r.Second,
                }),
        ];

    private static StageRule Get(SqliteConnection db, StageRuleNumber number) =>
        All(db).FirstOrDefault(r => r.Number == number) ?? throw new NotThereException($"rule {number}");

    private void Look() => anyOn = papers.Read(db => db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM stage_rule WHERE is_on)"));
}
