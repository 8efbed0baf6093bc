using System.Diagnostics;
using System.Runtime.InteropServices;
using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Capture;

/// <summary>
/// Has strangers' files read by a process of its own (<see cref="ForeignReader"/>), with bounds of time and memory. Whatever a file
/// does to its reader, here it is a file with a reason why it can't be read. Stopping ends the process at once, and its memory goes back.
/// </summary>
internal sealed class Reader(PapersFile papers) : IDisposable
{
    /// <summary>What <c>Program</c> is told to be such a process.</summary>
    public const string Verb = "read";

    /// <summary>So long a reader may find nothing, and so long more for each mebibyte of the file it is at.</summary>
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(20),
        SilenceEachMebibyte = TimeSpan.FromSeconds(2),
        PageSilence = TimeSpan.FromSeconds(6);

    /// <summary>Memory of a reader at most, in bytes.</summary>
    private const long MostMemory = 1L << 30;

    // More at once would take the machine from the writer.
    private readonly SemaphoreSlim turns = new(2);

    // The next reader is started while nobody waits for it.
    private Process? spare;

    /// <summary>Reads the files of a parcel into spools beside them.</summary>
    /// <param name="ask">What is to be read, without the files.</param>
    /// <param name="gone">Told how many things have been found so far.</param>
    /// <exception cref="OperationCanceledException">It was stopped.</exception>
    public IReadOnlyList<FileRead> Read(Parcel parcel, ToRead ask, Action<int>? gone = null, CancellationToken stop = default)
    {
        var files = parcel.Files.ToList();
        var (done, left) = (new Dictionary<int, FileRead>(), Enumerable.Range(0, files.Count).ToList());
        var found = 0;
        while (left.Count > 0)
        {
            int? at = null;
            var places = left;
            var end = Talk(
                ask with
                {
                    Files = [.. places.Select(place => files[place])],
                },
                said =>
                {
                    if (said.At is { } begins)
                        at = places[begins];
                    if (said.Gone is { } so)
                        gone?.Invoke(found + so);
                    if (said.Done is not { } read)
                        return;
                    done[places[read.File]] = read with { File = places[read.File] };
                    at = null;
                },
                () => Patience(at is { } reading ? files[reading].Path : null),
                stop
            );
            if (end is null)
                break;
            if (at is not { } bad)
                throw new UnreadableFileException(files[left[0]].Name, end);
            // The file ended its reader. It is set aside; another reader goes on with the others.
            done[bad] = new FileRead(bad, FormatsIn.All.FirstOrDefault(f => f.Key == ask.Only)?.Key, Reason: end);
            left = [.. left.Where(place => !done.ContainsKey(place))];
        }
        return [.. done.Values.OrderBy(read => read.File)];
    }

    /// <summary>What is to be read on a clipped page.</summary>
    /// <exception cref="BadInputException">The page can't be taken.</exception>
    public FoundSource Clip(ClippedPage page, DateOnly today)
    {
        var path = Path.Combine(papers.Folder, "incoming", $"page-{Guid.NewGuid():N}");
        try
        {
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            File.WriteAllText(path, JsonSerializer.Serialize(page, Spool.Json));
            // Of a page that is too much for finding what is to be read on it, all words are kept; else address, title and selection.
            return Clip(new ToRead(today, Page: path))
                ?? Clip(new ToRead(today, Page: path, Whole: true))
                ?? Exchange.Formats.Clip.Read(page with { Html = null }, today);
        }
        finally
        {
            File.Delete(path);
        }
    }

    private FoundSource? Clip(ToRead ask)
    {
        FoundSource? read = null;
        return Talk(ask, said => read ??= said.Page, () => PageSilence, CancellationToken.None) is null ? read : null;
    }

    /// <summary>The type of a file, the words in it and the length of a sound; none where it can't be read.</summary>
    public FileReading Look(string name, string path)
    {
        // Of plain text there is nothing to unfold.
        var type = FileKinds.TypeOf(name, path);
        if (type != FileKinds.Pdf && !SoundTypes.Has(type))
            return new FileReading(type, FileKinds.WordsOf(name, path));
        FileReading? read = null;
        Talk(new ToRead(default, Look: new InFile(name, path)), said => read ??= said.Looked, () => Patience(path), CancellationToken.None);
        return read ?? new FileReading(type, "");
    }

