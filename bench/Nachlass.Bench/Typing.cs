using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace Nachlass.Bench;

/// <summary>From a key to the picture of it, in the draft of a piece and in the browser's own field with the same text.</summary>
internal static class Typing
{
    public const string Command = "typing";
    private const int Keys = 120;

    /// <summary>How long a key takes, in milliseconds.</summary>
    public sealed record Figures(double Median, double P95);

    /// <summary>Rows for the table, with the plain field as the reference in the same run.</summary>
    public static string Measure()
    {
        var root = Environment.CurrentDirectory;
        var folder = Directory.CreateTempSubdirectory("nachlass-typing-").FullName;
        using var socket = new TcpListener(IPAddress.Loopback, 0);
        socket.Start();
        var url = $"http://127.0.0.1:{((IPEndPoint)socket.LocalEndpoint).Port}";
        socket.Stop();
        var start = new ProcessStartInfo("dotnet", [Path.Combine(root, "src/Nachlass.Web/bin/Release/net10.0/Nachlass.Web.dll")])
        {
            RedirectStandardOutput = true,
        };
        start.Environment["NACHLASS_DATA"] = folder;
        start.Environment["NACHLASS_DEMO"] = Path.Combine(root, "demo");
        start.Environment["NACHLASS_URL"] = url;
        using var server = Process.Start(start)!;
        server.StandardOutput.ReadLine();
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments("--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--window-size=1280,800");
        using var driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), options);
        try
        {
            driver.Navigate().GoToUrl(url + "/bench/4");
            var draft = Wait(driver, By.CssSelector(".cm-content"));
            driver.FindElement(By.XPath("//button[starts-with(@aria-label,'Go to section 3 ')]")).Click();
            var editor = Run(driver);
            var text = draft.Text;
            var words = text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length;
            driver.ExecuteScript(
                "document.body.innerHTML = '<textarea></textarea>'; const f = document.querySelector('textarea');"
                    + "f.style.width = '600px'; f.style.height = '480px'; f.value = arguments[0].repeat(3); f.focus(); "
                    + "f.setSelectionRange(900, 900);",
                text
            );
            var plain = Run(driver);
            return string.Create(
                CultureInfo.InvariantCulture,
                $"""

                ## A key in a draft

                From pressing a key to the frame that shows it, in headless Chromium without a graphics card: in the draft of a
                piece of about 1,000 words ({words} in sight), and in a plain field with as much text, in the same browser.

                | what | median | p95 | plain field | ratio |
                | --- | ---: | ---: | ---: | ---: |
                | a key in the draft | {editor.Median:0.0} ms | {editor.P95:0.0} ms | {plain.Median:0.0} ms | ×{editor.Median
                    / plain.Median:0.0} |
                """
            );
        }
        finally
        {
            driver.Quit();
            server.Kill();
            server.WaitForExit();
            Directory.Delete(folder, recursive: true);
        }
    }

    private static IWebElement Wait(ChromeDriver driver, By what)
    {
        for (var i = 0; ; i++)
        {
            if (driver.FindElements(what) is [var found, ..])
            {
                Thread.Sleep(800);
                return found;
            }
            if (i > 200)
                throw new InvalidOperationException($"{what} did not come");
            Thread.Sleep(100);
        }
    }

    private static Figures Run(ChromeDriver driver)
    {
        driver.ExecuteScript(
            """
            window.taken = [];
            window.addEventListener('keydown', () => {
              const pressed = performance.now();
              requestAnimationFrame(() => {
                const after = new MessageChannel();
                after.port1.onmessage = () => window.taken.push(performance.now() - pressed);
                after.port2.postMessage(0);
              });
            }, true);
            """
        );
        for (var i = 0; i < Keys; i++)
        {
            new Actions(driver).SendKeys(i % 6 == 5 ? " " : ((char)('a' + i % 26)).ToString()).Perform();
            Thread.Sleep(40);
        }
        Thread.Sleep(300);
        var taken = ((IEnumerable<object>)driver.ExecuteScript("return window.taken")!).Select(Convert.ToDouble).Order().ToList();
        return new Figures(taken[taken.Count / 2], taken[(int)(taken.Count * 0.95)]);
    }
}
