using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>Whether a part was copied out.</summary>
public enum Copied
{
    No,
    Yes,

    /// <summary>It was, and reads otherwise now.</summary>
    Changed,
}

/// <summary>A part of a thread as it goes out.</summary>
/// <param name="Nth">From 0.</param>
/// <param name="Text">As it stands in the draft.</param>
/// <param name="From">Where it begins in the draft, in UTF-16 units.</param>
/// <param name="Goes">As it goes out: without our references, without marks, with its number.</param>
/// <param name="Measured">Against its limit, its number counted; null where there is none.</param>
/// <param name="OverFrom">Where in <paramref name="Goes"/> it begins to be over; null when it goes in.</param>
public sealed record ThreadPartShown(int Nth, string Text, int From, string Goes, Measured? Measured, int? OverFrom, Copied Copied);

/// <summary>A draft as the parts in which it goes out.</summary>
/// <param name="IsNumbered">Whether each says which one it is.</param>
public sealed record ThreadShown(PieceNumber Piece, int Version, bool IsNumbered, IReadOnlyList<ThreadPartShown> Parts);

/// <summary>A change to the parts of a thread.</summary>
/// <param name="Version">Of the draft it is based on.</param>
/// <param name="Act">What is done.</param>
/// <param name="Nth">The part it is done to, from 0; for cutting, all when null.</param>
/// <param name="To">The place a moved part gets, from 0.</param>
public sealed record ThreadChange(int? Version, ThreadAct? Act, int? Nth = null, int? To = null);

/// <summary>What can be done with the parts of a thread.</summary>
public enum ThreadAct
{
    /// <summary>Cut what is over at the ends of sentences.</summary>
    Fit,

    /// <summary>Join a part to the next one.</summary>
    Join,
    Move,
}

/// <summary>Ticks of a thread, and whether it is numbered.</summary>
/// <param name="Nth">The part that was copied out, or was not, from 0.</param>
public sealed record ThreadTick(int? Nth = null, bool Copied = false, bool? Numbered = null);

