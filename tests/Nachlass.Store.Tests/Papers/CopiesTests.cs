using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Papers;

public sealed class CopiesTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-copies-").FullName;

    public void Dispose()
    {
        desk.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    private string Copy => Path.Combine(folder, "copy.db");

    [Fact]
    public void A_copy_holds_what_there_was_and_is_one_file()
    {
        desk.Catch("one");
        desk.Pieces.Start(new NewPiece("A piece"), Once.Unkeyed);
        Copies.Make(desk.Papers, Copy).ShouldSatisfyAllConditions(h => h.Slips.ShouldBe(1), h => h.Pieces.ShouldBe(1));
        desk.Catch("two");
        Copies.Check(Copy).Slips.ShouldBe(1);
        Directory.GetFiles(folder).ShouldBe([Copy]);
    }

    [Fact]
    public void A_copy_laid_ready_takes_the_papers_place_at_the_next_opening_with_the_settings_of_now()
    {
        desk.Catch("one");
        Copies.Make(desk.Papers, Copy);
        desk.Catch("two");
        new SettingStore(desk.Papers).Set(SettingStore.MirrorFolder, "/somewhere");
        Copies.LayReady(Copy, desk.Papers);
        desk.Slips.Get(SlipNumber.Of(2)).Text.ShouldBe("two");
        var place = desk.Folder;
        desk.Papers.Dispose();
        using (var papers = PapersFile.Open(place, desk.Clock))
        {
            papers.Read(db => Dapper.SqlMapper.ExecuteScalar<int>(db, "SELECT count(*) FROM slip")).ShouldBe(1);
            new SettingStore(papers).Get(SettingStore.MirrorFolder).ShouldBe("/somewhere");
        }
        File.Exists(Path.Combine(place, PapersFile.FileName + Copies.Before)).ShouldBeTrue();
        Directory.GetFiles(place, "*.next*").ShouldBeEmpty();
    }

    [Fact]
    public void What_is_no_sound_copy_is_refused_and_nothing_is_laid_ready()
    {
        desk.Catch("one");
        File.WriteAllText(Copy, "no papers");
        Should.Throw<CopyException>(() => Copies.LayReady(Copy, desk.Papers));
        Copies.Make(desk.Papers, Copy);
        using (var file = File.OpenWrite(Copy))
        {
            file.Position = 20_000;
            file.Write(new byte[9_000]);
        }
        Should.Throw<CopyException>(() => Copies.LayReady(Copy, desk.Papers)).Message.ShouldContain("copy.db");
        Copies.Make(desk.Papers, Path.Combine(folder, "of tomorrow.db"));
        Should.Throw<CopyException>(() => Copies.Make(desk.Papers, Path.Combine(folder, "no such", "copy.db")));
        Directory.GetFiles(desk.Folder, "*.next*").ShouldBeEmpty();
        Directory.GetFiles(desk.Folder, "copy-*").ShouldBeEmpty();
    }
}
