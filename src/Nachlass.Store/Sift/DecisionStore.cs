using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>What a decision did.</summary>
/// <param name="Slip">The slip now.</param>
/// <param name="Piece">The piece that was started or added to.</param>
/// <param name="MergedWith">The slip that took it in.</param>
public sealed record Settled(Slip Slip, PieceNumber? Piece, Slip? MergedWith);

/// <summary>What is done to several slips at once; what is not set stays.</summary>
public sealed record SeveralChange
{
    public IReadOnlyList<SlipNumber> Slips { get; init; } = [];
    public SlipKind? Kind { get; init; }
    public Maybe<int?> Pull { get; init; }
    public Maybe<int?> Effort { get; init; }

    /// <summary>Keys of all the formats they would make; empty for none.</summary>
    public IReadOnlyList<string>? Formats { get; init; }

    /// <summary>Names of topics they get besides those they have.</summary>
    public IReadOnlyList<string> Topics { get; init; } = [];

    /// <summary>Names of topics that are taken away.</summary>
    public IReadOnlyList<string> WithoutTopics { get; init; } = [];

    public Decision? Decision { get; init; }
}

/// <summary>Decides about slips, one or several, and takes them apart and together.</summary>
public sealed class DecisionStore(PapersFile papers, WorthStore worth)
{
    /// <summary>How many slips one command changes at most.</summary>
    public const int MostAtOnce = 5_000;

    /// <summary>Decides about a slip.</summary>
    /// <param name="again">The topic or piece for which it was gone through again.</param>
    /// <exception cref="BadInputException">The decision names something that isn't there or makes no sense.</exception>
    public Done<Settled> Decide(SlipNumber number, Decision decision, Once once, Reference? again = null)
    {
        var stood = decision is Decision.StartPiece ? worth.Standing(number.Value) : null;
        return papers.Run(
            $"decided about slip {number}",
            once,
            change =>
            {
                var slip = SlipRows.Get(change.Db, number);
                var settled = Decide(change, slip, decision);
                if (stood is not null && settled.Piece is { } piece)
                    ChoiceRows.Remember(change, stood, piece);
                if (again is { } of)
                    Pass(change, of, number);
                return settled;
            }
        );
    }

    /// <summary>Leaves a slip as it is; only that it was looked at for a topic or a piece is remembered.</summary>
    public Done<Slip> PassOver(SlipNumber number, Reference again, Once once) =>
        papers.Run(
            $"passed over slip {number}",
            once,
            change =>
            {
                var slip = SlipRows.Get(change.Db, number);
                Pass(change, again, number);
                change.What = $"passed over slip {number} for {again}";
                return slip;
            }
        );

    /// <summary>Leaves all that a topic's drawer has got since it was last gone through as it is.</summary>
    /// <returns>How many that were.</returns>
    public Done<int> PassOverAll(TopicNumber topic, Once once) =>
        papers.Run(
            $"passed over the pile of topic {topic}",
            once,
            change =>
            {
                var name = Links.TitleOf(change.Db, Reference.To(topic)) ?? throw new NotThereException($"topic {topic}");
                var passed = change.Db.Execute(
                    """
                    INSERT INTO gone_through (kind, number, slip, at)
                    SELECT 'topic', @topic, s.number, @Now FROM slip s
                    WHERE s.state = 'kept' AND s.number IN (SELECT slip FROM slip_topic WHERE topic IN (SELECT under FROM topic_under
                            WHERE topic = @topic))
                        AND s.number NOT IN (SELECT slip FROM gone_through WHERE kind = 'topic' AND number = @topic)
                    """,
                    new { topic, change.Now }
                );
                change.What = $"passed over {Counted(passed)} kept on {name}";
                return passed;
            }
        );

