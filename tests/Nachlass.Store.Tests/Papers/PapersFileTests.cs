using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Papers;

public sealed class PapersFileTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-test-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string PapersDb => Path.Combine(folder, PapersFile.FileName);

    [Fact]
    public void A_retried_request_makes_one_slip_also_after_a_restart()
    {
        var once = new Once("key-1", "POST /api/slips");
        int number;
        using (var papers = PapersFile.Open(folder, TimeProvider.System))
            number = new CaptureStore(papers).CatchSlip("only one", null, once).Answer.Number.Value;
        using (var papers = PapersFile.Open(folder, TimeProvider.System))
        {
            var again = new CaptureStore(papers).CatchSlip("only one", null, once);
            again.Repeated.ShouldBeTrue();
            again.Answer.Number.Value.ShouldBe(number);
            again.Answer.Text.ShouldBe("only one");
            papers.Read(db => db.ExecuteScalar<int>("SELECT count(*) FROM slip")).ShouldBe(1);
            Should
                .Throw<BadInputException>(() => new CaptureStore(papers).Catch([new ToCatch("x")], once with { Of = "POST /api/capture" }))
                .Field.ShouldBe("Idempotency-Key");
        }
    }

    [Fact]
    public void What_catching_answers_is_what_is_read_afterwards()
    {
        using var desk = new Desk();
        foreach (
            var caught in desk
                .Capture.Catch(
                    [
                        new ToCatch("Paid in bread #tolls #ferries", Origin: Origin.Paste),
                        new ToCatch("Weir https://tavle.example/weir"),
                        new ToCatch("“Four loaves”"),
                    ],
                    Once.Unkeyed
                )
                .Answer
        )
            JsonSerializer
                .Serialize(desk.Slips.Get(caught.Slip!.Number), Answers.Json)
                .ShouldBe(JsonSerializer.Serialize(caught.Slip, Answers.Json));
    }

    [Fact]
    public void What_waited_on_its_way_was_caught_when_it_was_caught()
    {
        using var desk = new Desk();
        var evening = desk.Clock.GetUtcNow().AddHours(-14);
        var caught = desk
            .Capture.Catch(
                [
                    new ToCatch("from the phone", Origin: Origin.Phone, At: evening),
                    new ToCatch("from a wrong clock", At: desk.Clock.GetUtcNow().AddDays(2)),
                ],
                Once.Unkeyed
            )
            .Answer;
        caught[0].Slip!.ShouldSatisfyAllConditions(s => s.CaughtAt.ShouldBe(evening), s => s.Day.ShouldBe(desk.Today.AddDays(-1)));
        caught[1].Slip!.ShouldSatisfyAllConditions(s => s.CaughtAt.ShouldBe(desk.Clock.GetUtcNow()), s => s.Day.ShouldBe(desk.Today));
    }

    [Fact]
    public void A_command_that_fails_leaves_nothing_half_written()
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        var capture = new CaptureStore(papers);
        Should.Throw<BadInputException>(() => capture.Catch([new ToCatch("fine #ferries"), new ToCatch("  ")], Once.Unkeyed));
        Should.Throw<InvalidOperationException>(() =>
            papers.Run<int>(
                "broke",
                new Once("k", "x"),
                change =>
                {
                    change.Db.Execute("INSERT INTO topic (name, colour) VALUES ('half', 'teal')");
                    throw new InvalidOperationException();
                }
            )
        );
        papers
            .Read(db =>
                db.ExecuteScalar<int>("SELECT (SELECT count(*) FROM slip) + (SELECT count(*) FROM topic) + (SELECT count(*) FROM command)")
            )
            .ShouldBe(0);
        capture.CatchSlip("goes on", null, Once.Unkeyed).Answer.Number.Value.ShouldBe(1);
    }

    [Fact]
    public void Two_servers_do_not_share_a_folder()
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        Should.Throw<CannotOpenException>(() => PapersFile.Open(folder, TimeProvider.System)).Message.ShouldContain("open in another");
    }

    [Fact]
    public void A_damaged_file_is_named_and_left_alone()
    {
        File.WriteAllText(PapersDb, "this was a database once, before the flood. " + new string('x', 5000));
        var before = File.ReadAllBytes(PapersDb);
        Should.Throw<CannotOpenException>(() => PapersFile.Open(folder, TimeProvider.System)).Message.ShouldContain("damaged");
        File.ReadAllBytes(PapersDb).ShouldBe(before);
        // The lock was let go, so a mended file can be opened.
        File.Delete(PapersDb);
        PapersFile.Open(folder, TimeProvider.System).Dispose();
    }

    [Fact]
    public void A_file_from_a_newer_program_is_refused()
    {
        PapersFile.Open(folder, TimeProvider.System).Dispose();
        Execute("INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Nachlass.Store.Migrations.9999_future.sql', '2030-01-01')");
        Should.Throw<CannotOpenException>(() => PapersFile.Open(folder, TimeProvider.System)).Message.ShouldContain("newer");
    }

    [Fact]
    public void Somebody_elses_database_is_refused()
    {
        Execute("CREATE TABLE other (a)");
        Should.Throw<CannotOpenException>(() => PapersFile.Open(folder, TimeProvider.System)).Message.ShouldContain("not one of Nachlass");
    }

    [Fact]
    public void A_folder_that_is_a_file_says_so()
    {
        var file = Path.Combine(folder, "file");
        File.WriteAllText(file, "");
        Should
            .Throw<CannotOpenException>(() => PapersFile.Open(Path.Combine(file, "papers"), TimeProvider.System))
            .Message.ShouldContain("can't be written");
    }

    [Fact]
    public void Before_a_migration_the_file_is_set_aside()
    {
        PapersFile.Open(folder, TimeProvider.System).Dispose();
        Execute("DELETE FROM SchemaVersions; DROP TABLE papers");
        // The first script runs again and fails on the tables that are there; the copy stays.
        Should.Throw<CannotOpenException>(() => PapersFile.Open(folder, TimeProvider.System)).Message.ShouldContain("brought up to date");
        Directory.GetFiles(folder, "*.before-*").ShouldHaveSingleItem();
    }

    [Fact]
    public void Listeners_are_told_what_was_touched()
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        var told = new List<Committed>();
        papers.Written += told.Add;
        new CaptureStore(papers).CatchSlip("one #ferries", null, Once.Unkeyed);
        told.ShouldHaveSingleItem().Rows.Select(r => r.Table).ShouldBe(["topic", "slip", "slip_topic"], ignoreOrder: true);
    }

    private void Execute(string sql)
    {
        using var db = new SqliteConnection($"Data Source={PapersDb};Pooling=False");
        db.Open();
        db.Execute(sql);
    }
}
