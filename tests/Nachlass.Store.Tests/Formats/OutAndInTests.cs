using System.Text;
using CsCheck;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Formats;

namespace Nachlass.Store.Tests.Formats;

/// <summary>Whatever goes out in a format comes in from it the same.</summary>
public sealed class OutAndInTests : IDisposable
{
    private readonly Incoming incoming = new();

    public void Dispose() => incoming.Dispose();

    private static Gen<T> OneOf<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static readonly Gen<string> Word = OneOf(
        "ferry",
        "“quoted”",
        "it's",
        "\"x\"",
        "a,b",
        "a;b",
        "{brace}",
        "50%",
        "A & B",
        "#tag",
        "x_y",
        "C:\\path",
        "naïve",
        "Œuvre",
        "👩‍🌾",
        "<b>",
        "a--b",
        "$5",
        "~",
        "^",
        "’",
        "=",
        "1784",
        "null",
        "*star*",
        "_line_",
        "1.",
        ">",
        "[[no link]]",
        "``so''",
        "[x]",
        "\\",
        "<i>it</i>",
        "{\\'e}",
        "TY - BOOK",
        "|",
        "-->",
        "&amp;",
        "'=x",
        "and",
        "@at",
        "\u201e„",
        "e\u0301"
    );
    private static readonly Gen<string> Line = Word.List[1, 6].Select(words => string.Join(' ', words));
    private static readonly Gen<string> Lines = Line.List[1, 4].Select(lines => string.Join('\n', lines));
    private static readonly Gen<string> Paragraphs = Lines.List[1, 3].Select(paragraphs => string.Join("\n\n", paragraphs));
    private static readonly Gen<string> Names = OneOf(
        "Brandt, H.",
        "van der Pol, Lena",
        "Parish of Low Ostrey",
        "Wayfarers Union,",
        "Barnes and Noble,",
        "Harbour Trust, Ltd.,",
        "Lunt, H., Jr.",
        "Maudlin",
        "{Braced} & Sons,"
    )
        .List[1, 3]
        .Select(names => PersonName.Write(PersonName.ReadAll(string.Join("; ", names))));

    private static readonly Gen<Source> AnySource = Gen.Select(
        Gen.Int[1, 99],
        Gen.Enum<SourceType>(),
        Line,
        Line,
        Names,
        Paragraphs,
        (number, type, words, field, names, text) =>
            Incoming.Source(
                number,
                type,
                words,
                SourceForms
                    .Of(type)
                    .Fields.Where(f =>
                        f.Key
                            is not (
                                "ISBN"
                                or "ISSN"
                                or "DOI"
                                or "editor"
                                or "translator"
                                or "interviewer"
                                or "recipient"
                                or "accessed"
                                or "original-date"
                                or "page"
                            )
                    )
                    .Select((f, i) => (f.Key, Value: i % 2 == 0 ? field : "Harnsby 1851"))
                    .Append(("page", "12–31"))
                    .Append(("original-date", "1851-03"))
                    .Append(("editor", names))
                    .Append(("translator", names))
                    .Where(f => SourceForms.Of(type).Fields.Any(own => own.Key == f.Item1))
                    .ToDictionary(f => f.Item1, f => f.Item2)
            ) with
            {
                Creators = names,
                Comments = "It says: " + text,
                Summary = text,
            }
    );

    private static string Told(FoundSource s) =>
        string.Join(
            " | ",
            s.Type,
            s.Title,
            s.Creators,
            s.Container,
            s.Date,
            s.Address,
            s.Language,
            s.Comments,
            s.Summary,
            string.Join(',', s.Topics),
            string.Join(',', s.Details.OrderBy(d => d.Key, StringComparer.Ordinal).Select(d => $"{d.Key}={d.Value}"))
        );

    private static string Told(Source s) =>
        Told(
            new FoundSource(s.Title)
            {
                Type = s.Type,
                Creators = s.Creators,
                Container = s.Container,
                Date = s.Date,
                Address = s.Address,
                Language = s.Language,
                Comments = s.Comments,
                Summary = s.Summary,
                Details = s.Details,
                Topics = [.. s.Topics.Select(t => t.Name)],
            }
        );

    [Theory]
    [InlineData("bib")]
    [InlineData("ris")]
    [InlineData("csl.json")]
    public void References(string format) =>
        AnySource
            .List[1, 5]
            .Sample(
                sources =>
                {
                    var text = format switch
                    {
                        "bib" => BibTex.Write(sources),
                        "ris" => Ris.Write(sources),
                        _ => CslJson.Write(sources),
                    };
                    var found = incoming.Read("sources." + format, text);
                    Incoming.Sources(found).Select(Told).ShouldBe(sources.Select(Told));
                    found.ShouldAllBe(f => f.Doubt == null);
                    Incoming.Unread(found).ShouldBeEmpty();
                },
                iter: 200,
                threads: 1
            );