    /// <summary>Changes several slips, or decides about all of them alike, as one step.</summary>
    public Done<IReadOnlyList<Slip>> Several(SeveralChange several, Once once)
    {
        Check.Step("pull", several.Pull.Value);
        Check.Step("effort", several.Effort.Value);
        var formats = several.Formats is null ? null : papers.Read(db => FormatRows.All(db).Keys(several.Formats));
        var numbers = several.Slips.Distinct().ToList();
        if (numbers.Count is 0 or > MostAtOnce)
            throw new BadInputException("slips", $"Choose 1 to {MostAtOnce:N0} slips.");
        var stood = several.Decision is Decision.StartPiece ? worth.Standing(numbers[0].Value) : null;
        return papers.Run(
            $"changed {Counted(numbers.Count)}",
            once,
            change =>
            {
                var added = TopicRows.NumbersFor(change.Db, several.Topics);
                var taken = several.WithoutTopics.Select(name => TopicRows.Find(change.Db, name)).OfType<TopicNumber>().ToHashSet();
                PieceNumber? started = null;
                foreach (var number in numbers)
                {
                    var slip = SlipRows.Get(change.Db, number);
                    if (several.Kind is not null || several.Pull.IsSet || several.Effort.IsSet || formats is not null)
                        change.Db.Execute(
                            "UPDATE slip SET kind = @kind, pull = @pull, effort = @effort, format = @format, version = version + 1 "
                                + "WHERE number = @number",
                            new
                            {
                                number,
                                kind = (several.Kind ?? slip.Kind).Kept(),
                                pull = several.Pull.Or(slip.Pull),
                                effort = several.Effort.Or(slip.Effort),
                                format = SlipRows.Kept(formats ?? slip.Formats),
                            }
                        );
                    if (added.Count + taken.Count > 0)
                        SlipRows.SetTopics(
                            change.Db,
                            number,
                            [.. slip.Topics.Select(t => t.Number).Where(t => !taken.Contains(t)).Union(added)]
                        );
                    if (several.Decision is null || (several.Decision is Decision.MergeInto merge && merge.Slip == number))
                        continue;
                    // One piece is started from all of them: the first begins it, the others are its material.
                    started = Decide(
                        change,
                        SlipRows.Get(change.Db, number),
                        several.Decision is Decision.StartPiece && started is { } piece
                            ? new Decision.PutIntoPiece(piece)
                            : several.Decision
                    ).Piece;
                }
                if (started is { } begun)
                    ChoiceRows.Remember(change, stood, begun);
                change.What = Said(several, numbers.Count, started);
                var all = SlipRows.All(change.Db, [.. numbers.Select(n => n.Value)]);
                return (IReadOnlyList<Slip>)[.. numbers.Select(n => all[n.Value])];
            }
        );
    }

    /// <summary>Takes a slip apart: it keeps the first part, and each other part becomes a slip of its own with the same topics and
    /// source.</summary>
    /// <returns>The slips, the first one first.</returns>
    public Done<IReadOnlyList<Slip>> Split(SlipNumber number, int? version, IReadOnlyList<string> parts, Once once)
    {
        var based = Check.Version(version);
        if (parts.Count < 2)
            throw new BadInputException("parts", "A slip is split into two parts or more.");
        var texts = parts.Select(part => Check.Text("parts", part, Slip.LongestText)).ToList();
        return papers.Run(
            $"split slip {number}",
            once,
            change =>
            {
                var slip = SlipRows.Get(change.Db, number);
                if (slip.Version != based)
                    throw new StaleException($"Slip {number}", slip);
                change.Db.Execute(
                    "UPDATE slip SET text = @text, version = version + 1 WHERE number = @number",
                    new { number, text = texts[0] }
                );
                Links.Write(change.Db, Reference.To(number), texts[0]);
                var pieces = change.Db.Query<int>("SELECT piece FROM material WHERE slip = @number", new { number }).ToList();
                var made = new List<Slip> { SlipRows.Get(change.Db, number) };
                foreach (var text in texts.Skip(1))
                {
                    var other = SlipRows.Add(
                        change,
                        new NewSlip(text)
                        {
                            Kind = slip.Kind,
                            State = slip.State,
                            Origin = slip.Origin,
                            OriginNote = slip.OriginNote,
                            Source = slip.Source,
                            Locator = slip.Locator,
                            Pull = slip.Pull,
                            Effort = slip.Effort,
                            CaughtAt = slip.CaughtAt,
                            Day = slip.Day,
                            Topics = [.. slip.Topics.Select(t => t.Number)],
                        }
                    );
                    if (slip.State == SlipState.Held)
                        change.Db.Execute(
                            "UPDATE slip SET held_look_up = @HeldLookUp, held_until = @HeldUntil, "
                                + "held_occasion = @HeldOccasion, held_sources = @HeldSources "
                                + "WHERE number = @number",
                            new
                            {
                                slip.HeldUntil,
                                slip.HeldOccasion,
                                slip.HeldSources,
                                slip.HeldLookUp,
                                number = other.Number,
                            }
                        );
                    foreach (var piece in pieces)
                        MaterialRows.Add(change, PieceNumber.Of(piece), Reference.To(other.Number), null);
                    made.Add(SlipRows.Get(change.Db, other.Number));
                }
                change.What = $"split slip {number} into {string.Join(", ", made.Select(s => s.Number))}";
                return (IReadOnlyList<Slip>)made;
            }
        );
    }

