using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>A rule to be made, or a change to one; what is not set stays.</summary>
public sealed record RuleChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }
    public RuleWhen? When { get; init; }
    public string? Query { get; init; }
    public RuleAct? Act { get; init; }
    public bool? IsOn { get; init; }
}

/// <summary>What a rule would have done with a slip.</summary>
public sealed record RuleTrial(Slip Slip, string Would);

/// <summary>What a rule would have done over the last slips it would have looked at.</summary>
/// <param name="Looked">How many slips it looked at.</param>
public sealed record RuleTried(int Looked, IReadOnlyList<RuleTrial> Met);

/// <summary>
/// Keeps rules and runs them. They run at the end of each command, in the same step, over the slips that came in or were kept in it:
/// however
/// a slip came in, it is looked at, and taking the step back takes back what the rules did. Rules do not set off rules.
/// </summary>
public sealed class RuleStore
{
    /// <summary>How many slips a rule is tried on.</summary>
    public const int TriedOn = 100;

    private readonly PapersFile papers;
    private volatile bool anyOn;

    public RuleStore(PapersFile papers)
    {
        this.papers = papers;
        papers.Ending += Run;
        papers.Written += done =>
        {
            if (done.Rows.Any(r => r.Table == "rule"))
                Look();
        };
        Look();
    }

    public IReadOnlyList<Rule> List() => papers.Read(All);

    /// <summary>What a rule would have done over the last hundred slips, without doing it.</summary>
    public RuleTried Try(RuleChange made) =>
        papers.Read(db =>
        {
            var rule = Changed(Blank, made with { Name = "tried" }).Checked(FormatRows.All(db));
            var last = db.Query<int>(
                    rule.When == RuleWhen.Kept
                        ? "SELECT number FROM slip WHERE state = 'kept' AND settled_at IS NOT NULL ORDER BY settled_at DESC LIMIT @TriedOn"
                        : "SELECT number FROM slip ORDER BY caught_at DESC LIMIT @TriedOn",
                    new { TriedOn }
                )
                .AsList();
            var met = Meeting(db, rule, last);
            var slips = SlipRows.All(db, met);
            var formats = FormatRows.All(db);
            return new RuleTried(
                last.Count,
                [.. last.Where(met.Contains).Select(n => new RuleTrial(slips[n], rule.Would(slips[n], formats)))]
            );
        });

    public Done<Rule> Add(RuleChange made, Once once) =>
        papers.Run(
            "made a rule",
            once,
            change =>
            {
                var rule = Changed(Blank, made).Checked(FormatRows.All(change.Db));
                change.What = $"made the rule “{rule.Name}”{(rule.IsOn ? " and switched it on" : "")}";
                return Get(change.Db, Put(change.Db, rule));
            }
        );

