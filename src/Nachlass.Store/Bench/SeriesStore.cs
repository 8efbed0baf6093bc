using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A piece of a series.</summary>
/// <param name="Said">How it begins and ends.</param>
public sealed record SeriesPiece(int Nth, Piece Piece, SaidInShort Said);

/// <summary>A series with its pieces.</summary>
/// <param name="NextNumber">The number its next piece has.</param>
/// <param name="NextTitle">What that would be called, with … for its own title.</param>
/// <param name="Offers">What its title pattern can fill in.</param>
public sealed record SeriesShown(
    Series Series,
    IReadOnlyList<SeriesPiece> Pieces,
    int NextNumber,
    string NextTitle,
    IReadOnlyList<FillInOffer> Offers
)
{
    /// <summary>How many of it went out.</summary>
    public int Out => Pieces.Count(p => p.Piece.OutOn is not null);
}

/// <summary>A series, or a change to one; what is not set stays.</summary>
public sealed record SeriesChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }
    public string? About { get; init; }
    public string? TitlePattern { get; init; }

    /// <summary>Key of a format; empty for any.</summary>
    public string? Format { get; init; }

    /// <summary>Its pieces, in order.</summary>
    public IReadOnlyList<PieceNumber>? Pieces { get; init; }
}

/// <summary>Pieces in an order, made and seen together.</summary>
public sealed class SeriesStore(PapersFile papers)
{
    public IReadOnlyList<SeriesShown> List() =>
        papers.Read(db =>
            (IReadOnlyList<SeriesShown>)[.. SeriesRows.All(db).Select(series => Shown(db, papers.Time.GetLocalNow().DateTime, series))]
        );

    public SeriesShown Get(SeriesNumber number) =>
        papers.Read(db => Shown(db, papers.Time.GetLocalNow().DateTime, SeriesRows.Get(db, number)));

    /// <summary>Where a piece stands in a series; null when it is in none.</summary>
    public InSeries? Of(PieceNumber piece) =>
        papers.Read(db =>
        {
            if (SeriesRows.Of(db, piece) is not { } series)
                return null;
            var pieces = SeriesRows.Pieces(db, series.Number);
            return new InSeries(series.Number, series.Name, pieces.ToList().IndexOf(piece) + 1, pieces.Count);
        });

    private static SeriesShown Shown(SqliteConnection db, DateTime now, Series series)
    {
        var numbers = SeriesRows.Pieces(db, series.Number);
        var pieces = PieceRows.List(db, "p.number IN @numbers", new { numbers = numbers.Select(n => n.Value) }).ToDictionary(p => p.Number);
        var texts = db.Query<(int Piece, string Text)>(
                "SELECT piece, text FROM draft WHERE piece IN @numbers",
                new { numbers = numbers.Select(n => n.Value) }
            )
            .ToDictionary(d => d.Piece, d => d.Text);
        var format = FormatRows.All(db).Find(series.Format) ?? FormatRows.All(db).First;
        var pattern = series.TitlePattern.Length > 0 ? series.TitlePattern : format.TitlePattern;
        var next = SeriesRows.NextNumber(numbers.Count);
        // By the format's pattern it has the format's number.
        var number = series.TitlePattern.Length > 0 ? next : PieceRows.NextRunning(db, format);
        var facts = PieceRows.FactsFor(db, now, "…", format, number, []) with { Series = series.Name };
        return new SeriesShown(
            series,
            [.. numbers.Select((n, at) => new SeriesPiece(at + 1, pieces[n], SaidInShort.Of(texts.GetValueOrDefault(n.Value, ""))))],
            next,
            facts.TitleBy(pattern),
            facts.Offers()
        );
    }

    public Done<SeriesShown> Add(SeriesChange made, Once once) =>
        papers.Run(
            "made a series",
            once,
            change =>
            {
                var name = Check.Text("name", made.Name, Series.LongestName);
                var number = SeriesNumber.Of(
                    change.Db.ExecuteScalar<int>("INSERT INTO series (name) VALUES (@name) RETURNING number", new { name })
                );
                change.What = $"made the series “{name}”";
                return Apply(change, SeriesRows.Get(change.Db, number), made);
            }
        );

    /// <summary>Changes a series, its pieces or their order.</summary>
    public Done<SeriesShown> Edit(SeriesNumber number, SeriesChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a series",
            once,
            change =>
            {
                var before = SeriesRows.Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The series {before.Name}", before);
                change.What = $"changed the series “{before.Name}”";
                return Apply(change, before, edit);
            }
        );
    }

    private static SeriesShown Apply(Change change, Series before, SeriesChange edit)
    {
        var db = change.Db;
        var format = edit.Format?.Trim() ?? before.Format;
        if (format.Length > 0)
            FormatRows.Named(db, format);
        var pattern = Check.Length("titlePattern", edit.TitlePattern ?? before.TitlePattern, 300).Trim();
        if (FillIn.Fill(pattern, PieceFacts.Sample([]).ByName()).Fault is { } fault)
            throw new BadInputException("titlePattern", fault.Reason);
        db.Execute(
            """
            UPDATE series SET name = @name, about = @about, title_pattern = @pattern, format = @format, version = version + 1
            WHERE number = @Number
            """,
            new
            {
                before.Number,
                name = edit.Name is null ? before.Name : Check.Text("name", edit.Name, Series.LongestName),
                about = Check.Length("about", edit.About ?? before.About, Brief.LongestField).Trim(),
                pattern,
                format,
            }
        );
        if (edit.Pieces is { } pieces)
            SetPieces(db, before.Number, pieces);
        return Shown(db, change.Now.DateTime, SeriesRows.Get(db, before.Number));
    }

    private static void SetPieces(SqliteConnection db, SeriesNumber series, IReadOnlyList<PieceNumber> pieces)
    {
        if (pieces.Count > Series.MostPieces)
            throw new BadInputException("pieces", $"A series has {Series.MostPieces} pieces at most.");
        if (pieces.Distinct().Count() != pieces.Count)
            throw new BadInputException("pieces", "A piece is named twice.");
        foreach (var piece in pieces)
        {
            if (PieceRows.Find(db, piece) is null)
                throw new BadInputException("pieces", $"There is no P {piece}.");
            if (SeriesRows.Of(db, piece) is { } other && other.Number != series)
                throw new BadInputException("pieces", $"P {piece} is in the series “{other.Name}” already.");
        }
        db.Execute(
            "DELETE FROM series_piece WHERE series = @series AND piece NOT IN @pieces",
            new { series, pieces = pieces.Select(p => p.Value) }
        );
        for (var at = 0; at < pieces.Count; at++)
            SeriesRows.Put(db, series, pieces[at], at + 1);
    }

    /// <summary>Takes a series apart; its pieces stay.</summary>
    public Done<bool> Remove(SeriesNumber number, Once once) =>
        papers.Run(
            "took a series apart",
            once,
            change =>
            {
                change.What = $"took the series “{SeriesRows.Get(change.Db, number).Name}” apart";
                change.Db.Execute(
                    "DELETE FROM series_piece WHERE series = @number; DELETE FROM series WHERE number = @number;",
                    new { number }
                );
                return true;
            }
        );
}
