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
using Nachlass.Store.Text;

namespace Nachlass.Store.Sift;

/// <summary>A slip in the queue.</summary>
public sealed record QueuedSlip(SlipNumber Number, string Title, SlipKind Kind);

/// <summary>Slips that came in by the same door.</summary>
public sealed record QueueGroup(Origin Origin, string Note, bool BackFromHold, DateOnly? Day, IReadOnlyList<QueuedSlip> Slips);

/// <summary>The sitting: what waits, and how far the writer has come today.</summary>
/// <param name="Waiting">How many wait in all; the groups show the first <see cref="SiftStore.MostQueued"/>.</param>
/// <param name="Settled">How many were settled today.</param>
public sealed record Sitting(int Waiting, int Settled, IReadOnlyList<QueueGroup> Groups);

/// <summary>What a decision did.</summary>
/// <param name="Slip">The slip now.</param>
/// <param name="Piece">The piece that was started or added to.</param>
/// <param name="MergedWith">The slip that took it in.</param>
public sealed record Settled(Slip Slip, PieceNumber? Piece, Slip? MergedWith);

/// <summary>The pile and what is decided about it.</summary>
public sealed class SiftStore(PapersFile papers)
{
    public const int MostQueued = 500;

    /// <summary>What is waiting on a day, as an SQL condition that an index answers.</summary>
    internal const string Waiting =
        "s.number IN (SELECT number FROM slip WHERE state = 'waiting' UNION ALL SELECT number FROM slip WHERE state = 'held' AND held_until <= @today)";

