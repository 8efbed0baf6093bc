using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Catalogue;

/// <summary>A piece that went out, as its writer says.</summary>
/// <param name="Outlet">Where; its piece's when left out.</param>
/// <param name="OutOn">The day; today when left out.</param>
/// <param name="Address">Where it can be read.</param>
/// <param name="Title">Its title there; the piece's when left out.</param>
/// <param name="Text">What was sent, as Markdown; the piece as it stands when left out.</param>
public sealed record NewRelease(
    OutletNumber? Outlet = null,
    DateOnly? OutOn = null,
    string? Address = null,
    string? Title = null,
    string? Text = null
);

/// <summary>Something a release speaks of, as typed.</summary>
/// <param name="Topic">Name of a topic, made where there is none; empty for none.</param>
public sealed record SpokenOfTyped(string? Topic, string? Words);

/// <summary>A change to what is said of a release; what is not set stays. Its text is as it was sent.</summary>
public sealed record ReleaseChange
{
    public int? Version { get; init; }
    public DateOnly? OutOn { get; init; }
    public string? Address { get; init; }

    /// <summary>One line; empty to have it made of what it speaks of.</summary>
    public string? Summary { get; init; }

    public ReleaseKind? Kind { get; init; }

    /// <summary>What was tried with it, in a few words.</summary>
    public string? Tried { get; init; }

    /// <summary>What it speaks of, all of it, in order.</summary>
    public IReadOnlyList<SpokenOfTyped>? SpeaksOf { get; init; }
}

/// <summary>What was put right.</summary>
/// <param name="Note">What was wrong, as readers are told.</param>
public sealed record CorrectionNote(string? Note);

/// <summary>An earlier release that is spoken of again.</summary>
/// <param name="Into">The piece in hand.</param>
/// <param name="Sentence">A sentence of the release that is quoted; empty for none.</param>
public sealed record CallBackRequest(PieceNumber? Into, string? Sentence = null);

/// <summary>Where a reference was put.</summary>
/// <param name="At">Where in its draft, in UTF-16 units.</param>
public sealed record CalledBack(PieceNumber Piece, int At);

/// <summary>What went out.</summary>
public sealed class ReleaseStore(PapersFile papers)
{
    private const int LongestSentence = 2_000;

    /// <summary>All releases, the latest first, without their texts.</summary>
    public IReadOnlyList<Release> List() =>
        papers.Read(db => ReleaseRows.List(db, "EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)", null));

    public Release Get(ReleaseNumber number) => papers.Read(db => ReleaseRows.Get(db, number));

    /// <summary>What it may speak of besides what is said of it.</summary>
    public IReadOnlyList<SpokenOf> Offered(ReleaseNumber number) =>
        papers.Read(db =>
        {
            var release = ReleaseRows.Get(db, number);
            var piece = PieceRows.Get(db, release.Piece);
            return SpokenOffers.Of(
                release.Text,
                piece.Topics,
                release.SpeaksOf,
                FormatRows.Named(db, piece.Format).Skeleton.Select(s => s.Title).ToHashSet(StringComparer.OrdinalIgnoreCase)
            );
        });

    /// <summary>The releases of a piece, the latest first, without their texts.</summary>
    public IReadOnlyList<Release> Of(PieceNumber piece) =>
        papers.Read(db =>
        {
            PieceRows.Get(db, piece);
            return ReleaseRows.Of(db, piece);
        });

    /// <summary>Notes that a piece went out. One that is still in hand comes to its last stage.</summary>
    /// <exception cref="ClashException">It went out there on that day already.</exception>
    public Done<Release> Record(PieceNumber number, NewRelease made, Once once) =>
        papers.Run("noted a release", once, change => Record(change, number, made));

