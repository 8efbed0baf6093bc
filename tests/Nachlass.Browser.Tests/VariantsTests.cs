using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Titles and openings that a piece offers of its own words.</summary>
public sealed class VariantsTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public VariantsTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Titles_and_openings_are_offered_from_a_pieces_own_words_and_none_goes_into_the_draft()
    {
        writer.Open("/bench/4/before");
        var draft = writer.Server("/api/pieces/4/draft");
        writer.Press("from its own words", writer.Part("Titles"));
        var titles = writer.Part("Titles from its own words");
        titles.Text.ShouldContain("in quotation marks", Case.Insensitive);
        // Its length and where it would be cut off stand with it.
        titles.Text.ShouldContain("cut off in a mail on a phone");
        var first = titles.FindElement(By.CssSelector("li p")).Text;
        writer.Press($"Lay beside: {first}");
        writer.Sees("Title laid beside.");
        writer.Finds(By.CssSelector($"article[aria-label={System.Text.Json.JsonSerializer.Serialize($"Title: {first}")}]"));
        // What lies beside is not offered again.
        writer.Until(() => !writer.Part("Titles from its own words").Text.Contains(first), "it to be gone from those offered");
        writer.UndoOf("Title laid beside.");
        writer.Until(() => writer.Part("Titles from its own words").Text.Contains(first), "it back among those offered");

        writer.Press("from its own words", writer.Part("Openings"));
        writer.Until(() => writer.Part("Openings").Text.Contains("with a question", StringComparison.OrdinalIgnoreCase), "the openings");
        var opening = writer.Part("Openings").FindElement(By.CssSelector("li p")).Text;
        writer.Press($"To the heap: {opening}");
        writer.Sees("It lies on the heap");
        writer.Until(() => writer.Server("/api/pieces/4/brief").Contains(opening[..20]), "it on the heap");
        writer.Server("/api/pieces/4/draft").ShouldBe(draft);
    }
}
