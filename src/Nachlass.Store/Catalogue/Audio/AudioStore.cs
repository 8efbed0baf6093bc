using System.Collections.Concurrent;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Audio;

/// <summary>A sound that is tied to a piece.</summary>
/// <param name="Ms">How long it is, in milliseconds; 0 where that can't be told.</param>
public sealed record SoundOfPiece(AttachmentNumber Attachment, string Name, string Hash, string Type, long Bytes, int Ms)
{
    public string Length => new Recording(Name, Hash, Type, Bytes, Ms, "", default).Length;

    public Recording As(string key, DateTimeOffset at) => new(Name, Hash, Type, Bytes, Ms, key, at);
}

/// <summary>Which sound went out with a release.</summary>
/// <param name="Attachment">One that is tied to its piece; null for none.</param>
public sealed record RecordingChoice(int? Version, AttachmentNumber? Attachment);

/// <summary>What listeners get: the sounds of pieces, and the episodes of a feed.</summary>
public sealed class AudioStore(PapersFile papers, FileShelf shelf, ReadFile look)
{
    private readonly ConcurrentDictionary<string, int> lengths = new();

    /// <summary>The sounds that are tied to a piece, the newest first.</summary>
    public IReadOnlyList<SoundOfPiece> Of(PieceNumber piece) =>
        [
            .. papers
                .Read(db => AttachmentStore.Of(db, new Reference(ThingKind.Piece, piece.Value)))
                .Where(a => SoundTypes.Has(a.Type))
                .Reverse()
                .Select(a => new SoundOfPiece(a.Number, a.Name, a.Hash, a.Type, a.Bytes, Length(a.Hash, a.Name))),
        ];

    /// <summary>The sound that goes out with a piece: the one tied to it last; null for none.</summary>
    public SoundOfPiece? SoundOf(PieceNumber piece) => Of(piece) is [var newest, ..] ? newest : null;

    private int Length(string hash, string name) => lengths.GetOrAdd(hash, _ => look(name, shelf.Path(hash)).Ms);

    /// <summary>The episodes of a feed, the newest first: releases with a sound, put right where they were, and what is being sent,
    /// since whoever is told of it looks for it before it is a release.</summary>
    public IReadOnlyList<Episode> Episodes(OutletNumber outlet)
    {
        var (releases, going) = papers.Read(db =>
            (
                ReleaseRows.List(
                    db,
                    "r.outlet = @outlet AND EXISTS (SELECT 1 FROM release_recording x WHERE x.release = r.number) "
                        + "AND EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)",
                    new { outlet },
                    withText: true
                ),
                SendingRows.List(db, "s.outlet = @outlet AND s.state <> 'sent'", new { outlet })
            )
        );
        var episodes = releases
            .Select(r => new Episode(
                r.Title,
                r.Corrections.LastOrDefault(c => c.ThereAt is not null)?.Text ?? r.Text,
                r.Recording!,
                r.Picture
            ))
            .ToList();
        foreach (var sending in going)
            if (
                sending.Parts is [var part]
                // Once begun it stays, while its hub is told again, and when that is given up.
                && (part.State != PartState.Waits || sending.History.Count > 0)
                && episodes.All(e => e.Recording.Key != part.Key)
                && SoundOf(sending.Piece) is { } sound
            )
                episodes.Add(new Episode(sending.Title, sending.Text, sound.As(part.Key, sending.At), sending.Picture));
        return [.. episodes.OrderByDescending(e => e.Recording.At)];
    }

    /// <summary>The language of a feed: the one most of its pieces are in.</summary>
    public string LanguageOf(OutletNumber outlet) =>
        papers.Read(db =>
            db.QueryFirstOrDefault<string>(
                "SELECT p.language FROM release r JOIN piece p ON p.number = r.piece WHERE r.outlet = @outlet AND p.language <> '' "
                    + "GROUP BY p.language ORDER BY count(*) DESC, p.language",
                new { outlet }
            )
        ) ?? "en";

    /// <summary>What a feed is called: like its outlet.</summary>
    public string NameOf(OutletNumber outlet) => papers.Read(db => OutletRows.Get(db, outlet).Name);

    /// <summary>Says which sound went out with a release. In the feed it stays the one it was.</summary>
    /// <exception cref="BadInputException">Its piece has no such sound.</exception>
    /// <exception cref="StaleException">It was changed elsewhere.</exception>
    public Done<Release> Choose(ReleaseNumber number, RecordingChoice choice, Once once)
    {
        var based = Check.Version(choice.Version);
        var piece = papers.Read(db => ReleaseRows.Get(db, number)).Piece;
        var sound = choice.Attachment is { } attachment
            ? Of(piece).FirstOrDefault(s => s.Attachment == attachment)
                ?? throw new BadInputException("attachment", $"P {piece} has no such recording; attach an {SoundTypes.Said} file to it.")
            : null;
        return papers.Run(
            $"said which recording went out with R {number}",
            once,
            change =>
            {
                var release = ReleaseRows.Get(change.Db, number);
                if (release.Version != based)
                    throw new StaleException($"R {number}", release);
                if (sound is null)
                    change.Db.Execute("DELETE FROM release_recording WHERE release = @number", new { number });
                else
                    ReleaseRows.Put(
                        change.Db,
                        number,
                        sound.As(release.Recording?.Key ?? KeyOf(release), release.Recording?.At ?? FirstAt(change, release))
                    );
                change.Db.Execute("UPDATE release SET version = version + 1 WHERE number = @number", new { number });
                return ReleaseRows.Get(change.Db, number);
            }
        );
    }

    private static string KeyOf(Release release) => Release.HashOf($"R {release.Number}", release.Hash)[..24];

    /// <summary>Of what went out before its recording was known only the day is: its noon.</summary>
    private static DateTimeOffset FirstAt(Change change, Release release) =>
        SendingRules.At(release.OutOn, new TimeOnly(12, 0), change.Zone) is var noon && noon < change.Now ? noon : change.Now;
}