    /// <inheritdoc cref="Record(PieceNumber, NewRelease, Once)"/>
    internal static Release Record(Change change, PieceNumber number, NewRelease made)
    {
        var address = Check.WebAddress("address", made.Address);
        var title = made.Title is null ? null : Check.Text("title", made.Title, Piece.LongestTitle);
        var text = made.Text is null ? null : Check.Text("text", made.Text, DraftText.Longest);
        if (made.OutOn is { } day && (!Check.IsDay(day) || day > change.Today))
            throw new BadInputException("outOn", "A day on which it went out is not after today.");
        var db = change.Db;
        var piece = PieceRows.Get(db, number);
        var outlet = made.Outlet ?? piece.Outlet;
        var name = outlet is { } at ? OutletRows.Get(db, at).Name : "nowhere in particular";
        var on = made.OutOn ?? change.Today;
        if (ReleaseRows.Of(db, number).Any(r => r.Outlet == outlet && r.OutOn == on))
            throw new ClashException($"P {number} went out on {name} on that day already.");
        var release = ReleaseRows.AsItStands(db, piece, ReleaseWay.Hand, on) with { Outlet = outlet, Address = address };
        if (title is not null)
            release = release with { Title = title };
        if (text is not null)
            release = release with { Text = text };
        if (release.Text.Trim().Length == 0)
            throw new BadInputException("text", $"There is not a word in P {number} yet; write it, or paste what was sent.");
        var put = ReleaseRows.Put(db, release);
        if (piece.OutOn is null)
            ToLastStage(change, piece, on);
        ReleaseRows.Mirror(db, number);
        change.What = $"noted that P {number} went out on {name}";
        return ReleaseRows.Get(db, put);
    }

    /// <summary>Moves a piece that went out to its last stage.</summary>
    internal static void ToLastStage(Change change, Piece piece, DateOnly on)
    {
        var stage = FormatRows.Named(change.Db, piece.Format).Stages[^1];
        VersionRows.Keep(
            change,
            piece.Number,
            DraftRows.Read(change.Db, piece.Number).Outline.Text,
            change.Now,
            VersionWhy.Stage,
            $"as it left {piece.Stage}"
        );
        change.Db.Execute(
            "UPDATE piece SET stage = @stage, out_on = @on, changed_at = @Now, version = version + 1 WHERE number = @Number",
            new
            {
                stage,
                on,
                change.Now,
                piece.Number,
            }
        );
        StageRows.Enter(change.Db, piece.Number, stage, change.Now);
        StandingTextRows.Freeze(change, piece.Number, isOut: true);
    }

