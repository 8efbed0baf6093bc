using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue;

/// <summary>Releases as rows.</summary>
internal static class ReleaseRows
{
    /// <summary>The text of a release is asked for only where it is shown.</summary>
    private const string Columns =
        "r.number, r.piece, r.outlet, r.out_on, r.way, r.kind, r.title, r.words, r.hash, r.address, r.summary, r.tried, r.version";

    private static string Select(bool withText) => $"SELECT {Columns}, {(withText ? "r.text" : "'' AS text")} FROM release r";

    /// <summary>Releases that meet a condition, the latest first.</summary>
    /// <param name="withText">Whether their text and what was put right comes along.</param>
    public static IReadOnlyList<Release> List(SqliteConnection db, string where, object? arguments, bool withText = false)
    {
        var rows = db.Query<Release>($"{Select(withText)} WHERE {where} ORDER BY r.out_on DESC, r.number DESC", arguments).ToList();
        var numbers = new { numbers = Mapping.List(rows.Select(r => r.Number.Value)) };
        var topics = db.Query<SpokenRow>(
                """
                SELECT x.release, x.words, t.number, t.name, t.colour FROM release_topic x
                LEFT JOIN topic t ON t.number = x.topic WHERE x.release IN (SELECT value FROM json_each(@numbers)) ORDER BY x.id
                """,
                numbers
            )
            .ToLookup(x => x.Release, x => x.Whole);
        var corrections = withText
            ? db.Query<(int Release, DateTimeOffset At, string Note, string Text, DateTimeOffset? ThereAt)>(
                    "SELECT release, at, note, text, there_at FROM correction "
                        + "WHERE release IN (SELECT value FROM json_each(@numbers)) ORDER BY id",
                    numbers
                )
                .ToLookup(c => c.Release, c => new Correction(c.At, c.Note, c.Text, c.ThereAt))
            : null;
        var recordings = db.Query<RecordingRow>(
                "SELECT release, name, hash, type, bytes, ms, key, at FROM release_recording "
                    + "WHERE release IN (SELECT value FROM json_each(@numbers))",
                numbers
            )
            .ToDictionary(x => x.Release, x => x.Whole);
        var pictures = SentPictureRows.Of(db, SentPictureRows.Release, numbers.numbers);
        return
        [
            .. rows.Select(r =>
                r with
                {
                    Picture = pictures.GetValueOrDefault(r.Number.Value),
                    Recording = recordings.GetValueOrDefault(r.Number.Value),
                    SpeaksOf = [.. topics[r.Number.Value]],
                    Corrections = corrections is null ? [] : [.. corrections[r.Number.Value]],
                }
            ),
        ];
    }

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Release Get(SqliteConnection db, ReleaseNumber number) =>
        List(db, "r.number = @number", new { number }, withText: true).SingleOrDefault() ?? throw new NotThereException($"R {number}");

    /// <summary>Where a piece can be read: on an outlet if it went out there, else where it went out last; null where that is not
    /// known.</summary>
    public static string? AddressOf(SqliteConnection db, PieceNumber piece, OutletNumber? outlet) =>
        db.QueryFirstOrDefault<string>(
            "SELECT address FROM release WHERE piece = @piece AND address <> '' ORDER BY outlet IS @outlet DESC, out_on DESC, number DESC",
            new { piece, outlet }
        );

    public static IReadOnlyList<Release> Of(SqliteConnection db, PieceNumber piece) => List(db, "r.piece = @piece", new { piece });

