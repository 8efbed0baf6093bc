using System.Net.Http.Json;
using System.Text.Json.Nodes;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;
using OpenQA.Selenium.Support.UI;

namespace Nachlass.Browser.Tests;

/// <summary>A person at the screen: finds things by what they are called, and waits for what a person would see.</summary>
public sealed class Writer : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);
    private readonly App app;

    public Writer(App app, int width = 1280, int height = 800)
    {
        this.app = app;
        Driver = Browsers.Rent();
        Downloads = Directory.CreateTempSubdirectory("nachlass-downloads-").FullName;
        Driver.ExecuteCdpCommand("Browser.setDownloadBehavior", new() { ["behavior"] = "allow", ["downloadPath"] = Downloads });
        View(width, height);
    }

    public ChromeDriver Driver { get; }
    public string Downloads { get; }

    /// <summary>Makes the page exactly this large, whatever the window's frame takes.</summary>
    public void View(int width, int height) =>
        Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new()
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );

    public Writer Open(string path)
    {
        Driver.Navigate().GoToUrl(app.Url + path);
        Until(() => Driver.FindElements(By.CssSelector("nav[aria-label=Screens]")).Count > 0, $"the frame at {path}");

        // A screen's script may come after the frame, and a key pressed before it stands has no one to go to.
        Until(() => Driver.FindElements(By.CssSelector("#screen > :not([role=status])")).Count > 0, $"the screen at {path}");
        return this;
    }

    /// <summary>Waits until something is so.</summary>
    public void Until(Func<bool> isSo, string what)
    {
        try
        {
            new WebDriverWait(new SystemClock(), Driver, Patience, TimeSpan.FromMilliseconds(60)).Until(_ => Try(isSo));
        }
        catch (WebDriverTimeoutException)
        {
            LeavePicture();
            throw new ShouldAssertException($"Waited for {what}, and it did not come. On the page: {Text[..Math.Min(1500, Text.Length)]}");
        }
    }

    private static bool Try(Func<bool> isSo)
    {
        try
        {
            return isSo();
        }
        catch (WebDriverException)
        {
            return false;
        }
    }

    /// <summary>All words on the page, as shown.</summary>
    public string Text => Driver.FindElement(By.TagName("body")).Text;

    public void Sees(string words) => Until(() => Text.Contains(words, StringComparison.OrdinalIgnoreCase), $"“{words}”");

    public void SeesNot(string words) => Until(() => !Text.Contains(words, StringComparison.OrdinalIgnoreCase), $"“{words}” to be gone");

    public void IsAt(string path) => Until(() => new Uri(Driver.Url).PathAndQuery == path, $"the address {path}, at {Driver.Url}");

    /// <summary>The first thing shown of these kinds that is called so: by label, then by all its words, then by some of them.</summary>
    private IWebElement? Called(string kinds, string name, ISearchContext? within)
    {
        var quoted = name.Contains('\'', StringComparison.Ordinal) ? $"\"{name}\"" : $"'{name}'";
        var prefix = within is null ? "//" : ".//";
        foreach (
            var match in (string[])
                [
                    $"@aria-label={quoted}",
                    $"normalize-space(.)={quoted}",
                    $"contains(@aria-label,{quoted})",
                    $"contains(normalize-space(.),{quoted})",
                ]
        )
        {
            var path = string.Join(" | ", kinds.Split(',').Select(kind => $"{prefix}{kind}[{match}]"));
            var found = (within ?? Driver).FindElements(By.XPath(path)).FirstOrDefault(e => e.Displayed);
            if (found is not null)
                return found;
        }
        return null;
    }

    private IWebElement Get(string kinds, string name, ISearchContext? within, string what)
    {
        IWebElement? found = null;
        Until(() => (found = Called(kinds, name, within)) is not null, $"the {what} “{name}”");
        return found!;
    }

    private const string Buttons = "button,*[@role='menuitem'],*[@role='option'],a,*[@role='radio'],summary";

    public IWebElement Button(string name, ISearchContext? within = null) => Get(Buttons, name, within, "button");

    /// <summary>Clicks a button once it is there and can be clicked.</summary>
    public void Press(string name, ISearchContext? within = null)
    {
        Until(() => Called(Buttons, name, within) is { Enabled: true }, $"the button “{name}”");
        Until(
            () =>
            {
                Called(Buttons, name, within)!.Click();
                return true;
            },
            $"the button “{name}” to take a click"
        );
    }

    /// <summary>Takes back what a notice says was done.</summary>
    public void UndoOf(string notice) =>
        Until(
            () =>
            {
                Driver
                    .FindElement(
                        By.XPath($"//div[@role='status'][contains(normalize-space(.), '{notice}')]//button[normalize-space(.)='Undo']")
                    )
                    .Click();
                return true;
            },
            $"Undo beside “{notice}”"
        );

    /// <summary>A field by its label.</summary>
    public IWebElement Field(string label, ISearchContext? within = null)
    {
        IWebElement? found = null;
        Until(
            () =>
                (found = Called("input,textarea,select,*[@role='slider'],*[@contenteditable='true']", label, within) ?? Labelled(label))
                    is not null,
            $"the field “{label}”"
        );
        return found!;
    }

    private IWebElement? Labelled(string label)
    {
        var tag = Driver.FindElements(By.XPath($"//label[contains(normalize-space(.),'{label}')]")).FirstOrDefault(e => e.Displayed);
        if (tag is null)
            return null;
        return tag.GetDomAttribute("for") is { Length: > 0 } id
            ? Driver.FindElement(By.Id(id))
            : tag.FindElement(By.XPath(".//input | .//textarea | .//select"));
    }

    /// <summary>A thing of the page once it is there, for what has no name a person would say.</summary>
    public IWebElement Finds(By by)
    {
        Until(() => Driver.FindElements(by).Count > 0, $"{by}");
        return Driver.FindElement(by);
    }

    /// <summary>A part of the page by its name.</summary>
    public IWebElement Part(string name)
    {
        IWebElement? found = null;
        Until(
            () =>
                (
                    found = Driver
                        .FindElements(
                            By.XPath(
                                "//*[self::section or self::article or self::nav or self::aside or self::form or self::ul or self::ol "
                                    + "or @role='dialog' or @role='list' or @role='group' or @role='toolbar' or self::li]"
                                    + $"[@aria-label='{name}' or contains(@aria-label,'{name}')]"
                            )
                        )
                        .FirstOrDefault(e => e.Displayed)
                )
                    is not null,
            $"the part “{name}”"
        );
        return found!;
    }

    /// <summary>Types where the cursor is, or single keys when it is nowhere.</summary>
    public Writer Keys(params string[] keys)
    {
        foreach (var key in keys)
            new Actions(Driver).SendKeys(key).Perform();
        return this;
    }

    /// <summary>A key with modifiers held.</summary>
    public Writer Chord(string modifier, string key)
    {
        new Actions(Driver).KeyDown(modifier).SendKeys(key).KeyUp(modifier).Perform();
        return this;
    }

    /// <summary>Takes something with the mouse, carries it over something else, and lets it go there.</summary>
    /// <param name="right">How far to the right of where it would stand, in pixels.</param>
    public void Drag(IWebElement what, IWebElement onto, int right = 0)
    {
        // In steps, as a hand does: the first few pixels lift it, and what lies under the pointer makes room.
        new Actions(Driver)
            .MoveToElement(what)
            .ClickAndHold()
            .MoveByOffset(6, 6)
            .MoveByOffset(6, 0)
            .MoveToElement(onto)
            .MoveByOffset(right, 2)
            .MoveByOffset(0, 2)
            .Perform();
        new Actions(Driver).Release().Perform();
    }

    /// <summary>Chooses files in a field for files, which is not seen itself.</summary>
    public void Choose(string field, params IEnumerable<string> files) =>
        Until(
            () =>
            {
                Driver.FindElement(By.CssSelector($"input[type=file][aria-label='{field}']")).SendKeys(string.Join('\n', files));
                return true;
            },
            $"the field for files “{field}”"
        );

    /// <summary>Chooses from a list by the value of the choice.</summary>
    public void Select(string label, string value, ISearchContext? within = null) =>
        Until(
            () =>
            {
                Field(label, within).FindElement(By.CssSelector($"option[value='{value}']")).Click();
                return true;
            },
            $"the choice “{value}” of “{label}”"
        );

    /// <summary>Puts a new value in place of the old one.</summary>
    public void Fill(IWebElement field, string value)
    {
        field.Click();
        Chord(OpenQA.Selenium.Keys.Control, "a");
        field.SendKeys(value);
    }

    /// <summary>Pastes a text where the cursor is, as the system would.</summary>
    public void Paste(IWebElement field, string text) =>
        Driver.ExecuteScript(
            """
            const [field, text] = arguments; field.focus();
            const data = new DataTransfer(); data.setData('text', text);
            const paste = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
            if (field.dispatchEvent(paste)) document.execCommand('insertText', false, text);
            """,
            field,
            text
        );

    public string Value(string label) => Field(label).GetDomProperty("value") ?? "";

    /// <summary>The draft as it stands in the editor, as typed.</summary>
    public IWebElement Draft => Field("Draft", Part("Draft"));

    /// <summary>What the server answers at an address.</summary>
    public string Server(string path)
    {
        using var client = new HttpClient();
        return client.GetStringAsync(new Uri(app.Url + path)).GetAwaiter().GetResult();
    }

    /// <summary>Something done at another door while the writer sits here.</summary>
    public void Send(string path, object body)
    {
        using var client = new HttpClient();
        client.PostAsJsonAsync(new Uri(app.Url + path), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    /// <summary>Something changed at another door while the writer sits here.</summary>
    public void Patch(string path, object body)
    {
        using var client = new HttpClient();
        client.PatchAsJsonAsync(new Uri(app.Url + path), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    /// <summary>Something set at another door while the writer sits here.</summary>
    public void Put(string path, object body)
    {
        using var client = new HttpClient();
        client.PutAsJsonAsync(new Uri(app.Url + path), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    /// <summary>Takes back that the demo asked for ideas, so that none waits.</summary>
    public void TakeBackDemoIdeas()
    {
        var asked = JsonNode
            .Parse(Server("/api/commands"))!
            .AsArray()
            .First(one => one!["what"]!.GetValue<string>() == "asked for 100 ideas")!;
        Send($"/api/commands/{asked["command"]}/undo", new { });
    }

    /// <summary>Texts caught at another door, one slip each.</summary>
    public void Catch(params IEnumerable<string> texts) => Send("/api/capture", new { lines = texts.Select(text => new { text }) });

    /// <summary>Waits for a file to be downloaded whole.</summary>
    public string Downloaded(string pattern)
    {
        Until(
            () => Directory.GetFiles(Downloads, pattern).Length == 1 && Directory.GetFiles(Downloads, "*.crdownload").Length == 0,
            $"the download {pattern}"
        );
        return File.ReadAllText(Directory.GetFiles(Downloads, pattern)[0]);
    }

    /// <summary>What the browser complained about: a blocked style, a failed script, another host.</summary>
    public IReadOnlyList<string> Complaints() => [.. Driver.Manage().Logs.GetLog(LogType.Browser).Select(entry => entry.Message)];

    /// <summary>What the page looked like and what the browser said, for whoever has to find out why a test failed.</summary>
    private void LeavePicture()
    {
        var test = TestContext.Current.Test?.TestDisplayName ?? "a test";
        var folder = Directory.CreateDirectory(Path.Combine(App.Root, "artifacts")).FullName;
        var name = Path.Combine(folder, string.Concat(test.Split(Path.GetInvalidFileNameChars()))[..Math.Min(test.Length, 120)]);
        try
        {
            Driver.GetScreenshot().SaveAsFile(name + ".png");
            File.WriteAllLines(name + ".txt", [Driver.Url, .. Complaints()]);
        }
        catch (WebDriverException gone)
        {
            File.WriteAllText(name + ".txt", gone.Message);
        }
    }

    public void Dispose()
    {
        if (TestContext.Current.TestState?.Result == TestResult.Failed)
            LeavePicture();
        Browsers.Return(Driver);
        try
        {
            Directory.Delete(Downloads, recursive: true);
        }
        catch (IOException)
        {
            // A download may still be under way; it lies in the system's temporary folder.
        }
    }
}
