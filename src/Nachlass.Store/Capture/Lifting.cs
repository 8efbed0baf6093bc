using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>What was lifted out of a text when its writer left it.</summary>
/// <param name="Slips">New slips.</param>
/// <param name="Moves">New moves.</param>
public sealed record Lifted(IReadOnlyList<SlipNumber> Slips, IReadOnlyList<MoveNumber> Moves)
{
    public bool IsNothing => Slips.Count + Moves.Count == 0;

    /// <summary>In words: “slip 12, a move”.</summary>
    public override string ToString() =>
        string.Join(
            ", ",
            Slips
                .Select(n => $"slip {n}")
                .Concat(
                    Moves.Count switch
                    {
                        0 => [],
                        1 => ["a move"],
                        var several => (string[])[$"{several} moves"],
                    }
                )
        );
}

/// <summary>Makes slips of marked paragraphs and moves of <c>- [ ]</c> lines, in day sheets and in drafts alike. What was lifted is
/// remembered as it was worded, so that it is lifted once, and follows its text while nobody has taken it further.</summary>
internal static class Lifting
{
    /// <summary>Lifts what is marked in a text.</summary>
    /// <param name="change">The running command.</param>
    /// <param name="from">The day sheet or piece.</param>
    /// <param name="text">Its text.</param>
    /// <param name="left">Whether the writer has left the text; else only <paramref name="idea"/> is lifted.</param>
    /// <param name="idea">A stretch that becomes a slip, marked or not.</param>
    public static Lifted Run(Change change, Reference from, string text, bool left, string? idea)
    {
        var slips = Ideas(change, from, left ? SheetIdeas.In(text) : [], idea);
        return new Lifted(slips, left ? Moves(change, from, text) : []);
    }

    private static List<SlipNumber> Ideas(Change change, Reference from, IReadOnlyList<string> marked, string? idea)
    {
        var slips = new List<SlipNumber>();
        var lifted = Earlier(change.Db, from, "slip");
        var before = lifted.Select(l => l.Paragraph).ToList();
        // What the writer lifts out by hand is an idea of its own, however it begins.
        IEnumerable<(string Paragraph, string? Earlier)> ideas = idea is null || before.Contains(idea) ? [] : [(idea, null)];
        foreach (var (paragraph, earlier) in SheetIdeas.Changed(marked, before).Concat(ideas))
        {
            var reading = Read(paragraph, change.Today, move: false);
            var topics = TopicRows.NumbersFor(change.Db, reading.Topics);
            var (id, old, _) = lifted.FirstOrDefault(l => l.Paragraph == earlier);
            if (
                earlier is not null
                && SlipRows.Find(change.Db, SlipNumber.Of(old)) is { State: SlipState.Waiting } slip
                && slip.Text == Read(earlier, change.Today, move: false).Text
            )
            {
                change.Db.Execute("UPDATE slip SET text = @Text, version = version + 1 WHERE number = @old", new { reading.Text, old });
                Reword(change.Db, id, paragraph);
                SlipRows.SetTopics(change.Db, slip.Number, [.. slip.Topics.Select(t => t.Number).Union(topics)]);
                Links.Write(change.Db, Reference.To(slip.Number), reading.Text);
                continue;
            }
            var made = SlipRows.Add(
                change,
                new NewSlip(reading.Text)
                {
                    Kind = reading.Kind,
                    Origin = Origin.Sheet,
                    OriginNote = from.Kind == ThingKind.Piece ? from.ToString() : "",
                    Day = from.Kind == ThingKind.Day ? DateOnly.FromDayNumber(from.Number) : change.Today,
                    Topics = topics,
                }
            );
            Remember(change.Db, from, paragraph, "slip", made.Number.Value);
            slips.Add(made.Number);
        }
        return slips;
    }