    /// <summary>Writes a new release.</summary>
    /// <returns>Its number.</returns>
    public static ReleaseNumber Put(SqliteConnection db, Release release)
    {
        var number = ReleaseNumber.Of(
            db.ExecuteScalar<int>(
                """
                INSERT INTO release (number, piece, outlet, out_on, way, kind, title, text, words, hash, address, summary, tried)
                VALUES (@number, @Piece, @Outlet, @OutOn, @way, @kind, @Title, @Text, @words, @hash, @Address, @Summary, @Tried)
                RETURNING number
                """,
                new
                {
                    number = release.Number.Value == 0 ? (int?)null : release.Number.Value,
                    release.Piece,
                    release.Outlet,
                    release.OutOn,
                    way = release.Way.Kept(),
                    kind = release.Kind.Kept(),
                    release.Title,
                    release.Text,
                    words = Counts.Of(release.Text).Words,
                    hash = Release.HashOf(release.Title, release.Text),
                    release.Address,
                    release.Summary,
                    release.Tried,
                }
            )
        );
        SetSpeaksOf(db, number, release.SpeaksOf);
        foreach (var correction in release.Corrections)
            Put(db, number, correction);
        if (release.Recording is { } recording)
            Put(db, number, recording);
        if (release.Picture is { } picture)
            SentPictureRows.Put(db, SentPictureRows.Release, number.Value, picture);
        return number;
    }

    /// <summary>Says which sound went out with a release.</summary>
    public static void Put(SqliteConnection db, ReleaseNumber release, Recording recording) =>
        db.Execute(
            """
            INSERT INTO release_recording (release, name, hash, type, bytes, ms, key, at)
            VALUES (@release, @Name, @Hash, @Type, @Bytes, @Ms, @Key, @At)
            ON CONFLICT (release) DO UPDATE SET name = @Name, hash = @Hash, type = @Type, bytes = @Bytes, ms = @Ms
            """,
            new
            {
                release,
                recording.Name,
                recording.Hash,
                recording.Type,
                recording.Bytes,
                recording.Ms,
                recording.Key,
                recording.At,
            }
        );

    public static void Put(SqliteConnection db, ReleaseNumber release, Correction correction) =>
        db.Execute(
            "INSERT INTO correction (release, at, note, text, there_at) VALUES (@release, @At, @Note, @Text, @ThereAt)",
            new
            {
                release,
                correction.At,
                correction.Note,
                correction.Text,
                correction.ThereAt,
            }
        );

    public static void SetSpeaksOf(SqliteConnection db, ReleaseNumber release, IReadOnlyList<SpokenOf> speaksOf)
    {
        db.Execute("DELETE FROM release_topic WHERE release = @release", new { release });
        foreach (var one in speaksOf)
            db.Execute(
                "INSERT INTO release_topic (release, topic, words) VALUES (@release, @topic, @Words)",
                new
                {
                    release,
                    topic = one.Topic?.Number,
                    one.Words,
                }
            );
    }

    public static void Remove(SqliteConnection db, ReleaseNumber number) =>
        db.Execute(
            "DELETE FROM correction WHERE release = @number; DELETE FROM release_topic WHERE release = @number; "
                + "DELETE FROM figure_typed WHERE release = @number; DELETE FROM release_recording WHERE release = @number; "
                + "DELETE FROM release_picture WHERE release = @number; "
                + "UPDATE message SET release = NULL WHERE release = @number; DELETE FROM release WHERE number = @number",
            new { number }
        );

    public static IReadOnlyList<(PieceNumber Piece, OutletNumber Outlet)> Never(SqliteConnection db) =>
        [
            .. db.Query<(int Piece, int Outlet)>("SELECT piece, outlet FROM never_there ORDER BY piece, outlet")
                .Select(n => (PieceNumber.Of(n.Piece), OutletNumber.Of(n.Outlet))),
        ];

    public static void PutNever(SqliteConnection db, PieceNumber piece, OutletNumber outlet) =>
        db.Execute("INSERT OR IGNORE INTO never_there (piece, outlet) VALUES (@piece, @outlet)", new { piece, outlet });

    /// <summary>The text of a piece as it would be sent now.</summary>
    public static string AsSent(SqliteConnection db, PieceNumber piece) =>
        OutStore.Finished(db, piece, new OutAsked(WithTitle: false)).TrimEnd();