    /// <summary>Puts several slips together into the first of them; the others are dropped.</summary>
    public Done<Slip> Join(IReadOnlyList<SlipNumber> slips, Once once)
    {
        var numbers = slips.Distinct().ToList();
        if (numbers.Count < 2)
            throw new BadInputException("slips", "Choose two slips or more to join.");
        return papers.Run(
            "joined slips",
            once,
            change =>
            {
                foreach (var number in numbers.Skip(1))
                    Merge(change, SlipRows.Get(change.Db, number), numbers[0]);
                change.What = $"joined slips {string.Join(", ", numbers.Skip(1))} to slip {numbers[0]}";
                return SlipRows.Get(change.Db, numbers[0]);
            }
        );
    }

    internal static Settled Decide(Change change, Slip slip, Decision decision)
    {
        var number = slip.Number;
        switch (decision)
        {
            case Decision.Keep:
                change.What = $"kept slip {number}";
                return new Settled(Settle(change, slip, SlipState.Kept), null, null);
            case Decision.StartPiece start:
                var format = FormatFor(change.Db, start.Format ?? slip.FirstFormat);
                var title = start.Title is null ? TitleFor(change.Db, slip) : Check.Text("title", start.Title, Piece.LongestTitle);
                var piece = PieceRows.Start(change, title, format, "", [.. slip.Topics.Select(t => t.Number)]);
                MaterialRows.Add(change, piece, Reference.To(number), null);
                // What speaks for a claim and against it is what its piece is made of.
                foreach (var thing in ClaimStore.EvidenceOf(change.Db, number))
                    MaterialRows.Add(change, piece, thing, null);
                change.What = $"started P {piece} from slip {number}";
                return new Settled(Settle(change, slip, SlipState.Kept), piece, null);
            case Decision.PutIntoPiece put:
                if (PieceRows.Find(change.Db, put.Piece) is not { } into)
                    throw new BadInputException("piece", $"There is no P {put.Piece}.");
                MaterialRows.Add(change, put.Piece, Reference.To(number), put.Section);
                change.What = $"put slip {number} into P {put.Piece} “{into.Title}”";
                return new Settled(Settle(change, slip, SlipState.Kept), put.Piece, null);
            case Decision.Hold hold:
                hold.CheckAfter(change.Today);
                return new Settled(Hold(change, slip, hold), null, null);
            case Decision.Drop:
                change.What = $"dropped slip {number}";
                return new Settled(Settle(change, slip, SlipState.Dropped), null, null);
            case Decision.MergeInto merge:
                var merged = Merge(change, slip, merge.Slip);
                change.What = $"merged slip {number} into slip {merge.Slip}";
                return new Settled(SlipRows.Get(change.Db, number), null, merged);
            case Decision.PutBack:
                change.What = $"put slip {number} back on the pile";
                return new Settled(Settle(change, slip, SlipState.Waiting), null, null);
            default:
                throw new BadInputException("decision", "A decision is keep, start, put, hold, drop, merge or wait.");
        }
    }

    private static Format FormatFor(SqliteConnection db, string? key)
    {
        var formats = FormatRows.All(db);
        return key is null ? formats.First : formats.Named(key);
    }

    /// <summary>What a piece from a slip is called: as its claim says, else as it begins, without web addresses; a bare address is called
    /// as its source is.</summary>
    internal static string TitleFor(SqliteConnection db, Slip slip)
    {
        var claim = db.QuerySingleOrDefault<string>("SELECT title FROM claim WHERE slip = @Number", new { slip.Number });
        if (claim is { Length: > 0 })
            return PlainText.Headline(claim, Piece.LongestTitle);
        var words = PlainText.Headline(CaptureLine.WithoutAddresses(slip.Text), 80).Trim('“', '”', '"');
        return words.Length > 0 ? words
            : slip.Source is { } source && Links.TitleOf(db, Reference.To(source)) is { Length: > 0 } title ? title
            : PlainText.Headline(slip.Text, 80);
    }

    private static void Pass(Change change, Reference of, SlipNumber slip) =>
        change.Db.Execute(
            "INSERT INTO gone_through (kind, number, slip, at) "
                + "VALUES (@kind, @Number, @slip, @Now) ON CONFLICT (kind, number, slip) DO UPDATE SET at = @Now",
            new
            {
                kind = of.Kind.Kept(),
                of.Number,
                slip,
                change.Now,
            }
        );

