using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace Nachlass.Bench;

/// <summary>From a key to the picture of it, in the draft of a piece and in the browser's own field with the same text.</summary>
internal static class Typing
{
    public const string Command = "typing";
    private const int Keys = 120,
        Rounds = 4,
        Opens = 7;

    /// <summary>How long a key takes, in milliseconds: of all keys, and of those of the quietest round, since whatever else a machine does
    /// only adds.</summary>
    public sealed record Figures(double Median, double P95, double QuietP95);

    /// <summary>Rows for the table, with the plain field as the reference in the same run.</summary>
    public static string Measure()
    {
        using var served = new Served();
        var (driver, url, root) = (served.Driver, served.Url, Served.Root);
        // Asked from outside, the page would be slowed by the asking.
        driver.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new Dictionary<string, object?> { ["source"] = FirstLine });
        var real = RealProse(root);
        var rows = new StringBuilder();
        foreach (var size in Sizes)
            rows.Append(Row(driver, url, size, string.Concat(Words(real, size))));
        return $"""

            ## A draft under the hand

            In headless Chromium without a graphics card, the window 1280 by 800: real prose (the longest demo piece, again
            and again) in the draft of a piece, and in a plain field of the same page with the same text, in the same run. A
            key is timed to the frame that shows it, in {Rounds} rounds of {Keys} keys typed without a pause, so that saves fall
            among them; of all, and of the quietest round, since what else a machine does only adds. Opening from the address,
            with nothing of the program in memory, to the first line (of the field: to its text on the screen); a save from the
            request to its answer.

            | words | a key | p95 | quietest round | plain field, p95 | quietest | ratio | open | longest | plain field | a save |
            | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |
            {rows.ToString().TrimEnd()}
            """;
    }

    private const string FirstLine =
        "const look = () => document.querySelector('.cm-line') ? (window.shownAt = performance.now()) : requestAnimationFrame(look);"
        + "requestAnimationFrame(look);";

    private static readonly int[] Sizes = [1_000, 10_000, 50_000];

    /// <summary>The longest demo piece without its front matter.</summary>
    private static string RealProse(string root)
    {
        var longest = new DirectoryInfo(Path.Combine(root, "demo", "pieces")).GetFiles().MaxBy(f => f.Length)!;
        return File.ReadAllText(longest.FullName).Split("\n---\n", 2)[1];
    }

    /// <summary>Paragraphs over and over, as many as make so many words; each heading is told from its like by its number.</summary>
    private static IEnumerable<string> Words(string text, int words)
    {
        var paragraphs = text.Split("\n\n");
        var count = 0;
        for (var i = 0; count < words; i++)
        {
            var paragraph = paragraphs[i % paragraphs.Length].Trim();
            if (paragraph.StartsWith("[^", StringComparison.Ordinal))
                continue;
            count += paragraph.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length;
            yield return (paragraph.StartsWith('#') ? $"{paragraph} {i}" : paragraph) + "\n\n";
        }
    }

    private static string Row(ChromeDriver driver, string url, int size, string text)
    {
        using var client = new HttpClient { BaseAddress = new Uri(url) };
        var version = JsonDocument
            .Parse(client.GetStringAsync(new Uri("/api/pieces/4/draft", UriKind.Relative)).GetAwaiter().GetResult())
            .RootElement.GetProperty("version")
            .GetInt32();
        using var body = new StringContent(JsonSerializer.Serialize(new { text, version }), Encoding.UTF8, "application/json");
        client.PutAsync(new Uri("/api/pieces/4/draft", UriKind.Relative), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
        var opens = Enumerable.Range(0, Opens).Select(_ => OpenFromNothing(driver, url)).Order().ToList();
        driver.FindElement(By.XPath("//button[starts-with(@aria-label,'Go to section 1 ')]")).Click();
        Thread.Sleep(1_500);
        var editor = Run(driver);
        Thread.Sleep(2_500);
        var save = Convert.ToDouble(
            driver.ExecuteScript(
                "const all = performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/draft') && e.startTime > 2000); "
                    + "return all.length ? all[all.length - 1].duration : 0"
            ),
            CultureInfo.InvariantCulture
        );
        var shown = Convert.ToDouble(
            driver.ExecuteAsyncScript(
                "const [text, done] = arguments; const at = performance.now(); "
                    + "document.body.innerHTML = '<textarea></textarea>'; const f = document.querySelector('textarea');"
                    + "f.style.width = '600px'; f.style.height = '480px'; f.value = text; f.focus(); f.setSelectionRange(900, 900);"
                    + "requestAnimationFrame(() => { const c = new MessageChannel(); "
                    + "c.port1.onmessage = () => done(performance.now() - at); c.port2.postMessage(0); });",
                text
            ),
            CultureInfo.InvariantCulture
        );
        Thread.Sleep(500);
        var plain = Run(driver);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"| {size:N0} | {editor.Median:0.0} ms | {editor.P95:0.0} ms | {editor.QuietP95:0.0} ms | {plain.P95:0.0} ms "
                + $"| {plain.QuietP95:0.0} ms | ×{editor.QuietP95 / plain.QuietP95:0.0} | {opens[Opens / 2]:0} ms | {opens[^1]:0} ms "
                + $"| {shown:0} ms | {save:0} ms |\n"
        );
    }

    /// <summary>Milliseconds from the address to the first line, with nothing of the program kept from before.</summary>
    private static double OpenFromNothing(ChromeDriver driver, string url)
    {
        driver.Navigate().GoToUrl("about:blank");
        driver.ExecuteCdpCommand("Network.enable", []);
        driver.ExecuteCdpCommand("Network.setCacheDisabled", new Dictionary<string, object?> { ["cacheDisabled"] = true });
        Thread.Sleep(500);
        driver.Navigate().GoToUrl(url + "/bench/4");
        Wait(driver, By.CssSelector(".cm-content"));
        return Convert.ToDouble(driver.ExecuteScript("return window.shownAt"), CultureInfo.InvariantCulture);
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
        var rounds = Enumerable.Range(0, Rounds).Select(_ => Round(driver)).ToList();
        var all = rounds.SelectMany(r => r).Order().ToList();
        return new Figures(all[all.Count / 2], P95(all), rounds.Min(r => P95([.. r.Order()])));
        static double P95(List<double> ordered) => ordered[(int)(ordered.Count * 0.95)];
    }

    private static List<double> Round(ChromeDriver driver)
    {
        for (var i = 0; i < Keys; i++)
        {
            new Actions(driver).SendKeys(i % 6 == 5 ? " " : ((char)('a' + i % 26)).ToString()).Perform();
            Thread.Sleep(40);
        }
        Thread.Sleep(300);
        var taken = (IEnumerable<object>)driver.ExecuteScript("return window.taken.splice(0)")!;
        return [.. taken.Select(Convert.ToDouble)];
    }
}