    public Done<Rule> Edit(RuleNumber number, RuleChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a rule",
            once,
            change =>
            {
                var before = Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The rule “{before.Name}”", before);
                var rule = Changed(before, edit).Checked(FormatRows.All(change.Db));
                change.Db.Execute(
                    "UPDATE rule SET name = @Name, occurs = @occurs, query = @Query, act = @act, is_on = @IsOn, version = version "
                        + "+ 1 WHERE number = @Number",
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

    public Done<IReadOnlyList<Rule>> Remove(RuleNumber number, Once once) =>
        papers.Run(
            "took a rule away",
            once,
            change =>
            {
                change.What = $"took the rule “{Get(change.Db, number).Name}” away";
                change.Db.Execute("DELETE FROM rule WHERE number = @number", new { number });
                return All(change.Db);
            }
        );

    private void Run(Change change)
    {
        if (!anyOn)
            return;
        var rules = All(change.Db).Where(r => r.IsOn).ToList();
        if (rules.Count == 0)
            return;
        // The log of the command knows what it made and what it decided.
        var made = change
            .Db.Query<int>(
                "SELECT DISTINCT row FROM undo_log WHERE command = @Number AND tbl = 'slip' AND inverse LIKE 'DELETE %'",
                new { change.Number }
            )
            .ToHashSet();
        var kept = change
            .Db.Query<int>(
                "SELECT DISTINCT l.row FROM undo_log l JOIN slip s ON s.number = l.row "
                    + "WHERE l.command = @Number AND l.tbl = 'slip' AND l.inverse LIKE '%,state=''%' AND s.state = 'kept'",
                new { change.Number }
            )
            .Where(n => !made.Contains(n))
            .ToList();
        // A passage comes in kept, by the writer's own hand while reading.
        var waiting =
            made.Count == 0
                ? []
                : change
                    .Db.Query<int>(
                        "SELECT number FROM slip WHERE state = 'waiting' AND number IN (SELECT value FROM json_each(@made))",
                        new { made = Mapping.List(made) }
                    )
                    .ToList();
        var said = new List<string>();
        foreach (var rule in rules)
        {
            var met = Meeting(change.Db, rule, rule.When == RuleWhen.Kept ? kept : waiting);
            var before = change.What;
            var done = met.Order()
                .Select(number => Act(change, rule, SlipRows.Get(change.Db, SlipNumber.Of(number))))
                .OfType<string>()
                .ToList();
            change.What = before;
            if (done.Count > 0)
                said.Add(
                    done.Count == 1 ? $"by the rule “{rule.Name}” {done[0]}" : $"the rule “{rule.Name}” did so for {done.Count} slips"
                );
        }
        if (said.Count > 0)
        {
            change.Followed = string.Join("; ", said);
            change.What += "; " + change.Followed;
        }
    }

    /// <summary>What it did, in words; null when there was nothing to do.</summary>
    private static string? Act(Change change, Rule rule, Slip slip)
    {
        switch (rule.Act)
        {
            case RuleAct.Start start:
                if (StandsInAPiece(change.Db, slip.Number))
                    return null;
                var started = DecisionStore.Decide(
                    change,
                    slip,
                    new Decision.StartPiece(FormatRows.All(change.Db).Find(start.Format)?.Key)
                );
                return $"started P {started.Piece} from slip {slip.Number}";
            case RuleAct.MakeReady ready:
                if (StandsInAPiece(change.Db, slip.Number))
                    return null;
                var formats = FormatRows.All(change.Db);
                var format = formats.Find(ready.Format ?? slip.FirstFormat) ?? formats.ForPosts;
                var piece = PieceRows.Start(
                    change,
                    DecisionStore.TitleFor(change.Db, slip),
                    format,
                    "",
                    [.. slip.Topics.Select(t => t.Number)]
                );
                var (lead, parts) = DraftText.Split(slip.Text.TrimEnd() + "\n");
                DraftRows.Write(change, piece, new Outline(lead, [.. parts.Select(part => new Section(null, part))]));
                change.Db.Execute(
                    "UPDATE piece SET stage = @stage, version = version + 1 WHERE number = @piece",
                    new { stage = format.ReadyStage, piece }
                );
                StageRows.Enter(change.Db, piece, format.ReadyStage, change.Now);
                MaterialRows.Add(change, piece, Reference.To(slip.Number), null);
                return $"made P {piece} ready from slip {slip.Number}";
            case RuleAct.Sort sort:
                var topics = TopicRows.NumbersFor(change.Db, sort.Topics ?? []).Except(slip.Topics.Select(t => t.Number)).ToList();
                var kind = sort.Kind ?? slip.Kind;
                if (topics.Count == 0 && kind == slip.Kind)
                    return null;
                if (topics.Count > 0)
                    SlipRows.SetTopics(change.Db, slip.Number, [.. slip.Topics.Select(t => t.Number), .. topics]);
                change.Db.Execute(
                    "UPDATE slip SET kind = @kind, version = version + 1 WHERE number = @Number",
                    new { kind = kind.Kept(), slip.Number }
                );
                return $"sorted slip {slip.Number}";
            case RuleAct.Keep:
                if (slip.State == SlipState.Kept)
                    return null;
                DecisionStore.Decide(change, slip, new Decision.Keep());
                return $"kept slip {slip.Number}";
            default:
                if (slip.State == SlipState.Dropped)
                    return null;
                DecisionStore.Decide(change, slip, new Decision.Drop());
                return $"dropped slip {slip.Number}";
        }
    }

    private static bool StandsInAPiece(SqliteConnection db, SlipNumber slip) =>
        db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM material WHERE slip = @slip)", new { slip });

    private HashSet<int> Meeting(SqliteConnection db, Rule rule, List<int> among)
    {
        if (among.Count == 0)
            return [];
        var asked = new Asked(db, papers, Asked.Understand(rule.Query));
        asked.Arguments.AddDynamicParams(new { among = Mapping.List(among) });
        return
        [
            .. db.Query<int>(
                $"SELECT s.number FROM slip s WHERE s.number IN (SELECT value FROM json_each(@among)) AND {asked.Whole(ThingKind.Slip)}",
                asked.Arguments
            ),
        ];
    }

    private static readonly Rule Blank = new()
    {
        Name = "",
        Query = "",
        Act = new RuleAct.Keep(),
        When = RuleWhen.Kept,
    };

    private static Rule Changed(Rule rule, RuleChange edit) =>
        rule with
        {
            Name = edit.Name ?? rule.Name,
            When = edit.When ?? rule.When,
            Query = edit.Query ?? rule.Query,
            Act = edit.Act ?? rule.Act,
            IsOn = edit.IsOn ?? rule.IsOn,
        };

    internal static RuleNumber Put(SqliteConnection db, Rule rule) =>
        RuleNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO rule (name, occurs, query, act, is_on) VALUES (@Name, @occurs, @Query, @act, @IsOn) RETURNING number",
                Row(rule)
            )
        );

    private static object Row(Rule rule) =>
        new
        {
            rule.Number,
            rule.Name,
            occurs = rule.When.Kept(),
            rule.Query,
            act = JsonSerializer.Serialize(rule.Act, Answers.Json),
            rule.IsOn,
        };

    internal static IReadOnlyList<Rule> All(SqliteConnection db) =>
        [
            .. db.Query<(int Number, string Name, string Occurs, string Query, string Act, bool IsOn, int Version)>(
                    "SELECT number, name, occurs, query, act, is_on, version FROM rule ORDER BY number"
                )
                .Select(r => new Rule
                {
                    Number = RuleNumber.Of(r.Number),
                    Name = r.Name,
                    When = Enum.Parse<RuleWhen>(r.Occurs, true),
                    Query = r.Query,
                    Act = JsonSerializer.Deserialize<RuleAct>(r.Act, Answers.Json)!,
                    IsOn = r.IsOn,
                    Version = r.Version,
                }),
        ];

    private static Rule Get(SqliteConnection db, RuleNumber number) =>
        All(db).FirstOrDefault(r => r.Number == number) ?? throw new NotThereException($"rule {number}");

    private void Look() => anyOn = papers.Read(db => db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM rule WHERE is_on)"));
}
