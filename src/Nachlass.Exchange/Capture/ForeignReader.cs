using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Capture;

/// <summary>What is to be read by <see cref="ForeignReader"/>: the files of a parcel, a clipped page, or the words of one file.</summary>
/// <param name="Files">The files of the parcel.</param>
/// <param name="Only">The key of the one format the files are read as; null to recognise each.</param>
/// <param name="Page">A file that holds a clipped page as JSON.</param>
/// <param name="Whole">Whether all the words of the page are taken, without looking for the part that is to be read.</param>
/// <param name="Look">A file to be looked into for its type and words, by its name and where it lies.</param>
public sealed record ToRead(
    DateOnly Today,
    IReadOnlyList<InFile>? Files = null,
    IReadOnlyDictionary<string, ColumnMapping>? Tables = null,
    DocumentsAs? Documents = null,
    string? Only = null,
    string? Page = null,
    bool Whole = false,
    InFile? Look = null
);

/// <summary>What a file was read as.</summary>
/// <param name="File">Its place among the files, from 0.</param>
/// <param name="Columns">Its columns, when it is a table.</param>
/// <param name="Title">What it calls itself, when it is a feed.</param>
/// <param name="Spool">Where the things found in it lie; null when it could not be read.</param>
/// <param name="Reason">Why it could not be read.</param>
public sealed record FileRead(
    int File,
    string? Format = null,
    IReadOnlyList<string>? Columns = null,
    string? Title = null,
    string? Spool = null,
    string? Reason = null
);

/// <summary>A line that the reader says: how far it is, a file that is done, the page, or the words that were asked for.</summary>
/// <param name="At">The file it begins with.</param>
/// <param name="Gone">How many things of it were found so far.</param>
/// <param name="Refused">Why what was asked for can't be done.</param>
public sealed record ReaderSays(
    int? At = null,
    int? Gone = null,
    FileRead? Done = null,
    FoundSource? Page = null,
    FileReading? Looked = null,
    string? Refused = null,
    string? Field = null,
    bool End = false
);

/// <summary>
/// Reads what strangers made, in a process that holds nothing else: nesting that no stack can hold, or a few bytes that unfold to
/// gigabytes, end this process and not the one with the papers. It is given one line of JSON, says lines of JSON, and ends with its
/// asker.
/// </summary>
public static class ForeignReader
{
    /// <summary>Deep enough for everything that is no attack.</summary>
    private const int Stack = 64 << 20;

    private const int LongestReason = 300;

    /// <summary>Reads what the first line of <paramref name="asked"/> asks for.</summary>
    public static void Run(TextReader asked, TextWriter said)
    {
        // What every request needs is compiled while none has come yet.
        JsonSerializer.Serialize(new ReaderSays(Done: new FileRead(0)), Spool.Json);
        JsonSerializer.Deserialize<ToRead>("{}", Spool.Json);
        var request = JsonSerializer.Deserialize<ToRead>(asked.ReadLine() ?? "null", Spool.Json);
        if (request is null)
            return;
        // Whoever asked may be gone; nothing is read for nobody.
        new Thread(() =>
        {
            asked.ReadToEnd();
            Environment.Exit(1);
        })
        {
            IsBackground = true,
        }.Start();
        var reading = new Thread(() => Answer(request, line => Say(said, line)), Stack);
        reading.Start();
        reading.Join();
    }

    private static void Say(TextWriter said, ReaderSays line)
    {
        lock (said)
        {
            said.WriteLine(JsonSerializer.Serialize(line, Spool.Json));
            said.Flush();
        }
    }

    internal static void Answer(ToRead request, Action<ReaderSays> say)
    {
        try
        {
            if (request.Page is { } page)
                say(
                    new ReaderSays(
                        Page: Clip.Read(
                            JsonSerializer.Deserialize<ClippedPage>(File.ReadAllText(page), Spool.Json)!,
                            request.Today,
                            request.Whole
                        )
                    )
                );
            else if (request.Look is { } look)
                say(new ReaderSays(Looked: FileKinds.Read(look.Name, look.Path)));
            else
                Files(request, say);
            say(new ReaderSays(End: true));
        }
        catch (BadInputException bad)
        {
            say(new ReaderSays(Refused: bad.Message, Field: bad.Field, End: true));
        }
        catch (OutOfMemoryException)
        {
            say(new ReaderSays(Refused: "it unfolds to more than there is memory for.", End: true));
        }
    }

    private static void Files(ToRead request, Action<ReaderSays> say)
    {
        var files = request.Files ?? [];
        var byName = files
            .GroupBy(f => f.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);
        var linked = new HashSet<InFile>();
        var how = new ReadAs(request.Today, request.Tables, request.Documents, Beside);
        var only = request.Only is { } key ? FormatsIn.Find(key) : null;
        // Texts first, since what they link to is theirs and no slip of its own.
        var left = Parcel.MostThings;
        foreach (
            var (file, format, place) in files
                .Select((file, place) => (File: file, Format: only ?? FormatsIn.Recognise(file), place))
                .OrderBy(r => r.Format is Pictures or Pdf or null)
        )
        {
            if (linked.Contains(file))
                continue;
            say(new ReaderSays(At: place));
            say(new ReaderSays(Done: One(file, format, place)));
        }

        InFile? Beside(string name)
        {
            if (byName.GetValueOrDefault(name) is not { } beside)
                return null;
            linked.Add(beside);
            return beside;
        }

        // All or nothing holds for a file: of one that breaks off in its middle nothing comes in, and the others do.
        FileRead One(InFile file, IFormat? format, int place)
        {
            var read = new FileRead(place, format?.Key);
            if (format is null)
                return read with { Reason = "nothing here reads a file of this kind." };
            var spool = $"{file.Path}.found";
            var before = linked.ToHashSet();
            try
            {
                var columns = format is ITable table ? table.Columns(file) : null;
                var count = Spool.Write(spool, Limited(format.Read(file, how), left), gone => say(new ReaderSays(place, gone)));
                left -= count;
                return read with { Columns = columns, Title = format is Feed ? Feed.TitleOf(file) : null, Spool = spool };
            }
            catch (Exception error) when (error is UnreadableFileException or OutOfMemoryException or InsufficientExecutionStackException)
            {
                File.Delete(spool);
                linked.IntersectWith(before);
                return read with
                {
                    Reason = error switch
                    {
                        // A parser may name all of a hundred thousand elements that are not closed.
                        UnreadableFileException { Reason: { Length: > LongestReason } reason } => reason[..LongestReason] + " …",
                        UnreadableFileException unreadable => unreadable.Reason,
                        OutOfMemoryException => "it unfolds to more than there is memory for.",
                        _ => "it is nested deeper than any text is.",
                    },
                };
            }
        }
    }

    private static IEnumerable<Found> Limited(IEnumerable<Found> things, int most)
    {
        var count = 0;
        foreach (var found in things)
        {
            if (found is not Found.Unread && ++count > most)
                throw new UnreadableFileException("", $"it would make more than {Parcel.MostThings:N0} things at once. Split it.");
            yield return FoundLimits.Fitted(found);
        }
    }
}
