using System.Text.Json.Nodes;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>axe-core at WCAG 2.2 AA, by day and by night, wide and narrow.</summary>
internal static class Axe
{
    private static readonly string Script = File.ReadAllText(Path.Combine(App.Root, "web/node_modules/axe-core/axe.min.js"));

    /// <summary>What axe finds on the page as it is, in both lights and both widths.</summary>
    public static IEnumerable<string> Found(Writer writer, string where)
    {
        writer.Driver.ExecuteScript(Script);
        foreach (var (width, height) in ((int, int)[])[(1280, 800), (390, 844)])
        {
            writer.View(width, height);
            foreach (var light in (string[])["day", "night"])
            {
                var answer = (string)
                    writer.Driver.ExecuteAsyncScript(
                        """
                        const [light, done] = arguments;
                        document.documentElement.dataset.theme = light;
                        // Light changes nothing but colours.
                        const rules = light === 'day'
                          ? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']
                          : ['color-contrast', 'link-in-text-block'];
                        const asked = { runOnly: { type: light === 'day' ? 'tag' : 'rule', values: rules }, resultTypes: ['violations'] };
                        const said = (v, n) => v.id + ' ' + n.html.slice(0, 200) + ' ' + (n.failureSummary ?? '').split('\n')[1];
                        // What lies half behind the strip is whole once it is scrolled to.
                        const stays = async (v, n) => {
                          const place = document.querySelector(n.target[0]);
                          if (v.id !== 'target-size' || !place) return true;
                          place.scrollIntoView({ block: 'center' });
                          const again = await axe.run(place, { runOnly: { type: 'rule', values: ['target-size'] } });
                          return again.violations.length > 0;
                        };
                        const look = async () => {
                          const found = [];
                          for (const v of (await axe.run(document, asked)).violations)
                            for (const n of v.nodes) if (await stays(v, n)) found.push(said(v, n));
                          return JSON.stringify(found);
                        };
                        setTimeout(() => look().then(done), 180);
                        """,
                        light
                    )!;
                foreach (var one in JsonNode.Parse(answer)!.AsArray())
                    yield return $"{where}, {width} wide, by {light}: {one}";
            }
        }
        writer.View(1280, 800);
    }
}

/// <summary>Everybody can use every screen.</summary>
public sealed class EverybodyTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public EverybodyTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void No_screen_keeps_anybody_out()
    {
        string[] screens =
        [
            "/desk",
            "/desk/plan",
            "/desk/done",
            "/papers",
            "/sift",
            "/sift/flow",
            "/library",
            "/library?as=table",
            "/library?state=held&query=held:look-up",
            "/library/slip/29",
            "/library/source/1",
            "/library/new",
            "/topics",
            "/topics?as=words",
            "/topics?as=coverage",
            "/topics/1",
            "/topics/1/digest",
            "/bench",
            "/bench/begin?open=slip%2086",
            "/bench/ideas",
            "/bench/ideas/angles",
            "/bench/ideas/decks",
            "/bench/ideas/service",
            "/topics?as=order",
            "/plan/proposal?perWeek=2",
            "/bench/4",
            "/bench/4/kept",
            "/bench/4/before",
            "/bench/4/route",
            "/bench/4/versions",
            "/bench/10/thread",
            "/bench/short",
            "/shooting",
            "/bench/series",
            "/bench/series/1",
            "/bench/3/steps",
            "/bench/3/beside",
            "/bench/formats",
            "/bench/formats/audio",
            "/plan",
            "/plan/outlets",
            "/plan/stages",
            "/plan/moves",
            "/plan/occasions",
            "/plan/figures",
            "/plan/sitting",
            "/plan/filling",
            "/catalogue?mention=the%20tenth%20eel",
            "/catalogue?by=series",
            "/catalogue/outlets/4",
            "/catalogue/covers",
            "/catalogue/years/2026",
            "/catalogue/30",
            "/catalogue/queue",
            "/catalogue/asks",
            "/catalogue/messages",
            "/catalogue/messages?ask=1&open=yes",
            "/catalogue/pages",
            "/catalogue/readers/1",
            "/catalogue/pages/1",
            "/catalogue/learned",
            "/catalogue/again",
            "/catalogue/again/43",
            "/catalogue/figures?figure=replies&by=tried&outlet=1",
            "/catalogue/close/9",
            "/bring-in",
            "/nowhere",
        ];
        var found = new List<string>();
        foreach (var screen in screens)
        {
            writer.Open(screen);
            writer.Until(
                () =>
                    writer
                        .Driver.FindElements(
                            By.CssSelector("#screen [role=status][aria-label^=Opening], #screen [role=status][aria-label=Loading]")
                        )
                        .Count == 0,
                "the screen to be there"
            );
            found.AddRange(Axe.Found(writer, screen));
        }
        foreach (var (path, words) in ((string, string)[])[("/c", "Nachlass"), ("/read/4", "words a minute")])
        {
            writer.Driver.Navigate().GoToUrl(app.Url + path);
            writer.Sees(words);
            found.AddRange(Axe.Found(writer, path));
        }
        found.ShouldBeEmpty();
    }
}

