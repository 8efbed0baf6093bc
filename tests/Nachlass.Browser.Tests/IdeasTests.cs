using System.Text.Json.Nodes;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A hundred ideas asked for and gone through, most of them thrown away.</summary>
public sealed class IdeasTests : IDisposable
{
    private readonly App app = App.WithWholeDemo();
    private readonly Writer writer;

    public IdeasTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private IWebElement Current => writer.Finds(By.CssSelector("[data-current]"));

    private string Words => Current.FindElement(By.CssSelector("button.written")).Text;

    private void Key(string key, string until)
    {
        var before = Words;
        writer.Keys(key);
        writer.Until(() => Words != before, until);
    }

    [Fact]
    public void The_demo_begins_with_a_hundred_over_five_topics()
    {
        writer.Open("/bench/ideas");
        writer.Sees("100 to go through");
        writer
            .Driver.FindElements(By.CssSelector("main section[aria-label] h2"))
            .Select(h => h.Text.Split(' ')[0].ToLowerInvariant())
            .Order()
            .ShouldBe(["bridges", "eels", "ferries", "floods", "tolls"]);
        writer.Driver.FindElements(By.CssSelector("[data-current]")).Count.ShouldBe(1);
    }

    [Fact]
    public void What_went_out_already_is_told_with_its_passage_and_near_same_ones_are_joined()
    {
        writer.Open("/bench");
        // All that the demo proposes goes out in one letter.
        var texts = JsonNode
            .Parse(writer.Server("/api/ideas"))!
            .AsArray()
            .Select(one => one!["idea"]!["text"]!.GetValue<string>())
            .Where(text => !text.Contains('“', StringComparison.Ordinal))
            .ToList();
        writer.Send("/api/pieces", new { title = "All of it at once" });
        var piece = JsonNode
            .Parse(writer.Server("/api/pieces"))!
            .AsArray()
            .Single(one => one!["title"]!.GetValue<string>() == "All of it at once")!;
        var number = piece["number"]!.GetValue<int>();
        var draft = JsonNode.Parse(writer.Server($"/api/pieces/{number}/draft"))!;
        writer.Put($"/api/pieces/{number}/draft", new { text = string.Join("\n\n", texts), version = draft["version"]!.GetValue<int>() });
        var version = JsonNode.Parse(writer.Server($"/api/pieces/{number}"))!["version"]!.GetValue<int>();
        writer.Patch($"/api/pieces/{number}", new { version, stage = "Out" });
        writer.TakeBackDemoIdeas();
        writer.Open("/bench/ideas?topic=1&topic=4");
        writer.Press("How many ideas");
        writer.Press("100 ideas");
        writer.Press("Ask");
        writer.Sees("more said nearly the same.");
        writer
            .Finds(
                By.XPath("//li[contains(., 'said already in') and contains(., 'All of it at once')]//button[contains(@class, 'written')]")
            )
            .Click();
        // The passage that says it stands under the one that is looked at.
        writer.Until(
            () =>
                Current.FindElements(By.CssSelector("span.italic")) is [var passage]
                && texts.Exists(t => passage.Text.Contains(t, StringComparison.Ordinal)),
            "the passage that says it"
        );
        writer.Press("All of it at once");
        writer.Until(() => writer.Driver.Url.Contains($"/bench/{number}", StringComparison.Ordinal), "the piece that says it");
    }

    [Fact]
    public void A_hundred_ideas_are_asked_for_and_sorted_by_key_in_one_sitting()
    {
        writer.Open("/bench");
        writer.TakeBackDemoIdeas();
        writer.Press("more ideas");
        writer.Sees("Nothing waits to be gone through");
        writer.Press("How many ideas");
        writer.Press("100 ideas");
        writer.Press("Ask");
        writer.Sees("100 to go through");
        // Under headings by topic, each with what it was made from in sight as soon as one is there.
        writer.Finds(By.CssSelector("section[aria-label='tolls']"));
        Current.Text.ShouldContain("made from");
        // Ten taken, some refused, one put off; each decision shows the next.
        for (var i = 0; i < 10; i++)
            Key("k", $"the next after taking {i + 1}");
        writer.Sees("90 to go through · 10 taken");
        for (var i = 0; i < 5; i++)
            Key("d", $"the next after refusing {i + 1}");
        var putOff = Words;
        Key("h", "the next after putting one off");
        writer.Sees("85 to go through · 10 taken · 5 refused · 1 put off");
        // Other words, kept before it is taken.
        writer.Keys("e");
        var field = writer.Field("The idea in your words");
        field.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        field.SendKeys("Loaves, counted at the far bank" + OpenQA.Selenium.Keys.Enter);
        writer.Until(() => Words == "Loaves, counted at the far bank", "the new words");
        // Several at once.
        writer.Keys("x");
        writer.Keys(OpenQA.Selenium.Keys.ArrowDown);
        writer.Keys("x");
        writer.Sees("2 chosen");
        writer.Keys("k");
        writer.Sees("Taken as 2 slips.");
        writer.UndoOf("Taken as 2 slips.");
        writer.Sees("85 to go through");
        // A sitting stops and goes on: what was sorted stays so, and what was put off comes last in its topic.
        writer.Open("/bench/ideas");
        writer.Sees("85 to go through");
        writer.Sees("Loaves, counted at the far bank");
        writer.Finds(By.XPath($"//li[contains(., '{putOff.Split('\'', '’', '“', '”')[0]}') and contains(., 'put off')]"));
        // Asked again, nothing of what was sorted comes again.
        writer.Press("Ask");
        writer.Sees("105 to go through");
        writer.Until(() => writer.Driver.FindElements(By.XPath("//button[.='Loaves, counted at the far bank']")).Count == 1, "it once");
    }

