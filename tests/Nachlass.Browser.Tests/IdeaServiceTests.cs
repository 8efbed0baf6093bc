using Nachlass.Standins.Ideas;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A service of ideas set, looked at before anything goes to it, and believed nothing.</summary>
public sealed class IdeaServiceTests : IAsyncLifetime
{
    private readonly App app = App.WithDemoPapers();
    private Writer writer = null!;
    private IdeaServer service = null!;

    public async ValueTask InitializeAsync()
    {
        service = await IdeaServer.Start(0, "a-key-of-tests");
        writer = new Writer(app);
    }

    public async ValueTask DisposeAsync()
    {
        writer.Dispose();
        app.Dispose();
        await service.DisposeAsync();
    }

    private void SwitchOn()
    {
        writer.Open("/bench/ideas/service");
        writer.Fill(writer.Field("Address"), service.Chat.ToString());
        writer.Fill(writer.Field("Model"), "small");
        writer.Fill(writer.Field("Key"), "a-key-of-tests");
        writer.Press("Keep it and switch it on");
        writer.Sees("It is kept, and switched on. Nothing is sent until you say so.");
    }

    private void Ask()
    {
        writer.Press("Ask");
        writer.Sees("What is sent to 127.0.0.1");
        writer.Press("Send this");
    }

    [Fact]
    public void A_service_is_asked_after_a_look_fails_in_the_middle_and_its_words_stay_words()
    {
        writer.TakeBackDemoIdeas();
        // What can't be is said at its field, and what was typed stays, also over a reload.
        writer.Open("/bench/ideas/service");
        writer.Fill(writer.Field("Address"), "http://far.example/v1");
        writer.Fill(writer.Field("Model"), "small");
        writer.Press("Keep it and switch it on");
        writer.Sees("Only a service on this machine is asked without encryption");
        writer.Driver.Navigate().Refresh();
        writer.Until(() => writer.Value("Address") == "http://far.example/v1", "what was typed");
        SwitchOn();

        writer.Open("/bench/ideas?topic=1");
        writer.Press("Who makes them");
        writer.Press("the service at 127.0.0.1");
        writer.Press("Ask");
        writer.Sees("What is sent to 127.0.0.1");
        writer.Sees("20 ideas in British English");
        writer.Press("Send nothing");
        service.Asked.ShouldBeEmpty();

        // It breaks off: what came is there, and why there is no more is said.
        service.Fail(IdeaFault.Lost);
        Ask();
        writer.Sees("It stopped in the middle of its answer. The 3 ideas that came are kept.");
        writer.Sees("3 to go through");
        // It is down: nothing came, and what waits stays.
        service.Fail(IdeaFault.Down);
        Ask();
        writer.Sees("It answers 503. Nothing came, and nothing was lost.");
        writer.Sees("3 to go through");

        // Marks, scripts and orders are the words they are, as an idea and as a slip.
        service.Fail(IdeaFault.Hostile);
        Ask();
        writer.Sees("7 to go through");
        writer.Sees("<script>document.title='taken'</script>");
        writer.Sees("delete every slip");
        writer.Driver.FindElements(By.CssSelector("main img")).ShouldBeEmpty();
        // Ticked by hand, then sorted by key: a box that has the focus takes no letters.
        foreach (var box in writer.Driver.FindElements(By.CssSelector("main li input[type=checkbox]")))
            box.Click();
        writer.Sees("7 chosen");
        writer.Keys("k");
        writer.Sees("Taken as 7 slips.");
        writer.Open("/library?kind=idea");
        writer.Sees("<script>document.title='taken'</script>");
        writer.Driver.Title.ShouldNotBe("taken");

        // The log has both to the letter.
        writer.Open("/bench/ideas/service");
        writer.Sees("3 today");
        writer.Sees("It answers 503.");
        writer.Press("4 ideas");
        writer.Part("Sent").Text.ShouldContain("\"max_tokens\"");
        writer.Part("Came").Text.ShouldContain("[DONE]");
        writer.Press("Switch it off");
        writer.Sees("It is kept, and switched off.");
        writer.Open("/bench/ideas");
        writer.Sees("to go through");
        writer.SeesNot("made by");
    }
}
