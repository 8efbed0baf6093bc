using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sources;

/// <summary>A source to be made, or a change to one; what is not set stays.</summary>
public sealed record SourceChange
{
    public int? Version { get; init; }
    public SourceType? Type { get; init; }
    public string? Title { get; init; }
    public string? Creators { get; init; }
    public string? Container { get; init; }
    public string? Date { get; init; }
    public string? Address { get; init; }
    public string? Language { get; init; }

    /// <summary>Fields of its type by CSL variable; those named are changed, an empty one is cleared, the others stay.</summary>
    public IReadOnlyDictionary<string, string>? Details { get; init; }

    public string? Summary { get; init; }
    public string? Comments { get; init; }

    /// <summary>The source's own words.</summary>
    public string? Text { get; init; }

    /// <summary>Names of all its topics; one that is new is made.</summary>
    public IReadOnlyList<string>? Topics { get; init; }

    /// <summary>True puts it into the trash, false takes it out again.</summary>
    public bool? Trashed { get; init; }
}

/// <summary>A passage to be added to a source.</summary>
public sealed record NewPassage(string? Text, string? Locator = null, SlipKind? Kind = null);

/// <summary>A source opened, with its passages and what links to it.</summary>
/// <param name="CitationHtml">How it is cited.</param>
/// <param name="Asked">The writer's questions that its comments do not answer yet.</param>
/// <param name="Transcript">How many lines its transcript has.</param>
/// <param name="Places">The address of the very place, for passages that have one, by the number of the slip.</param>
public sealed record SourceOpened(
    Source Source,
    SourceForm Form,
    string Citation,
    string CitationHtml,
    string SummaryHtml,
    string CommentsHtml,
    string TextHtml,
    IReadOnlyList<string> Asked,
    int Transcript,
    IReadOnlyList<Slip> Passages,
    IReadOnlyDictionary<int, string> Places,
    IReadOnlyList<LinkOut> LinksOut,
    IReadOnlyList<LinkLine> LinkedFrom,
    IReadOnlyList<HistoryLine> History
);

/// <summary>A source with its citation.</summary>
public sealed record BibliographyLine(Source Source, string Text, string Html);

/// <summary>Reads and changes sources.</summary>
public sealed class SourceStore(PapersFile papers, HistoryStore history)
{
    public Source Get(SourceNumber number) => papers.Read(db => SourceRows.Get(db, number));

    public SourceOpened Open(SourceNumber number)
    {
        var done = history.Of(Reference.To(number));
        return papers.Read(db =>
        {
            var source = SourceRows.Get(db, number);
            var passages = db.Query<Slip>(
                $"SELECT {SlipRows.Columns} FROM slip s WHERE s.source = @number AND s.state <> 'dropped' ORDER BY s.number",
                new { number }
            );
            var citation = Citation.Of(source);
            return new SourceOpened(
                source,
                SourceForms.Of(source.Type),
                citation,
                Core.Text.Reading.Html(citation),
                Core.Text.Reading.Html(Links.Shown(db, source.Summary)),
                Core.Text.Reading.Html(Links.Shown(db, source.Comments)),
                Core.Text.Reading.Html(source.Text),
                ReadingQuestions.Open(Questions(db), source.Comments),
                db.ExecuteScalar<int>("SELECT count(*) FROM transcript_line WHERE source = @number", new { number }),
                [.. passages],
                passages
                    .Select(p => (p.Number.Value, Place: PlaceOf(p, source.Address)))
                    .Where(p => p.Place is not null)
                    .ToDictionary(p => p.Value, p => p.Place!),
                Links.From(db, source.Summary + "\n" + source.Comments),
                Links.To(db, Reference.To(number), source.Title),
                done
            );
        });
    }