/// <summary>Drafts that go out in parts.</summary>
public sealed class ThreadStore(PapersFile papers)
{
    public ThreadShown Get(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static ThreadShown Of(SqliteConnection db, PieceNumber number)
    {
        var piece = PieceRows.Get(db, number);
        var limits = FormatRows.Named(db, piece.Format).Limits;
        var (outline, version, _) = DraftRows.Read(db, number);
        var draft = outline.Text;
        var isNumbered = db.ExecuteScalar<int>("SELECT numbered FROM piece WHERE number = @number", new { number }) != 0;
        var copied = db.Query<(int Nth, string Text)>("SELECT nth, text FROM thread_copied WHERE piece = @number", new { number })
            .ToDictionary(c => c.Nth, c => c.Text);
        var parts = ThreadParts.In(draft);
        var going = parts.Select((part, i) => Goes(db, number, part.Text) + ThreadCut.Numbering(isNumbered, i + 1, parts.Count)).ToList();
        // A part is known by its words wherever it has moved to; one whose words nobody has any more was changed.
        var gone = copied.Where(c => !going.Contains(c.Value)).Select(c => c.Key).ToHashSet();
        var shown = parts
            .Select(
                (part, i) =>
                {
                    var behind = ThreadCut.Numbering(isNumbered, i + 1, parts.Count);
                    var goes = going[i][..^behind.Length];
                    return new ThreadPartShown(
                        i,
                        part.Text,
                        part.From,
                        goes + behind,
                        limits.Part is { } limit ? Measure.Of(goes + behind, limit, limits) : null,
                        limits.Part is { } most ? ThreadCut.OverFrom(goes, behind, most, limits) : null,
                        copied.ContainsValue(going[i]) ? Copied.Yes
                            : gone.Contains(i) ? Copied.Changed
                            : Copied.No
                    );
                }
            )
            .ToList();
        return new ThreadShown(number, version, isNumbered, shown);
    }

    /// <summary>As words alone: with standing texts, without our references, remarks and marks.</summary>
    private static string Goes(SqliteConnection db, PieceNumber piece, string text) =>
        PlainText
            .Of(
                Core.Bench.Finished.Markdown(
                    "",
                    new Format { Key = "", Name = "" },
                    StandingTextRows.Filled(db, piece, Links.WrittenOut(db, text)),
                    thing => Links.TitleOf(db, thing),
                    new FinishedAs { WithTitle = false }
                )
            )
            .ReplaceLineEndings("\n")
            .Trim();

    /// <summary>Cuts, joins or moves parts.</summary>
    /// <exception cref="StaleException">The draft was changed elsewhere since.</exception>
    public Done<Draft> Edit(PieceNumber number, ThreadChange asked, Once once)
    {
        var based = Check.Version(asked.Version);
        var act = asked.Act ?? throw new BadInputException("act", "Say what is to be done with the parts.");
        return papers.Run(
            act switch
            {
                ThreadAct.Fit => $"cut P {number} to fit",
                ThreadAct.Join => $"joined two parts of P {number}",
                _ => $"moved a part of P {number}",
            },
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, number);
                if (current != based)
                    throw new StaleException($"The draft of P {number}", DraftStore.Of(change.Db, number));
                var draft = outline.Text;
                var next = act switch
                {
                    ThreadAct.Fit => Fitted(change.Db, number, draft),
                    ThreadAct.Join => ThreadCut.Joined(draft, asked.Nth ?? -1)
                        ?? throw new BadInputException("nth", "There is no part to join it to, or a heading stands between."),
                    _ => ThreadCut.Moved(draft, asked.Nth ?? -1, asked.To ?? -1)
                        ?? throw new BadInputException("to", "There is no such part, or no such place."),
                };
                change.OnPiece = number;
                if (next != draft)
                    DraftRows.Write(change, number, outline.Rewrite(next, null));
                return DraftStore.Of(change.Db, number);
            }
        );
    }

    private static string Fitted(SqliteConnection db, PieceNumber number, string draft)
    {
        var piece = PieceRows.Get(db, number);
        var limits = FormatRows.Named(db, piece.Format).Limits;
        return limits.Part is { } limit
            ? ThreadCut.Fitted(
                draft,
                db.ExecuteScalar<int>("SELECT numbered FROM piece WHERE number = @number", new { number }) != 0,
                limit,
                limits
            )
            : throw new ClashException($"The format of P {number} has no limit for a part, so there is nothing to fit.");
    }

    /// <summary>Ticks a part as copied out, in its words now; or says whether parts are numbered.</summary>
    public Done<ThreadShown> Tick(PieceNumber number, ThreadTick tick, Once once) =>
        papers.Run(
            $"ticked a part of P {number}",
            once,
            change =>
            {
                if (tick.Numbered is { } numbered)
                {
                    change.Db.Execute("UPDATE piece SET numbered = @numbered WHERE number = @number", new { numbered, number });
                    change.What = numbered ? $"numbered the parts of P {number}" : $"took the numbers off the parts of P {number}";
                }
                if (tick.Nth is { } nth)
                {
                    var part =
                        Of(change.Db, number).Parts.FirstOrDefault(p => p.Nth == nth)
                        ?? throw new BadInputException("nth", $"P {number} has no part {nth + 1}.");
                    change.Db.Execute(
                        "DELETE FROM thread_copied WHERE piece = @number AND (nth = @nth OR text = @Goes)",
                        new
                        {
                            number,
                            nth,
                            part.Goes,
                        }
                    );
                    if (tick.Copied)
                        Put(change.Db, number, nth, part.Goes);
                }
                return Of(change.Db, number);
            }
        );

    internal static void Put(SqliteConnection db, PieceNumber piece, int nth, string text) =>
        db.Execute(
            "INSERT INTO thread_copied (piece, nth, text) VALUES (@piece, @nth, @text)",
            new
            {
                piece,
                nth,
                text,
            }
        );

    internal static ThreadImage? Image(SqliteConnection db, PieceNumber piece)
    {
        var isNumbered = db.ExecuteScalar<int>("SELECT numbered FROM piece WHERE number = @piece", new { piece }) != 0;
        var copied = db.Query<(int, string)>("SELECT nth, text FROM thread_copied WHERE piece = @piece ORDER BY nth", new { piece })
            .AsList();
        return isNumbered || copied.Count > 0 ? new ThreadImage(isNumbered, copied) : null;
    }

    internal static void Put(SqliteConnection db, PieceNumber piece, ThreadImage? image)
    {
        if (image is null)
            return;
        db.Execute("UPDATE piece SET numbered = @IsNumbered WHERE number = @piece", new { image.IsNumbered, piece });
        foreach (var (nth, text) in image.Copied)
            Put(db, piece, nth, text);
    }
}
