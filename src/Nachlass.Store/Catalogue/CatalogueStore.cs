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
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;

namespace Nachlass.Store.Catalogue;

/// <summary>A piece that went out, with where it is and where it is not yet.</summary>
/// <param name="Number">The number of its first release, by which the catalogue knows it.</param>
/// <param name="Summary">The line that announces it: its writer's, else made of what it speaks of, else its first sentence.</param>
/// <param name="Cover">The picture it shows itself by; null for none.</param>
/// <param name="Series">The series it is in; empty for none.</param>
/// <param name="Files">How many files lie with it.</param>
/// <param name="Releases">Its releases, the latest first.</param>
/// <param name="There">How it stands to each outlet, in the catalogue's order.</param>
/// <param name="Views">Views of all its releases as last known; null where none are known.</param>
public sealed record CatalogueRow(
    ReleaseNumber Number,
    PieceNumber Piece,
    string Title,
    string Format,
    string FormatName,
    DateOnly OutOn,
    int Words,
    string Summary,
    AttachmentNumber? Cover,
    string Series,
    int Files,
    IReadOnlyList<TopicMark> Topics,
    IReadOnlyList<Release> Releases,
    IReadOnlyList<There> There,
    int? Views
);

/// <summary>All that went out.</summary>
/// <param name="Outlets">Its outlets, as the rows are answered: those in use, and those put away on which something went out.</param>
/// <param name="Releases">How many releases there are.</param>
public sealed record CatalogueShown(IReadOnlyList<Outlet> Outlets, IReadOnlyList<CatalogueRow> Rows, int Releases, DateOnly Today);

/// <summary>A release in which something was mentioned.</summary>
/// <param name="Again">Pieces in hand in whose drafts the first of the sentences stands too.</param>
public sealed record MentioningRelease(
    ReleaseNumber Number,
    PieceNumber Piece,
    string Title,
    DateOnly OutOn,
    OutletNumber? Outlet,
    string OutletName,
    string Address,
    IReadOnlyList<MentioningSentence> Sentences,
    IReadOnlyList<PieceNumber> Again
);

/// <summary>The answer to “did I mention …?”.</summary>
/// <param name="Times">In how many releases it is mentioned, of those that were read.</param>
/// <param name="IsAll">Whether all releases with one of its words were read; of very common words only the likeliest are.</param>
/// <param name="Releases">Those in which the most of it stands first.</param>
/// <param name="Near">Where it is mentioned nowhere: those that come nearest.</param>
public sealed record MentionsFound(
    string Query,
    int Times,
    bool IsAll,
    IReadOnlyList<MentioningRelease> Releases,
    IReadOnlyList<MentioningRelease> Near
);

/// <summary>Finds one's way in what went out.</summary>
public sealed class CatalogueStore(PapersFile papers, Nearby nearby)
{
    private const int MostRead = 300,
        MostShown = 40,
        MostNear = 3,
        Beginning = 600,
        LongestLine = 140,
        LongestAsked = 500;

    /// <summary>The whole catalogue, the latest piece first.</summary>
    public CatalogueShown Get() =>
        papers.Read(db =>
        {
            var releases = ReleaseRows.List(db, InHand, null).ToLookup(r => r.Piece);
            var outlets = Outlets(db, releases.SelectMany(r => r));
            return new CatalogueShown(outlets, Rows(db, outlets, releases), releases.Sum(r => r.Count()), papers.Today);
        });

    private const string InHand = "EXISTS (SELECT 1 FROM piece p WHERE p.number = r.piece AND p.trashed_at IS NULL)";

    private static IReadOnlyList<Outlet> Outlets(SqliteConnection db, IEnumerable<Release> releases)
    {
        var used = releases.Select(r => r.Outlet).ToHashSet();
        return [.. OutletRows.All(db).Where(o => !o.IsPutAway || used.Contains(o.Number))];
    }

