using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>How much an import makes or made.</summary>
/// <param name="Topics">Topics that there were not before.</param>
/// <param name="Known">Things that are here already and were skipped.</param>
/// <param name="Doubtful">Things that come in but should be looked at.</param>
/// <param name="Unread">Places that could not be read.</param>
public sealed record ImportCounts(
    int Slips,
    int Sources,
    int Topics,
    int Moves,
    int Pieces,
    int Occasions,
    int Files,
    int Known,
    int Doubtful,
    int Unread
)
{
    public bool IsEmpty => Slips + Sources + Moves + Pieces + Occasions == 0;
}

/// <summary>What is found, one thing at a time, each with the name of the file it is in.</summary>
public delegate IEnumerable<(string File, Found Found)> Finding();

/// <summary>Brings in what was found in files: all or nothing, as one command, and only what is new.</summary>
public sealed class ImportStore(PapersFile papers, FileShelf shelf, ReadFile look)
{
    /// <summary>Goes through what would come in without changing anything.</summary>
    /// <param name="see">Told of everything found and whether it would be new.</param>
    public ImportCounts Preview(Finding finding, Action<string, Found, bool> see, CancellationToken stop) =>
        papers.Read(db =>
        {
            var sorting = new Sorting(db);
            foreach (var (file, found) in finding())
            {
                stop.ThrowIfCancellationRequested();
                see(file, found, sorting.Meet(found));
            }
            return sorting.Counts;
        });

    /// <summary>Brings it in.</summary>
    /// <param name="what">What the history says.</param>
    /// <param name="origin">By which door it comes.</param>
    /// <param name="note">What the door was; null for the file's own name.</param>
    /// <param name="progress">Told how many things have been gone through.</param>
    /// <param name="settled">Whether slips come in as kept, because the writer chose them one by one.</param>
    /// <param name="stop">Stops it; then nothing was brought in.</param>
    public Done<ImportCounts> Run(
        string what,
        Origin origin,
        string? note,
        Finding finding,
        Once once,
        IProgress<int>? progress = null,
        bool settled = false,
        CancellationToken stop = default
    ) =>
        papers.Run(
            what,
            once,
            change =>
            {
                var making = new Making(change, new Sorting(change.Db), origin, note, settled, shelf, look);
                var gone = 0;
                foreach (var (file, found) in finding())
                {
                    stop.ThrowIfCancellationRequested();
                    making.Take(file, found);
                    if (++gone % 100 == 0)
                        progress?.Report(gone);
                }
                progress?.Report(gone);
                return making.Counts;
            }
        );

    /// <summary>What a table's columns were said to mean when one with the same columns came in last; null when none did.</summary>
    public string? Mapping(string shape) =>
        papers.Read(db => db.ExecuteScalar<string>("SELECT roles FROM column_mapping WHERE shape = @shape", new { shape }));

    /// <summary>Remembers what the columns mean. It is no change of the papers, so there is nothing to take back.</summary>
    public void Remember(string shape, string roles) =>
        papers.Alone(db =>
            db.Execute(
                "INSERT INTO column_mapping (shape, roles) VALUES (@shape, @roles) ON CONFLICT (shape) DO UPDATE SET roles = @roles",
                new { shape, roles }
            )
        );

    /// <summary>Tells what is new from what is here, by keys (see <see cref="Identity"/>) of all that is here and of all that was ever
    /// brought in.</summary>
    private sealed class Sorting
    {
        private readonly HashSet<UInt128> known = [];
        private readonly HashSet<string> topics;
        private int slips,
            sources,
            moves,
            pieces,
            occasions,
            files,
            newTopics,
            here,
            doubtful,
            unread;

