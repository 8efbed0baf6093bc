using System.Collections.Concurrent;
using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Capture;

/// <summary>Where an import stands.</summary>
public enum ImportPhase
{
    Looking,
    Ready,
    Running,
    Done,
    Stopped,
    Failed,
}

/// <summary>A file of an import, with what it was taken for.</summary>
/// <param name="Choices">What whole documents of it can become.</param>
/// <param name="Columns">Its columns, when it is a table.</param>
/// <param name="Table">By what a table with these columns is known.</param>
public sealed record ImportFile(
    string Name,
    string? Format,
    IReadOnlyList<DocumentsAs> Choices,
    IReadOnlyList<string>? Columns,
    string? Table
);

/// <summary>One thing of an import as it is shown before it is made.</summary>
/// <param name="Kind">slip, source, move, piece or occasion.</param>
public sealed record ImportSample(
    string Kind,
    string Title,
    string Text,
    string File,
    int Line,
    IReadOnlyList<string> Topics,
    string? Note
);

/// <summary>A place that is doubtful or could not be read.</summary>
public sealed record ImportPlace(string File, int Line, string Reason, string Raw);

/// <summary>How an import is to be read.</summary>
/// <param name="Tables">What the columns of tables mean, by <see cref="ImportFile.Table"/>.</param>
/// <param name="Documents">What whole documents become.</param>
/// <param name="Kind">The kind that every slip of it has; its own when null.</param>
/// <param name="Topics">Topics that every slip of it gets besides its own.</param>
/// <param name="Pile">What the slips stand under in Sift; the name of their file when null.</param>
public sealed record ImportReading(
    IReadOnlyDictionary<string, IReadOnlyDictionary<string, ColumnRole>>? Tables = null,
    DocumentsAs? Documents = null,
    SlipKind? Kind = null,
    IReadOnlyList<string>? Topics = null,
    string? Pile = null
)
{
    public const int MostTopics = 20;

    /// <summary>Itself, with clean names.</summary>
    /// <exception cref="BadInputException">A topic or the pile can't be called so.</exception>
    public ImportReading Checked()
    {
        if (Topics?.Count > MostTopics)
            throw new BadInputException("topics", $"All of them can get {MostTopics} topics at most.");
        return this with
        {
            Topics = [.. (Topics ?? []).Select(t => TopicName.Clean(t.TrimStart('#'), "topics"))],
            Pile = Pile is null || Pile.Trim().Length == 0 ? null : Check.Text("pile", Pile, ToCatch.LongestNote),
        };
    }

    /// <summary>A thing as it comes in.</summary>
    public Found Of(Found found) =>
        found is Found.OfSlip { Slip: var slip } of && (Kind is not null || Topics is { Count: > 0 })
            ? of with
            {
                Slip = slip with
                {
                    Kind = Kind ?? slip.Kind,
                    Topics = [.. slip.Topics.Union(Topics ?? [], StringComparer.OrdinalIgnoreCase)],
                },
            }
            : found;

    /// <summary>Whether the files are read the same.</summary>
    public bool ReadsAs(ImportReading other) =>
        ReferenceEquals(this, other) || (Documents == other.Documents && Same(Tables, other.Tables));

    private static bool Same(
        IReadOnlyDictionary<string, IReadOnlyDictionary<string, ColumnRole>>? one,
        IReadOnlyDictionary<string, IReadOnlyDictionary<string, ColumnRole>>? other
    ) =>
        (one?.Count ?? 0) == (other?.Count ?? 0)
        && (
            one is null
            || one.All(t => other!.TryGetValue(t.Key, out var roles) && t.Value.Count == roles.Count && !t.Value.Except(roles).Any())
        );
}