    private static IReadOnlyList<CatalogueRow> Rows(
        SqliteConnection db,
        IReadOnlyList<Outlet> outlets,
        ILookup<PieceNumber, Release> releases
    )
    {
        var formats = FormatRows.All(db);
        var never = db.Query<(int Piece, int Outlet)>("SELECT piece, outlet FROM never_there")
            .ToLookup(n => n.Piece, n => OutletNumber.Of(n.Outlet));
        var beside = db.Query<Beside>(
                """
                SELECT p.number AS piece, p.title, p.format, b.cover, coalesce(s.name, '') AS series,
                    (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY pt.id)
                        FROM piece_topic pt JOIN topic t ON t.number = pt.topic WHERE pt.piece = p.number) AS topics,
                    (SELECT count(*) FROM attachment a WHERE a.piece = p.number) AS files
                FROM piece p LEFT JOIN piece_brief b ON b.piece = p.number
                LEFT JOIN series_piece x ON x.piece = p.number LEFT JOIN series s ON s.number = x.series
                WHERE p.out_on IS NOT NULL AND p.trashed_at IS NULL
                """
            )
            .ToList();
        var views = ReleaseFigureRows.LatestViews(db);
        int? Viewed(IEnumerable<Release> own) =>
            own.Any(r => views.ContainsKey(r.Number)) ? own.Sum(r => views.GetValueOrDefault(r.Number)) : null;
        var beginnings = db.Query<(int Number, string Text)>($"SELECT number, substr(text, 1, {Beginning}) FROM release")
            .ToDictionary(b => b.Number, b => b.Text);
        // Only outlets with a limit need the text; it is read for what could go there alone.
        var isLimited = outlets.Any(o => o.Limit is not null);
        var texts = isLimited
            ? db.Query<(int Piece, string Text)>(
                    "SELECT s.piece, s.text FROM piece_said s JOIN piece p ON p.number = s.piece "
                        + "WHERE p.out_on IS NOT NULL AND p.trashed_at IS NULL"
                )
                .ToDictionary(t => t.Piece, t => t.Text)
            : [];
        return
        [
            .. beside
                .Where(p => releases.Contains(p.Piece))
                .Select(p =>
                {
                    var own = releases[p.Piece].ToList();
                    var format = formats.Named(p.Format);
                    return new CatalogueRow(
                        own[^1].Number,
                        p.Piece,
                        p.Title,
                        p.Format,
                        format.Name,
                        own[^1].OutOn,
                        own[0].Words,
                        Announced(own, beginnings.GetValueOrDefault(own[^1].Number.Value, "")),
                        p.Cover,
                        p.Series,
                        p.Files,
                        p.Topics,
                        own,
                        HereNotThere.Of(
                            p.Format,
                            texts.GetValueOrDefault(p.Piece.Value, ""),
                            outlets,
                            own,
                            never[p.Piece.Value].ToHashSet()
                        ),
                        Viewed(own)
                    );
                })
                .OrderByDescending(r => r.OutOn)
                .ThenByDescending(r => r.Number.Value),
        ];
    }

    /// <summary>The line that announces a piece: said of one of its releases, made of what one speaks of, or its first sentence.</summary>
    /// <param name="beginning">How its text begins.</param>
    private static string Announced(IReadOnlyList<Release> releases, string beginning) =>
        releases.Select(r => r.Summary).FirstOrDefault(s => s.Length > 0)
        ?? releases.Select(r => SummaryLine.Of(r.SpeaksOf)).FirstOrDefault(s => s.Length > 0)
        ?? Paragraphs
            .Of(Chapters.Without(beginning))
            .SelectMany(Paragraphs.Sentences)
            .Select(s => PlainText.Headline(s, LongestLine))
            .FirstOrDefault("");

    /// <summary>Pieces that are out and have not gone to an outlet, the latest first; never those that are not to.</summary>
    /// <exception cref="NotThereException">There is no such outlet.</exception>
    public IReadOnlyList<CatalogueRow> Missing(OutletNumber number) =>
        papers.Read(db =>
        {
            var outlet = OutletRows.Get(db, number);
            var releases = ReleaseRows.List(db, InHand, null).ToLookup(r => r.Piece);
            return (IReadOnlyList<CatalogueRow>)
                [
                    .. Rows(db, [outlet], releases)
                        .Where(r => r.There[0].State is ThereState.Could or ThereState.InAnotherForm)
                        .OrderBy(r => r.There[0].State),
                ];
        });