        public Sorting(SqliteConnection db)
        {
            topics = db.Query<string>("SELECT name FROM topic WHERE merged_into IS NULL UNION SELECT name FROM topic_alias")
                .ToHashSet(StringComparer.OrdinalIgnoreCase);
            var ofSources = new Dictionary<int, UInt128>();
            foreach (
                var s in db.Query<SourceHere>(
                    "SELECT number, type, title, creators, container, date, address, details FROM source",
                    buffered: false
                )
            )
            {
                var keys = Identity.OfSource(s.Type, s.Title, s.Creators, s.Container, s.Date, s.Address, s.Details);
                ofSources[s.Number] = keys[0];
                foreach (var key in keys)
                    Sources[key] = s.Number;
                Sources.TryAdd(Identity.OfBareSource(s.Title, s.Creators), s.Number);
            }
            foreach (
                var (text, source, locator) in db.Query<(string, int?, string)>("SELECT text, source, locator FROM slip", buffered: false)
            )
                known.Add(Identity.OfSlip(text, source is { } of ? ofSources[of] : null, locator));
            foreach (var (text, due) in db.Query<(string, string?)>("SELECT text, due FROM move"))
                known.Add(Identity.OfMove(text, Papers.Mapping.Day(due)));
            foreach (
                var (title, draft) in db.Query<(string, string)>(
                    "SELECT p.title, d.text FROM piece p JOIN draft d ON d.piece = p.number",
                    buffered: false
                )
            )
                known.Add(Identity.OfPiece(title, draft));
            foreach (var (name, from) in db.Query<(string, DateOnly)>("SELECT name, from_day FROM occasion"))
                known.Add(Identity.OfOccasion(name, from));
            foreach (var (key, kind, number) in db.Query<(byte[], string, int)>("SELECT key, kind, number FROM brought", buffered: false))
            {
                var read = System.Buffers.Binary.BinaryPrimitives.ReadUInt128BigEndian(key);
                if (kind == "source")
                    Sources.TryAdd(read, number);
                else
                    known.Add(read);
            }
        }

        /// <summary>Sources that are here, by key. While only previewing, new ones stand under 0.</summary>
        public Dictionary<UInt128, int> Sources { get; } = [];

        public ImportCounts Counts => new(slips, sources, newTopics, moves, pieces, occasions, files, here, doubtful, unread);

        /// <summary>Counts a thing; returns whether it, or something in it, is new.</summary>
        public bool Meet(Found found)
        {
            var isNew = found switch
            {
                Found.OfSlip { Slip: var slip } => IsNew(slip, slip.Source),
                Found.OfSource { Source: var source } => source.Passages.Aggregate(
                    IsNew(source, counted: true),
                    (any, passage) => IsNew(passage, source) || any
                ),
                Found.OfMove move => Count(Identity.OfMove(move.Text, move.Due), ref moves),
                Found.OfPiece piece => Count(Identity.OfPiece(piece.Title, piece.Draft), ref pieces),
                Found.OfOccasion occasion => Count(Identity.OfOccasion(occasion.Name, occasion.From), ref occasions),
                _ => false,
            };
            Judge(found, isNew);
            return isNew;
        }

        /// <summary>Counts a thing as unread or doubtful, if it is.</summary>
        public void Judge(Found found, bool isNew)
        {
            if (found is Found.Unread)
                unread++;
            else if (isNew && found.Doubt is not null)
                doubtful++;
        }

        /// <summary>Counts a slip, with the source it points into.</summary>
        public bool IsNew(FoundSlip slip, FoundSource? of)
        {
            if (!Count(Identity.Of(slip, of), ref slips))
                return false;
            if (of is not null)
                IsNew(of, counted: false);
            files += slip.Files.Count;
            Meet(slip.Topics);
            return true;
        }

        /// <summary>Counts a source.</summary>
        /// <param name="counted">Whether one that is here counts as known; the source a slip points into does not.</param>
        public bool IsNew(FoundSource source, bool counted)
        {
            var keys = Identity.Of(source);
            if (keys.Any(Sources.ContainsKey))
            {
                if (counted)
                    here++;
                return false;
            }
            foreach (var key in keys)
                Sources[key] = 0;
            sources++;
            files += source.Files.Count;
            Meet(source.Topics);
            return true;
        }

        private void Meet(IReadOnlyList<string> names)
        {
            foreach (var name in names)
                if (CleanTopic(name) is { } clean && topics.Add(clean))
                    newTopics++;
        }