    private static readonly Gen<Slip> AnySlip = Gen.Select(
        Gen.Int[1, 999],
        Paragraphs,
        OneOf<string[]>([], ["tolls"], ["tolls", "low water"]),
        OneOf("", "f. 31r", "12:40–13:05", "S. 12 oben", "§ 4", "1:02:03", "ch. iii"),
        (number, text, topics, locator) => Incoming.Slip(number, text.Trim(), topics) with { Locator = Locator.Read(locator).Text }
    );

    private static string Told(FoundSlip s) =>
        string.Join(
            " | ",
            s.Text,
            s.Kind,
            s.Pull,
            s.Effort,
            s.Locator,
            s.CaughtAt?.UtcDateTime.ToString("O"),
            string.Join(',', s.Topics),
            s.Source?.Title,
            s.Source?.Creators,
            s.Source?.Address
        );

    private static string Told(Slip s, Source? source) =>
        Told(
            new FoundSlip(s.Text)
            {
                Kind = s.Kind,
                Pull = s.Pull,
                Effort = s.Effort,
                Locator = s.Locator,
                CaughtAt = s.CaughtAt,
                Topics = [.. s.Topics.Select(t => t.Name)],
                Source = source is null ? null : new FoundSource(source.Title) { Creators = source.Creators, Address = source.Address },
            }
        );

    [Theory]
    [InlineData("csv")]
    [InlineData("json")]
    public void Tables_of_slips(string format) =>
        Gen.Select(AnySlip, Gen.Bool)
            .List[1, 6]
            .Sample(
                rows =>
                {
                    var slips = rows.Select(r => (r.Item1, r.Item2 ? Incoming.Source(7, SourceType.Page, "A page") : null)).ToList();
                    string text;
                    if (format == "csv")
                    {
                        using var written = new StringWriter();
                        CsvTable.Write(written, slips!);
                        text = written.ToString();
                    }
                    else
                    {
                        using var written = new MemoryStream();
                        JsonTable.Write(written, slips!);
                        text = Encoding.UTF8.GetString(written.ToArray());
                    }
                    Incoming.Slips(incoming.Read("slips." + format, text)).Select(Told).ShouldBe(slips.Select(s => Told(s.Item1, s.Item2)));
                },
                iter: 200,
                threads: 1
            );

    [Fact]
    public void Outlines_of_slips() =>
        AnySlip
            .List[1, 6]
            .Sample(
                slips =>
                    Incoming
                        .Slips(
                            incoming.Read(
                                "slips.opml",
                                Opml.Write("Slips", slips.Select(s => s with { Text = "Said " + s.Text.Replace("#tag", "tag") })).ToString()
                            )
                        )
                        .Select(s => (s.Text, Topics: string.Join(',', s.Topics)))
                        .Order()
                        .ShouldBe(
                            slips
                                .Select(s =>
                                    ("Said " + s.Text.Replace("#tag", "tag"), Topics: string.Join(',', s.Topics.Select(t => t.Name)))
                                )
                                .Order()
                        ),
                iter: 200,
                threads: 1
            );

    [Fact]
    public void The_outline_of_a_piece()
    {
        const string draft =
            "## The board\n\nEleven ways.\n\n### In coin\n\nBishops, nothing.\n\n## The flood & the <bread>\n\nFour loaves.";
        var found = incoming
            .Read("outline.opml", Opml.Write("The far bank", draft).ToString(), Exchange.Capture.DocumentsAs.Piece)
            .ShouldHaveSingleItem()
            .ShouldBeOfType<Found.OfPiece>();
        (found.Title, found.Draft).ShouldBe(("The far bank", draft));
    }

    [Fact]
    public void Lists() =>
        AnySlip
            .List[1, 6]
            .Sample(
                slips =>
                {
                    // A list has no way to say that a word with a hash is none of the topics, nor kind or date.
                    var written = slips.Select(s => s with { Text = "Said " + s.Text.Replace("#tag", "tag") }).ToList();
                    Incoming
                        .Slips(incoming.Read("slips.txt", PlainList.Write(written)))
                        .Select(s => s.Text)
                        .Order()
                        .ShouldBe(written.Select(s => s.Text).Order());
                },
                iter: 200,
                threads: 1
            );

