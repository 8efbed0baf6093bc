using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Papers;

/// <summary>The one file that the papers are: made whole or not at all, whole after a stop, and not written into the void.</summary>
public sealed class OnDiskTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-disk-").FullName;

    private string PapersDb => Path.Combine(folder, PapersFile.FileName);

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private PapersFile Open() => PapersFile.Open(folder, TimeProvider.System);

    private static void Catch(PapersFile papers, string text) => new Store.Capture.CaptureStore(papers).CatchSlip(text, null, Once.Unkeyed);

    [Fact]
    public void A_first_start_that_was_broken_off_leaves_nothing_in_the_way()
    {
        using (var db = new SqliteConnection($"Data Source={PapersDb}.making;Pooling=False"))
            db.Execute("CREATE TABLE half (made)");
        using (var papers = Open())
            Catch(papers, "one");
        File.Exists(PapersDb + ".making").ShouldBeFalse();
    }

    [Fact]
    public void After_a_stop_the_one_file_is_the_papers_and_theirs_alone()
    {
        using (var papers = Open())
            for (var i = 0; i < 30; i++)
                Catch(papers, $"slip {i}");
        File.Exists(PapersDb + "-wal").ShouldBeFalse();
        using (var copy = new SqliteConnection($"Data Source={PapersDb};Mode=ReadOnly;Pooling=False"))
            copy.ExecuteScalar<int>("SELECT count(*) FROM slip").ShouldBe(30);
        if (!OperatingSystem.IsWindows())
            File.GetUnixFileMode(folder).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
    }

    [Fact]
    public void An_empty_file_beside_a_log_or_files_is_never_taken_for_new_papers()
    {
        File.WriteAllText(PapersDb, "");
        File.WriteAllText(PapersDb + "-wal", "something");
        Should.Throw<CannotOpenException>(Open).Message.ShouldContain("its log");
        File.ReadAllText(PapersDb + "-wal").ShouldBe("something");
        File.Delete(PapersDb + "-wal");
        Directory.CreateDirectory(Path.Combine(folder, "files", "ab"));
        Should.Throw<CannotOpenException>(Open).Message.ShouldContain("attached files");
        Directory.Delete(Path.Combine(folder, "files"), recursive: true);
        Open().Dispose();
    }

    [Fact]
    public void A_folder_in_its_place_is_said_in_one_line()
    {
        Directory.CreateDirectory(PapersDb);
        Should.Throw<CannotOpenException>(Open).Message.ShouldContain("is a folder");
    }

    public static TheoryData<string> Ways => ["removed", "replaced", "garbled"];

    [Theory]
    [MemberData(nameof(Ways))]
    public void Papers_that_are_taken_away_under_it_stop_all_writing(string way)
    {
        using var papers = Open();
        Catch(papers, "one");
        papers.Check();
        switch (way)
        {
            case "removed":
                File.Delete(PapersDb);
                break;
            case "replaced":
                File.WriteAllText(PapersDb + "2", "other");
                File.Move(PapersDb + "2", PapersDb, overwrite: true);
                break;
            default:
                using (var file = new FileStream(PapersDb, FileMode.Open, FileAccess.Write, FileShare.ReadWrite))
                    file.Write(new byte[4096]);
                break;
        }
        Should.Throw<PapersGoneException>(() => Catch(papers, "two")).Message.ShouldContain("Nothing more is written");
        Should.Throw<PapersGoneException>(papers.Check);
    }

    [Fact]
    public void A_full_disk_changes_nothing_and_all_goes_on_when_there_is_room()
    {
        using var desk = new Desk();
        desk.Catch("before");
        var (full, before) = (desk.Papers.Alone(db => db.ExecuteScalar<long>("PRAGMA page_count")), desk.Everything());
        desk.Papers.Alone(db => db.Execute($"PRAGMA max_page_count = {full}"));
        var refused = 0;
        for (var i = 0; i < 40; i++)
            try
            {
                desk.Capture.CatchSlip(new string('x', 90_000), null, Once.Unkeyed);
            }
            catch (SqliteException error) when (error.SqliteErrorCode == 13)
            {
                refused++;
            }
        refused.ShouldBe(40);
        desk.Everything().ShouldBe(before);
        desk.Papers.Alone(db => db.Execute("PRAGMA max_page_count = 1073741823"));
        desk.Catch("after").Text.ShouldBe("after");
    }

    [Fact]
    public void A_clock_a_year_ahead_for_one_start_forgets_nothing()
    {
        using var desk = new Desk();
        for (var i = 0; i < 5; i++)
            desk.Catch($"slip {i}");
        var slip = desk.Capture.CatchSlip("to be taken back", null, Once.Unkeyed);
        desk.Clock.Advance(TimeSpan.FromDays(800));
        desk.Catch("written by a wrong clock");
        desk.Papers.Alone(db =>
        {
            UndoLog.Trim(db);
            return 0;
        });
        desk.Undo(slip.Command);
    }
}