/// <summary>Everything that is known of an import.</summary>
/// <param name="Gone">How many things have been gone through.</param>
/// <param name="Total">How many there are; 0 while that is not known.</param>
/// <param name="Firsts">The first thing of each kind that is new.</param>
/// <param name="Doubtful">Places that should be looked at, the first hundred.</param>
/// <param name="Unread">Places that could not be read, the first hundred.</param>
/// <param name="Command">The command it was, for undo.</param>
/// <param name="Reading">How it is read; the guessed columns when the writer said nothing.</param>
public sealed record ImportState(
    string Id,
    string Name,
    ImportPhase Phase,
    int Gone,
    int Total,
    IReadOnlyList<ImportFile> Files,
    ImportCounts? Counts,
    IReadOnlyList<ImportSample> Firsts,
    IReadOnlyList<ImportPlace> Doubtful,
    IReadOnlyList<ImportPlace> Unread,
    CommandNumber? Command,
    string? Problem,
    ImportReading Reading
);

/// <summary>The imports at hand: their files wait in a folder until they are brought in or put away.</summary>
internal sealed class Imports : IDisposable
{
    private const int MostShown = 100;

    /// <summary>An import nobody came back to is put away after this.</summary>
    private static readonly TimeSpan KeptFor = TimeSpan.FromHours(12);

    private readonly PapersFile papers;
    private readonly ImportStore store;
    private readonly Reader reader;
    private readonly ILogger<Imports> log;
    private readonly ConcurrentDictionary<string, OneImport> all = new();

    public Imports(PapersFile papers, ImportStore store, Reader reader, ILogger<Imports> log)
    {
        (this.papers, this.store, this.reader, this.log) = (papers, store, reader, log);
        // What a killed server left behind belongs to no import any more.
        if (Directory.Exists(Folder))
            Directory.Delete(Folder, recursive: true);
    }

    private string Folder => Path.Combine(papers.Folder, "incoming");

    private sealed class OneImport(string id, string name, Parcel parcel, DateTimeOffset since)
    {
        public string Id { get; } = id;
        public string Name { get; } = name;
        public Parcel Parcel { get; } = parcel;
        public DateTimeOffset Since { get; } = since;
        public CancellationTokenSource Stop { get; set; } = new();
        public ImportState State { get; set; } = null!;

        /// <summary>What was found in its files; what is shown and what comes in are read from there.</summary>
        public IReadOnlyList<FileRead> Reads { get; set; } = [];

        /// <summary>How they were read.</summary>
        public ImportReading? ReadAs { get; set; }
        public Lock Gate { get; } = new();
    }

    /// <summary>A folder for the files of a new import.</summary>
    public Parcel NewParcel() => new(Path.Combine(Folder, Guid.NewGuid().ToString("N")));

    /// <summary>Takes in files and begins to look through them.</summary>
    public ImportState Begin(string name, Parcel parcel)
    {
        var now = papers.Time.GetUtcNow();
        foreach (var old in all.Values.Where(i => now - i.Since > KeptFor))
            PutAway(old.Id);
        if (parcel.Files.Count == 0 && parcel.Refused is [var (file, reason), ..])
            throw new UnreadableFileException(file, reason);
        if (parcel.Files.Count == 0)
            throw new BadInputException("files", "There is no file in it.");
        var one = new OneImport(Path.GetFileName(parcel.Folder), name, parcel, now);
        one.State = new ImportState(one.Id, name, ImportPhase.Looking, 0, 0, [], null, [], [], [], null, null, new ImportReading());
        all[one.Id] = one;
        Look(one, new ImportReading());
        return one.State;
    }

    public ImportState Get(string id) => Find(id).State;

    private OneImport Find(string id) =>
        all.GetValueOrDefault(id) ?? throw new NotThereException("such import; it was put away. Choose the file again");

    /// <summary>Reads the files in another way.</summary>
    public ImportState Read(string id, ImportReading reading)
    {
        var one = Find(id);
        lock (one.Gate)
        {
            if (one.State.Phase is ImportPhase.Running or ImportPhase.Done)
                throw new ClashException("It is being brought in already.");
            one.Stop.Cancel();
            one.Stop = new CancellationTokenSource();
        }
        Look(one, reading.Checked());
        return one.State;
    }

