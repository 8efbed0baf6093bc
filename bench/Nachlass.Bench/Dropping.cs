using System.Globalization;
using System.Net.Http.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace Nachlass.Bench;

/// <summary>From letting a piece go on another day of a full quarter to the picture of it there.</summary>
internal static class Dropping
{
    public const string Command = "dropping";

    private const int Pieces = 300,
        Drops = 15;

    /// <summary>The table, as Markdown.</summary>
    public static string Measure()
    {
        using var served = new Served();
        using var client = new HttpClient { BaseAddress = new Uri(served.Url) };
        string[] formats = ["essay", "letter", "thread", "talk", "audio"];
        var today = DateOnly.FromDateTime(DateTime.Now);
        for (var i = 0; i < Pieces; i++)
            client
                .PostAsJsonAsync(
                    "/api/pieces",
                    new
                    {
                        title = $"Piece {i}",
                        format = formats[i % formats.Length],
                        due = today.AddDays(1 + i * 88 / Pieces).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    }
                )
                .GetAwaiter()
                .GetResult()
                .EnsureSuccessStatusCode();
        var driver = served.Driver;
        driver.Navigate().GoToUrl(served.Url + "/plan");
        driver.ExecuteScript("localStorage.setItem('nachlass.choice.plan.span', 'quarter')");
        driver.Navigate().GoToUrl(served.Url + "/plan");
        Thread.Sleep(4_000);
        driver.ExecuteScript(Watch);
        for (var i = 0; i < Drops; i++)
        {
            // There and back again, so that no day runs out of pieces.
            var (near, far) = (today.AddDays(3 + i / 2 % 4), today.AddDays(10 + i / 2 % 4));
            var (from, to) = i % 2 == 0 ? (near, far) : (far, near);
            driver.ExecuteScript("window.target = arguments[0]; window.thing = undefined", Iso(to));
            var card = driver.FindElement(By.CssSelector($"[data-day='{Iso(from)}'] a[data-entry^='due ']"));
            driver.ExecuteScript("window.thing = arguments[0]", card.GetDomAttribute("data-entry")!);
            new Actions(driver)
                .MoveToElement(card)
                .ClickAndHold()
                .MoveByOffset(6, 6)
                .MoveToElement(driver.FindElement(By.CssSelector($"[data-day='{Iso(to)}']")))
                .MoveByOffset(0, 2)
                .Perform();
            new Actions(driver).Release().Perform();
            Thread.Sleep(1_500);
        }
        var shown = Taken("shown");
        var settled = Taken("settled");
        return string.Create(
            CultureInfo.InvariantCulture,
            $"""

            In headless Chromium without a graphics card, a quarter with {Pieces} pieces and their stages: a piece let go on another
            day, {shown.Count} times, to the frame that shows it there; the reference is the same until the server has worked all of
            it back.

            | what | median | p95 | reference, median | ratio |
            | --- | ---: | ---: | ---: | ---: |
            | dropped, to the picture | {At(shown, 0.5):0} ms | {At(shown, 0.95):0} ms | {At(settled, 0.5):0} ms | ×{At(shown, 0.5)
                / At(settled, 0.5):0.00} |

            """
        );

        List<double> Taken(string name) =>
            [.. ((IEnumerable<object>)driver.ExecuteScript($"return window.{name}")!).Select(Convert.ToDouble).Order()];
    }

    private static double At(List<double> sorted, double share) => sorted[(int)((sorted.Count - 1) * share)];

    private static string Iso(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>
    /// Times each letting go to the frame in which the card stands on its day, and to the end of the last request after it.
    /// </summary>
    private const string Watch = """
        window.shown = []; window.settled = [];
        window.addEventListener('pointerup', () => {
          const at = performance.now();
          const look = () => {
            if (document.querySelector(`[data-day="${window.target}"] [data-entry="${window.thing}"]`)) {
              const after = new MessageChannel();
              after.port1.onmessage = () => window.shown.push(performance.now() - at);
              after.port2.postMessage(0);
            } else requestAnimationFrame(look);
          };
          requestAnimationFrame(look);
          setTimeout(() => {
            const plans = performance.getEntriesByType('resource')
              .filter((e) => e.startTime > at && /\/api\/plan\?/.test(e.name)).map((e) => e.responseEnd - at);
            if (plans.length) window.settled.push(Math.min(...plans));
          }, 1300);
        }, true);
        """;
}
