using Dapper;
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
    public string? Summary { get; init; }
    public string? Comments { get; init; }

    /// <summary>Names of all its topics; one that is new is made.</summary>
    public IReadOnlyList<string>? Topics { get; init; }

    /// <summary>True puts it into the trash, false takes it out again.</summary>
    public bool? Trashed { get; init; }
}

/// <summary>A passage to be added to a source.</summary>
public sealed record NewPassage(string? Text, string? Locator = null, SlipKind? Kind = null);

/// <summary>A source opened, with its passages and what links to it.</summary>
/// <param name="Places">The address of the very place, for passages that have one, by the number of the slip.</param>
public sealed record SourceOpened(Source Source, string SummaryHtml, string CommentsHtml, IReadOnlyList<Slip> Passages, IReadOnlyDictionary<int, string> Places,
    IReadOnlyList<LinkOut> LinksOut, IReadOnlyList<LinkLine> LinkedFrom, IReadOnlyList<HistoryLine> History);

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
            var passages = db.Query<Slip>($"SELECT {SlipRows.Columns} FROM slip s WHERE s.source = @number AND s.state <> 'dropped' ORDER BY s.number", new { number });
            return new SourceOpened(source, Core.Text.Reading.Html(source.Summary), Core.Text.Reading.Html(source.Comments), [.. passages],
                passages.Select(p => (p.Number.Value, Place: PlaceOf(p, source.Address))).Where(p => p.Place is not null).ToDictionary(p => p.Value, p => p.Place!),
                Links.From(db, source.Summary + "\n" + source.Comments), Links.To(db, Reference.To(number), source.Title), done);
        });
    }

    public Done<Source> Add(SourceChange made, Once once)
    {
        CheckFields(made);
        var title = Check.Text("title", made.Title, Source.LongestField);
        return papers.Run("added a source", once, change =>
        {
            var source = SourceRows.Add(change, Apply(new Source { Number = default, Title = title, Type = made.Type ?? SourceType.Book }, made),
                TopicRows.NumbersFor(change.Db, made.Topics ?? []));
            Links.Write(change.Db, Reference.To(source.Number), source.Summary + "\n" + source.Comments, isNew: true);
            change.What = $"added source {source.Number}";
            return source;
        });
    }

    public Done<Source> Edit(SourceNumber number, SourceChange edit, Once once)
    {
        CheckFields(edit);
        var based = Check.Version(edit.Version);
        return papers.Run(edit.Trashed switch { true => $"put source {number} into the trash", false => $"took source {number} out of the trash", _ => $"changed source {number}" }, once, change =>
        {
            var source = SourceRows.Get(change.Db, number);
            if (source.Version != based) throw new StaleException($"Source {number}", source);
            var next = Apply(source, edit);
            change.Db.Execute(
                """
                UPDATE source SET type = @type, title = @Title, creators = @Creators, container = @Container, date = @Date, address = @Address,
                    language = @Language, summary = @Summary, comments = @Comments, trashed_at = @trashed, version = version + 1 WHERE number = @number
                """, new
                {
                    number,
                    type = next.Type.Kept(),
                    next.Title,
                    next.Creators,
                    next.Container,
                    next.Date,
                    next.Address,
                    next.Language,
                    next.Summary,
                    next.Comments,
                    trashed = edit.Trashed switch { true => source.TrashedAt ?? change.Now, false => null, _ => source.TrashedAt },
                });
            if (edit.Topics is not null) SourceRows.SetTopics(change.Db, number, TopicRows.NumbersFor(change.Db, edit.Topics));
            Links.Write(change.Db, Reference.To(number), next.Summary + "\n" + next.Comments);
            return SourceRows.Get(change.Db, number);
        });
    }

    /// <summary>Adds a passage: a kept slip that points into the source and shares its topics.</summary>
    public Done<Slip> AddPassage(SourceNumber number, NewPassage passage, Once once)
    {
        var typed = Check.Text("text", passage.Text, Slip.LongestText);
        var said = Check.Length("locator", passage.Locator, Source.LongestField).Trim();
        // What is typed into its own field counts; else the line may say where it stands.
        var (text, locator) = said.Length > 0 ? (typed, Locator.Read(said).Text) : PassageLine.Read(typed);
        return papers.Run($"added a passage to source {number}", once, change =>
        {
            var source = SourceRows.Get(change.Db, number);
            var reading = CaptureLine.Read(text, change.Today, new Overruling(Move: false));
            var kind = passage.Kind ?? (reading.Kind == SlipKind.Quote ? SlipKind.Quote : SlipKind.Takeaway);
            return SlipRows.Add(change, new NewSlip(text)
            {
                Kind = kind,
                State = SlipState.Kept,
                Origin = Origin.Reading,
                Source = number,
                Locator = locator,
                Topics = [.. source.Topics.Select(t => t.Number)],
            });
        });
    }

    /// <summary>The address of a passage's place in its source: by its locator, else, for a quotation of a web page, by its words.</summary>
    internal static string? PlaceOf(Slip passage, string address) => passage.Locator.Length > 0 ? Locator.Read(passage.Locator).In(address)
        : passage.Kind == SlipKind.Quote ? TextFragment.Of(passage.Text, address) : null;

    private static Source Apply(Source source, SourceChange change) => source with
    {
        Type = change.Type ?? source.Type,
        Title = change.Title?.Trim() ?? source.Title,
        Creators = change.Creators?.Trim() ?? source.Creators,
        Container = change.Container?.Trim() ?? source.Container,
        Date = change.Date?.Trim() ?? source.Date,
        Address = change.Address?.Trim() ?? source.Address,
        Language = change.Language?.Trim() ?? source.Language,
        Summary = change.Summary ?? source.Summary,
        Comments = change.Comments ?? source.Comments,
    };

    private static void CheckFields(SourceChange change)
    {
        if (change.Title is not null) Check.Text("title", change.Title, Source.LongestField);
        foreach (var (field, value) in ((string, string?)[])[("creators", change.Creators), ("container", change.Container), ("date", change.Date), ("language", change.Language)])
            Check.Length(field, value, Source.LongestField);
        Check.Length("summary", change.Summary, Source.LongestText);
        Check.Length("comments", change.Comments, Source.LongestText);
        var address = Check.Length("address", change.Address, Source.LongestField).Trim();
        if (address.Length > 0 && !(Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "mailto" or "doi"))
            throw new BadInputException("address", "The address should begin with http:// or https://.");
    }
}