        private bool Count(UInt128 key, ref int counter)
        {
            if (!known.Add(key))
            {
                here++;
                return false;
            }
            counter++;
            return true;
        }

        private sealed class SourceHere
        {
            public int Number { get; init; }
            public SourceType Type { get; init; }
            public string Container { get; init; } = "";
            public string Title { get; init; } = "";
            public string Creators { get; init; } = "";
            public string Date { get; init; } = "";
            public string Address { get; init; } = "";
            public IReadOnlyDictionary<string, string> Details { get; init; } = new Dictionary<string, string>();
        }
    }

    /// <summary>A topic's name as it can be kept; null for what can be none.</summary>
    private static string? CleanTopic(string name)
    {
        try
        {
            return TopicName.Clean(name, "topic");
        }
        catch (BadInputException)
        {
            return null;
        }
    }

    /// <summary>Makes what is new.</summary>
    private sealed class Making(Change change, Sorting sorting, Origin origin, string? note, bool settled, FileShelf shelf, ReadFile look)
    {
        private readonly Dictionary<string, TopicNumber> topics = new(StringComparer.OrdinalIgnoreCase);

        public ImportCounts Counts => sorting.Counts;

        public void Take(string file, Found found)
        {
            if (found is Found.OfSource { Source: var whole })
            {
                var isNew = sorting.IsNew(whole, counted: true);
                if (isNew)
                    Source(whole);
                foreach (var passage in whole.Passages)
                {
                    if (!sorting.IsNew(passage, whole))
                        continue;
                    isNew = true;
                    Make(passage, whole, file);
                }
                sorting.Judge(found, isNew);
                return;
            }
            if (!sorting.Meet(found))
                return;
            switch (found)
            {
                case Found.OfSlip { Slip: var slip }:
                    Make(slip, slip.Source, file);
                    break;
                case Found.OfMove move:
                    var made = MoveRows.Add(
                        change,
                        Check.Text("text", Short(move.Text, Move.LongestText), Move.LongestText),
                        move.Due,
                        null,
                        change.Today
                    );
                    if (move.IsDone)
                        change.Db.Execute(
                            "UPDATE move SET done_at = @Now WHERE number = @Number",
                            new { Now = move.DoneAt ?? change.Now, made.Number }
                        );
                    Remember(Identity.OfMove(move.Text, move.Due), "move", made.Number.Value);
                    break;
                case Found.OfPiece piece:
                    Make(piece);
                    break;
                case Found.OfOccasion occasion:
                    Remember(
                        Identity.OfOccasion(occasion.Name, occasion.From),
                        "occasion",
                        change.Db.ExecuteScalar<int>(
                            "INSERT INTO occasion (name, from_day, to_day, every_year, recurs) "
                                + "VALUES (@Name, @From, @To, @EveryYear, @Recurs) RETURNING number",
                            new
                            {
                                Name = Short(occasion.Name, Occasion.LongestName),
                                occasion.From,
                                occasion.To,
                                occasion.EveryYear,
                                occasion.Recurs,
                            }
                        )
                    );
                    break;
            }
        }

        /// <summary>The source as it is here; made when it is not.</summary>
        private SourceNumber Source(FoundSource found)
        {
            var keys = Identity.Of(found);
            if (keys.Select(key => sorting.Sources.GetValueOrDefault(key)).FirstOrDefault(number => number > 0) is > 0 and var here)
                return SourceNumber.Of(here);
            var source = SourceRows.Add(
                change,
                new Source
                {
                    Number = default,
                    Type = found.Type,
                    Title = Field(found.Title),
                    Creators = Field(found.Creators),
                    Container = Field(found.Container),
                    Date = Field(found.Date),
                    Address = found.Address.Length <= Core.Sources.Source.LongestField ? found.Address : "",
                    Language = Field(found.Language),
                    Details = found.Details,
                    Summary = Short(found.Summary, Core.Sources.Source.LongestText),
                    Comments = Short(found.Comments, Core.Sources.Source.LongestText),
                    Text = Short(found.Text, Core.Sources.Source.LongestWords),
                    IsNew = !settled,
                },
                Topics(found.Topics)
            );
            TranscriptStore.Put(change.Db, source.Number, found.Transcript);
            Attach(Reference.To(source.Number), found.Files);
            foreach (var key in keys)
            {
                sorting.Sources[key] = source.Number.Value;
                Remember(key, "source", source.Number.Value);
            }
            sorting.Sources.TryAdd(Identity.OfBareSource(found.Title, found.Creators), source.Number.Value);
            return source.Number;
        }