    [Fact]
    public void One_is_taken_and_started_and_what_can_not_be_asked_is_said()
    {
        writer.Open("/bench");
        writer.TakeBackDemoIdeas();
        writer.Open("/bench/ideas?topic=1");
        writer.Finds(By.CssSelector("[aria-label=Topics] [aria-pressed=true]")).Text.ShouldBe("ferries");
        // A seed that is none is said, and stays to be put right.
        writer.Field("seed").SendKeys("0");
        writer.Press("Ask");
        writer.Sees("The seed is a number from 1 to 2147483647.");
        writer.Fill(writer.Field("seed"), "7");
        writer.Press("Ask");
        writer.Sees("with the seed 7");
        writer.Sees("20 to go through");
        writer.Finds(By.CssSelector("section[aria-label='ferries']"));
        // Words that are typed stay over a reload until they are kept; too many are said, and nothing is cut.
        const string Typed = "Who was left on the far bank, and for how long?";
        writer.Keys("e");
        var field = writer.Field("The idea in your words");
        field.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        field.SendKeys(Typed);
        writer.Open("/bench/ideas?topic=1");
        writer.Press("go on with your words, not kept yet");
        field = writer.Field("The idea in your words");
        field.GetDomProperty("value").ShouldBe(Typed);
        field.SendKeys(OpenQA.Selenium.Keys.End + new string('y', 1_000) + OpenQA.Selenium.Keys.Enter);
        writer.Sees("The text is longer than 1,000 characters.");
        field.GetDomProperty("value")!.Length.ShouldBe(Typed.Length + 1_000);
        field.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        field.SendKeys(Typed + OpenQA.Selenium.Keys.Enter);
        writer.Until(() => Words == Typed, "the words that were typed");
        var words = Words;
        writer.Keys("s");
        writer.Sees("is begun.");
        writer.Until(() => writer.Finds(By.CssSelector("main")).Text.Contains(words.Split('?', ',', ':')[0]), "the piece with its slip");
        writer.Open("/bench/ideas");
        writer.Sees("19 to go through");
    }

    [Fact]
    public void An_angle_is_worded_anew_held_over_a_reload_and_used()
    {
        writer.Open("/bench/ideas/angles");
        var wording = writer.Field("Wording of “who lost”");
        wording.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        wording.SendKeys("Who paid for {{ weather }}");
        writer.Sees("What you changed is not kept yet.");
        writer.Open("/bench/ideas/angles");
        writer.Press("Keep the angles");
        writer.Sees("There is no fill-in “weather”. There are: term, any, word, topic.");
        wording = writer.Field("Wording of “who lost”");
        wording.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        wording.SendKeys("Who paid for {{ term }} " + new string('y', 400));
        writer.Press("Keep the angles");
        writer.Sees("The wording is longer than 400 characters.");
        wording = writer.Field("Wording of “who lost”");
        wording.GetDomProperty("value")!.Length.ShouldBe(424);
        wording.SendKeys(OpenQA.Selenium.Keys.Control + "a");
        wording.SendKeys("Who paid for {{ term }} in the end");
        writer.Press("Keep the angles");
        writer.Sees("The angles are kept.");
        writer.Press("to the ideas");
        writer.Press("How many ideas");
        writer.Press("100 ideas");
        writer.Press("Ask");
        writer.Sees("200 to go through");
        // The first of those that came is looked at, though the demo's hundred stand before it.
        var newest = JsonNode
            .Parse(writer.Server("/api/ideas"))!
            .AsArray()
            .Select(one => one!["number"]!.GetValue<int>())
            .Order()
            .Skip(100);
        var looked = JsonNode
            .Parse(writer.Server("/api/ideas"))!
            .AsArray()
            .Where(one => one!["idea"]!["text"]!.GetValue<string>() == Words)
            .Select(one => one!["number"]!.GetValue<int>());
        newest.ShouldContain(looked.Single());
        writer.Finds(By.XPath("//button[starts-with(., 'Who paid for') and contains(., 'in the end')]"));
        writer.Open("/bench/ideas/angles");
        writer.Press("bring the ready ones back");
        writer.Sees("The angles papers begin with are back.");
        writer.Until(() => writer.Field("Wording of “who lost”").GetAttribute("value") == "Who lost by {{ term }}", "the ready wording");
    }
}