/// <summary>Everybody can read the pages that are put up.</summary>
public sealed class EveryPublicPageTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public EveryPublicPageTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void No_page_keeps_anybody_out()
    {
        var site = JsonNode.Parse(writer.Open("/catalogue/pages").Server("/api/site"))!["servedAt"]!.ToString();
        var found = new List<string>();
        foreach (var light in (string[])["light", "dark"])
        {
            writer.Driver.ExecuteCdpCommand(
                "Emulation.setEmulatedMedia",
                new Dictionary<string, object?>
                {
                    ["features"] = new[]
                    {
                        new Dictionary<string, object> { ["name"] = "prefers-color-scheme", ["value"] = light },
                    },
                }
            );
            foreach (
                var (path, words) in ((string, string)[])
                    [
                        ("", "The Tavle papers"),
                        ("what-the-toll-board-left-out/", "Your comment"),
                        ("letters-from-the-bank/", "Contents"),
                        ("a-year-at-the-water/", "This page is closed"),
                        ("bad-places/", "This page is gone"),
                        ("nothing/", "Nothing is here"),
                        ("letters/1", "Send me the letters"),
                        ("letters/1/9/", "Two of you counted"),
                    ]
            )
            {
                writer.Driver.Navigate().GoToUrl(site + path);
                writer.Sees(words);
                found.AddRange(Axe.Found(writer, $"{path}, {light}"));
            }
        }
        found.ShouldBeEmpty();
    }
}

