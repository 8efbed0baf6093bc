using SkiaSharp;

namespace Nachlass.Browser.Tests;

/// <summary>Remakes docs/screenshots; run by "make screenshots" and by nothing else.</summary>
public sealed class Screenshots
{
    [Fact(Explicit = true)]
    public void Remake()
    {
        using var app = App.WithWholeDemo();
        using var writer = new Writer(app);
        foreach (
            var (name, path, words) in ((string, string, string)[])
                [
                    ("desk", "/desk", "Caught through the day"),
                    ("sift", "/sift/86", "Would fit"),
                    ("library", "/library/source/1", "Passages"),
                    ("topics", "/topics", "Last out"),
                    ("begin", "/bench/begin?open=slip%20200", "Beside slip"),
                    ("bench", "/bench", "Next move"),
                    ("route", "/bench/4/route", "new, for the"),
                    ("piece", "/bench/4", "The bread column"),
                    ("thread", "/bench/5/thread", "1 over"),
                    ("sheet", "/bench/4", "The bread column"),
                    ("plan", "/plan", "Ready to place"),
                    ("catalogue", "/catalogue?mention=the+tenth+eel", "tenth eel."),
                    ("asks", "/catalogue/asks", "In their words"),
                ]
        )
        {
            writer.Open(path).Sees(words);
            if (name == "piece")
                writer.Press("Go to section 2 in the draft");
            if (name == "sheet")
            {
                writer.Press("quiet");
                writer.Press("Attend to the paragraph");
                writer.Press("Go to section 2 in the draft");
                writer.Chord(OpenQA.Selenium.Keys.Alt, "s");
                writer.Sees("leave the sheet");
            }
            writer.Until(() => (bool)writer.Driver.ExecuteScript("return document.fonts.status === 'loaded'")!, "the fonts");
            writer.Driver.GetScreenshot().SaveAsFile(Path.Combine(App.Root, "docs", "screenshots", name + ".png"));
            if (name == "sheet")
                writer.Keys(OpenQA.Selenium.Keys.Escape);
        }
        writer.Send(
            "/api/pieces/3/sending",
            new { outlet = 4, on = DateTime.Today.AddDays(2).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) }
        );
        Four(
            writer,
            "going-out",
            ("/catalogue/outlets", "Walks"),
            ("/catalogue/queue", "goes out"),
            ("/catalogue/covers", "Letter"),
            ("/catalogue/figures", "more")
        );
        Four(
            writer,
            "planning",
            ("/plan/stages", "pieces in hand"),
            ("/plan/figures", "By format"),
            ("/plan/occasions", "h free before it"),
            ("/plan/proposal?spacing=7", "A mix of forms")
        );
        Four(
            writer,
            "ideas",
            ("/bench/ideas", "made from"),
            ("/topics?as=order", "readers want something"),
            ("/topics?as=coverage", "in hand"),
            ("/bench/ideas/decks", "14 cards")
        );
        writer.Driver.Navigate().GoToUrl(app.Url + "/read/13");
        writer.Sees("words a minute");
        writer.Driver.GetScreenshot().SaveAsFile(Path.Combine(App.Root, "docs", "screenshots", "reading.png"));
        var site = System.Text.Json.Nodes.JsonNode.Parse(writer.Open("/catalogue/pages").Server("/api/site"))!["servedAt"]!;
        writer.Driver.Navigate().GoToUrl($"{site}what-the-toll-board-left-out/");
        writer.Sees("Nineteen lines");
        writer.Driver.GetScreenshot().SaveAsFile(Path.Combine(App.Root, "docs", "screenshots", "page.png"));
        writer.View(390, 844);
        writer.Driver.Navigate().GoToUrl(app.Url + "/c");
        foreach (
            var words in (string[])
                [
                    "The river is the colour of tea after rain and nobody has a word for it",
                    "Ask Pell whether the night bell had a second rope?",
                ]
        )
        {
            writer.Field("New slip").SendKeys(words);
            writer.Press("Catch");
        }
        writer.Until(() => writer.Part("Caught here").Text.Split("slip ").Length == 3, "both slips");
        writer.Field("New slip").SendKeys("A ferry waits differently from a bus");
        writer.Driver.GetScreenshot().SaveAsFile(Path.Combine(App.Root, "docs", "screenshots", "phone.png"));
    }

    /// <summary>Four views in one picture.</summary>
    private static void Four(Writer writer, string name, params (string Path, string Words)[] views)
    {
        using var whole = new SKBitmap(2 * 1280 + 8, 2 * 800 + 8);
        using var canvas = new SKCanvas(whole);
        canvas.Clear(new SKColor(0x88, 0x8C, 0x86));
        foreach (var (nth, (path, words)) in views.Index())
        {
            writer.Open(path).Sees(words);
            writer.Until(() => (bool)writer.Driver.ExecuteScript("return document.fonts.status === 'loaded'")!, "the fonts");
            using var one = SKBitmap.Decode(writer.Driver.GetScreenshot().AsByteArray);
            canvas.DrawBitmap(one, nth % 2 * 1288, nth / 2 * 808);
        }
        using var half = whole.Resize(
            new SKImageInfo(whole.Width * 5 / 8, whole.Height * 5 / 8),
            new SKSamplingOptions(SKCubicResampler.Mitchell)
        );
        using var file = File.Create(Path.Combine(App.Root, "docs", "screenshots", name + ".png"));
        half.Encode(file, SKEncodedImageFormat.Png, 100);
    }
}
