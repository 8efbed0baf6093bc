using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Queue;

/// <summary>A piece to be sent.</summary>
/// <param name="Outlet">Where; one that is connected.</param>
/// <param name="Title">Its title there; the piece's when left out.</param>
/// <param name="Text">What is sent, as Markdown; the piece as it stands when left out.</param>
/// <param name="Picture">A picture of its piece that goes with it, above the text; none when left out.</param>
/// <param name="Shows">What that shows, for those who can't see it.</param>
/// <param name="On">The day; now when left out.</param>
/// <param name="Time">The time on the writer's clock on that day, as HH:mm; 07:30 when left out.</param>
public sealed record NewSending(
    OutletNumber? Outlet,
    string? Title = null,
    string? Text = null,
    DateOnly? On = null,
    TimeOnly? Time = null,
    AttachmentNumber? Picture = null,
    string? Shows = null
);

/// <summary>A picture that may go out with a piece.</summary>
/// <param name="Shows">What it shows, where its draft says so; else empty.</param>
public sealed record PictureOffered(AttachmentNumber Attachment, string Name, string Shows);

/// <summary>How a piece would go out.</summary>
/// <param name="Parts">What goes out by itself.</param>
/// <param name="Over">What is over the outlet's limit, a sentence each.</param>
/// <param name="WentBefore">The release on which it went out there already; null when it has not.</param>
/// <param name="NextOpen">The outlet's next open date; null where it has none.</param>
/// <param name="Readers">How many get it by mail; null where it is no letter.</param>
/// <param name="Sound">The recording that goes into the feed; null where there is none, or the outlet is no feed.</param>
/// <param name="Chapters">Places in the recording that the text names; empty where the outlet is no feed.</param>
/// <param name="Pictures">Pictures of its piece, its cover first, that may go with it.</param>
public sealed record SendingPreview(
    string Title,
    string Text,
    IReadOnlyList<string> Parts,
    IReadOnlyList<string> Over,
    ReleaseNumber? WentBefore,
    DateOnly? NextOpen,
    int? Readers,
    SoundOfPiece? Sound,
    IReadOnlyList<Chapter> Chapters,
    IReadOnlyList<PictureOffered> Pictures
)
{
    /// <summary>How each part is seen where it goes out.</summary>
    public IReadOnlyList<ShownPart> Shown { get; init; } = [];
}

/// <summary>How something in the queue goes on.</summary>
public enum QueueAct
{
    /// <summary>It is tried at once.</summary>
    TryNow,

    /// <summary>Its writer saw that it did not arrive: it is sent again.</summary>
    SendAgain,

    /// <summary>Its writer saw that it arrived.</summary>
    ItArrived,

    /// <summary>It is not sent.</summary>
    TakeOut,
}

/// <summary>What is on its way.</summary>
public sealed class QueueStore(PapersFile papers, CadenceStore cadences, AudioStore audio)
{
    private const int MostParts = 100;
    private static readonly TimeOnly Usual = new(7, 30);

    /// <summary>All that is in the queue, the next first, and what was sent last.</summary>
    public IReadOnlyList<Sending> List() => papers.Read(db => SendingRows.List(db, "true", null));

    public Sending Get(SendingNumber number) => papers.Read(db => SendingRows.Get(db, number));

    /// <summary>How a piece would go out on an outlet.</summary>
    public SendingPreview Preview(PieceNumber number, NewSending asked)
    {
        // The piece's own day is open for it.
        var open = cadences
            .List()
            .Where(c => c.Cadence.Outlet == asked.Outlet)
            .SelectMany(c => c.Dates)
            .Where(d => d.Date >= papers.Today && (d.Piece is null || d.Piece == number))
            .Select(d => (DateOnly?)d.Date)
            .Min();
        var kind = papers.Read(db => KindOf(db, Named(asked)));
        var sound = kind == ConnectionKind.Feed ? audio.SoundOf(number) : null;
        return papers.Read(db =>
        {
            var piece = PieceRows.Get(db, number);
            var outlet = OutletRows.Get(db, Named(asked));
            var text = asked.Text ?? TextFor(db, number, kind, sound);
            var parts = Parts(db, piece, outlet.Number, text);
            return new SendingPreview(
                asked.Title ?? piece.Title,
                text,
                parts,
                [.. SendingRules.Over(parts, outlet.Limit), .. kind == ConnectionKind.Feed ? Unheard(number, text, sound) : []],
                ReleaseRows.Of(db, number).FirstOrDefault(r => r.Outlet == outlet.Number)?.Number,
                open,
                kind == ConnectionKind.Mail ? ReaderStore.Agreed(db, outlet.Number) : null,
                sound,
                kind == ConnectionKind.Feed ? Chapters.In(text) : [],
                [.. PicturesOf(db, number).Select(p => new PictureOffered(p.File.Number, p.File.Name, p.Shows))]
            );
        });
    }