    /// <summary>A piece as it goes out now.</summary>
    public static Release AsItStands(SqliteConnection db, Piece piece, ReleaseWay way, DateOnly on) =>
        new()
        {
            Number = ReleaseNumber.Of(0),
            Piece = piece.Number,
            Outlet = piece.Outlet,
            OutOn = on,
            Way = way,
            Title = piece.Title,
            Text = AsSent(db, piece.Number),
            Hash = "",
            Address = piece.OutAddress,
            Summary = "",
        };

    /// <summary>
    /// Keeps releases in step with a piece whose stage, day, outlet or address was changed: at its last stage it has gone out, and taken
    /// back from there it has not. What was said of it while it is out holds for the release its stage made.
    /// </summary>
    /// <param name="before">The piece as it stood.</param>
    public static void Follow(SqliteConnection db, Piece before)
    {
        var now = PieceRows.Get(db, before.Number);
        if (now.OutOn is { } on && before.OutOn is null)
        {
            if (Of(db, now.Number).Count == 0)
                Put(db, AsItStands(db, now, ReleaseWay.Stage, on));
        }
        else if (now.OutOn is null && before.OutOn is not null)
            foreach (var release in Of(db, now.Number).Where(r => r.Way == ReleaseWay.Stage))
                Remove(db, release.Number);
        else if (now.OutOn is { } day && (now.OutOn, now.Outlet, now.OutAddress) != (before.OutOn, before.Outlet, before.OutAddress))
            db.Execute(
                "UPDATE release SET out_on = @day, outlet = @Outlet, address = @OutAddress, version = version + 1 "
                    + "WHERE number = (SELECT number FROM release WHERE piece = @Number ORDER BY out_on, number LIMIT 1)",
                new
                {
                    day,
                    now.Outlet,
                    now.OutAddress,
                    now.Number,
                }
            );
    }

    /// <summary>Says of a piece that is out what its first release says: its day, outlet and address.</summary>
    public static void Mirror(SqliteConnection db, PieceNumber piece) =>
        db.Execute(
            """
            UPDATE piece SET (out_on, outlet, out_address) =
                    (SELECT out_on, coalesce(outlet, piece.outlet), address FROM release
                        WHERE piece = @piece ORDER BY out_on, number LIMIT 1),
                version = version + 1
            WHERE number = @piece AND out_on IS NOT NULL AND EXISTS (SELECT 1 FROM release WHERE piece = @piece)
            """,
            new { piece }
        );

    /// <summary>Gives what went out before there were releases one each, once.</summary>
    public static void Seed(SqliteConnection db)
    {
        if (db.ExecuteScalar<bool>("SELECT releases_made FROM papers"))
            return;
        MakeForAllOut(db);
        db.Execute("UPDATE papers SET releases_made = 1");
    }

    /// <summary>Makes a release for each piece that is out and has none, in the order they went out.</summary>
    public static void MakeForAllOut(SqliteConnection db)
    {
        foreach (var piece in PieceRows.List(db, "p.out_on IS NOT NULL", null).OrderBy(p => p.OutOn).ThenBy(p => p.Number.Value))
            if (Of(db, piece.Number).Count == 0)
                Put(db, AsItStands(db, piece, ReleaseWay.Stage, piece.OutOn!.Value));
    }

    private sealed record RecordingRow
    {
        public int Release { get; init; }
        public string Name { get; init; } = "";
        public string Hash { get; init; } = "";
        public string Type { get; init; } = "";
        public long Bytes { get; init; }
        public int Ms { get; init; }
        public string Key { get; init; } = "";
        public DateTimeOffset At { get; init; }

        public Recording Whole => new(Name, Hash, Type, Bytes, Ms, Key, At);
    }

    private sealed record SpokenRow
    {
        public int Release { get; init; }
        public string Words { get; init; } = "";
        public int? Number { get; init; }
        public string? Name { get; init; }
        public TopicColour Colour { get; init; }

        public SpokenOf Whole => new(Number is { } number ? new TopicMark(TopicNumber.Of(number), Name ?? "", Colour) : null, Words);
    }
}
