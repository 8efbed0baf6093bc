using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Catching on the phone, with and without a connection.</summary>
public sealed class PhoneTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public PhoneTests()
    {
        writer = new Writer(app, 390, 844);
        OpenPhone();
    }

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void OpenPhone(string search = "")
    {
        writer.Driver.Navigate().GoToUrl(app.Url + "/c" + search);
        writer.Field("New slip");
    }

    private int Slips => System.Text.Json.Nodes.JsonNode.Parse(writer.Server("/api/slips"))!["total"]!.GetValue<int>();

    [Fact]
    public void Without_a_connection_nothing_is_doubled_or_lost()
    {
        writer.Until(() => (bool)writer.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(true))")!, "the page to be kept for later");
        writer.Sees("the desk can be reached");
        app.Stop();
        writer.Field("New slip").SendKeys("A thought while walking #bridges");
        writer.Press("Catch");
        writer.Sees("nothing is lost");
        writer.Sees("1 on the way");
        // The page itself comes from the phone now, and still has what was caught and what was begun.
        writer.Field("New slip").SendKeys("half a th");
        OpenPhone();
        writer.Part("Caught here").Text.ShouldContain("A thought while walking");
        writer.Value("New slip").ShouldBe("half a th");
        writer.Field("New slip").SendKeys("ought");
        writer.Press("Catch");
        writer.Sees("2 on the way");
        app.StartAgain();
        writer.Sees("slip 1");
        writer.Sees("slip 2");
        writer.SeesNot("on the way");
        OpenPhone();
        writer.Sees("the desk can be reached");
        Slips.ShouldBe(2);
        writer.Server("/api/slips/2").ShouldContain("half a thought");
        writer.Server("/api/slips/1").ShouldContain("\"origin\":\"phone\"");
        writer.Server("/api/slips/1").ShouldContain("\"name\":\"bridges\"");
    }

    [Fact]
    public void What_another_app_shares_stands_ready_to_be_caught()
    {
        OpenPhone("?title=Weir%20works&text=Weir%20works%20closed%20till%20March&url=https%3A%2F%2Ftavle.example%2Fweir");
        writer.Value("New slip").ShouldBe("Weir works closed till March https://tavle.example/weir");
        writer.Driver.Url.ShouldEndWith("/c");
        writer.Press("Catch");
        writer.Sees("slip 1, source 1");
        writer.Driver.ExecuteScript("return document.documentElement.scrollWidth").ShouldBe(390L);
        writer.Complaints().ShouldBeEmpty();
    }
}