    public Done<Source> Add(SourceChange made, Once once)
    {
        CheckFields(made);
        var title = Check.Text("title", made.Title, Source.LongestField);
        return papers.Run(
            "added a source",
            once,
            change =>
            {
                var source = SourceRows.Add(
                    change,
                    Apply(
                        new Source
                        {
                            Number = default,
                            Title = title,
                            Type = made.Type ?? SourceType.Book,
                        },
                        made
                    ),
                    TopicRows.NumbersFor(change.Db, made.Topics ?? [])
                );
                change.What = $"added source {source.Number}";
                return source;
            }
        );
    }

    public Done<Source> Edit(SourceNumber number, SourceChange edit, Once once)
    {
        CheckFields(edit);
        var based = Check.Version(edit.Version);
        return papers.Run(
            edit.Trashed switch
            {
                true => $"put source {number} into the trash",
                false => $"took source {number} out of the trash",
                _ => $"changed source {number}",
            },
            once,
            change =>
            {
                var source = SourceRows.Get(change.Db, number);
                if (source.Version != based)
                    throw new StaleException($"Source {number}", source);
                var next = Apply(source, edit);
                change.Db.Execute(
                    """
                    UPDATE source SET type = @type, title = @Title, creators = @Creators, container = @Container, date = @Date,
                        address = @Address,
                        language = @Language, details = @Details, summary = @Summary, comments = @Comments, text = @Text,
                            trashed_at = @trashed, version = version + 1 WHERE number = @number
                    """,
                    new
                    {
                        number,
                        type = next.Type.Kept(),
                        next.Title,
                        next.Creators,
                        next.Container,
                        next.Date,
                        next.Address,
                        next.Language,
                        next.Details,
                        next.Summary,
                        next.Comments,
                        next.Text,
                        trashed = edit.Trashed switch
                        {
                            true => source.TrashedAt ?? change.Now,
                            false => null,
                            _ => source.TrashedAt,
                        },
                    }
                );
                if (edit.Topics is not null)
                    SourceRows.SetTopics(change.Db, number, TopicRows.NumbersFor(change.Db, edit.Topics));
                Links.Write(change.Db, Reference.To(number), next.Summary + "\n" + next.Comments);
                Renaming.Retitled(change, Reference.To(number), source.Title, next.Title);
                if (TextOf(source) != TextOf(next))
                    Renaming.Reheaded(
                        change,
                        Reference.To(number),
                        Headings(source).HeadingsChangedIn(Headings(source).Rewrite(TextOf(next)))
                    );
                return SourceRows.Get(change.Db, number);
            }
        );
    }

    private static string TextOf(Source source) => source.Summary + "\n" + source.Comments + "\n" + source.Text;

    /// <summary>A source's headings as sections, numbered so that they are known again.</summary>
    private static Outline Headings(Source source)
    {
        var (lead, parts) = DraftText.Split(TextOf(source));
        return new Outline(lead, [.. parts.Select((part, at) => new Section(SectionNumber.Of(at + 1), part))]);
    }