    /// <summary>Brings it in. Asked twice, it is done once.</summary>
    public ImportState Run(string id)
    {
        var one = Find(id);
        lock (one.Gate)
        {
            if (one.State.Phase is ImportPhase.Running or ImportPhase.Done)
                return one.State;
            if (one.State.Phase != ImportPhase.Ready)
                throw new ClashException("It has not been looked through yet.");
            one.Stop = new CancellationTokenSource();
            one.State = one.State with { Phase = ImportPhase.Running, Gone = 0, Problem = null };
        }
        var stop = one.Stop.Token;
        _ = Task.Run(
            () =>
                Work(
                    one,
                    () =>
                    {
                        RememberColumns(one);
                        var done = store.Run(
                            $"brought in {one.Name}",
                            Origin.Import,
                            one.State.Reading.Pile,
                            () => Finding(one),
                            Once.Unkeyed,
                            new Counting(gone => one.State = one.State with { Gone = gone }),
                            stop: stop
                        );
                        one.State = one.State with { Phase = ImportPhase.Done, Counts = done.Answer, Command = done.Command };
                    },
                    stop
                ),
            CancellationToken.None
        );
        return one.State;
    }

    /// <summary>Stops what is going on; nothing was brought in then. When nothing is, the import is put away.</summary>
    public ImportState Stop(string id)
    {
        var one = Find(id);
        var state = one.State;
        one.Stop.Cancel();
        if (state.Phase is not (ImportPhase.Running or ImportPhase.Looking))
            PutAway(id);
        return state.Phase is ImportPhase.Running or ImportPhase.Looking ? state with { Phase = ImportPhase.Stopped } : state;
    }

    /// <summary>What could not be read, as a file to mend: under each place a line with the reason, and for a table its first row
    /// again.</summary>
    public IEnumerable<string> Unread(string id)
    {
        var one = Find(id);
        string? last = null;
        var tables = one
            .Reads.Where(r => r.Format == new CsvTable().Key && r.Spool is not null)
            .Select(r => one.Parcel.Files[r.File])
            .ToHashSet();
        foreach (var (file, found) in one.Reads.Things(one.Parcel))
        {
            if (found is not Found.Unread unread)
                continue;
            var isTable = tables.Contains(file);
            if (file.Name != last)
            {
                if (isTable)
                    using (var reader = TextIn.Open(file))
                        yield return reader.ReadLine() ?? "";
                else if (one.Parcel.Files.Count > 1)
                    yield return $"== {file.Name}";
            }
            last = file.Name;
            // A table stays one that can be brought in once it is mended; its reasons are on the screen.
            if (!isTable)
                yield return unread.Line > 0 ? $"line {unread.Line}: {unread.Reason}" : unread.Reason;
            yield return unread.Raw;
            if (!isTable)
                yield return "";
        }
    }

