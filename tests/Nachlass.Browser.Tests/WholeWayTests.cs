using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>From a caught idea to a finished file, on empty papers.</summary>
public sealed class WholeWayTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public WholeWayTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_caught_line_becomes_a_finished_file()
    {
        writer.Open("/");
        writer.IsAt("/desk");
        writer.Sees("This is today’s sheet, and it is empty");

        // Caught from anywhere, without leaving.
        writer.Keys("c");
        writer.Keys("What a crossing cost when coin was no use #tolls");
        writer.Sees("idea");
        writer.Keys(Keys.Enter);
        writer.Sees("Slip 1 caught.");
        writer.IsAt("/desk");
        writer.Sees("What a crossing cost when coin was no use");

        // Sifted: it starts a piece.
        writer.Keys("g", "s");
        writer.Sees("1\nwaiting");
        writer.Keys("s");
        writer.Sees("Started P 1");
        writer.Sees("All settled: 1 today");

        // Written: outline and draft are one.
        writer.Keys("g", "b");
        writer.Press("What a crossing cost when coin was no use");
        writer.Fill(writer.Field("Title of section 1"), "At the stage");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Draft.Text.Contains("At the stage", StringComparison.Ordinal), "the new heading in the draft");
        writer.Press("Go to section 1 in the draft");
        writer.Keys("On flood days the ferrymen of Ostrey were paid in bread.");
        writer.Until(() => writer.Part("Section 1").Text.Contains("11/250", StringComparison.Ordinal), "eleven words in the outline");
        writer.Sees("saved");

        // Out.
        writer.Press("Take out");
        writer.Press("Download Markdown");
        writer.Downloaded("*.md").ShouldBe("# What a crossing cost when coin was no use\n\n## At the stage\n\nOn flood days the ferrymen of Ostrey were paid in bread.\n");
        writer.Complaints().ShouldBeEmpty();
    }
}