/// <summary>Everybody can use every dialog and menu.</summary>
public sealed class EveryDialogTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public EveryDialogTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void No_dialog_or_menu_keeps_anybody_out()
    {
        var found = new List<string>();
        void Look(string screen, string what, Action open)
        {
            writer.Open(screen);
            open();
            found.AddRange(Axe.Found(writer, $"{screen}, {what}"));
        }
        void Dialog(string screen, string what, Action open) =>
            Look(
                screen,
                what,
                () =>
                {
                    open();
                    writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=dialog]")).Count > 0, $"the dialog {what}");
                    // Whoever uses keys is in it, and no key does anything behind it.
                    writer.Until(
                        () =>
                            writer.Driver.SwitchTo().ActiveElement().FindElements(By.XPath("ancestor-or-self::*[@role='dialog']")).Count
                            > 0,
                        $"the hand to be in the dialog {what}"
                    );
                }
            );
        IWebElement Slip() => writer.Part("Slip");
        Dialog("/desk", "keys", () => writer.Keys("?"));
        Dialog("/desk", "a card", () => writer.Chord(Keys.Alt, "q"));
        foreach (var entry in (string[])["Take out or bring in papers", "Keys for other programs", "Passphrase"])
            Dialog(
                "/desk",
                entry,
                () =>
                {
                    writer.Press("More");
                    writer.Press(entry);
                }
            );
        foreach (var key in (string[])["h", "m", "p", "x", "r"])
            Dialog(
                "/sift",
                key,
                () =>
                {
                    Slip();
                    writer.Keys(key);
                }
            );
        Look(
            "/sift",
            "a slip's text",
            () =>
            {
                Slip();
                writer.Keys("e");
                writer.Field("Text of the slip");
            }
        );
        Look(
            "/sift/flow",
            "a rule",
            () =>
            {
                writer.Press("New rule");
                writer.Field("Which slips").SendKeys("pull>=");
            }
        );
        Look(
            "/library",
            "find",
            () =>
            {
                writer.Keys("/");
                writer.Keys("ferry");
                writer.Sees("You said this");
            }
        );
        Look("/library", "a wrong query", () => writer.Field("Search the library").SendKeys("pull>=9 ("));
        Dialog("/library/source/1", "questions", () => writer.Press("my questions"));
        Look("/library/source/1", "a summary", () => writer.Press("Change summary"));
        writer.Open("/bench/4");
        writer.Part("Section 2, The bread column");
        Look(
            "/bench/4",
            "a section's menu",
            () => writer.Part("Section 2").FindElement(By.XPath(".//button[@aria-label='Section 2']")).Click()
        );
        Dialog(
            "/bench/4",
            "links",
            () =>
            {
                writer.Part("Section 2").FindElement(By.XPath(".//button[@aria-label='Section 2']")).Click();
                writer.Press("Links to it…");
            }
        );
        Dialog("/bench/begin", "What you chose", () => writer.Press("what your choices would have me weigh"));
        Dialog(
            "/bench/begin",
            "As I like it",
            () =>
            {
                writer.Press("How ideas are weighed");
                writer.Press("as I like it …");
            }
        );
        Dialog("/bench/4", "find more", () => writer.Press("find more"));
        Dialog("/bench/4", "go to", () => writer.Press("go to"));
        foreach (var entry in (string[])["A table…", "A picture…", "A pattern, bit or standing text…"])
            Dialog(
                "/bench/4",
                entry,
                () =>
                {
                    writer.Press("at the cursor");
                    writer.Press(entry);
                }
            );
        foreach (
            var view in (string[])
                ["words", "replace", "check", "remarks", "find", "source", "piece", "steps", "heap", "sitting", "material"]
        )
            Look("/bench/4", $"beside the text: {view}", () => writer.Select("What stands beside the text", view));
        Dialog(
            "/bench/4",
            "as a file",
            () =>
            {
                writer.Press("Take out");
                writer.Press("As a file…");
                writer.Press("Go on as it is");
                writer.Press("What of it, and how");
            }
        );
        Dialog(
            "/bench/4",
            "send it",
            () =>
            {
                writer.Press("Take out");
                writer.Press("Send it…");
                writer.Sees("How it goes out");
            }
        );
        var service = System.Text.Json.Nodes.JsonNode.Parse(writer.Server("/api/ideas/service"))!["service"]!;
        writer.Put(
            "/api/ideas/service",
            new
            {
                address = service["address"]!.GetValue<string>(),
                form = "chat",
                model = "small",
                isOn = true,
            }
        );
        Dialog(
            "/bench/ideas",
            "what is sent",
            () =>
            {
                writer.Press("Who makes them");
                writer.Press("the service at");
                writer.Press("Ask");
                writer.Sees("What is sent to");
            }
        );
        Dialog("/plan/outlets", "a connection", () => writer.Press("connect it"));
        Dialog("/catalogue/30", "elsewhere", () => writer.Press("It went out elsewhere too"));
        Dialog(
            "/catalogue/30",
            "an error",
            () =>
            {
                writer.Press("More about this release");
                writer.Press("Put an error right");
            }
        );
        Dialog("/catalogue", "the past", () => writer.Press("bring in what went out before"));
        Dialog("/catalogue/pages/1", "a page", () => writer.Press("Change…"));
        Dialog(
            "/plan/outlets",
            "a letter service",
            () =>
            {
                writer.Press("change", writer.Part("Low Water"));
                writer.Sees("mail: letters to a list of readers");
            }
        );
        foreach (var entry in (string[])["Put it up as a page…", "Send the draft to chosen people…", "Send it…"])
            Dialog(
                "/bench/2",
                entry,
                () =>
                {
                    writer.Press("Take out ▾");
                    writer.Press(entry);
                }
            );
        Look("/catalogue/readers/1", "new readers", () => writer.Press("put readers on the list"));
        Look("/catalogue/outlets/4", "what can be done", () => writer.Press("Could go to Walks and films too"));
        foreach (var entry in (string[])["Copy as Markdown", "Bibliography…", "Paragraphs usable by themselves…"])
            Look(
                "/bench/4",
                entry,
                () =>
                {
                    writer.Press("Take out");
                    writer.Press(entry);
                }
            );
        Look(
            "/bench/4",
            "the strip and a notice",
            () =>
            {
                writer.Part("Material");
                writer.Keys("c");
                writer.Keys("“Four loaves” #bread", Keys.Enter);
                writer.Sees("caught.");
                writer.Keys("c");
                writer.Keys("Why? #bread https://tavle.example/");
            }
        );
        found.ShouldBeEmpty();
    }
}

