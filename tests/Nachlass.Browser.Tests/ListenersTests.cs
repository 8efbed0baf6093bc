using Nachlass.Standins.Catalogue;

namespace Nachlass.Browser.Tests;

/// <summary>Recordings go out to listeners, and what readers write comes in from their mailbox, over the real protocols, with the demo
/// papers.</summary>
public sealed class ListenersTests : IAsyncLifetime
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;
    private ListenerServer listener = null!;
    private MailboxServer box = null!;

    public ListenersTests() => writer = new Writer(app);

    public async ValueTask InitializeAsync()
    {
        listener = await ListenerServer.Start(0, null);
        box = await MailboxServer.Start(0, "readers", "the-password", TimeProvider.System);
    }

    public async ValueTask DisposeAsync()
    {
        writer.Dispose();
        app.Dispose();
        await listener.DisposeAsync();
        await box.DisposeAsync();
    }

    [Fact]
    public void A_recording_reaches_a_listener_with_the_chapters_its_text_names()
    {
        writer.Open("/plan/outlets");
        writer.Press("part", writer.Part("Walks and films"));
        writer.Sees("Walks and films is not connected any more.");
        writer.Press("connect it", writer.Part("Walks and films"));
        writer.Field("audio feed: recordings with their chapters").Click();
        writer.Field("Hub").SendKeys(listener.Hub.ToString());
        writer.Press("Connect and try");
        writer.Sees("Walks and films is connected.");
        writer.Part("Walks and films").Text.ShouldContain("3 episodes");

        writer.Open("/bench/3").Sees("The rope walk");
        writer.Press("Take out ▾");
        writer.Press("Send it…");
        writer.Sees("the-rope-walk-at-harnsby.mp3");
        writer.Press("change its text");
        writer.Fill(writer.Field("The text as it goes out"), "Stand still.\n\n0:00 The gatepost\n9:00 Too late\n");
        writer.Sees("and the recording ends at 0:17");
        writer.Button("Send it now").Enabled.ShouldBeFalse();
        writer.Fill(writer.Field("The text as it goes out"), "Stand still.\n\n0:00 The gatepost\n0:09 The rope\n");
        writer.SeesNot("and the recording ends at");
        writer.Part("What is heard").Text.ShouldContain("The rope");
        writer.Until(() => writer.Button("Send it now").Enabled, "the button to send");
        writer.Press("Send it now");
        writer.Sees("It is on its way.");
        writer.Until(
            () => listener.Episodes.Any(e => e.Title.StartsWith("Audio walk: the rope walk", StringComparison.Ordinal)),
            "it to be heard"
        );
        listener.Episodes.Count.ShouldBe(4);
        listener.Episodes[^1].Chapters.ShouldBe(["0 The gatepost", "9 The rope"]);

        writer.Open("/catalogue/39").Sees("sent from the queue");
        writer.Part("About this release").Text.ShouldContain("the-rope-walk-at-harnsby.mp3");
        writer.Select("Recording", "");
        writer.Sees("It went out without a recording.");
        writer.Server("/api/outlets/4/feed").ShouldContain("\"episodes\":3");
        writer.UndoOf("It went out without a recording.");
        writer.Until(
            () => writer.Server("/api/outlets/4/feed").Contains("\"episodes\":4", StringComparison.Ordinal),
            "the recording again"
        );
    }

    [Fact]
    public void A_mailbox_is_watched_once_its_certificate_is_believed_and_its_password_right()
    {
        box.Deliver("Ida Moll <ida@readers.example>", "A question", "How deep is the ford at Ostrey in spring?");
        writer.Open("/catalogue/messages").Sees("150 messages");
        writer.Press("part", writer.Part("Watched mailbox"));
        writer.Sees("Mails can come in by themselves.");
        writer.Press("Watch a mailbox");
        writer.Press("Watch it");
        writer.Sees("Mail server");
        writer.Field("Mail server").SendKeys("no server");
        writer.Field("Name").SendKeys("readers");
        writer.Field("Password").SendKeys("wrong");
        writer.Press("Watch it");
        writer.Sees("“no server” is no mail server");
        writer.Value("Name").ShouldBe("readers");
        writer.Fill(writer.Field("Mail server"), $"127.0.0.1:{box.Port}");
        writer.Press("Watch it");
        writer.Sees("Nobody vouches for its certificate.");
        writer.Press("believe this certificate");
        writer.Sees("It does not take the name and password.");
        writer.Value("Password").ShouldBe("wrong");
        writer.Fill(writer.Field("Password"), "the-password");
        writer.Press("Watch it");
        writer.Sees("1 message came.");
        writer.Sees("How deep is the ford at Ostrey in spring?");
        writer.Sees("151 messages");
        writer.Press("look now");
        writer.Sees("Nothing new lies in it.");
        box.Changes.ShouldBe(0);
    }
}