    /// <summary>What of a release stands where, with its text put right.</summary>
    /// <exception cref="ClashException">It was not put right here, has another number of parts now, or nobody knows where it
    /// is.</exception>
    public (Release Release, IReadOnlyList<SendingPart> Parts) PutRight(ReleaseNumber number) =>
        papers.Read<(Release, IReadOnlyList<SendingPart>)>(db =>
        {
            var release = ReleaseRows.Get(db, number);
            if (release.Corrections is not [.., var correction])
                throw new ClashException($"Nothing of R {number} was put right yet.");
            var sent = SendingRows.List(db, "s.release = @number", new { number });
            if (sent is not [var sending, ..])
                return release.Address.Length == 0
                    ? throw new ClashException($"Nobody knows where R {number} can be read. Say its address first.")
                    : (release, [new SendingPart(1, "", correction.Text, PartState.Sent, release.Address)]);
            var texts = Parts(db, PieceRows.Get(db, release.Piece), sending.Outlet, correction.Text);
            if (texts.Count != sending.Parts.Count)
                throw new ClashException(
                    $"It went out in {sending.Parts.Count} parts and has {texts.Count} now; put it right there by hand, post by post."
                );
            return (release, [.. sending.Parts.Zip(texts, (part, text) => part with { Text = text })]);
        });

    /// <summary>How an outlet is reached; null while it is not.</summary>
    private static ConnectionKind? KindOf(SqliteConnection db, OutletNumber outlet) =>
        db.ExecuteScalar<string?>("SELECT kind FROM outlet_connection WHERE outlet = @outlet", new { outlet }) is { } kept
            ? Enum.Parse<ConnectionKind>(kept, ignoreCase: true)
            : null;

    /// <summary>What goes to an outlet when its writer changes nothing: the piece as it stands, in a feed after its chapters.</summary>
    private static string TextFor(SqliteConnection db, PieceNumber piece, ConnectionKind? kind, SoundOfPiece? sound)
    {
        var text = ReleaseRows.AsSent(db, piece);
        return
            kind == ConnectionKind.Feed && Chapters.In(text).Count == 0 && Chapters.Proposed(text, sound?.Ms ?? 0) is { Length: > 0 } lines
            ? $"{lines}\n{text}"
            : text;
    }

    /// <summary>Why a piece can't go into a feed as it is, a sentence each.</summary>
    private static IReadOnlyList<string> Unheard(PieceNumber piece, string text, SoundOfPiece? sound) =>
        sound is null ? [$"P {piece} has no recording yet. Attach an {SoundTypes.Said} file to it."] : Chapters.Wrong(text, sound.Ms);

    /// <summary>What goes out by itself: a letter or what goes into a feed is one, whatever its format.</summary>
    private static IReadOnlyList<string> Parts(SqliteConnection db, Piece piece, OutletNumber outlet, string text) =>
        KindOf(db, outlet) is { } kind && Connection.IsWhole(kind)
            ? text.Trim() is { Length: > 0 } whole
                ? [whole]
                : []
            : SendingRules.Parts(FormatRows.Named(db, piece.Format), text);