    private void Look(OneImport one, ImportReading reading)
    {
        var stop = one.Stop.Token;
        one.State = one.State with
        {
            Phase = ImportPhase.Looking,
            Gone = 0,
            Counts = null,
            Firsts = [],
            Doubtful = [],
            Unread = [],
            Problem = null,
            Reading = reading,
        };
        _ = Task.Run(
            () =>
                Work(
                    one,
                    () =>
                    {
                        // What is said for all slips changes nothing in what was read.
                        var reads =
                            one.Reads.Count > 0 && one.ReadAs is { } before && before.ReadsAs(reading)
                                ? one.Reads
                                : ReadFiles(one, reading, stop);
                        if (reading.Tables is null)
                        {
                            // Tables with the same columns as one before are read as that one was.
                            var columns = reads
                                .Select(r => r.Columns)
                                .OfType<IReadOnlyList<string>>()
                                .DistinctBy(ColumnMapping.ShapeOf)
                                .ToList();
                            var remembered = columns.ToDictionary(ColumnMapping.ShapeOf, Remembered);
                            reading = reading with
                            {
                                Tables = columns.ToDictionary(
                                    ColumnMapping.ShapeOf,
                                    c => remembered[ColumnMapping.ShapeOf(c)] ?? ColumnMapping.Guess(c).Roles
                                ),
                            };
                            if (remembered.Values.Any(r => r is not null))
                                reads = ReadFiles(one, reading, stop);
                        }
                        one.ReadAs = reading;
                        if (reads.Count > 0 && reads.All(r => r.Spool is null))
                            throw new UnreadableFileException(one.Parcel.Files[reads[0].File].Name, reads[0].Reason ?? "");
                        one.Reads = reads;
                        one.State = one.State with { Files = Described(one), Reading = reading };
                        var (gone, firsts, doubtful, unread) = (
                            0,
                            new Dictionary<string, ImportSample>(),
                            new List<ImportPlace>(),
                            new List<ImportPlace>()
                        );
                        var counts = store.Preview(
                            () => Finding(one),
                            (file, found, isNew) =>
                            {
                                if (++gone % 1_000 == 0)
                                    one.State = one.State with { Gone = gone };
                                if (found is Found.Unread place)
                                {
                                    if (unread.Count < MostShown)
                                        unread.Add(
                                            new ImportPlace(
                                                file,
                                                place.Line,
                                                place.Reason,
                                                place.Raw.Length > 500 ? place.Raw[..500] + "…" : place.Raw
                                            )
                                        );
                                    return;
                                }
                                if (isNew && found.Doubt is { } doubt && doubtful.Count < MostShown)
                                    doubtful.Add(new ImportPlace(file, found.Line, doubt, Sample(found, file).Title));
                                if (!isNew)
                                    return;
                                var sample = Sample(found, file);
                                firsts.TryAdd(sample.Kind, sample);
                                if (found is Found.OfSlip { Slip.Source: { } source })
                                    firsts.TryAdd("source", Sample(new Found.OfSource(found.Line, source), file));
                                if (found is Found.OfSource { Source.Passages: [var passage, ..] })
                                    firsts.TryAdd("slip", Sample(new Found.OfSlip(found.Line, passage), file));
                            },
                            stop
                        );
                        stop.ThrowIfCancellationRequested();
                        unread.InsertRange(0, one.Parcel.Refused.Take(MostShown).Select(r => new ImportPlace(r.Name, 0, r.Reason, r.Name)));
                        one.State = one.State with
                        {
                            Phase = ImportPhase.Ready,
                            Gone = gone,
                            Total = gone,
                            Counts = counts,
                            Firsts = [.. firsts.Values.Where(first => first.Kind != "source" || counts.Sources > 0)],
                            Doubtful = doubtful,
                            Unread = unread,
                        };
                    },
                    stop
                ),
            CancellationToken.None
        );
    }

    /// <summary>Runs a part of the work and writes down how it ended.</summary>
    private void Work(OneImport one, Action work, CancellationToken stop)
    {
        try
        {
            work();
        }
        catch (OperationCanceledException)
        {
            // A newer look at the same files goes on and says itself how it stands.
            if (one.Stop.Token == stop)
                one.State = one.State with { Phase = ImportPhase.Stopped };
        }
        catch (RefusedException refused)
        {
            one.State = one.State with { Phase = ImportPhase.Failed, Problem = refused.Message + " Nothing was brought in." };
        }
        catch (Exception error)
        {
            log.LogError(error, "An import failed");
            one.State = one.State with
            {
                Phase = ImportPhase.Failed,
                Problem = "Something went wrong in Nachlass; nothing was brought in. The server's log says more.",
            };
        }
    }

    private static IEnumerable<(string, Found)> Finding(OneImport one) =>
        one.Reads.Things(one.Parcel).Select(f => (f.File.Name, one.State.Reading.Of(f.Found)));

