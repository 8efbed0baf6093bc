using System.Collections.Concurrent;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

[assembly: AssemblyFixture(typeof(Nachlass.Browser.Tests.Browsers))]

namespace Nachlass.Browser.Tests;

/// <summary>Browsers that were started, and are lent to one test after another. Each test has a server, and so an origin, of its own;
/// what a browser keeps for one is never seen by the next.</summary>
public sealed class Browsers : IDisposable
{
    /// <summary>The servers run beside tests that wait, and must not wait for a thread themselves.</summary>
    public Browsers() => ThreadPool.SetMinThreads(64, 64);

    private static readonly ConcurrentBag<ChromeDriver> Free = [];
    private static readonly ConcurrentBag<(ChromeDriver Driver, string Profile)> All = [];

    internal static ChromeDriver Rent()
    {
        if (Free.TryTake(out var free))
            return free;
        var profile = Directory.CreateTempSubdirectory("nachlass-profile-").FullName;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        foreach (
            var argument in (string[])
                [
                    "--headless=new",
                    "--no-sandbox",
                    "--disable-gpu",
                    "--disable-quic",
                    "--no-first-run",
                    "--disable-background-networking",
                    "--disable-component-update",
                    "--disable-sync",
                    "--disable-dev-shm-usage",
                    "--hide-scrollbars",
                    $"--user-data-dir={profile}",
                    "--window-size=1280,800",
                ]
        )
            options.AddArgument(argument);
        options.SetLoggingPreference(LogType.Browser, LogLevel.Severe);
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        service.HideCommandPromptWindow = true;
        var driver = new ChromeDriver(service, options, TimeSpan.FromSeconds(60));
        All.Add((driver, profile));
        return driver;
    }

    /// <summary>Takes a browser back: one empty window, nothing pressed, nothing granted, nothing logged.</summary>
    internal static void Return(ChromeDriver driver)
    {
        try
        {
            foreach (var window in driver.WindowHandles.Skip(1))
                driver.SwitchTo().Window(window).Close();
            driver.SwitchTo().Window(driver.WindowHandles[0]);
            // A page that would rather be asked before it is left is left all the same.
            driver.ExecuteCdpCommand("Page.navigate", new() { ["url"] = "about:blank" });
            driver.ResetInputState();
            driver.ExecuteCdpCommand("Browser.resetPermissions", []);
            driver.ExecuteCdpCommand("Network.enable", []);
            driver.ExecuteCdpCommand(
                "Network.emulateNetworkConditions",
                new()
                {
                    ["offline"] = false,
                    ["latency"] = 0,
                    ["downloadThroughput"] = -1,
                    ["uploadThroughput"] = -1,
                }
            );
            driver.ExecuteCdpCommand("Network.disable", []);
            driver.Manage().Cookies.DeleteAllCookies();
            driver.Manage().Logs.GetLog(LogType.Browser);
            Free.Add(driver);
        }
        catch (WebDriverException)
        {
            // It is in no state to be lent again; the end takes it away.
        }
    }

    public void Dispose()
    {
        foreach (var (driver, profile) in All)
        {
            try
            {
                driver.Quit();
                driver.Dispose();
                Directory.Delete(profile, recursive: true);
            }
            catch (Exception error) when (error is IOException or WebDriverException)
            {
                // The browser may still be putting its profile away; it lies in the system's temporary folder.
            }
        }
    }
}