    /// <summary>The pictures of a piece: its cover, those that lie with it, and those that stand in its draft, each with what the draft
    /// says it shows.</summary>
    private static IReadOnlyList<(Attachment File, string Shows)> PicturesOf(SqliteConnection db, PieceNumber number)
    {
        var used = PicturesInText
            .In(DraftRows.Read(db, number).Outline.Text)
            .Select(p => (File: OutStore.PictureOf(db, number, p.Address), p.Shows))
            .Where(p => p.File is not null)
            .ToList();
        var cover = BriefRows.Read(db, number).Cover is { } chosen ? AttachmentStore.FindIn(db, chosen) : null;
        return
        [
            .. new[] { cover }
                .Concat(AttachmentStore.Of(db, Reference.To(number)))
                .Concat(used.Select(p => p.File))
                .OfType<Attachment>()
                .Where(file => file.IsPicture)
                .DistinctBy(file => file.Number)
                .Select(file => (file, used.FirstOrDefault(p => p.File!.Number == file.Number).Shows ?? "")),
        ];
    }

    /// <summary>The picture that is to go with it; null for none.</summary>
    private static SentPicture? PictureIn(SqliteConnection db, PieceNumber number, NewSending asked)
    {
        if (asked.Picture is not { } chosen)
            return null;
        var shows = Check.Length("shows", asked.Shows?.Trim(), SentPicture.LongestShows);
        if (PicturesOf(db, number).FirstOrDefault(p => p.File.Number == chosen).File is not { } file)
            throw new BadInputException("picture", $"P {number} has no such picture. Attach it to the piece first.");
        if (shows.Length == 0)
            throw new BadInputException("shows", "Say what the picture shows, for those who can't see it.");
        return new SentPicture(file.Name, file.Hash, file.Type, shows, file.Credit);
    }

    private static OutletNumber Named(NewSending asked) =>
        asked.Outlet ?? throw new BadInputException("outlet", "Say where it is to go out.");

    /// <summary>Puts a piece into the queue.</summary>
    /// <exception cref="BadInputException">There is nothing in it, it is over the outlet's limit, or the outlet can't be
    /// reached.</exception>
    /// <exception cref="ClashException">It waits for that outlet already.</exception>
    public Done<Sending> Queue(PieceNumber number, NewSending asked, Once once)
    {
        var to = Named(asked);
        var title = asked.Title is null ? null : Check.Text("title", asked.Title, Piece.LongestTitle);
        if (asked.Text is not null)
            Check.Text("text", asked.Text, DraftText.Longest);
        if (asked.On is { } day && (!Check.IsDay(day) || day < papers.Today))
            throw new BadInputException("on", "A day on which it is to go out is not before today.");
        var isHeard = papers.Read(db => KindOf(db, to)) == ConnectionKind.Feed;
        var sound = isHeard ? audio.SoundOf(number) : null;
        return papers.Run(
            "put a piece into the queue",
            once,
            change =>
            {
                var db = change.Db;
                var piece = PieceRows.Get(db, number);
                var outlet = OutletRows.Get(db, to);
                if (db.ExecuteScalar<int>("SELECT count(*) FROM outlet_connection WHERE outlet = @to", new { to }) == 0)
                    throw new BadInputException(
                        "outlet",
                        $"“{outlet.Name}” is not connected. Connect it under Plan, or note by hand that it went out."
                    );
                if (
                    db.ExecuteScalar<int>(
                        "SELECT count(*) FROM sending WHERE piece = @number AND outlet = @to AND state <> 'sent'",
                        new { number, to }
                    ) > 0
                )
                    throw new ClashException($"P {number} is on its way to “{outlet.Name}” already.");
                if (KindOf(db, to) == ConnectionKind.Mail && ReaderStore.Agreed(db, to) == 0)
                    throw new BadInputException("outlet", $"“{outlet.Name}” has no readers yet. Put some on its list, under Plan.");
                var text = (asked.Text ?? TextFor(db, number, KindOf(db, to), sound)).Trim();
                var parts = Parts(db, piece, to, text);
                if (parts.Count == 0)
                    throw new BadInputException("text", $"There is not a word in P {number} yet.");
                if (parts.Count > MostParts)
                    throw new BadInputException("text", $"It has {parts.Count} parts; at most {MostParts} go out in a row.");
                if (SendingRules.Over(parts, outlet.Limit) is [var over, ..])
                    throw new BadInputException("text", over);
                if (isHeard && Unheard(number, text, sound) is [var unheard, ..])
                    throw new BadInputException(sound is null ? "outlet" : "text", unheard);
                var at = asked.On is { } on ? SendingRules.At(on, asked.Time ?? Usual, change.Zone) : change.Now;
                if (asked.On is not null && at < change.Now)
                    throw new BadInputException("time", "That time has passed. Choose a later one, or send it now.");
                var put = SendingRows.Put(
                    db,
                    new Sending
                    {
                        Number = SendingNumber.Of(1),
                        Piece = number,
                        Outlet = to,
                        Title = title ?? piece.Title,
                        Text = text,
                        Picture = PictureIn(db, number, asked),
                        At = at,
                        NextTry = at,
                        // The command is the writer's act; the same act gives the same key, whatever happens afterwards.
                        Parts =
                        [
                            .. parts.Select((p, i) => new SendingPart(i + 1, KeyOf(change, number, to, i + 1), p, PartState.Waits, "")),
                        ],
                    },
                    change.Now
                );
                change.What = $"put P {number} into the queue for “{outlet.Name}”";
                return SendingRows.Get(db, put);
            }
        );
    }

