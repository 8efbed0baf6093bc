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
    [Trait(App.Server, App.IsKilled)]
    public void Without_a_connection_nothing_is_doubled_or_lost()
    {
        Kept();
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

    private void Kept() =>
        writer.Until(
            () =>
                (bool)writer.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(true))")!,
            "the page to be kept for later"
        );

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void A_photo_waits_for_the_desk_and_arrives_once()
    {
        Kept();
        writer.Sees("the desk can be reached");
        app.Stop();
        writer.Choose("Photo or file", Path.Combine(App.Root, "docs", "examples", "tariff.png"));
        writer.Part("Photos and files with it");
        writer.Field("New slip").SendKeys("The older tariff shows");
        writer.Press("Catch");
        writer.Sees("with 1 file");
        OpenPhone();
        writer.Sees("with 1 file");
        app.StartAgain();
        writer.Sees("slip 1");
        writer.SeesNot("on the way");
        Slips.ShouldBe(1);
        writer.Server("/api/attachments/slip/1").ShouldContain("\"name\":\"tariff.png\"");
        // A photo alone is a slip too, by its name.
        writer.Choose("Photo or file", Path.Combine(App.Root, "docs", "examples", "survey.pdf"));
        writer.Press("Catch");
        writer.Sees("slip 2");
        writer.Server("/api/slips/2").ShouldContain("\"text\":\"survey\"");
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void What_is_shared_with_a_file_stands_ready_also_without_a_connection()
    {
        Kept();
        OpenPhone();
        writer.Field("New slip").SendKeys("half a thought");
        app.Stop();
        // What the system does when something is shared: it sends a form to the page's address, which the worker takes.
        writer.Driver.ExecuteAsyncScript(
            """
            const done = arguments[0]; const form = new FormData();
            form.set('title', 'A tariff'); form.set('text', 'seen at Harnsby');
            form.append('files', new File(['x'], 'tariff.txt', { type: 'text/plain' }));
            fetch('/c', { method: 'POST', body: form }).then(() => done(true), () => done(false));
            """
        );
        OpenPhone();
        writer.Until(() => writer.Value("New slip") == "half a thought\nA tariff seen at Harnsby", "what was shared under what was begun");
        writer.Part("Photos and files with it").Text.ShouldContain("tariff.txt");
        writer.Press("Catch");
        app.StartAgain();
        writer.Sees("slip 1");
        writer.Until(
            () => writer.Server("/api/attachments/slip/1").Contains("tariff.txt", StringComparison.Ordinal),
            "the file at its slip"
        );
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