    private static List<MoveNumber> Moves(Change change, Reference from, string text)
    {
        var made = new List<MoveNumber>();
        var written = MovesInText.In(text);
        var lifted = Earlier(change.Db, from, "move");
        var (piece, day) =
            from.Kind == ThingKind.Piece
                ? (PieceNumber.Of(from.Number), change.Today)
                : ((PieceNumber?)null, DateOnly.FromDayNumber(from.Number));
        foreach (
            var (words, earlier) in SheetIdeas.Changed([.. written.Select(m => m.Words).Distinct()], [.. lifted.Select(l => l.Paragraph)])
        )
        {
            var reading = Read(words, change.Today, move: true);
            var (id, old, _) = lifted.FirstOrDefault(l => l.Paragraph == earlier);
            if (earlier is null)
            {
                // What was ticked before it ever was a move is done already.
                if (written.First(m => m.Words == words).IsDone)
                    continue;
                var move = MoveRows.Add(change, reading.Text, reading.Date, piece, day);
                Remember(change.Db, from, words, "move", move.Number.Value);
                made.Add(move.Number);
                continue;
            }
            Reword(change.Db, id, words);
            if (old > 0 && MoveRows.Get(change.Db, MoveNumber.Of(old)).Text == Read(earlier, change.Today, move: true).Text)
                change.Db.Execute(
                    "UPDATE move SET text = @Text, due = coalesce(@Date, due), version = version + 1 WHERE number = @old",
                    new
                    {
                        reading.Text,
                        reading.Date,
                        old,
                    }
                );
        }
        foreach (var line in written.Where(m => m.IsDone))
            change.Db.Execute(
                """
                UPDATE move SET done_at = @Now, version = version + 1 WHERE done_at IS NULL
                    AND number IN (SELECT move FROM lifted WHERE in_kind = @kind AND in_number = @Number AND paragraph = @Words)
                """,
                new
                {
                    change.Now,
                    kind = from.Kind.Kept(),
                    from.Number,
                    line.Words,
                }
            );
        return made;
    }

    /// <summary>Ticks a move where it stands in a text, or opens it there again.</summary>
    public static void Tick(Change change, MoveNumber move, bool done)
    {
        var places = change.Db.Query<(string Kind, int Number, string Words)>(
            "SELECT in_kind, in_number, paragraph FROM lifted WHERE move = @move",
            new { move }
        );
        foreach (var (kind, number, words) in places.ToList())
            Renaming.Rewrite(
                change,
                new Reference(Enum.Parse<ThingKind>(kind, true), number),
                text => MovesInText.Ticked(text, words, done)
            );
    }

    /// <summary>Lets go of a move that is taken away; its line stays what it is, and does not become a move again.</summary>
    public static void Release(SqliteConnection db, MoveNumber move) =>
        db.Execute("UPDATE lifted SET move = NULL WHERE move = @move", new { move });

    private static CaptureReading Read(string words, DateOnly today, bool move) =>
        CaptureLine.Read(words, today, new Overruling(Move: move, Source: move ? null : false));

    private static List<(int Id, int Number, string Paragraph)> Earlier(SqliteConnection db, Reference from, string what) =>
        db.Query<(int, int, string)>(
                $"SELECT id, coalesce({what}, 0), paragraph FROM lifted "
                    + "WHERE in_kind = @kind AND in_number = @Number AND (slip IS NULL) = @isMove",
                new
                {
                    kind = from.Kind.Kept(),
                    from.Number,
                    isMove = what == "move",
                }
            )
            .AsList();

    private static void Remember(SqliteConnection db, Reference from, string paragraph, string what, int number) =>
        db.Execute(
            $"INSERT INTO lifted (in_kind, in_number, paragraph, {what}) VALUES (@kind, @Number, @paragraph, @number)",
            new
            {
                kind = from.Kind.Kept(),
                from.Number,
                paragraph,
                number,
            }
        );

    private static void Reword(SqliteConnection db, int id, string paragraph) =>
        db.Execute("UPDATE lifted SET paragraph = @paragraph WHERE id = @id", new { paragraph, id });
}