    private static string KeyOf(Change change, PieceNumber piece, OutletNumber outlet, int nth) =>
        Release.HashOf($"{change.Now.Kept()} {change.Number}", $"{piece} {outlet} {nth}")[..24];

    /// <summary>Does with something in the queue what its writer says.</summary>
    /// <exception cref="ClashException">It is not at a state in which that can be done.</exception>
    public Sending Act(SendingNumber number, QueueAct act)
    {
        var acted = papers.Alone(db =>
        {
            var sending = SendingRows.Get(db, number);
            if (sending.State is SendingState.Sent or SendingState.Tries)
                throw new ClashException(sending.State == SendingState.Sent ? "It was sent." : "It is being sent right now.");
            var now = papers.Time.GetUtcNow();
            var next = act switch
            {
                QueueAct.TryNow => sending with { State = SendingState.Waits, NextTry = now, At = sending.At, Tries = 0, Problem = "" },
                QueueAct.SendAgain => sending with
                {
                    State = SendingState.Waits,
                    NextTry = now,
                    Tries = 0,
                    Problem = "",
                    Parts = [.. sending.Parts.Select(p => p.State == PartState.Tries ? p with { State = PartState.Waits } : p)],
                },
                QueueAct.ItArrived => sending with
                {
                    State = SendingState.Waits,
                    NextTry = now,
                    Tries = 0,
                    Problem = "",
                    Parts = [.. sending.Parts.Select(p => p.State == PartState.Tries ? p with { State = PartState.Sent } : p)],
                },
                _ => sending,
            };
            if (sending.Letters is { } letters && sending.Parts is [var letter])
            {
                if (act is QueueAct.SendAgain or QueueAct.ItArrived)
                    LetterStore.Settle(db, letter.Key, act == QueueAct.SendAgain ? CopyState.Waits : CopyState.Sent);
                // Some have it; the rest is kept from going, and what went is a release.
                if (act == QueueAct.TakeOut && letters.Sent + letters.Unknown > 0)
                {
                    LetterStore.Stop(db, letter.Key);
                    SendingRows.Stand(
                        db,
                        sending with
                        {
                            State = SendingState.Waits,
                            NextTry = now,
                            Parts = [letter with { State = PartState.Sent }],
                        }
                    );
                    return SendingRows.Get(db, number);
                }
                if (act == QueueAct.ItArrived && letters.Waits > 0)
                    next = next with { Parts = [letter with { State = PartState.Waits }] };
            }
            if (act == QueueAct.TakeOut)
            {
                if (sending.Parts.Any(p => p.State == PartState.Sent))
                    throw new ClashException("A part of it is out already; let the rest go, or say in the Catalogue what became of it.");
                SendingRows.Remove(db, number);
                return sending;
            }
            if (now - sending.At > SendingRules.Lateness)
                db.Execute("UPDATE sending SET at = @now WHERE number = @number", new { now, number });
            SendingRows.Stand(db, next);
            return SendingRows.Get(db, number);
        });
        papers.Nudge("sending", number.Value);
        return acted;
    }

