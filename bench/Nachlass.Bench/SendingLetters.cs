using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using MailKit.Net.Smtp;
using MailKit.Security;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Standins.Catalogue;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Bench;

/// <summary>A letter to a thousand readers through the stand-in, which fails again and again: how many do not get it, and how many get it
/// twice. Where nobody can know, the writer looks into the letter service, as the queue asks.</summary>
internal static class SendingLetters
{
    public const string Command = "letters";

    private const int Readers = 1_000;

    private const string Text =
        "The water is up to the second step at Quillan, which is where it likes to be in November.\n\n"
        + "There used to be a bell for the ferry at night. You would expect it on the bank where the ferryman lived.";

    public static async Task<string> Measure()
    {
        var report = new StringBuilder();
        report.AppendLine("| letters to 1,000 readers | lost | doubled | asked about | rounds | time | against handing over alone |");
        report.AppendLine("| --- | ---: | ---: | ---: | ---: | ---: | ---: |");
        var alone = await Alone();
        await Add(report, "nothing fails", alone, _ => PostFault.None);
        await Add(
            report,
            "one in four fails",
            alone,
            random =>
                random.NextDouble() switch
                {
                    < 0.12 => PostFault.Full,
                    < 0.17 => PostFault.Down,
                    < 0.23 => PostFault.Lost,
                    < 0.25 => PostFault.Wrong,
                    _ => PostFault.None,
                }
        );
        return report.ToString();
    }

    /// <summary>The same letters handed over one behind the other, with nothing written down.</summary>
    private static async Task<TimeSpan> Alone()
    {
        await using var letters = await LetterServer.Start(0, "tavle", "a password", null);
        using var client = new SmtpClient
        {
            ServerCertificateValidationCallback = (_, certificate, _, _) =>
                Convert.ToHexStringLower(SHA256.HashData(certificate!.GetRawCertData())) == letters.Certificate,
        };
        var clock = Stopwatch.StartNew();
        await client.ConnectAsync("127.0.0.1", letters.Port, SecureSocketOptions.StartTls);
        await client.AuthenticateAsync("tavle", "a password");
        for (var i = 0; i < Readers; i++)
        {
            using var message = new MimeMessage
            {
                Subject = "A letter",
                Body = new TextPart("plain") { Text = Text },
            };
            message.From.Add(new MailboxAddress("Low Water", "low-water@tavle.example"));
            message.To.Add(new MailboxAddress("", Address(i)));
            await client.SendAsync(message);
        }
        await client.DisconnectAsync(true);
        return clock.Elapsed;
    }

    private static string Address(int i) => $"reader{i}@reader.example";

    private static async Task Add(StringBuilder report, string name, TimeSpan alone, Func<Random, PostFault> fault)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-letters-").FullName;
        await using var letters = await LetterServer.Start(0, "tavle", "a password", null);
        await using (var app = Web.Startup.Build(["--data", folder, "--url", "http://127.0.0.1:0", "--pages", "off"]))
        {
            T Get<T>()
                where T : notnull => app.Services.GetRequiredService<T>();
            var outlet = Get<OutletStore>().Add(new OutletChange { Name = "Low Water" }, Once.Unkeyed).Answer.Number;
            Get<ReaderStore>()
                .Add(outlet, new NewReaders(string.Join('\n', Enumerable.Range(0, Readers).Select(Address)), "made for this"));
            Get<ConnectionStore>()
                .Set(
                    new Connection(
                        outlet,
                        ConnectionKind.Mail,
                        $"smtp://127.0.0.1:{letters.Port}",
                        HasSecret: true,
                        "tavle",
                        "low-water@tavle.example",
                        letters.Certificate
                    ),
                    Get<Secrets>().Close("a password")
                );
            var piece = Get<PieceStore>().Start(new NewPiece("A letter", "essay"), Once.Unkeyed).Answer.Number;
            Get<DraftStore>().Save(piece, Text, Get<DraftStore>().Get(piece).Version, Once.Unkeyed);
            var random = new Random(11);
            for (var i = 0; i < 2 * Readers; i++)
                letters.Fail(fault(random));
            var queue = Get<QueueStore>();
            var number = queue.Queue(piece, new NewSending(outlet), Once.Unkeyed).Answer.Number;
            var (rounds, asked) = (0, 0);
            var clock = Stopwatch.StartNew();
            while (queue.Get(number).State != SendingState.Sent)
            {
                if (rounds++ > 0)
                    queue.Act(number, QueueAct.TryNow);
                await Get<Sender>().SendDue(CancellationToken.None);
                if (queue.Get(number) is { State: SendingState.Asks } lost)
                {
                    // All that the stand-in lost the answer of, it has.
                    asked += lost.Letters!.Unknown;
                    queue.Act(number, QueueAct.ItArrived);
                    await Get<Sender>().SendDue(CancellationToken.None);
                }
            }
            var time = clock.Elapsed;
            var to = letters.Letters.CountBy(l => l.To).ToDictionary();
            report.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {name} | {Enumerable.Range(0, Readers).Count(i => !to.ContainsKey(Address(i)))} | {to.Values.Count(n => n > 1)} "
                    + $"| {asked} | {rounds} | {time.TotalSeconds:0.0} s | ×{time / alone:0.0} |"
            );
        }
        Directory.Delete(folder, recursive: true);
    }
}
