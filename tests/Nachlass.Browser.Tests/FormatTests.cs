using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Formats of the writer's own, and pieces that go through them.</summary>
public sealed class FormatTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public FormatTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_format_is_made_from_nothing_and_a_piece_of_it_goes_to_its_final_stage()
    {
        writer.Open("/bench/formats");
        writer.Press("New format");
        writer.IsAt("/bench/formats/a_new_format");
        writer.Fill(writer.Field("Name of the format"), "Walk");
        writer.Fill(writer.Field("Stage 1"), "Scout");
        writer.Fill(writer.Field("Stage 2"), "Walk it");
        writer.Press("Take stage Ready away");
        writer.Fill(writer.Field("Stage 3"), "Sent");
        writer.Fill(writer.Field("Usual hours at Scout"), "2,5");
        writer.Fill(writer.Field("Section 1"), "The gate");
        writer.Press("add a step of Scout");
        writer.Fill(writer.Field("Step 1 of Scout"), "Ask the farmer");
        writer.Press("add a step of Walk it");
        writer.Fill(writer.Field("Step 1 of Walk it"), "Take water");
        writer.Press("add a field");
        writer.Fill(writer.Field("Field 1"), "Miles");
        writer.Finds(By.CssSelector("[aria-label='What field 1 holds'] option[value=number]")).Click();
        writer.Press("add a side text");
        writer.Fill(writer.Field("Side text 1"), "How to get there");
        writer.Fill(writer.Field("Limit of side text 1"), "20");
        // What was typed is there again after a reload, and only then kept.
        writer.Driver.Navigate().Refresh();
        writer.Value("Name of the format").ShouldBe("Walk");
        writer.Press("Keep this format");
        writer.Sees("Walk is kept.");
        writer.Server("/api/formats/a_new_format").ShouldContain("\"hours\":[2.5,0,0]");

        writer.Open("/bench");
        writer.Press("Start a piece");
        writer.Fill(writer.Field("Title"), "Along the weir");
        writer.Finds(By.CssSelector("input[value=a_new_format]")).Click();
        writer.Press("Start", writer.Part("Start a piece"));
        writer.Until(() => writer.Driver.Url.EndsWith("/bench/1", StringComparison.Ordinal), "the piece");
        writer.Press("Steps", writer.Part("Parts of the piece"));
        writer.Part("Parts of the piece").Text.ShouldContain("0 of 2");
        writer.Part("Steps of Scout").Text.ShouldContain("1 to do");
        // On without having done it: that is said and not forbidden.
        writer.Finds(By.XPath("//*[@role='radio'][contains(., 'Walk it')]")).Click();
        writer.Sees("One step of Scout is left open.");
        writer.Part("Steps of Scout").Text.ShouldContain("1 left open");
        writer.Field("Ask the farmer").Click();
        writer.Sees("Done.");
        writer.Until(() => writer.Part("Steps of Scout").Text.Contains("all done", StringComparison.Ordinal), "the step to be done");
        writer.UndoOf("Done.");
        writer.Until(() => writer.Part("Steps of Scout").Text.Contains("1 left open", StringComparison.Ordinal), "the step to be open");
        // A step gets a day and is a move; one of the piece's own is added.
        writer.Press("put a day to it", writer.Part("Steps of Walk it"));
        var day = writer.Field("Due date of Take water");
        day.SendKeys("tomorrow" + Keys.Enter);
        writer.Sees("It is a move now.");
        writer.Fill(writer.Field("Another step of Walk it"), "Shut the gates");
        writer.Press("Add", writer.Part("Steps of Walk it"));
        writer.Sees("Shut the gates");

        writer.Press("Beside it", writer.Part("Parts of the piece"));
        writer.Fill(writer.Field("Miles"), "far");
        writer.Field("Miles").SendKeys(Keys.Enter);
        writer.Sees("Miles is a number; “far” is not.");
        writer.Fill(writer.Field("Miles"), "4,5");
        writer.Field("Miles").SendKeys(Keys.Enter);
        writer.Sees("Miles is set.");
        writer.Fill(writer.Field("How to get there"), "By the bus that goes at nine.");
        writer.Field("Miles").Click();
        writer.Sees("29 of 20 characters");
        writer.Driver.Navigate().Refresh();
        writer.Sees("29 of 20 characters");
        writer.Value("Miles").ShouldBe("4.5");

        writer.Finds(By.XPath("//*[@role='radio'][contains(., 'Sent')]")).Click();
        writer.Until(
            () =>
            {
                var go = writer.Driver.FindElements(By.XPath("//button[contains(., 'It is out') or contains(., 'as it is')]"));
                if (go.Count > 0)
                    go[0].Click();
                return writer.Server("/api/pieces/1").Contains("\"outOn\":\"", StringComparison.Ordinal);
            },
            "the piece to be out"
        );
        writer.Open("/library?query=" + Uri.EscapeDataString("in:pieces field:miles>4 stage:sent"));
        writer.Sees("Along the weir");
    }

    [Fact]
    public void A_stage_that_goes_asks_where_its_pieces_go_and_a_mistake_shows_its_place()
    {
        writer.Send("/api/pieces", new { title = "The bell", format = "letter" });
        writer.Open("/bench/formats/letter");
        writer.Part("Tried on a piece").Text.ShouldContain("Letter 1: The bell");
        // The pattern stands there as words, put in from a list.
        writer.Part("Title").Text.ShouldContain("its running number");
        writer.Press("as it is written", writer.Part("Text it begins with"));
        writer.Fill(writer.Field("Text it begins with"), "On {{ weekday }}\nby {{ nobody }}");
        writer.Until(() => writer.Part("Tried on a piece").Text.Contains("line 2", StringComparison.Ordinal), "the place of the mistake");
        writer.Part("Tried on a piece").Text.ShouldContain("There is no fill-in “nobody”");
        writer.Press("Keep this format");
        writer.Sees("What you changed is still here.");
        writer.Fill(writer.Field("Text it begins with"), "On {{ weekday }}");
        writer.Press("Take stage Gather away");
        writer.Press("Keep this format");
        writer.Sees("Pieces stand at a stage that will be gone.");
        writer.Press("Move them and keep the format");
        writer.Sees("Letter is kept.");
        writer.Server("/api/pieces/1").ShouldContain("\"stage\":\"Outline\"");
        writer.UndoOf("Letter is kept.");
        writer.Until(
            () => writer.Server("/api/pieces/1").Contains("\"stage\":\"Gather\"", StringComparison.Ordinal),
            "the stage to be back"
        );
        // Put away it is offered no more; out as a file and in again as a copy's twin.
        writer.Open("/bench/formats");
        writer.Press("put away");
        writer.Sees("Essay is put away.");
        writer.Open("/bench");
        writer.Press("Start a piece");
        writer.Part("Start a piece").Text.ShouldNotContain("Essay");
    }
}