        private static string Field(string text) => Short(text, Core.Sources.Source.LongestField);

        private static string Short(string text, int most) => text.Length > most ? text[..most] : text;

        private void Make(FoundSlip slip, FoundSource? of, string file)
        {
            var made = SlipRows.Insert(
                change,
                new NewSlip(slip.Text)
                {
                    Kind = slip.Kind ?? SlipKind.Idea,
                    State = settled ? SlipState.Kept : SlipState.Waiting,
                    Origin = origin,
                    OriginNote = Short(note ?? file, ToCatch.LongestNote),
                    Source = of is null ? null : Source(of),
                    Locator = Field(slip.Locator),
                    Pull = slip.Pull,
                    Effort = slip.Effort,
                    CaughtAt = slip.CaughtAt is { } at && at < change.Now ? Papers.Mapping.ToMillisecond(at) : change.Now,
                    // A passage is about what its source is about.
                    Topics = Topics([.. slip.Topics.Concat(slip.Source is null && of is not null ? of.Topics : [])]),
                }
            );
            Attach(Reference.To(made.Number), slip.Files);
            Remember(Identity.Of(slip, of), "slip", made.Number.Value);
        }

        private void Make(Found.OfPiece found)
        {
            var formats = FormatRows.All(change.Db);
            var format = formats.Find(found.Format) ?? formats.First;
            var piece = PieceRows.Start(
                change,
                Short(found.Title.Trim().Length > 0 ? found.Title.Trim() : "Untitled", Piece.LongestTitle),
                format,
                "",
                []
            );
            var (lead, parts) = DraftText.Split(Check.Length("draft", found.Draft, DraftText.Longest));
            DraftRows.Write(change, piece, new Outline(lead, [.. parts.Select(part => new Section(null, part))]));
            // It was written before it came here.
            change.Db.Execute("DELETE FROM written WHERE command = @Number", new { change.Number });
            Remember(Identity.OfPiece(found.Title, found.Draft), "piece", piece.Value);
        }

        private void Attach(Reference to, IReadOnlyList<FoundFile> files)
        {
            foreach (var file in files)
            {
                using var content = File.OpenRead(file.Path);
                if (content.Length == 0)
                    continue;
                var (hash, bytes) = shelf.Keep(content);
                AttachmentStore.Put(
                    change,
                    to,
                    Short(file.Name, Attachment.LongestName),
                    Short(file.Why, Attachment.LongestWhy),
                    hash,
                    bytes,
                    look(file.Name, shelf.Path(hash))
                );
            }
        }

        private List<TopicNumber> Topics(IReadOnlyList<string> names)
        {
            var numbers = new List<TopicNumber>();
            foreach (var name in names)
            {
                if (CleanTopic(name) is not { } clean)
                    continue;
                if (!topics.TryGetValue(clean, out var number))
                    topics[clean] = number = TopicRows.NumberFor(change.Db, clean);
                if (!numbers.Contains(number))
                    numbers.Add(number);
            }
            return numbers;
        }

        private void Remember(UInt128 key, string kind, int number)
        {
            var bytes = new byte[16];
            System.Buffers.Binary.BinaryPrimitives.WriteUInt128BigEndian(bytes, key);
            change.Hot.Run(
                "INSERT INTO brought (key, kind, number) VALUES (@key, @kind, @number)",
                ("@key", bytes),
                ("@kind", kind),
                ("@number", number)
            );
        }
    }
}