    private IReadOnlyList<FileRead> ReadFiles(OneImport one, ImportReading reading, CancellationToken stop) =>
        reader.Read(
            one.Parcel,
            new ToRead(
                papers.Today,
                Tables: reading.Tables?.ToDictionary(t => t.Key, t => new ColumnMapping(t.Value)),
                Documents: reading.Documents
            ),
            gone => one.State = one.State with { Gone = gone },
            stop
        );

    private static List<ImportFile> Described(OneImport one) =>
        [
            .. one.Reads.Select(read =>
            {
                var format = read.Format is { } key ? FormatsIn.Find(key) : null;
                return new ImportFile(
                    one.Parcel.Files[read.File].Name,
                    format?.Name,
                    format?.Choices ?? [],
                    read.Columns,
                    read.Columns is { } columns ? ColumnMapping.ShapeOf(columns) : null
                );
            }),
        ];

    private Dictionary<string, ColumnRole>? Remembered(IReadOnlyList<string> columns) =>
        store.Mapping(ColumnMapping.ShapeOf(columns)) is { } kept
            ? JsonSerializer.Deserialize<Dictionary<string, ColumnRole>>(kept, Answers.Json)
            : null;

    private void RememberColumns(OneImport one)
    {
        foreach (var file in one.State.Files)
            if (
                file.Table is { } table
                && one.State.Reading.Tables?.GetValueOrDefault(table) is { } roles
                && file.Columns!.All(roles.ContainsKey)
            )
                store.Remember(table, JsonSerializer.Serialize(roles, Answers.Json));
    }

    private static ImportSample Sample(Found found, string file) =>
        found switch
        {
            Found.OfSlip { Slip: var slip } => new(
                "slip",
                Core.Text.PlainText.Headline(slip.Text),
                Short(Core.Text.PlainText.WithReferences(slip.Text)),
                file,
                found.Line,
                slip.Topics,
                (slip.Kind ?? SlipKind.Idea).ToString().ToLowerInvariant()
            ),
            Found.OfSource { Source: var source } => new(
                "source",
                source.Title,
                Short(Core.Text.PlainText.WithReferences(source.Summary.Length > 0 ? source.Summary : source.Text)),
                file,
                found.Line,
                source.Topics,
                string.Join(
                    " · ",
                    (
                        (string[])
                            [
                                source.Creators,
                                source.Date,
                                source.Transcript.Count > 0
                                    ? $"{source.Transcript.Count} {(source.Transcript.Count == 1 ? "line" : "lines")} of transcript"
                                    : "",
                            ]
                    ).Where(p => p.Length > 0)
                )
            ),
            Found.OfMove move => new("move", move.Text, "", file, found.Line, [], move.Due is { } due ? $"due {due:yyyy-MM-dd}" : null),
            Found.OfPiece piece => new("piece", piece.Title, Short(piece.Draft), file, found.Line, [], null),
            Found.OfOccasion occasion => new(
                "occasion",
                occasion.Name,
                "",
                file,
                found.Line,
                [],
                $"{occasion.From:yyyy-MM-dd}"
                    + (occasion.To > occasion.From ? $" to {occasion.To:yyyy-MM-dd}" : "")
                    + (occasion.EveryYear ? ", every year" : "")
            ),
            _ => new("", "", "", file, found.Line, [], null),
        };

    private static string Short(string text) => text.Length > 400 ? text[..400] + "…" : text;

    private void PutAway(string id)
    {
        if (!all.TryRemove(id, out var one))
            return;
        one.Stop.Cancel();
        try
        {
            Directory.Delete(one.Parcel.Folder, recursive: true);
        }
        catch (IOException) { }
    }

    public void Dispose()
    {
        foreach (var id in all.Keys)
            PutAway(id);
    }

    private sealed class Counting(Action<int> say) : IProgress<int>
    {
        public void Report(int value) => say(value);
    }
}