    public Sitting Sitting() => papers.Read(db =>
    {
        var today = papers.Today;
        // Only titles are shown, so only the beginning of each text is read.
        var rows = db.Query<(int Number, string Text, string Kind, string Origin, string Note, string State, string Day)>(
            """
            SELECT number, substr(text, 1, 200), kind, origin, origin_note, state, day FROM (
                SELECT * FROM (SELECT number, text, kind, origin, origin_note, state, day, caught_at FROM slip WHERE state = 'waiting' ORDER BY caught_at DESC LIMIT @MostQueued)
                UNION ALL
                SELECT number, text, kind, origin, origin_note, state, day, caught_at FROM slip WHERE state = 'held' AND held_until <= @today)
            ORDER BY caught_at DESC LIMIT @MostQueued
            """, new { today, MostQueued }).ToList();
        // A group is one door on one day, newest door first; inside it the slips stand in the order they were caught.
        var groups = rows.GroupBy(r => r.State == "held" ? (Origin: "", Note: "", Day: "") : (Origin: r.Origin, Note: r.Note, Day: IsDaily(r.Origin) ? r.Day : ""))
            .Select(g => new QueueGroup(
                Enum.Parse<Origin>(g.First().Origin, true), g.First().Note, g.Key.Origin.Length == 0,
                g.Key.Day.Length == 0 ? null : DateOnly.ParseExact(g.Key.Day, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                [.. g.Reverse().Select(r => new QueuedSlip(SlipNumber.Of(r.Number), PlainText.Headline(r.Text, 90), Enum.Parse<SlipKind>(r.Kind, true)))]))
            .ToList();
        return new Sitting(CountWaiting(db, today), SettledOn(db), groups);
    });

    private static bool IsDaily(string origin) => origin is "strip" or "sheet";

    internal static int CountWaiting(SqliteConnection db, DateOnly today) => db.ExecuteScalar<int>(
        "SELECT (SELECT count(*) FROM slip WHERE state = 'waiting') + (SELECT count(*) FROM slip WHERE state = 'held' AND held_until <= @today)", new { today });

    private int SettledOn(SqliteConnection db)
    {
        var midnight = papers.Time.GetLocalNow().Date;
        var since = new DateTimeOffset(midnight, papers.Time.LocalTimeZone.GetUtcOffset(midnight));
        return db.ExecuteScalar<int>("SELECT count(*) FROM slip WHERE settled_at >= @since AND origin <> 'reading'", new { since });
    }

    /// <summary>Decides about a slip.</summary>
    /// <exception cref="BadInputException">The decision names something that isn't there or makes no sense.</exception>
    public Done<Settled> Decide(SlipNumber number, Decision decision, Once once) => papers.Run($"decided about slip {number}", once, change =>
    {
        var slip = SlipRows.Get(change.Db, number);
        switch (decision)
        {
            case Decision.Keep:
                change.What = $"kept slip {number}";
                return new Settled(Settle(change, slip, SlipState.Kept), null, null);
            case Decision.StartPiece start:
                var format = ReadyFormats.Named(start.Format ?? slip.Format ?? ReadyFormats.Essay.Key);
                var title = start.Title is null ? PlainText.Headline(slip.Text, 80).Trim('“', '”', '"') : Check.Text("title", start.Title, Piece.LongestTitle);
                var piece = PieceRows.Start(change, title, format, "", [.. slip.Topics.Select(t => t.Number)]);
                MaterialRows.Add(change, piece, Reference.To(number), null);
                change.What = $"started P {piece} from slip {number}";
                return new Settled(Settle(change, slip, SlipState.Kept), piece, null);
            case Decision.PutIntoPiece put:
                if (PieceRows.Find(change.Db, put.Piece) is not { } into) throw new BadInputException("piece", $"There is no P {put.Piece}.");
                MaterialRows.Add(change, put.Piece, Reference.To(number), null);
                change.What = $"put slip {number} into P {put.Piece} “{into.Title}”";
                return new Settled(Settle(change, slip, SlipState.Kept), put.Piece, null);
            case Decision.Hold hold:
                hold.CheckAfter(change.Today);
                change.What = $"held slip {number} until {hold.Until.Kept()}";
                return new Settled(Settle(change, slip, SlipState.Held, heldUntil: hold.Until), null, null);
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
    });

    private static Slip Settle(Change change, Slip slip, SlipState state, DateOnly? heldUntil = null, SlipNumber? mergedInto = null)
    {
        change.Db.Execute(
            """
            UPDATE slip SET state = @state, held_until = @heldUntil, merged_into = @mergedInto, settled_at = @settled, version = version + 1
            WHERE number = @Number
            """, new { state = state.Kept(), heldUntil, mergedInto, settled = state == SlipState.Waiting ? (DateTimeOffset?)null : change.Now, slip.Number });
        return SlipRows.Get(change.Db, slip.Number);
    }

    /// <summary>The text goes to the end of the other slip; topics and the pieces it stood in follow.</summary>
    private static Slip Merge(Change change, Slip slip, SlipNumber into)
    {
        if (into == slip.Number) throw new BadInputException("slip", "A slip can't be merged into itself.");
        var other = SlipRows.Find(change.Db, into) ?? throw new BadInputException("slip", $"There is no slip {into}.");
        if (other.MergedInto is { } further) throw new BadInputException("slip", $"Slip {into} was itself merged into slip {further}.");
        var text = Check.Length("text", other.Text.TrimEnd() + "\n\n" + slip.Text, Slip.LongestText);
        change.Db.Execute("UPDATE slip SET text = @text, version = version + 1 WHERE number = @into", new { text, into });
        Links.Write(change.Db, Reference.To(into), text);
        SlipRows.SetTopics(change.Db, into, [.. other.Topics.Concat(slip.Topics).Select(t => t.Number).Distinct()]);
        change.Db.Execute(
            """
            UPDATE material SET slip = @into WHERE slip = @Number AND piece NOT IN (SELECT piece FROM material WHERE slip = @into);
            DELETE FROM material WHERE slip = @Number;
            """, new { into, slip.Number });
        Settle(change, slip, SlipState.Dropped, mergedInto: into);
        return SlipRows.Get(change.Db, into);
    }
}
