using System.Net;
using System.Text;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Clipping from a page of another site, and the sign-in that guards what listens further.</summary>
public sealed class ClipTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;
    private readonly HttpListener other = new();
    private readonly string site;

    public ClipTests()
    {
        writer = new Writer(app);
        using (var socket = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0))
        {
            socket.Start();
            site = $"http://localhost:{((IPEndPoint)socket.LocalEndpoint).Port}/";
        }
        other.Prefixes.Add(site);
        other.Start();
        var page = Encoding.UTF8.GetBytes(
            "<!doctype html><html lang=en><head><meta charset=utf-8><title>Bells of the Tavle</title></head><body><nav><a "
                + "href=/>All walks</a></nav><article><h1>Bells of the Tavle</h1>"
                + string.Concat(
                    Enumerable
                        .Range(1, 15)
                        .Select(i =>
                            $"<p id=p{i}>In year {i} the bell on the far bank woke the near one, and the ferryman rowed over empty "
                            + "to fetch whoever had thought better of it.</p>"
                        )
                )
                + "</article></body></html>"
        );
        _ = Task.Run(async () =>
        {
            while (other.IsListening)
            {
                var asked = await other.GetContextAsync();
                asked.Response.ContentType = "text/html; charset=utf-8";
                await asked.Response.OutputStream.WriteAsync(page);
                asked.Response.Close();
            }
        });
    }

    public void Dispose()
    {
        other.Close();
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_page_of_another_site_comes_in_with_the_words_that_were_selected()
    {
        writer.Open("/bring-in");
        writer.Press("Make the bookmark");
        var bookmark = writer.Button("Clip to Nachlass").GetDomAttribute("href")!;
        bookmark.ShouldStartWith("javascript:");
        writer.Driver.Navigate().GoToUrl(site + "bells");
        var own = writer.Driver.CurrentWindowHandle;
        // What a click on the bookmark does: its script runs in the page that is being read.
        writer.Driver.ExecuteScript(
            "const r = document.createRange(); r.selectNodeContents(document.getElementById('p7')); getSelection().addRange(r);"
        );
        writer.Driver.ExecuteScript(Uri.UnescapeDataString(bookmark["javascript:".Length..]));
        writer.Until(() => writer.Driver.WindowHandles.Count == 2, "the small window");
        writer.Driver.SwitchTo().Window(writer.Driver.WindowHandles.Single(w => w != own));
        writer.Part("Clipped").Text.ShouldContain("Bells of the Tavle");
        writer.Sees("words to read");
        writer.Sees("The words you selected are a passage of it");
        writer.Driver.Url.ShouldEndWith("/clip");
        writer.Press("Open the source");
        writer.Part("Passages").Text.ShouldContain("“In year 7 the bell");
        writer.Button("Open the place of slip 1").GetDomAttribute("href")!.ShouldContain("#:~:text=");
        writer.Press("Its own words");
        writer.Sees("In year 15 the bell");
        writer.SeesNot("All walks");
        writer.Open("/sift").Sees("In year 7 the bell");
        writer.Sees("Clipped");
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void Beyond_this_machine_the_passphrase_is_asked_for()
    {
        writer.Open("/desk");
        writer.Press("More");
        writer.Press("Passphrase");
        writer.Field("A new one").SendKeys("short");
        writer.Press("Set it");
        writer.Sees("at least 12 characters");
        writer.Fill(writer.Field("A new one"), "four loaves no coin");
        writer.Press("Set it");
        writer.Sees("The passphrase is set.");
        // Who chose it is signed in; another browser is not.
        writer.Driver.Manage().Cookies.DeleteAllCookies();
        app.Stop();
        app.StartAgain([("NACHLASS_PROXY", "yes"), ("NACHLASS_HOSTS", "desk.example")]);
        writer.Driver.Navigate().GoToUrl(app.Url + "/topics");
        writer.Field("Passphrase").SendKeys("a wrong guess" + Keys.Enter);
        writer.Sees("This is not the passphrase.");
        writer.Fill(writer.Field("Passphrase"), "four loaves no coin");
        writer.Press("Open the papers");
        writer.IsAt("/topics");
        writer.Sees("Topics");
        writer
            .Driver.Manage()
            .Cookies.AllCookies.Single(c => c.Name == "nachlass")
            .ShouldSatisfyAllConditions(c => c.IsHttpOnly.ShouldBeTrue(), c => c.Secure.ShouldBeTrue());
    }
}