/// <summary>The work goes by keyboard alone.</summary>
public sealed class KeyboardTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public KeyboardTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_morning_at_the_desk_goes_by_keyboard_alone()
    {
        writer.Open("/desk");
        writer.Part("Next moves");
        writer.Keys("c");
        writer.Keys("Why do fords keep saints’ names?", Keys.Enter);
        writer.Sees("Slip 91 caught.");
        writer.Keys("g", "s");
        writer.Part("Slip");
        // Every dialog gives the next key back to the page, not to a field that had the cursor before.
        writer.Keys("t");
        writer.Keys(Keys.Escape);
        foreach (var key in (string[])["h", "m", "p"])
        {
            writer.Keys(key);
            writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=dialog]")).Count > 0, $"the dialog of {key}");
            writer.Keys(Keys.Escape);
            writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=dialog]")).Count == 0, $"the dialog of {key} to be gone");
        }
        writer.Keys("k");
        writer.Sees("Kept slip");
        writer.Keys("d");
        writer.Sees("Dropped slip");
        writer.Server("/api/topics").ShouldNotContain("\"kd\"");
        writer.Keys("z");
        writer.Sees("Took back");
        writer.Keys("g", "b");
        writer.Sees("The price of the far bank");
        Tab(() => Focused == "The price of the far bank", "the piece");
        writer.Keys(Keys.Enter);
        writer.Part("Section 2, The bread column");
        Tab(() => Focused.StartsWith("Go to section 2", StringComparison.Ordinal), "the second section");
        writer.Keys(Keys.Enter);
        writer.Until(() => Focused == "Draft", "the cursor in the draft");
        writer.Keys("By key alone. ");
        writer.Until(
            () => writer.Server("/api/pieces/4/draft").Contains("By key alone. The account book", StringComparison.Ordinal),
            "the words in their section"
        );
        writer.Chord(Keys.Control, Keys.Enter);
        writer.Until(() => Focused == "New section", "the outline again");
        writer.Keys(Keys.Escape, "?");
        writer.Sees("Keys");
    }

    /// <summary>What has the focus, by its name.</summary>
    private string Focused =>
        (string)
            writer.Driver.ExecuteScript("const at = document.activeElement; return at.getAttribute('aria-label') ?? at.textContent ?? ''")!;

    private void Tab(Func<bool> isThere, string what)
    {
        for (var i = 0; i < 120 && !isThere(); i++)
            writer.Keys(Keys.Tab);
        isThere().ShouldBeTrue($"{what} can be reached by Tab; the focus is on {Focused}");
    }
}