    public Done<Release> Edit(ReleaseNumber number, ReleaseChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var address = edit.Address is null ? null : Check.WebAddress("address", edit.Address);
        var summary = edit.Summary is null ? null : Check.Length("summary", edit.Summary.Trim(), Release.LongestSummary);
        var tried = edit.Tried is null ? null : Check.Length("tried", edit.Tried.Trim(), Release.LongestTried);
        if (edit.OutOn is { } day && (!Check.IsDay(day) || day > papers.Today))
            throw new BadInputException("outOn", "A day on which it went out is not after today.");
        if (edit.SpeaksOf?.Count > Release.MostSpokenOf)
            throw new BadInputException("speaksOf", $"A release speaks of at most {Release.MostSpokenOf} things.");
        return papers.Run(
            $"changed R {number}",
            once,
            change =>
            {
                var db = change.Db;
                var release = ReleaseRows.Get(db, number);
                if (release.Version != based)
                    throw new StaleException($"R {number}", release);
                db.Execute(
                    "UPDATE release SET out_on = @on, address = @address, summary = @summary, tried = @tried, kind = @kind, "
                        + "version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        on = edit.OutOn ?? release.OutOn,
                        address = address ?? release.Address,
                        summary = summary ?? release.Summary,
                        tried = tried ?? release.Tried,
                        kind = (edit.Kind ?? release.Kind).Kept(),
                    }
                );
                if (edit.SpeaksOf is { } typed)
                    ReleaseRows.SetSpeaksOf(db, number, Spoken(db, typed));
                ReleaseRows.Mirror(db, release.Piece);
                return ReleaseRows.Get(db, number);
            }
        );
    }

    private static List<SpokenOf> Spoken(SqliteConnection db, IReadOnlyList<SpokenOfTyped> typed)
    {
        var spoken = new List<SpokenOf>();
        foreach (var one in typed)
        {
            var words = one.Words?.Trim() ?? "";
            if (words.Length > Release.LongestWords)
                throw new BadInputException("speaksOf", $"What it speaks of is said in at most {Release.LongestWords} characters.");
            Check.Length("speaksOf", words, Release.LongestWords);
            var topic = string.IsNullOrWhiteSpace(one.Topic)
                ? null
                : TopicRows.NumbersFor(db, [one.Topic]).Select(n => new TopicMark(n, "", default)).FirstOrDefault();
            if (topic is not null || words.Length > 0)
                spoken.Add(new SpokenOf(topic, words));
        }
        return spoken;
    }

    /// <summary>Notes what was wrong in a release, with the piece as it stands now as the text put right. What was sent stays beside
    /// it.</summary>
    /// <exception cref="ClashException">Nothing in the piece is other than it was.</exception>
    public Done<Release> Correct(ReleaseNumber number, CorrectionNote correction, Once once)
    {
        var note = Check.Text("note", correction.Note, Release.LongestNote);
        return papers.Run(
            $"corrected R {number}",
            once,
            change =>
            {
                var release = ReleaseRows.Get(change.Db, number);
                var text = ReleaseRows.AsSent(change.Db, release.Piece);
                if (text == (release.Corrections.Count > 0 ? release.Corrections[^1].Text : release.Text).TrimEnd())
                    throw new ClashException($"P {release.Piece} reads as it was sent. Put it right in its draft first.");
                ReleaseRows.Put(change.Db, number, new Correction(change.Now, note, text));
                change.Db.Execute("UPDATE release SET version = version + 1 WHERE number = @number", new { number });
                return ReleaseRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>Writes down that the last correction stands at the outlet, too. It reached its readers, and is not taken back.</summary>
    public void IsRightThere(ReleaseNumber number) =>
        papers.Run(
            $"put R {number} right where it went out",
            Once.Unkeyed,
            change =>
            {
                change.Db.Execute(
                    "UPDATE correction SET there_at = @Now WHERE id = (SELECT max(id) FROM correction WHERE release = @number)",
                    new { change.Now, number }
                );
                change.Db.Execute("UPDATE release SET version = version + 1 WHERE number = @number", new { number });
                return number;
            }
        );

    /// <summary>Puts a reference to an earlier piece at the end of a draft, with a sentence of it where one is named.</summary>
    /// <exception cref="BadInputException">The piece is the same, or is out itself.</exception>
    public Done<CalledBack> CallBack(ReleaseNumber number, CallBackRequest asked, Once once)
    {
        var into = asked.Into ?? throw new BadInputException("into", "Name the piece it is called back in.");
        var sentence = Check.Length("sentence", asked.Sentence, LongestSentence);
        return papers.Run(
            $"called R {number} back in P {into}",
            once,
            change =>
            {
                var release = ReleaseRows.Get(change.Db, number);
                var piece = PieceRows.Get(change.Db, into);
                if (piece.OutOn is not null || into == release.Piece)
                    throw new BadInputException("into", $"P {into} is out; an earlier release is called back in a piece in hand.");
                change.OnPiece = into;
                var (next, start, _) = DraftRows
                    .Read(change.Db, into)
                    .Outline.Insert(Insertion.CallBack(release.Piece, sentence), null, null);
                DraftRows.Write(change, into, next);
                return new CalledBack(into, start);
            }
        );
    }

    /// <summary>Takes away a release that was noted by mistake. The piece is out still; where it is its only one, it is taken back from
    /// its last stage instead.</summary>
    /// <exception cref="ClashException">It is the only one of its piece, or the queue sent it.</exception>
    public Done<Release> Remove(ReleaseNumber number, Once once) =>
        papers.Run(
            $"took R {number} away",
            once,
            change =>
            {
                var release = ReleaseRows.Get(change.Db, number);
                if (release.Way == ReleaseWay.Sent)
                    throw new ClashException($"R {number} was sent from here, and what was sent is kept. Put an error right instead.");
                if (ReleaseRows.Of(change.Db, release.Piece).Count == 1)
                    throw new ClashException(
                        $"R {number} is all there is of P {release.Piece} having gone out. Take the piece back to an earlier stage instead."
                    );
                ReleaseRows.Remove(change.Db, number);
                ReleaseRows.Mirror(change.Db, release.Piece);
                return release;
            }
        );

    /// <summary>Says that a piece is never to go to an outlet, or takes that back.</summary>
    public Done<bool> SetNever(PieceNumber piece, OutletNumber outlet, bool never, Once once) =>
        papers.Run(
            never ? $"P {piece} is never to go there" : $"P {piece} may go there",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                var name = OutletRows.Get(change.Db, outlet).Name;
                if (never)
                    ReleaseRows.PutNever(change.Db, piece, outlet);
                else
                    change.Db.Execute("DELETE FROM never_there WHERE piece = @piece AND outlet = @outlet", new { piece, outlet });
                change.What = never ? $"P {piece} is never to go to {name}" : $"P {piece} may go to {name} again";
                return never;
            }
        );
}