    /// <summary>The very sentences in which something was mentioned.</summary>
    public MentionsFound Mentions(string? query)
    {
        var asked = Check.Text("query", query, LongestAsked);
        return papers.Read(db =>
        {
            var wanted = Mentioned.Wanted(asked, nearby.Rarity);
            if (wanted.Count == 0)
                return new MentionsFound(asked, 0, true, [], []);
            var candidates = Candidates(db, asked);
            var outlets = OutletRows.All(db).ToDictionary(o => o.Number, o => o.Name);
            var found = From(Mentioned.Floor);
            return new MentionsFound(
                asked,
                found.Count,
                candidates.Count < MostRead,
                Shown(found, MostShown),
                found.Count > 0 ? [] : Shown(From(Mentioned.NearFloor), MostNear)
            );

            List<(Release Release, IReadOnlyList<MentioningSentence> Sentences)> From(double floor)
            {
                var sentences = candidates
                    .Select(c => (c.Number, Sentences: Mentioned.In(wanted, c.Title + ".\n\n" + c.Text, floor)))
                    .Where(c => c.Sentences.Count > 0)
                    .ToDictionary(c => c.Number, c => c.Sentences);
                return
                [
                    .. ReleaseRows
                        .List(
                            db,
                            $"r.number IN (SELECT value FROM json_each(@numbers)) AND {InHand}",
                            new { numbers = Mapping.List(sentences.Keys) }
                        )
                        .Select(r => (Release: r, Sentences: sentences[r.Number.Value]))
                        .OrderByDescending(r => r.Sentences[0].Share)
                        .ThenByDescending(r => r.Release.OutOn)
                        .ThenByDescending(r => r.Release.Number.Value),
                ];
            }

            IReadOnlyList<MentioningRelease> Shown(List<(Release Release, IReadOnlyList<MentioningSentence> Sentences)> releases, int most)
            {
                var drafts = releases.Count == 0 ? [] : Drafts(db);
                return
                [
                    .. releases
                        .Take(most)
                        .Select(r => new MentioningRelease(
                            r.Release.Number,
                            r.Release.Piece,
                            r.Release.Title,
                            r.Release.OutOn,
                            r.Release.Outlet,
                            r.Release.Outlet is { } at ? outlets[at] : "",
                            r.Release.Address,
                            r.Sentences,
                            [.. drafts.Where(d => d.Text.Contains(r.Sentences[0].Text, StringComparison.Ordinal)).Select(d => d.Piece)]
                        )),
                ];
            }
        });
    }

    /// <summary>The drafts in hand, without marks.</summary>
    private static List<(PieceNumber Piece, string Text)> Drafts(SqliteConnection db) =>
        [
            .. db.Query<(int Piece, string Text)>(
                    "SELECT d.piece, d.text FROM draft d JOIN piece p ON p.number = d.piece WHERE p.out_on IS NULL AND p.trashed_at IS NULL"
                )
                .Select(d => (PieceNumber.Of(d.Piece), PlainText.Of(d.Text))),
        ];

    /// <summary>Releases with any of the words, those that the fewest words point to first.</summary>
    private static List<(int Number, string Title, string Text)> Candidates(SqliteConnection db, string asked) =>
        [
            .. db.Query<(int, string, string)>(
                $"SELECT rowid, title, text FROM sent_words WHERE sent_words MATCH @match ORDER BY rank LIMIT {MostRead}",
                new
                {
                    match = string.Join(" OR ", Stems.Of(asked).Select(s => $"\"{s.Word.Replace("\"", "", StringComparison.Ordinal)}\"")),
                }
            ),
        ];

    /// <summary>A year in review.</summary>
    /// <exception cref="NotThereException">Nothing went out in it.</exception>
    public YearReviewed Year(int year) =>
        papers.Read(db =>
        {
            var releases = ReleaseRows.List(db, InHand, null);
            if (releases.All(r => r.OutOn.Year != year))
                throw new NotThereException($"release of {year}");
            var formats = FormatRows.All(db);
            var outlets = OutletRows.All(db).ToDictionary(o => o.Number, o => o.Name);
            var pieces = PieceRows.List(db, "p.out_on IS NOT NULL AND p.trashed_at IS NULL", null).ToDictionary(p => p.Number);
            var building = db.Query<(int To, int From)>(
                    "SELECT DISTINCT to_number, from_number FROM link WHERE to_kind = 'piece' AND from_kind = 'piece'"
                )
                .ToLookup(l => l.To, l => PieceNumber.Of(l.From));
            return YearInReview.Of(
                [
                    .. releases.Select(r => new YearEntry(
                        r,
                        formats.Named(pieces[r.Piece].Format).Name,
                        r.Outlet is { } at ? outlets[at] : "",
                        pieces[r.Piece].Topics,
                        [.. building[r.Piece.Value]]
                    )),
                ],
                year
            );
        });

    private sealed record Beside
    {
        public PieceNumber Piece { get; init; }
        public string Title { get; init; } = "";
        public string Format { get; init; } = "";
        public IReadOnlyList<TopicMark> Topics { get; init; } = [];
        public AttachmentNumber? Cover { get; init; }
        public string Series { get; init; } = "";
        public int Files { get; init; }
    }
}