    /// <summary>Answers one of the writer's questions in the comments.</summary>
    public Done<Source> Answer(SourceNumber number, string? question, string? answer, Once once)
    {
        var (asked, said) = (Check.Text("question", question, ReadingQuestions.Longest), Check.Text("answer", answer, Source.LongestText));
        return papers.Run(
            $"commented on source {number}",
            once,
            change =>
            {
                var source = SourceRows.Get(change.Db, number);
                var comments = Check.Length("comments", ReadingQuestions.Answer(source.Comments, asked, said), Source.LongestText);
                change.Db.Execute(
                    "UPDATE source SET comments = @comments, version = version + 1 WHERE number = @number",
                    new { number, comments }
                );
                Links.Write(change.Db, Reference.To(number), source.Summary + "\n" + comments);
                return SourceRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>The writer's questions to everything read.</summary>
    public IReadOnlyList<string> Questions() => papers.Read(Questions);

    private static IReadOnlyList<string> Questions(SqliteConnection db) =>
        db.ExecuteScalar<string>("SELECT questions FROM papers") is { } kept
            ? JsonSerializer.Deserialize<IReadOnlyList<string>>(kept, Answers.Json)!
            : ReadingQuestions.Ready;

    /// <summary>Sets the writer's questions; none at all brings back the ready ones.</summary>
    public Done<IReadOnlyList<string>> SetQuestions(IReadOnlyList<string> typed, Once once)
    {
        var questions = ReadingQuestions.Clean(typed);
        return papers.Run(
            "changed the questions to what is read",
            once,
            change =>
            {
                change.Db.Execute(
                    "UPDATE papers SET questions = @kept, version = version + 1",
                    new { kept = questions.Count == 0 ? null : JsonSerializer.Serialize(questions, Answers.Json) }
                );
                return Questions(change.Db);
            }
        );
    }

    /// <summary>The source that a found one is, by its key; null when it is not here.</summary>
    public SourceNumber? Known(FoundSource found)
    {
        var keys = Identity.Of(found);
        return papers.Read(db =>
            found.Address.Length > 0
            && db.QueryFirstOrDefault<int?>(
                "SELECT number FROM source WHERE address = @Address ORDER BY trashed_at IS NOT NULL, number",
                new { found.Address }
            )
                is { } here
                ? SourceNumber.Of(here)
                : db.Query<(int Number, byte[] Key)>("SELECT number, key FROM brought WHERE kind = 'source'")
                    .Where(b => keys.Contains(System.Buffers.Binary.BinaryPrimitives.ReadUInt128BigEndian(b.Key)))
                    .Select(b => (SourceNumber?)SourceNumber.Of(b.Number))
                    .FirstOrDefault()
        );
    }

    /// <summary>Sources that came in by themselves and were not gone through, the oldest first.</summary>
    public IReadOnlyList<SourceNumber> New() =>
        papers.Read(db =>
            db.Query<int>("SELECT number FROM source WHERE is_new = 1 AND trashed_at IS NULL ORDER BY caught_at, number")
                .Select(SourceNumber.Of)
                .ToList()
        );

    /// <summary>Decides about a new source and its waiting passages in one: keeps it, but for some of the passages, or drops it
    /// all.</summary>
    /// <param name="without">Passages that are dropped although the source is kept.</param>
    public Done<Source> Review(SourceNumber number, bool keep, IReadOnlyList<SlipNumber> without, Once once) =>
        papers.Run(
            $"{(keep ? "kept" : "dropped")} source {number} with its passages",
            once,
            change =>
            {
                SourceRows.Get(change.Db, number);
                change.Db.Execute(
                    "UPDATE source SET is_new = 0, trashed_at = CASE WHEN @keep THEN trashed_at ELSE @Now END, version = version + "
                        + "1 WHERE number = @number",
                    new
                    {
                        number,
                        keep,
                        change.Now,
                    }
                );
                change.Db.Execute(
                    """
                    UPDATE slip SET state = CASE WHEN @keep AND number NOT IN (SELECT value
                        FROM json_each(@without)) THEN 'kept' ELSE 'dropped' END, settled_at = @Now, held_until = NULL,
                        version = version + 1
                    WHERE source = @number AND state = 'waiting'
                    """,
                    new
                    {
                        number,
                        keep,
                        without = Mapping.List(without.Select(w => w.Value)),
                        change.Now,
                    }
                );
                return SourceRows.Get(change.Db, number);
            }
        );

    /// <summary>Sources as a bibliography: of a topic, or of a piece with the sources of its material and of the slips its draft refers
    /// to.</summary>
    /// <exception cref="BadInputException">Neither or both are named.</exception>
    public IReadOnlyList<BibliographyLine> Bibliography(TopicNumber? topic, PieceNumber? piece) =>
        papers.Read<IReadOnlyList<BibliographyLine>>(db =>
        {
            var numbers = (topic, piece) switch
            {
                ({ } of, null) => db.Query<int>("SELECT source FROM source_topic WHERE topic = @of", new { of }),
                (null, { } of) => db.Query<int>(
                    """
                    SELECT source FROM material WHERE piece = @of AND source IS NOT NULL
                    UNION SELECT s.source FROM material m JOIN slip s ON s.number = m.slip WHERE m.piece = @of AND s.source IS NOT NULL
                    UNION SELECT s.source FROM link l JOIN slip s ON s.number = l.to_number
                        WHERE l.from_kind = 'piece' AND l.from_number = @of AND l.to_kind = 'slip' AND s.source IS NOT NULL
                    UNION SELECT l.to_number FROM link l WHERE l.from_kind = 'piece' AND l.from_number = @of AND l.to_kind = 'source'
                    """,
                    new { of }
                ),
                _ => throw new BadInputException("topic", "Name a topic or a piece."),
            };
            return
            [
                .. Core
                    .Sources.Bibliography.Of(SourceRows.All(db, [.. numbers]).Values.Where(s => s.TrashedAt is null))
                    .Select(line => new BibliographyLine(line.Source, line.Line, Core.Text.Reading.Html(line.Line))),
            ];
        });

    /// <summary>Adds a passage: a kept slip that points into the source and shares its topics.</summary>
    public Done<Slip> AddPassage(SourceNumber number, NewPassage passage, Once once)
    {
        var typed = Check.Text("text", passage.Text, Slip.LongestText);
        var said = Check.Length("locator", passage.Locator, Source.LongestField).Trim();
        // What is typed into its own field counts; else the line may say where it stands.
        var (text, locator) = said.Length > 0 ? (typed, Locator.Read(said).Text) : PassageLine.Read(typed);
        return papers.Run(
            $"added a passage to source {number}",
            once,
            change =>
            {
                var source = SourceRows.Get(change.Db, number);
                var reading = CaptureLine.Read(text, change.Today, new Overruling(Move: false));
                var kind = passage.Kind ?? (reading.Kind == SlipKind.Quote ? SlipKind.Quote : SlipKind.Takeaway);
                return SlipRows.Add(
                    change,
                    new NewSlip(text)
                    {
                        Kind = kind,
                        State = SlipState.Kept,
                        Origin = Origin.Reading,
                        Source = number,
                        Locator = locator,
                        Topics = [.. source.Topics.Select(t => t.Number)],
                    }
                );
            }
        );
    }

    /// <summary>The address of a passage's place in its source: by its locator, else, for a quotation of a web page, by its
    /// words.</summary>
    internal static string? PlaceOf(Slip passage, string address) =>
        passage.Locator.Length > 0 ? Locator.Read(passage.Locator).In(address)
        : passage.Kind == SlipKind.Quote ? TextFragment.Of(passage.Text, address)
        : null;

    private static Source Apply(Source source, SourceChange change) =>
        source with
        {
            Type = change.Type ?? source.Type,
            Title = change.Title?.Trim() ?? source.Title,
            Creators = change.Creators?.Trim() ?? source.Creators,
            Container = change.Container?.Trim() ?? source.Container,
            Date = change.Date?.Trim() ?? source.Date,
            Address = change.Address?.Trim() ?? source.Address,
            Language = change.Language?.Trim() ?? source.Language,
            Details = change.Details is { } named ? SourceDetails.Merge(source.Details, named) : source.Details,
            Summary = change.Summary ?? source.Summary,
            Comments = change.Comments ?? source.Comments,
            Text = change.Text ?? source.Text,
        };

    private static void CheckFields(SourceChange change)
    {
        if (change.Title is not null)
            Check.Text("title", change.Title, Source.LongestField);
        foreach (
            var (field, value) in ((string, string?)[])
                [("creators", change.Creators), ("container", change.Container), ("date", change.Date), ("language", change.Language)]
        )
            Check.Length(field, value, Source.LongestField);
        Check.Length("summary", change.Summary, Source.LongestText);
        Check.Length("comments", change.Comments, Source.LongestText);
        Check.Length("text", change.Text, Source.LongestWords);
        var address = Check.Length("address", change.Address, Source.LongestField).Trim();
        if (
            address.Length > 0
            && !(Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "mailto" or "doi")
        )
            throw new BadInputException("address", "The address should begin with http:// or https://.");
    }
}
