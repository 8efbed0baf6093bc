using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A format as it is to be from now on, with the version it is based on.</summary>
public sealed record FormatEdit : Format
{
    public FormatEdit() { }

    public FormatEdit(Format format)
        : base(format) { }

    /// <summary>For each stage that goes while pieces stand at it, the stage they move to.</summary>
    public IReadOnlyDictionary<string, string>? Moved { get; init; }
}

/// <summary>A format to be made; what is not said is as in a format of nothing.</summary>
public sealed record NewFormat : Format;

/// <summary>A format with who uses it.</summary>
public sealed record FormatOpened : Format
{
    public FormatOpened() { }

    public FormatOpened(Format format)
        : base(format) { }

    /// <summary>How many pieces have it, those in the trash too.</summary>
    public int Pieces { get; init; }

    /// <summary>How many of them stand at each of its stages; stages nobody stands at are left out.</summary>
    public IReadOnlyDictionary<string, int> Standing { get; init; } = new Dictionary<string, int>();
}

/// <summary>A format tried on a piece.</summary>
/// <param name="Title">What its pattern would make of the piece's title.</param>
/// <param name="Text">Its template, filled.</param>
/// <param name="TitleFault">What is wrong with the pattern.</param>
/// <param name="TextFault">What is wrong with the template.</param>
/// <param name="FillIns">All that can be filled in, with what it gives for the piece.</param>
/// <param name="Over">Parts of the piece that are over a limit of the format, with how much they have.</param>
/// <param name="Problem">Why it could not be kept; null when it could.</param>
public sealed record FormatTried(
    string Title,
    string Text,
    FillInFault? TitleFault,
    FillInFault? TextFault,
    IReadOnlyList<FillInOffer> FillIns,
    IReadOnlyList<PartMeasured> Over,
    string? Problem
);

/// <summary>A section, or the whole text, against a limit.</summary>
public sealed record PartMeasured(string Title, Measured Measured);

/// <summary>Reads and changes the formats of these papers.</summary>
public sealed class FormatStore(PapersFile papers)
{
    public IReadOnlyList<Format> List() => papers.Read(db => FormatRows.All(db).All);

    /// <exception cref="NotThereException">There is none of that key.</exception>
    public FormatOpened Get(string key) => papers.Read(db => Opened(db, key));

    private static FormatOpened Opened(SqliteConnection db, string key)
    {
        var format = FormatRows.All(db).Find(key) ?? throw new NotThereException($"format {key}");
        var standing = db.Query<(string Stage, int Count)>(
                "SELECT stage, count(*) FROM piece WHERE format = @key GROUP BY stage",
                new { key }
            )
            .ToDictionary(s => s.Stage, s => s.Count);
        return new FormatOpened(format) { Pieces = standing.Values.Sum(), Standing = standing };
    }

    /// <summary>Makes a format: a new one, a copy, or one that came as a file. Where its key is taken it gets another.</summary>
    public Done<Format> Add(Format made, Once once)
    {
        var format = FormatRules.Checked(made);
        return papers.Run(
            $"made the format {format.Name}",
            once,
            change =>
            {
                var all = FormatRows.All(change.Db);
                RefuseTaken(all, format.Name, null);
                var own = FormatRules.KeyFor(format);
                var key = own;
                for (var more = 2; all.Find(key) is not null; more++)
                    key = $"{own}_{more}";
                FormatRows.Put(change.Db, format with { Key = key, IsPutAway = false });
                return FormatRows.Named(change.Db, key);
            }
        );
    }