    [Fact]
    public void Bookmarks() =>
        AnySource
            .List[1, 5]
            .Sample(
                sources =>
                {
                    var pages = sources
                        .Select(s =>
                            s with
                            {
                                Type = SourceType.Page,
                                Comments = "Why: " + s.Title,
                                Details = new Dictionary<string, string> { ["accessed"] = "2026-10-02" },
                            }
                        )
                        .ToList();
                    Incoming
                        .Sources(incoming.Read("bookmarks.html", Exchange.Formats.Bookmarks.Write(pages)))
                        .Select(s => (s.Title, s.Address, s.Comments, string.Join(',', s.Topics), s.Details["accessed"]))
                        .ShouldBe(pages.Select(s => (s.Title, s.Address, s.Comments, "tolls,low water", "2026-10-02")));
                },
                iter: 100,
                threads: 1
            );

    [Theory]
    [InlineData("vtt")]
    [InlineData("srt")]
    public void Transcripts(string format) =>
        Gen.Select(Gen.Int[0, 9_000_000], Gen.Int[0, 9_000], Line, OneOf("", "Jonas Pell"))
            .List[1, 8]
            .Sample(
                rows =>
                {
                    var lines = rows.Select(r => new TranscriptLine(r.Item1, r.Item1 + r.Item2, "Well " + r.Item3, r.Item4)).ToList();
                    var read = Exchange.Formats.Transcripts.Read(
                        format == "vtt" ? Exchange.Formats.Transcripts.WebVtt(lines) : Exchange.Formats.Transcripts.SubRip(lines)
                    );
                    read.Unread.ShouldBeEmpty();
                    // SubRip can't say that a mark of its own is a word.
                    static string Said(string text) =>
                        string.Join(
                            ' ',
                            System
                                .Text.RegularExpressions.Regex.Replace(text, "</?[bi]>", "")
                                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                        );
                    read.Lines.ShouldBe(lines.Select(l => format == "vtt" ? l : l with { Text = Said(l.Text) }));
                },
                iter: 200,
                threads: 1
            );

    [Fact]
    public void An_occasion_whose_date_moves_goes_out_and_comes_in_by_its_rule()
    {
        var lights = new Occasion(OccasionNumber.Of(1), "Lights", new(2026, 5, 10), new(2026, 5, 11), false)
        {
            Recurs = OccasionDates.Read("the second Sunday of May"),
        };
        var read = incoming.Read("all.ics", Calendar.Write([lights], [])).OfType<Found.OfOccasion>().ShouldHaveSingleItem();
        (read.Name, read.From, read.To, read.EveryYear, read.Recurs, read.Doubt).ShouldBe(
            ("Lights", lights.From, lights.To, false, lights.Recurs, null)
        );
    }

    [Fact]
    public void Calendars() =>
        Gen.Select(Line, Gen.Int[0, 700], Gen.Int[0, 20], Gen.Bool)
            .List[1, 5]
            .Sample(
                rows =>
                {
                    var occasions = rows.Select(
                            (r, i) =>
                                new Occasion(
                                    OccasionNumber.Of(i + 1),
                                    r.Item1,
                                    new DateOnly(2026, 1, 1).AddDays(r.Item2),
                                    new DateOnly(2026, 1, 1).AddDays(r.Item2 + r.Item3),
                                    r.Item4
                                )
                        )
                        .ToList();
                    var moves = rows.Select(
                            (r, i) =>
                                new Move
                                {
                                    Number = MoveNumber.Of(i + 1),
                                    Text = r.Item1,
                                    Due = r.Item4 ? new DateOnly(2026, 12, 1).AddDays(i) : null,
                                    DoneAt = r.Item2 % 2 == 0 ? new DateTimeOffset(2026, 11, 1, 10, r.Item3, 0, TimeSpan.Zero) : null,
                                    CaughtAt = default,
                                    Day = default,
                                }
                        )
                        .ToList();
                    var found = incoming.Read("all.ics", Calendar.Write(occasions, moves));
                    found
                        .OfType<Found.OfOccasion>()
                        .Select(o => (o.Name, o.From, o.To, o.EveryYear))
                        .ShouldBe(occasions.Select(o => (o.Name, o.From, o.To, o.EveryYear)));
                    found
                        .OfType<Found.OfMove>()
                        .Select(m => (m.Text, m.Due, m.DoneAt, m.Doubt))
                        .ShouldBe(moves.Select(m => (m.Text, m.Due, m.DoneAt, (string?)null)));
                },
                iter: 60,
                threads: 1
            );
}
