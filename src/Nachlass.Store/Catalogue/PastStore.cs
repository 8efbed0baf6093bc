using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Catalogue;

/// <summary>What came of bringing the past in.</summary>
/// <param name="Releases">New releases.</param>
/// <param name="Matched">How many of them are of pieces that were here.</param>
/// <param name="There">How many were in the catalogue already.</param>
/// <param name="Unread">Places that could not be read, a line each.</param>
public sealed record PastIn(int Releases, int Matched, int There, IReadOnlyList<string> Unread);

/// <summary>Brings in what went out before these papers knew of it.</summary>
public sealed class PastStore(PapersFile papers)
{
    private const int LongestTopic = 60;

    /// <summary>
    /// Takes releases in. One is here already when its address is, or a release of the same title on the same day on the same outlet.
    /// It is of a piece that has a release at its address or of its very words, or else is called as it is; where two pieces are, nobody
    /// guesses, and it gets one of its own, like those that match none.
    /// </summary>
    /// <param name="outlet">Where they went out; null for nowhere in particular.</param>
    /// <param name="format">Key of the format of pieces that are made; the outlet's first, or an essay, when left out.</param>
    public Done<PastIn> BringIn(
        OutletNumber? outlet,
        string? format,
        IReadOnlyList<PastRelease> found,
        Once once,
        IReadOnlyList<string>? unread = null
    )
    {
        if (found.Count > PastRelease.MostAtOnce)
            throw new BadInputException("files", $"At most {PastRelease.MostAtOnce:N0} releases come in at once.");
        return papers.Run(
            "brought releases in",
            once,
            change =>
            {
                var db = change.Db;
                var to = outlet is { } named ? OutletRows.Get(db, named) : null;
                var formats = FormatRows.All(db);
                var key = string.IsNullOrEmpty(format) ? to?.Formats.Select(f => f).FirstOrDefault() ?? "essay" : format;
                var made =
                    formats.Find(key) ?? (string.IsNullOrEmpty(format) ? formats.First : throw new NotThereException($"format {key}"));
                var known = new Known(db);
                var (fresh, matched, there) = (0, 0, 0);
                var late = new List<string>();
                foreach (var past in found.OrderBy(p => p.On))
                {
                    if (past.On > change.Today)
                        late.Add($"“{past.Title}” is of a day that has not come.");
                    else if (known.Has(past, outlet))
                        there++;
                    else
                    {
                        var piece = known.PieceOf(past);
                        matched += piece is null ? 0 : 1;
                        Put(change, past, piece ?? Make(change, past, made, outlet), outlet);
                        known.Add(past, outlet);
                        fresh++;
                    }
                }
                change.What = fresh == 1 ? "brought in 1 release" : $"brought in {fresh} releases";
                return new PastIn(fresh, matched, there, [.. (unread ?? []).Concat(late)]);
            }
        );
    }

    private static void Put(Change change, PastRelease past, PieceNumber number, OutletNumber? outlet)
    {
        var db = change.Db;
        var piece = PieceRows.Get(db, number);
        ReleaseRows.Put(
            db,
            new Release
            {
                Number = ReleaseNumber.Of(0),
                Piece = number,
                Outlet = outlet,
                OutOn = past.On,
                Way = ReleaseWay.BroughtIn,
                Title = past.Title,
                Text = past.Text,
                Hash = "",
                Address = past.Address,
            }
        );
        if (piece.OutOn is null)
            ReleaseStore.ToLastStage(change, piece, past.On);
        ReleaseRows.Mirror(db, number);
    }

    /// <summary>Makes the piece of a release that is of none: out since that day, without steps, and without a number of its
    /// format's.</summary>
    private static PieceNumber Make(Change change, PastRelease past, Format format, OutletNumber? outlet)
    {
        var db = change.Db;
        var at = SendingTime(past.On, change.Zone);
        var number = PieceNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO piece (title, format, stage, started_at, changed_at, out_on, outlet, laid) "
                    + "VALUES (@Title, @Key, @stage, @at, @at, @On, @outlet, '[]') RETURNING number",
                new
                {
                    past.Title,
                    format.Key,
                    stage = format.Stages[^1],
                    at,
                    past.On,
                    outlet,
                }
            )
        );
        StageRows.Enter(db, number, format.Stages[^1], at);
        db.Execute("INSERT INTO draft (piece, changed_at) VALUES (@number, @at)", new { number, at });
        var (lead, parts) = DraftText.Split(Check.Length("text", past.Text, DraftText.Longest));
        DraftRows.Write(change, number, new Outline(lead, [.. parts.Select(part => new Section(null, part))]));
        // It was written before it came here.
        db.Execute("DELETE FROM written WHERE command = @Number", new { change.Number });
        PieceRows.SetTopics(
            db,
            number,
            TopicRows.NumbersFor(db, past.Topics.Select(t => t.Trim()).Where(t => t.Length is > 0 and <= LongestTopic).Take(20))
        );
        return number;
    }

    private static DateTimeOffset SendingTime(DateOnly day, TimeZoneInfo zone) =>
        Core.Catalogue.Queue.SendingRules.At(day, new TimeOnly(12, 0), zone);

    /// <summary>What is in the catalogue, and by what it is known again.</summary>
    private sealed class Known
    {
        private readonly HashSet<string> addresses,
            days;
        private readonly Dictionary<string, PieceNumber> byAddress,
            byHash;
        private readonly Dictionary<string, PieceNumber?> byTitle = [];

        public Known(SqliteConnection db)
        {
            var releases = ReleaseRows.List(db, "true", null);
            addresses = [.. releases.Where(r => r.Address.Length > 0).Select(r => Folded(r.Address))];
            days = [.. releases.Select(r => Day(r.Title, r.OutOn, r.Outlet))];
            byAddress = releases
                .Where(r => r.Address.Length > 0)
                .GroupBy(r => Folded(r.Address))
                .ToDictionary(g => g.Key, g => g.First().Piece);
            byHash = releases.GroupBy(r => r.Hash).ToDictionary(g => g.Key, g => g.First().Piece);
            foreach (
                var (number, title) in db.Query<(int, string)>("SELECT number, title FROM piece WHERE trashed_at IS NULL")
                    .Select(p => (PieceNumber.Of(p.Item1), Folded(p.Item2)))
            )
                byTitle[title] = byTitle.ContainsKey(title) ? null : number;
        }

        public bool Has(PastRelease past, OutletNumber? outlet) =>
            (past.Address.Length > 0 && addresses.Contains(Folded(past.Address))) || days.Contains(Day(past.Title, past.On, outlet));

        public PieceNumber? PieceOf(PastRelease past) =>
            past.Address.Length > 0 && byAddress.TryGetValue(Folded(past.Address), out var there) ? there
            : past.Text.Length > 0 && byHash.TryGetValue(Release.HashOf(past.Title, past.Text), out var same) ? same
            : byTitle.GetValueOrDefault(Folded(past.Title));

        public void Add(PastRelease past, OutletNumber? outlet)
        {
            if (past.Address.Length > 0)
                addresses.Add(Folded(past.Address));
            days.Add(Day(past.Title, past.On, outlet));
        }

        private static string Folded(string words) => words.Trim().TrimEnd('/').ToLowerInvariant();

        private static string Day(string title, DateOnly on, OutletNumber? outlet) => $"{on:yyyy-MM-dd} {outlet} {Folded(title)}";
    }
}