    private static TimeSpan Patience(string? path) =>
        path is null ? Silence : Silence + SilenceEachMebibyte * (new FileInfo(path).Length / 1_048_576.0);

    /// <summary>Starts a reader, listens to it and ends it.</summary>
    /// <returns>Null when it said all it had to say; else why not.</returns>
    private string? Talk(ToRead ask, Action<ReaderSays> hear, Func<TimeSpan> patience, CancellationToken stop)
    {
        turns.Wait(stop);
        try
        {
            using var process = Interlocked.Exchange(ref spare, null) is { HasExited: false } ready ? ready : Process.Start(Program())!;
            try
            {
                return Listen(process, ask, hear, patience, stop);
            }
            finally
            {
                End(process);
                if (Interlocked.Exchange(ref spare, Process.Start(Program())) is { } other)
                    End(other);
            }
        }
        finally
        {
            turns.Release();
        }
    }

    private static void End(Process process)
    {
        if (!process.HasExited)
            process.Kill();
        process.WaitForExit();
    }

    private static string? Listen(Process process, ToRead ask, Action<ReaderSays> hear, Func<TimeSpan> patience, CancellationToken stop)
    {
        // Nothing it may say to its errors is worth a word of the log; but it must not wait for a listener.
        process.ErrorDataReceived += (_, _) => { };
        process.BeginErrorReadLine();
        process.StandardInput.WriteLine(JsonSerializer.Serialize(ask, Spool.Json));
        process.StandardInput.Flush();
        while (true)
        {
            var most = patience();
            using var enough = CancellationTokenSource.CreateLinkedTokenSource(stop);
            enough.CancelAfter(most);
            string? line;
            try
            {
                line = process.StandardOutput.ReadLineAsync(enough.Token).AsTask().GetAwaiter().GetResult();
            }
            catch (OperationCanceledException)
            {
                stop.ThrowIfCancellationRequested();
                return $"reading it came no further within {most.TotalSeconds:0} seconds.";
            }
            if (line is null)
                return "it is nested deeper, or unfolds to more, than any text does.";
            var said = JsonSerializer.Deserialize<ReaderSays>(line, Spool.Json)!;
            if (said.Field is { } field)
                throw new BadInputException(field, said.Refused!);
            if (said.Refused is { } refused)
                return refused;
            hear(said);
            if (said.End)
                return null;
        }
    }

    private static ProcessStartInfo Program()
    {
        // The program may run by the dotnet command, by its own name, or inside the tests.
        var own = Environment.ProcessPath is { } path && Path.GetFileNameWithoutExtension(path) == "dotnet" ? path : null;
        var dotnet = own ?? Path.GetFullPath(Path.Combine(RuntimeEnvironment.GetRuntimeDirectory(), "..", "..", "..", "dotnet"));
        var start = new ProcessStartInfo(dotnet)
        {
            ArgumentList = { "exec", Path.Combine(AppContext.BaseDirectory, "Nachlass.Web.dll"), Verb },
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
            WorkingDirectory = Path.GetTempPath(),
            StandardInputEncoding = new System.Text.UTF8Encoding(false),
            StandardOutputEncoding = System.Text.Encoding.UTF8,
        };
        // Hexadecimal, as the runtime reads it.
        start.Environment["DOTNET_GCHeapHardLimit"] = MostMemory.ToString("X", System.Globalization.CultureInfo.InvariantCulture);
        start.Environment["DOTNET_gcServer"] = "0";
        start.Environment["DOTNET_TieredPGO"] = "0";
        start.Environment["DOTNET_DbgEnableMiniDump"] = "0";
        return start;
    }

    public void Dispose()
    {
        if (Interlocked.Exchange(ref spare, null) is { } ready)
        {
            End(ready);
            ready.Dispose();
        }
        turns.Dispose();
    }
}