    /// <summary>What is to be sent now, the longest due first. What is far too late asks first.</summary>
    public IReadOnlyList<Sending> Due()
    {
        var now = papers.Time.GetUtcNow();
        var due = papers.Read(db => SendingRows.List(db, "s.state IN ('waits', 'tries') AND s.next_try <= @now", new { now }));
        var late = due.Where(s => s.History.Count == 0 && now - s.At > SendingRules.Lateness).ToList();
        foreach (var sending in late)
            Write(
                sending with
                {
                    State = SendingState.Asks,
                    Problem = "Its time passed while Nachlass was not running, or the clock was set. Send it now?",
                }
            );
        return [.. due.Except(late)];
    }

    /// <summary>Notes before the first byte leaves that a part is being sent, so that after a crash it is looked for, not sent
    /// blindly.</summary>
    public Sending Begin(Sending sending, int nth) =>
        Write(
            sending with
            {
                State = SendingState.Tries,
                Parts = [.. sending.Parts.Select(p => p.Nth == nth ? p with { State = PartState.Tries } : p)],
            }
        );

    /// <summary>Notes what became of an attempt.</summary>
    public Sending End(Sending sending, int nth, Outcome outcome)
    {
        var now = papers.Time.GetUtcNow();
        var next = SendingRules.After(sending, nth, outcome, now);
        papers.Alone(db =>
        {
            using var whole = db.BeginTransaction();
            db.Execute(
                "INSERT INTO sending_try (sending, nth, at, outcome, note) VALUES (@Number, @nth, @now, @outcome, @note)",
                new
                {
                    sending.Number,
                    nth,
                    now,
                    outcome = outcome.GetType().Name,
                    note = outcome switch
                    {
                        Outcome.Taken(var address) => address,
                        Outcome.WasThere(var address) => address,
                        _ => next.Problem,
                    },
                }
            );
            SendingRows.Stand(db, next);
            whole.Commit();
            return 0;
        });
        papers.Nudge("sending", sending.Number.Value);
        return next;
    }

    private Sending Write(Sending sending)
    {
        papers.Alone(db =>
        {
            using var whole = db.BeginTransaction();
            SendingRows.Stand(db, sending);
            whole.Commit();
            return 0;
        });
        papers.Nudge("sending", sending.Number.Value);
        return sending;
    }

    /// <summary>Makes a release of what has been sent whole, and takes its piece to its last stage.</summary>
    public void Finish(Sending sending)
    {
        var sound = papers.Read(db => KindOf(db, sending.Outlet)) == ConnectionKind.Feed ? audio.SoundOf(sending.Piece) : null;
        papers.Run(
            "sent a piece",
            Once.Unkeyed,
            change =>
            {
                var db = change.Db;
                if (SendingRows.Get(db, sending.Number).State == SendingState.Sent)
                    return 0;
                var piece = PieceRows.Get(db, sending.Piece);
                var outlet = OutletRows.Get(db, sending.Outlet);
                var on = change.Today;
                var release = ReleaseRows.Put(
                    db,
                    new Release
                    {
                        Number = ReleaseNumber.Of(0),
                        Piece = sending.Piece,
                        Outlet = sending.Outlet,
                        OutOn = on,
                        Way = ReleaseWay.Sent,
                        Kind = sound is null ? ReleaseKind.Usual : ReleaseKind.Spoken,
                        Title = sending.Title,
                        Text = sending.Text,
                        Hash = "",
                        Address = sending.Parts[0].Address,
                        Picture = sending.Picture,
                        Recording = sound?.As(sending.Parts[0].Key, sending.At),
                    }
                );
                if (piece.OutOn is null)
                    ReleaseStore.ToLastStage(change, piece, on);
                ReleaseRows.Mirror(db, piece.Number);
                SendingRows.Stand(db, sending with { State = SendingState.Sent, Release = release, Problem = "", Tries = 0 });
                change.What = $"sent P {piece.Number} to “{outlet.Name}”";
                return 0;
            }
        );
    }
}
