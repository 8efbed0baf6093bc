using System.Globalization;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>Opens the papers; for the demo, makes them anew from the files of the repository first.</summary>
internal static class Demo
{
    /// <summary>Stands in a folder that a demo made, so that no other folder is ever renewed.</summary>
    private const string Sign = "made-by-make-demo";

    public static PapersFile Open(Settings settings, TimeProvider time)
    {
        if (settings.Demo is not { } demo) return PapersFile.Open(settings.Data, time);
        if (!File.Exists(Path.Combine(demo, "papers.md"))) throw new CannotStartException($"There are no demo papers in {demo}.");
        Renew(settings.Data);
        var papers = PapersFile.Open(settings.Data, time);
        var files = Directory.EnumerateFiles(demo, "*.md", SearchOption.AllDirectories)
            .Select(file => (Path.GetRelativePath(demo, file).Replace('\\', '/'), File.ReadAllText(file)));
        // The files are dated as if they had been written on this day; all dates move along with today.
        var written = DateOnly.ParseExact(File.ReadAllText(Path.Combine(demo, "written-on.txt")).Trim(), "yyyy-MM-dd", CultureInfo.InvariantCulture);
        new ImageStore(papers, new FileVault(papers), Looking.Into).Put(PapersFiles.Read(files, papers.Today.DayNumber - written.DayNumber), Once.Unkeyed);
        return papers;
    }

    private static void Renew(string folder)
    {
        if (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any())
        {
            if (!File.Exists(Path.Combine(folder, Sign)))
                throw new CannotStartException($"The folder {folder} holds something that no demo made, and a demo would replace it. Choose an empty folder with NACHLASS_DATA.");
            // Under a running demo nothing may be taken away; the lock tells.
            try { new FileStream(Path.Combine(folder, "papers.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None).Dispose(); }
            catch (IOException) { throw new CannotStartException($"A demo is running in {folder} already."); }
            try { foreach (var file in Directory.EnumerateFiles(folder)) File.Delete(file); }
            catch (Exception error) when (error is IOException or UnauthorizedAccessException) { throw new CannotStartException($"The folder {folder} can't be renewed: {error.Message}"); }
        }
        try
        {
            Directory.CreateDirectory(folder);
            File.WriteAllText(Path.Combine(folder, Sign), "");
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException) { throw new CannotStartException($"The folder {folder} can't be written: {error.Message}"); }
    }
}