    private static void RefuseTaken(FormatSet all, string name, string? besides)
    {
        if (all.All.Any(f => f.Key != besides && f.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
            throw new BadInputException("name", $"There is a format “{name}” already.");
    }

    /// <summary>Changes a format. Pieces keep their sections and steps; those at a stage that goes move to the stage that is named for
    /// it.</summary>
    /// <exception cref="BadInputException">It makes no sense, or pieces would stand at a stage that is not there.</exception>
    public Done<FormatOpened> Edit(string key, FormatEdit edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a format",
            once,
            change =>
            {
                var before = Opened(change.Db, key);
                var standing = before.Standing;
                if (before.Version != based)
                    throw new StaleException($"The format {before.Name}", before);
                var after = FormatRules.Checked(
                    new Format(edit) with
                    {
                        Key = key,
                        IsPutAway = before.IsPutAway,
                        Most = edit.Moved is null
                            ? before.Most
                            : before
                                .Most.GroupBy(m => edit.Moved.GetValueOrDefault(m.Key, m.Key))
                                .ToDictionary(g => g.Key, g => g.First().Value),
                    },
                    before
                );
                RefuseTaken(FormatRows.All(change.Db), after.Name, key);
                foreach (var (stage, count) in standing.Where(s => !after.Stages.Contains(s.Key)))
                {
                    var to = edit.Moved?.GetValueOrDefault(stage);
                    if (to is null || !after.Stages.Contains(to))
                        throw new BadInputException(
                            "moved",
                            count == 1
                                ? $"A piece stands at “{stage}”; say where it goes."
                                : $"{count} pieces stand at “{stage}”; say where they go."
                        );
                    Move(change, key, stage, to, before.IsOut(stage), after.IsOut(to));
                }
                // A stage that stays may have become the last one, or be the last no more.
                foreach (var stage in standing.Keys.Where(after.Stages.Contains))
                    if (before.Stages.Contains(stage) && before.IsOut(stage) != after.IsOut(stage))
                        Move(change, key, stage, stage, before.IsOut(stage), after.IsOut(stage));
                foreach (var (stage, to) in edit.Moved ?? new Dictionary<string, string>())
                    if (!after.Stages.Contains(stage) && after.Stages.Contains(to))
                        change.Db.Execute(
                            "UPDATE piece_step SET stage = @to WHERE stage = @stage "
                                + "AND piece IN (SELECT number FROM piece WHERE format = @key); "
                                + "UPDATE OR REPLACE stage_day SET stage = @to WHERE stage = @stage "
                                + "AND piece IN (SELECT number FROM piece WHERE format = @key); "
                                + "UPDATE stage_entry SET stage = @to WHERE stage = @stage "
                                + "AND piece IN (SELECT number FROM piece WHERE format = @key); "
                                + "UPDATE stage_rule SET stage = @to WHERE stage = @stage AND format = @key",
                            new
                            {
                                to,
                                stage,
                                key,
                            }
                        );
                FormatRows.Put(change.Db, after);
                change.What = $"changed the format {after.Name}";
                return Opened(change.Db, key);
            }
        );
    }

    private static void Move(Change change, string key, string stage, string to, bool wasOut, bool isOut)
    {
        var moving = wasOut == isOut ? [] : PieceRows.List(change.Db, "p.format = @key AND p.stage = @stage", new { key, stage });
        change.Db.Execute(
            """
            UPDATE piece SET stage = @to, out_on = CASE WHEN @isOut THEN coalesce(out_on, @Today) WHEN @wasOut THEN NULL ELSE out_on END,
                version = version + 1
            WHERE format = @key AND stage = @stage
            """,
            new
            {
                key,
                stage,
                to,
                wasOut,
                isOut,
                change.Today,
            }
        );
        foreach (var piece in moving)
            ReleaseRows.Follow(change.Db, piece);
    }

    /// <summary>Says how many pieces are to stand at a stage at once; null for any number. More are let in, and it is said.</summary>
    public Done<Format> SetMost(string key, string stage, int? most, Once once)
    {
        if (most is < 1 or > FormatRules.MostAtOnce)
            throw new BadInputException("most", $"So many pieces at a stage are from 1 to {FormatRules.MostAtOnce}.");
        return papers.Run(
            "said how many pieces stand at a stage",
            once,
            change =>
            {
                var format = FormatRows.All(change.Db).Find(key) ?? throw new NotThereException($"format {key}");
                if (!format.Stages.Contains(stage))
                    throw new BadInputException("stage", $"The stages of {format.Name} are {string.Join(", ", format.Stages)}.");
                var wished = format.Most.Where(m => m.Key != stage).ToDictionary();
                if (most is { } at)
                    wished[stage] = at;
                FormatRows.Put(change.Db, format with { Most = wished });
                change.What = most is null
                    ? $"any number of {format.Name} pieces at {stage}"
                    : $"at most {most} {format.Name} pieces at {stage}";
                return FormatRows.Named(change.Db, key);
            }
        );
    }

    /// <summary>Puts a format away, so that no new piece is offered it, or takes it up again.</summary>
    public Done<Format> PutAway(string key, bool away, Once once) =>
        papers.Run(
            "put a format away",
            once,
            change =>
            {
                var all = FormatRows.All(change.Db);
                var format = all.Find(key) ?? throw new NotThereException($"format {key}");
                if (away && all.Offered.All(f => f.Key == key))
                    throw new BadInputException("format", "One format has to be left to begin with.");
                change.Db.Execute("UPDATE format SET put_away = @away, version = version + 1 WHERE key = @key", new { key, away });
                change.What = away ? $"put the format {format.Name} away" : $"took the format {format.Name} up again";
                return FormatRows.Named(change.Db, key);
            }
        );

    /// <summary>Takes a format out that nothing uses.</summary>
    public Done<IReadOnlyList<Format>> Remove(string key, Once once) =>
        papers.Run(
            "took a format out",
            once,
            change =>
            {
                var format = Opened(change.Db, key);
                var pieces = format.Pieces;
                if (pieces > 0)
                    throw new BadInputException(
                        "format",
                        (pieces == 1 ? "A piece has" : $"{pieces} pieces have")
                            + " this format, in the trash or out of it; put it away instead."
                    );
                var slips = change.Db.ExecuteScalar<int>(
                    "SELECT count(*) FROM slip WHERE instr(' ' || coalesce(format, '') || ' ', ' ' || @key || ' ') > 0",
                    new { key }
                );
                if (slips > 0)
                    throw new BadInputException(
                        "format",
                        $"{(slips == 1 ? "A slip says" : $"{slips} slips say")} that it would become one; put it away instead."
                    );
                if (FormatRows.All(change.Db).All.Count == 1)
                    throw new BadInputException("format", "One format has to be left.");
                change.Db.Execute("DELETE FROM outlet_cadence WHERE format = @key; DELETE FROM format WHERE key = @key", new { key });
                change.What = $"took the format {format.Name} out";
                return FormatRows.All(change.Db).All;
            }
        );

    /// <summary>What a format, kept or not yet, would make of a piece. Nothing is changed.</summary>
    /// <param name="piece">The piece; a made-up one when null.</param>
    public FormatTried Try(Format given, PieceNumber? piece)
    {
        string? problem = null;
        var format = given;
        try
        {
            format = FormatRules.Checked(given);
        }
        catch (BadInputException error)
        {
            problem = error.Message;
        }
        return papers.Read(db =>
        {
            var now = papers.Time.GetLocalNow().DateTime;
            var on = piece is { } number ? PieceRows.Get(db, number) : null;
            var facts = on is null
                ? PieceFacts.Sample(format.Fields) with
                {
                    Title = "The far bank",
                    Now = now,
                    Format = format.Name,
                }
                : PieceRows.FactsOf(now, on, format) with
                {
                    Number = on.Running ?? PieceRows.NextRunning(db, format),
                    Series = SeriesRows.Of(db, on.Number)?.Name ?? "",
                };
            var title = FillIn.Fill(format.TitlePattern ?? "", facts.ByName());
            var text = FillIn.Fill(format.Template ?? "", facts.ByName());
            return new FormatTried(
                title.Fault is null ? facts.TitleBy(format.TitlePattern ?? "") : facts.Title,
                text.Text,
                title.Fault,
                text.Fault,
                facts.Offers(),
                on is null || problem is not null
                    ? []
                    : [.. MeasuredParts(DraftRows.Read(db, on.Number).Outline, format).Where(p => p.Measured.IsOver)],
                problem
            );
        });
    }

    /// <summary>The parts of an outline and the whole of it against the limits of a format.</summary>
    internal static IEnumerable<PartMeasured> MeasuredParts(Outline outline, Format format)
    {
        if (format.Limits.Part is { } part)
            foreach (var section in outline.Sections)
                yield return new PartMeasured(section.Title, Measure.Of(section.Part.Body, part, format.Limits));
        if (format.Limits.Whole is { } whole)
            yield return new PartMeasured(
                "The whole text",
                Measure.Of(string.Join("\n", outline.Sections.Select(s => s.Part.Body).Prepend(outline.Lead)), whole, format.Limits)
            );
    }
}