    private static string Said(SeveralChange several, int count, PieceNumber? piece) =>
        several.Decision switch
        {
            Decision.Keep => $"kept {Counted(count)}",
            Decision.Drop => $"dropped {Counted(count)}",
            Decision.Hold => $"held {Counted(count)}",
            Decision.StartPiece => $"started P {piece} from {Counted(count)}",
            Decision.PutIntoPiece put => $"put {Counted(count)} into P {put.Piece}",
            Decision.MergeInto merge => $"merged {Counted(count)} into slip {merge.Slip}",
            Decision.PutBack => $"put {Counted(count)} back on the pile",
            _ => $"changed {Counted(count)}",
        };

    private static string Counted(int slips) => slips == 1 ? "1 slip" : $"{slips} slips";

    private static Slip Hold(Change change, Slip slip, Decision.Hold hold)
    {
        var until = hold.Until;
        var what = until is { } day ? $"until {day.Kept()}" : "";
        if (hold.Occasion is { } number)
        {
            var occasion =
                OccasionStore.All(change.Db).FirstOrDefault(o => o.Number == number)
                ?? throw new BadInputException("occasion", $"There is no occasion {number}.");
            until =
                occasion.NextStart(change.Today)
                ?? throw new BadInputException("occasion", $"“{occasion.Name}” is over and does not come again.");
            what = $"until {occasion.Name}, {until.Value.Kept()}";
        }
        if (hold.LookUp is { } lookUp)
            what = lookUp.Trim().Length > 0 ? $"to look up: {PlainText.Headline(lookUp, 80)}" : "to look something up";
        if (hold.Sources is { } sources)
            what = sources == 1 ? "until a source speaks to it" : $"until {sources} sources speak to it";
        change.What = $"held slip {slip.Number} {what}";
        Settle(change, slip, SlipState.Held, heldUntil: until);
        change.Db.Execute(
            "UPDATE slip SET held_occasion = @Occasion, held_sources = @Sources, held_look_up = @lookUp WHERE number = @Number",
            new
            {
                lookUp = hold.LookUp?.Trim(),
                hold.Occasion,
                hold.Sources,
                slip.Number,
            }
        );
        return SlipRows.Get(change.Db, slip.Number);
    }

    private static Slip Settle(Change change, Slip slip, SlipState state, DateOnly? heldUntil = null, SlipNumber? mergedInto = null)
    {
        change.Db.Execute(
            """
            UPDATE slip SET state = @state, held_until = @heldUntil, held_occasion = NULL, held_sources = NULL,
                held_look_up = NULL, merged_into = @mergedInto,
                settled_at = @settled, version = version + 1
            WHERE number = @Number
            """,
            new
            {
                state = state.Kept(),
                heldUntil,
                mergedInto,
                settled = state == SlipState.Waiting ? (DateTimeOffset?)null : change.Now,
                slip.Number,
            }
        );
        return SlipRows.Get(change.Db, slip.Number);
    }

    /// <summary>The text goes to the end of the other slip; topics and the pieces it stood in follow.</summary>
    private static Slip Merge(Change change, Slip slip, SlipNumber into)
    {
        if (into == slip.Number)
            throw new BadInputException("slip", "A slip can't be merged into itself.");
        var other = SlipRows.Find(change.Db, into) ?? throw new BadInputException("slip", $"There is no slip {into}.");
        if (other.MergedInto is { } further)
            throw new BadInputException("slip", $"Slip {into} was itself merged into slip {further}.");
        var text = Check.Length("text", other.Text.TrimEnd() + "\n\n" + slip.Text, Slip.LongestText);
        change.Db.Execute("UPDATE slip SET text = @text, version = version + 1 WHERE number = @into", new { text, into });
        Links.Write(change.Db, Reference.To(into), text);
        SlipRows.SetTopics(change.Db, into, [.. other.Topics.Concat(slip.Topics).Select(t => t.Number).Distinct()]);
        change.Db.Execute(
            """
            UPDATE material SET slip = @into WHERE slip = @Number AND piece NOT IN (SELECT piece FROM material WHERE slip = @into);
            DELETE FROM material WHERE slip = @Number;
            """,
            new { into, slip.Number }
        );
        Settle(change, slip, SlipState.Dropped, mergedInto: into);
        return SlipRows.Get(change.Db, into);
    }
}
